"""Layouts are pure: shapes carry the verdict, nothing leaves its frame, regions can be found, SVG is sound."""

from functools import partial
from itertools import pairwise
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import a_limit, a_load, a_pack, a_part, a_project, plain, texts
from wired_union.catalogue.demo import demo
from wired_union.catalogue.parts import part
from wired_union.kernel.results import Measure, Verdict
from wired_union.picture.axis import ticks, time_ticks
from wired_union.picture.bars import Bar, knowledge_bars, knowledge_line, share_bars
from wired_union.picture.card import card_label, gist, part_card
from wired_union.picture.palette import DARK, LIGHT, contrast
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Ring
from wired_union.picture.strip import strip_cell
from wired_union.picture.svg import to_svg
from wired_union.picture.wire import POST, glyph, limit_words, place, wire
from wired_union.project.fresh import new_project
from wired_union.project.part_edits import add_item
from wired_union.subjects import assess
from wired_union.subjects.brief.picture import brief_row
from wired_union.subjects.mass.gives import MASS
from wired_union.subjects.mass.picture import hanging_picture
from wired_union.subjects.parts.picture_lane import lane_head, share_measure
from wired_union.subjects.power.fold import MOST_SISTERS, fold
from wired_union.subjects.power.gives import POWER
from wired_union.subjects.power.picture_mission import mission_chart
from wired_union.subjects.power.picture_tree import power_tree_picture, spots
from wired_union.subjects.power.ranges import range_of
from wired_union.subjects.power.shares import mode_flows
from wired_union.subjects.power.trace import mission_trace
from wired_union.subjects.timing.gives_times import TIMING
from wired_union.subjects.timing.picture import chain_picture, span_words
from wired_union.units import show

KIT = Kit()


def test_a_wire_that_holds_is_plain_and_ends_at_its_use():
    shapes = wire(0.5, Verdict.HOLDS, 200)
    thick = [s for s in shapes if isinstance(s, Line) and s.width == 4.0]
    assert [(s.x1, s.x2) for s in thick] == [(0, 0.5 * POST * 200)]


def test_a_tight_wire_has_three_strain_marks_near_its_end():
    end = place(0.95, 200)
    marks = [s for s in wire(0.95, Verdict.TIGHT, 200) if isinstance(s, Line) and s.x1 == s.x2 and s.ink == "tight"]
    assert len(marks) == 3
    assert all(end - 12 <= m.x1 <= end for m in marks)


def test_a_wire_that_breaks_snaps_at_the_post_and_runs_past_it():
    shapes = [s for s in wire(1.1, Verdict.BREAKS, 200) if isinstance(s, Line) and s.width == 4.0]
    post = POST * 200
    assert [s.x2 < post for s in shapes] == [True, False]
    assert shapes[1].x1 > post
    assert shapes[1].x2 == pytest.approx(1.1 * post)


def test_an_unknown_wire_is_dotted():
    assert all(s.dash for s in wire(None, Verdict.UNKNOWN, 200) if s.ink == "unknown")


def test_each_verdict_has_a_shape_of_its_own_without_its_colour():
    """Shape and word carry the verdict; colour only repeats it."""
    forms = {
        v: tuple((type(s).__name__, getattr(s, "dash", ()), round(getattr(s, "width", 0), 1)) for s in glyph(v, 17, 0))
        for v in Verdict
    }
    assert len(set(forms.values())) == 4


@given(st.floats(0, 50), st.floats(40, 400))
def test_no_wire_leaves_its_frame(use, width):
    assert 0 <= place(use, width) <= width


def test_the_ring_stands_where_the_edit_would_lead():
    before, after = Measure("m", "Mass", 7.0, "kg", 8.0), Measure("m", "Mass", 8.4, "kg", 8.0)
    cell = strip_cell(before, KIT, 200, 76, after)
    ring = next(s for s in cell.shapes if isinstance(s, Ring))
    assert ring.x == pytest.approx(14 + place(8.4 / 8.0, 200 - 26))
    assert ring.dash
    assert "then breaks" in texts(cell)


