"""The window: header, rail, the view of a stage, its panel, the ripple line and the margin strip."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QKeySequence, QResizeEvent, QShortcut
from PyQt6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QMenu,
    QMessageBox,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)  # fmt: skip

from wired_union.app.actions import Action, all_actions, fill_menu, find_entries
from wired_union.app.drawer import Drawer
from wired_union.app.file_desk import FileDesk
from wired_union.app.file_work import FileWork
from wired_union.app.guard import Guard
from wired_union.app.header import Header
from wired_union.app.rack import ViewRack
from wired_union.app.rail import Rail
from wired_union.app.start import StartPage
from wired_union.app.strip import MarginStrip, RippleLine
from wired_union.kernel.ripple import ripple
from wired_union.kernel.subject import Selection
from wired_union.project import edits
from wired_union.project.change import Change
from wired_union.project.model import Project
from wired_union.subjects import assess, subjects
from wired_union.subjects.concepts import edits as concept_edits
from wired_union.ui import ask
from wired_union.ui.places import Places, clamped
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme, system_scale
from wired_union.ui.view import Desk, View


class MainWindow(FileWork):
    """One project in one window. `today` gives the date for the notebook; tests hand in their own."""

    def __init__(self, places: Places, today: Callable[[], str]) -> None:
        super().__init__()
        self.places, self._today = places, today
        self.settings = places.read_settings()
        self.theme = Theme.named(self.settings.theme, system_scale() * self.settings.text_size)
        self.files = FileDesk(places)
        self.files.trouble.connect(self._say_trouble)
        self.files.path_changed.connect(self._show_frame)
        self.guard = Guard(self.files.keep, self._tell_fault)
        self.store: Store | None = None
        self.views: ViewRack | None = None
        self.stage = "parts"
        self._stale: set[str] = set()
        self.setAcceptDrops(True)
        self.setMinimumSize(760, 480)
        self.resize(1280, 800)
        self._actions: list[Action] = all_actions(self)
        for action in self._actions:
            for keys in action.keys:
                QShortcut(QKeySequence(keys), self, action.act)
        for number, subject in enumerate(subjects()[:10], 1):
            QShortcut(QKeySequence(f"Alt+{number % 10}"), self, partial(self.go, subject.id))
        self._build()

    # building

    def _build(self) -> None:
        """Make every widget anew, in the present theme."""
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        app.setStyleSheet(self.theme.style_sheet())
        self._menu = QMenu(self)
        self._menu.aboutToShow.connect(lambda: fill_menu(self._menu, self._actions, self))
        self.header = Header(self.theme, self._menu)
        self.header.find_pressed.connect(self.find_anything)
        self.header.switch.chosen.connect(self.switch_concept)
        self.header.switch.pointed.connect(self._point_at_concept)
        self.rail = Rail(self.theme, subjects())
        self.rail.chosen.connect(self.go)
        self.work, self.panels = QStackedWidget(), QStackedWidget()
        self.panels.setObjectName("panel")
        self.strip = MarginStrip(self.theme)
        self.strip.chosen.connect(self._limit_chosen)
        self.ripple_line = RippleLine(self.theme)
        self.ripple_line.reasoned.connect(self._keep_reason)
        self.ripple_line.undone.connect(self.undo)
        self.start = StartPage(self.theme, self.new, self.open, self.open_demo, self.open_path)
        middle, centre = self._stacked()
        self.drawer = Drawer(self.theme, self.panels, middle, centre)
        self.work.addWidget(self.start)
        self.setCentralWidget(centre)
        self.views = None
        if self.store is None:
            self._show_start()
        else:
            self._make_views()

    def _stacked(self) -> tuple[QHBoxLayout, QWidget]:
        """Header, rail and work, what an edit did, the strip: the layout in the middle, and the whole."""
        middle = QHBoxLayout()
        middle.setSpacing(0)
        middle.addWidget(self.rail)
        middle.addWidget(self.work, 1)
        whole = QVBoxLayout()
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(0)
        whole.addWidget(self.header)
        whole.addLayout(middle, 1)
        whole.addWidget(self.ripple_line)
        whole.addWidget(self.strip)
        centre = QWidget()
        centre.setObjectName("work")
        centre.setLayout(whole)
        return middle, centre

    def _make_views(self) -> None:
        assert self.store is not None
        for view in self.views.made.values() if self.views is not None else ():
            self.work.removeWidget(view)
            self.panels.removeWidget(view.panel)
            view.deleteLater()
            view.panel.deleteLater()
        desk = Desk(
            self.store, self.theme, self.go_to_item, self.explain, self._add_part, self.try_as_concept, self.today,
            self.places,
        )  # fmt: skip
        self.views = ViewRack(subjects(), desk, self._place_view)
        self._stale = set(self.views)
        for widget in (self.rail, self.strip):
            widget.show()
        self.drawer.fit(self.width())
        self.ripple_line.say("")
        self.go(self.stage)

    def _place_view(self, view: View) -> None:
        self.work.addWidget(view)
        self.panels.addWidget(view.panel)

    def _show_start(self) -> None:
        for widget in (self.rail, self.strip, self.ripple_line):
            widget.hide()
        self.drawer.hide()
        self.start.show_recent(self.settings.recent)
        self.work.setCurrentWidget(self.start)
        self._show_frame()

    def hold(self, project: Project, path: Path | None, *, saved: bool = True, sentence: str = "opened") -> None:
        """Show a project in this window."""
        store = Store(
            project, assess, sentence
        )  # first: where it cannot be worked out, this window keeps what it holds
        if self.store is not None:
            self.store.changed.disconnect(self._changed)
            self.store.previewed.disconnect(self._previewed)
            self.store.selection_moved.disconnect(self._selection_moved)
            self.store.refused.disconnect(self.say)
            self.store.failed.disconnect(self.guard.take)
        if not saved:
            store.mark_unsaved()
        self.store = store
        self.files.adopt(store, path)
        store.changed.connect(self._changed)
        store.previewed.connect(self._previewed)
        store.selection_moved.connect(self._selection_moved)
        store.refused.connect(self.say)
        store.failed.connect(self.guard.take)
        self.settings = self.places.read_settings()
        self._make_views()

    # showing

    def go(self, stage: str) -> None:
        """Show a stage."""
        if self.views is None or stage not in self.views:
            return
        self.stage = stage
        view = self.views[stage]
        self.work.setCurrentWidget(view)
        self.panels.setCurrentWidget(view.panel)
        if stage in self._stale:
            self._stale.discard(stage)
            view.refresh()
        self._show_frame()

    def go_to_item(self, item_id: str) -> None:
        """Show an item where it can be edited."""
        assert self.store is not None
        assert self.views is not None
        self.store.change(Selection, item=item_id)
        self.go("parts")
        view = self.views["parts"]
        from wired_union.subjects.parts.view import PartsView

        assert isinstance(view, PartsView)
        if item_id in view.cards:
            view.cards[item_id].setFocus()
            view.ensureWidgetVisible(view.cards[item_id])

    def explain(self, what: str) -> None:
        """Go to a stage by its name, or to the stage that explains a measure."""
        self.go(what if self.views is not None and what in self.views else self._explainer(what))

    def _limit_chosen(self, measure_id: str) -> None:
        """Go to what explains a limit, at the item or thing that drives it."""
        assert self.store is not None
        assessment = self.store.assessment
        picks: list[object] = []
        shared = replace(self.store.picked(Selection), measure=measure_id)
        finding = next((f for f in assessment.findings if f.measure == measure_id and f.items), None)
        if finding is not None:
            shared = replace(shared, item=finding.items[0])
        kind = assessment.kind_of(measure_id)
        if kind is not None and kind.select is not None:
            chosen = kind.select(assessment, assessment.measure(measure_id))
            if isinstance(chosen, Selection):
                shared = replace(shared, item=chosen.item or shared.item)
            else:
                picks.append(chosen)
        self.store.pick(shared, *picks)
        self.go(self._explainer(measure_id))

    def _explainer(self, measure_id: str) -> str:
        """The stage that explains a measure; the brief where none does."""
        assert self.store is not None
        subject = self.store.assessment.explainer(measure_id)
        return subject.id if subject is not None else "brief"

    def _changed(self) -> None:
        assert self.store is not None
        assert self.views is not None
        self._stale = set(self.views)
        self._stale.discard(self.stage)
        self.views[self.stage].refresh()
        self._show_frame()
        last = self.store.last_ripple
        if last is not None:
            self.ripple_line.say(f"{last.sentence[:1].upper()}{last.sentence[1:]}  ·  {last.shown}", edit=True)

    def _previewed(self) -> None:
        assert self.views is not None
        self._show_strip()
        self.views[self.stage].previewed()

    def _selection_moved(self) -> None:
        assert self.views is not None
        self._stale.update(self.views)
        self._stale.discard(self.stage)
        self.views[self.stage].selection_moved()
        self.drawer.open()

    def _show_strip(self) -> None:
        assert self.store is not None
        measures = self.store.assessment.measures
        self.strip.show_measures(measures, self.store.preview)
        self.strip.setVisible(bool(measures))

    def _show_frame(self) -> None:
        store = self.store
        if store is None:
            self.header.show_state("Wired Union", "no project open", "")
            self.setWindowTitle("Wired Union")
            return
        where = self.files.path.name if self.files.path else "not in a file yet"
        state = f"unsaved changes · {where}" if store.unsaved else f"saved · {where}" if self.files.path else where
        back = f" · undo Ctrl Z: {store.can_undo}" if store.can_undo else ""
        kit = self.theme.kit
        room = kit.px(300 if self.width() >= 1180 or len(store.project.living) < 2 else 190)
        said = kit.cut(state + back, room, "base")
        self.header.show_state(store.project.name, store.project.subtitle, said, store.project)
        self.header.saved.setToolTip(state + back)
        self.setWindowTitle(f"{'● ' if store.unsaved else ''}{store.project.name} — Wired Union")
        verdicts = {s.id: store.assessment.stage_verdict(s) for s in subjects()}
        self.rail.show_stages(self.stage, verdicts)
        self._show_strip()

    def say(self, text: str) -> None:
        self.ripple_line.say(text)

    def _say_trouble(self, text: str) -> None:
        if self.store is not None:
            self.ripple_line.say(text)
        QMessageBox.warning(self, "Wired Union", text)

    def _tell_fault(self, text: str, details: str) -> None:
        from wired_union.app.dialogs.fault import Fault

        Fault(text, details, self.theme, self).open()

    # the store's hands

    def today(self) -> str:
        """The date for the notebook and for documents."""
        return self._today()

    def undo(self) -> None:
        if self.store is not None:
            self.store.undo()

    def redo(self) -> None:
        if self.store is not None:
            self.store.redo()

    def _keep_reason(self, why: str) -> None:
        assert self.store is not None
        last = self.store.last_ripple
        if last is not None:
            self.store.attempt(edits.note, self.today(), f"{last.sentence}: {last.shown}", why)

    def apply(self, change: Change) -> None:
        if self.store is not None:
            self.store.apply(change)

    def switch_concept(self, concept_id: str) -> None:
        """Put another concept at work."""
        if self.store is not None and self.store.project.concept.id != concept_id:
            self.store.change(Selection, concept="")
            self.store.attempt(concept_edits.switch_concept, concept_id)
        self._show_frame()

    def _point_at_concept(self, concept_id: str, on: bool) -> None:
        store = self.store
        if store is None or store.project.concept.id == concept_id:
            return
        change = concept_edits.switch_concept(store.project, concept_id)
        store.show_preview(ripple(store.assessment, change) if on else None)

    def try_as_concept(self, change: Change) -> None:
        """Ask for a name, and take a pending edit up as a concept of its own."""
        if self.store is None:
            return
        name, ok = ask.word(self, "Try as a concept of its own", f"What is it called? It will {change.sentence}.")
        if ok:
            self.store.attempt(lambda _: concept_edits.try_as_concept(change, name, self.today()))

    def _add_part(self, lane: str) -> None:
        from wired_union.app.dialogs.add_part import AddPart
        from wired_union.catalogue.library import Library

        assert self.store is not None
        AddPart(self.store, self.theme, lane, self, Library(self.places.library)).exec()

    def calculate(self, method: str) -> None:
        """Open the calculator of a published formula."""
        from wired_union.app.dialogs.calculator import Calculator
        from wired_union.physics.methods import find_method

        Calculator(find_method(method), self.theme, self).exec()

    def toggle_details(self) -> None:
        """Open or close the panel where it is a drawer."""
        self.drawer.toggle()

    def open_bundle(self) -> None:
        """Show every limit by name, or gather again what holds."""
        self.strip.toggle()

    def walk(self, step: int) -> None:
        """Go along the rail."""
        if self.views is not None:
            stages = list(self.views)
            self.go(stages[(stages.index(self.stage) + step) % len(stages)])

    def find_anything(self) -> None:
        from wired_union.app.dialogs.find import FindAnything

        FindAnything(find_entries(self, self._actions), self.theme, self).exec()

    def show_help(self) -> None:
        from wired_union.app.dialogs.help import Help

        title = self.views.titles[self.stage] if self.views is not None else "Wired Union"
        subject = next((s for s in subjects() if s.id == self.stage), None) if self.views is not None else None
        Help(subject, title, self.theme, self).exec()

    def rename_project(self) -> None:
        if self.store is None:
            return
        name, ok = ask.word(self, "Project", "What is it called?", text=self.store.project.name)
        if ok:
            self.store.attempt(edits.rename_project, name)

    def set_theme(self, name: str) -> None:
        """Use the "system", "light" or "dark" theme from now on."""
        self._set_look(replace(self.places.read_settings(), theme=name))

    def scale_text(self, factor: float) -> None:
        """Make texts larger or smaller; 0 for the usual size."""
        size = 1.0 if factor == 0 else clamped(self.settings.text_size * factor)
        self._set_look(replace(self.places.read_settings(), text_size=size))

    def _set_look(self, settings: object) -> None:
        self.settings = settings  # type: ignore[assignment]
        self.places.write_settings(self.settings)
        self.theme = Theme.named(self.settings.theme, system_scale() * self.settings.text_size)
        self._build()

    # Qt's own events

    def closeEvent(self, event: QCloseEvent | None) -> None:
        assert event is not None
        if self.may_leave():
            self.files.release()
            event.accept()
        else:
            event.ignore()

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        if event is not None and (data := event.mimeData()) is not None and data.hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        data = event.mimeData() if event is not None else None
        if data is not None and data.urls():
            self.open_path(Path(data.urls()[0].toLocalFile()))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.rail.fit(self.height())
        if self.store is not None:
            self.drawer.fit(self.width())
        self._show_frame()

    def step_back(self) -> None:
        """Esc: drop a preview, close what is open, then leave a field."""
        if self.store is not None and self.store.preview is not None:
            self.store.show_preview(None)
        elif self.strip.opened:
            self.strip.toggle()
        elif self.drawer.close():
            return
        elif (focused := self.focusWidget()) is not None:
            focused.clearFocus()
