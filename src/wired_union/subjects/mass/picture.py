"""What hangs on the wire: every gram of each subsystem as a bar, what is only allowed for hatched below it."""

from msgspec import Struct

from wired_union.catalogue.parts import discipline_of
from wired_union.picture.palette import DISCIPLINE_INK
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Shape
from wired_union.project.model import Concept
from wired_union.subjects.mass.assess import MassLine, MassResult
from wired_union.units import show

LEAST_H = 3.0


class Allowance(Struct, frozen=True):
    """What a lane allows for what is not known yet."""

    lane: str


def hanging_picture(
    mass: MassResult, concept: Concept, kit: Kit, width: float, height: float, *, selected: str = ""
) -> Picture:
    """Columns of subsystems, heaviest first; length is mass. Regions are the items, by id."""
    names = {s.id: s.name for s in concept.subsystems}
    lanes = [(lane, lines) for lane, lines in mass.by_subsystem if lines]
    shapes: list[Shape] = [Line(kit.px(4), kit.px(8), width - kit.px(4), kit.px(8), "ink", 2.0)]
    if not lanes:
        shapes.append(kit.words(kit.px(4), kit.px(32), "No part with a mass yet.", ink="mute"))
        return Picture(width, height, tuple(shapes))
    pitch = min(width / len(lanes), kit.px(170))
    start = (width - pitch * len(lanes)) / 2
    bar_w = pitch * 0.84
    heaviest = max(sum(x.total_kg for x in lines) for _, lines in lanes)
    top = kit.px(22)
    scale = (height - top - kit.px(34)) / heaviest
    regions: list[Region] = []
    for k, (lane, lines) in enumerate(lanes):
        x = start + pitch * k + (pitch - bar_w) / 2
        shapes.append(Line(x + bar_w / 2, kit.px(8), x + bar_w / 2, top, "ink"))
        y = top
        for line in lines:
            y = _hang(shapes, regions, line, kit, x, y, bar_w, scale, line.item.id == selected)
        allowance = sum(line.allowance_kg for line in lines)
        if allowance * scale > 0.5:
            shapes.append(Box(x, y, bar_w, max(allowance * scale, 2.0), "", "slate", 1, 1.0, "slate"))
            said = f"{names[lane]}: {show(allowance, 'kg')} allowed for what is not known yet"
            regions.append(
                Region(f"allowance:{lane}", x, y, bar_w, max(allowance * scale, 4.0), said, of=Allowance(lane))
            )
            y += allowance * scale
        total = sum(line.total_kg for line in lines)
        text = f"{names[lane]} {show(total, 'kg')}"
        shapes.append(kit.words(x + bar_w / 2, y + kit.px(13), kit.cut(text, pitch, "small", bold=True), "small",
                                bold=True, anchor="middle"))  # fmt: skip
    return Picture(width, height, tuple(shapes), tuple(regions))


def _hang(
    shapes: list[Shape], regions: list[Region], line: MassLine, kit: Kit, x: float, y: float, w: float, scale: float,
    selected: bool,
) -> float:  # fmt: skip
    h = line.known_kg * scale
    ink = DISCIPLINE_INK[discipline_of(line.item.part.kind)]
    shapes.append(Box(x, y, w, max(h - 1.0, 0.8), ink, "ink" if selected else "", 2, 2.0))
    mass = show(line.known_kg, "kg")
    if h >= kit.px(16):
        tall = h >= kit.px(34)
        room = w - kit.px(12) - (0 if tall else kit.width(mass, "small", "figures", True) + kit.px(8))
        count = f" ×{line.item.count}" if line.item.count > 1 else ""
        name = kit.cut(line.item.name, room - kit.width(count, "small", "figures", True), "small", "figures", True)
        at = y + min(h / 2, kit.px(12))
        shapes.append(kit.figures(x + 7, at, name + count, "small", "card", bold=True))
        if tall:
            shapes.append(kit.figures(x + 7, at + kit.px(15), mass, "small", "card"))
        else:
            shapes.append(kit.figures(x + w - 7, at, mass, "small", "card", bold=True, anchor="end"))
    said = (
        f"{line.item.name} ×{line.item.count}: {mass} by {line.item.knowledge}, {show(line.allowance_kg, 'kg')} allowed"
    )
    regions.append(Region(line.item.id, x, y, w, max(h, LEAST_H), said))
    return y + h
