"""What other subjects may read of motion once power is known: how long each movement takes."""

from wired_union.subjects.motion.assess import MOTION, MotionResult

__all__ = ["MOTION", "MotionResult"]
