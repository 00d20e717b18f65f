"""Motion against published worked examples, general-purpose libraries and moments by hand."""

import math

import numpy as np
import pytest
from scipy.integrate import quad, solve_ivp
from scipy.optimize import linprog

from wired_union.physics.atmosphere import canopy_diameter, descent_rate, fall_time_s, standard_atmosphere
from wired_union.physics.motor import best_gear_ratio, dc_motor, motor_constants, spin_up_time
from wired_union.physics.screw import column_buckling, euler_buckling, leadscrew, screw_critical_speed
from wired_union.physics.stored_energy import curve_energy_j, spring_energy, tank_shot
from wired_union.physics.turning import airflow_flap, joint_torque, reaction_wheel_slew
from wired_union.physics.vibration import cantilever_frequency, natural_frequency
from wired_union.physics.wheel import drive_torque, step_climb, step_friction, tip_angle

G = 9.80665


def test_power_screw_of_shigley():
    """Shigley's Mechanical Engineering Design, example 8-1: double thread, 32 mm × 4 mm, 6.4 kN, f = f_c = 0.08."""
    found = leadscrew(6400, 0.030, 0.008, 0.08, 0.08, 0.040)
    assert found.raising_torque_n_m == pytest.approx(26.18, abs=0.005)
    assert found.lowering_torque_n_m == pytest.approx(9.77, abs=0.005)
    assert found.efficiency == pytest.approx(0.311, abs=0.0005)
    assert not found.self_locking  # the thread alone would run down: −0.466 N·m


def test_a_screw_holds_by_itself_where_friction_beats_the_lead():
    """Shigley, equation 8-3: self-locking when π·f·d_m > l."""
    assert leadscrew(100, 0.010, 0.0020, 0.10).self_locking
    assert not leadscrew(100, 0.010, 0.0040, 0.10).self_locking
    edge = leadscrew(100, 0.010, math.pi * 0.10 * 0.010, 0.10)
    assert edge.lowering_torque_n_m == pytest.approx(0, abs=1e-12)


def test_euler_column_by_hand():
    """π²·E·I/(K·L)²: a 10 mm steel rod, 0.5 m between pins: I = 490.9 mm⁴, 3.99 kN; fixed ends carry four times that."""
    pinned = euler_buckling(0.010, 0.5)
    assert pinned.critical_load_n == pytest.approx(math.pi**2 * 206e9 * 490.874e-12 / 0.25, rel=1e-5)
    assert pinned.slenderness == pytest.approx(200)
    assert euler_buckling(0.010, 0.5, "fixed").critical_load_n == pytest.approx(4 * pinned.critical_load_n)
    assert euler_buckling(0.010, 0.5, "fixed-free").critical_load_n == pytest.approx(pinned.critical_load_n / 4)


def test_whirling_is_the_beam_frequency_solved_as_an_eigenvalue_problem():
    """First root of 1 + cos(x)·cosh(x) for a cantilever, sin for supports: Blevins; here found by scipy."""
    from scipy.optimize import brentq

    root = brentq(lambda x: 1 + math.cos(x) * math.cosh(x), 1.5, 2.5)
    d, length, modulus, density = 0.008, 0.4, 206e9, 7850.0
    expected = (root / length) ** 2 * math.sqrt(modulus * math.pi * d**4 / 64 / (density * math.pi * d**2 / 4))
    assert screw_critical_speed(d, length, "fixed-free").speed_rad_s == pytest.approx(expected, rel=1e-5)
    assert screw_critical_speed(d, length).speed_rad_s == pytest.approx(expected * (math.pi / root) ** 2, rel=1e-5)


def test_a_cantilever_against_finite_differences():
    """β₁L = 1.8751 (Blevins): the lowest eigenvalue of EI·y'''' = ω²·m·y on a fine grid."""
    n, length, rigidity, mass = 240, 0.6, 12.0, 0.4
    h = length / n
    matrix = np.zeros((n, n))
    for i in range(n):
        for j, c in ((i - 2, 1.0), (i - 1, -4.0), (i, 6.0), (i + 1, -4.0), (i + 2, 1.0)):
            if 0 <= j < n:
                matrix[i, j] += c
            elif j == -2:
                matrix[i, 0] += c  # clamped: y(−h) = y(h)
    matrix[0, 0] = 7.0
    matrix[n - 2, n - 3 : n] = (-4.0, 5.0, -2.0)
    matrix[n - 2, n - 4] = 1.0
    matrix[n - 1, n - 3 : n] = (2.0, -4.0, 2.0)
    lowest = min(np.linalg.eigvals(matrix).real)
    expected = math.sqrt(lowest * rigidity / mass / h**4) / (2 * math.pi)
    found = cantilever_frequency(length, 1.0, rigidity, mass).frequency_hz
    assert found == pytest.approx(expected, rel=0.01)


