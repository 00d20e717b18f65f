"""Timing: from something sensed to something done."""

from wired_union.kernel.results import Measure
from wired_union.kernel.subject import Assessment, Driver, MeasureKind, Subject
from wired_union.subjects.timing.assess import MOVEMENTS, TIMING, findings, measures
from wired_union.subjects.timing.pick import TimingPick
from wired_union.units import show


def _costliest(assessment: Assessment, measure: Measure) -> TimingPick:
    result = next((c for c in assessment.of(TIMING).chains if c.chain.id == measure.of), None)
    return TimingPick(measure.of, result.costliest if result is not None and result.bars else 0)


def _stages(assessment: Assessment, measure: Measure) -> list[Driver]:
    result = next((c for c in assessment.of(TIMING).chains if c.chain.id == measure.of), None)
    bars = result.bars if result is not None else ()
    return [Driver(b.name, b.most_s, show(b.most_s, "s"), "plum") for b in sorted(bars, key=lambda b: -b.most_s)]


SUBJECT = Subject(
    id="timing", title="Timing", group="BUDGET",
    about=(
        "Worst: every stage at its most, every sample just missed. Typical: every stage in its middle. Least: every"
        " stage at its shortest. Stages are taken as not synchronised with each other.",
    ),
    view="view:TimingView",
    methods=("chain-latency", "uart-time", "i2c-time", "spi-time", "response-times", "lora-airtime"),
    nodes=(MOVEMENTS, TIMING), measures=measures, findings=findings, hard_findings=lambda _: (),
    explains=(MeasureKind("chain", "s", "React", each=True, select=_costliest, drivers=_stages,
                          about="worst case of the chain, end to end"),),
    section="section:section",
)  # fmt: skip
