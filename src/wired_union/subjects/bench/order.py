"""Wake one at a time: in which order, what to expect of each part, what to measure with, what usually is wrong.

A part comes after what feeds it and after the controller that its signals go to; among those that could come, power
before logic, logic before links, links before sensors, sensors before what moves. Common practice.
"""

import heapq
from collections.abc import Iterator, Mapping

from msgspec import Struct

from wired_union.project.model import Concept, Item

BRAINS = ("microcontroller", "computer")
KINDS = ("power", "rail", "converter", "logic", "link", "sensor", "driver", "motion")
"""In the order in which they are woken."""
USUAL_WRONG = {
    "power": "Not charged, cells not alike, a contact that is loose.",
    "rail": "A fuse that blew, a screw that is loose, plus and minus swapped: look before the next one is connected.",
    "converter": "Set to another voltage, plus and minus swapped, more drawn than it gives.",
    "logic": "No ground in common, held in reset, a boot pin the wrong way, a cable that only charges.",
    "link": "Sender and receiver swapped, another speed on one side, no antenna.",
    "sensor": "Clock and data swapped, an address strapped otherwise, pull-ups missing, no ground in common.",
    "driver": "Logic supply missing, standby not lifted, outputs shorted.",
    "motion": "Something drags, the supply sags, poles swapped.",
}  # fmt: skip
VOLTS, CURRENT, SPEED, MASS = 0.05, 0.2, 0.1, 0.05
"""Shares that found and expected may differ by: common practice."""
ANSWERS, WEIGHS = "answers", "mass_kg"


class Expect(Struct, frozen=True):
    """One figure to look for: which, how much, by what share it may differ, with what it is measured."""

    figure: str
    """The figure of the part that a reading replaces, "volts", or "answers"."""
    name: str
    value: float | None
    unit: str
    share: float
    tool: str
    replaces: bool = True
    """Whether it can be taken as measured."""


class Step(Struct, frozen=True):
    """One part to wake."""

    item: Item
    kind: str
    needs: tuple[str, ...]
    """Ids of parts that must work before."""
    expects: tuple[Expect, ...]
    wrong: str
    care: str = ""


def kind_of(item: Item) -> str | None:
    """What kind of step a part is; None for one that has nothing to wake."""
    part = item.part
    if part.pack is not None or part.supply is not None:
        return "power"
    if part.kind in BRAINS:
        return "logic"
    if part.motor is not None or part.stepper is not None or part.kind in MOVERS:
        return "motion"
    if part.driver is not None:
        return "driver"
    if part.regulator is not None:
        return "converter"
    if part.rail is not None:
        return "rail"
    if part.kind == "radio":
        return "link"
    if part.load is not None or part.sense is not None or part.link is not None:
        return "sensor"
    return None


MOVERS = ("servo", "linear actuator", "solenoid", "pump", "fan")


def steps_of(concept: Concept, rested_v: Mapping[str, float]) -> tuple[Step, ...]:
    """All steps in their order; `rested_v` is the voltage at each part's input from full packs that rest."""
    kinds = {i.id: k for i in concept.items if (k := kind_of(i)) is not None}
    sources: dict[str, list[str]] = {}
    for feed in concept.feeds:
        if feed.source != feed.load:
            sources.setdefault(feed.load, []).append(feed.source)
    brains = {i.id: None for i in concept.items if i.part.kind in BRAINS}
    needs = {i.id: tuple(_needs(i, kinds, sources, brains)) for i in concept.items if i.id in kinds}
    items = {i.id: (n, i) for n, i in enumerate(concept.items)}
    return tuple(_step(items[i][1], kinds[i], needs[i], rested_v.get(i)) for i in _ordered(items, kinds, needs))


