"""Files from the window: nothing is lost, and what goes wrong is said with what to do."""

import os
import signal
import subprocess
import sys
import time

import pytest
from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from PyQt6.QtWidgets import QFileDialog, QMessageBox, QPushButton

import edits
from wired_union.project.file import backup_of, load, save
from wired_union.project.journal import find_unsaved

from .hands import click

BUTTON = QMessageBox.StandardButton


@pytest.fixture
def said(monkeypatch):
    """What message boxes said; questions are answered with `answers`, Yes first."""
    texts: list[str] = []
    answers: list[QMessageBox.StandardButton] = []

    def note(_parent, _title, text, *rest, **more):
        texts.append(text)
        return answers.pop(0) if answers else BUTTON.Yes

    for name in ("warning", "information", "question"):
        monkeypatch.setattr(QMessageBox, name, note)
    note.texts, note.answers = texts, answers
    return note


@pytest.fixture
def saved(tmp_path, mudlark):
    path = tmp_path / "mudlark.union.json"
    save(mudlark, path)
    return path


def test_a_second_window_says_so_and_opens_a_copy(open_window, saved, said):
    first, second = open_window(demo=""), open_window(demo="")
    first.open_path(saved)
    second.open_path(saved)
    assert "is open in another window. This window holds a copy" in said.texts[0]
    assert second.files.path is None
    assert second.store.project == first.store.project
    assert second.store.unsaved
    assert not second.files.save(saved)
    assert "Save under another name" in said.texts[1]
    first.files.release()
    assert second.files.save(saved)


def test_a_broken_file_offers_the_last_good_version(open_window, saved, said, mudlark):
    save(edits.set_count(mudlark, "battery", 2).after, saved)
    saved.write_text('{"format": ', encoding="utf-8")
    window = open_window(demo="")
    window.open_path(saved)
    assert "line 1, column 12" in said.texts[0]
    assert window.store.project == mudlark
    assert window.store.unsaved
    assert saved.read_text(encoding="utf-8") == '{"format": '
    assert load(backup_of(saved)) == mudlark


def test_a_file_that_cannot_be_opened_leaves_the_present_work(open_window, said, tmp_path):
    window = open_window()
    before = window.store.project
    window.open_path(tmp_path / "nowhere.union.json")
    assert "cannot be read" in said.texts[0]
    assert window.store.project is before


def test_a_disk_that_is_full_leaves_the_work_open(window, said, monkeypatch, tmp_path):
    def full(*_args):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("os.fsync", full)
    window.store.attempt(edits.set_count, "battery", 2)
    assert not window.files.save(tmp_path / "a.union.json")
    assert "Your work is still open" in said.texts[0]
    assert window.store.unsaved


def test_leaving_with_unsaved_work_asks(open_window, said, tmp_path, monkeypatch):
    window = open_window()
    window.store.attempt(edits.set_count, "battery", 2)
    said.answers.append(BUTTON.Cancel)
    window.close()
    assert window.isVisible()
    assert "has unsaved changes" in said.texts[0]
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "kept.union.json"), ""))
    said.answers.append(BUTTON.Save)
    window.close()
    assert not window.isVisible()
    assert load(tmp_path / "kept.union.json").concept.items[15].count == 2


def test_a_file_dropped_on_the_window_opens(open_window, saved):
    window = open_window(demo="")
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(saved))])
    nothing = Qt.KeyboardModifier.NoModifier
    event = QDropEvent(QPointF(5, 5), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, nothing)
    window.dropEvent(event)
    assert window.store.project.name == "Mudlark"
    assert window.files.path == saved


@pytest.mark.parametrize("by", ["page", "search"])
def test_a_start_is_begun_from_the_page_and_by_ctrl_k(open_window, by):
    window = open_window(demo="")
    if by == "page":
        link = next(b for b in window.start.findChildren(QPushButton) if b.text().startswith("Opens and closes"))
        click(link)
    else:
        action = next(a for a in window._actions if "opens and closes" in a.name)
        assert not action.group  # the menu stays short; Ctrl K finds it
        action.act()
    assert window.store.project.name == "Hen-house door"
    assert window.stage == "brief"
    assert window.store.assessment.measure("runtime").verdict == "breaks"


def test_the_start_page_opens_what_was_opened_last(open_window, saved):
    first = open_window(demo="")
    first.open_path(saved)
    first.files.release()
    first.close()
    second = open_window(demo="")
    from PyQt6.QtWidgets import QPushButton

    recent = next(b for b in second.start.findChildren(QPushButton) if "mudlark.union.json" in b.text())
    recent.click()
    assert second.files.path == saved


def test_a_new_project_from_nothing_suggests_first_steps(open_window, monkeypatch, qtbot):
    window = open_window(demo="")
    monkeypatch.setattr("wired_union.ui.ask.word", lambda *a, **k: ("Mole", True))
    window.start.new.click()
    assert window.stage == "brief"
    from PyQt6.QtWidgets import QPushButton

    steps = [b.text() for b in window.views["brief"].panel.findChildren(QPushButton) if b.text().startswith("→")]
    assert "→ add a pack to feed it all" in steps
    for stage in window.views:
        window.go(stage)
    assert window.header.name.text() == "Mole"


