"""Plans at their largest: 10 000 plans of 200 tasks with six people, against a plain loop; a task's end dragged."""

import random
import statistics
import tempfile
import time
from pathlib import Path

from wired_union.app.run import make_app, make_window
from wired_union.catalogue.demo import WRITTEN_ON, demo
from wired_union.physics.plan_draws import DRAWS
from wired_union.project.change import with_concept
from wired_union.project.model import Project
from wired_union.project.plan_model import After, Hand, Person, Plan, PlanTask
from wired_union.subjects.plan.pick import PlanPick
from wired_union.subjects.plan.schedule import planned
from wired_union.subjects.plan.view import PlanView
from wired_union.ui.places import Places

TASKS, PEOPLE, LOOPED = 200, 6, 20


def a_plan(tasks: int = TASKS) -> Project:
    """The demo with so many tasks of six people, each after up to two of those before."""
    r = random.Random(1)
    people = tuple(Person(id=f"p{n}", name=f"P{n}", hours_a_week=20.0) for n in range(PEOPLE))
    made = []
    for n in range(tasks):
        after = tuple(After(task=f"t{b}") for b in sorted(r.sample(range(n), min(n, r.randint(0, 2)))))
        hours = r.uniform(2, 8)
        made.append(PlanTask(id=f"t{n}", name=f"Task {n}", least_h=hours / 2, likely_h=hours, most_h=hours * 2,
                             hands=(Hand(person=f"p{r.randrange(PEOPLE)}"),), after=after))  # fmt: skip
    bare = demo().but(plan=Plan(date="2027-06-01", people=people))
    return with_concept(bare.but(concepts=bare.concepts[:1]), plan_tasks=tuple(made), milestones=(), features=())


def plans_s() -> tuple[float, float]:
    """10 000 plans with their chance and what holds the date; and a plain loop, from a few of them."""
    project = a_plan()
    planned(project, WRITTEN_ON)
    start = time.perf_counter()
    plan = planned(project, WRITTEN_ON)
    assert plan.chance is not None
    assert plan.holders is not None
    ours = time.perf_counter() - start
    start = time.perf_counter()
    looped = [_one_by_one(project, n) for n in range(LOOPED)]
    loop = (time.perf_counter() - start) * DRAWS / LOOPED
    assert max(looped) > 0
    return ours, loop


def _one_by_one(project: Project, draw: int) -> float:
    """One plan in plain Python: from day to day, task by task."""
    r = random.Random(draw)
    done: dict[str, float] = {}
    free: dict[str, float] = {}
    for task in project.concept.plan_tasks:
        person = task.hands[0].person
        at = max([free.get(person, 0.0), *(done[a.task] for a in task.after)])
        least, likely, most = task.least_h or 0.0, task.likely_h or 0.0, task.most_h or 0.0
        rise = 4 * (likely - least) / (most - least)
        left = least + (most - least) * r.betavariate(1 + rise, 5 - rise)
        day = int(at)
        while left > 0:
            rate = 4.0 if (2 + day) % 7 < 5 else 0.0
            can = rate * (day + 1 - max(at, day))
            if rate and can >= left:
                at, left = max(at, day) + left / rate, 0.0
            else:
                left, day = left - can, day + 1
                at = max(at, float(day))
        done[task.id] = free[person] = at
    return max(done.values())


def frame_ms() -> tuple[float, float]:
    """A frame while the end of a task is dragged: in the demo, and among 200 tasks."""
    return _dragged(demo(), "cables"), _dragged(a_plan(), "t40")


def _dragged(project: Project, task: str) -> float:
    app = make_app(["wired-union"])
    with tempfile.TemporaryDirectory() as name:
        window = make_window(Places.within(Path(name)), WRITTEN_ON)
        window.resize(1280, 800)
        window.hold(project, None)
        window.show()
        window.go("plan")
        app.processEvents()
        view = window.views["plan"] if window.views is not None else None
        assert isinstance(view, PlanView)
        until = time.perf_counter() + 2.0
        while time.perf_counter() < until:  # remedies of the panel are worked out first
            app.processEvents()
        times = []
        for n in range(15):
            start = time.perf_counter()
            view._dragged(PlanPick(task=task, end=True), 3.0 * n)
            app.processEvents()
            times.append((time.perf_counter() - start) * 1e3)
        window.store = None
        window.close()
    return statistics.median(times)
