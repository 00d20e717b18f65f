"""Edits of wiring: which signal is on which pin, addresses, cables, what people hand each other."""

from collections.abc import Sequence
from functools import partial

from wired_union.catalogue.pin_tables import boards, ports
from wired_union.project.cables import carries_feed, together
from wired_union.project.change import Change, by_id, figures_of, find_item, new_id, replaced, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import add_listed, remove_listed, set_listed
from wired_union.project.model import Item, Project
from wired_union.project.ports import own_lines_of, with_lines
from wired_union.project.value import checked
from wired_union.project.wiring_model import (
    Board,
    Cable,
    Control,
    Interface,
    Join,
    Line,
    OwnLine,
    Pin,
    Port,
    Reach,
    Thread,
)
from wired_union.subjects.wiring.pins import PinsResult, assess_pins
from wired_union.subjects.wiring.teeth import Tooth, teeth_of
from wired_union.subjects.wiring.wishes import Key, Wish, is_controller, key_of, wishes_of
from wired_union.units import plain_words, show_named

add_own = partial(add_listed, room="own_lines", of_kind=OwnLine, word="signal")
set_own = partial(set_listed, room="own_lines", word="signal")
remove_own = partial(remove_listed, room="own_lines", word="signal")
add_join = partial(add_listed, room="joins", of_kind=Join, word="join of controllers")
set_join = partial(set_listed, room="joins", word="join of controllers")
remove_join = partial(remove_listed, room="joins", word="join of controllers")
add_cable = partial(add_listed, room="cables", of_kind=Cable, word="cable")
set_cable = partial(set_listed, room="cables", word="cable")
remove_cable = partial(remove_listed, room="cables", word="cable")
add_interface = partial(add_listed, room="interfaces", of_kind=Interface, word="interface")
set_interface = partial(set_listed, room="interfaces", word="interface")
remove_interface = partial(remove_listed, room="interfaces", word="interface")
add_control = partial(add_listed, room="controls", of_kind=Control, word="control")
set_control = partial(set_listed, room="controls", word="control")
remove_control = partial(remove_listed, room="controls", word="control")


# pins


def lay_thread(project: Project, key: Key, board: str, pin: str) -> Change:
    """Put a signal on a pin, where it stays. What was there moves on, unless it is kept there itself.

    Raises ProjectError where there is no such pin, or it cannot do what the signal needs.
    """
    wish, tooth = _wish(project, key), _tooth(project, board, pin)
    if not any(_can(tooth, wish, d) for d in tooth.pin.does):
        needs = " ".join(filter(None, (wish.line.does, wish.line.role)))
        raise ProjectError(f"{wish.name} needs {needs}; pin {pin} of {tooth.item.name} cannot do that.")
    mates = [*_mates(project, wish), *_there_already(project, wish, board, pin)]
    others = [t for t in project.concept.threads if (t.board, t.pin) == (board, pin) and key_of(t) not in mates]
    held = next((t for t in others if t.kept), None)
    if held is not None:
        raise ProjectError(f"{_name(project, key_of(held))} is kept on {pin}. Let it go first.")
    rest = tuple(t for t in project.concept.threads if t not in others and key_of(t) not in mates)
    laid = tuple(_thread(k, board, pin, kept=True) for k in mates)
    after = with_concept(project, threads=(*rest, *laid))
    return Change(project, after, f"{wish.name}: on {pin} of {tooth.item.name}, and kept there")


def let_go(project: Project, key: Key) -> Change:
    """A signal that need not stay where it is."""
    wish = _wish(project, key)
    mates = _mates(project, wish)
    threads = tuple(t.but(kept=False) if key_of(t) in mates else t for t in project.concept.threads)
    return Change(project, with_concept(project, threads=threads), f"{wish.name}: may go to another pin")


def keep_all(project: Project) -> Change:
    """All signals kept where they are found now, such as once they are soldered."""
    return _stored(project, kept=True, said="every signal kept on its pin")


