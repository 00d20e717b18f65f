"""What a name in a formula stands for: a knob, another formula, a measure, or a figure of a part."""

from collections.abc import Callable, Iterator
from functools import cache

from wired_union import units
from wired_union.catalogue.figures import FIGURES
from wired_union.catalogue.parts import FACETS
from wired_union.kernel.expression import FormulaError, Symbol
from wired_union.kernel.results import Measure
from wired_union.kernel.subject import Assessment
from wired_union.project.model import Item, Part
from wired_union.project.value import field_names

ID = "formulas"


def word_of(of: str) -> str:
    """How formulas write an id: with _ for -, and never a digit first."""
    word = of.replace("-", "_").replace(":", ".")
    return word if not word[:1].isdigit() else f"_{word}"


def measures_of_others(assessment: Assessment) -> Iterator[Measure]:
    """What every other subject computes, in the order of the rail."""
    return (m for s in assessment.subjects if s.id != ID and s.measures is not None for m in s.measures(assessment))


@cache
def part_figures() -> dict[str, Callable[[Part], float | None]]:
    """Figures of a part by name: its own, those of its facets as "motor.stall_torque_n_m", and the usual short ones."""
    found: dict[str, Callable[[Part], float | None]] = dict(FIGURES)
    for field in ("mass_kg", "price", "length_m", "width_m", "height_m", "stored_energy_j", "delivery_days"):
        found[field] = _own(field)
    for facet, kind in FACETS.items():
        for field in field_names(kind):
            found[f"{facet}.{field}"] = _inner(facet, field)
    return found


def _own(field: str) -> Callable[[Part], float | None]:
    return lambda part: _number(getattr(part, field))


def _inner(facet: str, field: str) -> Callable[[Part], float | None]:
    return lambda part: _number(getattr(getattr(part, facet), field, None))


def _number(value: object) -> float | None:
    return float(value) if isinstance(value, int | float) and not isinstance(value, bool) else None


class Names:
    """The names of one assessment. `formula` works out another formula by its id."""

    def __init__(self, assessment: Assessment, formula: Callable[[str], Symbol | None]) -> None:
        self._assessment, self._formula = assessment, formula
        concept = assessment.project.concept
        self._knobs = {word_of(k.id): k for k in concept.knobs}
        self._items = {word_of(i.id): i for i in concept.items}
        self._measures: dict[str, Measure] | None = None

    @property
    def measures(self) -> dict[str, Measure]:
        if self._measures is None:
            self._measures = {word_of(m.id): m for m in measures_of_others(self._assessment)}
        return self._measures

    def find(self, name: str) -> Symbol:
        """What a name stands for. Raises FormulaError for one that nothing has."""
        if (knob := self._knobs.get(name)) is not None:
            return Symbol(knob.value, knob.unit)
        if (worked := self._formula(name)) is not None:
            return worked
        if (measure := self.measures.get(name)) is not None:
            unknown = measure.missing or (() if measure.value is not None else (measure.label.lower(),))
            return Symbol(None if unknown else measure.value, measure.unit, unknown)
        item_name, _, figure = name.partition(".")
        if (item := self._items.get(item_name)) is not None:
            return self._of_item(item, figure, name)
        raise FormulaError(f"There is no “{name}” here: no knob, no formula, no measure and no part is called so.")

    def _of_item(self, item: Item, figure: str, name: str) -> Symbol:
        if figure == "count":
            return Symbol(float(item.count), "")
        read = part_figures().get(figure)
        if read is None:
            raise FormulaError(f"“{name}”: a figure of {item.name} is written as {word_of(item.id)}.mass_kg.")
        value, unit = read(item.part), units.unit_of(figure, self._assessment.project.brief.currency)
        return Symbol(value, unit, () if value is not None else (f"{item.name}: its {units.plain_words(figure)}",))

    def all(self) -> Iterator[tuple[str, str]]:
        """Names that a formula may use, each with what it is now: knobs, measures, then figures of parts."""
        for word, knob in self._knobs.items():
            yield word, units.show(knob.value, knob.unit)
        for word, measure in self.measures.items():
            yield word, measure.shown
        for word, item in self._items.items():
            yield f"{word}.count", str(item.count)
            for figure, read in part_figures().items():
                if (value := read(item.part)) is not None and "." not in figure:
                    yield f"{word}.{figure}", units.show_named(figure, value, self._assessment.project.brief.currency)
