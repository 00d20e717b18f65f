"""States of the machine: searched against networkx and by trying, faults with stories that replay, code that does the
same in C, in Python and here."""

import importlib.util
import itertools
import math
import random
import shutil
import subprocess

import networkx as nx
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from wired_union.catalogue.demo import demo
from wired_union.project.change import with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.interlock_model import Clause, Cue, CueIs, MachineState, Passage
from wired_union.project.model import Concept, Limit, Project
from wired_union.subjects import assess
from wired_union.subjects.interlocks import edits
from wired_union.subjects.interlocks.assess import STATES, STOPS
from wired_union.subjects.interlocks.code import c_code, python_code
from wired_union.subjects.interlocks.machine import Machine, faults_of, machine_of
from wired_union.subjects.interlocks.run import begin, step
from wired_union.subjects.interlocks.stops import stops_of


def cue(name, **figures):
    return Cue(id=name, name=name, **figures)


def when(*cues):
    return Clause(parts=tuple(CueIs(cue=c.lstrip("!"), is_not=c.startswith("!")) for c in cues))


def way(start, end, *clauses, **figures):
    name = f"{start}-{end}-{len(clauses)}{figures.get('after_s', '')}"
    return Passage(
        id=name, name=name, start=start, end=end, clauses=tuple(when(*c.split()) for c in clauses), **figures
    )


def machine(states, cues, *ways):
    made = tuple(MachineState(id=s.strip("*."), name=s.strip("*."), is_stop=s.endswith("*"), may_end=s.endswith("."))
                 for s in states.split())  # fmt: skip
    return Machine(made, {c.id: c for c in cues}, tuple(ways))


def kinds(m):
    return sorted((f.kind, f.states[0] if f.states else "") for f in faults_of(m))


E, F, STOP = cue("e"), cue("f"), cue("halt", urgent=True)


def test_a_sound_machine_has_no_fault():
    m = machine("a b s*", [E, STOP], way("a", "b", "e"), way("b", "a", after_s=2.0), way("a", "s", "halt", rank=2),
                way("b", "s", "halt"), way("s", "a", "e"))  # fmt: skip
    assert kinds(m) == []
    assert m.story("s") == "a — a-s-1 → s"


def test_every_fault_is_found_with_a_story_that_leads_there():
    dead = machine("a b s*", [E, STOP], way("a", "b", "e"), way("a", "s", "halt", rank=2))
    assert ("dead-end", "b") in kinds(dead)
    assert ("no-stop", "b") in kinds(dead)
    assert ("unheard", "b") in kinds(dead)
    assert next(f for f in faults_of(dead) if f.kind == "dead-end").story == "a — a-b-1 → b"
    assert ("never", "b") in kinds(machine("a b s*", [STOP], way("a", "s", "halt")))
    assert ("no-stop", "") in kinds(machine("a.", []))
    assert kinds(machine("a s*", [E, F, STOP], way("a", "s", "halt"))) == [("unheard", ""), ("unheard", "")]


LOW, HIGH = cue("low", kind="threshold", quantity="v", side="below", threshold=10.0), cue(
    "high", kind="threshold", quantity="v", side="above", threshold=12.0)  # fmt: skip


def test_two_ways_at_once_are_told_from_two_that_cannot_be():
    apart = machine("a b c s*", [LOW, HIGH], way("a", "b", "low"), way("a", "c", "high"), way("b", "s", "low"), way(
        "c", "s", "high"))  # fmt: skip
    assert not [k for k in kinds(apart) if k[0] == "at-once"]
    wide = {**apart.cues, "high": HIGH.but(threshold=9.0)}
    assert ("at-once", "a") in kinds(Machine(apart.states, wide, apart.passages))
    back = {**apart.cues, "high": HIGH.but(hysteresis=2.5)}  # once so, it stays so down to 9.5
    assert ("at-once", "a") in kinds(Machine(apart.states, back, apart.passages))
    ranked = (apart.passages[0], apart.passages[1].but(rank=2), *apart.passages[2:])
    assert ("at-once", "a") not in kinds(Machine(apart.states, wide, ranked))
    negated = machine("a b s*", [E], way("a", "b", "e"), way("a", "s", "!e"), way("b", "s", "e"))
    assert not [k for k in kinds(negated) if k[0] == "at-once"]


