"""Pins: which signal is on which, what is left, and why they cannot all be had."""

from collections.abc import Iterator, Mapping, Sequence
from functools import cached_property
from itertools import islice, product

from msgspec import Struct

from wired_union.kernel.subject import Given, Node
from wired_union.project.model import Concept, Item, Project
from wired_union.project.wiring_model import SOCKETS, Ability, Pin, Thread
from wired_union.subjects.wiring.pin_solver import Clash, Need, Option, Solved, Undecided, solve
from wired_union.subjects.wiring.wishes import (
    Key,
    Wish,
    Wishes,
    is_controller,
    is_expander,
    key_of,
    wanted_pins,
    wishes_of,
)

MOST_EXPLAINED = 200
"""Signals up to which a clash is made as small as can be."""
MOST_PAIRS = 100_000
"""Signals times pins that are looked at: a machine of a table's size has a few thousand."""
MOST_SHARES = 64
"""Ways to share buses out over several controllers that are tried."""


class Tooth(Struct, frozen=True):
    """One pin of one controller."""

    item: Item
    pin: Pin
    number: int
    family: int

    @property
    def is_socket(self) -> bool:
        """Whether it is a socket that a plug goes into, and no pin."""
        return bool(self.pin.does) and all(d[0] in SOCKETS for d in self.pin.does)

    @property
    def starts(self) -> bool:
        """Whether its level while the controller starts matters."""
        return self.pin.at_start != "free"


class Slot(Struct, frozen=True):
    """Devices that share a bus: what kind, at which family, the wishes for each role."""

    ability: Ability
    family: int
    devices: tuple[tuple[str, str, int], ...]
    apart: bool = False
    """whether it is only because an address is taken on another"""


class Wired(Struct, frozen=True):
    """One signal on one pin; `stored` where the team has it so, else it is only found."""

    wish: Wish
    tooth: Tooth
    does: tuple[Ability, str, str]
    kept: bool
    stored: bool

    def as_thread(self, *, kept: bool | None = None) -> Thread:
        """The same as the project holds it."""
        k = self.wish.key
        return Thread(item=k.item, own=k.own, join=k.join, copy=k.copy, line=k.line, board=self.tooth.item.id,
                      pin=self.tooth.pin.name, kept=self.kept if kept is None else kept)  # fmt: skip


class PinsResult(Struct, frozen=True, dict=True):
    """Everything that is known of the pins."""

    teeth: tuple[Tooth, ...]
    wishes: tuple[Wish, ...]
    wired: tuple[Wired, ...]
    slots: tuple[Slot, ...]
    clash: tuple[Wish, ...] = ()
    smallest: bool = False
    undecided: bool = False
    needed: int = 0
    missing: tuple[tuple[str, str], ...] = ()

    @property
    def solved(self) -> bool:
        return not self.clash and not self.undecided

    @cached_property
    def used(self) -> int:
        """Pins that are taken; while no assignment is found, the least that is needed."""
        if not self.solved:
            return self.needed
        return len({w.tooth.number for w in self.wired if not w.tooth.is_socket})

    @cached_property
    def free(self) -> tuple[Tooth, ...]:
        """Pins that nothing is on."""
        taken = {w.tooth.number for w in self.wired}
        return tuple(t for t in self.teeth if t.number not in taken and not t.is_socket)

    @cached_property
    def places(self) -> dict[tuple[str, str], Tooth]:
        """Every pin by its controller and its name."""
        return {(t.item.id, t.pin.name): t for t in self.teeth}

    @cached_property
    def pins(self) -> int:
        return sum(not t.is_socket for t in self.teeth)

    @cached_property
    def threads(self) -> tuple[Thread, ...]:
        """Every signal as a thread to its pin."""
        return tuple(w.as_thread() for w in self.wired)

    @cached_property
    def at(self) -> Mapping[Key, Wired]:
        return {w.wish.key: w for w in self.wired}

    def boards(self) -> list[Item]:
        """Controllers and expanders with pins, in the order of the parts."""
        return list({t.item.id: t.item for t in self.teeth}.values())

    def on(self, board: str) -> list[Wired]:
        return [w for w in self.wired if w.tooth.item.id == board]


def pins_of(concept: Concept) -> int:
    """How many pins all controllers and expanders have."""
    return sum(len(i.part.board.pins) for i in concept.items if i.part.board is not None)


