"""What the menu and Ctrl K do: write and read files, or leave everything as it is when a dialog is cancelled."""

import os
import subprocess
import sys

import pytest
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QMenu, QMessageBox

import edits
from wired_union.app.actions import find_entries
from wired_union.app.dialogs.calculator import Calculator
from wired_union.app.dialogs.import_parts import ImportParts
from wired_union.catalogue.parts import catalogue
from wired_union.catalogue.sheet import read_sheet
from wired_union.project.file import load
from wired_union.subjects.timing.pick import TimingPick

from .hands import answer


@pytest.fixture
def picked(monkeypatch):
    """Answers every dialog for a file; "" is Cancel."""

    def pick(path) -> None:
        for name in ("getOpenFileName", "getSaveFileName"):
            monkeypatch.setattr(QFileDialog, name, lambda *a, **k: (str(path), ""))

    return pick


@pytest.fixture
def warned(monkeypatch):
    said = []
    monkeypatch.setattr(QMessageBox, "warning", lambda _p, title, text, *a: said.append((title, text)))
    return said


def entry(window, text: str):
    found = [e for e in find_entries(window, window._actions) if text in e.text.replace("\u202f", " ")]
    assert found, text
    return found[0]


# files


def test_every_dialog_can_be_cancelled_and_changes_nothing(window, picked, monkeypatch):
    before, revision = window.store.project, window.store.revision
    picked("")
    for act in (window.open, window.save_as, window.write_report, window.write_parts, window.import_parts,
                window.export_parts):  # fmt: skip
        act()
    answer(monkeypatch, "Other", ok=False)
    window.rename_project()
    window.new()
    window.try_as_concept(edits.set_count(before, "battery", 2))
    assert window.store.project is before
    assert window.store.revision == revision
    assert window.files.path is None


def test_with_nothing_open_the_menu_does_nothing_it_cannot(open_window, picked, tmp_path):
    window = open_window(demo="")
    picked(tmp_path / "x.csv")
    for act in (window.save, window.save_as, window.write_report, window.write_parts, window.export_parts,
                window.rename_project):  # fmt: skip
        act()
    window.import_sheet(tmp_path / "x.csv")
    assert list(tmp_path.glob("x.*")) == []
    assert window.store is None


def test_the_catalogue_is_exported_with_the_shelf_and_reads_back(window, picked, tmp_path):
    picked(tmp_path / "all.csv")
    window.export_parts()
    sheet = read_sheet(tmp_path / "all.csv")
    assert sheet.bad == ()
    ids = {s.part.id for s in sheet.good}
    assert {p.id for p in catalogue()} <= ids
    assert {s.part.id for s in window.store.project.shelf} <= ids


def test_a_file_that_cannot_be_written_is_said_and_the_work_stays(window, picked, warned, tmp_path, qtbot):
    picked(tmp_path / "no" / "such" / "folder" / "parts.csv")
    window.write_parts()
    window.export_parts()
    window.write_report()
    handover = window.views["handover"]
    qtbot.waitUntil(lambda: handover.said.text().startswith("Not written"), timeout=30_000)
    assert [title for title, _ in warned] == ["Parts list", "Export parts"]
    assert all(text.endswith(".") for _, text in warned)
    assert window.store.project.name == "Mudlark"


def test_a_sheet_from_the_menu_opens_its_preview(window, picked, tmp_path, monkeypatch):
    sheet = tmp_path / "lab.csv"
    sheet.write_text("name,kind,mass_kg,price\nSpacer 10 mm,structure,0.001,0.1\n")
    shown = []
    monkeypatch.setattr(ImportParts, "exec", lambda dialog: shown.append(dialog.windowTitle()))
    picked(sheet)
    window.import_parts()
    assert shown == ["Import parts from lab.csv"]


def test_a_name_without_its_ending_gets_it(window, picked, tmp_path):
    picked(tmp_path / "rover")
    assert window.save_as()
    assert window.files.path.name == "rover.union.json"
    assert load(window.files.path) == window.store.project


def test_the_project_is_renamed_and_that_can_be_undone(window, monkeypatch):
    answer(monkeypatch, "Mudlark II")
    window.rename_project()
    assert window.header.name.text() == "Mudlark II"
    window.store.undo()
    assert window.header.name.text() == "Mudlark"


# Ctrl K


def test_a_number_leads_to_the_view_that_explains_it(window):
    for text, stage in (("Mass: ", "mass"), ("Runtime: ", "power"), ("Drive speed: ", "motion")):
        entry(window, text).act()
        assert window.stage == stage, text


def test_a_concept_an_action_and_a_file_are_found(window, picked, tmp_path):
    entry(window, "Work on concept B").act()
    assert window.store.project.concept.letter == "B"
    entry(window, "Dark theme").act()
    assert window.theme.palette.name == "dark"
    window.set_theme("light")
    picked(tmp_path / "kept.union.json")
    window.save_as()
    window.open_demo("bat-counter")
    entry(window, str(tmp_path / "kept.union.json")).act()
    assert window.store.project.name == "Mudlark"


def test_a_calculator_is_opened_from_what_is_found(window, monkeypatch):
    opened = []
    monkeypatch.setattr(Calculator, "exec", lambda dialog: opened.append(dialog.windowTitle()))
    entry(window, "voltage drop: ").act()
    entry(window, "euler buckling: ").act()
    assert len(opened) == 2


# menus that offer kinds


def offered(window, act) -> QMenu:
    act()
    QTest.qWait(1)
    menu = QApplication.activePopupWidget()
    assert isinstance(menu, QMenu)
    return menu


def test_kinds_of_stages_and_of_loads_are_offered_and_taken(window, monkeypatch):
    window.go("timing")
    view = window.views["timing"]
    chain = window.store.project.concept.chains[0]
    menu = offered(window, lambda: view._offer_stages(chain.id))
    menu.actions()[0].trigger()
    menu.close()
    assert len(window.store.project.concept.chains[0].stages) == len(chain.stages) + 1
    assert window.store.picked(TimingPick) == TimingPick(chain.id, len(chain.stages))
    window.go("motion")
    answer(monkeypatch, "Winch")
    menu = offered(window, window.views["motion"]._offer_kinds)
    next(a for a in menu.actions() if a.text() == "lift on a drum").trigger()
    menu.close()
    made = window.store.project.concept.loads[-1]
    assert (made.name, made.kind) == ("Winch", "drum")


# starting


def test_without_a_display_it_says_what_to_do():
    bare = {k: v for k, v in os.environ.items() if k not in {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"}}
    done = subprocess.run([sys.executable, "-m", "wired_union", "demo"], env=bare, capture_output=True, text=True,
                          check=False)  # fmt: skip
    assert done.returncode == 2
    assert "No display found" in done.stderr
    assert "Traceback" not in done.stderr


def test_about_says_the_version_and_every_licence(window, monkeypatch):
    from wired_union import __version__
    from wired_union.app.dialogs.about import UNSAID, About, used

    shown: list[str] = []
    monkeypatch.setattr(About, "exec", lambda self: shown.append(self.page.toPlainText()))
    window.show_about()
    assert f"Wired Union {__version__}" in shown[0]
    assert "GNU General Public License" in shown[0]
    names = {name.lower() for name, _, _ in used()}
    assert {"pyqt6", "numpy", "scipy", "msgspec", "typst"} <= names
    assert all(licence and licence != UNSAID for _, _, licence in used())
