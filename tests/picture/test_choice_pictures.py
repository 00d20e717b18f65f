"""Layouts of the choosing views: what is drawn where, read without a window."""

import pytest

from builders import texts
from wired_union.choose.alternatives import alternatives
from wired_union.choose.tradeoff import trade_off
from wired_union.kernel.concepts import assess_all
from wired_union.picture.shapes import Box, Kit, Poly, Ring, Text
from wired_union.picture.wire import POST
from wired_union.project.model import Question
from wired_union.subjects import assess
from wired_union.subjects.candidates.picture import SlotRow, fitting_list, refused_list, slot_list
from wired_union.subjects.candidates.picture_tradeoff import trade_off_picture
from wired_union.subjects.combination.picture import MixRow, Tick, Trail, mix_list, tick_columns, tick_list, trail_chart
from wired_union.subjects.concepts.compare import compare_concepts, open_questions
from wired_union.subjects.concepts.picture import (
    decision_picture,
    difference_picture,
    landing_picture,
    legend_picture,
    sureness_picture,
    sureness_words,
    verdict_words,
)  # fmt: skip
from wired_union.subjects.concepts.picture_questions import question_rows, risk_words
from wired_union.subjects.concepts.weighing import weigh_up

KIT = Kit()


@pytest.fixture(scope="module")
def tries(mudlark_assessed):
    return sorted(alternatives(mudlark_assessed, "battery"), key=lambda a: a.rank)


def test_a_concept_that_breaks_lies_past_the_post(mudlark):
    found = assess_all(assess(mudlark), {})
    picture = landing_picture(mudlark, found, KIT, 800)
    left = 112 + 96
    post = left + POST * (800 - left - 10)
    for region in picture.regions:
        concept, measure = region.id.split("/")
        use = found[concept].measure(measure).use
        assert (region.x + region.w / 2 > post) == (use > 1), region.label
    assert any(
        "B skid plate: Runtime 5.49 h of 5 h wanted, tight" in r.label.replace("\u202f", " ") for r in picture.regions
    )
    assert any(r.label.endswith("retired") for r in picture.regions)


def test_letters_that_would_hide_each_other_are_lifted_apart(mudlark):
    picture = landing_picture(mudlark, assess_all(assess(mudlark), {}), KIT, 800)
    for measure in {r.id.split("/")[1] for r in picture.regions}:
        mine = [r for r in picture.regions if r.id.endswith(f"/{measure}")]
        spots = [(r.x, r.y) for r in mine]
        assert all(abs(a[0] - b[0]) > 15 or abs(a[1] - b[1]) > 7 for i, a in enumerate(spots) for b in spots[:i])


def test_a_retired_concept_is_a_dashed_ring(mudlark):
    picture = legend_picture(mudlark, KIT, 800)
    rings = [s for s in picture.shapes if isinstance(s, Ring)]
    assert [bool(r.dash) for r in rings] == [False, False, True]
    assert "three wheels, retired 2026-11-09" in texts(picture)
    narrow = legend_picture(mudlark, KIT, 150)
    assert narrow.height > picture.height


def test_differences_name_their_room_once(mudlark):
    rows = compare_concepts(mudlark, mudlark.concepts[0], mudlark.concepts[1])
    picture = difference_picture(rows, KIT, 360)
    assert texts(picture).count("Drive") == 1
    assert texts(picture).count("Feed") == 1


def test_the_decision_shows_shares_scores_and_must_haves(mudlark):
    weighing = weigh_up(mudlark, {})
    picture = decision_picture(mudlark, weighing, KIT, 380)
    assert {"30 %", "15 %", "25 %", "must", "yes"} <= set(texts(picture))
    assert picture.regions[0].label.replace("\u202f", " ") == "Easy to clean, 30 %: A 5, B 8"
    first = weighing.standings[0].concept
    bar = sureness_picture(mudlark, first, weighing.overturns, KIT, 360)
    boxes = [s for s in bar.shapes if isinstance(s, Box)]
    assert boxes[0].w == pytest.approx(360 * weighing.overturns[0].share_then)
    assert "B would come first above 43 %" in sureness_words(weighing, first).replace("\u202f", " ")