def teeth_of(concept: Concept) -> tuple[Tooth, ...]:
    """All pins; those of an expander belong to the family of the controller that it is on."""
    controllers = [i for i in concept.items if is_controller(i) and i.part.board is not None]
    family = {i.id: n for n, i in enumerate(controllers)}
    found: list[Tooth] = []
    for item in concept.items:
        if item.part.board is None or not (item.id in family or is_expander(item)):
            continue
        of = family.get(item.id, family.get(item.board, 0))
        copies = item.count if is_expander(item) else 1
        for copy in range(min(copies, 16)):
            for pin in item.part.board.pins:
                named = pin if copy == 0 else pin.but(name=f"{pin.name}-{copy + 1}")
                found.append(Tooth(item, named, len(found), of))
    return tuple(found)


def assess_pins(
    concept: Concept, more: Sequence[Wish] = (), begin: Sequence[Thread] = (), *, deep: bool = False,
    explain: bool = True,
) -> PinsResult:  # fmt: skip
    """Where every signal can be; `more` are further wishes, to see whether they would still fit.

    `begin` is where to begin looking in place of the threads that are laid; `deep` takes the time that it takes,
    `explain` makes a clash as small as can be.
    """
    wishes = wishes_of(concept)
    every = (*wishes.all, *more)
    needed = wanted_pins(Wishes(every, ()))
    if len(every) * pins_of(concept) > MOST_PAIRS:
        many = (("", f"where {len(every)} signals are on {pins_of(concept)} pins: so many are not looked at"),)
        return PinsResult((), every, (), (), undecided=True, needed=needed, missing=(*wishes.missing, *many))
    teeth = teeth_of(concept)
    bare = PinsResult(teeth, every, (), (), needed=needed, missing=wishes.missing)
    if not any(is_controller(i) for i in concept.items):
        lacks = (("", "a controller that signals go to"),) if every else ()
        return PinsResult(teeth, every, (), (), needed=needed, undecided=bool(every), missing=(*wishes.missing, *lacks))
    if not teeth:
        return PinsResult(teeth, every, (), (), needed=needed, undecided=bool(every), missing=wishes.missing)
    return _solved(concept, bare, begin or concept.threads, deep=deep, explain=explain)


def _solved(concept: Concept, bare: PinsResult, threads: Sequence[Thread], *, deep: bool, explain: bool) -> PinsResult:
    """The first way to share buses out that has an assignment, without pins that matter at the start if it can."""
    stored = {key_of(t): t for t in threads if (t.board, t.pin) in bare.places}
    explain = explain and len(bare.wishes) <= MOST_EXPLAINED
    first: PinsResult | None = None
    undecided = False
    for shares in _shares(concept, bare, stored):
        for careful in (True, False):
            needs, seeds = _needs(bare, shares, stored, careful=careful)
            found = solve(needs, seeds, explain=explain and not careful and first is None)
            if deep and not careful and isinstance(found, Undecided):
                found = _deeper(needs, found)
            if isinstance(found, Solved):
                wired = _wired(bare, shares, stored, needs, found)
                return PinsResult(bare.teeth, bare.wishes, wired, shares, needed=bare.needed, missing=bare.missing)
            if not careful and isinstance(found, Clash):
                clash = tuple(bare.wishes[n] for n in found.wishes)
                first = first or PinsResult(bare.teeth, bare.wishes, (), shares, clash, found.smallest,
                                            needed=bare.needed, missing=bare.missing)  # fmt: skip
            undecided = undecided or (not careful and not isinstance(found, Clash))
    if first is None or undecided or _many(concept, bare, stored):
        return PinsResult(bare.teeth, bare.wishes, (), (), undecided=True, needed=bare.needed, missing=bare.missing)
    return first


def _deeper(needs: Sequence[Need], found: Undecided) -> Solved | Clash | Undecided:
    """What a mixed-integer program says where the search did not end."""
    from wired_union.subjects.wiring.pin_program import decide

    told = decide(needs)
    if told is None:
        return found
    if isinstance(told, list):
        return Solved(tuple(told), found.nodes)
    return Clash(tuple(sorted({n.wish for n in needs})), False, found.nodes)


# buses that are shared


def _loose(bare: PinsResult, stored: Mapping[Key, Thread], families: Mapping[str, int]) -> list[tuple[str, str, int]]:
    """Devices on a shared bus that may be at several families."""
    if len(set(families.values())) < 2:
        return []
    held = {w.device for w in bare.wishes if w.board or (w.key in stored and stored[w.key].kept)}
    return list(dict.fromkeys(w.device for w in bare.wishes if w.shares and w.device not in held))


