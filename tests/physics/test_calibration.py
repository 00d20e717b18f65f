"""Curves through points against certified values and libraries; doubts together, converters and throws."""

import math
from pathlib import Path

import numpy as np
import pytest
import scipy.integrate
import scipy.interpolate
import scipy.optimize
import scipy.stats
from hypothesis import given, settings
from hypothesis import strategies as st

from wired_union.physics.calibration import (
    FORMS,
    band_of,
    fit_calibration,
    is_monotonic,
    odd_points,
    place_of,
    slope_of,
    value_of,
)
from wired_union.physics.uncertainty import adc_noise, combined_uncertainty, coverage_factor, projectile_range

NIST = Path(__file__).parent.parent / "nist"


def certified(name):
    """Points, parameters with their deviations, and the residual deviation of a file of NIST's reference datasets."""
    lines = (NIST / f"{name}.dat").read_text(encoding="ascii").splitlines()
    told = [line.split("=")[1].split() for line in lines if line.strip().startswith(("b1 =", "b2 ="))]
    sd = next(float(line.split(":")[1]) for line in lines if line.startswith("Residual Standard Deviation"))
    begin = max(n for n, line in enumerate(lines) if line.startswith("Data:  ")) + 1
    points = [tuple(map(float, line.split())) for line in lines[begin:] if line.strip()]
    return [p[1] for p in points], [p[0] for p in points], [(float(t[2]), float(t[3])) for t in told], sd


@pytest.mark.parametrize(("name", "form"), [("DanWood", "power"), ("Misra1a", "saturating")])
def test_certified_values_to_six_digits(name, form):
    """NIST/ITL StRD, nonlinear regression: coefficients, their deviations, the residual deviation."""
    x, y, told, sd = certified(name)
    found = fit_calibration(x, y, form)
    for ours, error, (value, deviation) in zip(found.coefficients, found.standard_errors, told, strict=True):
        assert ours == pytest.approx(value, rel=1e-6)
        assert error == pytest.approx(deviation, rel=1e-5)
    assert found.residual_sd == pytest.approx(sd, rel=1e-6)


@given(
    st.lists(
        st.tuples(st.floats(-50, 50), st.floats(-100, 100)), min_size=6, max_size=25, unique_by=lambda p: round(p[0])
    )
)
@settings(max_examples=80, deadline=None)
def test_polynomials_are_those_of_numpy(points):
    x, y = [p[0] for p in points], [p[1] for p in points]
    for form, degree in (("line", 1), ("parabola", 2), ("cubic", 3)):
        ours = [value_of(form, fit_calibration(x, y, form).coefficients, v) for v in x]
        assert ours == pytest.approx(np.polyval(np.polyfit(x, y, degree), x), abs=1e-6)


MODELS = {
    "power": (lambda x, a, b: a * x**b, (2.0, 0.7)),
    "exponential": (lambda x, a, b: a * np.exp(b * x), (3.0, -0.4)),
    "saturating": (lambda x, a, b: a * (1 - np.exp(-b * x)), (5.0, 0.6)),
    "reciprocal": (lambda x, a, b, c: a + b / (x + c), (0.3, 31.5, 4.5)),
}


@pytest.mark.parametrize("form", MODELS)
@pytest.mark.parametrize("seed", range(5))
def test_bent_curves_are_those_of_scipy(form, seed):
    model, true = MODELS[form]
    draw = np.random.default_rng(seed)
    x = np.linspace(0.5, 12, 15)
    y = model(x, *true) * (1 + draw.normal(0, 0.01, len(x)))
    theirs, cover = scipy.optimize.curve_fit(model, x, y, p0=true, xtol=1e-13, ftol=1e-13)
    found = fit_calibration(list(x), list(y), form)
    assert found.coefficients == pytest.approx(theirs, rel=1e-5)
    assert found.standard_errors == pytest.approx(np.sqrt(np.diag(cover)), rel=1e-3)


