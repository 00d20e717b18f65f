"""Signal chains: from something sensed to something done, stage by stage."""

from dataclasses import dataclass

from wired_union.assess.results import Finding, Measure, Remedy, Verdict, judged, tried
from wired_union.physics.bus import i2c_time, spi_time, uart_time
from wired_union.physics.latency import ChainLatency, StageTimes, chain_latency, stage_bounds
from wired_union.project import edits
from wired_union.project.model import Brief, Chain, Concept, Project, Sampled, Stage, Transfer
from wired_union.units import show

NEXT_CLOCK_HZ = {"i2c": (100e3, 400e3, 1e6), "uart": (9600.0, 38400.0, 115200.0), "spi": (1e6, 8e6, 20e6)}


@dataclass(frozen=True, slots=True)
class StageBar:
    """One stage on the common axis: where it starts and ends at the least and at the most."""

    name: str
    least_s: float
    most_s: float
    start_s: float
    kind: str


@dataclass(frozen=True)
class ChainResult:
    chain: Chain
    latency: ChainLatency | None
    bars: tuple[StageBar, ...]
    measure: Measure

    @property
    def costliest(self) -> int:
        """Index of the stage with the longest worst time."""
        return max(range(len(self.bars)), key=lambda i: self.bars[i].most_s)


@dataclass(frozen=True)
class TimingResult:
    chains: tuple[ChainResult, ...]
    measures: tuple[Measure, ...]


def transfer_time_s(stage: Transfer) -> float:
    """Time of a bus transfer, by its bus."""
    if stage.bus == "uart":
        return uart_time(stage.bytes, stage.clock_hz).time_s
    timer = i2c_time if stage.bus == "i2c" else spi_time
    return timer(stage.bytes, stage.clock_hz).time_s


def stage_times(stage: Stage) -> StageTimes:
    """A stage in the form that `chain_latency` takes."""
    if isinstance(stage, Sampled):
        return True, stage.period_s, stage.response_s
    if isinstance(stage, Transfer):
        time = transfer_time_s(stage)
        return False, time, time
    return False, stage.least_s, stage.most_s


def assess_timing(concept: Concept, brief: Brief) -> TimingResult:
    """Every chain of the concept, end to end."""
    chains = tuple(_assess_chain(c, brief) for c in concept.chains)
    return TimingResult(chains, tuple(c.measure for c in chains))


def _assess_chain(chain: Chain, brief: Brief) -> ChainResult:
    name = f"chain:{chain.id}"
    if not chain.stages:
        gap = Measure(name, chain.name, None, "s", missing=(f"{chain.name}: its stages",))
        return ChainResult(chain, None, (), judged(gap, brief))
    times = [stage_times(s) for s in chain.stages]
    latency = chain_latency(times)
    bars, at = [], 0.0
    for stage, time in zip(chain.stages, times, strict=True):
        least, most = stage_bounds(*time)
        bars.append(StageBar(stage.name, least, most, at, stage.kind))
        at += most
    measure = Measure(name, chain.name, latency.most_s, "s", low=latency.least_s, high=latency.most_s)
    return ChainResult(chain, latency, tuple(bars), judged(measure, brief))


def timing_findings(project: Project, result: TimingResult) -> list[Finding]:
    """One finding a chain that has a limit; the stage that costs most is named, with remedies."""
    found = []
    for chain in result.chains:
        if chain.latency is None:
            found.append(
                Finding(
                    chain.measure.id, Verdict.UNKNOWN, chain.chain.name, "It has no stages yet.",
                    "Add what happens from the first event to the last, in order.", (), chain.measure.id,
                )
            )  # fmt: skip
            continue
        if chain.measure.limit is None:
            continue
        worst = chain.bars[chain.costliest]
        found.append(
            Finding(
                chain.measure.id, chain.measure.verdict, chain.chain.name,
                f"{show(chain.latency.most_s, 's')} worst of the {chain.measure.limit_shown} allowed,"
                f" {show(chain.latency.typical_s, 's')} typical.",
                f"“{worst.name}” costs most: up to {show(worst.most_s, 's')}.", (), chain.measure.id,
                tuple(_remedies(project, chain)),
            )
        )  # fmt: skip
    return found


def _remedies(project: Project, chain: ChainResult) -> list[Remedy]:
    """What could be tried on the stages, the one that frees most first."""
    found: list[tuple[float, Remedy]] = []
    for index, stage in enumerate(chain.chain.stages):
        if isinstance(stage, Sampled):
            found.extend(_sampled_remedies(project, chain.chain.id, index, stage))
        elif isinstance(stage, Transfer):
            found.extend(_faster_bus(project, chain.chain.id, index, stage))
        elif stage.kind == "debounce" and stage.most_s > 0.005:
            least = min(stage.least_s, 0.005)
            change = tried(edits.set_stage, project, chain.chain.id, index, least_s=least, most_s=0.005)
            found.append((stage.most_s - 0.005, Remedy(f"shorten “{stage.name}” to 5\u202fms", change)))
    found.sort(key=lambda x: -x[0])
    return [remedy for _, remedy in found[:4]]


def _sampled_remedies(project: Project, chain: str, index: int, stage: Sampled) -> list[tuple[float, Remedy]]:
    half = stage.period_s / 2
    faster = tried(edits.set_stage, project, chain, index, period_s=half)
    interrupt = tried(
        edits.set_stage, project, chain, index, kind="event", least_s=stage.response_s, most_s=stage.response_s
    )
    return [
        (half, Remedy(f"poll “{stage.name}” every {show(half, 's')}", faster)),
        (stage.period_s, Remedy(f"interrupt instead of polling “{stage.name}”", interrupt)),
    ]


def _faster_bus(project: Project, chain: str, index: int, stage: Transfer) -> list[tuple[float, Remedy]]:
    quicker = next((c for c in NEXT_CLOCK_HZ[stage.bus] if c > stage.clock_hz), None)
    if quicker is None:
        return []
    saved = transfer_time_s(stage) * (1 - stage.clock_hz / quicker)
    speed = f"{quicker:.0f} baud" if stage.bus == "uart" else show(quicker, "Hz")
    change = tried(edits.set_stage, project, chain, index, clock_hz=quicker)
    return [(saved, Remedy(f"run “{stage.name}” at {speed}", change))]
