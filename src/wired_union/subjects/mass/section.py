"""Mass and money in the report."""

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import to_svg
from wired_union.subjects.mass.assess import MASS, MONEY
from wired_union.subjects.mass.picture import hanging_picture
from wired_union.units import show

WIDE, HIGH = 760.0, 270.0


def section(assessment: Assessment, kit: Kit) -> Section:
    """The sums, the hanging bars, and where the money comes from."""
    mass, money = assessment.of(MASS), assessment.of(MONEY)
    text = (
        f"{show(mass.known_kg, 'kg')} known, {show(mass.allowance_kg, 'kg')} allowed for what is not,"
        f" {show(mass.margin_kg, 'kg')} system margin."
    )
    picture = hanging_picture(mass, assessment.project.concept, kit, WIDE, HIGH)
    spent = [(str(o), show(v, assessment.project.brief.currency)) for o, v in money.by_origin.items() if v]
    blocks = [Block(text=text), Block(svg=to_svg(picture, label="mass by subsystem"))]
    if spent:
        blocks.append(Block(head=tuple(o for o, _ in spent), rows=(tuple(v for _, v in spent),),
                            figures=tuple(range(len(spent)))))  # fmt: skip
    return Section("Mass and money", tuple(blocks))
