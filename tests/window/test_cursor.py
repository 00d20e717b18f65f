"""The cursor through what is drawn over time: the pointer and the keys read the same, in words and as a line."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QToolTip
from tests.window.hands import click

from wired_union.project import edits
from wired_union.ui.canvas import CURSOR_STEPS
from wired_union.ui.fields import Elided

CTRL = Qt.KeyboardModifier.ControlModifier
SAID = {"first": ("from the pack", "Controller"), "warmth": ("air outside", "°C"), "mission": (": ", "")}


def chart_of(window, span):
    project = edits.set_part_value(window.store.project, "battery", "pack.cell_resistance_ohm", 0.2).after
    window.hold(project, None)
    window.go("power")
    view = window.views["power"]
    click(view.span.buttons[span])
    QTest.qWait(100)
    return view.span.canvases[span]


def column(canvas, x):
    """The grey of every pixel of a column."""
    image = canvas.grab().toImage()
    return [image.pixelColor(x, y).lightness() for y in range(image.height())]


@pytest.mark.parametrize("span", SAID)
def test_keys_take_the_cursor_through_the_chart_and_it_says_what_it_crosses(window, span):
    canvas = chart_of(window, span)
    canvas.setFocus()
    regions = canvas._read_regions()
    begin, end = regions[0].x, regions[0].x + regions[0].w
    said = []
    for _ in range(CURSOR_STEPS + 3):
        QTest.keyClick(canvas, Qt.Key.Key_Right, CTRL)
        said.append(canvas.accessibleDescription())
    assert all(all(words in s for words in SAID[span]) for s in said)
    if span == "mission":
        assert said[0].endswith("left")
        assert "the pack ended at" in said[-1]
    assert canvas._cursor_x == pytest.approx(end)
    assert said[-1] == said[-2]
    assert len(set(said)) > 20
    for _ in range(CURSOR_STEPS + 3):
        QTest.keyClick(canvas, Qt.Key.Key_Left, CTRL)
    assert canvas._cursor_x == pytest.approx(begin)


@pytest.mark.parametrize("span", SAID)
def test_the_pointer_draws_the_line_where_it_is_and_leaves_nothing_behind(window, span):
    canvas = chart_of(window, span)
    region = canvas._read_regions()[0]
    x = round(region.x + 0.37 * region.w)
    without = column(canvas, x)
    QTest.mouseMove(canvas, QPoint(x, round(region.y + region.h / 2)))
    assert canvas._cursor_x == pytest.approx(x)
    assert SAID[span][0] in QToolTip.text()
    drawn = column(canvas, x)
    crossed = sum(a != b for a, b in zip(without, drawn, strict=True))
    assert crossed > 0.8 * sum(r.h for r in canvas._read_regions()[:1])
    QTest.mouseMove(canvas, QPoint(2, 1))
    assert canvas._cursor_x is None
    assert column(canvas, x) == without


def test_where_nothing_is_read_the_keys_do_nothing(window):
    window.go("power")
    tree = window.views["power"].tree
    tree.setFocus()
    before = tree.accessibleDescription()
    QTest.keyClick(tree, Qt.Key.Key_Right, CTRL)
    assert tree.accessibleDescription() == before
    assert tree._cursor_x is None


def test_a_hint_is_there_whole_or_not_at_all_and_is_told_on_hovering(window):
    hint, cut = Elided(whole=True), Elided()
    for made, shows in ((hint, False), (cut, True)):
        made.setText("point, or Ctrl ← →, to read every supply")
        made.resize(60, 20)
        image = made.grab().toImage()
        inks = {image.pixel(x, y) for x in range(60) for y in range(20)}
        assert (len(inks) > 1) is shows
        assert made.toolTip() == made.text()
        made.resize(600, 20)
        image = made.grab().toImage()
        assert len({image.pixel(x, y) for x in range(60) for y in range(20)}) > 1
