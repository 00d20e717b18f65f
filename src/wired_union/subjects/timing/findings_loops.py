"""Control loops as measures and findings: what the delay leaves of them."""

import math
from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Measure, Remedy, Verdict
from wired_union.kernel.subject import Assessment
from wired_union.subjects.timing.loops import ENOUGH_DEG, LOOPS, LoopResult
from wired_union.units import show

TURNING = {"heading", "motor position", "integrator with lag", "over an inner loop", "two motors in step"}
"""Plants that go round what they aim at where no phase is left; others only swing up."""


def loop_measures(assessment: Assessment) -> Iterator[Measure]:
    """Phase margin left, delay that it could still bear, and how far the aim is off while it turns."""
    for r in assessment.of(LOOPS):
        name = r.loop.name
        missing = r.missing or ((f"{name}: a phase margin; it only switches",) if r.switches else ())
        yield Measure("phase-margin", f"{name}, phase margin", r.left_deg, "°", direction="at least", missing=missing,
                      of=r.loop.id)  # fmt: skip
        yield Measure("delay-margin", f"{name}, delay it still bears", r.bears_s, "s", direction="at least",
                      missing=missing, of=r.loop.id)  # fmt: skip
        if r.loop.turns_rad_s is not None:
            yield Measure("aim-error", f"{name}, aim is off by", r.aim_deg, "°", missing=missing, of=r.loop.id)


def loop_findings(assessment: Assessment) -> Iterator[Finding]:
    """Loops without phase, with little of it, or of which that is not known; and their limits."""
    for r in assessment.of(LOOPS):
        measure = assessment.measure(f"phase-margin:{r.loop.id}")
        for gap in r.missing:
            yield Finding("loop-gap", Verdict.UNKNOWN, r.loop.name, f"Not known yet: {gap}.",
                          "Until it is known nothing says whether it settles.", (), measure.id, of=r.loop.id,
                          detail=gap)  # fmt: skip
        if r.margin_verdict in {Verdict.BREAKS, Verdict.TIGHT}:
            yield _finding(assessment, r)
        if r.may_swing and r.loop.swings is None and not r.missing:
            yield Finding("loop-gap", Verdict.UNKNOWN, r.loop.name, "Not known yet: how far it may go on swinging.",
                          _rest_why(r), (), measure.id, of=r.loop.id, detail="swings")  # fmt: skip
        yield from _unrest(assessment, r)
        yield from _cascade(assessment, r)
        for kind in ("phase-margin", "delay-margin", "aim-error"):
            yield from _limit(assessment, r, kind)


def _limit(assessment: Assessment, r: LoopResult, kind: str) -> Iterator[Finding]:
    measure = assessment.measure(f"{kind}:{r.loop.id}")
    if measure.limit is None or measure.value is None or measure.verdict is Verdict.HOLDS:
        return
    yield Finding(kind, measure.verdict, measure.label, f"{measure.shown} of {measure.limit_shown}.", loop_words(r), (),
                  measure.id, partial(_remedies, assessment, r), of=r.loop.id, of_limit=True)  # fmt: skip


def _finding(assessment: Assessment, r: LoopResult) -> Finding:
    name, breaks = r.loop.name, r.margin_verdict is Verdict.BREAKS
    fails = "circles what it aims at" if r.loop.plant in TURNING else "swings up"
    left = f"{r.left_deg:.0f}° of phase margin" if r.left_deg is not None else ""
    if not r.settles:
        what = "It does not settle with these settings even without a delay."
    elif not r.sampled_settles and (r.margins is None or r.margins.margin_left_deg > 0):
        what = f"It does not settle with a controller that runs every {show(r.loop.sample_s, 's')}: too seldom."
    elif breaks:
        what = f"No phase is left: {left}."
    else:
        what = f"{left} left; under {ENOUGH_DEG:g}° it rings (common practice)."
    return Finding(
        "loop", r.margin_verdict, f"{name} {fails if breaks else 'rings'}", what, loop_words(r), (),
        f"phase-margin:{r.loop.id}", partial(_remedies, assessment, r), of=r.loop.id, use=_use(r),
    )  # fmt: skip


def _unrest(assessment: Assessment, r: LoopResult) -> Iterator[Finding]:
    """What goes on swinging further than it may; what never gets to where it is asked."""
    loop, swing = r.loop, r.swing
    if swing is None or r.margin_verdict is Verdict.BREAKS:  # that is said already
        return
    if math.isinf(swing):
        yield Finding("unrest", Verdict.BREAKS, f"{loop.name} never gets there",
                      f"A step of {loop.step:g} is beyond what it can give.", "", (), f"phase-margin:{loop.id}",
                      partial(_remedies, assessment, r), of=loop.id)  # fmt: skip
        return
    if loop.swings is None or r.rest_verdict not in {Verdict.BREAKS, Verdict.TIGHT}:
        return
    breaks = r.rest_verdict is Verdict.BREAKS
    title = f"{loop.name} {'swings too far' if breaks else 'swings nearly too far'}"
    what = f"{swing:.3g} from end to end, of {loop.swings:.3g}."
    yield Finding("unrest", r.rest_verdict, title, what, _rest_why(r), (), f"phase-margin:{loop.id}",
                  partial(_remedies, assessment, r), of=loop.id,
                  use=swing / loop.swings if math.isfinite(swing) else None)  # fmt: skip


def _rest_why(r: LoopResult) -> str:
    causes = [(r.switches, "it only switches, and acts late"), (r.loop.backlash > 0, "play"),
              (r.loop.quantum > 0, "steps of its sensor"), (r.loop.noise > 0, "noise, three σ either way")]  # fmt: skip
    return f"What keeps it from resting: {', '.join(words for there, words in causes if there)}."


QUICKER = 3.0
"""How many times quicker an inner loop should be than the one that commands it: common practice, 3 to 5."""


def _cascade(assessment: Assessment, r: LoopResult) -> Iterator[Finding]:
    if r.quick_rad_s is None or r.margins is None or r.quick_rad_s >= QUICKER * r.margins.crossover_rad_s:
        return
    times = r.quick_rad_s / r.margins.crossover_rad_s
    yield Finding("cascade", Verdict.TIGHT, f"{r.loop.name} is as quick as the loop inside it",
                  f"The loop inside follows {times:.1f} times as fast; {QUICKER:g} times is usual (common practice).",
                  "It commands what cannot follow: make it calmer, or the one inside quicker.", (),
                  f"phase-margin:{r.loop.id}", partial(_remedies, assessment, r), of=r.loop.id,
                  use=QUICKER / times * 0.9)  # fmt: skip


def _use(r: LoopResult) -> float | None:
    """Share of the delay that it bears which it has."""
    if r.margins is None or r.delay_s is None or not r.settles or r.margins.delay_margin_s <= 0:
        return None
    return r.delay_s / r.margins.delay_margin_s


def loop_words(r: LoopResult) -> str:
    """What the delay does, in figures; the crossover up to which it would do."""
    m, delay = r.margins, r.delay_s
    if m is None or delay is None:
        return "" if delay is None else f"Its gain never is 1; {show(delay, 's')} late does no harm."
    hertz = show(m.crossover_rad_s / (2 * math.pi), "Hz")
    return (f"It acts {show(delay, 's')} late; it crosses over at {hertz}, where that takes"
            f" {m.phase_lost_deg:.0f}° of {m.phase_margin_deg:.0f}°.")  # fmt: skip


def _remedies(assessment: Assessment, r: LoopResult) -> tuple[Remedy, ...]:
    from wired_union.subjects.timing.remedies_loops import remedies  # when they are looked at

    return remedies(assessment, r)
