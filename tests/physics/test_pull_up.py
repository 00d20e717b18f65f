"""Pull-ups of an I²C bus: the published limits, and a line charged step by step."""

import itertools

import pytest

from wired_union.physics.bus import i2c_pull_up


def test_the_published_limits():
    # NXP UM10204 §7.1, worked by hand: (3.3 − 0.4)/3 mA = 967 Ω; 300 ns/(0.8473 · 400 pF) = 885 Ω
    found = i2c_pull_up(3.3, 400e-12, 300e-9, 0.4, 0.003)
    assert found.least_ohm == pytest.approx(967, abs=0.5)
    assert found.most_ohm == pytest.approx(885, abs=0.5)


def test_a_line_charged_step_by_step_rises_as_long_as_the_formula_says():
    ohm, farad, supply, step = 2000.0, 200e-12, 3.3, 1e-11
    volts, low, high = 0.0, None, None
    for n in itertools.count():
        if low is None and volts >= 0.3 * supply:
            low = n * step
        if volts >= 0.7 * supply:
            high = n * step
            break
        volts += (supply - volts) / (ohm * farad) * step
    assert i2c_pull_up(supply, farad, high - low, 0.4, 0.003).most_ohm == pytest.approx(ohm, rel=1e-3)


def test_a_low_level_above_the_supply_is_refused():
    with pytest.raises(ValueError, match="below the supply"):
        i2c_pull_up(0.4, 100e-12, 300e-9, 0.4, 0.003)
