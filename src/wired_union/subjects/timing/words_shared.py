"""What figures of what Timing is made of are called, what an empty one means, and which say nothing of what it is."""

from wired_union.project.air_model import RadioLink
from wired_union.project.loop_model import Loop
from wired_union.project.signal_model import Signal
from wired_union.project.timing_model import Bus, Message, Packet
from wired_union.project.value import Value
from wired_union.project.way_model import Way

WORDS = {
    "item": "the part", "way": "how it runs tasks", "processor": "runs on", "period_s": "every",
    "least_s": "runs at least",
    "most_s": "runs at most", "known": "known by", "deadline_s": "must be done in", "jitter_s": "starts late by",
    "holds_s": "lets none in for", "waits_s": "sits in a wait of", "clock_hz": "clock or baud",
    "supply_voltage_v": "lines pulled up to", "capacitance_f": "a line has", "pull_up_ohm": "pulled up by",
    "buffer_bytes": "bytes kept", "extended": "29-bit identities",
    "errors_per_min": "errors a minute", "bus": "goes over", "bytes": "bytes",
    "plant": "it controls", "load": "moved by", "plant_gain": "gain of that", "time_constant_s": "its time constant",
    "inertia_kg_m2": "its inertia", "control_gain": "gain, P", "integral_s": "integral time, I",
    "derivative_s": "derivative time, D", "sample_s": "runs every", "chain": "its delay is of", "dead_s": "and besides",
    "most": "gives at most", "least": "gives at least", "inside": "commands the loop", "apart": "motors unlike by",
    "controller": "corrects by", "filter_s": "filter of D", "speed_gain": "gain against speed", "band": "dead band",
    "predicts_s": "predicts ahead", "model_off": "its model is off by", "step": "step looked at", "noise": "noise",
    "quantum": "measured in steps of", "backlash": "play before it", "sees": "sensor sees up to",
    "swings": "may swing by",
    "turns_rad_s": "turns, aiming, at", "track_m": "track", "speed_m_s": "drives at", "heading_by": "heading by",
    "wheel_unlike": "wheels unlike by", "scale_error": "counts wrong by", "drift_rad_s": "gyro drifts",
    "compass_deg": "compass off by", "backlash_deg": "sets out off by", "slip_m": "slips, √ of way",
    "turn_rad": "turns, √ of way", "corrected_by": "corrected by", "every_m": "corrected every",
    "leaves_m": "then off by", "most_off_m": "may be off by",

    "payload_bytes": "bytes", "hops": "hops", "passing": "passed on by", "relays": "how many pass it on",
    "wait_s": "each waits up to",
    "latency_least_s": "takes at least", "latency_most_s": "takes at most", "instead_of": "stands in for",
    "powers": "its radio works only so long", "own_beam_deg": "beam is wide", "own_off_deg": "far end off by",
    "identity": "identity",
    "nodes": "senders", "power_dbm": "power", "own_gain_dbi": "antenna gain",
    "far_gain_dbi": "gain, far end", "return_loss_db": "return loss", "distance_m": "must reach",
    "own_height_m": "antenna is high", "far_height_m": "high, far end", "walls_db": "walls take",
    "edge_m": "edge above",
    "noise_figure_db": "noise figure", "sensitivity_dbm": "reads down to", "fade_db": "kept for fading",
    "bit_rate_hz": "bit rate", "preamble_symbols": "preamble",
    "pixels_wide": "pixels across", "pixels_high": "pixels up", "rate_hz": "pictures a second",
    "region": "looks through",
    "looks_for": "looks for", "operations_hz": "operations a second", "frame_s": "one takes", "exposure_s": "exposure",
    "transfer_s": "to the computer", "wide_deg": "sees, wide", "moves_m_s": "that moves at",
    "frequency_hz": "a second", "least_pulse_s": "pulse, least", "most_pulse_s": "pulse, most",
    "travel_deg": "it turns",
    "made_with": "made by", "made_by": "which task", "counted_by": "counted by",
    "error_deg": "may be off by", "reference_v": "whole range", "hold_f": "capacitor",
    "source_ohm": "driven through", "settle_s": "samples for", "conversion_s": "converts in",
    "highest_hz": "shall show",
    "disturbed_hz": "disturbed by", "cut_off_hz": "filter at", "poles": "filter's stages", "noise_v": "noise",
    "needed_bits": "bits needed", "counts_per_turn": "counts a turn", "turns_with": "on the shaft of",
    "turns_hz": "turns a second", "window_s": "speed over",
    "transfers": "transfers", "every_s": "every", "read_by": "read by",
}  # fmt: skip
WORDS_OF: dict[type[Value], dict[str, str]] = {Way: {"distance_m": "drives"}}
"""Where the same figure is called otherwise."""
EMPTIES = {
    "deadline_s": "its period", "most_s": "not known", "buffer_bytes": "not known",
    "supply_voltage_v": "not known", "capacitance_f": "not known", "pull_up_ohm": "not known", "integral_s": "none",
    "derivative_s": "none", "most": "no limit", "least": "as much back", "filter_s": "a tenth of D", "sees": "no limit",
    "swings": "not asked", "turns_rad_s": "not asked", "inertia_kg_m2": "from Motion",
    "time_constant_s": "from Motion", "plant_gain": "from Motion",
    "return_loss_db": "not known", "latency_least_s": "not known", "latency_most_s": "not known",
    "own_beam_deg": "all round",
    "identity": "by priority", "speed_m_s": "from Motion", "wheel_unlike": "not known", "drift_rad_s": "not known",
    "compass_deg": "not known", "every_m": "not known", "most_off_m": "not said", "track_m": "not known",
    "distance_m": "not known", "own_height_m": "not known",
    "far_height_m": "not known", "edge_m": "none", "sensitivity_dbm": "worked out",
    "turns_hz": "from Motion", "source_ohm": "not known", "settle_s": "not known", "highest_hz": "not known",
    "disturbed_hz": "not known", "cut_off_hz": "none", "needed_bits": "not said", "clock_hz": "not known",
    "frame_s": "not measured", "moves_m_s": "not said",
}  # fmt: skip


