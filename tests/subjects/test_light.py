"""Charging: energy by hand, cells that must not be charged, cold, months of a bat counter with a panel and frost nights."""

import numpy as np
import pytest
from scipy.integrate import solve_ivp

import edits
from builders import a_limit, a_load, a_pack, a_part, a_project
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered
from wired_union.physics.sun import panel_day
from wired_union.project.errors import ProjectError
from wired_union.project.model import Panel
from wired_union.subjects import assess
from wired_union.subjects.power.light.edits import add_inlet, remove_inlet, set_inlet, set_panel, set_site
from wired_union.subjects.power.light.run import TAPER, WEEK
from wired_union.subjects.power.node import LIGHT, ODDS, POWER
from wired_union.subjects.power.trace import mission_trace
from wired_union.subjects.power.warmth.edits import set_air_curve

STORED = 0.97  # of what is put into lithium cells: common practice


def a_panel(watts: float = 5.0):
    return a_part("panel", "solar panel", panel=Panel(peak_power_w=watts, peak_power_v=18.0))


def sunny(load_w: float = 0.5, watts: float = 5.0, *, chemistry: str = "li-ion", series: int = 3, hours: float = 24.0,
          repeats: int = 1, capacity_ah: float = 2.0, **brief):  # fmt: skip
    project = a_project(
        a_pack(series=series, capacity_ah=capacity_ah, chemistry=chemistry, resistance_ohm=0.001),
        a_load("node", load_w / 12.0, draw="power"), a_panel(watts), feeds=(("pack", "node"),), hours=hours, repeats=repeats,
        **brief)  # fmt: skip
    project = set_site(project, latitude_deg=50.0, day_of_year=172, weather="clear").after
    return set_panel(project, "panel", charges="pack", tilt_deg=30.0).after


def day_of(project):
    return assess(project).of(LIGHT).days[0]


def test_a_day_is_what_the_panel_gives_through_its_charger_less_what_the_load_takes():
    day = day_of(sunny())
    assert day.in_wh == pytest.approx(panel_day(5.0, 50.0, 172, 30.0).energy_wh * 0.85, rel=1e-6)
    by_itself = 2.0 * 3.6 * 3 * 0.02 / 730 * 24  # a fiftieth of its energy a month: common practice
    assert day.out_wh == pytest.approx(0.5 * 24 + by_itself, rel=1e-3)
    assert assess(sunny()).measure("energy-balance").value == pytest.approx(day.in_wh * STORED - day.out_wh)
    half = set_panel(sunny(), "panel", shade=0.5).after
    assert day_of(half).in_wh == pytest.approx(day.in_wh / 2)
    assert day_of(edits.set_count(sunny(), "panel", 3).after).in_wh == pytest.approx(3 * day.in_wh)


def test_winter_weather_tilt_and_latitude_count():
    project = sunny()
    winter = set_site(project, day_of_year=355).after
    assert day_of(winter).in_wh < 0.5 * day_of(project).in_wh
    assert day_of(set_site(winter, weather="overcast").after).in_wh < 0.4 * day_of(winter).in_wh
    assert day_of(set_panel(winter, "panel", tilt_deg=70.0).after).in_wh > 1.2 * day_of(winter).in_wh
    south = set_site(set_panel(project, "panel", azimuth_deg=0.0).after, latitude_deg=-50.0, day_of_year=355).after
    assert day_of(south).in_wh == pytest.approx(day_of(project).in_wh, rel=0.05)  # the seasons change sides


def test_time_to_full_and_missions_a_day():
    project = sunny()
    plugged = add_inlet(project, "Wall", power_w=10.0, hours_a_day=2.0).after
    assert plugged.concept.inlets[0].charges == "pack"
    day = day_of(plugged)
    assert day.in_wh == pytest.approx(day_of(project).in_wh + 20.0)
    assert assess(plugged).measure("time-to-full").value == pytest.approx(
        day.usable_wh / (10.0 * STORED) * 3600 * TAPER
    )
    once = set_site(sunny(hours=2.0), missions_a_day=1.0).after
    assert day_of(once).out_wh == pytest.approx(0.5 * 2, rel=0.02)
    assert day_of(sunny(hours=2.0)).out_wh == pytest.approx(12.0, rel=2e-3)
    gone = remove_inlet(plugged, plugged.concept.inlets[0].id).after
    assert day_of(gone).in_wh == pytest.approx(day_of(project).in_wh)


