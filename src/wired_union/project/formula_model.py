"""What a team works out itself: knobs with a number, and formulas over them and over the figures of the project."""

from wired_union.project.value import Finite, Name, Value


class Knob(Value, frozen=True, kw_only=True):
    """A named number of one concept; formulas call it by its id with _ for -."""

    id: Name
    name: Name
    value: Finite
    """its number, in its unit"""
    unit: str = ""
    """its unit; empty for a plain number"""
    least: Finite = 0.0
    """where its slider begins"""
    most: Finite = 0.0
    """where its slider ends"""


class Formula(Value, frozen=True, kw_only=True):
    """Something the team works out: a measure like any other, once its expression can be worked out."""

    id: Name
    name: Name
    text: str = ""
    """an expression such as floor((arm - spring) / piece)"""
    unit: str = ""
    """unit it is shown in; empty for what comes out"""
