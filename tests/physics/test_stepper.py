"""Steppers: torque over speed against the two windings integrated in time, and what they take from the supply."""

import math

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from builders import a_driver, a_load, a_pack, a_part, a_project
from wired_union.catalogue.parts import of_kind
from wired_union.catalogue.physical_sense import problems
from wired_union.kernel.results import Verdict
from wired_union.physics.stepper import stepper_constants, stepper_torque
from wired_union.project.model import Load, Stepper
from wired_union.subjects import assess
from wired_union.subjects.power.gives import POWER

FIGURES = {"coil_current_a": 1.7, "coil_resistance_ohm": 1.65, "coil_inductance_h": 0.0032, "holding_torque_n_m": 0.48,
           "full_step_deg": 1.8}  # fmt: skip
MOTOR = stepper_constants(*FIGURES.values())


def a_stepper(name="stepper", **figures):
    load = {"supply_min_v": 8.0, "supply_max_v": 36.0, "rated_v": 12.0, "draw": "power", "idle_a": 0.2, "active_a": 0.88,
            "peak_a": 1.2, **figures}  # fmt: skip
    return a_part(name, "stepper", load=Load(**load), stepper=Stepper(**FIGURES))


def on_a_driver(driver, *steppers):
    pairs = (("pack", "driver"), *(("driver", s.id) for s in steppers))
    return a_project(a_pack(), driver, *steppers, feeds=pairs)


def findings(project):
    return {f.id: f for f in assess(project).findings}


def torque_in_time(volts: float, speed: float, lead: float) -> float:
    """Mean torque of both windings at one load angle: L·di/dt = V·cos − R·i − k·ω·cos, by solve_ivp to steady state."""
    k = 0.48 / math.sqrt(2) / 1.7
    electrical = 50 * speed

    def slope(t, i):
        angle = np.array([electrical * t, electrical * t - math.pi / 2])
        return (volts * np.cos(angle + lead) - 1.65 * i - k * speed * np.cos(angle)) / 0.0032

    period = 2 * math.pi / electrical
    settled = 9 * 0.0032 / 1.65
    times = settled + np.linspace(0, period, 200, endpoint=False)
    run = solve_ivp(slope, (0, times[-1]), [0.0, 0.0], t_eval=times, rtol=1e-6, atol=1e-7)
    angle = np.array([electrical * times, electrical * times - math.pi / 2])
    return float((k * np.cos(angle) * run.y).sum(axis=0).mean())


@pytest.mark.parametrize("speed", [60.0, 100.0, 150.0])
def test_torque_over_speed_is_the_best_load_angle_of_both_windings(speed):
    found = max(torque_in_time(12.0, speed, lead) for lead in np.radians(np.arange(30, 120, 4)))
    assert found < MOTOR.low_speed_n_m
    assert MOTOR.torque_at(12.0, speed) == pytest.approx(found, rel=2e-3)


def test_at_low_speed_it_gives_seven_tenths_of_its_holding_torque():
    """Common practice: 70 % of the holding torque, √½, one winding after the other at its rated current."""
    assert MOTOR.stall_torque_at(12.0) == pytest.approx(0.48 / math.sqrt(2))
    assert MOTOR.torque_at(24.0, 10.0) == MOTOR.torque_at(12.0, 10.0)


def test_twice_the_volts_carry_the_torque_to_about_twice_the_speed():
    """Common practice: the corner speed follows the supply voltage."""
    low, high = (MOTOR.speed_at(v, 0.3) for v in (12.0, 24.0))
    assert high / low == pytest.approx(2.0, rel=0.25)
    assert MOTOR.torque_at(12.0, low) == pytest.approx(0.3, rel=1e-9)
    assert MOTOR.speed_at(12.0, 0.4) == 0.0


def test_the_supply_gives_what_the_windings_burn_not_their_current():
    """2·I²·R = 2 · 1.7² · 1.65 = 9.537 W: 0.795 A from 12 V, not 3.4 A."""
    held = stepper_torque(12.0, *FIGURES.values(), 0.0)
    assert held.supply_power_w == pytest.approx(9.537)
    assert held.supply_current_a == pytest.approx(0.79475)


def test_a_driver_holds_the_current_of_each_winding():
    found = findings(on_a_driver(a_driver(channels=2, channel_current_a=1.5, total_current_a=6.0), a_stepper()))
    assert (
        found["driver:driver"].what.replace("\u202f", " ") == "1.7 A of 1.5 A on a channel in each winding of stepper."
    )
    total = findings(on_a_driver(a_driver(channels=2, channel_current_a=3.0, total_current_a=3.0), a_stepper()))
    assert total["driver-sum:driver"].what.replace("\u202f", " ").startswith("3.4 A of 3 A together")


def test_two_steppers_do_not_share_two_channels():
    found = findings(on_a_driver(a_driver(channels=2, total_current_a=None), a_stepper("one"), a_stepper("two")))
    assert found["driver:driver"].breaks_hard
    assert found["driver:driver"].what == "4 channels are wanted and there are 2."


def test_the_current_of_its_windings_is_asked_for():
    bare = a_stepper().but(stepper=Stepper(holding_torque_n_m=0.4))
    assert findings(on_a_driver(a_driver(), bare))["rating:stepper"].verdict is Verdict.UNKNOWN


def test_a_driver_that_limits_holds_a_start_back():
    """A motor of 9 A stall on a driver that holds 3 A starts with 3 A."""
    motor = a_load("motor", 0.5, startup_a=9.0, peak_a=9.0)
    free = assess(on_a_driver(a_driver(channel_current_a=20.0, total_current_a=40.0), motor)).of(POWER)
    held = assess(on_a_driver(a_driver(current_limit_a=3.0), motor)).of(POWER)
    assert free.most("motor", "current_a")[0] == pytest.approx(9.0, rel=0.2)
    assert held.most("motor", "current_a")[0] == pytest.approx(3.0)


def test_the_catalogues_steppers_take_what_their_windings_burn():
    for part in of_kind("stepper"):
        assert part.stepper.coil_current_a, part.id
        assert not list(problems(part)), part.id
    wrong = a_stepper(active_a=3.4)
    assert any("that of its windings" in p.text for p in problems(wrong))
    assert any("its windings burn" in p.text for p in problems(a_stepper(active_a=0.4)))
