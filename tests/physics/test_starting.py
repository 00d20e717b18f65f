"""The first moments against scipy's solve_ivp on the same circuit, and against the exponentials of textbooks."""

import math

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from wired_union.physics.starting import capacitor_inrush, motor_start, starting

figures = st.floats(0.1, 10.0)


def integrated(v, r, l_h, k, j, load, b, until):
    """Current and speed by the integrator, the load holding still until it is overcome."""

    def slope(_, y):
        i, w = y
        pull = k * i - b * w - load
        return (v - r * i - k * w) / l_h, 0.0 if w <= 0 and pull < 0 else pull / j

    return solve_ivp(slope, (0, until), (0.0, 0.0), method="LSODA", rtol=1e-9, atol=1e-12, max_step=until / 2000,
                     dense_output=True).sol  # fmt: skip


@settings(max_examples=40, deadline=None)
@given(figures, figures, figures, figures, figures, st.floats(0.0, 0.8), st.floats(0.0, 1.0))
def test_a_motor_starts_as_the_integrator_has_it(v, r, l_h, k, j, loaded, b):
    load = loaded * k * v / r
    found = starting(v, r, l_h, k, j, load, b)
    slowest = 1 / min(abs(found.speed.p.real), abs(found.speed.q.real))
    until = found.lag_s + 5 * slowest
    sol = integrated(v, r, l_h, k, j, load, b, until)
    times = np.linspace(0, until, 400)
    current, speed = sol(times)
    assert np.abs(found.current_at(times) - current).max() <= 2e-3 * v / r
    assert np.abs(found.speed_at(times) - speed).max() <= 2e-3 * max(v / k, speed.max())


def test_without_inductance_the_current_falls_as_its_mechanical_time_constant():
    """V/R·e^(−t/τ) with τ = J·R/k²: any textbook on drives; here by hand."""
    found = starting(12.0, 2.0, 1e-7, 0.02, 1e-5)
    tau = 1e-5 * 2.0 / 0.02**2
    times = np.linspace(0.01 * tau, 3 * tau, 50)
    assert found.current_at(times) == pytest.approx(6.0 * np.exp(-times / tau), rel=1e-3)
    assert found.speed_at(times) == pytest.approx(600.0 * -np.expm1(-times / tau), rel=1e-3)
    told = motor_start(12.0, 2.0, 1e-7, 0.02, 1e-5)
    assert told.mechanical_time_constant_s == pytest.approx(0.05)
    assert told.peak_current_a == pytest.approx(6.0, rel=1e-3)
    assert told.time_to_speed_s == pytest.approx(tau * math.log(20), rel=2e-3)
    assert told.charge_ah * 3600 == pytest.approx(6.0 * tau * 0.95, rel=2e-3)


def test_inductance_lowers_the_peak_and_a_load_holds_it_back():
    soft, hard = (motor_start(12.0, 2.0, l_h, 0.02, 1e-5) for l_h in (50e-3, 1e-4))
    assert soft.peak_current_a < hard.peak_current_a < 6.0
    loaded = starting(12.0, 2.0, 2e-3, 0.02, 1e-5, load_torque_n_m=0.03)
    assert loaded.lag_s == pytest.approx(1e-3 * math.log(6.0 / (6.0 - 1.5)))
    assert float(loaded.speed_at(np.array([loaded.lag_s * 0.9]))[0]) == 0.0
    assert loaded.current.rest == pytest.approx(1.5)


@settings(max_examples=40, deadline=None)
@example(1.0, 1.75, 1.75, 1.75)
@given(figures, figures, figures, figures)
def test_a_capacitor_fills_as_the_integrator_has_it(v, c, r, l_h):
    found = capacitor_inrush(v, c, r, l_h)
    damping, square = r / (2 * l_h), 1 / (l_h * c)
    slowest = 1 / (damping - math.sqrt(max(damping**2 - square, 0.0)))
    until = 10 * slowest  # a late and small overshoot is one too
    sol = solve_ivp(lambda _, y: ((v - r * y[0] - y[1]) / l_h, y[0] / c), (0, until), (0.0, 0.0), rtol=1e-9, atol=1e-12,
                    dense_output=True).sol  # fmt: skip
    amperes, volts = sol(np.linspace(0, until, 40_000))
    assert found.peak_current_a == pytest.approx(amperes.max(), rel=1e-3)
    assert found.overshoot_v == pytest.approx(max(volts.max() - v, 0.0), abs=2e-3 * v)
    assert abs(sol(found.settled_in_s)[1] - v) <= 0.051 * v


def test_the_overshoot_of_a_ringing_circuit_is_the_textbook_s():
    """V·e^(−πζ/√(1−ζ²)) with ζ = R/2·√(C/L): second-order systems in any book on control; here by hand."""
    for r in (0.1, 0.7, 1.75):
        zeta = r / 2 * math.sqrt(1.75 / 1.75)
        wanted = math.exp(-math.pi * zeta / math.sqrt(1 - zeta**2))
        assert capacitor_inrush(1.0, 1.75, r, 1.75).overshoot_v == pytest.approx(wanted, rel=2e-3, abs=1e-6)


def test_the_two_ends_of_an_inrush():
    """V/R where nothing is wound, V·√(C/L) where nothing resists: circuit theory, by hand."""
    assert capacitor_inrush(12.0, 1e-3, 0.1, 1e-9).peak_current_a == pytest.approx(120.0, rel=1e-3)
    ringing = capacitor_inrush(12.0, 1e-3, 1e-5, 1e-6)
    assert ringing.peak_current_a == pytest.approx(12.0 * math.sqrt(1e-3 / 1e-6), rel=1e-3)
    assert ringing.overshoot_v == pytest.approx(12.0, rel=1e-2)
    assert ringing.energy_j == pytest.approx(0.072)


@pytest.mark.parametrize("figures", [
    (12.0, 0.0, 1e-3, 0.02, 1e-5), (12.0, 2.0, 0.0, 0.02, 1e-5), (12.0, 2.0, 1e-3, 0.02, 0.0),
    (12.0, 2.0, 1e-3, 0.02, 1e-5, 0.12), (12.0, 2.0, 1e-3, 0.02, 1e-5, -0.1), (12.0, 2.0, 1e-3, 0.02, 1e-5, 0.0, -1.0),
])  # fmt: skip
def test_what_cannot_start_is_refused(figures):
    with pytest.raises(ValueError, match=r"above|below"):
        motor_start(*figures)


def test_two_equal_roots_are_no_fault():
    """R = 2·√(L/C): the circuit that just does not ring."""
    found = capacitor_inrush(10.0, 1.0, 2.0, 1.0)
    assert found.overshoot_v == pytest.approx(0.0, abs=1e-4)
    assert found.peak_current_a == pytest.approx(10.0 / math.e, rel=1e-4)
