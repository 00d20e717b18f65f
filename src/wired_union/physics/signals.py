"""Wires that carry a time, a level or edges: servo frames, PWM, samples of a converter, edges of an encoder."""

import math

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import KESTER

WHOLE = 1e-9


class PulseTime(Struct, frozen=True):
    wait_s: float
    levels: float
    bits: float


class Sampling(Struct, frozen=True):
    settles_s: float
    takes_s: float
    nyquist_hz: float
    folded_db: float
    step_v: float
    effective_bits: float


class Edges(Struct, frozen=True):
    edges_hz: float
    apart_s: float
    load: float
    step_rad_s: float


@method(
    "pulse-time",
    source="a new value waits for the frame that is under way; a timer divides what may change into its ticks",
    checked="50 Hz, 1 to 2 ms, 1 MHz: 22 ms and 1000 steps, by hand",
    limits="one pulse a frame; a PWM's pulse is from none to all of it",
)
def pulse_time(frequency_hz: float, clock_hz: float, least_pulse_s: float, most_pulse_s: float) -> PulseTime:
    """How long a new value waits until its pulse has ended, and into how many steps a pulse can be told.

    Args:
        frequency_hz: frames a second
        clock_hz: of the timer that makes them
        least_pulse_s: shortest pulse
        most_pulse_s: longest pulse, at most the frame
    Returns:
        wait_s: at the worst until the whole pulse is out: the frame that is under way, and its own pulse
        levels: steps between the shortest and the longest
        bits: the same as bits
    Raises:
        ValueError: pulses that do not fit their frame, or a frequency that is not above zero.
    """
    require(frequency_hz > 0 and clock_hz > 0, "frequency and clock are above 0")
    require(0 <= least_pulse_s < most_pulse_s, "the longest pulse is above the shortest")
    require(most_pulse_s * frequency_hz <= 1 + WHOLE, "the longest pulse fits its frame")
    levels = (most_pulse_s - least_pulse_s) * clock_hz
    return PulseTime(1 / frequency_hz + most_pulse_s, levels, math.log2(levels) if levels > 0 else 0.0)


@method(
    "sampling",
    source="R·C·ln 2^(N+1) to within half a step; fs/2; 6.02·N + 1.76 dB of a full sine; noise beside the step/√12",
    works=(KESTER,),
    checked="12 bits: 9.01 time constants, 74.0 dB; a quantised sine of numpy",
    limits="one resistor and one capacitor before the converter, a filter of first order slopes; white noise",
)
def sampling(
    bits: int, reference_v: float, source_ohm: float, hold_f: float, sample_hz: float, highest_hz: float,
    cut_off_hz: float = math.inf, poles: int = 1, noise_v: float = 0.0, channels: int = 1, conversion_s: float = 0.0,
) -> Sampling:  # fmt: skip
    """How long a converter's input settles, what folds back, and how many of its bits noise leaves.

    Args:
        bits: of the converter
        reference_v: its whole range
        source_ohm: resistance of what drives it, with its own switch
        hold_f: its sampling capacitor, with what lies beside it
        sample_hz: samples a second of each channel
        highest_hz: highest frequency that what is measured has, or that disturbs it
        cut_off_hz: of the filter before it; infinite for none
        poles: of that filter
        noise_v: noise before it, effective value
        channels: sampled one after the other
        conversion_s: time of one conversion once it has settled
    Returns:
        settles_s: until its input is within half a step
        takes_s: to settle and convert all channels once
        nyquist_hz: half the sample rate
        folded_db: by how much the filter weakens what folds back onto the highest frequency
        step_v: of its range
        effective_bits: of a full sine, with noise and its own steps
    Raises:
        ValueError: a figure that is not above zero where it has to be.
    """
    require(1 <= bits <= 32 and channels >= 1 and poles >= 0, "bits are 1 to 32, channels 1 or more")
    require(min(reference_v, sample_hz, highest_hz, cut_off_hz) > 0, "range and frequencies are above 0")
    require(min(source_ohm, hold_f, noise_v, conversion_s) >= 0, "resistance, capacitor, noise and time are 0 or more")
    settles = source_ohm * hold_f * (bits + 1) * math.log(2)
    step = reference_v / 2**bits
    folds_from = max(sample_hz - highest_hz, 0.0)
    folded = 10 * poles * math.log10(1 + (folds_from / cut_off_hz) ** 2) if math.isfinite(cut_off_hz) else 0.0
    noise = math.hypot(step / math.sqrt(12), noise_v)
    effective = (20 * math.log10(reference_v / (2 * math.sqrt(2)) / noise) - 1.76) / 6.02
    return Sampling(settles, channels * (settles + conversion_s), sample_hz / 2, folded, step, effective)


@method(
    "encoder-edges",
    source="edges a turn times turns a second; one edge more or less in a window is the step of the speed",
    checked="a 12-count magnet behind 100:1 at 1 turn a second, by hand",
    limits="even edges; contacts that bounce give more",
)
def encoder_edges(counts_per_turn: float, turns_hz: float, service_s: float, window_s: float) -> Edges:
    """How close the edges of an encoder come, what counting them takes, and how finely a speed is known.

    Args:
        counts_per_turn: edges that are counted in a turn of the shaft that it is on
        turns_hz: turns a second of that shaft
        service_s: time to count one edge
        window_s: time over which they are counted for a speed
    Returns:
        edges_hz: edges a second
        apart_s: time between two; infinite at a standstill
        load: share of the time that counting takes
        step_rad_s: speed that one edge more stands for
    Raises:
        ValueError: counts or a window that are not above zero, or what is below it.
    """
    require(counts_per_turn > 0 and window_s > 0, "counts and the window are above 0")
    require(turns_hz >= 0 and service_s >= 0, "speed and time are 0 or more")
    edges = counts_per_turn * turns_hz
    step = 2 * math.pi / (counts_per_turn * window_s)
    return Edges(edges, 1 / edges if edges > 0 else math.inf, edges * service_s, step)
