"""A hull that leans: its metacentre against buoyancy integrated over a million cells."""

import math

import numpy as np
import pytest

from wired_union.physics.floating import float_stability, list_angle


def righting_m(width, height, mass, centre, lean_rad):
    """Lever of a leaning box of 1 m of length by its submerged cells: where buoyancy acts, less where weight does."""
    y, z = np.meshgrid((np.arange(1200) + 0.5) / 1200 * width - width / 2, (np.arange(1200) + 0.5) / 1200 * height)
    across, up = y * math.cos(lean_rad) - z * math.sin(lean_rad), y * math.sin(lean_rad) + z * math.cos(lean_rad)
    cell = width * height / y.size * 1000.0
    level = np.sort(up.ravel())[int(mass / cell)]
    wet = up < level
    return float(across[wet].mean() + centre * math.sin(lean_rad))


@pytest.mark.parametrize(("mass", "centre"), [(6.0, 0.05), (12.0, 0.08), (20.0, 0.12)])
def test_a_leaning_box_rights_itself_as_its_metacentre_says(mass, centre):
    """For a little lean the lever is GM·sin φ: buoyancy integrated over a million cells of a box of 1 m."""
    lean = math.radians(1.0)
    found = float_stability(mass, 1.0, 0.3, 0.15, centre)
    lever = righting_m(0.3, 0.15, mass, centre, -lean)
    assert abs(lever) == pytest.approx(abs(found.metacentre_across_m) * math.sin(lean), rel=0.03)
    assert found.draught_m == pytest.approx(mass / 300.0)


@pytest.mark.parametrize(("mass", "centre", "beside"), [(12.0, 0.05, 0.01), (20.0, 0.08, 0.015), (20.0, 0.1, 0.01)])
def test_a_box_leans_until_its_buoyancy_is_under_its_weight(mass, centre, beside):
    """At the angle found, buoyancy integrated cell by cell acts right under a centre of mass that is beside the middle."""
    upright = float_stability(mass, 1.0, 0.3, 0.15, centre)
    found = list_angle(upright.metacentre_across_m, upright.draught_m, 0.3, beside)
    assert found.goes_down_m < min(upright.draught_m, upright.freeboard_m)
    lean = math.radians(found.lean_deg)
    lever = abs(righting_m(0.3, 0.15, mass, centre, -lean))
    assert lever == pytest.approx(beside * math.cos(lean), rel=0.01)
    assert found.goes_down_m == pytest.approx(0.15 * math.tan(lean))
    straight = math.degrees(math.atan(beside / upright.metacentre_across_m))
    assert found.lean_deg < straight  # sides that stand upright stiffen it
    assert list_angle(upright.metacentre_across_m, upright.draught_m, 0.3, 0.0).lean_deg == 0.0


@pytest.mark.parametrize("figures", [(0, 1, 1, 1, 0), (1, 1, 1, 1, 0, 1.5), (1, 1, -1, 1, 0)])
def test_what_is_no_hull_is_refused(figures):
    with pytest.raises(ValueError, match="above 0"):
        float_stability(*figures)
