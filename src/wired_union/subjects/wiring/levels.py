"""Levels wire by wire: what one side gives against what the other reads and survives."""

from collections.abc import Iterator

from msgspec import Struct

from wired_union.kernel.logic import IN_HAND, level_clash
from wired_union.kernel.results import Verdict
from wired_union.physics.levels import Levels, logic_levels, noise_margins, voltage_divider
from wired_union.project.model import Concept, Item
from wired_union.project.wiring_model import Board, OwnLine, Port
from wired_union.subjects.wiring.pins import PinsResult, Wired

TO_SPARE_V = 0.2
"""A disturbance of that much must not matter; TTL keeps 0.4 V: common practice."""


class Level(Struct, frozen=True):
    """One wire: what a disturbance may take, the least of high and low either way, and what is hurt."""

    wired: Wired
    margin_v: float | None = None
    hurts: str = ""
    said: str = ""
    missing: str = ""

    @property
    def verdict(self) -> Verdict:
        if self.hurts or (self.margin_v is not None and self.margin_v < -1e-9):
            return Verdict.BREAKS
        if self.margin_v is None:
            return Verdict.UNKNOWN if self.missing else Verdict.HOLDS
        return Verdict.TIGHT if self.margin_v < TO_SPARE_V else Verdict.HOLDS


def levels_of(concept: Concept, pins: PinsResult) -> Iterator[Level]:
    """Every wire that carries a level between two parts whose rails Power does not already find at odds."""
    items = {i.id: i for i in concept.items}
    own = {x.id: x for x in concept.own_lines}
    for wired in pins.wired:
        key = wired.wish.key
        if key.own in own:
            yield _own(wired, own[key.own])
        elif key.item in items and not items[key.item].shifted_by:
            yield _level(wired, items[key.item], wired.tooth.item)


def _own(wired: Wired, own: OwnLine) -> Level:
    """A signal of the team's own: only whether the pin survives it, behind its divider where it has one."""
    if wired.wish.line.flows == "to the part":
        return Level(wired)
    at_pin = at_pin_v(own)
    if at_pin is None:
        return Level(wired, missing=f"{wired.wish.name}: the highest voltage on it, or both resistors of its divider")
    return Level(wired, hurts=_hurts(at_pin, _pin_max(wired)) or "")


def at_pin_v(own: OwnLine) -> float | None:
    """Highest voltage at the pin; None where it, or one of two resistors, is not known."""
    if own.high_v is None or (own.upper_ohm is None) != (own.lower_ohm is None):
        return None
    if own.upper_ohm is None or own.lower_ohm is None:
        return own.high_v
    return voltage_divider(own.high_v, own.upper_ohm, own.lower_ohm).output_v


def _level(wired: Wired, part: Item, board: Item) -> Level:
    mine, theirs = part.part.link, board.part.link
    if mine is None or theirs is None or mine.logic_v is None or theirs.logic_v is None:
        return Level(wired, missing=f"{wired.wish.name}: the voltage of its signals")
    if level_clash(mine, theirs) is not None:
        return Level(wired)  # which Power says of the whole part
    line = wired.wish.line
    if line.does in {"analogue", "USB", "camera port"}:
        return Level(wired, hurts=_hurts(mine.logic_v, _pin_max(wired)) or "")
    shared = line.does == "I2C"
    given = _levels(part.part.port, "I2C" if shared else "", mine.logic_v, theirs.logic_v)
    read = _levels(board.part.board, "I2C" if shared else "", theirs.logic_v, theirs.logic_v)
    hurts = ""
    found: list[tuple[float, str]] = []
    if line.flows != "from the part":
        found.append(_margin(read, given, board.name, part.name))
        survives = mine.logic_max_v or mine.logic_v * IN_HAND
        hurts = _hurts(read.output_high_v if shared else theirs.logic_v, survives) or ""
    if line.flows != "to the part":
        found.append(_margin(given, read, part.name, board.name))
        hurts = hurts or _hurts(min(given.output_high_v, mine.logic_v), _pin_max(wired)) or ""
    least, said = min(found)
    return Level(wired, least, hurts, said)


def _margin(giver: Levels, reader: Levels, gives: str, reads: str) -> tuple[float, str]:
    """What is to spare one way, and that in words."""
    m = noise_margins(giver.output_high_v, giver.output_low_v, reader.input_high_v, reader.input_low_v)
    if m.high_v <= m.low_v:
        return m.high_v, (f"{gives} gives at least {giver.output_high_v:.2f} V as high, {reads} reads it from"
                          f" {reader.input_high_v:.2f} V")  # fmt: skip
    return m.low_v, (f"{gives} gives up to {giver.output_low_v:.2f} V as low, {reads} reads it up to"
                     f" {reader.input_low_v:.2f} V")  # fmt: skip


def _levels(side: Board | Port | None, wanted: str, supply_v: float, pulled_to_v: float) -> Levels:
    """Thresholds of one side: its own figures, else its family's; what only pulls down is as high as its rail."""
    family = wanted or (side.family if side is not None else "") or "CMOS"
    rail = pulled_to_v if family in {"open drain", "contact"} else supply_v
    known = logic_levels(family, rail)
    if family in {"open drain", "contact", "I2C"}:
        known = Levels(pulled_to_v, known.output_low_v, known.input_high_v, known.input_low_v)
    if side is None:
        return known
    high = side.output_high_v if side.output_high_v is not None else known.output_high_v
    low = side.output_low_v if side.output_low_v is not None else known.output_low_v
    reads_high = side.input_high_v if side.input_high_v is not None else known.input_high_v
    reads_low = side.input_low_v if side.input_low_v is not None else known.input_low_v
    return Levels(high, low, max(reads_high, reads_low), min(reads_high, reads_low))


def _pin_max(wired: Wired) -> float | None:
    """Highest signal that the pin survives: its own, the board's, or a tenth above its rail."""
    link = wired.tooth.item.part.link
    if wired.tooth.pin.max_v is not None:
        return wired.tooth.pin.max_v
    if link is None:
        return None
    return link.logic_max_v or (link.logic_v * IN_HAND if link.logic_v is not None else None)


def _hurts(gives_v: float, survives_v: float | None) -> str | None:
    if survives_v is None or gives_v <= survives_v * (1 + 1e-9):
        return None
    return f"{gives_v:.3g} V come in; {survives_v:.3g} V are survived"
