"""Pulses, samples and edges: by hand, and a quantised sine of numpy against the converter's rule."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from wired_union.physics.signals import encoder_edges, pulse_time, sampling


def test_a_servo_frame_by_hand():
    found = pulse_time(50.0, 1e6, 1e-3, 2e-3)
    assert found.wait_s == pytest.approx(22e-3)
    assert found.levels == pytest.approx(1000)
    with pytest.raises(ValueError, match="fits its frame"):
        pulse_time(600.0, 1e6, 1e-3, 2e-3)


def test_a_pwm_of_20_khz_from_16_mhz_has_800_steps():
    assert pulse_time(20e3, 16e6, 0.0, 1 / 20e3).levels == pytest.approx(800)


def test_settling_of_twelve_bits_takes_nine_time_constants():
    """ln 2^13 = 9.01, the handbook's table of settling (Kester; from memory)."""
    found = sampling(12, 3.3, 10e3, 10e-12, 1e3, 100.0)
    assert found.settles_s == pytest.approx(9.01 * 10e3 * 10e-12, rel=1e-3)


@pytest.mark.parametrize("bits", [8, 10, 12])
def test_bits_of_a_full_sine_that_numpy_quantises(bits):
    step = 2.0 / 2**bits
    sine = np.sin(2 * np.pi * 997 / 65536 * np.arange(65536))
    noise = np.random.default_rng(5).normal(0, 2 * step, 65536)
    for added, rms in ((0.0, 0.0), (noise, 2 * step)):
        told = np.round((sine + added) / step) * step
        snr = 10 * math.log10(np.mean(sine**2) / np.mean((told - sine) ** 2))
        found = sampling(bits, 2.0, 0.0, 0.0, 1e3, 100.0, noise_v=rms)
        assert found.effective_bits == pytest.approx((snr - 1.76) / 6.02, abs=0.02)


def test_what_folds_is_weakened_as_a_filter_of_scipy_weakens_it():
    from scipy import signal

    _, h = signal.freqs_zpk([], [-2 * np.pi * 100] * 2, (2 * np.pi * 100) ** 2, worN=[2 * np.pi * 900])
    found = sampling(12, 3.3, 0.0, 0.0, 1000.0, 100.0, cut_off_hz=100.0, poles=2)
    assert found.folded_db == pytest.approx(-20 * math.log10(abs(h[0])), rel=1e-9)


def test_edges_of_a_magnet_behind_a_gear():
    found = encoder_edges(12, 100.0, 10e-6, 0.02)
    assert (found.edges_hz, found.apart_s, found.load) == pytest.approx((1200, 1 / 1200, 0.012))
    assert found.step_rad_s == pytest.approx(2 * math.pi / 12 / 0.02)
    assert encoder_edges(12, 0.0, 0.0, 0.02).apart_s == math.inf


@given(st.floats(1, 1e4), st.floats(0.1, 1e3), st.floats(0, 1e-3))
def test_a_faster_shaft_never_takes_less(counts, turns, service):
    slow, fast = (encoder_edges(counts, t, service, 0.02) for t in (turns, turns * 1.1))
    assert fast.apart_s < slow.apart_s
    assert fast.load >= slow.load
