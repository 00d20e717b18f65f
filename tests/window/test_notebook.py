"""The notebook in the window: edits write themselves, entries with pictures, faults, knots, merging, the way back."""

import subprocess
import sys
from pathlib import Path

import pytest
from PyQt6.QtCore import QBuffer, QByteArray, Qt
from PyQt6.QtGui import QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog, QLabel, QMessageBox, QPushButton

import edits
from wired_union.kernel.merge_pick import MergePick
from wired_union.project.change import Change
from wired_union.project.file import load, save
from wired_union.project.history import NAME
from wired_union.project.journal import find_unsaved
from wired_union.project.kept import Kept, digest_of, folder_beside
from wired_union.project.notebook_model import Entry, Photo
from wired_union.subjects.notebook.pick import NotePick
from wired_union.ui.findings import PreviewButton

from .hands import answer, click, named, press, typed


@pytest.fixture
def notebook(window):
    window.go("notebook")
    return window.views["notebook"]


def picture(path: Path, width: int = 60, colour: str = "#3C5A99") -> Path:
    image = QImage(width, 40, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.white)
    image.setPixelColor(0, 0, Qt.GlobalColor.black)
    image.save(str(path))
    return path


def said(view) -> str:
    """All that the panel says."""
    QTest.qWait(1)
    return "\n".join(w.text() for kind in (QLabel, QPushButton) for w in view.panel.findChildren(kind)
                     if w.isVisibleTo(view.panel))  # fmt: skip


def write(notebook, text: str) -> None:
    field = notebook.details.fields["text"]
    field.setFocus()
    QTest.keyClicks(field, text)
    click(named(notebook, "Keep it"))


def test_an_edit_writes_itself_with_what_it_moved_and_why(window):
    store = window.store
    before = len(store.project.notebook)
    window.go("brief")
    typed(window.views["brief"], "Limit", "6 h")
    entry = store.project.notebook[-1]
    assert len(store.project.notebook) == before + 1
    assert entry.when == window.today()
    assert [a.id for a in entry.about] == ["runtime"]
    window.ripple_line.why.setText("the tide is longer there")
    QTest.keyClick(window.ripple_line.why, Qt.Key.Key_Return)
    assert store.project.notebook[-1].why == "the tide is longer there"
    assert len(store.project.notebook) == before + 1
    QTest.keyClick(window, Qt.Key.Key_B, Qt.KeyboardModifier.ControlModifier)
    assert window.stage == "notebook"
    view = window.views["notebook"]
    view.search.setText("why is it TIDE longer?")
    assert [e.id for e in view.list.shown.entries] == [entry.id]
    view.search.setText("tide shorter")
    assert view.none.text() == "No entry holds all of these words."
    store.undo()
    store.undo()
    assert len(store.project.notebook) == before


def test_the_reason_after_an_undo_is_an_entry_of_its_own(window):
    store = window.store
    window.go("brief")
    typed(window.views["brief"], "Limit", "6 h")
    last = store.project.notebook[-2]
    store.undo()
    window.ripple_line.why.setText("it was five all along")
    QTest.keyClick(window.ripple_line.why, Qt.Key.Key_Return)
    entry = store.project.notebook[-1]
    assert entry.why == "it was five all along"
    assert entry.text.startswith("Undo")
    assert store.project.notebook[-2] == last


def test_all_about_the_pack_finds_entries_of_another_name(notebook):
    notebook.search.setText("all about the pack")
    shown = notebook.list.shown.entries
    assert shown
    assert all(any(a.id == "battery" for a in e.about) or "pack" in f"{e.text} {e.why}".lower() for e in shown)
    notebook.search.setText("")
    notebook.kind.setCurrentIndex(notebook.kind.findData("decisions"))
    notebook.kind.picked.emit("decisions")
    assert {e.kind for e in notebook.list.shown.entries} == {"decision", "retirement"}


