"""Temperatures and the energy of a day, told apart: against closed forms, and each mission as the project has it."""

import math
from statistics import NormalDist

import msgspec
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import edits
from builders import (
    BY_INPUT_V,
    a_bank,
    a_buck,
    a_driver,
    a_gearmotor,
    a_limit,
    a_load,
    a_pack,
    a_part,
    a_project,
    a_supply,
    an_item,
    plain,
    texts,
)  # fmt: skip
from wired_union.app.screenshots_power import sunny_roost
from wired_union.kernel.results import Verdict
from wired_union.picture.shapes import Kit
from wired_union.project.model import Mode, Panel, Phase, Use
from wired_union.subjects import assess
from wired_union.subjects.power.light.edits import add_inlet, set_inlet, set_panel, set_site
from wired_union.subjects.power.light.run import WEEK
from wired_union.subjects.power.node import DAY_ODDS, HEAT, LIGHT, POWER, START_ODDS, WARM_ODDS
from wired_union.subjects.power.packs import loaded
from wired_union.subjects.power.spread.figures import with_times
from wired_union.subjects.power.spread.missions import Missions
from wired_union.subjects.power.spread.picture import advice, resets_of
from wired_union.subjects.power.spread.told import (
    shares_of,
    told_of_days,
    told_of_parts,
    told_of_starts,
    told_of_warmth,
)
from wired_union.subjects.power.spread.told_picture import told_block, told_picture
from wired_union.subjects.power.spread.unknowns import ROUGHLY, SPREAD, unknowns_of
from wired_union.subjects.power.warmth.edits import add_enclosure, set_air_curve, set_warm

SIDES = {"length_m": 0.1, "width_m": 0.05, "height_m": 0.02}
AREA_M2 = 2 * (0.1 * 0.05 + 0.05 * 0.02 + 0.02 * 0.1)
RATED = {"temperature_min_c": -10.0, "temperature_max_c": 60.0}


def a_board(watts=2.0, **figures):
    return a_load("board", watts / 12.0, draw="power", **{"mass_kg": 0.05, **RATED, **SIDES, **figures})


def in_the_air(watts=2.0, knowledge="estimate", **board):
    """A board on a pack without resistance to speak of, in air of 0 and of 30 °C, for long."""
    pack = a_pack(resistance_ohm=0.0, capacity_ah=60.0, **RATED)
    project = a_project(pack, a_board(watts, **board), feeds=(("pack", "board"),), hours=20.0, coldest_c=0.0,
                        hottest_c=30.0)  # fmt: skip
    return edits.set_knowledge(project, "board", knowledge).after


def boxed(watts=2.0):
    """The same in a box in the sun, with a heater that keeps the pack warm."""
    pack = a_pack(mass_kg=0.8, length_m=0.15, width_m=0.1, height_m=0.04, capacity_ah=60.0, **RATED)
    heater = a_load("heater", 0.5, draw="resistance", mass_kg=0.02, length_m=0.1, width_m=0.05, height_m=0.001)
    project = a_project(pack, a_board(watts), heater, a_part("case", length_m=0.2, width_m=0.15, height_m=0.1),
                        feeds=(("pack", "board"), ("pack", "heater")), hours=10.0, coldest_c=2.0, hottest_c=30.0)  # fmt: skip
    project = add_enclosure(project, "Box", item="case", sun_w_per_m2=500.0).after
    for item in ("pack", "board"):
        project = set_warm(project, item, enclosure="box").after
    return set_warm(project, "heater", enclosure="box", mount="flat", plate="pack", holds_c=8.0).after


def warm(project, count=1000):
    return list(assess(project).of(WARM_ODDS).lots(count))[-1]


def row(some, item):
    return [i.id for i in some.items].index(item)


