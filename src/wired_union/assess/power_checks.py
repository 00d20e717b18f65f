"""Every check on the power tree. A new one is its function and one name here."""

from wired_union.assess.converter_checks import check_drivers, check_rails, check_regulators
from wired_union.assess.load_checks import check_gaps, check_levels, check_supplies
from wired_union.assess.pack_checks import check_packs, check_runtime
from wired_union.assess.power import PowerResult
from wired_union.assess.power_scene import PowerScene
from wired_union.assess.results import Finding
from wired_union.project.model import Project

CHECKS = (
    check_runtime, check_packs, check_regulators, check_drivers, check_rails, check_supplies, check_levels, check_gaps,
)  # fmt: skip


def power_findings(project: Project, result: PowerResult) -> list[Finding]:
    """Every finding of the power discipline."""
    scene = PowerScene(project, result)
    return [finding for check in CHECKS for finding in check(scene)]
