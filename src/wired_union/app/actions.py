"""What a person can ask of the window: one list for the menu, the keys and Ctrl K."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Protocol

from msgspec import Struct
from PyQt6.QtWidgets import QMenu

from wired_union.app.drawer import KEY
from wired_union.app.rack import ViewRack
from wired_union.catalogue.starts import STARTS
from wired_union.picture.card import gist
from wired_union.project.concept_edits import said
from wired_union.ui.places import Settings
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.units import show


class Hands(Protocol):
    """What the actions ask of a window."""

    store: Store | None

    @property
    def views(self) -> ViewRack | None: ...
    @property
    def settings(self) -> Settings: ...
    @property
    def theme(self) -> Theme: ...
    def new(self) -> object: ...
    def open(self) -> object: ...
    def open_demo(self, name: str) -> object: ...
    def begin(self, name: str) -> object: ...
    def open_path(self, path: Path) -> object: ...
    def save(self) -> object: ...
    def save_as(self) -> object: ...
    def write_report(self) -> object: ...
    def write_parts(self) -> object: ...
    def write_places(self) -> object: ...
    def read_places(self) -> object: ...
    def import_parts(self) -> object: ...
    def export_parts(self) -> object: ...
    def undo(self) -> object: ...
    def redo(self) -> object: ...
    def rename_project(self) -> object: ...
    def show_notebook(self) -> object: ...
    def find_anything(self) -> object: ...
    def set_theme(self, name: str) -> object: ...
    def scale_text(self, factor: float) -> object: ...
    def show_help(self) -> object: ...
    def show_about(self) -> object: ...
    def step_back(self) -> object: ...
    def walk(self, step: int) -> object: ...
    def open_bundle(self) -> object: ...
    def toggle_details(self) -> object: ...
    def close(self) -> bool: ...
    def go(self, stage: str) -> object: ...
    def go_to_item(self, item_id: str) -> object: ...
    def explain(self, what: str) -> object: ...
    def switch_concept(self, concept_id: str) -> object: ...
    def calculate(self, method: str) -> object: ...


class Action(Struct, frozen=True):
    """A name, what it does, its keys, and its group in the menu ("" keeps it out of the menu)."""

    name: str
    act: Callable[[], object]
    keys: tuple[str, ...] = ()
    group: str = ""
    needs_project: bool = False
    steps: Callable[[Store], str] | None = None
    """What it would do to the history, "" for nothing; None for what does nothing to it."""


def all_actions(window: Hands) -> list[Action]:
    """Every action of a window."""
    return [
        Action("New project …", window.new, ("Ctrl+N",), "file"),
        Action("Open …", window.open, ("Ctrl+O",), "file"),
        Action("Open demo: Mudlark", lambda: window.open_demo("mudlark"), (), "file"),
        Action("Open demo: bat counter", lambda: window.open_demo("bat-counter"), (), "file"),
        Action("Save", window.save, ("Ctrl+S",), "file", needs_project=True),
        Action("Save as …", window.save_as, ("Ctrl+Shift+S",), "file", needs_project=True),
        Action("Write the report …", window.write_report, ("Ctrl+P",), "give", needs_project=True),
        Action("Write the parts list …", window.write_parts, (), "give", needs_project=True),
        Action("Write masses and places …", window.write_places, (), "give", needs_project=True),
        Action("Read masses and places …", window.read_places, (), "give", needs_project=True),
        Action("Import parts …", window.import_parts, (), "parts", needs_project=True),
        Action("Export the catalogue and the shelf …", window.export_parts, (), "parts", needs_project=True),
        Action("Undo", window.undo, ("Ctrl+Z",), "edit", steps=lambda s: s.can_undo),
        Action("Redo", window.redo, ("Ctrl+Shift+Z", "Ctrl+Y"), "edit", steps=lambda s: s.can_redo),
        Action("Rename the project …", window.rename_project, (), "edit", needs_project=True),
        Action("Notebook", window.show_notebook, ("Ctrl+B",), "edit", needs_project=True),
        Action("Find anything …", window.find_anything, ("Ctrl+K",), "edit"),
        Action("Light theme", lambda: window.set_theme("light"), (), "look"),
        Action("Dark theme", lambda: window.set_theme("dark"), (), "look"),
        Action("Theme of the system", lambda: window.set_theme("system"), (), "look"),
        Action("Larger text", lambda: window.scale_text(1.15), ("Ctrl+Shift+Up",), "look"),
        Action("Smaller text", lambda: window.scale_text(1 / 1.15), ("Ctrl+Shift+Down",), "look"),
        Action("Usual text size", lambda: window.scale_text(0), (), "look"),
        Action("What this screen computes", window.show_help, ("F1",), "help"),
        Action("About Wired Union", window.show_about, (), "help"),
        *(Action(f"Begin with what {words}", partial(window.begin, name)) for name, words in STARTS.items()),
        Action("Step back", window.step_back, ("Esc",)),
        Action("All limits", window.open_bundle, ("F6",)),
        Action("Details of what is selected", window.toggle_details, (KEY,)),
        Action("Next stage", lambda: window.walk(1), ("Ctrl+PgDown",)),
        Action("Stage before", lambda: window.walk(-1), ("Ctrl+PgUp",)),
        Action("Leave", window.close, ("Ctrl+Q",), "leave"),
    ]


def fill_menu(menu: QMenu, actions: list[Action], window: Hands) -> None:
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


def _present_name(action: Action, window: Hands) -> tuple[str, bool]:
    """What the menu calls an action now, and whether it can be done."""
    store = window.store
    if action.steps is not None:
        what = action.steps(store) if store is not None else ""
        return f"{action.name}: {what}" if what else action.name, bool(what)
    return action.name, store is not None or not action.needs_project


class Entry(Struct, frozen=True):
    """Something that can be found: what it is, its text, and what happens when it is chosen."""

    kind: str
    text: str
    act: Callable[[], object]


def find_entries(window: Hands, actions: list[Action]) -> list[Entry]:
    """Everything Ctrl K can find: parts, figures, stages, actions, calculators."""
    from wired_union.physics.methods import all_methods

    found = _of_project(window, window.store) if window.store is not None else []
    found += [Entry("action", a.name, partial(_run, a)) for a in actions if a.group]
    found += [Entry("recent file", path, partial(window.open_path, Path(path))) for path in window.settings.recent]
    for method in all_methods():
        text = f"{method.name.replace('-', ' ')}: {method.summary}"
        found.append(Entry("calculator", text, partial(window.calculate, method.name)))
    return found


def _of_project(window: Hands, store: Store) -> list[Entry]:
    found: list[Entry] = []
    for item in store.project.concept.items:
        text = f"{item.name} ×{item.count}, {gist(item.part)}, {show(item.part.mass_kg, 'kg')} each"
        found.append(Entry("part", text, partial(window.go_to_item, item.id)))
    for measure in store.assessment.limited_measures.values():
        found.append(Entry("number", f"{measure.label}: {measure.shown}", partial(window.explain, measure.id)))
    for kind in store.assessment.not_worked_out:
        found.append(Entry("number", f"{kind.kind}: {kind.about}", partial(window.explain, kind.kind)))
    titles = window.views.titles if window.views is not None else {}
    found += [Entry("stage", f"Go to {title}", partial(window.go, stage)) for stage, title in titles.items()]
    for concept in store.project.living:
        found.append(Entry("concept", f"Work on concept {said(concept)}", partial(window.switch_concept, concept.id)))
    return found


def _run(action: Action) -> None:
    action.act()
