"""Radio links: published values, waves added up, Fresnel's integrals, packets at random times."""

import math
import warnings

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.special import fresnel

from wired_union.physics.radio import (
    antenna_match,
    antenna_pattern,
    free_space_loss,
    fresnel_clearance,
    heard_fit,
    knife_edge_loss,
    link_budget,
    lora_sensitivity,
    plane_earth_loss,
    slotted_aloha,
)


def test_values_of_methods_md():
    assert free_space_loss(1000.0, 868e6).loss_db == pytest.approx(91.2, abs=0.02)
    assert lora_sensitivity(12, 125e3, 6.0).sensitivity_dbm == pytest.approx(-137.0, abs=0.05)
    match = antenna_match(-10.0)
    assert (match.reflection, match.vswr) == (pytest.approx(0.316, abs=5e-4), pytest.approx(1.925, abs=5e-4))
    assert match.mismatch_loss_db == pytest.approx(0.458, abs=5e-4)
    budget = link_budget(14.0, 2.0, 0.0, 120.0, -125.0)
    assert (budget.received_dbm, budget.margin_db) == (pytest.approx(-104.0), pytest.approx(21.0))
    assert fresnel_clearance(500.0, 500.0, 868e6).radius_m == pytest.approx(9.29, abs=0.01)  # √(0.3454·250)


@pytest.mark.parametrize(("distance", "one", "other"), [(800.0, 0.5, 2.0), (3000.0, 1.0, 3.0), (500.0, 0.3, 1.5)])
def test_far_away_two_rays_add_up_to_the_plane_earth(distance, one, other):
    """Straight ray and the one off the ground, turned over, added as complex waves (868 MHz)."""
    wave = 299_792_458.0 / 868e6
    straight, bent = math.hypot(distance, one - other), math.hypot(distance, one + other)
    rays = np.exp(-2j * np.pi * straight / wave) / straight - np.exp(-2j * np.pi * bent / wave) / bent
    loss = -20 * math.log10(wave / (4 * math.pi) * abs(rays))
    assert plane_earth_loss(distance, 868e6, one, other).loss_db == pytest.approx(loss, abs=0.6)
    assert plane_earth_loss(2.0, 868e6, 30.0, 30.0) == free_space_loss(2.0, 868e6)


@pytest.mark.parametrize("edge", [-8.0, -3.0, 0.0, 2.0, 6.0, 15.0])
def test_an_edge_takes_what_fresnels_integrals_say(edge):
    """|½(1 + j)·∫| from ν on: ITU-R P.526's own formula, solved by scipy; the fit is good to half a decibel."""
    radius = fresnel_clearance(400.0, 600.0, 868e6).radius_m
    nu = edge * math.sqrt(2) / radius
    sine, cosine = fresnel(nu)
    exact = -20 * math.log10(math.hypot(1 - cosine - sine, cosine - sine) / 2)
    assert knife_edge_loss(edge, 400.0, 600.0, 868e6).loss_db == pytest.approx(
        max(exact, 0.0), abs=0.6 if nu > -0.78 else 1.3
    )


@given(distance=st.floats(1.0, 1e5), further=st.floats(1.0, 10.0), height=st.floats(0.1, 50.0))
def test_a_link_falls_with_distance(distance, further, height):
    near = plane_earth_loss(distance, 868e6, height, height).loss_db
    assert plane_earth_loss(distance * further, 868e6, height, height).loss_db >= near - 1e-9


@pytest.mark.parametrize("slotted", [False, True])
def test_packets_at_random_times_arrive_as_often_as_is_said(slotted):
    """Twenty nodes, a packet of 1 s each minute and a half on average; a packet is lost when another overlaps."""
    rng, nodes, every = np.random.default_rng(3), 20, 90.0
    starts = [np.sort(rng.uniform(0, 300_000, int(300_000 / every))) for _ in range(nodes)]
    if slotted:
        starts = [np.floor(s) for s in starts]
    others = np.sort(np.concatenate(starts[1:]))
    lost = [np.searchsorted(others, s + 1 - 1e-9) > np.searchsorted(others, s - 1 + 1e-9) for s in starts[0]]
    assert 1 - np.mean(lost) == pytest.approx(slotted_aloha(nodes, 1.0, every, slotted).arrives, abs=0.02)


def test_a_mismatch_is_what_scikit_rf_says():
    """Reflection, standing waves and what is lost of a load of 75 Ω on 50 Ω, by a library for microwave networks."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        import skrf

        line = skrf.media.DefinedGammaZ0(skrf.Frequency(868, 868, 1, "mhz"), z0=50)
        for load in (25.0, 75.0, 300.0):
            network = line.load((load - 50) / (load + 50))
            size, waves = float(abs(network.s[0, 0, 0])), float(network.s_vswr[0, 0, 0])
            found = antenna_match(20 * math.log10(size))
            assert (found.reflection, found.vswr) == pytest.approx((size, waves), rel=1e-9)
            assert found.mismatch_loss_db == pytest.approx(-10 * math.log10(1 - size**2), rel=1e-9)


def test_half_the_width_off_an_antenna_gives_half_its_power():
    assert antenna_pattern(30.0, 60.0).loss_db == pytest.approx(3.0)
    assert antenna_pattern(180.0, 60.0).loss_db == 25.0
    # a half-wave dipole, 78° between its directions of half power (Balanis, from memory): its own pattern 20° off
    theta = math.radians(70)
    dipole = -20 * math.log10(math.cos(math.pi / 2 * math.cos(theta)) / math.sin(theta))
    assert antenna_pattern(20.0, 78.0).loss_db == pytest.approx(dipole, abs=0.15)


@given(st.floats(-20, 40), st.floats(0.1, 6), st.integers(2, 200), st.integers(0, 1000))
def test_what_stands_in_the_way_is_found_in_what_was_heard(loss, spread, count, seed):
    worked = np.linspace(10, -10, count)
    told = heard_fit(worked.tolist(), (worked - loss + np.random.default_rng(seed).normal(0, spread, count)).tolist())
    assert abs(told.loss_db - loss) < 6 * spread / math.sqrt(count)
    assert told.standard_error_db == pytest.approx(told.spread_db / math.sqrt(count))
