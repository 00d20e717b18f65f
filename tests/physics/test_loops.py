"""Loops with delay: the textbook's example, scipy's frequency responses and simulations, the rule's own margins."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import signal
from scipy.linalg import expm

from wired_union.physics.loops import (
    Transfer,
    crossovers,
    is_stable,
    lambda_tuning,
    loop_delay,
    margins,
    phase_deg,
    pid,
    placement_tuning,
    simc_tuning,
    ziegler_nichols,
)
from wired_union.physics.sampled import (
    Sampled,
    exponential,
    sampled_swing,
    settles_sampled,
    step_response,
)

PLANTS = st.tuples(st.floats(0.2, 5.0), st.floats(0.02, 2.0), st.booleans())


def plant(gain: float, time: float, integrates: bool) -> Transfer:
    return Transfer((gain,), (time, 1.0, 0.0) if integrates else (time, 1.0))


def test_the_example_of_methods_md():
    found = loop_delay([2.0], [0.1, 1.0, 0.0], 0.1)
    assert found.crossover_rad_s == pytest.approx(1.963, abs=5e-4)
    assert found.phase_margin_deg == pytest.approx(78.9, abs=0.05)
    assert found.delay_margin_s == pytest.approx(0.702, abs=5e-4)
    assert found.phase_lost_deg == pytest.approx(math.degrees(0.1963), rel=1e-3)
    assert found.margin_left_deg == pytest.approx(found.phase_margin_deg - found.phase_lost_deg)
    with pytest.raises(ValueError, match="gain is 1 somewhere"):
        loop_delay([0.5], [1.0, 1.0], 0.0)


@settings(max_examples=80, deadline=None)
@given(given_plant=PLANTS, gain=st.floats(0.1, 20.0), integral=st.floats(0.05, 5.0), derivative=st.floats(0.01, 1.0))
def test_gain_and_phase_are_those_of_scipy(given_plant, gain, integral, derivative):
    loop = plant(*given_plant).times(pid(gain, integral, derivative))
    for w in crossovers(loop):
        _, value = signal.freqresp(signal.TransferFunction(loop.numerator, loop.denominator), [w])
        assert abs(value[0]) == pytest.approx(1.0, rel=1e-5)
        off = (phase_deg(loop, w) - math.degrees(np.angle(value[0]))) % 360.0
        assert min(off, 360.0 - off) < 1e-3
    w = np.geomspace(1e-3, 1e4, 4000)
    _, whole = signal.freqresp(signal.TransferFunction(loop.numerator, loop.denominator), w)
    crosses = np.count_nonzero(np.diff(np.sign(np.abs(whole) - 1)))
    assert crosses == len([x for x in crossovers(loop) if 1e-3 < x < 1e4])


@settings(max_examples=60, deadline=None)
@given(given_plant=PLANTS, gain=st.floats(0.1, 20.0), late=st.floats(0.0, 1.0), more=st.floats(0.0, 1.0))
def test_more_delay_never_raises_the_margin(given_plant, gain, late, more):
    loop = plant(*given_plant).times(pid(gain, None, None))
    one, other = margins(loop, late), margins(loop, late + more)
    if one is not None:
        assert other.margin_left_deg <= one.margin_left_deg + 1e-9
        assert other.delay_margin_s == one.delay_margin_s


@pytest.mark.parametrize(("gain", "time", "integrates", "kp", "ti"), [
    (1.0, 0.08, True, 1.6, None), (0.7, 0.05, False, 3.0, 0.05), (2.0, 0.3, True, 1.0, 4.0), (1.0, 1.0, False, 8.0, None),
])  # fmt: skip
def test_it_settles_up_to_the_delay_margin_and_swings_up_beyond(gain, time, integrates, kp, ti):
    """Simulated with a controller that runs five hundred times as often as it crosses over: no share of the delay."""
    model = plant(gain, time, integrates)
    loop = model.times(pid(kp, ti, None))
    assert is_stable(loop)
    found = margins(loop, 0.0)
    period = 1 / found.crossover_rad_s / 500
    until = 60 / found.crossover_rad_s
    swings = {}
    for share in (0.9, 1.1):
        run = Sampled(kp, ti, None, period, share * found.delay_margin_s)
        _, y = step_response(model, run, until, points=30_000)
        last, first = np.abs(y[len(y) * 3 // 4 :] - y[-1]).max(), np.abs(y[: len(y) // 2] - y[-1]).max()
        swings[share] = last / first
    assert swings[0.9] < 0.5
    assert swings[1.1] > 0.9


def test_a_quick_controller_without_delay_is_the_continuous_loop_of_scipy():
    model, run = Transfer((2.0,), (0.1, 1.0, 0.0)), Sampled(1.5, None, None, 1e-4, 0.0)
    times, y = step_response(model, run, 2.0, points=20_000)
    closed = signal.TransferFunction([3.0], [0.1, 1.0, 3.0])
    _, wanted = signal.step(closed, T=times)
    assert np.abs(y - wanted).max() < 2e-3


def test_an_integral_that_may_not_wind_up_overshoots_less():
    """The same loop with the output held to a little more than it needs: without a stop it would sum up meanwhile."""
    model = Transfer((1.0,), (0.5, 1.0))
    held = step_response(model, Sampled(4.0, 0.2, None, 0.01, 0.0, most=1.2), 5.0)[1]
    assert held.max() < 1.06
    assert held[-1] == pytest.approx(1.0, abs=5e-3)
    assert np.diff(held).max() <= 1.2 / 0.5 * (5.0 / 400) * 1.05  # never quicker than what it may give


@pytest.mark.parametrize("delay", [0.05, 0.4])
def test_settings_by_the_rule_have_the_margins_that_its_paper_gives(delay):
    """Skogestad 2003, table 5 from memory: 61.4° and a delay margin of 2.14 θ for a lag that is cancelled."""
    rule = simc_tuning(2.0, 0.3, delay)
    assert rule.integral_s == pytest.approx(0.3)
    loop = Transfer((2.0,), (0.3, 1.0)).times(pid(rule.gain, rule.integral_s, None))
    found = margins(loop, delay)
    assert found.margin_left_deg == pytest.approx(61.4, abs=0.1)
    assert found.delay_margin_s == pytest.approx(3.14 * delay, rel=1e-2)
    integrator = simc_tuning(2.0, 0.0, delay, integrates=True)
    whole = Transfer((2.0,), (1.0, 0.0)).times(pid(integrator.gain, integrator.integral_s, None))
    assert margins(whole, delay).margin_left_deg == pytest.approx(46.9, abs=0.1)


def test_the_swing_of_an_integrator_with_dead_time():
    """K·e^(−θs)/s goes on swinging at π/(2θK), every 4θ; by the rule 0.45 and 1/1.2 of them."""
    swings, period = math.pi / (2 * 0.1 * 2.0), 0.4
    edge = margins(Transfer((2.0 * swings,), (1.0, 0.0)), 0.1)
    assert edge.margin_left_deg == pytest.approx(0.0, abs=1e-9)
    assert 2 * math.pi / edge.crossover_rad_s == pytest.approx(period)
    rule = ziegler_nichols(swings, period)
    assert (rule.gain, rule.integral_s) == (pytest.approx(0.45 * swings), pytest.approx(period / 1.2))
    assert ziegler_nichols(swings, period, derivative=True).derivative_s == pytest.approx(period / 8)


@given(st.lists(st.floats(-50.0, 50.0), min_size=9, max_size=9))
def test_the_exponential_of_a_matrix_is_scipys(figures):
    matrix = np.array(figures).reshape(3, 3)
    wanted = expm(matrix)
    assert np.allclose(exponential(matrix), wanted, rtol=1e-7, atol=1e-9 * max(np.abs(wanted).max(), 1.0))


def test_a_loop_by_the_lambda_rule_is_as_slow_as_it_says():
    """The lag is cancelled: without its dead time the closed loop is of first order, 63 % after λ + θ."""
    rule = lambda_tuning(2.0, 0.5, 0.1, 0.3)
    loop = Transfer((2.0,), (0.5, 1.0)).times(pid(rule.gain, rule.integral_s, None))
    closed = signal.TransferFunction(loop.numerator, np.polyadd(loop.numerator, loop.denominator))
    _, y = signal.step(closed, T=np.linspace(0, 0.4, 400))
    assert y[-1] == pytest.approx(1 - math.exp(-1), rel=1e-3)
    slower = lambda_tuning(2.0, 0.5, 0.1, 0.6, integrates=True)
    assert slower.gain < lambda_tuning(2.0, 0.5, 0.1, 0.3, integrates=True).gain


def test_critically_damped_has_both_roots_alike():
    rule = placement_tuning(2.0, 0.1)
    roots = np.roots(np.polyadd([2.0 * rule.gain], [0.1, 1.0, 0.0]))
    assert roots == pytest.approx([-5.0, -5.0], abs=1e-6)


def test_a_controller_that_runs_too_seldom_swings_up_where_the_smooth_one_has_margin():
    """A lag of 1 s under a gain of 10, held: z = a − 10(1 − a) with a = e^(−T) leaves the unit circle at T = 0.2007 s."""
    edge = -math.log(9 / 11)
    for share, settles in ((0.99, True), (1.01, False)):
        assert settles_sampled(Transfer((1.0,), (1.0, 1.0)), Sampled(10.0, None, None, edge * share, 0.0)) is settles


@settings(max_examples=60, deadline=None)
@given(given_plant=PLANTS, gain=st.floats(0.2, 30.0), integral=st.none() | st.floats(0.1, 3.0),
       derivative=st.none() | st.floats(0.01, 0.5), period=st.floats(0.01, 0.5), late=st.floats(0.0, 0.6))  # fmt: skip
def test_poles_of_the_sampled_loop_say_what_a_run_of_it_does(given_plant, gain, integral, derivative, period, late):
    """Four thousand periods of the controller itself: what is left of its swing is less than at first, or more."""
    model, whole = plant(*given_plant), round(late / period) * period
    run = Sampled(gain, integral, derivative, period, whole)
    settles, swing = settles_sampled(model, run), sampled_swing(model, run)
    if settles is None or swing is None or abs(math.log(max(swing, 1e-12))) * 4000 < 3:
        return  # too near to the edge to be seen in a run
    _, y = step_response(model, run, 4000 * period, points=4000)
    first, last = np.ptp(y[:1000]), np.ptp(y[-1000:])
    assert (np.abs(y).max() > 1e5 or last > first) != settles


def test_a_part_of_a_period_of_delay_is_split_in_two():
    """An integrator held for T with a delay of τ < T: z² − (1 − K(T − τ))z + Kτ, by hand for K = 1.2, T = 0.5, τ = 0.2."""
    model = Transfer((1.0,), (1.0, 0.0))
    for gain in np.linspace(0.5, 6.0, 60):
        poles = np.roots([1.0, -(1 - gain * 0.3), gain * 0.2])
        wanted = bool((np.abs(poles) < 1).all())
        if abs(np.abs(poles).max() - 1) > 1e-3:
            assert settles_sampled(model, Sampled(float(gain), None, None, 0.5, 0.2)) is wanted
