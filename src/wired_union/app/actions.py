"""What a person can ask of the window: one list for the menu, the keys and Ctrl K."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QMenu

from wired_union.app.dialogs.find import Entry
from wired_union.picture.card import gist
from wired_union.project.concept_edits import said
from wired_union.units import show

if TYPE_CHECKING:
    from wired_union.app.main_window import MainWindow


@dataclass(frozen=True)
class Action:
    """A name, what it does, its keys, and its group in the menu ("" keeps it out of the menu)."""

    name: str
    act: Callable[[], object]
    keys: tuple[str, ...] = ()
    group: str = ""


def all_actions(window: MainWindow) -> list[Action]:
    """Every action of a window."""
    return [
        Action("New project …", window.new, ("Ctrl+N",), "file"),
        Action("Open …", window.open, ("Ctrl+O",), "file"),
        Action("Open demo: Mudlark", lambda: window.open_demo("mudlark"), (), "file"),
        Action("Open demo: bat counter", lambda: window.open_demo("bat-counter"), (), "file"),
        Action("Save", window.save, ("Ctrl+S",), "file"),
        Action("Save as …", window.save_as, ("Ctrl+Shift+S",), "file"),
        Action("Write the report …", window.write_report, ("Ctrl+P",), "give"),
        Action("Write the parts list …", window.write_parts, (), "give"),
        Action("Import parts …", window.import_parts, (), "parts"),
        Action("Export the catalogue and the shelf …", window.export_parts, (), "parts"),
        Action("Undo", window.undo, ("Ctrl+Z",), "edit"),
        Action("Redo", window.redo, ("Ctrl+Shift+Z", "Ctrl+Y"), "edit"),
        Action("Rename the project …", window.rename_project, (), "edit"),
        Action("Find anything …", window.find_anything, ("Ctrl+K",), "edit"),
        Action("Light theme", lambda: window.set_theme("light"), (), "look"),
        Action("Dark theme", lambda: window.set_theme("dark"), (), "look"),
        Action("Theme of the system", lambda: window.set_theme("system"), (), "look"),
        Action("Larger text", lambda: window.scale_text(1.15), ("Ctrl+Shift+Up",), "look"),
        Action("Smaller text", lambda: window.scale_text(1 / 1.15), ("Ctrl+Shift+Down",), "look"),
        Action("Usual text size", lambda: window.scale_text(0), (), "look"),
        Action("What this screen computes", window.show_help, ("F1",), "help"),
        Action("Step back", window.step_back, ("Esc",)),
        Action("Leave", window.close, ("Ctrl+Q",), "leave"),
    ]


def fill_menu(menu: QMenu, actions: list[Action], window: MainWindow) -> None:
    """Fill the menu anew, with what undo and redo would do and the files opened last."""
    menu.clear()
    group = ""
    for action in actions:
        if not action.group:
            continue
        if group and action.group != group:
            menu.addSeparator()
        group = action.group
        name, enabled = _present_name(action, window)
        made = menu.addAction(name + (f"\t{action.keys[0]}" if action.keys else ""))
        assert made is not None
        made.setEnabled(enabled)
        made.triggered.connect(lambda _=False, a=action: a.act())


def _present_name(action: Action, window: MainWindow) -> tuple[str, bool]:
    store = window.store
    if action.name == "Undo":
        what = store.can_undo if store else ""
        return f"Undo: {what}" if what else "Undo", bool(what)
    if action.name == "Redo":
        what = store.can_redo if store else ""
        return f"Redo: {what}" if what else "Redo", bool(what)
    needs_project = action.group in {"give", "parts"} or action.name.startswith(("Save", "Rename"))
    return action.name, store is not None or not needs_project


def find_entries(window: MainWindow, actions: list[Action]) -> list[Entry]:
    """Everything Ctrl K can find: parts, figures, stages, actions, calculators."""
    from wired_union.physics.methods import all_methods

    found: list[Entry] = []
    store = window.store
    if store is not None:
        for item in store.project.concept.items:
            text = f"{item.name} ×{item.count}, {gist(item.part)}, {show(item.part.mass_kg, 'kg')} each"
            found.append(Entry("part", text, lambda i=item.id: window.go_to_item(i)))  # type: ignore[misc]
        for measure in store.assessment.all_measures.values():
            found.append(Entry("number", f"{measure.label}: {measure.shown}", lambda m=measure.id: _explain(window, m)))  # type: ignore[misc]
        titles = window.views.titles if window.views is not None else {}
        found += [Entry("stage", f"Go to {title}", lambda s=s: window.go(s)) for s, title in titles.items()]  # type: ignore[misc]
        for concept in store.project.living:
            text = f"Work on concept {said(concept)}"
            found.append(Entry("concept", text, lambda i=concept.id: window.switch_concept(i)))  # type: ignore[misc]
    found += [Entry("action", a.name, lambda a=a: _run(a)) for a in actions if a.group]  # type: ignore[misc]
    for path in window.settings.recent:
        found.append(Entry("recent file", path, lambda p=path: _open(window, p)))  # type: ignore[misc]
    for method in all_methods():
        text = f"{method.name.replace('-', ' ')}: {method.summary}"
        found.append(Entry("calculator", text, lambda n=method.name: _calculate(window, n)))  # type: ignore[misc]
    return found


def _run(action: Action) -> None:
    action.act()


def _explain(window: MainWindow, measure_id: str) -> None:
    from wired_union.assess.assessment import stage_of

    window.go(stage_of(measure_id))


def _open(window: MainWindow, path: str) -> None:
    from pathlib import Path

    window.open_path(Path(path))


def _calculate(window: MainWindow, name: str) -> None:
    from wired_union.app.dialogs.calculator import Calculator
    from wired_union.physics.methods import find_method

    Calculator(find_method(name), window.theme, window).exec()
