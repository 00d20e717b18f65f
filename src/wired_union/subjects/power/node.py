"""Power as a step of the assessment: what it reads, and what it needs."""

from wired_union.kernel.results import Finding, Measure
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.project.model import Project
from wired_union.subjects.motion.gives import USUAL, Usual
from wired_union.subjects.power.assess import PowerResult, assess_power
from wired_union.subjects.power.checks import power_findings


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    items = tuple(
        (i.id, i.name, i.subsystem, i.count, p.kind, p.load, p.motor, p.pack, p.regulator, p.driver, p.rail, p.link)
        for i in concept.items for p in [i.part]
    )  # fmt: skip
    return items, concept.feeds, concept.modes, concept.mission, concept.subsystems, project.brief.energy_reserve


def _work(project: Project, given: Given) -> PowerResult:
    usual: Usual = given.of(USUAL)
    return assess_power(project.concept, project.brief.energy_reserve, dict(usual))


POWER = Node("power", _read, _work, (USUAL,))


def measures(assessment: Assessment) -> tuple[Measure, ...]:
    return assessment.of(POWER).measures


def findings(assessment: Assessment) -> list[Finding]:
    return power_findings(assessment.project, assessment.of(POWER))
