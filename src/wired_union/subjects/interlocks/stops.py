"""How long it takes from any state until everything stands still."""

import math
from collections.abc import Mapping

from msgspec import Struct

from wired_union.project.interlock_model import Passage
from wired_union.subjects.interlocks.machine import Machine


class StopFrom(Struct, frozen=True, gc=False):
    """The quickest stop from one state on one urgent cue: its time, by which ways, and what is not known of it."""

    state: str
    cue: str
    time_s: float | None
    path: tuple[Passage, ...]
    missing: str = ""


def stops_of(machine: Machine, chains: Mapping[str, float | None]) -> list[StopFrom]:
    """From every reachable state that is no stop, on every urgent cue.

    The first way is taken by the cue alone; after it only time-outs and ways that need nothing go on. `chains` is the
    longest time of each chain of Timing, None where it is not known.
    """
    stops = {s.id for s in machine.states if s.is_stop}
    found: list[StopFrom] = []
    heard = [(cue, machine.heard(cue.id)) for cue in machine.urgent]
    for state in machine.reached:
        if state in stops:
            continue
        for cue, ways in heard:
            first = ways.get(state)
            if first is None:
                found.append(StopFrom(state, cue.id, math.inf, ()))
            elif first.end in stops and (time := takes_s(first, chains)) is not None:
                found.append(StopFrom(state, cue.id, cue.dwell_s + time, (first,)))
            else:
                found.append(StopFrom(state, cue.id, *along(machine, first, stops, chains, cue.dwell_s)))
    return found


def along(
    machine: Machine, first: Passage, stops: set[str], chains: Mapping[str, float | None], dwell_s: float
) -> tuple[float | None, tuple[Passage, ...], str]:  # fmt: skip
    """Time along one way and what follows by itself; infinite where that leads to no stop, whatever is known of it."""
    path, total, seen, lacks = [first], dwell_s, set[str](), ""
    while True:
        p = path[-1]
        time = takes_s(p, chains)
        lacks = lacks or (f"how long “{p.name}” takes" if time is None else "")
        total += time or 0.0
        if p.end in stops:
            return (None if lacks else total), tuple(path), lacks
        if p.end in seen:
            return math.inf, tuple(path), ""
        seen.add(p.end)
        onward = [q for q in machine.ways[p.end] if q.after_s is not None or not q.clauses]
        if not onward:
            return math.inf, tuple(path), ""
        soonest = min(onward, key=lambda q: q.after_s or 0.0)
        total += soonest.after_s or 0.0
        path.append(soonest)


def takes_s(p: Passage, chains: Mapping[str, float | None]) -> float | None:
    """How long a way takes at the most, by its chain, else as it is said; a way by time-out alone takes no more."""
    if p.chain:
        return chains.get(p.chain)
    if p.most_s is not None:
        return p.most_s
    return 0.0 if p.after_s is not None and not p.clauses else None
