"""The subjects, in the order of the rail, and a project assessed by all of them."""

from functools import cache
from importlib import import_module

from wired_union.kernel.engine import Assessment, assess_with
from wired_union.kernel.subject import Subject
from wired_union.project.model import Project

NAMES = (
    "brief", "concepts", "parts", "candidates", "combination", "motion", "power", "mass", "timing", "formulas", "fit",
    "strength", "wiring", "interlocks", "plan", "ledger", "bench", "trials", "notebook", "handover",
)  # fmt: skip


@cache
def subjects() -> tuple[Subject, ...]:
    """Every subject of the program."""
    return tuple(import_module(f"{__name__}.{name}.subject").SUBJECT for name in NAMES)


def assess(project: Project, before: Assessment | None = None) -> Assessment:
    """Assess a project by every subject; what reads the same values as in `before` is used again.

    What depends on the day, such as a plan, is not known before it is said: `assess(project).on("2026-11-28")`.
    """
    return assess_with(subjects(), project, before)