def solve_pins(project: Project, *, afresh: bool = False) -> Change:
    """Every signal on a pin, those that are kept where they are; afresh without regard to where the others were.

    Raises ProjectError where they cannot all be had.
    """
    start = project
    if afresh:
        start = with_concept(project, threads=tuple(t for t in project.concept.threads if t.kept))
    change = _stored(start, kept=False, said="pins solved")
    return Change(project, change.after, change.sentence)


def forget_pins(project: Project) -> Change:
    """No signal on any pin."""
    return Change(project, with_concept(project, threads=()), "no signal is on any pin")


def _stored(project: Project, *, kept: bool, said: str) -> Change:
    found = assess_pins(project.concept, deep=True)
    if found.clash:
        raise ProjectError(f"They cannot all be had: {', '.join(clash_names(found))}. Take one away, or add pins.")
    if found.undecided or not found.wired:
        raise ProjectError("There is nothing to put on pins: a controller with a pin table, and signals, are needed.")
    threads = tuple(_thread(w.wish.key, w.tooth.item.id, w.tooth.pin.name, kept=kept or w.kept) for w in found.wired)
    moved = sum(not w.stored for w in found.wired)
    return Change(project, with_concept(project, threads=threads), f"{said}: {moved} laid anew")


def clash_names(found: PinsResult) -> list[str]:
    return list(dict.fromkeys(w.name for w in found.clash))


def _thread(key: Key, board: str, pin: str, *, kept: bool) -> Thread:
    return Thread(item=key.item, own=key.own, join=key.join, copy=key.copy, line=key.line, board=board, pin=pin,
                  kept=kept)  # fmt: skip


def _can(tooth: Tooth, wish: Wish, does: tuple[str, str, str]) -> bool:
    return does[0] == wish.line.does and (not wish.line.role or not does[2] or does[2] == wish.line.role)


def _wish(project: Project, key: Key) -> Wish:
    found = next((w for w in wishes_of(project.concept).all if w.key == key), None)
    if found is None:
        raise ProjectError("That signal is not there any more.")
    return found


def _tooth(project: Project, board: str, pin: str) -> Tooth:
    found = next((t for t in teeth_of(project.concept) if (t.item.id, t.pin.name) == (board, pin)), None)
    if found is None:
        raise ProjectError(f"There is no pin “{pin}” there. Choose one of the pin table.")
    return found


def _mates(project: Project, wish: Wish) -> list[Key]:
    """The signal itself, and all that are one wire with it: the same line of every device on its bus."""
    if not wish.shares:
        return [wish.key]
    found = assess_pins(project.concept)
    slot = next((s for s in found.slots if s.ability == wish.line.does and wish.device in s.devices), None)
    devices = slot.devices if slot is not None and found.wired else (wish.device,)
    return [w.key for w in found.wishes if w.device in devices and (w.line.does, w.line.role) == (
        wish.line.does, wish.line.role)]  # fmt: skip


def _there_already(project: Project, wish: Wish, board: str, pin: str) -> list[Key]:
    """Copies on a pin whose signal may be on it together with this one."""
    common = {w.key for w in wishes_of(project.concept).all if w.common == wish.common is not None} - {wish.key}
    return [k for t in project.concept.threads if (t.board, t.pin) == (board, pin) and (k := key_of(t)) in common]


def _name(project: Project, key: Key) -> str:
    return next((w.name for w in wishes_of(project.concept).all if w.key == key), "Another signal")


# parts


def set_board(project: Project, item_id: str, board: str) -> Change:
    """Which controller a part's signals go to, "" for any."""
    item = find_item(project, item_id)
    if board and not is_controller(find_item(project, board)):
        raise ProjectError(f"{find_item(project, board).name} is no controller.")
    name = find_item(project, board).name if board else "any controller"
    return _with_item(project, item, item.but(board=board), f"{item.name}: its signals go to {name}")


