"""What the window does with files: new, open, save, reports, and work that a killed program left."""

from abc import abstractmethod
from contextlib import suppress
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QMainWindow, QMessageBox

from wired_union.app.file_desk import FileDesk
from wired_union.catalogue.demo import demo
from wired_union.project.errors import BrokenFile, FileError
from wired_union.project.file import ENDING, load
from wired_union.project.fresh import new_project
from wired_union.project.journal import Unsaved, find_unsaved
from wired_union.project.model import Project, Stock
from wired_union.ui import ask
from wired_union.ui.places import Places
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme

SHEETS = "Sheets (*.xlsx *.csv);;All files (*)"
FILTER = f"Wired Union projects (*{ENDING});;All files (*)"


class FileWork(QMainWindow):
    """The half of the window that asks about files. The other half shows what it holds."""

    store: Store | None
    files: FileDesk
    places: Places
    stage: str
    theme: Theme

    @abstractmethod
    def hold(self, project: Project, path: Path | None, *, saved: bool = True, sentence: str = "opened") -> None:
        """Show a project in this window."""

    @abstractmethod
    def today(self) -> str:
        """The date for documents."""

    @abstractmethod
    def say(self, text: str) -> None:
        """Say something on the line above the strip."""

    def new(self) -> None:
        if not self.may_leave():
            return
        name, ok = ask.word(self, "New project", "What are you building?")
        if ok:
            self.stage = "brief"
            self.hold(new_project(name), None, saved=False, sentence="start from nothing")

    def open_demo(self, name: str = "mudlark") -> None:
        if self.may_leave():
            self.hold(demo(name), None)

    def open(self) -> None:
        text, _ = QFileDialog.getOpenFileName(self, "Open a project", self._folder(), FILTER)
        if text:
            self.open_path(Path(text))

    def open_path(self, path: Path) -> None:
        """Open a file; a broken one is explained and its last good version offered, an open one becomes a copy."""
        if not self.may_leave():
            return
        path = path.absolute()
        try:
            project = load(path)
        except BrokenFile as error:
            self._offer_last_good(error)
            return
        except FileError as error:
            QMessageBox.warning(self, "Cannot open", str(error))
            return
        if self.files.taken_elsewhere(path):
            QMessageBox.information(
                self, "Open elsewhere",
                f"{path} is open in another window. This window holds a copy; save it under another name.",
            )  # fmt: skip
            self.hold(project, None, saved=False)
            return
        self.hold(project, path)

    def _offer_last_good(self, error: BrokenFile) -> None:
        if error.last_good is None:
            QMessageBox.warning(self, "Cannot open", str(error))
            return
        answer = QMessageBox.question(
            self, "Cannot open", f"{error}\n\nOpen the last good version instead? It opens as an unsaved copy.",
        )  # fmt: skip
        if answer == QMessageBox.StandardButton.Yes:
            self.hold(load(error.last_good), None, saved=False)

    def save(self) -> bool:
        if self.store is None:
            return True
        path = self.files.path
        if path is None:
            return self.save_as()
        if self.files.changed_elsewhere(path) and not self._may_replace(
            path, f"{path.name} was changed by another program since it was opened here. Replace it with this window's"
            " version? The other one is kept beside it, as the version before.",
        ):  # fmt: skip
            return False
        return self.files.save(path)

    def _may_replace(self, path: Path, question: str) -> bool:
        buttons = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self, f"Replace {path.name}?", question, buttons.Yes | buttons.Cancel, buttons.Cancel
        )
        return answer == buttons.Yes

    def save_as(self) -> bool:
        if self.store is None:
            return True
        usual = str(Path(self._folder()) / f"{self.store.project.name.lower().replace(' ', '-')}{ENDING}")
        text, _ = QFileDialog.getSaveFileName(self, "Save the project", usual, FILTER)
        if not text:
            return False
        path = Path(text)
        if not path.name.endswith(".json"):
            path = path.with_name(path.name + ENDING)
            if path.exists() and not self._may_replace(path, f"{path} is there already. Replace it?"):
                return False
        return self.files.save(path)

    def write_report(self) -> None:
        from wired_union.project.documents import DocumentError
        from wired_union.report.write import write_report

        if self.store is None:
            return
        usual = str(Path(self._folder()) / f"{self.store.project.name.lower().replace(' ', '-')}-report.pdf")
        text, _ = QFileDialog.getSaveFileName(self, "Write the report", usual, "PDF (*.pdf);;HTML (*.html)")
        if not text:
            return
        try:
            write_report(self.store.assessment, Path(text), self.today())
        except DocumentError as error:
            QMessageBox.warning(self, "Report", str(error))
            return
        self.say(f"The report is in {text}.")

    def write_parts(self) -> None:
        from wired_union.catalogue.sheet_files import write_parts
        from wired_union.project.documents import DocumentError

        if self.store is None:
            return
        usual = str(Path(self._folder()) / "parts.xlsx")
        text, _ = QFileDialog.getSaveFileName(self, "Write the parts list", usual, "XLSX (*.xlsx);;CSV (*.csv)")
        if not text:
            return
        try:
            write_parts(self.store.project, Path(text))
        except DocumentError as error:
            QMessageBox.warning(self, "Parts list", str(error))

    def import_parts(self) -> None:
        """Read a sheet of parts, show what is wrong with each row, and add the good ones."""
        text, _ = QFileDialog.getOpenFileName(self, "Import parts", self._folder(), SHEETS)
        if text:
            self.import_sheet(Path(text))

    def import_sheet(self, path: Path) -> None:
        from wired_union.app.dialogs.import_parts import ImportParts
        from wired_union.catalogue.library import Library

        if self.store is not None:
            ImportParts(path, self.store, Library(self.places.library), self.theme, self).exec()

    def export_parts(self) -> None:
        """Write the catalogue, with the shelf's own parts and counts, as a sheet that can be imported."""
        from wired_union.catalogue.parts import catalogue
        from wired_union.catalogue.sheet_files import write_sheet
        from wired_union.project.documents import DocumentError

        if self.store is None:
            return
        text, _ = QFileDialog.getSaveFileName(
            self, "Export parts", str(Path(self._folder()) / "catalogue.xlsx"), SHEETS
        )
        if not text:
            return
        shelf = {s.part.id: s for s in self.store.project.shelf}
        general = [shelf.pop(p.id, Stock(part=p)) for p in catalogue()]
        try:
            write_sheet([*general, *shelf.values()], Path(text))
        except DocumentError as error:
            QMessageBox.warning(self, "Export parts", str(error))

    def _folder(self) -> str:
        return str(self.files.path.parent if self.files.path else Path.home())

    def offer_recovery(self) -> None:
        """Offer what a killed program left: what was in it, and whether to take it up."""
        for left in find_unsaved(self.places.journals):
            answer = self._ask_recovery(left)
            if answer == QMessageBox.StandardButton.Yes:
                self.hold(left.project, None, saved=False, sentence="recovered")
                if left.file is not None and not self.files.taken_elsewhere(left.file):
                    self.files.adopt(self.store, left.file)  # type: ignore[arg-type]
                if self.files.keep():  # only now is the work kept elsewhere
                    _forget(left.journal)
                return
            if answer == QMessageBox.StandardButton.Discard:
                _forget(left.journal)

    def _ask_recovery(self, left: Unsaved) -> QMessageBox.StandardButton:
        shown = "\n".join(f"  · {e}" for e in left.edits[-6:]) or "  · a project that was never saved"
        file = f" of {left.file.name}" if left.file else ""
        newer = f"\n\n{left.file.name} itself was written after that: compare before you save." if (
            left.file and left.file_is_newer) else ""  # fmt: skip
        box = QMessageBox(self)
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
        if self.store is None or not self.store.unsaved:
            return True
        buttons = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self, "Unsaved changes", f"{self.store.project.name} has unsaved changes. Save them first?",
            buttons.Save | buttons.Discard | buttons.Cancel, buttons.Save,
        )  # fmt: skip
        if answer == buttons.Save:
            return self.save()
        return answer == buttons.Discard


def _forget(journal: Path) -> None:
    """Take a journal away; one that cannot be is offered again next time, which loses nothing."""
    with suppress(OSError):
        journal.unlink(missing_ok=True)
