"""What of the plan can be limited: days in hand, the chance to be in time, days until the first order must go out."""

from collections.abc import Iterator

from wired_union.kernel.results import Measure
from wired_union.kernel.subject import Assessment
from wired_union.subjects.plan.orders import orders
from wired_union.subjects.plan.schedule import PLAN

DAYS_SPAN, CHANCE_SPAN = 20.0, 0.5
"""As much away from its limit counts as the whole of it: with a reserve of a tenth, two days and five of a hundred."""
WANTED = 0.9
"""Plans of which nine of ten are in time hold, where the brief wishes nothing else."""


def measures(assessment: Assessment) -> Iterator[Measure]:
    """Slack, chance and the first order; nothing while there is no plan at all."""
    plan, project = assessment.of(PLAN), assessment.project
    if not project.concept.plan_tasks:
        return
    low = plan.deadline - plan.by(0.95) if plan.deadline is not None and plan.slack is not None else None
    yield Measure("slack", "Slack", plan.slack, "days", direction="at least", missing=plan.missing, span=DAYS_SPAN,
                  low=min(low, plan.slack) if low is not None and plan.slack is not None else None)  # fmt: skip
    gaps = (*plan.missing, *plan.unspread)
    chance = plan.chance
    low_high = plan.sure or (None, None)
    yield Measure("in-time", "In time", chance, "share", direction="at least", missing=gaps, span=CHANCE_SPAN,
                  low=low_high[0], high=low_high[1])  # fmt: skip
    found = orders(assessment)
    first = min((o.days for o in found), default=float("inf"))
    yield Measure("order-by", "First order", first if plan.deadline is not None else None, "days",
                  direction="at least", missing=plan.missing, span=DAYS_SPAN,
                  low=min((o.sure_days for o in found), default=None))  # fmt: skip