def test_a_ring_without_time_is_found_and_one_that_takes_time_is_not():
    ring = machine("a b s*", [HIGH, E], way("a", "b", "high"), way("b", "a", "high"), way("a", "s", "e", rank=2), way(
        "b", "s", "e", rank=2))  # fmt: skip
    assert ("ring", "a") in kinds(ring)
    slow = {**ring.cues, "high": HIGH.but(dwell_s=0.1)}
    assert not [k for k in kinds(Machine(ring.states, slow, ring.passages)) if k[0] == "ring"]
    other = (ring.passages[0], way("b", "a", "!high"), *ring.passages[2:])
    assert not [k for k in kinds(Machine(ring.states, ring.cues, other)) if k[0] == "ring"]


def test_a_longer_time_out_after_a_shorter_one_is_never_taken():
    m = machine("a b s*", [], way("a", "b", after_s=1.0), way("a", "s", after_s=2.0), way("b", "s", after_s=1.0))
    assert ("never", "a") in kinds(m)


# against other enumerations


def random_machine(seed: int, states: int = 7) -> Machine:
    r = random.Random(f"machine {seed}")
    cues = [cue("e"), cue("f"), cue("halt", urgent=True), cue("lo", kind="threshold", quantity="v", side="below",
            threshold=r.choice([1.0, 2.0, 3.0]), hysteresis=r.choice([0.0, 0.5])), cue("hi", kind="threshold",
            quantity="v", side="above", threshold=r.choice([1.0, 2.0, 3.0]))]  # fmt: skip
    names = [f"s{n}" for n in range(states)]
    made = tuple(MachineState(id=n, name=n, is_stop=r.random() < 0.2, may_end=r.random() < 0.2) for n in names)
    ways = []
    for k in range(r.randint(2, 2 * states)):
        clauses = tuple(
            Clause(parts=tuple(CueIs(cue=c, is_not=r.random() < 0.3) for c in r.sample([x.id for x in cues], r.randint(1, 3))))
            for _ in range(r.randint(0, 2))
        )  # fmt: skip
        after = r.choice([None, None, 1.0, 2.0])
        ways.append(Passage(id=f"w{k}", name=f"w{k}", start=r.choice(names), end=r.choice(names), clauses=clauses,
                            after_s=after, most_s=r.choice([None, 0.1, 0.3]), rank=r.randint(1, 2)))  # fmt: skip
    return Machine(made, {c.id: c for c in cues}, tuple(ways))


def can_be(m: Machine, clauses) -> bool:
    """The same by trying every truth of every cue and values on a fine grid."""
    parts = [p for c in clauses for p in c.parts]
    free = [i for i in {p.cue for p in parts} if m.cues[i].kind == "event"]
    for truths in itertools.product([False, True], repeat=len(free)):
        so = dict(zip(free, truths, strict=True))
        for value in [0.25 * n for n in range(-2, 20)]:
            if all(p.is_not not in _truths(m.cues[p.cue], value, so) for p in parts) and _consistent(parts):
                return True
    return False


def _truths(c, value, so) -> set[bool]:
    """What "not" would be wrong: {True} where the cue cannot be not so, {False} where it cannot be so."""
    if c.kind == "event":
        return {so[c.id]}
    sure = value > c.threshold if c.side == "above" else value < c.threshold
    may = value > c.threshold - c.hysteresis if c.side == "above" else value < c.threshold + c.hysteresis
    return {True} if sure else set() if may else {False}


def _consistent(parts) -> bool:
    said = {}
    return all(said.setdefault(p.cue, p.is_not) == p.is_not for p in parts)


