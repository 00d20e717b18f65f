"""Interlocks: the states of the machine searched, hazards with what must fail, and how soon everything stands still."""

import math
from collections.abc import Iterator

from msgspec import Struct

from wired_union.kernel.results import Measure
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.project.model import Project
from wired_union.subjects.interlocks.failing import Failing, failing_of
from wired_union.subjects.interlocks.gates import DEEPEST, GatesResult, gates_of
from wired_union.subjects.interlocks.machine import Fault, Machine, faults_of, machine_of
from wired_union.subjects.interlocks.stops import StopFrom, stops_of
from wired_union.subjects.timing.gives_times import TIMING


class States(Struct, frozen=True):
    """The machine with what is wrong with it."""

    machine: Machine
    faults: tuple[Fault, ...]


def _states(project: Project, _: Given) -> States:
    machine = machine_of(project.concept)
    return States(machine, tuple(faults_of(machine)))


STATES = Node("machine states", lambda p: (p.concept.states, p.concept.cues, p.concept.passages), _states)


def _chains(project: Project, given: Given) -> dict[str, float | None]:
    """The longest time of every chain, which is not known while something of it is missing."""
    used = {p.chain for p in project.concept.passages if p.chain}
    chains: dict[str, float | None] = {}
    for result in given.of(TIMING).chains if used else ():
        known = result.latency is not None and not result.missing
        chains[result.chain.id] = result.latency.most_s if known and result.latency is not None else None
    return chains


def _stops(project: Project, given: Given) -> tuple[StopFrom, ...]:
    if not project.concept.states:
        return ()
    return tuple(stops_of(given.of(STATES).machine, _chains(project, given)))


STOPS = Node("stops", lambda p: (p.concept.passages,), _stops, (STATES, TIMING))


def _failing(project: Project, given: Given) -> tuple[Failing, ...]:
    stops = given.of(STOPS)
    return failing_of(project.concept, given.of(STATES).machine, stops, _chains(project, given))


FAILING = Node("failing", lambda p: (p.concept.failures, tuple(i.id for i in p.concept.items if i.part.rail)),
               _failing, (STATES, STOPS, TIMING))  # fmt: skip


def _gates(project: Project, given: Given) -> tuple[GatesResult, ...]:
    return gates_of(project.concept, given.of(STATES).machine)


GATES = Node("gates", lambda p: (p.concept.hazards, p.concept.gates, p.concept.failures), _gates, (STATES,))


def measures(assessment: Assessment) -> Iterator[Measure]:
    """Least failures that release each gated hazard, and the longest time to a stop."""
    for r in assessment.of(GATES):
        if r.groups:
            least = float(r.least) if r.least is not None else float(DEEPEST + 1)
            yield Measure("failures-to-fire", f"{r.hazard.name}, failures", least, "", missing=r.missing,
                          of=r.hazard.id)  # fmt: skip
    yield stop_measure(assessment)


def stop_measure(assessment: Assessment) -> Measure:
    """The longest of the quickest stops, from any state on any urgent cue; without limit where one leads to none."""
    states, stops = assessment.of(STATES).machine, assessment.of(STOPS)
    lacks: list[str] = []
    if not states.states:
        lacks.append("the states of the machine")
    elif not any(s.is_stop for s in states.states):
        lacks.append("a state that is a stop")
    elif not states.urgent:
        lacks.append("a cue that asks for a stop")
    lacks += [s.missing for s in stops if s.missing]
    known = [s.time_s for s in stops if s.time_s is not None]
    worst = max(known, default=None if lacks else 0.0)
    return Measure("stop-time", "Time to a stop", worst, "s", missing=tuple(dict.fromkeys(lacks)))


def never_stops(stop: StopFrom) -> bool:
    return stop.time_s is not None and math.isinf(stop.time_s)
