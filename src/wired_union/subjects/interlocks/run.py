"""The states of the machine run step by step: what its program would do, in Python here and in the files it writes."""

from collections.abc import Collection, Mapping

from msgspec import Struct

from wired_union.project.interlock_model import Cue, Passage
from wired_union.subjects.interlocks.machine import Machine


class Run(Struct, frozen=True):
    """Where it is: the state, how long, and of every cue whether it is so and for how long."""

    state: str
    time_s: float = 0.0
    so: Mapping[str, bool] = {}
    for_s: Mapping[str, float] = {}
    last: str = ""
    """the way it came by"""


def begin(machine: Machine) -> Run:
    """At the first state. Raises ValueError where there is none."""
    if not machine.states:
        raise ValueError("There is no state to begin in.")
    return Run(machine.states[0].id)


def step(machine: Machine, run: Run, events: Collection[str], values: Mapping[str, float], dt_s: float) -> Run:
    """One step of the program: time passes, cues are read, and at most one way is taken.

    A threshold is so beyond it, and no longer so only back by its hysteresis; any cue counts only after its dwell. Of
    ways that can be taken the lowest rank goes first, then the order of the list.
    """
    so, for_s = dict(run.so), dict(run.for_s)
    for cue in machine.cues.values():
        now = cue.id in events if cue.kind == "event" else _beyond(cue, values, so.get(cue.id, False))
        for_s[cue.id] = for_s.get(cue.id, 0.0) + dt_s if now and so.get(cue.id, False) else 0.0
        so[cue.id] = now
    time = run.time_s + dt_s
    counts = {i for i, now in so.items() if now and for_s[i] >= machine.cues[i].dwell_s - TOLERANCE_S}
    for p in sorted((p for p in machine.passages if p.start == run.state), key=lambda p: p.rank):
        if taken(p, counts, time):
            return Run(p.end, 0.0, so, for_s, p.id)
    return Run(run.state, time, so, for_s, "")


TOLERANCE_S = 1e-9
"""Sums of steps are off by rounding."""


def taken(p: Passage, counts: Collection[str], time_s: float) -> bool:
    """Whether a way is taken: by its time-out, by one of its clauses, or at once where it asks for nothing."""
    if p.after_s is not None and time_s >= p.after_s - TOLERANCE_S:
        return True
    if not p.clauses:
        return p.after_s is None
    return any(all((x.cue in counts) != x.is_not for x in c.parts) for c in p.clauses)


def _beyond(cue: Cue, values: Mapping[str, float], was: bool) -> bool:
    """Whether a figure is beyond its threshold; what is not measured is not."""
    value = values.get(cue.quantity or cue.name)
    if value is None or cue.threshold is None:
        return False
    back = cue.hysteresis if was else 0.0
    return value > cue.threshold - back if cue.side == "above" else value < cue.threshold + back