def set_address(project: Project, item_id: str, address: int | None) -> Change:
    """Which address a part is set to on I²C; None for the one it is sold with.

    Raises ProjectError for one that it cannot be set to.
    """
    item = find_item(project, item_id)
    known = item.part.port.addresses if item.part.port is not None else ()
    if address is not None and known and address not in known:
        raise ProjectError(f"{item.name} can be set to {', '.join(hex(a) for a in known)}.")
    with figures_of(item.name):
        new = checked(item, address=address)
    said = f"strapped to {hex(address)}" if address is not None else "at the address it is sold with"
    return _with_item(project, item, new, f"{item.name}: {said}")


def set_pins(project: Project, item_id: str, pins: Sequence[Pin]) -> Change:
    """The pin table of a controller."""
    item = find_item(project, item_id)
    old = item.part.board

    board = old.but(pins=tuple(pins)) if old is not None else Board(pins=tuple(pins))
    return _with_item(project, item, item.but(part=item.part.but(board=board)), f"{item.name}: {len(pins)} pins")


def from_catalogue(project: Project) -> Change:
    """Pin tables and signals of the catalogue, for parts of it that have none, such as in a file of before.

    Raises ProjectError where there is none to take.
    """
    known_boards, known_ports = boards(), ports()
    taken: list[str] = []
    items: list[Item] = []
    for item in project.concept.items:
        board, port = known_boards.get(item.part.id), known_ports.get(item.part.id)
        new = item.part.but(board=item.part.board or board, port=item.part.port or port)
        if new != item.part:
            taken.append(item.name)
        items.append(item.but(part=new) if new != item.part else item)
    if not taken:
        raise ProjectError("The catalogue has no pin table or signals for any of these parts.")
    after = with_concept(project, items=tuple(items))
    return Change(project, after, f"pins and signals of the catalogue for {len(taken)} parts")


def set_port(project: Project, item_id: str, **figures: object) -> Change:
    """Figures of a part's signals."""
    item = find_item(project, item_id)
    port = item.part.port if item.part.port is not None else Port()
    with figures_of(item.name):
        new = checked(port, **figures)
    said = ", ".join(f"{plain_words(f)} {_said(f, getattr(new, f))}" for f in figures)
    return _with_item(project, item, item.but(part=item.part.but(port=new)), f"{item.name}: {said}")


def _said(field: str, value: object) -> str:
    if isinstance(value, tuple):
        return f"{len(value)} of them"
    return show_named(field, value) if isinstance(value, int | float) else str(value or "not known")


def set_line(project: Project, item_id: str, number: int, **figures: object) -> Change:
    """Figures of one signal that a part needs."""
    item = find_item(project, item_id)
    lines = own_lines_of(item)
    if not 0 <= number < len(lines):
        raise ProjectError(f"{item.name} has {len(lines)} signals.")
    with figures_of(item.name):
        new = checked(lines[number], **figures)
    if any(x.name == new.name for n, x in enumerate(lines) if n != number):
        raise ProjectError(f"{item.name} has a signal “{new.name}” already. Give it another name.")
    return with_lines(project, item, (*lines[:number], new, *lines[number + 1 :]), f"signal {new.name}")


def add_line(project: Project, item_id: str, name: str) -> Change:
    """One more signal that a part needs."""
    item = find_item(project, item_id)
    lines = own_lines_of(item)
    if not name.strip():
        raise ProjectError("Give the signal a name.")
    if any(x.name == name.strip() for x in lines):
        raise ProjectError(f"{item.name} has a signal “{name.strip()}” already.")
    with figures_of(item.name):
        new = checked(Line(name="x"), name=name.strip())
    return with_lines(project, item, (*lines, new), f"one more signal, {new.name}")


