"""The states of the machine as a graph: what can be reached, by which story, and what is wrong with it.

Every reachable state is looked at. Whether two ways can be taken at once is a question of their clauses: cues of one
quantity are compared with each other, everything else may be so or not so independently.
"""

import math
from collections import deque
from collections.abc import Iterable, Iterator, Mapping, Sequence
from functools import cached_property
from operator import attrgetter

from msgspec import Struct

from wired_union.project.interlock_model import Clause, Cue, MachineState, Passage
from wired_union.project.model import Concept

MOST_MIXES = 20_000
"""Mixes of clauses along a ring that are looked at."""
MOST_RING = 12


class Fault(Struct, frozen=True):
    """Something wrong with the states: what, where, and the shortest story that leads there."""

    kind: str
    states: tuple[str, ...]
    said: str
    story: str = ""
    sure: bool = True
    """False where it is only doubtful"""


class Machine(Struct, frozen=True, dict=True):
    """States, cues and ways of a concept."""

    states: tuple[MachineState, ...]
    cues: Mapping[str, Cue]
    passages: tuple[Passage, ...]

    @property
    def ways(self) -> dict[str, list[Passage]]:
        """Ways out of each state that can ever be taken, in the order in which they go first."""
        return self._sorted_out[0]

    @property
    def prompt(self) -> list[Passage]:
        """Of those the ones that do not wait for one event alone, as by far the most do."""
        return self._sorted_out[1]

    @cached_property
    def _sorted_out(self) -> tuple[dict[str, list[Passage]], list[Passage]]:
        found: dict[str, list[Passage]] = {s.id: [] for s in self.states}
        prompt: list[Passage] = []
        events = self.events
        for p in self.passages:
            clauses = p.clauses
            parts = clauses[0].parts if clauses else ()
            if p.after_s is not None or not clauses or len(parts) == 1 or self._able(p):
                found[p.start].append(p)
                if len(clauses) != 1 or not parts or parts[0].is_not or parts[0].cue not in events:
                    prompt.append(p)
        for out in found.values():
            if len(out) > 1:
                out.sort(key=_rank)
        return found, prompt

    @cached_property
    def events(self) -> frozenset[str]:
        """Ids of the cues that are events."""
        return frozenset(i for i, c in self.cues.items() if c.kind == "event")

    def _able(self, p: Passage) -> bool:
        """Whether one of its clauses can be so; events alone always can."""
        for c in p.clauses:
            parts = c.parts
            if len(parts) == 1 or (len(parts) == 2 and parts[0].cue != parts[1].cue and parts[0].cue in self.events):
                return True
        return any(self.can_be([c]) for c in p.clauses)

    def heard(self, cue: str) -> Mapping[str, Passage]:
        """By state, the way that a cue alone takes first."""
        if cue in self._heard:
            return self._heard[cue]
        found: dict[str, Passage] = {}
        for state, out in self.ways.items():
            for p in out:
                for c in p.clauses:
                    if len(c.parts) == 1 and c.parts[0].cue == cue and not c.parts[0].is_not:
                        found.setdefault(state, p)
        self._heard[cue] = found
        return found

    @cached_property
    def _heard(self) -> dict[str, dict[str, Passage]]:
        return {}

    @cached_property
    def soonest(self) -> dict[str, Passage]:
        """The way by time-out that is taken first, of every state that has one."""
        found: dict[str, Passage] = {}
        for p in (p for p in self.passages if p.after_s is not None):
            known = found.get(p.start)
            if known is None or (p.after_s, p.rank) < (known.after_s, known.rank):
                found[p.start] = p
        return found

    @cached_property
    def names(self) -> dict[str, str]:
        return {s.id: s.name for s in self.states}

    @cached_property
    def reached(self) -> dict[str, Passage | None]:
        """Every state that can be reached from the first, with the way by which a shortest story enters it."""
        if not self.states:
            return {}
        found: dict[str, Passage | None] = {self.states[0].id: None}
        due, ways = deque([self.states[0].id]), self.ways
        while due:
            for p in ways[due.popleft()]:
                if p.end not in found:
                    found[p.end] = p
                    due.append(p.end)
        return found

    def path_to(self, state: str) -> list[Passage]:
        """A shortest story from the first state."""
        path: list[Passage] = []
        while (p := self.reached.get(state)) is not None:
            path.append(p)
            state = p.start
        return path[::-1]

    def story(self, state: str) -> str:
        """ "Wait — start → Drive — on site → Core" """
        if state not in self.reached or not self.states:
            return ""
        told = self.states[0].name
        for p in self.path_to(state):
            told += f" — {p.name} → {self.names[p.end]}"
        return told

    # clauses

    def can_be(self, clauses: Iterable[Clause]) -> bool:
        """Whether all cues of some clauses can be so, and not so, at one instant."""
        wanted: dict[str, bool] = {}
        spans: dict[str, tuple[float, bool, float, bool]] = {}
        for clause in clauses:
            for part in clause.parts:
                if wanted.setdefault(part.cue, not part.is_not) == part.is_not:
                    return False
                cue = self.cues[part.cue]
                if cue.kind == "threshold" and cue.threshold is not None and cue.quantity:
                    spans[cue.quantity] = _narrowed(spans.get(cue.quantity, ANYWHERE), cue, part.is_not)
        return all(low < high or (low == high and shut and closed) for low, shut, high, closed in spans.values())

    def events_in(self, clause: Clause) -> set[str]:
        """Events that a clause waits for."""
        return {p.cue for p in clause.parts if not p.is_not and self.cues[p.cue].kind == "event"}

    def is_instant(self, clause: Clause) -> bool:
        """Whether it waits for no event and no dwell."""
        for part in clause.parts:
            if not part.is_not and (part.cue in self.events or self.cues[part.cue].dwell_s > 0):
                return False
        return True

    @property
    def urgent(self) -> list[Cue]:
        return [c for c in self.cues.values() if c.urgent]


