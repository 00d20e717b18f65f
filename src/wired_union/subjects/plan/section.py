"""The plan in the report: the rope, the chance, the orders."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import drawn
from wired_union.project.dates import as_day, days_between, shown_day
from wired_union.project.plan_model import PlanTask
from wired_union.subjects.plan.assess import WANTED
from wired_union.subjects.plan.orders import orders
from wired_union.subjects.plan.pick import PlanPick
from wired_union.subjects.plan.picture_chance import chance_picture
from wired_union.subjects.plan.picture_rope import rope_picture
from wired_union.subjects.plan.schedule import PLAN
from wired_union.subjects.plan.words import late_words, who_words
from wired_union.units import show

WIDE = 1000.0


def section(assessment: Assessment, kit: Kit) -> Section:
    """Nothing while there is no plan."""
    return Section("The plan", tuple(_blocks(assessment, kit)) if assessment.project.concept.plan_tasks else ())


def _kept(task: PlanTask) -> tuple[str, str, str, str]:
    """What a task was thought to take, and what it took, as far as that was written down."""
    if task.kind == "work":
        thought, took = show(task.likely_h, "h"), show(task.spent_h, "h")
    else:
        begun = as_day(task.begun_on)
        days = days_between(begun, task.done_on) if begun is not None else None
        thought, took = show(task.likely_days, "days"), show(None if days is None else float(days), "days")
    return task.name, thought, took, task.done_on


def _blocks(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    plan, project = assessment.of(PLAN), assessment.project
    if plan.missing:
        yield Block(text=f"Not known yet: {'; '.join(plan.missing[:5])}.", tone="note")
    yield drawn(rope_picture(plan, project, kit, WIDE, PlanPick()), "The rope to the date")
    yield Block(text="Taut: no day to lose. Sagging: days in hand. Hatched: could take longer.", tone="note")
    if plan.chance is not None:
        limit = project.brief.limit("in-time")
        wanted = limit.value if limit is not None else WANTED
        yield drawn(chance_picture(plan, wanted, kit, WIDE), "When it will be ready")
    rows = tuple(
        (m.name, shown_day(d) if on is not None and (d := plan.begins(on)) else "no day", m.shows,
         shown_day(r) if done is not None and (r := plan.day(done)) else "not known")
        for m, on, done in plan.milestones
    )  # fmt: skip
    if rows:
        yield Block(text="Milestones", tone="heading")
        yield Block(head=("milestone", "on", "shows", "ready on"), rows=rows)
    kept = tuple(_kept(t) for t in project.concept.plan_tasks if t.done_on)
    if kept:
        yield Block(text="The plan that was kept, against the one that was made", tone="heading")
        yield Block(head=("task", "thought", "took", "done on"), rows=kept, figures=(1, 2))
    found = orders(assessment)
    if found:
        yield Block(text="To order", tone="heading")
        yield Block(head=("what", "order by", "to be sure by", "every concept needs it"), rows=tuple(
            (o.row.task.name, shown_day(a) if (a := o.day(plan)) else "at once",
             shown_day(b) if (b := o.day(plan, sure=True)) and o.sure_days >= 0 else "at once",
             "yes" if o.shared else "") for o in found))  # fmt: skip
    chain = [r for r in plan.chain if not r.done]
    if chain:
        yield Block(text="What holds the date", tone="heading")
        yield Block(head=("task", "who", "slack"), rows=tuple(
            (r.task.name, who_words(project, r.task), late_words(r)) for r in chain))  # fmt: skip
