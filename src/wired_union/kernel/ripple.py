"""What an edit does to every limit: two assessments compared."""

from collections.abc import Sequence
from functools import cached_property
from math import isfinite

from msgspec import Struct

from wired_union.kernel.results import Finding, Measure, Remedy, Verdict
from wired_union.kernel.subject import Assessment
from wired_union.project.change import Change
from wired_union.units import show, show_change


class Move(Struct, frozen=True):
    """One measure before and after."""

    before: Measure
    after: Measure

    @property
    def id(self) -> str:
        return self.after.id

    @property
    def change(self) -> float | None:
        """The difference; None where either is not known, or has no bound."""
        if self.before.value is None or self.after.value is None:
            return None
        change = self.after.value - self.before.value
        return change if isfinite(change) else None

    @property
    def moved(self) -> bool:
        """Whether the value moved by more than rounding, or the verdict changed."""
        if self.before.verdict is not self.after.verdict:
            return True
        if self.change is None:
            return self.before.value != self.after.value
        size = max(abs(self.before.value or 0.0), abs(self.after.value or 0.0), 1e-12)
        return abs(self.change) > 1e-6 * size

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
        if self.change is None:
            return self.after.shown
        return show_change(self.change, self.after.unit)


class Ripple(Struct, frozen=True, dict=True):
    """What a change did, or would do."""

    sentence: str
    before: Assessment
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
    def told(self) -> str:
        """What moved, and what it costs besides: for an edit that is made, since findings take longer."""
        return " · ".join([self.shown, *([self.besides] if self.besides else [])])

    @cached_property
    def besides(self) -> str:
        """What breaks, or is not known, that did not or was before, besides limits; "" for nothing."""
        new, lost = new_breaks(self.before, self.after), new_gaps(self.before, self.after)
        return "; ".join([*([_breaks_said(new)] if new else []), *([_gaps_said(lost)] if lost else [])])

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


LEAST_HELP = 0.05
"""A remedy helps from a twentieth of the way to where its finding would hold."""
IN_HAND = 0.2
"""A part's rating holds with a fifth of it in hand: common practice."""


class Outcome(Struct, frozen=True):
    """What a remedy does for its finding, and to the rest: whether it helps, and that in words."""

    helps: bool
    words: str
    """ "+4.39 h, then holds, but Mass would break" """


def outcome(before: Assessment, found: Ripple, finding: Finding) -> Outcome:
    """How far a remedy helps its finding, and what it breaks."""
    own = next((m for m in found.moved if m.id == finding.measure), None)
    verdict, use = _left_of(finding, before, found.after)
    better = verdict is Verdict.HOLDS or (verdict is Verdict.TIGHT and finding.verdict is Verdict.BREAKS)
    eased = _closes(finding.use, use, 1 - IN_HAND)
    further = own is not None and bool(own.better) and _closes(own.before.use, own.after.use, 1 - own.after.reserve)
    become = f"then {_become(finding, verdict)}" if better else ""
    gain = own.shown_change if own is not None and not own.after.missing else ""  # a bound is no gain
    said = [gain, become]
    if eased and not better:
        said.append(f"{show(use, fraction=True)} instead of {show(finding.use, fraction=True)}")
    helps, costs = ", ".join(filter(None, said)), _costs(found)
    words = f"{helps}, but {costs}".removeprefix(", ") if costs else helps
    return Outcome(better or eased or further, words)


def _become(finding: Finding, verdict: Verdict) -> str:
    """What a mended finding is; a question answered is "known", for what rests on it may still wait for others."""
    return "known" if finding.verdict is Verdict.UNKNOWN and verdict is Verdict.HOLDS else str(verdict)


MOST_TOLD = 2


def _breaks_said(titles: Sequence[str]) -> str:
    """How many findings that break are new, and the first of them; a title alone would not say that it breaks."""
    return f"{len(titles)} new {'break' if len(titles) == 1 else 'breaks'}: {_first(titles)}"


def _gaps_said(titles: Sequence[str]) -> str:
    return f"{len(titles)} more not known: {_first(titles)}"


def _first(titles: Sequence[str]) -> str:
    more = len(titles) - MOST_TOLD
    return "; ".join(titles[:MOST_TOLD]) + (f"; and {more} more" if more > 0 else "")


