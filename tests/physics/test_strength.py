"""Beams, plates, bolts and sudden forces against frames of finite elements, tables and laws of energy."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.linalg import eigh
from scipy.sparse import diags, identity, kron
from scipy.sparse.linalg import spsolve

from wired_union.physics.shock import drop_load, gripper_force, imbalance_force, opening_shock
from wired_union.physics.strength import (
    beam_deflection,
    beam_frequency,
    bolt_group,
    plate_deflection,
    thermal_growth,
    tolerance_stack,
)

SUPPORTS = ("cantilever", "simple", "fixed")


def frame(support: str, *, elements: int, stiff: float, length: float, beam_kg: float, load_kg: float):
    """Stiffness and mass of a row of beam elements, free ones only, and the place of the load. Cubic elements of
    Euler and Bernoulli: Cook, Concepts and Applications of Finite Element Analysis (from memory)."""
    size, count = length / elements, elements + 1
    k = stiff / size**3 * np.array([[12, 6 * size, -12, 6 * size], [6 * size, 4 * size**2, -6 * size, 2 * size**2],
                                    [-12, -6 * size, 12, -6 * size], [6 * size, 2 * size**2, -6 * size, 4 * size**2]])  # fmt: skip
    m = beam_kg / elements / 420 * np.array([[156, 22 * size, 54, -13 * size], [22 * size, 4 * size**2, 13 * size, -3 * size**2],
                                             [54, 13 * size, 156, -22 * size], [-13 * size, -3 * size**2, -22 * size, 4 * size**2]])  # fmt: skip
    stiffness, mass = np.zeros((2 * count, 2 * count)), np.zeros((2 * count, 2 * count))
    for n in range(elements):
        part = slice(2 * n, 2 * n + 4)
        stiffness[part, part] += k
        mass[part, part] += m
    at = 2 * elements if support == "cantilever" else elements
    mass[at, at] += load_kg
    last = 2 * count - 2
    held = {"cantilever": [0, 1], "simple": [0, last], "fixed": [0, 1, last, last + 1]}[support]
    free = [n for n in range(2 * count) if n not in held]
    return stiffness[np.ix_(free, free)], mass[np.ix_(free, free)], free.index(at), free


@pytest.mark.parametrize("support", SUPPORTS)
def test_a_beam_bends_as_a_frame_of_elements(support):
    stiffness, _, at, free = frame(support, elements=8, stiff=70e9 * 2e-10, length=0.4, beam_kg=0.1, load_kg=0.0)
    load = np.zeros(len(free))
    load[at] = 25.0
    bent = np.linalg.solve(stiffness, load)
    found = beam_deflection(25.0, 0.4, 70e9, 2e-10, support)
    assert found.deflection_m == pytest.approx(bent[at], rel=1e-9)
    slopes = [abs(bent[n]) for n, name in enumerate(free) if name in (1, 17)]  # turns of the two ends
    assert found.slope_rad == pytest.approx(max(slopes, default=0.0), rel=1e-9)
    by_energy = found.moment_n_m / {"cantilever": 1.0, "simple": 0.25, "fixed": 0.125}[support]
    assert by_energy == pytest.approx(25.0 * 0.4)  # Roark's table: F·L, F·L/4, F·L/8 (from memory)


@pytest.mark.parametrize("support", SUPPORTS)
@pytest.mark.parametrize("load_kg", [0.0, 0.02, 0.1, 1.0, 30.0])
def test_a_loaded_beam_swings_as_a_frame_of_elements(support, load_kg):
    stiffness, mass, _, _ = frame(support, elements=24, stiff=14.0, length=0.4, beam_kg=0.1, load_kg=load_kg)
    first = math.sqrt(eigh(stiffness, mass, eigvals_only=True)[0]) / (2 * math.pi)
    assert beam_frequency(load_kg, 0.1, 0.4, 1.0, 14.0, support).frequency_hz == pytest.approx(first, rel=2e-6)


@pytest.mark.parametrize("support", SUPPORTS)
def test_a_beam_without_mass_is_a_spring(support):
    sag = beam_deflection(9.80665 * 2.0, 0.4, 1.0, 14.0, support).deflection_m
    expected = math.sqrt(9.80665 / sag) / (2 * math.pi)
    for beam_kg in (0.0, 1e-7):
        assert beam_frequency(2.0, beam_kg, 0.4, 1.0, 14.0, support).frequency_hz == pytest.approx(expected, rel=1e-6)


def differences(a: float, b: float, cells: int):
    """Deflection in the middle and stress of a plate that rests on its edges, by differences: two Poisson equations."""
    nx, ny = cells, max(round(cells * b / a), 4)
    hx, hy = a / nx, b / ny
    one = diags([1.0, -2.0, 1.0], [-1, 0, 1], shape=(nx - 1, nx - 1)) / hx**2
    two = diags([1.0, -2.0, 1.0], [-1, 0, 1], shape=(ny - 1, ny - 1)) / hy**2
    laplace = (kron(one, identity(ny - 1)) + kron(identity(nx - 1), two)).tocsc()
    moment = spsolve(laplace, np.ones((nx - 1) * (ny - 1)))  # w'' + w'' = −M/D, M'' + M'' = −q with q = D = 1
    w = spsolve(laplace, moment).reshape(nx - 1, ny - 1)
    i, j = nx // 2 - 1, ny // 2 - 1
    xx = (w[i + 1, j] - 2 * w[i, j] + w[i - 1, j]) / hx**2
    yy = (w[i, j + 1] - 2 * w[i, j] + w[i, j - 1]) / hy**2
    return w[i, j], max(-(xx + 0.3 * yy), -(yy + 0.3 * xx))


@pytest.mark.parametrize(("a", "b"), [(1.0, 1.0), (1.4, 1.0), (0.5, 1.0), (3.0, 1.0)])
def test_a_plate_on_its_edges_bends_as_by_differences(a, b):
    deflection, moment = differences(a, b, 100)
    found = plate_deflection(a * b, a, b, 0.01, 12 * 0.91 / 0.01**3)  # q = 1, D = 1
    assert found.deflection_m == pytest.approx(deflection, rel=1e-3)
    assert found.stress_pa == pytest.approx(6 * moment / 0.01**2, rel=2e-3)


def test_a_clamped_square_plate_as_in_the_table():
    """Timoshenko: 0.00126·q·a⁴/D in the middle, 0.0513·q·a² at the edges (from memory); half between two rows."""
    stiff = 12 * 0.91 / 0.01**3
    square = plate_deflection(1.0, 1.0, 1.0, 0.01, stiff, support="clamped")
    assert (square.deflection_m, square.stress_pa * 0.01**2 / 6) == pytest.approx((0.00126, 0.0513))
    strip = plate_deflection(1e4, 1e4, 1.0, 0.01, stiff, support="clamped")
    beam = beam_deflection(1.0, 1.0, 1.0, 1.0, "fixed")  # an even load: q·b⁴/384 and q·b²/12, half and 2/3 of one load
    assert strip.deflection_m == pytest.approx(beam.deflection_m / 2, rel=2e-3)
    assert strip.stress_pa * 0.01**2 / 6 == pytest.approx(beam.moment_n_m * 2 / 3, rel=1e-3)
    sides = [plate_deflection(r, r, 1.0, 0.01, stiff, support="clamped").deflection_m for r in (1.2, 1.3, 1.4)]
    assert sides[0] < sides[1] < sides[2]


def test_bolts_by_hand_and_in_balance():
    """A force of 1 kN 0.2 m beside four bolts on a square of 0.1 m: 250 N straight, 707 N round, 901 N where they add."""
    corners = [(-0.05, -0.05), (0.05, -0.05), (0.05, 0.05), (-0.05, 0.05)]
    found = bolt_group([x for x, _ in corners], [y for _, y in corners], 0.0, -1000.0, 0.2, 0.0)
    round_n = 200.0 / (4 * math.hypot(0.05, 0.05))
    most = math.hypot(round_n / math.sqrt(2), 250.0 + round_n / math.sqrt(2))
    assert found.most_n == pytest.approx(most)
    assert sorted(found.shear_n) == pytest.approx(
        sorted([most, most, *[math.hypot(round_n / 2**0.5, 250 - round_n / 2**0.5)] * 2])
    )


@given(st.lists(st.floats(0.0, 1e-3), min_size=1, max_size=12))
def test_the_worst_case_is_never_less_than_the_root_of_squares(tolerances):
    found = tolerance_stack(tolerances)
    assert found.worst_m >= found.root_sum_square_m * (1 - 1e-12)
    assert found.root_sum_square_m == pytest.approx(float(np.linalg.norm(tolerances)))
    assert found.worst_m == pytest.approx(sum(tolerances))


def test_a_bar_of_aluminium_in_the_sun():
    assert thermal_growth(0.3, 23e-6, 60.0).growth_m == pytest.approx(0.414e-3)


@pytest.mark.parametrize("drop_m", [0.0, 0.05, 0.4])
def test_a_dropped_mass_as_its_motion_has_it(drop_m):
    """The spring's largest force by solving the motion from the touch on; a drop of 0 gives twice the weight."""
    mass, stiffness = 2.0, 4000.0
    fall = math.sqrt(2 * 9.80665 * drop_m)
    path = solve_ivp(
        lambda _, y: (y[1], 9.80665 - stiffness / mass * y[0]), (0, 0.2), (0.0, fall), max_step=1e-4, rtol=1e-9
    )
    found = drop_load(mass, drop_m, stiffness)
    assert found.deflection_m == pytest.approx(path.y[0].max(), rel=1e-5)
    assert found.force_n == pytest.approx(stiffness * path.y[0].max(), rel=1e-5)
    if drop_m == 0:
        assert found.force_n == pytest.approx(2 * mass * 9.80665)


