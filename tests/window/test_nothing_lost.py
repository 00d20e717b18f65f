"""A slip anywhere leaves the window open and the work kept; files of other hands, links and old journals are respected."""

import json
import os
import subprocess
import sys
import textwrap
import threading
from pathlib import Path

import pytest
from msgspec.structs import force_setattr
from PyQt6.QtWidgets import QApplication, QFileDialog, QMessageBox

import edits
from wired_union.app.dialogs.fault import Fault
from wired_union.app.guard import Guard
from wired_union.catalogue.library import Library, LibraryError
from wired_union.errors import OUR_FAULT, PlainError
from wired_union.project.file import clear_stray, load, save, write_whole
from wired_union.project.journal import Journal, find_unsaved
from wired_union.project.model import Stock
from wired_union.subjects import subjects
from wired_union.ui.places import MOST_TEXT, Places, Settings

from .hands import answer

BUTTON = QMessageBox.StandardButton


@pytest.fixture
def asked(monkeypatch):
    """What was asked; answered Cancel until told otherwise."""
    texts: list[str] = []
    asked_of = {"answer": BUTTON.Cancel}

    def note(_parent, _title, text, *rest, **more):
        texts.append(text)
        return asked_of["answer"]

    for name in ("warning", "information", "question"):
        monkeypatch.setattr(QMessageBox, name, note)
    note.texts, note.reply = texts, lambda b: asked_of.update(answer=b)
    return note


# a slip


def test_a_slip_in_a_slot_a_timer_a_thread_a_worker_or_a_paint_leaves_the_window(tmp_path):
    """The real program: five faults one after another; the window stays, the work is kept, each fault is said once."""
    script = textwrap.dedent(
        """
        import os, sys, threading
        from pathlib import Path
        from PyQt6.QtCore import QRunnable, QThreadPool, QTimer
        from PyQt6.QtWidgets import QWidget
        from wired_union.app.run import make_app, make_window
        from wired_union.ui.places import Places
        from wired_union.project.edits import set_count
        from wired_union.app.dialogs.fault import Fault
        app = make_app(["x"])
        window = make_window(Places.within(Path(sys.argv[1])))
        window.guard.stand()
        window.open_demo()
        window.show()
        window.store.attempt(set_count, "battery", 2)
        class Bad(QWidget):
            def paintEvent(self, event): raise ZeroDivisionError("paint")
        class Work(QRunnable):
            def run(self): raise KeyError("runnable")
        def slot(): raise RuntimeError("timer")
        def thread(): raise ValueError("thread")
        bad = Bad(window)
        window.header.find_pressed.disconnect()
        window.header.find_pressed.connect(lambda: window.no_such_thing())
        slips = [
            slot, lambda: threading.Thread(target=thread).start(), lambda: QThreadPool.globalInstance().start(Work()),
            lambda: (bad.show(), bad.update(), bad.repaint()), window.header.find_pressed.emit,
        ]
        left, begun = [400], [0]
        def look():
            faults = window.findChildren(Fault)
            left[0] -= 1
            if len(faults) == begun[0] < 5:  # the next when the one before has been told
                begun[0] += 1
                QTimer.singleShot(0, slips[begun[0] - 1])
            if len(faults) < 5 and left[0]:
                return QTimer.singleShot(50, look)
            print(len(faults), window.isVisible(), window.store.project.concept.items[15].count)
            print(*sorted(f.details.strip().splitlines()[-1].split(":")[0] for f in faults))
            sys.stdout.flush()
            os._exit(0)  # leaving would ask about the unsaved edit
        QTimer.singleShot(0, look)
        app.exec()
        """
    )
    env = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run(
        [sys.executable, "-c", script, str(tmp_path)], capture_output=True, text=True, env=env, timeout=60
    )
    lines = done.stdout.strip().splitlines()
    assert done.returncode == 0, done.stderr
    assert lines[0] == "5 True 2", (lines, done.stderr)
    assert lines[1] == "AttributeError KeyError RuntimeError ValueError ZeroDivisionError"
    (left,) = (tmp_path / "recovery").glob("*.journal.json")
    assert '"count": 2' in left.read_text(encoding="utf-8")


