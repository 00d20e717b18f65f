"""What bends: sag, stress and first frequency of each beam under what it carries."""

import math
from collections.abc import Callable, Iterator
from functools import cached_property, partial

from msgspec import Struct

from wired_union.kernel.results import Finding, Measure, Remedy, Verdict, possible, tried
from wired_union.kernel.subject import Assessment, Node
from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.physics.growth import ALLOWANCES
from wired_union.physics.materials import GRADES, Grade
from wired_union.physics.strength import beam_deflection, beam_frequency
from wired_union.project.model import Beam, Concept, Project
from wired_union.project.value import choices
from wired_union.subjects.mass.beam_edits import remade, set_beam
from wired_union.units import show

EVEN = {"cantilever": (1 / 8, 1 / 2, 1 / 6), "simple": (5 / 384, 1 / 8, 1 / 24), "fixed": (1 / 384, 1 / 12, 0.0)}
"""Of a load spread evenly: deflection by w·L⁴/(E·I), moment by w·L², end slope by w·L³/(E·I). Roark (from memory)."""
LARGER, MOST_OFFERED = (1.25, 1.5, 2.0, 3.0), 3
ONLY_TUBES = {"carbon tube"}
ENOUGH = 2.0
"""Times that a beam should bear what it is loaded with, where nothing else is asked: common practice."""


class Section(Struct, frozen=True):
    """A cross-section: its area, second moment, and from the middle to the outermost fibre."""

    area_m2: float
    second_moment_m4: float
    fibre_m: float


def section_of(beam: Beam) -> Section:
    """Its section. A wall of half the size or more leaves no hole. Source: tables of sections (Roark)."""
    if beam.profile in {"rod", "round tube"}:
        d = beam.width_m
        hole = max(d - 2 * beam.wall_m, 0.0) if beam.profile == "round tube" else 0.0
        return Section(math.pi / 4 * (d**2 - hole**2), math.pi / 64 * (d**4 - hole**4), d / 2)
    b, h = beam.width_m, beam.height_m
    inner_b, inner_h = (max(s - 2 * beam.wall_m, 0.0) if beam.profile == "box tube" else 0.0 for s in (b, h))
    return Section(b * h - inner_b * inner_h, (b * h**3 - inner_b * inner_h**3) / 12, h / 2)


class BeamResult(Struct, frozen=True, dict=True):
    """What a beam does, with the most that hangs on it; `missing` says what of that is not known."""

    beam: Beam
    load_kg: float
    least_kg: float
    missing: tuple[str, ...]

    @property
    def grade(self) -> Grade:
        return GRADES[self.beam.material]

    @cached_property
    def section(self) -> Section:
        return section_of(self.beam)

    @property
    def own_kg(self) -> float:
        return self.section.area_m2 * self.beam.length_m * self.grade.density_kg_m3

    @cached_property
    def sag_m(self) -> float:
        """At rest: under the load and its own weight."""
        return self._bent(self.load_kg)[0]

    @cached_property
    def slope_rad(self) -> float:
        """How far its free or resting end leans, at rest."""
        return self._bent(self.load_kg)[2]

    @cached_property
    def stress_pa(self) -> float:
        """Largest on a bump: the moment times `shock` over the second moment, at the outermost fibre."""
        return self._bent(self.load_kg)[1] * self.beam.shock * self.section.fibre_m / self.section.second_moment_m4

    @property
    def safety_factor(self) -> float:
        return self.grade.strength_pa / self.stress_pa if self.stress_pa > 0 else math.inf

    @cached_property
    def frequency_hz(self) -> float:
        """With the most that it carries: the lowest."""
        return self._frequency(self.load_kg)

    @cached_property
    def highest_hz(self) -> float:
        """With the least that it carries."""
        return self._frequency(self.least_kg)

    def _frequency(self, load_kg: float) -> float:
        b = self.beam
        return beam_frequency(load_kg, self.own_kg, b.length_m, self.grade.modulus_pa,
                              self.section.second_moment_m4, b.support).frequency_hz  # fmt: skip

    def _bent(self, load_kg: float) -> tuple[float, float, float]:
        """Sag, moment and end slope of load and own weight, added up."""
        b, stiff = self.beam, self.grade.modulus_pa * self.section.second_moment_m4
        one = beam_deflection(load_kg * G, b.length_m, self.grade.modulus_pa, self.section.second_moment_m4, b.support)
        sag, moment, slope = EVEN[b.support]
        even = self.own_kg * G  # w·L
        return (one.deflection_m + sag * even * b.length_m**3 / stiff, one.moment_n_m + moment * even * b.length_m,
                one.slope_rad + slope * even * b.length_m**2 / stiff)  # fmt: skip


def beams_of(concept: Concept) -> tuple[BeamResult, ...]:
    """Every beam with what it carries."""
    return tuple(_loaded(beam, concept) for beam in concept.beams)


def _loaded(beam: Beam, concept: Concept) -> BeamResult:
    items = {i.id: i for i in concept.items}
    most = least = beam.load_kg
    lacks = []
    for item in (items[c.item] for c in beam.carries if c.item in items):
        if item.part.mass_kg is None:
            lacks.append(f"{item.name}: its mass")
            continue
        least += item.part.mass_kg * item.count
        most += item.part.mass_kg * item.count * (1 + ALLOWANCES[item.knowledge])
    return BeamResult(beam, most, least, tuple(lacks))


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    items = tuple((i.id, i.name, i.count, i.knowledge, i.part.mass_kg) for i in concept.items) if concept.beams else ()
    return concept.beams, items


BEAMS = Node("beams", _read, lambda project, _: beams_of(project.concept))


