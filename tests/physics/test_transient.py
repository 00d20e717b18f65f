"""The stepped circuit against scipy's solve_ivp on the same equations, exact exponentials, and the keeping of energy."""

import math

import msgspec
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import quad, solve_ivp

from wired_union.physics.starting import starting
from wired_union.physics.transient import Capacitor, MotorWinding, Place, Source, Standing, Warming
from wired_union.physics.transient_run import Regulation, Spot, Stage, course_of

ROOT = Spot(0)
figure = st.floats(0.2, 5.0)


def one(source: Source, **hangs) -> list[Stage]:
    return [Stage((Place(**hangs),), source)]


@settings(max_examples=40, deadline=None)
@given(figure, figure, figure, st.floats(0.0, 0.8))
def test_a_start_is_that_of_the_exact_exponentials(ohm, k, inertia, loaded):
    """`motor-start` has the closed solution of the same equations; both time constants within the half second."""
    inductance = ohm * 2e-3
    inertia *= k * k / ohm * 0.05
    load = loaded * k * 12.0 / ohm
    exact = starting(12.0, ohm, inductance, k, inertia, load)
    winding = MotorWinding(ohm, inductance, k, k, inertia, load)
    found = course_of(one(Source(12.0), motors=(winding,)), [ROOT], 0.5)
    assert np.abs(np.array(found.source_a) - exact.current_at(np.array(found.times_s))).max() <= 4e-3 * 12.0 / ohm


@settings(max_examples=15, deadline=None)
@given(st.floats(0.02, 0.3), st.floats(50.0, 500.0), st.floats(0.5, 8.0), st.floats(1.0, 4.0))
def test_motor_capacitor_and_a_converter_behind_wires_run_as_the_integrator_has_it(ohm, micro, watts, r):
    """Pack behind ohms, a motor and a capacitor at one place, a constant power behind a wire: as plain equations."""
    l_h, k, j, load, farad, esr, wire, e = r * 2e-3, 1.2, 0.02, 0.1, micro * 1e-6, 0.05, 0.04, 12.0

    def place_v(i, vc):
        """v at the place, where (E − v)/R = i + (v − vc)/esr + P/w and w = v − wire·P/w."""
        v = e
        for _ in range(100):
            w = (v + math.sqrt(v * v - 4 * wire * watts)) / 2
            v = (e / ohm - i + vc / esr - watts / w) / (1 / ohm + 1 / esr)
        return v

    def slope(_, y):
        i, w, vc = y
        v = place_v(i, vc)
        pull = k * i - load
        return (v - r * i - k * w) / l_h, 0.0 if w <= 0 and pull < 0 else pull / j, (v - vc) / esr / farad

    start_v = place_v(0.0, e)
    sol = solve_ivp(slope, (0, 0.3), (0.0, 0.0, start_v), method="LSODA", rtol=1e-9, atol=1e-11, dense_output=True).sol
    places = (Place(motors=(MotorWinding(r, l_h, k, k, j, load),), capacitors=(Capacitor(farad, esr, start_v),)),
              Place(0, wire, loads=(Standing(power_w=watts),)))  # fmt: skip
    found = course_of([Stage(places, Source(e, ohm))], [ROOT], 0.3)
    theirs = [place_v(i, vc) for i, _, vc in sol(np.array(found.times_s)).T]
    assert np.abs(np.array(found.volts[ROOT]) - theirs).max() <= 0.004 * e


@settings(max_examples=60, deadline=None)
@given(data=st.data())
def test_of_what_the_source_gives_nothing_is_missing_after_any_step(data):
    """Given = stored + used + lost, to a millionth in every step, whatever hangs there: first law."""
    some = lambda low, high: data.draw(st.floats(low, high))  # noqa: E731
    limit, soft = data.draw(st.sampled_from([math.inf, 2.0])), data.draw(st.sampled_from([0.0, 0.1]))
    winding = MotorWinding(some(1, 5), some(1e-4, 5e-3), 1.3, some(0.5, 1.3), some(1e-3, 0.1), some(0, 0.5), 3,
                           some(0, 0.2), soft, limit, data.draw(st.sampled_from([0.0, -4.0])))  # fmt: skip
    places = (Place(motors=(winding,), capacitors=(Capacitor(some(1e-5, 1e-2), some(0.01, 0.3)),)),
              Place(0, some(0.01, 0.2), loads=(Standing(power_w=some(0, 4)), Standing(siemens=0.02, from_s=0.1))))  # fmt: skip
    behind = Stage((Place(loads=(Standing(current_a=some(0, 0.3)), Standing(current_a=0.3, from_s=0.05, to_s=0.08))),),
                   None, Regulation(0, 1, 5.0, 0.4, True, 6.0, 0.002, ((0.01, 0.7), (1.0, 0.9))))  # fmt: skip
    found = course_of([Stage(places, Source(12.6, some(0.005, 0.15), some(0, 0.1), 5.0)), behind], [ROOT, Spot(1)], 0.4)
    assert found.worst_missing_j <= 1e-6 * max(found.energy.given_j, 1e-3)
    assert found.energy.used_j >= 0
    assert found.energy.lost_j >= 0


