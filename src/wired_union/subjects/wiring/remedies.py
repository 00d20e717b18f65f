"""What can be done about pins, levels and buses; each is tried on the whole project before it is shown."""

from collections.abc import Iterator, Sequence
from functools import partial

from wired_union.catalogue.parts import of_kind
from wired_union.kernel.dividers import LOWER_OHM, part_divided, upper_for
from wired_union.kernel.logic import level_through
from wired_union.kernel.results import Remedy, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.physics.bus import from_a_bag
from wired_union.project.change import Change
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import set_listed
from wired_union.project.model import Item, Part, Project
from wired_union.project.part_edits import add_item, feed_from, shift_levels
from wired_union.project.ports import can_be_common, can_be_divided, divide, own_lines_of
from wired_union.subjects.power.gives import has_channels, insert_shifter
from wired_union.subjects.wiring.edits import (
    from_catalogue,
    lay_thread,
    let_go,
    remove_own,
    set_address,
    set_board,
    set_line,
    set_own,
    set_wiring,
    solve_pins,
)
from wired_union.subjects.wiring.levels import Level
from wired_union.subjects.wiring.pins import PINS, PinsResult, Wired, assess_pins
from wired_union.subjects.wiring.shared import KIND_OF, SharedBus
from wired_union.subjects.wiring.wishes import is_controller, key_of
from wired_union.units import show

FEW, MOST_LET_GO = 3, 6


def _mended(change: Change | None) -> bool:
    return change is not None and assess_pins(change.after.concept, explain=False).solved


def pin_remedies(assessment: Assessment) -> tuple[Remedy, ...]:
    """What makes room: letting go, a strap, another controller, an expander; each only where all then fit."""
    project, pins = assessment.project, assessment.of(PINS)
    ways: list[tuple[str, Change | None]] = []
    stored = {key_of(t): t for t in project.concept.threads}
    held = [w for w in pins.clash if w.key in stored and stored[w.key].kept]
    ways += [(f"let {w.name} go to another pin", tried(let_go, project, w.key)) for w in held[:MOST_LET_GO]]
    items = tuple(dict.fromkeys(w.key.item for w in pins.clash if w.key.item))
    ways += [(r.label, r.change) for r in strap_remedies(assessment, items)]
    ways += _chained(project, items)
    controllers = [i for i in project.concept.items if is_controller(i) and i.part.board is not None]
    for item in items if len(controllers) > 1 else ():
        ways += [(f"{_name(project, item)} to {c.name}", tried(set_board, project, item, c.id)) for c in controllers]
    ways += [(f"add {p.name}", _with_expander(project, pins, p)) for p in of_kind("line expander")]
    ways += [(f"do without {w.name}", tried(remove_own, project, value_id=w.key.own)) for w in pins.clash if w.key.own]
    return possible(*((words, change) for words, change in ways if _mended(change)))[:FEW]


def _chained(project: Project, items: Sequence[str]) -> Iterator[tuple[str, Change | None]]:
    """One select for all copies of a part on SPI, where its data can run from one to the next."""
    for item in (i for i in project.concept.items if i.id in items and i.count > 1):
        lines = own_lines_of(item)
        selects = [n for n, x in enumerate(lines) if x.does == "plain" and can_be_common(x) and not x.common]
        if selects and any(x.does == "SPI" for x in lines):
            name = lines[selects[0]].name
            words = f"one pin for “{name}” of all {item.count} {item.name}, if they can be chained"
            yield words, tried(set_line, project, item.id, selects[0], common=True)


def _name(project: Project, item_id: str) -> str:
    return next((i.name for i in project.concept.items if i.id == item_id), item_id)


