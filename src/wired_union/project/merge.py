"""Three-way merge of a project by meaning: items, feeds, figures, entries, runs; never by line.

What one side alone did is taken; the same done twice is one; where both did otherwise it is a conflict, which somebody
settles. The result always joins up (`references.check_whole`), and there is none that is half merged: while a conflict
is open, `Merged.project` is what it would be if ours were chosen, and `Merged.open` says that it is not yet to be kept.

The way of it is that of diff3, on trees instead of lines: S. Khanna, K. Kunal, B. C. Pierce, "A formal investigation of
diff3", FSTTCS 2007 (from memory).
"""

from collections.abc import Callable, Mapping, Sequence
from typing import Any, Literal

from msgspec import Struct

from wired_union.project.keyed import aligned, in_one_order, keys_of, reordered
from wired_union.project.merge_apart import told_apart
from wired_union.project.merge_join import joined
from wired_union.project.model import Item, Limit, Project, Question
from wired_union.project.notebook_edits import with_entry_ids
from wired_union.project.value import Value, named_values

Side = Literal["ours", "theirs"]
Where = tuple[str, ...]
_NOTHING: Any = object()
"""In place of a value that a side does not have."""


class Conflict(Struct, frozen=True):
    """Something that both sides did otherwise. What a side does not have any more, or yet, is None and not `has`."""

    where: Where
    """from the project inwards: names of fields, and what tells values of a list apart"""
    base: Any
    ours: Any
    theirs: Any
    has: tuple[bool, bool]
    """whether ours has it, whether theirs has"""
    kind: Literal["figure", "gone", "order", "joins"] = "figure"
    because: str = ""
    """what does not join up, where that is why"""

    @property
    def id(self) -> str:
        return "/".join(self.where)


class Merged(Struct, frozen=True):
    """Two sides put together."""

    project: Project
    conflicts: tuple[Conflict, ...]
    """all of them, settled or not"""
    settled: frozenset[str]
    from_ours: int
    """figures and values that ours alone changed, added or took away"""
    from_theirs: int
    alike: int
    """what both did alike"""

    @property
    def open(self) -> tuple[Conflict, ...]:
        """Conflicts that nobody has settled."""
        return tuple(c for c in self.conflicts if c.id not in self.settled)


def merged(base: Project | None, ours: Project, theirs: Project, chosen: Mapping[str, Side] | None = None,
           rest: Side | None = None) -> Merged:  # fmt: skip
    """Two projects that came from one, put together; `chosen` settles conflicts by their ids, `rest` what is left.

    Without a base, what one side alone has is taken as added, and every figure that differs is a conflict.
    Raises ProjectError where no choice of sides joins up.
    """
    chosen = chosen or {}
    ours, theirs = with_entry_ids(ours), with_entry_ids(theirs)
    if base is not None:
        base = with_entry_ids(base)
        ours, theirs = told_apart(base, ours, theirs)
    work = _Work(lambda i: chosen.get(i, rest))
    found = work.value((), _NOTHING if base is None else base, ours, theirs)
    if not any(c.id == found.at_work for c in found.concepts):
        found = found.but(at_work="")  # which concept shows is nothing to choose about
    whole = joined(ours, theirs, found, work.choice)
    for where, because, has in whole.conflicts:
        work.conflicts.append(Conflict(where, None, None, None, has, "joins", because))
    settled = frozenset(c.id for c in work.conflicts if work.choice(c.id) is not None)
    return Merged(whole.project, tuple(work.conflicts), settled, *work.counts)


class _Together(Struct, frozen=True):
    """Fields of one statement: where both sides changed one of `key`'s and any other, they are not to be mixed."""

    fields: tuple[str, ...]
    key: tuple[str, ...]


