"""Checks on logic levels: each part against the controllers, through the level shifter where there is one."""

from collections.abc import Iterable, Iterator
from functools import partial

from wired_union.catalogue.parts import of_kind
from wired_union.kernel.dividers import part_divided
from wired_union.kernel.logic import Clash, level_clash, level_through
from wired_union.kernel.results import Finding, Remedy, Verdict, possible, tried
from wired_union.project.change import Change
from wired_union.project.model import Item, Link, Part, Project, Shifter
from wired_union.project.part_edits import add_item, shift_levels
from wired_union.project.ports import is_divided, is_passed, own_lines_of
from wired_union.subjects.power.scene import PowerScene
from wired_union.subjects.power.tree import BRAINS

SUGGESTED = 3


def check_levels(scene: PowerScene) -> Iterator[Finding]:
    """Signals of each part against the controllers of the concept: one that matches is enough."""
    items = scene.result.concept.items
    brains = brains_of(items)
    known = {i.id: i for i in items}
    for item in items:
        shifter = known.get(item.shifted_by)
        said = no_brain_matches(item.part, brains)
        if said is not None and shifter is not None and shifter.part.shifter is not None:
            yield from _through(scene, item, shifter, brains)
        elif said is not None:
            yield Finding(
                "level", Verdict.BREAKS, f"{item.name}: logic level", f"It {said}.",
                "A level shifter between them, or a part of the controller's level, is the usual answer.",
                (item.id,), offer=partial(_shifters, scene, item, brains), hard=True, of=item.id,
            )  # fmt: skip
        elif not scene.hard_only and brains and _is_silent(item.part):
            yield Finding(
                "level", Verdict.UNKNOWN, f"{item.name}: logic level", "Not known yet: the voltage of its signals.",
                "Until it is given nothing says whether it can talk to a controller.", (item.id,), of=item.id,
            )  # fmt: skip
        elif not scene.hard_only and (brain := _silent_brain(item.part, brains)) is not None:
            yield Finding(
                "level", Verdict.UNKNOWN, f"{item.name}: logic level",
                f"Not known yet: the voltage of the signals of {brain.name}.",
                "Until it is given nothing says whether they can talk.", (item.id, brain.id), of=item.id,
            )  # fmt: skip

    yield from _channels(scene, items)


def _through(scene: PowerScene, item: Item, shifter: Item, brains: tuple[Item, ...]) -> Iterator[Finding]:
    """Whether a level shifter really brings a part and a controller together."""
    mine, made = item.part.link, shifter.part.shifter
    links = [b.part.link for b in brains if b.part.link is not None]
    if mine is None or made is None or not links or made.passes != "either way":
        return  # through one that passes one way signals are looked at one by one, by Wiring
    if made.low_v is None or made.high_v is None:
        if not scene.hard_only:
            yield Finding("level", Verdict.UNKNOWN, f"{item.name}: logic level",
                          f"Not known yet: the voltages of {shifter.name}.",
                          "Until they are given nothing says whether it brings them together.", (shifter.id,),
                          of=item.id)  # fmt: skip
        return
    why = [level_through(made, mine, theirs) for theirs in links]
    if why[0] is not None and all(why):
        yield Finding("level", Verdict.BREAKS, f"{item.name}: logic level", f"It {why[0]}.",
                      "Each side of a shifter works at its own voltage.", (item.id, shifter.id),
                      offer=partial(_shifters, scene, item, brains), hard=True, of=item.id)  # fmt: skip


def _channels(scene: PowerScene, items: tuple[Item, ...]) -> Iterator[Finding]:
    """Whether a shifter has a channel for every signal that goes through it."""
    through: dict[str, list[Item]] = {}
    for item in items:
        through.setdefault(item.shifted_by, []).append(item)
    for shifter in items:
        behind = through.get(shifter.id, [])
        if shifter.part.shifter is None or not behind:
            continue
        wanted = [channels_for(i, shifter.part.shifter, brains_of(items)) for i in behind]
        have, known = shifter.part.shifter.channels * shifter.count, sum(w or 0 for w in wanted)
        if known > have:
            yield Finding("shifter", Verdict.BREAKS, f"{shifter.name}, channels",
                          f"{known} signals go through it; it has {have} channels.", "", (shifter.id,), hard=True,
                          of=shifter.id, use=known / have)  # fmt: skip
        elif None in wanted and not scene.hard_only:
            lacks = ", ".join(i.name for i, w in zip(behind, wanted, strict=True) if w is None)
            yield Finding("shifter", Verdict.UNKNOWN, f"{shifter.name}, channels",
                          f"Not known yet: the pins of {lacks}.", "", (shifter.id,), of=shifter.id)  # fmt: skip


