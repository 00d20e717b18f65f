"""Every kind of load to move.

A new one is its value in `project/motion_model.py`, its file here, and its name below.
"""

from wired_union.project.model import AnyLoad
from wired_union.subjects.motion.kind import LoadKind
from wired_union.subjects.motion.kinds import arm, canopy, drum, flap, screw, slew, spin, stored, wheels

KINDS: dict[str, LoadKind] = {
    m.KIND.model.kind: m.KIND for m in (wheels, arm, drum, screw, spin, stored, slew, canopy, flap)
}  # fmt: skip
"""By the word that the file has for each, in the order that a menu offers them."""


def kind_of(load: AnyLoad) -> LoadKind:
    """The kind that a load is of."""
    return KINDS[load.kind]
