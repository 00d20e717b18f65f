"""What there is to say of a plan: what is late or not known, who has too much, what to order, what to try first."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Remedy, Verdict, nothing_to_offer, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.physics.levelling import NEVER
from wired_union.project.dates import shown_day
from wired_union.project.plan_model import Milestone, Person
from wired_union.subjects.plan import edits
from wired_union.subjects.plan.acting import for_nobody, load_h, ways_out
from wired_union.subjects.plan.assess import DAYS_SPAN, WANTED
from wired_union.subjects.plan.calendars import hours_of
from wired_union.subjects.plan.orders import orders
from wired_union.subjects.plan.schedule import PLAN, Row, Scheduled
from wired_union.subjects.plan.words import day_words, days_words, hours_words
from wired_union.units import show

TIGHT_DAYS = 2.0
"""Days in hand below which a plan is tight: common practice."""
BUSY = 0.8
"""Share of somebody's hours that is planned, from which on it is tight: common practice."""
PACE_TOLD = 1.15
"""A pace from which on it is told."""


def findings(assessment: Assessment) -> Iterator[Finding]:
    """All of them; nothing while there is no plan."""
    plan = assessment.of(PLAN)
    if not assessment.project.concept.plan_tasks:
        return
    yield from _gaps(assessment, plan)
    yield from _slack(assessment, plan)
    yield from _chance(assessment, plan)
    yield from _order(assessment, plan)
    yield from _milestones(assessment, plan)
    yield from _busy(assessment, plan)
    yield from _pace(assessment, plan)
    yield from _risks(assessment, plan)
    yield from _needless(plan)


def _gaps(assessment: Assessment, plan: Scheduled) -> Iterator[Finding]:
    for gap in plan.gaps:
        yield Finding("plan-gap", Verdict.UNKNOWN, "Not known yet", f"{gap[:1].upper()}{gap[1:]}.",
                      "Without it nothing can be said of the plan.", of=gap, measure="slack")  # fmt: skip
    for row in plan.rows:
        if not row.lacks:
            continue
        offer = for_nobody(assessment, row.task) if row.lacks == ("who does it",) else nothing_to_offer
        yield Finding("task-gap", Verdict.UNKNOWN, row.task.name, f"Not known yet: {'; '.join(row.lacks)}.",
                      "The plan counts it as done at once, so the end is no earlier than it says.", of=row.task.id,
                      measure="slack", offer=offer)  # fmt: skip


def _slack(assessment: Assessment, plan: Scheduled) -> Iterator[Finding]:
    if plan.slack is None or plan.deadline is None:
        return
    of_limit = assessment.project.brief.limit("slack") is not None
    use = 1 - plan.slack / DAYS_SPAN
    chain = plan.chain
    held = [r.task.name for r in chain if not r.done]
    why = f"What holds it: {' → '.join(held[-4:])}." if held else ""
    said = f"Done on {day_words(plan, plan.end)}, {_left(plan.slack)}{_for_what(plan)} as everything usually goes."
    found = Verdict.BREAKS if plan.slack < -1e-9 else Verdict.TIGHT if plan.slack < TIGHT_DAYS else Verdict.HOLDS
    titles = {Verdict.BREAKS: "Too late", Verdict.TIGHT: "Hardly a day in hand", Verdict.HOLDS: "Slack"}
    if found is Verdict.HOLDS and (of_limit or plan.missing):
        return
    if plan.missing and found is not Verdict.BREAKS:
        found, said = Verdict.UNKNOWN, f"So far {said[:1].lower()}{said[1:]}"
    yield Finding(
        "slack",
        found,
        titles.get(found, "Slack"),
        said,
        why,
        measure="slack",
        offer=ways_out(assessment, chain),
        of_limit=of_limit,
        use=use,
        bound=found is Verdict.UNKNOWN,
    )


def _for_what(plan: Scheduled) -> str:
    """What the worst chain is measured by, where that is not the date."""
    if plan.slack is None or plan.deadline is None or plan.slack >= plan.deadline - plan.end - 0.5:
        return ""
    late = [
        m for m, on, done in plan.milestones if on is not None and done is not None and on - done < plan.slack + 0.5
    ]
    own = [r.task for r in plan.open if r.task.due and r.slack < plan.slack + 0.5]
    name = (late or own or (None,))[0]
    return f" for “{name.name}”" if name is not None else ""


def _left(slack: float) -> str:
    if slack < 0:
        return f"{days_words(slack) if slack < -0.5 else 'part of a day'} too late"
    return f"{days_words(slack)} in hand" if slack >= 0.5 else "no day in hand"


