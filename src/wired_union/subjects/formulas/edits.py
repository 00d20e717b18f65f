"""Edits of knobs and formulas."""

import re
from typing import Any

from wired_union import units
from wired_union.kernel.expression import FormulaError, names_in
from wired_union.project.change import Change, by_id, checked_name, new_id, replaced, with_brief, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.model import Formula, Knob, Project
from wired_union.project.value import BadFigure, checked
from wired_union.subjects.formulas.names import word_of
from wired_union.unit_symbols import symbol

_AMOUNT = r"^(?P<number>.*?\d[\d.,]*(?:[eE][-+]?\d+)?)\s*(?P<unit>[^\d\s].*)?$"
SPREAD = 2.0
"""How many times its number a new knob's slider reaches."""


def add_knob(project: Project, text: str) -> Change:
    """A knob from "arm length = 350 mm". Raises ProjectError for a text without a name or a number."""
    name, found, amount = text.partition("=")
    name = checked_name(name, "knob")
    if not found:
        raise ProjectError("Write a name and a number, such as “arm length = 350 mm”.")
    value, unit = _amount(amount.strip())
    taken = {k.id for k in project.concept.knobs} | {f.id for f in project.brief.formulas}
    knob = Knob(id=new_id(name, taken), name=name, value=value, unit=unit, most=_most(value))
    after = with_concept(project, knobs=(*project.concept.knobs, knob))
    return Change(project, after, f"a knob: {name} = {units.show(value, unit)}")


def _amount(text: str) -> tuple[float, str]:
    """A number and the program's unit for what stands behind it; a word that is no unit counts things."""
    match = re.match(_AMOUNT, text)
    tail = (match.group("unit") or "").strip() if match is not None else ""
    known = symbol(tail) if tail else None
    unit = known[0] if known is not None else next((c for c in units.CURRENCIES if text.startswith(c)), "")
    try:
        if tail and known is None and unit == "" and match is not None:
            return units.parse(match.group("number")), tail
        return units.parse(text, unit), unit
    except units.UnitError as error:
        raise ProjectError(str(error)) from error


def read_amount(text: str, unit: str) -> float:
    """A typed number in a knob's unit, or with the word that it counts behind it. Raises ValueError."""
    if unit and symbol(unit) is None:
        return units.parse(text.strip().removesuffix(unit))
    return units.parse(text, unit)


def _most(value: float) -> float:
    return value * SPREAD if value > 0 else max(1.0, abs(value))


def set_knob(project: Project, knob_id: str, **new: Any) -> Change:
    """Change a knob's value, name, unit, or the ends of its slider."""
    knob = by_id(project.concept.knobs, knob_id, "knob")
    try:
        made = checked(knob, **new)
    except BadFigure as error:
        raise ProjectError(f"{units.plain_words(error.field)} {error.reason}.") from error
    if made.least >= made.most:
        raise ProjectError("The slider must begin below where it ends.")
    after = with_concept(project, knobs=replaced(project.concept.knobs, knob, made))
    return Change(project, after, f"{made.name} = {units.show(made.value, made.unit)}")


def remove_knob(project: Project, knob_id: str) -> Change:
    knob = by_id(project.concept.knobs, knob_id, "knob")
    after = with_concept(project, knobs=tuple(k for k in project.concept.knobs if k is not knob))
    return Change(project, after, f"take the knob {knob.name} away")


def add_formula(project: Project, text: str) -> Change:
    """A formula from "pieces = floor((arm - spring) / piece)"; what its names stand for is looked up when it is worked
    out. Raises ProjectError for a text that cannot be read.
    """
    name, found, expression = text.partition("=")
    name = checked_name(name, "formula")
    if not found:
        raise ProjectError("Write a name and an expression, such as “pieces = floor((arm - spring) / piece)”.")
    taken = {k.id for c in project.concepts for k in c.knobs} | {f.id for f in project.brief.formulas}
    formula = Formula(id=new_id(name, taken), name=name, text=_readable(expression))
    after = with_brief(project, formulas=(*project.brief.formulas, formula))
    return Change(project, after, f"a formula: {name} = {formula.text}")


def set_formula(project: Project, formula_id: str, **new: Any) -> Change:
    """Change a formula's name, expression or unit."""
    formula = by_id(project.brief.formulas, formula_id, "formula")
    if "text" in new:
        new["text"] = _readable(new["text"])
    if "name" in new:
        new["name"] = checked_name(new["name"], "formula")
    made = formula.but(**new)
    after = with_brief(project, formulas=replaced(project.brief.formulas, formula, made))
    return Change(project, after, f"{made.name} = {made.text}")


def _readable(text: str) -> str:
    """The expression without spaces around it. Raises ProjectError where it cannot be read."""
    try:
        names_in(text)
    except FormulaError as error:
        raise ProjectError(str(error)) from error
    return text.strip()


def remove_formula(project: Project, formula_id: str) -> Change:
    """Take a formula away, with the limit on it. Raises ProjectError while another formula rests on it."""
    formula = by_id(project.brief.formulas, formula_id, "formula")
    users = [f.name for f in project.brief.formulas if f is not formula and word_of(formula.id) in names_in(f.text)]
    if users:
        raise ProjectError(f"{users[0]} rests on {formula.name}. Change that first.")
    kept = tuple(f for f in project.brief.formulas if f is not formula)
    limits = tuple(x for x in project.brief.limits if x.measure != f"formula:{formula.id}")
    return Change(project, with_brief(project, formulas=kept, limits=limits), f"take the formula {formula.name} away")
