"""Fixed-priority tasks on one processor."""

import math
from collections.abc import Sequence

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import AUDSLEY, JOSEPH

ROUNDING = 1e-9
"""Share by which sums of floats may miss the whole number that they stand for."""


class ResponseTimes(Struct, frozen=True):
    response_s: list[float]
    utilisation: float
    schedulable: bool


@method(
    "response-times",
    source="R = C + B + Σ⌈R/Tⱼ⌉·Cⱼ",
    works=(JOSEPH, AUDSLEY),
    checked="a processor run tick by tick",
    limits="preemptive, fixed priorities, deadlines up to the period; 'without limit' is beyond the deadline",
)
def response_times(
    execution_s: Sequence[float],
    period_s: Sequence[float],
    deadline_s: Sequence[float] | None = None,
    blocking_s: Sequence[float] | None = None,
) -> ResponseTimes:
    """Worst response of each task, highest priority first.

    Args:
        execution_s: longest run of each task
        period_s: least time between two starts of each task
        deadline_s: time allowed to each task, its period when not given
        blocking_s: longest wait of each task for a lower one, 0 when not given
    Returns:
        response_s: worst time from release to end, inf when it grows past the deadline
        utilisation: share of the processor in use
        schedulable: whether every task meets its deadline
    Raises:
        ValueError: lists of different length, a time that is not above zero, a run longer than its deadline.
    """
    count = len(execution_s)
    deadlines = list(period_s if deadline_s is None else deadline_s)
    blocking = [0.0] * count if blocking_s is None else list(blocking_s)
    require(count > 0 and len(period_s) == len(deadlines) == len(blocking) == count, "lists of the same length")
    require(all(c > 0 for c in execution_s) and all(t > 0 for t in period_s), "times are above 0")
    require(all(b >= 0 for b in blocking), "blocking times are 0 or more")
    require(all(d <= t for d, t in zip(deadlines, period_s, strict=True)), "deadlines are at most the period")
    for number, (run, deadline) in enumerate(zip(execution_s, deadlines, strict=True), 1):
        require(run <= deadline, f"task {number} runs {run:.4g} s, longer than the {deadline:.4g} s it has")
    responses = [
        _response(execution_s[i] + blocking[i], execution_s[:i], period_s[:i], deadlines[i]) for i in range(count)
    ]
    utilisation = sum(c / t for c, t in zip(execution_s, period_s, strict=True))
    return ResponseTimes(
        responses, utilisation, all(r <= d * (1 + ROUNDING) for r, d in zip(responses, deadlines, strict=True))
    )


def _response(own_s: float, executions_s: Sequence[float], periods_s: Sequence[float], deadline_s: float) -> float:
    """Least fixed point of R = own + Σ⌈R/T⌉·C, sought from own/(1 − ΣC/T), which it is never below."""
    load = sum(c / t for c, t in zip(executions_s, periods_s, strict=True))
    if load >= 1 or own_s / (1 - load) > deadline_s * (1 + ROUNDING):
        return float("inf")
    response = own_s / (1 - load)
    while True:
        busy = own_s + sum(_starts(response / t) * c for c, t in zip(executions_s, periods_s, strict=True))
        if busy <= response * (1 + ROUNDING):
            return busy
        if busy > deadline_s * (1 + ROUNDING):
            return float("inf")
        response = busy


def _starts(periods: float) -> int:
    """How often a task starts in so many of its periods; a whole number that floats overshoot stays that number."""
    return math.ceil(periods * (1 - ROUNDING))
