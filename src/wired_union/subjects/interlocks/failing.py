"""What one failure does to the states: which cues are told no more, whether anything still leads to a stop, and what
goes on by itself when power comes back.

Whatever state the machine is in when it happens, and whichever it gets into after, is one of those that can be reached
without it, so that all of those are looked at.
"""

import math
from collections import deque
from collections.abc import Iterator, Mapping, Sequence

from msgspec import Struct

from wired_union.project.interlock_model import Failure
from wired_union.project.model import Concept
from wired_union.subjects.interlocks.machine import Machine
from wired_union.subjects.interlocks.stops import StopFrom, along

SILENT = {"stuck sensor", "torn wire", "lost radio"}
"""Kinds of failure after which what the part would tell is not told."""
HUNG, LOST_POWER = "hung program", "lost power"


class Failing(Struct, frozen=True):
    """One failure: cues that are told no more, states in which nothing leads to a stop then, those in which only a cue
    does that need not come, the longest time to a stop where the machine notices it by itself.
    """

    failure: Failure
    silent: frozenset[str]
    stuck: tuple[str, ...] = ()
    unnoticed: tuple[str, ...] = ()
    time_s: float | None = None
    goes_on: tuple[str, ...] = ()
    """states that it gets into by itself when power comes back"""


def failing_of(
    concept: Concept, machine: Machine, stops: Sequence[StopFrom], chains: Mapping[str, float | None]
) -> tuple[Failing, ...]:  # fmt: skip
    """Every failure that changes what the machine hears, or takes its power."""
    if not machine.states:
        return ()
    return tuple(_failing(concept, machine, stops, chains, f) for f in concept.failures if _matters(concept, f))


def _matters(concept: Concept, failure: Failure) -> bool:
    return failure.kind == LOST_POWER or bool(silent_in(concept, failure)) or bool(failure.told_by)


def silent_in(concept: Concept, failure: Failure) -> frozenset[str]:
    """Cues that are told no more: those that are listed, those of the part; of a program that hangs all but what a part
    tells that power itself flows through.
    """
    listed = {s.cue for s in failure.silences}
    if failure.kind == HUNG:
        through = {i.id for i in concept.items if i.part.rail is not None}
        listed |= {c.id for c in concept.cues if c.item not in through}
    elif failure.kind in SILENT and failure.item:
        listed |= {c.id for c in concept.cues if c.item == failure.item}
    return frozenset(listed - {failure.told_by})


def _failing(
    concept: Concept, machine: Machine, stops: Sequence[StopFrom], chains: Mapping[str, float | None], failure: Failure
) -> Failing:  # fmt: skip
    silent = silent_in(concept, failure)
    if failure.kind == LOST_POWER:
        return Failing(failure, silent, goes_on=tuple(_after_power(machine)))
    asked = {c.id for c in machine.urgent} & silent
    others = {s.state for s in stops if s.cue not in silent and not (s.time_s is not None and math.isinf(s.time_s))}
    halts = {s.id for s in machine.states if s.is_stop}
    stuck, unnoticed, times = list[str](), list[str](), list[float | None]()
    for state in machine.reached:
        if state in halts:
            continue
        time, leads = _noticed(machine, state, failure, halts, chains)
        if leads:
            times.append(time)
        elif asked:
            (unnoticed if state in others else stuck).append(state)
    known = [t for t in times if t is not None]
    longest = max(known) if known and len(known) == len(times) else None
    return Failing(failure, silent, tuple(stuck), tuple(unnoticed), longest)


def _noticed(
    machine: Machine, state: str, failure: Failure, halts: set[str], chains: Mapping[str, float | None]
) -> tuple[float | None, bool]:  # fmt: skip
    """Time to a stop by the cue that tells of it, else by time-outs alone where the program runs; whether any leads to
    one.
    """
    told = machine.heard(failure.told_by).get(state) if failure.told_by else None
    if told is not None:
        time, _, _ = along(machine, told, halts, chains, machine.cues[failure.told_by].dwell_s)
        if time is None or not math.isinf(time):
            return time, True
    soonest = machine.soonest.get(state) if failure.kind != HUNG else None
    if soonest is not None:
        time, _, _ = along(machine, soonest, halts, chains, soonest.after_s or 0.0)
        if time is None or not math.isinf(time):
            return time, True
    return None, False


def _after_power(machine: Machine) -> Iterator[str]:
    """States, other than stops, that the first one goes on to without any event when power comes back."""
    first = machine.states[0].id
    seen, due = {first}, deque([first])
    while due:
        for p in machine.ways[due.popleft()]:
            waits = p.after_s is None and p.clauses and all(machine.events_in(c) for c in p.clauses)
            if p.end not in seen and not waits:
                seen.add(p.end)
                due.append(p.end)
                if not next(s for s in machine.states if s.id == p.end).is_stop:
                    yield p.end