def test_an_entry_with_a_picture_is_kept_beside_the_file_wherever_it_is_saved(
    window, notebook, monkeypatch, tmp_path, qtbot
):
    photo = picture(tmp_path / "mud.png")
    data = photo.read_bytes()
    typed(notebook, "I am", "Sol")
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *a, **k: ([str(photo)], ""))
    click(named(notebook, "Add a picture"))
    assert not named(notebook, "Keep it").isEnabled()
    qtbot.waitUntil(lambda: "With 1 picture" in said(notebook), timeout=10_000)
    write(notebook, "mud in the left wheel")
    photo.unlink()
    entry = window.store.project.notebook[-1]
    assert (entry.text, entry.by, entry.kind) == ("mud in the left wheel", "Sol", "note")
    assert [p.digest for p in entry.photos] == [digest_of(data)]
    for name in ("one", "two"):
        path = tmp_path / name / "rover.union.json"
        path.parent.mkdir()
        assert window.files.save(path)
        window.files._beside.wait()
        assert (folder_beside(path) / f"{digest_of(data)}.png").read_bytes() == data
        for version in window.store.project.versions:
            assert list(folder_beside(path).glob(f"{version.digest}.*"))
    notebook.list.setCurrentIndex(notebook.list.shown.index(0))
    qtbot.waitUntil(lambda: any(not w.pixmap().isNull() for w in notebook.panel.findChildren(QLabel)), timeout=10_000)


def test_what_is_no_picture_is_said(window, notebook, monkeypatch, tmp_path, qtbot):
    (tmp_path / "notes.txt").write_text("hello")
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *a, **k: ([str(tmp_path / "notes.txt")], ""))
    click(named(notebook, "Add a picture"))
    qtbot.waitUntil(lambda: "no PNG and no JPEG" in window.ripple_line.text, timeout=10_000)
    qtbot.waitUntil(lambda: named(notebook, "Keep it").isEnabled(), timeout=10_000)
    before = window.store.project
    click(named(notebook, "Keep it"))
    assert "Write the entry first" in window.ripple_line.text
    assert window.store.project is before


def test_an_entry_is_corrected_and_what_it_said_stays(window, notebook):
    write(notebook, "the bit is 23 mm")
    notebook.list.setCurrentIndex(notebook.list.shown.index(0))
    text = notebook.details.fields["entry"]
    text.setPlainText("the bit is 32 mm")
    click(named(notebook, "Correct it"))
    entry = window.store.project.notebook[-1]
    assert entry.text == "the bit is 32 mm"
    assert [f.text for f in entry.former] == ["the bit is 23 mm"]
    assert "the bit is 23 mm" in said(notebook)
    typed(notebook, "Struck out because", "it was the other bit")
    assert window.store.project.notebook[-1].struck == "it was the other bit"
    assert len(notebook.list.shown.entries) == len(window.store.project.notebook)


def test_a_fault_is_found_tried_against_and_closed(window, notebook, monkeypatch):
    answer(monkeypatch, "Wheel squeaks")
    click(named(notebook, "+ a fault"))
    fault = window.store.project.defects[-1]
    assert any(f.id.startswith("open-fault") and f.of == fault.id for f in window.store.assessment.findings)
    click(named(notebook, "Close it"))
    assert "say what mends it" in window.ripple_line.text
    typed(notebook, "Wheel squeaks: tried", "grease; no better")
    typed(notebook, "Wheel squeaks: cause", "sand in the hub")
    typed(notebook, "Wheel squeaks: what mends it", "a seal")
    click(named(notebook, "Close it"))
    fault = window.store.project.defects[-1]
    assert (fault.cause, fault.cure, fault.closed_on) == ("sand in the hub", "a seal", window.today())
    assert [a.text for a in fault.attempts] == ["grease; no better"]
    assert not any(f.of == fault.id for f in window.store.assessment.findings)


def test_a_knot_is_tied_compared_and_a_part_comes_back(window, notebook, monkeypatch, qtbot):
    store = window.store
    answer(monkeypatch, "A3: before the swap")
    click(named(notebook, "Tie a knot"))
    version = store.project.versions[-1]
    assert (version.name, version.about, version.concept) == ("A3", "before the swap", "A")
    assert [x.measure for x in version.landed] == [m.id for m in store.assessment.measures]
    kept = store.project
    store.attempt(edits.remove_item, "camera")
    store.attempt(edits.set_count, "limit-switch", 3)
    press(notebook.ropes, f"knot {version.id}")
    qtbot.waitUntil(lambda: "Bring back" in said(notebook), timeout=20_000)
    assert "things are otherwise" in said(notebook)
    whole = named(notebook, "all of A3")
    whole.setFocus()
    assert store.preview is not None
    panel = notebook.details.versions
    panel._try(version, kept, "part", "camera")
    now = {i.id: i for i in store.project.concept.items}
    assert now["camera"] == next(i for i in kept.concept.items if i.id == "camera")
    assert now["limit-switch"].count == 3
    assert [f for f in store.project.concept.feeds if f.load == "camera"] == [
        f for f in kept.concept.feeds if f.load == "camera"
    ]
    click(named(notebook, "all of A3"))
    assert store.project.concept == kept.concept
    assert len(store.project.versions) == len(kept.versions)
    assert store.project.notebook[-1].text == "Bring A3 back"


