"""Pins: which signal is on which, what is left, and why they cannot all be had."""

from collections.abc import Mapping, Sequence
from functools import cached_property

from msgspec import Struct

from wired_union.kernel.subject import Given, Node
from wired_union.project.model import Concept, Item, Project
from wired_union.project.wiring_model import Ability, Thread
from wired_union.subjects.wiring.pin_solver import Clash, Need, Option, Solved, Undecided, solve
from wired_union.subjects.wiring.shares import ways_to_share
from wired_union.subjects.wiring.teeth import Slot, Tooth, pins_of, teeth_of
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


Common = frozenset[tuple[str, str]]
"""Parts with a line that all their copies have on one pin."""


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
    return _solved(bare, begin or concept.threads, deep=deep, explain=explain)


def _solved(bare: PinsResult, threads: Sequence[Thread], *, deep: bool, explain: bool) -> PinsResult:
    """Each signal on its own pin where that can be; else as few as it takes are shared by copies of a part."""
    stored = {key_of(t): t for t in threads if (t.board, t.pin) in bare.places}
    explain = explain and len(bare.wishes) <= MOST_EXPLAINED
    may = dict.fromkeys(w.common for w in bare.wishes if w.common is not None and w.key.copy > 1)
    own = _with_common(bare, stored, frozenset(), deep=deep, explain=explain and not may)
    if own.wired or not may:
        return own
    shared = frozenset(c for c in may if c is not None)
    found = _with_common(bare, stored, shared, deep=deep, explain=explain)
    for one in may if found.wired else ():
        fewer = _with_common(bare, stored, shared - {one}, deep=deep, explain=False)
        if fewer.wired:
            found, shared = fewer, shared - {one}
    return found


def _with_common(
    bare: PinsResult, stored: Mapping[Key, Thread], common: Common, *, deep: bool, explain: bool
) -> PinsResult:  # fmt: skip
    """The first way to share buses out that has an assignment, without pins that matter at the start if it can."""
    ways, whole = ways_to_share(bare.teeth, bare.wishes, stored)
    clashes: list[Clash] = []
    for shares in ways:
        for careful in (True, False):
            needs, seeds = _needs(bare, shares, stored, common, careful=careful)
            found = solve(needs, seeds, explain=explain and not careful and len(ways) == 1)
            if deep and not careful and isinstance(found, Undecided):
                found = _deeper(needs, found)
            if isinstance(found, Solved):
                wired = _wired(bare, shares, stored, common, needs, found)
                return PinsResult(bare.teeth, bare.wishes, wired, shares, needed=bare.needed, missing=bare.missing)
            if not careful and isinstance(found, Clash):
                clashes.append(found)
    if len(clashes) < len(ways) or not whole:
        return PinsResult(bare.teeth, bare.wishes, (), (), undecided=True, needed=bare.needed, missing=bare.missing)
    core = [bare.wishes[n] for n in sorted({n for c in clashes for n in c.wishes})]
    if explain and len(ways) > 1:
        core = _reduced(bare, core, stored, common)
    return PinsResult(bare.teeth, bare.wishes, (), ways[0], tuple(core), len(ways) == 1 and clashes[0].smallest,
                      needed=bare.needed, missing=bare.missing)  # fmt: skip


def _reduced(bare: PinsResult, core: list[Wish], stored: Mapping[Key, Thread], common: Common) -> list[Wish]:
    """Signals that clash however buses are shared out, from which none can be taken away."""

    def clash(wishes: list[Wish]) -> bool:
        some = PinsResult(bare.teeth, tuple(wishes), (), ())
        return all(
            isinstance(solve(_needs(some, shares, stored, common, careful=False)[0], explain=False), Clash)
            for shares in ways_to_share(some.teeth, some.wishes, stored)[0]
        )

    if not clash(core):  # what one way to share has too many of the next may have room for
        core = list(bare.wishes)
    for wish in list(core):
        fewer = [w for w in core if w is not wish]
        if clash(fewer):
            core = fewer
    return core


