"""What is selected among the formulas."""

from msgspec import Struct


class FormulaPick(Struct, frozen=True):
    formula: str = ""
