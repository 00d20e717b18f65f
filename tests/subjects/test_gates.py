"""Gates and hazards: minimal cut sets against an independent enumeration, laws, what the demos show, the wall page."""

import itertools
import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import a_pack, a_part, a_project
from wired_union.catalogue.demo import demo
from wired_union.project.change import with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.interlock_model import ClosedIn, Closes, Failure, Gate, Hazard, MachineState, Passage
from wired_union.project.model import Concept, Limit, Project, Spring
from wired_union.subjects import assess
from wired_union.subjects.interlocks import edits
from wired_union.subjects.interlocks.assess import GATES
from wired_union.subjects.interlocks.gates import cases_of, cut_sets, failures_of, fires_with, gates_of, groups_of
from wired_union.subjects.interlocks.hazards import found_in, not_listed
from wired_union.subjects.interlocks.machine import machine_of
from wired_union.subjects.interlocks.wall import wall_page

FAILS = ("other", "other", "hung program", "lost power", "stuck sensor")
KINDS = ("mechanical", "in the power path", "sensed", "software")


def random_concept(seed: int, gates: int | None = None) -> Concept:
    """A made-up hazard with gates, some beside each other, closed in some states; and failures."""
    r = random.Random(f"gates {seed}")
    states = tuple(MachineState(id=f"s{n}", name=f"s{n}") for n in range(r.randint(1, 5)))
    ways = tuple(Passage(id=f"w{n}", name=f"w{n}", start="s0", end=s.id, after_s=1.0 + n) for n, s in enumerate(states))
    number = gates if gates is not None else r.randint(1, 5)
    made: list[Gate] = []
    for n in range(number):
        beside = r.choice(made).id if made and r.random() < 0.3 else ""
        closed = tuple(ClosedIn(state=s.id) for s in states if r.random() < 0.4)
        made.append(Gate(id=f"g{n}", name=f"g{n}", hazard="h", kind=r.choice(KINDS), beside=beside, closed_in=closed,
                         item=r.choice(("", "", "brain", "other"))))  # fmt: skip
    failures = tuple(
        Failure(id=f"f{n}", name=f"f{n}", kind=r.choice(FAILS), item=r.choice(("", "", "brain", "other")),
                closes=tuple(Closes(gate=g.id) for g in made if r.random() < 0.35))
        for n in range(r.randint(0, 5))
    )  # fmt: skip
    meant = tuple(ClosedIn(state=s.id) for s in states if r.random() < 0.2)
    return Concept(id="a", name="one", states=states, passages=ways, gates=tuple(made), failures=failures,
                   hazards=(Hazard(id="h", name="H", meant_in=meant),))  # fmt: skip


def released(concept, failures, some, reached) -> bool:
    """Whether some failures release the hazard: every world is looked at, gate by gate. The program is in one state,
    hands and sensors see another where it hung; what is mechanical is as in a third where power went and came back.
    """
    meant = {c.state for c in concept.hazards[0].meant_in}
    broken = frozenset().union(*(f.closes for f in some))
    hung = [f for f in some if f.kind == "hung program"]
    lost = [f for f in some if f.kind == "lost power"]
    worlds = [(s, s, s, None) for s in reached if s not in meant]
    worlds += [(s, x, s, f) for f in hung for s in reached if s not in meant for x in reached]
    worlds += [(reached[0], reached[0], x, None) for _ in lost for x in reached if reached[0] not in meant]

    def closed(gate, world) -> bool:
        state, program, hand, hangs = world
        of_it = hangs is not None and (not hangs.item or not gate.item or gate.item == hangs.item)
        at = program if gate.kind == "software" and of_it else hand if gate.kind == "mechanical" else state
        return gate.id in broken or at in {c.state for c in gate.closed_in}

    return any(all(any(closed(g, w) for g in group) for group in groups_of(concept.gates)) for w in worlds)


def by_trying(concept: Concept):
    """All minimal sets of up to three failures, over every world, one by one."""
    failures, reached = failures_of(concept, concept.gates), list(machine_of(concept).reached)
    found = {
        frozenset(f.id for f in some) for size in range(4) for some in itertools.combinations(failures, size)
        if released(concept, failures, some, reached)
    }  # fmt: skip
    return {s for s in found if not any(o < s for o in found)}


