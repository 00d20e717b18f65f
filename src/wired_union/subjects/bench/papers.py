"""What the bench hands over: each calibration as a program."""

from collections.abc import Callable, Iterator
from functools import partial

from wired_union.kernel.subject import Assessment, Paper
from wired_union.subjects.bench.calibrations import CALIBRATIONS, Calibrated
from wired_union.subjects.bench.code import NoCode, c_code, name_of, python_code


def papers(assessment: Assessment) -> Iterator[Paper]:
    """Those that have a curve, in C and in Python."""
    taken: set[str] = set()
    for c in assessment.of(CALIBRATIONS):
        if not _has_code(c):
            continue
        name = name_of(c)
        while name in taken:
            name += "_"
        taken.add(name)
        yield Paper(f"code/{name}.h", f"calibration of {c.calibration.name} in C", partial(_encoded, c_code, c))
        yield Paper(
            f"code/{name}.py", f"calibration of {c.calibration.name} in Python", partial(_encoded, python_code, c)
        )


def _has_code(c: Calibrated) -> bool:
    try:
        python_code(c)
    except NoCode:
        return False
    return True


def _encoded(write: Callable[[Calibrated], str], c: Calibrated) -> bytes:
    return write(c).encode()