def test_a_cantilever_with_a_heavy_tip_is_a_mass_on_a_spring():
    """k = 3EI/L³: handbook stiffness; a beam without mass gives the spring's frequency."""
    stiffness = 3 * 12.0 / 0.6**3
    heavy = cantilever_frequency(0.6, 1.0, 12.0, 1e-6, tip_mass_kg=2.0).frequency_hz
    assert heavy == pytest.approx(natural_frequency(stiffness, 2.0).frequency_hz, rel=1e-6)


@pytest.mark.parametrize(
    "height", [-500, 0, 1000, 5000, 11_000, 15_000, 20_000, 25_000, 32_000, 40_000, 47_500, 60_000, 75_000]
)
def test_the_standard_atmosphere_against_the_ambiance_package(height):
    """ISO 2533:1975 as the ambiance package has it."""
    from ambiance import Atmosphere

    other, ours = Atmosphere(height), standard_atmosphere(height)
    assert ours.temperature_k == pytest.approx(float(other.temperature[0]), rel=1e-6)
    assert ours.pressure_pa == pytest.approx(float(other.pressure[0]), rel=2e-5)
    assert ours.density_kg_m3 == pytest.approx(float(other.density[0]), rel=2e-5)


def test_atmosphere_values_of_the_standard():
    """ISO 2533:1975, table 5: 11 000 m geometric."""
    air = standard_atmosphere(11_000)
    assert (round(air.temperature_k, 2), round(air.pressure_pa, -1), round(air.density_kg_m3, 4)) == (
        216.77,
        22_700,
        0.3648,
    )
    for outside in (90_000, -3000):
        with pytest.raises(ValueError, match="−2 to 80 km"):
            standard_atmosphere(outside)


def test_a_canopy_lets_down_at_the_speed_it_was_sized_for():
    """Drag balance: 1 kg at 5 m/s with C_D 0.75 at sea level needs 0.854 m² (by hand: 2·9.80665/(1.225·0.75·25))."""
    size = canopy_diameter(1.0, 5.0, 0.75)
    assert size.area_m2 == pytest.approx(0.85395, abs=1e-4)
    assert size.diameter_m == pytest.approx(1.0427, abs=1e-4)
    assert descent_rate(1.0, size.area_m2, 0.75).speed_m_s == pytest.approx(5.0)


def test_the_time_down_is_the_integral_over_the_atmosphere():
    def slow(h):
        return 1 / descent_rate(1.2, 0.6, 0.8, standard_atmosphere(h).density_kg_m3).speed_m_s

    assert fall_time_s(1.2, 0.6, 0.8, 3000, 100) == pytest.approx(quad(slow, 100, 3000)[0], rel=1e-9)
    assert fall_time_s(1.2, 0.6, 0.8, 100, 100) == 0.0


MOTOR = {"rated_voltage_v": 12.0, "no_load_speed_rad_s": 100.0, "stall_torque_n_m": 0.5, "stall_current_a": 5.0,
         "no_load_current_a": 0.1}  # fmt: skip


def test_best_efficiency_of_a_motor():
    """With k_t = k_e (1 − √(I₀/Iₛ))²: 0.1 A of 5 A gives 0.737; with a gear's loss less; no torque does better."""
    ideal = {**MOTOR, "no_load_speed_rad_s": (12 - 0.1 * 2.4) * (5 - 0.1) / 0.5}
    assert dc_motor(12, **ideal, load_torque_n_m=0.1).best_efficiency == pytest.approx(0.737, abs=5e-4)
    for figures in (ideal, MOTOR):
        found = [dc_motor(12, **figures, load_torque_n_m=0.5 * k / 400) for k in range(1, 400)]
        assert max(p.efficiency for p in found) == pytest.approx(found[0].best_efficiency, abs=1e-4)


def test_most_power_at_half_the_no_load_speed():
    """Common practice, and the vertex of T·ω: stall torque × no-load speed / 4."""
    found = [dc_motor(12, **MOTOR, load_torque_n_m=0.5 * k / 200) for k in range(201)]
    best = max(found, key=lambda p: p.mechanical_power_w)
    assert best.mechanical_power_w == pytest.approx(0.5 * 100 / 4, rel=1e-4)
    assert best.speed_rad_s == pytest.approx(50, rel=0.01)


