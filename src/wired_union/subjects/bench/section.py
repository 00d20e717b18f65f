"""The bench in the report: what was woken, expected and found, and each calibration."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import drawn
from wired_union.subjects.bench.assess import BENCH, begun, shown_found
from wired_union.subjects.bench.calibrations import CALIBRATIONS
from wired_union.subjects.bench.picture import step_words
from wired_union.subjects.bench.picture_calibration import curve_picture, curve_words
from wired_union.units import show

WIDE = 760.0


def section(assessment: Assessment, kit: Kit) -> Section:
    """Nothing until the bench was begun, or a sensor calibrated."""
    return Section("On the bench", (*_blocks(assessment), *_calibrated(assessment, kit)), looked_up=True)


def _calibrated(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    """Each calibration with its curve and how far its quantity may be off."""
    found = assessment.of(CALIBRATIONS)
    if not found:
        return
    rows = tuple(
        (c.calibration.name, curve_words(c), str(len(c.counted)),
         f"± {show(c.worst, c.calibration.unit)}" if c.worst is not None else "not known", "; ".join(c.missing))
        for c in found
    )  # fmt: skip
    yield Block(text="Calibrations", tone="heading")
    yield Block(head=("sensor", "curve", "points", "off by at most", "not known"), rows=rows, figures=(2, 3))
    for c in found:
        if c.fit is not None:
            yield drawn(curve_picture(c, kit, WIDE), f"Calibration of {c.calibration.name}")


def _blocks(assessment: Assessment) -> Iterator[Block]:
    if not begun(assessment.project):
        return
    steps = assessment.of(BENCH)
    rows = tuple((f"{n}", w.step.item.name, w.stands, w.woken_on, step_words(w)) for n, w in enumerate(steps, 1))
    yield Block(head=("step", "part", "stands", "since", "found"), rows=rows, figures=(0,))
    read = tuple(
        (w.step.item.name, f.expect.name, show(f.expect.value, f.expect.unit), shown_found(f),
         f.reading.instrument if f.reading is not None else "", f.reading.on if f.reading is not None else "")
        for w in steps for f in w.found if f.reading is not None
    )  # fmt: skip
    if read:
        yield Block(head=("part", "figure", "expected", "found", "with", "when"), rows=read)
