"""What power hands the search: rows over the slots, for each pack that may stand in the concept."""

from collections.abc import Mapping
from functools import cached_property

import numpy as np

from wired_union.choose.bounds import Row
from wired_union.choose.combination import Question
from wired_union.kernel.results import Measure
from wired_union.subjects.power.bounds.power_bound import PowerBound, bound_power
from wired_union.subjects.power.bounds.rating_rows import RatingRows
from wired_union.subjects.power.packs import PackFigures


class PowerBounds:
    """The `Bounds` of a question."""

    def __init__(self, bound: PowerBound) -> None:
        self.bound = bound
        self._ratings_of: dict[int | None, list[Row]] = {}

    @property
    def split_slot(self) -> int | None:
        return self.bound.pack_slot

    @cached_property
    def ratings(self) -> RatingRows:
        return RatingRows(self.bound)

    def figures(self, option: int | None) -> PackFigures | None:
        return self.bound.pack_at(option)

    def knows(self, option: int | None) -> bool:
        return self.figures(option) is not None

    def longest_s(self, option: int | None) -> float:
        """The longest that any combination with a pack could run, were each slot as thrifty as it can be."""
        figures = self.figures(option)
        if figures is None:
            return float("inf")
        low, high = 0.0, 3600.0

        def could(runtime_s: float) -> bool:
            columns, most = self.bound.runtime_row(figures, runtime_s)
            return sum(float(c.min()) for c in columns) <= most

        while could(high):
            low, high = high, high * 2
            if high > 1e11:
                return float("inf")
        for _ in range(40):
            middle = (low + high) / 2
            low, high = (middle, high) if could(middle) else (low, middle)
        return high

    def rows(self, option: int | None, limits: Mapping[str, Measure], low_s: float) -> list[Row]:
        figures = self.figures(option)
        if figures is None:
            return []
        peak = limits["peak-current"].limit if "peak-current" in limits else None
        least = limits["lowest-voltage"].limit if "lowest-voltage" in limits else None
        found = self.bound.peak_rows(figures, peak or float("inf"), least or 0.0)
        if option not in self._ratings_of:
            self._ratings_of[option] = self.ratings.rows(figures)
        found = [*found, *self._ratings_of[option]]
        return [*found, self.bound.runtime_row(figures, low_s)] if low_s > 0 else found

    def inverse_row(self, option: int | None, low_s: float, high_s: float) -> Row | None:
        figures = self.figures(option)
        return self.bound.inverse_row(figures, low_s, high_s) if figures is not None else None

    def impossible(self, option: int | None) -> list[np.ndarray]:
        figures = self.figures(option)
        return self.ratings.too_high(figures) if figures is not None else []


def bounds_of(question: Question) -> PowerBounds | None:
    """The bounds of a question; None where power has none to give."""
    bound = bound_power(question)
    return PowerBounds(bound) if bound is not None else None
