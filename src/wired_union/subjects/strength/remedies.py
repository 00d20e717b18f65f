"""What could be done about a thing that does not bear: thicker, another material, larger or more bolts, softer."""

from collections.abc import Callable, Iterator
from functools import partial
from typing import Any

from wired_union.kernel.checks import Check
from wired_union.kernel.results import Remedy, possible, tried
from wired_union.physics.fits import BANDS_M, MADE, made_fit
from wired_union.physics.materials import GRADES, THREADS_M2
from wired_union.project.model import Project
from wired_union.project.strength_model import (
    BoltsTest,
    DropTest,
    GrowthTest,
    LiftTest,
    PairTest,
    PlateTest,
    TetherTest,
    TolerancesTest,
)
from wired_union.project.value import choices
from wired_union.subjects.strength.edits import remade, set_test
from wired_union.subjects.strength.kinds import Around, worked
from wired_union.subjects.strength.results import TestResult
from wired_union.units import show

LARGER, OF_EACH = (1.25, 1.5, 2.0, 3.0, 4.0), 2
Way = tuple[str, dict[str, Any]]


def remedies(project: Project, around: Around, result: TestResult, check: Check) -> tuple[Remedy, ...]:
    """Of each kind the least of a few that mend the check by themselves; what they break, the trial says."""
    test = result.test

    def mends(way: Way) -> bool:
        found = worked(test.but(**way[1]), around)
        return any(c.id == check.id and c.use <= 1 for c in found.checks)

    found: list[tuple[str, Any]] = []
    for ways in OFFERS.get(test.kind, lambda *_: ())(test, check):
        fits = [w for w in ways if mends(w)][:1]
        found += [(words, tried(partial(set_test, value_id=test.id, **new), project)) for words, new in fits]
    if isinstance(test, PlateTest):
        others = [m for m in choices(PlateTest, "material") if m != test.material and m != "carbon tube"]
        lighter = sorted((m for m in others if mends(("", {"material": m}))), key=lambda m: GRADES[m].density_kg_m3)
        found += [(f"the same in {m}", tried(remade, project, test.id, m)) for m in lighter[:OF_EACH]]
    return possible(*found)


def _plate(test: PlateTest, _: Check) -> Iterator[list[Way]]:
    sizes = [float(f"{test.thick_m * more:.2g}") for more in LARGER]
    yield [(f"{show(x, 'm')} thick", {"thick_m": x}) for x in sizes]
    if test.edges == "simple":
        yield [("its edges held fast", {"edges": "clamped"})]


def _bolts(test: BoltsTest, _: Check) -> Iterator[list[Way]]:
    names = list(THREADS_M2)
    yield [(f"{t} bolts", {"thread": t}) for t in names[names.index(test.thread) + 1 :]]
    yield [(f"{n} bolts", {"bolts": n}) for n in range(test.bolts + 1, test.bolts * 3 + 1)]
    yield [(f"a circle of {show(test.circle_m * more, 'm')}", {"circle_m": test.circle_m * more}) for more in LARGER]


def _tether(test: TetherTest, _: Check) -> Iterator[list[Way]]:
    yield [(f"a tether that bears {show(test.strength_n * more, 'N')}", {"strength_n": test.strength_n * more})
           for more in (1.5, 2, 3, 5, 8, 12)]  # fmt: skip
    falls = [test.drop_m / less for less in (2, 4, 10)]
    yield [(f"hung so that it falls {show(x, 'm')}", {"drop_m": x}) for x in falls]
    yield [("one that stretches twice as much", {"stretch": min(test.stretch * 2, 2.0)})]


def _tolerances(test: TolerancesTest, _: Check) -> Iterator[list[Way]]:
    gaps = [float(f"{test.gap_m * more:.2g}") for more in (*LARGER, 6.0, 10.0)]
    yield [(f"a gap of {show(x, 'm')}", {"gap_m": x}) for x in gaps]
    widest = max((d.off_m for d in test.sizes), default=0.0)
    for share in (0.5, 0.25):
        finer = tuple(d.but(off_m=d.off_m * share) if d.off_m == widest else d for d in test.sizes)
        name = next((d.name for d in test.sizes if d.off_m == widest), "")
        yield [(f"{name} to ±{show(widest * share, 'm')}", {"sizes": finer})]


def _growth(test: GrowthTest, _: Check) -> Iterator[list[Way]]:
    if test.against != "nothing":
        yield [(f"both of {test.against}", {"material": test.against})]
    by_growth = sorted(GRADES, key=lambda m: GRADES[m].expansion_per_k, reverse=True)
    yield [(f"made of {m}", {"material": m}) for m in by_growth if m != test.material]


def _pair(test: PairTest, _: Check) -> Iterator[list[Way]]:
    found, (low, high) = made_fit(test.hole_m, test.shaft_m, test.hole_made, test.shaft_made), BANDS_M[test.wanted]
    more = (low + high - found.least_m - found.most_m) / 2
    hole = round(test.hole_m + more, 5)
    yield [(f"draw the hole {show(hole, 'm')} wide", {"hole_m": hole})]
    finer = [m for m in MADE if m != test.hole_made and MADE[m].off_m < MADE[test.hole_made].off_m and m != "bought"]
    for made in finer:
        wide = round(test.hole_m + more + MADE[test.hole_made].hole_larger_m - MADE[made].hole_larger_m, 5)
        yield [(f"a hole of {show(wide, 'm')}, {made}", {"hole_made": made, "hole_m": wide})]


def _drop(test: DropTest, check: Check) -> Iterator[list[Way]]:
    if check.id == "shock":
        softer = [float(f"{test.stiffness_n_per_m / more:.2g}") for more in (1.5, 2, 4, 8, 16)]
        yield [(f"feet or foam of {show(x, 'N/m')}", {"stiffness_n_per_m": x}) for x in softer]
    else:
        stiffer = [float(f"{test.stiffness_n_per_m * more:.2g}") for more in (1.5, 2, 4, 8)]
        yield [(f"feet or foam of {show(x, 'N/m')}", {"stiffness_n_per_m": x}) for x in stiffer]


def _lift(test: LiftTest, _: Check) -> Iterator[list[Way]]:
    yield [(f"{n} persons", {"persons": n}) for n in range(test.persons + 1, 5)]


OFFERS: dict[str, Callable[[Any, Check], Iterator[list[Way]]]] = {
    "plate": _plate, "bolts": _bolts, "tether": _tether, "tolerances": _tolerances, "growth": _growth, "drop": _drop,
    "lift": _lift, "pair": _pair,
}  # fmt: skip
