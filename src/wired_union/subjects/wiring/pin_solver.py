"""Signals on pins: an assignment, or the proof that there is none.

Every need takes one pin. That alone is a matching in a bipartite graph, which augmenting paths decide; what goes
beyond it (a timer has one frequency, both lines of a serial port are of one instance, all lines of a part end at one
controller) is looked at in the matching that was found, and where it does not hold the search splits on it. A split
is complete: one of its sides must be so. A node is given up when any of three relaxations has no matching: needs on
pins, needs on what only one can have, groups on instances. Sources: Berge 1957 and Kuhn 1955 (augmenting paths);
Hall 1935 (why there is none); Land & Doig 1960 (branch and bound).
"""

from collections.abc import Hashable, Iterable, Iterator, Mapping, Sequence
from itertools import combinations_with_replacement

from msgspec import Struct

MOST_NODES = 600
"""Splits after which it is said that nothing is decided: a third of a second."""
MOST_SUBSETS = 400
"""Sets of wishes that are tried for a smaller one that clashes."""


class Option(Struct, frozen=True):
    """One pin in one use. `only` is what no other need can have at the same time, such as a channel of a timer."""

    pin: int
    family: int = 0
    """the controller, with its expanders"""
    instance: Hashable = None
    """the port or bus that it is of"""
    only: Hashable = None
    timer: Hashable = None
    ability: str = ""


class Need(Struct, frozen=True):
    """One signal: the pins that would do, best first, and with what it must agree.

    `wish` is what people asked for, of which this is a part. Needs of one `group` are of one instance, and no two
    groups share one. Needs with an `owner` in common end at one family.
    """

    wish: int
    options: tuple[Option, ...]
    group: Hashable = None
    owners: tuple[Hashable, ...] = ()
    frequency_hz: float | None = None
    like: Hashable = None
    """wishes that are alike are interchangeable where a smaller clash is sought"""


class Solved(Struct, frozen=True):
    """An option for each need, by its number in `options`; and how many splits it took."""

    chosen: tuple[int, ...]
    nodes: int


class Clash(Struct, frozen=True):
    """Wishes that cannot all be had. Take any away and the rest can; `smallest` where no smaller set clashes."""

    wishes: tuple[int, ...]
    smallest: bool
    nodes: int


class Undecided(Struct, frozen=True):
    """Neither an assignment nor a proof within the splits that were allowed."""

    nodes: int


Masks = list[int]
Bits = dict[tuple[str, Hashable], int]
"""Of one need, its options on a pin, or that take what only one can have, as bits."""
Cut = tuple[int, int]
"""A need, and the options it loses."""


def solve(needs: Sequence[Need], seeds: Mapping[int, int] | None = None, most: int = MOST_NODES,
          explain: bool = True, bits: Sequence[Bits] | None = None) -> Solved | Clash | Undecided:  # fmt: skip
    """An option for each need.

    Args:
        needs: what is wanted
        seeds: by need, the option to begin with, such as where it is today
        most: splits at the most
        explain: whether a clash is made as small as can be
        bits: of each need, where they are known from a search before
    """
    search = Search(needs, most, bits)
    found = search.run(dict(seeds or {}))
    if found is not None:
        return Solved(tuple(found), search.nodes)
    if search.nodes >= most:
        return Undecided(search.nodes)
    core = sorted({needs[n].wish for n in search.blamed})
    if not explain:
        return Clash(tuple(core), False, search.nodes)
    return _least(_Subsets(needs, search.bits), core, search.nodes)


def bits_of(need: Need) -> Bits:
    found: Bits = {}
    for i, option in enumerate(need.options):
        for key in (("pin", option.pin), ("only", option.only)):
            found[key] = found.get(key, 0) | 1 << i
    return found


class _Frame:
    """A split on the way down: its sides, which is next, and why those that were tried failed."""

    def __init__(
        self, masks: Masks, chosen: dict[int, int], sides: list[list[Cut]], about: set[int] | None = None
    ) -> None:  # fmt: skip
        self.masks, self.chosen, self.sides, self.next = masks, chosen, sides, 0
        self.about, self.blame = about or set(), set[int]()


