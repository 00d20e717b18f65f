"""How long it lasts as thousands of missions have it, on the Power screen; and a tray of what ifs."""

from functools import partial

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from wired_union.kernel.ripple import ripple
from wired_union.picture.bars import share_bars
from wired_union.picture.shapes import Picture, hint_picture
from wired_union.project.errors import ProjectError
from wired_union.subjects.power.node import DAY_ODDS, FIRST, HEAT, LIGHT, ODDS, START_ODDS, WARM_ODDS
from wired_union.subjects.power.spread.draw import Drawn
from wired_union.subjects.power.spread.odds import COUNT, Odds
from wired_union.subjects.power.spread.picture import advice, resets_of, said_of, share_bars_of, spread_picture
from wired_union.subjects.power.spread.told import (
    shares_of,
    told_of_days,
    told_of_missions,
    told_of_starts,
    told_of_warmth,
)
from wired_union.subjects.power.spread.told_picture import told_picture
from wired_union.subjects.power.spread.whatif import WhatIf, what_if
from wired_union.subjects.power.view_apart import Apart
from wired_union.subjects.power.view_first import start_shares
from wired_union.subjects.power.view_light import day_shares
from wired_union.subjects.power.view_warmth import hot_shares
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, label
from wired_union.ui.slider import FigureSlider
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.ui.worker import Worker

SLIDERS = (
    ("warmer_k", "warmer", "K", -30.0, 30.0), ("aged", "packs aged", "share", 0.0, 0.4),
    ("payload_kg", "payload", "kg", 0.0, 3.0), ("longer", "mission", "share", -0.5, 1.0),
    ("weak_cell", "a weak cell", "share", 0.0, 0.6),
)  # fmt: skip
"""Field of what if, what it is called, its unit, its ends."""
REST_MS = 60