_rank = attrgetter("rank")


ANYWHERE = (-math.inf, True, math.inf, True)
"""From where to where a quantity may lie, each with whether the end itself belongs to it."""


def _narrowed(span: tuple[float, bool, float, bool], cue: Cue, is_not: bool) -> tuple[float, bool, float, bool]:
    """What a threshold leaves: where it is so the value may be back by the hysteresis, else up to the threshold."""
    low, shut, high, closed = span
    at = cue.threshold or 0.0
    if (cue.side == "above") != is_not:
        edge = (at if is_not else at - cue.hysteresis, is_not)
        low, shut = max((low, shut), edge, key=lambda e: (e[0], not e[1]))
    else:
        edge = (at if is_not else at + cue.hysteresis, is_not)
        high, closed = min((high, closed), edge, key=lambda e: (e[0], e[1]))
    return low, shut, high, closed


def machine_of(concept: Concept) -> Machine:
    return Machine(concept.states, {c.id: c for c in concept.cues}, concept.passages)


def faults_of(machine: Machine) -> Iterator[Fault]:
    """Everything that is wrong with the states, each with the shortest story that leads there."""
    if not machine.states:
        return
    yield from _never(machine)
    yield from _dead_ends(machine)
    yield from _at_once(machine)
    yield from _never_taken(machine)
    yield from _rings(machine)
    yield from _unheard(machine)
    yield from _no_stop(machine)


def _never(machine: Machine) -> Iterator[Fault]:
    for s in machine.states:
        if s.id not in machine.reached:
            yield Fault("never", (s.id,), f"Nothing leads to {s.name}.", sure=False)
    if sum(map(len, machine.ways.values())) == len(machine.passages):
        return
    able = {id(p) for ways in machine.ways.values() for p in ways}
    for p in machine.passages:
        if id(p) not in able:
            names = machine.names
            yield Fault("never", (p.start,), f"“{p.name}” from {names[p.start]} to {names[p.end]} can never be so.",
                        sure=False)  # fmt: skip


def _dead_ends(machine: Machine) -> Iterator[Fault]:
    for s in machine.states:
        if s.id in machine.reached and not machine.ways[s.id] and not (s.may_end or s.is_stop):
            yield Fault("dead-end", (s.id,), f"{s.name} can never be left.", machine.story(s.id))


def _at_once(machine: Machine) -> Iterator[Fault]:
    """Two ways out of a state, of one rank and to different states, that can be taken at the same instant."""
    for state in machine.reached:
        ways = machine.ways[state]
        if len({p.rank for p in ways}) == len(ways):
            continue
        for n, one in enumerate(ways):
            for other in ways[n + 1 :]:
                if one.rank != other.rank or one.end == other.end:
                    continue
                how = _both(machine, one, other)
                if how is None:
                    continue
                said = (f"In {machine.names[state]} “{one.name}” and “{other.name}” can be so at once: it goes to"
                        f" {machine.names[one.end]} or to {machine.names[other.end]}.")  # fmt: skip
                yield Fault("at-once", (state,), said, machine.story(state), how)


