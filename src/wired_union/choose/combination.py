"""Choosing several slots at once: what may stand in each, what is favoured, what must hold, and one combination tried.

Everything is judged by the real assessment of the whole project; what a combination costs in mass and money is a sum.
"""

from collections.abc import Mapping, Sequence
from functools import cached_property

from msgspec import Struct

from wired_union.choose.candidates import candidates
from wired_union.kernel.results import Finding, Measure, Verdict
from wired_union.kernel.subject import Assessment
from wired_union.project import edits
from wired_union.project.change import Change, find_item, replaced, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.model import Item, Origin, Part, Project

FAVOURED = ("runtime", "mass", "money")
MOST_SLOTS, MOST_OPTIONS = 24, 400


class Option(Struct, frozen=True):
    """One part for one slot, as the item it would be, with what it adds to the sums."""

    item: Item
    mass_kg: float
    cost: float
    now: bool = False
    """Whether it is what stands there today."""

    @property
    def part(self) -> Part:
        return self.item.part

    @property
    def origin(self) -> Origin:
        return self.item.origin


class Choice(Struct, frozen=True):
    """A slot to choose, what may stand in it, and what was left out with the reason."""

    slot: Item
    options: tuple[Option, ...]
    left_out: tuple[tuple[Part, str], ...]


class Favour(Struct, frozen=True):
    """How much each measure counts. One alone is minimised (runtime: maximised); several are weighed by their use.

    The score is Σ weight × use: value/limit for mass and money, limit/value for runtime; where there is no limit,
    today's value stands for it. Less is better.
    """

    runtime: float = 0.0
    mass: float = 0.0
    money: float = 0.0

    def __post_init__(self) -> None:
        weights = (self.runtime, self.mass, self.money)
        if min(weights) < 0 or sum(weights) <= 0:
            raise ProjectError("Favour at least one of runtime, mass and money, with weights of 0 or more.")


class Tried(Struct, frozen=True):
    """A combination that was assessed: which option in each slot, its score, and what it breaks."""

    places: tuple[int, ...]
    score: float
    breaks: tuple[str, ...]
    broken: tuple[str, ...]
    """Ids of the limits that break."""
    hard: tuple[Finding, ...]
    """Findings that break a hard requirement, of those that hold today."""
    assessment: Assessment
    unsure: tuple[str, ...] = ()
    """Ids of the limits that are judged today and can not be with this combination: no proof that it holds."""

    @property
    def runtime_s(self) -> float:
        """Its runtime; 0 where its pack cannot deliver at all."""
        runtime = self.assessment.measure("runtime").value
        return runtime if runtime is not None and runtime == runtime else 0.0

    @property
    def holds(self) -> bool:
        return not self.breaks


class Question(Struct, frozen=True, dict=True):
    """What to choose, what to favour, what must hold: the search's whole input."""

    assessment: Assessment
    choices: tuple[Choice, ...]
    favour: Favour
    must_hold: tuple[str, ...]
    base_kg: float
    base_cost: float
    scale: Mapping[str, float]
    """What a use of 1 stands for, by measure."""
    asked: Project
    """the project as it is; the assessed one is judged so that what must be sums are sums"""

    @property
    def project(self) -> Project:
        return self.assessment.project

    @property
    def combinations(self) -> int:
        """How many combinations there are."""
        total = 1
        for choice in self.choices:
            total *= len(choice.options)
        return total

    @cached_property
    def least_kg(self) -> float:
        """The mass of the lightest combination; what has to be moved weighs at least that."""
        return self.base_kg + sum(min(o.mass_kg for o in c.options) for c in self.choices)

    @cached_property
    def least_cost(self) -> float:
        """Price of the cheapest combination there is."""
        return self.base_cost + sum(min(o.cost for o in c.options) for c in self.choices)

    @cached_property
    def hard_before(self) -> frozenset[str]:
        """Hard requirements that break today already; they are not counted against a combination."""
        return frozenset(f.id for f in self.assessment.hard_breaks)

    @cached_property
    def judged(self) -> frozenset[str]:
        """Limits that have a verdict today."""
        return frozenset(m.id for m in self.assessment.measures if m.verdict is not Verdict.UNKNOWN)

    @cached_property
    def favourite(self) -> tuple[int, ...]:
        """The team's favourite: what stands in each slot today."""
        return tuple(next(i for i, o in enumerate(c.options) if o.now) for c in self.choices)

    def project_with(self, places: Sequence[int]) -> Project:
        """The project with one combination in place."""
        items = self.project.concept.items
        for choice, place in zip(self.choices, places, strict=True):
            option = choice.options[place]
            if not option.now:
                items = replaced(items, choice.slot, option.item)
        return with_concept(self.project, items=items)

    def try_out(self, places: Sequence[int]) -> Tried:
        """Assess one combination: the whole project, every limit that must hold, every hard requirement."""
        assessed = self.assessment.again(self.project_with(places))
        broken = [m for m in map(assessed.measure, self.must_hold) if m.use is not None and m.use > 1 + 1e-12]
        hard = () if broken else tuple(f for f in assessed.hard_breaks if f.id not in self.hard_before)
        now = map(assessed.measure, self.must_hold)
        lost = [m for m in now if m.verdict is Verdict.UNKNOWN and m.id in self.judged]
        limits = (f"{m.label} {m.shown}, {m.direction} {m.limit_shown}" for m in broken)
        gaps = (f"{m.label} is not known: {'; '.join(m.missing) or 'no figure'}" for m in lost)
        said = (*limits, *(f"{f.title}: {f.what}" for f in hard), *gaps)
        ids = tuple(m.id for m in broken)
        return Tried(tuple(places), self.score(assessed), said, ids, hard, assessed, tuple(m.id for m in lost))

    def score(self, assessed: Assessment) -> float:
        """The weighed score, less is better; infinite where a favoured figure is not known."""
        total = self.favour.mass * _value(assessed.measure("mass")) / self.scale["mass"]
        total += self.favour.money * _value(assessed.measure("money")) / self.scale["money"]
        if self.favour.runtime:
            runtime = assessed.measure("runtime").value
            total += self.favour.runtime * (self.scale["runtime"] / runtime if runtime else float("inf"))
        return total

    def swap(self, places: Sequence[int]) -> Change:
        """The whole combination as one edit. Raises ProjectError when it is in place already."""
        parts = {
            c.slot.id: (c.options[p].part, c.options[p].origin)
            for c, p in zip(self.choices, places, strict=True)
            if not c.options[p].now
        }
        return edits.swap_parts(self.asked, parts)