def test_of_a_board_in_the_air_the_rise_spreads_by_the_closed_form():
    """rise = P/(h·A): logarithms add, sd of ln(rise) = √(σ_current² + σ_cooling²), median where nothing spreads."""
    some = warm(in_the_air())
    rise = some.hottest_c[:, row(some, "board")] - 30.0
    sd = math.hypot(SPREAD["current"]["estimate"], ROUGHLY["cooling"])
    assert np.median(rise) == pytest.approx(2.0 / (10 * AREA_M2), rel=0.01)
    assert np.log(rise).std() == pytest.approx(sd, rel=0.03)
    rows = {r.typical.label: r for r in told_of_parts(some)}
    exact = 30.0 + 2.0 / (10 * AREA_M2) * math.exp(NormalDist().inv_cdf(0.95) * sd)
    assert rows["board"].sure.value == pytest.approx(exact, abs=0.4)
    assert rows["board"].worst.value == pytest.approx(some.hottest_c[:, row(some, "board")].max())
    shares = {u.called: s for u, s in shares_of(some.unknowns, some.normal, some.hot_margin_k)}
    assert shares["board: how it sheds its heat"] == pytest.approx(ROUGHLY["cooling"] ** 2 / sd**2, abs=0.06)
    assert (some.coldest_c == 0.0).all()  # it begins in the coldest air, and only warms


def test_how_soon_it_warms_spreads_by_what_it_stores():
    """In a time that is short against its own the rise is P·t/C: sd of ln(rise) = √(σ_current² + σ_stored²)."""
    project = in_the_air(mass_kg=50.0)
    mission = project.concept.mission.but(phases=(Phase(mode=project.concept.modes[0].id, duration_s=600.0),))
    project = project.but(concepts=(project.concept.but(mission=mission),))
    some = warm(project)
    rise = some.hottest_c[:, row(some, "board")] - 30.0
    exact = math.hypot(SPREAD["current"]["estimate"], ROUGHLY["warmth"])
    assert np.log(rise).std() == pytest.approx(exact, rel=0.05)


def test_where_nothing_spreads_every_temperature_is_the_one_of_the_project():
    for project in (in_the_air(), boxed()):
        odds = assess(project).of(WARM_ODDS)
        still = Missions(odds.heat.power, odds.unknowns, np.zeros((3, len(odds.unknowns))))
        hot, cold, _ = odds._lot(still, tuple(e.item for e in odds.heat.extremes))
        assert hot == pytest.approx(np.tile([e.hottest_c for e in odds.heat.extremes], (3, 1)), abs=1e-6)
        assert cold == pytest.approx(np.tile([e.coldest_c for e in odds.heat.extremes], (3, 1)), abs=1e-6)


def test_each_mission_is_as_warm_as_the_project_with_its_currents():
    project = boxed()
    odds = assess(project).of(WARM_ODDS)
    place = next(n for n, u in enumerate(odds.unknowns) if (u.item, u.what) == ("board", "current"))
    normal = np.zeros((3, len(odds.unknowns)))
    normal[:, place] = (-1.5, 0.5, 2.0)
    hot, cold, _ = odds._lot(
        Missions(odds.heat.power, odds.unknowns, normal), tuple(e.item for e in odds.heat.extremes)
    )
    for k, times in enumerate(np.exp(normal[:, place] * odds.unknowns[place].spread)):
        own = project
        for field in ("active_a", "peak_a"):
            own = edits.set_part_value(own, "board", f"load.{field}", float(2.0 / 12.0 * times)).after
        expected = assess(own).of(HEAT).extremes
        assert hot[k] == pytest.approx([e.hottest_c for e in expected], abs=0.02)
        assert cold[k] == pytest.approx([e.coldest_c for e in expected], abs=0.02)