def channels_for(item: Item, shifter: Shifter, brains: Iterable[Item]) -> int | None:
    """How many channels of a shifter an item takes, None where nothing says; one that passes one way takes only what
    flows that way.
    """
    mine = item.part.link
    if mine is None or mine.pins is None:
        return None
    theirs = _controller_v(brains)
    if shifter.passes == "either way" or mine.logic_v is None or theirs is None:
        return mine.pins * item.count
    return sum(is_passed(x, shifter, mine.logic_v, theirs) for x in own_lines_of(item)) * item.count


def _shifters(scene: PowerScene, item: Item, brains: tuple[Item, ...]) -> tuple[Remedy, ...]:
    """Level shifters that are there already, then ones of the catalogue, that bring the two together."""
    mine, links = item.part.link, [b.part.link for b in brains if b.part.link is not None]
    if mine is None:
        return ()
    there = [
        (f"through {i.name}", tried(shift_levels, scene.project, item.id, i.id))
        for i in scene.result.concept.items if i.id != item.shifted_by and _joins(i.part, mine, links)
    ]  # fmt: skip
    fitting = [p for p in of_kind("level shifter") if _joins(p, mine, links) and has_channels(p, item, brains)]
    kinds = {p.shifter.passes: p for p in reversed(fitting) if p.shifter is not None}  # the first of each way
    new = [(f"add {p.name} between", tried(insert_shifter, scene.project, item, p)) for p in fitting
           if p in kinds.values()]  # fmt: skip
    return (*possible(*there), *_divided(scene, item, brains), *possible(*new))[:SUGGESTED]


def has_channels(part: Part, item: Item, brains: Iterable[Item]) -> bool:
    """Whether a level shifter passes any signal of an item, and has a channel for each that it passes."""
    made = part.shifter
    wanted = channels_for(item, made, brains) if made is not None else None
    return made is not None and made.channels >= (item.count if wanted is None else wanted) and wanted != 0


def _divided(scene: PowerScene, item: Item, brains: Iterable[Item]) -> tuple[Remedy, ...]:
    """Dividers before the pins of a controller that signals at less."""
    theirs = _controller_v(brains)
    way = part_divided(scene.project, item, theirs) if theirs is not None else None
    return possible(way) if way is not None else ()


def _controller_v(brains: Iterable[Item]) -> float | None:
    return next((b.part.link.logic_v for b in brains if b.part.link is not None and b.part.link.logic_v), None)


def _joins(part: Part, mine: Link, links: Iterable[Link]) -> bool:
    made = part.shifter
    if made is None or made.low_v is None or made.high_v is None:
        return False
    return any(level_through(made, mine, x) is None for x in links)


def insert_shifter(project: Project, item: Item, part: Part) -> Change:
    """Add a level shifter and send an item's signals through it: one edit. Raises ProjectError as its steps do."""
    added = add_item(project, item.subsystem, part)
    known = {i.id for i in project.concept.items}
    new = next(i for i in added.after.concept.items if i.id not in known)
    after = shift_levels(added.after, item.id, new.id).after
    return Change(project, after, f"{new.name} between {item.name} and its controller")


def brains_of(items: Iterable[Item]) -> tuple[Item, ...]:
    """The controllers, one of each level."""
    found: dict[object, Item] = {}
    for item in items:
        if item.part.kind in BRAINS:
            link = item.part.link
            found[(link.logic_v, link.logic_max_v) if link is not None else None] = item
    return tuple(found.values())


def no_brain_matches(part: Part, brains: tuple[Item, ...]) -> str | None:
    """What keeps a part from talking to each controller; None where one matches or may, or there is none."""
    if not _is_asked(part) or not brains or is_divided(part):
        return None  # wires with dividers are looked at one by one, by Wiring
    clashes = [_clash(part, b) for b in brains]
    first = clashes[0]
    return f"{first.mine}; {brains[0].name} {first.theirs}" if first is not None and all(clashes) else None


def _silent_brain(part: Part, brains: tuple[Item, ...]) -> Item | None:
    """A controller of no known level, where no other is known to match a part."""
    if not _is_asked(part) or any(_level_of(b) is not None and _clash(part, b) is None for b in brains):
        return None
    return next((b for b in brains if _level_of(b) is None), None)


def _is_asked(part: Part) -> bool:
    return part.link is not None and part.link.logic_v is not None and part.kind not in BRAINS


def _is_silent(part: Part) -> bool:
    """Whether a part that talks to a controller does not say at what voltage."""
    return part.link is not None and part.link.logic_v is None and part.kind not in BRAINS


def _level_of(brain: Item) -> float | None:
    return brain.part.link.logic_v if brain.part.link is not None else None


def _clash(part: Part, brain: Item) -> Clash | None:
    mine, theirs = part.link, brain.part.link
    return level_clash(mine, theirs) if mine is not None and theirs is not None else None