def test_a_fault_while_another_is_told_is_told_too(window, qtbot):
    told = []

    def tell(sentence, details):
        told.append(details.splitlines()[-1])
        if len(told) == 1:
            guard.take(ValueError("second"))

    guard = Guard(lambda: None, tell)
    guard.take(RuntimeError("first"))
    qtbot.waitUntil(lambda: len(told) == 2)
    assert told == ["RuntimeError: first", "ValueError: second"]


def test_the_same_fault_is_told_once_and_can_be_copied(window, qtbot):
    for _ in range(3):
        try:
            raise RuntimeError("inside")
        except RuntimeError as error:
            window.guard.take(error)
    (told,) = window.findChildren(Fault)
    assert OUR_FAULT in told.text
    assert "Your work is kept" in told.text
    told.copy_button.click()
    assert "RuntimeError: inside" in QApplication.clipboard().text()
    told.close()


def test_what_is_meant_for_people_is_said_as_it_is(window):
    window.guard.take(PlainError("The sheet is upside down. Turn it."))
    assert window.findChildren(Fault)[0].text.startswith("The sheet is upside down. Turn it.")


def test_an_edit_that_cannot_be_worked_out_is_refused_and_reported(window):
    mass = next(n for s in subjects() for n in s.nodes if n.name == "mass")
    before, works = window.store.project, mass.work

    def fails(*_):
        raise ZeroDivisionError("mass")

    force_setattr(mass, "work", fails)
    try:
        assert not window.store.attempt(edits.set_count, "battery", 2)
    finally:
        force_setattr(mass, "work", works)
    assert window.store.project is before
    assert window.store.can_undo == ""
    assert "could not be worked out" in window.ripple_line.text
    assert "ZeroDivisionError" in window.findChildren(Fault)[0].details


def test_a_project_that_cannot_be_worked_out_leaves_what_is_open(window, monkeypatch, mudlark):
    before = window.store
    monkeypatch.setattr("wired_union.app.main_window.assess", lambda p: 1 / 0)
    with pytest.raises(ZeroDivisionError):
        window.hold(mudlark, None)
    assert window.store is before
    assert window.store.attempt(edits.set_count, "battery", 2)
    assert "2" in window.ripple_line.text


# the journal


def test_the_journal_follows_an_edit_without_a_turn_of_the_interface(window, places):
    """How soon is measured by script/kills: a tenth of a second at the most."""
    window.store.attempt(edits.set_count, "battery", 2)
    for _ in range(5000):  # the interface thread does nothing meanwhile
        if list(places.journals.glob("*.journal.json")):
            break
        threading.Event().wait(0.001)
    assert list(places.journals.glob("*.journal.json"))
    assert window.files.keep()
    left = next(places.journals.glob("*.journal.json")).read_text(encoding="utf-8")
    assert json.loads(left.split("\n", 1)[0])["edits"] == ["Pack 4S 6 Ah LiFePO₄: 1 becomes 2"]


def test_of_many_edits_in_a_row_the_last_is_kept(window, places):
    for count in range(2, 40):
        window.store.attempt(edits.set_count, "battery", count)
    assert window.files.keep()
    left = next(places.journals.glob("*.journal.json")).read_text(encoding="utf-8")
    assert '"count": 39' in left


def left_journal(places: Places, project, file: Path | None = None, **head) -> Path:
    """A journal that a dead program left."""
    path = places.journals / "7-dead.journal.json"
    Journal(path).write(project, file, ("one", "two"))
    first, text = path.read_text(encoding="utf-8").split("\n", 1)
    write_whole(path, json.dumps({**json.loads(first), "process": 2**22 + 9, **head}) + "\n" + text)
    return path