def test_the_limit_is_said_in_words():
    assert limit_words(Measure("r", "Runtime", 1.0, "s", 18000.0, "at least")).replace("\u202f", " ") == "of 5 h wanted"
    assert limit_words(Measure("r", "Mass", 1.0, "kg", 8.5)).replace("\u202f", " ") == "of 8.5 kg"
    assert limit_words(Measure("r", "Mass", 1.0, "kg")) == "no limit"


@pytest.mark.parametrize("palette", [LIGHT, DARK], ids=lambda p: p.name)
def test_text_contrast_is_at_least_four_and_a_half(palette):
    """WCAG 2.1, success criterion 1.4.3."""
    inks = ("ink", "mute", "link", "holds_text", "tight_text", "breaks_text", "unknown_text")
    for ground in ("chalk", "card", "soft"):
        for ink in inks:
            assert contrast(getattr(palette, ink), getattr(palette, ground)) >= 4.5, (ink, ground)
    for ground in ("pine", "deep"):
        assert contrast(palette.rail_ink, getattr(palette, ground)) >= 4.5
        assert contrast(palette.rail_mute, getattr(palette, ground)) >= 4.5
    assert contrast(palette.button_ink, palette.button) >= 4.5
    assert contrast("#000000", "#FFFFFF") == pytest.approx(21.0)  # WCAG 2.1, by definition


def test_cards_tell_the_gist_of_each_kind(mudlark, mudlark_assessed):
    said = {i.id: gist(i.part).replace("\u202f", " ").strip() for i in mudlark.concept.items}
    assert said["battery"] == "12.8 V 24 mΩ"
    assert said["gearmotor"] == "12 V 2.4 A peak"
    assert said["driver"] == "2 × 5 A"
    assert said["ldo"] == "3.3 V up to 300 mA"
    assert said["bus"] == "up to 15 A"
    assert said["core-tube"] == "300 × 50 × 50 mm"
    card = part_card(mudlark.concept.items[0], Verdict.TIGHT, KIT, 150)
    assert any(t.startswith("Gearmotor") and t.endswith("×4") for t in texts(card))
    assert "820 g" in texts(card)
    label = card_label(mudlark.concept.items[0], Verdict.TIGHT)
    assert "4 of them" in label
    assert label.endswith("tight")


def test_knowledge_has_a_length():
    lengths = [knowledge_line(k, 0, 0, 100, "slate").x2 for k in ("guess", "estimate", "datasheet", "measured")]
    assert lengths == sorted(lengths)
    assert lengths[-1] == 100
    assert knowledge_line("guess", 0, 0, 100, "slate").dash


def test_the_tree_has_a_column_for_each_step_and_no_two_nodes_overlap(mudlark_assessed):
    tree, flows = mudlark_assessed.of(POWER).tree, mode_flows(mudlark_assessed.of(POWER), 0)
    picture = power_tree_picture(tree, flows, KIT, 760)
    assert {r.id for r in picture.regions} == set(tree.nodes)
    by_column: dict[float, list] = {}
    for region in picture.regions:
        by_column.setdefault(region.x, []).append(region)
        assert region.x >= 0 and region.x + region.w <= 760.5
    assert len(by_column) == 5
    for regions in by_column.values():
        ordered = sorted(regions, key=lambda r: r.y)
        assert all(a.y + a.h <= b.y for a, b in pairwise(ordered))
    columns = {s.node.item.id: s.column for s in spots(fold(tree, 9, flows), 1.0)}
    assert columns["battery"] == 0
    assert columns["controller"] == 4


def test_paths_are_as_wide_as_their_watts(mudlark_assessed):
    flows = mode_flows(mudlark_assessed.of(POWER), 0)
    picture = power_tree_picture(mudlark_assessed.of(POWER).tree, flows, KIT, 760)
    ribbons = sorted(s.thick for s in picture.shapes if type(s).__name__ == "Ribbon")
    assert len(ribbons) == len(mudlark_assessed.of(POWER).tree.nodes) - 1
    assert ribbons[-1] / ribbons[-3] == pytest.approx(flows["bus"].power_w / flows["gearmotor"].power_w, rel=1e-6)


