"""Bench: one part at a time, in an order that needs the least to trust."""

from wired_union.kernel.results import Verdict, worst
from wired_union.kernel.subject import Assessment, Subject
from wired_union.subjects.bench.assess import BENCH, begun
from wired_union.subjects.bench.findings import findings


def _verdict(assessment: Assessment) -> Verdict | None:
    """Nothing until something was woken or read; unknown until all are."""
    if not begun(assessment.project):
        return None
    found = [f.verdict for f in assessment.findings if f.subject == "bench"]
    found.append(Verdict.HOLDS if all(w.stands == "woken" for w in assessment.of(BENCH)) else Verdict.UNKNOWN)
    return worst(found)


SUBJECT = Subject(
    id="bench", title="Bench", group="PROVE",
    about=(
        "A part comes after what feeds it and after the controller that its signals go to; among those that could come,"
        " power before logic, logic before links, links before sensors, sensors before what moves: common practice.",
        "Expected is what the plan counts with: the part's own figures, and the voltage of full packs that rest."
        " Voltages may differ by 5 %, currents by 20 %, speeds by 10 %: common practice.",
        "A reading is never overwritten. Taken as measured it stands in the place of the part's figure everywhere; how"
        " well the part's mass is known stays as it was. The simulated bench reads what the plan expects, with noise"
        " and one fault where that is chosen, and its readings say so.",
    ),
    view="view:BenchView", nodes=(BENCH,), findings=findings, hard_findings=lambda _: (), verdict=_verdict,
    section="section:section",
)  # fmt: skip