def test_what_holds_pulls_and_shakes_by_hand():
    assert gripper_force(1.0, 0.5, 0.0, 2, 2.0).force_per_finger_n == pytest.approx(19.61, abs=0.005)
    assert opening_shock(1.2, 20.0, 0.5, 0.8, 1.5).force_n == pytest.approx(0.5 * 1.2 * 400 * 0.5 * 0.8 * 1.5)
    assert imbalance_force(0.2, 1e-4, 2 * math.pi * 50).force_n == pytest.approx(1.974, abs=0.001)


@pytest.mark.parametrize(("call", "said"), [
    (lambda: beam_deflection(1.0, 1.0, 1.0, 1.0, "glued"), "cantilever, simple or fixed"),
    (lambda: beam_frequency(0.0, 0.0, 1.0, 1.0, 1.0), "not both 0"),
    (lambda: plate_deflection(1.0, 1.0, 1.0, 0.1, 1.0, support="glued"), "simple or clamped"),
    (lambda: bolt_group([0.1], [0.1], 1.0, 0.0, 0.0, 0.0), "no moment"),
    (lambda: tolerance_stack([]), "one at least"),
    (lambda: gripper_force(1.0, 0.5, -9.9), "free fall"),
    (lambda: opening_shock(1.2, 20.0, 0.5, 0.8, 0.5), "1 or more"),
])  # fmt: skip
def test_what_cannot_be_is_refused_in_words(call, said):
    with pytest.raises(ValueError, match=said):
        call()
