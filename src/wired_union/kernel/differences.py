"""What differs between two projects, in words: every field of the model, whatever subject it is of.

Values in a list are told apart by what names them (their id, the item they are of, …); fields are said by their name in
words with their unit. What reads better in words of its own (parts, uses, feeds) has them; a field that nothing here
knows is said all the same.
"""

from collections.abc import Iterable, Iterator, Mapping
from types import MappingProxyType
from typing import Any

from msgspec import Struct

from wired_union.project.keyed import counted, keys_of
from wired_union.project.model import Chain, Concept, Item, Mission, Place, Project, Use
from wired_union.project.place_words import said_place
from wired_union.project.value import ROOM_WORDS, Value, named_values
from wired_union.units import plain_words, show, show_named

Said = tuple[str, str]
"""Subsystem or room, and words."""


Units = Mapping[str, str]
"""Units of limits by their measures, where these are known: `Assessment.units`."""


def differences(a: Project, b: Project, units: Units = MappingProxyType({})) -> list[str]:
    """Everything that differs between two projects, concept by concept."""
    said = [f"called {b.name} instead of {a.name}"] if a.name != b.name else []
    said += fields_differ("the project", a, b, skip=("name", "brief", "concepts", "at_work", "format", "version"))
    if a.concept.id != b.concept.id:
        said.append(f"concept {b.concept.letter} at work instead of {a.concept.letter}")
    here, there = {c.id: c for c in a.concepts}, {c.id: c for c in b.concepts}
    for concept_id in dict.fromkeys([*here, *there]):
        one, other = here.get(concept_id), there.get(concept_id)
        if one is None or other is None:
            said.append(f"concept {(one or other).letter} {'added' if one is None else 'left out'}")  # type: ignore[union-attr]
            continue
        many = len(here) > 1 or len(there) > 1
        mark = f"{other.letter}: " if many and concept_id != b.concept.id else ""
        said += [f"{mark}{words}" for _, words in concept_differences(one, other)]
    return said + _brief(a, b, units)


def differences_by_room(a: Project, b: Project) -> list[Said]:
    """What differs between the concepts at work of two projects, as (subsystem or room, words)."""
    return concept_differences(a.concept, b.concept)


def concept_differences(a: Concept, b: Concept) -> list[Said]:
    """What one concept does otherwise than another. Their letters and when they were copied do not count."""
    items = _items(a, b)
    order = [s.name for c in (b, a) for s in c.subsystems]
    names = {i.id: i.name for c in (a, b) for i in c.items}
    names |= {m.id: m.name for c in (a, b) for m in c.modes} | {s.id: s.name for c in (a, b) for s in c.subsystems}
    return [
        *sorted(items, key=lambda x: order.index(x[0])),
        *_feeds(a, b, names),
        *_modes(a, b, names),
        *_chains(a, b),
        *(("Concept", words) for words in _rest(a, b, names)),
    ]


_TOLD = {"items", "feeds", "modes", "mission", "chains"}
"""Fields of a concept that have words of their own."""
_WHOSE = {"id", "copied_from", "copied_on"}
"""Fields that tell two concepts apart but are nothing that either does otherwise."""


def _rest(a: Concept, b: Concept, names: dict[str, str]) -> list[str]:
    """Every other field of a concept: loads, mounts, questions, needs, subsystems, its name, why it was retired."""
    same = a.id == b.id  # two concepts have two names, which is nothing that either does otherwise
    skip = (*_TOLD, *(("id",) if same else (*_WHOSE, "name", "retired")))
    return fields_differ("the concept", a, b, names=names, skip=skip)