TOGETHER: Mapping[type[Value], _Together] = {
    Item: _Together(("part", "knowledge"), ("knowledge",)),
    Limit: _Together(("measured", "measured_on", "measured_by"), ("measured", "measured_on", "measured_by")),
    Question: _Together(("answer", "answered_on", "figures"), ("answer", "answered_on", "figures")),
}
"""A figure and how well it is known, an answer and its day: a mix of two would say what nobody said."""
OURS_ALONE = ("at_work", "keeps_history", "format", "version")
"""How a project is looked at: ours where both changed it, and no conflict."""


class _Work:
    """One merge under way: the conflicts found, and what was counted."""

    def __init__(self, choice: Callable[[str], Side | None]) -> None:
        self.choice = choice
        self.conflicts: list[Conflict] = []
        self.counts = [0, 0, 0]

    def either(self, where: Where, base: Any, ours: Any, theirs: Any) -> Any:
        """One field or value of a list, whatever it is."""
        if _same(ours, theirs):
            self.counts[2] += not _same(base, ours)
            return ours
        if _same(base, theirs):
            self.counts[0] += _weight(base, ours)
            return ours
        if _same(base, ours):
            self.counts[1] += _weight(base, theirs)
            return theirs
        if _alike(base, ours, theirs):
            return self.value(where, base, ours, theirs)
        before = () if base is _NOTHING else base
        if all(isinstance(v, tuple) for v in (before, ours, theirs)):
            return self.lists(where, before, ours, theirs)
        return self.conflict(where, base, ours, theirs)

    def conflict(
        self, where: Where, base: Any, ours: Any, theirs: Any, kind: Literal["figure", "gone", "order"] = "figure"
    ) -> Any:
        """Note that both did otherwise, and go on with what is chosen, ours as long as nothing is."""
        has = (ours is not _NOTHING, theirs is not _NOTHING)
        of = [None if v is _NOTHING else v for v in (base, ours, theirs)]
        found = Conflict(where, of[0], of[1], of[2], has, kind if all(has) else "gone")
        self.conflicts.append(found)
        return theirs if self.choice(found.id) == "theirs" else ours

    def value(self, where: Where, base: Any, ours: Any, theirs: Any) -> Any:
        """Values of a kind, field by field."""
        new: dict[str, Any] = {}
        fields = [name for name, _ in named_values(ours)]
        group = TOGETHER.get(type(ours))
        if group is not None and _torn(group, base, ours, theirs):
            side = self.conflict((*where, group.fields[0]), base, ours, theirs)
            new |= {f: getattr(side, f) for f in group.fields}
        for name in fields:
            if name not in new:
                new[name] = self.field((*where, name), name, base, ours, theirs)
        beyond = self.beyond(where, base, ours, theirs)
        return ours.but(**{k: v for k, v in new.items() if v is not getattr(ours, k)}, beyond=beyond)

    def field(self, where: Where, name: str, base: Any, ours: Any, theirs: Any) -> Any:
        """One field of three values of a kind."""
        of = [getattr(v, name, _NOTHING) for v in (base, ours, theirs)]
        if name in OURS_ALONE and not where[1:]:
            return of[2] if _same(of[0], of[1]) else of[1]
        return self.either(where, *of)

    def beyond(self, where: Where, base: Any, ours: Any, theirs: Any) -> tuple[tuple[str, str], ...]:
        """What a newer program wrote, key by key."""
        if getattr(base, "beyond", ()) == ours.beyond == theirs.beyond:
            return tuple(ours.beyond)
        of = [dict(getattr(v, "beyond", ())) for v in (base, ours, theirs)]
        out = {}
        for key in sorted({*of[0], *of[1], *of[2]}):
            found = self.either((*where, key), *(one.get(key, _NOTHING) for one in of))
            if found is not _NOTHING:
                out[key] = found
        return tuple(out.items())

    def lists(self, where: Where, base: Any, ours: Any, theirs: Any) -> tuple[Any, ...]:
        """Lists: by what tells their values apart; where nothing does, by the places that they had in the base."""
        keys = keys_of(base, ours, theirs)
        if keys is not None:
            return self.by_keys(where, keys, (base, ours, theirs), self.either)
        if not all(isinstance(v, Value | str) for values in (base, ours, theirs) for v in values):
            found: tuple[Any, ...] = self.conflict(where, base, ours, theirs)  # figures in a row are one statement
            return found
        mine, others = aligned(base, ours), aligned(base, theirs)
        if mine is None or others is None:
            whole: tuple[Any, ...] = self.conflict(where, base, ours, theirs)
            return whole
        places = [f"#{n}" for n in range(1, len(base) + 1)]
        return self.by_keys(where, [places, mine, others], (base, ours, theirs), self.whole)

    def whole(self, where: Where, base: Any, ours: Any, theirs: Any) -> Any:
        """A run, a phase, a tick: what only stands at its place is never put together from two."""
        changed = not (_same(ours, theirs) or _same(base, ours) or _same(base, theirs))
        return (self.conflict if changed else self.either)(where, base, ours, theirs)

    def by_keys(
        self, where: Where, keys: list[list[str]], values: Sequence[tuple[Any, ...]], each: Callable[..., Any]
    ) -> tuple[Any, ...]:  # fmt: skip
        """Three lists whose values are told apart by keys."""
        of = [dict(zip(k, v, strict=True)) for k, v in zip(keys, values, strict=True)]
        out = {}
        for key in dict.fromkeys([*keys[0], *keys[1], *keys[2]]):
            found = each((*where, key), *(one.get(key, _NOTHING) for one in of))
            if found is not _NOTHING:
                out[key] = found
        order = self.order(where, *keys)
        if order is not None:
            keys = [keys[0], order, order]
        days = {key: _day(value) for key, value in out.items()}
        return tuple(out[k] for k in in_one_order(keys[0], keys[1], keys[2], out, days))

    def order(self, where: Where, base: Sequence[Any], ours: Sequence[Any], theirs: Sequence[Any]) -> Any:
        """The order that is chosen where both ordered anew and not alike; None where that is not so."""
        both = reordered(base, ours) and reordered(base, theirs) and reordered(ours, theirs)
        return self.conflict((*where, "order"), base, ours, theirs, "order") if both else None


