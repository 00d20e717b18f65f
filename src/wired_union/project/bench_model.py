"""The bench: what was woken, what it waits for, and every reading as it was."""

from typing import Annotated

from wired_union.project.value import Finite, Name, Ref, Value


class Reading(Value, frozen=True, kw_only=True):
    """One figure of a part as an instrument showed it."""

    item: Annotated[Name, Ref("items")]
    figure: Name
    """which figure: the one that it would replace, or volts, or an answer"""
    value: Finite
    on: str = ""
    """when, as 2026-11-28"""
    by: str = ""
    """who"""
    instrument: str = ""
    """with what"""
    note: str = ""


class Waking(Value, frozen=True, kw_only=True):
    """How far one part is woken."""

    item: Annotated[Name, Ref("items")]
    woken_on: str = ""
    """when it worked; not yet while empty"""
    by: str = ""
    """who woke it"""
    waits_for: str = ""
    """a person, a tool or a delivery that it waits for"""