def test_a_box_in_the_sun_spreads_by_its_walls_and_its_lid_and_a_heater_by_its_current():
    some = warm(boxed())
    called = {u.called for u, _ in shares_of(some.unknowns, some.normal, some.hot_margin_k)}
    assert {"Box: how its walls pass heat on", "Box: sun on its lid"} <= called
    weak = edits.set_part_value(boxed(0.0), "heater", "load.active_a", 0.05).after
    weak = edits.set_knowledge(set_air_curve(weak, starts_c=20.0).after, "heater", "guess").after
    cold = warm(weak)
    assert "heater: current" in {u.called for u, _ in shares_of(cold.unknowns, cold.normal, cold.cold_margin_k)}
    dull = boxed()
    dull = dull.but(concepts=(dull.concept.but(enclosures=tuple(
        e.but(sun_w_per_m2=0.0) for e in dull.concept.enclosures)),))  # fmt: skip
    assert all(u.what != "lid" for u in assess(dull).of(WARM_ODDS).unknowns)


def test_the_lots_come_one_by_one_and_cover_the_same_range():
    lots = list(assess(in_the_air()).of(WARM_ODDS).lots(300))
    assert [len(x.hottest_c) for x in lots] == [100, 200, 300]
    first, last = (np.log(x.hottest_c[:, row(x, "board")] - 30.0).std() for x in (lots[0], lots[-1]))
    assert first == pytest.approx(last, rel=0.2)


def test_what_is_not_known_is_told_and_never_green():
    silent = in_the_air(temperature_max_c=None)
    now = assess(silent)
    rows = {r.typical.kind: r for r in told_of_warmth(warm(silent, 200), now.of(HEAT), silent.brief)}
    assert {m.verdict for m in rows["hottest"].each} == {Verdict.UNKNOWN}  # the pack says, the board does not
    assert {m.verdict for m in rows["coldest"].each} == {Verdict.HOLDS}
    drawn = [plain(t) for t in texts(told_picture(list(rows.values()), Kit(), 260.0))]
    assert "not all is known" in drawn
    none = assess(a_project(a_part("x"))).of(WARM_ODDS)
    assert none.gaps
    assert none.soon is None
    flat = edits.set_part_value(in_the_air(), "pack", "pack.cell_capacity_ah", None).after
    assert assess(flat).of(WARM_ODDS).gaps
    nowhere = assess(edits.set_part_value(in_the_air(), "board", "height_m", None).after).of(WARM_ODDS)
    assert nowhere.gaps == ("a part that gets warm and of which all is known",)


def test_missions_in_which_the_pack_cannot_deliver_have_no_figure():
    """P_max = V²/4R: the pack gives some of them what they take and not all."""
    pack = a_pack(resistance_ohm=0.66, capacity_ah=60.0, **RATED)
    project = a_project(pack, a_board(14.0), feeds=(("pack", "board"),), hours=2.0, coldest_c=20.0, hottest_c=30.0)
    project = edits.set_knowledge(project, "board", "guess").after
    some = warm(project)
    lost = np.isinf(some.hot_margin_k)
    assert 0.05 < lost.mean() < 0.95
    assert (some.hot_margin_k[lost] < 0).all()
    said = [plain(r.said) for r in told_of_warmth(some, assess(project).of(HEAT), project.brief)]
    assert "the worst no figure" in said[0]
    assert "nan" not in "".join(said)


def test_the_parts_that_come_nearest_are_told_and_the_one_that_is_selected():
    parts = [a_load(f"p{n}", 0.1 + 0.05 * n, draw="power", mass_kg=0.05, **RATED, **SIDES) for n in range(5)]
    project = a_project(a_pack(capacity_ah=60.0), *parts, feeds=tuple(("pack", p.id) for p in parts), hours=5.0,
                        coldest_c=0.0, hottest_c=30.0)  # fmt: skip
    some = warm(project, 200)
    assert [r.typical.label for r in told_of_parts(some)] == ["p4", "p3", "p2"]
    assert [r.typical.label for r in told_of_parts(some, "p0")] == ["p0", "p4", "p3", "p2"]
    assert {r.typical.limit for r in told_of_parts(some)} == {60.0}


