"""What must be ordered, by the day on which each order must go out."""

from datetime import date

from msgspec import Struct

from wired_union.kernel.subject import Assessment
from wired_union.physics.levelling import NEVER
from wired_union.project.model import Project
from wired_union.subjects.plan.effort import three_of
from wired_union.subjects.plan.schedule import PLAN, Row, Scheduled


class Order(Struct, frozen=True):
    """Something to order: by when at the latest, in days from today, and by whom it is shared."""

    row: Row
    days: float
    """until it must go out, as deliveries usually are"""
    sure_days: float
    """until it must go out where this delivery takes its longest"""
    shared: bool
    """whether every concept that is still alive needs it"""

    def day(self, plan: Scheduled, *, sure: bool = False) -> date | None:
        """The day by which it must go out."""
        return plan.begins(self.sure_days if sure else self.days)


def is_order(row: Row) -> bool:
    """Whether a task is a delivery that was not ordered yet."""
    return row.task.kind == "wait" and not row.task.begun_on and not row.done and row.task.comes_from in ORDERED


ORDERED = ("delivery", "making")


def orders_of(plan: Scheduled, project: Project) -> tuple[Order, ...]:
    """All orders, the first first; of two on one day, what every living concept needs."""
    everywhere = _everywhere(project)
    names = {i.id: i.part.name for i in project.concept.items}
    found = []
    for row in plan.rows:
        if not is_order(row) or row.lacks or row.latest >= NEVER or row.task.id in plan.needless:
            continue
        three = three_of(row.task)
        most = three[2] if three is not None else row.finish - row.start
        days, sure = row.latest - (row.finish - row.start), row.latest - most
        found.append(Order(row, days, min(sure, days), names.get(row.task.item) in everywhere))
    return tuple(sorted(found, key=lambda o: (int(o.days // 1), not o.shared, o.days)))


def _everywhere(project: Project) -> frozenset[str]:
    """Names of parts that every living concept has to buy."""
    each = [{i.part.name for i in c.items if i.origin == "to buy"} for c in project.living or (project.concept,)]
    return frozenset(set.intersection(*each)) if len(each) > 1 else frozenset()


def orders(assessment: Assessment) -> tuple[Order, ...]:
    """The orders of the concept at work."""
    return orders_of(assessment.of(PLAN), assessment.project)
