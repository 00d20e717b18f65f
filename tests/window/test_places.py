"""The machine takes place: parts placed by figures, by mouse and by keys, and the tip angle that follows."""

import math

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QComboBox, QFileDialog, QLineEdit, QMessageBox

import edits
from wired_union.catalogue.parts import part
from wired_union.kernel.subject import Selection
from wired_union.picture.shapes import Line, Poly
from wired_union.picture.svg import to_svg
from wired_union.project.fresh import new_project
from wired_union.project.model import Limit
from wired_union.subjects.brief.edits import add_limit
from wired_union.subjects.mass.balance import BALANCE
from wired_union.subjects.mass.picture_places import Spot
from wired_union.ui.painter import StillLayer

from .hands import answer, named


@pytest.fixture
def mass(window):
    window.go("mass")
    QTest.qWait(20)
    return window.views["mass"]


def place_of(window, item, copy=0):
    place = next(i for i in window.store.project.concept.items if i.id == item).places[copy]
    return place.x_m, place.y_m, place.z_m


def field(view, name):
    QTest.qWait(1)
    return next(w for w in view.panel.findChildren(QLineEdit) if w.accessibleName() == name)


def typed(view, name, text):
    line = field(view, name)
    line.setFocus()
    line.selectAll()
    QTest.keyClicks(line, text)
    QTest.keyClick(line, Qt.Key.Key_Return)


