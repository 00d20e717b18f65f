"""Instruments behind one door, and the simulated ones that ship with the program.

The simulated bench reads what the plan expects, with the noise of a usual instrument, and one fault where one is
chosen, so that a class can practise. What it reads says that it was simulated.
"""

import random
from collections.abc import Sequence
from typing import Protocol

from msgspec import Struct

from wired_union.subjects.bench.order import ANSWERS, Expect, Step

SIMULATED = "simulated"
NOISE = {"V": 0.002, "A": 0.01, "rad/s": 0.01}
"""Spread of one reading of a usual meter, as a share: common practice."""


class NoReading(Exception):
    """An instrument that gives none; the text says why and what to do."""


class Door(Protocol):
    """What every instrument can do."""

    name: str

    def read(self, step: Step, expect: Expect) -> float:
        """One figure of one part, in its unit. Raises NoReading."""
        ...


class Fault(Struct, frozen=True):
    """What is wrong on the simulated bench: of which part which figures, and by what they are off."""

    item: str
    figures: tuple[str, ...]
    factor: float
    said: str


def faults_of(steps: Sequence[Step]) -> tuple[Fault, ...]:
    """Every fault that could be planted among some steps."""
    found: list[Fault] = []
    for step in steps:
        known = [e.figure for e in step.expects if e.value is not None]
        if step.kind == "motion" and (drags := [f for f in known if f in DRAGS]):
            found.append(Fault(step.item.id, tuple(drags), 1.45, f"{step.item.name} drags"))
        if step.kind == "converter" and "regulator.output_v" in known:
            found.append(Fault(step.item.id, ("regulator.output_v",), 0.86, f"{step.item.name} is set too low"))
        if ANSWERS in known:
            found.append(Fault(step.item.id, (ANSWERS,), 0.0, f"{step.item.name} does not answer"))
        if step.kind in {"logic", "sensor"} and "load.active_a" in known:
            found.append(Fault(step.item.id, ("load.active_a",), 1.6, f"{step.item.name} takes too much"))
    return tuple(found)


DRAGS = ("motor.no_load_current_a", "load.active_a", "load.idle_a")


class SimulatedBench:
    """A meter, a supply, a scope and a link tester in one; its seed makes its readings the same again."""

    name = SIMULATED

    def __init__(self, seed: int, fault: Fault | None = None) -> None:
        self._random, self.fault = random.Random(seed), fault

    def read(self, step: Step, expect: Expect) -> float:
        """What the plan expects, off by noise and by the fault. Raises NoReading where the plan knows nothing."""
        if expect.value is None:
            raise NoReading(f"{step.item.name}: the plan says nothing of “{expect.name}”, so nothing can be simulated.")
        value = expect.value * (1 + self._random.gauss(0.0, NOISE.get(expect.unit, 0.0)))
        if self.fault is not None and self.fault.item == step.item.id and expect.figure in self.fault.figures:
            value *= self.fault.factor
        return value
