"""Motors that are blocked in a mode: their windings against the integrator, by hand, and with what keeps them cool."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

import edits
from builders import a_driver, a_gearmotor, a_pack, a_project, plain
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered
from wired_union.physics.heat import winding_peak_k
from wired_union.project.change import with_concept
from wired_union.project.model import Phase
from wired_union.subjects import assess
from wired_union.subjects.power.node import HEAT
from wired_union.subjects.power.warmth.windings import WINDING_LIMIT_C, hottest_c, times_blocked, winding_of

SIDES = {"length_m": 0.06, "width_m": 0.025, "height_m": 0.025}


@settings(max_examples=15, deadline=None)
@given(st.floats(5.0, 200.0), st.floats(1.0, 300.0), st.floats(5.0, 60.0))
def test_a_winding_that_is_blocked_again_and_again_comes_to_the_integrators_peak(on_s, rest_s, tau):
    heat_w, ohm = 20.0, 4.0
    now, peak = 0.0, 0.0
    for _ in range(int(8 * tau / (on_s + rest_s)) + 3):
        for lasts, watts in ((on_s, heat_w), (rest_s, 0.0)):
            end = solve_ivp(lambda _, t, w=watts: (w * ohm - t) / tau, (0, lasts), [now], rtol=1e-9, atol=1e-9).y[0, -1]
            peak, now = max(peak, float(end)), float(end)
    assert winding_peak_k(heat_w, ohm, tau, on_s, rest_s) == pytest.approx(peak, rel=2e-3)
    assert winding_peak_k(heat_w, ohm, tau, on_s, math.inf) == pytest.approx(80.0 * (1 - math.exp(-on_s / tau)))
    assert winding_peak_k(heat_w, ohm, tau, on_s, 0.0) == pytest.approx(80.0)
    assert winding_peak_k(heat_w, ohm, tau, 0.0, 0.0) == 0.0


def pushing(on_s=30.0, rest_s=3600.0, repeats=2, *, duty=1.0, sides=None, **driver):
    """A motor that pushes against a stop for a while, and rests."""
    motor = a_gearmotor(mass_kg=0.2, temperature_max_c=100.0, **(SIDES if sides is None else sides))
    project = a_project(
        a_pack(capacity_ah=60.0), a_driver(**driver), motor, feeds=(("pack", "driver"), ("driver", "motor")))  # fmt: skip
    project = edits.set_use(project, "work", "motor", "peak", duty).after
    project = edits.add_mode(project, "Rest").after
    project = edits.set_use(project, "rest", "motor", "off").after
    mission = project.concept.mission.but(
        phases=(Phase(mode="work", duration_s=on_s), Phase(mode="rest", duration_s=rest_s)), repeats=repeats)  # fmt: skip
    return with_concept(project, mission=mission)


def finding(project):
    return next((f for f in assess(project).findings if f.check == "winding"), None)


def test_a_winding_that_is_blocked_for_too_long_breaks_with_figures_by_hand():
    """P = V²/R with R = 12 V/2.4 A; to the can 0.4 of what the can has to the air, 12 % of the mass is copper."""
    project = pushing(120.0)
    found = finding(project)
    assert found.verdict is Verdict.BREAKS
    assert found.hard
    area = 2 * (0.06 * 0.025 + 0.025 * 0.025 + 0.025 * 0.06)
    ohm, copper = 0.4 / (10 * area), 0.12 * 0.2 * 385.0
    extreme = next(e for e in assess(project).of(HEAT).extremes if e.item.id == "motor")
    rise = 14.6**2 / 5.0 * ohm * -math.expm1(-120.0 / (ohm * copper))
    rise /= -math.expm1(-3720.0 / (ohm * copper))
    assert f"its winding comes to {round(extreme.hottest_c + rise):d} °C" in plain(found.what)
    assert "Blocked for 2 min at a time in Work" in plain(found.what)
    assert finding(pushing(2.0)) is None
    assert finding(edits.set_use(project, "work", "motor", "active").after) is None


def test_what_is_offered_keeps_it_cool_and_a_driver_that_limits_burns_less():
    project = pushing(120.0)
    now = assess(project)
    remedies = [r for r, _ in offered(now, finding(project)) if "no longer" in r.label]
    assert len(remedies) == 1
    left = finding(remedies[0].change.after)
    assert left is None or left.verdict is Verdict.TIGHT
    held = pushing(120.0, current_limit_a=0.4)
    assert finding(held) is None  # 0.4² · 5 Ω: less than a watt
    loose = winding_of(a_gearmotor_item(project), 14.6)
    assert winding_of(a_gearmotor_item(project), 14.6, 1.46).heat_w == pytest.approx(loose.heat_w / 4)


def a_gearmotor_item(project):
    return next(i for i in project.concept.items if i.id == "motor")


def test_without_its_size_it_is_not_known_and_a_can_that_is_too_hot_leaves_no_room():
    silent = finding(pushing(sides={}))
    assert silent.verdict is Verdict.UNKNOWN
    assert finding(pushing(1.0, sides={})).verdict is Verdict.UNKNOWN
    no_figure = edits.set_part_value(pushing(120.0), "motor", "motor.stall_torque_n_m", None).after
    assert finding(no_figure).verdict is Verdict.UNKNOWN
    always = finding(pushing(3600.0, 1.0, 5))
    assert always.verdict is Verdict.BREAKS
    own = winding_of(a_gearmotor_item(pushing()), 12.0)
    assert hottest_c(own, 40.0, 1e9, 0.0) == pytest.approx(40.0 + own.heat_w * own.resistance_k_per_w)
    assert WINDING_LIMIT_C == 130.0


def test_how_long_it_is_blocked_and_rests_over_phases_that_follow_and_come_round():
    project = pushing(30.0, 100.0, 3)
    assert times_blocked(project.concept, "motor") == (30.0, 100.0, "work")
    assert times_blocked(pushing(30.0, 100.0, 1).concept, "motor") == (30.0, math.inf, "work")
    assert times_blocked(pushing(30.0, 100.0, 3, duty=0.5).concept, "motor") == (15.0, 115.0, "work")
    assert times_blocked(project.concept, "pack") is None
    phases = tuple(Phase(mode=m, duration_s=d) for m, d in (
        ("work", 10.0), ("rest", 50.0), ("work", 20.0), ("work", 15.0), ("rest", 40.0)))  # fmt: skip
    several = with_concept(project, mission=project.concept.mission.but(phases=phases))
    assert times_blocked(several.concept, "motor") == (35.0, 40.0, "work")
    assert np.isinf(times_blocked(pushing(1.0, 1.0, 1).concept, "motor")[1])
