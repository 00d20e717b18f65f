"""The bench: the order against networkx, expected beside found, the simulated bench and its faults, readings kept."""

import math

import networkx as nx
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import a_buck, a_gearmotor, a_load, a_pack, a_project, plain
from wired_union.catalogue.demo import demo
from wired_union.kernel.ripple import offered
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.project.model import Link
from wired_union.subjects import assess
from wired_union.subjects.bench.assess import BENCH
from wired_union.subjects.bench.edits import add_reading, take_as_measured, wait_for, wake
from wired_union.subjects.bench.instruments import Fault, NoReading, SimulatedBench, faults_of
from wired_union.subjects.bench.order import KINDS, Expect, kind_of, steps_of
from wired_union.subjects.power.gives import POWER

DAY = "2026-11-26"


def a_bench():
    """A pack, a converter, a controller with a sensor, and a motor straight on the pack."""
    brain = a_load("brain", 0.1, rated_v=5.0, idle_a=0.04, link=Link(logic_v=3.3)).but(kind="microcontroller")
    eye = a_load("eye", 0.02, rated_v=5.0, link=Link(logic_v=3.3, bus="I2C", pins=2))
    return a_project(a_gearmotor("motor"), eye, brain, a_buck(quiescent_a=0.004), a_pack(), feeds=(
        ("pack", "buck"), ("buck", "brain"), ("buck", "eye"), ("pack", "motor")))  # fmt: skip


def steps(project):
    return assess(project).of(BENCH)


def test_each_needs_only_what_already_works():
    assert [w.step.item.id for w in steps(a_bench())] == ["pack", "buck", "brain", "eye", "motor"]
    assert [w.stands for w in steps(a_bench())] == ["next", "later", "later", "later", "later"]
    woken = wake(a_bench(), "pack", DAY).after
    assert {w.step.item.id: w.stands for w in steps(woken)} == {
        "pack": "woken", "buck": "next", "brain": "later", "eye": "later", "motor": "next"}  # fmt: skip
    assert {w.step.item.id: w.lacks for w in steps(woken)}["eye"] == ("buck", "brain")


@pytest.mark.parametrize("name", ["mudlark", "bat-counter"])
def test_the_order_is_one_that_networkx_allows(name):
    """A topological order of what feeds and commands what, with the kinds as they should come where it is free."""
    concept = demo(name).concept
    made = steps_of(concept, {})
    graph = nx.DiGraph()
    graph.add_nodes_from(i.id for i in concept.items if kind_of(i))
    graph.add_edges_from((n, s.item.id) for s in made for n in s.needs if n in graph)
    place = {s.item.id: n for n, s in enumerate(made)}
    assert set(place) == set(graph)
    assert all(place[a] < place[b] for a, b in graph.edges)
    theirs = nx.lexicographical_topological_sort(
        graph, key=lambda i: (KINDS.index(kind_of(next(x for x in concept.items if x.id == i))),
                              [x.id for x in concept.items].index(i)))  # fmt: skip
    assert [s.item.id for s in made] == list(theirs)


def test_expected_is_what_the_plan_counts_with():
    found = {(w.step.item.id, f.expect.figure): f.expect for w in steps(a_bench()) for f in w.found}
    assert found["pack", "volts"].value == assess(a_bench()).of(POWER).rested_v["pack"]
    assert found["buck", "regulator.output_v"].value == 5.0
    assert found["brain", "load.idle_a"].value == 0.04
    assert found["eye", "answers"].value == 1.0
    motor = next(i for i in a_bench().concept.items if i.id == "motor").part.motor
    assert found["motor", "motor.stall_current_a"].value == motor.stall_current_a
    assert found["motor", "motor.no_load_speed_rad_s"].unit == "rad/s"


