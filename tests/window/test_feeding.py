"""What hangs on nothing is seen under the power tree, and is dragged or keyed onto what shall feed it."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from wired_union.project import edits
from wired_union.subjects.power.gives import POWER
from wired_union.subjects.power.pick import PowerPick

from .hands import named, press


def fed_by(window, item: str) -> str | None:
    return window.store.assessment.of(POWER).tree.source_of.get(item)


@pytest.fixture
def view(window):
    """The demo with its inertial sensor on nothing."""
    window.hold(edits.feed_from(window.store.project, "imu", None).after, None)
    window.go("power")
    QTest.qWait(1)
    return window.views["power"]


def middle(canvas, region: str) -> QPoint:
    place = canvas.region(region)
    return QPoint(round(place.x + place.w / 2), round(place.y + place.h / 2))


def drag(canvas, of: str, onto: str, *, let_go: bool = True) -> None:
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=middle(canvas, of))
    QTest.mouseMove(canvas, middle(canvas, onto) - QPoint(5, 0))
    QTest.mouseMove(canvas, middle(canvas, onto))
    QApplication.processEvents()
    if let_go:
        QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=middle(canvas, onto))


def test_what_hangs_on_nothing_is_dragged_onto_a_rail(window, view):
    assert fed_by(window, "imu") is None
    ldo = next(i.id for i in window.store.project.concept.items if i.part.kind == "linear regulator")
    drag(view.tree, "loose:imu", ldo, let_go=False)
    assert window.store.preview is not None  # rings on the strip before it is let go
    assert fed_by(window, "imu") is None
    QTest.mouseRelease(view.tree, Qt.MouseButton.LeftButton, pos=middle(view.tree, ldo))
    assert fed_by(window, "imu") == ldo
    assert "loose:imu" not in {r.id for r in view.tree.picture.regions}
    window.undo()
    assert fed_by(window, "imu") is None


def test_a_fed_part_is_dragged_to_another_rail_and_a_click_only_selects(window, view):
    press(view.tree, "gnss")
    assert window.store.picked(PowerPick).node == "gnss"
    before = fed_by(window, "gnss")
    buck = next(i.id for i in window.store.project.concept.items if i.part.kind == "switching regulator")
    assert before != buck
    drag(view.tree, "gnss", buck)
    assert fed_by(window, "gnss") == buck
    drag(view.tree, buck, "gnss")  # what is fed by it cannot feed it: said, and nothing is changed
    assert "cannot feed" in window.ripple_line.text
    assert fed_by(window, buck) != "gnss"


def test_by_keys_the_panel_offers_what_could_feed_it(window, view):
    canvas = view.tree
    canvas.setFocus()
    for _ in range(len(canvas.picture.regions)):
        if canvas.accessibleDescription().startswith("IMU"):
            break
        QTest.keyClick(canvas, Qt.Key.Key_Left)
    QTest.keyClick(canvas, Qt.Key.Key_Return)
    assert window.store.picked(PowerPick).node == "imu"
    offer = named(view, "LDO")
    offer.setFocus()
    assert window.store.preview is not None
    QTest.keyClick(offer, Qt.Key.Key_Space)
    assert fed_by(window, "imu") is not None
