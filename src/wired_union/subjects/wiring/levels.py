"""Levels wire by wire: what one side gives against what the other reads and survives."""

from collections.abc import Iterator, Sequence
from itertools import pairwise

from msgspec import Struct

from wired_union.kernel.logic import IN_HAND, level_clash
from wired_union.kernel.results import Verdict
from wired_union.physics.levels import Levels, logic_levels, noise_margins, voltage_divider
from wired_union.project.model import Concept, Item, Link, Shifter
from wired_union.project.ports import is_divided, is_passed
from wired_union.project.wiring_model import Board, Line, OwnLine, Port
from wired_union.subjects.wiring.pins import PinsResult, Wired

TO_SPARE_V = 0.2
"""A disturbance of that much must not matter; TTL keeps 0.4 V: common practice."""


PULLED = {"I2C", "open drain", "contact"}
"""Families that only pull down."""
TTL_LOW_V, TTL_HIGH_V = 4.5, 5.5
"""Supply of a buffer with TTL inputs."""


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
        elif key.item in items:
            item = items[key.item]
            through = items[item.shifted_by].part.shifter if item.shifted_by in items else None
            if through is None or through.passes != "either way":  # of one that passes both ways Power says it
                yield _level(wired, item, wired.tooth.item, through)


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
    left = _left(own)
    return own.high_v * left if own.high_v is not None and left is not None else None


def _left(line: OwnLine | Line) -> float | None:
    """What the divider of a signal leaves of it: all where there is none, None where only one resistor is known."""
    if line.upper_ohm is None and line.lower_ohm is None:
        return 1.0
    if line.upper_ohm is None or line.lower_ohm is None:
        return None
    return voltage_divider(1.0, line.upper_ohm, line.lower_ohm).output_v


def _level(wired: Wired, part: Item, board: Item, through: Shifter | None) -> Level:
    mine, theirs = part.part.link, board.part.link
    if mine is None or theirs is None or mine.logic_v is None or theirs.logic_v is None:
        return Level(wired, missing=f"{wired.wish.name}: the voltage of its signals")
    if level_clash(mine, theirs) is not None and through is None and not is_divided(part.part):
        return Level(wired)  # which Power says of the whole part
    line = wired.wish.line
    left = _left(line) if line.flows == "from the part" else 1.0
    if left is None:
        return Level(wired, missing=f"{wired.wish.name}: both resistors of its divider")
    if line.does in {"analogue", "USB", "camera port"}:
        return Level(wired, hurts=_hurts(mine.logic_v * left, _pin_max(wired)) or "")
    part_side = _part_side(part, mine, line, theirs.logic_v, left)
    board_side = _board_side(wired, theirs.logic_v)
    if through is not None and is_passed(line, through, mine.logic_v, theirs.logic_v):
        between = _between(through)
        if between is None:
            return Level(wired, missing=f"{wired.wish.name}: the voltages of its level shifter")
        ends = [part_side, between, board_side]
        return _judged(wired, list(pairwise(ends if line.flows == "from the part" else ends[::-1])))
    pairs = [(board_side, part_side)] if line.flows != "from the part" else []
    pairs += [(part_side, board_side)] if line.flows != "to the part" else []
    return _judged(wired, pairs)


class _Side(Struct, frozen=True):
    """One end of a wire: its thresholds, the most it gives, and the most it survives."""

    name: str
    levels: Levels
    gives_v: float
    survives_v: float | None


def _judged(wired: Wired, pairs: Sequence[tuple[_Side, _Side]]) -> Level:
    """Who gives and who reads, one after the other: the least that is to spare, and the first that is hurt."""
    least, said = min(_margin(giver, reader) for giver, reader in pairs)
    hurts = next((h for giver, reader in pairs if (h := _hurts(giver.gives_v, reader.survives_v))), "")
    return Level(wired, least, hurts, said)


def _part_side(part: Item, mine: Link, line: Line, controller_v: float, left: float) -> _Side:
    """A part behind its divider; what only pulls down gives no more than it is pulled up to."""
    part_v, port = mine.logic_v or 0.0, part.part.port
    wanted = "I2C" if line.does == "I2C" else ""
    side = _levels(port, wanted, part_v, controller_v)
    pulls_only = (wanted or (port.family if port is not None else "")) in PULLED
    most = side.output_high_v if pulls_only else max(part_v, side.output_high_v)
    given = Levels(side.output_high_v * left, side.output_low_v * left, side.input_high_v, side.input_low_v)
    return _Side(part.name, given, most * left, mine.logic_max_v or part_v * IN_HAND)


def _board_side(wired: Wired, controller_v: float) -> _Side:
    board = wired.tooth.item
    side = _levels(board.part.board, "I2C" if wired.wish.line.does == "I2C" else "", controller_v, controller_v)
    most = side.output_high_v if wired.wish.line.does == "I2C" else controller_v
    return _Side(board.name, side, most, _pin_max(wired))


def _between(shifter: Shifter) -> _Side | None:
    """A shifter that passes one way: up, it reads by TTL thresholds; down, its inputs bear the high side. Common
    practice; None where a voltage of it is not known.
    """
    if shifter.low_v is None or shifter.high_v is None:
        return None
    down = shifter.passes == "to the low side"
    at = shifter.low_v if down else shifter.high_v
    family = "TTL" if not down and TTL_LOW_V <= at <= TTL_HIGH_V else "CMOS"
    reads, gives = logic_levels(family, at), logic_levels("CMOS", at)
    known = Levels(gives.output_high_v, gives.output_low_v, reads.input_high_v, reads.input_low_v)
    return _Side("the shifter", known, at, shifter.high_v * IN_HAND)


def _margin(giver: _Side, reader: _Side) -> tuple[float, str]:
    """What is to spare one way, and that in words."""
    given, read = giver.levels, reader.levels
    m = noise_margins(given.output_high_v, given.output_low_v, read.input_high_v, read.input_low_v)
    if m.high_v <= m.low_v:
        return m.high_v, (f"{giver.name} gives at least {given.output_high_v:.2f} V as high, {reader.name} reads it"
                          f" from {read.input_high_v:.2f} V")  # fmt: skip
    return m.low_v, (f"{giver.name} gives up to {given.output_low_v:.2f} V as low, {reader.name} reads it up to"
                     f" {read.input_low_v:.2f} V")  # fmt: skip


def _levels(side: Board | Port | None, wanted: str, supply_v: float, pulled_to_v: float) -> Levels:
    """Thresholds of one side: its own figures, else its family's; what only pulls down is as high as its rail."""
    family = wanted or (side.family if side is not None else "") or "CMOS"
    rail = pulled_to_v if family in {"open drain", "contact"} else supply_v
    known = logic_levels(family, rail)
    if family in PULLED:
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