@pytest.mark.parametrize(("form", "close"), [("line", 1e-9), ("parabola", 1e-9), ("cubic", 1e-7), ("power", 0.05),
                                             ("saturating", 0.05), ("reciprocal", 0.15)])  # fmt: skip
def test_what_was_left_out_is_that_of_leaving_each_out(form, close):
    """Exact for polynomials (PRESS, Allen 1974); bent curves within a few parts of a hundred."""
    draw = np.random.default_rng(5)
    x = [float(v) for v in np.linspace(1, 12, 16)]
    bend = 0.0 if form == "line" else 0.1
    model, true = MODELS.get(form, (lambda x: 1 + 2 * x - bend * x * x, ()))
    y = [float(model(v, *true)) + e for v, e in zip(x, draw.normal(0, 0.05, 16), strict=True)]
    total = 0.0
    for n in range(16):
        others = fit_calibration(x[:n] + x[n + 1 :], y[:n] + y[n + 1 :], form)
        total += (value_of(form, others.coefficients, x[n]) - y[n]) ** 2
    assert fit_calibration(x, y, form).cross_error == pytest.approx(math.sqrt(total / 16), rel=close)
    far = [*y[:6], y[6] + 1.0, *y[7:]]
    assert odd_points(form, x, y, 5.0) == []
    assert odd_points(form, x, far, 5.0) == [6]


def test_the_right_form_explains_most_with_least():
    draw = np.random.default_rng(3)
    x = list(np.linspace(10, 120, 14))
    y = [0.30 + 31.5 / (v + 4.5) + e for v, e in zip(x, draw.normal(0, 0.004, 14), strict=True)]
    found = {form: fit_calibration(x, y, form) for form in FORMS if form != "saturating"}
    with pytest.raises(ValueError, match="does not go through these"):
        fit_calibration(x, y, "saturating")  # it rises from nothing, and these fall
    assert min(found, key=lambda f: found[f].aicc) == "reciprocal"
    assert min(found, key=lambda f: found[f].cross_error) == "reciprocal"


def test_the_band_of_a_line_is_that_of_the_textbook():
    """s·t·√(1 + 1/n + (x − x̄)²/Σ(x − x̄)²): the usual formula of a simple regression."""
    x, y = [1.0, 2.0, 3.0, 4.0, 5.0, 6.0], [2.1, 3.9, 6.2, 7.8, 10.1, 11.9]
    fit = fit_calibration(x, y, "line")
    band = band_of("line", fit, x)
    theirs = scipy.stats.linregress(x, y)
    assert fit.coefficients == pytest.approx((theirs.intercept, theirs.slope))
    assert fit.standard_errors == pytest.approx((theirs.intercept_stderr, theirs.stderr))
    for at in (0.0, 3.5, 9.0):
        usual = fit.residual_sd * scipy.stats.t.ppf(0.975, 4) * math.sqrt(1 + 1 / 6 + (at - 3.5) ** 2 / 17.5)
        assert band(at) == pytest.approx(usual)


@given(st.sampled_from(("line", "power", "exponential", "saturating", "reciprocal")), st.floats(1.0, 9.0))
@settings(max_examples=80, deadline=None)
def test_a_calibration_undone_by_its_inverse_gives_the_reading_back(form, at):
    coefficients = {"line": (1.0, 2.0), **{f: m[1] for f, m in MODELS.items()}}[form]
    assert is_monotonic(form, coefficients, 1.0, 9.0)
    reading = value_of(form, coefficients, at)
    assert place_of(form, coefficients, reading, 1.0, 9.0) == pytest.approx(at, rel=1e-9)
    near = (value_of(form, coefficients, at + 1e-6) - value_of(form, coefficients, at - 1e-6)) / 2e-6
    assert slope_of(form, coefficients, at) == pytest.approx(near, rel=1e-4)


