"""Plan in the real window: made by one click, dragged, keyed to somebody else, a delivery that slips, a way out, undone."""

from datetime import date

import pytest
import vobject
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QDialog, QFileDialog, QPushButton

from window.hands import answer, click, named, press, typed
from wired_union.subjects.plan.pick import PlanPick
from wired_union.subjects.plan.schedule import PLAN


@pytest.fixture
def view(open_window):
    window = open_window()
    window.go("plan")
    QTest.qWait(1)
    return window.views["plan"]


def spot(canvas, region: str, across: float = 0.5) -> QPoint:
    place = canvas.region(region)
    return QPoint(round(place.x + place.w * across), round(place.y + place.h / 2))


def drag(canvas, start: QPoint, end: QPoint) -> None:
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(canvas, (start + end) / 2)
    QTest.mouseMove(canvas, end)
    QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=end)


def pick(view, name: str, value: str) -> None:
    """Open the list of the panel with that accessible name by a key, walk to an entry, take it."""
    QTest.qWait(1)
    made = next(
        b for b in view.panel.findChildren(QPushButton) if b.accessibleName() == name and b.isVisibleTo(view.panel)
    )
    made.setFocus()
    QTest.keyClick(made, Qt.Key.Key_Space)
    menu = QApplication.activePopupWidget()
    while menu.activeAction() is None or menu.activeAction().text() != value:
        QTest.keyClick(menu, Qt.Key.Key_Down)
    QTest.keyClick(menu, Qt.Key.Key_Return)


def task(view, task_id: str):
    return next(t for t in view.store.project.concept.plan_tasks if t.id == task_id)


def test_a_plan_is_made_by_one_click(open_window, monkeypatch):
    window = open_window(demo="")
    window.begin("seed-cart")
    window.go("plan")
    view = window.views["plan"]
    answer(monkeypatch, "Kim")
    click(named(view, "+ somebody"))
    typed(view, "Kim: hours a week", "20")
    typed(view, "Kim: can", "workshop, drawing, code, electronics")
    click(named(view, "the date and calendar"))
    typed(view, "The plan: done by", "2027-03-01")
    click(view.make)
    plan = view.store.assessment.of(PLAN)
    assert plan.rows
    assert plan.missing == ()
    assert view.store.assessment.measure("slack").value > 0
    assert all(t.hands for t in view.store.project.concept.plan_tasks if t.kind == "work")
    assert view.rope.region(f"task {plan.open[0].task.id}")
    window.undo()
    assert not view.store.project.concept.plan_tasks


def test_a_delivery_slips_a_way_out_is_taken_and_undone(view):
    before = view.store.assessment.measure("slack").value
    assert before > 0
    press(view.rope, "task core-tube-made")
    assert view.store.picked(PlanPick).task == "core-tube-made"
    typed(view, "Core tube made: at most", "20 days")
    typed(view, "Core tube made: usually", "14 days")
    typed(view, "Core tube made: at least", "1 1/2 weeks")
    assert view.store.assessment.measure("slack").verdict == "breaks"
    assert view.store.assessment.of(PLAN).row("core-tube-made").slack < 0
    assert "late" in view.rope.region("task core-tube-made").label
    click(named(view, "→ turn it from stock"))
    assert view.store.assessment.measure("slack").verdict != "breaks"
    view.window().undo()
    assert view.store.assessment.measure("slack").verdict == "breaks"
    for _ in range(3):
        view.window().undo()
    assert view.store.assessment.measure("slack").value == pytest.approx(before)


