"""How much a mass grows between what a team knows now and what the scale will say."""

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import ESA

ALLOWANCES = {"measured": 0.0, "datasheet": 0.05, "estimate": 0.10, "guess": 0.20}
SYSTEM_MARGIN_AT_CONCEPT = 0.20
LEVELS = ("measured", "datasheet", "estimate", "guess")


class MassGrowth(Struct, frozen=True):
    allowance: float


@method("mass-growth", works=(ESA,), checked="the table, from memory", limits="one part; a system margin comes on top")
def mass_growth(knowledge: str) -> MassGrowth:
    """Share by which a part's mass may still grow, from how well it is known.

    Args:
        knowledge: measured, datasheet, estimate or guess
    Returns:
        allowance: share of the known mass to add
    Raises:
        ValueError: a level that does not exist.
    """
    require(knowledge in ALLOWANCES, f"knowledge is {', '.join(LEVELS)}, not “{knowledge}”")
    return MassGrowth(ALLOWANCES[knowledge])
