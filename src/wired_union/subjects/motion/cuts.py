"""What a load that is not carried, or a part that does not fit, proves about other combinations."""

from collections.abc import Iterable

from wired_union.choose.bounds import Bounds
from wired_union.choose.combination import Question, Tried
from wired_union.choose.cuts import Cut
from wired_union.kernel.results import Finding, Measure, judged
from wired_union.project.model import AnyLoad, Concept, Item
from wired_union.subjects.motion.assess import carry, load_measures
from wired_union.subjects.motion.kind import Scene
from wired_union.subjects.motion.kinds.every import kind_of
from wired_union.subjects.motion.results import Drive
from wired_union.subjects.motion.usual import mover_of
from wired_union.subjects.power.gives import pack_figures


class MotionCuts:
    """What motion proves from combinations of one question."""

    def __init__(self, question: Question) -> None:
        self._question = question
        self._slot_of = {c.slot.id: k for k, c in enumerate(question.choices)}

    def of_runtime(self, _: Tried) -> Cut | None:
        return None

    def of_limit(self, tried: Tried, measure: Measure) -> Cut | None:
        return self._of_load(tried, measure.of)

    def of_finding(self, tried: Tried, finding: Finding) -> Cut | None:
        if finding.check == "motion":
            return self._of_load(tried, finding.of)
        return self._exactly(tried, [finding.of]) if finding.check == "room" else None

    def _of_load(self, tried: Tried, load_id: str) -> Cut | None:
        """A load that its motor does not carry: with the highest voltage and the lightest machine there can be."""
        concept = self._question.project_with(tried.places).concept
        load = next((x for x in concept.loads if x.id == load_id), None)
        if load is None or not breaks_at_best(self._question, concept, load, tried):
            return None
        return self._exactly(tried, [load.actuator, *kind_of(load).shaped_by(load, concept)])

    def _exactly(self, tried: Tried, items: Iterable[str]) -> Cut:
        slots = sorted({self._slot_of[i] for i in items if i in self._slot_of})
        return Cut(tuple((s, frozenset((tried.places[s],))) for s in slots))


def cuts_of(question: Question, _: Bounds | None) -> MotionCuts:
    """What motion proves for a question."""
    return MotionCuts(question)


def breaks_at_best(question: Question, concept: Concept, load: AnyLoad, tried: Tried) -> bool:
    """Whether a load breaks what it must hold even with the highest voltage and the least mass of any combination."""
    item = next((i for i in concept.items if i.id == load.actuator), None)
    motor = mover_of(item.part) if item is not None else None
    if item is None or motor is None:
        return False
    parts = [i.part for i in (*concept.items, *(o.item for c in question.choices for o in c.options))]
    packs = [f.rested_v for i in _packs(question) if (f := pack_figures(i)) is not None]
    packs += [p.supply.output_v for p in parts if p.supply is not None]
    made = [p.regulator.output_v for p in parts if p.regulator is not None]
    volts = max([*packs, *made], default=0.0)
    drive = Drive(item, motor, volts, volts)
    alone = Scene(concept, question.least_kg, drive, item, 0.0, ())  # nothing else on its motor, and never warm
    result = carry(load, alone)
    brief = question.project.brief
    measures = [judged(m, brief.limit(m.id)) for m in load_measures(result) if m.id in tried.broken]
    broken = {f.detail for f in tried.hard if f.check == "motion" and f.of == load.id} - by_places(concept, load)
    broken -= BY_LESS_VOLTS
    stuck = any(c.id in broken and c.use > 1 for c in result.checks)
    return stuck or any(m.use is not None and m.use > 1 for m in measures)


BY_LESS_VOLTS = {"whirling", "throwing", "blocked force"}
"""What another combination may hold for its lower voltage."""
BY_PLACES = {"grip", "step", "step grip", "turn", "turn grip"}


def by_places(concept: Concept, load: AnyLoad) -> set[str]:
    """What of a load follows from where things are: another combination may stand better, so that it proves nothing."""
    wheel = next((i for i in concept.items if i.id == getattr(load, "wheel", "")), None)
    return BY_PLACES if wheel is not None and wheel.places else set()


def _packs(question: Question) -> list[Item]:
    options = [o.item for c in question.choices for o in c.options]
    return [i for i in (*question.project.concept.items, *options) if i.part.pack is not None]