def _ordered(
    items: Mapping[str, tuple[int, Item]], kinds: Mapping[str, str], needs: Mapping[str, tuple[str, ...]]
) -> list[str]:  # fmt: skip
    """Ids, each after what it needs; among those that could come by kind, then as they stand."""
    left = {i: {x for x in some if x in kinds} for i, some in needs.items()}
    wanted_by: dict[str, list[str]] = {}
    for other, some in left.items():
        for one in some:
            wanted_by.setdefault(one, []).append(other)
    due = [(KINDS.index(kinds[i]), items[i][0], i) for i, some in left.items() if not some]
    heapq.heapify(due)
    done: list[str] = []
    while due:
        _, _, now = heapq.heappop(due)
        done.append(now)
        for other in wanted_by.get(now, ()):
            left[other].discard(now)
            if not left[other]:
                heapq.heappush(due, (KINDS.index(kinds[other]), items[other][0], other))
    known = set(done)
    return done + [i for i in left if i not in known]  # what needs itself in a ring comes last, as it stands


def _needs(
    item: Item, kinds: Mapping[str, str], sources: Mapping[str, list[str]], brains: Mapping[str, None]
) -> Iterator[str]:  # fmt: skip
    """What feeds it, and the controller that its signals go to."""
    yield from sources.get(item.id, ())
    talks = item.part.link is not None or (item.part.port is not None and item.part.port.lines)
    if talks and kinds[item.id] not in {"power", "rail", "converter", "logic"}:
        yield from [item.board] if item.board in brains else [next(iter(brains))] if brains else []


def _step(item: Item, kind: str, needs: tuple[str, ...], volts: float | None) -> Step:
    care = ""
    if kind == "motion":
        care = "Off the ground and tied down, a hand on the switch, the supply limited to little more than is expected."
    elif kind == "power":
        care = "No metal near open contacts. A lithium pack that is warm, swollen or smells goes outside, unplugged."
    return Step(item, kind, needs, tuple(_expects(item, kind, volts)), USUAL_WRONG[kind], care)


def _expects(item: Item, kind: str, volts: float | None) -> Iterator[Expect]:
    """What the plan counts with, as far as it is known."""
    part = item.part
    if kind == "power" and part.supply is not None:
        yield Expect("supply.output_v", "without load", part.supply.output_v, "V", VOLTS, "a meter")
    elif kind in {"power", "rail", "driver"} and part.regulator is None:
        yield Expect("volts", "full, without load" if kind == "power" else "at its input", volts, "V", VOLTS, "a meter",
                     replaces=False)  # fmt: skip
    series = "a meter in series"
    if part.regulator is not None:
        yield Expect("regulator.output_v", "gives", part.regulator.output_v, "V", VOLTS, "a meter")
        yield Expect(
            "regulator.quiescent_a", "takes itself", part.regulator.quiescent_a, "A", CURRENT, "a meter in series"
        )
    if part.driver is not None:
        yield Expect("driver.quiescent_a", "takes itself", part.driver.quiescent_a, "A", CURRENT, series)
    if part.motor is not None:
        yield Expect("motor.no_load_current_a", "without load", part.motor.no_load_current_a, "A", CURRENT,
                     series)  # fmt: skip
        yield Expect("motor.no_load_speed_rad_s", "turns without load", part.motor.no_load_speed_rad_s, "rad/s", SPEED,
                     "a film, a mark on the shaft")  # fmt: skip
        yield Expect("motor.stall_current_a", "blocked, a second", part.motor.stall_current_a, "A", CURRENT,
                     series)  # fmt: skip
    if part.load is not None:
        for figure, name in (("idle_a", "awake"), ("active_a", "at work")):
            if (known := getattr(part.load, figure)) != 0:  # what takes nothing of its own has nothing to measure
                yield Expect(f"load.{figure}", name, known, "A", CURRENT, series)
    if kind in {"logic", "link", "sensor"} and part.link is not None:
        yield Expect(ANSWERS, "answers", 1.0, "", 0.0, "a few lines of program", replaces=False)
    yield Expect(WEIGHS, "weighs", part.mass_kg, "kg", MASS, "a scale")
