"""Surfaces: which form, how far it may be off, over which inputs it may be used."""

from collections.abc import Mapping
from functools import cached_property

from msgspec import Struct

from wired_union.kernel.results import Measure, Verdict
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.physics.surface import SURFACES, SurfaceFit, fit_surface, surface_value
from wired_union.project.bench_model import Surface, SurfacePoint
from wired_union.project.model import Project


class Surfaced(Struct, frozen=True, dict=True):
    """One surface worked out. Its range is the box around its points; nothing is said beyond."""

    surface: Surface
    form: str = ""
    fit: SurfaceFit | None = None
    tried: Mapping[str, SurfaceFit] = {}
    missing: tuple[str, ...] = ()

    @cached_property
    def points(self) -> tuple[SurfacePoint, ...]:
        return tuple(p for p in self.surface.points if not p.struck)

    @cached_property
    def ends(self) -> tuple[tuple[float, float], tuple[float, float]]:
        """From where to where both inputs go."""
        xs, ys = [p.x for p in self.points], [p.y for p in self.points]
        return (min(xs, default=0.0), max(xs, default=0.0)), (min(ys, default=0.0), max(ys, default=0.0))

    def value(self, x: float, y: float) -> float:
        """The surface at a place. Raises ValueError where nothing is fitted."""
        if self.fit is None:
            raise ValueError("nothing is fitted")
        return surface_value(self.form, self.fit.coefficients, x, y)

    @property
    def error(self) -> float | None:
        """How far a value may be off, where that is most."""
        return self.fit.worst if self.fit is not None else None

    @property
    def verdict(self) -> Verdict | None:
        """Against what is wanted; None where nothing is."""
        if self.surface.wanted is None:
            return None
        if self.error is None:
            return Verdict.UNKNOWN
        return Verdict.HOLDS if self.error <= self.surface.wanted else Verdict.BREAKS


def surfaced(surface: Surface) -> Surfaced:
    """The surface of the form that is wanted, or of the form with the least small-sample AIC."""
    points = [p for p in surface.points if not p.struck]
    x, y, z = [p.x for p in points], [p.y for p in points], [p.value for p in points]
    tried: dict[str, SurfaceFit] = {}
    why = ""
    for form in SURFACES if surface.form == "best" else (surface.form,):
        try:
            tried[form] = fit_surface(x, y, z, form, surface.confidence)
        except ValueError as error:
            why = why or str(error)
    if not tried:
        return Surfaced(surface, missing=(f"{surface.name}: {why}",))
    best = min(tried, key=lambda f: tried[f].aicc)
    return Surfaced(surface, best, tried[best], tried)


def _work(project: Project, _: Given) -> tuple[Surfaced, ...]:
    return tuple(map(surfaced, project.concept.surfaces))


SURFACED = Node("surfaces", lambda p: (p.concept.surfaces,), _work)


def measures(assessment: Assessment) -> list[Measure]:
    """Of each surface the most that it may be off."""
    return [
        Measure("error", f"{s.surface.name}, error", s.error, s.surface.unit, missing=s.missing, of=s.surface.id)
        for s in assessment.of(SURFACED)
    ]