def _brief(a: Project, b: Project, units: Units) -> list[str]:
    said = []
    limits_a, limits_b = ({x.measure: x for x in p.brief.limits} for p in (a, b))
    said += [f"limit “{x.name}” dropped" for x in limits_a.values() if x.measure not in limits_b]
    for other in limits_b.values():
        one = limits_a.get(other.measure)
        if one is None:
            said.append(f"limit “{other.name}” added")
            continue
        if one.value != other.value:
            unit = units.get(other.measure, other.unit)
            said.append(f"limit “{other.name}”: {show(one.value, unit)} becomes {show(other.value, unit)}")
        said += fields_differ(f"limit “{other.name}”", one, other, skip=("measure", "value"))
    if list(limits_a) != list(limits_b) and sorted(limits_a) == sorted(limits_b):
        said.append("the limits stand in another order")
    return said + fields_differ("the brief", a.brief, b.brief, skip=("limits",))


def _items(a: Concept, b: Concept) -> list[Said]:
    mine, theirs = ({i.id: i for i in c.items} for c in (a, b))
    lanes = {s.id: s.name for c in (a, b) for s in c.subsystems}
    said: list[Said] = []
    for item_id in dict.fromkeys([*mine, *theirs]):
        one, other = mine.get(item_id), theirs.get(item_id)
        if one is None or other is None:
            item = one or other
            assert item is not None
            count = f"{item.count} × " if item.count > 1 else ""
            said.append((lanes[item.subsystem], f"{count}{item.name} {'added' if one is None else 'left out'}"))
        elif one != other:
            said += [(lanes[other.subsystem], words) for words in _item(one, other, lanes)]
    common = [i for i in mine if i in theirs]
    if common != [i for i in theirs if i in mine]:
        said.append((next(iter(lanes.values()), ""), "its parts stand in another order"))
    return said


def _item(one: Item, other: Item, lanes: dict[str, str]) -> Iterator[str]:
    swapped = one.part.id != other.part.id
    if swapped:
        count = f"{other.count} × " if other.count != one.count else ""
        was = f"{one.count} × " if other.count != one.count else ""
        yield f"{count}{other.part.name} instead of {was}{one.part.name}"
    elif one.count != other.count:
        yield f"{one.name}: {other.count} instead of {one.count}"
    if one.subsystem != other.subsystem:
        yield f"{one.name} moved here"
    followed = swapped and (one.name, other.name) == (one.part.name, other.part.name)
    yield from _places(other, one.places, other.places)
    skip = (
        "part",
        "count",
        "subsystem",
        "places",
        *(("name",) if followed else ()),
        *(("knowledge",) if swapped else ()),
    )
    yield from fields_differ(other.name if swapped else one.name, one, other, skip=skip, names=lanes)
    if not swapped:
        yield from fields_differ(one.name, one.part, other.part, skip=("id",))


def _places(item: Item, was: tuple[Place, ...], now: tuple[Place, ...]) -> Iterator[str]:
    """Each copy that is elsewhere; copies that there are no longer are told with their number."""
    for n in range(max(len(was), len(now))):
        name = item.name if item.count == 1 and n == 0 else f"{item.name} {n + 1}"
        one, other = (places[n] if n < len(places) else None for places in (was, now))
        if one == other or n >= item.count:
            continue
        before = said_place(one) if one is not None else "nobody knows where"
        yield f"{name}: {said_place(other) if other is not None else 'nobody knows where'} instead of {before}"


def _feeds(a: Concept, b: Concept, names: dict[str, str]) -> Iterator[Said]:
    mine, theirs = ({f.load: f for f in c.feeds} for c in (a, b))
    both = {i.id for i in a.items} & {i.id for i in b.items}
    for load in dict.fromkeys([*mine, *theirs]):
        one, other = mine.get(load), theirs.get(load)
        if load not in both or one == other:
            continue
        now, before = (names[f.source] if f is not None else "nothing" for f in (other, one))
        if now != before or one is None or other is None:
            yield "Feeds", f"{names[load]} from {now} instead of {before}"
        else:
            yield from (("Feeds", w) for w in fields_differ(f"to {names[load]}", one, other, skip=("source", "load")))


