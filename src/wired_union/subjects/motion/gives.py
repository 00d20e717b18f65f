"""What other subjects may read of motion: currents that a task sets, and what a load makes of a motor."""

from wired_union.subjects.motion.shafts import SHAFTS, Shaft
from wired_union.subjects.motion.usual import (
    USUAL,
    Usual,
    constants_of,
    least_asking,
    moved_by_mass,
    shaping_parts,
    usual_currents,
    with_usual_currents,
)

__all__ = [
    "SHAFTS", "USUAL", "Shaft", "Usual", "constants_of", "least_asking", "moved_by_mass", "shaping_parts",
    "usual_currents",
    "with_usual_currents",
]  # fmt: skip