def test_a_regulator_that_says_how_warm_it_gets_is_told_by_its_junction():
    """T = T_air + P·θ (JESD51): the rise above the air spreads as current and what it sheds."""
    buck = a_buck(thermal_resistance_k_per_w=80.0, efficiency_curve=((0.01, 0.8),), mass_kg=0.005, length_m=0.02,
                  width_m=0.01, height_m=0.005, temperature_max_c=85.0)  # fmt: skip
    project = a_project(a_pack(capacity_ah=60.0), buck, a_load(amperes=0.8, rated_v=5.0),
                        feeds=(("pack", "buck"), ("buck", "load")), hours=10.0, coldest_c=0.0, hottest_c=30.0)  # fmt: skip
    some = warm(project)
    junction = some.junction_c[:, row(some, "buck")]
    watts = 0.8 * 5.0 * (1 / 0.8 - 1)
    assert np.median(junction) == pytest.approx(30.0 + 80.0 * watts, abs=2.0)
    sd = math.sqrt(SPREAD["current"]["datasheet"] ** 2 + SPREAD["loss"]["datasheet"] ** 2 + ROUGHLY["cooling"] ** 2)
    assert np.log(junction - 30.0).std() == pytest.approx(sd, rel=0.05)
    assert some.hottest_c[:, row(some, "buck")] == pytest.approx(30.0)  # its rating is of the air around it
    told = {r.typical.label: r for r in told_of_parts(some, "buck")}["buck, inside"]
    assert told.typical.limit == 125.0
    expected = np.minimum(85.0 - 30.0, 125.0 - junction)
    assert some.hot_margins_k[:, row(some, "buck")] == pytest.approx(expected)


# the energy of a day


def a_panel(watts=5.0):
    return a_part("panel", "solar panel", panel=Panel(peak_power_w=watts, peak_power_v=18.0))


def sunny(load_w=0.5, watts=1.0, **brief):
    pack = a_pack(series=3, capacity_ah=2.0, chemistry="li-ion", resistance_ohm=0.0)
    project = a_project(pack, a_load("node", load_w / 12.0, draw="power"), a_panel(watts), feeds=(("pack", "node"),),
                        hours=24.0, **brief)  # fmt: skip
    project = set_site(project, latitude_deg=50.0, day_of_year=172, weather="clear").after
    return set_panel(project, "panel", charges="pack", tilt_deg=30.0).after


def test_what_a_day_leaves_has_the_mean_and_the_spread_of_its_closed_form():
    """Products of independent lognormals: E = m·e^(s²/2), Var = E²·(e^(s²) − 1); charge and what goes out add."""
    project = edits.set_knowledge(edits.set_knowledge(sunny(), "node", "guess").after, "pack", "measured").after
    day, some = assess(project).of(LIGHT).days[0], assess(project).of(DAY_ODDS).soon
    sun = SPREAD["panel"]["datasheet"] ** 2 + ROUGHLY["sky"] ** 2
    lost = 0.03
    mean_lost = lost * math.exp(ROUGHLY["charge"] ** 2 / 2)
    var_lost = mean_lost**2 * math.expm1(ROUGHLY["charge"] ** 2)
    mean_in = day.in_wh * math.exp(sun / 2) * (1 - mean_lost)
    var_in = (day.in_wh * math.exp(sun / 2)) ** 2 * (math.exp(sun) * ((1 - mean_lost) ** 2 + var_lost)) - mean_in**2
    node = 12.0 * math.exp(SPREAD["current"]["guess"] ** 2 / 2)
    spread = math.hypot(SPREAD["idle"]["measured"], SPREAD["capacity"]["measured"])
    out = node + day.by_itself_wh * math.exp(spread**2 / 2)
    var_out = node**2 * math.expm1(SPREAD["current"]["guess"] ** 2)
    assert some.balance_wh.mean() == pytest.approx(mean_in - out, abs=0.02 * day.out_wh)
    assert some.balance_wh.std() == pytest.approx(math.sqrt(var_in + var_out), rel=0.02)
    assert np.median(some.balance_wh) == pytest.approx(day.balance_wh, abs=0.03 * day.out_wh)
    lots = {u.called: s for u, s in shares_of(some.unknowns, some.normal, some.balance_wh)}
    assert lots["node: current"] == pytest.approx(var_out / (var_in + var_out), abs=0.04)


