"""What follows for each kind of thing that must bear, fit together, stay aligned or be dropped."""

import math
from collections.abc import Callable, Iterable
from functools import lru_cache
from typing import Any

from msgspec import Struct

from wired_union.kernel.checks import Row, check_of
from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.physics.fits import BANDS_M, made_fit
from wired_union.physics.growth import ALLOWANCES
from wired_union.physics.materials import BOLTS_PA, GRADES, THREADS_M2
from wired_union.physics.method import require
from wired_union.physics.shock import drop_load
from wired_union.physics.strength import Plate, bolt_group, plate_deflection, thermal_growth, tolerance_stack
from wired_union.project.model import Item
from wired_union.project.strength_model import (
    AnyTest,
    BoltsTest,
    DropTest,
    GrowthTest,
    LiftTest,
    PairTest,
    PlateTest,
    TetherTest,
    TolerancesTest,
)
from wired_union.subjects.strength.results import TestResult
from wired_union.units import show

LIFTING = "Lift close to the body, the back straight, the grip firm; local rules for lifting by hand tell how much."
CATCHING = "What hangs over people needs a second, independent tether, and local rules tell how strong."


class Around(Struct, frozen=True):
    """What the things look at besides themselves."""

    items: tuple[Item, ...]
    total_kg: float
    known_kg: float
    """Without any allowance."""
    unweighed: tuple[str, ...]
    coldest_c: float
    hottest_c: float

    def most_kg(self, ids: Iterable[str], copies: bool = True) -> tuple[float, tuple[str, ...]]:
        """The most that some parts weigh, and whose mass is not known."""
        wanted, mass, lacks = set(ids), 0.0, []
        for item in (i for i in self.items if i.id in wanted):
            if item.part.mass_kg is None:
                lacks.append(f"{item.name}: its mass")
            else:
                mass += item.part.mass_kg * (1 + ALLOWANCES[item.knowledge]) * (item.count if copies else 1)
        return mass, tuple(lacks)

    def falling_kg(self, item: str, copies: bool) -> tuple[float, tuple[str, ...]]:
        """A part, or everything where none is named."""
        if item:
            return self.most_kg((item,), copies)
        return self.total_kg, tuple(f"{name}: its mass" for name in self.unweighed)

    def least_kg(self, item: str) -> float:
        """One copy of a part without its allowance, or everything where none is named."""
        if not item:
            return self.known_kg
        return next((i.part.mass_kg or 0.0 for i in self.items if i.id == item), 0.0)


def worked(test: AnyTest, around: Around) -> TestResult:
    """What follows for one of them; figures that make no sense together are missing ones, with the reason."""
    try:
        return KINDS[test.kind].worked(test, around)
    except ValueError as error:
        return TestResult(test, missing=(str(error),))


def _counted(factor: float) -> str:
    return f", counted {factor:g} times"


@lru_cache(maxsize=256)
def _under_one_newton(length_m: float, width_m: float, thick_m: float, modulus_pa: float, edges: str) -> Plate:
    return plate_deflection(1.0, length_m, width_m, thick_m, modulus_pa, support=edges)


def plate(test: PlateTest, around: Around) -> TestResult:
    grade = GRADES[test.material]
    mass, lacks = around.most_kg(c.item for c in test.carries)
    own = test.length_m * test.width_m * test.thick_m * grade.density_kg_m3
    load = (mass + test.load_kg + own) * G
    sides = (test.length_m, test.width_m, test.thick_m, grade.modulus_pa)
    one = _under_one_newton(*sides, test.edges)  # and all that follows goes with the load
    rest = Plate(one.deflection_m * load, one.stress_pa * load)
    stress = rest.stress_pa * test.shock
    checks = [check_of("strength", stress * test.factor, grade.strength_pa, "Pa", extra=_counted(test.factor))]
    if test.most_sag_m is not None:
        checks.append(check_of("sag", rest.deflection_m, test.most_sag_m, "m", extra=", at rest"))
    lacks = (*lacks, *(("its sag: more than half its thickness, where a plate stiffens and this no longer holds",)
                       if rest.deflection_m * test.shock > test.thick_m / 2 else ()))  # fmt: skip
    rows = (Row("lies on it", show(mass + test.load_kg, "kg")), Row("weighs", show(own, "kg")),
            Row("sags", show(rest.deflection_m, "m")), Row("stress on a bump", show(stress, "Pa")))  # fmt: skip
    return TestResult(test, tuple(checks), rows, lacks)


def bolts(test: BoltsTest, _: Around) -> TestResult:
    """Von Mises on the stress area of the thread; friction between the plates is not counted."""
    r, n = test.circle_m / 2, test.bolts
    around = [2 * math.pi * k / n for k in range(n)]
    x, y = [r * math.cos(a) for a in around], [r * math.sin(a) for a in around]
    require(n > 1 or not (test.force_n and test.arm_m), "one bolt holds no force beside it")
    shear = max(bolt_group(x, y, 0.0, test.force_n * way, test.arm_m, 0.0).most_n for way in (1, -1))
    pull, area, bears = test.pull_n / n, THREADS_M2[test.thread], BOLTS_PA[test.grade]
    stress = math.hypot(pull, math.sqrt(3) * shear) / area
    rows = (Row("shear on the worst", show(shear, "N")), Row("pull on each", show(pull, "N")),
            Row("stress area of each", f"{area * 1e6:.3g} mm²"), Row("stress", show(stress, "Pa")))  # fmt: skip
    check = check_of("strength", stress * test.factor, bears, "Pa", extra=_counted(test.factor))
    return TestResult(test, (check,), rows)


