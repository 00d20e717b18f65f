"""Wires that carry a time, a level or edges: what each makes wait, and whether it is told truly at the far end."""

import math
from collections.abc import Callable, Mapping

from msgspec import Struct

from wired_union.kernel.checks import Check, check_of
from wired_union.kernel.results import Verdict, worst
from wired_union.kernel.subject import Given, Node
from wired_union.physics.signals import encoder_edges, pulse_time, sampling
from wired_union.project.model import Project
from wired_union.project.signal_model import Signal
from wired_union.subjects.motion.gives_times import MOTION
from wired_union.subjects.timing.tasks import TASKS, TaskResult
from wired_union.units import show

FOLDED_DB = 40.0
"""What a filter should take off a disturbance that folds into what is measured: common practice."""


class SignalResult(Struct, frozen=True):
    """A wire with what must hold of it; `words` says the rest, `least_s` and `most_s` what a chain waits for it."""

    signal: Signal
    checks: tuple[Check, ...] = ()
    words: tuple[str, ...] = ()
    missing: tuple[str, ...] = ()
    least_s: float | None = None
    most_s: float | None = None

    @property
    def verdict(self) -> Verdict:
        found = worst([c.verdict for c in self.checks])
        if found is Verdict.BREAKS:
            return found
        return Verdict.UNKNOWN if self.missing or found is None else found


class Beside(Struct, frozen=True):
    """What wires look at: tasks, and the fastest turns of what loads move and of their rotors."""

    tasks: Mapping[str, TaskResult]
    turns: Mapping[tuple[str, str], float]


def assess_signal(signal: Signal, beside: Beside) -> SignalResult:
    """One wire, by its kind."""
    return KINDS[signal.kind](signal, beside)


def _servo(s: Signal, beside: Beside) -> SignalResult:
    """The pulse fits its frame; made by a task, it is as uneven as that is late."""
    frame = 1 / s.frequency_hz
    if s.least_pulse_s >= s.most_pulse_s:
        return SignalResult(s, missing=(f"{s.name}: a longest pulse above the shortest",))
    checks, words = [check_of("pulse", s.most_pulse_s, frame, "s")], []
    missing: list[str] = []
    if checks[0].use > 1:
        return SignalResult(s, tuple(checks), ("no pause is left between two pulses",))
    a_degree = (s.most_pulse_s - s.least_pulse_s) / s.travel_deg
    by_task = s.made_with == "a task"
    maker = beside.tasks.get(s.made_by) if by_task else None
    if by_task and (maker is None or maker.response_s is None or maker.bound):
        missing += maker.missing if maker is not None and maker.missing else [f"{s.name}: when its task runs"]
    elif maker is not None and maker.response_s is not None:
        uneven = maker.response_s - maker.task.least_s
        checks.append(check_of("uneven", uneven / a_degree, s.error_deg, "°"))
        words.append(f"its pulses are uneven by {show(uneven, 's')}")
    if s.clock_hz is not None:
        told = pulse_time(s.frequency_hz, s.clock_hz, s.least_pulse_s, s.most_pulse_s)
        checks.append(check_of("step", s.travel_deg / told.levels, s.error_deg, "°"))
        words.append(f"{told.levels:.0f} steps of {show(s.travel_deg / told.levels, '°')}")
    else:
        missing.append(f"{s.name}: the clock of its timer")
    wait = frame + s.most_pulse_s
    words.insert(0, f"a new value waits {show(wait, 's')} at the most")
    return SignalResult(s, tuple(checks), tuple(words), tuple(missing), s.least_pulse_s, wait)


def _pwm(s: Signal, _: Beside) -> SignalResult:
    """Enough ticks of its timer in a period."""
    period = 1 / s.frequency_hz
    heard = ", which is heard" if HEARD[0] <= s.frequency_hz <= HEARD[1] else ""
    words = [f"a new value waits {show(2 * period, 's')} at the most{heard}"]
    if s.clock_hz is None:
        return SignalResult(s, (), tuple(words), (f"{s.name}: the clock of its timer",), 0.0, 2 * period)
    told = pulse_time(s.frequency_hz, s.clock_hz, 0.0, period)
    checks = (check_of("levels", 2.0**s.bits, told.levels, "", extra=" steps"),)
    words.append(f"{told.levels:.0f} steps, {max(told.bits, 0):.1f} bits")
    return SignalResult(s, checks, tuple(words), (), 0.0, 2 * period)


HEARD = (20.0, 18e3)


