"""Laws that the closed formulas keep, whatever the numbers."""

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from wired_union.physics.battery import CHEMISTRIES, Sag, constant_power_sag, pack, peukert_runtime
from wired_union.physics.bus import i2c_time, spi_time, uart_time
from wired_union.physics.converter import efficiency_at, linear_regulator, switching_converter
from wired_union.physics.discharge import CELLS, end_places, run_down
from wired_union.physics.duty import duty_average
from wired_union.physics.latency import chain_latency
from wired_union.physics.method import Impossible
from wired_union.physics.radio import lora_airtime
from wired_union.physics.schedule import response_times
from wired_union.physics.statistics import success_interval, trials_for_proof
from wired_union.physics.stored_energy import gas_spring, rubber_pulled
from wired_union.physics.wire import voltage_drop, wire_gauge

SOME = st.floats(0.01, 100)


@given(st.integers(1, 20), st.integers(1, 20), SOME, SOME, st.floats(0.001, 1))
def test_energy_does_not_depend_on_how_cells_are_joined(series, parallel, volts, hours, ohm):
    joined = pack(series, parallel, volts, hours, ohm)
    assert joined.energy_wh == pytest.approx(series * parallel * volts * hours)
    assert joined.max_power_w == pytest.approx(series * parallel * volts**2 / (4 * ohm))


@given(SOME, st.floats(0.001, 1), st.floats(0, 0.999))
def test_power_at_the_terminals_is_what_was_asked_for(volts, ohm, share):
    power = share * volts**2 / (4 * ohm)
    sag = constant_power_sag(volts, ohm, power)
    assert sag.current_a * sag.terminal_voltage_v == pytest.approx(power, rel=1e-9, abs=1e-9)
    assert sag.terminal_voltage_v == pytest.approx(volts - ohm * sag.current_a, rel=1e-9)
    assert volts / 2 - 1e-9 <= sag.terminal_voltage_v <= volts


def test_an_ideal_source_does_not_sag():
    assert constant_power_sag(12.0, 0.0, 60.0) == Sag(5.0, 12.0)
    assert pack(1, 1, 3.6, 2.0, 0.0).max_power_w == math.inf


@given(SOME, st.floats(1, 40), st.floats(1, 1.5), SOME)
def test_peukert_is_the_plain_ratio_at_the_rated_current(capacity, hours, exponent, current):
    rated = capacity / hours
    assert peukert_runtime(capacity, hours, exponent, rated).runtime_h == pytest.approx(hours)
    faster = peukert_runtime(capacity, hours, exponent, 2 * current).runtime_h
    assert faster <= peukert_runtime(capacity, hours, exponent, current).runtime_h / 2 * (1 + 1e-9)


@given(st.floats(1, 50), st.floats(0.5, 30), st.floats(0, 5), st.floats(0, 2), st.floats(0, 0.1))
def test_a_linear_regulator_keeps_the_energy(volts, out, amperes, dropout, quiescent):
    found = linear_regulator(volts, out, amperes, dropout, quiescent)
    level = out if found.in_regulation else max(volts - dropout, 0.0)
    assert volts * found.input_current_a == pytest.approx(level * amperes + found.loss_w)
    assert found.in_regulation == (volts - out >= dropout - 1e-12)


@given(st.floats(1, 50), st.floats(0.5, 30), st.floats(0, 5), st.floats(0.05, 1))
def test_a_switching_converter_keeps_the_energy(volts, out, amperes, efficiency):
    found = switching_converter(volts, out, amperes, efficiency)
    assert volts * found.input_current_a == pytest.approx(out * amperes + found.loss_w)
    assert found.loss_w >= -1e-12


@given(st.just(0.0) | st.floats(1e-300, 1e9), st.floats(1e-12, 1e9), *[st.floats(1e-12, 1e9)] * 3)
def test_gas_and_rubber_store_more_the_further_they_are_pulled_whatever_the_figures(
    first, rise, free, made_for, travel
):
    """Forces rise and energies lie between those of the first and the last force all the way, or it is refused."""
    for pull in (lambda x: gas_spring(first, first + rise, made_for, x),
                 lambda x: rubber_pulled(first, first + rise, free, made_for, x)):  # fmt: skip
        try:
            far, near = pull(travel), pull(travel / 2)
        except Impossible:
            continue
        forces = [f for _, f in far.profile]
        assert forces == sorted(forces)
        assert 0 <= near.energy_j <= far.energy_j
        slack = 1e-9 * forces[-1] * travel
        assert forces[0] * travel - slack <= far.energy_j <= forces[-1] * travel + slack


