"""Processors and their tasks: the worst response of each, the load, and what keeps it from being known.

A wait in a run counts as if the task kept the processor: true of a plain loop, a bound where another may run meanwhile.
"""

import math
from collections.abc import Sequence

from msgspec import Struct

from wired_union.kernel.checks import Check, check_of
from wired_union.kernel.results import Verdict, worst
from wired_union.kernel.subject import Node
from wired_union.physics.tasks import Shared, queued, stretched, worst_response
from wired_union.project.model import Project
from wired_union.project.timing_model import Processor, Task


class TaskResult(Struct, frozen=True):
    """A task with its worst response; None where something that it rests on is not known."""

    task: Task
    response_s: float | None
    missing: tuple[str, ...] = ()
    bound: bool = False
    """Whether only waits of others, taken as if they kept the processor, make it late."""

    @property
    def deadline_s(self) -> float:
        return self.task.deadline_s or self.task.period_s

    @property
    def check(self) -> Check | None:
        if self.response_s is None:
            return None
        return check_of("response", self.response_s, self.deadline_s, "s", of=self.task.id)

    @property
    def verdict(self) -> Verdict:
        check = self.check
        if check is None or (self.bound and check.verdict is Verdict.BREAKS):
            return Verdict.UNKNOWN
        return check.verdict


class ProcessorResult(Struct, frozen=True):
    """A processor with its tasks, the most urgent first."""

    processor: Processor
    tasks: tuple[TaskResult, ...]
    load: float | None
    """Share of the time that its busiest core is in use at the most."""
    missing: tuple[str, ...] = ()
    pass_s: float | None = None
    """Longest pass of a plain loop."""

    @property
    def verdict(self) -> Verdict | None:
        return worst([t.verdict for t in self.tasks])

    def of(self, task_id: str) -> TaskResult | None:
        return next((t for t in self.tasks if t.task.id == task_id), None)


def rank(task: Task) -> tuple[bool, int]:
    """What goes first: interrupts, then by number."""
    return not task.interrupt, task.priority


def shared_of(task: Task, *, waits: bool = True) -> Shared:
    """What it asks of its processor at the most."""
    run = (task.most_s or 0.0) + (task.waits_s if waits else 0.0)
    return Shared(run, task.period_s, task.jitter_s, task.holds_s)


def assess_processor(processor: Processor, tasks: Sequence[Task]) -> ProcessorResult:
    """Every task of a processor, core by core."""
    own = sorted((t for t in tasks if t.processor == processor.id), key=rank)
    results: dict[str, TaskResult] = {}
    loads, passes = [0.0], []
    for core in range(1, max([processor.cores, *(t.core for t in own)]) + 1):
        here = [t for t in own if t.core == core]
        if core > processor.cores:
            words = f"a core of {processor.name} that there is"
            results |= {t.id: TaskResult(t, None, (f"{t.name}: {words}",)) for t in here}
            continue
        for result in _on_a_core(processor, here):
            results[result.task.id] = result
        loads.append(sum(_takes(processor, t) / t.period_s for t in here))
        if processor.way == "plain loop":
            passes.append(_pass_s(here))
    missing = tuple(dict.fromkeys(m for t in own for m in results[t.id].missing))
    unknown = any(t.most_s is None for t in own)
    load = None if not own or (unknown and max(loads) <= 1) else max(loads)
    if not own:
        missing = (f"{processor.name}: its tasks",)
    return ProcessorResult(processor, tuple(results[t.id] for t in own), load, missing,
                           max(passes) if passes and not unknown else None)  # fmt: skip


def _takes(processor: Processor, task: Task) -> float:
    waits = task.waits_s if processor.way == "plain loop" else 0.0
    return (task.most_s or 0.0) + waits


def _pass_s(tasks: Sequence[Task]) -> float:
    interrupts = [shared_of(t) for t in tasks if t.interrupt]
    return stretched(sum(shared_of(t).run_s for t in tasks if not t.interrupt), 0.0, interrupts)


def _on_a_core(processor: Processor, tasks: Sequence[Task]) -> list[TaskResult]:
    found = []
    for task in tasks:
        response = _response(processor, task, tasks, waits=True)
        lacks = tuple(f"{t.name}: its longest run" for t in _it_waits_for(processor, task, tasks) if t.most_s is None)
        nan = math.isnan(response)
        if nan:
            lacks = (*lacks, f"{task.name}: when it has its turn; {processor.name} hardly ever pauses")
        late = not nan and response > (task.deadline_s or task.period_s)
        if lacks and not (late and not nan and task.most_s is not None):
            found.append(TaskResult(task, None, lacks))
            continue
        bound = late and processor.way != "plain loop" and _response(processor, task, tasks, waits=False) <= (
            task.deadline_s or task.period_s)  # fmt: skip
        found.append(TaskResult(task, response, lacks, bound))
    return found


def _it_waits_for(processor: Processor, task: Task, tasks: Sequence[Task]) -> list[Task]:
    """Itself, and everything that may keep it waiting by running."""
    if processor.way == "pre-emptive" or task.interrupt:
        return [t for t in tasks if t is task or rank(t) <= rank(task)]
    return list(tasks)


def _response(processor: Processor, task: Task, tasks: Sequence[Task], *, waits: bool) -> float:
    """Its worst response with runs that are not known taken as nothing; without the waits of others where asked."""
    others = [t for t in tasks if t is not task]
    higher = [t for t in others if rank(t) <= rank(task)]
    lower = [t for t in others if rank(t) > rank(task)]
    own, above = shared_of(task), [shared_of(t, waits=waits) for t in higher]
    if task.interrupt or processor.way == "pre-emptive":
        return worst_response(own, above, max((t.holds_s for t in lower), default=0.0))
    interrupts = [shared_of(t) for t in others if t.interrupt]
    if processor.way == "plain loop":
        whole = sum(shared_of(t).run_s for t in tasks if not t.interrupt)
        return task.jitter_s + stretched(whole + own.run_s, 0.0, interrupts)
    if not interrupts:
        shared = [own, *above, *(shared_of(t, waits=waits) for t in lower)]
        return queued(shared, above=[range(1, 1 + len(above)), *([()] * (len(shared) - 1))])[0]
    held = max((shared_of(t, waits=waits).run_s for t in lower), default=0.0)
    return worst_response(own, above, held)  # as if it could be broken in upon: never less than it is


def _read(project: Project) -> tuple[object, ...]:
    return project.concept.processors, project.concept.tasks


def _work(project: Project, _: object) -> tuple[ProcessorResult, ...]:
    return tuple(assess_processor(p, project.concept.tasks) for p in project.concept.processors)


TASKS = Node("tasks", _read, _work)
