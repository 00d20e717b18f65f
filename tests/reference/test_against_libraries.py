"""The power solver, the mission and the statistics against scipy, an independent general-purpose library."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats
from scipy.integrate import solve_ivp
from scipy.optimize import brentq, fsolve

import edits
from builders import Rail, a_buck, a_load, a_pack, a_part, a_project, an_ldo
from wired_union.physics.battery import CHEMISTRIES, loaded_voltage_at
from wired_union.physics.converter import efficiency_at
from wired_union.physics.discharge import charge_grid, end_places, run_down
from wired_union.physics.schedule import response_times
from wired_union.physics.statistics import success_interval
from wired_union.physics.wire import wire_gauge
from wired_union.subjects import assess
from wired_union.subjects.power.gives import POWER
from wired_union.subjects.power.packs import pack_figures
from wired_union.subjects.power.shares import mode_flows

WARM = 1 + 0.00393 * (25 - 20)
"""Copper in the 25 °C that a brief starts with: IEC 60028, from memory."""


def test_a_tree_with_constant_power_loads_and_wires_against_fsolve():
    """Pack → wire → buck → (LDO → logic, radio); pack → wire → constant-power board; unknowns: three voltages."""
    board = a_load("board", 1.5, draw="power", rated_v=12.0)
    project = a_project(
        a_pack(resistance_ohm=0.02), a_buck(quiescent_a=0.004), an_ldo(quiescent_a=0.002), board,
        a_load("logic", 0.12, rated_v=3.3), a_load("radio", 0.3, rated_v=5.0),
        feeds=(("pack", "buck"), ("buck", "ldo"), ("ldo", "logic"), ("buck", "radio"), ("pack", "board")),
    )  # fmt: skip
    project = edits.set_wire(project, "buck", 2.0, 24).after
    project = edits.set_wire(project, "board", 3.0, 20).after
    flows = mode_flows(assess(project).of(POWER), 0)

    figures = pack_figures(project.concept.items[0])
    open_v, ohm = figures.open_circuit_at(0.5), figures.values.resistance_ohm
    wire_buck = 4.0 * wire_gauge(24).resistance_ohm_per_m * WARM
    wire_board = 6.0 * wire_gauge(20).resistance_ohm_per_m * WARM
    out = 0.12 + 0.002 + 0.3
    power = 5.0 * out / efficiency_at(((0.01, 0.7), (0.5, 0.9), (3.0, 0.88)), out)

    def balance(volts):
        pack, buck, far = volts
        into_buck, into_board = power / buck + 0.004, 18.0 / far
        return (
            open_v - ohm * (into_buck + into_board) - pack,
            pack - wire_buck * into_buck - buck,
            pack - wire_board * into_board - far,
        )

    pack, buck, far = fsolve(balance, (12.0, 12.0, 12.0), xtol=1e-13)
    assert flows["pack"].input_v == pytest.approx(pack, abs=1e-8)
    assert flows["buck"].input_v == pytest.approx(buck, abs=1e-8)
    assert flows["board"].input_v == pytest.approx(far, abs=1e-8)
    assert flows["pack"].current_a == pytest.approx(power / buck + 0.004 + 18.0 / far, abs=1e-8)


@given(
    amperes=st.floats(0, 8), watts=st.floats(0, 60), siemens=st.floats(0, 0.5),
    volts=st.floats(5, 48), ohm=st.floats(0.001, 0.2),
)  # fmt: skip
def test_the_loop_is_solved_exactly_or_cannot_deliver(amperes, watts, siemens, volts, ohm):
    """The closed form is the upper root that brentq finds; where there is none, the answer is NaN."""
    found = loaded_voltage_at(volts, ohm, amperes, watts, siemens)

    def left_over(v):
        return volts - ohm * (amperes + watts / v + siemens * v) - v

    if found == found:
        assert left_over(found) == pytest.approx(0, abs=1e-9 * volts)
        turning = (ohm * watts / (1 + ohm * siemens)) ** 0.5
        assert found >= turning - 1e-9
    else:
        grid = np.linspace(volts * 1e-4, volts, 4000)
        assert not np.any(left_over(grid) > 1e-9)


@given(data=st.data())
def test_any_tree_of_wires_against_fsolve(data):
    """Random trees of rails behind wires with loads of every kind: every voltage is the root that fsolve finds.

    Unknowns: the voltage of the pack and of each rail; equations: Ohm's law along each wire, currents added up.
    """
    count = data.draw(st.integers(1, 6))
    above = [data.draw(st.integers(-1, n - 1)) for n in range(count)]
    ohms = [data.draw(st.floats(0.01, 0.2)) for _ in range(count)]
    kinds = [data.draw(st.sampled_from(["current", "power", "resistance"])) for _ in range(count)]
    amperes = [data.draw(st.floats(0.0, 1.0)) for _ in range(count)]
    rails = [a_part(f"rail{n}", "rail", rail=Rail(max_current_a=30.0)) for n in range(count)]
    loads = [a_load(f"load{n}", a, draw=k, rated_v=12.0) for n, (a, k) in enumerate(zip(amperes, kinds, strict=True))]
    feeds = [("pack" if up < 0 else f"rail{up}", f"rail{n}") for n, up in enumerate(above)]
    feeds += [(f"rail{n}", f"load{n}") for n in range(count)]
    project = a_project(a_pack(resistance_ohm=0.03), *rails, *loads, feeds=tuple(feeds))
    per_m = wire_gauge(22).resistance_ohm_per_m * WARM
    for n, ohm in enumerate(ohms):
        project = edits.set_wire(project, f"rail{n}", ohm / 2 / per_m, 22).after
    flows = mode_flows(assess(project).of(POWER), 0)
    figures = pack_figures(project.concept.items[0])

    def drawn(n, volts):
        return amperes[n] * {"current": 1.0, "power": 12.0 / volts, "resistance": volts / 12.0}[kinds[n]]

    def balance(volts):
        into = [drawn(n, volts[n + 1]) for n in range(count)]
        for n in reversed(range(count)):
            if above[n] >= 0:
                into[above[n]] += into[n]
        whole = sum(i for n, i in enumerate(into) if above[n] < 0)
        wires = [volts[above[n] + 1] - ohms[n] * into[n] - volts[n + 1] for n in range(count)]
        return [figures.open_circuit_at(0.5) - figures.values.resistance_ohm * whole - volts[0], *wires]

    root, _, good, _ = fsolve(balance, [13.0] * (count + 1), xtol=1e-13, full_output=True)
    if good == 1 and min(root) > 6.5:
        assert flows["pack"].input_v == pytest.approx(root[0], abs=1e-8)
        for n in range(count):
            assert flows[f"rail{n}"].input_v == pytest.approx(root[n + 1], abs=1e-8)


def test_a_wire_that_cannot_pass_the_power_has_no_answer():
    """Most power through a wire is V²/4R (Jacobi 1840): a little less is found, a little more is not."""
    ohm = 2.0
    for watts, passes in ((0.999, True), (1.001, False)):
        board = a_load("board", 1.0, draw="power", rated_v=12.0, supply_min_v=0.1)
        project = a_project(a_pack(resistance_ohm=0.0), board, feeds=(("pack", "board"),))
        open_v = pack_figures(project.concept.items[0]).open_circuit_at(0.5)
        project = edits.set_part_value(project, "board", "load.active_a", watts * open_v**2 / (4 * ohm) / 12.0).after
        project = edits.set_wire(project, "board", ohm / 2 / wire_gauge(30).resistance_ohm_per_m / WARM, 30).after
        volts = mode_flows(assess(project).of(POWER), 0)["board"].input_v
        assert (volts == volts) is passes
        if passes:
            assert volts == pytest.approx(open_v / 2 * (1 + (1 - watts) ** 0.5), rel=1e-6)


@pytest.mark.parametrize("first", [0, 1])
def test_a_mode_in_which_nothing_draws_takes_no_charge(first):
    """2 h off and 1 h at a fifth of the charge an hour: 85 % are gone after 4.25 such hours, whichever comes first."""
    rates = np.array([np.zeros(81), np.full(81, 0.2)])
    phases = [(0, 7200.0), (1, 3600.0)] if first == 0 else [(1, 3600.0), (0, 7200.0)]
    run = run_down(rates, [(68.0, "reserve"), (68.0, "reserve")], phases)
    off = 5 if first == 0 else 4
    assert run.runtime_s == pytest.approx(3600 * (4.25 + 2 * off), rel=1e-9)
    assert run.charge == pytest.approx(0.15)


@pytest.mark.parametrize("chemistry", sorted(CHEMISTRIES))
def test_a_mission_against_solve_ivp(chemistry):
    """Two modes, repeated, against an ODE solver that steps through every edge at tight tolerance."""
    project = a_project(
        a_pack(chemistry=chemistry, series=4, capacity_ah=5.0, resistance_ohm=0.02), a_load("steady", 0.9),
        a_load("board", 0.5, draw="power", rated_v=4.0), feeds=(("pack", "steady"), ("pack", "board")), hours=0.35,
        energy_reserve=0.2,
    )  # fmt: skip
    project = edits.add_mode(project, "Quiet").after
    project = edits.set_use(project, "quiet", "steady", "off").after
    project = edits.set_use(project, "quiet", "board", "active").after
    result = assess(project).of(POWER)
    pack = result.packs[0]
    ours = pack.discharge.runtime_s

    chem, figures = CHEMISTRIES[chemistry], pack.figures
    cell = figures.item.part.pack

    def loaded(charge, mode):
        open_v = cell.series * np.interp(charge, chem.charge, chem.open_circuit_v)
        return open_v, loaded_voltage_at(open_v, figures.values.resistance_ohm, 0.9 if mode == 0 else 0.0, 2.0, 0.0)

    def rate(_, charge, mode):
        open_v, volts = loaded(charge[0], mode)
        current = (open_v - volts) / figures.values.resistance_ohm
        plain = current / figures.values.capacity_ah
        stretch = max(plain * chem.rated_time_h, 1.0) ** (chem.peukert_exponent - 1)
        return [-plain * stretch / 3600]

    def reserve(_, charge, mode):
        return charge[0] - 0.2

    def cutoff(_, charge, mode):
        return loaded(charge[0], mode)[1] - figures.cutoff_v

    reserve.terminal = cutoff.terminal = True
    now, charge = 0.0, 1.0
    for _ in range(400):
        for mode, lasts in ((0, 0.35 * 3600), (1, 600.0)):
            if cutoff(0, [charge], mode) <= 0:
                assert ours == pytest.approx(now, rel=2e-3)
                return
            leg = solve_ivp(rate, (0, lasts), [charge], args=(mode,), events=(reserve, cutoff), rtol=1e-9, atol=1e-11,
                            max_step=120)  # fmt: skip
            now, charge = now + leg.t[-1], leg.y[0, -1]
            if leg.status == 1:
                assert ours == pytest.approx(now, rel=2e-3)
                return
    pytest.fail("the ODE never ended")


def test_thousands_of_short_cycles_against_their_mean():
    """Cycles far shorter than the pack: the averaged integral agrees with stepping through every one of them."""
    rates = np.stack([np.linspace(2e-4, 3e-4, 81), np.linspace(2e-2, 2.6e-2, 81)])
    ends = end_places(np.full((2, 81), 12.0), 10.0, 0.1)
    short = run_down(rates, ends, [(0, 59.0), (1, 1.0)])
    assert short.averaged

    def slope(_, charge):
        index = (1 - charge[0]) * 80
        one, two = (np.interp(index, np.arange(81), r) for r in rates)
        return [-(one * 59 + two * 1) / 60 / 3600]

    def empty(_, charge):
        return charge[0] - 0.1

    empty.terminal = True
    ode = solve_ivp(slope, (0, 1e8), [1.0], events=empty, rtol=1e-10, atol=1e-12)
    assert short.runtime_s == pytest.approx(ode.t[-1], rel=1e-4)
    assert len(charge_grid()) == 81


@pytest.mark.parametrize(("successes", "trials"), [(0, 5), (3, 10), (18, 20), (20, 20), (97, 100)])
@pytest.mark.parametrize("confidence", [0.8, 0.95, 0.99])
def test_intervals_against_scipy(successes, trials, confidence):
    ours = success_interval(successes, trials, confidence)
    exact = stats.binomtest(successes, trials).proportion_ci(confidence, "exact")
    wilson = stats.binomtest(successes, trials).proportion_ci(confidence, "wilson")
    assert (ours.exact_lower, ours.exact_upper) == pytest.approx((exact.low, exact.high), abs=1e-9)
    assert (ours.wilson_lower, ours.wilson_upper) == pytest.approx((wilson.low, wilson.high), abs=1e-9)
    one = stats.binomtest(successes, trials, alternative="greater").proportion_ci(confidence, "exact")
    assert ours.one_sided_lower == pytest.approx(one.low, abs=1e-9)


@given(st.lists(st.tuples(st.integers(1, 4), st.integers(5, 30)), min_size=1, max_size=4))
def test_response_times_against_a_simulation(tasks):
    """The first busy period, stepped a unit at a time with the highest ready task running, is the worst case."""
    runs, periods = [float(c) for c, _ in tasks], [float(t) for _, t in tasks]
    ours = response_times(runs, periods)
    if not ours.schedulable:
        return
    left, done = list(runs), [0.0] * len(tasks)
    for now in range(int(max(periods))):
        for i, period in enumerate(periods):
            if now and now % period == 0:
                left[i] += runs[i]
        running = next((i for i, x in enumerate(left) if x > 0), None)
        if running is not None:
            left[running] -= 1
            if left[running] == 0 and not done[running]:
                done[running] = now + 1
    assert list(ours.response_s) == done


def test_sag_limit_is_where_brentq_loses_its_root():
    most = 12.0**2 / (4 * 0.1)
    assert loaded_voltage_at(12.0, 0.1, 0.0, most * 0.999, 0.0) > 6
    assert np.isnan(loaded_voltage_at(12.0, 0.1, 0.0, most * 1.001, 0.0))
    root = brentq(lambda v: 12 - 0.1 * 100 / v - v, 6, 12)
    assert loaded_voltage_at(12.0, 0.1, 0.0, 100.0, 0.0) == pytest.approx(root, abs=1e-9)
