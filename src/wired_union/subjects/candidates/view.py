"""Candidates: what could fill a slot and what it would do, every part refused and why, two measures traded off."""

from collections.abc import Sequence
from functools import partial

from msgspec.structs import replace
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from wired_union.catalogue.library import Library, LibraryError
from wired_union.choose.alternatives import Alternative
from wired_union.choose.candidates import kinds_of, slots
from wired_union.choose.requirements import asks
from wired_union.choose.tradeoff import Point, trade_off
from wired_union.kernel.subject import Selection
from wired_union.project import edits
from wired_union.project.model import Item, Need, Stock
from wired_union.subjects.candidates.pick import CandidatesPick, PointMark, RefusedMark, TryMark
from wired_union.subjects.candidates.picture import SlotRow, fitting_list, refused_list, slot_list
from wired_union.subjects.candidates.picture_tradeoff import reading, trade_off_picture
from wired_union.subjects.candidates.view_slot import SlotPanel
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Choice, button, label
from wired_union.ui.try_work import TryWork
from wired_union.ui.view import Desk, View, card

CHART_H = 262.0
LIST_W = 172.0
AXES = (("mass", "runtime"), ("money", "runtime"), ("mass", "money"))


class CandidatesView(View):
    stage, title = "candidates", "Candidates"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self._work = TryWork(self.store, self)
        self._work.started.connect(lambda _: self._show_lists())
        self._work.finished.connect(self._show_lists)
        self._library = Library(desk.places.library)
        self._axes = ["mass", "runtime"]
        self.slot_list = Canvas(self.theme, name="Slots")
        self.slot_list.chosen.connect(self._choose_slot)
        self.chart = Canvas(self.theme, name="Trade-off", tall=False)
        self.chart.setFixedHeight(self.theme.px(CHART_H))
        self.chart.pointed.connect(self._point_at)
        self.chart.chosen.connect(self._choose)
        self.fitting = Canvas(self.theme, name="What fits")
        self.refused = Canvas(self.theme, name="What is refused, and why")
        for canvas in (self.fitting, self.refused):
            canvas.pointed.connect(self._point_at)
            canvas.chosen.connect(self._choose)
        self._points: tuple[Point, ...] = ()
        self._fits_title, self._refused_title = label("", "heading"), label("", "heading")
        self._fits_note, self._refused_note = label("", "mute", wrap=True), label("", "mute", wrap=True)
        self._lay_out()
        self.slot_panel = SlotPanel(self, self.take)

    def _lay_out(self) -> None:
        side = card(self.theme, self.slot_list, button("+ look for something", self._add_need, kind="link"))
        column = side.layout()
        assert isinstance(column, QVBoxLayout)
        column.addStretch(1)
        head = QWidget()
        row = QHBoxLayout(head)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(label("Trade-off", "heading"))
        row.addStretch(1)
        self.axis_choices = (Choice([], "Measure along"), Choice([], "Measure up"))
        for place, (text, choice) in enumerate(zip(("along", "up"), self.axis_choices, strict=True)):
            row.addWidget(label(text, "mute"))
            row.addWidget(choice)
            choice.setMinimumContentsLength(6)
            choice.picked.connect(partial(self._set_axis, place))
        main = QWidget()
        right = QVBoxLayout(main)
        right.setContentsMargins(0, 0, 0, 0)
        right.setSpacing(self.theme.px(8))
        said = "a point a candidate; the line joins what nothing betters in both; × breaks something hard"
        note = label(said, "mute", wrap=True)
        right.addWidget(card(self.theme, head, self.chart, note))
        right.addWidget(card(self.theme, self._fits_title, self._fits_note, self.fitting))
        right.addWidget(card(self.theme, self._refused_title, self._refused_note, self.refused))
        right.addStretch(1)
        self.column.addLayout(self.flow(side, main, wide=main, least=540.0, beside_w=LIST_W))
        self.column.addStretch(1)

    # what is selected

    @property
    def slot(self) -> Item | Need | None:
        """The slot on show: the one selected here, else the part selected elsewhere, else the first."""
        found = slots(self.store.project)
        by_id = {s.id: s for s in found}
        for wanted in (self.store.picked(CandidatesPick).slot, self.store.picked(Selection).item):
            if wanted in by_id:
                return by_id[wanted]
        return found[0] if found else None

    @property
    def picked(self) -> Alternative | None:
        """The alternative in the panel."""
        wanted = self.store.picked(CandidatesPick).candidate
        return next((a for a in self._work.tries if _key(a) == wanted), None)

    @property
    def tries_ready(self) -> bool:
        slot = self.slot
        return slot is None or self._work.ready(slot.id)

    @property
    def fitting_tries(self) -> list[Alternative]:
        return [a for a in self._work.tries if not a.breaks]

    @property
    def refused_tries(self) -> list[Alternative]:
        return [a for a in self._work.tries if a.breaks]

    # showing

    def refresh(self) -> None:
        slot, kit = self.slot, self.theme.kit
        concept = self.store.project.concept
        lanes = {s.id: s.name for s in concept.subsystems}
        rows = [SlotRow(n, "Looked for") for n in concept.needs]
        rows += [
            SlotRow(i, lanes[i.subsystem]) for s in concept.subsystems for i in concept.items if i.subsystem == s.id
        ]
        chosen = slot.id if slot is not None else ""
        self.slot_list.show_layout(lambda w, h: slot_list(rows, kit, w, chosen=chosen))
        self._offer_axes()
        if slot is None:
            self.subtitle.setText("no slot yet: add a part, or say what you look for")
            self._show_lists()
            return
        kinds = ", ".join(kinds_of(slot)) or "any class"
        self.subtitle.setText(f"for {slot.name} · {kinds} · {slot.requires.count} asked")
        self._work.start(slot.id, self._from_library(slot))
        if self._work.ready(slot.id):
            self._show_lists()

    def _from_library(self, slot: Item | Need) -> tuple[Stock, ...]:
        try:
            return self._library.candidates(kinds_of(slot), asks(slot.requires)).stocks
        except LibraryError as error:
            self.store.refused.emit(str(error))
            return ()

    def _offer_axes(self) -> None:
        known = [(m.id, m.label) for m in self.store.assessment.limited_measures.values() if m.value is not None]
        for place, choice in enumerate(self.axis_choices):
            choice.offer(known)
            choice.show_value(self._axes[place])

    def _set_axis(self, place: int, measure: str) -> None:
        self._axes[place] = measure
        self._show_lists()

    def _show_lists(self) -> None:
        slot, kit = self.slot, self.theme.kit
        ready = slot is not None and self._work.ready(slot.id)
        chosen = self.store.picked(CandidatesPick).candidate
        fits, refused = self.fitting_tries, self.refused_tries
        money = self.store.project.brief.currency
        self._points = trade_off(self.store.assessment, self._work.tries, *self._axes) if ready else ()
        points = self._points
        self.chart.show_layout(lambda w, h: trade_off_picture(points, kit, w, h, chosen=chosen))
        self._fits_title.setText(f"{len(fits)} fit" if ready else "Working it out …")
        names = {m.id: m.label.lower() for m in self.store.assessment.limited_measures.values()}
        x, y = self._axes
        shelf = "the shelf first; " if any(a.on_shelf for a in fits) else ""
        self._fits_note.setText(f"{shelf}at the right, how {names.get(x, x)} and {names.get(y, y)} move")
        self._refused_title.setText(f"{len(refused)} refused")
        self._refused_note.setText("each requirement that refuses it, and by how much; the nearest miss first")
        self.fitting.show_layout(lambda w, h: fitting_list(fits, (x, y), kit, w, chosen=chosen))
        self.refused.show_layout(lambda w, h: refused_list(refused, kit, w, chosen=chosen, money=money))
        self.slot_panel.show_slot(slot, self.picked)

    def selection_moved(self) -> None:
        self.refresh()

    # what hands do

    def _choose_slot(self, slot_id: str) -> None:
        shared = self.store.picked(Selection)
        if not any(n.id == slot_id for n in self.store.project.concept.needs):
            shared = replace(shared, item=slot_id)
        self.store.pick(CandidatesPick(slot_id), shared)

    def _alternative_at(self, mark: object) -> Alternative | None:
        among: Sequence[Alternative | None]
        match mark:
            case PointMark(place):
                among = [p.alternative for p in self._points]
            case TryMark(place):
                among = self.fitting_tries
            case RefusedMark(place):
                among = self.refused_tries
            case _:
                return None
        return among[place] if place < len(among) else None

    def _point_at(self, mark: object) -> None:
        self._preview(self._alternative_at(mark) if mark is not None else self.picked)

    def _preview(self, alternative: Alternative | None) -> None:
        current = alternative is not None and alternative.change.before is self.store.project
        self.store.show_preview(alternative.ripple if alternative is not None and current else None)

    def _choose(self, mark: object) -> None:
        self._pick(self._alternative_at(mark))

    def _pick(self, alternative: Alternative | None) -> None:
        """Put a candidate in the panel, with its rings on the strip; choosing it again takes it."""
        if alternative is not None and self.picked is alternative:
            self.take(alternative)
            return
        self.store.change(CandidatesPick, candidate=_key(alternative) if alternative is not None else "")
        self._preview(alternative)

    def take(self, alternative: Alternative) -> None:
        """Take a candidate for the slot."""
        need = self.slot
        if self.store.apply(alternative.change) and isinstance(need, Need):
            item = self.store.project.concept.items[-1]
            self.store.pick(CandidatesPick(item.id), replace(self.store.picked(Selection), item=item.id))
            self.refresh()

    def _add_need(self) -> None:
        lanes = self.store.project.concept.subsystems
        if not lanes:
            self.store.refused.emit("Add a subsystem in Parts first; a slot belongs to one.")
            return
        name, ok = ask.word(self, "Look for something", "What is looked for? Such as: Depth of the core")
        if ok and self.store.attempt(edits.add_need, lanes[0].id, name):
            self._choose_slot(self.store.project.concept.needs[-1].id)

    def point_words(self) -> list[str]:
        """The chart as a readable list."""
        return [reading(p) for p in self._points]


def _key(alternative: Alternative) -> str:
    return alternative.candidate.part.id if alternative.candidate is not None else alternative.title
