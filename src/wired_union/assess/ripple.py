"""What an edit does to every limit: two assessments compared, and two projects compared in words."""

from dataclasses import dataclass

from wired_union.assess.assessment import Assessment, assess
from wired_union.assess.results import Measure
from wired_union.project.change import Change
from wired_union.project.model import Concept, Item, Project, Use
from wired_union.units import show, show_change


@dataclass(frozen=True, slots=True)
class Move:
    """One measure before and after."""

    before: Measure
    after: Measure

    @property
    def id(self) -> str:
        return self.after.id

    @property
    def change(self) -> float | None:
        if self.before.value is None or self.after.value is None:
            return None
        return self.after.value - self.before.value

    @property
    def moved(self) -> bool:
        """Whether the value moved by more than rounding, or the verdict changed."""
        if self.before.verdict is not self.after.verdict:
            return True
        if self.change is None:
            return self.before.value is not self.after.value
        size = max(abs(self.before.value or 0.0), abs(self.after.value or 0.0), 1e-12)
        return self.change == self.change and abs(self.change) > 1e-6 * size

    @property
    def better(self) -> bool | None:
        """Whether it moved away from its limit; None where it did not move or has no limit."""
        change = self.change
        if not change or self.after.limit is None:
            return None
        return (change < 0) == (self.after.direction == "at most")

    @property
    def shown(self) -> str:
        """ "Runtime +1.4 h" """
        return f"{self.after.label} {self.shown_change}"

    @property
    def shown_change(self) -> str:
        """ "+1.4 h"; the new value where no difference can be given."""
        if self.change is None or abs(self.change) == float("inf"):
            return self.after.shown
        return show_change(self.change, self.after.unit)


@dataclass(frozen=True)
class Ripple:
    """What a change did, or would do."""

    sentence: str
    after: Assessment
    moves: tuple[Move, ...]

    @property
    def moved(self) -> tuple[Move, ...]:
        return tuple(m for m in self.moves if m.moved)

    @property
    def shown(self) -> str:
        """The line above the strip: what moved, worst verdicts by name."""
        texts = []
        for move in self.moved:
            turned = f", now {move.after.verdict}" if move.before.verdict is not move.after.verdict else ""
            texts.append(move.shown + turned)
        return " · ".join(texts) or "no limit moved"

    @property
    def help(self) -> float:
        """How much it does for limits that break, then for tight ones; higher is better."""
        return sum(_help(m) for m in self.moves)


def _help(move: Move) -> float:
    before, after = move.before.use, move.after.use
    if before is None or after is None or before == float("inf"):
        return 0.0 if after is None else 1.0
    after = min(after, 10.0)
    mended = max(before - 1, 0.0) - max(after - 1, 0.0)
    broke = 1.0 if after > 1 >= before else 0.0
    return 10 * mended - 5 * broke + 0.1 * (before - after)


def compare(before: Assessment, after: Assessment, sentence: str) -> Ripple:
    """Every limited measure before and after."""
    ids = [*(m.id for m in before.measures), *(m.id for m in after.measures if not before.project.brief.limit(m.id))]
    moves = tuple(Move(before.measure(i), after.measure(i)) for i in ids)
    return Ripple(sentence, after, moves)


def ripple(before: Assessment, change: Change) -> Ripple:
    """What a change would do, worked out by assessing the whole project with it."""
    return compare(before, assess(change.after, before), change.sentence)


def differences(a: Project, b: Project) -> list[str]:
    """What differs between two projects, in words: parts, feeds, modes, mission, chains and limits."""
    said = [f"called {b.name} instead of {a.name}"] if a.name != b.name else []
    said += [words for _, words in differences_by_room(a, b)]
    limits_a, limits_b = ({x.measure: x for x in p.brief.limits} for p in (a, b))
    for name in dict.fromkeys([*limits_a, *limits_b]):
        one, other = limits_a.get(name), limits_b.get(name)
        if one is None or other is None:
            said.append(f"limit on {name} {'added' if one is None else 'dropped'}")
        elif one.value != other.value:
            said.append(f"limit on {name}: {one.value:g} becomes {other.value:g}")
    return said


def differences_by_room(a: Project, b: Project) -> list[tuple[str, str]]:
    """What differs between the concepts at work of two projects, as (subsystem or room, words)."""
    items = _item_differences(a.concept, b.concept)
    order = [s.name for c in (b.concept, a.concept) for s in c.subsystems]
    return [
        *sorted(items, key=lambda x: order.index(x[0])),
        *_feed_differences(a.concept, b.concept),
        *_mode_differences(a.concept, b.concept),
        *_chain_differences(a.concept, b.concept),
    ]


