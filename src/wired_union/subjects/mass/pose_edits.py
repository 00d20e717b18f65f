"""Edits of how it stands at times. Each returns a Change, or raises ProjectError with what to do."""

from wired_union import units
from wired_union.project.change import (
    Change,
    by_id,
    checked_name,
    figures_of,
    find_item,
    new_id,
    replaced,
    with_concept,
)
from wired_union.project.model import Pose, PoseMode, Project, Shift
from wired_union.project.place_words import said_move
from wired_union.project.value import checked

NOTHING = Shift(item="-")


def add_pose(project: Project, name: str) -> Change:
    """Name a pose; what it is like is said next."""
    name = checked_name(name, "pose")
    pose = Pose(id=new_id(name, (p.id for p in project.concept.poses)), name=name)
    return Change(project, with_concept(project, poses=(*project.concept.poses, pose)), f"it can stand with {name}")


def remove_pose(project: Project, pose_id: str) -> Change:
    """Take a pose away."""
    pose = by_id(project.concept.poses, pose_id, "pose")
    poses = tuple(p for p in project.concept.poses if p is not pose)
    return Change(project, with_concept(project, poses=poses), f"it no longer stands with {pose.name}")


def set_pose(project: Project, pose_id: str, **figures: float) -> Change:
    """Set how hard it brakes, or where and how hard it is pushed."""
    pose = by_id(project.concept.poses, pose_id, "pose")
    with figures_of(pose.name):
        new = checked(pose, **figures)
    said = ", ".join(f"{units.plain_words(n)} {units.show_named(n, v)}" for n, v in figures.items())
    return _with(project, pose, new, said)


def pose_in_mode(project: Project, pose_id: str, mode_id: str, *, taken: bool) -> Change:
    """Say whether a mode takes a pose."""
    pose, mode = by_id(project.concept.poses, pose_id, "pose"), by_id(project.concept.modes, mode_id, "mode")
    modes = tuple(m for m in pose.modes if m.mode != mode_id)
    if taken:
        modes = (*modes, PoseMode(mode=mode_id))
    return _with(project, pose, pose.but(modes=modes), f"{'taken' if taken else 'not taken'} in {mode.name}")


def shift_part(project: Project, pose_id: str, item_id: str, **figures: float | None) -> Change:
    """Say how a part moves, or what each copy weighs, in a pose; one that does nothing is left out."""
    pose, item = by_id(project.concept.poses, pose_id, "pose"), find_item(project, item_id)
    old = next((s for s in pose.shifts if s.item == item_id), None)
    with figures_of(item.name):
        new = checked(old if old is not None else NOTHING.but(item=item_id), **figures)
    shifts = replaced(pose.shifts, old, new) if old is not None else (*pose.shifts, new)
    shifts = tuple(s for s in shifts if s.but(item="-") != NOTHING)
    weight = "" if new.mass_kg is None else f", {units.show(new.mass_kg, 'kg')} each"
    said = f"{item.name} {said_move(new.dx_m, new.dy_m, new.dz_m)}{weight}"
    return _with(project, pose, pose.but(shifts=shifts), said)


def _with(project: Project, old: Pose, new: Pose, said: str) -> Change:
    poses = replaced(project.concept.poses, old, new)
    return Change(project, with_concept(project, poses=poses), f"{old.name}: {said}")
