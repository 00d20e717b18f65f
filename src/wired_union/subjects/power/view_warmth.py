"""Temperatures on the Power screen: their chart, and the panel in which boxes, mounts and the air are said."""

import math
from collections.abc import Callable
from functools import partial
from typing import Any

from PyQt6.QtWidgets import QVBoxLayout, QWidget

from wired_union.picture.shapes import Picture, Region
from wired_union.project.model import Item
from wired_union.project.warmth_model import Enclosure, WarmPart
from wired_union.subjects.power.currents import held_to_a
from wired_union.subjects.power.node import HEAT, POWER, WARM_ODDS
from wired_union.subjects.power.spread.told import Told, shares_of, told_of_parts, told_of_warmth
from wired_union.subjects.power.spread.unknowns import Unknown
from wired_union.subjects.power.spread.warm import WarmDrawn
from wired_union.subjects.power.view_apart import Apart
from wired_union.subjects.power.warmth import edits
from wired_union.subjects.power.warmth.picture import WarmChart, warm_chart
from wired_union.subjects.power.warmth.windings import blocked
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, label, wrapped
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.ui.value_form import ValueForm
from wired_union.units import show

AIR_WORDS = {
    "kind": "the air", "begins_h": "begins at, o'clock", "starts_c": "everything is at first",
    "wind_m_s": "wind in the cold", "rate_k_per_min": "chamber goes by", "hold_s": "chamber holds",
}  # fmt: skip
BOX_WORDS = {"item": "it is", "wall_m": "walls", "wall_w_per_m_k": "walls conduct", "insulation_m": "foam",
             "insulation_w_per_m_k": "foam conducts", "foil": "bright foil", "vent_m3_s": "air let through",
             "sun_w_per_m2": "sun on its lid", "absorbs": "lid takes up"}  # fmt: skip
PART_WORDS = {"enclosure": "it is in", "mount": "fixed", "plate": "fixed to", "sink_k_per_w": "heat sink",
              "air_speed_m_s": "a fan blows", "holds_c": "heater keeps it at"}  # fmt: skip
USED_BY = {
    "steady": {"starts_c", "wind_m_s"}, "day": {"starts_c", "wind_m_s", "begins_h"},
    "ramp": {"starts_c", "rate_k_per_min", "hold_s"}, "typed": {"starts_c", "wind_m_s", "begins_h"},
}  # fmt: skip
"""Figures of the air that its kind looks at."""


def hot_shares(some: WarmDrawn) -> list[tuple[Unknown, float]]:
    """What makes most of how near the worst part comes to too hot."""
    return shares_of(some.unknowns, some.normal, some.hot_margin_k)