def test_a_number_that_another_program_has_by_now_is_a_dead_one(places, mudlark):
    path = left_journal(places, mudlark, process=os.getpid(), started=1)
    assert [u.journal for u in find_unsaved(places.journals)] == [path]
    path = left_journal(places, mudlark, process=os.getpid(), boot="another day")
    assert [u.journal for u in find_unsaved(places.journals)] == [path]
    path.unlink()
    Journal(path).write(mudlark, None, ())
    assert find_unsaved(places.journals) == ()


def test_one_bad_journal_stops_no_other(places, mudlark):
    path = left_journal(places, mudlark)
    os.mkfifo(places.journals / "1-a.journal.json")
    (places.journals / "2-b.journal.json").write_bytes(b"\xff\xfe")
    (places.journals / "3-c.journal.json").write_text("[" * 9000 + "\n{}", encoding="utf-8")
    (places.journals / "4-d.journal.json").write_text('{"process": null}\n{}', encoding="utf-8")
    assert [u.journal for u in find_unsaved(places.journals)] == [path]


def test_recovery_tells_of_a_newer_file_and_keeps_the_journal_until_its_own_is_written(
    open_window, places, mudlark, tmp_path, monkeypatch
):
    file = tmp_path / "a.union.json"
    changed = edits.set_count(mudlark, "battery", 3).after
    path = left_journal(places, changed, file)
    os.utime(path, (1, 1))
    save(mudlark, file)
    window = open_window(demo="")
    told = []
    monkeypatch.setattr(QMessageBox, "setText", lambda self, text: told.append(text))
    monkeypatch.setattr(QMessageBox, "exec", lambda self: int(BUTTON.Yes.value))
    writes = []
    monkeypatch.setattr(window.files, "keep", lambda: writes.append(path.exists()) or False)
    window.offer_recovery()
    assert "a.union.json itself was written after that" in told[0]
    assert window.store.project == changed
    assert writes == [True]
    assert path.exists(), "its own journal could not be written: the old one must stay"
    monkeypatch.undo()
    assert window.files.keep()
    assert load(file) == mudlark


# files of other hands


def test_a_file_that_another_program_changed_is_asked_about(window, tmp_path, asked, mudlark):
    path = tmp_path / "a.union.json"
    window.files.save(path)
    window.store.attempt(edits.set_count, "battery", 2)
    os.utime(path)  # touched, not changed
    assert window.save()
    other = edits.set_count(mudlark, "battery", 7).after
    save(other, path)
    window.store.attempt(edits.set_count, "battery", 3)
    assert not window.save()
    assert "was changed by another program" in asked.texts[-1]
    assert load(path) == other
    asked.reply(BUTTON.Yes)
    assert window.save()
    assert load(path) == window.store.project
    assert load(path.with_name(path.name + ".before")) == other


def test_save_as_without_an_ending_asks_before_it_replaces(window, tmp_path, asked, monkeypatch):
    there = tmp_path / "a.union.json"
    there.write_text("precious", encoding="utf-8")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "a"), ""))
    assert not window.save_as()
    assert "is there already" in asked.texts[-1]
    assert there.read_text(encoding="utf-8") == "precious"
    asked.reply(BUTTON.Yes)
    assert window.save_as()
    assert load(there) == window.store.project


def test_links_and_permissions_stay_and_the_lock_follows(open_window, tmp_path, mudlark, asked):
    real, link = tmp_path / "real" / "a.union.json", tmp_path / "link.union.json"
    real.parent.mkdir()
    save(mudlark, real)
    real.chmod(0o600)
    link.symlink_to(real)
    first, second = open_window(demo=""), open_window(demo="")
    first.open_path(link)
    first.store.attempt(edits.set_count, "battery", 2)
    assert first.save()
    assert link.is_symlink()
    assert real.stat().st_mode & 0o777 == 0o600
    assert load(real) == first.store.project
    second.open_path(real)
    assert f"{real} is open in another window" in asked.texts[-1]


