"""What a processor does in its first moments when everything is due at once and runs its longest: for the lanes."""

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from wired_union.physics.runs import Ended, Release, Run, Stretch, run_tasks
from wired_union.physics.tasks import ROUNDING, room_for
from wired_union.project.timing_model import Processor, Task
from wired_union.subjects.timing.tasks import ProcessorResult, rank, shared_of

SPAN_S, MOST_JOBS = 0.1, 4000
WATCHED_S, MOST_SEEN = 10.0, 20_000
ANOTHER_S = 0.02
"""Period of the task that is asked to fit besides."""


class Lanes(Struct, frozen=True):
    """Tasks from the most urgent down, with what they did until `until_s`."""

    tasks: tuple[Task, ...]
    run: Run
    until_s: float


def lanes_of(result: ProcessorResult, until_s: float | None = None) -> Lanes:
    """Run the tasks from a common start; those of which the run is not known do not run."""
    tasks = tuple(t.task for t in result.tasks)
    until_s = until_s or _span_s(tasks)
    cores = sorted({t.core for t in tasks})
    stretches: list[Stretch] = []
    jobs: list[Ended] = []
    for core in cores:
        here = [n for n, t in enumerate(tasks) if t.core == core]
        run = _run_core(result.processor, [tasks[n] for n in here], until_s)
        stretches += [Stretch(here[s.task], s.start_s, s.end_s) for s in run.stretches]
        jobs += [Ended(here[j.task], j.released_s, j.end_s) for j in run.jobs]
    return Lanes(tasks, Run(tuple(stretches), tuple(jobs)), until_s)


def _span_s(tasks: Sequence[Task]) -> float:
    """A tenth of a second, or longer where nothing starts twice in that; shorter where much would start."""
    if not tasks:
        return SPAN_S
    shortest, longest = min(t.period_s for t in tasks), max(t.period_s for t in tasks)
    return min(max(SPAN_S, min(2 * longest, 20 * shortest)), MOST_JOBS / 10 * shortest)


def _run_core(processor: Processor, tasks: Sequence[Task], until_s: float) -> Run:
    if processor.way == "plain loop":
        return run_loop(tasks, until_s)
    preempts: bool | list[bool] = True
    if processor.way == "each run finished first":
        preempts = [t.interrupt for t in tasks]
    places = sorted({rank(t) for t in tasks})
    return run_tasks(_releases(tasks, until_s), [places.index(rank(t)) for t in tasks], until_s, preempts)


def _releases(tasks: Sequence[Task], until_s: float) -> list[Release]:
    found = []
    for n, task in enumerate(tasks):
        run = shared_of(task).run_s
        count = min(math.ceil(until_s / task.period_s), MOST_JOBS)
        found += [Release(k * task.period_s, n, run) for k in range(count) if run > 0]
    return found


def run_loop(tasks: Sequence[Task], until_s: float) -> Run:
    """A plain loop: each pass calls what is due, in order; interrupts come in between and push the rest back."""
    loop = [n for n, t in enumerate(tasks) if not t.interrupt and shared_of(t).run_s > 0]
    breaks = [r for r in _releases(tasks, until_s) if tasks[r.task].interrupt]
    due = dict.fromkeys(loop, 0.0)
    jobs: list[Release] = []
    now, rounds = 0.0, 0
    while loop and now < until_s and rounds < MOST_JOBS:
        ready = [n for n in loop if due[n] <= now * (1 + ROUNDING)]
        if not ready:
            now = min(due.values())
            continue
        for n in ready:
            jobs.append(Release(now, n, shared_of(tasks[n]).run_s))
            now += shared_of(tasks[n]).run_s
            missed = math.floor((now - due[n]) / tasks[n].period_s) if due[n] < now else 0
            due[n] += tasks[n].period_s * max(missed, 1)
            rounds += 1
    ranks = [0 if t.interrupt else 1 for t in tasks]
    return run_tasks([*breaks, *jobs], ranks, until_s, [t.interrupt for t in tasks])


