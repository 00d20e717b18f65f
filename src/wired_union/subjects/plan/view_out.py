"""The plan for elsewhere, by dialogs: calendar, workbook, week list; tasks from a sheet."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QDialog, QMenu

from wired_union.project.errors import ProjectError
from wired_union.subjects.plan.out import plan_book, plan_calendar, week_list
from wired_union.subjects.plan.read_tasks import ReadTasks, read_tasks, take_tasks
from wired_union.ui.import_table import ImportTable
from wired_union.ui.sheets import open_table, save_file
from wired_union.ui.view import View
from wired_union.units import show


class OutWork:
    """What the buttons at the foot of the panel do."""

    def __init__(self, view: View) -> None:
        self.view, self.store = view, view.store

    def _save(self, name: str, kinds: str, write: Callable[[], bytes]) -> None:
        save_file(self.view, f"{self.store.project.name} {name}", kinds, write)

    def sheet(self) -> None:
        """Plan, orders and ledger as a workbook."""
        assessment = self.store.assessment
        more = [p for s in assessment.subjects if s.pages for p in s.load(s.pages)(assessment)]
        self._save("plan.xlsx", "Workbook (*.xlsx)", lambda: plan_book(assessment, more))

    def calendar(self) -> None:
        """For everybody, or for one."""
        people = self.store.project.plan.people
        if not people:
            self.calendar_of("")
            return
        menu = QMenu(self.view)
        menu.addAction("Everybody …", partial(self.calendar_of, ""))
        for p in people:
            menu.addAction(f"{p.name} …", partial(self.calendar_of, p.id))
        menu.popup(self.view.cursor().pos())

    def calendar_of(self, person: str) -> None:
        """The calendar of one, or all where nobody is named."""
        name = next((p.name for p in self.store.project.plan.people if p.id == person), "plan")
        self._save(f"{name}.ics", "Calendar (*.ics)", lambda: plan_calendar(self.store.assessment, person))

    def week(self) -> None:
        self._save("week.pdf", "PDF (*.pdf)", lambda: week_list(self.store.assessment))

    def read(self) -> None:
        """Tasks from a sheet, each looked at first."""
        text = open_table(self.view, "Tasks from a sheet")
        if not text:
            return
        try:
            found = read_tasks(self.store.project, text)
        except ProjectError as error:
            self.store.refused.emit(str(error))
            return
        if self.looked_at(found).exec() == QDialog.DialogCode.Accepted:
            self.store.attempt(take_tasks, found, self.view.desk.today())

    def looked_at(self, found: ReadTasks) -> ImportTable:
        """The rows as they would be taken."""
        rows = []
        for r in found.rows:
            takes = r.task.likely_h if r.task is not None and r.task.kind == "work" else None
            days = r.task.likely_days if r.task is not None and r.task.kind == "wait" else None
            usual = show(takes, "h") if takes is not None else show(days, "days") if days is not None else ""
            rows.append((r.number, (r.name, usual, ", ".join(r.after)), r.wrong))
        return ImportTable(self.view, self.view.theme, "Tasks from a sheet", ("task", "usually", "after"), rows,
                           found.left_out)  # fmt: skip
