"""Failures and states: against the machine itself run step by step, by hand, and what the demo shows."""

import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import a_load, a_pack, a_part, a_project, plain
from wired_union.catalogue.demo import demo
from wired_union.kernel.ripple import offered
from wired_union.project.change import with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.interlock_model import (
    Clause,
    ClosedIn,
    Cue,
    CueIs,
    Failure,
    Gate,
    Hazard,
    MachineState,
    Passage,
    Silences,
)
from wired_union.project.model import Concept, Rail
from wired_union.subjects import assess
from wired_union.subjects.interlocks import edits
from wired_union.subjects.interlocks.assess import FAILING, GATES
from wired_union.subjects.interlocks.failing import failing_of, silent_in
from wired_union.subjects.interlocks.gates import gates_of
from wired_union.subjects.interlocks.machine import machine_of
from wired_union.subjects.interlocks.run import Run, step
from wired_union.subjects.interlocks.stops import stops_of

STEP_S, LONG_S = 0.1, 30.0


def random_concept(seed: int) -> Concept:
    """A machine of events and time-outs, and failures that silence some of them."""
    r = random.Random(f"failing {seed}")
    states = tuple(MachineState(id=f"s{n}", name=f"s{n}", is_stop=n > 0 and r.random() < 0.35)
                   for n in range(r.randint(2, 6)))  # fmt: skip
    cues = tuple(Cue(id=f"e{n}", name=f"e{n}", urgent=r.random() < 0.5, item=r.choice(("", "radio", "eye")))
                 for n in range(r.randint(1, 4)))  # fmt: skip
    ways = []
    for n in range(r.randint(1, 12)):
        clauses = tuple(Clause(parts=(CueIs(cue=r.choice(cues).id),)) for _ in range(r.randint(0, 2)))
        after = r.choice((0.5, 1.0, 2.0)) if not clauses or r.random() < 0.2 else None
        ways.append(Passage(id=f"w{n}", name=f"w{n}", start=r.choice(states).id, end=r.choice(states).id, clauses=clauses,
                            after_s=after, rank=r.randint(1, 3), most_s=r.choice((None, 0.2))))  # fmt: skip
    kinds = ("lost radio", "torn wire", "stuck sensor", "hung program", "other", "welded contact")
    failures = tuple(
        Failure(id=f"f{n}", name=f"f{n}", kind=r.choice(kinds), item=r.choice(("", "radio", "eye")),
                told_by=r.choice(("", *(c.id for c in cues))),
                silences=tuple(Silences(cue=c.id) for c in cues if r.random() < 0.3)) for n in range(2)
    )  # fmt: skip
    return Concept(id="a", name="one", states=states, cues=cues, passages=tuple(ways), failures=failures)


def comes_to_a_stop(machine, state: str, event: str, *, runs: bool = True) -> bool:
    """Whether the program itself, told one event or none, is in a stop at some time after."""
    halts = {s.id for s in machine.states if s.is_stop}
    run = Run(state)
    if event:
        after = step(machine, run, [event], {}, STEP_S)
        if not after.last:
            return False
        run = after
    elif not runs:
        return False
    for _ in range(round(LONG_S / STEP_S)):
        if run.state in halts:
            return True
        run = step(machine, run, [], {}, STEP_S)
    return run.state in halts


@pytest.mark.parametrize("seed", range(200))
def test_states_that_nothing_stops_are_those_that_the_program_never_stops_in(seed):
    concept = random_concept(seed)
    machine = machine_of(concept)
    urgent = {c.id for c in concept.cues if c.urgent}
    halts = {s.id for s in concept.states if s.is_stop}
    for found in failing_of(concept, machine, stops_of(machine, {}), {}):
        failure, silent = found.failure, silent_in(concept, found.failure)
        for state in machine.reached:
            if state in halts:
                continue
            told = bool(failure.told_by) and comes_to_a_stop(machine, state, failure.told_by)
            alone = comes_to_a_stop(machine, state, "", runs=failure.kind != "hung program")
            asked = any(comes_to_a_stop(machine, state, c) for c in urgent - silent)
            deaf = bool(urgent & silent)
            assert (state in found.stuck) is (deaf and not told and not alone and not asked), (state, failure)
            assert (state in found.unnoticed) is (deaf and not told and not alone and asked), (state, failure)