def worst_seen(result: ProcessorResult, until_s: float = WATCHED_S, seed: int = 1) -> dict[str, float]:
    """Longest response of each task, by its id, in a run at random: any start, any lateness, any run that it may take.

    Seen, not proven: it stays below what is worked out, and may never come near it.
    """
    rng, found = np.random.default_rng(seed), {}
    for core in sorted({t.task.core for t in result.tasks}):
        tasks = [t.task for t in result.tasks if t.task.core == core]
        due, releases = _at_random(tasks, until_s, rng)
        if result.processor.way == "plain loop":
            run = _loop_at_random(tasks, releases, until_s)
        else:
            preempts = [t.interrupt or result.processor.way == "pre-emptive" for t in tasks]
            places = sorted({rank(t) for t in tasks})
            run = run_tasks(releases, [places.index(rank(t)) for t in tasks], until_s, preempts)
        for n, task in enumerate(tasks):
            late = [j.end_s - due[n, j.released_s] for j in run.jobs if j.task == n and j.end_s is not None]
            found[task.id] = max(late, default=0.0)
    return found


def _at_random(
    tasks: Sequence[Task], until_s: float, rng: np.random.Generator
) -> tuple[dict[tuple[int, float], float], list[Release]]:  # fmt: skip
    """Releases at random, and when each of them was due."""
    due: dict[tuple[int, float], float] = {}
    releases = []
    for n, task in enumerate(tasks):
        start = float(rng.uniform(0, task.period_s))
        most = shared_of(task).run_s
        for k in range(min(math.ceil(until_s / task.period_s), MOST_SEEN)):
            at = start + k * task.period_s
            ready = at + float(rng.uniform(0, task.jitter_s))
            run = float(rng.uniform(min(task.least_s + task.waits_s, most), most))
            if run > 0:
                due[n, ready] = at
                releases.append(Release(ready, n, run))
    return due, releases


def _loop_at_random(tasks: Sequence[Task], releases: Sequence[Release], until_s: float) -> Run:
    """A loop goes round and serves what has come since it was there; interrupts break in."""
    breaks = [r for r in releases if tasks[r.task].interrupt]
    waiting = {n: sorted((r for r in releases if r.task == n), key=lambda r: r.at_s)
               for n, t in enumerate(tasks) if not t.interrupt}  # fmt: skip
    jobs, now = [], 0.0
    while any(waiting.values()) and now < until_s:
        before = now
        for own in waiting.values():
            if own and own[0].at_s <= now:
                job = own.pop(0)
                busy = sum(r.run_s for r in breaks if now <= r.at_s < now + job.run_s)
                now += job.run_s + busy
                jobs.append(Ended(job.task, job.at_s, now))
        if now == before:
            now = min(own[0].at_s for own in waiting.values() if own)
    own_run = run_tasks(breaks, [0] * len(tasks), until_s)
    return Run((), (*jobs, *own_run.jobs))


class Room(Struct, frozen=True):
    """One more task that would still fit: how long it may run, how often, and below which task."""

    run_s: float
    period_s: float
    below: str


def room_left(result: ProcessorResult, period_s: float = ANOTHER_S) -> Room | None:
    """The longest run of one more task every so often, at the best place; None where that is not known, or late now."""
    way, tasks = result.processor.way, [t.task for t in result.tasks]
    if any(t.response_s is None or t.response_s > t.deadline_s for t in result.tasks) or not tasks:
        return None
    if any(t.core != 1 for t in tasks) or len({rank(t) for t in tasks}) < len(tasks):
        return None
    shared, due = [shared_of(t) for t in tasks], [t.deadline_s or t.period_s for t in tasks]
    if way == "plain loop":
        return _room_in_loop(result, tasks, period_s)
    if way == "each run finished first" and any(t.interrupt for t in tasks):
        return None
    best = Room(0.0, period_s, "")
    for place in range(len(tasks), sum(t.interrupt for t in tasks) - 1, -1):
        run = room_for(shared, due, period_s, place, preemptive=way == "pre-emptive", at_least_s=best.run_s)
        if run > best.run_s:
            best = Room(run, period_s, tasks[place - 1].name if place else "")
    return best


def _room_in_loop(result: ProcessorResult, tasks: Sequence[Task], period_s: float) -> Room | None:
    """What a pass may take besides: every task waits it out, and the new one a pass and itself."""
    if result.pass_s is None or any(t.interrupt for t in tasks):
        return None
    spare = min(t.deadline_s - (t.response_s or 0.0) for t in result.tasks)
    own = (period_s - result.pass_s) / 2
    return Room(max(min(spare, own), 0.0), period_s, tasks[-1].name)