def test_gas_that_is_pressed_to_nothing_is_refused():
    assert gas_spring(1.0, 2.0, 0.5, 0.99).profile[-1][1] == pytest.approx(100.0)  # a hundredth of it is left
    for travel in (0.995, 1.0, math.nextafter(1.0, 0.0), 3.0):
        with pytest.raises(Impossible):
            gas_spring(1.0, 2.0, 0.5, travel)


def test_efficiency_is_level_outside_its_curve_and_straight_inside():
    curve = ((0.1, 0.7), (1.0, 0.9), (2.0, 0.8))
    assert [efficiency_at(curve, i) for i in (0.0, 0.1, 0.55, 1.5, 5.0)] == pytest.approx([0.7, 0.7, 0.8, 0.85, 0.8])


@given(st.integers(-3, 34))
def test_six_gauges_halve_the_diameter_almost(awg):
    """ASTM B258: the ratio of successive diameters is the 39th root of 92."""
    assert wire_gauge(awg).diameter_m / wire_gauge(awg + 6).diameter_m == pytest.approx(92 ** (6 / 39))


@given(st.floats(0, 10), st.integers(0, 40), st.floats(0, 20))
def test_what_a_wire_loses_is_drop_times_current(length, awg, current):
    found = voltage_drop(length, awg, current)
    assert found.loss_w == pytest.approx(found.drop_v * current)
    assert voltage_drop(2 * length, awg, current).drop_v == pytest.approx(2 * found.drop_v)


@given(st.lists(st.tuples(st.floats(0, 5), st.floats(0.001, 1e4)), min_size=1, max_size=6))
def test_an_average_lies_between_the_least_and_the_most(steps):
    currents, times = zip(*steps, strict=True)
    found = duty_average(currents, times)
    assert min(currents) - 1e-12 <= found.average_current_a <= max(currents) + 1e-12
    assert found.charge_ah == pytest.approx(found.average_current_a * sum(times) / 3600)


STAGES = st.lists(
    st.tuples(st.just(False), st.floats(0, 0.1), st.floats(0.1, 0.5)) | st.tuples(st.just(True), SOME, SOME),
    min_size=1, max_size=6,
)  # fmt: skip


@given(STAGES, STAGES)
def test_chains_add_up_and_keep_their_order(one, other):
    first, second, both = chain_latency(one), chain_latency(other), chain_latency([*one, *other])
    assert both.most_s == pytest.approx(first.most_s + second.most_s)
    assert both.least_s <= both.typical_s <= both.most_s


@given(st.integers(0, 200), st.floats(1e3, 1e7))
def test_bytes_take_time_in_proportion(count, speed):
    assert uart_time(2 * count, speed).time_s == pytest.approx(2 * uart_time(count, speed).time_s)
    assert spi_time(count, speed, 3).time_s == pytest.approx(3 * spi_time(count, speed).time_s)
    assert i2c_time(count, speed, 4).time_s == pytest.approx(4 * i2c_time(count, speed).time_s)
    assert i2c_time(count, speed).time_s > spi_time(count, speed).time_s


@given(st.integers(7, 11), st.integers(0, 200))
def test_a_longer_packet_or_a_higher_factor_never_takes_less_air(factor, payload):
    air = lora_airtime(factor, 125e3, payload).airtime_s
    assert lora_airtime(factor, 125e3, payload + 20).airtime_s > air
    assert lora_airtime(factor + 1, 125e3, payload).airtime_s > air
    assert lora_airtime(factor, 250e3, payload).airtime_s < air


@given(st.integers(1, 200), st.floats(0.5, 0.999))
def test_an_interval_holds_its_rate_and_tightens_with_trials(trials, confidence):
    successes = trials * 3 // 4
    found = success_interval(successes, trials, confidence)
    assert 0 <= found.exact_lower <= successes / trials <= found.exact_upper <= 1
    assert found.one_sided_lower >= found.exact_lower
    more = success_interval(4 * successes, 4 * trials, confidence)
    assert more.exact_upper - more.exact_lower <= found.exact_upper - found.exact_lower + 1e-12