def _chance(assessment: Assessment, plan: Scheduled) -> Iterator[Finding]:
    chance = plan.chance
    if chance is None:
        return
    limit = assessment.project.brief.limit("in-time")
    wanted = limit.value if limit is not None else WANTED
    promise = plan.by(min(wanted, 1.0))
    what = f"In time in {round(chance * len(plan.in_order))} of 10 000 plans; {show(wanted, 'share')} are wanted."
    what += f" A date to promise: {_after(plan, promise)}."
    first = plan.holders[:2]
    names = [f"{plan.rows[h.task].task.name} ({show(h.share, 'share')} of the spread)" for h in first]
    why = f"What holds the date: {', '.join(names)}." if names else ""
    verdict = (
        Verdict.HOLDS if chance >= wanted else Verdict.BREAKS if limit is not None or chance < 0.5 else Verdict.TIGHT
    )
    if verdict is Verdict.HOLDS:
        return
    rows = (*(plan.rows[h.task] for h in plan.holders[:4]), *plan.chain)
    seen = tuple(dict.fromkeys(rows))
    found = Finding("in-time", verdict, "Not sure to be in time", what, why, measure="in-time",
                    offer=ways_out(assessment, seen), of_limit=limit is not None,
                    use=1 + (wanted - chance) / 0.5)  # fmt: skip
    yield found if not (plan.missing or plan.unspread) or verdict is Verdict.BREAKS else found.while_unknown("times")