class Search:
    """One search; `blamed` gathers the needs that any dead end came from."""

    def __init__(self, needs: Sequence[Need], most: int, bits: Sequence[Bits] | None = None) -> None:
        self.needs, self.most, self.nodes = needs, most, 0
        self.blamed: set[int] = set()
        self.groups: dict[Hashable, list[int]] = {}
        self.owned: dict[Hashable, list[int]] = {}
        self.bits: Sequence[Bits] = bits if bits is not None else [bits_of(need) for need in needs]
        self.single = [
            n for n, need in enumerate(needs) if need.options and all(o.only is not None for o in need.options)
        ]
        for n, need in enumerate(needs):
            if need.group is not None:
                self.groups.setdefault(need.group, []).append(n)
            for owner in need.owners:
                self.owned.setdefault(owner, []).append(n)

    def run(self, seeds: dict[int, int]) -> list[int] | None:
        """Depth first, the first side of every split that still may hold; None where no side does.

        A side that fails for reasons that its own cut has no part in fails the whole split: its other sides would fail
        the same way (conflict-directed backjumping, Prosser 1993).
        """
        frames = [_Frame([(1 << len(need.options)) - 1 for need in self.needs], seeds, [[]])]
        while frames:
            frame = frames[-1]
            if frame.next == len(frame.sides) or self.nodes >= self.most:
                frames.pop()
                self._tell(frames, frame.blame | frame.about)
                continue
            side = frame.sides[frame.next]
            frame.next += 1
            masks = list(frame.masks)
            for n, gone in side:
                masks[n] &= ~gone
            self.nodes += 1
            chosen, lost = self._matched(masks, frame.chosen)
            if chosen is None:
                self._tell(frames, lost)
                continue
            split = self._split(chosen, masks)
            if split is None:
                return [chosen[n] for n in range(len(self.needs))]
            frames.append(_Frame(masks, chosen, split[0], split[1]))
        return None

    def _tell(self, frames: list["_Frame"], blame: set[int]) -> None:
        """Give the reasons of a side's failure to its split, and skip the other sides where its cut is none of them."""
        self.blamed |= blame
        if not frames:
            return
        frame = frames[-1]
        cut = {n for n, gone in frame.sides[frame.next - 1] if gone & frame.masks[n]}
        if frame.sides[frame.next - 1] and not cut & blame:
            frame.blame, frame.about, frame.next = blame, set(), len(frame.sides)
        else:
            frame.blame |= blame

    # relaxations

    def _matched(self, masks: Masks, before: dict[int, int]) -> tuple[dict[int, int] | None, set[int]]:
        """A pin for each need, begun from what was before; None, with the needs that are too many, where there is no
        matching of a relaxation.
        """
        masks, forced = self._narrowed(masks)
        chosen, lost = self._all_matched(masks, before)
        return chosen, lost | forced if lost else lost

    def _narrowed(self, masks: Masks) -> tuple[Masks, set[int]]:
        """Masks without the pins, and what only one can have, of needs that have one pin left; and those needs."""
        masks, forced = list(masks), set[int]()
        due = [n for n in range(len(masks)) if self._one_pin(n, masks[n]) is not None]
        while due:
            n = due.pop()
            if n in forced or (pin := self._one_pin(n, masks[n])) is None:
                continue
            forced.add(n)
            own = {o.only for i, o in enumerate(self.needs[n].options) if masks[n] >> i & 1}
            only = own.pop() if len(own) == 1 else None
            for m in range(len(masks)):
                if m == n or not masks[m]:
                    continue
                gone = self.bits[m].get(("pin", pin), 0) | (
                    self.bits[m].get(("only", only), 0) if only is not None else 0
                )
                if masks[m] & gone:
                    masks[m] &= ~gone
                    due.append(m)
        return masks, forced

    def _one_pin(self, n: int, mask: int) -> int | None:
        """The pin of a need that has no other left."""
        found = None
        for i, option in enumerate(self.needs[n].options):
            if mask >> i & 1:
                if found is not None and option.pin != found:
                    return None
                found = option.pin
        return found

    def _all_matched(self, masks: Masks, before: dict[int, int]) -> tuple[dict[int, int] | None, set[int]]:
        """The three matchings, one after the other."""
        wished, lost = matching(self._on_only(masks), {})
        if not lost:
            _, lost = matching(self._on_instances(masks), {})
        if lost:
            return None, {n for key in lost for n in ([key] if isinstance(key, int) else self.groups[key])}
        return self._on_pins(masks, before, wished)

    def _on_pins(
        self, masks: Masks, before: dict[int, int], wished: Mapping[Hashable, Hashable]
    ) -> tuple[dict[int, int] | None, set[int]]:  # fmt: skip
        """Needs on pins; those first that are of what only this need can have."""
        graph: dict[Hashable, list[Hashable]] = {}
        first: list[dict[int, int]] = []
        for n, need in enumerate(self.needs):
            mask, pins, own = masks[n], {}, wished.get(n)
            order = range(len(need.options))
            for i in order if own is None else sorted(order, key=lambda i: need.options[i].only != own):
                if mask >> i & 1 and need.options[i].pin not in pins:
                    pins[need.options[i].pin] = i
            if n in before and mask >> before[n] & 1:
                pins[need.options[before[n]].pin] = before[n]
            first.append(pins)
            graph[n] = list(pins)
        seeds: dict[Hashable, Hashable] = {
            n: self.needs[n].options[i].pin for n, i in before.items() if masks[n] >> i & 1
        }
        found, lost = matching(graph, seeds)
        if lost:
            return None, {n for n in lost if isinstance(n, int)}
        return {n: first[n][found[n]] for n in range(len(self.needs))}, set()  # type: ignore[index]

    def _on_only(self, masks: Masks) -> dict[Hashable, list[Hashable]]:
        """Needs whose every option takes what only one can have, on those things."""
        return {
            n: list(dict.fromkeys(o.only for i, o in enumerate(self.needs[n].options) if masks[n] >> i & 1))
            for n in self.single
        }

    def _on_instances(self, masks: Masks) -> dict[Hashable, list[Hashable]]:
        """Groups on the instances that all their needs may still be of."""
        graph: dict[Hashable, list[Hashable]] = {}
        for group, members in self.groups.items():
            common = self._instances(members[0], masks)
            for n in members[1:]:
                other = set(self._instances(n, masks))
                common = [i for i in common if i in other]
            graph[group] = list(common)
        return graph

    def _instances(self, n: int, masks: Masks) -> list[Hashable]:
        options = self.needs[n].options
        return list(dict.fromkeys(o.instance for i, o in enumerate(options) if masks[n] >> i & 1))

    # splits

    def _split(self, chosen: dict[int, int], masks: Masks) -> tuple[list[list[Cut]], set[int]] | None:
        """The sides of a split on the first thing that does not hold, and the needs it is about; None for nothing."""
        seen: dict[Hashable, tuple[int, Hashable]] = {}
        for n, i in chosen.items():
            need, option = self.needs[n], self.needs[n].options[i]
            facts: list[tuple[str, Hashable, Hashable]] = []
            if option.only is not None:
                facts.append(("only", option.only, n))
            if option.timer is not None and need.frequency_hz is not None:
                facts.append(("timer", option.timer, need.frequency_hz))
            if need.group is not None:
                facts += [("group", need.group, option.instance), ("instance", option.instance, need.group)]
            facts += [("owner", owner, option.family) for owner in need.owners]
            for kind, key, value in facts:
                other, held = seen.setdefault((kind, key), (n, value))
                if held != value:
                    return self._sides(kind, key, n, other, masks)
        return None

    def _sides(self, kind: str, key: Hashable, n: int, other: int, masks: Masks) -> tuple[list[list[Cut]], set[int]]:
        needs = self.needs
        if kind in {"only", "timer"}:
            return [[(m, self._where(m, kind, key))] for m in (n, other)], {n, other}
        if kind == "instance":
            groups = [self.groups[needs[m].group] for m in (n, other)]
            return [[(m, self._where(m, "instance", key)) for m in g] for g in groups], {m for g in groups for m in g}
        members = self.groups[key] if kind == "group" else self.owned[key]
        field = "instance" if kind == "group" else "family"
        values = dict.fromkeys(
            getattr(o, field) for m in (other, n) for i, o in enumerate(needs[m].options) if masks[m] >> i & 1
        )
        return [[(m, ~self._where(m, field, value)) for m in members] for value in values], set(members)

    def _where(self, n: int, field: str, value: Hashable) -> int:
        """Options of a need that have that value, as bits."""
        return sum(1 << i for i, o in enumerate(self.needs[n].options) if getattr(o, field) == value)


