"""Pins, buses, cables and what is handed over, in the report."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import to_svg
from wired_union.subjects.wiring.agreed import HANDED
from wired_union.subjects.wiring.assess import WIRES
from wired_union.subjects.wiring.exports import pin_rows
from wired_union.subjects.wiring.picture_cables import cables_picture
from wired_union.subjects.wiring.pins import PINS
from wired_union.subjects.wiring.words import bus_words

WIDE = 760.0


def section(assessment: Assessment, kit: Kit) -> Section:
    """The pin table, buses, cables to scale, interfaces and controls."""
    return Section("From pins to parts", tuple(_blocks(assessment, kit)), looked_up=True)


def _blocks(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    pins, wires, concept = assessment.of(PINS), assessment.of(WIRES), assessment.project.concept
    if pins.wired:
        head, *rows = pin_rows(assessment)
        yield Block(text=f"Pins: {pins.used} of {pins.pins} taken", tone="heading")
        yield Block(head=tuple(head[:5]), rows=tuple(tuple(r[:5]) for r in rows))
    elif pins.clash:
        yield Block(text=f"Not all signals find a pin: {', '.join(w.name for w in pins.clash)}.")
    if wires.buses:
        yield Block(text="Buses that parts share", tone="heading")
        for bus in wires.buses:
            yield Block(text=f"{bus.name}: {bus_words(bus)}. {bus.silences}".strip())
    if wires.cables:
        yield Block(text="Cables", tone="heading")
        picture = cables_picture(wires.cables, concept.wiring.most_drop, kit, WIDE, "")
        yield Block(svg=to_svg(picture, label="cables to scale"))
    handed = assessment.of(HANDED)
    if handed:
        yield Block(text="What people’s parts hand each other", tone="heading")
        names = {i.id: i.name for i in concept.items}
        rows_of = tuple((h.interface.name, names.get(h.interface.one, "?"), names.get(h.interface.other, "?"),
                         h.interface.gives or "as its packet or message says", h.stands) for h in handed)  # fmt: skip
        yield Block(head=("interface", "from", "to", "what", "stands"), rows=rows_of)
    if concept.controls:
        yield Block(text="Controls of the operator", tone="heading")
        yield Block(head=("way to steer", "control", "does", "in state"), rows=tuple(control_rows(assessment)))


def control_rows(assessment: Assessment) -> Iterator[tuple[str, ...]]:
    """Each control with what it does."""
    states = {s.id: s.name for s in assessment.project.concept.states}
    for c in sorted(assessment.project.concept.controls, key=lambda c: c.scheme):
        yield c.scheme or "both", c.input or c.name, c.does or c.name, states.get(c.state, "any")