def _own_frequencies(found: tuple[BeamResult, ...]) -> tuple[tuple[str, str, float], ...]:
    """Id, name and first frequency of each beam of which everything is known."""
    return tuple((r.beam.id, r.beam.name, r.frequency_hz) for r in found if not r.missing)


FREQUENCIES = Node("frequencies of beams", lambda _: (), lambda _, given: _own_frequencies(given.of(BEAMS)), (BEAMS,))
"""What can swing besides mounts, for what turns near it."""


def beam_measures(assessment: Assessment) -> Iterator[Measure]:
    """How many times each beam bears its load, and how fast it swings."""
    for r in assessment.of(BEAMS):
        yield Measure("safety-factor", f"{r.beam.name}, safety", r.safety_factor, "", direction="at least",
                      missing=r.missing, of=r.beam.id)  # fmt: skip
        yield Measure("first-frequency", f"{r.beam.name}, frequency", r.frequency_hz, "Hz", direction="at least",
                      low=r.frequency_hz, high=r.highest_hz, missing=r.missing, of=r.beam.id)  # fmt: skip


def beam_findings(assessment: Assessment) -> Iterator[Finding]:
    """Beams that break or sag too far; those of limits, and those that bear less than they should where none is set."""
    for r in assessment.of(BEAMS):
        yield from _strength(assessment, r)
        yield from _sag(assessment, r)
        yield from _swing(assessment, r)


def _swing(assessment: Assessment, r: BeamResult) -> Iterator[Finding]:
    measure = assessment.measure(f"first-frequency:{r.beam.id}")
    if (limit := measure.limit) is None:
        return
    offer = partial(_remedies, assessment.project, r, lambda x: x.frequency_hz >= limit)
    yield Finding(
        "beam-frequency", measure.verdict, f"{r.beam.name} swings", f"{measure.shown} of {measure.limit_shown}.",
        _lacking(r), _item(r), measure.id, offer, of=r.beam.id, of_limit=True,
    )  # fmt: skip


def _strength(assessment: Assessment, r: BeamResult) -> Iterator[Finding]:
    measure = assessment.measure(f"safety-factor:{r.beam.id}")
    limit = measure.limit if measure.limit is not None else ENOUGH
    verdict = measure.verdict if measure.limit is not None else _verdict(limit / r.safety_factor, r)
    what = f"It bears {r.safety_factor:.3g} times what pulls on it on a bump; {limit:g} times is wanted."
    why = f"{show(r.stress_pa, 'Pa')} of {show(r.grade.strength_pa, 'Pa')} that {r.beam.material} bears (typical)."
    if verdict is Verdict.HOLDS and measure.limit is None:
        return
    yield Finding(
        "beam", verdict, f"{r.beam.name} bends", what, f"{why}{_lacking(r)}", _item(r), measure.id,
        partial(_remedies, assessment.project, r, lambda x: x.safety_factor >= limit), of=r.beam.id,
        of_limit=measure.limit is not None, use=limit / r.safety_factor, bound=bool(r.missing),
    )  # fmt: skip


def _sag(assessment: Assessment, r: BeamResult) -> Iterator[Finding]:
    if r.beam.most_sag_m is None:
        return
    most = r.beam.most_sag_m
    use = r.sag_m / most
    if (verdict := _verdict(use, r)) is Verdict.HOLDS:
        return
    what = f"{show(r.sag_m, 'm')} of {show(most, 'm')}, at rest."
    lean = f"Its end leans by {show(math.degrees(r.slope_rad), '°')}." if r.slope_rad else ""
    offer = partial(_remedies, assessment.project, r, lambda x: x.sag_m <= most)
    yield Finding("sag", verdict, f"{r.beam.name} sags", what, f"{lean}{_lacking(r)}", _item(r), "", offer,
                  of=r.beam.id, use=use, bound=bool(r.missing))  # fmt: skip


def _verdict(use: float, r: BeamResult) -> Verdict:
    """By the share that is used; what holds only while something is left out is not known."""
    if use > 1:
        return Verdict.BREAKS
    return Verdict.UNKNOWN if r.missing else Verdict.TIGHT if use > 1 / 1.25 else Verdict.HOLDS


def _lacking(r: BeamResult) -> str:
    return f" Not known yet: {'; '.join(r.missing)}." if r.missing else ""


def _item(r: BeamResult) -> tuple[str, ...]:
    return (r.beam.item,) if r.beam.item else ()


def _remedies(project: Project, r: BeamResult, mends: Callable[[BeamResult], bool]) -> tuple[Remedy, ...]:
    """The least of a few larger sizes, and the lightest other materials, that mend it."""
    beam, found = r.beam, []
    field, word = ("width_m", "a diameter") if beam.profile in {"rod", "round tube"} else ("height_m", "a height")
    sizes = (float(f"{getattr(beam, field) * more:.2g}") for more in LARGER)
    size = next((x for x in sizes if mends(_made(r, **{field: x}))), None)
    if size is not None:
        found.append((f"{word} of {show(size, 'm')}", tried(partial(set_beam, project, beam.id), **{field: size})))
    others = [m for m in choices(Beam, "material") if m != beam.material and mends(_made(r, material=m))]
    if beam.profile not in {"box tube", "round tube"}:
        others = [m for m in others if m not in ONLY_TUBES]
    others.sort(key=lambda m: GRADES[m].density_kg_m3)
    found += [(f"the same in {m}", tried(remade, project, beam.id, m)) for m in others[:MOST_OFFERED]]
    return possible(*found)


def _made(r: BeamResult, **figures: object) -> BeamResult:
    """The same with another section or material."""
    return BeamResult(r.beam.but(**figures), r.load_kg, r.least_kg, r.missing)