def test_copies_that_start_together_add_and_one_that_waits_does_not():
    winding = MotorWinding(4.0, 2e-3, 1.0, 1.0, 0.02, 0.05, 2)
    together = course_of(one(Source(12.0, 0.1), motors=(winding,)), [ROOT], 0.5)
    alone = [MotorWinding(4.0, 2e-3, 1.0, 1.0, 0.02, 0.05, 1, t) for t in (0.0, 0.6)]
    apart = course_of(one(Source(12.0, 0.1), motors=tuple(alone)), [ROOT], 1.2)
    assert max(together.source_a) > 1.7 * max(apart.source_a)
    assert min(together.volts[ROOT]) < min(apart.volts[ROOT])


def test_blocked_it_draws_what_its_resistance_lets_through_and_its_load_holds_it_until_overcome():
    blocked = course_of(one(Source(12.0), motors=(MotorWinding(4.0, 2e-3, 1.0, 1.0),)), [ROOT], 0.5)
    assert blocked.source_a[-1] == pytest.approx(3.0)  # V/R
    held = course_of(one(Source(12.0), motors=(MotorWinding(4.0, 2e-3, 1.0, 1.0, 0.02, 3.1),)), [ROOT], 0.5)
    assert held.source_a[-1] == pytest.approx(3.0)  # 3 N·m at stall do not move 3.1
    freed = course_of(one(Source(12.0), motors=(MotorWinding(4.0, 2e-3, 1.0, 1.0, 0.02, 2.9),)), [ROOT], 3.0)
    assert freed.source_a[-1] == pytest.approx(2.9, rel=1e-3)  # torque over constant


def test_reversed_at_full_speed_it_takes_twice_its_stall_current_but_for_its_load():
    winding = MotorWinding(4.0, 0.0, 1.0, 1.0, 0.05, 0.0, speed_rad_s=-12.0)
    assert max(course_of(one(Source(12.0), motors=(winding,)), [ROOT], 0.5).source_a) == pytest.approx(6.0, rel=1e-3)


def test_a_driver_that_chops_holds_the_current_and_takes_duty_times_it():
    """Held at 1 A in 4 Ω it takes 4 W: a third of an ampere of 12 V, not one."""
    winding = MotorWinding(4.0, 2e-3, 1.0, 1.0, limit_a=1.0)
    found = course_of(one(Source(12.0), motors=(winding,)), [ROOT], 0.5)
    assert found.motors_a[0][-1] == pytest.approx(1.0)
    assert found.source_a[-1] == pytest.approx(4.0 / 12.0, rel=1e-6)


def test_opened_slowly_it_turns_before_it_gets_all():
    quick, slow = (MotorWinding(4.0, 2e-3, 1.0, 1.0, 0.01, 0.1, soft_start_s=t) for t in (0.0, 0.3))
    most = [max(course_of(one(Source(12.0), motors=(m,)), [ROOT], 1.0).source_a) for m in (quick, slow)]
    assert most[1] < 0.5 * most[0]


def test_a_capacitor_fills_through_its_resistance():
    """V/R at first, then e^(−t/RC): textbook."""
    found = course_of(one(Source(10.0, 0.5), capacitors=(Capacitor(1e-3, 0.5),)), [ROOT], 0.01)
    exact = 10.0 * np.exp(-np.array(found.times_s) / 1e-3)
    assert np.abs(np.array(found.source_a) - exact).max() <= 0.01 * 10.0


def regulated(limiting: str = "hiccup", most_a: float = math.inf, **pulls) -> list[Stage]:
    load = Standing(siemens=0.2, from_s=0.1, to_s=0.2)
    reg = Regulation(0, 0, 5.0, 0.5, True, 6.0, 0.0, ((0.01, 0.8),), most_a, limiting)
    return [Stage((Place(loads=(Standing(**pulls, from_s=0.3, to_s=0.31),)),), Source(12.0, 1.0)),
            Stage((Place(loads=(load,)),), None, reg)]  # fmt: skip