def unused(value: Value) -> set[str]:
    """Fields that say nothing of what it is."""
    if isinstance(value, Loop):
        return unused_of_a_loop(value)
    if isinstance(value, RadioLink):
        if value.modulation == "phone or satellite":
            return OURS
        hidden = {"bit_rate_hz", "overhead_bytes"} if value.modulation == "chirp" else CHIRPS - {"noise_figure_db"}
        hidden = hidden | {"latency_least_s", "latency_most_s", "heard"}
        hidden |= {"relays"} if value.passing == "one after the other" else set()
        return hidden | ({"payload_bytes"} if value.packet else set())
    if isinstance(value, Message):
        return {"bytes"} if value.packet else set()
    if isinstance(value, Packet):
        return {"fields"}
    if isinstance(value, Way):
        hidden = set[str]().union(*OF_A_HEADING.values()) - OF_A_HEADING[value.heading_by]
        return hidden | ({"every_m", "leaves_m"} if value.corrected_by == "nothing" else set())
    if isinstance(value, Signal):
        hidden = set[str]().union(*OF_A_SIGNAL.values()) - OF_A_SIGNAL[value.kind]
        hidden |= {"made_by"} if value.made_with == "a timer" else set()
        return hidden | ({"read_by"} if value.counted_by == "a counter" else set())
    if isinstance(value, Bus):
        return set[str]().union(*(fields for kind, fields in OF_A_BUS.items() if kind != value.kind))
    return set()


OF_A_HEADING = {
    "wheel counters": {"track_m", "wheel_unlike", "turn_rad"}, "gyro": {"drift_rad_s"},
    "compass": {"compass_deg"},
}  # fmt: skip
OF_A_SIGNAL = {
    "servo frames": {"frequency_hz", "clock_hz", "least_pulse_s", "most_pulse_s", "travel_deg", "made_with", "made_by",
                     "error_deg"},
    "PWM": {"frequency_hz", "clock_hz", "bits"},
    "analogue": {"frequency_hz", "bits", "reference_v", "source_ohm", "hold_f", "settle_s", "conversion_s", "channels",
                 "highest_hz", "disturbed_hz", "cut_off_hz", "poles", "noise_v", "needed_bits"},
    "encoder": {"counts_per_turn", "load", "turns_with", "turns_hz", "counted_by", "read_by", "window_s"},
}  # fmt: skip
OF_A_BUS = {
    "uart": {"buffer_bytes"}, "can": {"extended", "errors_per_min"},
    "i2c": {"supply_voltage_v", "capacitance_f", "pull_up_ohm"},
}  # fmt: skip
OURS = set(RadioLink.__struct_fields__) - {
    "id", "name", "item", "modulation", "every_s", "latency_least_s", "latency_most_s", "instead_of", "beyond",
}  # fmt: skip
"""What is said of a radio of our own, and of no network of others."""
CHIRPS = {"spreading_factor", "bandwidth_hz", "coding_rate", "preamble_symbols", "noise_figure_db"}


def unused_of_a_loop(loop: Loop) -> set[str]:
    """Figures of other plants and other controllers."""
    plants, controls = set[str]().union(*OF_A_PLANT.values()), set[str]().union(*OF_A_CONTROL.values())
    return (plants - OF_A_PLANT[loop.plant]) | (controls - OF_A_CONTROL[loop.controller])


MOVED = {"load", "inertia_kg_m2", "time_constant_s"}
OF_A_PLANT = {
    "first order": {"plant_gain", "time_constant_s"}, "integrator with lag": {"plant_gain", "time_constant_s"},
    "motor speed": MOVED, "motor position": MOVED, "heading": {*MOVED, "track_m"},
    "two motors in step": {*MOVED, "apart"}, "over an inner loop": {"inside", "plant_gain"},
}  # fmt: skip
OF_A_CONTROL = {
    "PID": {"control_gain", "integral_s", "derivative_s", "filter_s", "predicts_s", "model_off"},
    "state feedback": {"control_gain", "speed_gain", "predicts_s", "model_off"}, "on and off": {"band"},
}  # fmt: skip
