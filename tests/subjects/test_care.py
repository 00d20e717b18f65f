"""What cells need besides current: self-discharge over weeks, a cut-off, the cool, slow resistance."""

import pytest
from scipy.integrate import solve_ivp

import edits
from builders import a_limit, a_load, a_pack, a_part, a_project, an_item, plain
from wired_union.kernel.ripple import offered
from wired_union.physics.battery import CHEMISTRIES, MONTH_H
from wired_union.physics.discharge import FRESH_S, stretched_s
from wired_union.project.model import Rail
from wired_union.subjects import assess
from wired_union.subjects.power.node import FIRST, ODDS, POWER
from wired_union.subjects.power.trace import mission_trace


def weeks(chemistry="nimh", series=10, amperes=0.005, lost=0.2, **brief):
    pack = a_pack(chemistry=chemistry, series=series, capacity_ah=2.4, resistance_ohm=0.0, self_discharge_a_month=lost)
    return a_project(pack, a_load(amperes=amperes), feeds=(("pack", "load"),), hours=24.0, repeats=30, **brief)  # fmt: skip


def test_over_weeks_cells_lose_charge_by_themselves_as_the_integrator_has_it():
    """From the second day on: s′ = −(I/C + a fifth of it a month)."""
    project = weeks()
    lost = 0.2 / MONTH_H
    used = 0.005 / 2.4

    def empty(_, s):
        return s[0] - 0.15

    empty.terminal = True
    sol = solve_ivp(lambda t, _: [-(used + (lost if t > 24 else 0.0))], (0, 2000), [1.0], events=empty, max_step=1.0)
    exact_h = float(sol.t_events[0][0])
    assert assess(project).measure("runtime").value / 3600 == pytest.approx(exact_h, rel=5e-3)
    assert exact_h < 0.9 * 0.85 / used
    result = assess(project).of(POWER)
    assert mission_trace(result, result.packs[0]).times_s[-1] == pytest.approx(exact_h * 3600, rel=5e-3)
    some = list(assess(project).of(ODDS).lots(2000))[-1]
    assert sorted(some.runtime_s)[1000] / 3600 == pytest.approx(exact_h, rel=0.02)


def test_where_it_decides_it_must_be_said_and_where_it_does_not_nobody_is_asked():
    """408 h without it; with a fifth a month (NiMH, common practice) 363 h, with twice that 328 h."""
    wanted = {h: (a_limit("runtime", h * 3600, "at least"),) for h in (300.0, 340.0, 420.0)}
    now = assess(weeks(lost=None, limits=wanted[340.0]))
    measure = now.measure("runtime")
    assert measure.verdict == "unknown"
    assert measure.missing == ("pack: the share of its charge that it loses by itself in a month",)
    found = next(f for f in now.findings if f.check == "missing")
    ((remedy, _),) = offered(now, found)
    told = now.again(remedy.change.after)
    assert told.measure("runtime").missing == ()
    plain_h = now.measure("runtime").value / 3600
    used = 1 - now.of(POWER).packs[0].discharge.charge
    exact_h = 24 + (plain_h - 24) / (1 + (plain_h / used) * 0.2 / MONTH_H)
    assert told.measure("runtime").value / 3600 == pytest.approx(exact_h)
    assert told.measure("runtime").verdict == "tight"
    assert told.project.concept.items[0].part.pack.self_discharge_a_month == CHEMISTRIES["nimh"].self_discharge_a_month
    assert assess(weeks(lost=None, limits=wanted[300.0])).measure("runtime").missing == ()
    assert assess(weeks(lost=None, limits=wanted[420.0])).measure("runtime").verdict == "breaks"
    assert assess(weeks("lifepo4", 4, lost=None, limits=wanted[340.0])).measure("runtime").missing == ()
    assert now.all_measures["peak-current"].missing == ()
    longer = now.again(weeks(lost=None, limits=wanted[300.0]))
    assert longer.measure("runtime").missing == ()


def test_hours_are_not_touched_and_nothing_jumps_at_the_first_day():
    assert stretched_s(3600.0, 0.85, 0.01) == 3600.0
    assert stretched_s(float("inf"), 0.0, 0.01) == float("inf")
    near = [stretched_s(FRESH_S * (1 + k * 1e-4), 0.85, 1e-3) for k in range(-5, 6)]
    assert near == sorted(near)
    assert near[6] - near[4] < 20


