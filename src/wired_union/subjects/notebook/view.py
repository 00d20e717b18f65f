"""Notebook: where the project came from, what happened and why, faults, and two members' files put together."""

from functools import partial
from pathlib import Path

from PyQt6.QtCore import QItemSelection
from PyQt6.QtWidgets import QFileDialog, QLineEdit

from wired_union.kernel.merge_pick import MergePick
from wired_union.project.errors import ProjectError
from wired_union.project.file import ENDING, load
from wired_union.subjects.notebook.merging import begin_merge
from wired_union.subjects.notebook.pick import NOW, NotePick
from wired_union.subjects.notebook.picture_ropes import ropes_picture
from wired_union.subjects.notebook.picture_trend import trend_picture
from wired_union.subjects.notebook.search import KINDS, found_entries
from wired_union.subjects.notebook.view_entries import EntryList
from wired_union.subjects.notebook.view_panel import NotePanel
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Choice, button, label
from wired_union.ui.view import Desk, View, card, row

NONE = "Nothing is written down yet. Every edit writes itself here with what it moved; say why on the line below."
NOT_FOUND = "No entry holds all of these words."
FILTER = f"Wired Union projects (*{ENDING});;All files (*)"
WHICH_FIRST = (
    "The two files have no version in common. Which came first: “ours”, “theirs”, or “neither” where both went on by"
    " themselves?"
)


class NotebookView(View):
    stage, title = "notebook", "Notebook"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self._marking = False
        self.ropes = Canvas(self.theme, name="Where it came from")
        self.ropes.chosen.connect(self._knot_chosen)
        self.trend = Canvas(self.theme, name="What each limit did from knot to knot")
        self.trend.chosen.connect(lambda of: desk.go_to_stage(str(of)))
        self.trend_button = button("what each limit did", self._toggle_trend, kind="link")
        acts = row(
            button("Tie a knot", self._tie, kind="main", tip="Keep the whole project as it is, under a name"),
            self.trend_button, button("Merge with a file …", self.merge, kind="link",
                                      tip="Another member's file, put together with this one by meaning"),
        )  # fmt: skip
        note = label("a knot is a version kept; click two to compare them", "mute")
        head = row(label("Where it came from", "heading"), note)
        self.column.addWidget(card(self.theme, head, self.ropes, self.trend, acts))
        self.trend.hide()
        self.details = NotePanel(self)
        self.thumbs = self.details.thumbs
        self._entries()

    def _entries(self) -> None:
        """What is looked for, and the entries that are found."""
        self.search = QLineEdit()
        self.search.setPlaceholderText("Search: all about the pack · why is it 100:1 · 2026-11")
        self.search.setAccessibleName("Search the notebook")
        self.search.textChanged.connect(lambda _: self._show_entries())
        self.search.setMinimumWidth(self.theme.px(260))
        self.kind = Choice([(k, k) for k in KINDS], "What is shown")
        self.kind.picked.connect(lambda _: self._show_entries())
        self.list = EntryList(self.theme, self.thumbs)
        self.none = label("", "mute", wrap=True)
        chosen = self.list.selectionModel()
        assert chosen is not None
        chosen.selectionChanged.connect(self._entry_chosen)
        self.column.addWidget(card(self.theme, row(self.search, self.kind), self.none, self.list), 1)

    def refresh(self) -> None:
        project, kit = self.store.project, self.theme.kit
        self._show_ropes()
        if self.trend.isVisibleTo(self):
            self.trend.show_layout(lambda w, h: trend_picture(self.store.assessment, kit, w))
        self.trend_button.setVisible(bool(project.versions))
        hands = {e.by for e in project.notebook if e.by}
        first = min((e.when for e in project.notebook), default="")
        since = f" since {first}" if first else ""
        count, versions = len(project.notebook), len(project.versions)
        self.subtitle.setText(
            f"{count} entr{'y' if count == 1 else 'ies'}{since} · {versions} version{'' if versions == 1 else 's'}"
            f" · {len(hands)} hand{'' if len(hands) == 1 else 's'}"
        )
        self.thumbs.forget()
        self._show_entries()
        self.details.show()

    def selection_moved(self) -> None:
        self._show_ropes()
        self._mark()
        self.details.show()

    def _show_ropes(self) -> None:
        project, picked = self.store.project, self.store.picked(NotePick)
        today, kit = self.desk.today(), self.theme.kit
        self.ropes.show_layout(lambda w, h: ropes_picture(project, today, kit, w, picked.versions))

    def _show_entries(self) -> None:
        project = self.store.project
        found = found_entries(project, self.search.text(), str(self.kind.currentData()))
        self._marking = True
        self.list.shown.show_entries(found, project.days_left_out)
        self._mark()
        self.none.setText("" if found else NOT_FOUND if project.notebook else NONE)
        self.none.setVisible(not found)

    def _mark(self) -> None:
        """Mark the entry that is selected, without taking that for a choice."""
        self._marking = True
        self.list.choose(self.store.picked(NotePick).entry)
        self._marking = False

    # what hands do

    def _entry_chosen(self, chosen: QItemSelection, _: QItemSelection) -> None:
        rows = [i.row() for i in chosen.indexes()]
        if rows and not self._marking:
            self.store.pick(NotePick(entry=self.list.shown.entries[rows[0]].id))

    def _knot_chosen(self, of: object) -> None:
        """The first click chooses a version, the next one compares it with another."""
        knot = str(of)
        known = {v.id for v in self.store.project.versions}
        if knot != NOW and knot not in known:
            return
        now = self.store.picked(NotePick).versions
        left = tuple(v for v in now if v != knot)
        self.store.pick(NotePick(versions=left if knot in now else (*left[-1:], knot)))

    def _toggle_trend(self) -> None:
        self.trend.setVisible(not self.trend.isVisibleTo(self))
        self.refresh()

    def _tie(self) -> None:
        self.details.tie()

    def merge(self) -> None:
        """Choose another member's file, find what both came from, and show what is to be chosen."""
        text, _ = QFileDialog.getOpenFileName(self, "Merge with another member's file", "", FILTER)
        if not text:
            return
        path = Path(text)
        try:
            theirs = load(path)
        except ProjectError as error:
            self.store.refused.emit(str(error))
            return
        asked = partial(ask.word, self, "Which came first?", WHICH_FIRST, text="neither")
        pick = begin_merge(self.store.project, theirs, path, self.desk.kept(), asked)
        if pick is not None:
            self.store.pick(NotePick(), pick)

    def begin(self, pick: MergePick) -> None:
        """Show a merge that somebody asked for elsewhere."""
        self.store.pick(NotePick(), pick)