def test_the_report_and_the_list_are_written_from_the_menu(window, monkeypatch, tmp_path, qtbot):
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "r.html"), ""))
    window.write_report()
    qtbot.waitUntil(lambda: "is written" in window.views["handover"].said.text(), timeout=30_000)
    assert (tmp_path / "r.html").stat().st_size > 10_000
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "p.csv"), ""))
    window.write_parts()
    assert (tmp_path / "p.csv").exists()


def test_the_menu_says_what_undo_would_do(window):
    from wired_union.app.actions import fill_menu

    window.store.attempt(edits.set_count, "battery", 2)
    fill_menu(window._menu, window._actions, window)
    names = [a.text() for a in window._menu.actions()]
    assert any(n.startswith("Undo: Pack 4S 6 Ah LiFePO₄: 1 becomes 2") for n in names)


def test_every_edit_reaches_the_journal_and_saving_clears_it(window, places, qtbot, tmp_path):
    window.store.attempt(edits.set_count, "battery", 2)
    qtbot.waitUntil(lambda: any(places.journals.glob("*.json")), timeout=3000)
    assert window.files.save(tmp_path / "a.union.json")
    assert not any(places.journals.glob("*.json"))
    window.store.undo()
    qtbot.waitUntil(lambda: any(places.journals.glob("*.json")), timeout=3000)
    window.store.redo()
    assert not window.store.unsaved
    qtbot.waitUntil(lambda: not any(places.journals.glob("*.json")), timeout=3000)


EDITS_AND_WAITS = """
import sys
from pathlib import Path
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtTest import QTest
from wired_union.ui.places import Places
from wired_union.app.run import make_app, make_window
app = make_app(["x"])
places = Places(Path(sys.argv[1]) / "config" / "settings.json", Path(sys.argv[1]) / "recovery", Path(sys.argv[1]) / "store.sqlite", Path(sys.argv[1]) / "kept")
window = make_window(places)
window.open_path(Path(sys.argv[2]))
window.show()
window.activateWindow()
def edit():
    if not window.isActiveWindow():  # keys go nowhere before
        return QTimer.singleShot(20, edit)
    window.go_to_item("imu")
    QTest.keyClick(window.views["parts"].cards["imu"], Qt.Key.Key_Delete)
    window.go_to_item("radio")
    QTest.keyClick(window.views["parts"].cards["radio"], Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
QTimer.singleShot(50, edit)
app.exec()
"""


def test_killed_work_is_offered_with_what_was_in_it(open_window, places, saved, said, tmp_path, monkeypatch):
    """kill −9 while unsaved: the next start offers the edits, and the file is as it was."""
    victim = subprocess.Popen([sys.executable, "-c", EDITS_AND_WAITS, str(tmp_path), str(saved)])
    wanted = ("delete IMU 6-axis", "duplicate Radio sub-GHz")
    for _ in range(1200):  # as long as a crowded machine takes to start it
        time.sleep(0.05)
        if any(w in p.read_text(encoding="utf-8") for p in places.journals.glob("*.json") for w in wanted[1:]):
            break
    os.kill(victim.pid, signal.SIGKILL)
    victim.wait()
    (left,) = find_unsaved(places.journals)
    assert left.edits == wanted
    asked: list[str] = []

    def answer(box):
        asked.append(box.text())
        return BUTTON.Yes

    monkeypatch.setattr(QMessageBox, "exec", answer)
    window = open_window(demo="")
    window.offer_recovery()
    assert "delete IMU 6-axis" in asked[0]
    assert "of mudlark.union.json" in asked[0]
    ids = [i.id for i in window.store.project.concept.items]
    assert "imu" not in ids
    assert "radio-sub-ghz" in ids
    assert window.store.unsaved
    assert window.files.path == saved
    assert "imu" in [i.id for i in load(saved).concept.items]
    assert window.save()
    assert "imu" not in [i.id for i in load(saved).concept.items]
    assert find_unsaved(places.journals) == ()


def test_declined_recovery_is_asked_again_and_discarded_work_is_gone(open_window, places, mudlark, monkeypatch):
    places.journals.mkdir(parents=True)
    path = places.journals / "4194999-x.journal.json"
    from wired_union.project.file import to_text

    head = '{"process": 4194999, "when": "2026-11-24T10:00:00", "file": null, "edits": []}'
    path.write_text(head + "\n" + to_text(mudlark), encoding="utf-8")
    window = open_window(demo="")
    monkeypatch.setattr(QMessageBox, "exec", lambda box: BUTTON.Cancel)
    window.offer_recovery()
    assert path.exists()
    assert window.store is None
    monkeypatch.setattr(QMessageBox, "exec", lambda box: BUTTON.Discard)
    window.offer_recovery()
    assert not path.exists()