def test_far_branches_fold_where_there_is_no_room_and_open_at_the_chosen_node(mudlark_assessed):
    tree, flows = mudlark_assessed.of(POWER).tree, mode_flows(mudlark_assessed.of(POWER), 0)
    picture = power_tree_picture(tree, flows, KIT, 300)
    shown = {r.id for r in picture.regions}
    assert "battery" in shown
    assert "controller" not in shown, "three columns have room, the controller is in the fifth"
    hidden = {i for r in picture.regions for i in tree.below(r.id)} - shown
    behind = [r for r in picture.regions if "; feeds" in r.label]
    assert sum(len(tree.below(r.id)) for r in behind) == len(hidden)
    for region in behind:
        assert f"; feeds {len(tree.below(region.id))} more" in region.label
    for item_id in tree.nodes:
        opened = {r.id for r in power_tree_picture(tree, flows, KIT, 300, selected=item_id).regions}
        children = {c.item.id for c in tree.nodes[item_id].children}
        assert {item_id, *children, *([tree.source_of[item_id]] if item_id in tree.source_of else [])} <= opened


def test_a_crowd_of_small_loads_folds_into_one_row():
    names = [f"lamp{n}" for n in range(40)]
    loads = [a_load(name, 0.01 * (n + 1)) for n, name in enumerate(names)]
    result = assess(a_project(a_pack(), *loads, feeds=[("pack", n) for n in names])).of(POWER)
    flows = mode_flows(result, 0)
    marked = {"lamp3": Verdict.BREAKS}
    picture = power_tree_picture(result.tree, flows, KIT, 760, selected="lamp1", verdicts=marked)
    shown = [r for r in picture.regions if r.id in names]
    assert len(shown) == MOST_SISTERS - 1
    assert {"lamp1", "lamp3", "lamp39"} <= {r.id for r in shown}, "the chosen, what breaks, and the most watts"
    left = [n for n in names if n not in {r.id for r in shown}]
    total = sum(flows[n].current_a for n in left)
    assert f"and {len(left)} more, {total:.2f} A" in texts(picture)
    ordered = sorted((r for r in picture.regions if r.id != "pack"), key=lambda r: r.y)
    assert all(a.y + a.h <= b.y for a, b in pairwise(ordered))
    ribbons = [s for s in picture.shapes if type(s).__name__ == "Ribbon"]
    assert len(ribbons) == MOST_SISTERS


def test_a_tree_of_nothing_says_so():
    result = assess(a_project(a_part("deck"))).of(POWER)
    assert texts(power_tree_picture(result.tree, {}, KIT, 500)) == ["No pack feeds anything yet."]


def test_the_mission_chart_reads_and_its_edges_lie_between_modes(mudlark, mudlark_assessed):
    result = mudlark_assessed.of(POWER)
    pack = result.packs[0]
    chart = mission_chart(mudlark.concept, pack, mission_trace(result, pack), KIT, 760, 220)
    edges = [r for r in chart.picture.regions if r.grip == "edge"]
    assert [r.id for r in edges] == [f"edge:{i}" for i in range(5)]
    first = edges[0].x + edges[0].w / 2
    assert (first - chart.left) * chart.bar_s_per_px == pytest.approx(20 * 60, abs=1)
    reading = chart.reading(first - 2).replace("\u202f", " ")
    assert reading.startswith("19")
    assert " A, " in reading and " V, " in reading and "% left" in reading
    assert chart.reading(chart.left - 5) == ""
    assert "reserve at 4.36 h" in texts(chart.picture)
    assert "10.4 V" in texts(chart.picture)  # the cut-off line carries its figure
    inside = [s for s in chart.picture.shapes if isinstance(s, Poly)]
    assert all(chart.left - 1 <= x <= 751 and 0 <= y <= 220 for s in inside for x, y in s.points)


def test_a_mission_of_many_cycles_shows_one():
    project = demo("bat-counter")
    result = assess(project).of(POWER)
    pack = result.packs[0]
    chart = mission_chart(project.concept, pack, mission_trace(result, pack), KIT, 760, 220)
    assert any("one cycle of 24 h, 42 times" in t for t in texts(chart.picture))


