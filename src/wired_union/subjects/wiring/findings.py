"""Findings of wiring: pins, levels, buses, cables, protection, and what is not agreed."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Verdict, share_verdict
from wired_union.kernel.subject import Assessment
from wired_union.subjects.wiring.agreed import HANDED, Handed
from wired_union.subjects.wiring.assess import LEVELS, WIRES
from wired_union.subjects.wiring.edits import clash_names
from wired_union.subjects.wiring.findings_cables import cable_findings, protection_findings
from wired_union.subjects.wiring.levels import Level
from wired_union.subjects.wiring.pins import PINS, PinsResult
from wired_union.subjects.wiring.remedies import (
    anew_remedies,
    bus_remedies,
    gap_remedies,
    level_remedies,
    pin_remedies,
    start_remedies,
    strap_remedies,
)
from wired_union.subjects.wiring.shared import SharedBus
from wired_union.subjects.wiring.wishes import key_of
from wired_union.units import show


def findings(assessment: Assessment) -> Iterator[Finding]:
    """All of them. What is not known is asked for once the team has begun to wire, or limits something here."""
    yield from hard_findings(assessment)
    begun = has_begun(assessment)
    if begun:
        yield from _gaps(assessment)
    yield from _level_gaps(assessment)
    yield from _void(assessment)
    yield from _starts(assessment)
    yield from _apart(assessment)
    for bus in assessment.of(WIRES).buses:
        yield from (f for f in _bus(assessment, bus) if begun or f.verdict is not Verdict.UNKNOWN)
    yield from cable_findings(assessment, begun=begun)
    yield from protection_findings(assessment)
    for handed in assessment.of(HANDED):
        yield from _handed(assessment, handed)


def has_begun(assessment: Assessment) -> bool:
    """Whether the team has laid a thread or a cable, or has a limit on what follows from them."""
    concept = assessment.project.concept
    limits = {x.measure for x in assessment.project.brief.limits}
    return bool(concept.threads or concept.cables or concept.own_lines or concept.joins or limits & LIMITED)


LIMITED = {"pins", "spare-pins", "cable-length", "wire-drop"}


def hard_findings(assessment: Assessment) -> Iterator[Finding]:
    """What a part cannot do without: a pin for each signal, levels that are read and survived, currents borne."""
    pins = assessment.of(PINS)
    if pins.clash:
        yield _clash(assessment, pins)
    yield from _levels(assessment)
    yield from _currents(assessment)


def _clash(assessment: Assessment, pins: PinsResult) -> Finding:
    names = clash_names(pins)
    kept = [n for w, n in zip(pins.clash, names, strict=False) if _kept(assessment, w.key)]
    apart = [s for s in pins.slots if s.apart]
    why = "Take any one of them away, and the others fit."
    why += " No smaller set clashes." if pins.smallest else ""
    why += f" Kept where they are: {', '.join(kept)}." if kept else ""
    if apart:
        why += f" {len(apart)} more bus{'es are' if len(apart) > 1 else ' is'} wanted, since an address is taken twice."
    what = f"{pins.needed} pins are wanted at least, of {pins.pins}. These cannot all be had: {_few(names, 8)}."
    items = tuple(dict.fromkeys(w.key.item for w in pins.clash if w.key.item))
    return Finding("pins", Verdict.BREAKS, "Signals that no pin is left for", what, why, items, "pins",
                   partial(pin_remedies, assessment), hard=True,
                   use=max(pins.needed / pins.pins, 1.0001) if pins.pins else None)  # fmt: skip


def _kept(assessment: Assessment, key: object) -> bool:
    return any(t.kept and key_of(t) == key for t in assessment.project.concept.threads)


def _few(names: list[str], most: int) -> str:
    more = f" and {len(names) - most} more" if len(names) > most else ""
    return ", ".join(names[:most]) + more


def _gaps(assessment: Assessment) -> Iterator[Finding]:
    """What is not known of pins."""
    pins = assessment.of(PINS)
    names = {i.id: i.name for i in assessment.project.concept.items}
    for item, words in pins.missing:
        who = names.get(item, "")
        yield Finding("pins-gap", Verdict.UNKNOWN, who or "Pins", f"Not known yet: {f'{who}: ' if who else ''}{words}.",
                      "Until it is known nothing says whether every signal finds a pin.", (item,) if item else (),
                      "pins", partial(gap_remedies, assessment), of=item, detail=words)  # fmt: skip
    if pins.undecided and not pins.missing:
        yield Finding(
            "pins-gap",
            Verdict.UNKNOWN,
            "Pins",
            "Neither an assignment nor a proof that there is none.",
            "Say for more parts which controller they belong to.",
            (),
            "pins",
            detail="undecided",
        )


def _void(assessment: Assessment) -> Iterator[Finding]:
    """Signals that were laid on pins that their controller does not have, such as after it was swapped."""
    pins, threads = assessment.of(PINS), assessment.project.concept.threads
    gone = [t for t in threads if pins.teeth and (t.board, t.pin) not in pins.places]
    if gone:
        names = ", ".join(dict.fromkeys(t.pin for t in gone[:6])) + (" …" if len(gone) > 6 else "")
        yield Finding("thread-gone", Verdict.TIGHT, "Signals laid on pins that are not there",
                      f"{len(gone)} were laid on {names}; the controller has no such pins.",
                      "They are found on others until they are laid anew.",
                      tuple(dict.fromkeys(t.board for t in gone)), "pins",
                      partial(anew_remedies, assessment))  # fmt: skip


def _starts(assessment: Assessment) -> Iterator[Finding]:
    """Signals on pins whose level while the controller starts matters."""
    for wired in assessment.of(PINS).wired:
        pin = wired.tooth.pin
        if pin.at_start == "free":
            continue
        wanted = "high" if pin.at_start == "must be high" else "low"
        pulls = wired.wish.line.pulls
        if pulls in {"nothing", wanted}:
            continue
        breaks = wired.wish.line.flows != "to the part" or pulls != "not known"
        does = f"may hold it {'low' if wanted == 'high' else 'high'}" if pulls == "not known" else f"pulls it {pulls}"
        yield Finding(
            "start-pin", Verdict.BREAKS if breaks else Verdict.TIGHT, f"Pin {pin.name} is read at start-up",
            f"It must be {wanted} while {wired.tooth.item.name} starts; {wired.wish.name} {does}.",
            "The controller would then not start, or start something else.",
            tuple(filter(None, (wired.wish.key.item, wired.tooth.item.id))), "pins",
            partial(start_remedies, assessment, wired), of=f"{wired.tooth.item.id}/{pin.name}",
        )  # fmt: skip


def _currents(assessment: Assessment) -> Iterator[Finding]:
    """What signals take from a pin, and from all pins of a board together, where it is given."""
    drawn: dict[str, tuple[float, list[str]]] = {}
    for wired in assessment.of(PINS).wired:
        takes, most = wired.wish.line.current_a, wired.tooth.pin.max_current_a
        if not takes:
            continue
        board = wired.tooth.item
        total, names = drawn.get(board.id, (0.0, []))
        drawn[board.id] = (total + takes, [*names, wired.wish.name])
        if most is not None and (verdict := share_verdict(over(takes, most))) is not Verdict.HOLDS:
            yield Finding("pin-current", verdict, f"{wired.wish.name} takes much from pin {wired.tooth.pin.name}",
                          f"{show(takes, 'A')} of {show(most, 'A')}.", "A transistor or a driver between is usual.",
                          tuple(filter(None, (wired.wish.key.item, board.id))), "", hard=verdict is Verdict.BREAKS,
                          of=f"{board.id}/{wired.tooth.pin.name}", detail="current", use=over(takes, most))  # fmt: skip
    for board in assessment.of(PINS).boards():
        total, names = drawn.get(board.id, (0.0, []))
        most = board.part.board.total_current_a if board.part.board is not None else None
        if most is not None and (verdict := share_verdict(over(total, most))) is not Verdict.HOLDS:
            yield Finding("pin-current", verdict, f"The pins of {board.name} together give much",
                          f"{show(total, 'A')} of {show(most, 'A')}: {_few(names, 6)}.",
                          "Transistors or drivers between are usual.", (board.id,), "", hard=verdict is Verdict.BREAKS,
                          of=board.id, detail="all", use=over(total, most))  # fmt: skip


def over(wanted: float, given: float) -> float:
    """What is wanted as a share of what is given, infinite where nothing is."""
    return wanted / given if given > 0 else float("inf")


def _apart(assessment: Assessment) -> Iterator[Finding]:
    """Parts that need a bus of their own because an address is taken."""
    pins = assessment.of(PINS)
    for n, slot in enumerate(s for s in pins.slots if s.apart and s.ability == "I2C"):
        if not pins.solved:
            continue
        wishes = [w for w in pins.wishes if w.device in slot.devices and w.line.does == "I2C"]
        names = list(dict.fromkeys(w.name.rpartition(":")[0] for w in wishes))
        address = next((w.address for w in wishes if w.address is not None), None)
        taken = f"address {hex(address)} is taken" if address is not None else "an address is taken"
        items = tuple(dict.fromkeys(w.key.item for w in wishes if w.key.item))
        yield Finding("address", Verdict.TIGHT, f"{_few(names, 3)} on a bus of its own",
                      f"On the first bus {taken}; a second one takes two pins more.",
                      "A strap that moves the address saves them.", items, "pins",
                      partial(strap_remedies, assessment, items), of=str(n))  # fmt: skip


def _levels(assessment: Assessment) -> Iterator[Finding]:
    """The worst wire of each part, where a level is not read, or hurts."""
    worst: dict[str, Level] = {}
    for level in assessment.of(LEVELS):
        of = level.wired.wish.key.item or level.wired.wish.key.own
        if level.verdict in {Verdict.BREAKS, Verdict.TIGHT} and (
            of not in worst or (level.verdict.rank, level.margin_v or 0) < (worst[of].verdict.rank,
                                                                             worst[of].margin_v or 0)
        ):  # fmt: skip
            worst[of] = level
    for of, level in worst.items():
        yield _level(assessment, of, level)


def _level_gaps(assessment: Assessment) -> Iterator[Finding]:
    """What is not known of a level, once for each part; a part or controller without a voltage is Power's to say."""
    said: set[str] = set()
    items = {i.id: i for i in assessment.project.concept.items}
    for level in assessment.of(LEVELS):
        key, board = level.wired.wish.key, level.wired.tooth.item
        links = [items[key.item].part.link, board.part.link] if key.item in items else []
        of = key.item or key.own
        if not level.missing or of in said or any(x is None or x.logic_v is None for x in links):
            continue
        said.add(of)
        yield Finding("level-gap", Verdict.UNKNOWN, level.wired.wish.name, f"Not known yet: {level.missing}.",
                      "Until it is known nothing says whether the pin survives it.",
                      (key.item,) if key.item else (), of=of)  # fmt: skip


