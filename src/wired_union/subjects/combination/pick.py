"""What is asked of the search in one window; it survives a change of theme."""

from msgspec import Struct


class Mix(Struct, frozen=True):
    """Places to choose, limits that need not hold, and what is favoured: one measure, or "weights"."""

    places: tuple[str, ...] = ()
    dropped: frozenset[str] = frozenset()
    favour: str = "mass"
    runtime: float = 1.0
    mass: float = 1.0
    money: float = 1.0
