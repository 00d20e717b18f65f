"""The rope with everybody under it, in one picture, so that a task can be carried to somebody."""

from msgspec.structs import replace

from wired_union.picture.shapes import Kit, Picture, shifted
from wired_union.project.model import Project
from wired_union.subjects.plan.pick import PlanPick
from wired_union.subjects.plan.picture_chance import people_picture
from wired_union.subjects.plan.picture_rope import Frame, rope_picture
from wired_union.subjects.plan.schedule import Scheduled

GAP = 6.0


def plan_picture(
    plan: Scheduled, project: Project, kit: Kit, width: float, picked: PlanPick, at: Frame | None = None
) -> Picture:  # fmt: skip
    """All of it; `at` keeps the days where they are while an end is dragged."""
    rope = rope_picture(plan, project, kit, width, picked, at)
    people = people_picture(plan, project, kit, width, picked)
    down = rope.height + kit.px(GAP)
    regions = tuple(replace(r, y=r.y + down) for r in people.regions)
    return Picture(width, down + people.height, (*rope.shapes, *shifted(people.shapes, 0, down)),
                   (*rope.regions, *regions))  # fmt: skip
