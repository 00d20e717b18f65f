"""The window: header, rail, the view of a stage, its panel, the ripple line and the margin strip.

It joins its parts: files and sheets, dialogs, the tour along the stages, the look.
"""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QEvent, pyqtBoundSignal
from PyQt6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QKeySequence, QResizeEvent, QShortcut, QShowEvent
from PyQt6.QtWidgets import QApplication, QHBoxLayout, QMainWindow, QMenu, QStackedWidget, QVBoxLayout, QWidget

from wired_union.app.actions import Action, all_actions, fill_menu, find_entries
from wired_union.app.dialog_desk import DialogDesk
from wired_union.app.drawer import Drawer
from wired_union.app.file_desk import FileDesk
from wired_union.app.guard import Guard
from wired_union.app.hand_over import hand_over
from wired_union.app.header import Header
from wired_union.app.look import Look
from wired_union.app.outside import outside_merge, steps_before
from wired_union.app.project_files import ProjectFiles
from wired_union.app.rack import ViewRack
from wired_union.app.rail import Rail
from wired_union.app.sheet_work import SheetWork
from wired_union.app.strip import MarginStrip, RippleLine
from wired_union.app.tour import Tour
from wired_union.kernel.results import tried
from wired_union.kernel.ripple import ripple
from wired_union.kernel.subject import Selection
from wired_union.project import concept_edits, edits
from wired_union.project.change import Change
from wired_union.project.model import Project
from wired_union.project.notebook_edits import with_entry_ids
from wired_union.subjects import assess, subjects
from wired_union.ui.places import Places, Settings
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.ui.view import Desk
from wired_union.ui.worker import Worker

if TYPE_CHECKING:
    from wired_union.app.start import StartPage


LONGEST_STEP_S = 2.0
"""How long a closing window waits for the present step of its long work."""


