"""Money in the real window: a line typed, a refund entered, a way to make a part, purchases from a sheet, undone."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QDialog, QFileDialog, QPushButton

from window.hands import answer, click, named, typed
from wired_union.subjects.ledger.pick import MoneyPick


@pytest.fixture
def view(open_window):
    window = open_window()
    window.go("ledger")
    QTest.qWait(1)
    return window.views["ledger"]


def line(view, line_id: str):
    return next(p for p in view.store.project.ledger if p.id == line_id)


def test_a_refund_is_entered_and_undone(view):
    before = view.store.assessment.measure("money").value
    view.table.setFocus()
    view.table.setCurrentCell(-1, -1)
    QTest.keyClick(view.table, Qt.Key.Key_Down)
    assert view.store.picked(MoneyPick).line == "deck"
    typed(view, "Deck plate: came back", "£13.00")
    assert view.store.assessment.measure("money").value == pytest.approx(before - 13.0)
    assert view.table.item(0, 2).text() == "£24.00, £13.00 back"
    typed(view, "Deck plate: came back", "30")  # more than it cost: refused
    assert line(view, "deck").returned == 13.0
    view.window().undo()
    assert view.store.assessment.measure("money").value == pytest.approx(before)


def test_a_line_is_added_and_filled_in(view, monkeypatch):
    answer(monkeypatch, "Postage")
    click(named(view, "+ a line"))
    assert view.store.assessment.measure("money").verdict == "unknown"
    typed(view, "Postage: costs, all of it", "6.40")
    typed(view, "Postage: receipt", "R-030")
    assert (line(view, "postage").amount, line(view, "postage").receipt) == (6.4, "R-030")
    assert "£6.40" in view.table.item(view.table.rowCount() - 1, 2).text()
    typed(view, "Postage: currency", "EUR")
    assert line(view, "postage").currency == "EUR"
    assert view.store.assessment.measure("money").value == pytest.approx(522.0 + 6.4 * 0.86)
    click(named(view, "take Postage out"))
    assert view.store.assessment.measure("money").value == 522.0


def test_an_order_is_a_line(view):
    made = named(view, "order a part")
    made.setFocus()
    QTest.keyClick(made, Qt.Key.Key_Space)
    menu = QApplication.activePopupWidget()
    QTest.keyClick(menu, Qt.Key.Key_Down)
    QTest.keyClick(menu, Qt.Key.Key_Return)
    assert view.store.project.ledger[-1].state == "ordered"
    assert view.store.project.ledger[-1].on == view.desk.today()
    assert view.store.assessment.measure("money").value == 522.0


def test_making_more_is_said_and_seen(view, monkeypatch):
    click(named(view, "if more are made"))
    typed(view, "If more are made: how many", "200")
    unit = view.store.assessment.measure("unit-cost").value
    typed(view, "If more are made: an hour costs", "20")
    assert view.store.assessment.measure("unit-cost").value > unit
    typed(view, "If more are made: a buyer could have", "a boat: 2000")
    assert view.store.project.concept.making.rivals[0].name == "a boat"
    typed(view, "Gearmotor 25 mm 12 V 100:1: price by number", "100: 9")
    assert view.store.assessment.measure("unit-cost").value < unit + 22 * 20
    assert any("200 made" in s.text for s in view.unit.picture.shapes if hasattr(s, "text"))
    answer(monkeypatch, "Lid")
    click(named(view, "+ a part we make"))
    typed(view, "Lid: one more way", "print; 0; 3")
    typed(view, "Lid: one more way", "mould, short tool; 800; 0.9")
    assert [w.process for w in view.store.project.concept.making.made[-1].ways] == ["print", "mould, short tool"]
    typed(view, "Lid: one more way", "knit; 1; 1")
    assert len(view.store.project.concept.making.made[-1].ways) == 2
    click(named(view, "print: "))
    assert len(view.store.project.concept.making.made[-1].ways) == 1
    answer(monkeypatch, "Quieter gears")
    click(named(view, "+ an upgrade"))
    typed(view, "Quieter gears: cost", "30")
    assert "Quieter gears: £30" in view.next_year.text()


def test_purchases_are_looked_at_before_they_are_taken(view, tmp_path, monkeypatch):
    sheet = tmp_path / "bought.csv"
    sheet.write_text("what,state,amount\nGlue,paid,4.20\nTape,lost,3\n", encoding="utf-8")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(sheet), ""))
    seen = []

    def look(dialog):
        seen.append((dialog.table.item(1, 4).text(), dialog.findChildren(QPushButton)[-1].text()))
        return QDialog.DialogCode.Accepted

    monkeypatch.setattr("wired_union.ui.import_table.ImportTable.exec", look)
    click(named(view, "Import purchases"))
    assert "no state" in seen[0][0]
    assert seen[0][1] == "Take 1 row"
    assert view.store.project.ledger[-1].name == "Glue"
    monkeypatch.setattr("wired_union.ui.import_table.ImportTable.exec", lambda _: QDialog.DialogCode.Rejected)
    click(named(view, "Import purchases"))
    assert len([p for p in view.store.project.ledger if p.name == "Glue"]) == 1


def test_a_rate_is_typed(view, monkeypatch):
    answer(monkeypatch, "USD 0.79")
    click(named(view, "a rate"))
    assert [r.currency for r in view.store.project.rates] == ["EUR", "USD"]
    answer(monkeypatch, "USD much")
    click(named(view, "a rate"))
    assert "not a number" in view.window().ripple_line.text