@given(
    st.floats(0.5, 1.5),
    st.sampled_from((("buck", "regulator.output_v", 5.0, 0.05), ("brain", "load.active_a", 0.1, 0.2))),
)
@settings(max_examples=60, deadline=None)
def test_what_differs_beyond_the_tolerance_is_found_and_nothing_else(factor, what):
    item, figure, expected, share = what
    project = add_reading(a_bench(), item, figure, expected * factor).after
    differs = [f for f in assess(project).findings if f.subject == "bench"]
    if abs(abs(factor - 1) - share) > 1e-6:
        assert bool(differs) is (abs(factor - 1) > share)


def test_a_measured_current_takes_its_place_and_the_runtime_moves():
    project = add_reading(a_bench(), "brain", "load.active_a", 0.16, on=DAY, by="Ida", instrument="meter").after
    assessed = assess(project)
    (finding,) = [f for f in assessed.findings if f.check == "bench-differs"]
    assert plain(finding.what) == "160 mA measured at work, 100 mA in the plan; 20 % may be."
    (taken, words), *_ = offered(assessed, finding)
    assert (plain(taken.label), words) == (
        "take 160 mA as measured",
        "then holds, but 1 more not known: buck: its heat",
    )
    after = assess(taken.change.after)
    assert not [f for f in after.findings if f.subject == "bench"]
    assert after.of(POWER).average("brain", "current_a")[0] != assessed.of(POWER).average("brain", "current_a")[0]
    item = next(i for i in taken.change.after.concept.items if i.id == "brain")
    assert item.knowledge == "datasheet"  # nobody weighed it
    assert len(taken.change.after.concept.readings) == 1
    with pytest.raises(ProjectError, match="was not measured yet"):
        take_as_measured(a_bench(), "brain", "load.active_a")
    volts = add_reading(a_bench(), "pack", "volts", 13.0).after
    with pytest.raises(ProjectError, match="worked out"):
        take_as_measured(volts, "pack", "volts")


def test_a_part_that_does_not_answer_and_one_woken_too_early_are_told():
    silent = add_reading(a_bench(), "eye", "answers", 0.0).after
    (finding,) = [f for f in assess(silent).findings if f.subject == "bench"]
    assert (finding.title, [r.label for r in finding.remedies]) == (
        "eye: no answer",
        ["look for what is usually wrong"],
    )
    lossy = add_reading(silent, "eye", "answers", 0.97).after  # the mean of a hundred packets
    assert not [f for f in assess(lossy).findings if f.subject == "bench"]
    again = add_reading(silent, "eye", "answers", 1.0).after
    assert not [f for f in assess(again).findings if f.subject == "bench"]
    assert len(again.concept.readings) == 2  # the first is kept
    early = wake(a_bench(), "eye", DAY).after
    (finding,) = [f for f in assess(early).findings if f.subject == "bench"]
    assert finding.what == "buck, brain are not said to work yet."
    assert wake(early, "eye", "").after.concept.wakings[0].woken_on == ""


def test_a_step_waits_and_the_stage_has_no_verdict_until_it_is_begun():
    assert assess(a_bench()).stage_verdict(assess(a_bench()).subject("bench")) is None
    waiting = wait_for(a_bench(), "pack", "a charger").after
    assert steps(waiting)[0].stands == "waits"
    assert assess(waiting).stage_verdict(assess(waiting).subject("bench")) == "unknown"
    assert steps(wait_for(waiting, "pack", "").after)[0].stands == "next"
    done = a_bench()
    for item in ("pack", "buck", "brain", "eye", "motor"):
        done = wake(done, item, DAY).after
    assert assess(done).stage_verdict(assess(done).subject("bench")) == "holds"


@pytest.mark.parametrize("seed", range(8))
def test_the_simulated_bench_finds_nothing_wrong_as_planned_and_every_planted_fault(seed):
    project = a_bench()
    made = [w.step for w in steps(project)]

    def read_all(fault):
        bench, read = SimulatedBench(seed, fault), project
        for step in made:
            for e in step.expects:
                if e.value is not None:
                    value, name = bench.read(step, e)
                    read = add_reading(read, step.item.id, e.figure, value, instrument=name).after
        return {f.of for f in assess(read).findings if f.check == "bench-differs"}

    assert read_all(None) == set()
    faults = faults_of(made)
    assert {f.item for f in faults} == {"buck", "brain", "eye", "motor"}
    for fault in faults:
        assert read_all(fault) == {fault.item}, fault.said


