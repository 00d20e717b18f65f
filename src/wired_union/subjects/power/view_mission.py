"""The mission on the Power screen: its chart, whose edges are dragged, and its phases as fields."""

import math
from functools import partial

from PyQt6.QtWidgets import QVBoxLayout

from wired_union import units
from wired_union.kernel.ripple import ripple
from wired_union.picture.shapes import Picture, Region
from wired_union.project.change import Change
from wired_union.project.model import Mode
from wired_union.subjects.motion.gives_times import MOTION
from wired_union.subjects.power import edits
from wired_union.subjects.power.node import POWER
from wired_union.subjects.power.packs import PackResult
from wired_union.subjects.power.pick import PowerPick
from wired_union.subjects.power.picture_mission import EdgeMark, Extras, MissionChart, PhaseMark, mission_chart
from wired_union.subjects.power.trace import Trace, mission_trace
from wired_union.subjects.power.view_beside import OtherConcept
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import EntryField, Form, button, label, number_reader, wrapped
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme

PHASES_SHOWN = 24
"""Phases of a mode in the form at a time."""


class MissionHand:
    """Shows the mission on a canvas, moves its edges, and fills the panel that goes with it."""

    def __init__(self, store: Store, theme: Theme, chart: Canvas, other: OtherConcept) -> None:
        self._store, self._theme, self._chart, self._other = store, theme, chart, other
        self._laid: MissionChart | None = None
        chart.dropped.connect(self._edge_dropped)
        chart.dragged.connect(self._edge_dragged)
        chart.chosen.connect(self.choose)
        chart.brushed.connect(self._brushed)
        chart.reader = self.reading

    def show(self) -> str:
        """Draw it; what stands above, in words."""
        pack, mission = self._store.assessment.of(POWER).limiting, self._store.project.concept.mission
        if pack is None:
            self._chart.show_layout(lambda w, h: Picture(w, h, ()))
            self._laid = None
            return "No mission yet"
        total = units.show(mission.duration_s, "s")
        times = f", {mission.repeats} × {units.show(mission.cycle_s, 's')}" if mission.repeats > 1 else ""
        trace = mission_trace(self._store.assessment.of(POWER), pack)
        self._chart.show_layout(partial(self._lay_mission, pack, trace, self._beside()))
        return f"The mission: {total}{times}"

    def _beside(self) -> tuple[str, Trace] | None:
        """The concept that is compared with: its name, and how its first pack runs down."""
        result = self._other.result
        if result is None or result.limiting is None:
            return None
        return self._other.name, mission_trace(result, result.limiting)

    def _lay_mission(
        self, pack: PackResult, trace: Trace, beside: tuple[str, Trace] | None, width: float, height: float
    ) -> Picture:
        extras = Extras(self._store.picked(PowerPick).stretch, *(beside or ("", None)))
        self._laid = mission_chart(self._store.project.concept, pack, trace, self._theme.kit, width, height, extras)
        return self._laid.picture

    def reading(self, region: Region, x: float) -> str:
        """What the curves say where the pointer is."""
        return self._laid.reading(x) if region.id == "curve" and self._laid else ""

    def _brushed(self, start: float, end: float) -> None:
        """Who draws what from one place to another; one place alone is the whole cycle again."""
        if self._laid is not None:
            stretch = (self._laid.seconds(start), self._laid.seconds(end)) if end > start else None
            self._store.change(PowerPick, stretch=stretch, phase=None)

    def _edge_dragged(self, edge: object, dx: float) -> None:
        """Show on the strip where dropping the edge here would lead."""
        change = self._edge_change(edge, dx)
        self._store.show_preview(ripple(self._store.assessment, change) if change else None)

    def _edge_dropped(self, edge: object, dx: float) -> None:
        change = self._edge_change(edge, dx)
        if change is not None and abs(dx) >= 1:
            self._store.apply(change)
        else:
            self._store.show_preview(None)

    def _edge_change(self, edge: object, dx: float) -> Change | None:
        if self._laid is None or not isinstance(edge, EdgeMark):
            return None
        seconds = dx * self._laid.bar_s_per_px
        step = 60.0 if self._store.project.concept.mission.cycle_s > 1200 else 1.0
        moved = round(seconds / step) * step or (step if dx > 0 else -step)
        return edits.move_edge(self._store.project, edge.index, moved)

    def choose(self, mark: object) -> None:
        """A phase: its mode, and its energy alone; pressed again, the whole cycle."""
        if isinstance(mark, PhaseMark):
            phase = self._store.project.concept.mission.phases[mark.index]
            again = self._store.picked(PowerPick).phase == mark.index
            stretch = None if again else mark.index
            self._store.change(PowerPick, mode=phase.mode, page=mark.index // PHASES_SHOWN, phase=stretch, stretch=None)

    # the panel

    def fill(self, column: QVBoxLayout, mode_id: str) -> None:
        """The phases as fields, and what can be done about a mode."""
        concept = self._store.project.concept
        column.addWidget(label("The mission", "heading"))
        names = {m.id: m.name for m in concept.modes}
        form = Form(self._theme)
        phases = concept.mission.phases
        page = min(self._store.picked(PowerPick).page, max(len(phases) - 1, 0) // PHASES_SHOWN)
        first = page * PHASES_SHOWN
        for i, phase in enumerate(phases[first : first + PHASES_SHOWN], first):
            field = EntryField(number_reader("s"), f"Duration of phase {i + 1}, {names[phase.mode]}")
            field.show_text(units.show(phase.duration_s, "s"))
            field.committed.connect(partial(self._set_duration, field, i))
            form.add(f"{i + 1}. {names[phase.mode]}", field, "How long this phase lasts; 0 takes it out")
        repeats = EntryField(number_reader("", whole=True), "Repeats")
        repeats.show_text(str(concept.mission.repeats))
        repeats.committed.connect(lambda v: self._store.attempt(edits.set_repeats, v))
        form.add("times over", repeats)
        column.addWidget(form)
        for there, words in ((page - 1, "earlier phases"), (page + 1, "later phases")):
            if 0 <= there * PHASES_SHOWN < len(phases):
                turn = partial(self._store.change, PowerPick, page=there)
                column.addWidget(button(f"{words} of {len(phases)}", turn, kind="link"))
        self._mode(column, mode_id)

    def _mode(self, column: QVBoxLayout, mode_id: str) -> None:
        """What can be done about a mode."""
        concept = self._store.project.concept
        mode = next((m for m in concept.modes if m.id == mode_id), None)
        if mode is None:
            return
        self._movement_buttons(column, mode)
        how = "start together" if mode.staggered else "start one after another"
        if self._store.assessment.of(POWER).tree.stands_in:
            text = f"{'unplug the supply' if mode.plugged_in else 'plug the supply in'} in {mode.name}"
            change = partial(self._store.attempt, edits.plug_in, mode.id, not mode.plugged_in)
            column.addWidget(button(wrapped(text, self._theme), change, kind="link"))
        for text, edit, arguments in (
            (f"+ ten minutes of {mode.name}", edits.add_phase, (mode.id, 600.0)),
            (f"let loads {how} in {mode.name}", edits.stagger, (mode.id, not mode.staggered)),
            (f"delete mode {mode.name}", edits.remove_mode, (mode.id,)),
        ):
            column.addWidget(
                button(wrapped(text, self._theme), partial(self._store.attempt, edit, *arguments), kind="link")
            )

    def _movement_buttons(self, column: QVBoxLayout, mode: Mode) -> None:
        """Let a mode's phase last as long as what Motion works out for a load that moves in it."""
        concept, motion = self._store.project.concept, self._store.assessment.of(MOTION)
        index = next((n for n, p in enumerate(concept.mission.phases) if p.mode == mode.id), None)
        if index is None:
            return
        for result in motion.loads:
            takes = result.takes_s[1] if result.takes_s is not None and not result.missing else math.inf
            if result.load.mode not in {"", mode.id} or not math.isfinite(takes):
                continue
            text = f"let {mode.name} last one movement of {result.load.name}, {units.show(takes, 's')}"
            follow = partial(self._store.attempt, edits.follow_movement, index, result.load.id, takes)
            column.addWidget(button(wrapped(text, self._theme), follow, kind="link"))

    def _set_duration(self, field: EntryField, index: int, value: float) -> None:
        if value == 0:
            self._store.attempt(edits.remove_phase, index)
            return
        self._store.attempt_or(field.complain, edits.set_phase_duration, index, value)