@pytest.mark.parametrize("volts", [6.0, 12.0, 14.0])
@pytest.mark.parametrize("torque", [0.0, 0.08, 0.2])
def test_the_steady_motor_is_where_its_differential_equation_ends(volts, torque):
    """L·di/dt = V − R·i − k_e·ω, J·dω/dt = k_t·(i − I₀) − T, run to rest with scipy's solve_ivp."""
    m = motor_constants(**MOTOR)

    def slopes(_, y):
        i, w = y
        return [(volts - m.resistance_ohm * i - m.volts_s_per_rad * w) / 1e-3,
                (m.torque_n_m_per_a * (i - m.no_load_current_a) - torque) / 2e-4]  # fmt: skip

    end = solve_ivp(slopes, (0, 3), [0.0, 0.0], method="LSODA", rtol=1e-9, atol=1e-10).y[:, -1]
    point = dc_motor(volts, **MOTOR, load_torque_n_m=torque)
    assert point.current_a == pytest.approx(end[0], rel=1e-5)
    assert point.speed_rad_s == pytest.approx(end[1], rel=1e-5)


def test_spin_up_against_the_differential_equation():
    """J·dω/dt = T_s·(1 − ω/ω₀) until 80 % of the no-load speed: τ·ln 5."""
    found = spin_up_time(2e-3, 80.0, 100.0, 0.5)
    assert found.time_s == pytest.approx(2e-3 * 100 / 0.5 * math.log(5))
    event = lambda t, w: w[0] - 80.0  # noqa: E731
    event.terminal = True
    run = solve_ivp(lambda t, w: [0.5 * (1 - w[0] / 100) / 2e-3], (0, 5), [0.0], events=event, rtol=1e-10, atol=1e-12)
    assert found.time_s == pytest.approx(run.t[-1], rel=1e-7)
    assert found.energy_j == pytest.approx(6.4)


def test_inertia_matching_is_the_best_of_all_ratios():
    """Angular acceleration of the load, T·n/(J_L + n²·J_M), is largest at n = √(J_L/J_M)."""
    best = best_gear_ratio(4e-3, 1e-6).ratio
    assert best == pytest.approx(63.2456, rel=1e-5)
    ratios = np.linspace(1, 200, 4000)
    assert ratios[np.argmax(ratios / (4e-3 + ratios**2 * 1e-6))] == pytest.approx(best, rel=1e-3)


def test_a_wheel_at_a_step_by_moments():
    """Moments about the edge by hand: weight × level arm = torque, push × height of the axle above the edge."""
    r, h, load = 0.06, 0.025, 20.0
    arm = math.sqrt(r**2 - (r - h) ** 2)
    found = step_climb(load, r, h)
    assert found.torque_n_m == pytest.approx(load * arm)
    assert found.torque_n_m == pytest.approx(load * 0.0487, rel=1e-3)
    assert found.push_n == pytest.approx(load * arm / (r - h))
    assert found.push_n == pytest.approx(1.39 * load, rel=2e-3)
    with pytest.raises(ValueError, match="never climbs"):
        step_climb(load, r, r)


@pytest.mark.parametrize("step", [0.005, 0.025, 0.05])
@pytest.mark.parametrize(("wheels", "driven"), [(4, 4), (4, 2), (6, 6), (3, 2), (3, 3), (2, 2)])
def test_the_grip_that_a_step_takes_against_a_balance_of_forces(step, wheels, driven):
    """For each axle that may stand at the edge, scipy's linear programme seeks forces in balance under a friction."""
    r, load = 0.06, 10.0
    theta = math.acos(1 - step / r)

    def stands(friction, climbing, led):
        """Normal and friction of the edge, and the push of the driven wheels that stand on the floor."""
        slack = friction if led else 0.0
        balance = [[math.cos(theta), math.sin(theta), 0.0], [-math.sin(theta), math.cos(theta), 1.0]]
        limits = [[-slack, 1.0, 0.0], [0.0, 0.0, 1.0]]
        others = driven - climbing if led else driven
        found = linprog([0, 0, 0], A_ub=limits, b_ub=[0.0, friction * others * load],
                        A_eq=balance, b_eq=[climbing * load, 0.0], bounds=[(0, None), (0, None), (0, None)])  # fmt: skip
        return found.status == 0

    def climbs(friction):
        axles = [(min(2, wheels, driven), True)]
        if wheels > driven:
            axles.append((min(2, wheels - driven), False))
        return all(stands(friction, *axle) for axle in axles)

    needed = step_friction(r, step, wheels, driven)
    assert climbs(needed * 1.002)
    assert not climbs(needed * 0.998)
    if (wheels, driven) == (4, 4):
        assert needed == pytest.approx(math.tan(theta / 2))