def test_an_end_is_dragged_and_keyed(view):
    hours = task(view, "cables").likely_h
    end = spot(view.rope, "end cables")
    drag(view.rope, end, end + QPoint(60, 0))
    assert task(view, "cables").likely_h > hours
    assert view.rope.region("end cables").x > end.x()
    view.window().undo()
    assert task(view, "cables").likely_h == hours
    press(view.rope, "end cables")
    view.rope.setFocus()
    QTest.keyClick(view.rope, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert task(view, "cables").likely_h > hours


def test_a_task_is_carried_to_somebody_and_keyed_to_another(view):
    drag(view.rope, spot(view.rope, "task cables", 0.1), spot(view.rope, "person ada"))
    assert [h.person for h in task(view, "cables").hands] == ["ada"]
    pick(view, "Cables made: give it to", "Sol")
    assert [h.person for h in task(view, "cables").hands] == ["sol"]
    pick(view, "Cables made: who helps", "Mika")
    assert [h.person for h in task(view, "cables").hands] == ["sol", "mika"]
    assert "Sol, Mika" in [s.text for s in view.rope.picture.shapes if hasattr(s, "text")]


def test_tasks_are_linked_by_hand_and_by_keys(view):
    drag(view.rope, spot(view.rope, "task paint", 0.1), spot(view.rope, "task cables", 0.1))
    assert "cables" in {a.task for a in task(view, "paint").after}
    pick(view, "Deck painted: after", "Corer in metal")
    assert "corer-in-metal" in {a.task for a in task(view, "paint").after}
    QTest.qWait(100)  # the form is laid out
    click(named(view, "Cables made ×"))
    assert "cables" not in {a.task for a in task(view, "paint").after}
    drag(view.rope, spot(view.rope, "task deck", 0.1), spot(view.rope, "task paint", 0.1))  # a ring: refused
    assert "wait for each other" in view.window().ripple_line.text


def test_progress_people_and_days_off(view):
    press(view.rope, "task deck")
    typed(view, "Deck cut and drilled: so far", "3 h")
    typed(view, "Deck cut and drilled: left", "1 h")
    assert (task(view, "deck").spent_h, task(view, "deck").left_h) == (3.0, 1.0)
    click(named(view, "done today"))
    assert task(view, "deck").done_on == view.desk.today()
    press(view.rope, "person jo")
    typed(view, "away: from, to, why", "2026-12-07, 2026-12-09, ill")
    assert view.store.project.plan.people[1].away[-1].why == "ill"
    click(named(view, "away 2026-12-07"))
    assert len(view.store.project.plan.people[1].away) == 1
    typed(view, "Jo: hours a week", "many")
    assert view.store.project.plan.people[1].hours_a_week == 12.0  # what cannot be read changes nothing
    click(named(view, "take Jo away"))
    assert [p.name for p in view.store.project.plan.people] == ["Mika", "Sol", "Ada"]
    assert any("who does it" in x for x in view.store.assessment.of(PLAN).missing)
    assert view.store.assessment.measure("slack").verdict == "unknown"
    click(named(view, "→ give it to"))
    assert view.store.project.concept.plan_tasks != ()


def test_a_better_order_is_sought_beside_the_window(view, qtbot):
    view.store.attempt(
        lambda p: __import__("wired_union.subjects.plan.edits", fromlist=["x"]).give_task(p, "corer-in-wood", ["jo"])
    )
    before = view.plan.late
    view.seek(anew=True)
    qtbot.waitUntil(lambda: view.ordering.text().endswith(("back.", "found.", "better.")), timeout=20_000)
    assert view.plan.late <= before


def test_a_feature_left_out_and_the_things_on_the_side(view, monkeypatch):
    button = named(view, "→ camera mast")
    click(button)
    assert "mast" not in {t.id for t in view.store.project.concept.plan_tasks}
    answer(monkeypatch, "second salinity point")
    click(named(view, "+ a feature"))
    pick(view, "second salinity point: with", view.store.project.concept.items[9].name)
    assert view.store.project.concept.features[-1].parts[0].item == view.store.project.concept.items[9].id
    answer(monkeypatch, "Critical review")
    click(named(view, "+ a milestone"))
    typed(view, "Critical review: on the day", "2026-12-14")
    pick(view, "Critical review: needs", "Assembly")
    found = next(f for f in view.store.assessment.findings if f.check == "milestone")
    assert found.verdict == "breaks"
    answer(monkeypatch, "buy it in town; 1; 2; 3; 6")
    press(view.rope, "task radio-comes")
    click(named(view, "another way"))
    assert task(view, "radio-comes").other_ways[0].more == 6.0


def test_files_are_written_and_tasks_read(view, tmp_path, monkeypatch):
    written = {"": tmp_path / "x"}

    def where(*a, **k):
        written[""] = tmp_path / a[2].replace(" ", "-")
        return str(written[""]), ""

    monkeypatch.setattr(QFileDialog, "getSaveFileName", where)
    view.out.calendar_of("mika")
    events = vobject.readOne(written[""].read_text()).vevent_list
    assert date(2026, 11, 24) in {e.dtstart.value for e in events}
    click(named(view, "Order list …"))
    assert written[""].read_bytes().startswith(b"PK")
    click(named(view, "Week list …"))
    assert written[""].read_bytes().startswith(b"%PDF")
    sheet = tmp_path / "tasks.csv"
    sheet.write_text("task,who,least,likely,most\nSand,Mika,1,2,3\nSaw,Nobody,1,2,3\n", encoding="utf-8")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(sheet), ""))
    shown = []
    monkeypatch.setattr(
        "wired_union.ui.import_table.ImportTable.exec",
        lambda self: (shown.append(self.table.item(1, 4).text()), QDialog.DialogCode.Accepted)[1],
    )
    click(named(view, "Import tasks …"))
    assert "nobody is called" in shown[0]
    assert [t.name for t in view.store.project.concept.plan_tasks][-1] == "Sand"


def test_a_day_passes(view, monkeypatch):
    """Nobody edits, and a day less is in hand."""
    window = view.window()
    before = view.store.assessment.measure("order-by").value
    monkeypatch.setattr(window, "_today", lambda: "2026-11-25")
    window.look_at_the_day()
    assert view.store.assessment.measure("order-by").value < before
    assert not view.store.can_undo