@pytest.mark.parametrize("seed", range(120))
def test_reachable_states_dead_ends_and_stops_are_those_of_networkx(seed):
    m = random_machine(seed)
    graph = nx.MultiDiGraph()
    graph.add_nodes_from(s.id for s in m.states)
    for p in m.passages:
        if p.after_s is not None or not p.clauses or any(can_be(m, [c]) for c in p.clauses):
            graph.add_edge(p.start, p.end)
    first = m.states[0].id
    reached = {first} | nx.descendants(graph, first)
    assert set(m.reached) == reached
    for state in reached:
        assert len(m.path_to(state)) == nx.shortest_path_length(graph, first, state)
    found = kinds(m)
    stops = {s.id for s in m.states if s.is_stop}
    ends = {s.id for s in m.states if s.is_stop or s.may_end}
    assert {s for k, s in found if k == "dead-end"} == {s for s in reached - ends if not graph.out_degree(s)}
    if stops:
        assert {s for k, s in found if k == "no-stop"} == {
            s for s in reached if s not in stops and not stops & nx.descendants(graph, s)}  # fmt: skip
    assert {s for k, s in found if k == "never"} >= {s.id for s in m.states} - reached


@pytest.mark.parametrize("seed", range(120))
def test_what_can_be_at_once_is_what_trying_finds(seed):
    m = random_machine(seed)
    clauses = [c for p in m.passages for c in p.clauses]
    for a, b in itertools.islice(itertools.combinations(clauses, 2), 40):
        assert m.can_be([a, b]) == can_be(m, [a, b]), (a, b, m.cues)


@given(st.integers(0, 5000))
@settings(max_examples=80)
def test_every_story_replays(seed):
    """Each state that is reached is entered by running its story, events and values chosen to suit."""
    m = random_machine(seed)
    for state in m.reached:
        at = m.states[0].id
        for p in m.path_to(state):
            assert p.start == at
            assert p in m.ways[at]
            at = p.end
        assert at == state


def test_time_to_a_stop_is_the_way_that_goes_first_and_what_follows_by_itself():
    m = machine("a b c s*", [STOP, E], way("a", "b", "halt", most_s=0.2), way("b", "s", after_s=0.5), way(
        "c", "s", "halt", most_s=0.1), way("a", "c", "e"), way("b", "c", "e", rank=2))  # fmt: skip
    assert {(s.state, round(s.time_s, 6)) for s in stops_of(m, {})} == {("a", 0.7), ("b", math.inf), ("c", 0.1)}
    slow = Machine(m.states, {**m.cues, "halt": STOP.but(dwell_s=1.0)}, m.passages)
    assert min(s.time_s for s in stops_of(slow, {})) == pytest.approx(1.1)
    loop = machine("a b s*", [STOP], way("a", "b", "halt", most_s=0.1), way("b", "a", after_s=1.0))
    assert all(math.isinf(s.time_s) for s in stops_of(loop, {}))
    unknown = machine("a s*", [STOP], way("a", "s", "halt"))
    assert [s.missing for s in stops_of(unknown, {})] == ["how long “a-s-1” takes"]
    assert [s.time_s for s in stops_of(Machine(unknown.states, unknown.cues, (unknown.passages[0].but(chain="x"),)),
                                       {"x": 0.25})] == [0.25]  # fmt: skip


# code


PROGRAM = """
#include <stdio.h>
#include "machine_states.h"
int main(void) {
    machine m; machine_inputs in; int n, i; double dt;
    machine_begin(&m);
    while (scanf("%lf", &dt) == 1) {
        for (i = 0; i < (int)(sizeof in.events / sizeof in.events[0]); i++) { scanf("%d", &n); in.events[i] = n; }
        for (i = 0; i < (int)(sizeof in.values / sizeof in.values[0]); i++) { scanf("%lf", &in.values[i]); }
        machine_step(&m, &in, dt);
        printf("%d\\n", m.state);
    }
    return 0;
}
"""


