"""What Interlocks hands over: the page for the wall, and the states as a program."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, BuildStep, Paper
from wired_union.picture.shapes import Kit
from wired_union.subjects.interlocks.assess import STATES
from wired_union.subjects.interlocks.code import c_code, python_code
from wired_union.subjects.interlocks.wall import FIRST_RUNS, wall_lines, wall_page

ORDER = 90.0


def papers(assessment: Assessment) -> Iterator[Paper]:
    """The page where something can hurt; programs where there are states."""
    concept, name = assessment.project.concept, assessment.project.name
    if concept.hazards:
        yield Paper("before-arming.html", "what to check before arming, for the wall",
                    lambda: wall_page(assessment).encode())  # fmt: skip
    if concept.states:
        machine = assessment.of(STATES).machine
        yield Paper("code/states.h", "the states of the machine in C", lambda: c_code(machine, name).encode())
        yield Paper("code/states.py", "the states of the machine in Python",
                    lambda: python_code(machine, name).encode())  # fmt: skip


def steps(assessment: Assessment, _: Kit) -> Iterator[BuildStep]:
    """What to look at before the first run, hazard by hazard."""
    lines = [f"{hazard}: {guard}; {who} looks" for hazard, guard, who in wall_lines(assessment)]
    if lines:
        yield BuildStep(ORDER, "Before the first run", f"{'. '.join(lines)}.", (), " ".join(FIRST_RUNS))
