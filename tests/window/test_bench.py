"""The bench by hand: parts woken against simulated instruments, a planted fault found, a reading taken, undone."""

import can
import openpyxl
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QLineEdit, QMessageBox

from instruments.stand_ins import a_device
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
    QTest.qWait(1)  # what was laid out anew is shown, what it replaces is gone
    line = next(x for x in view.findChildren(QLineEdit) if x.accessibleName() == name and x.isVisibleTo(view))
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
    fault = bench.instruments.bench.fault
    window.store.pick(BenchPick(fault.item))
    click(bench.fields["simulate"])
    assert stands(window)[fault.item] == "differs"
    click(bench.fields["tell"])
    assert told == [f"{fault.said}."]
    assert window.store.project.concept.readings[-1].instrument.endswith("simulated")
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


def test_a_figure_is_logged_with_a_simulated_meter_and_its_mean_taken(window, bench, qtbot):
    before = window.store.project
    press(bench.steps, "step controller")
    typed_in(bench, "Instrument: log for", "0,4 s")
    typed_in(bench, "Instrument: a reading every", "5 ms")
    line = typed_in(bench, "Instrument: log for", "never")
    assert line.parent().error.text()
    named(bench, "Log for").click()
    qtbot.waitUntil(lambda: bench.instruments.log is not None and bench.instruments.log.count > 10, timeout=20_000)
    qtbot.waitUntil(lambda: not bench.instruments.worker.running, timeout=20_000)
    log = bench.instruments.log
    assert "readings:" in bench.fields["said"].text()
    click(bench.fields["mean"])
    reading = window.store.project.concept.readings[-1]
    assert (reading.item, reading.value) == ("controller", pytest.approx(log.mean))
    assert reading.instrument == f"mean of {log.count}, meter, simulated"
    assert log.path.read_text(encoding="utf-8").count("\n") == log.count + 1
    click(bench.fields["take"])
    qtbot.waitUntil(
        lambda: len(window.store.project.concept.readings) == len(before.concept.readings) + 2, timeout=20_000
    )
    chosen(bench, "instrument", "scale")
    chosen(bench, "at", "load.active_a")
    click(bench.fields["take"])
    assert bench.fields["said"].text().startswith("A scale does not tell")
    while window.store.project != before:
        window.undo()


def test_a_serial_line_unplugged_in_the_middle_is_said_and_loses_nothing(window, bench, qtbot):
    before = window.store.project
    press(bench.steps, "step controller")
    chosen(bench, "instrument", "serial")
    chosen(bench, "at", "load.active_a")
    click(bench.fields["take"])
    qtbot.waitUntil(lambda: "Say which line" in bench.fields["said"].text(), timeout=20_000)
    with a_device([b"t=%d current %f A\n" % (n, 0.05 + n / 1e4) for n in range(40)], 0.01, stays=False) as address:
        typed_in(bench, "Instrument: address", address)
        typed_in(bench, "Instrument: number of the line", "2")
        typed_in(bench, "Instrument: log for", "20 s")
        typed_in(bench, "Instrument: a reading every", "1 ms")
        named(bench, "Log for").click()
        qtbot.waitUntil(lambda: not bench.instruments.worker.running, timeout=20_000)
    log = bench.instruments.log
    assert log.count == 40
    assert "has gone" in bench.fields["said"].text()
    assert log.path.read_text(encoding="utf-8").count("\n") == 41
    click(bench.fields["mean"])
    assert window.store.project.concept.readings[-1].value == pytest.approx(0.05 + 19.5 / 1e4)
    window.undo()
    assert window.store.project == before
    for kind, how, says in (("serial", "none", "which number"), ("can", "x", "Say the frame"), ("can", "0x1", "Say which bus"),
                            ("scpi", "READ?", "Say which instrument")):  # fmt: skip
        chosen(bench, "instrument", kind)
        typed_in(bench, "Instrument: address", "")
        name = {"serial": "number of the line", "can": "frame", "scpi": "asked"}[kind]
        typed_in(bench, f"Instrument: {name}", how)
        click(bench.fields["take"])
        qtbot.waitUntil(lambda says=says: says in bench.fields["said"].text(), timeout=20_000)


