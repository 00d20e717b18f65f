"""Edits of features: what could be left out, with its parts."""

from typing import Any

from wired_union.project.change import Change, by_id, find_item, replaced, with_concept
from wired_union.project.listed_edits import add_listed, set_listed
from wired_union.project.model import Project
from wired_union.project.plan_model import Feature, FeaturePart


def add_feature(project: Project, name: str, **figures: Any) -> Change:
    """One more thing that could be left out."""
    return add_listed(project, "features", Feature, "feature", name, **figures)


def set_feature(project: Project, feature_id: str, **figures: Any) -> Change:
    return set_listed(project, "features", feature_id, "feature", **figures)


def with_part(project: Project, feature_id: str, item_id: str, there: bool = True) -> Change:
    """Whether a part is there for a feature alone, and goes with it."""
    found = project.concept.features
    old, item = by_id(found, feature_id, "feature"), find_item(project, item_id)
    kept = tuple(p for p in old.parts if p.item != item_id)
    new = old.but(parts=(*kept, FeaturePart(item=item_id)) if there else kept)
    said = f"{old.name}: {'with' if there else 'without'} {item.name}"
    return Change(project, with_concept(project, features=replaced(found, old, new)), said)
