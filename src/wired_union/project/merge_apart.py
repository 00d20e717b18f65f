"""Two things that two members added under one id, told apart before they are put together."""

from typing import Any

from wired_union.project.change import new_id
from wired_union.project.model import Concept, Project
from wired_union.project.references import ONE_NAME, PROJECT_ROOMS, inner_kinds, renamed
from wired_union.project.value import Value
from wired_union.project.writing import compact

_PLACES = ("subsystem", "concept")
"""Fields besides the name by which two values of one id are the same thing, or are not."""


def told_apart(base: Project, ours: Project, theirs: Project) -> tuple[Project, Project]:
    """Both sides, with what one of them added under an id that the other gave to something else under its own.

    Which of the two gets the new id does not depend on whose it is.
    """
    for room in sorted(_rooms(Project), key=lambda r: r != "concepts"):  # their letters first: the rest is in them
        ours, theirs = _room_apart((), room, base, ours, theirs)
    for room in ("people", "machines"):
        ours, theirs = _room_apart(("plan",), room, base, ours, theirs)
    there = {c.id for c in theirs.concepts}
    for concept in [c.id for c in ours.concepts if c.id in there]:
        for room in _rooms(Concept):
            ours, theirs = _room_apart(("concepts", concept), room, base, ours, theirs)
    return ours, theirs


def _rooms(kind: type[Value]) -> list[str]:
    """Lists of a kind of value whose values have ids."""
    return [f for f, kinds in inner_kinds(kind).items() if any("id" in k.__struct_fields__ for k in kinds)]


Path = tuple[str, ...]


def _listed(project: Project, path: Path, room: str) -> tuple[Any, ...]:
    """A list of a project, of its plan, or of a concept of it; () where there is no such concept."""
    found: Any = project
    if path[:1] == ("plan",):
        found = project.plan
    elif path:
        found = next((c for c in project.concepts if c.id == path[1]), None)
    values = getattr(found, room, ())
    return values if isinstance(values, tuple) else ()


def _taken(project: Project, path: Path, room: str) -> set[str]:
    """Ids that are taken where a value of a list would stand."""
    rooms = next((group for group in ONE_NAME if room in group), (room,))
    return {v.id for r in rooms for v in _listed(project, path, r)}


def _room_apart(path: Path, room: str, base: Project, ours: Project, theirs: Project) -> tuple[Project, Project]:
    mine, others = ({v.id: v for v in _listed(p, path, room)} for p in (ours, theirs))
    known = _taken(base, path, room)
    for clash in [i for i in mine if i in others and i not in known and i]:
        one, other = mine[clash], others[clash]
        if one == other or _same_thing(one, other):
            continue
        taken = {*known, *_taken(ours, path, room), *_taken(theirs, path, room)}
        new = new_id(clash, taken)
        if compact(one) > compact(other):
            ours = _renamed_in(ours, path, room, clash, new)
        else:
            theirs = _renamed_in(theirs, path, room, clash, new)
    return ours, theirs


def _same_thing(one: Any, other: Any) -> bool:
    """Whether two values of one id are one thing that two hands filled in otherwise."""
    if type(one) is not type(other):
        return False
    return all(getattr(one, f, "") == getattr(other, f, "") for f in ("name", *_PLACES))


def _renamed_in(project: Project, path: Path, room: str, old: str, new: str) -> Project:
    """A project with one thing of a list under a new id, and everything that names it with it."""
    if room in PROJECT_ROOMS:
        project = renamed(project, room, old, new)
    if not path:
        return project.but(**{room: _with_id(getattr(project, room), old, new)})
    if path == ("plan",):
        return project.but(plan=project.plan.but(**{room: _with_id(getattr(project.plan, room), old, new)}))
    concepts = tuple(_concept_renamed(c, room, old, new) if c.id == path[1] else c for c in project.concepts)
    return _limits_renamed(project.but(concepts=concepts), old, new)


def _concept_renamed(concept: Concept, room: str, old: str, new: str) -> Concept:
    named = renamed(concept, room, old, new)
    return named.but(**{room: _with_id(getattr(named, room), old, new)})


def _limits_renamed(project: Project, old: str, new: str) -> Project:
    """Limits and trials on a measure of the thing, which is named by its kind and the thing's id."""

    def of(measure: str) -> str:
        kind, colon, thing = measure.partition(":")
        return f"{kind}{colon}{new}" if colon and thing == old else measure

    limits = tuple(x.but(measure=of(x.measure)) for x in project.brief.limits)
    trials = tuple(t.but(limit=of(t.limit)) for t in project.trials)
    return project.but(brief=project.brief.but(limits=limits), trials=trials)


def _with_id(values: tuple[Any, ...], old: str, new: str) -> tuple[Any, ...]:
    return tuple(v.but(id=new) if v.id == old else v for v in values)
