"""Analogue chains: what a step, the noise and a hum do to the quantity, how far it reaches, how fast it is seen."""

import math
from functools import cached_property

from msgspec import Struct

from wired_union.kernel.results import Measure, Verdict
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.physics.folding import Folded, folded_frequency
from wired_union.physics.uncertainty import AdcNoise, adc_noise
from wired_union.project.bench_model import AnalogueChain
from wired_union.project.model import Project
from wired_union.subjects.bench.least import least_count

TIMES_FASTER = 10.0
"""Samples for each of the fastest changes: common practice."""
MOST_AVERAGED = 10_000


class Chained(Struct, frozen=True, dict=True):
    """One chain worked out; figures are in the unit of the quantity."""

    chain: AnalogueChain
    missing: tuple[str, ...] = ()

    @cached_property
    def converter(self) -> AdcNoise:
        c = self.chain
        return adc_noise(c.reference_v or 1.0, c.bits or 1, c.noise_v or 0.0)

    def _in_unit(self, volts: float) -> float:
        return volts / abs(self.chain.volts_per_unit or 1.0)

    @property
    def step(self) -> float:
        """One step of the converter."""
        return self._in_unit(self.converter.step_v)

    @property
    def noise(self) -> float:
        """Standard deviation of a reading. Averaging helps against noise; against steps only while noise hides them."""
        c, own = self.chain, self.converter.step_v / math.sqrt(12)
        noise = c.noise_v or 0.0
        hidden = noise >= self.converter.step_v / 2
        steps = own / math.sqrt(c.averaged) if hidden else own
        return self._in_unit(math.hypot(steps, noise / math.sqrt(c.averaged)))

    @property
    def reaches(self) -> tuple[float, float]:
        """Least and most of the quantity that the converter tells."""
        c = self.chain
        ends = [(v - c.offset_v) / (c.volts_per_unit or 1.0) for v in (0.0, c.reference_v or 0.0)]
        return min(ends), max(ends)

    @cached_property
    def folded(self) -> Folded | None:
        """Where the hum is seen, and what the filter leaves of it; None without one."""
        c = self.chain
        if c.hum_hz is None or c.sample_hz is None:
            return None
        return folded_frequency(c.hum_hz, c.sample_hz, c.corner_hz or math.inf)

    @property
    def hum(self) -> float:
        """Amplitude of the hum in the samples."""
        return self._in_unit((self.chain.hum_v or 0.0) * self.folded.left) if self.folded is not None else 0.0

    @property
    def kept(self) -> float:
        """What the filter leaves of the fastest change."""
        c = self.chain
        if c.fastest_hz is None or c.corner_hz is None or c.sample_hz is None:
            return 1.0
        return folded_frequency(c.fastest_hz, c.sample_hz, c.corner_hz).left

    @property
    def error(self) -> float | None:
        """How far a reading may be off, as sure as is asked: the noise's spread, with the hum at its worst."""
        from statistics import NormalDist

        if self.missing:
            return None
        return NormalDist().inv_cdf((1 + self.chain.confidence) / 2) * self.noise + self.hum

    @property
    def verdict(self) -> Verdict | None:
        """Against what is wanted; None where nothing is."""
        if self.chain.wanted is None:
            return None
        if self.error is None:
            return Verdict.UNKNOWN
        return Verdict.HOLDS if self.error <= self.chain.wanted else Verdict.BREAKS

    def averaged_that_does(self) -> int | None:
        """The fewest samples to average that leave it good enough; None where no number does."""
        wanted = self.chain.wanted
        if wanted is None or self.missing:
            return None

        def does(count: int) -> bool:
            error = chained(self.chain.but(averaged=count)).error
            return error is not None and error <= wanted

        return least_count(does, MOST_AVERAGED)

    def corner_that_does(self) -> float | None:
        """The highest corner of a filter that leaves it good enough and keeps the fastest change; None where none."""
        c, wanted = self.chain, self.chain.wanted
        if wanted is None or self.missing or not self.hum:
            return None
        lowest = max(3 * (c.fastest_hz or 0.0), 1e-3)
        corner = c.corner_hz or c.hum_hz or 1.0
        while corner >= lowest:
            error = chained(c.but(corner_hz=corner)).error
            if error is not None and error <= wanted:
                return corner
            corner *= 0.8
        return None


def chained(chain: AnalogueChain) -> Chained:
    """A chain with what is missing of it."""
    wanted = (
        (chain.volts_per_unit, "volts for one of its unit"), (chain.reference_v, "reference of the converter"),
        (chain.bits, "bits of the converter"), (chain.noise_v, "noise before the converter"),
        (chain.sample_hz, "samples a second"), (chain.fastest_hz, "the fastest change"),
    )  # fmt: skip
    lacks = [f"{chain.name}: {word}" for value, word in wanted if value is None]
    if chain.volts_per_unit == 0:
        lacks.append(f"{chain.name}: a voltage that changes with the quantity")
    if chain.hum_hz is not None and chain.hum_v is None:
        lacks.append(f"{chain.name}: amplitude of the disturbance")
    return Chained(chain, tuple(lacks))


def _work(project: Project, _: Given) -> tuple[Chained, ...]:
    return tuple(map(chained, project.concept.analogue_chains))


CHAINS = Node("analogue chains", lambda p: (p.concept.analogue_chains,), _work)


def measures(assessment: Assessment) -> list[Measure]:
    """Of each chain how far a reading may be off."""
    return [
        Measure("error", f"{c.chain.name}, error", c.error, c.chain.unit, missing=c.missing, of=c.chain.id)
        for c in assessment.of(CHAINS)
    ]