def a_story(m: Machine, seed: int, steps: int = 200):
    r = random.Random(f"story {seed}")
    events = [c.id for c in m.cues.values() if c.kind == "event"]
    quantities = list(dict.fromkeys(c.quantity or c.name for c in m.cues.values() if c.kind == "threshold"))
    for _ in range(steps):
        yield ({e for e in events if r.random() < 0.15}, {q: r.choice([0.0, 0.8, 1.2, 1.7, 2.2, 2.6, 3.2, 3.6, 11.0, 11.8, 12.5, 0.2]) for q in
                                                          quantities}, r.choice([0.05, 0.3, 1.0]))  # fmt: skip


def here(m: Machine, story) -> list[int]:
    numbers = {s.id: n for n, s in enumerate(m.states)}
    run, found = begin(m), []
    for events, values, dt in story:
        run = step(m, run, events, values, dt)
        found.append(numbers[run.state])
    return found


def in_python(m: Machine, story, folder) -> list[int]:
    (folder / "made.py").write_text(python_code(m, 'Rover "one"\n*/\x00\u2028'), encoding="utf-8")
    spec = importlib.util.spec_from_file_location("made", folder / "made.py")
    made = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(made)
    cues = {c: n for n, c in enumerate(m.cues)}
    quantities = list(dict.fromkeys(c.quantity or c.name for c in m.cues.values() if c.kind == "threshold"))
    it, found = made.Machine(), []
    for events, values, dt in story:
        it.step({cues[e] for e in events}, {quantities.index(q): v for q, v in values.items()}, dt)
        found.append(it.state)
    return found


def in_c(m: Machine, story, folder) -> list[int]:
    (folder / "machine_states.h").write_text(c_code(m, 'Rover "one"\n*/ ??/ \x00 \\'), encoding="utf-8")
    (folder / "main.c").write_text(PROGRAM, encoding="utf-8")
    built = ["cc", "-std=c99", "-Wall", "-Wextra", "-Werror", "-o", str(folder / "run"), str(folder / "main.c"), "-lm"]
    subprocess.run(built, check=True, capture_output=True)
    lines = []
    cues = list(m.cues)
    for events, values, dt in story:
        said = [str(int(c in events)) for c in cues] or ["0"]
        lines.append(" ".join([f"{dt!r}", *said, *([repr(v) for v in values.values()] or ["0"])]))
    out = subprocess.run([folder / "run"], input="\n".join(lines), check=True, capture_output=True, text=True).stdout
    return [int(x) for x in out.split()]


@pytest.mark.parametrize("seed", range(6))
def test_c_and_python_and_the_run_here_go_the_same_way(seed, tmp_path):
    m = random_machine(seed) if seed < 5 else machine_of(demo().concept)
    m = Machine(m.states, {i: c.but(dwell_s=0.3) if n % 3 == 0 else c for n, (i, c) in enumerate(m.cues.items())},
                m.passages)  # fmt: skip
    story = list(a_story(m, seed))
    wanted = here(m, story)
    assert in_python(m, story, tmp_path) == wanted
    assert len(set(wanted)) > 1 or seed < 5
    if shutil.which("cc") is None:
        pytest.skip("no C compiler on this machine")
    assert in_c(m, story, tmp_path) == wanted


@pytest.mark.parametrize("side", ["below", "above"])
def test_hysteresis_and_dwell_are_the_same_in_all_three(side, tmp_path):
    """So beyond 1.0, no longer so only back by 0.5, counted after 0.2 s: states worked out by hand."""
    level = cue("x", kind="threshold", quantity="v", side=side, threshold=1.0, hysteresis=0.5, dwell_s=0.2)
    m = machine("a b", [level], way("a", "b", "x"), way("b", "a", "!x"))
    beyond, inside, back = (0.9, 1.3, 1.6) if side == "below" else (1.1, 0.7, 0.4)
    values = [beyond, beyond, beyond, inside, inside, back, beyond, back, inside]
    story = [(set(), {"v": v}, 0.1) for v in values]
    assert here(m, story) == [0, 0, 1, 1, 1, 0, 0, 0, 0]
    assert in_python(m, story, tmp_path) == here(m, story)
    if shutil.which("cc") is not None:
        assert in_c(m, story, tmp_path) == here(m, story)