Graph = Mapping[Hashable, Sequence[Hashable]]


def matching(graph: Graph, seeds: Mapping[Hashable, Hashable]) -> tuple[dict[Hashable, Hashable], set[Hashable]]:
    """One right side for each left side, no two the same; and, where there is none, left sides that are too many.

    The too many are a set that no smaller part of clashes: together they reach one right side fewer than they are.
    """
    right_of: dict[Hashable, Hashable] = {}
    left_of: dict[Hashable, Hashable] = {}
    for left, right in seeds.items():
        if left in graph and right not in left_of and right in graph[left]:
            right_of[left], left_of[right] = right, left
    for left in sorted((x for x in graph if x not in right_of), key=lambda x: len(graph[x])):
        path = _augmenting(graph, left, right_of, left_of)
        if isinstance(path, set):
            return right_of, path
        for one, right in path:
            right_of[one], left_of[right] = right, one
    return right_of, set()


def _augmenting(
    graph: Graph, start: Hashable, right_of: Mapping[Hashable, Hashable], left_of: Mapping[Hashable, Hashable]
) -> list[tuple[Hashable, Hashable]] | set[Hashable]:  # fmt: skip
    """Who takes what, so that one more has its own, by breadth; else everyone that was reached."""
    came: dict[Hashable, Hashable] = {}
    due, reached = [start], {start}
    for left in due:
        for right in graph[left]:
            if right in came:
                continue
            came[right] = left
            if right not in left_of:
                return list(_back(right, came, right_of))
            held = left_of[right]
            if held not in reached:
                reached.add(held)
                due.append(held)
    return reached


