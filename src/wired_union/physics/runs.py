"""A processor run: which task runs when, from releases that are given. For drawings, and beside worst-case bounds."""

import heapq
from collections.abc import Sequence

from msgspec import Struct


class Release(Struct, frozen=True):
    """One job: when it is ready, which task it is of, how long it runs."""

    at_s: float
    task: int
    run_s: float


class Stretch(Struct, frozen=True):
    """A task runs without a break."""

    task: int
    start_s: float
    end_s: float


class Ended(Struct, frozen=True):
    """A job that is done, or was cut off by the end of the run."""

    task: int
    released_s: float
    end_s: float | None

    @property
    def response_s(self) -> float | None:
        return None if self.end_s is None else self.end_s - self.released_s


class Run(Struct, frozen=True):
    stretches: tuple[Stretch, ...]
    jobs: tuple[Ended, ...]

    def worst_s(self, task: int) -> float:
        """The longest response of a task that was seen; 0 where none ended."""
        return max((j.response_s for j in self.jobs if j.task == task and j.response_s is not None), default=0.0)


def run_tasks(
    releases: Sequence[Release], ranks: Sequence[int], until_s: float, preempts: Sequence[bool] | bool = True
) -> Run:
    """Run jobs by the rank of their task, the lowest first; of one rank, and of one task, what came first goes first.

    Args:
        releases: jobs in any order
        ranks: of each task
        until_s: when the run ends
        preempts: whether a task breaks in on a lower one that runs; one answer for all, or one each
    """
    breaks_in = [preempts] * len(ranks) if isinstance(preempts, bool) else list(preempts)
    coming = sorted(releases, key=lambda r: (r.at_s, ranks[r.task]))
    ready: list[tuple[int, int]] = []
    left = [r.run_s for r in coming]
    ends: list[float | None] = [None] * len(coming)
    stretches: list[Stretch] = []
    now, nxt = 0.0, 0
    running: tuple[int, int] | None = None
    while now < until_s:
        while nxt < len(coming) and coming[nxt].at_s <= now:
            heapq.heappush(ready, (ranks[coming[nxt].task], nxt))
            nxt += 1
        if ready and (running is None or (ready[0][0] < running[0] and breaks_in[coming[ready[0][1]].task])):
            first = heapq.heappop(ready)
            if running is not None:
                heapq.heappush(ready, running)
            running = first
        arrives = coming[nxt].at_s if nxt < len(coming) else until_s
        if running is None:
            now = min(arrives, until_s)
            continue
        job, end = running[1], min(now + left[running[1]], arrives, until_s)
        _add(stretches, coming[job].task, now, end)
        if now + left[job] <= end:
            ends[job], running = end, None
        left[job] -= end - now
        now = end
    jobs = tuple(Ended(r.task, r.at_s, e) for r, e in zip(coming, ends, strict=True) if r.at_s < until_s)
    return Run(tuple(stretches), jobs)


def _add(stretches: list[Stretch], task: int, start_s: float, end_s: float) -> None:
    if end_s <= start_s:
        return
    if stretches and stretches[-1].task == task and stretches[-1].end_s == start_s:
        stretches[-1] = Stretch(task, stretches[-1].start_s, end_s)
    else:
        stretches.append(Stretch(task, start_s, end_s))
