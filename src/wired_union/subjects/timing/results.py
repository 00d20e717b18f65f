"""The shapes of what follows from signal chains, and the time of one stage."""

from msgspec import Struct

from wired_union.physics.bus import i2c_time, spi_time, uart_time
from wired_union.physics.latency import ChainAge, ChainLatency, StageTimes, chain_age
from wired_union.project.model import Chain, Transfer


class StageBar(Struct, frozen=True):
    """One stage on the common axis: where it starts and ends at the least and at the most."""

    name: str
    least_s: float
    most_s: float
    start_s: float
    kind: str
    why: str = ""
    period_s: float = 0.0
    """At which what it passes through is due; 0 where it is started by what comes before, or done again."""


class ChainResult(Struct, frozen=True):
    chain: Chain
    latency: ChainLatency | None
    bars: tuple[StageBar, ...]
    missing: tuple[str, ...] = ()
    times: tuple[StageTimes, ...] = ()
    """Of every stage as it is passed, those done again each time."""
    periods_s: tuple[float, ...] = ()
    """Of each of them that looks once a period; 0 of one that is started by what comes before."""

    @property
    def age(self) -> ChainAge | None:
        """How late it reacts, and how old what it acts on may be."""
        return chain_age(self.times, self.periods_s) if self.times else None

    @property
    def costliest(self) -> int:
        """Index of the stage with the longest worst time."""
        return max(range(len(self.bars)), key=lambda i: self.bars[i].most_s)


class TimingResult(Struct, frozen=True):
    chains: tuple[ChainResult, ...]


def transfer_time_s(stage: Transfer) -> float:
    """Time of a bus transfer, by its bus."""
    if stage.bus == "uart":
        return uart_time(stage.bytes, stage.clock_hz).time_s
    timer = i2c_time if stage.bus == "i2c" else spi_time
    return timer(stage.bytes, stage.clock_hz).time_s
