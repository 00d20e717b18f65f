"""Mass with an allowance for what is not known yet, and money with where it comes from."""

from dataclasses import dataclass

from wired_union.assess.results import Finding, Measure, Remedy, Verdict, judged
from wired_union.physics.growth import ALLOWANCES
from wired_union.project.model import Brief, Concept, Item, Knowledge, Origin
from wired_union.units import show

FREE_ORIGINS = {"owned", "donated", "refunded"}


@dataclass(frozen=True, slots=True)
class MassLine:
    """One item: what all its copies weigh as known, and what may come on top."""

    item: Item
    known_kg: float
    allowance_kg: float

    @property
    def total_kg(self) -> float:
        return self.known_kg + self.allowance_kg


@dataclass(frozen=True)
class MassResult:
    """Lines by subsystem, largest first; totals; what is missing."""

    by_subsystem: tuple[tuple[str, tuple[MassLine, ...]], ...]
    known_kg: float
    allowance_kg: float
    margin_kg: float
    by_knowledge: dict[Knowledge, float]
    missing: tuple[str, ...]
    measures: tuple[Measure, ...]

    def lines(self) -> list[MassLine]:
        """All lines, heaviest first."""
        return sorted((line for _, lines in self.by_subsystem for line in lines), key=lambda x: -x.total_kg)


def assess_mass(concept: Concept, brief: Brief) -> MassResult:
    """Sum of known masses, growth allowance by knowledge, and the system margin on both."""
    lanes: dict[str, list[MassLine]] = {s.id: [] for s in concept.subsystems}
    levels: dict[Knowledge, float] = {"measured": 0.0, "datasheet": 0.0, "estimate": 0.0, "guess": 0.0}
    missing = [] if concept.items else ["any part at all"]
    for item in concept.items:
        if item.part.mass_kg is None:
            missing.append(f"{item.name}: its mass")
            continue
        known = item.part.mass_kg * item.count
        lanes[item.subsystem].append(MassLine(item, known, known * ALLOWANCES[item.knowledge]))
        levels[item.knowledge] += known
    ordered = sorted(lanes.items(), key=lambda x: -sum(line.total_kg for line in x[1]))
    by_subsystem = tuple((lane, tuple(sorted(x, key=lambda line: -line.total_kg))) for lane, x in ordered)
    known = sum(levels.values())
    allowance = sum(line.allowance_kg for _, lines in by_subsystem for line in lines)
    margin = (known + allowance) * brief.mass_margin
    total = known + allowance + margin
    measures = (
        judged(Measure("mass", "Mass", total, "kg", low=known, high=total, missing=tuple(missing)), brief),
        judged(Measure("part-count", "Parts", float(sum(i.count for i in concept.items)), ""), brief),
    )
    return MassResult(by_subsystem, known, allowance, margin, levels, tuple(missing), measures)


def mass_findings(result: MassResult) -> list[Finding]:
    """The mass limit, with the parts to look at first."""
    measure = result.measures[0]
    if measure.limit is None:
        return []
    lines = result.lines()
    open_lines = [x for x in sorted(lines, key=lambda x: -x.allowance_kg) if x.allowance_kg > 0]
    what = f"{measure.shown} of {measure.limit_shown}; {show(result.known_kg, 'kg')} known, the rest allowance."
    why = ""
    if result.missing:
        why = f"Not known yet: {'; '.join(result.missing)}. "
    if measure.value is not None and measure.value > measure.limit:
        heavy = ", ".join(f"{x.item.name} {show(x.total_kg, 'kg')}" for x in lines[:3])
        why += f"{show(measure.value - measure.limit, 'kg')} too much. Heaviest: {heavy}."
    elif open_lines:
        share = sum(x.allowance_kg for x in open_lines[:2]) / result.allowance_kg
        why += f"{show(share, fraction=True)} of the allowance is {' and '.join(x.item.name for x in open_lines[:2])}."
    remedies = tuple(Remedy(f"weigh {x.item.name}: frees up to {show(x.allowance_kg, 'kg')}") for x in open_lines[:2])
    subjects = tuple(x.item.id for x in (open_lines or lines)[:2])
    return [
        Finding("mass", measure.verdict, "Mass", what, why, subjects, "mass", remedies),
        *(
            Finding(f"missing-mass:{gap}", Verdict.UNKNOWN, "Not known yet", f"{gap}.", "The mass is at least that.",
                    _subject(gap, result, lines), "mass")
            for gap in result.missing
        ),
    ]  # fmt: skip


def _subject(gap: str, result: MassResult, lines: list[MassLine]) -> tuple[str, ...]:
    return tuple(x.item.id for x in lines if x.item.name == gap.split(":")[0])


@dataclass(frozen=True)
class MoneyResult:
    """What the parts cost by where they come from; only what is bought or to buy counts against the limit."""

    by_origin: dict[Origin, float]
    by_item: tuple[tuple[Item, float], ...]
    missing: tuple[str, ...]
    measures: tuple[Measure, ...]


def assess_money(concept: Concept, brief: Brief) -> MoneyResult:
    """Prices times counts, by origin. A price not known counts as missing unless the part costs nothing."""
    by_origin: dict[Origin, float] = {"to buy": 0.0, "bought": 0.0, "owned": 0.0, "donated": 0.0, "refunded": 0.0}
    costs: list[tuple[Item, float]] = []
    missing = [] if concept.items else ["any part at all"]
    for item in concept.items:
        if item.part.price is None:
            if item.origin not in FREE_ORIGINS:
                missing.append(f"{item.name}: its price")
            continue
        cost = item.part.price * item.count
        by_origin[item.origin] += cost
        if item.origin not in FREE_ORIGINS:
            costs.append((item, cost))
    total = by_origin["to buy"] + by_origin["bought"]
    measure = judged(Measure("money", "Money", total, "£", missing=tuple(missing)), brief)
    return MoneyResult(by_origin, tuple(sorted(costs, key=lambda x: -x[1])), tuple(missing), (measure,))


def money_findings(result: MoneyResult) -> list[Finding]:
    """The money limit, with the dearest parts."""
    measure = result.measures[0]
    if measure.limit is None or measure.value is None:
        return []
    free = sum(result.by_origin[o] for o in ("owned", "donated", "refunded"))
    dear = ", ".join(f"{item.name} {show(cost, '£')}" for item, cost in result.by_item[:3])
    why = f"Dearest: {dear}." if dear else ""
    if result.missing:
        why += f" Not known yet: {'; '.join(result.missing)}."
    what = f"{measure.shown} of {measure.limit_shown}: {show(result.by_origin['bought'], '£')} bought,"
    what += f" {show(result.by_origin['to buy'], '£')} to buy; {show(free, '£')} owned, donated or refunded."
    subjects = tuple(item.id for item, _ in result.by_item[:1])
    return [Finding("money", measure.verdict, "Money", what, why, subjects, "money")]