def _level(assessment: Assessment, of: str, level: Level) -> Finding:
    wired, breaks = level.wired, level.verdict is Verdict.BREAKS
    items = tuple(filter(None, (wired.wish.key.item, wired.tooth.item.id)))
    if level.hurts:
        title = f"{wired.wish.name}: too much for pin {wired.tooth.pin.name}"
        what, why = (
            f"{level.hurts}.",
            "A pin that gets more than it survives is gone, and often the controller with it.",
        )
    else:
        title = f"{wired.wish.name}: {'not read' if breaks else 'hardly read'}"
        spare = f"{show(abs(level.margin_v or 0.0), 'V')} {'short' if breaks else 'to spare'}"
        what, why = f"{level.said}: {spare}.", "By the thresholds of its family, not only by its rail."
    return Finding("wire-level", level.verdict, title, what, why, items, "",
                   partial(level_remedies, assessment, level), hard=breaks, of=of)  # fmt: skip


BUS_SAYS = {
    "line low": ("its parts hardly get its lines down", "Resistors on several modules add up, side by side."),
    "line rises": ("its lines rise too slowly", "Long cables and weak pull-ups make slow edges; bits are read wrong."),
    "clock": ("too fast for one of its parts", "All parts of a bus hear its clock."),
    "reach": ("longer than its clock allows", "What comes back comes too late."),
}


