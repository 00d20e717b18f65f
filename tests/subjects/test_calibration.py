"""Calibrations of whole projects: which form, how far it is off, where it is good, odd points, code that is compiled."""

import importlib.util
import math
import shutil
import subprocess

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import a_load, a_pack, a_project, plain
from wired_union.catalogue.demo import demo
from wired_union.kernel.ripple import offered
from wired_union.physics.calibration import place_of, value_of
from wired_union.picture.shapes import Kit, Ring
from wired_union.project.bench_model import Calibration, Pair
from wired_union.project.change import with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.subjects import assess
from wired_union.subjects.bench.calibrations import CALIBRATIONS, calibrated
from wired_union.subjects.bench.code import NoCode, c_code, python_code
from wired_union.subjects.bench.edits import (
    add_calibration,
    add_pairs,
    remove_calibration,
    set_calibration,
    strike_pair,
)
from wired_union.subjects.bench.paste import read_pairs
from wired_union.subjects.bench.picture_calibration import curve_words, rest_picture

TRUE = {
    "line": lambda x: 0.2 + 0.05 * x, "parabola": lambda x: 0.1 + 0.02 * x + 0.003 * x * x,
    "cubic": lambda x: 0.1 + 0.02 * x + 0.0001 * x**3, "power": lambda x: 0.4 * x**0.6,
    "exponential": lambda x: 3 * math.exp(-0.08 * x), "saturating": lambda x: 2 * (1 - math.exp(-0.15 * x)),
    "reciprocal": lambda x: 0.3 + 31.5 / (x + 4.5), "table": lambda x: float(np.interp(x, (2, 16, 30), (0.2, 1.0, 4.0))),
}  # fmt: skip


def points(form, noise=0.002, seed=1, **figures):
    draw = np.random.default_rng(seed)
    return tuple(
        Pair(known=float(x), reading=TRUE[form](x) + draw.normal(0, noise), **figures) for x in range(2, 32, 2)
    )


def a_cal(pairs, **figures):
    return Calibration(id="c", name="Range", **{"unit": "cm", "reading_unit": "V", **figures}, pairs=tuple(pairs))


def a_bench(calibration):
    return with_concept(a_project(a_pack(), a_load("eye", 0.01)), calibrations=(calibration,))


@pytest.mark.parametrize("form", TRUE)
def test_what_comes_out_is_off_by_no_more_than_is_said_95_times_of_100(form):
    """Three hundred calibrations, each with a new reading of its own, turned into a quantity by the curve's inverse."""
    draw, inside = np.random.default_rng(9), 0
    for seed in range(300):
        c = calibrated(a_cal(points(form, seed=seed), form=form))
        x = float(draw.uniform(5, 27))
        found = place_of(form, c.fit.coefficients, TRUE[form](x) + draw.normal(0, 0.002), *c.ends)
        inside += found is not None and abs(found - x) <= c.error_at(x)
    assert 0.91 <= inside / 300 <= 0.99
    assert c.worst == max(e for _, e in c.errors)


def test_a_curve_that_turns_back_gives_no_quantity_and_is_unknown():
    pairs = [Pair(known=float(x), reading=float((x - 5) ** 2)) for x in range(11)]
    assessed = assess(a_bench(a_cal(pairs, form="parabola", wanted=1.0)))
    assert assessed.measure("error:c").verdict == "unknown"
    assert assessed.of(CALIBRATIONS)[0].worst is None
    (finding,) = [f for f in assessed.findings if f.subject == "bench"]
    assert finding.check == "calibration-gap"
    with pytest.raises(NoCode, match="turns back"):
        c_code(assessed.of(CALIBRATIONS)[0])


@pytest.mark.parametrize("pole", [4.5, 0.5, 8.5])
def test_no_curve_blows_up_between_its_points(pole):
    """1/(x + c) with its pole inside would go through many a row of points."""
    pairs = [Pair(known=float(x), reading=1 / (x - pole)) for x in range(10)]
    for form in ("best", "reciprocal"):
        c = calibrated(a_cal(pairs, form=form))
        inside = c.form == "reciprocal" and 0 <= -c.fit.coefficients[2] <= 9
        assert not inside or c.worst is None


