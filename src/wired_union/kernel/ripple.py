"""What an edit does to every limit: two assessments compared."""

from collections.abc import Sequence

from msgspec import Struct

from wired_union.kernel.results import Finding, Measure, Verdict
from wired_union.kernel.subject import Assessment
from wired_union.project.change import Change
from wired_union.units import show_change


class Move(Struct, frozen=True):
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


class Ripple(Struct, frozen=True):
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


def outcome_words(before: Assessment, found: Ripple, finding: Finding) -> str:
    """How far a remedy helps its finding, and what it breaks: "+4.39 h, then holds, but Mass would break"."""
    own = next((m for m in found.moved if m.id == finding.measure), None)
    left = next((f.verdict for f in found.after.findings if f.id == finding.id), Verdict.HOLDS)
    then = f"then {left}" if left.rank > finding.verdict.rank else ""
    known = {f.id for f in before.hard_breaks}
    turned = [
        m for m in found.moves if m.before.verdict is not m.after.verdict and m.before.verdict is not Verdict.BREAKS
    ]
    broken = [m.after.label for m in turned if m.after.verdict is Verdict.BREAKS]
    lost = [m.after.label for m in turned if m.after.verdict is Verdict.UNKNOWN]
    costs = [f"{' and '.join(broken)} would break"] if broken else []
    costs += [f"{' and '.join(lost)} would not be known"] if lost else []
    costs += dict.fromkeys(f.title for f in found.after.hard_breaks if f.id not in known)
    helps = ", ".join(filter(None, (own.shown_change if own is not None else "", then)))
    return f"{helps}, but {'; '.join(costs)}".removeprefix(", ") if costs else helps


def compare(before: Assessment, after: Assessment, sentence: str) -> Ripple:
    """Every limited measure before and after."""
    ids = dict.fromkeys(m.id for a in (before, after) for m in a.measures)
    moves = tuple(Move(before.measure(i), after.measure(i)) for i in ids)
    return Ripple(sentence, after, moves)


def ripple(before: Assessment, change: Change) -> Ripple:
    """What a change would do, worked out by assessing the whole project with it."""
    return ripples(before, [change])[0]


def ripples(before: Assessment, changes: Sequence[Change]) -> list[Ripple]:
    """What each of several changes would do; cheaper together than one by one."""
    after = before.again_all([c.after for c in changes])
    return [compare(before, a, c.sentence) for a, c in zip(after, changes, strict=True)]
