"""What must move, in the report."""

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import drawn
from wired_union.subjects.motion.assess import MOTION
from wired_union.subjects.motion.picture import drawing
from wired_union.subjects.motion.results import LoadResult

WIDE, HIGH = 560.0, 190.0


def section(assessment: Assessment, kit: Kit) -> Section:
    """Each load drawn to scale, with its checks and figures."""
    blocks: list[Block] = []
    for result in assessment.of(MOTION).loads:
        heading = Block(text=f"{result.load.name}: {result.verdict.value}", tone="heading")
        blocks += [heading, drawn(drawing(result, kit, WIDE, HIGH), f"{result.load.name}, to scale"), *_load(result)]
    return Section("What must move", tuple(blocks))


def _load(result: LoadResult) -> list[Block]:
    blocks = []
    if result.missing:
        blocks.append(Block(text=f"Not known yet: {'; '.join(result.missing)}.", tone="note"))
    if result.checks:
        rows = tuple((c.name, c.said, c.verdict.value) for c in result.checks)
        blocks.append(Block(head=("what must hold", "needed of what there is", ""), rows=rows, figures=(1,)))
    if result.rows:
        blocks.append(Block(text="; ".join(f"{r.name} {r.text}" for r in result.rows) + ".", tone="note"))
    blocks += [Block(text=n, tone="note") for n in result.notes]
    return blocks