def _same(one: Any, other: Any) -> bool:
    return bool(one is other or (one is not _NOTHING and other is not _NOTHING and one == other))


def _alike(base: Any, ours: Any, theirs: Any) -> bool:
    """Whether values can be put together field by field: of one kind, and the same thing; there may be no base."""
    there = [v for n, v in enumerate((base, ours, theirs)) if n or v is not _NOTHING]
    if not all(isinstance(v, Value) for v in there) or len({type(v) for v in there}) > 1:
        return False
    return len({getattr(v, "id", "") for v in there}) == 1


def _torn(group: _Together, base: Any, ours: Any, theirs: Any) -> bool:
    """Whether both sides changed a group, not alike, and one of them what must not be mixed."""
    if base is _NOTHING:
        return any(getattr(ours, f) != getattr(theirs, f) for f in group.key)
    mine, others = ([f for f in group.fields if getattr(base, f) != getattr(v, f)] for v in (ours, theirs))
    if not mine or not others or all(getattr(ours, f) == getattr(theirs, f) for f in group.fields):
        return False
    return any(f in group.key for f in (*mine, *others))


def _day(value: Any) -> str:
    """The day that a value is of, "" for none."""
    return str(getattr(value, "when", "") or getattr(value, "on", "") or "")


def _weight(one: Any, other: Any) -> int:
    """How many figures differ between two values, at least one."""
    if type(one) is type(other) and isinstance(one, Value):
        return max(sum(_weight(was, getattr(other, f)) for f, was in named_values(one) if was != getattr(other, f)), 1)
    if isinstance(one, tuple) and isinstance(other, tuple) and (keys := keys_of(one, other)) is not None:
        was, now = dict(zip(keys[0], one, strict=True)), dict(zip(keys[1], other, strict=True))
        return max(sum(_weight(was[k], now[k]) if k in was and k in now else 1
                       for k in {*was, *now} if was.get(k) != now.get(k)), 1)  # fmt: skip
    return 1
