"""A packet as a strip of bits: each field as wide as its bits, then the checksum; and what it all takes in words."""

from wired_union.kernel.subject import Assessment
from wired_union.physics.packet import CRCS
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Shape, hint_picture, kept_inside
from wired_union.project.timing_model import PacketField
from wired_union.subjects.timing.air import AIR
from wired_union.subjects.timing.buses import BUSES
from wired_union.subjects.timing.packets import PacketResult
from wired_union.subjects.timing.picture_air import energy_words
from wired_union.units import show

HIGH, LABEL = 30.0, 20.0
INKS = ("plum_soft", "slate_soft", "moss_soft", "copper_soft")


def packet_picture(r: PacketResult, kit: Kit, width: float, chosen: str) -> Picture:
    """Bytes as ticks above, fields as boxes. Regions stand for fields, by their ids."""
    if r.framed_bytes is None or r.payload_bytes is None:
        return hint_picture(f"Not known yet: {'; '.join(r.missing)}.", kit, width)
    check = CRCS[r.packet.checksum][0]
    whole = 8 * r.payload_bytes + check
    scale, top, high = width / whole, kit.px(LABEL), kit.px(HIGH)
    shapes: list[Shape] = []
    regions: list[Region] = []
    x = 0.0
    for n, (field, bits) in enumerate(zip(r.packet.fields, r.bits, strict=True)):
        wide = bits * scale
        shapes += _field(n, field, bits, kit, x, wide, chosen=field.id == chosen)
        spans = f"{field.least:g} to {field.most:g} {field.unit}".strip()
        said = f"{field.name}: {bits} bits, {spans} in steps of {field.resolution:g}"
        regions.append(Region(f"field {field.id}", x, top, wide, high, said, of=field.id))
        x += wide
    spare = 8 * r.payload_bytes - sum(r.bits)
    if spare:
        shapes.append(Box(x, top, spare * scale, high, "", "line", hatch="line"))
        x += spare * scale
    if check:
        shapes.append(Box(x, top, check * scale, high, "soft", "line"))
        shapes.append(
            kit.words(x + kit.px(4), top + high / 2, kit.cut("sum", check * scale - 4, "small"), "small", "mute")
        )
    for byte in range(r.payload_bytes + check // 8 + 1):
        at = min(byte * 8 * scale, width - 1)
        shapes.append(Line(at, top - kit.px(6), at, top, "mute", 1.0))
    shapes.append(kit.words(0, kit.px(7), f"{r.payload_bytes + check // 8} bytes", "small", "mute"))
    return Picture(width, top + high + kit.px(18), kept_inside(shapes, kit, width), tuple(regions))


def _field(n: int, field: PacketField, bits: int, kit: Kit, x: float, wide: float, *, chosen: bool) -> list[Shape]:
    """A field as wide as its bits: its name as far as there is room, and how many they are."""
    top, high = kit.px(LABEL), kit.px(HIGH)
    edge, frame = ("ink", 2.0) if chosen else ("card", 1.0)
    shapes: list[Shape] = [Box(x, top, wide, high, INKS[n % len(INKS)], edge, width=frame)]
    name = kit.cut(field.name, wide - kit.px(6), "small")
    if len(name) > 2:
        shapes.append(kit.words(x + kit.px(4), top + high / 2, name, "small"))
    if wide > kit.px(14):
        below = top + high + kit.px(9)
        shapes.append(kit.figures(x + wide / 2, below, str(bits), "small", "mute", anchor="middle"))
    return shapes


def packet_words(r: PacketResult) -> str:
    """ "76 bits, 11 bytes with sum and frame; as text 42 bytes" """
    if r.framed_bytes is None or r.text_bytes is None:
        return f"Not known yet: {'; '.join(r.missing)}."
    fewer = show(1 - r.framed_bytes / r.text_bytes, "share") if r.framed_bytes < r.text_bytes else ""
    less = (
        f", {fewer} fewer than the {r.text_bytes} of a line of text" if fewer else f"; as a line of text {r.text_bytes}"
    )
    return f"{sum(r.bits)} bits: {r.framed_bytes} bytes with sum and frame{less}"


def carried_words(assessment: Assessment, r: PacketResult) -> str:
    """What it takes on each bus and each radio link that carries it: time, and energy where the radio's is known."""
    said = []
    for b in assessment.of(BUSES):
        said += [f"{show(m.time_s, 's')} on {b.bus.name}" for m in b.messages if m.message.packet == r.packet.id]
    for link in assessment.of(AIR):
        if link.link.packet == r.packet.id:
            energy = energy_words(assessment.project.concept, link)
            said.append(f"{show(link.airtime_s, 's')} on the air to {link.link.name}{', ' + energy if energy else ''}")
    return f"It takes {'; '.join(said)}." if said else ""
