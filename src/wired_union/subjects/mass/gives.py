"""What other subjects may read of mass and money."""

from wired_union.subjects.mass.assess import MASS, MONEY, TOTAL_KG, UNWEIGHED, MassLine, MassResult, MoneyResult
from wired_union.subjects.mass.beams import FREQUENCIES
from wired_union.subjects.mass.stance import CARRIED, Axle, Axles, Carried, Stance, stance_in

__all__ = [
    "CARRIED", "FREQUENCIES", "MASS", "MONEY", "TOTAL_KG", "UNWEIGHED", "Axle", "Axles", "Carried", "MassLine",
    "MassResult", "MoneyResult", "Stance", "stance_in",
]  # fmt: skip
