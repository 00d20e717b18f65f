"""What follows for one thing that must bear: checks, rows, what is missing, what to be careful of."""

from msgspec import Struct

from wired_union.kernel.checks import Check, Row
from wired_union.kernel.results import Verdict, worst
from wired_union.project.strength_model import AnyTest


class TestResult(Struct, frozen=True):
    """One thing with its checks."""

    __test__ = False
    test: AnyTest
    checks: tuple[Check, ...] = ()
    rows: tuple[Row, ...] = ()
    missing: tuple[str, ...] = ()
    caution: str = ""

    @property
    def worst(self) -> Check | None:
        return max(self.checks, key=lambda c: c.use, default=None)

    @property
    def use(self) -> float | None:
        """Share used in the check that is nearest to breaking; None while something is missing and none breaks."""
        if self.worst is None or (self.missing and self.worst.verdict is not Verdict.BREAKS):
            return None
        return self.worst.use

    @property
    def verdict(self) -> Verdict:
        found = worst([c.verdict for c in self.checks]) or Verdict.UNKNOWN
        return Verdict.UNKNOWN if self.missing and found is not Verdict.BREAKS else found
