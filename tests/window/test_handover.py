"""Handover in the window: what is missing, cautions read, sections left out, reports and the archive written."""

import json
import zipfile

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog, QPushButton

import edits
from wired_union.kernel.results import Verdict
from wired_union.report.everything import verify
from wired_union.subjects.handover.ready import readiness

from .hands import click, named, press, typed


@pytest.fixture
def handover(window):
    window.go("handover")
    return window.views["handover"]


def choose(monkeypatch, path) -> None:
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(path), ""))


def button(view, name: str) -> QPushButton:
    return next(b for b in view.panel.findChildren(QPushButton) if b.accessibleName() == name)


def test_a_caution_is_read_by_somebody(window, handover):
    store = window.store
    click(button(handover, "I have read: Lithium pack"))
    assert "Say who you are first" in window.ripple_line.text
    assert not store.project.signatures
    typed(handover, "I am", "Jo")
    click(button(handover, "I have read: Lithium pack"))
    (signature,) = store.project.signatures
    assert (signature.caution, signature.by, signature.on) == ("Lithium pack", "Jo", window.today())
    asked = [u for s in store.assessment.subjects if s.id == "handover" for u in s.unready(store.assessment)]
    left = next(u for u in asked if u.group == "cautions")
    assert "Lithium pack" not in left.names
    assert left.of == len(left.names) + 1


def test_the_report_is_written_beside_the_window_and_leaves_out_what_was_left_out(
    window, handover, monkeypatch, tmp_path, qtbot
):
    path = tmp_path / "rover.html"
    choose(monkeypatch, path)
    box = handover.boxes["wiring"]
    QTest.mouseClick(box, Qt.MouseButton.LeftButton, pos=box.rect().center() - box.rect().center() / 2)
    if "wiring" not in window.store.project.sections_left_out:
        box.click()
    assert window.store.project.sections_left_out == ("wiring",)
    heard = []
    handover.heard.connect(heard.append)
    QTest.keyClick(window, Qt.Key.Key_P, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(path.exists, timeout=30_000)
    assert "Power" in heard
    assert "Timing" in heard
    text = path.read_text(encoding="utf-8")
    assert "From pins to parts" not in text
    assert "Left out by the team: Wiring." in text
    qtbot.waitUntil(lambda: "is written" in handover.said.text(), timeout=5_000)


def test_everything_goes_into_one_archive(window, handover, monkeypatch, tmp_path, qtbot):
    path = tmp_path / "rover.zip"
    choose(monkeypatch, path)
    click(named(handover, "Write everything"))
    qtbot.waitUntil(path.exists, timeout=60_000)
    assert verify(path) == []
    with zipfile.ZipFile(path) as archive:
        names = set(archive.namelist())
        files = json.loads(archive.read("manifest.json"))["files"]
    assert {"report.pdf", "report-judge.pdf", "parts.xlsx", "plan.ics", "runs.csv", "project.union.json"} <= names
    assert names == {*files, "manifest.json"}


def test_writing_is_stopped_and_nothing_is_written(window, handover, monkeypatch, tmp_path, qtbot):
    path = tmp_path / "rover.zip"
    choose(monkeypatch, path)
    click(named(handover, "Write everything"))
    click(handover.stop_button)
    assert handover.said.text() == "Stopped. Nothing was written."
    qtbot.waitUntil(lambda: not handover.worker.running, timeout=30_000)
    handover.worker.wait(60)
    QTest.qWait(20)
    assert not path.exists()


def test_a_place_that_cannot_be_written_is_said(window, handover, monkeypatch, tmp_path, qtbot):
    choose(monkeypatch, tmp_path / "nowhere" / "judge.pdf")
    click(named(handover, "two pages for a judge"))
    qtbot.waitUntil(lambda: handover.said.text().startswith("Not written"), timeout=30_000)


def test_the_case_opens_by_key_and_gives_single_papers(window, handover, monkeypatch, tmp_path):
    press(handover.case, "compartment wiring")
    choose(monkeypatch, tmp_path / "pins.csv")
    click(named(handover, "wiring/pins.csv"))
    assert (tmp_path / "pins.csv").read_text().startswith("controller,pin")
    handover.case.setFocus()
    QTest.keyClick(handover.case, Qt.Key.Key_Right)
    QTest.keyClick(handover.case, Qt.Key.Key_Return)
    assert named(handover, "before-arming.html")


def test_standards_are_named_and_a_long_one_is_refused(window, handover):
    line = handover.standards.line
    line.setFocus()
    line.setText("EN 60204-1; the lab's rules for packs")
    QTest.keyClick(line, Qt.Key.Key_Return)
    assert window.store.project.standards == ("EN 60204-1", "the lab's rules for packs")
    line.setText("x" * 200)
    QTest.keyClick(line, Qt.Key.Key_Return)
    assert "Keep each under" in handover.standards.error.text()
    assert len(window.store.project.standards) == 2


def test_what_breaks_is_not_ready_and_neither_is_what_is_not_known(window, handover):
    """Everything else done, a limit that breaks or lacks a figure keeps it from being ready."""
    store = window.store
    found = readiness(store.assessment)
    limits = [u for u in found.left if u.group == "limits"]
    assert "Runs a whole tide" in limits[0].names
    assert len(limits[1].names) == len(store.assessment.breaks_besides)
    store.attempt(edits.set_part_value, "core-tube", "mass_kg", None)
    again = next(u for u in readiness(store.assessment).left if u.group == "limits")
    assert "Two can lift it" in again.names
    assert readiness(store.assessment).verdict is Verdict.UNKNOWN