class Temperatures:
    """Shows temperatures on a canvas, and fills the panel that goes with them."""

    def __init__(self, store: Store, theme: Theme, chart: Canvas, parent: QWidget) -> None:
        self._store, self._theme, self._chart, self._parent = store, theme, chart, parent
        self._laid: WarmChart | None = None
        self.cold = False
        """Whether the coldest air is shown, where the brief has two that stand."""
        self.apart = Apart(store, theme, parent, WARM_ODDS, "How warm it gets with what is not known well")
        chart.reader = self.reading

    def show(self, node: str) -> str:
        """Draw them; what stands above, in words."""
        heat = self._store.assessment.of(HEAT)
        if not heat.concept.modes or not heat.setting.items:
            kit, text = self._theme.kit, "Nothing gets warm yet: feed something and say how it is used."
            self._laid = None
            self._chart.show_layout(lambda w, h: Picture(w, kit.px(40), (kit.words(0, kit.px(18), text, ink="mute"),)))
            return "Temperatures"
        self._chart.show_layout(partial(self._lay_out, node))
        two = len(heat.runs) > 1
        return f"Temperatures in the {heat.runs[-1 if self.cold else 0].air.name} air" if two else "Temperatures"

    def _lay_out(self, node: str, width: float, _: float) -> Picture:
        heat = self._store.assessment.of(HEAT)
        self._laid = warm_chart(heat, self._theme.kit, width, cold=self.cold, selected=node)
        return self._laid.picture

    def reading(self, region: Region, x: float) -> str:
        """What every curve says where the pointer is."""
        return self._laid.reading(x) if self._laid is not None and region.id == "warm" else ""

    # the panel

    def fill(self, column: QVBoxLayout, node: str, again: Callable[[], object]) -> None:
        """The air, the boxes, and how the chosen part sheds its heat."""
        project, heat = self._store.project, self._store.assessment.of(HEAT)
        if heat.concept.modes and len(heat.runs) > 1:
            words = "show the warmest air" if self.cold else "show the coldest air"
            column.addWidget(button(words, partial(self._turn, again), kind="link"))
        item = next((i for i in project.concept.items if i.id == node), None)
        if item is not None:
            self._part(column, item)
        column.addWidget(label("With what is not known well", "heading", wrap=True))
        self.apart.fill(column, partial(self._rows, node), hot_shares)
        column.addWidget(label("The air over the mission", "heading"))
        air = project.brief.air
        unused = {f for f in AIR_WORDS if f not in {"kind", *USED_BY[air.kind]}}
        column.addWidget(ValueForm(self._theme, self._store, air, "The air", self._set_air, words=AIR_WORDS,
                                   skip={"points", *unused}, empties={"starts_c": "as the air"}))  # fmt: skip
        typed = f"{len(air.points)} points are typed; type others" if air.points else "type a profile"
        column.addWidget(button(wrapped(typed, self._theme), self._type, kind="link"))
        for box in project.concept.enclosures:
            self._box(column, box)
        column.addWidget(button("+ a box with air of its own", self._add_box, kind="link"))
        if item is None:
            hint = "Select a part in the tree to say what it is in, and how it is fixed."
            column.addWidget(label(hint, "mute", wrap=True))

    def _rows(self, node: str, some: WarmDrawn) -> list[Told]:
        brief, heat = self._store.project.brief, self._store.assessment.of(HEAT)
        return [*told_of_warmth(some, heat, brief), *told_of_parts(some, node)]

    def _turn(self, again: Callable[[], object]) -> None:
        self.cold = not self.cold
        again()

    def _part(self, column: QVBoxLayout, item: Item) -> None:
        heat = self._store.assessment.of(HEAT)
        how = next((w for w in self._store.project.concept.warm_parts if w.item == item.id), WarmPart(item=item.id))
        column.addWidget(label(item.name, "heading", wrap=True))
        extreme = next((e for e in heat.extremes if e.item.id == item.id), None) if heat.concept.modes else None
        if extreme is not None:
            said = f"{show(extreme.coldest_c, '°C')} to {show(extreme.hottest_c, '°C')}"
            inside = f", its junction up to {show(extreme.junction_c, '°C')}" if extreme.junction_c is not None else ""
            column.addWidget(label(f"{said}{inside}.", "mute", wrap=True))
        self._winding(column, item)
        skip = {"item"} if item.part.load is not None else {"item", "holds_c"}
        empties = {"holds_c": "no thermostat", "sink_k_per_w": "none"}
        commit = partial(self._set_part, item.id)
        column.addWidget(ValueForm(self._theme, self._store, how, item.name, commit, words=PART_WORDS, skip=skip,
                                   empties=empties))  # fmt: skip

    def _winding(self, column: QVBoxLayout, item: Item) -> None:
        """How long a motor may be blocked."""
        heat, result = self._store.assessment.of(HEAT), self._store.assessment.of(POWER)
        extreme = next((e for e in heat.extremes if e.item.id == item.id), None) if heat.concept.modes else None
        if extreme is None or item.id not in result.tree.nodes:
            return
        limit_a = held_to_a(result.concept, [item])[0]
        found = blocked(item, result.full_v.get(item.id, math.nan), extreme.hottest_c, limit_a)
        if found is None:
            return
        if math.isinf(found.may_last_s):
            words = "Blocked, its winding stays cool enough for ever."
        else:
            lasts, rests = show(found.may_last_s, "s"), show(found.must_rest_s, "s")
            words = f"Blocked, its winding lasts {lasts}; then it rests {rests}."
        column.addWidget(label(words, "mute", wrap=True))

    def _box(self, column: QVBoxLayout, box: Enclosure) -> None:
        column.addWidget(label(box.name, "heading", wrap=True))
        skip = {"length_m", "width_m", "height_m"} if box.item else set()
        commit = partial(self._set_box, box.id)
        column.addWidget(ValueForm(self._theme, self._store, box, box.name, commit, words=BOX_WORDS, skip=skip))
        away = partial(self._store.attempt, edits.remove_enclosure, box.id)
        column.addWidget(button(wrapped(f"take {box.name} away", self._theme), away, kind="link"))

    def _set_air(self, complain: Any, field: str, new: Any) -> None:
        self._store.attempt_or(complain, edits.set_air_curve, **{field: new})

    def _set_box(self, box: str, complain: Any, field: str, new: Any) -> None:
        self._store.attempt_or(complain, edits.set_enclosure, box, **{field: new})

    def _set_part(self, item: str, complain: Any, field: str, new: Any) -> None:
        self._store.attempt_or(complain, edits.set_warm, item, **{field: new})

    def _add_box(self) -> None:
        name, ok = ask.word(self._parent, "A box", "What is it called? Then say which part it is, or its sides.")
        if ok:
            self._store.attempt(edits.add_enclosure, name)

    def _type(self) -> None:
        points = self._store.project.brief.air.points
        now = "; ".join(f"{show(p.at_s, 's')} {p.air_c:g}" for p in points) or "0 h 20; 1 h 5; 8 h -5; 12 h 15"
        asked = "Times and temperatures: “0 h 20; 2 h 5; …”"
        text, ok = ask.word(self._parent, "The air over the mission", asked, text=now)
        if ok:
            self._store.attempt(edits.type_air, text)
