"""What a team would do next with a young project."""

from msgspec import Struct

from wired_union.kernel.subject import Assessment
from wired_union.project.model import Project
from wired_union.subjects.power.gives import POWER


class FirstStep(Struct, frozen=True):
    text: str
    stage: str


def first_steps(project: Project, assessment: Assessment) -> list[FirstStep]:
    """Steps that are still open, in the order teams work; empty once the figures stand on their own."""
    concept = project.concept
    parts = [i.part for i in concept.items]
    unfed = bool(assessment.of(POWER).tree.unfed) and any(p.pack for p in parts)
    open_steps = (
        (not project.brief.limits, "say what must hold: add a limit", "brief"),
        (not any(p.load for p in parts), "add what the machine does: a motor, a sensor, a controller", "parts"),
        (not any(p.pack for p in parts), "add a pack to feed it all", "parts"),
        (unfed, "connect each part to what feeds it", "parts"),
        (not concept.mission.phases, "say how it is used: modes and the mission", "power"),
        (not any(m.uses for m in concept.modes) and bool(parts), "say what each part does in each mode", "power"),
        (not concept.chains and bool(parts), "add a signal chain: from something sensed to something done", "timing"),
    )  # fmt: skip
    return [FirstStep(text, stage) for wanted, text, stage in open_steps if wanted]