def tether(test: TetherTest, around: Around) -> TestResult:
    mass, lacks = around.falling_kg(test.item, copies=True)
    stiff = test.strength_n / (test.stretch * test.length_m)
    if mass <= 0:
        return TestResult(test, missing=lacks or ("what falls",), caution=CATCHING)
    caught = drop_load(mass, test.drop_m, stiff)
    check = check_of("strength", caught.force_n * test.factor, test.strength_n, "N", extra=_counted(test.factor))
    rows = (Row("falls", show(mass, "kg")), Row("catches with", show(caught.force_n, "N")),
            Row("stretches by", show(caught.deflection_m, "m")))  # fmt: skip
    return TestResult(test, (check,), rows, lacks, CATCHING)


def tolerances(test: TolerancesTest, _: Around) -> TestResult:
    if not test.sizes:
        return TestResult(test, missing=(f"{test.name}: what adds up",))
    stack = tolerance_stack([d.off_m for d in test.sizes])
    off = stack.worst_m if test.by == "worst case" else stack.root_sum_square_m
    rows = (Row("all the same way", f"±{show(stack.worst_m, 'm')}"),
            Row("each by itself", f"±{show(stack.root_sum_square_m, 'm')}"),
            Row("gap left, at least", show(test.gap_m - off, "m"), "breaks" if off > test.gap_m else ""))  # fmt: skip
    return TestResult(test, (check_of("gap", off, test.gap_m, "m"),), rows)


def growth(test: GrowthTest, around: Around) -> TestResult:
    """Between the coldest and hottest air of the brief, from the temperature at which it was put together."""
    base = 0.0 if test.against == "nothing" else GRADES[test.against].expansion_per_k
    apart = GRADES[test.material].expansion_per_k - base
    ends = (around.coldest_c, around.hottest_c)
    shifts = [thermal_growth(test.length_m, apart, t - test.made_c).growth_m for t in ends]
    most = max(abs(s) for s in shifts)
    turns = math.degrees(math.atan2(most, test.across_m)) if test.across_m is not None else None
    rows = [Row(f"at {show(t, '°C')}", show(s, "m")) for t, s in zip(ends, shifts, strict=True)]
    rows += [Row("turns it by", show(turns, "°"))] if turns is not None else []
    checks = [check_of("shift", most, test.most_m, "m")] if test.most_m is not None else []
    if test.most_deg is not None and turns is not None:
        checks.append(check_of("turn", turns, test.most_deg, "°"))
    lacks = []
    if test.most_deg is not None and turns is None:
        lacks.append(f"{test.name}: the distance over which it turns")
    if not checks and not lacks:
        lacks.append(f"{test.name}: how far it may shift, or turn")
    return TestResult(test, tuple(checks), tuple(rows), tuple(lacks))


def pair(test: PairTest, _: Around) -> TestResult:
    """How far the clearances that may come out reach to the side of the middle of what is wanted."""
    found, (low, high) = made_fit(test.hole_m, test.shaft_m, test.hole_made, test.shaft_made), BANDS_M[test.wanted]
    middle = (low + high) / 2
    off = max(found.most_m - middle, middle - found.least_m)
    rows = (Row("clearance may be", f"{show(found.least_m, 'm')} to {show(found.most_m, 'm')}"),
            Row(f"{test.wanted} asks for", f"{show(low, 'm')} to {show(high, 'm')}"))  # fmt: skip
    check = check_of("clearance", off, (high - low) / 2, "m", extra=" to either side of what is wanted")
    return TestResult(test, (check,), rows)


def drop(test: DropTest, around: Around) -> TestResult:
    mass, lacks = around.falling_kg(test.item, copies=False)
    if mass <= 0:
        return TestResult(test, missing=lacks or ("what drops",))
    hit = drop_load(mass, test.drop_m, test.stiffness_n_per_m)
    light = around.least_kg(test.item)  # a lighter one is stopped harder
    times = drop_load(light, test.drop_m, test.stiffness_n_per_m).force_n / (light * G)
    checks = [check_of("shock", times, test.most_g, "", extra=" times its weight")]
    if test.room_m is not None:
        checks.append(check_of("room", hit.deflection_m, test.room_m, "m"))
    rows = (Row("drops", show(mass, "kg")), Row("hits with", show(hit.force_n, "N")),
            Row("gives by", show(hit.deflection_m, "m")), Row("times its weight", f"{times:.3g}"))  # fmt: skip
    return TestResult(test, tuple(checks), rows, lacks)


def lift(test: LiftTest, around: Around) -> TestResult:
    each = around.total_kg / test.persons
    lacks = tuple(f"{name}: its mass" for name in around.unweighed)
    rows = (Row("weighs", show(around.total_kg, "kg")), Row("each lifts", show(each, "kg")))
    return TestResult(test, (check_of("lifting", each, test.each_kg, "kg"),), rows, lacks, LIFTING)


class Kind(Struct, frozen=True):
    """A kind of thing: what it is called, and what follows for it."""

    words: str
    worked: Callable[[Any, Around], TestResult]
    fails: dict[str, str]
    """What is said when a check breaks."""


KINDS = {
    "plate": Kind("plate", plate, {"strength": "breaks on a bump", "sag": "sags too far"}),
    "bolts": Kind("bolts on a circle", bolts, {"strength": "shear off"}),
    "tether": Kind("tether or sling", tether, {"strength": "does not catch it"}),
    "tolerances": Kind("sizes in a row", tolerances, {"gap": "does not go together"}),
    "growth": Kind("growth in the heat", growth, {"shift": "shifts too far", "turn": "turns it too far"}),
    "pair": Kind("hole and what goes in", pair, {"clearance": "does not fit as wanted"}),
    "drop": Kind("drop", drop, {"shock": "stops too hard", "room": "hits hard bottom"}),
    "lift": Kind("lifting by hand", lift, {"lifting": "is too heavy to lift"}),
}