def _modes(a: Concept, b: Concept, names: dict[str, str]) -> Iterator[Said]:
    mine, theirs = ({m.id: m for m in c.modes} for c in (a, b))
    both = {i.id for i in a.items} & {i.id for i in b.items}
    for mode_id in dict.fromkeys([*mine, *theirs]):
        one, other = mine.get(mode_id), theirs.get(mode_id)
        if one is None or other is None:
            mode = one or other
            assert mode is not None
            yield "Modes", f"mode {mode.name} {'added' if one is None else 'left out'}"
            continue
        was, now = ({u.item: u for u in m.uses if u.item in both} for m in (one, other))
        for item in dict.fromkeys([*was, *now]):
            if was.get(item) != now.get(item):
                yield "Modes", f"{names[item]} {_use(now.get(item))} in {other.name}"
        yield from (("Modes", w) for w in fields_differ(f"mode {one.name}", one, other, skip=("id", "uses")))
    if a.mission != b.mission:
        yield "Mission", _mission(a.mission, b.mission, names)


def _mission(one: Mission, other: Mission, names: dict[str, str]) -> str:
    now_s, was_s = other.duration_s, one.duration_s
    if now_s != was_s:
        return f"{show(now_s, 's')} instead of {show(was_s, 's')}"
    if one.repeats != other.repeats:
        return f"{other.repeats} times instead of {one.repeats}"
    phases = " · ".join(f"{names.get(p.mode, p.mode)} {show(p.duration_s, 's')}" for p in other.phases)
    return f"its phases last otherwise: {phases}"


def _use(use: Use | None) -> str:
    if use is None:
        return "is as the mode has it"
    share = f" {show(use.duty, fraction=True)} of the time" if use.duty < 1 else ""
    rest = f", {use.rest} else" if use.duty < 1 and use.rest != "idle" else ""
    return f"is {use.state}{share}{rest}"


def _chains(a: Concept, b: Concept) -> Iterator[Said]:
    mine, theirs = ({c.id: c for c in x.chains} for x in (a, b))
    for chain_id in dict.fromkeys([*mine, *theirs]):
        one, other = mine.get(chain_id), theirs.get(chain_id)
        if one is None or other is None:
            chain = one or other
            assert chain is not None
            yield "Signals", f"chain {chain.name} {'added' if one is None else 'left out'}"
        elif one != other:
            if one.name != other.name:
                yield "Signals", f"chain {one.name} is called {other.name}"
            if one.stages != other.stages:
                yield "Signals", f"{other.name}: {_stages(one, other)}"
            yield from (("Signals", w) for w in fields_differ(other.name, one, other, skip=("id", "name", "stages")))


def _stages(one: Chain, other: Chain) -> str:
    changed = [s.name for s in other.stages if s not in one.stages]
    if changed:
        return ", ".join(changed)
    return "fewer stages" if len(other.stages) < len(one.stages) else "its stages in another order"


# any value


class _Part(Struct, frozen=True):
    """A value in a list: what tells it from the others, and how it is said."""

    key: str
    said: str
    value: Any


def fields_differ(
    label: str, one: Value, other: Value, *, skip: Iterable[str] = (), names: dict[str, str] | None = None
) -> list[str]:
    """Every field in which two values of a kind differ."""
    if type(one) is not type(other):
        return [f"{label}: {_kind(other)} instead of {_kind(one)}"]
    said: list[str] = []
    left_out = set(skip)
    for name, was in named_values(one):
        now = getattr(other, name)
        if name in left_out or was == now:
            continue
        said += _field(label, name, was, now, names or {})
    if one.beyond != other.beyond:
        said.append(f"{label}: notes of a newer program")
    return said


def _field(label: str, name: str, was: Any, now: Any, names: dict[str, str]) -> list[str]:
    words = plain_words(name)
    if isinstance(was, Value) and isinstance(now, Value):
        return fields_differ(f"{label}, {words}", was, now, names=names)
    if isinstance(was, tuple) and isinstance(now, tuple) and _is_list_of_values(was, now):
        return _lists(label, words, was, now, names)
    return [f"{label}: {words} {shown_value(name, now, names)} instead of {shown_value(name, was, names)}"]


def _is_list_of_values(was: tuple[Any, ...], now: tuple[Any, ...]) -> bool:
    return any(isinstance(x, Value) for x in (*was, *now))


