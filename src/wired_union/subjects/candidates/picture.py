"""Slots and candidates as lists: what each would do, and every part refused with the requirement that refused it."""

from collections.abc import Sequence

from msgspec import Struct

from wired_union.choose.alternatives import Alternative
from wired_union.kernel.ripple import Move
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Shape
from wired_union.project.model import Item, Need
from wired_union.subjects.candidates.pick import RefusedMark, TryMark
from wired_union.units import MONEY, show


class SlotRow(Struct, frozen=True):
    """One slot of the list at the left: a need or an item, under its heading."""

    slot: Item | Need
    heading: str


def slot_list(rows: Sequence[SlotRow], kit: Kit, width: float, *, chosen: str = "") -> Picture:
    """Slots under their headings, needs first."""
    shapes: list[Shape] = []
    regions: list[Region] = []
    y, heading = 0.0, ""
    row = kit.px(24)
    for entry in rows:
        if entry.heading != heading:
            heading = entry.heading
            y += kit.px(4) if y else 0.0
            shapes.append(kit.figures(0, y + kit.px(9), heading.upper(), "tiny", "mute", bold=True))
            y += kit.px(19)
        slot = entry.slot
        count = f" ×{slot.count}" if slot.count > 1 else ""
        asked = slot.requires.count
        if slot.id == chosen:
            shapes.append(Box(-4, y, width + 8, row - 1, "soft", radius=4))
            shapes.append(Box(-4, y, 3, row - 1, "copper"))
        bold = isinstance(slot, Need)
        tag = f"{asked} asked" if asked else ""
        room = width - kit.px(6) - (kit.width(tag, "tiny", "figures") + 6 if tag else 0)
        shapes.append(kit.words(kit.px(4), y + row / 2, kit.cut(slot.name, room - kit.width(count, "small"), "small",
                                                                bold=bold) + count, "small", bold=bold))  # fmt: skip
        if tag:
            shapes.append(kit.figures(width, y + row / 2, tag, "tiny", "mute", anchor="end"))
        kind = "looked for" if isinstance(slot, Need) else "in place"
        regions.append(Region(slot.id, -4, y, width + 8, row, f"{slot.name}{count}, {kind}, {asked} requirements"))
        y += row
    return Picture(width, max(y, 1.0), tuple(shapes), tuple(regions))


def fitting_list(
    tries: Sequence[Alternative], measures: tuple[str, str], kit: Kit, width: float, *, chosen: str = ""
) -> Picture:
    """What fits: name, shelf, and how the two measures of the chart move."""
    row = kit.px(25)
    first, second = width - kit.px(104), width - kit.px(4)
    name_w = width - kit.px(210)
    shapes: list[Shape] = []
    regions: list[Region] = []
    for i, a in enumerate(tries):
        y = row * i
        mid = y + row / 2
        part = a.candidate.part.id if a.candidate is not None else a.title
        if part == chosen:
            shapes.append(Box(-4, y + 1, width + 8, row - 2, "soft", radius=4))
        elif i:
            shapes.append(Line(0, y, width, y, "line"))
        shelf = _shelf_tag(a)
        room = name_w - (kit.width(shelf, "small", "figures", True) + 8 if shelf else 0)
        title = kit.cut(a.title, room, "small", bold=True)
        shapes.append(kit.words(0, mid, title, "small", bold=True))
        if shelf:
            x = kit.width(title, "small", "words", True) + 8
            shapes.append(kit.figures(x, mid, shelf, "small", "holds_text", bold=True))
        said = []
        for at, measure in ((first, measures[0]), (second, measures[1])):
            move = _move(a, measure)
            text, tone = _move_words(move)
            said.append(f"{measure} {text}")
            shapes.append(kit.figures(at, mid, text, "small", tone, bold=True, anchor="end"))
        regions.append(
            Region(
                f"try:{i}", -4, y, width + 8, row, f"{a.title}, {shelf or a_where(a)}: {', '.join(said)}", of=TryMark(i)
            )
        )
    return Picture(width, max(row * len(tries), 1.0), tuple(shapes), tuple(regions))


def _shelf_tag(a: Alternative) -> str:
    if a.candidate is None or not a.candidate.free:
        return ""
    word = "donated" if a.candidate.origin == "donated" else "on the shelf"
    return f"{word} ({a.candidate.free})"


def a_where(a: Alternative) -> str:
    """Where a candidate is from."""
    return a.candidate.where if a.candidate is not None else "one more"


def _move(a: Alternative, measure: str) -> Move | None:
    limited = next((m for m in a.ripple.moves if m.id == measure), None)
    if limited is not None:
        return limited
    before, after = a.ripple.moves[0].before if a.ripple.moves else None, a.ripple.after.measure(measure)
    return Move(after, after) if before is not None and after.value is not None else None


def _move_words(move: Move | None) -> tuple[str, str]:
    if move is None:
        return "—", "mute"
    if not move.moved:
        return "same", "mute"
    tone = {True: "holds_text", False: "tight_text", None: "ink"}[move.better]
    if move.after.verdict.value == "breaks" and not move.better:
        tone = "breaks_text"
    return move.shown_change, tone


def refused_list(
    tries: Sequence[Alternative], kit: Kit, width: float, *, chosen: str = "", money: str = MONEY
) -> Picture:
    """What is refused: name, and each requirement that refused it with by how much."""
    shapes: list[Shape] = []
    regions: list[Region] = []
    y, line = 0.0, kit.px(16)
    for i, a in enumerate(tries):
        lines = [cut for text in a.breaks[:3] for cut in kit.wrap(text, width - kit.px(14), "small")]
        h = kit.px(22) + line * len(lines) + kit.px(3)
        part = a.candidate.part.id if a.candidate is not None else a.title
        if part == chosen:
            shapes.append(Box(-4, y + 1, width + 8, h - 2, "soft", radius=4))
        elif i:
            shapes.append(Line(0, y, width, y, "line"))
        facts = f"{show(a.candidate.part.mass_kg, 'kg')} · {show(a.candidate.part.price, money)}" if a.candidate else ""
        room = width - kit.width(facts, "small", "figures") - kit.px(10)
        shapes.append(kit.words(0, y + kit.px(12), kit.cut(a.title, room, "small"), "small", "mute"))
        shapes.append(kit.figures(width, y + kit.px(12), facts, "small", "mute", anchor="end"))
        for k, text in enumerate(lines):
            shapes.append(kit.words(kit.px(12), y + kit.px(28) + line * k, text, "small", "breaks_text"))
        regions.append(
            Region(f"refused:{i}", -4, y, width + 8, h, f"{a.title}: {'; '.join(a.breaks)}", of=RefusedMark(i))
        )
        y += h
    return Picture(width, max(y, 1.0), tuple(shapes), tuple(regions))