def _both(machine: Machine, one: Passage, other: Passage) -> bool | None:
    """True where both can be so for one and the same cause, False where only two events would have to coincide and
    one of them is urgent; None where nothing is to be said.
    """
    if not one.clauses and not other.clauses and one.after_s is None and other.after_s is None:
        return True
    doubtful = None
    for a in one.clauses or ((Clause(),) if one.after_s is None else ()):
        for b in other.clauses or ((Clause(),) if other.after_s is None else ()):
            if not machine.can_be([a, b]):
                continue
            first, second = machine.events_in(a), machine.events_in(b)
            if first <= second or second <= first:
                return True
            if any(machine.cues[c].urgent for c in first ^ second):
                doubtful = False
    return doubtful


def _never_taken(machine: Machine) -> Iterator[Fault]:
    """A time-out that a shorter one always goes before."""
    for state in (s for s in machine.reached if s in machine.soonest):
        timed = [p for p in machine.ways[state] if p.after_s is not None]
        for p in timed:
            before = next((q for q in timed if q is not p and (q.after_s or 0) < (p.after_s or 0)), None)
            if before is not None and not p.clauses:
                said = f"In {machine.names[state]} “{before.name}” always goes before “{p.name}”."
                yield Fault("never", (state,), said, machine.story(state), False)


def _rings(machine: Machine) -> Iterator[Fault]:
    """Rings of states that are run through without time passing: no event, no dwell, no time-out on the way."""
    instant: dict[str, list[tuple[Passage, tuple[Clause, ...]]]] = {}
    for p in (p for p in machine.prompt if p.start in machine.reached):
        clauses = p.clauses or ((Clause(),) if p.after_s is None else ())
        able = tuple(c for c in clauses if machine.is_instant(c))
        if able:
            instant.setdefault(p.start, []).append((p, able))
    seen: set[frozenset[str]] = set()
    for start in instant:
        ring = _ring_from(machine, instant, start)
        if ring is not None and frozenset(p.start for p in ring) not in seen:
            seen.add(frozenset(p.start for p in ring))
            names = " → ".join([*(machine.names[p.start] for p in ring), machine.names[ring[0].start]])
            yield Fault("ring", tuple(p.start for p in ring), f"Round and round without time: {names}.",
                        machine.story(start))  # fmt: skip


def _ring_from(
    machine: Machine, instant: Mapping[str, Sequence[tuple[Passage, tuple[Clause, ...]]]], start: str
) -> list[Passage] | None:  # fmt: skip
    """A ring back to a state whose clauses can all be so together; None where there is none."""
    stack: list[tuple[str, list[Passage], list[Clause]]] = [(start, [], [])]
    looked = 0
    while stack and looked < MOST_MIXES:
        state, path, held = stack.pop()
        for p, able in instant.get(state, ()):
            for clause in able:
                looked += 1
                if not machine.can_be([*held, clause]):
                    continue
                if p.end == start:
                    return [*path, p]
                if len(path) < MOST_RING and all(q.start != p.end for q in path):
                    stack.append((p.end, [*path, p], [*held, clause]))
    return None


def _unheard(machine: Machine) -> Iterator[Fault]:
    """Events that no state waits for; and urgent ones that some state does not hear."""
    waited = {x.cue for p in machine.passages for c in p.clauses for x in c.parts}
    for cue in machine.cues.values():
        if cue.kind == "event" and cue.id not in waited:
            yield Fault("unheard", (), f"Nothing waits for “{cue.name}”.", sure=False)
        if not cue.urgent:
            continue
        heard, reached = machine.heard(cue.id), machine.reached
        for s in machine.states:
            if s.is_stop or s.id not in reached or s.id in heard:
                continue
            yield Fault("unheard", (s.id,), f"{s.name} does not hear “{cue.name}”.", machine.story(s.id))


def _no_stop(machine: Machine) -> Iterator[Fault]:
    """States from which no story leads to a stop."""
    stops = {s.id for s in machine.states if s.is_stop}
    if not stops:
        yield Fault("no-stop", (), "No state is said to be a stop.", sure=False)
        return
    able = _leading_to(machine, stops)
    for s in machine.states:
        if s.id in machine.reached and s.id not in able:
            yield Fault("no-stop", (s.id,), f"No stop can be reached from {s.name}.", machine.story(s.id))


def _leading_to(machine: Machine, stops: set[str]) -> set[str]:
    """Stops, and reachable states from which some story leads to one."""
    reached = machine.reached
    able = stops | {i for i, out in machine.ways.items() if i in reached and any(p.end in stops for p in out)}
    if len(able) == len(machine.states):
        return able
    before: dict[str, list[str]] = {}
    for state, out in machine.ways.items():
        if state in reached:
            for p in out:
                before.setdefault(p.end, []).append(state)
    due = list(able)
    while due:
        for state in before.get(due.pop(), ()):
            if state not in able:
                able.add(state)
                due.append(state)
    return able
