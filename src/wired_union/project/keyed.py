"""What tells the values of a list apart, and how lists of three hands are put in one order."""

from binascii import crc32
from collections.abc import Hashable, Iterable, Sequence
from heapq import merge as interleave
from typing import Any, TypeVar

from wired_union.project.value import Value

K = TypeVar("K", bound=Hashable)

KEYS = ("id", "measure", "concept", "item", "load", "name")
"""Fields that tell values of one list apart, the first that every value has of its own."""


def _key(value: Any, field: str) -> str:
    return str(getattr(value, field, "") or "")


def keys_of(*lists: Sequence[Any]) -> list[list[str]] | None:
    """For each of several lists of one field, what tells its values apart; None where nothing does."""
    values = [v for values in lists for v in values]
    if not values or not all(isinstance(v, Value) for v in values):
        return None
    for field in KEYS:
        found = [[_key(v, field) for v in one] for one in lists]
        if all(all(one) and len(set(one)) == len(one) for one in found):
            return found
    parts = [[str(getattr(getattr(v, "part", None), "id", "")) for v in one] for one in lists]
    return parts if all(all(one) and len(set(one)) == len(one) for one in parts) else None


def reordered(base: Sequence[K], other: Sequence[K]) -> bool:
    """Whether what is in both stands in another order."""
    there, here = set(other), set(base)
    return [k for k in base if k in there] != [k for k in other if k in here]


def in_one_order(base: Sequence[K], ours: Sequence[K], theirs: Sequence[K], alive: Iterable[K],
                 days: dict[K, str]) -> list[K]:  # fmt: skip
    """What is alive, in one order: as base has it, or as the side has it that ordered it anew, ours where both did.

    What a side added stands behind what it was added behind; where both added, the earlier day first, whoever did it.
    """
    kept, known = set(alive), set(base)
    skeleton = theirs if reordered(base, theirs) and not reordered(base, ours) else ours
    left = [k for k in skeleton if k in known and k in kept]
    placed = set(left)
    for n, k in enumerate(base):  # what one side took away and is kept all the same
        if k in kept and k not in placed:
            before = next((x for x in reversed(base[:n]) if x in placed), None)
            left.insert(left.index(before) + 1 if before is not None else 0, k)
            placed.add(k)
    mine, others = _added(ours, known, kept, left), _added(theirs, known, kept, left)
    out: dict[K, None] = {}  # in order, each once
    for anchor in (None, *left):
        if anchor is not None:
            out[anchor] = None
        runs = sorted((mine.get(anchor, []), others.get(anchor, [])), key=lambda run: [str(k) for k in run])
        out |= dict.fromkeys(interleave(*runs, key=lambda k: days.get(k, "")))
    return list(out)


def _added(side: Sequence[K], known: set[K], kept: set[K], left: list[K]) -> dict[K | None, list[K]]:
    """What a side added, by what it stands behind."""
    placed, anchor = set(left), None
    found: dict[K | None, list[K]] = {}
    for k in side:
        if k in placed:
            anchor = k
        elif k not in known and k in kept:
            found.setdefault(anchor, []).append(k)
    return found


def counted(values: Sequence[Hashable]) -> list[tuple[Hashable, int]]:
    """Each value with how many like it stand before it: what tells equal ones apart."""
    seen: dict[Hashable, int] = {}
    found = []
    for v in values:
        seen[v] = seen.get(v, -1) + 1
        found.append((v, seen[v]))
    return found


MOST_ALIGNED = 400
"""Values between a common beginning and end that are aligned one by one; more of them only where most are in place."""
MOST_MOVED = 0.25
"""Share of them that may be otherwise in their places, for the others to count as where they were."""


def aligned(base: Sequence[Hashable], side: Sequence[Hashable]) -> list[str] | None:
    """For each value of a side, the place of the base that it has or took ("#3"), or what it is where it is new.

    The longest common runs stand for the same (Ratcliff and Obershelp, as difflib has it); what was replaced by as many
    others took their places. The same new value on both sides has the same key. None where too much moved to tell.
    """
    least = min(len(base), len(side))
    first = next((n for n, (a, b) in enumerate(zip(base, side, strict=False)) if a != b), least)
    last = 0
    while last < least - first and base[-1 - last] == side[-1 - last]:
        last += 1
    between = _between(base[first : len(base) - last], side[first : len(side) - last])
    if between is None:
        return None
    keys = [f"#{n + 1}" for n in range(first)]
    seen: dict[str, int] = {}
    for n, value in zip(between, side[first:], strict=False):
        keys.append(f"#{first + n + 1}" if n is not None else _new(value, seen))
    return keys + [f"#{len(base) - last + n + 1}" for n in range(last)]


def _new(value: Hashable, seen: dict[str, int]) -> str:
    """What a new value is known by on either side: its text, and how many like it are before."""
    made = f"+{crc32(repr(value).encode(errors='replace')):08x}"
    seen[made] = seen.get(made, -1) + 1
    return f"{made}.{seen[made]}"


def _between(base: Sequence[Hashable], side: Sequence[Hashable]) -> list[int | None] | None:
    """For each value of a side the place in the base that it has, None for a new one; None where none can be told."""
    if max(len(base), len(side)) > MOST_ALIGNED:
        moved = sum(a != b for a, b in zip(base, side, strict=False))
        if moved > MOST_MOVED * min(len(base), len(side)):
            return None
        return [n if n < len(base) else None for n in range(len(side))]
    from difflib import SequenceMatcher  # with what it loads, needed by a merge alone

    found: list[int | None] = []
    for _, from_base, to_base, from_side, to_side in SequenceMatcher(None, base, side, autojunk=False).get_opcodes():
        same = to_base - from_base == to_side - from_side  # the same, or as many in their places
        found += range(from_base, to_base) if same else [None] * (to_side - from_side)
    return found
