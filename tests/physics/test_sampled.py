"""Controllers as they run: poles by numpy, the control package's responses and margins, noise by a long run of its own."""

import math
import warnings

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import signal

from wired_union.physics.loops import Transfer, margins, pid
from wired_union.physics.sampled import (
    Sampled,
    noise_through,
    open_loop,
    run_of,
    sampled_margins,
    sampled_swing,
    settles_sampled,
    worst_swing,
)
from wired_union.physics.step import pid_step, prediction_gain, step_fit

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import control

PLANT = Transfer((2.0,), (0.5, 1.0, 0.0))


@pytest.mark.parametrize(("gain", "integral", "derivative"), [(1.0, None, None), (1.5, 2.0, None), (1.5, 2.0, 0.1)])
def test_a_short_period_does_what_the_control_package_says(gain, integral, derivative):
    law = pid(gain, integral, derivative)
    whole = control.feedback(
        control.tf(PLANT.numerator, PLANT.denominator) * control.tf(law.numerator, law.denominator)
    )
    times = np.linspace(0, 10, 2001)
    _, wanted = control.step_response(whole, times)
    found = run_of(PLANT, Sampled(gain, integral, derivative, 0.0005, 0.0), 10.0, 20000)
    # the derivative acts on what is measured, not on the step itself: compared where there is none
    if derivative is None:
        assert np.interp(times[:-1], found.times_s, found.y) == pytest.approx(wanted[:-1], abs=3e-3)
    told = pid_step(PLANT.numerator, PLANT.denominator, gain, integral or 0, derivative or 0, 0.0005, 0.0, 1e9, 10.0)
    info = control.step_info(whole, T=times, SettlingTimeThreshold=0.05)
    if derivative is None:
        assert told.overshoot == pytest.approx(info["Overshoot"] / 100, abs=3e-3)
        assert told.rise_time_s == pytest.approx(info["RiseTime"], rel=0.02, abs=0.01)
        assert told.settling_time_s == pytest.approx(info["SettlingTime"], rel=0.02, abs=0.02)


def test_margins_of_a_short_period_are_the_smooth_ones_of_the_control_package():
    delay = 0.1
    law = pid(1.0, 4.0, None)
    smooth = PLANT.times(law)
    _, phase, _, crosses = control.margin(control.tf(smooth.numerator, smooth.denominator))
    found = sampled_margins(PLANT, Sampled(1.0, 4.0, None, 0.002, delay))
    assert found.crossover_rad_s == pytest.approx(crosses, rel=1e-3)
    assert found.margin_left_deg == pytest.approx(phase - math.degrees(crosses * (delay + 0.001)), abs=0.2)
    own = margins(smooth, delay)
    assert own.margin_left_deg == pytest.approx(phase - math.degrees(crosses * delay), abs=1e-3)


def test_a_pade_of_the_control_package_settles_just_below_the_delay_margin_and_not_above():
    own = margins(PLANT.times(pid(1.0, None, None)))
    for share, settles in ((0.97, True), (1.03, False)):
        pade = control.tf(*control.pade(own.delay_margin_s * share, 8))
        poles = control.feedback(control.tf(PLANT.numerator, PLANT.denominator) * pade).poles()
        assert bool((poles.real < 0).all()) is settles


@settings(max_examples=40, deadline=None)
@given(gain=st.floats(0.2, 5.0), lag=st.floats(0.05, 2.0), integrates=st.booleans(), control_gain=st.floats(0.1, 4.0),
       speed=st.floats(0.0, 1.0), periods=st.integers(1, 12))  # fmt: skip
def test_an_exact_model_has_the_poles_of_the_loop_without_delay(gain, lag, integrates, control_gain, speed, periods):
    period = 0.05
    bare = prediction_gain(gain, lag, integrates, control_gain, speed, period, 0.0, 0)
    ahead = prediction_gain(gain, lag, integrates, control_gain, speed, period, periods * period, periods)
    # as many roots at 0 as periods are known to no better than the periods' root of a float's last digit
    assert max(ahead.swing_with, 0.2) == pytest.approx(max(bare.swing_without, 0.2), abs=1e-2)


@pytest.mark.parametrize(("off", "helps"), [(0.0, True), (0.2, True), (3.0, False)])
def test_a_model_that_is_far_off_hurts(off, helps):
    found = prediction_gain(1.0, 0.1, True, 1.5, 0.0, 0.05, 0.5, 10, off)
    assert (found.gain > 1) is helps


