"""The bench in the report: what was woken, expected and found."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.subjects.bench.assess import BENCH, begun, shown_found
from wired_union.subjects.bench.picture import step_words
from wired_union.units import show


def section(assessment: Assessment, _: Kit) -> Section:
    """Nothing until the bench was begun."""
    return Section("On the bench", tuple(_blocks(assessment)), looked_up=True)


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
