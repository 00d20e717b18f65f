"""Cells that are cool or worn against figures worked by hand and an Arrhenius law; fuses at a start."""

import math

import numpy as np
import pytest

from wired_union.physics.cell_state import cool_cell, worn_cell
from wired_union.physics.fuse import fuse_bears, fuse_start
from wired_union.physics.method import Impossible

GAS_J_PER_MOL_K = 8.314462618


def test_a_cool_cell_gives_less_through_more():
    """Both ends as declared; halfway 1 − 0.15/2 and √2. 44 kJ/mol doubles a rate over 0 to 10 °C (Arrhenius)."""
    assert cool_cell(0.0, 0.85, 2.0).capacity_share == pytest.approx(0.85)
    assert cool_cell(0.0, 0.85, 2.0).resistance_times == pytest.approx(2.0)
    assert cool_cell(5.0, 0.85, 2.0).capacity_share == pytest.approx(0.925)
    assert cool_cell(5.0, 0.85, 2.0).resistance_times == pytest.approx(math.sqrt(2))
    assert cool_cell(31.0, 0.85, 2.0).capacity_share == 1.0
    energy = GAS_J_PER_MOL_K * math.log(2) / (1 / 273.15 - 1 / 283.15)
    assert energy == pytest.approx(44e3, rel=0.02)
    for c in (2.0, 7.0):
        law = math.exp(energy / GAS_J_PER_MOL_K * (1 / (273.15 + c) - 1 / 283.15))
        assert cool_cell(c, 0.85, 2.0).resistance_times == pytest.approx(law, rel=0.01)
    for wrong in ((-1.0, 0.85, 2.0), (5.0, 0.0, 2.0), (5.0, 0.85, 0.9)):
        with pytest.raises(Impossible):
            cool_cell(*wrong)


def test_a_worn_cell_ends_its_life_with_a_fifth_less_and_twice_the_resistance():
    assert worn_cell(0.0).resistance_times == 1.0
    assert (worn_cell(0.2).capacity_share, worn_cell(0.2).resistance_times) == (pytest.approx(0.8), pytest.approx(2.0))
    with pytest.raises(Impossible):
        worn_cell(1.0)


def test_a_fuse_is_nearest_to_opening_where_a_start_has_lasted_too_long_not_where_it_is_highest():
    """30 A for an instant is 1.7 times what 10 A bears for 0.2 s; dying away with 20 s, 29 A flow for 0.75 s.

    Against a dense grid of currents. A start that is over at once counts for 0.2 s: ISO 8820-3, from memory.
    """
    slow, quick = fuse_start(10.0, 30.0, 2.0, 20.0), fuse_start(10.0, 30.0, 2.0, 1e-3)
    assert quick.share == pytest.approx(30.0 / fuse_bears(10.0, 0.2).current_a)
    assert quick.time_s == 0.2
    levels = np.linspace(2.01, 30.0, 4000)
    dense = max(a / fuse_bears(10.0, max(0.2, 20.0 * np.log(28.0 / (a - 2.0)))).current_a for a in levels)
    assert slow.share == pytest.approx(dense, rel=0.02)
    assert slow.share > quick.share
    with pytest.raises(ValueError, match="no less"):
        fuse_start(10.0, 1.0, 2.0, 0.1)
