"""Surfaces against statsmodels, folded frequencies against a spectrum."""

import math

import numpy as np
import pytest
import scipy.signal
import statsmodels.api as sm
from hypothesis import given
from hypothesis import strategies as st

from wired_union.physics.folding import folded_frequency
from wired_union.physics.surface import SURFACES, columns, fit_surface, surface_value


@pytest.mark.parametrize("form", SURFACES)
@pytest.mark.parametrize("seed", range(3))
def test_a_surface_and_its_band_are_those_of_statsmodels(form, seed):
    draw = np.random.default_rng(seed)
    x, y = draw.uniform(0, 5, 20), draw.uniform(100, 900, 20)
    z = 3 + 2 * x - 0.01 * y + 0.002 * x * y + 0.1 * x * x + draw.normal(0, 0.2, 20)
    found = fit_surface(x, y, z, form)
    theirs = sm.OLS(z, columns(form, x, y)).fit()
    assert found.coefficients == pytest.approx(tuple(theirs.params), rel=1e-6, abs=1e-9)
    assert found.residual_sd == pytest.approx(math.sqrt(theirs.mse_resid))
    ends = theirs.get_prediction().conf_int(obs=True)
    assert found.worst == pytest.approx(float((ends[:, 1] - ends[:, 0]).max() / 2), rel=1e-6)
    assert surface_value(form, found.coefficients, x[3], y[3]) == pytest.approx(theirs.fittedvalues[3])
    best = min(SURFACES, key=lambda f: fit_surface(x, y, z, f).aicc)
    assert best == "bent"


def test_points_that_do_not_decide_a_surface_are_refused():
    for bad in (([1, 2, 3], [1, 2, 3], [1, 2, 3], "plane"), ([1, 1, 1, 1], [1, 2, 3, 4], [1, 2, 3, 4], "plane"),
                ([1, 2, 3, 4], [2, 4, 6, 8], [1, 2, 3, 5], "plane"), ([1], [1], [1], "round"), ([1, 2], [1], [1], "plane")):  # fmt: skip
        with pytest.raises(ValueError, match=r"."):
            fit_surface(*bad)


@given(st.integers(1, 499), st.integers(0, 3))
def test_a_frequency_is_seen_where_the_spectrum_has_it(cycles, times):
    """A whole second of 1000 samples, so that the spectrum has a line a hertz."""
    f = cycles + 1000 * times
    spectrum = np.abs(np.fft.rfft(np.cos(2 * math.pi * f * np.arange(1000) / 1000 + 0.3)))
    assert folded_frequency(f, 1000).seen_hz == pytest.approx(int(spectrum.argmax()))
    assert folded_frequency(1000 - cycles, 1000).seen_hz == pytest.approx(cycles)


@pytest.mark.parametrize("f", [1.0, 50.0, 400.0, 10_000.0])
def test_a_filter_leaves_what_scipy_says(f):
    b, a = scipy.signal.butter(1, 2 * math.pi * 50, analog=True)
    _, h = scipy.signal.freqs(b, a, [2 * math.pi * f])
    assert folded_frequency(f, 1e6, 50.0).left == pytest.approx(abs(h[0]))
    assert folded_frequency(f, 1e6).left == 1.0


@pytest.mark.parametrize("bad", [(-1, 1), (1, 0), (1, 1, 0)])
def test_no_rate_is_refused(bad):
    with pytest.raises(ValueError, match=r"."):
        folded_frequency(*bad)
