"""Pictures of power in depth: nothing leaves the picture at any width, and what they say is what was worked out."""

import itertools
import math

import msgspec
import numpy as np
import pytest

from builders import a_load, a_pack, a_project, plain, texts
from wired_union.app.screenshots_power import sunny_roost, tired_rover
from wired_union.catalogue.demo import demo
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Text
from wired_union.subjects import assess
from wired_union.subjects.power.first.picture import first_chart
from wired_union.subjects.power.light.picture import light_picture
from wired_union.subjects.power.node import DAY_ODDS, FIRST, HEAT, LIGHT, ODDS, WARM_ODDS
from wired_union.subjects.power.spread.picture import spread_picture
from wired_union.subjects.power.spread.told import told_of_days, told_of_missions, told_of_parts, told_of_warmth
from wired_union.subjects.power.spread.told_picture import told_picture
from wired_union.subjects.power.warmth.edits import set_air_curve
from wired_union.subjects.power.warmth.picture import curves_of, warm_chart

WIDTHS = (460.0, 760.0, 1180.0)
ROOM_PX = 3.0


def inside(picture: Picture, kit: Kit) -> None:
    """Every place of every shape is a number within the picture; every word ends in it."""
    for shape in picture.every:
        if isinstance(shape, Text):
            wide = kit.width(shape.text, "small", shape.family, shape.bold) * shape.size / kit.size("small")
            left = {"start": shape.x, "middle": shape.x - wide / 2, "end": shape.x - wide}[shape.anchor]
            assert left >= -ROOM_PX, shape.text
            assert left + wide <= picture.width + ROOM_PX, shape.text
            assert -ROOM_PX <= shape.y <= picture.height + ROOM_PX, shape.text
        elif isinstance(shape, Poly):
            assert all(math.isfinite(x) and math.isfinite(y) for x, y in shape.points)
            assert all(-ROOM_PX <= y <= picture.height + ROOM_PX for _, y in shape.points)
        elif isinstance(shape, Line):
            assert all(math.isfinite(v) for v in (shape.x1, shape.y1, shape.x2, shape.y2))
        elif isinstance(shape, Box):
            assert shape.w >= 0
            assert shape.h >= 0


@pytest.mark.parametrize("width", WIDTHS)
@pytest.mark.parametrize("make", [demo, tired_rover])
def test_a_start_stays_inside_and_tells_the_lowest_of_every_supply(make, width):
    kit, first = Kit(), assess(make()).of(FIRST)
    for start in first.starts:
        chart = first_chart(first, start, kit, width)
        inside(chart.picture, kit)
        for lane in chart.lanes:
            assert any(lane.name in t and "lowest" in t for t in texts(chart.picture))
            assert lane.lowest == min(start.course.volts[start.circuit.spots[lane.item]])


@pytest.mark.parametrize("width", WIDTHS)
@pytest.mark.parametrize("cold", [False, True])
@pytest.mark.parametrize("kind", ["steady", "day", "ramp"])
def test_temperatures_stay_inside_and_the_chosen_part_is_among_them(width, cold, kind):
    project = set_air_curve(demo(), kind=kind).after
    kit, heat = Kit(), assess(project).of(HEAT)
    for chosen in ("", "imu", "wheel"):
        chart = warm_chart(heat, kit, width, cold=cold, selected=chosen)
        inside(chart.picture, kit)
        if chosen == "imu":
            assert "imu" in {c.item for c in curves_of(heat, cold=cold, selected=chosen)}
    said = plain(chart.reading(chart.left))
    assert "air outside" in said
    assert "air in Electronics box" in said


@pytest.mark.parametrize("width", WIDTHS)
def test_charging_stays_inside_with_sun_and_without(width):
    kit = Kit()
    for project in (sunny_roost(), sunny_roost().but(brief=sunny_roost().brief.but(coldest_c=10.0))):
        light = assess(project).of(LIGHT)
        for day in light.days:
            picture = light_picture(light, day, kit, width)
            inside(picture, kit)
            assert any("in on a usual day" in t for t in texts(picture))


@pytest.mark.parametrize("width", WIDTHS)
@pytest.mark.parametrize("wanted_h", [0.5, 4.4, 40.0])
def test_odds_stay_inside_wherever_the_post_stands(width, wanted_h):
    kit, some = Kit(), assess(demo()).of(ODDS).soon
    picture = spread_picture(some, wanted_h * 3600, kit, width)
    inside(picture, kit)
    bars = [s for s in picture.every if isinstance(s, Box)]
    red = sum(b.h for b in bars if b.fill == "breaks")
    whole = sum(b.h for b in bars)
    assert red / whole == pytest.approx(float((some.runtime_s < wanted_h * 3600).mean()), abs=0.06)
    endless = msgspec.structs.replace(some, runtime_s=np.full(len(some.runtime_s), np.inf))
    assert "does not end" in " ".join(texts(spread_picture(endless, 3600.0, kit, width)))


def test_one_part_alone_draws_too():
    project = a_project(a_pack(), a_load(length_m=0.05, width_m=0.04, height_m=0.01), feeds=(("pack", "load"),))
    heat = assess(project).of(HEAT)
    inside(warm_chart(heat, Kit(), 500.0).picture, Kit())
    assert assess(project).of(FIRST).starts == ()


@pytest.mark.parametrize("scale", [1.0, 1.5])
@pytest.mark.parametrize("width", [230.0, 262.0, 360.0])
def test_what_is_told_apart_stays_in_its_columns(width, scale):
    kit, now, roost = Kit(scale), assess(demo()), assess(sunny_roost())
    warm, day, odds = now.of(WARM_ODDS).soon, roost.of(DAY_ODDS).soon, now.of(ODDS)
    rows = [*told_of_missions(odds.soon, odds, now.project.brief), *told_of_parts(warm, "camera"),
            *told_of_warmth(warm, now.of(HEAT), now.project.brief), *told_of_days(day, roost.project.brief)]  # fmt: skip
    picture = told_picture(rows, kit, width)
    inside(picture, kit)
    lines: dict[float, list[tuple[float, float]]] = {}
    for text in (s for s in picture.every if isinstance(s, Text)):
        wide = kit.width(text.text, "small", text.family, text.bold)
        left = text.x - wide if text.anchor == "end" else text.x
        lines.setdefault(text.y, []).append((left, left + wide))
    for spans in lines.values():
        spans.sort()
        assert all(a[1] <= b[0] + 1 for a, b in itertools.pairwise(spans))
    assert [r.label for r in picture.regions] == [r.said for r in rows]