def test_two_versions_are_compared(window, notebook, qtbot):
    press(notebook.ropes, "knot a1")
    press(notebook.ropes, "knot a2")
    assert window.store.picked(NotePick).versions == ("a1", "a2")
    qtbot.waitUntil(lambda: "From A1 to A2" in said(notebook), timeout=20_000)
    click(named(notebook, "back"))
    assert "New entry" in said(notebook)


def test_a_version_whose_value_is_gone_says_so(window, notebook, qtbot, monkeypatch):
    monkeypatch.setattr(type(window.files), "kept", property(lambda self: Kept((Path("/nowhere"),))))
    press(notebook.ropes, "knot b2")
    qtbot.waitUntil(lambda: "is not here" in said(notebook), timeout=20_000)


@pytest.fixture
def other(window, tmp_path):
    """A project saved in this window, and another member's file that came from its last version."""
    versions = window.store.project.versions[:-1]
    base = window.files.kept.project(versions[-1]).but(versions=versions)
    theirs = edits.set_part_value(
        edits.set_knowledge(base, "core-tube", "measured").after, "core-tube", "mass_kg", 0.59
    )
    path = tmp_path / "sol.union.json"
    save(edits.set_count(theirs.after, "limit-switch", 3).after, path)
    return path


def test_a_merge_with_one_conflict_shows_rings_and_waits_for_the_choice(window, notebook, other, monkeypatch):
    store = window.store
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(other), ""))
    before = store.project
    click(named(notebook, "Merge with a file"))
    assert "both started from A2, 2026-11-19" in said(notebook)
    assert "Nothing is taken before everything is chosen." in said(notebook)
    theirs = next(b for b in notebook.panel.findChildren(PreviewButton) if b.text().startswith("theirs"))
    theirs.setFocus()
    assert store.preview is not None
    mass = next(m for m in store.preview.moves if m.id == "mass")
    assert mass.change < 0
    click(named(notebook, "theirs"))
    assert store.project is before
    click(named(notebook, "Take the merge"))
    items = {i.id: i for i in store.project.concept.items}
    assert items["limit-switch"].count == 3
    assert (items["core-tube"].part.mass_kg, items["core-tube"].knowledge) == (0.59, "measured")
    assert store.project.notebook[-1].text.startswith("Merge with sol.union.json")
    assert store.picked(MergePick).theirs is None
    store.undo()
    assert store.project == before


def test_a_file_changed_on_disk_is_said_and_merged(window, tmp_path, qtbot, monkeypatch):
    path = tmp_path / "rover.union.json"
    assert window.files.save(path)
    store = window.store
    store.attempt(edits.set_count, "limit-switch", 3)
    outside = load(path)
    save(edits.set_part_value(outside, "core-tube", "mass_kg", 0.7).after, path)
    qtbot.waitUntil(lambda: "changed by another program" in window.ripple_line.text, timeout=10_000)
    click(window.ripple_line.act)
    notebook = window.views["notebook"]
    click(named(notebook, "Take the merge"))
    items = {i.id: i for i in store.project.concept.items}
    assert (items["limit-switch"].count, items["core-tube"].part.mass_kg) == (3, 0.7)
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: pytest.fail("saving asks, though it was merged"))
    assert window.save()
    assert {i.id: i.count for i in load(path).concept.items}["limit-switch"] == 3