@given(st.floats(0.5, 0.99), st.floats(0.5, 0.99))
def test_clean_runs_show_just_what_they_are_said_to(reliability, confidence):
    needed = trials_for_proof(reliability, confidence).trials
    assert success_interval(needed, needed, confidence).one_sided_lower >= reliability - 1e-9
    if needed > 1:
        assert success_interval(needed - 1, needed - 1, confidence).one_sided_lower < reliability + 1e-9


@given(st.lists(st.tuples(st.floats(0.1, 2), st.floats(3, 50)), min_size=1, max_size=5))
def test_responses_are_at_least_the_run_and_grow_with_what_is_above(tasks):
    runs, periods = [c for c, _ in tasks], [t for _, t in tasks]
    found = response_times(runs, periods)
    assert all(r >= c for r, c in zip(found.response_s, runs, strict=True))
    assert found.utilisation == pytest.approx(sum(c / t for c, t in tasks))
    assert found.schedulable == all(r <= t for r, t in zip(found.response_s, periods, strict=True))
    blocked = response_times(runs, periods, blocking_s=[0.05] * len(runs))
    assert all(b >= r for b, r in zip(blocked.response_s, found.response_s, strict=True))


def test_response_beyond_the_deadline_has_no_end():
    found = response_times([3.0, 5.0], [5.0, 7.0])
    assert found.response_s[1] == math.inf
    assert not found.schedulable


@pytest.mark.parametrize("name", sorted(CHEMISTRIES))
def test_chemistries_fall_as_they_empty_and_reach_their_cut_off(name):
    """Typical of the class, from memory: what must hold is that they are curves of a cell at all."""
    cell = CHEMISTRIES[name]
    assert list(cell.charge) == sorted(cell.charge)
    assert list(cell.open_circuit_v) == sorted(cell.open_circuit_v)
    assert cell.open_circuit_v[0] - 0.1 <= cell.cutoff_v < cell.nominal_v <= cell.open_circuit_v[-1]  # under load
    assert len(cell.charge) == len(cell.open_circuit_v)
    assert cell.peukert_exponent >= 1


def flat(volts: float, modes: int = 1):
    return np.full((modes, CELLS + 1), volts)


@given(st.floats(0.05, 5), st.floats(0, 0.9), st.floats(10, 1e5))
def test_a_steady_rate_ends_at_the_reserve_whatever_the_phases(rate, reserve, phase_s):
    found = run_down(flat(rate), end_places(flat(12.0), 10.0, reserve), [(0, phase_s)])
    assume(len(found.times_s) < 5000)
    assert found.runtime_s == pytest.approx((1 - reserve) / rate * 3600, rel=1e-9)
    assert found.ended_by == "reserve"
    assert found.charge == pytest.approx(reserve, abs=1e-9)


@given(st.floats(0.05, 0.5), st.floats(1, 20))
def test_the_order_of_two_modes_that_are_both_repeated_hardly_matters(slow, factor):
    rates = np.vstack([flat(slow), flat(slow * factor)])
    ends = end_places(flat(12.0, 2), 10.0, 0.1)
    one = run_down(rates, ends, [(0, 60.0), (1, 60.0)]).runtime_s
    other = run_down(rates, ends, [(1, 60.0), (0, 60.0)]).runtime_s
    assert abs(one - other) <= 61.0


def test_a_mode_below_its_cut_off_ends_the_mission_when_it_comes():
    rates = np.vstack([flat(0.1), flat(0.1)])
    volts = np.vstack([flat(12.0), flat(9.0)])
    found = run_down(rates, end_places(volts, 10.0, 0.1), [(0, 600.0), (1, 600.0)])
    assert found.runtime_s == 600.0
    assert found.ended_by == "cut-off"
    assert found.mode == 1


def test_where_a_pack_cannot_deliver_is_told_from_its_cut_off():
    volts = flat(12.0)
    volts[0, 40:] = np.nan
    ((place, why),) = end_places(volts, 10.0, 0.1)
    assert (place, why) == (39.0, "cannot deliver")
    falling = np.linspace(13.0, 9.0, CELLS + 1)[None, :]
    ((place, why),) = end_places(falling, 10.0, 0.1)
    assert why == "cut-off"
    assert place == pytest.approx(60.0)