def test_lithium_cells_that_nothing_switches_off_are_told_with_a_switch_that_does():
    project = a_project(a_pack(), a_load(), feeds=(("pack", "load"),))
    now = assess(project)
    found = next(f for f in now.findings if f.check == "no-cut-off")
    remedies = offered(now, found)
    assert remedies
    after = now.again(remedies[0][0].change.after)
    assert not any(f.check == "no-cut-off" for f in after.findings)
    guard = an_item(a_part("guard", "battery protection", rail=Rail(max_current_a=15.0)))
    guarded = a_project(a_pack(), guard, a_load(), feeds=(("pack", "guard"), ("guard", "load")))
    assert not any(f.check == "no-cut-off" for f in assess(guarded).findings)
    assert not any(f.check == "no-cut-off" for f in assess(weeks()).findings)  # NiMH bears it


def test_in_the_cool_it_is_said_what_such_cells_give_until_someone_measures():
    project = a_project(a_pack(), a_load(), feeds=(("pack", "load"),), coldest_c=0.0)
    found = next(f for f in assess(project).findings if f.check == "cool")
    assert "80 %" in plain(found.what)
    told = edits.set_part_value(project, "pack", "pack.measured_at_c", 0.0).after
    assert not any(f.check == "cool" for f in assess(told).findings)
    mild = project.but(brief=project.brief.but(coldest_c=10.0))
    assert not any(f.check == "cool" for f in assess(mild).findings)


def test_slow_resistance_counts_whole_where_it_lasts_and_hardly_in_the_first_moment():
    project = a_project(a_pack(resistance_ohm=0.02), a_load("thing", 3.0, startup_a=6.0), feeds=(("pack", "thing"),))
    slow = edits.set_part_value(project, "pack", "pack.cell_slow_ohm", 0.03).after
    both = edits.set_part_value(project, "pack", "pack.cell_resistance_ohm", 0.05).after
    assert assess(slow).measure("lowest-voltage").value == pytest.approx(assess(both).measure("lowest-voltage").value)
    start = assess(slow).of(FIRST).starts[0]
    volts = start.course.volts[start.circuit.spots["pack"]]
    quick = assess(project).of(FIRST).starts[0]
    assert volts[0] == pytest.approx(quick.course.volts[quick.circuit.spots["pack"]][0], abs=1e-3)
    assert volts[-1] < volts[0] - 0.03
    assert start.course.worst_missing_j < 1e-6 * start.course.energy.given_j


def test_what_flowed_before_a_start_has_already_come_in_within_seconds_and_minutes():
    """3 A through 3 × 30 mΩ that come within seconds and 3 × 20 mΩ within minutes: 0.45 V before the coil begins."""
    lamp, coil = a_load("lamp", 3.0), a_load("coil", 1.0, draw="resistance", rated_v=12.0, inductance_h=0.5)
    pack = a_pack(chemistry="li-ion", series=3, resistance_ohm=0.0)
    project = a_project(pack, lamp, coil, feeds=(("pack", "lamp"), ("pack", "coil")))
    project = edits.set_part_value(project, "pack", "pack.cell_slow_ohm", 0.03).after
    project = edits.set_part_value(project, "pack", "pack.cell_minutes_ohm", 0.02).after
    start = assess(project).of(FIRST).starts[0]
    volts, source = start.course.volts[start.circuit.spots["pack"]], start.circuit.stages[0].source
    assert volts[0] == pytest.approx(source.voltage_v - 3.0 * 0.15, abs=2e-3)
    assert (source.ohm, source.slow_ohm, source.held_ohm) == pytest.approx((0.0, 0.09, 0.06))
    assert volts[-1] < volts[0]  # the coil's ampere comes in through the seconds, and hardly in half of one
    assert volts[-1] > volts[0] - 0.09 * 0.2
    assert start.course.worst_missing_j < 1e-6 * start.course.energy.given_j
    both = assess(edits.set_part_value(project, "pack", "pack.cell_minutes_ohm", 0.0).after)
    assert both.measure("lowest-voltage").value - assess(project).measure("lowest-voltage").value == pytest.approx(
        0.06 * 3.8, rel=0.01
    )