class MainWindow(QMainWindow):
    """One project in one window. `today` gives the date for the notebook; tests hand in their own."""

    def __init__(self, places: Places, today: Callable[[], str]) -> None:
        super().__init__()
        self.places, self._today = places, today
        self.store: Store | None = None
        self.look = Look(places, self._build)
        self.dialogs = DialogDesk(self)
        self.files = FileDesk(places)
        self.files.trouble.connect(self.dialogs.say_trouble)
        self.files.path_changed.connect(self._show_frame)
        self.files.changed_outside.connect(self._offer_outside)
        self.guard = Guard(self.files.keep, self.dialogs.tell_fault)
        self.tour = Tour(subjects(), self._show_frame)
        self._lend_hands()
        self.setAcceptDrops(True)
        self.setMinimumSize(760, 480)
        self.resize(1280, 800)
        self._actions: list[Action] = all_actions(self)
        for action in self._actions:
            for keys in action.keys:
                QShortcut(QKeySequence(keys), self, action.act)
        for number, subject in enumerate(subjects()[:10], 1):
            QShortcut(QKeySequence(f"Alt+{number % 10}"), self, partial(self.tour.go, subject.id))
        self._build()

    def _lend_hands(self) -> None:
        """What its parts do, a person asks of the window."""
        files, sheets, dialogs = ProjectFiles(self), SheetWork(self), self.dialogs
        self.new, self.open, self.open_path, self.open_demo = files.new, files.open, files.open_path, files.open_demo
        self.begin = files.begin
        self.save, self.save_as, self.may_leave = files.save, files.save_as, files.may_leave
        self.offer_recovery = files.offer_recovery
        self.write_parts = sheets.write_parts
        self.import_parts, self.import_sheet = sheets.import_parts, sheets.import_sheet
        self.export_parts = sheets.export_parts
        self.write_places, self.read_places = sheets.write_places, sheets.read_places
        self.calculate, self.rename_project = dialogs.calculate, dialogs.rename_project
        self.try_as_concept, self.show_about = dialogs.try_as_concept, dialogs.show_about
        self.set_theme, self.scale_text = self.look.set_theme, self.look.scale_text
        self.go, self.walk = self.tour.go, self.tour.walk

    @property
    def widget(self) -> QWidget:
        return self

    @property
    def theme(self) -> Theme:
        return self.look.theme

    @property
    def settings(self) -> Settings:
        return self.look.settings

    @property
    def views(self) -> ViewRack | None:
        """The views of the project; None while there is no project."""
        return self.tour.views

    @property
    def stage(self) -> str:
        """The stage that shows, or would."""
        return self.tour.stage

    @stage.setter
    def stage(self, stage: str) -> None:
        self.tour.stage = stage

    # building

    def _build(self) -> None:
        """Make every widget anew, in the present theme."""
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        self.theme.dress(app)
        self._menu = QMenu(self)
        self._menu.aboutToShow.connect(lambda: fill_menu(self._menu, self._actions, self))
        self.header = Header(self.theme, self._menu)
        self.header.find_pressed.connect(self.find_anything)
        self.header.switch.chosen.connect(self.switch_concept)
        self.header.switch.pointed.connect(self._point_at_concept)
        self.rail = Rail(self.theme, subjects())
        self.rail.chosen.connect(self.go)
        self.rail.fit(self.height())
        self.work, self.panels = QStackedWidget(), QStackedWidget()
        self.panels.setObjectName("panel")
        self.strip = MarginStrip(self.theme)
        self.strip.chosen.connect(self._limit_chosen)
        self.ripple_line = RippleLine(self.theme)
        self.ripple_line.reasoned.connect(self._keep_reason)
        self.ripple_line.undone.connect(self.undo)
        self.ripple_line.acted.connect(self.merge_outside)
        middle, centre = self._stacked()
        self.drawer = Drawer(self.theme, self.panels, middle, centre)
        self.setCentralWidget(centre)
        self.tour.stand(self.work, self.panels)
        self._start: StartPage | None = None
        if self.store is not None:
            self._make_views()
        elif self.isVisible():
            self._show_start()

    @property
    def start(self) -> "StartPage":
        """The page for when no project is open, made when it is first needed."""
        if self._start is None:
            from wired_union.app.start import StartPage

            self._start = StartPage(self.theme, self.new, self.open, self.open_demo, self.open_path, self.begin)
            self.work.addWidget(self._start)
        return self._start

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
        self.tour.begin(
            Desk(self.store, self.theme, self.go_to_item, self.explain, self.dialogs.add_part, self.try_as_concept,
                 self.today, self.places, lambda: self.files.kept, lambda: self.settings.hand, self.look.set_hand,
                 hand_over)
        )  # fmt: skip
        for widget in (self.rail, self.strip):
            widget.show()
        self.drawer.fit(self.width())
        self.ripple_line.say("")
        self.go(self.stage)

    def _show_start(self) -> None:
        for widget in (self.rail, self.strip, self.ripple_line):
            widget.hide()
        self.drawer.hide()
        self.start.show_recent(self.settings.recent)
        self.work.setCurrentWidget(self.start)
        self._show_frame()

    def hold(self, project: Project, path: Path | None, *, saved: bool = True, sentence: str = "opened") -> None:
        """Show a project in this window; where it cannot be worked out, the window keeps what it holds."""
        before, sentence = steps_before(project, path, sentence)
        project = with_entry_ids(project)
        store = Store(project, lambda p: assess(p).on(self._today()), sentence, self._writes, before)
        if not saved:
            store.mark_unsaved()
        for signal, slot in self._wires(self.store) if self.store is not None else ():
            signal.disconnect(slot)
        self.store = store
        self.files.adopt(store, path)
        for signal, slot in self._wires(store):
            signal.connect(slot)
        self.look.read()
        self._make_views()

    def _wires(self, store: Store) -> tuple[tuple[pyqtBoundSignal, Callable[..., object]], ...]:
        """What a store tells, and who listens."""
        return (
            (store.changed, self._changed), (store.previewed, self._previewed), (store.refused, self.say),
            (store.selection_moved, self._selection_moved), (store.failed, self.guard.take),
        )  # fmt: skip

    # going somewhere

    def go_to_item(self, item_id: str) -> None:
        """Show an item where it can be edited."""
        assert self.store is not None
        self.tour.go_to_item(self.store, item_id)

    def explain(self, what: str) -> None:
        """Go to a stage by its name, or to the stage that explains a measure."""
        assert self.store is not None
        self.tour.explain(self.store, what)

    def _limit_chosen(self, measure_id: str) -> None:
        assert self.store is not None
        self.tour.go_to_limit(self.store, measure_id)

    # showing

    def _changed(self) -> None:
        assert self.store is not None
        self.tour.refresh()
        self._show_frame()
        last = self.store.last_ripple
        if last is not None:
            self.ripple_line.say(f"{last.sentence[:1].upper()}{last.sentence[1:]}  ·  {last.told}", edit=True)

    def _previewed(self) -> None:
        self._show_strip()
        self.tour.previewed()

    def _selection_moved(self) -> None:
        self.tour.selection_moved()
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
        """Say something on the line above the strip."""
        self.ripple_line.say(text)

    # the store's hands

    def today(self) -> str:
        """The date for the notebook and for documents."""
        return self._today()

    def _writes(self) -> tuple[str, str]:
        """The day and who works here: what an entry of the notebook is signed with."""
        return self._today(), self.settings.hand

    def look_at_the_day(self) -> None:
        """Where a day has passed, what is in hand and what is late is another."""
        if self.store is not None and self.store.assessment.today != self.today():
            self.store.last_ripple = None
            self.store.look_again()

    def undo(self) -> None:
        if self.store is not None:
            self.store.undo()

    def redo(self) -> None:
        if self.store is not None:
            self.store.redo()

    def _keep_reason(self, why: str) -> None:
        assert self.store is not None
        last = self.store.last_ripple
        if self.store.last_entry:
            self.store.attempt(edits.give_reason, self.store.last_entry, why)
        elif last is not None:
            said = last.sentence[:1].upper() + last.sentence[1:]
            self.store.attempt(edits.write_entry, *self._writes(), said, (), (), why)

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
        change = tried(concept_edits.switch_concept, store.project, concept_id)  # None while an undo takes it away
        store.show_preview(ripple(store.assessment, change) if on and change is not None else None)

    def write_report(self) -> None:
        """Write the whole report from the Handover screen, where it can be watched and stopped."""
        if self.views is not None:
            self.tour.write_out()

    def show_notebook(self) -> None:
        if self.views is not None:
            self.tour.go_to_notebook()

    def _offer_outside(self) -> None:
        """Another program has written to the file: say it, and offer to merge."""
        assert self.files.path is not None
        name = self.files.path.name
        self.ripple_line.say(f"{name} was changed by another program. Both can be put together.", act="merge it")

    def merge_outside(self) -> None:
        """Put what another program wrote to the file together with what this window holds."""
        if self.store is not None and (pick := outside_merge(self.store, self.files)) is not None:
            self.tour.go_to_notebook()
            self.store.pick(pick)

    def toggle_details(self) -> None:
        """Open or close the panel where it is a drawer."""
        self.drawer.toggle()

    def open_bundle(self) -> None:
        """Show every limit by name, or gather again what holds."""
        self.strip.toggle()

    def find_anything(self) -> None:
        from wired_union.app.dialogs.find import FindAnything

        FindAnything(find_entries(self, self._actions), self.theme, self).exec()

    def show_help(self) -> None:
        from wired_union.app.dialogs.help import Help

        title = self.views.titles[self.stage] if self.views is not None else "Wired Union"
        subject = next((s for s in subjects() if s.id == self.stage), None) if self.views is not None else None
        Help(subject, title, self.theme, self, self.store.assessment if self.store is not None else None).exec()

    # Qt's own events

    def closeEvent(self, event: QCloseEvent | None) -> None:
        assert event is not None
        if self.may_leave():
            self.files.release()
            self._end_runs()
            event.accept()
        else:
            event.ignore()

    def _end_runs(self) -> None:
        """Nothing works on once the window is gone; a step that takes longer than a moment goes with the process."""
        runs = self.findChildren(Worker)
        for run in runs:
            run.stop()
        for run in runs:
            run.wait(LONGEST_STEP_S)

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        if event is not None and (data := event.mimeData()) is not None and data.hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        data = event.mimeData() if event is not None else None
        if data is not None and data.urls():
            self.open_path(Path(data.urls()[0].toLocalFile()))

    def changeEvent(self, event: QEvent | None) -> None:
        super().changeEvent(event)
        if event is not None and event.type() == QEvent.Type.ActivationChange and self.isActiveWindow():
            self.files.look_outside()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        if self.store is None:
            self._show_start()

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
