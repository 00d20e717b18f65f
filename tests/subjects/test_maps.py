"""Analogue chains against samples drawn and converted one by one; surfaces, their sheets and their code."""

import importlib.util
import math
import shutil
import subprocess

import numpy as np
import pytest

from builders import a_pack, a_project, plain
from wired_union.kernel.ripple import offered
from wired_union.picture.shapes import Kit, Line
from wired_union.project.bench_model import AnalogueChain, Surface, SurfacePoint
from wired_union.project.change import with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.subjects import assess
from wired_union.subjects.bench.chains import chained
from wired_union.subjects.bench.code import NoCode
from wired_union.subjects.bench.code_surface import surface_c, surface_python
from wired_union.subjects.bench.map_edits import (
    add_chain,
    add_points,
    add_surface,
    read_points,
    remove_chain,
    remove_surface,
    set_chain,
    strike_point,
)
from wired_union.subjects.bench.picture_maps import chain_picture, chain_words, surface_picture, surface_words
from wired_union.subjects.bench.surfaces import surfaced

USUAL = {"volts_per_unit": 0.2, "reference_v": 3.3, "bits": 12, "noise_v": 0.004, "sample_hz": 200.0, "fastest_hz": 2.0}


def a_chain(**figures):
    return AnalogueChain(id="c", name="Pack voltage", unit="V", **USUAL | figures)


def in_project(**rooms):
    return with_concept(a_project(a_pack()), **rooms)


@pytest.mark.parametrize("figures", [
    {}, {"averaged": 16}, {"bits": 8}, {"bits": 8, "averaged": 25, "noise_v": 0.02}, {"hum_hz": 450.0, "hum_v": 0.03},
    {"hum_hz": 450.0, "hum_v": 0.03, "corner_hz": 20.0}, {"volts_per_unit": -0.2, "offset_v": 3.0},
])  # fmt: skip
def test_readings_are_off_by_no_more_than_is_said_as_often_as_is_said(figures):
    """A converter played through: voltage, noise, hum at any phase, steps, averaging."""
    c, draw, n = chained(a_chain(**figures)), np.random.default_rng(5), 20_000
    chain = c.chain
    true = draw.uniform(*(np.array(c.reaches) * 0.8 + np.mean(c.reaches) * 0.2), n)
    volts = chain.offset_v + true * chain.volts_per_unit
    times = draw.uniform(0, 1, n)[:, None] + np.arange(chain.averaged) / chain.sample_hz
    hum = np.zeros_like(times)
    if chain.hum_hz:
        left = 1 / math.hypot(1, chain.hum_hz / chain.corner_hz) if chain.corner_hz else 1.0
        hum = chain.hum_v * left * np.sin(2 * math.pi * chain.hum_hz * times + draw.uniform(0, 6.3, n)[:, None])
    seen = volts[:, None] + draw.normal(0, chain.noise_v, times.shape) + hum
    step = chain.reference_v / 2**chain.bits
    read = (np.round(seen / step) * step).mean(axis=1)
    off = abs((read - chain.offset_v) / chain.volts_per_unit - true)
    assert float((off <= c.error).mean()) >= 0.945
    if chain.hum_hz is None:
        assert float(off.std(ddof=0) ** 2 + off.mean() ** 2) ** 0.5 == pytest.approx(c.noise, rel=0.06)
    assert c.folded is None or c.folded.seen_hz == pytest.approx(50.0)  # 450 Hz in 200 samples a second


@pytest.mark.parametrize("field", [*USUAL, "hum_v"])
def test_what_is_missing_makes_it_unknown(field):
    chain = a_chain(**{"hum_hz": 50.0, "hum_v": 0.1} | {field: None}, wanted=9.0)
    c = chained(chain)
    assert len(c.missing) == 1
    assert (c.error, c.verdict) == (None, "unknown")
    assessed = assess(in_project(analogue_chains=(chain,)))
    assert assessed.measure("error:c").value is None
    assert "chain-gap" in {f.check for f in assessed.findings}
    assert chain_picture(c, Kit(), 600).height > 0
    assert chain_words(c).startswith("Not known yet")
    assert chained(a_chain(volts_per_unit=0.0)).missing