def test_the_way_back_is_kept_with_the_file_when_asked(open_window, tmp_path, monkeypatch):
    window = open_window()
    path = tmp_path / "rover.union.json"
    window.go("notebook")
    first = window.store.project
    window.store.attempt(edits.set_count, "limit-switch", 3)
    click(named(window.views["notebook"], "keep it with the file"))
    assert window.files.save(path)
    window.files._beside.wait()
    assert (folder_beside(path) / NAME).exists()
    window.close()
    again = open_window(demo="")
    again.open_path(path)
    store = again.store
    assert store.can_undo == "keep the way back with the file"
    store.undo()
    store.undo()
    assert store.project == first
    assert not store.can_undo
    store.redo()
    assert {i.id: i.count for i in store.project.concept.items}["limit-switch"] == 3


def test_a_way_back_of_another_file_is_not_taken(open_window, tmp_path):
    window = open_window()
    path = tmp_path / "rover.union.json"
    window.store.attempt(edits.set_count, "limit-switch", 3)
    window.go("notebook")
    click(named(window.views["notebook"], "keep it with the file"))
    assert window.files.save(path)
    window.files._beside.wait()
    window.close()
    save(edits.set_count(load(path), "limit-switch", 4).after, path)
    again = open_window(demo="")
    again.open_path(path)
    assert not again.store.can_undo


def test_five_hundred_pictures_do_not_hold_the_window(window, notebook, tmp_path, qtbot):
    """Only what is seen is read, and off the interface thread: showing 500 asks for a handful."""
    kept = window.files.kept
    image = QImage(1600, 1200, QImage.Format.Format_RGB32)
    asked = []
    find = notebook.thumbs._find
    notebook.thumbs._find = lambda digest, form: asked.append(digest) or find(digest, form)
    entries = []
    for n in range(500):
        image.setPixel(n, 0, n + 1)
        if n < 12:
            made = QByteArray()
            buffer = QBuffer(made)
            buffer.open(QBuffer.OpenModeFlag.WriteOnly)
            image.save(buffer, "JPG")
            digest = kept.put(bytes(made), "jpg")
        photo = Photo(digest=digest[:-3] + f"{n:03d}" if n >= 12 else digest, form="jpg")
        entries.append(Entry(id=f"e{n}", when="2026-11-24", text=f"picture {n}", photos=(photo,)))
    entries.reverse()
    store = window.store
    store.apply(Change(store.project, store.project.but(notebook=tuple(entries)), "many pictures"))
    qtbot.waitUntil(lambda: len(asked) > 0, timeout=10_000)
    QTest.qWait(50)
    qtbot.waitUntil(lambda: not notebook.thumbs._worker.running, timeout=20_000)
    assert len(notebook.list.shown.entries) >= 500
    assert len(set(asked)) < 40


def test_what_is_kept_survives_a_kill(tmp_path):
    """A knot tied in a project that was never saved: the program is killed, the project and the knot are there."""
    script = tmp_path / "tie.py"
    script.write_text(
        "import os, sys\n"
        "from pathlib import Path\n"
        "from wired_union.app.run import make_app\n"
        "from wired_union.app.main_window import MainWindow\n"
        "from wired_union.ui.places import Places\n"
        "app = make_app(['x'])\n"
        f"w = MainWindow(Places.within(Path({str(tmp_path)!r})), lambda: '2026-11-24')\n"
        "w.open_demo('mudlark')\n"
        "w.go('notebook')\n"
        "assert w.views['notebook'].details.tie_as('A3: killed')\n"
        "assert w.files.keep()\n"
        "os.kill(os.getpid(), 9)\n"
    )
    subprocess.run([sys.executable, str(script)], check=False, timeout=120)
    (left,) = find_unsaved(tmp_path / "recovery")
    version = left.project.versions[-1]
    assert version.name == "A3"
    assert Kept((tmp_path / "kept",)).project(version).name == "Mudlark"


def test_an_entry_may_be_of_an_earlier_day_and_what_is_no_day_is_said(window, notebook):
    line = typed(notebook, "On the day", "last week")
    assert "is no day" in notebook.details.fields["day"].error.text()
    typed(notebook, "On the day", "2026-11-05")
    write(notebook, "the tide table was wrong")
    entry = window.store.project.notebook[-1]
    assert (entry.when, entry.text) == ("2026-11-05", "the tide table was wrong")
    assert line is not None
    write(notebook, "today again")
    assert window.store.project.notebook[-1].when == window.today()
    shown = [e.text for e in notebook.list.shown.entries]
    assert shown.index("the tide table was wrong") > shown.index("today again")
