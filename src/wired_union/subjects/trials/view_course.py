"""The course on the Trials screen: its picture, the ways between places, its figures, the best order worked out."""

from functools import partial
from typing import Any

from PyQt6.QtWidgets import QVBoxLayout, QWidget

from wired_union.project.course_model import CourseTask
from wired_union.subjects.trials import course_edits as edits
from wired_union.subjects.trials.assess import TRIALS
from wired_union.subjects.trials.course import COURSE, Walked
from wired_union.subjects.trials.course_search import Best, best_order
from wired_union.subjects.trials.pick import TrialPick
from wired_union.subjects.trials.picture_course import NEAR, best_words, course_picture, course_words, map_picture
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Choice, Form, button, empty, label
from wired_union.ui.findings import ChangeButton
from wired_union.ui.value_form import ValueForm
from wired_union.ui.view import View, card, row
from wired_union.ui.worker import Worker
from wired_union.units import show

WORDS = {
    "allowed_s": "time allowed", "start": "starts at", "drive_m_s": "drives at", "drive_spread": "driving varies by",
    "change_s": "a change takes", "change_spread_s": "which varies by",
}  # fmt: skip
TRIP_WORDS = {"fitted": "carries", "any_order": "any order"}
TASK_WORDS = {"usual_s": "takes", "spread_s": "which varies by", "chance": "succeeds", "place": "is at",
              "left_out": "left out"}  # fmt: skip
EMPTIES = {"points": "not known", "usual_s": "not known", "spread_s": "not known", "chance": "not known",
           "allowed_s": "not known", "drive_m_s": "not known", "change_s": "not known", "change_spread_s": "not known",
           "fitted": "nothing special"}  # fmt: skip