def _lists(label: str, words: str, was: tuple[Any, ...], now: tuple[Any, ...], names: dict[str, str]) -> list[str]:
    keys = keys_of(was, now)
    if keys is None:
        return _unnamed(label, words, was, now, names)
    mine, theirs = ({k: _Part(k, _said(v, k, words, names), v) for k, v in zip(ids, values, strict=True)}
                    for ids, values in zip(keys, (was, now), strict=True))  # fmt: skip
    said: list[str] = []
    for key in dict.fromkeys([*mine, *theirs]):
        one, other = mine.get(key), theirs.get(key)
        if one is None or other is None:
            part = one or other
            assert part is not None
            said.append(f"{part.said} {'added' if one is None else 'left out'}")
        else:
            said += fields_differ(one.said, one.value, other.value, skip=("id",), names=names)
    common = [k for k in mine if k in theirs]
    if not said or common != [k for k in theirs if k in mine]:
        said.append(f"{label}: {words} in another order")
    return said


def _unnamed(label: str, words: str, was: tuple[Any, ...], now: tuple[Any, ...], names: dict[str, str]) -> list[str]:
    """Values that nothing tells apart: those that are in one list alone, in pairs where there are as many in both."""
    mine, theirs = counted(was), counted(now)
    gone = [v for v, n in mine if (v, n) not in set(theirs)]
    new = [v for v, n in theirs if (v, n) not in set(mine)]
    word = _one_of(words)
    said: list[str] = []
    if len(gone) == len(new) and len(was) == len(now):
        for one, other in zip(gone, new, strict=True):
            said += _one_of_two(f"{word} {was.index(one) + 1}", one, other, names)
    else:
        said += [f"{word} {_short(v, names)} left out" for v in gone]
        said += [f"{word} {_short(v, names)} added" for v in new]
    return said or [f"{label}: {words} in another order"]


MOST_FIGURES = 3


def _short(value: Any, names: dict[str, str]) -> str:
    """A value without a name by its first few fields that say something."""
    if not isinstance(value, Value):
        return shown_value("", value, names)
    if name := getattr(value, "name", ""):
        return str(name)
    fields = [shown_value(f, v, names) for f, v in named_values(value) if isinstance(v, str | float | int) and v]
    return ", ".join(fields[:MOST_FIGURES]) or _kind(value)


def _one_of_two(label: str, one: Any, other: Any, names: dict[str, str]) -> list[str]:
    """What differs in one value of a list; values that are texts or figures are shown as they are."""
    if isinstance(one, Value) and isinstance(other, Value):
        return fields_differ(label, one, other, skip=("id",), names=names)
    return [f"{label}: {shown_value('', other, names)} instead of {shown_value('', one, names)}"]


def _said(value: Any, key: str, words: str, names: dict[str, str]) -> str:
    inner = getattr(value, "part", None)
    name = getattr(value, "name", "") or getattr(value, "question", "") or getattr(inner, "name", "")
    return f"{_one_of(words)} {name or names.get(key, key)}"


def _one_of(words: str) -> str:
    """What one of a list is called."""
    if words in ROOM_WORDS:
        return ROOM_WORDS[words]
    return words.removesuffix("es") if words.endswith(("ches", "shes", "xes")) else words.removesuffix("s")


def _kind(value: Value) -> str:
    return str(type(value).__struct_config__.tag or type(value).__name__).lower()


def shown_value(name: str, value: Any, names: dict[str, str]) -> str:
    """What a field holds, in words; `names` says what ids stand for."""
    if value is None or value == "":
        return "nothing" if value == "" else "not known"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return show_named(name, float(value), "")  # an amount without its currency, which is the project's
    if isinstance(value, str):
        return names.get(value, value)
    if isinstance(value, Value):
        return getattr(value, "name", "") or _kind(value)
    if isinstance(value, tuple):
        return ", ".join(shown_value("", v, names) for v in value) or "nothing"
    return str(value)


__all__ = ["concept_differences", "differences", "differences_by_room", "fields_differ", "shown_value"]
