"""What other subjects may read of cables as they lie."""

from wired_union.subjects.wiring.laid import FEEDS, HARNESS, LAID, NO_CABLES, Harness, LaidCable

__all__ = ["FEEDS", "HARNESS", "LAID", "NO_CABLES", "Harness", "LaidCable"]
