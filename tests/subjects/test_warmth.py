"""How warm and cold parts get: against steady states by hand, and against the air of the brief where nothing is said."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import edits
from builders import a_buck, a_driver, a_limit, a_load, a_pack, a_part, a_project, an_item, an_ldo, plain
from wired_union.catalogue.demo import demo
from wired_union.catalogue.parts import of_kind
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered
from wired_union.physics.heat import SOLIDS_J_PER_KG_K
from wired_union.project.errors import ProjectError
from wired_union.subjects import assess
from wired_union.subjects.brief.edits import set_air
from wired_union.subjects.power.node import HEAT, HEATING, POWER
from wired_union.subjects.power.warmth.edits import (
    add_enclosure,
    set_air_curve,
    set_enclosure,
    set_warm,
    type_air,
)

BOX = {"length_m": 0.2, "width_m": 0.15, "height_m": 0.1}
SIDES = {"length_m": 0.1, "width_m": 0.05, "height_m": 0.02}
AREA_M2 = 2 * (0.1 * 0.05 + 0.05 * 0.02 + 0.02 * 0.1)


def a_board(watts: float = 2.0, **figures):
    """It takes so many watts at the 13 V of the pack, whatever the voltage."""
    return a_load("board", watts / 12.0, draw="power", mass_kg=0.05, temperature_min_c=-10.0, temperature_max_c=60.0,
                  **{**SIDES, **figures})  # fmt: skip


def boxed(watts: float = 2.0, hours: float = 10.0, *, low: float = 0.0, high: float = 30.0, pack=None, **board):
    """A pack and a board in a box of plastic; the air from `low` to `high`."""
    pack = pack or a_pack(mass_kg=0.8, length_m=0.15, width_m=0.1, height_m=0.04, temperature_min_c=-20.0,
                          temperature_max_c=60.0, capacity_ah=60.0)  # fmt: skip
    project = a_project(pack, a_board(watts, **board), a_part("case", mass_kg=0.4, **BOX), feeds=(("pack", "board"),),
                        hours=hours, coldest_c=low, hottest_c=high)  # fmt: skip
    project = add_enclosure(project, "Box", item="case").after
    for item in ("pack", "board"):
        project = set_warm(project, item, enclosure="box").after
    return project


def extreme(project, item="board"):
    return next(e for e in assess(project).of(HEAT).extremes if e.item.id == item)


def test_a_board_in_a_box_settles_where_the_resistances_in_a_row_have_it():
    """P·(1/hA + R_inside + R_wall + R_outside): resistances of heat in series, by hand; the pack burns next to nothing."""
    walls_m2 = 2 * (0.2 * 0.15 + 0.15 * 0.1 + 0.1 * 0.2)
    row = 1 / (10 * AREA_M2) + (0.2 + 0.003 / 0.2) / walls_m2
    assert extreme(boxed()).hottest_c == pytest.approx(30.0 + 2.0 * row, rel=2e-3)
    assert extreme(boxed(hours=0.05)).hottest_c < 37.0  # it takes its time
    assert extreme(boxed(0.0)).hottest_c == pytest.approx(30.0, abs=0.05)


def test_foam_warms_and_slots_a_fan_a_sink_and_the_outside_cool():
    project, before = boxed(), extreme(boxed()).hottest_c
    assert extreme(set_enclosure(project, "box", insulation_m=0.02).after).hottest_c > before + 5
    for figures in ({"air_speed_m_s": 2.0}, {"sink_k_per_w": 15.0}, {"enclosure": ""}):
        assert extreme(set_warm(project, "board", **figures).after).hottest_c < before - 1, figures
    assert extreme(set_enclosure(project, "box", vent_m3_s=0.002).after).hottest_c < before - 1
    sunny = set_enclosure(project, "box", sun_w_per_m2=900.0).after
    assert extreme(sunny).hottest_c > before + 5
    assert extreme(set_enclosure(sunny, "box", foil="outside").after).hottest_c < extreme(sunny).hottest_c - 3
    assert extreme(sunny).coldest_c == extreme(project).coldest_c  # no sun is counted on in the cold


def test_flat_on_a_warm_plate_it_is_warmer_than_on_standoffs():
    """A controller bolted flat on a plate that something else warms."""
    hot = a_load("hot", 0.8, draw="power", mass_kg=0.2, temperature_max_c=200.0, **SIDES)
    project = a_project(a_pack(capacity_ah=60.0), an_item(hot), a_board(0.5), feeds=(("pack", "hot"), ("pack", "board")),
                        hours=5.0, hottest_c=30.0)  # fmt: skip
    flat = set_warm(project, "board", plate="hot", mount="flat").after
    apart = set_warm(flat, "board", mount="standoffs").after
    assert extreme(flat).hottest_c > extreme(apart).hottest_c + 3


def test_findings_name_figures_and_every_remedy_that_is_offered_helps():
    project = boxed(5.0)
    now = assess(project)
    found = next(f for f in now.findings if f.id == "too-hot:board")
    assert found.verdict is Verdict.BREAKS
    assert found.hard
    assert "it works up to 60 °C" in plain(found.what)
    assert "It burns up to 5 W, in Work" in plain(found.why)
    remedies = offered(now, found)
    assert len(remedies) >= 3
    for remedy, _ in remedies:
        assert extreme(remedy.change.after).hottest_c < extreme(project).hottest_c


def test_a_part_that_gets_too_hot_may_work_for_as_long_as_keeps_it_cool_enough():
    """A board that burns 4 W, an hour of each two: steady, so its mean is what counts, by its own resistances in a row."""
    project = boxed(4.0)
    assert extreme(project).hot_margin_k < 0
    now = assess(project)
    found = next(f for f in now.findings if f.id == "too-hot:board")
    remedy, _ = next((r, o) for r, o in offered(now, found) if "at work" in r.label)
    assert plain(remedy.label) == "board at work 75 % of Work alone"
    after = extreme(remedy.change.after)
    assert after.hot_margin_k >= 0
    use = next(u for u in remedy.change.after.concept.modes[0].uses if u.item == "board")
    assert (use.state, use.duty) == ("active", 0.75)
    hotter = boxed(12.0)
    now = assess(hotter)
    found = next(f for f in now.findings if f.id == "too-hot:board")
    labels = [plain(r.label) for r, _ in offered(now, found)]
    assert "board at work 25 % of Work alone" in labels or "board at work 10 % of Work alone" in labels
    beyond = assess(boxed(60.0))
    found = next(f for f in beyond.findings if f.id == "too-hot:board")
    assert not any("at work" in r.label for r in found.remedies)  # nothing that is shown does not help


def test_a_driver_is_kept_cool_by_less_work_of_what_it_drives():
    driver = a_driver(on_resistance_ohm=1.5, mass_kg=0.02, length_m=0.03, width_m=0.02, height_m=0.005,
                      temperature_max_c=60.0)  # fmt: skip
    project = a_project(a_pack(capacity_ah=60.0), driver, a_load("lamp", 1.4, mass_kg=0.1, **SIDES),
                        feeds=(("pack", "driver"), ("driver", "lamp")), hours=5.0, coldest_c=20.0, hottest_c=30.0)  # fmt: skip
    project = set_warm(project, "driver", mount="free").after
    assert extreme(project, "driver").hot_margin_k < 0
    now = assess(project)
    found = next(f for f in now.findings if f.id == "too-hot:driver")
    remedy = next(r for r, _ in offered(now, found) if "at work" in r.label)
    assert remedy.label.startswith("lamp at work")
    assert extreme(remedy.change.after, "driver").hot_margin_k >= 0


def test_the_weakest_heater_that_keeps_it_warm_enough_is_offered_fed_and_held():
    project = boxed(0.2, low=-30.0, high=10.0, pack=a_pack(
        mass_kg=0.8, length_m=0.15, width_m=0.1, height_m=0.04, temperature_min_c=-20.0, temperature_max_c=60.0,
        capacity_ah=60.0, measured_at_c=-30.0, chemistry="li-ion", series=3))  # fmt: skip
    assert not any("Heater" in r.label for f in assess(project).findings if f.id == "too-cold:pack" for r in f.remedies)
    project = set_air_curve(project, starts_c=15.0).after  # what begins too cold no heater helps
    now = assess(project)
    found = next(f for f in now.findings if f.id == "too-cold:pack")
    assert found.verdict is Verdict.BREAKS
    remedy = next(r for r, _ in offered(now, found) if "Heater" in r.label)
    assert "holds −15 °C" in plain(remedy.label)
    after = remedy.change.after
    assert extreme(after, "pack").cold_margin_k >= 0
    heater = after.concept.items[-1]
    assert heater.part.kind == "heater"
    assert next(f.source for f in after.concept.feeds if f.load == heater.id) == "pack"
    how = next(w for w in after.concept.warm_parts if w.item == heater.id)
    assert (how.plate, how.mount, how.enclosure, how.holds_c) == ("pack", "flat", "box", -15.0)
    weaker = [p for p in of_kind("heater") if p.load.active_a * p.load.rated_v
              < heater.part.load.active_a * heater.part.load.rated_v and p.load.supply_max_v > 12.6]  # fmt: skip
    assert not weaker or all(
        extreme(edits.swap_part(after, heater.id, p).after, "pack").cold_margin_k < 0 for p in weaker)  # fmt: skip
    again = next((f for f in assess(after).findings if f.id == "too-cold:pack"), None)
    assert again is None or all("Heater" not in r.label for r in again.remedies)  # one is there already


def test_no_second_heater_is_offered_beside_one_that_is_too_weak():
    weak = a_heated_pack(0.4, low=-40.0)
    found = next(f for f in assess(weak).findings if f.id == "too-cold:pack")
    assert found.verdict is Verdict.BREAKS
    assert any("foam" in r.label for r in found.remedies)
    assert not any("Heater" in r.label for r in found.remedies)


def test_a_pack_of_which_nobody_knows_what_the_frost_does_to_it_is_offered_a_heater_behind_its_fuse():
    """What is not known yet of the heater itself, its place and its cable, is what it costs; it hides nothing."""
    project = set_air_curve(set_air(demo("mudlark"), "coldest_c", -25.0).after, starts_c=15.0).after
    now = assess(project)
    found = next(f for f in now.findings if f.check == "missing" and "its capacity and resistance at" in f.what)
    remedy, words = next((r, w) for r, w in offered(now, found) if r.label.startswith("Heater"))
    assert "then known" in words
    assert "more not known" in words
    assert plain(remedy.label) == "Heater pad 12 V 10 W on it, fed from Fused bus 15 A, holds 5 °C"
    assert assess(remedy.change.after).measure("runtime").missing == ()
    foam = set_enclosure(project, project.concept.enclosures[0].id, insulation_m=0.012).after
    now = assess(foam)  # 5 W would do, and leave a converter of which nothing is known then: the next is shown
    found = next(f for f in now.findings if f.check == "missing" and "its capacity and resistance at" in f.what)
    assert [plain(r.label).split(" on it")[0] for r in found.remedies] == ["Heater pad 5 V 5 W", "Heater pad 12 V 10 W"]
    assert [plain(r.label).split(" on it")[0] for r, _ in offered(now, found)] == ["Heater pad 12 V 10 W"]


def test_a_missing_size_makes_it_unknown_and_all_that_shares_its_air():
    project = edits.set_part_value(boxed(), "board", "width_m", None).after
    now = assess(project)
    assert now.measure("hottest").verdict is Verdict.UNKNOWN
    assert "board: its size" in now.measure("hottest").missing
    assert {e.item.id for e in now.of(HEAT).extremes} == set()
    assert any(f.id == "warmth:board" and f.verdict is Verdict.UNKNOWN for f in now.findings)


def test_heat_of_what_cannot_be_delivered_is_not_known():
    weak = a_pack(series=1, resistance_ohm=2.0, length_m=0.1, width_m=0.05, height_m=0.02)
    project = a_project(weak, a_board(5.0), feeds=(("pack", "board"),))
    assert "the heat of what cannot be delivered" in assess(project).measure("hottest").missing
    assert assess(project).measure("hottest").verdict is Verdict.UNKNOWN


def test_margins_are_measures_and_wait_for_every_rating():
    limits = (a_limit("hottest", 5.0, "at least"), a_limit("coldest", 5.0, "at least"))
    project = boxed(0.5)
    project = project.but(brief=project.brief.but(limits=limits))
    now = assess(project)
    assert now.measure("hottest").verdict is Verdict.HOLDS
    assert now.measure("hottest").value == pytest.approx(60.0 - extreme(project).hottest_c)
    assert now.measure("coldest").value == pytest.approx(10.0, abs=0.3)  # the board works from −10 °C in air of 0 °C
    gone = edits.set_part_value(project, "board", "temperature_max_c", None).after
    assert assess(gone).measure("hottest").verdict is Verdict.UNKNOWN


def test_a_regulator_that_says_how_warm_it_gets_is_judged_by_the_air_and_by_its_junction():
    ldo = an_ldo("ldo", thermal_resistance_k_per_w=100.0, mass_kg=0.001, length_m=0.01, width_m=0.008, height_m=0.003,
                 temperature_max_c=85.0)  # fmt: skip
    project = a_project(a_pack(capacity_ah=60.0), ldo, a_load("x", 0.05, rated_v=3.3), feeds=(("pack", "ldo"), ("ldo", "x")),
                        hottest_c=40.0)  # fmt: skip
    found = extreme(project, "ldo")
    assert found.hottest_c == 40.0
    burns = assess(project).of(HEAT).losses["ldo"].most_w[0]
    assert found.junction_c == pytest.approx(40.0 + 100.0 * burns, rel=1e-3)  # JESD51: T + P·θ
    assert found.hot_margin_k == pytest.approx(min(45.0, 125.0 - found.junction_c))


def a_heated_pack(watts: float = 6.0, holds_c: float = 2.0, *, low: float = -15.0, **figures):
    pad = a_load("pad", watts / 12.0, draw="resistance", supply_min_v=5.0, mass_kg=0.02, length_m=0.1, width_m=0.05,
                 height_m=0.002)  # fmt: skip
    project = set_air_curve(boxed(0.2, low=low), starts_c=10.0).after
    project = edits.add_item(project, "all", pad).after
    project = edits.feed_from(project, "pad", "pack").after
    return set_warm(project, "pad", plate="pack", holds_c=holds_c, **figures).after


def test_a_heater_is_found_by_its_thermostat_and_pays_from_the_pack():
    cold, heated = boxed(0.2, low=-15.0), a_heated_pack()
    assert assess(cold).measure("runtime").verdict is Verdict.UNKNOWN  # nobody said what the pack does at −15 °C
    now = assess(heated)
    assert now.measure("runtime").missing == ()
    (item, shares) = now.of(HEATING).shares[0]
    assert item == "pad"
    assert 0.05 < shares[0] < 1.0
    assert extreme(heated, "pack").coldest_c == pytest.approx(2.0, abs=1e-6)
    draws = now.of(POWER).currents
    assert draws.average[draws.row["pad"], 0] == pytest.approx(0.5 * shares[0])
    warm = assess(a_heated_pack(low=5.0))
    assert now.measure("runtime").value < 0.8 * warm.measure("runtime").value
    assert warm.of(HEATING).shares[0][1] == (0.0,)


def test_a_heater_gives_what_it_gives_at_the_voltage_that_it_gets_and_nothing_that_nothing_feeds():
    """P = V²/R: 0.5 A at 12 V are 6 W, and (5/12)² of that at 5 V."""
    heated = a_heated_pack()
    plain_w = assess(heated).of(HEAT).setting.heaters[0][1].power_w
    pack = assess(heated).of(POWER).packs[0].figures
    volts = pack.open_circuit_at(0.5) - (pack.open_circuit_at(0.5) - pack.open_circuit_at(0.15))
    assert plain_w == pytest.approx(0.5 * volts**2 / 12.0, rel=0.02)
    behind = edits.add_item(heated, "all", a_buck()).after
    behind = edits.feed_from(edits.feed_from(behind, "buck", "pack").after, "pad", "buck").after
    assert assess(behind).of(HEAT).setting.heaters[0][1].power_w == pytest.approx(0.5 * 25.0 / 12.0)
    for draw, watts in (("current", 2.5), ("power", 6.0)):
        other = edits.set_part_value(behind, "pad", "load.draw", draw).after
        assert assess(other).of(HEAT).setting.heaters[0][1].power_w == pytest.approx(watts)
    loose = edits.feed_from(heated, "pad", None).after
    now = assess(loose)
    assert now.of(HEAT).setting.lacks["pad"] == "pad: what feeds it"
    assert now.measure("runtime").verdict is Verdict.UNKNOWN
    assert now.measure("coldest").verdict is Verdict.UNKNOWN


def test_wind_takes_warmth_in_the_cold_and_is_not_counted_on_in_the_warm():
    """5 + 3.86·√(v/L) outside instead of 10 W/m²K: a heater gives more, a hot board is no cooler for it."""
    windy = set_air_curve(a_heated_pack(), wind_m_s=8.0).after
    assert assess(windy).of(HEATING).shares[0][1][0] > 1.1 * assess(a_heated_pack()).of(HEATING).shares[0][1][0]
    board = set_air_curve(boxed(), wind_m_s=8.0).after
    assert extreme(board).hottest_c == extreme(boxed()).hottest_c
    day = set_air_curve(boxed(hours=24.0, low=-5.0), kind="day", wind_m_s=8.0).after
    assert [r.air.name for r in assess(day).of(HEAT).runs] == ["day and night", "day and night, windy"]


def test_more_foam_takes_less_heat_and_a_weak_heater_leaves_the_pack_unknown():
    foam = set_enclosure(a_heated_pack(), "box", insulation_m=0.03).after
    assert assess(foam).of(HEATING).shares[0][1][0] < 0.6 * assess(a_heated_pack()).of(HEATING).shares[0][1][0]
    weak = assess(a_heated_pack(0.5))
    assert weak.measure("runtime").verdict is Verdict.UNKNOWN
    assert any("its capacity and resistance at −" in m for m in weak.measure("runtime").missing)
    lost = edits.set_part_value(a_heated_pack(), "pad", "load.active_a", None).after
    assert assess(lost).measure("runtime").verdict is Verdict.UNKNOWN
    nothing = set_warm(a_heated_pack(), "pad", plate="").after
    assert any("what it warms" in m for m in assess(nothing).measure("runtime").missing)


@settings(max_examples=20, deadline=None)
@given(st.floats(0.0, 6.0), st.floats(0.0, 0.04), st.floats(-20.0, 10.0), st.floats(0.0, 40.0))
def test_nothing_is_colder_than_the_coldest_air_nor_warmer_than_what_burns_can_make_it(watts, foam, low, span):
    project = set_enclosure(boxed(watts, low=low, high=low + span), "box", insulation_m=foam).after
    for one in assess(project).of(HEAT).extremes:
        assert one.coldest_c >= low - 1e-6
        assert one.hottest_c >= low + span - 1e-6


def test_the_air_follows_day_chamber_or_what_was_typed():
    project = boxed(0.0, hours=24.0, low=-5.0, high=45.0)
    day = assess(set_air_curve(project, kind="day", begins_h=6.0).after).of(HEAT).runs[0]
    assert day.air.outside_c[0] == pytest.approx(-5.0, abs=0.2)
    assert day.times_s[int(day.air.outside_c.argmax())] / 3600 == pytest.approx(9.0, abs=0.1)  # 15 o'clock
    ramp = assess(set_air_curve(project, kind="ramp", rate_k_per_min=1.5, hold_s=3 * 3600.0).after).of(HEAT).runs[0]
    steps = np.diff(ramp.air.outside_c) / np.diff(ramp.times_s) * 60
    assert steps.max() == pytest.approx(1.5, rel=1e-6)  # −5 to 45 °C at 1.5 °C a minute, held three hours
    assert (ramp.air.outside_c == 45.0).sum() * (ramp.times_s[1] - ramp.times_s[0]) == pytest.approx(
        3 * 3 * 3600, rel=0.01
    )
    typed = assess(type_air(project, "0 h 10\n2 h −4\n4 h 20").after).of(HEAT).runs[0]
    assert np.interp(3600.0, typed.times_s, typed.air.outside_c) == pytest.approx(3.0, abs=0.2)
    for text in ("", "soon 5", "2 h 5\n1 h 6", "1 h"):
        with pytest.raises(ProjectError):
            type_air(project, text)


def test_edits_refuse_what_makes_no_sense():
    project = boxed()
    with pytest.raises(ProjectError, match="fixed to itself"):
        set_warm(project, "board", plate="board")
    with pytest.raises(ProjectError):
        set_warm(project, "board", enclosure="attic")
    with pytest.raises(ProjectError):
        set_enclosure(project, "box", wall_m=-1.0)
    away = edits.remove_item(project, "board").after
    assert [w.item for w in away.concept.warm_parts] == ["pack"]


def test_the_steady_heat_of_a_lump_is_its_power_over_what_it_sheds():
    heat = assess(boxed()).of(HEAT)
    n = heat.setting.items["board"]
    assert heat.setting.lumps.capacity_j_per_k[n] == pytest.approx(0.05 * SOLIDS_J_PER_KG_K)
    assert heat.mode_shares.sum(axis=1) == pytest.approx(np.ones(len(heat.times_s)))


def test_of_a_part_that_lies_flat_the_covered_face_sheds_nothing():
    """10 W/m²K on what is bare: the face that lies on the plate is taken off."""
    hot = a_load("hot", 0.8, draw="power", mass_kg=0.2, **SIDES)
    project = a_project(a_pack(), hot, a_board(0.5), feeds=(("pack", "hot"), ("pack", "board")))
    for mount, bare in (("free", AREA_M2), ("flat", AREA_M2 - 0.1 * 0.05), ("standoffs", AREA_M2)):
        setting = assess(set_warm(project, "board", plate="hot", mount=mount).after).of(HEAT).setting
        assert setting.lumps.outside_w_per_k[setting.items["board"]] == pytest.approx(10.0 * bare), mount


@settings(max_examples=40, deadline=None)
@given(st.floats(0.0, 30.0), st.floats(-20.0, 20.0), st.floats(0.0, 40.0), st.floats(0.0, 12.0),
       st.sampled_from(["steady", "day", "ramp", "typed"]), st.one_of(st.none(), st.floats(-10.0, 60.0)))  # fmt: skip
def test_what_needs_no_step_lies_outside_of_every_step(watts, low, span, wind, kind, starts_c):
    """And so a part that it clears is never told to be too hot or too cold."""
    project = boxed(watts, hours=6.0, low=low, high=low + span)
    project = set_air_curve(project, kind=kind, wind_m_s=wind, starts_c=starts_c).after
    if kind == "typed":
        project = type_air(project, f"0 h {low:.1f}\n2 h {low + span:.1f}").after
    now = assess(project)
    heat = now.of(HEAT)
    assert len(heat.bounds) == len(heat.extremes)
    for bound, found in zip(heat.bounds, heat.extremes, strict=True):
        assert bound.hottest_c >= found.hottest_c - 1e-6
        assert bound.coldest_c <= found.coldest_c + 1e-6
        if found.junction_c is not None:
            assert bound.junction_c >= found.junction_c - 1e-6
    if heat.clears(5.0):
        assert all(m is None or m >= 5.0 for e in heat.extremes for m in (e.hot_margin_k, e.cold_margin_k))


def test_a_heater_is_counted_on_at_its_most_where_no_step_is_made():
    project = a_heated_pack(40.0, 30.0, low=-5.0)
    heat = assess(project.but(brief=project.brief.but(hottest_c=0.0))).of(HEAT)
    assert next(e for e in heat.extremes if e.item.id == "pack").hottest_c > 20.0
    for bound, found in zip(heat.bounds, heat.extremes, strict=True):
        assert bound.hottest_c >= found.hottest_c - 1e-6
    assert max(b.hottest_c for b in heat.bounds) > 30.0
