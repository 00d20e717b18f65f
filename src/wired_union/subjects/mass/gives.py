"""What other subjects may read of mass and money."""

from wired_union.subjects.mass.assess import MASS, MONEY, TOTAL_KG, UNWEIGHED, MassLine, MassResult, MoneyResult
from wired_union.subjects.mass.balance import CARRIED, Carried

__all__ = ["CARRIED", "MASS", "MONEY", "TOTAL_KG", "UNWEIGHED", "Carried", "MassLine", "MassResult", "MoneyResult"]
