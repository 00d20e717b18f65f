"""A figure that is taken away makes nothing better: a verdict may become unknown or break, never hold or be tight.

Every figure that may be missing, of every part, of both demos and the eight starts.
"""

import random
from collections.abc import Iterator
from functools import cache

import pytest
from msgspec.structs import fields

from values import leaves, put
from wired_union.catalogue.demo import demo
from wired_union.catalogue.starts import STARTS, start
from wired_union.kernel.subject import Assessment
from wired_union.project.budget_model import Doubt
from wired_union.project.change import replaced, with_concept
from wired_union.project.model import Item, Part, Project, Shift
from wired_union.project.value import BadFigure, Value, checked, field_types
from wired_union.project.wiring_model import Cable
from wired_union.subjects import assess
from wired_union.subjects.power.currents import turns

ASKED = {"speed_m_s", "time_s", "recharge_s", "motors", "most_sag_m", "high_m", "tube_m", "smallest_m", "aimed_deg",
         "upright_m", "flat_m", "depth_m", "small_things", "wanted"}  # fmt: skip
"""What is asked of a load or a sensor: who asks no more is content with less. Motors that are not counted are all of them."""
GOOD = {"breaks": 0, "unknown": 0, "tight": 1, "holds": 2}
PROJECTS = {"mudlark": demo, "bat-counter": lambda: demo("bat-counter"), **{n: lambda n=n: start(n) for n in STARTS}}


@cache
def may_be_missing(kind: type[Value]) -> frozenset[str]:
    return frozenset(f.name for f in fields(kind) if f.default is None and f.name in field_types(kind))


def without(part: Part) -> Iterator[tuple[str, Part]]:
    """The part without each of its figures in turn."""
    for name in field_types(type(part)):
        facet = getattr(part, name)
        if isinstance(facet, Value):
            for field in may_be_missing(type(facet)):
                if getattr(facet, field) is not None:
                    yield f"{name}.{field}", part.but(**{name: facet.but(**{field: None})})
        elif facet is not None and name in may_be_missing(type(part)):
            yield name, part.but(**{name: None})


def is_a_plain_load(item: Item, path: str) -> bool:
    """A load that is no motor and no actuator starts with its peak where nothing else is said: that is no gap."""
    return path == "load.startup_a" and not turns(item.part)


def better(before: Assessment, after: Assessment) -> list[str]:
    """What looks better than before: measures, and findings that are gone without a gap in their place."""
    found = []
    for measure in after.measures:
        was = before.measure(measure.id)
        if GOOD[measure.verdict] > GOOD[was.verdict]:
            found.append(f"{measure.id}: {was.verdict} became {measure.verdict}")
    known = {f.id: f for f in before.findings}
    there = {f.id: f for f in after.findings}
    told = any(f.verdict == "unknown" and f.id not in known for f in there.values())
    for name, finding in known.items():
        now = there.get(name)
        if finding.verdict == "holds" or (now is None and told):
            continue
        if now is None or GOOD[now.verdict] > GOOD[finding.verdict]:
            found.append(f"{name}: {finding.verdict} became {now.verdict if now else 'nothing'}")
    return found


def rests_on_it(before: Assessment, after: Assessment) -> list[str]:
    """What holds or is tight though its figure became better: it rests on what was taken away, so it is not known."""
    found = []
    for measure in after.all_measures.values():
        was = before.all_measures.get(measure.id)
        if was is None or measure.value is None or was.value is None or not GOOD[measure.verdict]:
            continue
        gain = (measure.value - was.value) * (1 if measure.direction == "at least" else -1)
        if gain > 1e-9 * abs(was.value):
            found.append(f"{measure.id}: {measure.verdict} at {measure.value}, was {was.value}")
    known = {f.id: f for f in before.findings}
    for finding in after.findings:
        old = known.get(finding.id)
        if old is None or finding.use is None or old.use is None or not GOOD[finding.verdict]:
            continue
        if finding.use < old.use * (1 - 1e-9):
            found.append(f"{finding.id}: {finding.verdict} at {finding.use}, was {old.use}")
    return found