def _left_of(finding: Finding, before: Assessment, after: Assessment) -> tuple[Verdict, float | None]:
    """What a finding has become: holds where it is gone, but unknown where something is not known that was before.

    It hides only what is of the same subject, or of the same part; the rest is told as what the change costs.
    """
    left = next((f for f in after.findings if f.id == finding.id), None)
    if left is not None:
        return left.verdict, None if left.bound else left.use
    known = {f.id for f in before.findings}
    doubts = (f for f in after.findings if f.verdict is Verdict.UNKNOWN and f.id not in known)
    hidden = any(f.subject == finding.subject or not set(f.items).isdisjoint(finding.items) for f in doubts)
    return (Verdict.UNKNOWN if hidden else Verdict.HOLDS), None


def _costs(found: Ripple) -> str:
    """What a change newly breaks, or makes unknown; "" for nothing."""
    turned = [
        m for m in found.moves if m.before.verdict is not m.after.verdict and m.before.verdict is not Verdict.BREAKS
    ]
    broken = [m.after.label for m in turned if m.after.verdict is Verdict.BREAKS]
    lost = [m.after.label for m in turned if m.after.verdict is Verdict.UNKNOWN]
    costs = [f"{' and '.join(broken)} would break"] if broken else []
    costs += [f"{' and '.join(lost)} would not be known"] if lost else []
    return "; ".join([*costs, found.besides] if found.besides else costs)


def new_breaks(before: Assessment, after: Assessment) -> list[str]:
    """Titles of what breaks after and did not before, besides limits, which moves say."""
    known = {f.id for f in before.breaks_besides}
    return list(dict.fromkeys(f.title for f in after.breaks_besides if f.id not in known))


def new_gaps(before: Assessment, after: Assessment) -> list[str]:
    """What is not known after and was before, or was not asked for; besides limits, which moves say."""
    known = {f.id for f in before.findings if f.verdict is Verdict.UNKNOWN}
    lost = (f for f in after.findings if f.verdict is Verdict.UNKNOWN and not f.of_limit and f.id not in known)
    return list(dict.fromkeys(f.title for f in lost))


def _closes(before: float | None, after: float | None, holds: float) -> bool:
    """Whether a use comes a good part of the way down to where it holds."""
    if before is None or after is None or not after < before:
        return False
    if before == float("inf"):
        return after < before
    return before <= holds or (before - after) / (before - holds) >= LEAST_HELP


MOST_TRIED, LEAST_TRIED, MOST_WORK = 40, 4, 2000
"""Findings of a project whose remedies are written down, and how many times its parts: each remedy is an assessment of
the whole project, which takes as long as it has parts."""


def offers_in_words(before: Assessment) -> dict[str, list[str]]:
    """For each finding that does not hold, by its id, the remedies that help it in words; of the worst ones only."""
    found = [f for f in before.findings if f.verdict is not Verdict.HOLDS]
    most = max(LEAST_TRIED, min(MOST_TRIED, MOST_WORK // max(len(before.project.concept.items), 1)))
    said = {f.id: [f"{r.label} ({w})" if w else r.label for r, w in offered(before, f)] for f in found[:most]}
    left = [f"not tried: remedies of the {most} worst findings are"]
    return said | {f.id: left for f in found[most:] if f.id not in said}


def offered(before: Assessment, finding: Finding) -> list[tuple[Remedy, str]]:
    """Remedies of a finding that help it, each with what it does in words; what is a fact; what only people can do."""
    tries = [r.change for r in finding.remedies if r.change is not None]
    found = iter(ripples(before, tries))
    each = [(r, outcome(before, next(found), finding) if r.change is not None else None) for r in finding.remedies]
    return [(r, o.words if o is not None else "") for r, o in each if o is None or o.helps or r.is_fact]


def compare(before: Assessment, after: Assessment, sentence: str) -> Ripple:
    """Every limited measure before and after."""
    ids = dict.fromkeys(m.id for a in (before, after) for m in a.measures)
    moves = tuple(Move(before.measure(i), after.measure(i)) for i in ids)
    return Ripple(sentence, before, after, moves)


def ripple(before: Assessment, change: Change) -> Ripple:
    """What a change would do, worked out by assessing the whole project with it."""
    return ripples(before, [change])[0]


def ripples(before: Assessment, changes: Sequence[Change]) -> list[Ripple]:
    """What each of several changes would do; cheaper together than one by one."""
    after = before.again_all([c.after for c in changes])
    return [compare(before, a, c.sentence) for a, c in zip(after, changes, strict=True)]