def _value(measure: Measure) -> float:
    return float("inf") if measure.value is None else measure.value


def ask(
    assessment: Assessment,
    slot_ids: Sequence[str],
    favour: Favour,
    must_hold: Sequence[str] | None = None,
) -> Question:
    """Put a question to the search: the slots, their fitting candidates and what is in place, what must hold.

    `must_hold` are ids of limited measures; None for all that have a figure. Raises ProjectError for no slot, too
    many, or a favoured measure without a figure.
    """
    asked, assessment = assessment.project, as_sums(assessment)
    if not slot_ids:
        raise ProjectError("Choose at least one place to fill.")
    if len(slot_ids) > MOST_SLOTS:
        raise ProjectError(f"Choose at most {MOST_SLOTS} places at a time.")
    known = {m.id for m in assessment.measures if m.value is not None}
    wanted = tuple(known if must_hold is None else must_hold)
    choices = tuple(_choice(assessment, i) for i in dict.fromkeys(slot_ids))
    scale = {}
    for name in FAVOURED:
        measure = assessment.measure(name)
        if getattr(favour, name) and not measure.value:
            raise ProjectError(f"{measure.label} has no figure yet, so it cannot be favoured.")
        scale[name] = measure.limit or measure.value or 1.0
    now = [next(o for o in c.options if o.now) for c in choices]
    return Question(
        assessment, choices, favour, tuple(m.id for m in assessment.measures if m.id in wanted),
        _value(assessment.measure("mass")) - sum(o.mass_kg for o in now),
        _value(assessment.measure("money")) - sum(o.cost for o in now), scale, asked,
    )  # fmt: skip


def as_sums(assessment: Assessment) -> Assessment:
    """The same where every measure that is a sum is one; else the project judged so that it is."""
    project = assessment.project
    for subject in assessment.subjects:
        project = subject.summable(project) if subject.summable is not None else project
    return assessment if project is assessment.project else assessment.again(project)


def _choice(assessment: Assessment, slot_id: str) -> Choice:
    project = assessment.project
    item = find_item(project, slot_id)
    found = candidates(assessment, slot_id)
    options, left_out = [_option(assessment, item, item)], []
    for candidate in found.fitting[:MOST_OPTIONS]:
        swapped = edits.swap_part(project, slot_id, candidate.part, origin=candidate.origin).after
        new = find_item(swapped, slot_id)
        gaps = _gaps(candidate.part)
        if gaps:
            left_out.append((candidate.part, f"not given: {', '.join(gaps)}"))
        else:
            options.append(_option(assessment, item, new))
    left_out += [(c.part, c.refusals[0].text) for c in found.refused]
    return Choice(item, tuple(options), tuple(left_out))


def _gaps(part: Part) -> list[str]:
    """Figures without which a part cannot be weighed against others."""
    gaps = [name for name, value in (("mass", part.mass_kg), ("price", part.price)) if value is None]
    if part.pack is not None and (part.pack.cell_capacity_ah is None or part.pack.cell_resistance_ohm is None):
        gaps.append("capacity or resistance")
    if part.load is not None and part.load.active_a is None and part.load.peak_a is None:
        gaps.append("current")
    return gaps


def _option(assessment: Assessment, slot: Item, new: Item) -> Option:
    """An option with what it adds to the sums: the sum of the slot's item alone."""
    return Option(new, added(assessment, "mass", new), added(assessment, "money", new), now=new is slot)


def added(assessment: Assessment, measure: str, item: Item) -> float:
    """What one item adds to a measure that is a sum over the parts; 0 where no subject says."""
    found = (s.sums[measure] for s in assessment.subjects if measure in s.sums)
    return next((f(item, assessment.project.brief) for f in found), 0.0)
