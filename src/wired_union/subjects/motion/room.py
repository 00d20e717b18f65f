"""The room there is: which parts and arms do not fit it, and by how much."""

from collections.abc import Iterable, Iterator
from functools import lru_cache

from wired_union.kernel.results import Finding, Verdict
from wired_union.kernel.subject import Assessment, Refusal, Slot
from wired_union.project.model import Concept, Item, Part, Space
from wired_union.subjects.motion.kinds.every import kind_of
from wired_union.units import show


def room_refusal(part: Part, space: Space) -> str | None:
    """Why a part does not fit the room there is, with by how much; None where it fits or is not given."""
    if part.length_m is None or part.width_m is None or part.height_m is None:
        return None
    return _refusal((part.length_m, part.width_m, part.height_m), space)


@lru_cache(maxsize=4096)
def _refusal(sides: tuple[float, float, float], space: Space) -> str | None:
    length, width, height = sorted(sides, reverse=True)
    if space.length_m is not None and length > space.length_m:
        return (
            f"{show(length, 'm')} long; {show(space.length_m, 'm')} at most: {show(length - space.length_m, 'm')} over"
        )
    gate = sorted(s for s in (space.gate_width_m, space.gate_height_m) if s is not None)
    if len(gate) == 2 and (height > gate[0] or width > gate[1]):
        most = max(height - gate[0], width - gate[1])
        return (
            f"{show(width, 'm')} × {show(height, 'm')} across; the gate is {show(gate[1], 'm')} × {show(gate[0], 'm')}:"
            f" {show(most, 'm')} over"
        )
    return None


def refused_by_room(concept: Concept, space: Space) -> Iterator[tuple[Item, str]]:
    """Parts that do not fit, by name."""
    for item in concept.items:
        why = room_refusal(item.part, space)
        if why is not None:
            yield item, why
    for load in concept.loads:
        reaches = kind_of(load).reach_m
        reach = reaches(load, concept) if reaches is not None else None
        mover = next((i for i in concept.items if i.id == load.actuator), None)
        if reach is not None and space.reach_m is not None and reach > space.reach_m and mover is not None:
            yield mover, f"{load.name} reaches {show(reach, 'm')}; {show(space.reach_m, 'm')} at most"


def room_findings(assessment: Assessment) -> Iterator[Finding]:
    """Each part that does not fit."""
    project = assessment.project
    for item, why in refused_by_room(project.concept, project.brief.space):
        said = f"{why[:1].upper()}{why[1:]}."
        yield Finding(
            "room", Verdict.BREAKS, f"{item.name} does not fit", said, "", (item.id,), hard=True, of=item.id
        )  # fmt: skip


def refuses(assessment: Assessment, _: Slot, part: Part) -> Iterable[Refusal]:
    """Why the room refuses a part that might be taken."""
    why = room_refusal(part, assessment.project.brief.space)
    return () if why is None else (Refusal("room", why),)