def _back(
    right: Hashable, came: Mapping[Hashable, Hashable], right_of: Mapping[Hashable, Hashable]
) -> Iterator[tuple[Hashable, Hashable]]:
    while True:
        left = came[right]
        yield left, right
        if left not in right_of:
            return
        right = right_of[left]


# the smallest clash


class _Subsets:
    """Whether some of the wishes clash, asked again and again."""

    def __init__(self, needs: Sequence[Need], bits: Sequence[Bits]) -> None:
        self.needs, self._bits = needs, bits

    def clash(self, wishes: Iterable[int]) -> bool:
        """Whether they cannot all be had."""
        return self.core_of(wishes) is not None

    def core_of(self, wishes: Iterable[int]) -> list[int] | None:
        """Those of some wishes that a proof of their clash needed; None where they do not clash."""
        among = set(wishes)
        here = [n for n, need in enumerate(self.needs) if need.wish in among]
        found = solve([self.needs[n] for n in here], explain=False, bits=[self._bits[n] for n in here])
        return list(found.wishes) if isinstance(found, Clash) else None


def _least(some: _Subsets, core: list[int], nodes: int) -> Clash:
    """A clash from which nothing can be taken away; then whether any smaller one is."""
    for wish in list(core):
        if wish in core and (less := some.core_of(w for w in core if w != wish)) is not None:
            core = less
    smaller, sought = _smaller(some, len(core))
    return Clash(tuple(smaller or core), smaller is not None or sought, nodes)


def _smaller(some: _Subsets, size: int) -> tuple[list[int] | None, bool]:
    """The first clash of fewer wishes, fewest first; and whether all of them were tried.

    Wishes that are alike are interchangeable, so that of each kind only the number counts.
    """
    kinds: dict[Hashable, list[int]] = {}
    for need in some.needs:
        kind = need.like if need.like is not None else ("wish", need.wish)
        if need.wish not in kinds.setdefault(kind, []):
            kinds[kind].append(need.wish)
    tried = 0
    for fewer in range(1, size):
        for mix in combinations_with_replacement(range(len(kinds)), fewer):
            counts = [mix.count(k) for k in range(len(kinds))]
            if any(count > len(of) for count, of in zip(counts, kinds.values(), strict=True)):
                continue
            tried += 1
            if tried > MOST_SUBSETS:
                return None, False
            wishes = [w for count, of in zip(counts, kinds.values(), strict=True) for w in of[:count]]
            if some.clash(wishes):
                return wishes, True
    return None, True
