"""The panel of the Notebook: a new entry, an entry, a fault, versions compared, a merge; one of them at a time."""

from functools import partial

from PyQt6.QtWidgets import QPlainTextEdit

from wired_union.kernel.merge_pick import MergePick
from wired_union.project.dates import checked_day
from wired_union.project.errors import ProjectError
from wired_union.project.notebook_edits import write_entry
from wired_union.project.notebook_model import Photo
from wired_union.subjects.notebook import edits, knots
from wired_union.subjects.notebook.pick import NotePick
from wired_union.subjects.notebook.view_entry import show_entry
from wired_union.subjects.notebook.view_fault import show_fault
from wired_union.subjects.notebook.view_hand import PanelHand
from wired_union.subjects.notebook.view_merge import MergePanel
from wired_union.subjects.notebook.view_versions import VersionsPanel
from wired_union.ui import ask
from wired_union.ui.fields import EntryField, Form, button, label
from wired_union.ui.view import View, row

PICTURES = "Pictures (*.png *.jpg *.jpeg);;All files (*)"
MOST_FAULTS = 6


class NotePanel(PanelHand):
    """Fills the panel."""

    def __init__(self, view: View) -> None:
        super().__init__(view)
        self.versions = VersionsPanel(self)
        self.merging = MergePanel(self)
        self._draft = self._day = ""
        self._photos: tuple[Photo, ...] = ()
        self._shown: tuple[object, ...] | None = None
        self._turn = 0
        """counts what was written and what pictures came, each of which shows anew"""

    def show(self) -> None:
        """What is selected; where nothing is, a new entry, which stays as it is while nothing of it changes."""
        shown = self._new_entry_shows()
        if shown is not None and shown == self._shown:
            return
        self._shown = shown
        if (text := self.fields.get("text")) is not None:
            self._draft = text.toPlainText()
        self.view.panel.clear()
        self.fields = {}
        picked, project = self.store.picked(NotePick), self.store.project
        entry = next((e for e in project.notebook if e.id and e.id == picked.entry), None)
        fault = next((d for d in project.defects if d.id == picked.fault), None)
        if self.store.picked(MergePick).theirs is not None:
            self.merging.show()
        elif entry is not None:
            show_entry(self, entry)
        elif fault is not None:
            show_fault(self, fault)
        elif picked.versions:
            self.versions.show(picked.versions)
        else:
            self._new_entry()
            self._faults()
            self._settings()
        self.view.panel.column.addStretch(1)

    # a new entry

    def _new_entry_shows(self) -> tuple[object, ...] | None:
        """What a new entry shows of the project; None where something else is selected."""
        project = self.store.project
        if self.store.picked(MergePick).theirs is not None or self.store.picked(NotePick) != NotePick():
            return None
        return (project.defects, project.keeps_history, self.desk.hand(), self._turn)

    def _new_entry(self) -> None:
        self.add(label("New entry", "title"))
        text = QPlainTextEdit(self._draft)
        text.setAccessibleName("New entry")
        text.setPlaceholderText("What did you see, decide, try?")
        text.setTabChangesFocus(True)
        text.setFixedHeight(self.theme.px(92))
        self.fields["text"] = text
        pictures = "".join(f"\n{p.caption}" for p in self._photos)
        self.add(text)
        if pictures:
            self.add(label(f"With {len(self._photos)} picture{'s' if len(self._photos) > 1 else ''}:{pictures}", "mute",
                           wrap=True))  # fmt: skip
        self.fields["keep"] = button("Keep it", self._keep, kind="main")
        self.add(row(self.fields["keep"], button("Add a picture", self._add_picture)))
        hand = EntryField(str.strip, "I am")
        hand.show_text(self.desk.hand(), "your name")
        hand.committed.connect(self.desk.i_am)
        self.fields["hand"] = hand
        day = EntryField(checked_day, "On the day")
        day.show_text(self._day, self.desk.today())
        day.committed.connect(self._for_day)
        self.fields["day"] = day
        form = Form(self.theme)
        form.add("on the day", day, "Of this entry, where it was not today")
        form.add("I am", hand, "Stands beside every entry that is written here from now on")
        self.add(form)

    def _keep(self) -> None:
        text = self.fields["text"].toPlainText()
        day = self._day or self.desk.today()
        done = self.store.attempt(write_entry, day, self.desk.hand(), text, self._photos)
        if done:
            self._draft, self._photos, self._day = "", (), ""
            self.fields.pop("text", None)
            self._turn += 1
            self.show()

    def _for_day(self, day: str) -> None:
        self._day = day

    def _add_picture(self) -> None:
        self._draft = self.fields["text"].toPlainText()
        if self.choose_photos(self._take_photos):
            self.fields["keep"].setEnabled(False)  # until they are there, so that they go with what is being written

    def _take_photos(self, found: list[Photo]) -> None:
        known = {p.digest for p in self._photos}
        self._photos = (*self._photos, *(p for p in found if p.digest not in known))
        self._turn += 1
        self.show()

    # faults, versions, what the file keeps

    def _faults(self) -> None:
        defects = self.store.project.defects
        open_first = sorted(defects, key=lambda d: bool(d.closed_on))
        self.add(label("Faults", "heading"))
        if not defects:
            self.add(label("None found yet.", "mute", wrap=True))
        for fault in open_first[:MOST_FAULTS]:
            state = "closed" if fault.closed_on else "open"
            self.add(button(f"{fault.name}: {state}", partial(self.store.pick, NotePick(fault=fault.id)), kind="link"))
        if len(defects) > MOST_FAULTS:
            self.add(label(f"and {len(defects) - MOST_FAULTS} more, in the report", "mute"))
        self.add(row(button("+ a fault", self._add_fault, kind="link", tip="What happens that should not")))

    def _add_fault(self) -> None:
        name, meant = ask.word(self.view, "A fault", "What happens that should not? “Program stops in the mud”")
        if meant and self.store.attempt(edits.add_fault, name, self.desk.today(), self.desk.hand()):
            self.store.pick(NotePick(fault=self.store.project.defects[-1].id))

    def _settings(self) -> None:
        kept = self.store.project.keeps_history
        self.add(label("The way back", "heading"))
        said = "Kept with the file: a project opened again can still be undone." if kept else (
            "Undo reaches back to where this file was opened. It can be kept with the file.")  # fmt: skip
        self.add(label(said, "mute", wrap=True))
        word = "keep it no longer" if kept else "keep it with the file"
        self.add(row(button(word, partial(self.store.attempt, edits.keep_history, not kept), kind="link")))

    def tie(self) -> None:
        """Ask for a name, and keep the project as it is."""
        project = self.store.project
        question = "What is it called, and what is it? The name first, then a colon: “A3: bit 32 mm”."
        text, meant = ask.word(self.view, "Tie a knot", question, text=f"{knots.next_name(project)}: ")
        if meant:
            self.tie_as(text)

    def tie_as(self, text: str) -> bool:
        """Tie a knot by what was typed; whether it is tied."""
        project = self.store.project
        name, _, about = text.partition(":")
        parent, before = knots.parent_of(project), None
        kept = self.desk.kept()
        try:
            if parent is not None:
                before = kept.project(parent)
        except ProjectError:
            before = None  # it is not here: what changed since is not told, and the knot is tied all the same
        try:
            digest = kept.put_project(project)
        except ProjectError as error:
            self.store.refused.emit(str(error))
            return False
        return self.store.attempt(
            lambda _: knots.tie_knot(self.store.assessment, name, about, self.desk.today(), self.desk.hand(), digest,
                                     before)
        )  # fmt: skip