class Spread:
    """Draws missions off the interface thread, shows them as they come, and fills the panel that goes with them."""

    def __init__(self, store: Store, theme: Theme, chart: Canvas, parent: QWidget) -> None:
        self._store, self._theme, self._chart = store, theme, chart
        self.worker = Worker(parent)
        self.worker.told.connect(self._told)
        self.worker.failed.connect(self._failed)
        self.warm = Apart(store, theme, parent, WARM_ODDS, "How warm it gets")
        self.day = Apart(store, theme, parent, DAY_ODDS, "What a day leaves")
        self.starts = Apart(store, theme, parent, START_ODDS, "How far controllers dip")
        self._of: Odds | None = None
        self._number = 0
        """Of the run that is listened to."""
        self.some: Drawn | None = None
        self.asked = WhatIf()
        self.sliders: dict[str, FigureSlider] = {}
        self._rest = QTimer(parent)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST_MS)
        self._rest.timeout.connect(self._preview)
        self._said = label("", wrap=True)
        self._bars: Canvas | None = None
        self._table: Canvas | None = None
        self._advice = label("", "mute", wrap=True)

    def show(self) -> str:
        """Draw what there is, and begin to draw missions where none are."""
        odds = self._store.assessment.of(ODDS)
        if odds is not self._of:
            self.worker.stop()
            self._of, self.some = odds, None
            if not odds.gaps:
                self._number += 1
                self.worker.start(self._number, odds.lots)
        self._chart.show_layout(self._lay_out)
        return "How long it lasts"

    def _lay_out(self, width: float, _: float) -> Picture:
        odds, kit = self._of, self._theme.kit
        if odds is None:  # another picture is on show, and this one is laid out for another size
            return Picture(width, 1.0, ())
        if odds.gaps:
            return hint_picture(f"Not known yet: {odds.gaps[0]}.", kit, width)
        if self.some is None:
            return hint_picture("Drawing missions …", kit, width)
        return spread_picture(self.some, odds.wanted_s, kit, width)

    def _told(self, number: int, told: object) -> None:
        if number != self._number or not isinstance(told, Drawn) or self._of is None:
            return  # the project has moved on
        self.some = told
        self._chart.show_layout(self._lay_out)
        self._tell()

    def _failed(self, number: int, why: str) -> None:
        if number == self._number and self._of is not None:
            self._chart.show_layout(lambda w, h: hint_picture(why, self._theme.kit, w))

    def rest(self) -> None:
        """Another picture is on show: nothing goes on, and no what if is left on the strip."""
        self.worker.stop()
        self._rest.stop()
        self.warm.rest()
        self.day.rest()
        self.starts.rest()
        if self._of is not None:
            self._of, self.asked = None, WhatIf()
            self._store.show_preview(None)

    # the panel

    def fill(self, column: QVBoxLayout) -> None:
        """The odds in words, which unknown matters most, and the tray."""
        column.addWidget(label("The odds", "heading"))
        self._said, self._advice = label("", wrap=True), label("", "mute", wrap=True)
        self._bars = Canvas(self._theme, name="Which unknown matters most")
        self._table = Canvas(self._theme, name="Typical, of 95 of 100, at worst")
        for widget in (self._said, self._table, self._bars, self._advice):
            column.addWidget(widget)
        self._tell()
        column.addWidget(label("What if", "heading"))
        column.addWidget(label("Rings on the strip show where it would lead; nothing is kept.", "mute", wrap=True))
        for field, name, unit, least, most in SLIDERS:
            made = FigureSlider(self._theme, name, unit, most, least)
            made.show_value(getattr(self.asked, field))
            made.moved.connect(partial(self._asked, field))
            self.sliders[field] = made
            column.addWidget(made)
        column.addWidget(button("put all back", self.put_back, kind="link"))
        column.addWidget(button("make it so", self.make_it_so, kind="link",
                                tip="Changes the project as the sliders say; undo takes it back"))  # fmt: skip
        self._tell_others(column)

    def _tell_others(self, column: QVBoxLayout) -> None:
        """Starts, temperatures, and what a day leaves where something charges a pack."""
        brief, heat, first = (
            self._store.project.brief,
            self._store.assessment.of(HEAT),
            self._store.assessment.of(FIRST),
        )
        column.addWidget(label("How far controllers dip", "heading"))
        self.starts.fill(column, lambda some: list(told_of_starts(some, first, brief)), start_shares, resets_of)
        column.addWidget(label("How warm it gets", "heading"))
        self.warm.fill(column, lambda some: list(told_of_warmth(some, heat, brief)), hot_shares)
        if self._store.assessment.of(LIGHT).charged:
            column.addWidget(label("What a day leaves", "heading"))
            self.day.fill(column, lambda some: list(told_of_days(some, brief)), day_shares)

    def _tell(self) -> None:
        if self._of is None or self.some is None or self._bars is None or self._table is None:
            self._said.setText("" if self._of is None or not self._of.gaps else f"Not known yet: {self._of.gaps[0]}.")
            return
        drawn = "" if len(self.some.runtime_s) == COUNT else " So far."
        self._said.setText(said_of(self.some, self._of.wanted_s) + drawn)
        rows = list(told_of_missions(self.some, self._of, self._store.project.brief))
        self._table.show_layout(lambda w, h: told_picture(rows, self._theme.kit, w))
        shares = shares_of(self.some.unknowns, self.some.normal, self.some.runtime_s)
        bars = share_bars_of(shares)
        self._bars.setFixedHeight(max(int(self._theme.px(23) * len(bars)), 1))
        self._bars.show_layout(lambda w, h: share_bars(bars, self._theme.kit, w, names=150.0))
        self._advice.setText(advice(shares))

    def _asked(self, field: str, value: float) -> None:
        now = {f: getattr(self.asked, f) for f, *_ in SLIDERS}
        self.asked = WhatIf(**{**now, field: value})
        self._rest.start()

    def _preview(self) -> None:
        try:
            change = what_if(self._store.project, self.asked)
        except ProjectError as error:
            self._store.refused.emit(str(error))
            return
        self._store.show_preview(ripple(self._store.assessment, change) if self.asked != WhatIf() else None)

    def put_back(self) -> None:
        """All sliders to where it is."""
        self.asked = WhatIf()
        for slider in self.sliders.values():
            slider.show_value(0.0)
        self._store.show_preview(None)

    def make_it_so(self) -> None:
        """Keep what the sliders say, as one edit."""
        if self.asked == WhatIf():
            return
        asked, self.asked = self.asked, WhatIf()
        self._store.show_preview(None)
        self._store.attempt(what_if, asked)
