"""Buses as bars: the share of the time that each is in use, and under it its messages with the longest each takes."""

import math
from collections.abc import Sequence

from msgspec import Struct

from wired_union.kernel.results import Verdict
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Shape, hint_picture
from wired_union.subjects.timing.buses import BusResult, MessageResult
from wired_union.subjects.timing.pull_ups import lines_words
from wired_union.units import show

HEAD, LINE, GAP, NAMED = 24.0, 17.0, 10.0, 122.0
INKS = {Verdict.HOLDS: "holds", Verdict.TIGHT: "tight", Verdict.BREAKS: "breaks", Verdict.UNKNOWN: "unknown"}
BUS_NAMES = {"i2c": "I²C", "spi": "SPI", "uart": "UART", "can": "CAN", "one-wire": "one-wire"}


class BusPick(Struct, frozen=True):
    """A bus, or a message, by its id."""

    room: str
    id: str


def buses_picture(found: Sequence[BusResult], kit: Kit, width: float, chosen: str) -> Picture:
    """A bar for each bus against all of the time, its messages below. Regions stand for a `BusPick`."""
    if not found:
        return hint_picture("No bus yet. Add one, and what goes over it again and again.", kit, width)
    left, whole = kit.px(NAMED), max(width - kit.px(NAMED) - kit.px(60), kit.px(40))
    shapes: list[Shape] = []
    regions: list[Region] = []
    y = 0.0
    for b in found:
        middle, ink = y + kit.px(HEAD) / 2, INKS[b.verdict or Verdict.UNKNOWN]
        name = kit.cut(b.bus.name, left - kit.px(8), "base", bold=True)
        shapes.append(kit.words(0, middle, name, "base", bold=True))
        shapes.append(Line(left, middle, left + whole, middle, "line"))
        if b.share is not None:
            shapes.append(Box(left, middle - 3, max(whole * min(b.share, 1.15), 1.5), 6, ink))
            shapes.append(kit.figures(left + whole + kit.px(8), middle, show(b.share, "share"), "small", bold=True))
        shapes.append(Line(left + whole, middle - kit.px(8), left + whole, middle + kit.px(8), "ink", 2.0))
        regions.append(
            Region(f"bus {b.bus.id}", 0, y, width, kit.px(HEAD), bus_words(b), of=BusPick("buses", b.bus.id))
        )
        y += kit.px(HEAD)
        shapes.append(kit.words(0, y + kit.px(LINE) / 2, kit.cut(use_words(b), width, "small"), "small", "mute"))
        y += kit.px(LINE)
        for m in b.messages:
            if m.message.id == chosen:
                shapes.insert(0, Box(0, y, width, kit.px(LINE), "soft", radius=3))
            text = kit.cut(message_words(m), width - kit.px(16), "small")
            tone = "breaks" if m.verdict is Verdict.BREAKS else "ink"
            shapes.append(kit.words(kit.px(12), y + kit.px(LINE) / 2, text, "small", tone))
            pick = BusPick("messages", m.message.id)
            regions.append(Region(f"message {m.message.id}", 0, y, width, kit.px(LINE), message_words(m), of=pick))
            y += kit.px(LINE)
        y += kit.px(GAP)
    return Picture(width, y, tuple(shapes), tuple(regions))


def bus_words(b: BusResult) -> str:
    """ "I²C, 400 kHz: 22 % in use; lines pulled up by 4.7 kΩ, 967 Ω to 8.85 kΩ fit" """
    lines = lines_words(b.bus, b.lines)
    return f"{use_words(b)}; {lines}" if lines else use_words(b)


def use_words(b: BusResult) -> str:
    """ "CAN, 250 kHz, 22 % in use, worst wait 3.1 ms" """
    speed = f"{b.bus.clock_hz:.0f} baud" if b.bus.kind == "uart" else show(b.bus.clock_hz, "Hz")
    said = BUS_NAMES[b.bus.kind] if b.bus.kind == "one-wire" else f"{BUS_NAMES[b.bus.kind]}, {speed}"
    if b.share is None:
        return f"{said}: no messages yet"
    waits = b.worst_wait_s
    longest = f", longest until there {show(waits, 's')}" if waits is not None and math.isfinite(waits) else ""
    return f"{said}: {show(b.share, 'share')} in use{longest}"


def message_words(m: MessageResult) -> str:
    """ "encoder: 1.2 ms on the wire, there after 3.1 ms of 20 ms" """
    head = f"{m.message.name}: {show(m.time_s, 's')} on the wire"
    if m.response_s is None:
        return f"{head}; not known yet: {'; '.join(m.missing)}"
    if not math.isfinite(m.response_s):
        return f"{head}, there later and later"
    lost = ", bytes are lost" if m.overrun is not None and m.overrun.verdict is Verdict.BREAKS else ""
    return f"{head}, there after {show(m.response_s, 's')} of {show(m.deadline_s, 's')}{lost}"