class CourseCards:
    """Fills one card of the view, and the panel while the course is selected."""

    def __init__(self, view: View) -> None:
        self.view, self.store, self.theme = view, view.store, view.theme
        self.fields: dict[str, Any] = {}
        self.canvas = Canvas(self.theme, name="The course along its time")
        self.canvas.chosen.connect(self._chosen)
        self.map = Canvas(self.theme, name="Ways between places, from above")
        self.said, self.best_said = label("", "", wrap=True), label("", "mute", wrap=True)
        self._take = QWidget()
        self._take_box = QVBoxLayout(self._take)
        self._take_box.setContentsMargins(0, 0, 0, 0)
        self.find = button("find the best order", self.look, kind="link",
                           tip="Every order of trips, everything that could be left out")  # fmt: skip
        more = row(button("+ a trip", self._add_trip, kind="link", tip="Tasks done before the machine is back"),
                   button("+ a place", self._add_place, kind="link", tip="Where tasks are"),
                   button("the course", self._whole, kind="link", tip="Time allowed, speed, changes"),
                   self.find)  # fmt: skip
        words, beside = QWidget(), QWidget()
        told = QVBoxLayout(words)
        told.setContentsMargins(0, 0, 0, 0)
        for widget in (self.said, self.best_said, self._take):
            told.addWidget(widget)
        told.addStretch(1)
        view.flow(self.map, words, wide=words, least=640.0, parent=beside, beside_w=330.0)
        self.card = card(self.theme, label("The course", "heading"), self.canvas, beside, more)
        self.worker = Worker(self.card)
        self.worker.told.connect(self._told)
        self.worker.failed.connect(lambda _, text: self.best_said.setText(text))
        self._best: tuple[Walked, Best] | None = None

    def refresh(self) -> None:
        """The card as the course stands."""
        found, concept, kit = self.store.assessment.of(COURSE), self.store.project.concept, self.theme.kit
        picked = self.store.picked(TrialPick)
        there = bool(concept.trips or concept.course_places)
        self.canvas.setVisible(there)
        self.map.setVisible(bool(concept.course_places))
        self.canvas.show_layout(lambda w, h: course_picture(found, kit, w, picked))
        self.map.show_layout(lambda w, h: map_picture(concept, found, kit, w))
        hint = "Where tasks give points within a time: trips, tasks, what order brings most."
        self.said.setText(course_words(found) if there else hint)
        self.find.setVisible(found.walked is not None)
        if self._best is None or found.walked is None or self._best[0] != found.walked:
            self._best = None
            self.worker.stop()
            self.best_said.setText("")
        self._show_best()

    # the best order

    def look(self) -> None:
        """Look for the best order beside the window; what it finds is dropped once the course is another."""
        w = self.store.assessment.of(COURSE).walked
        if w is None:
            return
        self._best = (w, Best((), 0.0, 0.0, 0))
        self.best_said.setText("looking through all orders …")
        self.worker.start(self.store.revision, lambda: best_order(w.ground))

    def _told(self, revision: int, told: object) -> None:
        if self._best is None or not isinstance(told, Best):
            return
        self._best = (self._best[0], told)
        self.worker.running = False
        self._show_best()

    def _show_best(self) -> None:
        empty(self._take_box)
        self.fields.pop("take", None)
        if self._best is None or not self._best[1].orders:
            return
        w, best = self._best
        self.best_said.setText(best_words(w, best))
        if best.points < w.points + NEAR:
            return
        words = f"the best order, +{show(best.points - w.points, 'points')}"
        change = edits.take_plan(self.store.project, best.plan, words)
        self.fields["take"] = ChangeButton("→ drive it so", change, self.store)
        self._take_box.addWidget(self.fields["take"])

    # the panel

    def panel(self) -> None:
        """What is selected of the course: a task, a trip, a place, or all that they have in common."""
        picked, concept, column = self.store.picked(TrialPick), self.store.project.concept, self.view.panel.column
        task = next((t for trip in concept.trips for t in trip.tasks if t.id == picked.task), None)
        trip = next((t for t in concept.trips if t.id == picked.trip or (task is not None and task in t.tasks)), None)
        place = next((p for p in concept.course_places if p.id == picked.place), None)
        column.addWidget(label("The course", "title"))
        found = [f for f in self.store.assessment.findings if f.subject == "trials" and f.of == "course"]
        self.view.finding_cards(found)
        if task is not None:
            self._task(task)
        if trip is not None:
            self._listed(trip, "trip", edits.set_trip, edits.remove_trip, TRIP_WORDS, {"tasks", "beyond"})
            self._order(trip.id)
        if place is not None:
            self._listed(place, "place", edits.set_place, edits.remove_place, {"x_m": "along", "y_m": "across"}, set())
        if task is None and trip is None and place is None:
            form = ValueForm(self.theme, self.store, concept.course, "The course", self._set, words=WORDS,
                             empties=EMPTIES)  # fmt: skip
            column.addWidget(form)
            self.fields |= form.fields
        self._links()

    def _task(self, task: CourseTask) -> None:
        column = self.view.panel.column
        column.addWidget(label(task.name, "heading", wrap=True))
        form = ValueForm(self.theme, self.store, task, task.name, partial(self._set_task, task.id), words=TASK_WORDS,
                         skip={"time_from", "chance_from"}, empties=EMPTIES)  # fmt: skip
        self._measured(form, task)
        column.addWidget(form)
        self.fields |= {f"task {n}": f for n, f in form.fields.items()}
        column.addWidget(row(
            button("earlier", partial(self._move_task, task, -1), kind="link"),
            button("later", partial(self._move_task, task, 1), kind="link"),
            button("take it away", partial(self.store.attempt, edits.remove_task, task.id), kind="link"),
        ))  # fmt: skip

    def _measured(self, form: Form, task: CourseTask) -> None:
        """Trials whose runs stand in the place of a guess."""
        results = self.store.assessment.of(TRIALS)
        timed = [(r.trial.id, r.trial.name) for r in results if r.trial.unit == "s"]
        tried = [(r.trial.id, r.trial.name) for r in results if r.is_rate]
        for name, text, options in (("time_from", "time by", timed), ("chance_from", "chance by", tried)):
            choice = Choice([("", "the guess"), *options], f"{task.name}: {text}")
            choice.show_value(getattr(task, name))
            choice.picked.connect(lambda v, n=name: self._set_task(task.id, lambda _: None, n, v))
            form.add(text, choice)
            self.fields[f"task {name}"] = choice

    def _listed(self, value: Any, word: str, change: Any, away: Any, words: dict[str, str], skip: set[str]) -> None:
        column = self.view.panel.column
        column.addWidget(label(value.name, "heading", wrap=True))

        def commit(complain: Any, field: str, new: Any) -> None:
            self.store.attempt_or(complain, change, value_id=value.id, **{field: new})

        form = ValueForm(self.theme, self.store, value, value.name, commit, words=words, skip=skip, empties=EMPTIES)
        column.addWidget(form)
        self.fields |= {f"{word} {n}": f for n, f in form.fields.items()}
        gone = partial(self.store.attempt, away, value_id=value.id)
        column.addWidget(row(button(f"take {value.name} away", gone, kind="link")))

    def _order(self, trip_id: str) -> None:
        trips = self.store.project.concept.trips
        at = next(n for n, t in enumerate(trips, 1) if t.id == trip_id)
        self.view.panel.column.addWidget(row(
            button("+ a task", partial(self._add_task, trip_id), kind="link"),
            button("drive it earlier", partial(self.store.attempt, edits.move_trip, trip_id, at - 1), kind="link"),
            button("later", partial(self.store.attempt, edits.move_trip, trip_id, at + 1), kind="link"),
        ))  # fmt: skip

    def _links(self) -> None:
        """Every trip, task and place to go to."""
        concept, column = self.store.project.concept, self.view.panel.column
        for trip in concept.trips:
            column.addWidget(button(trip.name, partial(self.store.pick, TrialPick(course=True, trip=trip.id)),
                                    kind="link"))  # fmt: skip
            for task in trip.tasks:
                out = ", left out" if task.left_out else ""
                column.addWidget(button(f"    {task.name}{out}", partial(self.store.pick, TrialPick(
                    course=True, task=task.id)), kind="link"))  # fmt: skip
        for place in concept.course_places:
            pick = partial(self.store.pick, TrialPick(course=True, place=place.id))
            column.addWidget(button(f"at {place.name}", pick, kind="link"))

    # what hands do

    def _chosen(self, of: object) -> None:
        if isinstance(of, TrialPick):
            self.store.pick(of)

    def _whole(self) -> None:
        self.store.pick(TrialPick(course=True))

    def _set(self, complain: Any, field: str, new: Any) -> None:
        self.store.attempt_or(complain, edits.set_course, **{field: new})

    def _set_task(self, task_id: str, complain: Any, field: str, new: Any) -> None:
        self.store.attempt_or(complain, edits.set_task, task_id, **{field: new})

    def _move_task(self, task: CourseTask, by: int) -> None:
        trips = self.store.project.concept.trips
        trip = next(t for t in trips if any(x.id == task.id for x in t.tasks))
        at = next(n for n, x in enumerate(trip.tasks, 1) if x.id == task.id)
        self.store.attempt(edits.move_task, task.id, trip.id, at + by)

    def _add_trip(self) -> None:
        name, meant = ask.word(self.view, "A trip", "What is it called? Tasks are done before the machine is back.")
        if meant and self.store.attempt(edits.add_trip, name=name):
            self.store.pick(TrialPick(course=True, trip=self.store.project.concept.trips[-1].id))

    def _add_task(self, trip_id: str) -> None:
        name, meant = ask.word(self.view, "A task", "What gives points? “Core at the buoy”")
        if meant and self.store.attempt(edits.add_task, trip_id, name):
            trip = next(t for t in self.store.project.concept.trips if t.id == trip_id)
            self.store.pick(TrialPick(course=True, task=trip.tasks[-1].id))

    def _add_place(self) -> None:
        name, meant = ask.word(self.view, "A place", "What is there? “Start”, “Buoy”. Then say where it is.")
        if meant and self.store.attempt(edits.add_place, name=name, x_m=0.0, y_m=0.0):
            self.store.pick(TrialPick(course=True, place=self.store.project.concept.course_places[-1].id))