@given(st.integers(0, 5000))
@settings(max_examples=80, deadline=None)
def test_what_is_told_more_never_leaves_more_states_stuck(seed):
    concept = random_concept(seed)
    machine = machine_of(concept)
    for failure in concept.failures:
        less = failure.but(silences=failure.silences[1:])
        both = [failing_of(concept.but(failures=(f,)), machine, stops_of(machine, {}), {}) for f in (failure, less)]
        if both[1]:
            assert len(both[1][0].stuck) <= (len(both[0][0].stuck) if both[0] else 0)


E, HALT, LOST = (
    Cue(id="go", name="go"),
    Cue(id="halt", name="halt", urgent=True, item="radio"),
    Cue(id="lost", name="lost"),
)


def when(cue):
    return (Clause(parts=(CueIs(cue=cue),)),)


def a_rover(*ways, cues=(E, HALT, LOST), **failure):
    """Waits, drives and stops on what the radio tells."""
    states = (MachineState(id="wait", name="Wait"), MachineState(id="drive", name="Drive"),
              MachineState(id="stop", name="Stop", is_stop=True))  # fmt: skip
    usual = (("wait", "drive", "go"), ("drive", "stop", "halt"), ("wait", "stop", "halt"), ("stop", "wait", "go"))
    made = tuple(Passage(id=f"{a}-{b}-{c}", name=c, start=a, end=b, clauses=when(c), most_s=0.1, rank=2 if c == "go" else 1)
                 for a, b, c in usual)  # fmt: skip
    project = a_project(a_pack(), a_part("switch", "switch", rail=Rail(max_current_a=10.0)), a_load("radio", 0.1))
    lost = Failure(**{"id": "f", "name": "radio lost", "kind": "lost radio", "item": "radio", **failure})
    return with_concept(project, states=states, cues=cues, passages=(*made, *ways), failures=(lost,))


def told(project):
    return [(f.verdict.value, f.title) for f in assess(project).findings if f.check in {"failing", "power-back"}]


def test_a_lost_radio_that_nothing_notices_is_told_with_its_story_and_mended():
    project = a_rover()
    assessed = assess(project)
    (found,) = [f for f in assessed.findings if f.check == "failing"]
    assert (found.verdict, found.title) == ("breaks", "radio lost: nothing stops it")
    assert found.what == ("In Wait, Drive halt is not heard then, and nothing else leads to a stop."
                          " The shortest story there: Wait — radio lost.")  # fmt: skip
    ((remedy, words),) = offered(assessed, found)
    assert (remedy.label, words) == ("notice it, and stop", "then holds")
    assert not told(remedy.change.after)
    cue = remedy.change.after.concept.failures[0].told_by
    ways = remedy.change.after.concept.passages
    assert sum(when(cue)[0] in p.clauses for p in ways) == 2
    assert len(ways) == len(project.concept.passages)  # by the way of the cue that asks for a stop
    assert not [
        f for f in assess(remedy.change.after).findings if f.check == "states" and f.title == "Two ways out at once"
    ]
    with pytest.raises(ProjectError, match="No state is a stop"):
        edits.notice(edits.set_state(project, value_id="stop", is_stop=False).after, "f")


def test_the_time_to_a_stop_is_that_of_noticing_and_of_the_way():
    quiet = Cue(id="lost", name="lost", kind="threshold", quantity="silence", threshold=2.0, dwell_s=0.5)
    ways = tuple(Passage(id=f"l-{s}", name="lost", start=s, end="stop", clauses=when("lost"), most_s=0.2)
                 for s in ("wait", "drive"))  # fmt: skip
    project = a_rover(*ways, cues=(E, HALT, quiet), told_by="lost")
    (found,) = assess(project).of(FAILING)
    assert found.time_s == pytest.approx(0.5 + 0.2)
    assert found.silent == {"halt"}
    late = a_rover(Passage(id="t", name="t", start="drive", end="stop", after_s=30.0), ways[0], cues=(E, HALT, quiet),
                   told_by="lost")  # fmt: skip
    assert assess(late).of(FAILING)[0].time_s == pytest.approx(30.0)


