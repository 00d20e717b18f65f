"""What there is to say of wires without bytes: what does not fit, settles too late, folds, or is not counted."""

import math
from collections.abc import Iterator
from functools import partial
from typing import Any

from wired_union.kernel.checks import Check
from wired_union.kernel.results import Finding, Remedy, Verdict, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.project.change import Change
from wired_union.project.model import Project
from wired_union.project.signal_model import Signal
from wired_union.subjects.timing.edits_shared import set_signal, set_task
from wired_union.subjects.timing.signals import SIGNALS, SignalResult, signal_words
from wired_union.units import round_down, show

TITLES = {
    "pulse": "has no room for its pulse", "uneven": "twitches", "step": "turns in steps too coarse",
    "levels": "has too few steps", "settling": "is converted before it has settled",
    "converting": "is asked for more samples than can be taken", "aliasing": "is sampled too seldom",
    "bits": "is too noisy", "folding": "shows what is not there", "edges": "has edges that are not counted",
}  # fmt: skip
ROOM = 0.75
"""Use to which a remedy brings what it mends: some room is left."""
Way = tuple[str, Change | None]


def signal_findings(assessment: Assessment) -> Iterator[Finding]:
    """Each thing that does not hold of each wire, and what is not known."""
    for r in assessment.of(SIGNALS):
        items = (r.signal.item,) if r.signal.item else ()
        for gap in r.missing:
            yield Finding("signal-gap", Verdict.UNKNOWN, r.signal.name, f"Not known yet: {gap}.",
                          "Until it is known nothing says whether it is told truly.", items, "", of=r.signal.id,
                          detail=gap)  # fmt: skip
        for check in r.checks:
            if check.verdict in {Verdict.BREAKS, Verdict.TIGHT}:
                breaks = check.verdict is Verdict.BREAKS
                title = f"{r.signal.name} {'' if breaks else 'nearly '}{TITLES[check.name]}"
                yield Finding("signal", check.verdict, title, f"{check.said}.", f"{signal_words(r)}.", items, "",
                              partial(_remedies, assessment.project, r, check), of=r.signal.id, detail=check.name,
                              use=check.use if math.isfinite(check.use) else None)  # fmt: skip


def _remedies(project: Project, r: SignalResult, check: Check) -> tuple[Remedy, ...]:
    return possible(*_ways(project, r.signal, check))


def _ways(project: Project, s: Signal, check: Check) -> Iterator[Way]:
    """Each brings the check to some room, where one figure does."""
    less = ROOM / check.use if 0 < check.use < math.inf else 0.0
    if check.name == "edges" and less:
        yield from _counted(project, s, less)
    for words, figures in (*(_of_pulses(s, check.name, less) if less else ()), *_of_samples(s, check.name, less)):
        yield words, tried(set_signal, project, value_id=s.id, **figures)


def _of_pulses(s: Signal, check: str, less: float) -> Iterator[tuple[str, dict[str, Any]]]:
    slower = round_down(s.frequency_hz * less)
    if check in {"pulse", "converting", "levels"}:
        yield f"{show(slower, 'Hz')} of {OFTEN[s.kind]}", {"frequency_hz": slower}
    if check in {"levels", "step"} and s.clock_hz is not None:
        yield f"a timer of {show(s.clock_hz / less, 'Hz')}", {"clock_hz": s.clock_hz / less}
    if check == "uneven":
        yield "a timer that makes the pulses", {"made_with": "a timer", "clock_hz": s.clock_hz or TIMER_HZ}


def _of_samples(s: Signal, check: str, less: float) -> Iterator[tuple[str, dict[str, Any]]]:
    if check == "settling" and less and s.settle_s is not None and s.source_ohm is not None:
        yield f"sample for {show(s.settle_s / less, 's')}", {"settle_s": s.settle_s / less}
        yield f"a follower before it, {show(s.source_ohm * less, 'Ω')}", {"source_ohm": s.source_ohm * less}
    if check == "aliasing" and less:
        yield f"{show(s.frequency_hz / less, 'Hz')} of samples", {"frequency_hz": s.frequency_hz / less}
    if check == "folding" and s.highest_hz is not None:
        yield f"a filter at {show(2 * s.highest_hz, 'Hz')}", {"cut_off_hz": 2 * s.highest_hz}
        if s.poles < MOST_POLES:
            yield f"a filter of {s.poles + 1} stages", {"poles": s.poles + 1}
    if check == "bits" and s.noise_v > 0:
        calm = s.noise_v * NOISE
        yield f"noise of {show(calm, 'V')}: a filter, or an average of 16", {"noise_v": calm}


OFTEN = {"servo frames": "frames", "PWM": "periods", "analogue": "samples", "encoder": "looks"}
TIMER_HZ, MOST_POLES, NOISE = 1e6, 8, 0.25


def _counted(project: Project, s: Signal, less: float) -> Iterator[Way]:
    """A counter, the task taken for what it is, fewer edges."""
    yield "a counter in the controller counts them", tried(set_signal, project, value_id=s.id, counted_by="a counter")
    task = next((t for t in project.concept.tasks if t.id == s.read_by), None)
    if task is not None:
        period = task.period_s * less
        yield f"“{task.name}” every {show(period, 's')}", tried(set_task, project, task.id, period_s=period)
    fewer = round_down(s.counts_per_turn * less)
    yield f"{fewer:g} counts a turn", tried(set_signal, project, value_id=s.id, counts_per_turn=fewer)