def test_the_week_is_a_pack_of_its_capacity_less_what_seven_overcast_days_lack():
    project = sunny(load_w=0.05, watts=0.0001)  # next to no sun
    some = assess(project).of(DAY_ODDS).soon
    node = SPREAD["current"]["datasheet"]
    day = assess(project).of(LIGHT).days[0]
    loads = 0.05 * 24
    assert some.week_left_wh.mean() == pytest.approx(
        day.usable_wh * math.exp(SPREAD["capacity"]["datasheet"] ** 2 / 2) - WEEK * day.by_itself_wh * math.exp(
            (SPREAD["idle"]["datasheet"] ** 2 + SPREAD["capacity"]["datasheet"] ** 2) / 2)
        - WEEK * loads * math.exp(node**2 / 2), rel=5e-3)  # fmt: skip
    assert np.median(some.week_left_wh) == pytest.approx(day.week_left_wh, rel=5e-3)
    assert np.median(some.full_s) == pytest.approx(day.time_to_full_s, rel=0.02)  # in the sun alone
    known = edits.set_knowledge(edits.set_knowledge(project, "node", "measured").after, "pack", "guess").after
    wide = SPREAD["capacity"]["guess"]  # of a lognormal: m·e^(s²/2)·√(e^(s²) − 1)
    exact = day.usable_wh * math.exp(wide**2 / 2) * math.sqrt(math.expm1(wide**2))
    assert assess(known).of(DAY_ODDS).soon.week_left_wh.std() == pytest.approx(exact, rel=0.03)


def test_under_a_dark_sky_some_comes_in_all_the_same_and_poor_cells_lose_of_it():
    project = sunny(load_w=0.5, watts=2.0)
    day, some = assess(project).of(LIGHT).days[0], assess(project).of(DAY_ODDS).soon
    assert day.dark_wh > 1.0
    assert np.median(some.week_left_wh) == pytest.approx(day.week_left_wh, rel=0.01)
    poor = assess(sunny_roost()).of(DAY_ODDS).soon
    shares = {u.what: s for u, s in shares_of(poor.unknowns, poor.normal, poor.balance_wh)}
    assert shares["charge"] > 0.1


def test_what_is_plugged_in_spreads_by_itself_and_the_worst_pack_counts():
    project = add_inlet(sunny(watts=0.0001), "Crank").after
    project = set_inlet(project, "crank", power_w=10.0, hours_a_day=2.0, charges="pack").after
    some, day = assess(project).of(DAY_ODDS).soon, assess(project).of(LIGHT).days[0]
    assert np.median(some.balance_wh) == pytest.approx(day.balance_wh, rel=0.02)
    shares = dict(shares_of(some.unknowns, some.normal, some.balance_wh))
    assert {u.called: s for u, s in shares.items()}["Crank: power into the cells"] > 0.5
    two = msgspec.structs.replace(some, balances_wh=np.array([[1.0, -2.0], [3.0, 4.0]]),
                                  weeks_left_wh=np.array([[1.0, 5.0], [-3.0, 4.0]]))  # fmt: skip
    assert two.balance_wh.tolist() == [-2.0, 3.0]
    assert two.week_left_wh.tolist() == [1.0, -3.0]
    two = msgspec.structs.replace(some, times_to_full_s=np.array([[1.0, 5.0], [7.0, 4.0]]))
    assert two.full_s.tolist() == [5.0, 7.0]
    assert np.median(some.full_s) == pytest.approx(day.time_to_full_s, rel=0.02)
    spread = math.hypot(ROUGHLY["inlet"], SPREAD["capacity"]["datasheet"])
    assert np.log(some.full_s).std() == pytest.approx(spread, rel=0.05)  # capacity over power


