"""A hard question for the search: slots of the demo with made-up candidates that trade mass, money and current."""

import random

from msgspec.structs import replace

from wired_union.choose.combination import Choice, Favour, Option, Question, ask
from wired_union.kernel.subject import Assessment
from wired_union.project.model import Item, Part

SLOTS = ("battery", "gearmotor", "leadscrew", "probe", "gnss", "controller", "radio", "camera")


def hard_question(assessment: Assessment, favour: Favour, candidates: int = 30, seed: int = 1) -> Question:
    """Eight slots; each candidate is lighter or dearer or thirstier than the next, so that few are out at once."""
    rng = random.Random(seed)
    question = ask(assessment, SLOTS, favour)
    choices = tuple(_grown(c, candidates, rng) for c in question.choices)
    return replace(question, choices=choices)


def _grown(choice: Choice, candidates: int, rng: random.Random) -> Choice:
    now = next(o for o in choice.options if o.now)
    return replace(choice, options=(now, *(_variant(now, n, rng) for n in range(1, candidates))))


def _variant(now: Option, number: int, rng: random.Random) -> Option:
    """A variant whose price rises as its mass and its draw fall."""
    light, thrifty = rng.uniform(0.55, 1.5), rng.uniform(0.55, 1.5)
    dear = rng.uniform(0.85, 1.15) / (light**0.6 * thrifty**0.8)
    part = _scaled(now.part, number, light, thrifty, dear)
    item: Item = now.item.but(part=part, knowledge="datasheet", origin="to buy")
    mass = (part.mass_kg or 0.0) * item.count * 1.05
    return Option(item, mass, (part.price or 0.0) * item.count)


def _scaled(part: Part, number: int, light: float, thrifty: float, dear: float) -> Part:
    new: dict[str, object] = {"id": f"{part.id}-{number}", "mass_kg": (part.mass_kg or 0.0) * light,
                              "price": (part.price or 0.0) * dear}  # fmt: skip
    if part.load is not None:
        fields = {n: v * thrifty for n in ("sleep_a", "idle_a", "active_a", "peak_a", "startup_a")
                  if (v := getattr(part.load, n)) is not None}  # fmt: skip
        new["load"] = part.load.but(**fields)
    if part.pack is not None:
        amount = {"cell_capacity_ah": (part.pack.cell_capacity_ah or 0.0) * light / thrifty**0.3,
                  "cell_resistance_ohm": (part.pack.cell_resistance_ohm or 0.0) / light}  # fmt: skip
        new["pack"] = part.pack.but(**amount)
    return part.but(**new)