@pytest.mark.parametrize("seed", range(250))
def test_cut_sets_are_those_that_trying_finds(seed):
    concept = random_concept(seed)
    result = gates_of(concept, machine_of(concept))[0]
    assert {frozenset(f.id for f in c.failures) for c in result.cuts} == by_trying(concept)
    for cut in result.cuts:
        broken = frozenset().union(*(f.closes for f in cut.failures))
        assert cut.since or fires_with(result, broken, cut.state)


@given(st.integers(0, 5000), st.sampled_from(KINDS))
@settings(max_examples=120)
def test_a_gate_in_series_never_lowers_the_least_number_of_failures(seed, kind):
    concept = random_concept(seed)
    before = gates_of(concept, machine_of(concept))[0].least
    more = concept.but(gates=(*concept.gates, Gate(id="new", name="new", hazard="h", kind=kind)))
    after = gates_of(more, machine_of(more))[0].least
    assert after is None or (before is not None and after >= before)


@given(st.integers(0, 5000))
@settings(max_examples=120)
def test_a_gate_beside_another_or_a_failure_more_never_raises_it(seed):
    concept = random_concept(seed)
    before = gates_of(concept, machine_of(concept))[0].least
    some = Failure(id="x", name="x", closes=tuple(Closes(gate=g.id) for g in concept.gates[:2]))
    listed = {c.gate for f in concept.failures for c in f.closes}
    if not {c.gate for c in some.closes} <= listed:
        return  # it would take the place of what such a gate does by itself
    after = gates_of(concept.but(failures=(*concept.failures, some)), machine_of(concept))[0].least
    assert before is None or (after is not None and after <= before)


def three(*kinds, **failing):
    gates = tuple(Gate(id=k, name=k, hazard="h", kind=k.split()[0] if k.split()[0] in KINDS else "software")
                  for k in kinds)  # fmt: skip
    failures = tuple(Failure(id=n, name=n, closes=tuple(Closes(gate=g) for g in gs)) for n, gs in failing.items())
    return Concept(id="a", name="one", states=(MachineState(id="s", name="S"),), gates=gates, failures=failures,
                   hazards=(Hazard(id="h", name="H"),))  # fmt: skip


def test_independent_gates_count_and_common_causes_do_not():
    def least(concept):
        return gates_of(concept, machine_of(concept))[0].least

    assert least(three("mechanical", "sensed")) == 2
    assert least(three("software a", "software b")) == 1  # one program
    assert least(three("mechanical", "sensed", "software a")) == 3
    assert least(three("mechanical", "sensed", shorted=("mechanical", "sensed"))) == 1
    beside = three("mechanical", "sensed")
    beside = beside.but(gates=(beside.gates[0], beside.gates[1].but(beside="mechanical")))
    assert least(beside) == 1
    ring = beside.but(gates=(beside.gates[0].but(beside="sensed"), beside.gates[1]))
    assert least(ring) == 1
    closed = three("mechanical").but(gates=(Gate(id="m", name="m", hazard="h", closed_in=(ClosedIn(state="s"),)),))
    assert least(closed) == 0
    assert least(closed.but(hazards=(Hazard(id="h", name="H", meant_in=(ClosedIn(state="s"),)),))) is None


def test_cut_sets_stop_at_three_and_say_more_than_three():
    gates = [[Gate(id=f"g{n}", name="g", hazard="h", kind="mechanical")] for n in range(4)]
    concept = Concept(id="a", name="one", gates=tuple(g[0] for g in gates), hazards=(Hazard(id="h", name="H"),))
    failures = failures_of(concept, concept.gates)
    assert cut_sets(gates, failures, cases_of(gates, failures, ("s",), frozenset())) == ()
    project = Project(name="p", concepts=(concept.but(states=(MachineState(id="s", name="S"),)),))
    assert assess(project).measure("failures-to-fire:h").value == 4


