"""Which devices share a bus: as few buses as addresses allow, then every other way that could have room."""

from collections.abc import Iterator, Mapping, Sequence
from itertools import islice, product

from wired_union.project.wiring_model import Ability, Thread
from wired_union.subjects.wiring.teeth import Device, Slot, Tooth
from wired_union.subjects.wiring.wishes import Key, Wish

MOST_SHARES = 64
"""Ways to share buses out over several controllers that are tried."""
Stored = Mapping[Key, Thread]


def held_by(teeth: Sequence[Tooth], wishes: Sequence[Wish], stored: Stored) -> dict[Device, int]:
    """Devices that are bound to one controller, by what the team says or by any signal that is kept, and its family."""
    families = {t.item.id: t.family for t in teeth}
    found: dict[Device, int] = {}
    for w in wishes:
        thread = stored.get(w.key)
        board = w.board or (thread.board if thread is not None and thread.kept else "")
        if board in families:
            found.setdefault(w.device, families[board])
    return found


def ways_to_share(
    teeth: Sequence[Tooth], wishes: Sequence[Wish], stored: Stored
) -> tuple[list[tuple[Slot, ...]], bool]:  # fmt: skip
    """Ways to share buses out over the controllers, fewest buses first; and whether these are all that there are."""
    every, held = sorted({t.family for t in teeth}), held_by(teeth, wishes, stored)
    loose = list(dict.fromkeys(w.device for w in wishes if w.shares and w.device not in held))
    if len(every) < 2:
        loose = []
    found = []
    ways = product(partings(wishes, stored), product(every, repeat=len(loose)))
    for apart, choice in islice(ways, MOST_SHARES + 1):
        found.append(tuple(_slots(teeth, wishes, stored, held | dict(zip(loose, choice, strict=True)), apart)))
    return found[:MOST_SHARES], len(found) <= MOST_SHARES


Apart = Mapping[tuple[Ability, Device], int]
Kind = tuple[frozenset[str], frozenset[tuple[str, str, str]]]


def partings(wishes: Sequence[Wish], stored: Stored) -> Iterator[Apart]:
    """Which devices are kept off each other's bus: none at first, then every way that could have more room.

    Devices of one kind have the same lines, kept on the same pins, and gain nothing from being apart; nor does any
    where one kind has all lines and nothing is kept: whatever bus serves that one serves them all.
    """
    kinds: dict[Ability, dict[Device, Kind]] = {}
    for wish in wishes:
        if wish.shares:
            thread = stored.get(wish.key)
            roles, kept = kinds.setdefault(wish.line.does, {}).get(wish.device, (frozenset(), frozenset()))
            if thread is not None and thread.kept:
                kept |= {(wish.line.role, thread.board, thread.pin)}
            kinds[wish.line.does][wish.device] = (roles | {wish.line.role}, kept)
    sides = []
    for ability, of in kinds.items():
        known = list(dict.fromkeys(of.values()))
        union: frozenset[str] = frozenset().union(*(roles for roles, _ in known))
        one_has_all = any(roles == union for roles, _ in known) and not any(kept for _, kept in known)
        groups = [(0,) * len(known)] if one_has_all else islice(_groupings(len(known)), MOST_SHARES + 1)
        sides.append([{(ability, d): group[known.index(kind)] for d, kind in of.items()} for group in groups])
    for chosen in product(*sides):
        yield {key: n for side in chosen for key, n in side.items()}


def _groupings(count: int) -> Iterator[tuple[int, ...]]:
    """Every way to put some things into groups, all together first: restricted growth strings (Hutchinson 1963)."""
    if count == 0:
        yield ()
        return
    for rest in _groupings(count - 1):
        for n in range(max(rest, default=-1) + 2):
            yield (*rest, n)


class _Bus:
    """A bus while devices are put on it."""

    def __init__(self, apart: int) -> None:
        self.apart, self.addresses, self.instances = apart, dict[Device, int | None](), set[object]()

    def takes(self, apart: int, address: int | None, instance: object) -> bool:
        taken = address is not None and address in self.addresses.values()
        elsewhere = instance is not None and bool(self.instances) and instance not in self.instances
        return apart == self.apart and not taken and not elsewhere


def _slots(
    teeth: Sequence[Tooth], wishes: Sequence[Wish], stored: Stored, family_of: Mapping[Device, int], apart: Apart
) -> Iterator[Slot]:  # fmt: skip
    """As few buses as addresses allow: devices of one address cannot be on one, nor those kept on two instances."""
    buses: dict[tuple[Ability, int], list[_Bus]] = {}
    kept_at = _kept_at(teeth, wishes, stored)
    done: set[tuple[Ability, Device]] = set()
    for wish in sorted((w for w in wishes if w.shares), key=lambda w: w.key not in stored):
        ability, device = wish.line.does, wish.device
        if (ability, device) in done:
            continue
        done.add((ability, device))
        instance, group = kept_at.get((ability, device)), apart.get((ability, device), 0)
        address = wish.address if ability == "I2C" else None
        known = buses.setdefault((ability, family_of.get(device, 0)), [])
        bus = next((b for b in known if b.takes(group, address, instance)), None)
        if bus is None:
            bus = _Bus(group)
            known.append(bus)
        bus.addresses[device] = address
        if instance is not None:
            bus.instances.add(instance)
    for (ability, family), all_of in buses.items():
        for n, bus in enumerate(all_of):
            yield Slot(ability, family, tuple(bus.addresses), n > 0 and not bus.instances)


def _kept_at(teeth: Sequence[Tooth], wishes: Sequence[Wish], stored: Stored) -> dict[tuple[Ability, Device], object]:
    """Of devices with a line that is kept, the instance that it is of."""
    places = {(t.item.id, t.pin.name): t for t in teeth}
    found: dict[tuple[Ability, Device], object] = {}
    for wish in wishes:
        thread = stored.get(wish.key) if wish.shares else None
        tooth = places.get((thread.board, thread.pin)) if thread is not None and thread.kept else None
        does = tooth.pin.does if tooth is not None else ()
        instance = next((d[1] for d in does if d[0] == wish.line.does and d[2] == wish.line.role), None)
        if instance is not None:
            found.setdefault((wish.line.does, wish.device), instance)
    return found
