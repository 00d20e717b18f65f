"""Timing, Power and Motion agree: a stage and a phase last as long as the movement that Motion works out."""

import math

import pytest

import edits
from builders import Actuator, Sampled, a_chain, a_limit, with_load
from wired_union.kernel.results import Verdict
from wired_union.project.model import Again, Movement
from wired_union.subjects import assess
from wired_union.subjects.motion.gives_times import MOTION
from wired_union.subjects.timing.assess import TIMING


def a_lift(*stages, **figures):
    """A screw of 8 mm lead over 100 mm, and a chain of stages."""
    project = with_load("screw", actuator="motor", lead_m=0.008, stroke_m=0.1, force_n=20.0, **figures)
    concept = project.concept.but(chains=(a_chain(*stages, name="lift"),))
    return project.but(concepts=(concept,))


def chain(project):
    return assess(project).of(TIMING).chains[0]


def test_a_stage_takes_as_long_as_the_stroke_of_the_screw():
    """Stroke over speed: 100 mm at the lead of 8 mm a turn, at the speed of the motor under the load."""
    project = a_lift(Sampled(name="look", period_s=0.02, response_s=0.002), Movement(name="the stroke", load="load"))
    result = assess(project).of(MOTION).of("load")
    turn = result.points[1].speed_rad_s  # on average; the worst is at the sag
    assert result.takes_s[1] == pytest.approx(0.1 / (turn * 0.008 / (2 * math.pi)), rel=0.05)
    found = chain(project)
    assert found.latency.most_s == pytest.approx(0.022 + result.takes_s[1])
    assert found.latency.least_s == pytest.approx(0.002 + result.takes_s[0])
    assert result.takes_s[0] < result.takes_s[1]


def test_a_longer_stroke_makes_the_chain_longer_and_breaks_its_limit():
    project = a_lift(Movement(name="the stroke", load="load"))
    most = chain(project).latency.most_s
    project = edits.add_limit(project, a_limit("chain:lift", most * 1.2)).after
    assert assess(project).measure("chain:lift").verdict is not Verdict.BREAKS
    longer = edits.set_load(project, "load", stroke_m=0.2).after
    assert assess(longer).measure("chain:lift").value == pytest.approx(2 * most)
    assert assess(longer).measure("chain:lift").verdict is Verdict.BREAKS


@pytest.mark.parametrize(("change", "why"), [
    (lambda p: edits.set_part_value(p, "motor", "motor.stall_torque_n_m", None).after, "torque"),
    (lambda p: edits.set_load(p, "load", force_n=90_000.0).after, "does not move"),
    (lambda p: edits.remove_load(p, "load").after, "what moves"),
])  # fmt: skip
def test_what_is_not_known_or_does_not_move_makes_the_chain_unknown(change, why):
    project = edits.add_limit(a_lift(Movement(name="the stroke", load="load")), a_limit("chain:lift", 60.0)).after
    measure = assess(change(project)).measure("chain:lift")
    assert measure.verdict is Verdict.UNKNOWN
    assert any(why in m for m in measure.missing)


def test_stages_are_done_again():
    """Five readings of 2 ms every 20 ms, each just missed, then a move: 5 · 22 ms + 50 ms."""
    reading = Sampled(name="reading", period_s=0.02, response_s=0.002)
    found = chain(
        a_lift(reading, Again(name="four more", stages=1, times=4), Actuator(name="moves", least_s=0.01, most_s=0.05))
    )
    assert found.latency.most_s == pytest.approx(5 * 0.022 + 0.05)
    assert found.latency.least_s == pytest.approx(5 * 0.002 + 0.01)
    assert [b.most_s for b in found.bars] == pytest.approx([0.022, 0.088, 0.05])


def test_a_group_is_done_again_whole_and_groups_of_groups_too():
    one, other = (Actuator(name=n, least_s=t, most_s=t) for n, t in (("a", 0.001), ("b", 0.002)))
    twice = (one, other, Again(name="again", stages=2, times=1))
    assert chain(a_lift(*twice)).latency.most_s == pytest.approx(0.006)
    assert chain(a_lift(*twice, Again(name="all again", stages=3, times=2))).latency.most_s == pytest.approx(0.018)
    assert chain(a_lift(Again(name="nothing before it"))).latency is None
    many = [Again(name=f"{n}", stages=9, times=1000) for n in range(4)]
    assert any("fewer than" in m for m in chain(a_lift(one, *many)).missing)


def test_a_phase_that_follows_a_movement_says_when_it_no_longer_does():
    project = a_lift()
    takes = assess(project).of(MOTION).of("load").takes_s[1]
    follows = edits.follow_movement(project, 0, "load", takes).after
    assert not [f for f in assess(follows).findings if f.check == "phase"]
    longer = edits.set_load(follows, "load", stroke_m=0.2).after
    found = next(f for f in assess(longer).findings if f.check == "phase")
    assert found.verdict is Verdict.BREAKS
    mended = found.remedies[0].change.after
    assert mended.concept.mission.phases[0].duration_s == pytest.approx(2 * takes)
    assert not [f for f in assess(mended).findings if f.check == "phase"]
    assert edits.remove_load(follows, "load").after.concept.mission.phases[0].load == ""


def test_items_that_stay_are_not_touched_by_a_load_that_goes():
    project = a_lift(Movement(name="the stroke", load="load"))
    left = edits.remove_load(project, "load").after
    assert left.concept.chains[0].stages[0].load == ""
    assert left.concept.items == project.concept.items