def _many(concept: Concept, bare: PinsResult, stored: Mapping[Key, Thread]) -> bool:
    """Whether there are more ways to share buses out than are tried."""
    families = {t.item.id: t.family for t in bare.teeth}
    return len(set(families.values())) ** len(_loose(bare, stored, families)) > MOST_SHARES


def _shares(concept: Concept, bare: PinsResult, stored: Mapping[Key, Thread]) -> Iterator[tuple[Slot, ...]]:
    """Ways to share buses out over the controllers: all at the first, then others."""
    families = {t.item.id: t.family for t in bare.teeth}
    loose = _loose(bare, stored, families)
    every = sorted(set(families.values()))
    for choice in islice(product(every, repeat=len(loose)), MOST_SHARES):
        yield tuple(_slots(bare, stored, families, dict(zip(loose, choice, strict=True))))


def _slots(
    bare: PinsResult, stored: Mapping[Key, Thread], families: Mapping[str, int],
    chosen: Mapping[tuple[str, str, int], int],
) -> Iterator[Slot]:  # fmt: skip
    """As few buses as addresses allow: devices of one address cannot be on one, nor those kept on two instances."""
    buses: dict[tuple[Ability, int], list[tuple[dict[tuple[str, str, int], int | None], set[object]]]] = {}
    seen: set[tuple[Ability, tuple[str, str, int]]] = set()
    for wish in sorted((w for w in bare.wishes if w.shares), key=lambda w: w.key not in stored):
        ability = wish.line.does
        if (ability, wish.device) in seen:
            continue
        seen.add((ability, wish.device))
        thread = stored.get(wish.key)
        kept = thread if thread is not None and thread.kept else None
        held = wish.board or (kept.board if kept is not None else "")
        family = families.get(held, chosen.get(wish.device, 0))
        instance = _instance(bare, kept, wish) if kept is not None else None
        address = wish.address if ability == "I2C" else None
        for devices, instances in buses.setdefault((ability, family), []):
            taken = address is not None and address in devices.values()
            elsewhere = instance is not None and bool(instances) and instance not in instances
            if not taken and not elsewhere:
                break
        else:
            devices, instances = {}, set()
            buses[ability, family].append((devices, instances))
        devices[wish.device] = address
        if instance is not None:
            instances.add(instance)
    for (ability, family), slots in buses.items():
        for n, (devices, instances) in enumerate(slots):
            yield Slot(ability, family, tuple(devices), n > 0 and not instances)


def _instance(bare: PinsResult, thread: Thread, wish: Wish) -> object:
    tooth = bare.places.get((thread.board, thread.pin))
    does = tooth.pin.does if tooth is not None else ()
    return next((d[1] for d in does if d[0] == wish.line.does and d[2] == wish.line.role), None)


# needs


def _needs(
    bare: PinsResult, slots: Sequence[Slot], stored: Mapping[Key, Thread], *, careful: bool
) -> tuple[list[Need], dict[int, int]]:  # fmt: skip
    """One need for each line of each shared bus, and for every other signal; and where each is today."""
    needs: list[Need] = []
    seeds: dict[int, int] = {}
    teeth = _in_order(bare.teeth)
    slot_of = {(s.ability, d): n for n, s in enumerate(slots) for d in s.devices}
    gathered: dict[tuple[int, str], list[int]] = {}
    for n, wish in enumerate(bare.wishes):
        if wish.shares:
            gathered.setdefault((slot_of[wish.line.does, wish.device], wish.line.role), []).append(n)
        else:
            group = ("UART", wish.device) if wish.line.does == "UART" else None
            _add(needs, seeds, bare, [n], stored, teeth, careful, group)
    for (slot, _), members in gathered.items():
        _add(needs, seeds, bare, members, stored, teeth, careful, ("slot", slot), slots[slot].family)
    return needs, seeds


def needs_of(concept: Concept) -> list[Need]:
    """What the solver is asked for a concept, buses shared as at first."""
    bare = PinsResult(teeth_of(concept), wishes_of(concept).all, (), ())
    stored = {key_of(t): t for t in concept.threads}
    return _needs(bare, next(_shares(concept, bare, stored)), stored, careful=False)[0]


def _in_order(teeth: Sequence[Tooth]) -> list[Tooth]:
    """Pins that can do least come first, so that those that can do much are left."""
    return sorted(teeth, key=lambda t: (t.starts, len(t.pin.does), t.number))


