"""Strength and heat by hand: a thing is named, changed, taken away; rows are chosen by mouse and keys."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QMenu

from window.hands import answer, named, press, typed
from wired_union.subjects.strength.assess import STRENGTH
from wired_union.subjects.strength.edits import add_test
from wired_union.subjects.strength.kinds import KINDS
from wired_union.subjects.strength.pick import StrengthPick
from wired_union.ui.fields import Choice


@pytest.fixture
def strength(window):
    window.go("strength")
    QTest.qWait(20)
    return window.views["strength"]


def result(window, test_id):
    return next(r for r in window.store.assessment.of(STRENGTH) if r.test.id == test_id)


def test_every_kind_is_offered_named_and_taken_away(window, strength, monkeypatch):
    menus = []
    monkeypatch.setattr(QMenu, "popup", lambda self, *_: menus.append(self))
    named(strength, "+ something to look at").click()
    assert [a.text() for a in menus[0].actions()] == [k.words for k in KINDS.values()]
    before = window.store.project
    for n, action in enumerate(menus[0].actions()):
        answer(monkeypatch, f"Thing {n}")
        action.trigger()
        QTest.qWait(1)
        assert window.store.picked(StrengthPick).test == f"thing-{n}"
        named(strength, f"take Thing {n} away").click()
    assert window.store.project.but(notebook=before.notebook) == before


def test_a_plate_is_made_thinner_until_it_breaks_and_its_remedy_taken(window, strength):
    press(strength.rows, "deck-under-the-box/0")
    typed(strength, "Deck under the box: thick", "0.3 mm")
    assert result(window, "deck-under-the-box").verdict == "breaks"
    choice = next(c for c in strength.panel.findChildren(Choice) if c.accessibleName().endswith("lies on it"))
    choice.setCurrentIndex(choice.findData("controller"))
    choice.activated.emit(choice.currentIndex())
    assert len(result(window, "deck-under-the-box").test.carries) == 3
    line = typed(strength, "Deck under the box: thick", "-1 mm")
    assert line.parent().error.text()
    window.undo()
    window.undo()
    assert result(window, "deck-under-the-box").test.thick_m == 0.003


def test_a_size_is_added_to_a_row_and_taken_out(window, strength, monkeypatch):
    window.store.pick(StrengthPick("core-tube-in-its-guide"))
    answer(monkeypatch, "paint")
    named(strength, "+ a size").click()
    typed(strength, "Core tube in its guide: paint off by", "0.1 mm")
    assert result(window, "core-tube-in-its-guide").verdict == "breaks"
    typed(strength, "Core tube in its guide: paint off by", "")
    assert result(window, "core-tube-in-its-guide").verdict != "breaks"


def test_rows_are_walked_by_keys_and_say_what_they_are(window, strength):
    strength.rows.setFocus()
    QTest.keyClick(strength.rows, Qt.Key.Key_Down)
    QTest.keyClick(strength.rows, Qt.Key.Key_Return)
    assert window.store.picked(StrengthPick).test == "deck-under-the-box"
    assert strength._title.text().startswith("Deck under the box")
    window.store.attempt(add_test, "lift", "Into the van")
    window.store.pick(StrengthPick("into-the-van"))
    assert any("local rules" in w.text() for w in strength._card.findChildren(type(strength._title)))