def test_a_report_on_a_full_disk_leaves_the_old_one(tmp_path, mudlark_assessed, monkeypatch):
    from wired_union.project.documents import DocumentError
    from wired_union.report.write import write_report

    path = tmp_path / "r.html"
    path.write_text("last week", encoding="utf-8")

    def full(*_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("os.fsync", full)
    with pytest.raises(DocumentError, match="no space left"):
        write_report(mudlark_assessed, path, "2026-11-24")
    assert path.read_text(encoding="utf-8") == "last week"
    assert [p.name for p in tmp_path.iterdir()] == ["r.html"]


def test_a_later_library_is_not_stamped_down(tmp_path, mudlark):
    import sqlite3

    path = tmp_path / "store.sqlite"
    with sqlite3.connect(path) as db:
        db.execute("CREATE TABLE parts (later TEXT)")
        db.execute("PRAGMA user_version = 9")
    db.close()
    with pytest.raises(LibraryError, match="a later one"):
        Library(path).add([Stock(part=mudlark.concept.items[0].part)])
    with sqlite3.connect(path) as db:
        assert db.execute("PRAGMA user_version").fetchone()[0] == 9
    db.close()


@pytest.mark.parametrize(
    "text",
    ['{"theme": "neon", "text_size": 99, "recent": ["a", 5, null]}', '{"text_size": NaN}', '{"text_size": -3, "theme": 4}',
     "[]", "{", "", '{"recent": "x"}', "[" * 5000],
)  # fmt: skip
def test_settings_out_of_range_are_brought_into_it(tmp_path, text):
    places = Places.within(tmp_path)
    places.settings_file.write_text(text, encoding="utf-8")
    found = places.read_settings()
    assert found.theme in {"system", "light", "dark"}
    assert 0.7 <= found.text_size <= MOST_TEXT
    assert all(isinstance(r, str) for r in found.recent)


def test_a_full_disk_is_said_once(window, monkeypatch, asked, qtbot):
    def full(*_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("os.fsync", full)
    for count in range(2, 9):
        window.store.attempt(edits.set_count, "battery", count)
        window.files.keep()
        QApplication.processEvents()
    assert sum("recovery journal cannot be written" in t for t in asked.texts) == 1


def test_stray_temporary_files_are_cleared(tmp_path):
    path = tmp_path / "a.union.json"
    stray, young = tmp_path / ".a.union.json.x1.part", tmp_path / ".a.union.json.x2.part"
    other = tmp_path / ".b.union.json.x1.part"
    for file in (stray, young, other):
        file.write_text("half", encoding="utf-8")
    os.utime(stray, (1, 1))
    os.utime(other, (1, 1))
    assert clear_stray(path) == 1
    assert not stray.exists()
    assert young.exists()
    assert other.exists()


def test_pasted_control_characters_leave_a_name(window, monkeypatch):
    answer(monkeypatch, "Mud\x00lark\x1b[31m II\ud800")
    window.rename_project()
    assert window.store.project.name == "Mud lark [31m II"


def test_settings_journals_and_the_store_lie_where_the_desktop_keeps_such_things(monkeypatch, tmp_path):
    """XDG Base Directory Specification 0.8: configuration, state and data have a folder each."""
    for name in ("CONFIG", "STATE", "DATA"):
        monkeypatch.setenv(f"XDG_{name}_HOME", str(tmp_path / name))
    places = Places.usual()
    assert places.settings_file == tmp_path / "CONFIG" / "wired-union" / "settings.json"
    assert places.journals == tmp_path / "STATE" / "wired-union" / "recovery"
    assert places.library == tmp_path / "DATA" / "wired-union" / "store.parts.sqlite"


def test_settings_that_name_a_file_in_no_unicode_are_read(tmp_path):
    places = Places.within(tmp_path)
    odd = Path(os.fsdecode(b"/tmp/caf\xe9.union.json"))
    places.write_settings(Settings(theme="dark").opened(odd))
    assert places.read_settings() == Settings(theme="dark", recent=(str(odd),))