def test_there_is_nothing_to_write_or_run_without_states():
    empty = Machine((), {}, ())
    for wrong in (lambda: begin(empty), lambda: c_code(empty, "x"), lambda: python_code(empty, "x")):
        with pytest.raises(ValueError, match="no state"):
            wrong()


# whole projects


def test_both_demos_have_sound_states_and_known_times():
    for name in ("mudlark", "bat-counter"):
        assessment = assess(demo(name))
        assert assessment.of(STATES).faults == ()
        assert not assessment.measure("stop-time").missing
    chain = assess(demo()).measure("chain:bump-to-stop").value
    assert assess(demo()).measure("stop-time").value == pytest.approx(chain)
    assert {s.state for s in assess(demo()).of(STOPS)} == {"wait", "drive", "core", "report", "back-off"}


def test_a_stop_that_is_taken_away_is_said_with_its_remedy_and_its_limit():
    limit = Limit(measure="stop-time", name="Stops", value=0.5, direction="at most")
    project = demo()
    project = project.but(brief=project.brief.but(limits=(*project.brief.limits, limit)))
    assert assess(project).measure("stop-time").verdict == "holds"
    without = edits.remove_passage(project, value_id="stop-core").after
    assessment = assess(without)
    assert assessment.measure("stop-time").verdict == "breaks"
    found = next(f for f in assessment.findings if f.subject == "interlocks" and f.title == "Not heard")
    assert "Wait — start → Drive — on site → Core" in found.what
    after = assessment.again(found.remedies[0].change.after)
    assert not [f for f in after.findings if f.title == "Not heard"]
    assert after.measure("stop-time").verdict == "unknown"  # how long the new way takes, nobody said


def test_ways_are_added_asked_more_and_less():
    project = Project(name="p", concepts=(Concept(id="a", name="one"),))
    for name in ("One", "Two"):
        project = edits.add_state(project, name=name).after
    project = edits.add_cue(project, name="Go").after
    project = edits.add_cue(project, name="Clear").after
    project = edits.add_passage(project, "go", "one", "two").after
    assert project.concept.passages[0].after_s == 1.0
    project = edits.ask_also(project, "go", 0, "go").after
    project = edits.ask_also(project, "go", 0, "clear", is_not=True).after
    project = edits.ask_also(project, "go", 9, "clear").after
    assert [[(p.cue, p.is_not) for p in c.parts] for c in project.concept.passages[0].clauses] == [
        [("go", False), ("clear", True)], [("clear", False)]]  # fmt: skip
    with pytest.raises(ProjectError, match="already"):
        edits.ask_also(project, "go", 0, "go")
    project = edits.set_passage(project, value_id="go", after_s=None).after
    project = edits.ask_no_more(project, "go", 1, "clear").after
    project = edits.ask_no_more(project, "go", 0, "clear").after
    with pytest.raises(ProjectError, match="taken at once"):
        edits.ask_no_more(project, "go", 0, "go")
    with pytest.raises(ProjectError, match="no state"):
        edits.add_passage(project, "x", "one", "three")
    gone = edits.remove_cue(project, value_id="go").after
    assert gone.concept.passages[0].clauses == (Clause(),)
    assert edits.remove_state(project, value_id="two").after.concept.passages == ()


def test_a_walk_becomes_the_mission():
    project = demo()
    after = edits.mission_of(project, [("wait", 10.0), ("drive", 30.0), ("core", 20.0)]).after
    assert [(p.mode, p.duration_s) for p in after.concept.mission.phases] == [
        ("idle", 10.0),
        ("drive", 30.0),
        ("core", 20.0),
    ]
    bare = with_concept(project, states=tuple(s.but(mode="") for s in project.concept.states))
    with pytest.raises(ProjectError, match="mode of Power"):
        edits.mission_of(bare, [("wait", 1.0)])