def drag(canvas, region, dx, dy, *, let_go=True):
    place = canvas.region(region)
    start = QPoint(round(place.x + place.w / 2), round(place.y + place.h / 2))
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(canvas, start + QPoint(dx // 2, dy // 2))
    QTest.mouseMove(canvas, start + QPoint(dx, dy))
    if let_go:
        QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=start + QPoint(dx, dy))


def test_the_bank_of_the_demo_is_known(window):
    tip = window.store.assessment.measure("tip-angle")
    assert (tip.verdict, tip.missing) == ("holds", ())
    assert 30 < tip.value < 40
    window.go("mass")
    assert "in “Tube full, hard stop” (Drive) first" in window.views["mass"].places.note.text()


def test_a_drag_moves_a_part_shows_what_that_does_and_is_undone(window, mass):
    """0.78 kg of 7.6 to 8.1 kg moved d forward move the centre d·m/M; on the way the strip has rings."""
    window.store.change(Selection, item="battery")  # what is selected lies on top
    canvas = mass.places.canvas
    pane = mass.places._panes["above"]
    before, centre = place_of(window, "battery"), window.store.assessment.of(BALANCE).centre
    drag(canvas, "above:battery:0", 60, 0, let_go=False)
    assert window.strip.ring_of("tip-angle") is not None
    assert place_of(window, "battery") == before
    canvas.mouseReleaseEvent(_release(canvas, "above:battery:0", before, 60, pane))
    after = place_of(window, "battery")
    assert after[0] - before[0] == pytest.approx(60 / pane.px_per_m, abs=1.5e-3)
    assert after[1:] == before[1:]
    moved = window.store.assessment.of(BALANCE).centre[0] - centre[0]
    assert moved == pytest.approx(0.78 * (after[0] - before[0]) / 7.85, rel=0.05)
    window.undo()
    assert place_of(window, "battery") == before


def _release(canvas, region, before, dx, pane):
    from PyQt6.QtGui import QMouseEvent

    start = canvas._shift[1]
    at = QPointF(start.x() + dx, start.y())
    return QMouseEvent(QMouseEvent.Type.MouseButtonRelease, at, canvas.mapToGlobal(at), Qt.MouseButton.LeftButton,
                       Qt.MouseButton.NoButton, Qt.KeyboardModifier.NoModifier)  # fmt: skip


def test_a_drag_near_the_middle_is_caught_by_it(window, mass):
    px = mass.places._panes["above"].px_per_m
    x, y, _ = place_of(window, "mast")
    window.store.change(Selection, item="mast")
    drag(mass.places.canvas, "above:mast:0", 0, round(y * px) + 3)
    assert place_of(window, "mast")[:2] == (x, 0.0)


def test_keys_walk_the_parts_and_shift_and_arrows_move_one(window, mass):
    canvas = mass.places.canvas
    canvas.setFocus()
    regions = [r.id for r in canvas.picture.regions]
    at = next(n for n, r in enumerate(regions) if r == "side:mast:0")
    for _ in range(at):
        QTest.keyClick(canvas, Qt.Key.Key_Right)
    before = place_of(window, "mast")
    QTest.keyClick(canvas, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    assert place_of(window, "mast") == pytest.approx((before[0], before[1], before[2] + 0.005))
    QTest.keyClick(canvas, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
    assert place_of(window, "mast") == pytest.approx((before[0] - 0.005, before[1], before[2] + 0.005))
    QTest.keyClick(canvas, Qt.Key.Key_Return)
    assert window.store.picked(Selection).item == "mast"


def test_from_nothing_to_a_tip_angle_by_figures(open_window, monkeypatch):
    """A pack on three feet, typed in: unknown until the last figure is there, then atan(d/h)."""
    window = open_window(demo="")
    project = edits.add_item(new_project("Tripod"), "feed", part("pack-4s-6-ah-lifepo4")).after
    limit = Limit(measure="tip-angle", name="Stands", value=10.0, direction="at least")
    window.hold(add_limit(project, limit).after, None, saved=False)
    window.go("mass")
    view = window.views["mass"]
    assert window.store.assessment.measure("tip-angle").verdict == "unknown"
    for name, x, y in (("nose", "100 mm", "0"), ("left", "-100 mm", "100 mm"), ("right", "-100 mm", "-100 mm")):
        answer(monkeypatch, name)
        named(view, "+ a foot").click()
        typed(view, f"Forward, {name}", x)
        typed(view, f"Left, {name}", y)
    window.store.change(Selection, item=window.store.project.concept.items[0].id)
    assert "where Pack 4S 6 Ah LiFePO₄ is" in window.store.assessment.measure("tip-angle").missing
    typed(view, "Up, Pack 4S 6 Ah LiFePO₄", "50 mm")
    tip = window.store.assessment.measure("tip-angle")
    assert tip.verdict == "holds"
    assert tip.value == pytest.approx(41.81, abs=0.01)  # the slanted sides are nearest, 0.1/√5 m away: atan(44.7/50)
    typed(view, "Forward, Pack 4S 6 Ah LiFePO₄", "2 km")
    assert window.store.assessment.measure("tip-angle").value == tip.value  # refused: nothing is two kilometres away
    window.undo()
    assert window.store.assessment.measure("tip-angle").verdict == "unknown"


def test_copies_are_placed_one_by_one_and_mirrored(window, mass):
    window.store.attempt(edits.set_count, "corer-driver", 2)
    window.store.change(Selection, item="corer-driver")
    QTest.qWait(1)
    assert "where Single H-bridge 4.5 A is" in window.store.assessment.measure("tip-angle").missing
    typed(mass, "Left, Single H-bridge 4.5 A", "30 mm")
    named(mass, "mirror").click()
    assert place_of(window, "corer-driver", 1)[1] == -0.03
    assert window.store.assessment.measure("tip-angle").missing == ()
    named(mass, "forget").click()
    assert next(i for i in window.store.project.concept.items if i.id == "corer-driver").places == ()


def test_a_pose_is_made_drawn_dragged_typed_and_undone(window, mass, monkeypatch):
    """An arm out: named by hand, drawn, its part dragged in it alone; the place as it stands does not move."""
    window.store.change(Selection, item="")
    QTest.qWait(1)
    answer(monkeypatch, "Probe out")
    named(mass, "+ a pose").click()
    pick(mass.places.pose, "probe-out")
    window.store.change(Selection, item="probe")
    before, tip = place_of(window, "probe"), window.store.assessment.measure("tip-angle").value
    drag(mass.places.canvas, "side:probe:0", -30, 0)
    pose = window.store.project.concept.poses[-1]
    assert (pose.name, pose.shifts[0].item) == ("Probe out", "probe")
    assert pose.shifts[0].dx_m < -0.01
    assert place_of(window, "probe") == before
    QTest.keyClick(mass.places.canvas, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    window.store.change(Selection, item="mast")
    QTest.qWait(1)
    line = [w for w in mass.panel.findChildren(QLineEdit) if w.accessibleName() == "one weighs, in the pose"][-1]
    line.setFocus()
    QTest.keyClicks(line, "4 kg")
    QTest.keyClick(line, Qt.Key.Key_Return)
    assert window.store.project.concept.poses[-1].shifts[-1].mass_kg == 4.0
    assert window.store.assessment.measure("tip-angle").value < tip
    assert "Probe out" in mass.places.note.text()
    while window.store.project.concept.poses[-1].name == "Probe out":
        window.undo()
    assert window.store.assessment.measure("tip-angle").value == tip
    assert mass.places.pose.currentText() == "as it stands"  # the pose that was drawn is gone


def test_what_pushes_a_pose_and_which_modes_take_it(window, mass):
    window.store.change(Selection, item="")
    typed(mass, "Tube full, hard stop: pushed with", "20 N")
    typed(mass, "Tube full, hard stop: at a height of", "30 cm")
    pose = window.store.project.concept.poses[-1]
    assert (pose.push_n, pose.push_height_m) == (20.0, 0.3)
    modes = next(w for w in mass.panel.findChildren(QComboBox) if w.accessibleName() == "Tube full, hard stop: modes")
    pick(modes, "report")
    assert [m.mode for m in window.store.project.concept.poses[-1].modes] == ["drive", "report"]
    assert "(Drive, Report)" in mass.places.note.text()
    typed(mass, "Tube full, hard stop: pushed with", "-3 N")
    assert window.store.project.concept.poses[-1].push_n == 20.0  # refused, with what would be right
    named(mass, "take Corer down away").click()
    assert [p.name for p in window.store.project.concept.poses] == ["Tube full, hard stop"]


def pick(choice, value):
    """As a hand picks it from the list."""
    choice.setFocus()
    choice.setCurrentIndex(choice.findData(value))
    choice.activated.emit(choice.currentIndex())


def test_masses_and_places_go_out_and_come_back_by_the_menu(window, mass, monkeypatch, tmp_path):
    path = tmp_path / "places.csv"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(path), ""))
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(path), ""))
    told = []
    monkeypatch.setattr(QMessageBox, "warning", lambda *a: told.append(a[2]))
    window.write_places()
    before = window.store.project
    window.store.attempt(edits.weigh, "mast", 2.0)
    window.read_places()
    assert window.store.project.concept.items == before.concept.items
    window.undo()
    assert next(i for i in window.store.project.concept.items if i.id == "mast").part.mass_kg == 2.0
    window.undo()
    window.read_places()
    assert "differs from what is there" in told[-1]
    path.write_text("colour\nred\n")
    window.read_places()
    assert "headings such as" in told[-1]
    path.write_text("name,mass kg\nProbe mast,300 g\nghost,1\n")
    window.read_places()
    assert "row 3" in told[-1]
    assert next(i for i in window.store.project.concept.items if i.id == "mast").part.mass_kg == pytest.approx(0.3)


