"""What wants a pin: every signal of every part, of the team's own, and of controllers that talk to each other."""

from collections.abc import Iterator

from msgspec import Struct

from wired_union.project.model import Concept, Item, Part
from wired_union.project.ports import BUS_LINES, can_be_common, lines_of
from wired_union.project.wiring_model import SHARED, SOCKETS, Ability, Join, Line, OwnLine, Thread

BRAINS = ("microcontroller", "computer")
"""Classes of part that others' signals go to."""
MOST = 1500
"""Signals that are looked at; a machine of a table's size has a few dozen."""


class Key(Struct, frozen=True, order=True):
    """Which signal it is: of a part's copy, an own one, or one end of a join."""

    item: str = ""
    own: str = ""
    join: str = ""
    copy: int = 1
    line: str = ""


class Wish(Struct, frozen=True):
    """A signal that wants a pin. `device` is what its lines have in common, `board` where it must end."""

    key: Key
    name: str
    line: Line
    device: tuple[str, str, int]
    board: str = ""
    address: int | None = None
    """on I²C"""

    @property
    def shares(self) -> bool:
        """Whether it is a line of a bus that others may be on as well."""
        return self.line.does in SHARED and bool(self.line.role)

    @property
    def common(self) -> tuple[str, str] | None:
        """What copies of one part may have on one pin; None where each needs its own."""
        return (self.key.item, self.key.line) if self.line.common and can_be_common(self.line) else None

    @property
    def like(self) -> tuple[object, ...]:
        """Wishes that are alike ask for the same of the same controllers."""
        alone = self.line.does in SHARED or self.line.does == "UART"
        return (self.line.does, self.line.role, self.line.frequency_hz, self.board, self.device if alone else None)


class Wishes(Struct, frozen=True):
    """All of them, and what is not known of some."""

    all: tuple[Wish, ...]
    missing: tuple[tuple[str, str], ...]
    """Id of the item and what lacks of it, in words."""


def key_of(thread: Thread) -> Key:
    return Key(thread.item, thread.own, thread.join, thread.copy, thread.line)


def is_controller(item: Item) -> bool:
    """Whether others' signals go to it and it is on no bus of another's."""
    return item.part.kind in BRAINS or (item.part.board is not None and not _is_on_a_bus(item.part))


def is_expander(item: Item) -> bool:
    """Whether it has pins of its own and is itself on a controller's bus."""
    return item.part.board is not None and not is_controller(item)


def _is_on_a_bus(part: Part) -> bool:
    return part.link is not None and part.link.bus in {*SHARED, "UART"}


def wishes_of(concept: Concept) -> Wishes:
    """Every signal that wants a pin, in the order of parts, own lines and joins."""
    found: list[Wish] = []
    missing: list[tuple[str, str]] = []
    for item in concept.items:
        if is_controller(item):
            if item.part.board is None:
                missing.append((item.id, "its pin table"))
            continue
        lines = lines_of(item.part)
        if lines is None:
            missing.append((item.id, "which signals it needs"))
            continue
        if lines and len(found) + item.count * len(lines) > MOST:
            missing.append((item.id, f"its signals: beyond {MOST} none are looked at"))
            continue
        found += _of_item(item, lines)
    found += [_own(x) for x in concept.own_lines[:MOST]]
    missing += _of_timing(concept, found)
    for join in concept.joins:
        if not join.one or not join.other or join.one == join.other:
            missing.append(("", f"{join.name}: which two controllers it joins"))
            continue
        found += _of_join(join)
    return Wishes(tuple(found), tuple(missing))


CARRIED_BY: dict[str, Ability] = {
    "servo frames": "PWM", "PWM": "PWM", "analogue": "analogue", "encoder": "interrupt",
}  # fmt: skip


def _of_timing(concept: Concept, found: list[Wish]) -> Iterator[tuple[str, str]]:
    """Wires of Timing that no signal here carries: an encoder, a level, a pulse wants a pin as well.

    One at a part is carried by that part's lines, or by an own one at it; one at a controller by any own one.
    """
    controllers = {i.id for i in concept.items if is_controller(i)}
    own_at = {x.id: x.item for x in concept.own_lines}
    for signal in concept.signals:
        ability = CARRIED_BY[signal.kind]
        lines = [w for w in found if w.line.does == ability]
        if signal.item in controllers or not signal.item:
            carried = any(w.key.own for w in lines)
        else:
            carried = any(signal.item in {w.key.item, own_at.get(w.key.own, "")} for w in lines)
        if not carried:
            yield signal.item, f"the signal that carries “{signal.name}” of Timing, {ability}"


def _of_item(item: Item, lines: tuple[Line, ...]) -> Iterator[Wish]:
    for copy in range(1, item.count + 1 if lines else 1):
        number = f" {copy}" if item.count > 1 else ""
        address = address_of(item, copy)
        for line in lines:
            yield Wish(Key(item=item.id, copy=copy, line=line.name), f"{item.name}{number}: {line.name}", line,
                       ("item", item.id, copy), item.board, address)  # fmt: skip


def address_of(item: Item, copy: int) -> int | None:
    """The address of one copy: as it is set, and each further copy the next that it can be strapped to."""
    known = item.part.port.addresses if item.part.port is not None else ()
    if item.address is None and not known:
        return None
    first = item.address if item.address is not None else known[0]
    if copy == 1 or first not in known:
        return first
    others = (first, *(a for a in known if a != first))
    return others[copy - 1] if copy <= len(others) else first


def _own(own: OwnLine) -> Wish:
    role = ""
    line = Line(name=own.name[:40], does=own.does, role=role, flows=own.flows, frequency_hz=own.frequency_hz,
                pulls=own.pulls, current_a=own.current_a)  # fmt: skip
    return Wish(Key(own=own.id), own.name, line, ("own", own.id, 1), own.board)


CROSSED = {"out": "in", "in": "out"}


def _of_join(join: Join) -> Iterator[Wish]:
    """Both ends of what joins two controllers: what one sends, the other hears."""
    if join.by == "USB":
        yield Wish(Key(join=join.id, line="socket"), f"{join.name}: socket", Line(name="socket", does="USB"),
                   ("join", join.id, 1), join.one)  # fmt: skip
        return
    for copy, board in ((1, join.one), (2, join.other)):
        for name, does, role, flows in BUS_LINES[join.by]:
            turned = CROSSED.get(role, role) if copy == 2 and join.by == "UART" else role
            line = Line(name=name, does=does, role=turned, flows=flows)
            yield Wish(Key(join=join.id, copy=copy, line=name), f"{join.name}: {name}", line, ("join", join.id, copy),
                       board)  # fmt: skip


def wanted_pins(wishes: Wishes) -> int:
    """Least number of pins that they can do with: lines of a bus that may be shared count once, and so does what copies
    may have on one pin.
    """
    alone = sum(not w.shares and w.common is None and w.line.does not in SOCKETS for w in wishes.all)
    together = {w.common for w in wishes.all if w.common is not None and not w.shares}
    return alone + len(together) + len({(w.line.does, w.line.role, w.board) for w in wishes.all if w.shares})
