"""Ways driven by counting in whole projects: by hand, a thousand drives step by step, corrections, remedies that help."""

import math

import numpy as np
import pytest

from builders import a_project
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered
from wired_union.picture.shapes import Kit, rough_ruler
from wired_union.project.way_model import Way
from wired_union.subjects import assess
from wired_union.subjects.timing.picture_way import way_picture
from wired_union.subjects.timing.ways import WAYS, off_at, others_of, way_words

WHEELS = {"track_m": 0.3, "wheel_unlike": 0.003, "scale_error": 0.0, "distance_m": 10.0, "most_off_m": 1.0}
GYRO = {"heading_by": "gyro", "drift_rad_s": 0.001, "speed_m_s": 0.5, "scale_error": 0.0, "most_off_m": 1.0}


def project_with(**figures):
    project = a_project()
    return project.but(concepts=(project.concept.but(ways=(Way(id="w", name="Way", **figures),)),))


def of(**figures):
    (found,) = assess(project_with(**figures)).of(WAYS)
    return found


def test_unlike_wheels_bend_the_way_by_hand():
    """0.3 % over a track of 0.3 m turn 0.01 rad a metre: after 10 m 0.1 rad, a circle of 100 m, 100·(1 − cos 0.1) beside."""
    found = of(**WHEELS)
    assert found.off.across_m == pytest.approx(100 * (1 - math.cos(0.1)))
    assert found.off.heading_deg == pytest.approx(math.degrees(0.1))
    assert found.verdict is Verdict.HOLDS
    assert of(**WHEELS | {"most_off_m": 0.4}).verdict is Verdict.BREAKS


def test_a_gyro_drifts_with_time_and_a_compass_is_off_all_the_way():
    gyro = of(**GYRO)
    assert gyro.off.across_m == pytest.approx(0.5 * 0.001 * 20 * 10, rel=1e-3)  # half of 0.02 rad after 20 s, over 10 m
    compass = of(heading_by="compass", compass_deg=10.0, scale_error=0.0, most_off_m=3.0)
    assert compass.off.across_m == pytest.approx(10 * math.sin(math.radians(10)))


def test_each_lacks_what_it_needs_and_is_unknown():
    for figures in ({}, {"track_m": 0.3}, {"heading_by": "gyro"}, {"heading_by": "compass"},
                    {**GYRO, "speed_m_s": None}, {**WHEELS, "corrected_by": "a wall"}):  # fmt: skip
        found = of(**figures)
        assert found.verdict is Verdict.UNKNOWN
        assert found.missing
    assert of(**{k: v for k, v in WHEELS.items() if k != "most_off_m"}).verdict is Verdict.UNKNOWN


def test_a_thousand_drives_end_within_the_band_as_often_as_two_sigmas_say():
    rng, steps = np.random.default_rng(3), 400
    step = 10.0 / steps
    turn = np.cumsum(rng.normal(0, 0.02 * math.sqrt(step), (2000, steps)), axis=1)
    across = (np.sin(turn) * step).sum(axis=1)
    found = of(**{**WHEELS, "wheel_unlike": 0.0, "turn_rad": 0.02})
    assert np.std(across) == pytest.approx(found.off.spread_across_m, rel=0.05)
    assert (np.abs(across) < found.off.most_across_m).mean() == pytest.approx(0.954, abs=0.02)


def test_corrections_give_back_what_they_say():
    line = of(**WHEELS, corrected_by="a line", every_m=2.0, leaves_m=0.01)
    assert line.off.across_m == pytest.approx(100 * (1 - math.cos(0.02)) + 0.01)
    beacon = of(**WHEELS, corrected_by="a beacon", every_m=2.0, leaves_m=0.01)
    # its heading goes on turning: the last two metres begin 0.08 rad off
    assert beacon.off.across_m == pytest.approx(0.01 + 100 * (math.cos(0.08) - math.cos(0.1)), rel=1e-3)
    wall = of(**{**WHEELS, "scale_error": 0.01}, corrected_by="a wall", every_m=2.0)
    assert wall.off.along_m == pytest.approx(0.1, rel=0.01)  # what it counts wrong along stays


def test_the_worst_is_never_below_any_place_on_the_way():
    for figures in (WHEELS, {**WHEELS, "corrected_by": "a line", "every_m": 3.0}, {**WHEELS, "corrected_by": "a beacon", "every_m": 4.0},
                    {**GYRO, "scale_error": -0.02, "slip_m": 0.03}):  # fmt: skip
        found = of(**figures)
        for place in np.linspace(0.05, 10.0, 67):
            off = off_at(found.way, found.speed_m_s, float(place))
            assert off.most_across_m <= found.off.most_across_m + 1e-9
            assert off.most_along_m <= found.off.most_along_m + 1e-9


def test_every_remedy_helps_and_others_say_what_each_would_leave():
    figures = {**WHEELS, "drift_rad_s": 0.0003, "speed_m_s": 0.5, "every_m": 2.0, "most_off_m": 0.2}
    before = assess(project_with(**figures))
    finding = next(f for f in before.findings if f.check == "way")
    told = offered(before, finding)
    assert {"heading by gyro", "corrected by a line", "corrected by a wall"} <= {r.label for r, _ in told}
    (now,) = before.of(WAYS)
    for words, way, off in others_of(now):
        (after,) = assess(
            project_with(**{**figures, "heading_by": way.heading_by, "corrected_by": way.corrected_by})
        ).of(WAYS)
        assert after.off.most_across_m == pytest.approx(off.most_across_m), words


def test_the_speed_is_motions_where_nothing_is_said(mudlark):
    import edits

    made = edits.add_way(mudlark, name="Out", load="drive", heading_by="gyro", drift_rad_s=0.001).after
    (found,) = [r for r in assess(made).of(WAYS) if r.way.name == "Out"]
    assert found.speed_m_s == pytest.approx(0.333, abs=0.01)


def test_pictures_and_words():
    for figures in (WHEELS, GYRO, {}, {**WHEELS, "corrected_by": "a wall", "every_m": 2.0}):
        found = of(**figures)
        assert way_picture(found, Kit(1.0, rough_ruler), 400.0).shapes
        assert way_words(found)
