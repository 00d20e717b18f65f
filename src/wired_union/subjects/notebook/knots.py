"""Versions: tying a knot, giving one up, comparing two, bringing a part, a subsystem or a whole version back."""

from msgspec import Struct

from wired_union.kernel.differences import differences
from wired_union.kernel.ripple import Ripple, compare
from wired_union.kernel.subject import Assessment
from wired_union.project.change import Change, by_id, checked_name, new_id, plain, replaced, with_concept_value
from wired_union.project.errors import ProjectError
from wired_union.project.merge import merged
from wired_union.project.model import Concept, Item, Project, Subsystem
from wired_union.project.notebook_model import Landed, Version
from wired_union.project.references import check_whole, dangling, without

KEPT_NOW = ("notebook", "versions", "defects", "signatures", "days_left_out", "keeps_history", "beyond")
"""Fields that stay as they are when a whole version comes back: what was learnt since is not forgotten."""


def tie_knot(
    assessment: Assessment, name: str, about: str, on: str, by: str, digest: str, before: Project | None
) -> Change:  # fmt: skip
    """A knot: the project as it is, kept by `digest`. `before` is the version that it came from, where that is there.

    Raises ProjectError where there is a knot of that name.
    """
    project = assessment.project
    name = checked_name(name, "version")
    if any(v.name.casefold() == name.casefold() for v in project.versions):
        raise ProjectError(f"There is a version {name} already. Give this one another name.")
    parent = parent_of(project)
    version = Version(
        id=new_id(name, (v.id for v in project.versions)), name=name, on=on, by=by, concept=project.concept.letter,
        parent=parent.id if parent is not None else "", digest=digest, about=plain(about),
        changed=tuple(told_differences(before, assessment)) if before is not None else (), landed=landed(assessment),
    )  # fmt: skip
    return Change(project, project.but(versions=(*project.versions, version)), f"tie the knot {name}")


def told_differences(one: Project, other: Assessment) -> list[str]:
    """Every difference of two projects but what the notebook says of itself."""
    quiet = {field: getattr(other.project, field) for field in KEPT_NOW}
    return differences(one.but(**quiet), other.project, other.units)


def parent_of(project: Project) -> Version | None:
    """The version that the present came from: the last of its concept, or of the one that it was copied from."""
    concept: Concept | None = project.concept
    seen: set[str] = set()
    while concept is not None and concept.id not in seen:
        seen.add(concept.id)
        mine = [v for v in project.versions if v.concept == concept.letter and not v.dropped]
        if mine:
            return mine[-1]
        concept = next((c for c in project.concepts if concept.copied_from == c.id), None)
    return None


def next_name(project: Project) -> str:
    """What the next knot of the concept at work would be called: "A3"."""
    letter = project.concept.letter
    taken = {v.name.casefold() for v in project.versions}
    return next(f"{letter}{n}" for n in range(1, len(taken) + 2) if f"{letter}{n}".casefold() not in taken)


def landed(assessment: Assessment) -> tuple[Landed, ...]:
    """Where each limit stands."""
    found = []
    for m in assessment.measures:
        finite = m.value is not None and abs(m.value) <= 1e9
        found.append(Landed(measure=m.id, name=m.label, value=m.value if finite else None, unit=m.unit, limit=m.limit,
                            verdict=m.verdict.value))  # fmt: skip
    return tuple(found)


def drop_version(project: Project, version: str, why: str, on: str) -> Change:
    """Give a version up, with the reason: its rope ends there. Raises ProjectError without one."""
    old = by_id(project.versions, version, "version")
    said = plain(why)
    if not said:
        raise ProjectError(f"Say why {old.name} is given up: whoever reads this next year will ask.")
    new = old.but(dropped=said, dropped_on=on)
    return Change(project, project.but(versions=replaced(project.versions, old, new)), f"give up {old.name}: {said}")


def take_up_again(project: Project, version: str) -> Change:
    """A version that was given up is alive again."""
    old = by_id(project.versions, version, "version")
    new = old.but(dropped="", dropped_on="")
    return Change(project, project.but(versions=replaced(project.versions, old, new)), f"take {old.name} up again")


class Compared(Struct, frozen=True):
    """Two states of a project: every difference, and what each limit did."""

    said: tuple[str, ...]
    ripple: Ripple


def compared(one: Assessment, other: Assessment) -> Compared:
    """What differs from one to the other."""
    return Compared(tuple(told_differences(one.project, other)), compare(one, other, ""))


# bringing back


def bring_version(project: Project, version: Version, was: Project) -> Change:
    """Everything as it was in a version, as one edit; notebook, faults and versions stay."""
    after = was.but(**{field: getattr(project, field) for field in KEPT_NOW})
    check_whole(after)
    return Change(project, after, f"bring {version.name} back")


def bring_part(project: Project, version: Version, was: Project, item: str) -> Change:
    """One part as it was, with what names it where it is gone: its feed, its uses, its wires.

    Raises ProjectError where the version has no such part.
    """
    old = by_id(was.concept.items, item, "part")
    after = _with_item(_with_lane(project, was.concept, old.subsystem), was.concept, old)
    return Change(project, _whole(after), f"bring {old.name} back from {version.name}")


def bring_subsystem(project: Project, version: Version, was: Project, subsystem: str) -> Change:
    """One subsystem with its parts as they were: those that it has now and had not go."""
    lane: Subsystem = by_id(was.concept.subsystems, subsystem, "subsystem")
    after = _with_lane(project, was.concept, subsystem)
    had = {i.id: i for i in was.concept.items if i.subsystem == subsystem}
    for gone in [i for i in after.concept.items if i.subsystem == subsystem and i.id not in had]:
        after = with_concept_value(after, without(after.concept, "items", gone.id))
    for item in had.values():
        after = _with_item(after, was.concept, item)
    return Change(project, _whole(after), f"bring {lane.name} back from {version.name}")


def _with_lane(project: Project, was: Concept, subsystem: str) -> Project:
    lane: Subsystem = by_id(was.subsystems, subsystem, "subsystem")
    concept = project.concept
    if any(s.id == subsystem for s in concept.subsystems):
        return project
    return with_concept_value(project, concept.but(subsystems=(*concept.subsystems, lane)))


def _with_item(project: Project, was: Concept, item: Item) -> Project:
    """The project with an item as it was; one that is not there any more brings along what named it."""
    concept = project.concept
    present = next((i for i in concept.items if i.id == item.id), None)
    if present is not None:
        items = replaced(concept.items, present, _known_names(concept, item))
        return with_concept_value(project, concept.but(items=items))
    there = was.but(id=concept.id)
    base, theirs = (with_concept_value(project, c) for c in (without(there, "items", item.id), there))
    return merged(base, project, theirs, rest="ours").project


def _known_names(concept: Concept, item: Item) -> Item:
    """The item without names of parts that are not there."""
    there = {i.id for i in concept.items}
    gone = {f: "" for f in ("board", "shifted_by") if getattr(item, f) and getattr(item, f) not in there}
    return item.but(**gone)


def _whole(project: Project) -> Project:
    """The project itself. Raises ProjectError where it names what is not there."""
    left = dangling(project)
    if left:
        raise ProjectError(f"It cannot come back alone: it names “{left[0].id}”, which is not there. Bring that first.")
    check_whole(project)
    return project