def test_a_pack_that_lasts_for_weeks_has_its_curves_along_the_whole_mission():
    project = add_item(new_project("Probe"), "feed", part("pack-4s-6-ah-lifepo4")).after
    project = add_item(project, "sense", part("imu-6-axis")).after
    change = next(r.change for f in assess(project).findings for r in f.remedies if f.check == "missing")
    result = assess(change.after).of(POWER)
    pack = result.packs[0]
    assert pack.discharge.runtime_s > 50 * result.concept.mission.duration_s
    chart = mission_chart(result.concept, pack, mission_trace(result, pack), KIT, 760, 220)
    curves = [s.points for s in chart.picture.shapes if isinstance(s, Poly)]
    assert [(c[0][0], c[-1][0]) for c in curves] == [(chart.left, 750.0)] * 2


def test_hanging_bars_are_as_long_as_their_mass(mudlark, mudlark_assessed):
    picture = hanging_picture(mudlark_assessed.of(MASS), mudlark.concept, KIT, 760, 330)
    regions = {r.id: r for r in picture.regions}
    assert regions["wheel"].h / regions["core-tube"].h == pytest.approx(960 / 610, rel=1e-6)
    hatched = [s for s in picture.shapes if isinstance(s, Box) and s.hatch]
    assert len(hatched) >= 4  # allowance is told apart from known mass
    assert "No part with a mass yet." in texts(
        hanging_picture(assess(a_project()).of(MASS), a_project().concept, KIT, 500, 200)
    )


def test_chain_bars_follow_each_other_up_to_the_worst(mudlark_assessed):
    result = mudlark_assessed.of(TIMING).chains[0]
    picture = chain_picture(result, KIT, 760, 0.25, selected=2)
    dark = [s for s in picture.shapes if isinstance(s, Box) and s.fill == "plum"]
    light = [s for s in picture.shapes if isinstance(s, Box) and s.fill == "plum_soft"]
    assert len(dark) == len(light) == 7
    assert all(a.x + a.w == pytest.approx(b.x, abs=2.1) for a, b in pairwise(light))
    assert [r.id for r in picture.regions] == [f"stage:{i}" for i in range(7)]
    assert span_words(0.01, 0.02).replace("\u202f", " ") == "10–20 ms"
    assert span_words(0.0005, 0.02).replace("\u202f", " ") == "500 µs–20 ms"
    assert span_words(0.02, 0.02).replace("\u202f", " ") == "20 ms"


def test_brief_rows_and_lane_heads_say_their_figures():
    limit = a_limit("mass", 8.5)
    row = brief_row(limit, Measure("mass", "Mass", 8.02, "kg", 8.5), KIT, 780, selected=True, ring=0.9)
    assert {"mass", "8.02 kg", "tight", "at most 8.5 kg", "no proof yet"} <= set(texts(row))
    assert any(isinstance(s, Ring) for s in row.shapes)
    unknown = Measure("tip", "Tip", None, "°", 18.0, missing=("nothing informs it yet",))
    assert any(t.startswith("nothing informs") for t in texts(brief_row(limit, unknown, KIT, 780)))
    head = lane_head(
        "Drive", share_measure("power", 20.0, 24.0, "W"), share_measure("mass", 2.0, None, "kg"), KIT, (30, 8)
    )
    assert {"Drive", "power 20 W of 24 W", "mass 2 kg"} <= set(texts(head))


def test_bars_are_as_long_as_their_shares():
    picture = share_bars([Bar("Drive", 0.8, "80 %", "copper"), Bar("Think", 0.2, "20 %", "plum")], KIT, 300)
    lengths = [s.w for s in picture.shapes if isinstance(s, Box)]
    assert lengths[0] / lengths[1] == pytest.approx(4)
    assert len(texts(knowledge_bars([("guess", 0.1, "1 kg"), ("measured", 0.0, "0 g")], KIT, 300))) == 4


@pytest.mark.parametrize(("low", "high", "wanted"), [(0, 250, 9), (0, 1.8, 3), (10.2, 13.7, 3), (0, 1e-3, 5)])
def test_ticks_are_round_and_inside(low, high, wanted):
    found = ticks(low, high, wanted)
    assert 1 <= len(found) <= wanted + 2
    assert all(low <= t <= high * (1 + 1e-9) for t in found)
    assert ticks(3, 3) == [3]


