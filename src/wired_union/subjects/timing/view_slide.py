"""A slider over decades for one figure: while it is dragged everything shows what that does; let go, it is so."""

import math
from collections.abc import Callable
from typing import Any

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
    """A slider over powers of ten that is one figure: `edit` makes a value of it, `seen` draws what would follow."""
    at = math.log10(value)
    slider = FigureSlider(theme, text, unit, at + DECADES, at - DECADES)
    return _slides(store, slider, at, lambda now: float(f"{10**now:.3g}"), edit, seen)


def rank_slider(
    store: Store, theme: Theme, text: str, value: int, most: int, edit: Callable[[int], Change],
    seen: Callable[[Assessment], None],
) -> FigureSlider:  # fmt: skip
    """The same for a whole number from 1 to the most."""
    top = max(most, value, 2)
    slider = FigureSlider(theme, text, "", float(top), 1.0, top - 1)
    return _slides(store, slider, float(value), lambda now: max(round(now), 1), edit, seen)


def _slides(
    store: Store, slider: FigureSlider, at: float, read: Callable[[float], Any], edit: Callable[[Any], Change],
    seen: Callable[[Assessment], None],
) -> FigureSlider:  # fmt: skip
    """While it is dragged everything shows what that does; let go, it is so."""
    slider.show_value(at)
    slider.figure.setText(_figure(read(at), slider.unit))

    def slide(now: float) -> None:
        figure = read(now)
        slider.figure.setText(_figure(figure, slider.unit))
        change = tried(edit, figure)
        if change is not None and slider.slider.isSliderDown():
            found = ripple(store.assessment, change)
            store.show_preview(found)
            seen(found.after)

    def let_go(now: float) -> None:
        store.show_preview(None)
        store.attempt(lambda _: edit(read(now)))

    slider.moved.connect(slide)
    slider.let_go.connect(let_go)
    return slider


def _figure(value: float, unit: str) -> str:
    return show(value, unit) if unit else f"{value:.3g}"
