"""The bench by hand: parts woken against simulated instruments, a planted fault found, a reading taken, undone."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QLineEdit, QMessageBox

from window.hands import answer, click, named, press, typed
from wired_union.subjects.bench.assess import BENCH
from wired_union.subjects.bench.calibrations import CALIBRATIONS
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


def test_a_calibration_is_pasted_struck_and_saved(window, bench, monkeypatch, tmp_path):
    before, told = window.store.project, []
    monkeypatch.setattr(QMessageBox, "warning", lambda *a: told.append(a[2]))
    answer(monkeypatch, "Range ahead")
    named(bench, "+ a calibration").click()
    assert window.store.picked(BenchPick).calibration == "range-ahead"
    named(bench, "as C").click()
    assert told[-1].startswith("Range ahead: 4 points at least; 0 are there")
    typed(bench, "Range ahead: quantity in", "cm")
    typed(bench, "Range ahead: it says in", "V")
    rows = "\n".join(f"{x}\t{0.3 + 31.5 / (x + 4.5) + 0.002 * (-1) ** x}\tup" for x in range(10, 24))
    QApplication.clipboard().setText(rows)
    named(bench, "paste points").click()
    QApplication.clipboard().setText("12\ttwelve\n")
    named(bench, "paste points").click()
    assert told[-1].startswith("Line 1: ")
    cal = next(c for c in window.store.assessment.of(CALIBRATIONS) if c.calibration.id == "range-ahead")
    assert len(cal.pairs) == 14
    typed(bench, "Range ahead: it was", "30 cm")
    typed(bench, "Range ahead: the sensor said", "2.9 V")
    assert "odd-point" in {f.check for f in window.store.assessment.findings}
    answer(monkeypatch, "slipped")
    click(bench.fields["point 15"])
    assert "odd-point" not in {f.check for f in window.store.assessment.findings}
    path = tmp_path / "range.py"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(path), ""))
    named(bench, "as Python").click()
    assert "def range_ahead_of(reading):" in path.read_text(encoding="utf-8")
    click(bench.fields["point 15"])
    assert "odd-point" in {f.check for f in window.store.assessment.findings}
    while window.store.project != before:
        window.undo()


def test_an_error_budget_is_made_typed_and_bettered(window, bench, monkeypatch):
    before = window.store.project
    answer(monkeypatch, "Depth of a core")
    named(bench, "+ an error budget").click()
    typed(bench, "Depth of a core: result in", "m")
    typed(bench, "Depth of a core: off by at most", "20 mm")
    for name, spread in (("Slip of the screw", "15 mm"), ("Sinks in", "12 mm")):
        answer(monkeypatch, name)
        named(bench, "+ what makes it wrong").click()
        assert window.store.assessment.measure("error:depth-of-a-core").verdict == "unknown"
        chosen(bench, "doubt spread_as", "standard deviation")
        typed(bench, f"{name}: spread, ±", spread)
    bench.budget.canvas.setFocus()
    QTest.keyClick(bench.budget.canvas, Qt.Key.Key_Return)
    assert window.store.picked(BenchPick).doubt == 1
    assert window.store.assessment.measure("error:depth-of-a-core").value == pytest.approx(0.03765, rel=1e-3)
    assert "budget" in {f.check for f in window.store.assessment.findings if f.of == "depth-of-a-core"}
    line = typed(bench, "Slip of the screw: readings averaged", "4")
    assert "Averaging" in line.parent().error.text()
    typed(bench, "Slip of the screw: spread, ±", "0.1 mm")
    while window.store.project != before:
        window.undo()
