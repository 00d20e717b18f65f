"""The panel of the Plan screen: what is selected, what there is to say, what to drop first, what to order."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QLabel
from PyQt6.sip import isdeleted

from wired_union.kernel.results import tried
from wired_union.kernel.ripple import ripple
from wired_union.project.change import Change
from wired_union.project.dates import shown_day
from wired_union.project.errors import ProjectError
from wired_union.project.plan_model import WEEKDAYS, Closed, Machine, Milestone, OtherWay, Person, PlanTask
from wired_union.subjects.plan import edits, feature_edits
from wired_union.subjects.plan.acting import drop_feature
from wired_union.subjects.plan.make import tidy
from wired_union.subjects.plan.orders import orders
from wired_union.subjects.plan.pick import PlanPick
from wired_union.subjects.plan.picture_rope import said
from wired_union.subjects.plan.schedule import PLAN
from wired_union.subjects.plan.view_out import OutWork
from wired_union.subjects.plan.words import hours_words, points_words
from wired_union.ui import ask
from wired_union.ui.fields import EntryField, Form, button, label
from wired_union.ui.findings import ChangeButton
from wired_union.ui.pick_menu import pick_button
from wired_union.ui.value_form import ValueForm
from wired_union.ui.view import View, row
from wired_union.units import show

WORK, WAIT = ("least_h", "likely_h", "most_h", "spent_h", "left_h", "skill", "machine"), (
    "least_days", "likely_days", "most_days")  # fmt: skip
HIDDEN = {"hands", "after", "other_ways", "comes_from", "of", "item", "subsystem", "processor", "beyond"}
WORDS = {
    "kind": "is", "least_h": "at least", "likely_h": "usually", "most_h": "at most", "least_days": "at least",
    "likely_days": "usually", "most_days": "at most", "spent_h": "so far", "left_h": "left", "not_before": "not before",
    "due": "due by", "begun_on": "begun or ordered", "done_on": "done or came", "machine": "needs",
    "skill": "takes somebody who can", "feature": "only for",
}  # fmt: skip
EMPTIES = {"not_before": "any day", "due": "the date", "begun_on": "not yet", "done_on": "not yet", "skill": "anybody",
           "left_h": "what is not spent"}  # fmt: skip
FEW = 5


class PlanPanel:
    """Fills the panel of the Plan screen."""

    def __init__(self, view: View, out: OutWork) -> None:
        self.view, self.out, self.store, self.theme = view, out, view.store, view.theme
        self.fields: dict[str, Any] = {}

    def show(self) -> None:
        """What is selected, then what there is to say of the plan."""
        self.view.panel.clear()
        self.fields = {}
        picked, project = self.store.picked(PlanPick), self.store.project
        concept, plan = project.concept, project.plan
        task = next((t for t in concept.plan_tasks if t.id == picked.task), None)
        chosen: Sequence[tuple[Any, Callable[[Any], None]]] = (
            (task, self._task),
            (next((p for p in plan.people if p.id == picked.person), None), self._person),
            (next((m for m in plan.machines if m.id == picked.machine), None), self._machine),
            (next((m for m in concept.milestones if m.id == picked.milestone), None), self._milestone),
        )
        for value, fill in chosen:
            if value is not None:
                fill(value)
                break
        else:
            self._calendar() if picked.calendar or not plan.date else self._whole()
        self._findings(picked)
        self._features()
        self._orders()
        self._places()
        self.view.panel.column.addStretch(1)

    def _add(self, *widgets: Any) -> None:
        for widget in widgets:
            self.view.panel.column.addWidget(widget)

    def _findings(self, picked: PlanPick) -> None:
        """Those about what is selected first."""
        found = [f for f in self.store.assessment.findings if f.subject == "plan"]
        about = {picked.task, picked.person, picked.milestone} - {""}
        found.sort(key=lambda f: f.of not in about)
        self.view.finding_cards(found[:FEW])
        if len(found) > FEW:
            self._add(label(f"and {len(found) - FEW} more, in the report and on the command line", "mute", wrap=True))

    # a task

    def _task(self, task: PlanTask) -> None:
        plan = self.store.assessment.of(PLAN)
        found = plan.row(task.id)
        self._add(label(task.name, "title", wrap=True))
        if found is not None:
            self._add(label(said(plan, found), "mute", wrap=True))
        skip = HIDDEN | set(WAIT if task.kind == "work" else WORK)
        form = ValueForm(self.theme, self.store, task, task.name, partial(self._set_task, task.id), words=WORDS,
                         skip=skip, empties=EMPTIES | self._by_part(task))  # fmt: skip
        if task.kind == "work":
            self._hands(form, task)
        self._links(form, task)
        self._add(form)
        self.fields |= form.fields
        tasks = self.store.project.concept.plan_tasks
        at = next(n for n, t in enumerate(tasks) if t is task)
        self._add(row(
            button("sooner", partial(self.store.attempt, edits.move_task, task.id, at - 1), kind="link",
                   tip="Before the task above it in the list of whoever does both"),
            button("later", partial(self.store.attempt, edits.move_task, task.id, at + 1), kind="link"),
            button("done today", partial(self._done, task), kind="link"),
        ))  # fmt: skip
        split = [button("split it", partial(self.store.attempt, edits.split_task, task.id), kind="link")]
        self._add(row(*(split if task.kind == "work" else []),
                      button("another way …", partial(self._add_way, task), kind="link",
                             tip="Bought locally, borrowed, made by somebody else: its days, and what it costs more"),
                      button("take it away", partial(self.store.attempt, edits.remove_task, task.id), kind="link"),
                      ))  # fmt: skip
        for k, way in enumerate(task.other_ways):
            self._way(task, k, way)

    def _by_part(self, task: PlanTask) -> dict[str, str]:
        """What stands in fields that the part or the trial fills in."""
        found = self.store.assessment.of(PLAN).row(task.id)
        if found is None:
            return {}
        shown = {}
        for field in (*WORK[:3], *WAIT):
            given = getattr(found.task, field)
            if getattr(task, field) is None and given is not None:
                shown[field] = f"{show(given, 'h' if task.kind == 'work' else 'days')}, worked out"
        return shown

    def _set_task(self, task_id: str, complain: Any, field: str, new: Any) -> None:
        self.store.attempt_or(complain, edits.set_task, task_id, **{field: new})

    def _done(self, task: PlanTask) -> None:
        self.store.attempt(edits.set_task, task.id, done_on=self.view.desk.today())

    def _hands(self, form: Form, task: PlanTask) -> None:
        """Who does it: to be given to one, with one more, or with one less."""
        people, now = self.store.project.plan.people, [h.person for h in task.hands]
        names = {p.id: p.name for p in people}
        others = [(p.id, p.name) for p in people if p.id not in now]
        for person in now:
            left = [p for p in now if p != person]
            form.add(
                "done by",
                button(
                    f"{names[person]} ×",
                    partial(self.store.attempt, edits.give_task, task.id, left),
                    kind="link",
                    tip="Takes no part in it any more",
                ),
            )
        give = pick_button("give it to …", others, lambda v: self.store.attempt(edits.give_task, task.id, [v]),
                           f"{task.name}: give it to")  # fmt: skip
        form.add("" if now else "done by", give)
        self.fields["give"] = give
        if now:
            helps = pick_button(
                "+ who helps",
                others,
                lambda v: self.store.attempt(edits.give_task, task.id, [*now, v]),
                f"{task.name}: who helps",
            )
            form.add("", helps)
            self.fields["helps"] = helps

    def _links(self, form: Form, task: PlanTask) -> None:
        """What it waits for, each with a way to take it away, and one more."""
        tasks = {t.id: t for t in self.store.project.concept.plan_tasks}
        for link in task.after:
            if link.task in tasks:
                days = f" and {show(link.lag_days, 'days')}" if link.lag_days else ""
                away = button(
                    f"{tasks[link.task].name}{days} ×",
                    partial(self.store.attempt, edits.remove_link, task.id, link.task),
                    kind="link",
                    tip="No longer waits for it",
                )
                form.add("after", away)
        before = {a.task for a in task.after}
        options = [(t.id, t.name) for t in tasks.values() if t is not task and t.id not in before]
        more = pick_button("+ after …", options, lambda v: self.store.attempt(edits.add_link, task.id, v),
                           f"{task.name}: after", "Waits for one more task")  # fmt: skip
        form.add("" if task.after else "after", more)
        self.fields["after"] = more

    def _way(self, task: PlanTask, k: int, way: OtherWay) -> None:
        """Another way, with what it would do."""
        change = tried(edits.take_way, self.store.project, task.id, k)
        more = f", {show(way.more, self.store.project.brief.currency)} more" if way.more else ""
        words = f"→ {way.name}: {show(way.likely_days, 'days')}{more}"
        if change is not None:
            self._add(ChangeButton(words, change, self.store))
        else:
            self._add(label(f"{words}. Say the price of its part first.", "mute", wrap=True))

    def _add_way(self, task: PlanTask) -> None:
        text, meant = ask.word(self.view, "Another way", "Called; days at least, usually, at most; what it costs more. "
                               "“buy 2 locally; 1; 2; 4; 18”")  # fmt: skip
        if not meant:
            return
        try:
            figures = edits.read_way(text)
        except ProjectError as error:
            self.store.refused.emit(str(error))
            return
        self.store.attempt(edits.add_way, task.id, **figures)

    # people, machines, milestones

    def _person(self, person: Person) -> None:
        self._add(label(person.name, "title", wrap=True))

        def commit(complain: Any, field: str, new: Any) -> None:
            self.store.attempt_or(complain, edits.set_person, person.id, **{field: new})

        form = ValueForm(self.theme, self.store, person, person.name, commit, skip={"skills", "away"},
                         words={"hours_a_week": "hours a week"}, measured_in={"hours_a_week": "h"})  # fmt: skip
        skills = EntryField(str.strip, f"{person.name}: can")
        skills.show_text(", ".join(s.name for s in person.skills), "workshop, code …")
        skills.committed.connect(lambda v: self.store.attempt_or(skills.complain, edits.set_skills, person.id, v))
        form.add("can", skills, "between commas; tasks ask for them")
        self._add(form)
        self.fields |= form.fields | {"skills": skills}
        self._closed("away", person.away, person=person.id)
        self._add(row(button(f"take {person.name} away", partial(self.store.attempt, edits.remove_person, person.id),
                             kind="link")))  # fmt: skip

    def _machine(self, machine: Machine) -> None:
        self._add(label(machine.name, "title", wrap=True))

        def commit(complain: Any, field: str, new: Any) -> None:
            self.store.attempt_or(complain, edits.set_machine, machine.id, **{field: new})

        form = ValueForm(self.theme, self.store, machine, machine.name, commit, skip={"closed"},
                         words={"count": "how many", "hours_a_day": "hours a day", "weekends": "on days off too"},
                         measured_in={"hours_a_day": "h"})  # fmt: skip
        self._add(form)
        self.fields |= form.fields
        self._closed("closed", machine.closed, machine=machine.id)
        self._add(row(button(f"take {machine.name} away", partial(self.store.attempt, edits.remove_machine, machine.id),
                             kind="link")))  # fmt: skip

    def _milestone(self, milestone: Milestone) -> None:
        self._add(label(milestone.name, "title", wrap=True))

        def commit(complain: Any, field: str, new: Any) -> None:
            self.store.attempt_or(complain, edits.set_milestone, milestone.id, **{field: new})

        form = ValueForm(self.theme, self.store, milestone, milestone.name, commit, skip={"after"},
                         words={"on": "on the day", "shows": "shows"})  # fmt: skip
        tasks = {t.id: t for t in self.store.project.concept.plan_tasks}
        needed = {a.task for a in milestone.after}
        for of in (a.task for a in milestone.after if a.task in tasks):
            form.add("needs", button(f"{tasks[of].name} ×", partial(
                self.store.attempt, edits.needs_task, milestone.id, of, False), kind="link"))  # fmt: skip
        options = [(t.id, t.name) for t in tasks.values() if t.id not in needed]
        choice = pick_button("+ a task", options, lambda v: self.store.attempt(edits.needs_task, milestone.id, v),
                             f"{milestone.name}: needs")  # fmt: skip
        form.add("needs", choice)
        self._add(form)
        self.fields |= form.fields | {"needs": choice}
        self._add(
            row(
                button(
                    f"take {milestone.name} away",
                    partial(self.store.attempt, edits.remove_milestone, milestone.id),
                    kind="link",
                )
            )
        )

    # the whole

    def _whole(self) -> None:
        plan = self.store.assessment.of(PLAN)
        self._add(label("The plan", "title"))
        gone = [t for t in plan.needless if (r := plan.row(t)) is not None and not r.done]
        if gone:
            change = tried(tidy, self.store.project, tuple(gone))
            if change is not None:
                self._add(ChangeButton(f"→ take {len(gone)} tasks out that take no time", change, self.store))

    def _calendar(self) -> None:
        """The date, the days that are worked, the days that are not."""
        plan = self.store.project.plan
        self._add(label("The date and calendar", "title"))

        def commit(complain: Any, field: str, new: Any) -> None:
            self.store.attempt_or(complain, edits.set_plan, **{field: new})

        form = ValueForm(self.theme, self.store, plan, "The plan", commit, skip={"calendar", "people", "machines"},
                         words={"date": "done by", "date_name": "what is then", "own_pace": "at your own pace"},
                         empties={"date": "2026-12-19", "date_name": "the tide trial"})  # fmt: skip
        days = EntryField(str.strip, "The plan: worked on")
        days.show_text(", ".join(plan.calendar.worked), "no day")
        days.committed.connect(lambda v: self.store.attempt_or(days.complain, self._work_on, v))
        form.add("worked on", days, "days of the week, between commas")
        self._add(form)
        self.fields |= form.fields | {"worked": days}
        self._closed("nobody works", plan.calendar.closed)

    @staticmethod
    def _work_on(project: Any, text: str) -> Change:
        named = [x.strip()[:3].title() for x in text.split(",") if x.strip()]
        wrong = [x for x in named if x not in WEEKDAYS]
        if wrong:
            raise ProjectError(f"“{wrong[0]}” is no day of the week. Write them like Mon, Tue, Wed.")
        return edits.set_worked(project, named)

    def _closed(self, word: str, closed: Sequence[Closed], **of: str) -> None:
        """Days on which somebody is away or something is closed, and one more."""
        for c in closed:
            words = f"{word} {c.first}{f' to {c.last}' if c.last else ''}{f': {c.why}' if c.why else ''} ×"
            self._add(button(words, partial(self.store.attempt, edits.reopen, c, **of), kind="link",
                             tip="Worked again"))  # fmt: skip
        field = EntryField(str.strip, f"{word}: from, to, why")
        field.show_text("", "2026-12-07, 2026-12-11, exams")
        field.committed.connect(lambda v: v and self.store.attempt_or(field.complain, edits.close_words, v, **of))
        form = Form(self.theme)
        form.add(word, field, "first day, last day, why")
        self._add(form)
        self.fields[f"closed {''.join(of.values())}"] = field

    # features, orders, places to go to

    def _features(self) -> None:
        """What could be dropped, with what that does to every limit."""
        project = self.store.project
        self._add(label("If time runs out, drop first", "heading"))
        for f in project.concept.features:
            change = tried(drop_feature, project, f.id)
            if change is not None:
                worth = f" · {points_words(f.points)}" if f.points is not None else ""
                self._add(ChangeButton(f"→ {f.name}{worth}", change, self.store))
                hours = sum(t.likely_h or 0.0 for t in project.concept.plan_tasks if t.feature == f.id)
                frees = f"frees {hours_words(hours)} · " if hours else ""
                told = label(f"{frees}…", "mute", wrap=True)
                self._add(told)
                QTimer.singleShot(0, partial(self._tell_price, told, change, frees))
        more = button("+ a feature", self._add_feature, kind="link",
                      tip="Something whose parts and tasks could be left out")  # fmt: skip
        self._add(row(more))
        picked = self.store.picked(PlanPick).feature
        feature = next((f for f in project.concept.features if f.id == picked), None)
        if feature is not None:
            self._feature_form(feature)

    def _tell_price(self, told: QLabel, change: Change, frees: str) -> None:
        """What leaving a feature out does to every limit, worked out once the panel is drawn."""
        if not isdeleted(told) and change.before is self.store.project:
            told.setText(f"{frees}{ripple(self.store.assessment, change).told}")

    def _feature_form(self, feature: Any) -> None:
        def commit(complain: Any, field: str, new: Any) -> None:
            self.store.attempt_or(complain, feature_edits.set_feature, feature.id, **{field: new})

        form = ValueForm(self.theme, self.store, feature, feature.name, commit, skip={"parts"},
                         measured_in={"points": "points"})  # fmt: skip
        names = {i.id: i.name for i in self.store.project.concept.items}
        for part in feature.parts:
            if part.item in names:
                form.add(
                    "with",
                    button(
                        f"{names[part.item]} ×",
                        partial(self.store.attempt, feature_edits.with_part, feature.id, part.item, False),
                        kind="link",
                    ),
                )
        have = {p.item for p in feature.parts}
        options = [(i, n) for i, n in names.items() if i not in have]
        choice = pick_button("+ a part", options, lambda v: self.store.attempt(feature_edits.with_part, feature.id, v),
                             f"{feature.name}: with")  # fmt: skip
        form.add("with", choice)
        self._add(form)
        self.fields |= {f"feature {n}": f for n, f in form.fields.items()} | {"feature part": choice}

    def _add_feature(self) -> None:
        name, meant = ask.word(self.view, "A feature", "What could be left out? “camera mast”, “painted deck”")
        if meant and self.store.attempt(feature_edits.add_feature, name):
            self.store.pick(PlanPick(feature=self.store.project.concept.features[-1].id))

    def _orders(self) -> None:
        """What must go out, by the day."""
        found, plan = orders(self.store.assessment), self.store.assessment.of(PLAN)
        self._add(label("Order list", "heading"))
        if not found:
            self._add(label("Nothing is left to order.", "mute"))
        for o in found[:8]:
            by, sure = o.day(plan), o.day(plan, sure=True)
            everywhere = ", for all concepts" if o.shared else ""
            words = f"{shown_day(by) if by else 'at once'}  {o.row.task.name}{everywhere}"
            note = f"to be sure {shown_day(sure)}" if sure is not None and o.sure_days >= 0 else "to be sure: at once"
            self._add(button(words, partial(self.store.pick, PlanPick(task=o.row.task.id)), kind="link",
                             tip=note))  # fmt: skip
        if len(found) > 8:
            self._add(label(f"and {len(found) - 8} later, in the sheet", "mute"))
        self._add(row(button("Order list …", self.out.sheet, kind="main", tip="Plan and orders as XLSX"),
                      button("Calendar file …", self.out.calendar, tip="ICS, for everybody or one")))  # fmt: skip
        self._add(row(button("Week list …", self.out.week, kind="link", tip="One page, PDF"),
                      button("Import tasks …", self.out.read, kind="link", tip="From CSV or XLSX")))  # fmt: skip

    def _places(self) -> None:
        """Milestones and machines to go to."""
        project = self.store.project
        for m in project.concept.milestones:
            self._add(button(f"{m.name}, {m.on or 'no day'}", partial(self.store.pick, PlanPick(milestone=m.id)),
                             kind="link"))  # fmt: skip
        for machine in project.plan.machines:
            self._add(button(machine.name, partial(self.store.pick, PlanPick(machine=machine.id)), kind="link"))
        for f in project.concept.features:
            self._add(button(f"feature {f.name}", partial(self.store.pick, PlanPick(feature=f.id)), kind="link"))
