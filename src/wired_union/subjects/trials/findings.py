"""Findings of trials: what is met but not shown, what was changed together, stopped early, drifts, or disagrees."""

import math
from collections.abc import Iterator
from functools import partial
from itertools import pairwise

from wired_union.kernel.results import Finding, Remedy, Verdict, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.subjects.brief.gives import set_limit
from wired_union.subjects.trials.assess import TRIALS, limit_of
from wired_union.subjects.trials.edits import set_trial
from wired_union.subjects.trials.looks import wear_of, wear_words
from wired_union.subjects.trials.shown import Row, TrialResult
from wired_union.units import show

ODD = 0.05
"""A chance below which something is said of drift: common practice."""
FEW_TO_DRIFT = 8
DISAGREE = 0.1
"""Computed and measured that are further apart than a tenth are said: common practice."""


def findings(assessment: Assessment) -> Iterator[Finding]:
    """All of them."""
    for r in assessment.of(TRIALS):
        yield from _shown(assessment, r)
        yield from _together(r)
        yield from _stopped(r)
        yield from _drift(r)
        yield from _strangers(r)
        yield from _disagrees(assessment, r)
    yield from _measured_otherwise(assessment)


def _measure_id(r: TrialResult) -> str:
    return r.trial.limit or f"trial:{r.trial.id}"


def shown_words(r: TrialResult, value: float | None) -> str:
    """A rate, share or mean as text."""
    return show(value, "share" if r.is_rate else r.trial.unit)


def _shown(assessment: Assessment, r: TrialResult) -> Iterator[Finding]:
    """What the runs meet, or do not, and do not show."""
    if r.wish is None or r.now is None or r.verdict in {None, Verdict.HOLDS}:
        return
    breaks, row = r.verdict is Verdict.BREAKS, r.now
    least = "at least" if r.wish.direction == "at least" else "at most"
    done = f"arrived {hardest_words(row)}".strip() if r.trial.counts == "packets" else "are good"
    count = f"{row.good} of {row.tries} {done}" if r.is_rate else f"{len(row.runs)} runs, on average"
    sure = f"{show(r.trial.confidence, 'share')} sure"
    mean = "" if r.is_rate else f" {shown_words(r, r.value)}"
    bound = f"; they show {least} {shown_words(r, r.bound)}" if r.bound is not None else ""
    yield Finding(
        "not-shown", Verdict.BREAKS if breaks else Verdict.TIGHT,
        f"{r.trial.name}: {'wish not met' if breaks else 'met, not yet shown'}",
        f"{count}{mean}{bound}, {sure}. Wanted {least} {shown_words(r, r.wish.value)}.",
        "What was met may still be luck; what is shown is not, as sure as was asked.", (), _measure_id(r),
        partial(_more, assessment, r), of=r.trial.id,
    )  # fmt: skip


def hardest_words(row: Row) -> str:
    """ "at 450 m, behind the boat" """
    if row.trial.counts != "packets" or not row.hardest:
        return ""
    run = row.hardest[0]
    far = f"at {show(run.setting, 'm')}" if run.setting is not None else ""
    return ", ".join(filter(None, (far, run.condition)))


def more_words(r: TrialResult) -> list[str]:
    """ "29 good ones in a row would show it", "46 runs with one bad" """
    said = []
    packets = r.trial.counts == "packets"
    what, good, bad = ("packet", "none lost", "one lost") if packets else ("run", "all good", "one bad allowed")
    if r.more_clean is not None:
        said.append(f"{r.more_clean} more {what}{'s' if r.more_clean > 1 else ''}, {good}")
    if r.more_with_one_bad is not None:
        said.append(f"{r.more_with_one_bad} more {what}s, {bad}")
    return said


def _more(assessment: Assessment, r: TrialResult) -> tuple[Remedy, ...]:
    """More runs, which only people can make; or a wish that the runs show."""
    ways = [Remedy(words) for words in more_words(r)]
    limit = limit_of(assessment.project, r.trial)
    if r.bound is None or r.bound <= 0 or r.wish is None:
        return tuple(ways)
    step = 0.01 if r.is_rate else 10.0 ** (math.floor(math.log10(abs(r.bound))) - 1)
    down = r.wish.direction == "at least"
    value = (math.floor if down else math.ceil)(r.bound / step) * step
    if value <= 0:
        return tuple(ways)
    words = f"change the wish to {shown_words(r, value)}"
    if limit is not None:
        ways += possible((words, tried(set_limit, assessment.project, limit.measure, value=value)))
    else:
        ways += possible((words, tried(set_trial, assessment.project, r.trial.id, wanted=value)))
    return tuple(ways)


CHANGED = ("version", "condition", "setting")


def _together(r: TrialResult) -> Iterator[Finding]:
    """Two things that changed from one run to the next, and were never changed one without the other."""
    made = [(x.version, x.condition, x.setting) for x in r.trial.runs if not x.struck]
    seen = set(made)
    for n, (one, other) in enumerate(pairwise(made), 2):
        if one == other:
            continue
        moved = [k for k in range(len(CHANGED)) if one[k] != other[k]]
        if len(moved) < 2 or any((*one[:k], other[k], *one[k + 1 :]) in seen for k in moved):
            continue  # one was tried without the other
        names = [CHANGED[k] for k in moved]
        both = f"{', '.join(names[:-1])} and {names[-1]}"
        yield Finding("together", Verdict.TIGHT, f"{r.trial.name}: two things were changed at once",
                      f"From run {n} on it has another {both}. What helped cannot be told.",
                      "One thing at a time, or all mixes of a few settings.", (), _measure_id(r),
                      lambda: (Remedy("a few runs with one of them as it was"),), of=r.trial.id)  # fmt: skip
        return


