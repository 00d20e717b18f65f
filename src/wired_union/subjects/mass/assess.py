"""Mass with an allowance for what is not known yet, and money with where it comes from."""

import math
from collections.abc import Iterable
from functools import cached_property

from msgspec import Struct

from wired_union.kernel.results import Finding, Measure, Remedy, Verdict
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.physics.growth import ALLOWANCES
from wired_union.project.change import with_brief
from wired_union.project.model import Brief, Concept, Item, Knowledge, Project
from wired_union.subjects.mass.beams import beam_findings, beam_measures
from wired_union.subjects.mass.envelope import envelope_findings, envelope_measures
from wired_union.subjects.mass.money import FREE_ORIGINS, MONEY, uncovered
from wired_union.subjects.mass.tipping import tip_findings, tip_measures
from wired_union.subjects.wiring.gives_laid import HARNESS, NO_CABLES, Harness
from wired_union.units import show


class MassLine(Struct, frozen=True):
    """One item: what all its copies weigh as known, and what may come on top."""

    item: Item
    known_kg: float
    allowance_kg: float

    @property
    def total_kg(self) -> float:
        return self.known_kg + self.allowance_kg


class MassResult(Struct, frozen=True, dict=True):
    """Lines by subsystem; totals; what is missing."""

    lanes: dict[str, list[MassLine]]
    known_kg: float
    allowance_kg: float
    small_kg: float
    """Cables, screws, glue and paint, by a rule."""
    cables_kg: float
    """Cables of Wiring with what they may grow by."""
    cable_gaps: tuple[str, ...]
    """Cables whose mass is not known."""
    margin_kg: float
    by_knowledge: dict[Knowledge, float]
    gaps: tuple[Item, ...]
    """Items whose mass is not known."""

    @cached_property
    def by_subsystem(self) -> tuple[tuple[str, tuple[MassLine, ...]], ...]:
        """Subsystems and their lines, largest first."""
        ordered = sorted(self.lanes.items(), key=lambda x: -sum(line.total_kg for line in x[1]))
        return tuple((lane, tuple(sorted(x, key=lambda line: -line.total_kg))) for lane, x in ordered)

    @property
    def missing(self) -> tuple[str, ...]:
        if not (self.by_item or self.gaps):
            return ("any part at all",)
        return (*(f"{i.name}: its mass" for i in self.gaps), *(f"{name}: its mass" for name in self.cable_gaps))

    @property
    def total_kg(self) -> float:
        """What is known, with allowance and margin."""
        return self.known_kg + self.allowance_kg + self.small_kg + self.cables_kg + self.margin_kg

    def to_weigh(self) -> list[MassLine]:
        """Lines that are not measured, the one first whose weighing narrows the total most."""
        return sorted((x for x in self.lines() if x.allowance_kg > 0), key=lambda x: (-x.allowance_kg, x.item.id))

    @property
    def by_item(self) -> bool:
        return any(self.lanes.values())

    def lines(self) -> list[MassLine]:
        """All lines, heaviest first."""
        return sorted((line for lines in self.lanes.values() for line in lines), key=lambda x: -x.total_kg)


def allowed_kg(lines: Iterable[MassLine], brief: Brief) -> float:
    """What the masses of some lines may grow by, together, by the school of the brief.

    The root of squares takes the parts to err independently, all copies of one alike. Source: GUM, JCGM 100:2008,
    5.1.2, and common practice for margins (from memory).
    """
    if brief.margin_school == "fixed share":
        return brief.fixed_allowance * sum(x.known_kg for x in lines)
    each = [x.allowance_kg for x in lines]
    return math.hypot(*each) if brief.margin_school == "root of squares" else sum(each)


def cables_of(harness: Harness, brief: Brief) -> float:
    """What cables weigh with an allowance: those that are not weighed are estimated."""
    grown = brief.fixed_allowance if brief.margin_school == "fixed share" else ALLOWANCES["estimate"]
    return harness.mass_kg + grown * (harness.mass_kg - harness.measured_kg)


def assess_mass(concept: Concept, brief: Brief, harness: Harness = NO_CABLES) -> MassResult:
    """Sum of known masses, what they may grow by, small things by their rule, and the system margin on all of it."""
    lanes: dict[str, list[MassLine]] = {s.id: [] for s in concept.subsystems}
    levels: dict[Knowledge, float] = {"measured": 0.0, "datasheet": 0.0, "estimate": 0.0, "guess": 0.0}
    gaps = []
    for item in concept.items:
        if item.part.mass_kg is None:
            gaps.append(item)
            continue
        known = item.part.mass_kg * item.count
        line = MassLine(item, known, known * ALLOWANCES[item.knowledge])
        lanes[item.subsystem].append(line)
        levels[item.knowledge] += known
    known = sum(levels.values())
    allowance = allowed_kg([x for lines in lanes.values() for x in lines], brief)
    small = known * (brief.small_things or 0.0)
    cables = cables_of(harness, brief)
    margin = (known + allowance + small + cables) * brief.mass_margin
    return MassResult(lanes, known, allowance, small, cables, harness.unweighed, margin, levels, tuple(gaps))


