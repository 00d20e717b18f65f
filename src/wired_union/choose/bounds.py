"""What a subject hands the search: rows that no combination may break, as sums over the slots."""

from collections.abc import Mapping
from typing import Protocol

import numpy as np

from wired_union.kernel.results import Measure
from wired_union.physics.battery import Array

Row = tuple[list[Array], float]
"""Σ over slots of the chosen option's figure must be at most the second figure."""


class Bounds(Protocol):
    """Lower bounds on what combinations take. `option` is the one of the slot that splits the search."""

    @property
    def split_slot(self) -> int | None:
        """The slot whose option sets what the rows look like (the pack); None where it is not chosen."""

    def knows(self, option: int | None) -> bool:
        """Whether there are rows for an option at all."""

    def longest_s(self, option: int | None) -> float:
        """The longest that any combination with an option could run."""

    def rows(self, option: int | None, limits: Mapping[str, Measure], low_s: float) -> list[Row]:
        """Rows for an option where at least `low_s` of runtime is wanted."""

    def inverse_row(self, option: int | None, low_s: float, high_s: float) -> Row | None:
        """What 1/runtime is at least."""

    def impossible(self, option: int | None) -> list[np.ndarray]:
        """For each slot, which options cannot stand beside an option at all; empty for none."""
