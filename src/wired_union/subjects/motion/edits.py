"""Edits of loads to move, of mounts that can swing, and of the room there is."""

from collections.abc import Callable
from typing import Any, TypeVar

from wired_union import units
from wired_union.project.change import (
    Change,
    by_id,
    checked_name,
    find_item,
    new_id,
    replaced,
    with_brief,
    with_concept,
    with_concept_value,
)
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import said_value
from wired_union.project.model import AnyLoad, Mount, Project
from wired_union.project.motion_model import LOAD_KINDS
from wired_union.project.part_edits import set_count
from wired_union.project.references import forgotten
from wired_union.project.value import BadFigure, Value, checked, made, references

L = TypeVar("L", bound=Value)
_CALLED = {"items": "part", "modes": "mode", "loads": "load"}


def add_load(project: Project, kind: str, name: str, **figures: Any) -> Change:
    """Say that something must move: wheels, arm, drum, screw, spin, stored, slew, canopy or flap."""
    name = checked_name(name, "load")
    load_id = new_id(name, (x.id for x in project.concept.loads))
    if kind not in LOAD_KINDS:
        raise ProjectError(f"There is no kind of load “{kind}”. There are: {', '.join(LOAD_KINDS)}.")
    load = _said(name, lambda: made(LOAD_KINDS[kind], id=load_id, name=name, **figures))
    _check_named(project, load)
    after = with_concept(project, loads=(*project.concept.loads, load))
    return Change(project, after, f"{name} is to move")


def set_load(project: Project, load_id: str, **new: Any) -> Change:
    """Change figures of a load. Raises ProjectError for one that makes no sense."""
    load = by_id(project.concept.loads, load_id, "load")
    changed = _said(load.name, lambda: checked(load, **new))
    _check_named(project, changed)
    field = next(iter(new))
    after = with_concept(project, loads=replaced(project.concept.loads, load, changed))
    return Change(project, after, f"{load.name}: {units.plain_words(field)} {said_value(project, changed, field)}")


def _said(name: str, make: Callable[[], L]) -> L:
    try:
        return make()
    except BadFigure as error:
        raise ProjectError(f"{name}, {units.plain_words(error.field)}: {error.reason}.") from error


def _check_named(project: Project, load: AnyLoad) -> None:
    """Raise ProjectError where a load names a part or a mode that is not there."""
    for field, ref in references(type(load)).items():
        if named := getattr(load, field):
            by_id(getattr(project.concept, ref.room), named, _CALLED[ref.room])


def remove_load(project: Project, load_id: str) -> Change:
    load = by_id(project.concept.loads, load_id, "load")
    left = project.concept.but(loads=tuple(x for x in project.concept.loads if x is not load))
    after = with_concept_value(project, forgotten(left, "loads", load.id))
    return Change(project, after, f"{load.name} need not move any more")


def drive_wheels(project: Project, load_id: str, driven: int) -> Change:
    """Drive so many wheels, each by a motor of its own: the load and the count of motors in one edit."""
    load = by_id(project.concept.loads, load_id, "load")
    changed = set_load(project, load_id, driven_wheels=driven).after
    if load.actuator:
        changed = set_count(changed, find_item(changed, load.actuator).id, driven).after
    return Change(project, changed, f"{load.name}: {driven} wheels driven")


def add_mount(project: Project, name: str) -> Change:
    """Name something that can swing."""
    name = checked_name(name, "mount")
    mount = Mount(id=new_id(name, (m.id for m in project.concept.mounts)), name=name)
    return Change(project, with_concept(project, mounts=(*project.concept.mounts, mount)), f"{name} can swing")


def set_mount(project: Project, mount_id: str, **new: Any) -> Change:
    mount = by_id(project.concept.mounts, mount_id, "mount")
    changed = _said(mount.name, lambda: checked(mount, **new))
    after = with_concept(project, mounts=replaced(project.concept.mounts, mount, changed))
    return Change(project, after, f"change {changed.name}")


def remove_mount(project: Project, mount_id: str) -> Change:
    mount = by_id(project.concept.mounts, mount_id, "mount")
    after = with_concept(project, mounts=tuple(m for m in project.concept.mounts if m is not mount))
    return Change(project, after, f"{mount.name} is no longer watched")


def set_space(project: Project, field: str, value: float | None) -> Change:
    """Set a side of the room there is; None for no limit."""
    if value is not None and value <= 0:
        raise ProjectError("A room is above zero; leave the field empty for no limit.")
    space = _said("The room", lambda: checked(project.brief.space, **{field: value}))
    text = "no limit" if value is None else units.show_named(field, value)
    return Change(project, with_brief(project, space=space), f"{units.plain_words(field)}: {text}")
