"""Projects and their files: new, open, save, and work that a killed program left."""

from contextlib import suppress
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QMessageBox

from wired_union.app.host import Host
from wired_union.catalogue.demo import demo
from wired_union.catalogue.starts import STARTS, start
from wired_union.project.errors import BrokenFile, FileError
from wired_union.project.file import ENDING, load
from wired_union.project.fresh import new_project
from wired_union.project.journal import Unsaved, find_unsaved
from wired_union.ui import ask

FILTER = f"Wired Union projects (*{ENDING});;All files (*)"


class ProjectFiles:
    """Asks about files, and hands the window what to show."""

    def __init__(self, host: Host) -> None:
        self._host = host

    def new(self) -> None:
        host = self._host
        if not self.may_leave():
            return
        name, ok = ask.word(host.widget, "New project", "What are you building?")
        if ok:
            host.stage = "brief"
            host.hold(new_project(name), None, saved=False, sentence="start from nothing")

    def open_demo(self, name: str = "mudlark") -> None:
        if self.may_leave():
            self._host.hold(demo(name, self._host.today()), None)

    def begin(self, name: str) -> None:
        """Begin with one of the starts: a project of its own, in no file yet."""
        if self.may_leave():
            self._host.stage = "brief"
            self._host.hold(start(name), None, saved=False, sentence=f"begin with {STARTS[name]}")

    def open(self) -> None:
        host = self._host
        text, _ = QFileDialog.getOpenFileName(host.widget, "Open a project", folder_of(host), FILTER)
        if text:
            self.open_path(Path(text))

    def open_path(self, path: Path) -> None:
        """Open a file; a broken one is explained and its last good version offered, an open one becomes a copy."""
        host = self._host
        if not self.may_leave():
            return
        path = path.absolute()
        try:
            project = load(path)
        except BrokenFile as error:
            self._offer_last_good(error)
            return
        except FileError as error:
            QMessageBox.warning(host.widget, "Cannot open", str(error))
            return
        if host.files.taken_elsewhere(path):
            QMessageBox.information(
                host.widget, "Open elsewhere",
                f"{path} is open in another window. This window holds a copy; save it under another name.",
            )  # fmt: skip
            host.hold(project, None, saved=False)
            return
        host.hold(project, path)

    def _offer_last_good(self, error: BrokenFile) -> None:
        host = self._host
        if error.last_good is None:
            QMessageBox.warning(host.widget, "Cannot open", str(error))
            return
        answer = QMessageBox.question(
            host.widget, "Cannot open",
            f"{error}\n\nOpen the last good version instead? It opens as an unsaved copy.",
        )  # fmt: skip
        if answer == QMessageBox.StandardButton.Yes:
            host.hold(load(error.last_good), None, saved=False)

    def save(self) -> bool:
        host = self._host
        if host.store is None:
            return True
        path = host.files.path
        if path is None:
            return self.save_as()
        if host.files.changed_elsewhere(path) and not self._may_replace(
            path, f"{path.name} was changed by another program since it was opened here. Replace it with this window's"
            " version? The other one is kept beside it, as the version before."
            " Cancel, and the line below offers to merge.",
        ):  # fmt: skip
            host.files.changed_outside.emit()
            return False
        return host.files.save(path)

    def _may_replace(self, path: Path, question: str) -> bool:
        buttons = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self._host.widget, f"Replace {path.name}?", question, buttons.Yes | buttons.Cancel, buttons.Cancel
        )
        return answer == buttons.Yes

    def save_as(self) -> bool:
        host = self._host
        if host.store is None:
            return True
        usual = str(Path(folder_of(host)) / f"{host.store.project.name.lower().replace(' ', '-')}{ENDING}")
        text, _ = QFileDialog.getSaveFileName(host.widget, "Save the project", usual, FILTER)
        if not text:
            return False
        path = Path(text)
        if not path.name.endswith(".json"):
            path = path.with_name(path.name + ENDING)
            if path.exists() and not self._may_replace(path, f"{path} is there already. Replace it?"):
                return False
        return host.files.save(path)

    def offer_recovery(self) -> None:
        """Offer what a killed program left: what was in it, and whether to take it up."""
        host = self._host
        for left in find_unsaved(host.places.journals):
            answer = self._ask_recovery(left)
            if answer == QMessageBox.StandardButton.Yes:
                host.hold(left.project, None, saved=False, sentence="recovered")
                if left.file is not None and not host.files.taken_elsewhere(left.file):
                    host.files.adopt(host.store, left.file)  # type: ignore[arg-type]
                if host.files.keep():  # only now is the work kept elsewhere
                    _forget(left.journal)
                return
            if answer == QMessageBox.StandardButton.Discard:
                _forget(left.journal)

    def _ask_recovery(self, left: Unsaved) -> "QMessageBox.StandardButton":
        shown = "\n".join(f"  · {e}" for e in left.edits[-6:]) or "  · a project that was never saved"
        file = f" of {left.file.name}" if left.file else ""
        newer = f"\n\n{left.file.name} itself was written after that: compare before you save." if (
            left.file and left.file_is_newer) else ""  # fmt: skip
        box = QMessageBox(self._host.widget)
        box.setWindowTitle("Unsaved work")
        box.setText(
            f"{left.project.name}: work{file} from {left.when.replace('T', ' ')} was not saved. In it:\n{shown}"
            f"{newer}\n\nTake it up again? Nothing is written to the file until you save."
        )
        buttons = QMessageBox.StandardButton
        box.setStandardButtons(buttons.Yes | buttons.Discard | buttons.Cancel)
        box.setDefaultButton(buttons.Yes)
        return QMessageBox.StandardButton(box.exec())

    def may_leave(self) -> bool:
        """Ask about unsaved work; whether to go on."""
        host = self._host
        if host.store is None or not host.store.unsaved:
            return True
        buttons = QMessageBox.StandardButton
        answer = QMessageBox.question(
            host.widget, "Unsaved changes", f"{host.store.project.name} has unsaved changes. Save them first?",
            buttons.Save | buttons.Discard | buttons.Cancel, buttons.Save,
        )  # fmt: skip
        if answer == buttons.Save:
            return self.save()
        return answer == buttons.Discard


def folder_of(host: Host) -> str:
    """Where a file dialog of a window starts."""
    return str(host.files.path.parent if host.files.path else Path.home())


def _forget(journal: Path) -> None:
    """Take a journal away; one that cannot be is offered again next time, which loses nothing."""
    with suppress(OSError):
        journal.unlink(missing_ok=True)
