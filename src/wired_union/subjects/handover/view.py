"""Handover: what is missing, the case with its papers, the reports, everything in one archive."""

from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QCheckBox, QFileDialog, QGridLayout, QWidget

from wired_union.kernel.merge_pick import MergePick
from wired_union.kernel.report_kinds import EVERYTHING, KINDS
from wired_union.project.documents import DocumentError, write_bytes
from wired_union.project.kept import named
from wired_union.subjects.handover import edits
from wired_union.subjects.handover.pick import HandPick
from wired_union.subjects.handover.picture import REPORTS, case_picture, ready_picture
from wired_union.subjects.handover.ready import Compartment, compartments, readiness
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import EntryField, Form, button, label
from wired_union.ui.prose import Paragraph, Prose, muted
from wired_union.ui.view import Desk, View, card, row
from wired_union.ui.worker import Worker

COLUMNS = 3
FORMS = "PDF (*.pdf);;HTML (*.html)"


class HandoverView(View):
    stage, title = "handover", "Handover"
    heard = pyqtSignal(str)
    """what is being worked out, said by the work beside the window"""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.case = Canvas(self.theme, name="What is handed over")
        self.case.chosen.connect(lambda of: self.store.pick(of))
        self.said = label("", "mute", wrap=True)
        self.stop_button = button("stop", self._stop, kind="link")
        self.state = row(self.said, self.stop_button)
        self.state.hide()
        whole = partial(self.write, EVERYTHING)
        acts = row(button("Write everything …", whole, kind="main", tip="One ZIP with an index and hashes"))
        links = [button(f"{words} …", partial(self.write, kind), kind="link") for kind, words in KINDS.items()]
        more, first, second = QWidget(), row(*links[:2]), row(*links[2:])
        self.flow(first, second, wide=second, least=720.0, parent=more)
        heading = label("The case", "heading")
        self.column.addWidget(card(self.theme, heading, self.case, acts, more, self.state))
        self.ready = Canvas(self.theme, name="What is missing before it is handed over")
        self.column.addWidget(card(self.theme, label("Before it is handed over", "heading"), self.ready))
        self.sections = QWidget()
        self._grid = QGridLayout(self.sections)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self.standards = EntryField(str.strip, "Standards and rules that the team works to")
        self.standards.committed.connect(self._set_standards)
        form = Form(self.theme)
        form.add("works to", self.standards, "Standards and rules, between semicolons; they stand in the report")
        self.column.addWidget(card(self.theme, label("What the report tells", "heading"), self.sections, form))
        self.column.addStretch(1)
        self.boxes: dict[str, QCheckBox] = {}
        self.worker = Worker(self)
        self.worker.told.connect(self._made_it)
        self.worker.failed.connect(lambda _, text: self._over(f"Not written: {text}"))
        self.heard.connect(self._hear)
        self._path, self._telling = Path(), _Told(lambda _: None)

    def refresh(self) -> None:
        project, assessment, kit = self.store.project, self.store.assessment, self.theme.kit
        found = compartments(assessment)
        picked = self.store.picked(HandPick).compartment
        kept = sum(1 for _ in named(project))
        self.case.show_layout(lambda w, h: case_picture(found, len(KINDS), kept, kit, w, picked))
        lacks = readiness(assessment, merging=self.store.picked(MergePick).theirs is not None)
        self.ready.show_layout(lambda w, h: ready_picture(lacks.lacks, kit, w))
        count = len(lacks.left)
        papers = sum(len(c.papers) for c in found) + len(KINDS)
        self.subtitle.setText(
            f"{papers} papers · {count} thing{'' if count == 1 else 's'} not done yet" if count else f"{papers} papers"
        )
        self.standards.show_text("; ".join(project.standards), "none named")
        self._sections()
        self._panel(found)

    def _sections(self) -> None:
        """A box for each subject that has something to tell."""
        told = [s for s in self.store.assessment.subjects if s.section]
        out = self.store.project.sections_left_out
        for n, subject in enumerate(told):
            box = self.boxes.get(subject.id)
            if box is None:
                box = self.boxes[subject.id] = QCheckBox(subject.title)
                box.clicked.connect(partial(self._tell, subject.id, subject.title))
                self._grid.addWidget(box, n // COLUMNS, n % COLUMNS)
            box.setChecked(subject.id not in out)

    def _tell(self, subject: str, title: str, _: bool = False) -> None:
        self.store.attempt(edits.tell_section, subject, title)

    def _set_standards(self, text: str) -> None:
        self.store.attempt_or(self.standards.complain, edits.set_standards, text)

    # the panel

    def _panel(self, found: tuple[Compartment, ...]) -> None:
        self.panel.clear()
        picked = self.store.picked(HandPick).compartment
        compartment = next((c for c in found if c.id == picked), None)
        if picked == REPORTS:
            self.panel.column.addWidget(label("Reports", "title"))
            for kind, words in KINDS.items():
                self.panel.column.addWidget(button(f"{words} …", partial(self.write, kind), kind="link"))
        elif compartment is not None:
            self._papers(compartment)
        self._cautions()
        self.panel.column.addStretch(1)

    def _papers(self, compartment: Compartment) -> None:
        self.panel.column.addWidget(label(compartment.title, "title"))
        if not compartment.papers:
            self.panel.column.addWidget(label("Nothing to hand over yet.", "mute", wrap=True))
        for paper in compartment.papers:
            self.panel.column.addWidget(button(paper.name, partial(self._save, paper.name, paper.make), kind="link"))
            self.panel.column.addWidget(label(paper.about, "mute", wrap=True))

    def _save(self, name: str, make: Callable[[], bytes]) -> None:
        path = self._asked(Path(name).name, "")
        if path is None:
            return
        try:
            write_bytes(path, make())
        except (DocumentError, ValueError) as error:
            self._over(f"Not written: {error}")
            return
        self._over(f"{path} is written.")

    def _cautions(self) -> None:
        """Each caution with who has read it; reading it is said by a button."""
        cautions = self.store.assessment.cautions
        if not cautions:
            return
        self.panel.column.addWidget(label("Cautions to be read", "heading"))
        hand = EntryField(str.strip, "I am")
        hand.show_text(self.desk.hand(), "your name")
        hand.committed.connect(self.desk.i_am)
        form = Form(self.theme)
        form.add("I am", hand, "Who reads them")
        self.panel.column.addWidget(form)
        read = {s.caution: s for s in self.store.project.signatures}
        for c in cautions:
            signature = read.get(c.title)
            state = "read" if signature is not None else "not read"
            ink = "holds_text" if signature is not None else "unknown_text"
            who = f"{signature.by} {signature.on}".strip() if signature is not None else ""
            said = [Paragraph(c.title, "ink", bold=True, beside=state, beside_ink=ink), muted(c.text)]
            self.panel.column.addWidget(Prose(self.theme, [*said, *([muted(who)] if who else [])]))
            if signature is None:
                made = button("I have read it", partial(self._sign, c.title), kind="link")
                made.setAccessibleName(f"I have read: {c.title}")
            else:
                made = button("to be read again", partial(self.store.attempt, edits.unsign, c.title), kind="link")
            self.panel.column.addWidget(row(made))

    def _sign(self, caution: str) -> None:
        self.store.attempt(edits.sign, caution, self.desk.hand(), self.desk.today())

    # writing, beside the window

    def _asked(self, usual: str, forms: str) -> Path | None:
        text, _ = QFileDialog.getSaveFileName(self, "Write", usual, forms)
        return Path(text) if text else None

    def _usual(self, ending: str) -> str:
        return f"{self.store.project.name.lower().replace(' ', '-')}{ending}"

    def write_out(self) -> None:
        """The whole report."""
        self.write("whole")

    def write(self, kind: str) -> None:
        """Write a report, or everything, where somebody says; what is being worked out is told on the way."""
        whole = kind == EVERYTHING
        usual = ".zip" if whole else "-report.pdf" if kind == "whole" else f"-{kind}.pdf"
        path = self._asked(self._usual(usual), "ZIP (*.zip)" if whole else FORMS)
        if path is None:
            return
        self._path = path
        self.said.setText(f"Writing {path.name} …")
        self.state.show()
        self.stop_button.show()
        told = _Told(self.heard.emit)
        self._telling = told
        make = partial(self.desk.hand_over, self.store.assessment, self.desk.kept(), self.desk.today(), kind,
                       path.suffix.lower(), self.store.project.sections_left_out, told)  # fmt: skip
        self.worker.start(self.store.revision, partial(_made, make))

    def _stop(self) -> None:
        self.worker.stop()
        self._telling.stopped = True
        self._over("Stopped. Nothing was written.")

    def _hear(self, text: str) -> None:
        if self.worker.running:
            self.said.setText(f"{self._path.name}: {text} …")

    def _made_it(self, _: int, found: tuple[bytes, list[str]]) -> None:
        """What was worked out is written once it is whole."""
        data, lacks = found
        try:
            write_bytes(self._path, data)
        except DocumentError as error:
            self._over(f"Not written: {error}")
            return
        self._over(f"{self._path} is written." + (f" Not in it: {'; '.join(lacks)}." if lacks else ""))

    def _over(self, text: str) -> None:
        self.stop_button.hide()
        self.state.show()
        self.said.setText(text)


class _Told:
    """Passes on what is being worked out; once it is stopped, the next word ends the work."""

    def __init__(self, heard: Callable[[str], object]) -> None:
        self._heard, self.stopped = heard, False

    def __call__(self, text: str) -> None:
        if self.stopped:
            raise DocumentError("stopped")
        self._heard(text)


def _made(make: Callable[[], tuple[bytes, list[str]]]) -> Iterator[tuple[bytes, list[str]]]:
    yield make()
