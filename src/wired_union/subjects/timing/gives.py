"""What other subjects may read of timing before power is known: how long radios are on the air."""

from wired_union.subjects.timing.air import ON_AIR

__all__ = ["ON_AIR"]
