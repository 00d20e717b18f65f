"""Edits of where things are. Each returns a Change, or raises ProjectError with what to do."""

from typing import Any

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
from wired_union.project.errors import ProjectError
from wired_union.project.model import Foot, Item, Place, Project, Room, Subsystem
from wired_union.project.place_words import said_move, said_place
from wired_union.project.value import checked, made

SIDES = ("back_m", "front_m", "right_m", "left_m", "bottom_m", "top_m")


def set_place(project: Project, item_id: str, copy: int, **figures: float) -> Change:
    """Set where a copy of a part is; figures that are not given stay, and are 0 for a copy without a place.

    Copies before it that have no place yet cannot be left out: they come first.
    """
    item = find_item(project, item_id)
    if not 0 <= copy < item.count:
        raise ProjectError(f"There are {item.count} of {item.name}.")
    if copy > len(item.places):
        raise ProjectError(f"Say first where copy {len(item.places) + 1} of {item.name} is.")
    with figures_of(item.name):
        old = item.places[copy] if copy < len(item.places) else None
        new = (
            checked(old, **figures)
            if old is not None
            else made(Place, **{"x_m": 0.0, "y_m": 0.0, "z_m": 0.0, **figures})
        )
    places = (*item.places[:copy], new, *item.places[copy + 1 :])
    return _placed(project, item, places, f"{_named(item, copy)} at {said_place(new)}")


def move_places(
    project: Project, item_id: str, dx_m: float, dy_m: float, dz_m: float, copy: int | None = None
) -> Change:
    """Move a copy of a part, or all that have a place."""
    item = find_item(project, item_id)
    which = range(len(item.places)) if copy is None else (copy,)
    if not item.places or any(n >= len(item.places) for n in which):
        raise ProjectError(f"{item.name} has no place yet. Say where it is first.")
    with figures_of(item.name):
        moved = tuple(
            checked(p, x_m=p.x_m + dx_m, y_m=p.y_m + dy_m, z_m=p.z_m + dz_m) if n in which else p
            for n, p in enumerate(item.places)
        )
    return _placed(project, item, moved, f"move {_named(item, copy)} {said_move(dx_m, dy_m, dz_m)}")


def mirror_place(project: Project, item_id: str) -> Change:
    """Place the copy after the last placed one on the other side of the middle."""
    item = find_item(project, item_id)
    if not item.places:
        raise ProjectError(f"Say first where copy 1 of {item.name} is.")
    if len(item.places) >= item.count:
        raise ProjectError(f"All {item.count} of {item.name} have a place. Make it one more first.")
    last = item.places[-1]
    new = last.but(y_m=-last.y_m, turn_deg=-last.turn_deg)
    return _placed(project, item, (*item.places, new), f"mirror {item.name} to {said_place(new)}")


def forget_places(project: Project, item_id: str) -> Change:
    """Say that nobody knows where a part is."""
    item = find_item(project, item_id)
    return _placed(project, item, (), f"{item.name} has no place")


def set_room(project: Project, subsystem: str, **sides: float | None) -> Change:
    """Set sides of the box that a subsystem's parts are in; None for all of them says that there is none."""
    lane = by_id(project.concept.subsystems, subsystem, "subsystem")
    if sides and all(v is None for v in sides.values()):
        return _with_lane(project, lane, None, f"{lane.name} has no room of its own")
    given = {side: getattr(lane.room, side) if lane.room is not None else 0.0 for side in SIDES}
    given |= {side: v for side, v in sides.items() if v is not None}
    with figures_of(lane.name):
        room = made(Room, **given)
    for low, high in (("back_m", "front_m"), ("right_m", "left_m"), ("bottom_m", "top_m")):
        if getattr(room, low) > getattr(room, high):
            raise ProjectError(f"{lane.name}: its {low.removesuffix('_m')} lies beyond its {high.removesuffix('_m')}.")
    words = ", ".join(f"{units.plain_words(s)} {units.show(v, 'm')}" for s, v in sides.items() if v is not None)
    return _with_lane(project, lane, room, f"room of {lane.name}: {words}")


def add_foot(project: Project, name: str, x_m: float, y_m: float, z_m: float = 0.0) -> Change:
    """Say that it stands on one more point."""
    name = checked_name(name, "foot")
    concept = project.concept
    with figures_of(name):
        foot = made(Foot, id=new_id(name, (f.id for f in concept.feet)), name=name, x_m=x_m, y_m=y_m, z_m=z_m)
    return Change(project, with_concept(project, feet=(*concept.feet, foot)), f"it stands on {name}")


def set_foot(project: Project, foot_id: str, **figures: float) -> Change:
    """Move a foot."""
    foot = by_id(project.concept.feet, foot_id, "foot")
    with figures_of(foot.name):
        new = checked(foot, **figures)
    feet = replaced(project.concept.feet, foot, new)
    return Change(
        project,
        with_concept(project, feet=feet),
        f"{foot.name} at {units.show(new.x_m, 'm')}, {units.show(new.y_m, 'm')}",
    )


def remove_foot(project: Project, foot_id: str) -> Change:
    """Take a foot away."""
    foot = by_id(project.concept.feet, foot_id, "foot")
    feet = tuple(f for f in project.concept.feet if f is not foot)
    return Change(project, with_concept(project, feet=feet), f"it does not stand on {foot.name}")


def _named(item: Item, copy: int | None) -> str:
    return item.name if copy is None or item.count == 1 else f"{item.name} {copy + 1}"


def _placed(project: Project, item: Item, places: tuple[Place, ...], sentence: str) -> Change:
    items: Any = replaced(project.concept.items, item, item.but(places=places))
    return Change(project, with_concept(project, items=items), sentence)


def _with_lane(project: Project, lane: Subsystem, room: Room | None, sentence: str) -> Change:
    lanes = replaced(project.concept.subsystems, lane, lane.but(room=room))
    return Change(project, with_concept(project, subsystems=lanes), sentence)