def _after(plan: Scheduled, instant: float) -> str:
    """The first day before which all is done."""
    day = plan.begins(-(-(instant - 1e-9) // 1))
    return f"{day.day} {day:%b}" if day is not None else "none within three years"


def _order(assessment: Assessment, plan: Scheduled) -> Iterator[Finding]:
    """What should have been ordered already, and what today."""
    found = orders(assessment)
    late = [o for o in found if o.days < 0]
    due = [o for o in found if 0 <= o.days < 1]
    if late:
        worst = min(late, key=lambda o: o.days)
        names = ", ".join(o.row.task.name for o in late[:3])
        yield Finding(
            "order-late",
            Verdict.BREAKS,
            "Should be ordered already",
            f"{names}: ordered today, the first of them holds the date up by {days_words(worst.days)}.",
            "By how long it takes to come, and what waits for it.",
            measure="order-by",
            offer=ways_out(assessment, tuple(o.row for o in late)),
            use=1 - worst.days / DAYS_SPAN,
        )
    elif due:
        names = ", ".join(o.row.task.name for o in due[:3])
        yield Finding("order-today", Verdict.TIGHT, "Order today", f"{names}: tomorrow is too late.",
                      "By how long it takes to come, and what waits for it.", measure="order-by",
                      offer=partial(_ordered, assessment, tuple(o.row for o in due)), use=0.95)  # fmt: skip


def _ordered(assessment: Assessment, rows: tuple[Row, ...]) -> tuple[Remedy, ...]:
    today = assessment.today
    return tuple(
        Remedy(r.label, r.change, is_fact=True) for row in rows[:3]
        for r in possible((f"ordered today: {row.task.name}",
                           tried(edits.set_task, assessment.project, row.task.id, begun_on=today)))
    )  # fmt: skip


def _milestones(assessment: Assessment, plan: Scheduled) -> Iterator[Finding]:
    for milestone, on, done in plan.milestones:
        if on is None or done is None:
            yield Finding("milestone-gap", Verdict.UNKNOWN, milestone.name, _milestone_gap(milestone, on),
                          "", of=milestone.id)  # fmt: skip
        elif done > on + 1e-9:
            needed = {a.task for a in milestone.after}
            rows = tuple(r for r in plan.rows if r.task.id in needed and r.finish > on + 1e-9)
            names = ", ".join(r.task.name for r in sorted(rows, key=lambda r: -r.finish)[:3])
            shows = f" To be shown: {milestone.shows}." if milestone.shows else ""
            chain = tuple(dict.fromkeys((*rows, *plan.chain)))
            yield Finding("milestone", Verdict.BREAKS, f"{milestone.name}: late",
                          f"Ready on {day_words(plan, done)}, {days_words(max(done - on, 1.0))} late.{shows}",
                          f"Late: {names}.", of=milestone.id, measure="slack",
                          offer=partial(_milestone_ways, assessment, milestone, chain, done),
                          use=1 + (done - on) / DAYS_SPAN)  # fmt: skip


def _milestone_ways(
    assessment: Assessment, milestone: Milestone, chain: tuple[Row, ...], done: float
) -> tuple[Remedy, ...]:  # fmt: skip
    """What is offered for a chain, and a later day to agree on."""
    day = assessment.of(PLAN).begins(-(-(done - 1e-9) // 1))
    later = tried(edits.set_milestone, assessment.project, milestone.id, on=day.isoformat()) if day else None
    label = f"agree on {shown_day(day)} for it" if day is not None else ""
    return (*ways_out(assessment, chain)(), *possible((label, later)))


def _milestone_gap(milestone: Milestone, on: float | None) -> str:
    if on is None:
        return "Not known yet: the day on which it is due." if not milestone.on else f"“{milestone.on}” is no day."
    return "Not known yet: what must be done for it." if not milestone.after else "Not known yet: when it is done."


def _busy(assessment: Assessment, plan: Scheduled) -> Iterator[Finding]:
    """Who has more than there are hours until the date."""
    if plan.today is None or plan.deadline is None or plan.deadline < 1:
        return
    project = assessment.project
    for person in project.plan.people:
        load, room = load_h(plan, person.id), room_h(assessment, person)
        if not load or person.hours_a_week is None:
            continue
        share = load / room if room > 0 else float("inf")
        if share <= BUSY:
            continue
        verdict = Verdict.BREAKS if share > 1 + 1e-9 else Verdict.TIGHT
        rows = tuple(r for r in plan.open if any(h.person == person.id for h in r.task.hands))
        yield Finding("overload", verdict, f"{person.name} has too much" if share > 1 else f"{person.name} has much",
                      f"{hours_words(load)} of work in {hours_words(room)} until the date.",
                      "One person is in one place at a time.", of=person.id, measure="slack",
                      offer=ways_out(assessment, rows), use=share)  # fmt: skip


def room_h(assessment: Assessment, person: Person) -> float:
    """Hours that somebody has until the date."""
    plan = assessment.of(PLAN)
    if plan.today is None or plan.deadline is None:
        return 0.0
    return float(hours_of(person, assessment.project.plan.calendar, plan.today)[: max(int(plan.deadline), 0)].sum())


def _pace(assessment: Assessment, plan: Scheduled) -> Iterator[Finding]:
    pace, project = plan.pace, assessment.project
    if pace is None or project.plan.own_pace or pace.factor < PACE_TOLD:
        return
    wide = f" ({pace.lower:.2g} to {pace.upper:.2g}, nine times in ten)" if pace.lower and pace.upper else ""
    change = tried(edits.set_plan, project, own_pace=True)
    yield Finding("own-pace", Verdict.TIGHT, "Your own pace",
                  f"Your tasks take {pace.factor:.2g} times what you say{wide}, by {pace.tasks} that are done.",
                  "The plan still counts with what was said.",
                  offer=lambda: tuple(Remedy(r.label, r.change, is_fact=True)
                                      for r in possible(("count with it", change))))  # fmt: skip


def _risks(assessment: Assessment, plan: Scheduled) -> Iterator[Finding]:
    """The riskiest test: when it is planned, and what is left to change the concept if it fails."""
    concept = assessment.project.concept
    asked = [q for q in concept.questions if not q.answer and q.risk_days]
    if not asked or plan.deadline is None:
        return
    riskiest = max(asked, key=lambda q: q.risk_days or 0.0)
    row = next((r for r in plan.rows if r.task.comes_from == "question" and r.task.of == riskiest.id), None)
    if row is None or row.lacks or row.done or row.finish >= NEVER:
        return
    left, lost = plan.deadline - row.finish, riskiest.days_lost or 0.0
    enough = left >= lost
    yield Finding(
        "riskiest",
        Verdict.HOLDS if enough else Verdict.BREAKS,
        "Riskiest test first" if enough else "The riskiest test comes too late",
        f"{riskiest.question} Answered on {day_words(plan, row.finish)}. If it fails, {days_words(left)} are"
        f" left; that costs {days_words(lost)}.",
        "",
        of=riskiest.id,
        measure="slack",
        offer=partial(_sooner, assessment, row) if not enough else nothing_to_offer,
        use=lost / left if left > 0 else float("inf"),
    )


def _sooner(assessment: Assessment, row: Row) -> tuple[Remedy, ...]:
    return possible(("do it first", tried(edits.move_task, assessment.project, row.task.id, 0)))


def _needless(plan: Scheduled) -> Iterator[Finding]:
    """Tasks whose part is there, or gone."""
    gone = [r for r in plan.rows if r.task.id in plan.needless and not r.done]
    if not gone:
        return
    names = ", ".join(r.task.name for r in gone[:3])
    more = f" and {len(gone) - 3} more" if len(gone) > 3 else ""
    yield Finding("needless", Verdict.HOLDS, "Nothing to wait for", f"{names}{more}: in hand, or made already.",
                  "They take no time, and can be taken out of the plan.")  # fmt: skip
