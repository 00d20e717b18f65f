"""Screws for a builder: how far each is tightened."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, BuildStep
from wired_union.physics.materials import BOLTS_PA
from wired_union.physics.tightening import PITCHES_M, SIZES_M, tightening_torque
from wired_union.picture.shapes import Kit
from wired_union.project.strength_model import BoltsTest
from wired_union.units import show

ORDER = 20.0
USUAL = ("M2", "M2.5", "M3", "M4", "M5", "M6")
GENTLE = "Half of it into aluminium; into plastic and printed parts by feel. Greased or locked threads rub otherwise."


def torque_n_m(thread: str, grade: str) -> float:
    """How far a screw of steel is tightened, plain and a little oily."""
    return tightening_torque(SIZES_M[thread], PITCHES_M[thread], BOLTS_PA[grade]).torque_n_m


def steps(assessment: Assessment, _: Kit) -> Iterator[BuildStep]:
    """The table of usual screws, and each group of bolts that is worked out."""
    table = ", ".join(f"{t} {show(torque_n_m(t, 'A2-70'), 'N·m')}" for t in USUAL)
    yield BuildStep(ORDER, "How far screws are tightened", f"Stainless A2-70: {table}. {GENTLE}",
                    ("torque screwdriver", "hex keys"))  # fmt: skip
    for n, test in enumerate(t for t in assessment.project.concept.borne if isinstance(t, BoltsTest)):
        if test.grade == "nylon":
            said = "by hand, no further: nylon creeps"
        else:
            said = f"to {show(torque_n_m(test.thread, test.grade), 'N·m')}"
        yield BuildStep(ORDER + 0.01 * (n + 1), f"Tighten {test.name}",
                        f"{test.bolts} × {test.thread}, class {test.grade}: {said}. {GENTLE}",
                        ("torque screwdriver",))  # fmt: skip
