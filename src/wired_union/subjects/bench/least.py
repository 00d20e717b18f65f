"""The fewest of something that does."""

from collections.abc import Callable


def least_count(does: Callable[[int], bool], most: int) -> int | None:
    """The least whole number from 1 that does, where all above one that does do as well; None where `most` does not."""
    if not does(most):
        return None
    low, high = 1, most
    while low < high:
        middle = (low + high) // 2
        low, high = (low, middle) if does(middle) else (middle + 1, high)
    return low