def test_a_point_of_a_calibration_is_taken_live_and_points_come_from_a_workbook(
    window, bench, qtbot, monkeypatch, tmp_path
):
    before, told = window.store.project, []
    monkeypatch.setattr(QMessageBox, "warning", lambda *a: told.append(a[2]))
    window.store.pick(BenchPick(calibration="salinity"))
    points = len(window.store.project.concept.calibrations[0].pairs)
    line = typed_in(bench.panel, "Salinity: it was", "some")
    click(bench.fields["live"])
    assert "is not a number" in line.parent().error.text()
    typed_in(bench.panel, "Salinity: it was", "20")
    click(bench.fields["live"])
    qtbot.waitUntil(lambda: len(window.store.project.concept.calibrations[0].pairs) == points + 1, timeout=20_000)
    pair = window.store.project.concept.calibrations[0].pairs[-1]
    assert (pair.known, pair.session) == (20, "2026-11-24")
    assert pair.reading == pytest.approx(1.32, abs=0.05)
    book = openpyxl.Workbook()
    for cells in (("known", "reading"), (12, 0.98), (16, 1.16)):
        book.active.append(cells)
    book.save(tmp_path / "points.xlsx")
    (tmp_path / "none.xlsx").write_text("nothing", encoding="utf-8")
    for name in ("points.xlsx", "none.xlsx"):
        monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, n=name: (str(tmp_path / n), ""))
        named(bench, "from a file").click()
    assert len(window.store.project.concept.calibrations[0].pairs) == points + 3
    assert "damaged" in told[-1]
    while window.store.project != before:
        window.undo()


def test_a_chain_and_a_surface_are_made_by_hand(window, bench, monkeypatch, tmp_path):
    before, told = window.store.project, []
    monkeypatch.setattr(QMessageBox, "warning", lambda *a: told.append(a[2]))
    answer(monkeypatch, "Pack voltage")
    named(bench, "+ an analogue chain").click()
    for field, text in (("V for one of it", "0.2"), ("converter reference", "3.3 V"), ("bits", "12"), ("noise before it", "50 mV"),
                        ("samples a second", "200 Hz"), ("fastest change", "2"), ("off by at most", "0.1")):  # fmt: skip
        known = window.store.assessment.measure("error:pack-voltage").value is not None
        assert known is (field == "off by at most")
        typed(bench, f"Pack voltage: {field}", text)
    assert window.store.assessment.measure("error:pack-voltage").value == pytest.approx(0.49, abs=0.01)
    named(bench, "→ average 25").click()
    assert window.store.assessment.measure("error:pack-voltage").value <= 0.1
    answer(monkeypatch, "Grip")
    named(bench, "+ a surface").click()
    named(bench, "as C").click()
    assert "Nothing was written" in told[-1]
    QApplication.clipboard().setText("\t1\t2\t3\n1\t3.1\t4\t5.2\n2\t4.9\t6\t7\n3\t7\t8.1\t9\n")
    named(bench, "paste points").click()
    assert window.store.assessment.measure("error:grip").value < 1
    QApplication.clipboard().setText("1;x;2")
    named(bench, "paste points").click()
    assert told[-1].startswith("Line 1")
    path = tmp_path / "grip.h"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(path), ""))
    named(bench, "as C").click()
    assert "grip_at(double x, double y)" in path.read_text(encoding="utf-8")
    answer(monkeypatch, "slipped")
    click(bench.fields["point 9"])
    assert window.store.project.concept.surfaces[0].points[8].struck == "slipped"
    while window.store.project != before:
        window.undo()


def test_a_figure_comes_from_a_can_bus_and_a_line_has_its_speed(window, bench, qtbot):
    before = window.store.project
    press(bench.steps, "step controller")
    chosen(bench, "instrument", "serial")
    chosen(bench, "baud", "9600")
    assert bench.instruments.real_door().baud == 9600
    chosen(bench, "instrument", "can")
    chosen(bench, "at", "load.active_a")
    typed_in(bench, "Instrument: adapter", "virtual")
    typed_in(bench, "Instrument: address", "flat")
    typed_in(bench, "Instrument: frame", "0x21 0 2 0.001")
    with can.Bus(channel="flat", interface="virtual") as sender:
        click(bench.fields["take"])
        frame = can.Message(arbitration_id=0x21, data=[0, 62], is_extended_id=False)

        def arrived():
            sender.send(frame)
            return len(window.store.project.concept.readings) > len(before.concept.readings)

        qtbot.waitUntil(arrived, timeout=20_000)
    reading = window.store.project.concept.readings[-1]
    assert (reading.value, reading.instrument) == (pytest.approx(0.062), "CAN flat 0x21")
    window.undo()
    assert window.store.project == before