def test_a_drag_keeps_what_lies_still_and_paints_what_a_new_canvas_would(window, mass):
    """The very tuple stays while one part is dragged; the picture is that of a canvas that kept nothing."""
    canvas = mass.places.canvas
    seen = []
    for right in (3.0, 6.0):
        canvas.shifting.emit(Spot("battery", 0, "above"), right, 0.0)
        seen.append(canvas.picture.still)
        kept = canvas.grab().toImage()
        canvas._still = StillLayer()
        assert canvas.grab().toImage() == kept
    assert seen[0] is seen[1]
    assert len(seen[0]) > len(canvas.picture.shapes)
    canvas.shifted.emit(Spot("battery", 0, "above"), 6.0, 0.0)
    assert canvas.picture.still is not seen[0]  # the battery lies still again, elsewhere
    assert to_svg(canvas.picture).count("<poly") == sum(isinstance(s, Poly) for s in canvas.picture.every)


def test_it_is_tilted_to_the_bank_and_dragged_there(window, mass):
    """On 18° downhill forward: the floor falls by tan 18°, the plumb line is upright; a drag along it moves along it."""
    pick(mass.places.ground, "bank")
    canvas = mass.places.canvas
    lean = mass.places._panes["side"].lean
    assert lean == pytest.approx((math.cos(math.radians(18)), math.sin(math.radians(18))))
    lines = [s for s in canvas.picture.every if isinstance(s, Line)]
    floors = [s for s in lines if s.width == 1.4 and s.x2 - s.x1 > 50]
    assert [(s.y2 - s.y1) / (s.x2 - s.x1) for s in floors] == [pytest.approx(math.tan(math.radians(18)))] * 2
    plumbs = [s for s in lines if s.dash == (3.0, 3.0)]
    assert [s.x1 - s.x2 for s in plumbs] == [0.0, 0.0]
    assert all(s.y2 > s.y1 for s in plumbs)
    window.store.change(Selection, item="gnss")
    before, px = place_of(window, "gnss"), mass.places._panes["side"].px_per_m
    drag(canvas, "side:gnss:0", 38, 12)  # down the slope: 12/38 is tan 17.5°
    x, y, z = place_of(window, "gnss")
    assert (x - before[0], y) == (pytest.approx(math.hypot(38, 12) / px, abs=0.002), before[1])
    assert z == pytest.approx(before[2], abs=0.003)
    pick(mass.places.ground, "tips")
    first = window.store.assessment.of(BALANCE).worst.first
    assert mass.places._panes["side"].lean[1] == pytest.approx(math.sin(math.radians(first.least_deg)))
    pick(mass.places.ground, "flat")
    assert mass.places._panes["side"].lean == (1.0, 0.0)
