"""Lumps against closed forms, scipy's solve_ivp and the keeping of energy; junctions and windings by hand."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.linalg import expm

from wired_union.physics.heat import junction_temperature, surface_rise, wall_heat, winding_stall
from wired_union.physics.lumps import Heater, Lumps, settled, warmed
from wired_union.physics.solenoid import coil_release

some = st.floats(0.05, 5.0)


def chain(a: float, b: float, out: float, small: float = 20.0, large: float = 400.0) -> Lumps:
    """Three lumps in a row, the last to the outside: a part, a plate, a wall."""
    return Lumps(np.array([small, 60.0, large]), ((0, 1, a), (1, 2, b)), np.array([0.0, 0.0, out]))


def test_one_lump_warms_and_cools_by_the_exponential_whatever_the_step():
    """T = T_out + P/G·(1 − e^(−t·G/C)): lumped capacitance, Incropera & DeWitt, section 5.1 (from memory)."""
    lump = Lumps(np.array([100.0]), (), np.array([0.5]))
    for step in (1.0, 50.0, 700.0):
        found = warmed(lump, np.full((3, 1), 4.0), np.full(3, 20.0), step, np.array([20.0])).end_c[-1, 0]
        assert found == pytest.approx(20.0 + 8.0 * (1 - math.exp(-3 * step * 0.5 / 100.0)), rel=1e-12)
    assert settled(lump, np.array([4.0]), 20.0)[0] == pytest.approx(28.0)


@settings(max_examples=30, deadline=None)
@given(some, some, some, st.floats(0.0, 5.0), st.floats(-30.0, 40.0))
def test_three_lumps_are_those_of_the_integrator(a, b, out, watts, outside):
    lumps = chain(a, b, out)

    def slope(_, t):
        return (
            -lumps.stiffness @ t + np.array([watts, 0.0, 0.0]) + lumps.outside_w_per_k * outside
        ) / lumps.capacity_j_per_k

    ends = solve_ivp(slope, (0, 600), [20.0] * 3, rtol=1e-9, atol=1e-9, t_eval=np.linspace(60, 600, 10)).y.T
    heat = np.tile([watts, 0.0, 0.0], (10, 1))
    found = warmed(lumps, heat, np.full(10, outside), 60.0, np.full(3, 20.0))
    assert np.abs(found.end_c - ends).max() < 1e-4


@settings(max_examples=40, deadline=None)
@given(some, some, some, st.floats(0.1, 30.0), st.floats(1.0, 4000.0), st.integers(0, 1000))
def test_what_comes_in_is_stored_or_leaves_in_every_step(a, b, out, power, step, seed):
    """P·t = C·ΔT + G·(T̄ − T_out)·t to a millionth, heaters included: first law."""
    lumps, dice = chain(a, b, out), np.random.default_rng(seed)
    heat, outside = dice.uniform(0, 3, (20, 3)), dice.uniform(-20, 30, 20)
    found = warmed(lumps, heat, outside, step, np.full(3, 5.0), [Heater(1, 0, power, 10.0)])
    began = np.vstack([np.full(3, 5.0), found.end_c[:-1]])
    stored = ((found.end_c - began) * lumps.capacity_j_per_k).sum(axis=1)
    left = ((found.mean_c - outside[:, None]) * lumps.outside_w_per_k).sum(axis=1) * step
    came = (heat.sum(axis=1) + found.heater_w.sum(axis=1)) * step
    assert np.abs(came - stored - left).max() <= 1e-6 * max(came.max(), np.abs(left).max())
    assert (found.heater_w >= 0).all()
    assert (found.heater_w <= power * (1 + 1e-12)).all()


@settings(max_examples=30, deadline=None)
@given(some, some, some, st.integers(1, 70), st.floats(0.5, 5000.0), st.integers(0, 1000))
def test_all_steps_at_once_are_those_one_by_one(a, b, out, steps, step, seed):
    lumps, dice = chain(a, b, out), np.random.default_rng(seed)
    heat, outside = dice.uniform(0, 3, (steps, 3)), dice.uniform(-20, 30, steps)
    at_once = warmed(lumps, heat, outside, step, np.full(3, 5.0))
    one_by_one = warmed(lumps, heat, outside, step, np.full(3, 5.0), [Heater(0, 0, 0.0, 500.0)])
    assert np.abs(at_once.end_c - one_by_one.end_c).max() < 1e-9
    assert np.abs(at_once.mean_c - one_by_one.mean_c).max() < 1e-9


def test_a_heater_keeps_what_it_feels_where_it_should_and_no_warmer_and_takes_what_leaves():
    lump = Lumps(np.array([500.0]), (), np.array([0.4]))
    found = warmed(lump, np.zeros((200, 1)), np.full(200, -10.0), 60.0, np.array([5.0]), [Heater(0, 0, 8.0, 5.0)])
    assert found.end_c[:, 0] == pytest.approx(np.full(200, 5.0))
    assert found.heater_w[-1, 0] == pytest.approx(0.4 * 15.0)  # G·ΔT
    weak = warmed(lump, np.zeros((500, 1)), np.full(500, -10.0), 60.0, np.array([5.0]), [Heater(0, 0, 4.0, 5.0)])
    assert weak.end_c[-1, 0] == pytest.approx(-10.0 + 4.0 / 0.4, abs=1e-6)
    idle = warmed(lump, np.zeros((5, 1)), np.full(5, 20.0), 60.0, np.array([20.0]), [Heater(0, 0, 4.0, 5.0)])
    assert not idle.heater_w.any()


def test_a_coil_lets_go_as_the_integrator_has_it():
    """L·i′ = −R·i − V: a higher clamp is quicker, a plain diode slowest."""
    found = coil_release(0.05, 20.0, 0.6, 24.0)

    def over(_, y):
        return y[0]

    over.terminal = True
    for clamp, time in ((24.0, found.release_time_s), (0.7, found.free_wheel_time_s)):
        sol = solve_ivp(
            lambda _, i, v=clamp: (-20.0 * i - v) / 0.05, (0, 1), [0.6], events=over, rtol=1e-10, atol=1e-12
        )
        assert sol.t_events[0][0] == pytest.approx(time, rel=1e-6)
    assert found.energy_j == pytest.approx(0.5 * 0.05 * 0.36)


def test_surfaces_walls_and_junctions_by_hand():
    assert surface_rise(1.0, 0.01).rise_k == pytest.approx(10.0)  # 10 W/m²K on 100 cm²
    # laminar flat plate, Nu = 0.664·Re^½·Pr^⅓: air at 300 K, ν 1.589e-5, k 0.0263, Pr 0.707 (Incropera, table A.4, from memory)
    for v, length in ((4.0, 0.05), (10.0, 0.1)):
        laminar = 0.664 * (v * length / 1.589e-5) ** 0.5 * 0.707 ** (1 / 3) * 0.0263 / length
        assert surface_rise(1.0, 0.01, v, length).coefficient_w_per_m2_k - 5.0 == pytest.approx(laminar, rel=0.02)
    assert surface_rise(1.0, 0.01, 0.01).coefficient_w_per_m2_k == 10.0  # a breath is no fan
    assert wall_heat(0.003, 0.2, 1.0, 10.0, 0.0).conductance_w_per_m2_k == pytest.approx(1 / (0.2 + 0.015))
    assert wall_heat(0.003, 0.2, 0.5, 10.0, 0.0, 0.02).heat_w == pytest.approx(5.0 / (0.215 + 0.02 / 0.035))
    found = junction_temperature(0.68, 60.0, 25.0)
    assert found.junction_c == pytest.approx(65.8)  # methods.md, linear-regulator
    assert found.most_heat_w == pytest.approx(100.0 / 60.0)


def test_a_stalled_winding_lasts_by_its_energy_alone_where_it_is_short_and_by_the_integrator_else():
    quick = winding_stall(100.0, 10.0, 5.0, 0.0, 80.0)
    assert quick.may_last_s == pytest.approx(80.0 * 5.0 / 100.0, rel=0.05)
    slow = winding_stall(12.0, 10.0, 5.0, 10.0, 80.0)
    hot = solve_ivp(lambda _, t: (12.0 - t / 10.0) / 5.0, (0, slow.may_last_s), [10.0], rtol=1e-9, atol=1e-9).y[0, -1]
    assert hot == pytest.approx(80.0, rel=1e-6)
    cool = solve_ivp(lambda _, t: -t / 50.0, (0, slow.must_rest_s), [80.0], rtol=1e-9, atol=1e-9).y[0, -1]
    assert cool == pytest.approx(11.0, rel=1e-6)
    assert winding_stall(7.0, 10.0, 5.0, 0.0, 80.0).may_last_s == math.inf


@pytest.mark.parametrize("alone", [3, 100])
def test_groups_apart_warm_as_one_matrix_of_all_has_it(alone):
    """Two chains, one with a heater, among lumps that stand alone; scipy's expm of the whole matrix steps them."""
    dice = np.random.default_rng(4)
    n = alone + 6
    links = ((0, 4, 0.7), (4, 2, 0.3), (n - 1, 3, 1.1), (3, n - 3, 0.2))
    lumps = Lumps(dice.uniform(20, 300, n), links, dice.uniform(0.1, 1, n))
    heat, outside = dice.uniform(0, 3, (40, n)), dice.uniform(-5, 5, 40)
    heater = Heater(3, 3, 5.0, 12.0)
    found = warmed(lumps, heat, outside, 30.0, np.full(n, 4.0), [heater])
    came = heat + lumps.outside_w_per_k * outside[:, None]
    came[:, 3] += found.heater_w[:, 0]
    pace = -lumps.stiffness / lumps.capacity_j_per_k[:, None]
    now = np.full(n, 4.0)
    for k in range(40):
        rest = np.linalg.solve(lumps.stiffness, came[k])
        now = rest + expm(pace * 30.0) @ (now - rest)
        assert found.end_c[k] == pytest.approx(now, abs=1e-8)
    assert found.heater_w.max() > 0
    stored = (np.diff(np.vstack([np.full(n, 4.0), found.end_c]), axis=0) * lumps.capacity_j_per_k).sum(axis=1)
    left = ((found.mean_c - outside[:, None]) * lumps.outside_w_per_k).sum(axis=1) * 30.0
    assert stored + left == pytest.approx((heat.sum(axis=1) + found.heater_w[:, 0]) * 30.0, rel=1e-9)
    ends = settled(lumps, heat[0], 7.0)
    assert ends == pytest.approx(7.0 + np.linalg.solve(lumps.stiffness, heat[0]))
