"""Solenoids: the force of an air gap against µ₀·A·(N·I)²/2g² and quad; weakest at the beginning of the stroke."""

import math

import pytest
from scipy.integrate import quad, solve_ivp

import edits
from builders import a_pack, a_part, a_project
from wired_union.catalogue.parts import of_kind
from wired_union.kernel.results import Verdict
from wired_union.physics.solenoid import gap_force, solenoid_force, stroke_work_j
from wired_union.project.model import Load, Thrust
from wired_union.subjects import assess
from wired_union.subjects.motion.gives_times import MOTION

CLOSED, OPEN, STROKE = 15.0, 1.5, 0.010


def test_the_force_is_that_of_an_air_gap():
    """F = µ₀·A·(N·I)²/2g² with a gap g = x + g₀: 400 turns, 1 A, 1.2 cm², g₀ 0.8 mm."""
    gap0, area, turns = 0.8e-3, 1.2e-4, 400.0

    def force(x):
        return 4e-7 * math.pi * area * turns**2 / (2 * (x + gap0) ** 2)

    for x in (0.0, 0.001, 0.004, 0.01):
        assert gap_force(force(0.0), force(0.01), 0.01, x) == pytest.approx(force(x), rel=1e-9)


def test_the_work_is_the_integral_of_the_force():
    work, _ = quad(lambda x: gap_force(CLOSED, OPEN, STROKE, x), 0, 0.006)
    assert stroke_work_j(CLOSED, OPEN, STROKE, 0.006) == pytest.approx(work, rel=1e-9)


def test_the_time_is_near_that_of_the_way_in_time():
    """m·x'' = F(x) − F_load by solve_ivp; the mean of what is left over gives it within a third, and never less than half."""

    def slope(_, y):
        return [y[1], (gap_force(CLOSED, OPEN, STROKE, max(STROKE - y[0], 0.0)) - 0.5) / 0.02]

    def there(_, y):
        return y[0] - STROKE

    there.terminal = True
    run = solve_ivp(slope, (0, 1), [0.0, 0.0], events=there, rtol=1e-9)
    assert 0.5 < solenoid_force(CLOSED, OPEN, STROKE, STROKE, 0.5, 0.02, 0.0).stroke_time_s / run.t[-1] < 1.34


def a_bolt(force_n: float, stroke_m: float = 0.01, volts: int = 4, **thrust):
    coil = Load(
        supply_min_v=8.0, supply_max_v=16.0, rated_v=12.0, draw="resistance", idle_a=0.0, active_a=1.0, peak_a=1.0
    )
    figures = {"stroke_m": 0.01, "max_force_n": CLOSED, "open_force_n": OPEN, "rise_time_s": 0.01, **thrust}
    solenoid = a_part("bolt", "solenoid", load=coil, thrust=Thrust(**figures))
    project = a_project(a_pack(series=volts), solenoid, feeds=(("pack", "bolt"),))
    return edits.add_load(project, "screw", "Bolt", actuator="bolt", force_n=force_n, stroke_m=stroke_m).after


def result(project):
    return assess(project).of(MOTION).loads[0]


def test_a_force_that_it_has_only_when_closed_does_not_hold():
    """15 N closed, 1.5 N at 10 mm: 8 N over the whole stroke break, over half a millimetre they hold."""
    assert result(a_bolt(8.0)).verdict is Verdict.BREAKS
    assert result(a_bolt(1.0)).verdict is Verdict.HOLDS
    assert result(a_bolt(8.0, stroke_m=0.0005)).verdict is Verdict.HOLDS


def test_a_lower_voltage_pulls_with_its_square():
    full, low = (result(a_bolt(1.0, volts=v)) for v in (4, 3))
    rows = [{r.name: r.text for r in x.rows}["force when closed"] for x in (full, low)]
    assert rows[0].startswith("15")
    assert float(rows[1].split()[0]) == pytest.approx(15 * (3 * 3.2 / 12) ** 2, rel=0.08)


@pytest.mark.parametrize("gone", ["open_force_n", "max_force_n", "stroke_m"])
def test_what_is_not_given_is_asked_for(gone):
    found = result(edits.set_part_value(a_bolt(1.0), "bolt", f"thrust.{gone}", None).after)
    assert found.verdict is Verdict.UNKNOWN
    assert any("bolt: its" in m for m in found.missing)


def test_no_words_of_a_motor_are_said_of_it():
    found = result(a_bolt(1.0))
    said = " ".join([*found.notes, *(f"{r.name} {r.text}" for r in found.rows)])
    assert "motor" not in said
    assert "thread" not in said


def test_the_catalogues_solenoids_are_weakest_when_open():
    for part in of_kind("solenoid"):
        assert part.thrust.open_force_n < part.thrust.max_force_n, part.id
