"""Everything that follows from a project, joined; a discipline whose inputs are the same objects is used again."""

from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from wired_union.assess.cautions import Caution, find_cautions
from wired_union.assess.mass import (
    MassResult,
    MoneyResult,
    assess_mass,
    assess_money,
    mass_findings,
    money_findings,
)  # fmt: skip
from wired_union.assess.motion import MotionResult, assess_motion, motion_findings, with_usual_currents
from wired_union.assess.power import PowerResult, assess_power
from wired_union.assess.power_checks import power_findings
from wired_union.assess.results import Finding, Measure, Verdict, judged, worst
from wired_union.assess.timing import TimingResult, assess_timing, timing_findings
from wired_union.project.model import Project

_DISCIPLINES = (
    # name, function, what it reads of the concept; power and motion need more and follow in `assess`
    ("mass", assess_mass, ("items", "subsystems")),
    ("money", assess_money, ("items",)),
    ("timing", assess_timing, ("chains",)),
)

_POWER_READS = ("items", "feeds", "modes", "mission", "subsystems")
_LIMITS = {"runtime", "mass", "money"}

STAGE_OF = {
    "runtime": "power", "peak-current": "power", "lowest-voltage": "power", "pack-energy": "power", "mass": "mass",
    "part-count": "parts", "money": "mass",
}  # fmt: skip


@dataclass(frozen=True)
class Assessment:
    """Measures, findings and each discipline's own result for one project."""

    project: Project
    power: PowerResult
    mass: MassResult
    money: MoneyResult
    timing: TimingResult
    motion: MotionResult
    _inputs: dict[str, tuple[Any, ...]] = field(repr=False)
    _currents: tuple[float | None, ...] = field(repr=False)

    @cached_property
    def all_measures(self) -> dict[str, Measure]:
        """Every measure the program computes, by id, whether limited or not."""
        motion = self.motion.measures
        found = (*self.power.measures, *self.timing.measures, *self.mass.measures, *self.money.measures, *motion)
        return {m.id: m for m in found}

    @cached_property
    def measures(self) -> tuple[Measure, ...]:
        """One measure for each limit of the brief, in its order; unknown where nothing informs it yet."""
        return tuple(self.measure(x.measure) for x in self.project.brief.limits)

    def measure(self, measure_id: str) -> Measure:
        known = self.all_measures.get(measure_id)
        if known is not None:
            return known
        limit = self.project.brief.limit(measure_id)
        unit = "°" if measure_id.endswith("angle") else ""
        gap = Measure(measure_id, limit.name if limit else measure_id, None, unit, missing=("nothing informs it yet",))
        return judged(gap, self.project.brief)

    @cached_property
    def uninformed(self) -> tuple[str, ...]:
        """Limits that no computation informs yet."""
        return tuple(x.measure for x in self.project.brief.limits if x.measure not in self.all_measures)

    @cached_property
    def findings(self) -> tuple[Finding, ...]:
        """All findings, worst first."""
        found = [
            *power_findings(self.project, self.power),
            *timing_findings(self.project, self.timing),
            *mass_findings(self.mass),
            *money_findings(self.money),
            *motion_findings(self.project, self.motion),
        ]
        return tuple(sorted(found, key=lambda f: f.verdict.rank))

    @cached_property
    def cautions(self) -> tuple[Caution, ...]:
        return find_cautions(self.project.concept)

    @cached_property
    def item_verdicts(self) -> dict[str, Verdict]:
        """Worst verdict on each item that a finding is about."""
        found: dict[str, Verdict] = {}
        for finding in self.findings:
            for item in finding.subjects:
                if item not in found or finding.verdict.rank < found[item].rank:
                    found[item] = finding.verdict
        return found

    def stage_verdict(self, stage: str) -> Verdict | None:
        """Worst verdict of a stage of the rail, None where nothing is judged there."""
        if stage == "brief":
            return worst([m.verdict for m in self.measures if m.id in self.all_measures])
        if stage in {"concepts", "candidates", "combination"}:
            return None
        if stage == "parts":
            return worst(list(self.item_verdicts.values())) or Verdict.HOLDS
        own = [m.verdict for m in self.all_measures.values() if m.limit is not None and stage_of(m.id) == stage]
        if stage == "motion":
            own += [r.verdict for r in self.motion.loads]
        if stage == "power":
            own += [
                f.verdict
                for f in self.findings
                if f.id not in _LIMITS and f.hard and not f.id.startswith(("motion:", "room:"))
            ]
        return worst(own)


def stage_of(measure_id: str) -> str:
    """The stage that explains a measure."""
    kind = measure_id.partition(":")[0]
    return {"chain": "timing", "motion": "motion", "speed": "motion"}.get(kind, STAGE_OF.get(measure_id, "brief"))


def assess(project: Project, before: Assessment | None = None) -> Assessment:
    """Assess a project; disciplines whose inputs are the same objects as `before` are used again."""
    concept, brief = project.concept, project.brief
    results: dict[str, Any] = {}
    inputs: dict[str, tuple[Any, ...]] = {}
    for name, function, reads in _DISCIPLINES:
        inputs[name] = (brief, *(getattr(concept, x) for x in reads))
        same = before is not None and _same(inputs[name], before._inputs[name])
        results[name] = getattr(before, name) if same else function(concept, brief)
    mass_kg = results["mass"].measures[0].value or 0.0
    loaded = with_usual_currents(concept, mass_kg)
    currents = () if loaded is concept else tuple(i.part.load.active_a for i in loaded.items if i.part.load is not None)
    inputs["power"] = (brief, *(getattr(concept, x) for x in _POWER_READS))
    same = before is not None and _same(inputs["power"], before._inputs["power"]) and before._currents == currents
    results["power"] = before.power if same and before is not None else assess_power(loaded, brief)
    inputs["motion"] = (brief, concept.loads, concept.mounts, concept.items, results["power"], results["mass"])
    same = before is not None and _same(inputs["motion"], before._inputs["motion"])
    if same and before is not None:
        results["motion"] = before.motion
    else:
        results["motion"] = assess_motion(concept, brief, mass_kg, results["power"])
    return Assessment(project, _inputs=inputs, _currents=currents, **results)


def _same(now: tuple[Any, ...], then: tuple[Any, ...]) -> bool:
    return all(a is b for a, b in zip(now, then, strict=True))
