"""Fixed-priority tasks on one processor."""

from collections.abc import Sequence
from typing import NamedTuple

from wired_union.physics.method import method, require


class ResponseTimes(NamedTuple):
    response_s: list[float]
    utilisation: float
    schedulable: bool


@method(
    "response-times",
    source="Joseph & Pandya 1986; Audsley 1993",
    limits="preemptive, fixed priorities, deadlines up to the period; a response beyond its deadline is 'no end'",
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
        ValueError: lists of different length, or a time that is not above zero.
    """
    count = len(execution_s)
    deadlines = list(period_s if deadline_s is None else deadline_s)
    blocking = [0.0] * count if blocking_s is None else list(blocking_s)
    require(count > 0 and len(period_s) == len(deadlines) == len(blocking) == count, "lists of the same length")
    require(all(c > 0 for c in execution_s) and all(t > 0 for t in period_s), "times are above 0")
    require(all(d <= t for d, t in zip(deadlines, period_s, strict=True)), "deadlines are at most the period")
    responses = [
        _response(execution_s[i] + blocking[i], execution_s[:i], period_s[:i], deadlines[i]) for i in range(count)
    ]
    utilisation = sum(c / t for c, t in zip(execution_s, period_s, strict=True))
    return ResponseTimes(responses, utilisation, all(r <= d for r, d in zip(responses, deadlines, strict=True)))


def _response(own_s: float, executions_s: Sequence[float], periods_s: Sequence[float], deadline_s: float) -> float:
    response = own_s
    while True:
        busy = own_s + sum(-(-response // t) * c for c, t in zip(executions_s, periods_s, strict=True))
        if busy <= response * (1 + 1e-12):
            return response
        if busy > deadline_s:
            return float("inf")
        response = busy
