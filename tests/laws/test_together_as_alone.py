"""Projects assessed together come out as each comes out alone, whatever stands at their places."""

import random

import pytest

from builders import BY_INPUT_V, a_bank, a_buck, a_load, a_motor, a_pack, a_project, a_supply, an_item, an_ldo
from values import told
from wired_union.catalogue.demo import demo
from wired_union.choose.alternatives import changes_for
from wired_union.project.model import Feed, Project
from wired_union.subjects import assess
from wired_union.subjects.power.gives import POWER


def said(assessment) -> list[tuple]:
    """Everything that an assessment says: measures with what is missing, findings with their sentences."""
    measures = [(m.id, m.verdict, m.missing, m.subject) for m in assessment.all_measures.values()]
    return [*measures, *told(assessment.findings)]


def figures(assessment) -> list[float]:
    found = assessment.of(POWER)
    rows = [x for table in (found.flows.input_v, found.flows.current_a, found.flows.loss_w) for x in table.ravel()]
    return [*(m.value if m.value is not None else -1.0 for m in assessment.all_measures.values()), *rows]


def check_together(before, projects: list[Project]) -> None:
    for one, alone in zip(before.again_all(projects), map(assess, projects), strict=True):
        assert said(one) == said(alone)
        assert figures(one) == pytest.approx(figures(alone), rel=1e-9, abs=1e-12, nan_ok=True)


@pytest.mark.parametrize("name", ["mudlark", "bat-counter"])
def test_alternatives_of_every_place(name):
    before = assess(demo(name))
    rng = random.Random(7)
    changes = [c for i in before.project.concept.items for _, c in changes_for(before, i.id)]
    check_together(before, [c.after for c in rng.sample(changes, min(60, len(changes)))])


PACKS = (
    a_pack(), a_pack(capacity_ah=2.0, resistance_ohm=0.0), a_pack(resistance_ohm=2.0), a_pack(series=8),
    a_pack(capacity_ah=None), a_pack(resistance_ohm=None), a_supply("pack"), a_supply("pack", 9.0, resistance_ohm=0.5),
    a_bank("pack"), a_bank("pack", least_load_a=0.3, efficiency_curve=()), a_bank("pack", output_v=12.0),
    a_pack(chemistry="unheard of"), a_pack(chemistry="lead-acid"),
)  # fmt: skip
RAILS = (
    a_buck("rail"), a_buck("rail", 3.3, quiescent_a=0.02), a_buck("rail", efficiency_curve=()), an_ldo("rail"),
    an_ldo("rail", 5.0, quiescent_a=0.01), a_buck("rail", **BY_INPUT_V), a_buck("rail", **BY_INPUT_V, quiescent_a=0.01),
    a_buck("rail", **{**BY_INPUT_V, "curve_input_v": 13.0}),
)  # fmt: skip
LOADS = (
    a_load("one"), a_load("one", 0.2, draw="power"), a_load("one", 3.0, draw="power", rated_v=5.0),
    a_load("one", 0.4, draw="resistance"), a_load("one", None), a_load("one", 90.0, draw="power"),
    a_load("one", draw="power", rated_v=None), a_motor("one"), a_motor("one", stall_a=9.0),
)  # fmt: skip


def a_case(rng: random.Random) -> Project:
    """A pack, a rail on a thin wire, a load of any law behind each."""
    parts = [rng.choice(PACKS), rng.choice(RAILS), rng.choice(LOADS), rng.choice(LOADS).but(id="two", name="two")]
    items = [an_item(p, rng.choice((1, 1, 2))) for p in parts]
    project = a_project(*items, energy_reserve=rng.choice((0.1, 0.1, 0.3)))
    feeds = (Feed(source="pack", load="rail", wire_length_m=2.0, wire_awg=24), Feed(source="rail", load="one"),
             Feed(source="pack", load="two", wire_length_m=1.0, wire_awg=rng.choice((18, 28))))  # fmt: skip
    concept = project.concept
    if rng.random() < 0.3 and parts[0].pack is not None:  # a supply that stands in for it in the only mode, or does not
        concept = concept.but(items=(*concept.items, an_item(a_supply(volts=rng.choice((5.0, 14.0))))))
        feeds = (*feeds, Feed(source="adapter", load="pack"))
    modes = tuple(m.but(plugged_in=rng.random() < 0.5) for m in concept.modes)
    return project.but(concepts=(concept.but(feeds=feeds if rng.random() < 0.8 else feeds[:2], modes=modes),))


@pytest.mark.parametrize("seed", range(4))
def test_any_parts_at_three_places(seed):
    """Packs without figures or resistance or that collapse, rails of both kinds, loads of every law."""
    rng = random.Random(seed)
    check_together(assess(a_case(rng)), [a_case(rng) for _ in range(60)])


@pytest.mark.parametrize("seed", range(4))
def test_what_breaks_hard_is_what_the_findings_say(seed):
    rng = random.Random(100 + seed)
    before = assess(demo())
    changes = [c for i in before.project.concept.items for _, c in changes_for(before, i.id)]
    projects = [*(c.after for c in rng.sample(changes, 20)), *(a_case(rng) for _ in range(20))]
    for one in before.again_all(projects):
        assert told(one.hard_breaks) == told(f for f in one.findings if f.breaks_hard)