def _deeper(needs: Sequence[Need], found: Undecided) -> Solved | Clash | Undecided:
    """What a mixed-integer program says where the search did not end."""
    from wired_union.subjects.wiring.pin_program import decide

    told = decide(needs)
    if told is None:
        return found
    if isinstance(told, list):
        return Solved(tuple(told), found.nodes)
    return Clash(tuple(sorted({n.wish for n in needs})), False, found.nodes)


# needs


def _needs(
    bare: PinsResult, slots: Sequence[Slot], stored: Mapping[Key, Thread], common: Common, *, careful: bool
) -> tuple[list[Need], dict[int, int]]:  # fmt: skip
    """One need for each line of each shared bus, for what copies have in common, and for every other signal; and where
    each is today.
    """
    needs: list[Need] = []
    seeds: dict[int, int] = {}
    teeth = _in_order(bare.teeth)
    slot_of = {(s.ability, d): n for n, s in enumerate(slots) for d in s.devices}
    family_of = {d: s.family for s in slots for d in s.devices}
    gathered: dict[tuple[int, str], list[int]] = {}
    for n, wish in enumerate(bare.wishes):
        if wish.shares:
            gathered.setdefault((slot_of[wish.line.does, wish.device], wish.line.role), []).append(n)
    for members in _on_one_pin(bare.wishes, common, stored):
        wish = bare.wishes[members[0]]
        group = ("UART", wish.device) if wish.line.does == "UART" else None
        _add(needs, seeds, bare, members, stored, teeth, careful, group, family_of.get(wish.device))
    for (slot, _), members in gathered.items():
        _add(needs, seeds, bare, members, stored, teeth, careful, ("slot", slot), slots[slot].family)
    return needs, seeds


def _on_one_pin(wishes: Sequence[Wish], common: Common, stored: Mapping[Key, Thread]) -> list[list[int]]:
    """Signals that are on no shared bus, those together that copies have in common: what is kept on one pin, and of
    what is shared all the others beside the first that is kept.
    """
    found: dict[object, list[int]] = {}
    first: dict[object, object] = {}
    for n, wish in enumerate(wishes):
        thread = stored.get(wish.key)
        kept = (thread.board, thread.pin) if thread is not None and thread.kept else None
        if not wish.shares and wish.common is not None and kept is not None:
            found.setdefault((wish.common, kept), []).append(n)
            first.setdefault(wish.common, kept)
    placed = {n for members in found.values() for n in members}
    for n, wish in enumerate(wishes):
        if not wish.shares and n not in placed:
            key = (wish.common, first.get(wish.common)) if wish.common in common else n
            found.setdefault(key, []).append(n)
    return list(found.values())


def needs_of(concept: Concept) -> list[Need]:
    """What the solver is asked for a concept, buses shared as at first."""
    bare = PinsResult(teeth_of(concept), wishes_of(concept).all, (), ())
    stored = {key_of(t): t for t in concept.threads}
    return _needs(bare, ways_to_share(bare.teeth, bare.wishes, stored)[0][0], stored, frozenset(), careful=False)[0]


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
    bare: PinsResult, slots: Sequence[Slot], stored: Mapping[Key, Thread], common: Common, needs: Sequence[Need],
    found: Solved,
) -> tuple[Wired, ...]:  # fmt: skip
    """Every signal on its pin; all devices of a bus on the pins of that bus."""
    first_of = {n: members[0] for members in _on_one_pin(bare.wishes, common, stored) for n in members}
    slot_of = {(s.ability, d): n for n, s in enumerate(slots) for d in s.devices}
    at: dict[object, Option] = {}
    for need, chosen in zip(needs, found.chosen, strict=True):
        wish = bare.wishes[need.wish]
        at[(need.group, wish.line.role) if wish.shares else need.wish] = need.options[chosen]
    wired: list[Wired] = []
    for n, wish in enumerate(bare.wishes):
        option = at[(("slot", slot_of[wish.line.does, wish.device]), wish.line.role) if wish.shares else first_of[n]]
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
