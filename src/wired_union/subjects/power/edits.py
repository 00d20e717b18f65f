"""Edits of modes, of what each part does in them, and of the mission."""

from typing import Any

from wired_union import units
from wired_union.project.change import (
    Change,
    by_id,
    checked_name,
    figures_of,
    new_id,
    replaced,
    with_concept,
    with_concept_value,
)
from wired_union.project.errors import ProjectError
from wired_union.project.model import JoinedPack, Mission, Mode, Phase, Project, Use
from wired_union.project.references import forgotten
from wired_union.project.value import checked
from wired_union.subjects.power.joined import joined_in

LEAST_PHASE_S = 0.001
LATEST_S = 60.0


def add_mode(project: Project, name: str) -> Change:
    """Add a mode and, so that it counts, ten minutes of it at the mission's end."""
    name = checked_name(name, "mode")
    mode = Mode(id=new_id(name, (m.id for m in project.concept.modes)), name=name)
    mission = project.concept.mission
    phases = (*mission.phases, Phase(mode=mode.id, duration_s=600.0))
    after = with_concept(project, modes=(*project.concept.modes, mode), mission=mission.but(phases=phases))
    return Change(project, after, f"add mode {name}, ten minutes of it")


def add_mode_at_work(project: Project) -> Change:
    """A mode in which everything works: where a new team begins."""
    change = add_mode(project, "At work")
    made = change.after.concept.modes[-1]
    after = with_concept(change.after, modes=(*change.after.concept.modes[:-1], made.but(otherwise="active")))
    return Change(project, after, "add a mode in which everything works")


def rename_mode(project: Project, mode_id: str, name: str) -> Change:
    mode, name = _mode(project, mode_id), checked_name(name, "mode")
    return _with_mode(project, mode, f"rename mode {mode.name} to {name}", name=name)


def remove_mode(project: Project, mode_id: str) -> Change:
    """Delete a mode, and what names it."""
    mode, concept = _mode(project, mode_id), project.concept
    left = concept.but(modes=tuple(m for m in concept.modes if m is not mode))
    return Change(project, with_concept_value(project, forgotten(left, "modes", mode_id)), f"delete mode {mode.name}")


def join_pack(project: Project, pack_id: str, beside: str, **figures: Any) -> Change:
    """Put a pack beside another, on which the loads hang, or join it otherwise. Raises ProjectError where it cannot."""
    concept = project.concept
    first, other = by_id(concept.items, pack_id, "item"), by_id(concept.items, beside, "item")
    old = next((j for j in concept.joined_packs if j.beside == beside and j.pack == pack_id), None)
    with figures_of(other.name):
        new = checked(old or JoinedPack(pack=pack_id, beside=beside), **figures)
    rest = tuple(j for j in concept.joined_packs if j is not old)
    if any(j.how != new.how for j in rest if j.pack == pack_id):
        rest = tuple(j.but(how=new.how) if j.pack == pack_id else j for j in rest)
    after = concept.but(joined_packs=(*rest, new))
    refused = next((why for joint, why in joined_in(after)[1] if joint is new), "")
    if refused:
        raise ProjectError(f"They cannot stand side by side: {refused}.")
    how = "each through a diode" if new.how == "diodes" else "one after the other"
    return Change(project, with_concept_value(project, after), f"{other.name} beside {first.name}, {how}")


def part_packs(project: Project, beside: str) -> Change:
    """A pack no longer beside another."""
    other = by_id(project.concept.items, beside, "item")
    left = tuple(j for j in project.concept.joined_packs if j.beside != beside)
    return Change(project, with_concept(project, joined_packs=left), f"{other.name} by itself")


def stagger(project: Project, mode_id: str, staggered: bool) -> Change:
    mode = _mode(project, mode_id)
    how = "one after another" if staggered else "together"
    return _with_mode(project, mode, f"start loads {how} in {mode.name}", staggered=staggered)


def start_after(project: Project, mode_id: str, item_id: str, after_s: float) -> Change:
    """Let an item start so long after a mode begins. Raises ProjectError for one that the mode does not put to work."""
    mode, item = _mode(project, mode_id), by_id(project.concept.items, item_id, "item")
    use = next((u for u in mode.uses if u.item == item_id), None) or Use(item=item_id, state=mode.otherwise)
    if not 0 <= after_s <= LATEST_S:
        raise ProjectError(f"An item starts up to {units.show(LATEST_S, 's')} after its mode begins.")
    when = f"{units.show(after_s, 's')} after" if after_s > 0 else "as"
    return _with_use(project, mode, use.but(after_s=after_s), f"{item.name} starts {when} {mode.name} begins")


def reverse(project: Project, mode_id: str, item_id: str, reverses: bool) -> Change:
    """Whether an item is reversed while it runs in a mode."""
    mode, item = _mode(project, mode_id), by_id(project.concept.items, item_id, "item")
    use = next((u for u in mode.uses if u.item == item_id), None) or Use(item=item_id, state=mode.otherwise)
    how = "is reversed" if reverses else "is not reversed"
    return _with_use(project, mode, use.but(reverses=reverses), f"{item.name} {how} in {mode.name}")


