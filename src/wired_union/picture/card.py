"""A part as a card: name, what it takes, what it weighs, how well it is known, and its verdict."""

from wired_union.catalogue.figures import pack_energy_wh
from wired_union.catalogue.parts import discipline_of
from wired_union.kernel.results import Verdict
from wired_union.physics.battery import CHEMISTRIES
from wired_union.picture.bars import knowledge_line
from wired_union.picture.palette import DISCIPLINE_INK
from wired_union.picture.shapes import Box, Kit, Picture, Shape
from wired_union.picture.wire import glyph
from wired_union.project.model import Item, Part
from wired_union.units import show

CARD_W, CARD_H = 150.0, 52.0
"""Least width of a card, and its height."""


def gist(part: Part) -> str:
    """The figures that matter most for a part, in a few words."""
    if part.supply is not None:
        return f"{show(part.supply.output_v, 'V')} up to {show(part.supply.max_current_a, 'A')}"
    if part.pack is not None and part.regulator is not None:
        energy = pack_energy_wh(part)
        return f"{show(part.regulator.output_v, 'V')} {show(energy, 'Wh')}" if energy else "a power bank"
    if part.pack is not None:
        chemistry = CHEMISTRIES.get(part.pack.chemistry)
        volts = part.pack.series * chemistry.nominal_v if chemistry else None
        ohm = part.pack.cell_resistance_ohm
        return f"{show(volts, 'V')} {show(ohm * part.pack.series / part.pack.parallel, 'Ω') if ohm else ''}"
    if part.regulator is not None:
        return f"{show(part.regulator.output_v, 'V')} up to {show(part.regulator.max_current_a, 'A')}"
    if part.driver is not None:
        return f"{part.driver.channels} × {show(part.driver.channel_current_a, 'A')}"
    if part.rail is not None:
        return f"up to {show(part.rail.max_current_a, 'A')}"
    if part.load is not None:
        peak = part.load.startup_a or part.load.peak_a
        return f"{show(part.load.rated_v, 'V')} {show(peak or part.load.active_a, 'A')}{' peak' if peak else ''}"
    sides = [s for s in (part.length_m, part.width_m, part.height_m) if s is not None]
    return " × ".join(f"{s * 1000:g}" for s in sides) + "\u202fmm" if sides else part.kind


def part_card(item: Item, verdict: Verdict | None, kit: Kit, width: float = 0.0, *, selected: bool = False) -> Picture:
    """The card of an item. Its left edge wears the colour of its discipline."""
    w, h = max(width, kit.px(CARD_W)), kit.px(CARD_H)
    ink = DISCIPLINE_INK[discipline_of(item.part.kind)]
    left, right = kit.px(13), w - kit.px(9)
    marked = verdict in {Verdict.BREAKS, Verdict.TIGHT, Verdict.UNKNOWN}
    count = f" ×{item.count}" if item.count > 1 else ""
    mass = show(item.part.mass_kg * item.count, "kg") if item.part.mass_kg is not None else "mass ?"
    room = right - left - (kit.px(22) if marked else 0)
    name_room = room - (kit.width(count, "small", "words", True) if count else 0)
    shapes: list[Shape] = [
        Box(0.75, 0.75, w - 1.5, h - 1.5, "card", "ink" if selected else "line", 4, 2.0 if selected else 1.0),
        Box(0, 0.75, kit.px(5), h - 1.5, ink, radius=2),
        kit.words(left, h * 0.29, kit.cut(item.name, name_room, "small", bold=True) + count, "small", bold=True),
        kit.figures(right, h * 0.64, mass, "small", "mute", anchor="end"),
    ]
    gist_room = right - left - kit.width(mass, "small", "figures") - kit.px(8)
    shapes.append(kit.figures(left, h * 0.64, kit.cut(gist(item.part), gist_room, "small", "figures"), "small", "mute"))
    shapes.append(knowledge_line(item.knowledge, left, h * 0.87, right - left, ink))
    if marked:
        shapes += glyph(verdict, kit.px(17), h * 0.27, right - kit.px(17))
    return Picture(w, h, tuple(shapes))


def card_label(item: Item, verdict: Verdict | None) -> str:
    """What a screen reader says of a card."""
    mass = show(item.part.mass_kg, "kg") if item.part.mass_kg is not None else "mass not known"
    said = f", {verdict.value}" if verdict is not None else ""
    return f"{item.name}, {item.count} of them, {gist(item.part)}, {mass} each, by {item.knowledge}{said}"