def _analogue(s: Signal, _: Beside) -> SignalResult:
    """It settles in time, is sampled often enough, nothing folds into it, and noise leaves bits enough."""
    lacks = [f"{s.name}: {words}" for words, gone in (
        ("the resistance before its converter", s.source_ohm is None),
        ("how long it samples before it converts", s.settle_s is None),
        ("the highest frequency that it shall show", s.highest_hz is None),
        ("what disturbs it, 0 Hz for nothing", s.disturbed_hz is None),
        ("how many bits noise must leave", s.needed_bits is None)) if gone]  # fmt: skip
    most = 1 / s.frequency_hz + s.channels * ((s.settle_s or 0.0) + s.conversion_s)
    if lacks or s.source_ohm is None or s.settle_s is None or s.highest_hz is None:
        return SignalResult(s, missing=tuple(lacks))
    told = sampling(s.bits, s.reference_v, s.source_ohm, s.hold_f, s.frequency_hz, s.highest_hz,
                    s.cut_off_hz or math.inf, s.poles, s.noise_v, s.channels, s.conversion_s)  # fmt: skip
    checks = [
        check_of("settling", told.settles_s, s.settle_s, "s"),
        check_of("converting", s.channels * (s.settle_s + s.conversion_s), 1 / s.frequency_hz, "s"),
        check_of("aliasing", s.highest_hz, told.nyquist_hz, "Hz"),
    ]
    words = [f"steps of {show(told.step_v, 'V')}, {max(told.effective_bits, 0.0):.1f} bits are left by noise"]
    if s.needed_bits is not None:
        checks.append(check_of("bits", s.needed_bits, max(told.effective_bits, 0.0), "", extra=" bits"))
    if s.disturbed_hz:
        folded = abs(s.disturbed_hz - round(s.disturbed_hz / s.frequency_hz) * s.frequency_hz)
        off = attenuation_db(s, s.disturbed_hz)
        words.append(f"{show(s.disturbed_hz, 'Hz')} beside it shows as {show(folded, 'Hz')}, {off:.0f} dB weaker")
        if folded <= s.highest_hz:
            checks.append(check_of("folding", FOLDED_DB, off, "dB"))
    return SignalResult(s, tuple(checks), tuple(words), (), s.conversion_s, most)


def attenuation_db(s: Signal, hertz: float) -> float:
    """What the filter before it takes off a frequency: 10·n·log(1 + (f/fc)²), by n alike first-order stages."""
    return 0.0 if s.cut_off_hz is None else 10 * s.poles * math.log10(1 + (hertz / s.cut_off_hz) ** 2)


def _encoder(s: Signal, beside: Beside) -> SignalResult:
    """Edges no closer than what counts them is taken for; a poll must come between any two."""
    turns = s.turns_hz if s.turns_hz is not None else beside.turns.get((s.load, s.turns_with))
    if turns is None:
        return SignalResult(s, missing=(f"{s.name}: how fast its shaft turns",))
    by_task = s.counted_by == "a task"
    reader = beside.tasks.get(s.read_by) if by_task else None
    service = reader.task.most_s if reader is not None else 0.0
    told = encoder_edges(s.counts_per_turn, turns, service or 0.0, s.window_s)
    words = [f"{told.edges_hz:.0f} edges a second at the most, {show(told.apart_s, 's')} apart",
             f"one edge in {show(s.window_s, 's')} is {show(told.step_rad_s, 'rad/s')}"]  # fmt: skip
    if not by_task:
        return SignalResult(s, (check_of("edges", 0.0, 1.0, ""),), (*words, "a counter counts them"), (), 0.0, 0.0)
    if reader is None or reader.response_s is None or reader.bound:
        lacks = reader.missing if reader is not None and reader.missing else (f"{s.name}: when its edges are counted",)
        return SignalResult(s, (), tuple(words), lacks)
    checks = [check_of("edges", *_apart(reader, told.apart_s), "s")]
    if service:
        words.append(f"counting them takes {show(told.load, 'share')} of the time")
    return SignalResult(s, tuple(checks), tuple(words), (), reader.task.least_s, reader.response_s)


def _apart(reader: TaskResult, apart_s: float) -> tuple[float, float]:
    """What lies between two looks, against what lies between two edges; an interrupt's is what it is taken for."""
    task = reader.task
    gap = task.period_s if task.interrupt else task.period_s + (reader.response_s or 0.0) - task.least_s
    return gap, apart_s


KINDS: dict[str, Callable[[Signal, Beside], SignalResult]] = {
    "servo frames": _servo, "PWM": _pwm, "analogue": _analogue, "encoder": _encoder,
}  # fmt: skip


def signal_words(r: SignalResult) -> str:
    """All that is known of a wire, in a line."""
    told = "; ".join(r.words)
    gaps = f"Not known yet: {'; '.join(r.missing)}" if r.missing else ""
    return ". ".join(filter(None, (f"{told[:1].upper()}{told[1:]}", gaps)))


def _turns(project: Project, given: Given) -> Mapping[tuple[str, str], float]:
    """Only where an encoder asks: else always the same, so that nothing is worked out again."""
    if not any(s.kind == "encoder" and s.load for s in project.concept.signals):
        return NO_TURNS
    found = {}
    for result in given.of(MOTION).loads:
        if result.turning and not result.missing:
            found[result.load.id, "what is moved"] = result.turning[0].most_hz
            rotor = next((t for t in result.turning if t.what == "rotor"), None)
            if rotor is not None:
                found[result.load.id, "the rotor"] = rotor.most_hz
    return found


NO_TURNS: Mapping[tuple[str, str], float] = {}


def _work(project: Project, given: Given) -> tuple[SignalResult, ...]:
    tasks = {t.task.id: t for p in given.of(TASKS) for t in p.tasks}
    beside = Beside(tasks, given.of(TURNS))
    return tuple(assess_signal(s, beside) for s in project.concept.signals)


TURNS = Node("turns", lambda project: (project.concept.signals,), _turns, (MOTION,))
SIGNALS = Node("signals", lambda project: (project.concept.signals,), _work, (TASKS, TURNS))
