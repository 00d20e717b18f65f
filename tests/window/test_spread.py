"""Temperatures and odds in the window: a heater sized, the tray used, dropped, and made so; undone."""

import pytest
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLabel
from tests.window.hands import answer, click, named, press, typed

from builders import plain
from wired_union.app.screenshots_power import sunny_roost
from wired_union.catalogue.demo import demo
from wired_union.project import edits
from wired_union.subjects.power.node import HEAT
from wired_union.subjects.power.pick import PowerPick
from wired_union.subjects.power.spread.odds import COUNT
from wired_union.subjects.power.spread.starts import COUNT as START_COUNT
from wired_union.subjects.power.spread.warm import COUNT as WARM_COUNT
from wired_union.ui.canvas import Canvas


@pytest.fixture
def view(window):
    window.go("power")
    return window.views["power"]


def told(view, name: str) -> list[str]:
    """What the rows of a table on show say."""
    QTest.qWait(20)
    canvas = next(
        c for c in view.panel.findChildren(Canvas) if c.accessibleName() == name and c.isVisibleTo(view.panel)
    )
    return [plain(r.label) for r in canvas.picture.regions]


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


def test_temperatures_and_a_day_are_told_apart_as_they_come(window, view):
    click(view.span.buttons["warmth"])
    apart = view.span.warmth.apart
    until(lambda: apart.some is not None and len(apart.some.hottest_c) == WARM_COUNT)
    said = told(view, "How warm it gets with what is not known well")
    assert any(s.startswith("Below too hot: typical") for s in said)
    assert any(s.startswith("Single H-bridge") for s in said)
    assert all("95 of 100 stay" in s for s in said)
    was = apart.some
    window.store.attempt(edits.set_knowledge, "gearmotor", "measured")
    until(lambda: apart.some is not None and apart.some is not was and len(apart.some.hottest_c) == WARM_COUNT)
    press(view.tree, "camera")
    assert apart.some is not None  # which part is selected asks for no other missions
    assert any(s.startswith("Camera") for s in told(view, "How warm it gets with what is not known well"))
    click(view.span.buttons["spread"])
    assert apart.some is None
    until(lambda: view.span.spread.warm.some is not None)
    assert any(s.startswith("Above too cold") for s in told(view, "How warm it gets"))
    assert any(s.startswith("Lasts: typical") for s in told(view, "Typical, of 95 of 100, at worst"))


def test_what_a_day_leaves_is_told_apart_and_a_fault_is_said(window, monkeypatch):
    window.hold(sunny_roost(), None)
    window.go("power")
    view = window.views["power"]
    click(view.span.buttons["sun"])
    until(lambda: view.span.sun.apart.some is not None)
    assert [s.split(":")[0] for s in told(view, "What a day leaves with what is not known well")] == [
        "A day leaves", "Left after a dark week", "Time to full"]  # fmt: skip
    click(view.span.buttons["spread"])
    until(lambda: view.span.spread.day.some is not None)
    assert told(view, "What a day leaves")[0].startswith("A day leaves: typical")
    click(view.span.buttons["mission"])
    monkeypatch.setattr("wired_union.subjects.power.spread.day.normal_draws", lambda *_: 1 / 0)
    click(view.span.buttons["sun"])
    until(lambda: any("fault of its own" in w.text() for w in view.panel.findChildren(QLabel)))


def test_an_edit_that_moves_none_of_it_lets_the_missions_go_on(window, view):
    click(view.span.buttons["spread"])
    window.store.attempt(edits.set_part_value, "controller", "price", 3.0)
    until(lambda: view.span.spread.some is not None and len(view.span.spread.some.runtime_s) == COUNT)
    assert "So far" not in view.span.spread._said.text()


def test_a_start_is_told_apart_and_in_how_many_a_controller_resets(window, view):
    click(view.span.buttons["first"])
    apart = view.span.first.apart
    until(lambda: apart.some is not None and len(apart.some.margin_v) == START_COUNT, 1500)
    assert told(view, "How far controllers dip with what is not known well")[0].startswith(
        "Above reset: typical 300 mV"
    )
    labels = [w.text() for w in view.panel.findChildren(QLabel)]
    assert any("of 200 starts a controller resets." in t and "Measure first: Radio" in t for t in labels)
    click(view.span.buttons["spread"])
    assert apart.some is None
    assert not apart.worker.running
    until(lambda: view.span.spread.starts.some is not None, 1500)
    assert told(view, "How far controllers dip")[0].startswith("Above reset: typical 300 mV")
    window.hold(demo("bat-counter"), None)  # nothing starts in it, and its controller has a margin all the same
    window.go("power")
    click(window.views["power"].span.buttons["first"])
    until(lambda: window.views["power"].span.first.apart.some is not None, 1500)
    assert told(window.views["power"], "How far controllers dip with what is not known well")[0].startswith(
        "Above reset"
    )
