"""The first half second in the window: four motors reset the controller, started apart they do not; then undone."""

import pytest
from tests.window.hands import click, named, typed

from wired_union.project import edits
from wired_union.subjects.power.node import FIRST
from wired_union.subjects.power.pick import PowerPick


@pytest.fixture
def view(window):
    """The demo on a tired pack of two cells, its controller on a small regulator of its own at the pack."""
    project = window.store.project
    for path, value in (("pack.series", 3), ("pack.cell_resistance_ohm", 0.2)):
        project = edits.set_part_value(project, "battery", path, value).after
    window.hold(project, None)
    window.go("power")
    return window.views["power"]


def resets(window) -> list[str]:
    return [f.id for f in window.store.assessment.findings if f.check == "resets"]


def test_starts_are_moved_apart_until_nothing_resets(window, view):
    assert resets(window) == ["resets:controller"]
    click(view.span.buttons["first"])
    assert view.span.canvases["first"].isVisible()
    assert not view.span.canvases["mission"].isVisible()
    assert window.store.picked(PowerPick).span == "first"
    assert "As Drive begins" in view.span.title.text()
    click(named(view, "let loads start one after another"))
    assert resets(window) == []
    assert "apart" in view.span.title.text()
    window.undo()
    assert resets(window) == ["resets:controller"]


def test_a_driver_opens_slowly_and_a_bad_entry_stays_in_its_field(window, view):
    click(view.span.buttons["first"])
    before = window.store.project
    driver = next(i for i in before.concept.items if i.id == "driver")
    line = typed(view, f"{driver.name} opens over", "soon")
    assert line.text() == "soon"
    assert window.store.project is before
    typed(view, f"{driver.name} opens over", "300 ms")
    assert resets(window) == []
    start = window.store.assessment.of(FIRST).starts[0]
    assert {m.soft_start_s for p in start.circuit.stages[0].places for m in p.motors} == {0.3}


def test_where_nothing_starts_it_says_so(window):
    window.open_demo("bat-counter")
    window.go("power")
    view = window.views["power"]
    click(view.span.buttons["first"])
    assert "Nothing starts" in view.span.canvases["first"].picture.shapes[0].text
