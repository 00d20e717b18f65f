"""What other subjects may read of heat: how warm and cold the parts get whose box or mount is described."""

from wired_union.subjects.power.node import HEAT
from wired_union.subjects.power.warmth.run import Extreme, Heat

__all__ = ["HEAT", "Extreme", "Heat"]
