"""Mass and money in the report."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import drawn
from wired_union.project.model import Concept, Pose
from wired_union.subjects.mass.assess import MASS
from wired_union.subjects.mass.balance import BALANCE, Posed
from wired_union.subjects.mass.beams import BEAMS
from wired_union.subjects.mass.envelope import ENVELOPE, size_words
from wired_union.subjects.mass.money import MONEY
from wired_union.subjects.mass.picture import hanging_picture
from wired_union.subjects.mass.picture_beams import beams_picture
from wired_union.subjects.mass.picture_places import places_drawing
from wired_union.subjects.mass.tipping import is_asked
from wired_union.units import show

WIDE, HIGH = 760.0, 270.0


def section(assessment: Assessment, kit: Kit) -> Section:
    """The sums, the hanging bars, and where the money comes from."""
    mass, money = assessment.of(MASS), assessment.of(MONEY)
    text = (
        f"{show(mass.known_kg, 'kg')} known, {show(mass.allowance_kg, 'kg')} allowed for growth,"
        f" {show(mass.margin_kg, 'kg')} system margin."
    )
    picture = hanging_picture(mass, assessment.project.concept, kit, WIDE, HIGH)
    spent = [(str(o), show(v, assessment.project.brief.currency)) for o, v in money.by_origin.items() if v]
    blocks = [Block(text=text), drawn(picture, "mass by subsystem")]
    if spent:
        blocks.append(Block(head=tuple(o for o, _ in spent), rows=(tuple(v for _, v in spent),),
                            figures=tuple(range(len(spent)))))  # fmt: skip
    return Section(
        "Mass and money", (*blocks, *_weighed(assessment), *_standing(assessment, kit), *_bending(assessment, kit))
    )


RULES = {"by knowledge": "each by how well it is known", "fixed share": "all by one share",
         "root of squares": "each by how well it is known, together as the root of their squares"}  # fmt: skip


def _weighed(assessment: Assessment) -> Iterator[Block]:
    """By which school masses are allowed for, and what lay on a scale."""
    brief, concept = assessment.project.brief, assessment.project.concept
    why = f" {brief.margin_why}" if brief.margin_why else ""
    small = "Cables, screws, glue and paint are counted by parts of their own or not at all."
    if brief.small_things is not None:
        small = f"Cables, screws, glue and paint count as {show(brief.small_things, fraction=True)} of the parts."
    yield Block(text=f"Masses may grow, {RULES[brief.margin_school]}.{why} {small}", tone="note")
    if concept.weighings:
        names = {i.id: i.name for i in concept.items}
        rows = tuple((w.on, names[w.item], str(w.copies), show(w.mass_kg, "kg"), w.scale) for w in concept.weighings)
        yield Block(text="Weighed", tone="heading")
        yield Block(head=("on", "part", "copies", "together", "scale"), rows=rows, figures=(2, 3))


def _bending(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    """Every beam, bent, with its figures."""
    found = assessment.of(BEAMS)
    if not found:
        return
    yield Block(text="What bends", tone="heading")
    yield drawn(beams_picture(found, kit, WIDE), "what bends")
    rows = tuple((r.beam.name, r.beam.material, show(r.load_kg, "kg"), show(r.sag_m, "m"), f"{r.safety_factor:.3g}×",
                  show(r.frequency_hz, "Hz"), "; ".join(r.missing)) for r in found)  # fmt: skip
    yield Block(
        head=("beam", "of", "carries", "sags", "bears", "swings at", "not known"), rows=rows, figures=(2, 3, 4, 5)
    )


def _pose_modes(pose: Pose, concept: Concept) -> str:
    names = {m.id: m.name for m in concept.modes}
    return ", ".join(names[m.mode] for m in pose.modes if m.mode in names) or "any mode"


def _first_words(posed: Posed) -> tuple[str, str]:
    first = posed.first
    return ("not known", "") if first is None else (first.way, f"{first.least_deg:.1f}°")


def _standing(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    """Where things are, and at what slope it tips over each edge."""
    if not is_asked(assessment.project.concept):
        return
    balance = assessment.of(BALANCE)
    yield Block(text="Where it is", tone="heading")
    if balance.missing:
        yield Block(text=f"Not known yet: {'; '.join(balance.missing)}.", tone="note")
    if size := size_words(assessment.of(ENVELOPE)):
        yield Block(text=f"{size[:1].upper()}{size[1:]}, parts counted as boxes.")
    drawing = places_drawing(balance, kit, WIDE)
    if drawing.panes:
        yield drawn(drawing.picture, "where the parts are")
    if balance.tips:
        rows = tuple((t.way, f"{t.least_deg:.1f}°", f"{t.most_deg:.1f}°") for t in balance.tips)
        yield Block(head=("tips", "at least at", "at most at"), rows=rows, figures=(1, 2))
    if balance.poses:
        concept = assessment.project.concept
        stood = tuple((p.pose.name, _pose_modes(p.pose, concept), *_first_words(p)) for p in balance.poses)
        yield Block(head=("pose", "taken in", "tips first", "at least at"), rows=stood, figures=(3,))
    if balance.loads_n:
        spans = balance.uneven_n or ((None, None),) * len(balance.contacts)
        loads = tuple((c.name, show(n, "N"), *(show(x, "N") for x in span))
                      for c, n, span in zip(balance.contacts, balance.loads_n, spans, strict=True))  # fmt: skip
        head = ("stands on", "carries, on the flat", "least, floor uneven", "most")
        yield Block(head=head, rows=loads, figures=(1, 2, 3))
