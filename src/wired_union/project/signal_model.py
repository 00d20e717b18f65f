"""Wires that carry a time, a level or edges, and no bytes."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import Amount, Name, Positive, Ref, Value

SignalKind = Literal["servo frames", "PWM", "analogue", "encoder"]


class Signal(Value, frozen=True, kw_only=True):
    """One such wire."""

    id: Name
    name: Name
    kind: SignalKind = "servo frames"
    item: Annotated[str, Ref("items", "clear")] = ""
    """the part at its end"""
    frequency_hz: Positive = 50.0
    """frames, or samples of each channel, a second"""
    clock_hz: Positive | None = None
    """of the timer that makes the pulses"""
    least_pulse_s: Amount = 0.001
    """shortest pulse"""
    most_pulse_s: Positive = 0.002
    """longest pulse"""
    travel_deg: Positive = 180.0
    """what a servo turns from the shortest to the longest"""
    made_with: Literal["a timer", "a task"] = "a timer"
    """what makes the pulses"""
    made_by: Annotated[str, Ref("tasks", "clear")] = ""
    """the task that does: they are as uneven as it is late"""
    error_deg: Positive = 2.0
    """that a servo may be off by"""
    bits: Annotated[int, Meta(ge=1, le=32)] = 10
    """of the converter; of a PWM those that are wanted"""
    reference_v: Positive = 3.3
    """whole range of the converter"""
    source_ohm: Amount | None = None
    """resistance before the converter, with its own switch"""
    hold_f: Amount = 20e-12
    """its sampling capacitor, with what lies beside it"""
    settle_s: Positive | None = None
    """time that it samples before it converts"""
    conversion_s: Amount = 10e-6
    """that one conversion takes besides"""
    channels: Annotated[int, Meta(ge=1, le=64)] = 1
    """sampled one after the other"""
    highest_hz: Positive | None = None
    """highest frequency that it shall show"""
    disturbed_hz: Amount | None = None
    """what disturbs it: a motor's PWM, the mains; 0 where nothing does"""
    cut_off_hz: Positive | None = None
    """of a filter before it"""
    poles: Annotated[int, Meta(ge=1, le=8)] = 1
    """of that filter: 1 for a resistor and a capacitor"""
    noise_v: Amount = 0.0
    """noise before it, effective"""
    needed_bits: Annotated[float, Meta(ge=0, le=32)] | None = None
    """bits that noise must leave"""
    counts_per_turn: Positive = 12.0
    """edges that are counted in a turn of its shaft"""
    load: Annotated[str, Ref("loads", "clear")] = ""
    """what its shaft moves: as fast as Motion says"""
    turns_with: Literal["what is moved", "the rotor"] = "what is moved"
    """which shaft of that it is on"""
    turns_hz: Amount | None = None
    """turns a second of its shaft at the most"""
    counted_by: Literal["a counter", "a task"] = "a counter"
    """what counts its edges"""
    read_by: Annotated[str, Ref("tasks", "clear")] = ""
    """the task that does"""
    window_s: Positive = 0.02
    """time over which a speed is counted"""