def test_what_the_plan_does_not_know_cannot_be_simulated():
    step = steps(a_bench())[0].step
    with pytest.raises(NoReading, match="says nothing"):
        SimulatedBench(1).read(step, Expect("volts", "x", None, "V", 0.05, "a meter"))
    again = [SimulatedBench(3).read(step, step.expects[0]) for _ in range(2)]
    assert again[0] == again[1]


def test_what_is_read_is_kept_in_the_file_and_goes_with_its_part(tmp_path):
    from wired_union.project.part_edits import remove_item

    project = wake(add_reading(a_bench(), "eye", "load.active_a", 0.02, on=DAY).after, "eye", DAY).after
    assert from_text(to_text(project), tmp_path / "x") == project
    gone = remove_item(project, "eye").after
    assert (gone.concept.readings, gone.concept.wakings) == ((), ())
    with pytest.raises(ProjectError):
        add_reading(project, "eye", "load.active_a", 0.02, on="yesterday")


def test_the_demo_has_one_motor_that_drags_and_one_step_that_waits():
    stands = {w.step.item.id: w.stands for w in assess(demo()).of(BENCH)}
    assert (stands["gearmotor"], stands["probe"], stands["controller"]) == ("differs", "waits", "woken")


def test_each_simulated_instrument_tells_its_figures_with_its_noise_and_no_others():
    step = next(w.step for w in steps(a_bench()) if w.step.item.id == "buck")
    volts = next(e for e in step.expects if e.figure == "regulator.output_v")
    mass = next(e for e in step.expects if e.figure == "mass_kg")

    def many(kind, expect, fault=None):
        door = SimulatedBench(5, fault).at(kind, step, expect)
        door.open()
        values = np.array([door.read() for _ in range(2000)])
        door.close()
        return values

    meter, scope, text = (many(k, volts) for k in ("meter", "scope", "serial device"))
    for values in (meter, scope, text, many("supply", volts)):
        assert float(values.mean()) == pytest.approx(5.0, rel=0.002)
    assert float(meter.std()) == pytest.approx(0.01, rel=0.1)
    assert float(scope.std()) == pytest.approx(5 * math.hypot(0.004, 0.015 / math.sqrt(2)), rel=0.1)  # of a sine
    assert float(many("scale", mass).mean()) == pytest.approx(mass.value, rel=0.01)
    sick = Fault("buck", ("regulator.output_v",), 0.86, "set too low")
    assert float(many("meter", volts, sick).mean()) == pytest.approx(4.3, rel=0.002)
    for kind, expect in (("scale", volts), ("link tester", volts), ("meter", mass)):
        with pytest.raises(NoReading, match="does not tell"):
            SimulatedBench(1).at(kind, step, expect)
    answers = next(e for e in next(w.step for w in steps(a_bench()) if w.step.item.id == "eye").expects if not e.unit)
    got = many("link tester", answers)
    assert set(got) == {0.0, 1.0}
    assert float(got.mean()) == pytest.approx(0.99, abs=0.01)
    assert 2 * float(SimulatedBench(1).beside(2.0).read()) == pytest.approx(4, rel=0.05)


def test_what_a_scale_showed_is_taken_as_its_mass():
    project = add_reading(a_bench(), "eye", "mass_kg", 0.2, on=DAY, instrument="scale").after
    (finding,) = [f for f in assess(project).findings if f.check == "bench-differs"]
    (taken, _), *_ = offered(assess(project), finding)
    item = next(i for i in taken.change.after.concept.items if i.id == "eye")
    assert (item.part.mass_kg, item.knowledge) == (0.2, "measured")
    assert taken.change.after.concept.weighings[0].scale == "scale"
    undated = add_reading(a_bench(), "eye", "mass_kg", 0.2).after
    assert take_as_measured(undated, "eye", "mass_kg").after.concept.items[1].part.mass_kg == 0.2