@pytest.mark.parametrize("name", PROJECTS)
def test_what_is_not_known_is_never_fine(name: str) -> None:
    project: Project = PROJECTS[name]()
    before = assess(project)
    tried = 0
    for item in project.concept.items:
        for path, part in without(item.part):
            if is_a_plain_load(item, path):
                continue
            items = replaced(project.concept.items, item, item.but(part=part))
            after = before.again(with_concept(project, items=items))
            assert not better(before, after), f"{item.name} without {path}"
            assert not rests_on_it(before, after), f"{item.name} without {path}"
            tried += 1
    assert tried > 80


STANDS_IN = {
    "load.active_a": "its peak", "load.idle_a": "its current at work", "load.sleep_a": "its current when idle",
    "load.startup_a": "the stall current of its motor", "link.logic_max_v": "its logic voltage",
    "temperature_max_c": "what all parts bear", "temperature_min_c": "what all parts bear",
}  # fmt: skip
"""Figures for which another known one stands in, which is the worse in any part that there is, not in any made up."""


STANDS_FOR = {
    (Cable, "length_m"): "its places", (Cable, "mass_kg"): "its copper", (Cable, "wires"): "its signals and feeds",
    (Cable, "count"): "the copies that it reaches", (Cable, "thick_m"): "its wires",
    (Doubt, "readings"): "a spread that is known otherwise, such as from a datasheet (GUM, type B)",
}  # fmt: skip
"""The same of what joins parts."""


def scaled(project: Project, chance: random.Random) -> Project:
    """The project with some figures of its parts up to three times larger or smaller: near or over many limits."""
    items = project.concept.items
    figures = [x for x in leaves(project.concept) if x[0][0] == "items" and _is_amount(x)]
    for path, holder, field in chance.sample(figures, chance.choice((2, 5, 10, 30))):
        try:
            value = checked(holder, **{field: getattr(holder, field) * 10 ** chance.uniform(-0.5, 0.5)})
        except BadFigure:
            continue
        items = put(items, path[1:], getattr(value, field))
    return with_concept(project, items=items)


def _is_amount(leaf: tuple) -> bool:
    value = getattr(leaf[1], leaf[2])
    return isinstance(value, float) and value != 0


@pytest.mark.parametrize("seed", [*range(6), *(pytest.param(n, marks=pytest.mark.slow) for n in range(6, 12))])
def test_what_is_not_known_is_never_fine_near_a_limit_either(seed: int) -> None:
    chance = random.Random(seed)
    project = scaled(PROJECTS[list(PROJECTS)[seed % len(PROJECTS)]](), chance)
    before = assess(project)
    ways = [
        (item, path, part) for item in project.concept.items for path, part in without(item.part)
        if path not in STANDS_IN
    ]  # fmt: skip
    for item, path, part in chance.sample(ways, min(60, len(ways))):
        items = replaced(project.concept.items, item, item.but(part=part))
        after = before.again(with_concept(project, items=items))
        assert not better(before, after), f"{item.name} without {path}"
        assert not rests_on_it(before, after), f"{item.name} without {path}"


@pytest.mark.parametrize("name", PROJECTS)
def test_a_figure_of_what_joins_and_moves_parts_is_never_better_unknown(name: str) -> None:
    """Wires, loads to move, mounts, stages: every figure of a concept outside its parts that may be missing."""
    project: Project = PROJECTS[name]()
    before = assess(project)
    for path, holder, field in leaves(project.concept):
        if path[0] == "items" or getattr(holder, field) is None or field not in may_be_missing(type(holder)) - ASKED:
            continue
        if (type(holder), field) in STANDS_FOR:
            continue
        if isinstance(holder, Shift):  # what a pose says is asked of it: without, the part weighs what it always does
            continue
        after = before.again(with_concept(project, **{path[0]: put(getattr(project.concept, path[0]), path[1:], None)}))
        assert not better(before, after), f"without {path}"
        assert not rests_on_it(before, after), f"without {path}"


@pytest.mark.parametrize("name", PROJECTS)
def test_what_hangs_on_nothing_is_never_fine(name: str) -> None:
    project: Project = PROJECTS[name]()
    before = assess(project)
    for feed in project.concept.feeds:
        feeds = tuple(f for f in project.concept.feeds if f is not feed)
        after = before.again(with_concept(project, feeds=feeds))
        assert not better(before, after), f"{feed.load} fed by nothing"
        assert not rests_on_it(before, after), f"{feed.load} fed by nothing"