def _add(
    needs: list[Need], seeds: dict[int, int], bare: PinsResult, members: list[int], stored: Mapping[Key, Thread],
    teeth: Sequence[Tooth], careful: bool, group: object, family: int | None = None,
) -> None:  # fmt: skip
    """One need of one or several signals that are one wire."""
    wish = bare.wishes[members[0]]
    threads = [t for n in members if (t := stored.get(bare.wishes[n].key)) is not None]
    kept = {(t.board, t.pin) for t in threads if t.kept}
    boards = {bare.wishes[n].board for n in members} - {""}
    options: list[Option] = []
    here = None
    for tooth in teeth:
        at = (tooth.item.id, tooth.pin.name)
        if (kept and {at} != kept) or (careful and tooth.starts and not kept) or (wish.key.item == tooth.item.id):
            continue
        if family is not None and tooth.family != family:
            continue
        if boards and not any(_belongs(tooth, b, bare.teeth) for b in boards):
            continue
        for does in tooth.pin.does:
            if does[0] == wish.line.does and (not wish.line.role or not does[2] or does[2] == wish.line.role):
                if here is None and threads and at == (threads[0].board, threads[0].pin):
                    here = len(options)
                options.append(_option(tooth, does, grouped=group is not None))
    if here is not None:
        seeds[len(needs)] = here
    owners = tuple(dict.fromkeys(bare.wishes[n].device for n in members)) if family is None else ()
    for n in members:
        needs.append(Need(n, tuple(options), group, owners, wish.line.frequency_hz, wish.like))
        break


def _belongs(tooth: Tooth, board: str, teeth: Sequence[Tooth]) -> bool:
    """Whether a pin is of a board, or of an expander that hangs on it."""
    family = next((t.family for t in teeth if t.item.id == board), None)
    return tooth.item.id == board or (is_expander(tooth.item) and tooth.family == family)


def _option(tooth: Tooth, does: tuple[Ability, str, str], *, grouped: bool) -> Option:
    ability, instance, role = does
    at = tooth.item.id
    exact = (ability, at, instance, role) if instance and role else (ability, at, instance) if instance else None
    only = exact if ability in {"PWM", "interrupt", "analogue"} else None
    timer = (at, instance) if ability == "PWM" and instance else None
    return Option(tooth.number, tooth.family, (ability, at, instance) if grouped else None, only, timer, ability)


def _wired(
    bare: PinsResult, slots: Sequence[Slot], stored: Mapping[Key, Thread], needs: Sequence[Need], found: Solved
) -> tuple[Wired, ...]:  # fmt: skip
    """Every signal on its pin; all devices of a bus on the pins of that bus."""
    slot_of = {(s.ability, d): n for n, s in enumerate(slots) for d in s.devices}
    at: dict[object, Option] = {}
    for need, chosen in zip(needs, found.chosen, strict=True):
        wish = bare.wishes[need.wish]
        at[(need.group, wish.line.role) if wish.shares else need.wish] = need.options[chosen]
    wired: list[Wired] = []
    for n, wish in enumerate(bare.wishes):
        option = at[(("slot", slot_of[wish.line.does, wish.device]), wish.line.role) if wish.shares else n]
        tooth = bare.teeth[option.pin]
        thread = stored.get(wish.key)
        same = thread is not None and (thread.board, thread.pin) == (tooth.item.id, tooth.pin.name)
        wired.append(Wired(wish, tooth, _does(tooth, wish, option), same and thread is not None and thread.kept, same))
    return tuple(wired)


def _does(tooth: Tooth, wish: Wish, option: Option) -> tuple[Ability, str, str]:
    """Which of the pin's abilities is used."""
    for does in tooth.pin.does:
        made = _option(tooth, does, grouped=option.instance is not None)
        if made == option and (not wish.line.role or not does[2] or does[2] == wish.line.role):
            return does
    return (wish.line.does, "", "")


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    items = tuple(
        (i.id, i.name, i.count, i.board, i.address, i.part.kind, i.part.link, i.part.board, i.part.port)
        for i in concept.items if i.part.link is not None or i.part.board is not None or i.part.port is not None
    )  # fmt: skip
    signals = tuple((s.name, s.kind, s.item) for s in concept.signals)
    return items, concept.own_lines, concept.joins, concept.threads, signals


def _work(project: Project, _: Given) -> PinsResult:
    return assess_pins(project.concept)


PINS = Node("pins", _read, _work)
