"""What other subjects may read of timing."""

from wired_union.subjects.timing.assess import TIMING
from wired_union.subjects.timing.results import ChainResult, TimingResult

__all__ = ["TIMING", "ChainResult", "TimingResult"]