def test_a_stocky_column_yields_before_it_bends():
    """J. B. Johnson's parabola (Shigley): meets Euler's at half the yield stress, and the yield itself at no length."""
    area, yields, e = math.pi * 0.01**2 / 4, 250e6, 206e9
    meet = math.sqrt(2 * math.pi**2 * e / yields) * 0.01 / 4
    assert column_buckling(0.01, meet * 0.999).critical_load_n == pytest.approx(area * yields / 2, rel=3e-3)
    assert column_buckling(0.01, meet * 1.001).critical_load_n == pytest.approx(area * yields / 2, rel=3e-3)
    assert column_buckling(0.01, 1e-6).critical_load_n == pytest.approx(area * yields)
    for length in (0.05, 0.2, 0.5):
        euler = euler_buckling(0.01, length).critical_load_n
        assert column_buckling(0.01, length).critical_load_n <= euler * (1 + 1e-12)


def test_a_slope_by_hand():
    """8 kg up 12° with a tenth rolling: 8·9.80665·(0.2079 + 0.0978) = 23.98 N; two wheels of 60 mm share it."""
    found = drive_torque(8.0, 12.0, 0.1, 0.0, 0.06, 2)
    assert found.torque_per_wheel_n_m == pytest.approx(23.98 * 0.06 / 2, rel=1e-3)
    assert found.friction_needed == pytest.approx(math.tan(math.radians(12)) + 0.1)
    assert tip_angle(0.15, 0.2).angle_deg == pytest.approx(36.8699, rel=1e-5)


def test_an_arm_by_moments():
    """0.4 kg at 260 mm on a 0.2 kg link, level: g·(0.104 + 0.026) = 1.275 N·m; upright it takes nothing."""
    assert joint_torque(0.4, 0.26, 0.0, 0.2, 0.26).torque_n_m == pytest.approx(G * (0.4 * 0.26 + 0.2 * 0.13))
    assert joint_torque(0.4, 0.26, 90.0, 0.2, 0.26).torque_n_m == pytest.approx(0, abs=1e-12)
    inertia = joint_torque(0.4, 0.26, 0.0, 0.2, 0.26).inertia_kg_m2
    assert inertia == pytest.approx(0.4 * 0.26**2 + 0.2 * 0.26**2 / 3)


def test_a_slew_against_its_own_motion():
    """Full on to the middle, full back: integrated twice with constant acceleration it ends at the angle, at rest."""
    need = reaction_wheel_slew(0.05, 60.0, 4.0, 2e-4)
    alpha = need.torque_n_m / 0.05
    half = alpha * 2.0**2 / 2
    assert 2 * half == pytest.approx(math.radians(60))
    assert need.momentum_n_m_s == pytest.approx(0.05 * alpha * 2.0)
    assert need.wheel_speed_change_rad_s == pytest.approx(need.momentum_n_m_s / 2e-4)


def test_a_spring_and_its_measured_curve_agree():
    """½·k·x²: 1000 N/m over 40 mm stores 0.8 J and throws 100 g at 4 m/s; its curve in eleven points the same."""
    shot = spring_energy(1000, 0.04, 0.1)
    assert (shot.energy_j, shot.peak_force_n, shot.release_speed_m_s) == pytest.approx((0.8, 40.0, 4.0))
    travels = tuple(np.linspace(0, 0.04, 11))
    assert curve_energy_j(travels, tuple(1000 * x for x in travels)) == pytest.approx(0.8)
    assert spring_energy(1000, 0.04, 0.1, preload_n=10).energy_j == pytest.approx(1.2)


def test_air_in_a_tank_against_the_integral_of_its_pressure():
    """∫ (p − p₀) dV of an ideal gas, isothermal and adiabatic: by quad; the adiabatic bound is the lower."""
    volume, gauge, bore, stroke = 4e-4, 6e5, 0.02, 0.1
    swept, start, p0 = math.pi / 4 * bore**2 * stroke, gauge + 101_325.0, 101_325.0
    shot = tank_shot(volume, gauge, bore, stroke, 0.05, 3e5)
    for gamma, found in ((1.0, shot.isothermal_energy_j), (1.4, shot.adiabatic_energy_j)):
        expected = quad(lambda v, g=gamma: start * (volume / v) ** g - p0, volume, volume + swept)[0]
        assert found == pytest.approx(expected, rel=1e-9)
    assert shot.adiabatic_speed_m_s < shot.isothermal_speed_m_s
    assert shot.pressure_after_pa == pytest.approx(start * volume / (volume + swept) - p0)
    assert shot.shots == 8


def test_a_flap_by_hand():
    """½·1.225·8²·1.2·0.005 = 0.2352 N against 20 g = 0.1961 N."""
    flow = airflow_flap(0.02, 0.005, 8.0)
    assert flow.drag_n == pytest.approx(0.2352)
    assert flow.lift_ratio == pytest.approx(0.2352 / (0.02 * G))
