"""Temperatures and odds in the window: a heater sized, the tray used, dropped, and made so; undone."""

import pytest
from PyQt6.QtTest import QTest
from tests.window.hands import answer, click, named, press, typed

from wired_union.project import edits
from wired_union.subjects.power.node import HEAT
from wired_union.subjects.power.pick import PowerPick
from wired_union.subjects.power.spread.odds import COUNT


@pytest.fixture
def view(window):
    window.go("power")
    return window.views["power"]


def until(condition, tries: int = 400) -> None:
    for _ in range(tries):
        if condition():
            return
        QTest.qWait(10)
    raise AssertionError("it did not come to pass")


def test_the_odds_are_drawn_as_they_come_and_dropped_when_the_project_moves_on(window, view):
    click(view.span.buttons["spread"])
    until(lambda: view.span.spread.some is not None and len(view.span.spread.some.runtime_s) == COUNT)
    assert "of 10,000 missions last" in view.span.spread._said.text()
    assert view.span.spread._advice.text().startswith("Measure first: Gearmotor")
    was = view.span.spread.some
    window.store.attempt(edits.set_knowledge, "gearmotor", "measured")
    until(lambda: view.span.spread.some is not None and view.span.spread.some is not was)
    until(lambda: len(view.span.spread.some.runtime_s) == COUNT)
    assert view.span.spread.some.runtime_s.std() < 0.7 * was.runtime_s.std()


def test_the_tray_shows_rings_keeps_nothing_and_is_made_so_as_one_edit(window, view):
    click(view.span.buttons["spread"])
    before = window.store.project
    view.span.spread.sliders["aged"].slider.setValue(150)
    until(lambda: window.store.preview is not None)
    assert window.store.project is before
    click(named(view, "put all back"))
    assert window.store.preview is None
    view.span.spread.sliders["payload_kg"].slider.setValue(100)
    until(lambda: window.store.preview is not None)
    click(view.span.buttons["mission"])  # elsewhere nothing of it is left
    assert window.store.preview is None
    assert window.store.project is before
    window.resize(1024, 700)
    QTest.qWait(20)  # what is hidden is laid out too
    click(view.span.buttons["spread"])
    view.span.spread.sliders["longer"].slider.setValue(200)
    click(named(view, "make it so"))
    assert window.store.project.concept.mission.duration_s == pytest.approx(1.5 * before.concept.mission.duration_s)
    window.undo()
    assert window.store.project == before


def test_a_box_gets_foam_and_a_part_is_said_to_be_in_it(window, view, monkeypatch):
    click(view.span.buttons["warmth"])
    assert view.span.canvases["warmth"].isVisible()
    press(view.tree, "camera")
    assert window.store.picked(PowerPick).node == "camera"
    answer(monkeypatch, "Hood")
    click(named(view, "+ a box with air of its own"))
    typed(view, "Hood: length", "60 mm")
    typed(view, "Hood: width", "50 mm")
    typed(view, "Hood: height", "50 mm")
    bad = typed(view, "Hood: foam", "thick")
    assert bad.text() == "thick"
    typed(view, "Hood: foam", "10 mm")
    before = next(e for e in window.store.assessment.of(HEAT).extremes if e.item.id == "camera").hottest_c
    hood = window.store.project.concept.enclosures[-1]
    view.span.warmth._set_part("camera", lambda _: None, "enclosure", hood.id)
    after = next(e for e in window.store.assessment.of(HEAT).extremes if e.item.id == "camera").hottest_c
    assert after > before + 1
    assert "camera" in {c.item for c in view.span.warmth._laid.curves}
    answer(monkeypatch, "0 h 20; 2 h -5; 5 h 10")
    click(named(view, "type a profile"))
    assert window.store.project.brief.air.kind == "typed"
    assert "air outside" in view.span.warmth.reading(view.span.canvases["warmth"].region("warm"), 200.0)
