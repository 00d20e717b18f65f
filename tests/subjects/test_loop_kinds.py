"""Every kind of loop in whole projects: switches, state feedback, prediction, a cascade, two motors, rough sensors."""

import math

import numpy as np
import pytest
from scipy import signal

from builders import a_chain, a_project, a_rover
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered
from wired_union.picture.shapes import Kit, rough_ruler
from wired_union.project.errors import ProjectError
from wired_union.project.loop_model import Loop
from wired_union.project.timing_model import Event
from wired_union.subjects import assess
from wired_union.subjects.timing.fit_step import fitted, read_step
from wired_union.subjects.timing.loops import LOOPS, gain_range
from wired_union.subjects.timing.picture_bode import bode_picture, bode_points
from wired_union.subjects.timing.picture_loop import loop_picture, loop_rows
from wired_union.subjects.timing.picture_roots import roots_at, roots_picture, settles_to
from wired_union.subjects.timing.tunings import tunings

HEATER = {"plant": "first order", "plant_gain": 10.0, "time_constant_s": 60.0, "controller": "on and off", "most": 12.0,
          "least": 0.0, "step": 60.0, "band": 2.0, "swings": 16.0, "dead_s": 4.0, "sample_s": 1.0}  # fmt: skip
AIMING = {"plant": "integrator with lag", "plant_gain": 1.0, "time_constant_s": 0.1, "sample_s": 0.02, "dead_s": 1.2,
          "control_gain": 1.4}  # fmt: skip


def looped(*loops, project=None):
    project = project or a_project()
    made = tuple(Loop(id=f"l{n}", name=f"Loop {n}", **figures) for n, figures in enumerate(loops))
    return project.but(concepts=(project.concept.but(control_loops=made),))


def of(*loops, project=None):
    return assess(looped(*loops, project=project)).of(LOOPS)


def test_a_heater_that_only_switches_swings_by_its_band_and_its_delay():
    """By hand: from 61° on at most 4.5 + 1 s later it turns: 120 − (120 − 61)·e^(−5/60) up, 59·e^(−5/60) down."""
    (found,) = of(HEATER)
    late = 4.0 + 1.0  # the delay, and up to a period until the edge is seen
    high, low = 120 - (120 - 61) * math.exp(-late / 60), 59 * math.exp(-late / 60)
    assert found.swing == pytest.approx(high - low, rel=0.02)
    assert found.verdict is Verdict.HOLDS
    assert (found.left_deg, found.bears_s) == (None, None)
    assert of({**HEATER, "swings": 5.0})[0].verdict is Verdict.BREAKS


def test_a_heater_may_turn_a_whole_period_late_whatever_a_run_shows():
    (found,) = of({**HEATER, "sample_s": 7.0, "dead_s": 0.0})
    assert found.swing == pytest.approx(120 - 59 * math.exp(-7 / 60) - 61 * math.exp(-7 / 60) + 2 * math.exp(-7 / 60))


def test_a_heater_too_weak_never_gets_there_and_one_without_figures_is_unknown():
    weak = assess(looped({**HEATER, "most": 6.0}))
    assert any("never gets there" in f.title for f in weak.findings)
    for lacks in ("most", "swings"):
        (found,) = of({k: v for k, v in HEATER.items() if k != lacks})
        assert found.verdict is Verdict.UNKNOWN
        assert found.missing


def test_what_moves_on_is_reached_by_what_only_pushes_but_never_held_by_a_switch_that_does():
    pushes = {**AIMING, "dead_s": 0.1, "most": 1.0, "least": 0.0}
    (smooth,) = of(pushes)
    assert smooth.verdict is Verdict.HOLDS
    (switch,) = of({**pushes, "controller": "on and off", "swings": 1.0})
    assert switch.verdict is Verdict.BREAKS
    (weak,) = of({"plant": "first order", "plant_gain": 1.0, "time_constant_s": 1.0, "most": 0.5})
    assert weak.verdict is Verdict.BREAKS  # a step of 1 is beyond what it can give