def test_what_has_no_inverse_or_no_answer_says_so():
    assert not is_monotonic("parabola", (0.0, 0.0, 1.0), -1.0, 1.0)
    assert place_of("line", (0.0, 1.0), 5.0, 0.0, 1.0) is None
    assert math.isnan(value_of("reciprocal", (0.0, 1.0, -2.0), 2.0))
    for x, y, form in (([1, 2], [1, 2], "line"), ([1, 1, 1], [1, 2, 3], "line"), ([-1, 1, 2], [1, 2, 3], "power"),
                       ([1, 2, 3], [1, 2], "line"), ([1, 2, 3], [1, 2, math.inf], "line"), ([1, 2, 3], [1, 2, 3], "wave")):  # fmt: skip
        with pytest.raises(ValueError, match=r"does not go|one x for each|finite|form is"):
            fit_calibration(x, y, form)


def test_few_readings_widen_a_result_as_annex_h_of_the_guide_has_it():
    """JCGM 100, H.1.6, end gauge, nanometres: 16 degrees of freedom, 2.92 at 99 of 100 (from memory)."""
    made = coverage_factor([25, 9.7, 2.9, 16.6], [18, 25.6, 50, 2], 0.99)
    assert math.floor(made.degrees) == 16
    assert made.factor == pytest.approx(scipy.stats.t.ppf(0.995, made.degrees), rel=1e-6)
    assert scipy.stats.t.ppf(0.995, 16) == pytest.approx(2.92, abs=0.005)
    assert coverage_factor([1, 2], [math.inf] * 2, 0.95).factor == pytest.approx(scipy.stats.norm.ppf(0.975))
    assert coverage_factor([0, 0], [3, 4], 0.95).degrees == math.inf
    for bad in (([1], [1, 2], 0.9), ([], [], 0.9), ([-1], [3], 0.9), ([1], [0], 0.9), ([1], [3], 1.0)):
        with pytest.raises(ValueError, match=r"degrees|uncertaint|confidence"):
            coverage_factor(*bad)


def test_doubts_add_like_draws():
    found = combined_uncertainty([0.3, 0.4], [2.0, -1.0])
    assert (found.combined, found.expanded) == (
        pytest.approx(math.hypot(0.6, 0.4)),
        pytest.approx(2 * math.hypot(0.6, 0.4)),
    )
    assert (found.largest, found.largest_share) == (1, pytest.approx(0.36 / 0.52))
    draw = np.random.default_rng(1)
    sums = 2 * draw.normal(0, 0.3, 1_000_000) - draw.normal(0, 0.4, 1_000_000)
    assert np.std(sums) == pytest.approx(found.combined, rel=5e-3)
    assert found.worst == pytest.approx(math.sqrt(3))  # ±0.3√3 twice and ±0.4√3


def test_a_converter_tells_apart_what_its_steps_are():
    """12 bits of 3.3 V: 0.806 mV a step, 0.233 mV of quantisation (q/√12)."""
    found = adc_noise(3.3, 12, 0.0)
    assert found.step_v == pytest.approx(0.806e-3, rel=1e-3)
    assert found.effective_bits == pytest.approx(12.0)
    noisy = adc_noise(3.3, 12, 0.5e-3)
    draw = np.random.default_rng(2)
    volts = draw.uniform(0, 3.3, 400_000)
    read = np.round((volts + draw.normal(0, 0.5e-3, len(volts))) / found.step_v) * found.step_v
    assert np.std(read - volts) == pytest.approx(noisy.noise_v, rel=0.01)
    assert noisy.effective_bits < 12


