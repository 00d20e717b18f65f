"""What Wiring hands over: bench drawing, labels, tables, the names of pins, what controls do."""

from collections.abc import Callable, Iterator
from functools import partial

from wired_union.kernel.subject import Assessment, Paper
from wired_union.picture.shapes import Kit
from wired_union.project.model import Item
from wired_union.subjects.wiring import exports
from wired_union.subjects.wiring.assess import WIRES
from wired_union.subjects.wiring.bench_drawing import bench_pages, labels_picture, pages_pdf
from wired_union.subjects.wiring.pins import PINS


def papers(assessment: Assessment) -> Iterator[Paper]:
    """What there is of pins and cables."""
    boards, kit = assessment.of(PINS).boards(), Kit()
    if boards:
        yield Paper("wiring/bench-drawing.pdf", "pins of every controller, every cable wire by wire",
                    lambda: pages_pdf(bench_pages(assessment, kit)))  # fmt: skip
        yield Paper("wiring/pins.csv", "what is on which pin", lambda: exports.pin_table(assessment).encode())
    if assessment.of(WIRES).cables:
        yield Paper("wiring/labels.pdf", "a label for each end of each cable",
                    lambda: pages_pdf(labels_picture(assessment, kit)))  # fmt: skip
        yield Paper("wiring/cut-list.csv", "every wire to cut", lambda: exports.cut_list(assessment).encode())
        yield Paper("wiring/plugs.csv", "every plug and socket", lambda: exports.connector_list(assessment).encode())
    taken: set[str] = set()
    for board in boards:
        name = exports.identifier(board.name, taken, upper=False)
        yield Paper(f"code/{name}_pins.h", f"pins of {board.name} in C",
                    partial(_encoded, exports.c_header, assessment, board))  # fmt: skip
        yield Paper(f"code/{name}_pins.py", f"pins of {board.name} in Python",
                    partial(_encoded, exports.python_header, assessment, board))  # fmt: skip


def _encoded(write: Callable[[Assessment, Item], str], assessment: Assessment, board: Item) -> bytes:
    return write(assessment, board).encode()
