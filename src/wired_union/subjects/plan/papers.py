"""What the plan hands over: a calendar, the workbook, the coming week."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, Paper
from wired_union.subjects.plan.out import plan_book, plan_calendar, week_list
from wired_union.subjects.plan.schedule import PLAN


def papers(assessment: Assessment) -> Iterator[Paper]:
    """Nothing where there is no task, or nobody knows what day it is."""
    if not assessment.project.concept.plan_tasks or assessment.of(PLAN).today is None:
        return
    more = [p for s in assessment.subjects if s.pages for p in s.load(s.pages)(assessment)]
    yield Paper("plan.ics", "the plan as a calendar", lambda: plan_calendar(assessment))
    yield Paper("plan.xlsx", "the plan, orders and the ledger as a workbook", lambda: plan_book(assessment, more))
    yield Paper("week.pdf", "the coming week on a page", lambda: week_list(assessment))