@pytest.mark.parametrize(("seconds", "step"), [(18000, 3600), (7200, 1800), (600, 120), (30, 5), (42 * 86400, 864000)])
def test_time_ticks_are_whole_hours_minutes_or_days(seconds, step):
    found = time_ticks(seconds, 6)
    assert found[1] - found[0] == pytest.approx(step)


def test_what_does_not_fit_in_the_lines_there_are_ends_with_an_ellipsis():
    text = "breaks: a switch with a fuse of 5 A at the worst instant"
    lines = KIT.few_lines(text, 120, 2)
    assert len(lines) == 2
    assert lines[1].endswith("…")
    assert all(KIT.width(line, "base") <= 120 for line in lines)
    assert text.startswith(" ".join(lines)[:-1])
    assert " ".join(KIT.few_lines(text, 120, 9)) == text


def test_a_long_text_is_cut_or_wrapped_to_its_width():
    assert KIT.cut("short", 200) == "short"
    cut = KIT.cut("a rather long name of a part", 80)
    assert cut.endswith("…")
    assert KIT.width(cut, "base") <= 80
    lines = KIT.wrap("a rather long name of a part", 80)
    assert len(lines) > 1
    assert " ".join(lines) == "a rather long name of a part"


def test_svg_is_sound_and_escapes_what_people_type(mudlark_assessed):
    picture = hanging_picture(mudlark_assessed.of(MASS), mudlark_assessed.project.concept, KIT, 760, 300)
    root = ElementTree.fromstring(to_svg(picture, label='a "label" & more'))
    assert root.attrib["aria-label"] == 'a "label" & more'
    assert len(root.findall(".//{*}pattern")) == 1
    nasty = Picture(10, 10, (KIT.words(0, 5, "<script>&"),))
    assert "<script>" not in to_svg(nasty)
    ElementTree.fromstring(to_svg(nasty))


def test_a_load_that_cannot_be_fed_is_drawn_without_an_answer():
    project = a_project(a_pack(resistance_ohm=0.5), a_load("heater", 20.0, draw="power"), feeds=(("pack", "heater"),))
    result = assess(project).of(POWER)
    picture = power_tree_picture(result.tree, mode_flows(result, 0), KIT, 400)
    assert "no answer" in texts(picture)
    assert "cannot deliver" in texts(picture)


def test_under_each_link_stands_when_it_is_due_on_the_same_axis(mudlark_assessed):
    """The control task: every 20 ms, one of them where its bar begins, each for as long as it takes at the most."""
    result = next(c for c in mudlark_assessed.of(TIMING).chains if c.chain.id == "bump-to-stop")
    picture = chain_picture(result, KIT, 760, 0.25)
    bar = result.bars[4]
    assert bar.period_s == 0.02
    row = picture.regions[4]
    ticks = [s.x1 for s in picture.shapes if isinstance(s, Line) and s.ink == "slate" and row.y < s.y1 < row.y + row.h]
    span = 0.25 * 1.02
    a_second = (760 - KIT.px(84) - KIT.px(150)) / span
    assert [b - a for a, b in pairwise(ticks)] == pytest.approx([0.02 * a_second] * (len(ticks) - 1))
    begins = KIT.px(150) + bar.start_s * a_second
    assert min(abs(t - begins) for t in ticks) < 1e-6


def test_a_node_says_what_it_gets_over_all_modes_and_its_worst_moment(mudlark_assessed):
    result = mudlark_assessed.of(POWER)
    picture = power_tree_picture(result.tree, mode_flows(result, 0), KIT, 1200, ranges=partial(range_of, result))
    said = {r.id: plain(r.label) for r in picture.regions}
    for item in ("battery", "controller"):
        (low, worst), (most, hungriest) = result.lowest_v(item), result.most(item, "current_a")
        span = f"gets {show(low, 'V')} to {show(result.full_v[item], 'V')}, lowest in {worst.name}"
        assert plain(f"{span}; at most {show(most, 'A')}, in {hungriest.name}") in said[item]
    bare = a_project(a_pack(capacity_ah=None), a_load(), feeds=(("pack", "load"),))
    assert "not known" in range_of(assess(bare).of(POWER), "load")
