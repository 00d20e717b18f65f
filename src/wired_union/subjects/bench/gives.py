"""What other subjects may read of the bench: what kind of step each part is."""

from wired_union.subjects.bench.order import KINDS, kind_of

__all__ = ["KINDS", "kind_of"]
