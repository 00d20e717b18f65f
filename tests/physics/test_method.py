"""Declaring a formula once: what is read from the declaration."""

from collections.abc import Sequence

import pytest
from msgspec import Struct

from wired_union.physics.method import MethodError, describe, method, require
from wired_union.physics.methods import all_methods, find_method

FIXED_NAMES = {
    # other people's scripts call these: methods.md of the design
    "pack": ("series", "parallel", "cell_voltage_v", "cell_capacity_ah", "cell_resistance_ohm"),
    "constant-power-sag": ("open_circuit_voltage_v", "resistance_ohm", "power_w"),
    "peukert-runtime": ("capacity_ah", "rated_time_h", "exponent", "current_a"),
    "linear-regulator": ("input_voltage_v", "output_voltage_v", "output_current_a", "dropout_v",
                         "quiescent_current_a", "thermal_resistance_k_per_w", "ambient_c"),
    "switching-converter": ("input_voltage_v", "output_voltage_v", "output_current_a", "efficiency"),
    "wire-gauge": ("awg",),
    "voltage-drop": ("length_m", "awg", "current_a", "temperature_c"),
    "duty-average": ("currents_a", "durations_s"),
    "mass-growth": ("knowledge",),
    "chain-latency": ("stages",),
    "uart-time": ("bytes", "baud", "bits_per_byte"),
    "i2c-time": ("bytes_each_transfer", "clock_hz", "transfers"),
    "lora-airtime": ("spreading_factor", "bandwidth_hz", "payload_bytes", "coding_rate", "preamble_symbols",
                     "explicit_header", "crc"),
    "response-times": ("execution_s", "period_s", "deadline_s", "blocking_s"),
    "centre-of-mass": ("masses_kg", "x_m", "y_m", "z_m"),
    "box-inertia": ("mass_kg", "length_m", "width_m", "height_m"),
    "wheel-loads": ("x_m", "y_m", "weight_n", "centre_x_m", "centre_y_m"),
    "two-axle-step": ("weight_n", "wheelbase_m", "centre_to_front_m", "wheel_radius_m", "step_m", "driven"),
    "skid-turn": ("weight_n", "wheelbase_m", "track_m", "lateral_friction", "wheel_radius_m"),
    "beam-deflection": ("load_n", "length_m", "modulus_pa", "second_moment_m4", "support"),
    "tolerance-stack": ("tolerances_m",),
    "thermal-growth": ("length_m", "expansion_per_k", "temperature_change_k"),
    "drop-load": ("mass_kg", "drop_m", "stiffness_n_per_m"),
    "opening-shock": ("density_kg_m3", "speed_m_s", "area_m2", "drag_coefficient", "opening_factor"),
    "gripper-force": ("mass_kg", "friction", "acceleration_m_s2", "fingers", "factor"),
    "imbalance-force": ("mass_kg", "eccentricity_m", "speed_rad_s"),
    "success-interval": ("successes", "trials", "confidence"),
    "trials-for-proof": ("reliability", "confidence"),
}  # fmt: skip


class Area(Struct, frozen=True):
    area_m2: float


@method("sheet", source="geometry", limits="flat")
def sheet(lengths_m: Sequence[float], width_m: float, pieces: int = 1, cut: bool = False) -> Area:
    """Area of sheets.

    Args:
        lengths_m: length of each
        width_m: width of all
        pieces: how many times
        cut: whether the edges are cut off
    Returns:
        area_m2: all together
    """
    require(width_m > 0, "width is above 0")
    return Area(sum(lengths_m) * width_m * pieces * (0.9 if cut else 1.0))


@pytest.mark.parametrize("name", sorted(FIXED_NAMES))
def test_fixed_names_stay(name):
    inputs = find_method(name).inputs
    fixed = FIXED_NAMES[name]
    assert tuple(i.name for i in inputs[: len(fixed)]) == fixed
    assert not any(i.required for i in inputs[len(fixed) :])


def test_a_declaration_says_it_all():
    found = describe(sheet)
    assert (found.name, found.summary, found.source, found.limits) == ("sheet", "Area of sheets.", "geometry", "flat")
    assert [(i.name, i.unit, i.kind, i.required) for i in found.inputs] == [
        ("lengths_m", "m", "list", True), ("width_m", "m", "number", True), ("pieces", "", "whole", False),
        ("cut", "", "flag", False),
    ]  # fmt: skip
    assert found.inputs[0].meaning == "length of each"
    assert found.outputs == (("area_m2", "all together"),)


def test_texts_become_numbers_in_the_unit_of_the_name():
    inputs, outputs = describe(sheet).work({"lengths_m": "1, 50 cm, 2 in", "width_m": "200mm", "cut": "yes"})
    assert inputs["lengths_m"] == [1.0, 0.5, 0.0508]
    assert inputs["cut"] is True
    assert outputs == {"area_m2": pytest.approx(1.5508 * 0.2 * 0.9)}


@pytest.mark.parametrize(
    ("texts", "said"),
    [
        ({"lengths_m": "1"}, "sheet needs width_m: width of all. Give it as width_m=1m."),
        ({"width_m": "1"}, "sheet needs lengths_m: length of each. Give it as lengths_m=1m,1m."),
        ({"lengths_m": "1", "width_m": "0"}, "sheet: width is above 0"),
        ({"lengths_m": "1", "width_m": "1", "pieces": "1/2"}, "pieces is a whole number, not “1/2”."),
        ({"lengths_m": "1;2", "width_m": "1"}, "lengths_m: “1;2” has a unit this program does not know (“;2”)."
                                               " Write it like 25 mm or 2 in."),
    ],
)  # fmt: skip
def test_refusals_name_the_input_and_what_would_be_right(texts, said):
    with pytest.raises(MethodError) as refusal:
        describe(sheet).work(texts)
    assert str(refusal.value) == said


def test_names_are_unique_and_an_unknown_one_lists_them():
    names = [m.name for m in all_methods()]
    assert len(set(names)) == len(names)
    with pytest.raises(MethodError, match="There are: pack, constant-power-sag"):
        find_method("abracadabra")
