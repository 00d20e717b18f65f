"""Edits of the air over the mission, of boxes, and of how parts shed their heat."""

from itertools import pairwise
from typing import Any

from wired_union import units
from wired_union.project.change import Change, by_id, figures_of, replaced, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import add_listed, remove_listed, set_listed
from wired_union.project.model import Project
from wired_union.project.value import checked
from wired_union.project.warmth_model import AirAt, AirCurve, Enclosure, WarmPart

MOST_POINTS = 500


def add_enclosure(project: Project, name: str, **figures: Any) -> Change:
    """One more box with air of its own."""
    return add_listed(project, "enclosures", Enclosure, "box", name, **figures)


def set_enclosure(project: Project, value_id: str, **figures: Any) -> Change:
    """Other figures of a box. Raises ProjectError for what cannot be."""
    return set_listed(project, "enclosures", value_id, "box", **figures)


def remove_enclosure(project: Project, value_id: str) -> Change:
    """One box less; what was in it is in the air outside."""
    return remove_listed(project, "enclosures", value_id, "box")


def set_warm(project: Project, item_id: str, **figures: Any) -> Change:
    """How a part sheds its heat, or what a heater keeps warm. Raises ProjectError for what cannot be."""
    item = by_id(project.concept.items, item_id, "item")
    old = next((w for w in project.concept.warm_parts if w.item == item_id), None)
    with figures_of(item.name):
        new = checked(old or WarmPart(item=item_id), **figures)
    if new.plate == item_id:
        raise ProjectError(f"{item.name} cannot be fixed to itself.")
    if new.enclosure:
        by_id(project.concept.enclosures, new.enclosure, "box")
    if new.plate:
        by_id(project.concept.items, new.plate, "item")
    parts = project.concept.warm_parts
    after = replaced(parts, old, new) if old is not None else (*parts, new)
    said = ", ".join(f"{units.plain_words(f)} {_said(project, new, f)}" for f in figures)
    return Change(project, with_concept(project, warm_parts=after), f"{item.name}: {said}")


def _said(project: Project, warm: WarmPart, field: str) -> str:
    value = getattr(warm, field)
    if field in {"enclosure", "plate"}:
        names = {e.id: e.name for e in project.concept.enclosures} | {i.id: i.name for i in project.concept.items}
        return names.get(value, "none")
    return value if isinstance(value, str) else units.show_named(field, value)


def set_air_curve(project: Project, **figures: Any) -> Change:
    """How the air goes between the coldest and the warmest. Raises ProjectError for what cannot be."""
    with figures_of("The air"):
        air = checked(project.brief.air, **figures)
    said = ", ".join(
        f"{units.plain_words(f)} {v if isinstance(v, str) else units.show_named(f, v)}" for f, v in figures.items()
    )
    return Change(project, project.but(brief=project.brief.but(air=air)), f"the air over the mission: {said}")


def type_air(project: Project, text: str) -> Change:
    """A profile of times and temperatures in lines, times rising. Raises ProjectError for a line of something else."""
    points = []
    for n, line in enumerate((x for x in text.replace(";", "\n").splitlines() if x.strip()), 1):
        points.append(_point(line, n))
    if not points:
        raise ProjectError("Type a time and a temperature in each line, such as “2 h  −5”.")
    if len(points) > MOST_POINTS:
        raise ProjectError(f"{len(points)} lines are more than {MOST_POINTS}; a point where it bends is enough.")
    for before, after in pairwise(points):
        if after.at_s <= before.at_s:
            raise ProjectError("Times must rise from line to line.")
    air = AirCurve(kind="typed", begins_h=project.brief.air.begins_h, points=tuple(points))
    after_all = project.but(brief=project.brief.but(air=air))
    return Change(project, after_all, f"the air over the mission: {len(points)} points typed")


def _point(line: str, number: int) -> AirAt:
    words = line.replace(",", ".").replace("\u2212", "-").split()
    try:
        air = float(words[-1].removesuffix("°C").removesuffix("C"))
        at = units.parse(" ".join(words[:-1]), "s")
        with figures_of(f"Line {number}"):
            return checked(AirAt(at_s=0.0, air_c=0.0), at_s=at, air_c=air)
    except (ValueError, IndexError) as error:
        raise ProjectError(f"Line {number}: write a time and a temperature, such as “2 h  −5”.") from error
