"""Charging on the Power screen: energy in against out, and the panel in which site, panels and chargers are said."""

from functools import partial
from typing import Any

from PyQt6.QtWidgets import QVBoxLayout, QWidget

from wired_union.picture.shapes import hint_picture
from wired_union.project.sun_model import SunPanel
from wired_union.subjects.power.light import edits
from wired_union.subjects.power.light.picture import light_picture
from wired_union.subjects.power.light.run import PackDay
from wired_union.subjects.power.node import DAY_ODDS, LIGHT
from wired_union.subjects.power.spread.day import DayDrawn
from wired_union.subjects.power.spread.told import shares_of, told_of_days
from wired_union.subjects.power.spread.unknowns import Unknown
from wired_union.subjects.power.view_apart import Apart
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, label, wrapped
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.ui.value_form import ValueForm
from wired_union.units import show

SITE_WORDS = {"latitude_deg": "latitude, north", "day_of_year": "day of the year", "missions_a_day": "missions a day"}
PANEL_WORDS = {"charges": "it charges", "tilt_deg": "tilted", "azimuth_deg": "faces, south 180", "kept": "dirt leaves",
               "charger_efficiency": "charger passes on"}  # fmt: skip
INLET_WORDS = {"charges": "it charges", "power_w": "into the cells", "hours_a_day": "hours a day",
               "made_for": "made for"}  # fmt: skip
EMPTIES = {"missions_a_day": "as many as fit", "made_for": "not said"}


def day_shares(some: DayDrawn) -> list[tuple[Unknown, float]]:
    """What makes most of what a day leaves."""
    return shares_of(some.unknowns, some.normal, some.balance_wh)


class Charging:
    """Shows a pack's day and its weeks on a canvas, and fills the panel that goes with them."""

    def __init__(self, store: Store, theme: Theme, chart: Canvas, parent: QWidget) -> None:
        self._store, self._theme, self._chart, self._parent = store, theme, chart, parent
        self.apart = Apart(store, theme, parent, DAY_ODDS, "What a day leaves with what is not known well")

    def _of(self, node: str) -> PackDay | None:
        """The pack that is chosen, else the one that loses most."""
        light = self._store.assessment.of(LIGHT)
        days = light.days if not light.gaps else ()
        own = next((d for d in days if d.pack.node.item.id == node), None)
        return own or min(days, key=lambda d: d.balance_wh, default=None)

    def show(self, node: str) -> str:
        """Draw it; what stands above, in words."""
        light, day, kit = self._store.assessment.of(LIGHT), self._of(node), self._theme.kit
        if day is None:
            words = f"Not known yet: {light.gaps[0]}." if light.charged else "Nothing charges a pack yet."
            self._chart.show_layout(lambda w, h: hint_picture(words, kit, w))
            return "Charging"
        self._chart.show_layout(lambda w, h: light_picture(light, day, kit, w))
        return f"Charging {day.pack.node.item.name}"

    def fill(self, column: QVBoxLayout, node: str) -> None:
        """The figures, the site, the panels, what is plugged in."""
        project, day = self._store.project, self._of(node)
        if day is not None:
            full = show(day.time_to_full_s, "s")
            left = (
                f"A usual day brings {show(day.in_wh, 'Wh')}, of which the cells give"
                f" {show(day.in_wh * day.stored, 'Wh')} again, and takes {show(day.out_wh, 'Wh')}: it leaves"
                f" {show(day.balance_wh, 'Wh')}. From the reserve to full in {full}."
            )
            column.addWidget(label(left, wrap=True))
            column.addWidget(label("With what is not known well", "heading", wrap=True))
            self.apart.fill(column, lambda some: list(told_of_days(some, project.brief)), day_shares)
        column.addWidget(label("The site", "heading"))
        site = project.brief.site
        column.addWidget(ValueForm(self._theme, self._store, site, "The site", self._set_site, words=SITE_WORDS,
                                   empties=EMPTIES))  # fmt: skip
        for item in (i for i in project.concept.items if i.part.panel is not None):
            how = next((p for p in project.concept.sun_panels if p.item == item.id), SunPanel(item=item.id))
            column.addWidget(label(item.name, "heading", wrap=True))
            column.addWidget(ValueForm(self._theme, self._store, how, item.name, partial(self._set_panel, item.id),
                                       words=PANEL_WORDS, skip={"item"}))  # fmt: skip
        for inlet in project.concept.inlets:
            column.addWidget(label(inlet.name, "heading", wrap=True))
            column.addWidget(ValueForm(self._theme, self._store, inlet, inlet.name, partial(self._set_inlet, inlet.id),
                                       words=INLET_WORDS, empties=EMPTIES))  # fmt: skip
            away = partial(self._store.attempt, edits.remove_inlet, inlet.id)
            column.addWidget(button(wrapped(f"take {inlet.name} away", self._theme), away, kind="link"))
        column.addWidget(button("+ a charger, crank or dynamo", self._add, kind="link"))
        if not any(i.part.panel is not None for i in project.concept.items):
            column.addWidget(label("A solar panel is added in Parts.", "mute", wrap=True))

    def _set_site(self, complain: Any, field: str, new: Any) -> None:
        self._store.attempt_or(complain, edits.set_site, **{field: new})

    def _set_panel(self, item: str, complain: Any, field: str, new: Any) -> None:
        self._store.attempt_or(complain, edits.set_panel, item, **{field: new})

    def _set_inlet(self, inlet: str, complain: Any, field: str, new: Any) -> None:
        self._store.attempt_or(complain, edits.set_inlet, inlet, **{field: new})

    def _add(self) -> None:
        name, ok = ask.word(self._parent, "What charges", "What is it called? Then say its power, and how long a day.")
        if ok:
            self._store.attempt(edits.add_inlet, name)
