"""What other subjects may read of mass and money."""

from wired_union.subjects.mass.assess import MASS, TOTAL_KG, UNWEIGHED, MassLine, MassResult
from wired_union.subjects.mass.beams import FREQUENCIES
from wired_union.subjects.mass.money import FREE_ORIGINS, MONEY, Cost, MoneyResult
from wired_union.subjects.mass.outline import outline
from wired_union.subjects.mass.place_edits import move_places
from wired_union.subjects.mass.stance import (
    CARRIED,
    CENTRE,
    Axle,
    Axles,
    Carried,
    Centre,
    Stance,
    Under,
    Whereabouts,
    stance_in,
)

__all__ = [
    "CARRIED", "CENTRE", "FREE_ORIGINS", "FREQUENCIES", "MASS", "MONEY", "TOTAL_KG", "UNWEIGHED", "Axle", "Axles",
    "Carried", "Centre", "Cost", "MassLine", "MassResult", "MoneyResult", "Stance", "Under", "Whereabouts",
    "move_places", "outline", "stance_in",
]  # fmt: skip
