"""The bench: every step with what was expected and found, and how far it is."""

from collections.abc import Iterator, Mapping, Sequence
from functools import cached_property
from typing import Literal, overload

from msgspec import Struct

from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Given, Node
from wired_union.project.bench_model import Reading
from wired_union.project.model import Concept, Project
from wired_union.subjects.bench.order import ANSWERS, Expect, Step, steps_of
from wired_union.subjects.power.gives import POWER
from wired_union.units import show

Stands = Literal["woken", "differs", "next", "waits", "later"]


class Found(Struct, frozen=True):
    """One expected figure beside the last reading of it."""

    expect: Expect
    reading: Reading | None

    @property
    def off(self) -> float | None:
        """By what share they differ; None where one is not known."""
        if self.reading is None or self.expect.value is None:
            return None
        if self.expect.figure == ANSWERS:  # some of many packets is an answer too
            return 0.0 if self.reading.value > 0 else -1.0
        if self.expect.value == 0:
            return 0.0 if self.reading.value == 0 else float("inf")
        return self.reading.value / self.expect.value - 1

    @property
    def verdict(self) -> Verdict:
        off = self.off
        if off is None:
            return Verdict.UNKNOWN
        return Verdict.HOLDS if abs(off) <= self.expect.share + 1e-12 else Verdict.BREAKS


class Woken(Struct, frozen=True):
    """One step as it stands."""

    step: Step
    found: tuple[Found, ...]
    stands: Stands
    woken_on: str = ""
    waits_for: str = ""
    lacks: tuple[str, ...] = ()
    """Ids of what it needs and does not work yet."""

    @property
    def differs(self) -> tuple[Found, ...]:
        return tuple(f for f in self.found if f.verdict is Verdict.BREAKS)


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    items = tuple((i.id, i.name, i.count, i.board, i.part) for i in concept.items)
    return items, concept.feeds, concept.readings, concept.wakings


class Steps(Sequence[Woken]):
    """Every step in its order, worked out when it is first looked at: most edits are made where nobody does."""

    def __init__(self, concept: Concept, rested_v: Mapping[str, float]) -> None:
        self._concept, self._rested_v = concept, rested_v

    @cached_property
    def _all(self) -> tuple[Woken, ...]:
        return _woken(self._concept, self._rested_v)

    def __len__(self) -> int:
        return len(self._all)

    @overload
    def __getitem__(self, n: int) -> Woken: ...

    @overload
    def __getitem__(self, n: slice) -> tuple[Woken, ...]: ...

    def __getitem__(self, n: int | slice) -> Woken | tuple[Woken, ...]:
        return self._all[n]

    def __iter__(self) -> Iterator[Woken]:
        return iter(self._all)


def _work(project: Project, given: Given) -> Steps:
    return Steps(project.concept, given.of(POWER).rested_v)


def _woken(concept: Concept, rested_v: Mapping[str, float]) -> tuple[Woken, ...]:
    last = {(r.item, r.figure): r for r in concept.readings}
    state = {w.item: w for w in concept.wakings}
    woken = {w.item for w in concept.wakings if w.woken_on}
    made = []
    for step in steps_of(concept, rested_v):
        found = tuple(Found(e, last.get((step.item.id, e.figure))) for e in step.expects)
        lacks = tuple(n for n in step.needs if n not in woken)
        mine = state.get(step.item.id)
        waits = mine.waits_for if mine is not None else ""
        done = mine is not None and bool(mine.woken_on)
        stands = _stands(found, done=done, waits=bool(waits), lacks=bool(lacks))
        made.append(Woken(step, found, stands, mine.woken_on if mine is not None else "", waits, lacks))
    return tuple(made)


def _stands(found: tuple[Found, ...], *, done: bool, waits: bool, lacks: bool) -> Stands:
    """What differs comes first, then what works, what waits, and what could not come yet."""
    if any(f.verdict is Verdict.BREAKS for f in found):
        return "differs"
    return "woken" if done else "waits" if waits else "later" if lacks else "next"


BENCH = Node("bench", _read, _work, (POWER,))


def begun(project: Project) -> bool:
    """Whether anything was woken or read."""
    concept = project.concept
    measured = concept.readings or concept.wakings or concept.calibrations
    return bool(measured or concept.error_budgets or concept.analogue_chains or concept.surfaces)


def shown_found(found: Found) -> str:
    """A reading as text: a figure with its unit, or whether it answered."""
    if found.reading is None:
        return ""
    if found.expect.figure == ANSWERS:
        return "yes" if found.reading.value else "no"
    return show(found.reading.value, found.expect.unit)
