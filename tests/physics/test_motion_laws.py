"""Laws of motion that hold for any figures: what goes in comes out, what is doubled halves."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wired_union.physics.atmosphere import descent_rate, standard_atmosphere
from wired_union.physics.method import MethodError
from wired_union.physics.methods import find_method
from wired_union.physics.motor import dc_motor, motor_constants
from wired_union.physics.screw import euler_buckling, leadscrew
from wired_union.physics.stored_energy import spring_energy, tank_shot
from wired_union.physics.wheel import drive_torque, step_climb
from wired_union.subjects.motion.spiral import iterate


def between(low, high):
    return st.floats(low, high, allow_nan=False)


MOTORS = st.builds(
    lambda v, w, i, share, k: {"rated_voltage_v": v, "no_load_speed_rad_s": w, "stall_current_a": i,
                               "no_load_current_a": i * share, "stall_torque_n_m": k * v * i * (1 - share) ** 2 / w},
    between(3, 30), between(1, 500), between(0.5, 30), between(0.005, 0.2), between(0.3, 1.0),
)  # fmt: skip


@given(MOTORS, between(0.3, 1.2), between(0, 0.95))
def test_energy_in_is_energy_out_and_losses(figures, volts_share, load_share):
    """V·I = T·ω + I²R + what the idle current and the gear burn, none of it negative."""
    m = motor_constants(**figures)
    volts = figures["rated_voltage_v"] * volts_share
    stall = m.stall_torque_at(volts)
    if stall <= 0:
        return
    point = dc_motor(volts, **figures, load_torque_n_m=stall * load_share)
    winding = point.current_a**2 * m.resistance_ohm
    rest = point.electrical_power_w - point.mechanical_power_w - winding
    assert rest >= -1e-9 * point.electrical_power_w
    idle = m.volts_s_per_rad * point.speed_rad_s * m.no_load_current_a
    gear = (m.volts_s_per_rad - m.torque_n_m_per_a) * point.speed_rad_s * (point.current_a - m.no_load_current_a)
    assert rest == pytest.approx(idle + gear, abs=1e-9 * point.electrical_power_w + 1e-12)
    assert 0 <= point.efficiency <= 1


@given(MOTORS, between(1, 10))
def test_a_ratio_that_multiplies_torque_divides_speed(figures, ratio):
    """A gear without loss: the same power at the same current, torque × n, speed ÷ n."""
    geared = {**figures, "no_load_speed_rad_s": figures["no_load_speed_rad_s"] / ratio,
              "stall_torque_n_m": figures["stall_torque_n_m"] * ratio}  # fmt: skip
    volts, torque = figures["rated_voltage_v"], figures["stall_torque_n_m"] * 0.4
    plain, slow = (
        dc_motor(volts, **figures, load_torque_n_m=torque),
        dc_motor(volts, **geared, load_torque_n_m=torque * ratio),
    )
    assert slow.speed_rad_s == pytest.approx(plain.speed_rad_s / ratio)
    assert slow.current_a == pytest.approx(plain.current_a)
    assert slow.mechanical_power_w == pytest.approx(plain.mechanical_power_w)


@given(MOTORS, between(0.0, 0.5))
def test_the_current_does_not_depend_on_the_voltage(figures, share):
    """Torque sets current, voltage sets speed: why one pass each way is the fixed point of power and motion."""
    torque = figures["stall_torque_n_m"] * share
    high = dc_motor(figures["rated_voltage_v"] * 1.1, **figures, load_torque_n_m=torque)
    low = dc_motor(figures["rated_voltage_v"] * 0.8, **figures, load_torque_n_m=torque)
    assert high.current_a == pytest.approx(low.current_a)
    assert high.speed_rad_s > low.speed_rad_s


@given(between(0.5, 50), between(0.0, 0.9), between(0.0, 10), between(0.0, 3), between(0.1, 100), between(0.1, 100))
def test_the_spiral_settles_at_the_same_mass_from_any_start(rest, growth, pack, share, one, other):
    motors, feed = growth * share / 3, growth * (1 - share / 3)
    a, b = iterate(rest, motors, pack, feed, one), iterate(rest, motors, pack, feed, other)
    assert a.settles_kg == pytest.approx(b.settles_kg)
    assert a.settles_kg == pytest.approx((rest + pack) / (1 - growth))
    if growth < 0.7:
        assert a.rounds[-1] == pytest.approx(a.settles_kg, rel=1e-2, abs=2e-3)
        assert b.rounds[-1] == pytest.approx(b.settles_kg, rel=1e-2, abs=2e-3)


def test_a_spiral_that_adds_more_than_it_carries_does_not_settle():
    runaway = iterate(5.0, 0.7, 1.0, 0.5, 5.0)
    assert runaway.settles_kg is None
    assert list(runaway.rounds) == sorted(runaway.rounds)
    assert runaway.growth == pytest.approx(1.2)


@given(between(1, 1e4), between(0.004, 0.05), between(0.0005, 0.01), between(0, 0.3))
def test_a_screw_gives_no_more_than_it_takes(force, diameter, lead, friction):
    if math.pi * diameter <= friction * lead:
        return
    found = leadscrew(force, diameter, lead, friction)
    assert 0 < found.efficiency <= 1 + 1e-12
    work_in, work_out = found.raising_torque_n_m * 2 * math.pi, force * lead
    assert work_in >= work_out * (1 - 1e-12)
    assert found.self_locking == (found.lowering_torque_n_m > 0)
    if found.self_locking:
        assert found.efficiency < 0.5 + 1e-9  # a thread that holds by itself wastes at least half


@given(between(0.002, 0.05), between(0.05, 2.0))
def test_twice_as_long_buckles_at_a_quarter(diameter, length):
    short, long = euler_buckling(diameter, length), euler_buckling(diameter, 2 * length)
    assert short.critical_load_n == pytest.approx(4 * long.critical_load_n)


@given(between(1, 100), between(0, 30), between(0, 0.4), between(0.02, 0.3), st.integers(1, 8))
def test_twice_the_mass_takes_twice_the_torque_and_the_same_grip(mass, slope, rolling, radius, driven):
    one = drive_torque(mass, slope, rolling, 0.0, radius, driven)
    two = drive_torque(2 * mass, slope, rolling, 0.0, radius, driven)
    assert two.torque_per_wheel_n_m == pytest.approx(2 * one.torque_per_wheel_n_m)
    assert two.friction_needed == pytest.approx(one.friction_needed)
    shared = drive_torque(mass, slope, rolling, 0.0, radius, 2 * driven)
    assert shared.torque_per_wheel_n_m == pytest.approx(one.torque_per_wheel_n_m / 2)


@given(between(0.02, 0.2), between(0.01, 0.98))
def test_a_higher_step_takes_more(radius, share):
    low, high = step_climb(10, radius, radius * share * 0.9), step_climb(10, radius, radius * share)
    assert high.torque_n_m >= low.torque_n_m
    assert high.push_n >= low.push_n


@given(between(10, 1e5), between(0.01, 0.3), between(0.01, 5.0))
def test_what_a_spring_holds_is_what_flies(stiffness, travel, mass):
    shot = spring_energy(stiffness, travel, mass, 0.8)
    assert mass * shot.release_speed_m_s**2 / 2 == pytest.approx(0.8 * shot.energy_j)
    assert shot.energy_j == pytest.approx(shot.peak_force_n * travel / 2)


@given(between(1e-4, 2e-3), between(1e5, 1.5e6))
def test_air_that_keeps_its_heat_gives_less(volume, pressure):
    shot = tank_shot(volume, pressure, 0.02, 0.1, 0.05)
    assert shot.adiabatic_energy_j <= shot.isothermal_energy_j
    assert shot.pressure_after_pa < pressure


@given(between(-1000, 70_000), between(1, 5000))
def test_higher_air_is_thinner_and_a_fall_there_is_faster(height, up):
    low, high = standard_atmosphere(height), standard_atmosphere(height + up)
    assert high.pressure_pa < low.pressure_pa
    assert high.density_kg_m3 < low.density_kg_m3
    assert descent_rate(1, 1, 1, high.density_kg_m3).speed_m_s > descent_rate(1, 1, 1, low.density_kg_m3).speed_m_s


@pytest.mark.parametrize(
    ("name", "inputs", "said"),
    [
        ("dc-motor", {"supply_voltage_v": "12", "rated_voltage_v": "12", "no_load_speed_rad_s": "100", "stall_torque_n_m":
                      "0.5", "stall_current_a": "5", "no_load_current_a": "0.1", "load_torque_n_m": "0.9"}, "it stalls"),
        ("step-climb", {"wheel_load_n": "10", "wheel_radius_m": "6cm", "step_m": "6cm"}, "never climbs"),
        ("euler-buckling", {"diameter_m": "8mm", "length_m": "1", "ends": "glued"}, "ends are fixed-free"),
        ("leadscrew", {"force_n": "1", "mean_diameter_m": "1mm", "lead_m": "90mm", "friction": "0.3"}, "jams"),
        ("standard-atmosphere", {"altitude_m": "100000"}, "−2 to 80 km"),
        ("spin-up-time", {"inertia_kg_m2": "1e-3", "speed_rad_s": "120", "no_load_speed_rad_s": "100",
                          "stall_torque_n_m": "1"}, "below the no-load speed"),
        ("spring-energy", {"stiffness_n_per_m": "100", "travel_m": "0", "mass_kg": "1"}, "are above 0"),
        ("reaction-wheel-slew", {"body_inertia_kg_m2": "0", "angle_deg": "9", "time_s": "1", "wheel_inertia_kg_m2": "1"},
         "above 0"),
    ],
)  # fmt: skip
def test_impossible_inputs_are_refused_in_one_line(name, inputs, said):
    with pytest.raises(MethodError, match=said):
        find_method(name).work(inputs)