def _item_differences(a: Concept, b: Concept) -> list[tuple[str, str]]:
    mine, theirs = ({i.id: i for i in c.items} for c in (a, b))
    lanes = {s.id: s.name for c in (a, b) for s in c.subsystems}
    said = []
    for item_id in dict.fromkeys([*mine, *theirs]):
        one, other = mine.get(item_id), theirs.get(item_id)
        if one is None or other is None:
            item = one or other
            assert item is not None
            count = f"{item.count} × " if item.count > 1 else ""
            said.append((lanes[item.subsystem], f"{count}{item.name} {'added' if one is None else 'left out'}"))
        elif one != other:
            said.append((lanes[other.subsystem], _item_difference(one, other)))
    return said


def _item_difference(one: Item, other: Item) -> str:
    if one.part.id != other.part.id:
        count = f"{other.count} × " if other.count != one.count else ""
        was = f"{one.count} × " if other.count != one.count else ""
        return f"{count}{other.part.name} instead of {was}{one.part.name}"
    if one.count != other.count:
        return f"{one.name}: {other.count} instead of {one.count}"
    if one.part.mass_kg != other.part.mass_kg:
        return f"{one.name}: {show(other.part.mass_kg, 'kg')} instead of {show(one.part.mass_kg, 'kg')}"
    if one.subsystem != other.subsystem:
        return f"{one.name} moved here"
    for field in ("origin", "knowledge", "name"):
        if getattr(one, field) != getattr(other, field):
            return f"{one.name}: {getattr(other, field)} instead of {getattr(one, field)}"
    return f"{one.name}: other figures"


def _feed_differences(a: Concept, b: Concept) -> list[tuple[str, str]]:
    mine, theirs = ({f.load: f for f in c.feeds} for c in (a, b))
    names = {i.id: i.name for c in (a, b) for i in c.items}
    both = {i.id for i in a.items} & {i.id for i in b.items}
    said = []
    for load in dict.fromkeys([*mine, *theirs]):
        one, other = mine.get(load), theirs.get(load)
        if load not in both or one == other:
            continue
        now, before = (names[f.source] if f is not None else "nothing" for f in (other, one))
        if now != before:
            said.append(("Feeds", f"{names[load]} from {now} instead of {before}"))
        else:
            said.append(("Feeds", f"another wire to {names[load]}"))
    return said


def _mode_differences(a: Concept, b: Concept) -> list[tuple[str, str]]:
    mine, theirs = ({m.id: m for m in c.modes} for c in (a, b))
    names = {i.id: i.name for c in (a, b) for i in c.items}
    both = {i.id for i in a.items} & {i.id for i in b.items}
    said = []
    for mode_id in dict.fromkeys([*mine, *theirs]):
        one, other = mine.get(mode_id), theirs.get(mode_id)
        if one is None or other is None:
            mode = one or other
            assert mode is not None
            said.append(("Modes", f"mode {mode.name} {'added' if one is None else 'left out'}"))
            continue
        uses = ({u.item: u for u in m.uses if u.item in both} for m in (one, other))
        was, now = uses
        for item in dict.fromkeys([*was, *now]):
            if was.get(item) != now.get(item):
                said.append(("Modes", f"{names[item]} {_use_words(now.get(item))} in {other.name}"))
    if a.mission != b.mission:
        now_s, was_s = b.mission.duration_s, a.mission.duration_s
        said.append(("Mission", f"{show(now_s, 's')} instead of {show(was_s, 's')}" if now_s != was_s
                     else "its phases last otherwise"))  # fmt: skip
    return said


def _use_words(use: Use | None) -> str:
    if use is None:
        return "is as the mode has it"
    share = f" {show(use.duty, fraction=True)} of the time" if use.duty < 1 else ""
    return f"is {use.state}{share}"


def _chain_differences(a: Concept, b: Concept) -> list[tuple[str, str]]:
    mine, theirs = ({c.id: c for c in x.chains} for x in (a, b))
    said = []
    for chain_id in dict.fromkeys([*mine, *theirs]):
        one, other = mine.get(chain_id), theirs.get(chain_id)
        if one is None or other is None:
            chain = one or other
            assert chain is not None
            said.append(("Signals", f"chain {chain.name} {'added' if one is None else 'left out'}"))
        elif one != other:
            changed = [s.name for s in other.stages if s not in one.stages]
            said.append(("Signals", f"{other.name}: {', '.join(changed) or 'fewer stages'}"))
    return said
