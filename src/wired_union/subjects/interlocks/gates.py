"""What must fail before a hazard is released where it is not meant: minimal cut sets of up to three failures.

A hazard is released in a state when of every gate, or of those beside it, one is closed: as it should be in that
state, or by a failure. Every reachable state is looked at with every set of failures; states in which the same gates
stand open are one case. A program that hangs leaves its software gates as they were in any state while the others
follow what goes on; when power comes back what is mechanical is as it was in any state, all else as in the first.
Source: minimal cut sets as in IEC 61025 (fault tree analysis), from memory.
"""

from collections.abc import Iterator, Mapping, Sequence
from itertools import combinations, product

from msgspec import Struct

from wired_union.project.interlock_model import Failure, Gate, Hazard
from wired_union.project.model import Concept
from wired_union.subjects.interlocks.failing import HUNG, LOST_POWER
from wired_union.subjects.interlocks.machine import Machine

DEEPEST = 3
LASTING = 3
"""From this severity on two failures are wanted: common practice."""
BY_KIND = {
    "mechanical": "is left closed by hand", "in the power path": "stays closed, welded or shorted",
    "sensed": "is stuck and seems so", "software": "is set by a program that errs",
}  # fmt: skip


class Fails(Struct, frozen=True):
    """One failure: of the team's list, or what any gate of its kind can do; and the gates that it closes."""

    id: str
    name: str
    closes: frozenset[str]
    kind: str = "other"
    seen_by: str = ""
    implied: bool = False
    item: str = ""

    def hangs(self, gate: Gate) -> bool:
        """Whether a gate is of the program that hangs."""
        return not self.item or not gate.item or gate.item == self.item


class CutSet(Struct, frozen=True):
    """Failures that release a hazard together, and a state in which they do; take one away, and they do not."""

    failures: tuple[Fails, ...]
    state: str
    since: str = ""
    """the state in which a program hung, or power was lost"""

    @property
    def said(self) -> str:
        return " and ".join(f.name for f in self.failures) or "nothing at all has to fail"


class GatesResult(Struct, frozen=True):
    """A hazard with its gates, in series, those beside each other together; and what releases it."""

    hazard: Hazard
    groups: tuple[tuple[Gate, ...], ...]
    failures: tuple[Fails, ...]
    cuts: tuple[CutSet, ...]
    states: int
    """reachable states in which it is not meant to happen"""
    missing: tuple[str, ...] = ()

    @property
    def least(self) -> int | None:
        """Least number of failures that releases it; None where more than three are needed, or nothing is gated."""
        return min((len(c.failures) for c in self.cuts), default=None)

    @property
    def wanted(self) -> int:
        h = self.hazard
        return h.wanted if h.wanted is not None else 2 if h.severity >= LASTING else 1


def gates_of(concept: Concept, machine: Machine) -> tuple[GatesResult, ...]:
    """Every hazard of a concept."""
    return tuple(_hazard(concept, machine, h) for h in concept.hazards)


def _hazard(concept: Concept, machine: Machine, hazard: Hazard) -> GatesResult:
    gates = [g for g in concept.gates if g.hazard == hazard.id]
    groups = groups_of(gates)
    failures = failures_of(concept, gates)
    meant = {c.state for c in hazard.meant_in}
    states = [s for s in machine.reached if s not in meant] if machine.states else [""]
    lacks = [] if gates else [f"{hazard.name}: what gates it"]
    if not machine.states:
        lacks.append("the states of the machine")
    cases = cases_of(groups, failures, tuple(machine.reached) or ("",), frozenset(meant)) if gates else {}
    cuts = cut_sets(groups, failures, cases)
    return GatesResult(hazard, groups, failures, cuts, len(states), tuple(lacks))


def groups_of(gates: Sequence[Gate]) -> tuple[tuple[Gate, ...], ...]:
    """Gates in series; one that stands beside another is of that one's group."""
    known = {g.id: g for g in gates}

    def first(gate: Gate) -> str:
        seen = {gate.id}
        while gate.beside in known and gate.beside not in seen:
            gate = known[gate.beside]
            seen.add(gate.id)
        return min(seen) if gate.beside in seen else gate.id

    found: dict[str, list[Gate]] = {}
    for gate in gates:
        found.setdefault(first(gate), []).append(gate)
    return tuple(tuple(g) for g in found.values())


def failures_of(concept: Concept, gates: Sequence[Gate]) -> tuple[Fails, ...]:
    """The team's failures that close any of some gates; and for gates that none closes, what their kind can do.

    Software gates of one controller, or without any, are one program; gates of another kind that are one part fail
    together as well: a common cause.
    """
    ids = {g.id for g in gates}
    listed = [_listed(f, ids) for f in concept.failures]
    found = [f for f in listed if f.closes]
    covered = frozenset().union(*(f.closes for f in found))
    together: dict[tuple[str, str], list[Gate]] = {}
    for g in gates:
        if g.id not in covered:
            alone = g.id if g.kind != "software" and not g.item else ""
            together.setdefault((g.kind, g.item or alone), []).append(g)
    for (kind, _), some in together.items():
        cause = "one program errs" if kind == "software" else "one part fails"
        names = ", ".join(g.name for g in some)
        name = f"{names} {BY_KIND[kind]}" if len(some) == 1 else f"{names}: {cause}"
        closes = frozenset(g.id for g in some)
        found.append(Fails(f"~{'+'.join(sorted(closes))}", name, closes, kind, implied=True))
    return (*found, *_of_the_whole(listed, found, gates))