@pytest.mark.parametrize(
    ("speed", "angle", "height"), [(10.0, 45.0, 0.0), (12.0, 30.0, 1.5), (8.0, -20.0, 2.0), (0.0, 0.0, 1.0)]
)
def test_a_throw_lands_where_the_equations_of_motion_say(speed, angle, height):
    """10 m/s at 45°: 10.197 m; and an integrator."""
    found = projectile_range(speed, angle, height)
    if (speed, angle, height) == (10.0, 45.0, 0.0):
        assert found.range_m == pytest.approx(10.197, abs=5e-4)
    up, across = speed * math.sin(math.radians(angle)), speed * math.cos(math.radians(angle))
    ground = lambda t, s: s[1] if t > 1e-9 else 1.0  # noqa: E731
    ground.terminal, ground.direction = True, -1
    solved = scipy.integrate.solve_ivp(lambda t, s: (across, s[2], -9.80665), (0, 20), (0, height, up), events=ground,
                                       rtol=1e-10, atol=1e-12)  # fmt: skip
    assert found.range_m == pytest.approx(solved.y[0, -1], abs=1e-6)
    assert found.time_s == pytest.approx(solved.t[-1], abs=1e-6)
    assert found.apex_m == pytest.approx(max(height, height + max(up, 0) ** 2 / 2 / 9.80665))


@pytest.mark.parametrize("seed", range(4))
def test_a_table_is_the_broken_line_of_scipy(seed):
    """A least-squares spline of the first degree through the same places."""
    draw = np.random.default_rng(seed)
    x = np.sort(draw.uniform(0, 10, 25))
    y = np.sin(x / 2) + draw.normal(0, 0.05, 25)
    found = fit_calibration(x, y, "table")
    count = len(found.coefficients) // 2
    places = found.coefficients[:count]
    theirs = scipy.interpolate.make_lsq_spline(x, y, [places[0], *places, places[-1]], k=1)
    assert found.coefficients[count:] == pytest.approx(theirs(np.array(places)).tolist(), abs=1e-9)
    left = float(((y - theirs(x)) ** 2).sum())
    assert found.residual_sd == pytest.approx(math.sqrt(left / (25 - count)))
    for at in (float(x[0]), 3.3, float(x[-1]) - 0.01):
        assert value_of("table", found.coefficients, at) == pytest.approx(float(theirs(at)))
        assert slope_of("table", found.coefficients, at) == pytest.approx(float(theirs.derivative()(at)))
    assert fit_calibration(x, y, "line").aicc > found.aicc
    with pytest.raises(ValueError, match="does not go through"):
        fit_calibration([1, 1, 2, 2], [1, 2, 3, 4], "table")


NORRIS = (
    (0.1, 0.2), (338.8, 337.4), (118.1, 118.2), (888.0, 884.6), (9.2, 10.1), (228.1, 226.5), (668.5, 666.3), (998.5, 996.3),
    (449.1, 448.6), (778.9, 777.0), (559.2, 558.2), (0.3, 0.4), (0.1, 0.6), (778.1, 775.5), (668.8, 666.9), (339.3, 338.0),
    (448.9, 447.5), (10.8, 11.6), (557.7, 556.0), (228.3, 228.1), (998.0, 995.8), (888.8, 887.6), (119.6, 120.2), (0.3, 0.3),
    (0.6, 0.3), (557.6, 556.8), (339.3, 339.1), (888.0, 887.2), (998.5, 999.0), (778.9, 779.0), (10.2, 11.1), (117.6, 118.3),
    (228.9, 229.2), (668.4, 669.1), (449.2, 448.9), (0.2, 0.5),
)  # fmt: skip


def test_the_certified_line_of_norris():
    """NIST StRD, linear regression, Norris (ozone monitors): data and certified values from memory; no source package of
    the registry carries them, and they agree in twelve digits.
    """
    found = fit_calibration([x for _, x in NORRIS], [y for y, _ in NORRIS], "line")
    assert found.coefficients == pytest.approx((-0.262323073774029, 1.00211681802045), rel=1e-10)
    assert found.standard_errors == pytest.approx((0.232818234301152, 0.429796848199937e-03), rel=1e-9)
    assert found.residual_sd == pytest.approx(0.884796396144373, rel=1e-10)
