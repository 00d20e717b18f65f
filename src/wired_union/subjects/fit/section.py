"""What fits and what is seen, in the report."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import drawn
from wired_union.subjects.fit.boxes import FITTING
from wired_union.subjects.fit.picture import beams_picture, said, sees_picture, stacks_picture
from wired_union.subjects.fit.sights import SEEN, floor_of
from wired_union.subjects.fit.stacks import STACKS
from wired_union.units import show

WIDE, HIGH, STACKED = 760.0, 190.0, 120.0


def section(assessment: Assessment, kit: Kit) -> Section:
    """Views, overlaps, stacks, rows of beams; nothing where none is said."""
    return Section("Fit and sight", tuple(_blocks(assessment, kit)))


def _blocks(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    concept, fitting, seen = assessment.project.concept, assessment.of(FITTING), assessment.of(SEEN)
    if any(r.look is not None for r in seen.sights):
        picture = sees_picture(seen, fitting.placed, floor_of(concept), kit, WIDE, HIGH)
        yield drawn(picture, "what it sees")
    for r in seen.sights:
        yield Block(text=f"{said(r)}.{f' Not known: {chr(59).join(r.missing)}.' if r.missing else ''}")
    if fitting.overlaps:
        rows = tuple((x.one.name, x.other.name, show(x.deep_m, "m"), x.pose or "as built") for x in fitting.overlaps)
        yield Block(text="What may touch, parts counted as boxes", tone="heading")
        yield Block(head=("part", "and", "deep", "when"), rows=rows, figures=(2,))
    stacks = assessment.of(STACKS)
    if stacks:
        yield Block(text="Stacks", tone="heading")
        yield drawn(stacks_picture(stacks, kit, WIDE, STACKED), "stacks")
    if seen.rows:
        yield Block(text="Rows of beams", tone="heading")
        yield drawn(beams_picture(seen.rows, kit, WIDE), "rows of beams")