def test_questions_as_rows(mudlark):
    picture = question_rows(open_questions(mudlark), KIT, 380)
    assert [r.id.split("/")[0] for r in picture.regions] == ["a", "b", "a"]
    assert risk_words(Question(id="q", question="?")) == "risk not judged yet"
    assert texts(question_rows([], KIT, 380)) == ["Nothing is left to a test."]


def test_how_a_concept_stands_in_words(mudlark_assessed):
    assert verdict_words(mudlark_assessed.measures).startswith(
        "breaks: runtime; tight: peak current, mass, drive speed, money"
    )


def test_the_trade_off_joins_what_nothing_betters(mudlark_assessed, tries):
    points = trade_off(mudlark_assessed, tries, "mass", "runtime")
    picture = trade_off_picture(points, KIT, 560, 260)
    line = next(s for s in picture.shapes if isinstance(s, Poly) and s.ink == "holds")
    assert len(line.points) == sum(p.best for p in points)
    assert [x for x, _ in line.points] == sorted(x for x, _ in line.points)
    assert len(picture.regions) == len(points)
    assert all(0 <= r.x + 8 <= 560 and 0 <= r.y + 8 <= 260 for r in picture.regions)
    assert "now" in texts(picture)
    assert any("better" in t for t in texts(picture))
    assert "No two candidates" in texts(trade_off_picture(points[:1], KIT, 560, 260))[0]


def test_ticks_that_look_alike_are_told_as_differences(mudlark):
    assessed = assess(mudlark)
    points = trade_off(assessed, list(alternatives(assessed, "mud-thermometer")), "mass", "runtime")
    shown = [t for t in texts(trade_off_picture(points, KIT, 560, 260)) if t.endswith(" s")]
    assert shown
    assert all(t.startswith(("+", "−")) or t == "0 s" for t in shown)


def test_lists_of_candidates(mudlark, tries):
    fits = [a for a in tries if not a.breaks]
    picture = fitting_list(fits, ("mass", "runtime"), KIT, 500)
    assert [r.id for r in picture.regions] == [f"try:{i}" for i in range(len(fits))]
    assert "+260 g" in texts(picture)
    refused = [a for a in tries if a.breaks]
    picture = refused_list(refused, KIT, 500)
    assert sum(s.ink == "breaks_text" for s in picture.shapes if isinstance(s, Text)) >= len(refused)
    rows = [SlotRow(mudlark.concept.needs[0], "Looked for"), SlotRow(mudlark.concept.items[0], "Drive")]
    picture = slot_list(rows, KIT, 170, chosen="gearmotor")
    assert {"LOOKED FOR", "DRIVE"} <= set(texts(picture))
    assert picture.regions[0].label == "Mud thermometer, looked for, 6 requirements"


def test_the_trail_of_a_search_shades_what_is_not_proven():
    picture = trail_chart(Trail((None, 9.0, 8.0), (6.0, 7.0, 7.5), "kg", "mass, less is better"), KIT, 500, 170)
    shade = next(s for s in picture.shapes if isinstance(s, Poly) and s.fill == "tight_soft")
    assert len(shade.points) == 4
    assert "best so far 8 kg" in texts(picture)
    assert "nothing better than 7.5 kg is left" in texts(picture)
    assert "Looking for" in texts(trail_chart(Trail((None,), (6.0,), "kg", ""), KIT, 500, 170))[0]
    close = trail_chart(Trail((8.0002, 8.0002), (8.0, 8.0001), "kg", ""), KIT, 500, 170)
    assert "the best" in texts(close)


def test_mixes_and_ticks_as_lists():
    rows = [MixRow("7.1 kg", "Pack: lighter · Motor: smaller", False), MixRow("7.3 kg", "as it stands", True)]
    picture = mix_list(rows, KIT, 400, chosen=1)
    assert {"best", "2", "in place now"} <= set(texts(picture))
    ticks = [Tick(f"t{n}", f"thing {n}", "", n % 2 == 0, "A" if n < 2 else "B") for n in range(5)]
    assert [r.label.rsplit(", ", 1)[1] for r in tick_list(ticks, KIT, 200).regions][:2] == ["ticked", "not ticked"]
    wide = tick_columns([Tick(f"t{n}", "x", "", True) for n in range(5)], KIT, 600)
    assert {r.x for r in wide.regions} == {-2.0, 600 / 2 + 7 - 2}
