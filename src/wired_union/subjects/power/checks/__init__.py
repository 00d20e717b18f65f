"""Every check on the power tree. A new one is its function and one name here, in HARD where it may be hard."""

from collections.abc import Callable

from wired_union.kernel.results import Finding
from wired_union.kernel.subject import Assessment
from wired_union.project.model import Project
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.checks.care import check_cool, check_cut_off
from wired_union.subjects.power.checks.charging import check_charging
from wired_union.subjects.power.checks.converters import check_drivers, check_regulators
from wired_union.subjects.power.checks.levels import check_levels
from wired_union.subjects.power.checks.loads import check_gaps, check_ratings, check_supplies
from wired_union.subjects.power.checks.packs import check_packs, check_runtime
from wired_union.subjects.power.checks.plugged import check_plugged
from wired_union.subjects.power.checks.protection import check_coils, check_polarity, check_starting
from wired_union.subjects.power.checks.rails import check_rails
from wired_union.subjects.power.checks.resets import check_inrush, check_resets
from wired_union.subjects.power.checks.unfused import check_unfused
from wired_union.subjects.power.checks.warm import check_warmth
from wired_union.subjects.power.checks.windings import check_windings
from wired_union.subjects.power.checks.wires import check_wires
from wired_union.subjects.power.first.run import First
from wired_union.subjects.power.light.run import Light
from wired_union.subjects.power.scene import PowerScene
from wired_union.subjects.power.warmth.run import Heat

HARD = (
    check_packs,
    check_plugged,
    check_regulators,
    check_drivers,
    check_rails,
    check_wires,
    check_supplies,
    check_levels,
    check_resets,
    check_inrush,
    check_warmth,
    check_windings,
    check_charging,
    check_starting,
)
"""Checks on what a part cannot do without."""
CHECKS = (
    check_runtime,
    *HARD,
    check_unfused,
    check_cut_off,
    check_coils,
    check_polarity,
    check_cool,
    check_ratings,
    check_gaps,
)


def power_findings(
    project: Project, result: PowerResult, first: First, heat: Heat, light: Light, *,
    hard_only: bool = False,
    again: Callable[[Project], Assessment] | None = None, first_again: Callable[[Project], First] | None = None,
    heat_again: Callable[[Project], Heat] | None = None,
) -> list[Finding]:  # fmt: skip
    """Every finding on power, or those on ratings that break alone; `again` assesses another project, for remedies."""
    scene = PowerScene(project, result, first, heat, light, hard_only, again, first_again, heat_again)
    if hard_only:
        return [finding for check in HARD for finding in check(scene)]
    return [_while_unknown(scene, finding) for check in CHECKS for finding in check(scene)]


def _while_unknown(scene: PowerScene, finding: Finding) -> Finding:
    """A share of a rating is a bound while something that may draw on the same pack or supply is not known."""
    if finding.use is None or finding.of_limit:
        return finding
    gap = next((g for i in finding.items if (g := scene.gap_under(i)) is not None), None)
    return finding if gap is None else finding.while_unknown(gap.said)