def _of_the_whole(listed: Sequence[Fails], found: Sequence[Fails], gates: Sequence[Gate]) -> Iterator[Fails]:
    """Programs that hang and power that is lost and comes back: the team's, and one of each that it does not list."""
    if not gates:
        return
    yield from (f for f in listed if f.kind in {HUNG, LOST_POWER} and not f.closes)
    errs = frozenset().union(*(f.closes for f in found if f.implied))
    if not any(f.kind == HUNG for f in listed) and any(g.kind == "software" and g.id not in errs for g in gates):
        yield Fails("~hung", "the program hangs", frozenset(), HUNG, implied=True)
    if not any(f.kind == LOST_POWER for f in listed) and any(g.kind == "mechanical" for g in gates):
        yield Fails("~power", "power is lost and comes back", frozenset(), LOST_POWER, implied=True)


def _listed(failure: Failure, gates: set[str]) -> Fails:
    closes = frozenset(c.gate for c in failure.closes) & gates
    return Fails(failure.id, failure.name, closes, failure.kind, failure.seen_by, item=failure.item)


Case = tuple[frozenset[int], frozenset[int]]
"""Groups of gates that stand open, and failures that it took to come there."""


def cases_of(
    groups: Sequence[Sequence[Gate]], failures: Sequence[Fails], reached: Sequence[str], meant: frozenset[str]
) -> dict[Case, tuple[str, str]]:  # fmt: skip
    """Everything in which gates can stand while it is not meant, each with its first state, and that in which a program
    hung or power was lost.
    """
    found: dict[Case, tuple[str, str]] = {}
    every = [g for group in groups for g in group]
    bit = {g.id: 1 << n for n, g in enumerate(every)}
    whole = [sum(bit[g.id] for g in group) for group in groups]
    held = _held_in(every, bit, reached)
    calm = [s for s in reached if s not in meant]

    def add(state: str, since: str, closed: int, took: frozenset[int]) -> None:
        open_groups = frozenset(n for n, mask in enumerate(whole) if not mask & closed)
        found.setdefault((open_groups, took), (state, since))

    for state in _first_of(held, calm, ALL):
        add(state, "", held[state], frozenset())
    for n, f in enumerate(failures):
        took = frozenset({n})
        if f.kind == HUNG:
            stays = sum(bit[g.id] for g in every if g.kind == "software" and f.hangs(g))
            for since, state in product(_first_of(held, reached, stays), _first_of(held, calm, ~stays)):
                add(state, since, held[since] & stays | held[state] & ~stays, took)
        elif f.kind == LOST_POWER and reached[0] not in meant:
            stays = sum(bit[g.id] for g in every if g.kind == "mechanical")
            for since in _first_of(held, reached, stays):
                add(reached[0], since, held[since] & stays | held[reached[0]] & ~stays, took)
    return found


ALL = -1
"""The bits of all gates."""


def _held_in(gates: Sequence[Gate], bit: Mapping[str, int], reached: Sequence[str]) -> dict[str, int]:
    """The gates that are closed in each state as they should be, as bits."""
    held = dict.fromkeys(reached, 0)
    for g in gates:
        mine = bit[g.id]
        for c in g.closed_in:
            if c.state in held:
                held[c.state] |= mine
    return held


def _first_of(held: Mapping[str, int], states: Sequence[str], gates: int) -> list[str]:
    """The first state of each way in which some gates can stand."""
    first = {held[state] & gates: state for state in reversed(states)}
    return [first[key] for key in dict.fromkeys(held[state] & gates for state in states)]


def cut_sets(
    groups: Sequence[Sequence[Gate]], failures: Sequence[Fails], cases: Mapping[Case, tuple[str, str]]
) -> tuple[CutSet, ...]:  # fmt: skip
    """All minimal sets of up to three failures that release, over all cases."""
    closes = [frozenset(n for n, group in enumerate(groups) if any(g.id in f.closes for g in group)) for f in failures]
    found: dict[frozenset[int], tuple[str, str]] = {}
    for (open_groups, took), where in cases.items():
        shut = frozenset(n for k in took for n in closes[k])
        for cut in _covers(open_groups - shut, closes):
            if len(cut | took) <= DEEPEST:
                found.setdefault(cut | took, where)
    least = [cut for cut in found if not any(other < cut for other in found)]
    ordered = sorted(least, key=lambda cut: (len(cut), sorted(cut)))
    return tuple(CutSet(tuple(failures[n] for n in sorted(cut)), *found[cut]) for cut in ordered)


def _covers(open_groups: frozenset[int], closes: Sequence[frozenset[int]]) -> list[frozenset[int]]:
    """Minimal sets of failures that together close all of some groups."""
    helpful = [n for n, c in enumerate(closes) if c & open_groups]
    found: list[frozenset[int]] = []
    for size in range(DEEPEST + 1):
        for some in combinations(helpful, size):
            chosen = frozenset(some)
            if any(cut <= chosen for cut in found):
                continue
            if open_groups <= frozenset().union(*(closes[n] for n in some)):
                found.append(chosen)
    return found


def fires_with(result: GatesResult, broken: frozenset[str], state: str) -> bool:
    """Whether it is released in a state while some gates are broken closed."""
    return bool(result.groups) and all(
        any(g.id in broken or state in {c.state for c in g.closed_in} for g in group) for group in result.groups
    )


def closed_gates(groups: Sequence[Sequence[Gate]], state: str) -> Mapping[str, bool]:
    """Which gates are closed in a state as they should be."""
    return {g.id: state in {c.state for c in g.closed_in} for group in groups for g in group}
