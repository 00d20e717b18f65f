"""What a team works out itself: knobs with a number, and formulas over them and over the figures of the project."""

from typing import Annotated

from wired_union.project.value import Finite, Name, Value, about

Expression = Annotated[str, about("an expression such as floor((arm - spring) / piece)")]


class Knob(Value, frozen=True, kw_only=True):
    """A named number of one concept; formulas call it by its id with _ for -."""

    id: Name
    name: Name
    value: Annotated[Finite, about("its number, in its unit")]
    unit: Annotated[str, about("its unit; empty for a plain number")] = ""
    least: Annotated[Finite, about("where its slider begins")] = 0.0
    most: Annotated[Finite, about("where its slider ends")] = 0.0


class Formula(Value, frozen=True, kw_only=True):
    """Something the team works out: a measure like any other, once its expression can be worked out."""

    id: Name
    name: Name
    text: Expression = ""
    unit: Annotated[str, about("unit it is shown in; empty for what comes out")] = ""