def test_the_demo_shows_one_failure_and_each_remedy_raises_it():
    assessment = assess(demo())
    found = next(f for f in assessment.findings if f.check == "gates")
    assert found.verdict == "breaks"
    assert "program errs in Report" in found.what
    assert "Wait — start → Drive" in found.what
    assert len(found.remedies) == 3
    for remedy in found.remedies:
        after = assessment.again(remedy.change.after)
        assert after.measure("failures-to-fire:corer-down").value == 2, remedy.label
        assert not [f for f in after.findings if f.check == "gates" and f.verdict == "breaks"]


def test_a_limit_on_failures_is_judged_and_unknown_without_states():
    limit = Limit(measure="failures-to-fire:corer-down", name="Corer", value=2.0, direction="at least", reserve=0.0)
    project = demo()
    project = project.but(brief=project.brief.but(limits=(limit,)))
    assert assess(project).measure(limit.measure).verdict == "breaks"
    bare = with_concept(project, states=(), passages=(), hazards=tuple(h.but(meant_in=()) for h in project.concept.hazards),
                        gates=tuple(g.but(closed_in=()) for g in project.concept.gates), controls=())  # fmt: skip
    assert assess(bare).measure(limit.measure).missing
    gateless = with_concept(project, gates=(), failures=())
    measure = assess(gateless).measure(limit.measure)
    assert measure.verdict == "unknown"


def test_what_stays_loaded_is_asked_for():
    project = with_concept(
        demo(), hazards=(Hazard(id="h", name="Spring", kind="spring"),), gates=(), failures=(), ticks=()
    )
    assert [f.verdict.value for f in assess(project).findings if f.check == "left-loaded"] == ["unknown"]
    yes = edits.set_hazard(project, value_id="h", stays="yes").after
    assert [f.verdict.value for f in assess(yes).findings if f.check == "left-loaded"] == ["tight"]
    told = edits.set_hazard(yes, value_id="h", released_by="lever").after
    assert not [f for f in assess(told).findings if f.check == "left-loaded"]


def test_hazards_are_found_from_the_parts():
    spring = a_part("spring", "spring", spring=Spring(stiffness_n_per_m=1e3, travel_m=0.1))
    parts = [a_pack("pack"), spring, a_part("fan", "fan"), a_part("screws", "fastening"), a_part("laser", "laser pointer"),
             a_part("beam", "structure")]  # fmt: skip
    concept = a_project(*parts).concept
    assert {(f.item.id, f.kind) for f in found_in(concept)} == {
        ("pack", "lithium"), ("spring", "spring"), ("fan", "spin"), ("screws", "fasteners"), ("laser", "light")}  # fmt: skip
    project = a_project(*parts)
    for found in not_listed(concept):
        project = edits.take_on(project, found).after
    assert not_listed(project.concept) == []
    assert all(h.guarded_by and h.hurts for h in project.concept.hazards)


def test_a_tick_is_kept_with_date_and_hand():
    after = edits.tick(demo(), "corer-down", "2026-11-26", " Ben ").after
    assert [(t.hazard, t.on, t.by) for t in after.concept.ticks] == [("pack", "2026-11-20", "Ada"), ("corer-down", "2026-11-26",
                                                                      "Ben")]  # fmt: skip
    with pytest.raises(ProjectError, match="Say who"):
        edits.tick(demo(), "corer-down", "2026-11-26", " ")
    assert edits.remove_hazard(after, value_id="corer-down").after.concept.ticks == demo().concept.ticks


def test_toggles_go_both_ways():
    project = demo()
    for edit, of, what in ((edits.toggle_closed, "key", "wait"), (edits.toggle_meant, "corer-down", "wait"),
                           (edits.toggle_closes, "key-welded", "driver")):  # fmt: skip
        once = edit(project, of, what)
        assert once.after != project
        assert edit(once.after, of, what).after == project


def test_the_page_for_the_wall_says_what_to_check_and_what_was_searched():
    project = edits.set_hazard(demo(), value_id="pack", name="Pack <b>&").after
    page = wall_page(assess(project))
    for words in ("before arming", "skirt around the tube", "one failure", "Pack &lt;b&gt;&amp;", "licensed practitioner",
                  "stays loaded without power", "no more"):  # fmt: skip
        assert words in page
    assert assess(project).of(GATES)[0].hazard.name in page
