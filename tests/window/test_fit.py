"""Fit and sight by hand: a sensor is made to look, a stack is laid, a hand gets its room; undo takes it all back."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QMenu

from window.hands import answer, named, press, typed
from wired_union.subjects.fit.boxes import FITTING
from wired_union.subjects.fit.pick import FitPick
from wired_union.subjects.fit.sights import SEEN
from wired_union.subjects.fit.stacks import STACKS
from wired_union.ui.fields import Choice


@pytest.fixture
def fit_view(window):
    window.go("fit")
    QTest.qWait(20)
    return window.views["fit"]


def choose(view, name, value):
    QTest.qWait(1)
    choice = next(
        c for c in view.panel.findChildren(Choice) if c.accessibleName() == name and c.isVisibleTo(view.panel)
    )
    choice.setCurrentIndex(choice.findData(value))
    choice.activated.emit(choice.currentIndex())


def test_a_sensor_is_named_given_a_place_and_looks(window, fit_view, monkeypatch):
    before = window.store.project
    answer(monkeypatch, "Eye")
    named(fit_view, "+ a sensor that looks").click()
    assert window.store.picked(FitPick) == FitPick("sights", "eye")
    assert "Not drawn" in fit_view._sees_note.text()
    choose(fit_view, "Eye: the part", "mast")
    typed(fit_view, "Eye: wide", "50°")
    typed(fit_view, "Eye: pixels across", "320")
    typed(fit_view, "Eye: looks up by", "-20")
    eye = next(r for r in window.store.assessment.of(SEEN).sights if r.sight.id == "eye")
    assert (eye.sight.wide_deg, eye.sight.pixels_wide, eye.look.pitch_deg % 360) == (
        50.0,
        320,
        (eye.look.pitch_deg) % 360,
    )
    assert "Not drawn" not in fit_view._sees_note.text()
    line = typed(fit_view, "Eye: wide", "400°")
    assert line.parent().error.text()
    assert next(s for s in window.store.project.concept.sights if s.id == "eye").wide_deg == 50.0
    named(fit_view, "take Eye away").click()
    assert all(s.id != "eye" for s in window.store.project.concept.sights)
    for _ in range(6):
        window.undo()
    assert window.store.project == before


def test_a_view_is_chosen_by_mouse_and_by_keys(window, fit_view):
    (sight,) = window.store.project.concept.sights
    press(fit_view.sees, sight.id)
    assert window.store.picked(FitPick) == FitPick("sights", sight.id)
    window.store.pick(FitPick())
    fit_view.sees.setFocus()
    QTest.keyClick(fit_view.sees, Qt.Key.Key_Right)
    QTest.keyClick(fit_view.sees, Qt.Key.Key_Return)
    assert window.store.picked(FitPick).id == sight.id


def test_a_stack_gets_a_layer_more_and_one_less(window, fit_view):
    (stack,) = window.store.project.concept.stacks
    press(fit_view.stacks, stack.id)
    high = window.store.assessment.of(STACKS)[0].height_m
    choose(fit_view, "lay on top", "radio")
    assert window.store.assessment.of(STACKS)[0].height_m > high
    name = next(i.name for i in window.store.project.concept.items if i.id == "radio")
    typed(fit_view, f"{name}: spacer above each", "5 mm")
    typed(fit_view, f"{name}: {name}, copies", "0")
    assert window.store.assessment.of(STACKS)[0].height_m == pytest.approx(high)
    typed(fit_view, f"{stack.name}: may be high", "10 mm")
    assert any(f.check == "stack" and f.verdict == "breaks" for f in window.store.assessment.findings)


def test_room_for_a_plug_is_asked_for_and_moved_to_another_side(window, fit_view, monkeypatch):
    menus = []
    monkeypatch.setattr(QMenu, "popup", lambda self, *_: menus.append(self))
    named(fit_view, "+ room that must stay free").click()
    action = next(a for a in menus[0].actions() if a.text().startswith("GNSS"))
    action.trigger()
    picked = window.store.picked(FitPick)
    assert picked.room == "clearances"
    choose(fit_view, f"a hand at {action.text()}: must get there", "a plug")
    choose(fit_view, f"a plug at {action.text()}: side", "below")
    (access,) = [a for a in window.store.assessment.of(FITTING).accesses if a.clearance.id == picked.id]
    assert (access.clearance.access, access.clearance.side) == ("a plug", "below")
    assert any("Probe mast" in n for n, _ in access.blocked)


def test_others_may_be_inside_a_part_as_the_mass_screen_says(window):
    window.go_to_item("controller")
    window.go("mass")
    mass = window.views["mass"]
    name = next(i.name for i in window.store.project.concept.items if i.id == "controller")
    choose(mass, f"{name}: fills", "spread about")
    assert next(i for i in window.store.project.concept.items if i.id == "controller").fills == "spread about"
