"""Edits of the brief: its limits, and what is kept in hand."""

from typing import Any

from wired_union import units
from wired_union.project.change import Change, checked_name, figures_of, new_id, replaced, with_brief
from wired_union.project.dates import checked_day
from wired_union.project.errors import ProjectError
from wired_union.project.model import Limit, Project
from wired_union.project.value import BadFigure, checked


def add_limit(project: Project, limit: Limit) -> Change:
    if project.brief.limit(limit.measure):
        raise ProjectError(f"There already is a limit on {limit.measure}. Change its number instead.")
    after = with_brief(project, limits=(*project.brief.limits, limit))
    return Change(project, after, f"add a limit: {limit.name}")


def add_own_limit(project: Project, name: str) -> Change:
    """A limit on something that the team measures itself; its number, unit and proof are set afterwards."""
    name = checked_name(name, "limit")
    measure = new_id(f"own {name}", (x.measure for x in project.brief.limits))
    limit = Limit(measure=measure, name=name, value=1.0, direction="at least", group="Prove", own=True)
    after = with_brief(project, limits=(*project.brief.limits, limit))
    return Change(project, after, f"add a limit of our own: {name}")


def measure_limit(project: Project, measure: str, value: float | None, today: str) -> Change:
    """Write down what was measured, today unless another day stands there already; None takes it back."""
    limit = project.brief.limit(measure)
    on = "" if value is None else limit.measured_on or today if limit is not None else today
    return set_limit(project, measure, measured=value, measured_on=on)


def set_limit(project: Project, measure: str, **new: Any) -> Change:
    """Change fields of a limit: value, direction, reserve, name, group, proof, unit, who measured what and when."""
    old = project.brief.limit(measure)
    if old is None:
        raise ProjectError(f"There is no limit on {measure} any more.")
    if "measured_on" in new:
        new["measured_on"] = checked_day(new["measured_on"])
    try:
        limit = checked(old, **new)
    except BadFigure as error:
        raise ProjectError(_limit_reason(error)) from error
    if not limit.value and measure not in ZERO_MEANS:
        raise ProjectError(_LIMIT_REASONS["value"])
    after = with_brief(project, limits=replaced(project.brief.limits, old, limit))
    return Change(project, after, f"change the limit “{limit.name}”")


ZERO_MEANS = frozenset({"slack", "order-by"})
"""Measures of which nothing in hand is a limit that makes sense."""
_LIMIT_REASONS = {
    "value": "A limit is a number above zero.",
    "reserve": "The reserve is from 0 to below 100 %.",
    "name": "Give the limit a name.",
}


def _limit_reason(error: BadFigure) -> str:
    return _LIMIT_REASONS.get(error.field, f"{units.plain_words(error.field)} {error.reason}.")


def remove_limit(project: Project, measure: str) -> Change:
    old = project.brief.limit(measure)
    if old is None:
        raise ProjectError(f"There is no limit on {measure} any more.")
    after = with_brief(project, limits=tuple(x for x in project.brief.limits if x is not old))
    return Change(project, after, f"drop the limit “{old.name}”")


def set_energy_reserve(project: Project, reserve: float) -> Change:
    if not 0 <= reserve < 1:
        raise ProjectError("The reserve of the pack is from 0 to below 100 %.")
    text = units.show(reserve, fraction=True)
    return Change(project, with_brief(project, energy_reserve=reserve), f"keep {text} of the pack in reserve")


def set_air(project: Project, field: str, celsius: float) -> Change:
    """Set the warmest or the coldest air around the parts."""
    try:
        brief = checked(project.brief, **{field: celsius})
    except BadFigure as error:
        raise ProjectError(f"{units.plain_words(field)}: {error.reason}.") from error
    if brief.coldest_c > brief.hottest_c:
        raise ProjectError("The coldest air is warmer than the warmest.")
    after = project.but(brief=brief)
    return Change(
        project, after, f"air from {units.show(brief.coldest_c, '°C')} to {units.show(brief.hottest_c, '°C')}"
    )


def set_currency(project: Project, currency: str) -> Change:
    """What money is counted in. Amounts stay the numbers they are: nothing is converted."""
    if currency not in units.CURRENCIES:
        raise ProjectError(f"Choose one of {', '.join(units.CURRENCIES)}.")
    return Change(project, with_brief(project, currency=currency), f"count money in {currency}")


def set_mass_rule(project: Project, field: str, value: Any) -> Change:
    """Set how masses are allowed for: the school, its share, why, or the share of cables, screws, glue and paint."""
    with figures_of("The brief"):
        brief = checked(project.brief, **{field: value})
    words = units.show_named(field, value) if isinstance(value, float) else value or "not said"
    return Change(project, project.but(brief=brief), f"{units.plain_words(field)}: {words}")


def set_mass_margin(project: Project, margin: float) -> Change:
    if not 0 <= margin <= 1:
        raise ProjectError("The system margin is from 0 to 100 %.")
    text = units.show(margin, fraction=True)
    return Change(project, with_brief(project, mass_margin=margin), f"hold a mass margin of {text}")