def mass_findings(assessment: Assessment) -> list[Finding]:
    """The mass limit, with the parts to look at first."""
    result, measure = assessment.of(MASS), assessment.measure("mass")
    if measure.limit is None:
        return []
    lines = result.lines()
    open_lines = result.to_weigh()
    what = f"{measure.shown} of {measure.limit_shown}; {show(result.known_kg, 'kg')} known, the rest allowance."
    why = ""
    if result.missing:
        why = f"Not known yet: {'; '.join(result.missing)}. "
    if measure.value is not None and measure.value > measure.limit:
        heavy = ", ".join(f"{x.item.name} {show(x.total_kg, 'kg')}" for x in lines[:3])
        why += f"{show(measure.value - measure.limit, 'kg')} too much. Heaviest: {heavy}."
    elif open_lines:
        share = sum(x.allowance_kg for x in open_lines[:2]) / sum(x.allowance_kg for x in open_lines)
        why += f"{show(share, fraction=True)} of the allowance is {' and '.join(x.item.name for x in open_lines[:2])}."

    def offer() -> tuple[Remedy, ...]:
        return tuple(Remedy(f"weigh {x.item.name}: frees up to {show(x.allowance_kg, 'kg')}") for x in open_lines[:2])

    subjects = tuple(x.item.id for x in (open_lines or lines)[:2])
    return [
        Finding("mass", measure.verdict, "Mass", what, why, subjects, "mass", offer, of_limit=True),
        *(
            Finding("missing-mass", Verdict.UNKNOWN, "Not known yet", f"{item.name}: its mass.",
                    "The mass is at least that.", (item.id,), "mass", of=item.id)
            for item in result.gaps
        ),
    ]  # fmt: skip


def money_findings(assessment: Assessment) -> list[Finding]:
    """The money limit, with the dearest parts."""
    result, measure = assessment.of(MONEY), assessment.measure("money")
    money = assessment.project.brief.currency
    if measure.limit is None or measure.value is None:
        return []
    free = sum(result.by_origin[o] for o in ("owned", "donated", "refunded"))
    dear = ", ".join(f"{item.name} {show(cost, money)}" for item, cost in result.by_item[:3])
    why = f"Dearest: {dear}." if dear else ""
    if result.missing:
        why += f" Not known yet: {'; '.join(result.missing)}."
    what = (
        f"{measure.shown} of {measure.limit_shown}: {show(result.by_origin['bought'] + result.settled, money)} bought,"
    )
    what += f" {show(result.by_origin['to buy'] + result.quoted, money)} to buy; {show(free, money)} owned, donated or"
    what += " refunded."
    if measure.limit is not None and result.total <= measure.limit < result.highest:
        what += f" What is still to come may make it {show(result.highest, money)}."
    subjects = tuple(item.id for item, _ in result.by_item[:1])
    return [Finding("money", measure.verdict, "Money", what, why, subjects, "money", of_limit=True)]


def _read_mass(project: Project) -> tuple[object, ...]:
    concept, brief = project.concept, project.brief
    rules = (brief.mass_margin, brief.margin_school, brief.fixed_allowance, brief.small_things)
    return concept.items, tuple(s.id for s in concept.subsystems), rules


def _work_mass(project: Project, given: Given) -> MassResult:
    return assess_mass(project.concept, project.brief, given.of(HARNESS))


MASS = Node("mass", _read_mass, _work_mass, (HARNESS,))
TOTAL_KG = Node("total mass", lambda _: (), lambda _, given: given.of(MASS).total_kg, (MASS,))
"""Only the sum: what needs it need not move while the parts are called otherwise."""


def _unweighed(_: Project, given: Given) -> tuple[str, ...]:
    mass = given.of(MASS)
    return tuple(i.name for i in mass.gaps) + mass.cable_gaps


UNWEIGHED = Node("unweighed", lambda _: (), _unweighed, (MASS,))
"""Names of parts whose mass is not known: what has to move all of them is not known either."""


def measures(assessment: Assessment) -> tuple[Measure, ...]:
    """Mass, money, and where it tips."""
    mass, money = assessment.of(MASS), assessment.of(MONEY)
    return (
        Measure("mass", "Mass", mass.total_kg, "kg", low=mass.known_kg, high=mass.total_kg, missing=mass.missing),
        Measure(
            "money",
            "Money",
            money.total,
            assessment.project.brief.currency,
            low=money.spent,
            high=money.highest,
            missing=money.missing,
        ),
        *tip_measures(assessment),
        *envelope_measures(assessment),
        *beam_measures(assessment),
    )


def findings(assessment: Assessment) -> list[Finding]:
    return [
        *mass_findings(assessment),
        *money_findings(assessment),
        *tip_findings(assessment),
        *envelope_findings(assessment),
        *beam_findings(assessment),
    ]


def added_kg(item: Item, brief: Brief) -> float:
    """What one item adds to the mass, with its allowance, small things and the system margin; of sums only."""
    known = (item.part.mass_kg or 0.0) * item.count
    grown = brief.fixed_allowance if brief.margin_school == "fixed share" else ALLOWANCES[item.knowledge]
    return known * (1 + grown + (brief.small_things or 0.0)) * (1 + brief.mass_margin)


def summable(project: Project) -> Project:
    """The project with masses and money that add up part by part.

    A root of squares is taken as the sum, which is never less; what the ledger has of a part is no longer its price's.
    """
    project = uncovered(project)
    if project.brief.margin_school != "root of squares":
        return project
    return with_brief(project, margin_school="by knowledge")


def added_cost(item: Item, _brief: Brief) -> float:
    """What one item adds to the money."""
    return 0.0 if item.origin in FREE_ORIGINS else (item.part.price or 0.0) * item.count
