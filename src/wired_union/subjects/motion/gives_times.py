"""What other subjects may read of motion once power is known: how long each movement takes, and what moves it."""

from wired_union.subjects.motion.assess import MOTION, MotionResult
from wired_union.subjects.motion.results import Drive, LoadResult

__all__ = ["MOTION", "Drive", "LoadResult", "MotionResult"]