def test_a_day_that_takes_more_is_told_with_what_would_make_it_even():
    project = set_site(sunny(2.0), day_of_year=355).after
    now = assess(project)
    found = next(f for f in now.findings if f.check == "balance")
    day = day_of(project)
    assert found.verdict is Verdict.TIGHT
    assert day.neutral_factor == pytest.approx(day.out_wh / (day.in_wh * STORED))
    for remedy, _ in offered(now, found):
        assert now.again(remedy.change.after).measure("energy-balance").value > now.measure("energy-balance").value
    limited = project.but(brief=project.brief.but(limits=(a_limit("energy-balance", 0.0, "at least"),)))
    assert assess(limited).measure("energy-balance").verdict is Verdict.BREAKS
    even = edits.set_count(limited, "panel", -(-day.neutral_factor // 1).__int__()).after
    assert assess(even).measure("energy-balance").value >= 0


def test_what_must_not_be_charged_breaks():
    primary = assess(sunny(chemistry="alkaline", series=8))
    assert any(f.id == "charges:pack" and f.verdict is Verdict.BREAKS and f.hard for f in primary.findings)
    wall = add_inlet(sunny(), "Wall", power_w=5.0, made_for="lifepo4").after
    assert any(f.title == "Wall is made for other cells" for f in assess(wall).hard_breaks)
    fits = set_inlet(wall, wall.concept.inlets[0].id, made_for="li-ion").after
    assert not any(f.check == "charges" for f in assess(fits).findings)
    strong = set_inlet(fits, fits.concept.inlets[0].id, power_w=50.0).after
    assert next(f for f in assess(strong).findings if f.check == "charge-rate").verdict is Verdict.TIGHT
    said = edits.set_part_value(strong, "pack", "pack.max_charge_a", 1.0).after
    assert next(f for f in assess(said).findings if f.check == "charge-rate").verdict is Verdict.BREAKS


def test_lithium_takes_nothing_below_freezing_and_other_cells_do():
    cold = sunny(coldest_c=-8.0, hottest_c=-1.0)
    assert day_of(cold).in_wh == 0.0
    assert day_of(cold).blocked_h > 10
    assert day_of(sunny(chemistry="nimh", series=10, coldest_c=-8.0, hottest_c=-1.0)).in_wh > 0
    frost = set_air_curve(sunny(coldest_c=-6.0, hottest_c=10.0), kind="day", begins_h=0.0).after
    assert 0 < day_of(frost).in_wh < day_of(sunny()).in_wh
    assert 0 < day_of(frost).blocked_h < 10
    assert assess(frost).measure("energy-balance").verdict is Verdict.UNKNOWN  # what the cells do at −6 °C
    told = edits.set_part_value(frost, "pack", "pack.measured_at_c", -10.0).after
    assert any(f.check == "cold-light" for f in assess(told).findings)


def test_months_of_a_counter_with_a_panel_and_frost_nights():
    """Sixty days: energy is kept day by day, and a week without sun is seen in the charge."""
    project = sunny(0.1, 9.0, chemistry="nimh", series=6, repeats=60, capacity_ah=2.4, coldest_c=-6.0, hottest_c=8.0)
    project = set_air_curve(set_site(project, day_of_year=355, weather="mixed").after, kind="day").after
    light = assess(project).of(LIGHT)
    days, charge = light.charge_over(light.days[0])
    assert days[-1] == 60
    day = light.days[0]
    clear = (charge > 1e-9) & (charge < 1 - 1e-9)
    week = charge[(days >= 60 // 2 - WEEK // 2) & (days <= 60 // 2 - WEEK // 2 + WEEK)]
    assert week[0] - week.min() == pytest.approx(
        WEEK * (day.out_wh - day.dark_wh * day.stored) / day.usable_wh, rel=0.15
    )
    for n in np.flatnonzero(clear[:-96] & clear[96:])[:5]:
        if not clear[n : n + 96].all():
            continue
        gained = (charge[n + 96] - charge[n]) * day.usable_wh
        assert gained == pytest.approx(day.balance_wh, abs=1e-6) or gained == pytest.approx(
            day.dark_wh * day.stored - day.out_wh, abs=1e-6
        )


def test_what_is_missing_makes_it_unknown_and_wrong_edits_are_refused():
    project = sunny()
    nowhere = project.but(brief=project.brief.but(site=project.brief.site.but(latitude_deg=None)))
    measure = assess(nowhere).measure("energy-balance")
    assert (measure.value, measure.verdict) == (None, Verdict.UNKNOWN)
    assert "the latitude at which it stands" in measure.missing
    assert assess(a_project(a_pack())).measure("energy-balance").missing[-1] == "what charges a pack"
    with pytest.raises(ProjectError, match="no solar panel"):
        set_panel(project, "node", charges="pack")
    with pytest.raises(ProjectError, match="charges a pack"):
        set_panel(project, "panel", charges="node")
    with pytest.raises(ProjectError):
        set_site(project, latitude_deg=95.0)
    gone = edits.remove_item(project, "pack").after
    assert gone.concept.sun_panels[0].charges == ""
    assert assess(gone).measure("energy-balance").verdict is Verdict.UNKNOWN


def winter(**more):
    """A node on NiMH cells, in December at 50° north, of which the panel pays a part."""
    project = sunny(0.1, 6.0, chemistry="nimh", series=10, repeats=60, **more)
    project = edits.set_part_value(project, "pack", "pack.self_discharge_a_month", 0.2).after
    return set_site(project, day_of_year=355, weather="clear").after


def test_the_runtime_counts_on_an_overcast_sky_day_after_day_as_the_integrator_has_it():
    """From the second day on: s′ = −(used + lost − gained) a day; seven tenths of what comes is stored (NiMH)."""
    project = winter()
    day, pack = day_of(project), assess(project).of(POWER).packs[0]
    assert day.dark_wh < 0.3 * day.in_wh  # however clear its usual days are
    used, lost = 0.85 / (pack.bare_s / 3600), 0.2 / 730
    gained = day.dark_wh * 0.70 / 24 / (2.0 * 12.0)

    def empty(_, s):
        return s[0] - 0.15

    empty.terminal = True
    sol = solve_ivp(
        lambda t, _: [-(used + (lost - gained if t > 24 else 0.0))], (0, 1e5), [1.0], events=empty, max_step=5.0
    )
    runtime_h = assess(project).measure("runtime").value / 3600
    assert runtime_h == pytest.approx(float(sol.t_events[0][0]), rel=5e-3)
    assert (
        runtime_h
        > 1.1 * assess(project.but(concepts=(project.concept.but(sun_panels=()),))).measure("runtime").value / 3600
    )
    some = list(assess(project).of(ODDS).lots(2000))[-1]
    assert sorted(some.runtime_s)[1000] / 3600 == pytest.approx(runtime_h, rel=0.05)


def test_where_an_overcast_day_pays_for_itself_it_never_ends_and_says_so():
    lasts = (a_limit("runtime", 90 * 86_400.0, "at least"),)
    now = assess(winter(limits=lasts))
    assert now.measure("runtime").verdict is Verdict.BREAKS
    many = assess(edits.set_count(winter(limits=lasts), "panel", 8).after)
    assert many.measure("runtime").value == float("inf")
    assert many.measure("runtime").verdict is Verdict.HOLDS
    assert "overcast" in next(f for f in many.findings if f.check == "runtime").what
    assert mission_trace(many.of(POWER), many.of(POWER).packs[0]) is not None


def test_what_is_not_known_of_the_sun_is_not_counted_on():
    project = winter()
    bare = assess(project.but(concepts=(project.concept.but(sun_panels=()),))).measure("runtime").value
    assert assess(set_site(project, latitude_deg=None).after).measure("runtime").value == bare
    assert assess(set_panel(project, "panel", charges="").after).measure("runtime").value == bare
    frost = sunny(0.1, 6.0, repeats=60, coldest_c=-6.0)
    frost = edits.set_part_value(frost, "pack", "pack.measured_at_c", -10.0).after
    frost = edits.set_part_value(frost, "pack", "pack.self_discharge_a_month", 0.02).after
    dark = assess(frost.but(concepts=(frost.concept.but(sun_panels=()),))).measure("runtime").value
    assert assess(frost).measure("runtime").value == dark  # lithium below freezing takes nothing


def test_self_discharge_that_decides_is_asked_for_although_the_sun_would_hide_it():
    """Endless with the sun as long as nothing is lost; with twice what NiMH typically loses it ends before 90 days."""
    lasts = (a_limit("runtime", 90 * 86_400.0, "at least"),)
    project = winter(limits=lasts)
    project = edits.set_part_value(project, "pack", "pack.self_discharge_a_month", None).after
    pack = assess(project).of(POWER).packs[0]
    used = (1 - pack.discharge.charge) / (pack.bare_s / 3600)
    watts = 6.0 * (used + 1e-4) / pack.figures.gained_per_h
    project = edits.set_part_value(project, "panel", "panel.peak_power_w", watts).after
    measure = assess(project).measure("runtime")
    assert measure.value == float("inf")
    assert measure.verdict is Verdict.UNKNOWN
    assert "loses by itself" in measure.missing[0]
    little = edits.set_part_value(project, "pack", "pack.self_discharge_a_month", 0.01).after
    assert assess(little).measure("runtime").verdict is Verdict.HOLDS
