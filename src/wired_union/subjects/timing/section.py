"""Signal chains in the report."""

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import to_svg
from wired_union.subjects.timing.assess import TIMING, chain_measure
from wired_union.subjects.timing.picture import chain_picture
from wired_union.units import show

WIDE = 760.0


def section(assessment: Assessment, kit: Kit) -> Section:
    """Each chain with its bars."""
    blocks: list[Block] = []
    for chain in assessment.of(TIMING).chains:
        latency, name = chain.latency, chain.chain.name
        text = f"{show(latency.most_s, 's')} worst, {show(latency.typical_s, 's')} typical" if latency else (
            "; ".join(chain.missing))  # fmt: skip
        picture = chain_picture(chain, kit, WIDE, chain_measure(assessment, chain).limit)
        blocks += [Block(text=f"{name}: {text}", tone="heading"), Block(svg=to_svg(picture, label=name))]
    return Section("From something sensed to something done", tuple(blocks) or (Block(text="No signal chain yet."),))
