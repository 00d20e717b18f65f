"""Where one stands: which stage shows, and how one gets to a part, a number or what drives a limit."""

from collections.abc import Callable

from msgspec.structs import replace
from PyQt6.QtWidgets import QStackedWidget

from wired_union.app.rack import ViewRack
from wired_union.kernel.subject import Selection, Subject
from wired_union.ui.store import Store
from wired_union.ui.view import Desk, View


class Tour:
    """The views of the project in a window. `arrived` is told when another stage shows."""

    def __init__(self, subjects: tuple[Subject, ...], arrived: Callable[[], object]) -> None:
        self._subjects, self._arrived = subjects, arrived
        self.stage = "parts"
        self.views: ViewRack | None = None
        self._stale: set[str] = set()

    def stand(self, work: QStackedWidget, panels: QStackedWidget) -> None:
        """Show views in these from now on; there are none yet."""
        self._work, self._panels = work, panels
        self.views = None

    def begin(self, desk: Desk) -> None:
        """Views of another project, or of the same in another look, each made when it is looked at."""
        for view in self.views.made.values() if self.views is not None else ():
            for stack, widget in ((self._work, view), (self._panels, view.panel)):
                stack.removeWidget(widget)
                widget.deleteLater()
        self.views = ViewRack(self._subjects, desk, self._place)
        self._stale = set(self.views)

    def _place(self, view: View) -> None:
        self._work.addWidget(view)
        self._panels.addWidget(view.panel)

    @property
    def _here(self) -> View:
        assert self.views is not None
        return self.views[self.stage]

    def go(self, stage: str) -> None:
        """Show a stage."""
        if self.views is None or stage not in self.views:
            return
        self.stage = stage
        self._work.setCurrentWidget(self._here)
        self._panels.setCurrentWidget(self._here.panel)
        if stage in self._stale:
            self._stale.discard(stage)
            self._here.refresh()
        self._arrived()

    def walk(self, step: int) -> None:
        """Go along the rail."""
        if self.views is not None:
            stages = list(self.views)
            self.go(stages[(stages.index(self.stage) + step) % len(stages)])

    def refresh(self) -> None:
        """Bring the view that shows up to date; the others are when they are looked at."""
        self._leave_stale()
        self._here.refresh()

    def selection_moved(self) -> None:
        """Show what is selected now."""
        self._leave_stale()
        self._here.selection_moved()

    def previewed(self) -> None:
        """Show what a pending edit would do, or no longer."""
        self._here.previewed()

    def _leave_stale(self) -> None:
        assert self.views is not None
        self._stale.update(self.views)
        self._stale.discard(self.stage)

    def go_to_item(self, store: Store, item_id: str) -> None:
        """Show an item where it can be edited."""
        store.change(Selection, item=item_id)
        self.go(next(s.id for s in self._subjects if s.edits_items))
        self._here.show_item(item_id)

    def go_to_notebook(self) -> None:
        """Show the notebook."""
        self.go(next(s.id for s in self._subjects if s.holds_notebook))

    def write_out(self) -> None:
        """Write the report from where it is written."""
        self.go(next(s.id for s in self._subjects if s.writes_report))
        self._here.write_out()

    def explain(self, store: Store, what: str) -> None:
        """Go to a stage by its name, or to the stage that explains a measure."""
        self.go(what if self.views is not None and what in self.views else _explainer(store, what))

    def go_to_limit(self, store: Store, measure_id: str) -> None:
        """Go to what explains a limit, at the item or thing that drives it."""
        assessment = store.assessment
        picks: list[object] = []
        shared = replace(store.picked(Selection), measure=measure_id)
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
        store.pick(shared, *picks)
        self.go(_explainer(store, measure_id))


def _explainer(store: Store, measure_id: str) -> str:
    """The stage that explains a measure; the brief where none does."""
    subject = store.assessment.explainer(measure_id)
    return subject.id if subject is not None else "brief"