def test_few_points_are_not_a_calibration():
    c = calibrated(a_cal(points("line")[:3]))
    assert c.missing == ("Range: 4 points at least; 3 are there",)
    assert c.verdict is None
    assert calibrated(a_cal(points("line")[:3], wanted=1.0)).verdict == "unknown"


def test_where_it_stops_being_good_enough_is_said():
    errors = [e for _, e in calibrated(a_cal(points("reciprocal"))).errors]
    wanted = sorted(errors)[len(errors) // 2]
    project = a_bench(a_cal(points("reciprocal"), wanted=wanted))
    c = assess(project).of(CALIBRATIONS)[0]
    low, high = c.good
    assert low == c.ends[0] and low < high < c.ends[1]
    assert c.error_at(high) <= wanted < c.error_at(high + (c.ends[1] - c.ends[0]) / 60)
    assert "calibration" in {f.check for f in assess(project).findings}
    wide = set_calibration(project, value_id="c", wanted=500.0).after
    assert "calibration" not in {f.check for f in assess(wide).findings}


def test_an_odd_point_is_told_and_struck_out_by_hand_alone():
    pairs = list(points("line"))
    pairs[7] = pairs[7].but(reading=pairs[7].reading + 0.2)
    assessed = assess(a_bench(a_cal(pairs)))
    (finding,) = [f for f in assessed.findings if f.check == "odd-point"]
    assert finding.title == "Range: point 8 lies far off"
    assert len(assessed.of(CALIBRATIONS)[0].pairs) == 15  # it counts until somebody says why not
    (strike, words), _ = offered(assessed, finding)
    assert (strike.label, words) == ("strike it out", "then holds")
    after = assess(strike.change.after)
    assert after.of(CALIBRATIONS)[0].worst < assessed.of(CALIBRATIONS)[0].worst
    assert strike.change.after.concept.calibrations[0].pairs[7].struck == "far off the others"


def test_points_far_off_may_be_left_out_and_are_told_all_the_same():
    pairs = list(points("line"))
    pairs[7] = pairs[7].but(reading=pairs[7].reading + 0.2)
    pairs[3] = pairs[3].but(reading=pairs[3].reading - 0.1)
    clean = calibrated(a_cal([p for n, p in enumerate(pairs) if n not in {3, 7}], form="line"))
    robust = calibrated(a_cal(pairs, form="line", far_off="left out"))
    assert robust.fit == clean.fit
    assert robust.odd == (4, 8)
    assert "2 points far off left out" in curve_words(robust)
    findings = [
        f for f in assess(a_bench(a_cal(pairs, form="line", far_off="left out"))).findings if f.check == "odd-point"
    ]
    assert all("left out of the curve" in f.why for f in findings)
    assert len(findings) == 2
    assert calibrated(a_cal(pairs, form="line")).worst > 3 * robust.worst
    wild = [p.but(reading=p.reading + (0.5 if n % 3 == 0 else 0.0)) for n, p in enumerate(points("line"))]
    assert len(calibrated(a_cal(wild, form="line", far_off="left out")).counted) >= 12  # no more than a fifth


def test_sittings_and_repeats_are_told_apart():
    """Pooled spread of pairs of readings: √(Σd²/2n); a shift of 50 mV between two sittings."""
    up, down = points("line", 0.0, session="up"), tuple(
        p.but(reading=p.reading + 0.05, session="down") for p in points("line", 0.0))  # fmt: skip
    c = calibrated(a_cal((*up, *down)))
    assert c.sessions["down"] - c.sessions["up"] == pytest.approx(0.05)
    assert c.repeat == pytest.approx(0.05 / math.sqrt(2))
    assert "sittings are 50 mV apart" in plain(curve_words(c))
    assert calibrated(a_cal(up)).repeat is None


@given(st.sampled_from(sorted(TRUE)), st.sampled_from((1e-3, 1e3)))
@settings(max_examples=20, deadline=None)
def test_units_changed_change_nothing(form, factor):
    one = calibrated(a_cal(points(form), form=form))
    scaled = [p.but(known=p.known * factor) for p in points(form)]
    other = calibrated(a_cal(scaled, form=form))
    assert other.worst == pytest.approx(one.worst * factor, rel=1e-4)


@pytest.mark.skipif(shutil.which("gcc") is None, reason="no C compiler here")
@pytest.mark.parametrize("form", TRUE)
def test_the_functions_in_c_and_python_say_what_the_program_says(form, tmp_path):
    c = calibrated(a_cal(points(form, 0.0005), form=form))
    (tmp_path / "cal.h").write_text(c_code(c), encoding="utf-8")
    (tmp_path / "main.c").write_text(
        '#include <stdio.h>\n#include <stdlib.h>\n#include "cal.h"\nint main(int n, char **v) {'
        ' for (int i = 1; i < n; i++) printf("%.17g\\n", range_of(atof(v[i]))); return 0; }\n', encoding="utf-8")  # fmt: skip
    subprocess.run(["gcc", "-Wall", "-Werror", "-std=c99", "-o", "cal", "main.c", "-lm"], cwd=tmp_path, check=True)
    (tmp_path / "cal.py").write_text(python_code(c), encoding="utf-8")
    spec = importlib.util.spec_from_file_location("cal", tmp_path / "cal.py")
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    places = [3.0, 7.5, 16.0, 29.5]
    readings = [module.sensor_says(x) for x in places]
    told = subprocess.run(
        [str(tmp_path / "cal"), *map(repr, readings), "1e9"], capture_output=True, text=True, check=True
    )
    in_c = [float(line) for line in told.stdout.split()]
    assert in_c[:-1] == pytest.approx(places, rel=1e-9)
    assert math.isnan(in_c[-1])
    assert [module.range_of(r) for r in readings] == pytest.approx(places, rel=1e-9)
    assert module.range_of(1e9) is None
    assert (*c.ends, c.worst) == (module.LOW, module.HIGH, module.ERROR)


def test_points_are_read_from_a_sheet_kept_and_struck(tmp_path):
    project = add_calibration(a_project(a_pack()), name="Range").after
    cal = set_calibration(project, value_id="range", unit="m", reading_unit="V").after.concept.calibrations[0]
    found = read_pairs(cal, "distance;volts;when\n10 cm;2.2;up\n0.2;1.5 V;down\n")
    assert [(p.known, p.reading, p.session) for p in found] == [(0.1, 2.2, "up"), (0.2, 1.5, "down")]
    with pytest.raises(ProjectError, match="Line 2"):
        read_pairs(cal, "1;2\n3;four\n")
    with pytest.raises(ProjectError, match="Line 1"):
        read_pairs(cal, "1\n")
    project = add_pairs(project, "range", found).after
    struck = strike_pair(project, "range", 1, "slipped").after
    assert [p.struck for p in struck.concept.calibrations[0].pairs] == ["slipped", ""]
    assert strike_pair(struck, "range", 1, "").after == project
    for edit in (lambda: remove_calibration(project, "range"), lambda: add_pairs(project, "range", []),
                 lambda: strike_pair(project, "range", 3, "x")):  # fmt: skip
        with pytest.raises(ProjectError):
            edit()
    assert from_text(to_text(project), tmp_path / "x") == project
    empty = add_calibration(a_project(a_pack()), name="Range").after
    assert remove_calibration(empty, "range").after.concept.calibrations == ()


def test_the_demo_has_a_probe_that_is_good_to_thirty_six():
    (c,) = assess(demo()).of(CALIBRATIONS)
    assert c.good[1] == pytest.approx(36.1, abs=0.2)
    assert assess(demo()).measure("error:salinity").value == pytest.approx(1.71, abs=0.01)


def test_what_is_left_is_drawn_where_it_is():
    pairs = [p.but(session="up" if n % 2 else "down") for n, p in enumerate(points("line"))]
    c = calibrated(a_cal(pairs, form="line"))
    picture = rest_picture(c, Kit(), 640)
    rings = [s for s in picture.every if isinstance(s, Ring)]
    assert len(rings) == 15
    assert len({s.ink for s in rings}) == 2
    left = [p.reading - value_of("line", c.fit.coefficients, p.known) for p in c.pairs]
    order = sorted(range(15), key=lambda n: left[n])
    assert order == sorted(range(15), key=lambda n: -rings[n].y)  # upwards is more
    assert rest_picture(calibrated(a_cal(pairs[:2])), Kit(), 640).height >= 0
    flat = [Pair(known=float(x), reading=2.0 * x) for x in range(6)]
    assert rest_picture(calibrated(a_cal(flat, form="line")), Kit(), 640).height > 0