def test_the_run_of_a_switching_loop_never_swings_further_than_it_says():
    for dead, sample, band in ((1.0, 0.5, 0.5), (9.0, 3.0, 1.0), (0.0, 2.0, 4.0)):
        (found,) = of({**HEATER, "dead_s": dead, "sample_s": sample, "band": band})
        for share in np.linspace(0.6, 1.4, 9):
            y = found.rest(float(share)).y
            if share == 1.0:
                assert np.ptp(y[len(y) // 2 :]) <= found.swing * (1 + 1e-6)


def test_prediction_cures_a_loop_that_circles_and_a_wrong_model_does_less():
    (circles,) = of(AIMING)
    assert circles.verdict is Verdict.BREAKS
    (ahead,) = of({**AIMING, "predicts_s": 1.2})
    assert ahead.verdict is Verdict.HOLDS
    for wrong in (-0.6, 1.5):
        (off,) = of({**AIMING, "predicts_s": 1.2, "model_off": wrong})
        assert off.bears_s < ahead.bears_s
    finding = next(f for f in assess(looped(AIMING)).findings if f.check == "loop")
    assert any("predict" in r.label for r, _ in offered(assess(looped(AIMING)), finding))


def test_what_it_predicts_it_does_not_turn_past():
    (late,) = of({**AIMING, "turns_rad_s": 0.5})
    (ahead,) = of({**AIMING, "turns_rad_s": 0.5, "predicts_s": 1.2, "model_off": 0.1})
    assert late.aim_deg == pytest.approx(math.degrees(0.5 * 1.21))
    assert ahead.aim_deg == pytest.approx(math.degrees(0.5 * (0.01 + 0.12)))


def test_state_feedback_has_the_roots_that_it_places():
    """Both roots of T·s² + (1 + K·k2)·s + K·k1 at −2 1/s: T 0.5, K 2 give k1 = 1, k2 = 0.5, by hand."""
    (found,) = of({"plant": "integrator with lag", "plant_gain": 2.0, "time_constant_s": 0.5, "sample_s": 0.001,
                   "controller": "state feedback", "control_gain": 1.0, "speed_gain": 0.5})  # fmt: skip
    slow = sorted(roots_at(found, 1.0), key=abs)[:2]
    assert np.real(slow) == pytest.approx([-2.0, -2.0], abs=0.15)
    assert found.verdict is Verdict.HOLDS


def test_a_cascade_is_its_inner_loop_closed_and_summed_up():
    inner = {"plant": "first order", "plant_gain": 2.0, "time_constant_s": 0.1, "control_gain": 1.0, "integral_s": 0.1,
             "sample_s": 0.001}  # fmt: skip
    _, outer = of(inner, {"plant": "over an inner loop", "inside": "l0", "control_gain": 1.5, "sample_s": 0.001})
    # PI cancels the lag: the inner loop is 1/(0.05 s + 1), over s; scipy's phase of 1.5/(s(0.05 s + 1))
    w, _, phase = signal.bode(signal.TransferFunction([1.5], [0.05, 1.0, 0.0]), w=[outer.margins.crossover_rad_s])
    assert outer.margins.phase_margin_deg == pytest.approx(180 + phase[0], abs=0.5)
    assert w[0] == pytest.approx(1.5, rel=0.01)
    assert outer.quick_rad_s == pytest.approx(20.0, rel=0.6)
    (alone,) = of({"plant": "over an inner loop", "inside": ""})
    assert alone.verdict is Verdict.UNKNOWN


def test_a_cascade_takes_the_delay_of_the_loop_inside_with_it():
    """By complex numbers at the crossover: L/(1 + L) of the inner loop with e^(−jωτ), and 1/jω outside."""
    inner = {"plant": "first order", "plant_gain": 2.0, "time_constant_s": 0.1, "control_gain": 0.5, "integral_s": 0.1,
             "sample_s": 0.001, "dead_s": 0.08}  # fmt: skip
    _, outer = of(inner, {"plant": "over an inner loop", "inside": "l0", "control_gain": 1.5, "sample_s": 0.001})
    w = outer.margins.crossover_rad_s
    loop = 0.5 * (1 + 1 / (0.1j * w)) * 2 / (0.1j * w + 1) * np.exp(-1j * w * 0.0805)
    whole = 1.5 / (1j * w) * loop / (1 + loop)
    assert abs(whole) == pytest.approx(1.0, rel=1e-3)
    assert outer.margins.phase_margin_deg == pytest.approx(180 + math.degrees(np.angle(whole)), abs=0.2)


def test_an_outer_loop_as_quick_as_its_inner_one_is_told():
    inner = {"plant": "first order", "plant_gain": 1.0, "time_constant_s": 1.0, "control_gain": 1.0, "integral_s": 1.0}
    assessed = assess(looped(inner, {"plant": "over an inner loop", "inside": "l0", "control_gain": 0.8}))
    assert any(f.check == "cascade" for f in assessed.findings)


def test_two_motors_drift_apart_and_are_held_in_step():
    project = a_rover()
    load = project.concept.loads[0].id
    figures = {"plant": "two motors in step", "load": load, "inertia_kg_m2": 0.001, "control_gain": 0.5}
    (held,) = of(figures, project=project)
    assert held.drifts_rad_s > 0
    assert held.off_rad == pytest.approx(held.drifts_rad_s / (held.plant.numerator[0] * 0.5))
    (summed,) = of({**figures, "integral_s": 1.0}, project=project)
    assert summed.off_rad == 0.0
    (alike,) = of({**figures, "apart": 0.0}, project=project)
    assert alike.drifts_rad_s == 0.0


def test_a_noisy_loop_is_offered_less_gain_which_helps():
    figures = {"plant": "integrator with lag", "plant_gain": 2.0, "time_constant_s": 0.1, "control_gain": 1.0,
               "noise": 0.02, "swings": 0.02}  # fmt: skip
    before = assess(looped(figures))
    finding = next(f for f in before.findings if f.check == "unrest")
    told = {r.label: words for r, words in offered(before, finding)}
    assert any(label.startswith("half the gain") for label in told)


@pytest.mark.parametrize("rough", [{"backlash": 0.05}, {"quantum": 0.2}, {"noise": 0.02}])
def test_a_rough_sensor_keeps_it_from_resting(rough):
    figures = {"plant": "integrator with lag", "plant_gain": 2.0, "time_constant_s": 0.5, "control_gain": 1.0,
               "integral_s": 2.0, "dead_s": 0.1}  # fmt: skip
    (calm,), (shaken,) = of({**figures, "swings": 0.01}), of({**figures, **rough, "swings": 0.01})
    assert calm.swing == 0.0
    assert shaken.swing > 0.01
    assert shaken.verdict is Verdict.BREAKS
    assert any("Goes on swinging" in row.name for row in loop_rows(shaken))


def test_each_tuning_does_what_it_says_and_names_its_noise():
    (found,) = of({**AIMING, "dead_s": 0.3, "control_gain": 0.7, "noise": 0.01})
    told = tunings(found)
    assert {"SIMC", "critically damped", "today's ratio, for 60°", "both roots alike, predicting"} <= {
        t.rule for t in told
    }
    for t in told:
        (after,) = of({**AIMING, "dead_s": 0.3, "noise": 0.01, **t.figures})
        assert after.left_deg == pytest.approx(t.left_deg, abs=1e-6)
        assert after.noise_out == pytest.approx(t.noise)
    sixty = next(t for t in told if t.rule.startswith("today"))
    assert sixty.left_deg == pytest.approx(60.0, abs=1.0)


def test_gain_and_phase_of_the_picture_are_scipys():
    (found,) = of({**AIMING, "dead_s": 0.3, "control_gain": 0.7})
    waves, size, late, prompt = bode_points(found)
    _, wanted, phase = signal.bode(signal.TransferFunction([0.7], [0.1, 1.0, 0.0]), w=waves)
    assert size == pytest.approx(wanted, abs=1e-6)
    assert prompt == pytest.approx(phase, abs=1e-6)
    assert late == pytest.approx(phase - np.degrees(waves * 0.31), abs=1e-6)


def test_the_gain_up_to_which_it_settles_is_the_edge():
    (found,) = of({**AIMING, "dead_s": 0.3, "control_gain": 0.7})
    edge = settles_to(found)
    for share, settles in ((0.98, True), (1.02, False)):
        (near,) = of({**AIMING, "dead_s": 0.3, "control_gain": 0.7 * edge * share})
        assert near.sampled_settles is settles


def test_the_range_of_a_gain_that_one_setting_holds_ends_where_it_swings():
    figures = {**AIMING, "dead_s": 0.3, "control_gain": 0.7}
    (found,) = of(figures)
    low, high = gain_range(found)
    assert low == pytest.approx(1 / 30)  # an integrator settles however weak it is
    for share, settles in ((0.99, True), (1.01, False)):
        (near,) = of({**figures, "plant_gain": high * share})
        assert near.sampled_settles is settles
    # of a plant that predicts with the gain it was told, both ways are wrong
    (ahead,) = of({**AIMING, "predicts_s": 1.2})
    assert gain_range(ahead)[1] < 10
    (circles,) = of(AIMING)
    assert gain_range(circles) == (1.0, 1.0)


def test_every_picture_of_every_kind_is_drawn():
    kit = Kit(1.0, rough_ruler)
    for figures in (HEATER, AIMING, {**AIMING, "predicts_s": 1.2}, {"plant": "first order"}):
        (found,) = of(figures)
        for draw in (loop_picture, bode_picture, roots_picture):
            assert draw(found, kit, 420.0).shapes


def test_a_measured_step_becomes_the_plant():
    times = np.arange(0, 5, 0.02)
    _, y = signal.step(([2.0], [0.4, 1.0]), T=times)
    late = 3.0 * np.interp(times - 1.1, times, y, left=0.0)  # stepped at 1 s, 0.1 s dead
    rows = [f"{t:.3f}; {v:.5f}; {3.0 if t >= 1 else 0.0}" for t, v in zip(times, late, strict=True)]
    measured = read_step("\n".join(["time; speed; input", *rows]))
    figures, told = fitted(Loop(id="x", name="X", plant="motor speed"), measured)
    assert figures["plant"] == "first order"
    assert (figures["plant_gain"], figures["time_constant_s"], figures["dead_s"]) == pytest.approx(
        (2.0, 0.4, 0.1), abs=0.02
    )
    assert told.residual_sd < 0.02


@pytest.mark.parametrize(
    "text", ["", "time,value", "1,2\n2,3\nx,y", "1\n2\n3", "0,1,5\n1,1,5\n2,1,5", "0,nan\n1,2\n2,3"]
)
def test_a_table_that_is_no_step_is_refused_with_what_to_do(text):
    with pytest.raises(ProjectError):
        fitted(Loop(id="x", name="X"), read_step(text))


def test_a_chain_of_a_loop_still_counts_with_prediction():
    project = a_project()
    chain = a_chain(Event(name="seen", least_s=0.0, most_s=0.3))
    loop = Loop(id="it", name="It", chain="bump", **{**AIMING, "dead_s": 0.0, "predicts_s": 0.3})
    concept = project.concept.but(chains=(chain,), control_loops=(loop,))
    (found,) = assess(project.but(concepts=(concept,))).of(LOOPS)
    assert found.delay_s == pytest.approx(0.31)
    assert found.verdict is Verdict.HOLDS
