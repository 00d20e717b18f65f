"""What bends: named, said in figures, hung with parts, mended from its card, heard in Motion, undone."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QComboBox

from wired_union.subjects.mass.beams import BEAMS
from wired_union.subjects.mass.pick import MassPick
from wired_union.subjects.motion.gives_times import MOTION

from .hands import answer, named, typed


@pytest.fixture
def mass(window):
    window.go("mass")
    QTest.qWait(20)
    return window.views["mass"]


def pick(view, name, value):
    QTest.qWait(1)
    choice = next(w for w in view.panel.findChildren(QComboBox) if w.accessibleName() == name)
    choice.setCurrentIndex(choice.findData(value))
    choice.activated.emit(choice.currentIndex())


def beam(window, name):
    return next(r for r in window.store.assessment.of(BEAMS) if r.beam.name == name)


def test_an_arm_is_named_said_and_hung_with_a_camera(window, mass, monkeypatch):
    before = window.store.project
    answer(monkeypatch, "Camera arm")
    named(mass, "+ something that bends").click()
    assert window.store.picked(MassPick).beam == "camera-arm"
    typed(mass, "Camera arm: free length", "25 cm")
    pick(mass, "Camera arm: profile", "round tube")
    typed(mass, "Camera arm: diameter", "8 mm")
    typed(mass, "Camera arm: wall", "1 mm")
    pick(mass, "Camera arm: material", "carbon tube")
    pick(mass, "Camera arm: carries", "camera")
    arm = beam(window, "Camera arm")
    assert (arm.beam.length_m, arm.beam.width_m, arm.beam.wall_m) == (0.25, 0.008, 0.001)
    assert [c.item for c in arm.beam.carries] == ["camera"]
    assert "Camera arm" in {s.mount.name for s in window.store.assessment.of(MOTION).shakes}
    typed(mass, "Camera arm: free length", "-3 m")
    assert beam(window, "Camera arm").beam.length_m == 0.25  # refused
    named(mass, "take Camera arm away").click()
    while window.store.project.concept.beams != before.concept.beams:
        window.undo()
    assert window.store.project.concept.beams == before.concept.beams


def test_a_bracket_that_sags_is_mended_from_its_card(window, mass, qtbot):
    canvas = mass.beams.canvas
    canvas.setFocus()
    for _ in range(2):  # by keys to the third, and taken
        QTest.keyClick(canvas, Qt.Key.Key_Right)
    QTest.keyClick(canvas, Qt.Key.Key_Return)
    assert window.store.picked(MassPick).beam == "corer-bracket"
    qtbot.waitUntil(lambda: "then holds" in named(mass, "→ the same in plywood").text(), timeout=10_000)
    sag = beam(window, "Corer bracket").sag_m
    named(mass, "→ the same in plywood").click()
    assert beam(window, "Corer bracket").beam.material == "plywood"
    assert beam(window, "Corer bracket").sag_m < sag
    window.undo()
    assert beam(window, "Corer bracket").sag_m == sag
