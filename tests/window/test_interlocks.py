"""Interlocks by hand: a gate broken, what is left seen, a second gate added; states added, walked, drawn, saved."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog, QMenu, QMessageBox

from window.hands import answer, named, press, typed
from wired_union.project.fresh import new_project
from wired_union.subjects.interlocks.assess import GATES, STATES
from wired_union.subjects.interlocks.pick import InterlockPick


@pytest.fixture
def interlocks(window):
    window.go("interlocks")
    QTest.qWait(20)
    return window.views["interlocks"]


def chosen(view, name, value):
    choice = view.details.fields[name]
    choice.setCurrentIndex(choice.findData(value))
    choice.activated.emit(choice.currentIndex())


def note(view, hazard="corer-down"):
    return view.gates._notes[hazard].text()


def test_a_gate_is_broken_what_is_left_is_seen_and_a_second_gate_added(window, interlocks, monkeypatch):
    canvas = interlocks.gates.canvases["corer-down"]
    assert note(interlocks).startswith("Not released in Wait. Least number of failures: 1, wanted 2.")
    before = window.store.project
    for gate in ("key", "driver", "on-site"):
        press(canvas, f"gate {gate}")
    assert note(interlocks).startswith("Released in Wait with")
    assert window.store.project is before  # to break a gate is to look, and changes nothing
    for gate in ("key", "driver", "on-site"):
        press(canvas, f"gate {gate}")
    assert "Not released in Wait. " in note(interlocks)
    window.store.pick(InterlockPick())
    finding = next(f for f in window.store.assessment.findings if f.check == "gates")
    assert finding.verdict == "breaks"
    answer(monkeypatch, "Safety pin")
    next(
        b for b in interlocks.gates.findChildren(type(named(interlocks, "+ a state"))) if b.text() == "+ a gate"
    ).click()
    kind = interlocks.details.fields["kind"]
    kind.setCurrentIndex(kind.findData("mechanical"))
    kind.activated.emit(kind.currentIndex())
    assert window.store.assessment.measure("failures-to-fire:corer-down").value == 2
    assert "Least number of failures: 2" in note(interlocks)
    window.undo()
    window.undo()
    assert window.store.project is before


def test_gates_are_broken_by_keys_and_drawn_in_the_state_that_is_chosen(window, interlocks):
    canvas = interlocks.gates.canvases["corer-down"]
    canvas.setFocus()
    QTest.keyClick(canvas, Qt.Key.Key_Return)
    assert interlocks.broken == {"key"}
    choice = interlocks.gates.choices["corer-down"]
    choice.setCurrentIndex(choice.findData("core"))
    choice.activated.emit(choice.currentIndex())
    assert note(interlocks).startswith("Released in Core with Key switch broken")
    assert interlocks.gates.choices["corer-down"].currentData() == "core"


def test_where_a_gate_is_closed_and_a_hazard_meant_is_switched_by_a_press(window, interlocks):
    before = window.store.project
    window.store.pick(InterlockPick("gates", "key"))
    interlocks.details.fields["closed in wait"].click()
    assert any(c.state == "wait" for c in window.store.project.concept.gates[0].closed_in)
    window.store.pick(InterlockPick("hazards", "corer-down"))
    interlocks.details.fields["meant in report"].click()
    assert window.store.assessment.of(GATES)[0].states == 4
    press(interlocks.failures, "failure corer-down key-welded")
    interlocks.details.fields["closes driver"].click()
    typed(interlocks, "key switch welded: noticed by", "the lamp stays on")
    for _ in range(4):
        window.undo()
    assert window.store.project is before


def failing(window):
    return [f.title for f in window.store.assessment.findings if f.check == "failing"]


def test_a_failure_that_silences_the_stop_is_added_seen_and_noticed(window, interlocks, monkeypatch):
    before = window.store.project
    answer(monkeypatch, "stop button sticks")
    named(interlocks, "+ a failure").click()
    assert failing(window) == ["program errs: nothing stops it"]
    interlocks.details.fields["not told then stop-pressed"].click()
    assert "stop button sticks: nothing stops it" in failing(window)
    press(interlocks.failures, f"failure states {window.store.project.concept.failures[-1].id}")
    named(interlocks, "→ notice it, and stop").click()
    assert failing(window) == ["program errs: nothing stops it"]
    typed(interlocks, "stop button sticks: noticed by", "the lamp of the button")
    chosen(interlocks, "kind", "hung program")
    chosen(interlocks, "told_by", "")
    assert "stop button sticks: nothing stops it" in failing(window)
    for _ in range(6):
        window.undo()
    assert window.store.project == before


def test_states_ways_and_cues_are_added_drawn_and_taken_away(open_window, monkeypatch):
    menus = []
    monkeypatch.setattr(QMenu, "popup", lambda self, *_: menus.append(self))
    window = open_window(demo="")
    window.hold(new_project("Toy"), None, saved=False, sentence="new")
    window.go("interlocks")
    view = window.views["interlocks"]
    start = window.store.project
    for name in ("Wait", "Run", "Halt"):
        answer(monkeypatch, name)
        named(view, "+ a state").click()
    for name in ("go", "halt"):
        answer(monkeypatch, name)
        named(view, "+ a cue").click()
    window.store.pick(InterlockPick("cues", "halt"))
    chosen(view, "urgent", "yes")
    window.store.pick(InterlockPick("states", "halt"))
    chosen(view, "is_stop", "yes")
    for start_of, end, name in (("wait", "run", "started"), ("run", "halt", "halted"), ("wait", "halt", "stopped")):
        window.store.pick(InterlockPick("states", start_of))
        menus.clear()
        named(view, "+ a way").click()
        answer(monkeypatch, name)
        target = {s.id: s.name for s in window.store.project.concept.states}[end]
        next(a for a in menus[0].actions() if a.text().endswith(f"→ {target}")).trigger()
        chosen(view, "or", "+go" if name == "started" else "+halt")
        typed(view, f"{name}: after a time of", "")
        typed(view, f"{name}: takes at most", "200 ms")
    window.store.pick(InterlockPick("passages", "started"))
    assert window.store.assessment.of(STATES).faults[0].kind == "at-once"  # a stop may come at the same time
    typed(view, "started: goes first, rank", "2")
    assert window.store.assessment.of(STATES).faults == ()
    assert window.store.assessment.measure("stop-time").value == pytest.approx(0.2)
    assert view.states.region("state run")
    assert "go" in view.states.region("way started").label
    window.store.pick(InterlockPick("passages", "stopped"))
    named(view, "take stopped away").click()
    assert {f.kind for f in window.store.assessment.of(STATES).faults} == {"unheard"}
    while window.store.can_undo and window.store.project is not start:
        window.undo()
    assert window.store.project is start


def test_states_are_walked_and_the_walk_becomes_the_mission(window, interlocks):
    for text in ("start → Drive", "on site → Core", "180 mm or 20 s → Report"):
        named(interlocks, text).click()
        QTest.qWait(1)
    assert interlocks.walk.state == "report"
    assert "Wait — start → Drive" in interlocks.walk.listed.itemAt(0).widget().text()
    named(interlocks, "a step back").click()
    assert interlocks.walk.state == "core"
    before = window.store.project
    named(interlocks, "take this walk as the mission").click()
    assert [p.mode for p in window.store.project.concept.mission.phases] == ["idle", "drive", "core"]
    window.undo()
    assert window.store.project is before
    named(interlocks, "from the start").click()
    assert interlocks.walk.state == "wait"


def test_a_state_is_dragged_and_pushed_to_another_place(window, interlocks):
    place = interlocks.states.region("state back-off")
    start = QPoint(round(place.x + place.w / 2), round(place.y + place.h / 2))
    QTest.mousePress(interlocks.states, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(interlocks.states, start + QPoint(-30, 20))
    QTest.mouseRelease(interlocks.states, Qt.MouseButton.LeftButton, pos=start + QPoint(-60, 40))
    moved = interlocks.states.region("state back-off")
    assert (round(moved.x - place.x), round(moved.y - place.y)) == (-60, 40)
    interlocks.states.setFocus()
    interlocks.states._focus_on(moved)
    QTest.keyClick(interlocks.states, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
    assert interlocks.states.region("state back-off").x == pytest.approx(moved.x - 20, abs=1)
    window.undo()
    window.undo()
    assert interlocks.states.region("state back-off").x == place.x


def test_hazards_are_taken_on_ticked_and_printed_and_states_saved(window, interlocks, tmp_path, monkeypatch):
    answer(monkeypatch, "Ben")
    named(interlocks, "looked at before this run").click()
    assert window.store.project.concept.ticks[-1].by == "Ben"
    assert "Last looked at 2026-11-24 by Ben" in interlocks.hazards._said(window.store.project.concept.hazards[0])
    window.store.pick(InterlockPick("hazards", "wheels"))
    named(interlocks, "take Wheels turn away").click()
    named(interlocks, "+ Gearmotor 25 mm 12 V 100:1: spin").click()
    assert window.store.project.concept.hazards[-1].kind == "spin"
    for text, name in (("a page for the wall", "wall.html"), ("states as C", "m.h"), ("states as Python", "m.py")):
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, n=name, **k: (str(tmp_path / n), ""))
        named(interlocks, text).click()
    assert "before arming" in (tmp_path / "wall.html").read_text()
    assert "machine_step" in (tmp_path / "m.h").read_text()
    compile((tmp_path / "m.py").read_text(), "m.py", "exec")


def test_without_states_there_is_nothing_to_save_and_that_is_said(open_window, monkeypatch):
    told = []
    monkeypatch.setattr(QMessageBox, "warning", lambda *a: told.append(a[2]))
    window = open_window(demo="")
    window.hold(new_project("Toy"), None, saved=False, sentence="new")
    window.go("interlocks")
    named(window.views["interlocks"], "states as C").click()
    assert told == ["There is no state to write."]
