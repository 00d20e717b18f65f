"""What other subjects may read of mass and money."""

from wired_union.subjects.mass.assess import MASS, MONEY, TOTAL_KG, UNWEIGHED, MassLine, MassResult, MoneyResult

__all__ = ["MASS", "MONEY", "TOTAL_KG", "UNWEIGHED", "MassLine", "MassResult", "MoneyResult"]