def test_a_mode_that_never_comes_decides_nothing_of_a_day():
    project = edits.set_part_value(sunny(), "pack", "pack.cell_resistance_ohm", 0.05).after  # 12²/4R: 250 W at most
    heavy = a_load("heavy", 400.0, draw="power")
    concept = project.concept
    off, on = Use(item="heavy", state="off"), Use(item="heavy", state="active")
    modes = (concept.modes[0].but(uses=(*concept.modes[0].uses, off)), Mode(id="never", name="Never", uses=(on,)))
    more = edits.feed_from(project.but(concepts=(concept.but(items=(*concept.items, an_item(heavy)), modes=modes),)),
                          "heavy", "pack").after  # fmt: skip
    light = assess(more).of(LIGHT)
    assert np.isnan(light.power.flows.power_w[:, 1]).any()
    assert not light.gaps
    some = assess(more).of(DAY_ODDS).soon
    assert np.isfinite(some.balance_wh).all()


def test_a_day_is_told_with_what_the_brief_asks_and_nothing_is_drawn_of_what_is_not_known():
    limit = a_limit("energy-balance", 50.0, "at least")
    project = sunny(limits=(limit,))
    rows = list(told_of_days(assess(project).of(DAY_ODDS).soon, project.brief))
    assert [r.typical.label for r in rows] == ["A day leaves", "Left after a dark week", "Time to full"]
    assert rows[0].typical.limit == 50.0
    assert {m.verdict for m in rows[0].each} == {Verdict.BREAKS}
    assert rows[0].worst.value < rows[0].sure.value < rows[0].typical.value
    block = told_block(rows)
    assert block.rows[0][1] == plain(f"at least {50} Wh") or "50" in block.rows[0][1]
    unknown = set_site(project, latitude_deg=None).after
    assert assess(unknown).of(DAY_ODDS).gaps
    assert assess(unknown).of(DAY_ODDS).soon is None


def test_nobody_is_told_to_measure_the_sky():
    some = assess(edits.set_knowledge(sunny(), "node", "measured").after).of(DAY_ODDS).soon
    said = plain(advice(shares_of(some.unknowns, some.normal, some.balance_wh)))
    assert said.startswith("The sky makes")
    assert "Measure first: " in said
    assert "Measure first: The sky" not in said
    alone = [(u, s) for u, s in shares_of(some.unknowns, some.normal, some.balance_wh) if u.what == "sky"]
    assert advice(alone).endswith("All else that matters is measured.")


# what flows in each mission


def whole():
    """A converter measured at two voltages, one at one, a driver, a linear regulator, wires, a power bank, a supply."""
    buck, other = a_buck(**BY_INPUT_V, quiescent_a=0.002), a_buck("second", 6.0, quiescent_a=0.004)
    project = a_project(
        a_pack(resistance_ohm=0.05), buck, other, a_driver(quiescent_a=0.01), a_load("lamp", 0.5, draw="resistance"),
        a_load("chip", 0.3, rated_v=5.0), a_load("radio", 0.2, rated_v=6.0), a_load("fan", 0.4), a_bank(),
        a_load("far", 0.3, rated_v=5.0), a_supply(), a_load("near", 0.5),
        feeds=(("pack", "lamp"), ("pack", "buck"), ("buck", "chip"), ("pack", "second"), ("second", "radio"),
               ("pack", "driver"), ("driver", "fan"), ("bank", "far"), ("adapter", "near")), hours=0.7, repeats=3)  # fmt: skip
    return edits.set_wire(project, "buck", 0.5, 22).after


