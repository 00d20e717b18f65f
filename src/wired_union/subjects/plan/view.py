"""Plan: the rope to the date, who has how much, when it will be ready, what holds it."""

from functools import partial

from PyQt6.QtWidgets import QMenu, QWidget

from wired_union.kernel.results import tried
from wired_union.picture.bars import share_bars
from wired_union.subjects.plan import edits
from wired_union.subjects.plan.assess import WANTED
from wired_union.subjects.plan.compare import all_against
from wired_union.subjects.plan.level import Spread, search, taken
from wired_union.subjects.plan.make import make_plan
from wired_union.subjects.plan.pick import PlanPick
from wired_union.subjects.plan.picture import plan_picture
from wired_union.subjects.plan.picture_chance import chance_picture, holder_bars
from wired_union.subjects.plan.picture_rope import end_words, frame_of
from wired_union.subjects.plan.schedule import PLAN, Scheduled, planned
from wired_union.subjects.plan.view_out import OutWork
from wired_union.subjects.plan.view_panel import PlanPanel
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, label
from wired_union.ui.view import Desk, View, card, row
from wired_union.ui.worker import Worker

LEAST_GAIN = 0.25
"""Days by which an order must be better to be taken."""


class PlanView(View):
    stage, title = "plan", "Plan"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.rope = Canvas(self.theme, name="The rope to the date")
        self.chance = Canvas(self.theme, name="When it will be ready")
        self.holders = Canvas(self.theme, name="What holds the date")
        self.ordering = label("", "mute", wrap=True)
        self.ordering.hide()
        self.make = button(
            "Make the plan",
            self._make,
            kind="main",
            tip="Tasks from parts, cables, bench, trials and questions, given to who can do them",
        )
        self.level = button("find a better order", self._level, kind="link", tip="Who does what, and when")
        note = label("taut: no day to lose · sagging: days in hand · hatched: could take longer", "mute", wrap=True)
        acts = row(self.make, button("the date and calendar", self._calendar, kind="link"), self.level)
        more = row(
            button("+ a task", self._add_task, kind="link"),
            button("+ somebody", self._add_person, kind="link"),
            button("+ a machine", self._add_machine, kind="link"),
            button("+ a milestone", self._add_milestone, kind="link"),
        )
        self.rope_card = card(self.theme, label("The rope to the date", "heading"), note, self.rope, acts, more,
                              self.ordering)  # fmt: skip
        self.column.addWidget(self.rope_card)
        self._below()
        self.out = OutWork(self)
        self.details = PlanPanel(self, self.out)
        self._wire()

    def _below(self) -> None:
        """The other concepts, when it will be ready, and what holds it."""
        self.others = label("", "mute", wrap=True)
        self.column.addWidget(self.others)
        self.chance_card = card(
            self.theme, row(label("When it will be ready", "heading"), label("10 000 plans with their spread", "mute")),
            self.chance,
        )  # fmt: skip
        self.holders_card = card(self.theme, label("What holds the date", "heading"), self.holders,
                                 label("share of the spread of the end date", "mute"))  # fmt: skip
        holder = QWidget()
        beside = self.flow(self.chance_card, self.holders_card, wide=self.chance_card, least=680.0, parent=holder)
        beside.setStretch(1, 1)
        self.column.addWidget(holder)
        self.column.addStretch(1)

    def _wire(self) -> None:
        self.rope.chosen.connect(self._chosen)
        self.rope.carried.connect(self._carried)
        self.rope.dragged.connect(self._dragged)
        self.rope.dropped.connect(self._dropped)
        self.worker = Worker(self)
        self.worker.told.connect(self._told)
        self.worker.ended.connect(self._ordered)
        self.worker.failed.connect(lambda _, text: self._say(text))
        self._best: Spread | None = None

    @property
    def plan(self) -> Scheduled:
        """The plan of the concept at work."""
        return self.store.assessment.of(PLAN)

    def refresh(self) -> None:
        plan, project, kit = self.plan, self.store.project, self.theme.kit
        picked = self.store.picked(PlanPick)
        self.rope.show_layout(lambda w, h: plan_picture(plan, project, kit, w, picked))
        limit = project.brief.limit("in-time")
        wanted = limit.value if limit is not None else WANTED
        there = bool(plan.rows) and plan.deadline is not None
        for made in (self.chance_card, self.holders_card):
            made.setVisible(there)
        if there:
            self.chance.show_layout(lambda w, h: chance_picture(plan, wanted, kit, w))
            self.holders.show_layout(lambda w, h: share_bars(holder_bars(plan), kit, w, 170.0))
        name = project.plan.date_name or "the date"
        waits = sum(r.task.kind == "wait" and r.task.id not in plan.needless for r in plan.open)
        self.subtitle.setText(
            f"{end_words(plan)}: {name} on {project.plan.date or 'no day yet'} · {len(project.plan.people)} people · "
            f"{len(plan.open)} tasks, {waits} of them waits"
        )
        self.others.setText(all_against(project, self.store.assessment.today))
        self.others.setVisible(bool(self.others.text()))
        self.level.setVisible(len(plan.open) > 1)
        self.details.show()

    # what hands do

    def _chosen(self, of: object) -> None:
        if isinstance(of, PlanPick):
            self.store.pick(of)

    def _carried(self, of: object, onto: object, let_go: bool) -> None:
        """A task let go on another comes after it; let go on somebody, it is theirs."""
        if not let_go or not isinstance(of, PlanPick) or not isinstance(onto, PlanPick):
            return
        if onto.task:
            self.store.attempt(edits.add_link, of.task, onto.task)
        elif onto.person:
            self.store.attempt(edits.give_task, of.task, [onto.person])

    def _factor(self, of: object, dx: float) -> tuple[str, float] | None:
        """How many times as long a task takes whose end was moved by so many pixels."""
        if not isinstance(of, PlanPick) or not of.end:
            return None
        found = self.plan.row(of.task)
        if found is None:
            return None
        at = frame_of(self.plan, self.theme.kit, float(self.rope.width()))
        begin = max(found.start, at.first)
        long = found.finish - begin
        days = max(long + dx * at.per_px, 0.05)
        return of.task, days / long if long > 1e-9 else 1.0

    def _dragged(self, of: object, dx: float) -> None:
        """The rope as it would be, while an end is dragged; the limits follow when it is let go."""
        moved, project = self._factor(of, dx), self.store.project
        if moved is None:
            return
        change = tried(edits.reach, project, *moved)
        if change is None:
            return
        kit, picked = self.theme.kit, self.store.picked(PlanPick)
        at = frame_of(self.plan, kit, float(self.rope.width()))
        plan = planned(change.after, self.desk.today())
        self.rope.show_layout(lambda w, h: plan_picture(plan, project, kit, w, picked, at))

    def _dropped(self, of: object, dx: float) -> None:
        moved = self._factor(of, dx)
        if moved is not None and not self.store.attempt(edits.reach, *moved):
            self.refresh()

    def _make(self) -> None:
        if not self.store.project.plan.date:
            self.store.pick(PlanPick(calendar=True))
        if self.store.attempt(make_plan, self.desk.today()):
            self.rope.setFocus()

    def _add_task(self) -> None:
        name, meant = ask.word(self, "A task", "What is to be done? “Cut the deck”, “Book the hall”")
        if meant and self.store.attempt(edits.add_task, name):
            self.store.pick(PlanPick(task=self.store.project.concept.plan_tasks[-1].id))

    def _add_person(self) -> None:
        name, meant = ask.word(self, "Somebody", "Who is in the team? Hours and skills come next.")
        if meant and self.store.attempt(edits.add_person, name):
            self.store.pick(PlanPick(person=self.store.project.plan.people[-1].id))

    def _add_machine(self) -> None:
        name, meant = ask.word(self, "A machine", "What is it, or which room? “Printer”, “Lathe”, “Test tank”")
        if meant and self.store.attempt(edits.add_machine, name):
            self.store.pick(PlanPick(machine=self.store.project.plan.machines[-1].id))

    def _add_milestone(self) -> None:
        name, meant = ask.word(self, "A milestone", "What must be shown? “First drive”, “Critical review”")
        if meant and self.store.attempt(edits.add_milestone, name):
            self.store.pick(PlanPick(milestone=self.store.project.concept.milestones[-1].id))

    def _calendar(self) -> None:
        self.store.pick(PlanPick(calendar=True))

    # a better order, beside the window

    def _level(self) -> None:
        menu = QMenu(self)
        menu.addAction("Another order, everybody keeps what is theirs", partial(self.seek, False))
        menu.addAction("Another order, and tasks given to whoever can", partial(self.seek, True))
        menu.popup(self.level.mapToGlobal(self.level.rect().bottomLeft()))

    def seek(self, anew: bool) -> None:
        """Look for a better order; what it finds is dropped once the plan is another."""
        project, today = self.store.project, self.desk.today()
        self._best = None
        self._say("looking for a better order …")
        self.worker.start(self.store.revision, lambda: search(project, today, anew=anew, tries=4000))

    def _say(self, text: str) -> None:
        """Say under the rope how the search goes."""
        self.ordering.setText(text)
        self.ordering.show()

    def _told(self, revision: int, told: object) -> None:
        if revision == self.store.revision and isinstance(told, Spread):
            self._best = told

    def _ordered(self, revision: int) -> None:
        """Take the best that was found, where it is better than what stands."""
        found, late = self._best, self.plan.late
        if revision != self.store.revision or found is None:
            return
        gain = late - found.answer.late if late is not None else 0.0
        proven = " No order does better." if found.answer.proven else ""
        if gain < LEAST_GAIN:
            self._say(f"No better order was found.{proven}")
            return
        if self.store.apply(taken(self.store.project, found)):
            self._say(f"{gain:.1f} days better.{proven} Undo takes it back.")