def remove_line(project: Project, item_id: str, number: int) -> Change:
    """One signal less."""
    item = find_item(project, item_id)
    lines = own_lines_of(item)
    if not 0 <= number < len(lines):
        raise ProjectError(f"{item.name} has {len(lines)} signals.")
    if len(lines) == 1:
        raise ProjectError(f"It is the only signal of {item.name}. Take the part away, or name the signal anew.")
    return with_lines(project, item, (*lines[:number], *lines[number + 1 :]), f"without signal {lines[number].name}")


def _with_item(project: Project, old: Item, new: Item, said: str) -> Change:
    return Change(project, with_concept(project, items=replaced(project.concept.items, old, new)), said)


# cables


def reach(project: Project, cable_id: str, item_id: str) -> Change:
    """One more part that a cable goes to."""
    cable, item = by_id(project.concept.cables, cable_id, "cable"), find_item(project, item_id)
    if item.id == cable.start or any(r.item == item.id for r in cable.reaches):
        raise ProjectError(f"{cable.name} goes to {item.name} already.")
    new = cable.but(reaches=(*cable.reaches, Reach(item=item.id)))
    return _with_cable(project, cable, new, f"{cable.name}: also to {item.name}")


def no_longer(project: Project, cable_id: str, item_id: str) -> Change:
    """One part less that a cable goes to."""
    cable, item = by_id(project.concept.cables, cable_id, "cable"), find_item(project, item_id)
    new = cable.but(reaches=tuple(r for r in cable.reaches if r.item != item.id))
    return _with_cable(project, cable, new, f"{cable.name}: no longer to {item.name}")


def set_wiring(project: Project, **figures: object) -> Change:
    """What is wanted of all wires."""
    with figures_of("Wiring"):
        new = checked(project.concept.wiring, **figures)
    said = ", ".join(f"{plain_words(f)} {_said(f, getattr(new, f))}" for f in figures)
    return Change(project, with_concept(project, wiring=new), f"wiring: {said}")


def cables_for_all(project: Project, found: PinsResult) -> Change:
    """A cable for each feed and for all signals of each part that lie in none: lengths by places, gauges as the feeds.

    Raises ProjectError where none lacks.
    """
    concept, items = project.concept, {i.id: i for i in project.concept.items}
    new: list[Cable] = []
    stacked = together(concept)
    for feed in concept.feeds:
        if not any(carries_feed(c, feed, stacked) for c in (*concept.cables, *new)):
            a, b = items[feed.source], items[feed.load]
            new.append(_cable_between(new, project, a, b, feed.wire_length_m, feed.wire_awg))
    pairs = dict.fromkeys((w.tooth.item.id, w.wish.key.item) for w in found.wired if w.wish.key.item)
    for board, item in pairs:
        beside = {b for b in (*stacked, board) if stacked.get(b, b) == stacked.get(board, board)}
        if item in beside:
            continue
        if not any(
            (c.start in beside and item in _reached(c)) or (c.start == item and beside & _reached(c))
            for c in (*concept.cables, *new)
        ):
            new.append(_cable_between(new, project, items[board], items[item], None, SIGNAL_AWG))
    if not new:
        raise ProjectError("Every feed and every signal lies in a cable already.")
    after = with_concept(project, cables=(*concept.cables, *new))
    return Change(project, after, f"{len(new)} cables more: every feed and every signal lies in one")


SIGNAL_AWG = 26


def _reached(cable: Cable) -> set[str]:
    return {r.item for r in cable.reaches}


def _cable_between(
    made: list[Cable], project: Project, a: Item, b: Item, length_m: float | None, awg: int | None
) -> Cable:  # fmt: skip
    name = f"{a.name} → {b.name}"[:120]
    known = [c.id for c in (*project.concept.cables, *made)]
    return Cable(id=new_id(name, known), name=name, start=a.id, reaches=(Reach(item=b.id),), length_m=length_m, awg=awg)


def _with_cable(project: Project, old: Cable, new: Cable, said: str) -> Change:
    return Change(project, with_concept(project, cables=replaced(project.concept.cables, old, new)), said)