def test_a_chain_that_is_too_coarse_has_ways_out_that_help():
    chain = a_chain(hum_hz=20_000.0, hum_v=0.02, wanted=0.05)
    assessed = assess(in_project(analogue_chains=(chain,)))
    (finding,) = [f for f in assessed.findings if f.check == "chain"]
    ways = [(r, w) for r, w in offered(assessed, finding) if r.change is not None]
    assert [w for _, w in ways] == ["then holds"]
    assert assess(ways[0][0].change.after).measure("error:c").value <= 0.05
    noisy = a_chain(noise_v=0.05, wanted=0.1)
    assessed = assess(in_project(analogue_chains=(noisy,)))
    (finding,) = [f for f in assessed.findings if f.check == "chain"]
    (average, words), *_ = offered(assessed, finding)
    assert (plain(average.label), words) == ("average 25 samples", "then holds")
    count = average.change.after.concept.analogue_chains[0].averaged
    assert chained(noisy.but(averaged=count - 1)).error > 0.1
    hopeless = a_chain(bits=4, noise_v=0.0, wanted=0.01)
    assert chained(hopeless).averaged_that_does() is None  # steps that no noise hides do not average out


def test_too_few_samples_and_a_filter_that_takes_too_much_are_told():
    checks = {f.check: f for f in assess(in_project(analogue_chains=(a_chain(fastest_hz=30.0),))).findings}
    assert "seen with few samples" in checks["chain-slow"].what
    folds = assess(in_project(analogue_chains=(a_chain(fastest_hz=150.0),)))
    (slow,) = [f for f in folds.findings if f.check == "chain-slow"]
    assert "folds" in slow.what
    after = assess(slow.remedies[0].change.after)
    assert "chain-slow" not in {f.check for f in after.findings}
    assert "chain-filter" in {f.check for f in assess(in_project(analogue_chains=(a_chain(corner_hz=2.0),))).findings}
    assert "chain-filter" not in {
        f.check for f in assess(in_project(analogue_chains=(a_chain(corner_hz=20.0),))).findings
    }


def a_surface(noise=0.1, **figures):
    draw = np.random.default_rng(2)
    points = tuple(
        SurfacePoint(x=float(x), y=float(y), value=2 + 0.3 * y + 0.9 * x - 0.04 * x * y + draw.normal(0, noise))
        for x in range(2, 20, 3)
        for y in range(6, 14, 2)
    )
    return Surface(id="s", name="Grip force", unit="N", **figures, points=points)


def test_a_surface_is_of_the_form_that_explains_most_with_least():
    s = surfaced(a_surface())
    assert s.form == "twisted"
    assert s.fit.coefficients == pytest.approx((2, 0.9, 0.3, -0.04), abs=0.4)
    assert "best of 3 forms" in surface_words(s)
    assert surfaced(a_surface(form="plane")).form == "plane"
    draw, inside = np.random.default_rng(8), 0
    for _ in range(300):
        x, y = draw.uniform(2, 17), draw.uniform(6, 12)
        inside += abs(s.value(x, y) - (2 + 0.3 * y + 0.9 * x - 0.04 * x * y + draw.normal(0, 0.1))) <= s.error
    assert inside / 300 >= 0.92
    wish = assess(in_project(surfaces=(a_surface(wanted=0.01),)))
    assert "surface" in {f.check for f in wish.findings}
    assert wish.measure("error:s").value == s.error


def test_a_surface_of_too_few_points_is_unknown():
    few = a_surface().but(points=a_surface().points[:3], wanted=9.0)
    s = surfaced(few)
    assert (s.error, s.verdict) == (None, "unknown")
    assessed = assess(in_project(surfaces=(few,)))
    assert assessed.measure("error:s").missing
    assert "surface-gap" in {f.check for f in assessed.findings}
    with pytest.raises(NoCode, match="Nothing was written"):
        surface_c(s)
    for points in (few.points, (), few.points[:1]):
        assert surface_picture(surfaced(few.but(points=points)), Kit(), 600).height > 0


