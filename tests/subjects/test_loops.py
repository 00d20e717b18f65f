"""Control loops in whole projects: plants from Motion, delays of chains, gaps, remedies that mend."""

import math

import pytest

from builders import a_chain, a_project, a_rover
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import outcome, ripple
from wired_union.physics.loops import loop_delay
from wired_union.project.loop_model import Loop
from wired_union.project.timing_model import Event
from wired_union.subjects import assess
from wired_union.subjects.mass.gives import TOTAL_KG
from wired_union.subjects.motion.gives_times import MOTION
from wired_union.subjects.timing.edits import remove_chain
from wired_union.subjects.timing.edits_shared import set_loop
from wired_union.subjects.timing.loops import LOOPS
from wired_union.subjects.timing.tunings import swings_at, taken, tunings


def looped(project, late_s=0.3, **figures):
    """A loop with a chain that takes so long."""
    chain = a_chain(Event(name="seen", least_s=0.0, most_s=late_s))
    loop = Loop(id="it", name="It", **{"chain": "bump", "sample_s": 0.02, **figures})
    concept = project.concept.but(chains=(chain,), control_loops=(loop,))
    return project.but(concepts=(concept,))


def aiming(late_s=0.3, gain=1.0, **figures):
    return looped(a_project(), late_s, plant="integrator with lag", plant_gain=1.0, time_constant_s=0.1,
                  control_gain=gain, **figures)  # fmt: skip


def of(project):
    (found,) = assess(project).of(LOOPS)
    return found


def test_the_chain_and_half_a_period_are_the_delay_and_the_margins_follow():
    found = of(aiming(turns_rad_s=0.5))
    assert found.delay_s == pytest.approx(0.31)
    by_hand = loop_delay([1.0], [0.1, 1.0, 0.0], 0.31)
    assert found.left_deg == pytest.approx(by_hand.margin_left_deg)
    assert found.bears_s == pytest.approx(by_hand.delay_margin_s - 0.31)
    assert found.aim_deg == pytest.approx(math.degrees(0.155))
    assert found.verdict is Verdict.HOLDS


def test_too_late_a_picture_makes_it_circle_and_each_remedy_helps():
    project = aiming(late_s=1.2, gain=1.4)
    assessed = assess(project)
    finding = next(f for f in assessed.findings if f.check == "loop")
    assert (finding.verdict, finding.title) == (Verdict.BREAKS, "It circles what it aims at")
    assert of(project).bears_s < 0
    helps = {}
    for remedy in finding.remedies:
        told = outcome(assessed, ripple(assessed, remedy.change), finding)
        helps[remedy.label.split(" ")[0]] = (told.helps, of(remedy.change.after).verdict)
    assert helps["a"] == (True, Verdict.HOLDS)
    assert helps["gain"] == (True, Verdict.HOLDS)


def test_a_loop_that_swings_without_any_delay_is_said_to():
    found = of(aiming(late_s=0.0, gain=5.0, integral_s=0.02))
    assert not found.settles
    assert (found.left_deg, found.bears_s) == (-180.0, -found.delay_s)
    assert found.verdict is Verdict.BREAKS


def test_the_motor_of_a_drive_is_its_plant():
    """K = 1/ke, T = R·m·(r/i)²/(n·kt·ke), by hand from Motion's constants; unweighed parts leave it unknown."""
    project = looped(a_rover(), 0.05, plant="motor speed", load="drive", control_gain=0.5, integral_s=0.1)
    found, assessed = of(project), assess(project)
    motor = assessed.of(MOTION).of("drive").drive.motor
    inertia = assessed.of(TOTAL_KG) * 0.06**2 / 4
    assert found.plant.numerator[0] == pytest.approx(1 / motor.volts_s_per_rad)
    time = motor.resistance_ohm * inertia / (motor.torque_n_m_per_a * motor.volts_s_per_rad)
    assert found.plant.denominator[0] == pytest.approx(time)
    own = of(set_loop(project, value_id="it", inertia_kg_m2=2 * inertia).after)
    assert own.plant.denominator[0] == pytest.approx(2 * time)
    place = of(set_loop(project, value_id="it", plant="motor position").after)
    assert place.plant.denominator == (pytest.approx(time), 1.0, 0.0)
    heading = set_loop(project, value_id="it", plant="heading", track_m=0.3, time_constant_s=0.2).after
    assert of(heading).plant.numerator[0] == pytest.approx(2 * 0.06 / 0.3 / motor.volts_s_per_rad)