def test_the_phase_left_is_what_turns_the_loop_just_unstable():
    """The delay that a predicting loop still bears by its margin: one per cent less settles, one per cent more does not."""
    run = Sampled(0.9, None, None, 0.05, 0.5, speed_gain=0.1, ahead=10, model=Transfer((2.4,), (0.5, 1.0, 0.0)))
    found = sampled_margins(PLANT, run)
    more = found.delay_margin_s
    for share, settles in ((0.99, True), (1.01, False)):
        late = Sampled(0.9, None, None, 0.05, more * share, speed_gain=0.1, ahead=10, model=run.model)
        assert settles_sampled(PLANT, late) is settles


def test_the_open_loop_is_that_of_scipys_held_plant():
    run = Sampled(1.2, None, None, 0.05, 0.1)
    a, b, c, d, _ = signal.cont2discrete(signal.tf2ss(PLANT.numerator, PLANT.denominator), 0.05)
    waves = np.array([0.1, 1.0, 10.0])
    h = np.array([(c @ np.linalg.solve(np.exp(1j * w * 0.05) * np.eye(2) - a, b) + d)[0, 0] for w in waves])
    assert open_loop(PLANT, run, waves) == pytest.approx(1.2 * h * np.exp(-1j * waves * 0.1), rel=1e-9)


def test_noise_at_the_motor_is_what_a_long_run_shows():
    run = Sampled(1.2, 3.0, 0.05, 0.02, 0.04, noise=0.01)
    found = run_of(PLANT, run, 400.0, 20000)
    told = noise_through(PLANT, run)
    assert told.output == pytest.approx(float(np.std(found.given[4000:])), rel=0.05)
    assert told.moved == pytest.approx(float(np.std(found.y[4000:])), rel=0.1)
    steps = Sampled(1.2, 3.0, 0.05, 0.02, 0.04, quantum=0.01 * math.sqrt(12))
    assert noise_through(PLANT, steps).output == pytest.approx(told.output)


def test_a_relay_with_hysteresis_swings_as_by_hand():
    """One lag of 10 s, gain 2, held between 0 and 1 about 1, band 0.2: the exponential arcs between 0.9 and 1.1."""
    run = Sampled(1.0, None, None, 0.001, 0.0, most=1.0, least=0.0, switches=0.2)
    found = run_of(Transfer((2.0,), (10.0, 1.0)), run, 100.0, 100_000)
    assert worst_swing(found.y) == pytest.approx(0.2, abs=2e-3)
    up, down = 10 * math.log((2 - 0.9) / (2 - 1.1)), 10 * math.log(1.1 / 0.9)
    on = np.flatnonzero(np.diff((found.given > 0.5).astype(int)) == 1)
    assert np.diff(on).mean() * 0.001 == pytest.approx(up + down, rel=0.01)


def test_play_and_steps_never_come_to_rest_where_an_integral_pushes():
    plain = Sampled(1.0, 2.0, None, 0.02, 0.1)
    rough = Sampled(1.0, 2.0, None, 0.02, 0.1, backlash=0.1)
    still, loose = (worst_swing(run_of(PLANT, r, 60.0, 6000).y) for r in (plain, rough))
    assert still < 0.01
    assert loose > 0.05


@settings(max_examples=15, deadline=None)
@given(gain=st.floats(0.3, 20.0), lag=st.floats(0.1, 1.0), late=st.floats(0.0, 0.5), integrates=st.booleans(),
       seed=st.integers(0, 99))  # fmt: skip
def test_a_plant_is_found_again_in_a_noisy_step_of_scipy(gain, lag, late, integrates, seed):
    times = np.linspace(0, 6, 300)
    model = ([gain], [lag, 1.0, 0.0] if integrates else [lag, 1.0])
    _, y = signal.step(model, T=times)
    y = 3.0 * np.interp(times - late, times, y, left=0.0)
    noisy = y + np.random.default_rng(seed).normal(0, 0.005 * gain, len(times))
    found = step_fit(times, noisy, 3.0, integrates)
    assert found.gain == pytest.approx(gain, rel=0.02)
    assert found.time_constant_s == pytest.approx(lag, rel=0.06, abs=0.01)
    assert found.delay_s == pytest.approx(late, abs=0.03)
    assert found.residual_sd == pytest.approx(0.005 * gain, rel=0.3)


def test_a_step_without_points_or_movement_is_refused():
    for times, values in (([0, 1], [0, 1]), (range(10), [1.0] * 10), ([0, 2, 1, 3, 4, 5, 6, 7], range(8))):
        with pytest.raises(ValueError, match=r"points|move|rise"):
            step_fit(list(times), list(values), 1.0)


def test_more_delay_never_raises_the_swing_below_what_it_was_at_none():
    swings = [sampled_swing(PLANT, Sampled(0.6, None, None, 0.05, d)) for d in np.linspace(0, 1.5, 31)]
    assert min(swings) == pytest.approx(swings[0], rel=0.05)
    assert swings[-1] > 1