def put_capacitor(project: Project, item_id: str, farad: float | None) -> Change:
    """Put a capacitor beside what an item is fed at; None takes it away."""
    item = by_id(project.concept.items, item_id, "item")
    feed = next((f for f in project.concept.feeds if f.load == item_id), None)
    if feed is None:
        raise ProjectError(f"{item.name} is not fed by anything yet. Connect it first.")
    with figures_of(item.name):
        new = checked(feed, capacitor_f=farad)
    said = f"{units.show(farad, 'F')} beside {item.name}" if farad is not None else f"no capacitor beside {item.name}"
    return Change(project, with_concept(project, feeds=replaced(project.concept.feeds, feed, new)), said)


def plug_in(project: Project, mode_id: str, plugged_in: bool) -> Change:
    """Whether the supplies that stand in for packs are plugged in in a mode."""
    mode = _mode(project, mode_id)
    how = "plugged in" if plugged_in else "on its packs"
    return _with_mode(project, mode, f"{how} in {mode.name}", plugged_in=plugged_in)


def add_phase(project: Project, mode_id: str, duration_s: float) -> Change:
    mode = _mode(project, mode_id)
    phases = (*project.concept.mission.phases, Phase(mode=mode.id, duration_s=_duration(duration_s)))
    return _with_mission(project, f"add {units.show(duration_s, 's')} of {mode.name}", phases=phases)


def remove_phase(project: Project, index: int) -> Change:
    phases = project.concept.mission.phases
    phase = _phase(project, index)
    kept = phases[:index] + phases[index + 1 :]
    return _with_mission(project, f"take {_mode(project, phase.mode).name} out of the mission", phases=kept)


def set_phase_duration(project: Project, index: int, duration_s: float) -> Change:
    phase = _phase(project, index)
    phases = list(project.concept.mission.phases)
    phases[index] = phase.but(duration_s=_duration(duration_s), load="")  # a time of its own
    name = _mode(project, phase.mode).name
    return _with_mission(project, f"{name} lasts {units.show(duration_s, 's')}", phases=tuple(phases))


def follow_movement(project: Project, index: int, load_id: str, duration_s: float) -> Change:
    """Let a phase last as long as one movement of a load; "" for a time of its own."""
    phase = _phase(project, index)
    phases = list(project.concept.mission.phases)
    phases[index] = phase.but(duration_s=_duration(duration_s), load=load_id)
    name = _mode(project, phase.mode).name
    return _with_mission(
        project, f"{name} lasts {units.show(duration_s, 's')}, as its movement does", phases=tuple(phases)
    )


def move_edge(project: Project, index: int, by_s: float) -> Change:
    """Move the edge after phase `index`: it grows by what the next one loses; the last edge changes the total."""
    phases = list(project.concept.mission.phases)
    first = _phase(project, index)
    grown = max(first.duration_s + by_s, LEAST_PHASE_S)
    if index + 1 < len(phases):
        after = phases[index + 1]
        grown = min(grown, first.duration_s + after.duration_s - LEAST_PHASE_S)
        left = first.duration_s + after.duration_s - grown
        phases[index + 1] = after.but(duration_s=left)
    phases[index] = first.but(duration_s=grown)
    name = _mode(project, first.mode).name
    return _with_mission(project, f"{name} lasts {units.show(grown, 's')}", phases=tuple(phases))


def set_repeats(project: Project, repeats: float) -> Change:
    if repeats != int(repeats) or not 1 <= repeats <= 100_000_000:
        raise ProjectError("Repeats are a whole number of 1 or more.")
    return _with_mission(project, f"repeat the mission {int(repeats)} times", repeats=int(repeats))


def _duration(duration_s: float) -> float:
    if duration_s < LEAST_PHASE_S:
        raise ProjectError("A phase lasts at least 1 ms. Take it out of the mission if it is not wanted.")
    return duration_s


def _with_use(project: Project, mode: Mode, use: Use, sentence: str) -> Change:
    kept = tuple(u for u in mode.uses if u.item != use.item)
    place = next((n for n, u in enumerate(mode.uses) if u.item == use.item), len(kept))
    return _with_mode(project, mode, sentence, uses=(*kept[:place], use, *kept[place:]))


def _mode(project: Project, mode_id: str) -> Mode:
    return by_id(project.concept.modes, mode_id, "mode")


def _phase(project: Project, index: int) -> Phase:
    phases = project.concept.mission.phases
    if not 0 <= index < len(phases):
        raise ProjectError("That phase is no longer in the mission.")
    return phases[index]


def _with_mode(project: Project, mode: Mode, sentence: str, **new: Any) -> Change:
    modes = replaced(project.concept.modes, mode, mode.but(**new))
    return Change(project, with_concept(project, modes=modes), sentence)


def _with_mission(project: Project, sentence: str, **new: Any) -> Change:
    mission: Mission = project.concept.mission.but(**new)
    return Change(project, with_concept(project, mission=mission), sentence)