@pytest.mark.parametrize(("figures", "lacks"), [
    ({"plant": "first order"}, "It: the gain of what is controlled"),
    ({"plant": "first order", "plant_gain": 1.0}, "It: its time constant"),
    ({"plant": "motor speed"}, "It: a motor of Motion that it controls"),
])  # fmt: skip
def test_what_nobody_says_leaves_it_unknown(figures, lacks):
    found = of(looped(a_project(), **figures))
    assert lacks in found.missing
    assert (found.verdict, found.left_deg) == (Verdict.UNKNOWN, None)


def test_a_chain_that_is_not_known_or_gone():
    lost = looped(a_project(), plant="first order", plant_gain=1.0, time_constant_s=0.1)
    empty = lost.concept.but(chains=(a_chain(),))
    assert of(lost.but(concepts=(empty,))).missing == ("It: how long Bump takes",)
    gone = remove_chain(lost, "bump").after
    assert gone.concept.control_loops[0].chain == ""
    assert of(gone).delay_s == pytest.approx(0.01)  # half a period is left


def test_a_plant_that_is_a_third_off_leaves_what_is_said():
    """Each corner by the textbook's method itself: more gain crosses over later, and the delay takes more of it."""
    found = of(aiming(late_s=0.4, gain=1.5))
    least, most = found.span_deg()
    corners = [loop_delay([1.5 * g], [0.1 * t, 1.0, 0.0], found.delay_s).margin_left_deg
               for g in (0.7, 1.0, 1.3) for t in (0.7, 1.0, 1.3)]  # fmt: skip
    assert (least, most) == (pytest.approx(min(corners)), pytest.approx(max(corners)))
    assert least < found.left_deg < most


@pytest.mark.parametrize("plant", ["integrator with lag", "first order"])
def test_rules_side_by_side_do_what_they_say(plant):
    """Taken, each has the margin that was shown; the quickest swings over most, and the swing is where no phase is left."""
    project = looped(a_project(), 0.3, plant=plant, plant_gain=1.5, time_constant_s=0.4)
    rules = tunings(of(project))
    names = {t.rule for t in rules}
    assert {"SIMC", "λ of three delays"} <= names
    for t in rules:
        after = of(set_loop(project, value_id="it", **taken(project.concept.control_loops[0], t)).after)
        assert after.left_deg == pytest.approx(t.left_deg)
        assert t.settles_s is None or t.settles_s > after.delay_s
    by_name = {t.rule: t for t in rules}
    if plant == "first order":  # a PI controller on an integrator always swings over
        assert by_name["λ of three delays"].overshoot <= by_name["SIMC"].overshoot + 1e-3
    gain, period = swings_at(of(project))
    edge = of(set_loop(project, value_id="it", control_gain=gain, integral_s=None).after)
    assert edge.left_deg == pytest.approx(0.0, abs=1e-6)
    assert 2 * math.pi / edge.margins.crossover_rad_s == pytest.approx(period)


def test_a_controller_that_runs_too_seldom_is_no_hold():
    """A lag of 1 s under a gain of 10 that runs every 0.25 s: smooth it would have 20° left; held it swings up."""
    project = looped(a_project(), 0.0, plant="first order", plant_gain=1.0, time_constant_s=1.0, control_gain=10.0,
                     sample_s=0.25)  # fmt: skip
    found = of(project)
    assert found.margins.margin_left_deg > 15
    assert (found.verdict, found.sampled_settles) == (Verdict.BREAKS, False)
    finding = next(f for f in assess(project).findings if f.check == "loop")
    assert "too seldom" in finding.what
    after = of(set_loop(project, value_id="it", sample_s=0.05).after)
    assert after.verdict is Verdict.HOLDS