@settings(max_examples=15, deadline=None)
@given(st.floats(0.4, 2.5), st.floats(0.4, 2.5), st.floats(0.4, 2.5))
def test_losses_of_converters_drivers_and_banks_are_those_of_the_project_with_such_figures(buck, second, driver):
    """Efficiency e at so many times the losses is 1/(1 + (1/e − 1)·times), and what it takes itself that many times."""
    project = whole()
    result = assess(project).of(POWER)
    unknowns = unknowns_of(result, {})
    normal = np.zeros((1, len(unknowns)))
    times = {"buck": buck, "second": second, "driver": driver, "bank": second}
    for n, u in enumerate(unknowns):
        if u.what == "loss":
            normal[0, n] = math.log(times[u.item]) / u.spread
    flows = Missions(result, unknowns, normal).flows
    own = edits.set_part_value(project, "driver", "driver.quiescent_a", 0.01 * driver).after
    for item, quiescent in (("buck", 0.002), ("second", 0.004), ("bank", 0.0)):
        own = edits.set_part_value(own, item, "regulator.quiescent_a", quiescent * times[item]).after
        part = next(i.part for i in project.concept.items if i.id == item).regulator
        for field in ("efficiency_curve", "second_efficiency_curve"):
            if curve := getattr(part, field):  # fine, since straight lines of e are no straight lines of its losses
                at = np.geomspace(0.005, 4.0, 400)
                e = np.interp(at, [a for a, _ in curve], [s for _, s in curve])
                lossy = tuple(
                    (float(a), float(1 / (1 + (1 / s - 1) * times[item]))) for a, s in zip(at, e, strict=True)
                )
                own = edits.set_part_value(own, item, f"regulator.{field}", lossy).after
    expected = assess(own).of(POWER).flows.part(slice(0, result.modes))
    assert flows.power_w == pytest.approx(expected.power_w, rel=2e-4)
    assert flows.loss_w == pytest.approx(expected.loss_w, rel=2e-3, abs=1e-6)


def with_flat_curves(project):
    """The same with converters whose efficiency is one number, of which so many times the losses is exact."""
    for item, value in (("buck", 0.8), ("second", 0.75)):
        project = edits.set_part_value(project, item, "regulator.efficiency_curve", ((0.1, value),)).after
    return edits.set_part_value(project, "buck", "regulator.second_efficiency_curve", ((0.1, value),)).after


def test_a_mission_as_a_project_of_its_own_flows_as_it_does_among_the_others():
    """Two ways to the same: figures changed in the concept, and all missions solved side by side."""
    project = with_flat_curves(whole())
    result = assess(project).of(POWER)
    unknowns = unknowns_of(result, {i.id: "estimate" for i in project.concept.items})
    some = Missions(result, unknowns, np.random.default_rng(3).normal(size=(4, len(unknowns))))
    for n in range(4):
        own = with_times(project.concept, lambda item, what, n=n: float(some.times(item, what)[n]))
        expected = assess(project.but(concepts=(own,))).of(POWER)
        flows = some.flows.part(slice(n * result.modes, (n + 1) * result.modes))
        assert flows.power_w == pytest.approx(expected.flows.power_w[:, : result.modes], rel=1e-6)
        assert flows.loss_w == pytest.approx(expected.flows.loss_w[:, : result.modes], rel=1e-6, abs=1e-9)
        for was, pack in zip(result.packs, expected.packs, strict=True):
            if was.figures.converter is not None:
                continue
            peak = loaded_peak(some, was)[n * result.modes : (n + 1) * result.modes]
            assert peak == pytest.approx(pack.peak_current_a, rel=1e-6)


def loaded_peak(some, pack):
    """Current of a pack at the worst instant in every mode of every mission."""
    at = some.result.energy_reserve
    draws = some.draws(some.result.currents.starting)
    open_v = np.full((some.count * some.result.modes, 1), pack.figures.open_circuit_at(at))
    n = some.net.index[pack.node.item.id]
    return loaded(some.net, n, some.ohms(pack.figures, np.array([at])), open_v, draws)[1][:, 0]


