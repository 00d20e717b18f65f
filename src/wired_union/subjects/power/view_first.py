"""The first half second on the Power screen: its chart, and the panel in which starts are moved and softened."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QVBoxLayout, QWidget

from wired_union import units
from wired_union.picture.shapes import Picture, Region
from wired_union.project.change import Change
from wired_union.project.model import Item, Mode, Use
from wired_union.project.part_edits import set_part_value
from wired_union.subjects.power import edits
from wired_union.subjects.power.checks.protection import released
from wired_union.subjects.power.currents import is_coil
from wired_union.subjects.power.first.picture import FirstChart, first_chart
from wired_union.subjects.power.first.run import Start, Watched
from wired_union.subjects.power.first.words import chain
from wired_union.subjects.power.node import FIRST, POWER, START_ODDS
from wired_union.subjects.power.spread.picture import resets_of
from wired_union.subjects.power.spread.starts import StartDrawn
from wired_union.subjects.power.spread.told import Told, shares_of, told_of_starts
from wired_union.subjects.power.spread.unknowns import Unknown
from wired_union.subjects.power.view_apart import Apart
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import EntryField, Form, button, label, number_reader, wrapped
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme


def start_shares(some: StartDrawn) -> list[tuple[Unknown, float]]:
    """What makes most of how far the first of all controllers dips."""
    return shares_of(some.unknowns, some.normal, some.margin_v)


class FirstHalf:
    """Shows one mode's start on a canvas, and fills the panel that goes with it."""

    def __init__(self, store: Store, theme: Theme, chart: Canvas, parent: QWidget) -> None:
        self._store, self._theme, self._chart = store, theme, chart
        self.apart = Apart(store, theme, parent, START_ODDS, "How far controllers dip with what is not known well")
        self._laid: FirstChart | None = None
        chart.reader = self.reading

    def mode_of(self, wanted: str) -> int | None:
        """The mode on show where something starts in it, else the one of the worst start; None where none is."""
        first, result = self._store.assessment.of(FIRST), self._store.assessment.of(POWER)
        place = result.mode_index.get(wanted)
        if place in first.modes:
            return place
        worst = first.worst.dip if first.worst is not None else None
        if worst is not None and worst.mode in first.modes:
            return worst.mode
        return first.modes[0] if first.modes else None

    def start_of(self, mode: int, node: str) -> Start | None:
        """The start of the pack above a node, else of the first pack, in a mode."""
        first, result = self._store.assessment.of(FIRST), self._store.assessment.of(POWER)
        starts = [s for s in first.starts if s.mode == mode]
        root = result.tree.root_of(node)
        return next((s for s in starts if s.circuit.root == root), starts[0] if starts else None)

    def show(self, wanted: str, node: str) -> str:
        """Draw the start; what stands above it, in words."""
        mode = self.mode_of(wanted)
        start = self.start_of(mode, node) if mode is not None else None
        if mode is None or start is None:
            self._laid = None
            text = "Nothing starts at more than it takes at work: nothing dips in the first half second."
            kit = self._theme.kit
            self._chart.show_layout(lambda w, h: Picture(w, kit.px(40), (kit.words(0, kit.px(18), text, ink="mute"),)))
            return "The first half second"
        self._chart.show_layout(partial(self._lay_out, start, node))
        name = self._store.assessment.of(POWER).concept.modes[mode].name
        apart = f", starts {units.show(start.circuit.gap_s, 's')} apart" if start.circuit.gap_s else ""
        return f"As {name} begins{apart}"

    def _lay_out(self, start: Start, node: str, width: float, _: float) -> Picture:
        self._laid = first_chart(self._store.assessment.of(FIRST), start, self._theme.kit, width, selected=node)
        return self._laid.picture

    def reading(self, _: Region, x: float) -> str:
        """What every lane says where the pointer is."""
        return self._laid.reading(x) if self._laid is not None else ""

    # the panel

    def fill(self, column: QVBoxLayout, wanted: str, node: str) -> None:
        """What happens in words, and what can be done about when and how things start."""
        mode = self.mode_of(wanted)
        result = self._store.assessment.of(POWER)
        self._capacitor(column, node)
        if mode is not None:
            self._tell(column, mode)
        column.addWidget(label("With what is not known well", "heading", wrap=True))
        self.apart.fill(column, self._rows, start_shares, resets_of)
        if mode is None:
            return
        at = result.concept.modes[mode]
        column.addWidget(label(f"When things start in {at.name}", "heading", wrap=True))
        form = Form(self._theme)
        items = [i for i in result.concept.items if i.id in self._starting(mode)]
        uses = {u.item: u for u in at.uses}
        for item in items:
            self._when(form, at, item, uses.get(item.id))
        for driver in self._drivers(items):
            opens = driver.part.driver.soft_start_s if driver.part.driver is not None else 0.0
            self._field(form, f"{driver.name} opens over", opens, (set_part_value, driver.id, "driver.soft_start_s"),
                        "How long its driver takes to open fully; 0 switches at once")  # fmt: skip
        column.addWidget(form)
        for item in (i for i in items if i.part.motor is not None):
            reverses = item.id in uses and uses[item.id].reverses
            words = f"{item.name} {'is not reversed' if reverses else 'is reversed'} in {at.name}"
            turn = partial(self._store.attempt, edits.reverse, at.id, item.id, not reverses)
            column.addWidget(button(wrapped(words, self._theme), turn, kind="link"))
        how = "start together" if at.staggered else "start one after another"
        stagger = partial(self._store.attempt, edits.stagger, at.id, not at.staggered)
        column.addWidget(button(wrapped(f"let loads {how} in {at.name}", self._theme), stagger, kind="link"))

    def _rows(self, some: StartDrawn) -> list[Told]:
        return list(told_of_starts(some, self._store.assessment.of(FIRST), self._store.project.brief))

    def _capacitor(self, column: QVBoxLayout, node: str) -> None:
        """The capacitor beside the chosen part, where it is fed."""
        feed = next((f for f in self._store.project.concept.feeds if f.load == node), None)
        item = next((i for i in self._store.project.concept.items if i.id == node), None)
        if feed is None or item is None:
            return
        form = Form(self._theme)
        field = EntryField(number_reader("F", empty=True), f"Capacitor beside {item.name}")
        field.show_text(units.show(feed.capacitor_f, "F") if feed.capacitor_f is not None else "", "none")
        field.committed.connect(lambda v: self._store.attempt_or(field.complain, edits.put_capacitor, node, v))
        form.add(f"capacitor beside {item.name}", field, "It fills at switching on, and gives while others start")
        column.addWidget(form)

    def _tell(self, column: QVBoxLayout, mode: int) -> None:
        first = self._store.assessment.of(FIRST)
        for start in (s for s in first.starts if s.mode == mode):
            watched = [w for w in first.watched if w.item.id in start.circuit.spots and w.least_v is not None]
            if not watched:
                continue
            worst = min(watched, key=lambda w: start.dips[w.item.id].volts - (w.least_v or 0.0))
            column.addWidget(label("What happens", "heading"))
            own = Watched(worst.item, worst.least_v, start.dips[worst.item.id])
            column.addWidget(label(" ".join(chain(start, own, first.result)), wrap=True))
        coils = [i for i in first.starting[mode] if is_coil(i)]
        for words in filter(None, map(released, coils)):
            column.addWidget(label(words, wrap=True))

    def _starting(self, mode: int) -> set[str]:
        first = self._store.assessment.of(FIRST)
        return {i for s in first.starts if s.mode == mode for i, _ in s.circuit.starting}

    def _drivers(self, items: list[Item]) -> list[Item]:
        tree = self._store.assessment.of(POWER).tree
        above = dict.fromkeys(tree.source_of[i.id] for i in items if i.id in tree.source_of)
        return [tree.nodes[i].item for i in above if tree.nodes[i].item.part.driver is not None]

    def _when(self, form: Form, mode: Mode, item: Item, use: Use | None) -> None:
        self._field(form, f"{item.name} starts after", use.after_s if use is not None else 0.0,
                    (edits.start_after, mode.id, item.id), "How long after the mode begins")  # fmt: skip

    def _field(
        self, form: Form, name: str, seconds: float, edit: tuple[Callable[..., Change], str, str], tip: str
    ) -> None:
        field = EntryField(number_reader("s"), name)
        field.show_text(units.show(seconds, "s") if seconds else "0")
        change, *named = edit
        field.committed.connect(lambda v: self._store.attempt_or(field.complain, change, *named, v))
        form.add(name, field, tip)
