"""Edits of the site, of panels in the sun, and of what is plugged in."""

from typing import Any

from wired_union import units
from wired_union.project.change import Change, by_id, figures_of, replaced, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import add_listed, remove_listed, set_listed
from wired_union.project.model import Project
from wired_union.project.sun_model import Inlet, SunPanel
from wired_union.project.value import checked


def set_site(project: Project, **figures: Any) -> Change:
    """Where and when it stands in the sun. Raises ProjectError for what cannot be."""
    with figures_of("The site"):
        site = checked(project.brief.site, **figures)
    said = ", ".join(f"{units.plain_words(f)} {_shown(f, v)}" for f, v in figures.items())
    return Change(project, project.but(brief=project.brief.but(site=site)), f"the site: {said}")


def set_panel(project: Project, item_id: str, **figures: Any) -> Change:
    """How a solar panel stands, and what it charges. Raises ProjectError for a part that is none."""
    item = by_id(project.concept.items, item_id, "item")
    if item.part.panel is None:
        raise ProjectError(f"{item.name} is no solar panel: give its power in full sun first.")
    old = next((p for p in project.concept.sun_panels if p.item == item_id), None)
    with figures_of(item.name):
        new = checked(old or SunPanel(item=item_id), **figures)
    if new.charges and by_id(project.concept.items, new.charges, "item").part.pack is None:
        raise ProjectError(f"{item.name} charges a pack, nothing else.")
    panels = project.concept.sun_panels
    after = replaced(panels, old, new) if old is not None else (*panels, new)
    names = {i.id: i.name for i in project.concept.items}
    said = ", ".join(f"{units.plain_words(f)} {names.get(v, _shown(f, v))}" for f, v in figures.items())
    return Change(project, with_concept(project, sun_panels=after), f"{item.name}: {said}")


def _shown(field: str, value: Any) -> str:
    return value or "nothing" if isinstance(value, str) else units.show_named(field, value)


def add_inlet(project: Project, name: str, **figures: Any) -> Change:
    """One more thing that charges; the only pack where there is one."""
    packs = [i.id for i in project.concept.items if i.part.pack is not None]
    first = {"charges": packs[0]} if len(packs) == 1 else {}
    return add_listed(project, "inlets", Inlet, "charger", name, **{**first, **figures})


def set_inlet(project: Project, value_id: str, **figures: Any) -> Change:
    """Other figures of one. Raises ProjectError for what cannot be."""
    return set_listed(project, "inlets", value_id, "charger", **figures)


def remove_inlet(project: Project, value_id: str) -> Change:
    """One less."""
    return remove_listed(project, "inlets", value_id, "charger")
