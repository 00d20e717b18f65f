"""Packs that stand side by side on one supply."""

from typing import Annotated, Literal

from wired_union.project.value import Amount, Name, Positive, Ref, Value


class JoinedPack(Value, frozen=True, kw_only=True):
    """A pack beside another, on which the loads hang."""

    pack: Annotated[Name, Ref("items")]
    """the pack that loads hang on"""
    beside: Annotated[Name, Ref("items")]
    """the other one, which feeds nothing by itself"""
    how: Literal["diodes", "switch"] = "diodes"
    """each through a diode, so that the higher gives; or one after the other through a switch"""
    drop_v: Amount | None = None
    """voltage that each diode keeps; about 0.4 V for a Schottky diode, 0.02 V for an ideal one"""
    resistance_ohm: Amount = 0.0
    """of each diode, or of the switch"""
    max_current_a: Positive | None = None
    """most current of each diode, or of the switch"""
