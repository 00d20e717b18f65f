"""Pins, buses, cables and what is handed over, in the report."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import drawn
from wired_union.subjects.wiring.agreed import HANDED
from wired_union.subjects.wiring.assess import WIRES
from wired_union.subjects.wiring.picture_cables import cables_picture
from wired_union.subjects.wiring.pins import PINS, PinsResult
from wired_union.subjects.wiring.words import bus_words
from wired_union.units import show

WIDE, MOST_CABLES = 960.0, 4


def section(assessment: Assessment, kit: Kit) -> Section:
    """The pin table, buses, cables to scale, interfaces and controls."""
    return Section("From pins to parts", tuple(_blocks(assessment, kit)), looked_up=True)


def _blocks(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    pins, wires, concept = assessment.of(PINS), assessment.of(WIRES), assessment.project.concept
    if pins.wired:
        yield Block(text=f"Pins: {pins.used} of {pins.pins} taken", tone="heading")
        yield Block(head=("part", "controller", "signals on pins"), rows=tuple(_by_part(pins)))
    elif pins.clash:
        yield Block(text=f"Not all signals find a pin: {', '.join(w.name for w in pins.clash)}.")
    if wires.buses:
        yield Block(text="Buses that parts share", tone="heading")
        for bus in wires.buses:
            yield Block(text=f"{bus.name}: {bus_words(bus)}.")
    if wires.cables:
        yield Block(text="Cables", tone="heading")
        shown = sorted(wires.cables, key=lambda c: (c.verdict.rank, -(c.share or 0.0)))[:MOST_CABLES]
        words = f"{len(wires.cables)} cables, {show(wires.length_m, 'm')} together; all in the bench drawing."
        yield Block(text=words)
        picture = cables_picture(shown, concept.wiring.most_drop, kit, WIDE, "")
        yield drawn(picture, "cables to scale")
    handed = assessment.of(HANDED)
    if handed:
        yield Block(text="What people’s parts hand each other", tone="heading")
        names = {i.id: i.name for i in concept.items}
        yield Block(text="; ".join(
            f"{h.interface.name}, {names.get(h.interface.one, '?')} → {names.get(h.interface.other, '?')}: {h.stands}"
            for h in handed
        ) + ".")  # fmt: skip
    if concept.controls:
        yield Block(text="Controls of the operator", tone="heading")
        yield Block(text="; ".join(f"{way}: {control} → {does} ({state})"
                                   for way, control, does, state in control_rows(assessment)) + ".")  # fmt: skip


def _by_part(pins: PinsResult) -> Iterator[tuple[str, str, str]]:
    """Each part with its signals and the pins that they are on."""
    found: dict[tuple[str, str], list[str]] = {}
    for w in pins.wired:
        part, _, line = w.wish.name.rpartition(": ")
        copy = f" {w.wish.key.copy}" if w.wish.key.item and part.endswith(f" {w.wish.key.copy}") else ""
        where = (part.removesuffix(copy) or w.wish.name, w.tooth.item.name)
        found.setdefault(where, []).append(f"{line if part else 'it'}{copy} {w.tooth.pin.name}")
    for (part, board), signals in found.items():
        yield part, board, ", ".join(signals)


def control_rows(assessment: Assessment) -> Iterator[tuple[str, ...]]:
    """Each control with what it does."""
    states = {s.id: s.name for s in assessment.project.concept.states}
    for c in sorted(assessment.project.concept.controls, key=lambda c: c.scheme):
        yield c.scheme or "both", c.input or c.name, c.does or c.name, states.get(c.state, "any")
