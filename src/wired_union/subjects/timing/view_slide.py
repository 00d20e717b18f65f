"""A slider over decades for one figure: while it is dragged everything shows what that does; let go, it is so."""

import math
from collections.abc import Callable
from functools import partial

from wired_union.kernel.results import tried
from wired_union.kernel.ripple import ripple
from wired_union.kernel.subject import Assessment
from wired_union.project.change import Change
from wired_union.ui.slider import FigureSlider
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.units import show

DECADES = 1.3
"""How far it goes to either side of what the figure was when it was taken hold of, in powers of ten."""


def decade_slider(
    store: Store, theme: Theme, text: str, unit: str, value: float, edit: Callable[[float], Change],
    seen: Callable[[Assessment], None],
) -> FigureSlider:  # fmt: skip
    """A slider that is one figure: `edit` makes a value of it, `seen` draws what would follow."""
    at = math.log10(value)
    slider = FigureSlider(theme, text, unit, at + DECADES, at - DECADES)
    slider.show_value(at)
    slider.figure.setText(_figure(value, unit))

    def slide(now: float) -> None:
        figure = float(f"{10**now:.3g}")
        slider.figure.setText(_figure(figure, unit))
        change = tried(edit, figure)
        if change is not None and slider.slider.isSliderDown():
            found = ripple(store.assessment, change)
            store.show_preview(found)
            seen(found.after)

    slider.moved.connect(slide)
    slider.let_go.connect(partial(_let_go, store, edit))
    return slider


def _let_go(store: Store, edit: Callable[[float], Change], at: float) -> None:
    store.show_preview(None)
    store.attempt(lambda _: edit(float(f"{10**at:.3g}")))


def _figure(value: float, unit: str) -> str:
    return show(value, unit) if unit else f"{value:.3g}"
