"""The simulated instruments that ship with the program, behind the same door as real ones.

Each reads what the plan expects of a part, with the noise and the steps of a usual instrument of its kind, and one
fault where one is chosen, so that a class can practise. What they read says that it was simulated.
"""

import math
import random
from collections.abc import Sequence

from msgspec import Struct

from wired_union.instruments.door import Door, NoReading
from wired_union.instruments.text_line import figure_in
from wired_union.subjects.bench.order import ANSWERS, Expect, Step

SIMULATED = "simulated"


class Kind(Struct, frozen=True):
    """A kind of instrument: what it is called, the units that it tells, its noise as a share, its least step."""

    name: str
    units: tuple[str, ...]
    noise: float
    step: float = 0.0
    ripple: float = 0.0
    """Of a voltage that switches, as a share: what a scope shows and a meter does not."""
    is_text: bool = False
    """Whether its figures come as lines of text."""


KINDS = {
    "meter": Kind("meter", ("V", "A", "ohm", "rad/s"), 0.002, 1e-5),
    "supply": Kind("supply", ("V", "A"), 0.003, 1e-3),
    "scope": Kind("scope", ("V", "A"), 0.004, ripple=0.015),
    "scale": Kind("scale", ("kg",), 0.0005, 1e-4),
    "serial device": Kind("serial device", ("V", "A", "ohm", "kg", "rad/s"), 0.005, is_text=True),
    "link tester": Kind("link tester", ("",), 0.0),
}
"""Spreads and steps of usual cheap ones: common practice."""
BY_UNIT = {"V": "meter", "A": "meter", "ohm": "meter", "rad/s": "meter", "kg": "scale", "": "link tester"}
RIPPLE_HZ, SCOPE_S, LOST = 100.0, 1e-3, 0.01


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


class Simulated:
    """One simulated instrument at one figure."""

    def __init__(self, kind: Kind, value: float, chance: random.Random, answers: bool = True) -> None:
        self.kind, self.value, self._chance, self._answers, self._reads = kind, value, chance, answers, 0

    @property
    def name(self) -> str:
        return f"{self.kind.name}, {SIMULATED}"

    def open(self) -> None:
        """It is always there."""

    def close(self) -> None:
        """Nothing is held."""

    def read(self) -> float:
        """The figure with noise, in steps; of a scope one moment of it."""
        self._reads += 1
        if "" in self.kind.units:
            return float(self._answers and self._chance.random() >= LOST)
        value = self.value * (1 + self._chance.gauss(0.0, self.kind.noise))
        if self.kind.ripple:
            value += self.value * self.kind.ripple * math.sin(2 * math.pi * RIPPLE_HZ * SCOPE_S * self._reads)
        if self.kind.is_text:
            return figure_in(f"t={self._reads * 100} value={value:.6g}", 2)
        return round(value / self.kind.step) * self.kind.step if self.kind.step else value


class SimulatedBench:
    """All of them with one seed, which makes its readings the same again, and one fault where one is planted."""

    def __init__(self, seed: int, fault: Fault | None = None) -> None:
        self._random, self.fault = random.Random(seed), fault

    def at(self, kind: str, step: Step, expect: Expect) -> Door:
        """An instrument at a figure of a part. Raises NoReading where it does not tell such a figure, or the plan
        knows nothing of it.
        """
        chosen = KINDS[kind]
        if expect.unit not in chosen.units:
            right = KINDS[BY_UNIT.get(expect.unit, "serial device")].name
            raise NoReading(f"A {chosen.name} does not tell “{expect.name}”. Take a {right}.")
        if expect.value is None:
            raise NoReading(f"{step.item.name}: the plan says nothing of “{expect.name}”, so nothing can be simulated.")
        value = expect.value
        if self.fault is not None and self.fault.item == step.item.id and expect.figure in self.fault.figures:
            value *= self.fault.factor
        return Simulated(chosen, value, self._random, answers=value > 0)

    def read(self, step: Step, expect: Expect) -> tuple[float, str]:
        """One figure by the kind of instrument that is usual for it, and its name. Raises NoReading."""
        door = self.at(BY_UNIT.get(expect.unit, "serial device"), step, expect)
        asked = [door.read() for _ in range(3 if expect.figure == ANSWERS else 1)]
        return max(asked), door.name  # a lost packet is asked for again

    def beside(self, value: float) -> Door:
        """A serial device at a quantity of its own, such as of a sensor that is calibrated."""
        return Simulated(KINDS["serial device"], value, self._random)