# starts


def a_thinker(cell_ohm=0.02, brain_knowledge="measured", **driver):
    """A motor that starts beside a controller on one pack without a regulator between: it gets what the pack gives."""
    brain = a_load("brain", 0.1, rated_v=12.0, reset_v=9.0, supply_min_v=9.0)
    pack = a_pack(resistance_ohm=cell_ohm)
    project = a_project(pack, a_driver(**driver), a_gearmotor(), brain,
                        feeds=(("pack", "driver"), ("driver", "motor"), ("pack", "brain")), hours=1.0)  # fmt: skip
    project = edits.set_knowledge(project, "motor", "estimate").after
    return edits.set_knowledge(project, "brain", brain_knowledge).after


def test_each_start_is_the_one_of_the_project_with_its_figures():
    project = a_thinker()
    odds = assess(project).of(START_ODDS)
    lots = list(odds.lots(20))
    assert [len(x.margin_v) for x in lots] == [10, 20]
    some = Missions(odds.supply, odds.unknowns, lots[-1].normal)
    for n in range(3):
        own = with_times(project.concept, lambda item, what, n=n: float(some.times(item, what)[n]))
        expected = assess(project.but(concepts=(own,))).measure("brown-out").value
        assert lots[-1].margin_v[n] == pytest.approx(expected, abs=1e-9)
    assert lots[-1].margin_v.std() > 0.01


def test_without_inductance_the_dip_spreads_as_current_times_resistance():
    """At once a blocked winding takes V/(R + R_pack): the dip is a divider, R by the stall current of each mission."""
    project = a_thinker(brain_knowledge="datasheet")
    odds = assess(project).of(START_ODDS)
    some = odds.soon
    one = Missions(odds.supply, odds.unknowns, some.normal)
    figures, motor = odds.supply.packs[0].figures, next(i for i in project.concept.items if i.id == "motor").part.motor
    open_v, own = figures.open_circuit_at(0.15), figures.values.resistance_ohm * one.times("pack", "resistance")
    feed = odds.supply.tree.nodes["motor"].feed_ohm
    winding = motor.rated_voltage_v / (motor.stall_current_a * one.times("motor", "current")) + feed
    beside = 0.1 * one.times("brain", "current")
    volts = (open_v - own * beside) * winding / (winding + own)
    assert some.margin_v == pytest.approx(volts - 9.0, abs=0.05)
    row = next(told_of_starts(some, odds.first, project.brief))
    assert row.sure.value == pytest.approx(float(np.quantile(some.margin_v, 0.05, method="lower")))
    assert row.typical.limit == 0.0


def test_in_how_many_starts_a_controller_resets_is_said_and_nothing_where_it_is_not_known():
    some = assess(a_thinker()).of(START_ODDS).soon
    said = [plain(resets_of(msgspec.structs.replace(some, margin_v=np.array(v)))) for v in (
        [1.0, 2.0, 0.0, 1.0], [1.0, -0.1, 2.0, 3.0], [-1.0, -1.0])]  # fmt: skip
    assert said == ["In none of 4 starts a controller resets.", "In 25 % of 4 starts a controller resets.",
                    "In all of 2 starts a controller resets."]  # fmt: skip
    silent = edits.set_part_value(a_thinker(), "brain", "load.reset_v", None).after
    silent = edits.set_part_value(silent, "brain", "load.supply_min_v", None).after
    assert assess(silent).of(START_ODDS).gaps
    assert assess(silent).of(START_ODDS).soon is None
    assert advice([]) == "Nothing that is not known well moves it."


def test_what_a_converter_takes_for_itself_spreads_too_and_what_takes_nothing_does_not():
    result = assess(whole()).of(POWER)
    lossy = {u.item for u in unknowns_of(result, {}) if u.what == "loss"}
    assert lossy == {"buck", "second", "driver", "bank"}