def _bus(assessment: Assessment, bus: SharedBus) -> Iterator[Finding]:
    """What does not hold of a bus, and what is not known of it."""
    items = tuple(dict.fromkeys(d.item for d in bus.devices if d.item))
    for check in bus.checks:
        if check.verdict is Verdict.HOLDS:
            continue
        words, why = BUS_SAYS[check.id]
        found = Finding("shared-bus", check.verdict, f"{bus.name}: {words}", f"{check.said}.", why, items, "",
                        partial(bus_remedies, assessment, bus), of=bus.id, detail=f"{check.id}{check.of}",
                        use=check.use)  # fmt: skip
        yield found if not bus.missing else found.while_unknown("; ".join(bus.missing))
    for gap in bus.missing:
        yield Finding("bus-wires-gap", Verdict.UNKNOWN, bus.name, f"Not known yet: {gap}.",
                      "Until it is known nothing says whether its bits arrive whole.", items, "",
                      partial(bus_remedies, assessment, bus), of=bus.id, detail=gap)  # fmt: skip


def _handed(assessment: Assessment, handed: Handed) -> Iterator[Finding]:
    i = handed.interface
    items = tuple(filter(None, (i.one, i.other)))
    if handed.moved:
        asks = f" To be looked at again by {' and '.join(handed.asks)}." if handed.asks else ""
        yield Finding("interface", Verdict.BREAKS, f"{i.name} has moved since it was agreed",
                      f"{'; '.join(handed.moved)}.{asks}", "What one side changes the other builds wrong.", items,
                      of=i.id, detail="moved")  # fmt: skip
    elif handed.lacks:
        yield Finding(
            "interface",
            Verdict.UNKNOWN,
            f"{i.name} is not agreed",
            f"Not known yet: {'; '.join(handed.lacks)}.",
            "Two people build it from two ideas.",
            items,
            of=i.id,
            detail="open",
        )