def _stopped(r: TrialResult) -> Iterator[Finding]:
    """Runs that ended before as many as were decided on, just when they showed it."""
    planned, row = r.trial.planned, r.now
    if planned is None or row is None or len(row.runs) >= planned or r.verdict is not Verdict.HOLDS:
        return
    yield Finding("stopped", Verdict.TIGHT, f"{r.trial.name}: stopped when it looked good",
                  f"{len(row.runs)} of {planned} runs that were decided on.",
                  "Who looks after every run and stops at a good moment sees what is not there more often than said.",
                  (), _measure_id(r), lambda: (Remedy(f"{planned - len(row.runs)} more runs, whatever comes"),),
                  of=r.trial.id)  # fmt: skip


def _drift(r: TrialResult) -> Iterator[Finding]:
    """The second half of the runs against the first, of those that were made alike: as the last one was."""
    row = r.alike
    if row is None or len(row.runs) < FEW_TO_DRIFT:
        return
    half = len(row.runs) // 2
    wear = wear_of(row)
    if wear is not None and wear.p_value < ODD:
        yield Finding("drift", Verdict.TIGHT, f"{r.trial.name}: it changes from run to run", wear_words(row, wear),
                      "Wear, a pack that runs down, hands that learn: the runs are not all of one kind.", (),
                      _measure_id(r), of=r.trial.id)  # fmt: skip
        return
    said = _worse_rate(row, half) if r.is_rate else _worse_value(row, half)
    if said:
        yield Finding("drift", Verdict.TIGHT, f"{r.trial.name}: it changes over the runs", said,
                      "Wear, a pack that runs down, hands that learn: the runs are not all of one kind.", (),
                      _measure_id(r), of=r.trial.id)  # fmt: skip


def _worse_rate(row: Row, half: int) -> str:
    first, second = row.marks[:half], row.marks[half:]
    p = row.luck_of_rates
    if p >= ODD:
        return ""
    return (f"{sum(first)} of the first {len(first)} are good, {sum(second)} of the last {len(second)}: by luck"
            f" {show(p, 'share')} of the time.")  # fmt: skip


def _worse_value(row: Row, half: int) -> str:
    first, second = row.values[:half], row.values[half:]
    p = row.luck_of_values
    if p >= ODD:
        return ""
    unit = row.trial.unit
    means = [show(math.fsum(v) / len(v), unit) for v in (first, second)]
    return f"On average {means[0]} in the first {half} runs, {means[1]} after: by luck {show(p, 'share')} of the time."


def _strangers(r: TrialResult) -> Iterator[Finding]:
    """Somebody who did it before is no stranger any more."""
    if not r.trial.strangers or r.now is None:
        return
    people = [x.by.strip().lower() for row in r.rows for x in row.runs]
    again = len([p for p in people if p]) - len({p for p in people if p})
    unnamed = sum(not p for p in people)
    if not again and not unnamed:
        return
    what = f"{again} run{'s' if again > 1 else ''} by somebody who had done it before." if again else ""
    who = f"Of {unnamed} run{'s' if unnamed > 1 else ''} nobody says who it was." if unnamed else ""
    yield Finding("strangers", Verdict.TIGHT, f"{r.trial.name}: not all were strangers", f"{what} {who}".strip(),
                  "Who did it once is quicker: only the first time shows what a stranger needs.", (), _measure_id(r),
                  lambda: (Remedy("let others do it, and say who"),), of=r.trial.id)  # fmt: skip


def _measured_otherwise(assessment: Assessment) -> Iterator[Finding]:
    """What the team measured of a limit once, against what is computed of it."""
    for limit in assessment.project.brief.limits:
        computed = assessment.measure(limit.measure)
        if limit.measured is None or limit.own or computed.measured or computed.missing or computed.value is None:
            continue
        apart = abs(computed.value - limit.measured)
        if not apart > DISAGREE * max(abs(computed.value), abs(limit.measured)):
            continue
        day = f" on {limit.measured_on}" if limit.measured_on else ""
        yield Finding("disagrees", Verdict.TIGHT, f"{limit.name}: computed and measured disagree",
                      f"{computed.shown} is computed, {show(limit.measured, computed.unit)} was measured{day}.",
                      "Something that the program counts with is not so, or is not counted.", (), limit.measure,
                      of=limit.measure, detail="measured")  # fmt: skip


def _disagrees(assessment: Assessment, r: TrialResult) -> Iterator[Finding]:
    """What is computed against what the runs measured of the same limit."""
    limit = assessment.project.brief.limit(r.trial.limit) if r.trial.limit else None
    low, high = r.ends
    if limit is None or limit.own or r.wish is None or r.value is None or low is None or high is None:
        return
    computed = assessment.measure(limit.measure)
    if computed.value is None or computed.missing or not math.isfinite(computed.value):
        return
    apart = abs(computed.value - r.value)
    if low <= computed.value <= high or apart <= DISAGREE * max(abs(computed.value), abs(r.value)):
        return
    yield Finding("disagrees", Verdict.TIGHT, f"{limit.name}: computed and measured disagree",
                  f"{computed.shown} is computed, {shown_words(r, r.value)} was measured,"
                  f" {shown_words(r, low)} to {shown_words(r, high)} can be.",
                  "Something that the program counts with is not so, or is not counted.", (), limit.measure,
                  of=r.trial.id, detail="computed")  # fmt: skip
