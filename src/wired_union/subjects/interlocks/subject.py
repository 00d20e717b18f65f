"""Interlocks: what must be true before anything moves, and what one failure can do."""

from collections.abc import Iterable

from wired_union.kernel.cautions import RULES
from wired_union.kernel.results import Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, Caution, Driver, MeasureKind, Subject
from wired_union.project.model import Concept
from wired_union.subjects.interlocks.assess import FAILING, GATES, STATES, STOPS, measures
from wired_union.subjects.interlocks.findings import findings
from wired_union.subjects.interlocks.pick import InterlockPick
from wired_union.units import show

STORED = {"spring", "pressure", "falling mass", "height"}


def _verdict(assessment: Assessment) -> Verdict | None:
    """The worst of what is judged; nothing where nothing is said."""
    concept = assessment.project.concept
    if not (concept.states or concept.hazards):
        return None
    found = [*assessment.own_verdicts("interlocks"), *(f.verdict for f in assessment.findings
                                                       if f.subject == "interlocks")]  # fmt: skip
    return worst(found) or Verdict.HOLDS


def _hazard(_: Assessment, measure: Measure) -> InterlockPick:
    return InterlockPick("hazards", measure.of)


def _slowest(assessment: Assessment, _: Measure) -> InterlockPick:
    known = [s for s in assessment.of(STOPS) if s.time_s is not None]
    return InterlockPick("states", max(known, key=lambda s: s.time_s or 0.0).state if known else "")


def _cuts(assessment: Assessment, measure: Measure) -> list[Driver]:
    """The sets of failures that release it, fewest first."""
    result = next((r for r in assessment.of(GATES) if r.hazard.id == measure.of), None)
    cuts = result.cuts if result is not None else ()
    return [Driver(c.said, 1.0 / max(len(c.failures), 1), f"{len(c.failures)}", "copper") for c in cuts[:12]]


def _times(assessment: Assessment, _: Measure) -> list[Driver]:
    names = assessment.of(STATES).machine.names
    known = [s for s in assessment.of(STOPS) if s.time_s is not None]
    slowest = sorted(known, key=lambda s: -(s.time_s or 0.0))
    return [Driver(names[s.state], min(s.time_s or 0.0, 1e6), show(s.time_s, "s"), "plum") for s in slowest]


def _cautions(concept: Concept) -> Iterable[Caution]:
    """What is let go at once, and what was searched."""
    stored = [h for h in concept.hazards if h.kind in STORED]
    if stored:
        yield Caution("Stored energy",
                      "It is let go at once. Keep out of its line, wear eye protection, unload it before work."
                      f" First runs tethered and behind a guard. {RULES}",
                      tuple(h.item for h in stored if h.item))  # fmt: skip
    if concept.gates:
        yield Caution("What is searched here",
                      "The states, gates and failures that you gave, no more: nothing here says that it is safe."
                      f" {RULES}", ())  # fmt: skip


SUBJECT = Subject(
    id="interlocks", title="Interlocks", group="JOIN",
    about=(
        "States: every state that can be reached from the first is searched, with the shortest story that leads there."
        " Two ways are both open where their clauses can be so at one instant: cues of one quantity are compared with"
        " each other, hysteresis counted; everything else may be so or not. A ring without time is one of ways that"
        " wait for no event, dwell or time-out and can all be so together.",
        "Time to a stop: from every state, on every cue that asks for a stop, by the chain of Timing or the figure of"
        " each way; after the first way only time-outs go on.",
        "Failures and states: after a failure the cues of its part, or those that you name, are told no more; of a"
        " program that hangs all but what a part tells that power flows through. In every state that can be reached it"
        " is asked whether anything that is left leads to a stop: another cue that asks for one, the cue by which it is"
        " noticed, or time-outs alone. After power was lost the machine begins in its first state, and what is"
        " mechanical is as it was.",
        "Gates: a hazard is released when all gates in series are closed, of those beside each other one. In every"
        " reachable state where it is not meant, every set of up to three failures is tried; minimal cut sets as in"
        " IEC 61025, from memory. A gate that no failure of your list closes can fail by itself; software of one"
        " controller fails together. Failures that open gates, repair, and time between failures are not worked out.",
    ),
    view="view:InterlocksView",
    nodes=(STATES, STOPS, FAILING, GATES),
    measures=measures, findings=findings, hard_findings=lambda _: (), verdict=_verdict, cautions=_cautions,
    explains=(
        MeasureKind("failures-to-fire", "", "Join", "at least", each=True, select=_hazard, drivers=_cuts,
                    about="least number of failures that releases a hazard"),
        MeasureKind("stop-time", "s", "Join", select=_slowest, drivers=_times,
                    about="longest time to a stop, from any state"),
    ),
    section="section:section", commands="commands:add",
    builds="papers:steps", papers="papers:papers",
)  # fmt: skip
