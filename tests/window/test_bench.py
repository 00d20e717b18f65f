"""The bench by hand: parts woken against simulated instruments, a planted fault found, a reading taken, undone."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLineEdit, QMessageBox

from window.hands import click, named, press, typed
from wired_union.subjects.bench.assess import BENCH
from wired_union.subjects.bench.pick import BenchPick


@pytest.fixture
def bench(window):
    window.go("bench")
    QTest.qWait(20)
    return window.views["bench"]


def stands(window):
    return {w.step.item.id: w.stands for w in window.store.assessment.of(BENCH)}


def typed_in(view, name, text):
    line = next(x for x in view.findChildren(QLineEdit) if x.accessibleName() == name)
    line.setFocus()
    line.setText(text)
    QTest.keyClick(line, Qt.Key.Key_Return)
    return line


def chosen(view, name, value):
    choice = view.fields[name]
    choice.setCurrentIndex(choice.findData(value))
    choice.activated.emit(choice.currentIndex())


def test_parts_are_woken_and_a_planted_fault_is_found(window, bench, monkeypatch):
    told = []
    monkeypatch.setattr(QMessageBox, "information", lambda *a: told.append(a[2]))
    before = window.store.project
    for item in ("gnss", "camera"):
        press(bench.steps, f"step {item}")
        click(bench.fields["simulate"])
        assert stands(window)[item] == "next"
        click(bench.fields["works"])
        assert stands(window)[item] == "woken"
    chosen(bench, "practice", "hidden")
    fault = bench.instrument.fault
    window.store.pick(BenchPick(fault.item))
    click(bench.fields["simulate"])
    assert stands(window)[fault.item] == "differs"
    click(bench.fields["tell"])
    assert told == [f"{fault.said}."]
    assert window.store.project.concept.readings[-1].instrument == "simulated"
    while window.store.project != before:
        window.undo()


def test_a_measured_current_is_typed_taken_and_the_runtime_moves(window, bench):
    before, runtime = window.store.project, window.store.assessment.measure("runtime").value
    press(bench.steps, "step controller")
    line = typed_in(bench, "Controller 32-bit: at work", "a lot")
    assert "is not a number" in line.parent().error.text()
    typed_in(bench, "Controller 32-bit: at work", "520 mA")
    assert stands(window)["controller"] == "differs"
    assert window.store.assessment.measure("runtime").value == runtime  # until it is taken
    named(bench, "→ take 520").click()
    assert window.store.assessment.measure("runtime").value < runtime
    assert stands(window)["controller"] == "woken"
    for _ in range(2):
        window.undo()
    assert window.store.project == before
    assert window.store.assessment.measure("runtime").value == runtime


def test_steps_are_walked_by_keys_and_one_waits(window, bench):
    before = window.store.project
    bench.steps.setFocus()
    QTest.keyClick(bench.steps, Qt.Key.Key_Return)
    assert window.store.picked(BenchPick).item == "battery"
    press(bench.steps, "step gnss")
    typed(bench, "GNSS receiver: waits for", "its antenna")
    assert stands(window)["gnss"] == "waits"
    chosen(bench, "answers", "0")
    assert stands(window)["gnss"] == "differs"
    chosen(bench, "answers", "1")
    assert stands(window)["gnss"] == "waits"
    for _ in range(3):
        window.undo()
    assert window.store.project == before