def test_another_cue_that_asks_for_a_stop_leaves_it_unnoticed():
    bump = Cue(id="bump", name="bump", urgent=True)
    ways = tuple(Passage(id=f"b-{s}", name="bump", start=s, end="stop", clauses=when("bump"), most_s=0.2)
                 for s in ("wait", "drive"))  # fmt: skip
    assert told(a_rover(*ways, cues=(E, HALT, LOST, bump))) == [("tight", "radio lost: not noticed")]


def test_a_program_that_hangs_hears_only_what_cuts_its_power():
    hung = {"kind": "hung program", "item": "", "name": "program hangs"}
    timed = Passage(id="t", name="t", start="drive", end="stop", after_s=1.0)
    assert told(a_rover(timed, **hung)) == [("breaks", "program hangs: nothing stops it")]
    assessed = assess(a_rover(timed, **hung))
    assert assessed.of(FAILING)[0].stuck == ("wait", "drive")  # no time-out runs out in it
    by_switch = a_rover(cues=(E, HALT.but(item="switch"), LOST), **hung)
    assert told(by_switch) == []
    (found,) = [f for f in assessed.findings if f.check == "failing"]
    assert [r.label for r in found.remedies] == ["a watchdog that leads to a stop"]
    assert not told(found.remedies[0].change.after)


def test_power_that_comes_back_must_not_set_it_going():
    lost = {"kind": "lost power", "item": "", "name": "power lost"}
    assert told(a_rover(**lost)) == []
    eager = a_rover(Passage(id="t", name="t", start="wait", end="drive", after_s=5.0), **lost)
    assert told(eager) == [("tight", "power lost: it goes on by itself")]
    assert assess(eager).of(FAILING)[0].goes_on == ("drive",)


def test_what_hangs_or_comes_back_leaves_gates_where_they_were():
    """The saw: a guard that is shut by hand, and a program that lets it turn while it cuts."""
    states = (MachineState(id="wait", name="Wait"), MachineState(id="cut", name="Cut"))
    ways = (Passage(id="a", name="a", start="wait", end="cut", after_s=1.0),
            Passage(id="b", name="b", start="cut", end="wait", after_s=1.0))  # fmt: skip
    at = (ClosedIn(state="cut"),)
    guard = Gate(id="g", name="Guard", hazard="h", kind="mechanical", closed_in=at)
    program = Gate(id="p", name="Program", hazard="h", kind="software", closed_in=at)
    concept = Concept(id="a", name="one", states=states, passages=ways, gates=(guard, program),
                      hazards=(Hazard(id="h", name="Saw turns", meant_in=at),))  # fmt: skip

    def cuts(c):
        return [(tuple(f.id for f in cut.failures), cut.state, cut.since) for cut in gates_of(c, machine_of(c))[0].cuts]

    assert cuts(concept) == [(("~g", "~p"), "wait", ""), (("~p", "~power"), "wait", "cut")]
    alone = concept.but(gates=(guard,))
    assert cuts(alone) == [(("~g",), "wait", ""), (("~power",), "wait", "cut")]
    hung = concept.but(gates=(guard.but(closed_in=(ClosedIn(state="wait"), *at)), program),
                       failures=(Failure(id="f", name="hangs", kind="hung program"),))  # fmt: skip
    assert (("f",), "wait", "cut") in cuts(hung)
    elsewhere = hung.but(gates=tuple(g.but(item="one") for g in hung.gates),
                         failures=(hung.failures[0].but(item="other"),))  # fmt: skip
    assert (("f",), "wait", "cut") not in cuts(elsewhere)


def test_the_demo_notices_its_lost_radio_and_says_what_a_hung_program_does():
    assessed = assess(demo())
    failing = {f.failure.id: f for f in assessed.of(FAILING)}
    radio = failing["radio-lost"]
    assert not (radio.stuck or radio.unnoticed)
    assert radio.time_s == pytest.approx(2.0 + assessed.measure("stop-time").value)
    (found,) = [f for f in assessed.findings if f.check == "failing"]
    assert plain(found.title) == "program errs: nothing stops it"
    after = assessed.again(found.remedies[0].change.after)
    assert not [f for f in after.findings if f.check in {"failing", "states"}]
    assert after.of(GATES)[0].least == assessed.of(GATES)[0].least
