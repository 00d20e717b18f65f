"""Plan: who does what by when, what comes late, and what gives."""

from wired_union.kernel.results import Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, Driver, MeasureKind, Subject
from wired_union.subjects.plan.assess import measures
from wired_union.subjects.plan.findings import findings
from wired_union.subjects.plan.orders import orders
from wired_union.subjects.plan.pick import PlanPick
from wired_union.subjects.plan.schedule import PLAN
from wired_union.units import show


def _verdict(assessment: Assessment) -> Verdict | None:
    """Nothing without a plan; else the worst that is said of it, unknown while something is."""
    if not assessment.project.concept.plan_tasks:
        return None
    found = [f.verdict for f in assessment.findings if f.subject == "plan"]
    return worst([*found, *assessment.own_verdicts("plan"), Verdict.HOLDS])


def _pick(assessment: Assessment, _: Measure) -> PlanPick:
    """The task that holds the end."""
    chain = [r for r in assessment.of(PLAN).chain if not r.done]
    return PlanPick(task=chain[0].task.id if chain else "")


def _pick_order(assessment: Assessment, _: Measure) -> PlanPick:
    found = orders(assessment)
    return PlanPick(task=found[0].row.task.id if found else "")


def _chain(assessment: Assessment, _: Measure) -> list[Driver]:
    """Days of each task of the chain that holds the end."""
    return [
        Driver(r.task.name, days, show(days, "days"), "copper" if r.task.kind == "wait" else "blue")
        for r in assessment.of(PLAN).chain if not r.done and (days := r.finish - max(r.start, 0.0)) > 0
    ]  # fmt: skip


def _held(assessment: Assessment, _: Measure) -> list[Driver]:
    """Shares of the spread of the end."""
    plan = assessment.of(PLAN)
    return [Driver(plan.rows[h.task].task.name, h.share, show(h.share, "share"), "copper") for h in plan.holders[:8]]


def _due(assessment: Assessment, _: Measure) -> list[Driver]:
    return [Driver(o.row.task.name, max(o.days, 0.0), show(o.days, "days"), "copper") for o in orders(assessment)[:8]]


SUBJECT = Subject(
    id="plan", title="Plan", group="PROVE",
    about=(
        "Everybody does what is theirs in the order of the list, one thing at a time; a task begins when all that it"
        " waits for is done and all who do it are free. So a later delivery, or one more link, never makes the end"
        " earlier. A better order is sought when asked: by the latest finish first, then one task moved at a time.",
        "Hours a week are spread evenly over the days that are worked; who does a task together add their hours."
        " A wait counts all days, weekends too. All is done before the day of the date begins; what is due on a day is"
        " done by its evening. Days in hand are days by which a task may slip before something that is due is late.",
        "Durations are drawn 10 000 times from the beta distribution of least, likely and most (PERT), each by itself,"
        " in the same order of work. What holds the date is the squared correlation of a duration with the end. What"
        " is waited for and not here today comes tomorrow at the earliest; longer than its longest, it is not known.",
        "A delivery takes the days of its part, from two thirds of them to half as many again and two days (a guess),"
        " until the team says otherwise; a part that is in hand takes none. Hours of tasks made by the program are"
        " guesses by count. A task that lacks a figure counts as done at once, and nothing holds by it.",
        "Not checked: illness, work that is interrupted, two deliveries late for one reason, tools and rooms that are"
        " not listed. Public holidays are closed days that the team types.",
    ),
    view="view:PlanView", methods=("critical-path", "level-resources", "three-point", "chance-in-time", "own-pace"),
    nodes=(PLAN,), measures=measures, findings=findings, hard_findings=lambda _: (), verdict=_verdict,
    explains=(
        MeasureKind("slack", "days", "Cost", "at least", select=_pick, drivers=_chain,
                    about="days in hand of the chain that has the fewest"),
        MeasureKind("in-time", "share", "Cost", "at least", select=_pick, drivers=_held,
                    about="plans of ten thousand that are in time"),
        MeasureKind("order-by", "days", "Cost", "at least", select=_pick_order, drivers=_due,
                    about="days until the first order must go out"),
    ),
    section="section:section", commands="commands:add", papers="papers:papers",
)  # fmt: skip
