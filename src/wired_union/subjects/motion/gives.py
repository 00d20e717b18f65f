"""What other subjects may read of motion: currents that a task sets, and what a load makes of a motor."""

from wired_union.subjects.motion.usual import (
    USUAL,
    Usual,
    constants_of,
    moved_by_mass,
    usual_currents,
    with_usual_currents,
)

__all__ = ["USUAL", "Usual", "constants_of", "moved_by_mass", "usual_currents", "with_usual_currents"]