def _with_expander(project: Project, pins: PinsResult, part: Part) -> Change | None:
    """A line expander beside the controller that is short of pins, fed from what feeds that."""
    board = next((i for i in project.concept.items if is_controller(i) and i.part.board is not None), None)
    if board is None:
        return None
    source = next((f.source for f in project.concept.feeds if f.load == board.id), None)
    try:
        added = add_item(project, board.subsystem, part)
    except ProjectError:
        return None
    known = {i.id for i in project.concept.items}
    new = next(i for i in added.after.concept.items if i.id not in known)
    after = added.after
    if source is not None:
        fed = tried(feed_from, after, new.id, source)
        after = fed.after if fed is not None else after
    owned = tried(set_board, after, new.id, board.id)
    return Change(project, owned.after if owned is not None else after, f"{new.name} beside {board.name}")


def anew_remedies(assessment: Assessment) -> tuple[Remedy, ...]:
    """Every signal laid where it is found."""
    return possible(("lay them anew", tried(solve_pins, assessment.project)))


def gap_remedies(assessment: Assessment) -> tuple[Remedy, ...]:
    """Pin tables and signals that the catalogue has of parts that came without."""
    return possible(("take the pins and signals of the catalogue", tried(from_catalogue, assessment.project)))


def start_remedies(assessment: Assessment, wired: Wired) -> tuple[Remedy, ...]:
    """Other pins that are free and start as they like; else one that another signal gives up."""
    project, pins = assessment.project, assessment.of(PINS)
    line = wired.wish.line
    ways: list[tuple[str, Change | None]] = []
    for tooth in pins.free:
        able = any(d[0] == line.does and (not line.role or not d[2] or d[2] == line.role) for d in tooth.pin.does)
        if able and not tooth.starts and tooth.item.id == wired.tooth.item.id:
            change = tried(lay_thread, project, wired.wish.key, tooth.item.id, tooth.pin.name)
            ways.append((f"move it to {tooth.pin.name}", change))
        if len(ways) == FEW:
            break
    if wired.kept:
        ways.append(("let it go to another pin", tried(let_go, project, wired.wish.key)))
    wanted = "high" if wired.tooth.pin.at_start == "must be high" else "low"
    if line.pulls == "not known" and wired.wish.key.item and line.flows == "to the part":
        item = next(i for i in project.concept.items if i.id == wired.wish.key.item)
        lines = item.part.port.lines if item.part.port is not None else ()
        number = next((n for n, x in enumerate(lines) if x.name == line.name), -1)
        words = f"a resistor of 10 kΩ that pulls it {wanted}"
        ways.append((words, tried(set_line, project, item.id, number, pulls=wanted)))
    return possible(*((w, c) for w, c in ways if _mended(c)))[: FEW + 1]


def strap_remedies(assessment: Assessment, items: Sequence[str]) -> tuple[Remedy, ...]:
    """Other addresses that a strap can set, where nobody answers yet."""
    project, pins = assessment.project, assessment.of(PINS)
    taken = {w.address for w in pins.wishes if w.address is not None}
    ways = []
    for item in (i for i in project.concept.items if i.id in items):
        known = item.part.port.addresses if item.part.port is not None else ()
        if free := [a for a in known if a not in taken]:
            words = f"strap {item.name} to {hex(free[0])}"
            ways.append((words, tried(set_address, project, item.id, free[0])))
    return possible(*ways)[:FEW]


def level_remedies(assessment: Assessment, level: Level) -> tuple[Remedy, ...]:
    """A level shifter between the two, one that is there or one of the catalogue; another pin that survives it."""
    project, wired = assessment.project, level.wired
    item = next((i for i in project.concept.items if i.id == wired.wish.key.item), None)
    if item is None:
        return possible(*_divided(assessment, level), *_sturdier(assessment, level))
    shifters = [*_shifters(project, item, wired.tooth.item)][: FEW - 1]
    return possible(*_sturdier(assessment, level), *_divided(assessment, level), *shifters)[: FEW + 1]


def _shifters(project: Project, item: Item, board: Item) -> Iterator[tuple[str, Change | None]]:
    mine, theirs = item.part.link, board.part.link
    if mine is None or theirs is None:
        return
    for other in project.concept.items:
        made = other.part.shifter
        if made is not None and made.low_v is not None and level_through(made, mine, theirs) is None:
            yield f"through {other.name}", tried(shift_levels, project, item.id, other.id)
    for part in of_kind("level shifter"):
        made = part.shifter
        if made is not None and has_channels(part, item, [board]) and level_through(made, mine, theirs) is None:
            yield f"add {part.name} between", tried(insert_shifter, project, item, part)


