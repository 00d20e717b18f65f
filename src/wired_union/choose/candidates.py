"""Candidates for a slot: every part of its classes, from the shelf first, with what refuses the rest."""

from collections.abc import Iterable
from functools import cached_property

from msgspec import Struct

from wired_union.catalogue.parts import catalogue, of_kind
from wired_union.choose.requirements import Move, refused_by, sensitivity
from wired_union.kernel.subject import Assessment, Refusal
from wired_union.project import edits
from wired_union.project.change import Change
from wired_union.project.model import Item, Need, Origin, Part, Project, Stock

FREE: tuple[Origin, ...] = ("owned", "donated")


class Candidate(Struct, frozen=True):
    """A part for a slot: where it is from, how many the team has, and every requirement that refuses it."""

    part: Part
    refusals: tuple[Refusal, ...]
    where: str = "catalogue"
    free: int = 0
    """How many the team has that no other place of this concept uses."""
    origin: Origin = "to buy"
    """What taking it would cost: "owned" or "donated" where enough of them are free."""

    @property
    def fits(self) -> bool:
        return not self.refusals

    @property
    def shelf_words(self) -> str:
        """ "on the shelf, 3 free", "" for what the team does not have."""
        return f"on the shelf, {self.free} free" if self.free else ""


class Candidates(Struct, frozen=True, dict=True):
    """All candidates of one slot: those that fit, shelf first, and those refused, the nearest miss first."""

    slot: Item | Need
    fitting: tuple[Candidate, ...]
    refused: tuple[Candidate, ...]
    money: str
    """The currency that prices are counted in."""

    @cached_property
    def moves(self) -> tuple[Move, ...]:
        """How far each requirement must move for the next candidate to fit."""
        return sensitivity([(c.part, c.refusals) for c in self.refused], self.slot.requires, self.money)


def kinds_of(slot: Item | Need) -> tuple[str, ...]:
    """The classes of part that could fill a slot."""
    return (slot.part.kind,) if isinstance(slot, Item) else slot.kinds


def slots(project: Project) -> tuple[Item | Need, ...]:
    """Every slot of the concept at work: needs without a part first, then items."""
    return (*project.concept.needs, *project.concept.items)


def candidates(assessment: Assessment, slot_id: str, more: Iterable[Stock] = ()) -> Candidates:
    """Candidates from the catalogue, the concept's own parts, the project's shelf, and `more` (a store's library)."""
    project = assessment.project
    slot = edits.find_slot(project, slot_id)
    stock = shelf(project, slot_id)
    found: list[Candidate] = []
    for where, part, have in _gathered(project, slot, more):
        if isinstance(slot, Item) and part.id == slot.part.id:
            continue
        asked = refused_by(placed(assessment, slot, part), slot.requires, project.brief.currency)
        refusals = (*asked, *refusals_of(assessment, slot, part))
        free, origin = free_of(stock, part, slot.count, have)
        found.append(Candidate(part, refusals, "shelf" if free else where, free, origin))
    fitting = sorted((c for c in found if c.fits), key=lambda c: c.origin == "to buy")
    refused = sorted((c for c in found if not c.fits), key=_miss)
    return Candidates(slot, tuple(fitting), tuple(refused), project.brief.currency)


def placed(assessment: Assessment, slot: Item | Need, part: Part) -> Part:
    """A part with its figures as they are at a place."""
    for subject in assessment.subjects:
        if subject.at_place is not None:
            part = subject.at_place(assessment, slot, part)
    return part


def refusals_of(assessment: Assessment, slot: Item | Need, part: Part) -> list[Refusal]:
    """Every subject's reasons against a part at a place."""
    return [r for s in assessment.subjects if s.refuses is not None for r in s.refuses(assessment, slot, part)]


def refusals_new(assessment: Assessment, part: Part) -> list[str]:
    """Every subject's reasons against a part that nothing has asked for."""
    return [r for s in assessment.subjects if s.refuses_new is not None for r in s.refuses_new(assessment, part)]


def source_for(assessment: Assessment, part: Part) -> str | None:
    """Id of what a new part would be fed from, None where nothing suits or it needs nothing."""
    found = (s.feeds(assessment, part) for s in assessment.subjects if s.feeds is not None)
    return next((x for x in found if x is not None), None)


def _miss(candidate: Candidate) -> tuple[int, float]:
    shorts = [1.0 if r.short is None else r.short for r in candidate.refusals]
    return len({r.requirement for r in candidate.refusals}), max(shorts, default=0.0)


def _gathered(project: Project, slot: Item | Need, more: Iterable[Stock]) -> list[tuple[str, Part, int]]:
    """Parts of the slot's classes with where they are from; the team's own figures win over the catalogue's."""
    kinds = kinds_of(slot)
    general = [p for k in kinds for p in of_kind(k)] if kinds else list(catalogue())
    own = [i.part for c in project.concepts for i in c.items]
    found: dict[str, tuple[str, Part, int]] = {p.id: ("catalogue", p, 0) for p in general}
    found.update({s.part.id: ("library", s.part, s.have) for s in more})
    for where, parts in (("project", own), ("shelf", [s.part for s in project.shelf])):
        found.update({p.id: (where, p, 0) for p in parts if not kinds or p.kind in kinds})
    return list(found.values())


def shelf(project: Project, besides: str = "") -> dict[str, tuple[int, bool]]:
    """Parts the team has: how many are free for this concept, and whether they were donated.

    What another concept uses is free here: only one of the concepts will be built. `besides` is the slot in question.
    """
    have: dict[str, tuple[int, bool]] = {s.part.id: (s.have, s.donated) for s in project.shelf if s.have}
    for concept in project.concepts:
        if concept.id == project.concept.id:
            continue
        for item in concept.items:
            if item.origin in FREE and item.part.id not in have:
                have[item.part.id] = (item.count, item.origin == "donated")
    for item in project.concept.items:
        if item.origin in FREE and item.id != besides and item.part.id in have:
            count, donated = have[item.part.id]
            have[item.part.id] = (count - item.count, donated)
    return have


def free_of(stock: dict[str, tuple[int, bool]], part: Part, wanted: int, have: int = 0) -> tuple[int, Origin]:
    """How many of a part the team has free, and where the wanted number of them would come from."""
    free, donated = stock.get(part.id, (have, False))
    free = max(free, 0)
    return free, ("donated" if donated else "owned") if free >= wanted else "to buy"


def change_for(assessment: Assessment, slot: Item | Need, candidate: Candidate) -> Change:
    """The edit that takes a candidate: a swap, or a new item in a need's place, fed from what suits it."""
    source = None
    if isinstance(slot, Need):
        source = source_for(assessment, candidate.part)
    return edits.take_part(
        assessment.project, slot.id, candidate.part, source=source, origin=candidate.origin
    )  # fmt: skip