def test_lines_of_one_value_lie_where_the_surface_has_it():
    s = surfaced(a_surface())
    picture = surface_picture(s, Kit(), 800)
    lines = [x for x in picture.every if isinstance(x, Line) and x.ink == "moss"]
    (x0, x1), (y0, y1) = s.ends
    dx, dy = 0.05 * (x1 - x0), 0.05 * (y1 - y0)
    left, right, high = 62.0, 786.0, 220.0

    def height(line):
        x = (x0 - dx) + (line.x1 - left) / (right - left) * (x1 - x0 + 2 * dx)
        y = (y0 - dy) + (high - line.y1) / high * (y1 - y0 + 2 * dy)
        return s.value(x, y)

    assert len(lines) > 100
    assert all(abs(height(line) - round(height(line))) < 0.05 for line in lines)  # levels of whole newtons


@pytest.mark.skipif(shutil.which("gcc") is None, reason="no C compiler here")
def test_a_surface_in_c_and_python_says_what_the_program_says(tmp_path):
    s = surfaced(a_surface(form="bent"))
    (tmp_path / "map.h").write_text(surface_c(s), encoding="utf-8")
    (tmp_path / "main.c").write_text('#include <stdio.h>\n#include <stdlib.h>\n#include "map.h"\nint main(int n, char **v) {'
                                     ' for (int i = 1; i + 1 < n; i += 2) printf("%.17g\\n", grip_force_at(atof(v[i]), atof(v[i + 1])));'
                                     " return 0; }\n", encoding="utf-8")  # fmt: skip
    subprocess.run(["gcc", "-Wall", "-Werror", "-std=c99", "-o", "map", "main.c", "-lm"], cwd=tmp_path, check=True)
    (tmp_path / "surface.py").write_text(surface_python(s), encoding="utf-8")
    spec = importlib.util.spec_from_file_location("surface", tmp_path / "surface.py")
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    places = [(2.0, 6.0), (9.5, 8.25), (17.0, 12.0)]
    told = subprocess.run([str(tmp_path / "map"), *(repr(v) for p in [*places, (99.0, 7.0)] for v in p)],
                          capture_output=True, text=True, check=True)  # fmt: skip
    in_c = [float(line) for line in told.stdout.split()]
    assert in_c[:-1] == pytest.approx([s.value(*p) for p in places], rel=1e-12)
    assert math.isnan(in_c[-1])
    assert [module.grip_force_at(*p) for p in places] == pytest.approx(in_c[:-1])
    assert module.grip_force_at(99.0, 7.0) is None
    assert s.error == module.ERROR


def test_points_come_as_lines_or_as_a_table():
    surface = Surface(id="s", name="S", unit="N", x_unit="mm")
    lines = read_points(surface, "x;y;force\n10 mm;2;3\n20;2;4\n")
    assert [(p.x, p.y, p.value) for p in lines] == [(10, 2, 3), (20, 2, 4)]
    table = read_points(surface, "\t10\t20\t30\n5\t1\t2\t\n6\t3\t4\t5\n")
    assert [(p.x, p.y, p.value) for p in table] == [(10, 5, 1), (20, 5, 2), (10, 6, 3), (20, 6, 4), (30, 6, 5)]
    for text in ("1;2\n", "1;2;x\n3;4;5\n", "\t1\t2\t3\n5\tx\t2\t3\n"):
        with pytest.raises(ProjectError, match="Line"):
            read_points(surface, text)


def test_edits_go_there_and_back(tmp_path):
    project = add_surface(add_chain(a_project(a_pack()), name="Volts").after, name="Volts").after
    assert project.concept.surfaces[0].id == "volts-2"  # one name for one measure
    project = add_points(project, "volts-2", a_surface().points[:2]).after
    project = set_chain(project, value_id="volts", bits=10).after
    assert from_text(to_text(project), tmp_path / "x") == project
    struck = strike_point(project, "volts-2", 1, "slipped").after
    assert len(surfaced(struck.concept.surfaces[0]).points) == 1
    assert strike_point(struck, "volts-2", 1, "").after == project
    assert remove_chain(project, value_id="volts").after.concept.analogue_chains == ()
    for edit in (lambda: remove_surface(project, "volts-2"), lambda: add_points(project, "volts-2", []),
                 lambda: strike_point(project, "volts-2", 9, "x"), lambda: set_chain(project, value_id="volts", bits=0)):  # fmt: skip
        with pytest.raises(ProjectError):
            edit()
    empty = add_surface(a_project(a_pack()), name="S").after
    assert remove_surface(empty, "s").after.concept.surfaces == ()