def test_a_regulator_starved_for_a_moment_is_off_from_then_on():
    found = course_of(regulated(current_a=6.5), [ROOT, Spot(1)], 0.5)
    assert found.off_s[1] == pytest.approx(0.3, abs=1e-3)
    assert found.volts[Spot(1)][-1] == 0.0
    assert not course_of(regulated(current_a=5.5), [ROOT, Spot(1)], 0.5).off_s


def test_beyond_its_limit_it_goes_off_or_lets_its_voltage_fall():
    """5 Ω across 5 V take 1 A; limited to 0.6 A they get 3 V."""
    assert 1 in course_of(regulated(most_a=0.6), [Spot(1)], 0.5).off_s
    held = course_of(regulated("constant", 0.6), [Spot(1)], 0.5)
    assert min(held.volts[Spot(1)]) == pytest.approx(3.0, rel=1e-6)
    assert held.volts[Spot(1)][-1] == 5.0


def test_what_cannot_be_delivered_ends_it():
    """More than V²/4R is never given."""
    found = course_of(one(Source(12.0, 1.0), loads=(Standing(power_w=40.0, from_s=0.2),)), [ROOT], 0.5)
    assert found.collapsed_s == pytest.approx(0.2, abs=1e-3)


def test_a_coil_that_turns_nothing_rises_to_what_its_resistance_lets_through():
    """i = V/R·(1 − e^(−tR/L)): textbook. 12 V, 12 Ω, 0.24 H: 1 A with 20 ms."""
    coil = MotorWinding(12.0, 0.24, count=2)
    found = course_of(one(Source(12.0), motors=(coil,)), [ROOT], 0.2)
    exact = 2 * (1 - np.exp(-np.array(found.times_s) / 0.02))
    assert np.abs(np.array(found.source_a) - exact).max() < 2e-3
    assert found.energy.stored_j == pytest.approx(2 * 0.5 * 0.24, rel=1e-3)  # ½·L·I² each
    assert found.worst_missing_j < 1e-9


def test_a_wire_that_warms_draws_its_cold_current_first_as_the_integrator_has_it():
    """10 V behind 0.5 Ω, 2 S cold and 0.2 S warm with 50 ms: energy used against scipy's quad."""
    wire = Warming(2.0, 0.2, 0.05, 0.01)
    found = course_of(one(Source(10.0, 0.5), warming=(wire,)), [ROOT], 0.3)
    times, amperes = np.array(found.times_s), np.array(found.source_a)

    def current(t):
        siemens = 0.2 + 1.8 * math.exp(-(t - 0.01) / 0.05)
        return 10.0 / (0.5 + 1 / siemens)

    assert amperes[times < 0.01].max() == 0.0
    assert amperes[times > 0.01] == pytest.approx([current(t) for t in times[times > 0.01]])
    used, _ = quad(lambda t: current(t) * (10.0 - 0.5 * current(t)), 0.01, 0.3)
    assert found.energy.used_j == pytest.approx(used, rel=2e-3)
    assert found.worst_missing_j < 1e-9


def test_one_that_folds_back_settles_lower_than_one_that_holds_its_current_and_a_level_load_keeps_it_down():
    """5 Ω at 5 V, folding from 0.6 A to 0.2 A: V/5 = 0.2 + 0.4·V/5, so V = 1.667. What takes 1 A at any voltage gets
    nothing more: the usual trap of foldback (Horowitz & Hill, The Art of Electronics, from memory)."""
    stages = regulated("foldback", 0.6)
    folds = msgspec.structs.replace(stages[1].regulation, folds_to_a=0.2)
    found = course_of([stages[0], msgspec.structs.replace(stages[1], regulation=folds)], [Spot(1)], 0.5)
    assert min(found.volts[Spot(1)]) == pytest.approx(5 / 3, rel=1e-6)
    assert found.volts[Spot(1)][-1] == 5.0
    level = Place(loads=(Standing(current_a=1.0, from_s=0.1, to_s=0.2),))
    trapped = course_of([stages[0], Stage((level,), None, folds)], [Spot(1)], 0.5)
    assert 1 in trapped.off_s
    assert trapped.volts[Spot(1)][-1] == 0.0