def _divided(assessment: Assessment, level: Level) -> Iterator[tuple[str, Change | None]]:
    """A divider of two resistors of a bag before the pin, or before all pins that a part gives a level to."""
    project, wired = assessment.project, level.wired
    link = wired.tooth.item.part.link
    bears = (wired.tooth.pin.max_v, link.logic_v if link is not None else None)
    most = min((v for v in bears if v is not None), default=None)
    item = next((i for i in project.concept.items if i.id == wired.wish.key.item), None)
    if item is not None and not level.hurts and wired.wish.line.upper_ohm is not None:
        yield "without its dividers", tried(divide, project, item, None, None)
    if most is None or not level.hurts:
        return
    if item is not None and can_be_divided(wired.wish.line) and (way := part_divided(project, item, most)) is not None:
        yield way
    own = next((x for x in project.concept.own_lines if x.id == wired.wish.key.own), None)
    upper = upper_for(own.high_v, most) if own is not None and own.high_v is not None else None
    if own is not None and upper is not None:
        words = f"a divider of {show(upper, 'Ω')} and {show(LOWER_OHM, 'Ω')} before the pin"
        yield words, tried(set_own, project, value_id=own.id, upper_ohm=upper, lower_ohm=LOWER_OHM)


def _sturdier(assessment: Assessment, level: Level) -> Iterator[tuple[str, Change | None]]:
    """Pins that survive what comes in."""
    if not level.hurts:
        return
    project, wired = assessment.project, level.wired
    line = wired.wish.line
    for tooth in assessment.of(PINS).free:
        able = any(d[0] == line.does and (not line.role or d[2] == line.role) for d in tooth.pin.does)
        stronger = (tooth.pin.max_v or 0.0) > (wired.tooth.pin.max_v or 0.0)
        if able and stronger and not tooth.starts:
            yield (f"move it to {tooth.pin.name}, which survives {show(tooth.pin.max_v, 'V')}",
                   tried(lay_thread, project, wired.wish.key, tooth.item.id, tooth.pin.name))  # fmt: skip
            return


def _slower(assessment: Assessment, bus: SharedBus) -> Iterator[tuple[str, Change | None]]:
    """The bus of Timing at the fastest clock that all its parts bear."""
    project = assessment.project
    most = min((d.clock_hz for d in bus.devices if d.clock_hz is not None), default=None)
    timed = [b for b in project.concept.buses if b.kind == KIND_OF[bus.slot.ability]]
    if most is not None and len(timed) == 1 and timed[0].clock_hz > most:
        words = f"{timed[0].name} at {show(most, 'Hz')}"
        slower = partial(set_listed, room="buses", value_id=timed[0].id, word="bus", clock_hz=most)
        yield words, tried(slower, project)


def bus_remedies(assessment: Assessment, bus: SharedBus) -> tuple[Remedy, ...]:
    """Resistors from the bag that fit."""
    ways: list[tuple[str, Change | None]] = []
    if bus.fits is not None:
        chosen = from_a_bag(bus.fits)
        others = 1 / bus.pull_up_ohm if bus.pull_up_ohm else 0.0
        put = assessment.project.concept.wiring.pull_up_ohm
        others -= 1 / put if put else 0.0
        if chosen is not None and 1 / chosen > others + 1e-9:
            besides = from_a_bag(bus.fits.__class__(0.8 / (1 / chosen - others), 1.25 / (1 / chosen - others)))
            if besides is not None:
                words = f"resistors of {show(besides, 'Ω')} besides, on each line"
                ways.append((words, tried(set_wiring, assessment.project, pull_up_ohm=besides)))
        if put is not None:
            ways.append(("without the resistors put there besides", tried(set_wiring, assessment.project,
                                                                            pull_up_ohm=None)))  # fmt: skip
    return possible(*ways, *_slower(assessment, bus))
