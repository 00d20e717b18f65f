"""Methods against values from the source named beside each: worked as a script would, through texts with units."""

import pytest

from wired_union.physics.methods import find_method

# (method, inputs, output, value, relative tolerance)  # source of the value
PUBLISHED = [
    # four 1.5 V cells of 0.15 ohm: circuit theory, worked by hand
    ("pack", {"series": "1", "parallel": "4", "cell_voltage_v": "1.5 V", "cell_capacity_ah": "2 Ah",
              "cell_resistance_ohm": "150 mΩ"}, "resistance_ohm", 0.0375, 1e-12),
    ("pack", {"series": "4", "parallel": "1", "cell_voltage_v": "1.5", "cell_capacity_ah": "2",
              "cell_resistance_ohm": "0.15"}, "voltage_v", 6.0, 1e-12),
    ("pack", {"series": "4", "parallel": "1", "cell_voltage_v": "1.5", "cell_capacity_ah": "2",
              "cell_resistance_ohm": "0.15"}, "max_power_w", 15.0, 1e-12),
    # quadratic of the loop, worked with an independent library (numpy.roots)
    ("constant-power-sag", {"open_circuit_voltage_v": "12", "resistance_ohm": "0.1", "power_w": "100"},
     "current_a", 9.0098, 1e-4),
    ("constant-power-sag", {"open_circuit_voltage_v": "12", "resistance_ohm": "0.1", "power_w": "100"},
     "terminal_voltage_v", 11.0990, 1e-4),
    # Peukert 1897: 20 h × (100 / (20 × 20))^1.2
    ("peukert-runtime", {"capacity_ah": "100", "rated_time_h": "20", "exponent": "1.2", "current_a": "20"},
     "runtime_h", 3.789, 1e-3),
    # energy balance and JESD51: 1.7 V × 0.4 A; 25 °C + 0.68 W × 60 K/W
    ("linear-regulator", {"input_voltage_v": "5", "output_voltage_v": "3.3", "output_current_a": "400mA",
                          "thermal_resistance_k_per_w": "60", "ambient_c": "25"}, "loss_w", 0.68, 1e-9),
    ("linear-regulator", {"input_voltage_v": "5", "output_voltage_v": "3.3", "output_current_a": "400mA",
                          "thermal_resistance_k_per_w": "60", "ambient_c": "25"}, "junction_c", 65.8, 1e-9),
    ("switching-converter", {"input_voltage_v": "12", "output_voltage_v": "5", "output_current_a": "2",
                             "efficiency": "90 %"}, "input_current_a", 10 / 0.9 / 12, 1e-12),
    # ASTM B258 table 1 and IEC 60028 resistivity
    ("wire-gauge", {"awg": "20"}, "diameter_m", 0.812e-3, 1e-3),
    ("wire-gauge", {"awg": "10"}, "diameter_m", 2.588e-3, 1e-3),
    ("wire-gauge", {"awg": "20"}, "resistance_ohm_per_m", 33.3e-3, 1e-3),
    ("wire-gauge", {"awg": "10"}, "resistance_ohm_per_m", 3.277e-3, 1e-3),
    ("wire-gauge", {"awg": "36"}, "diameter_m", 0.127e-3, 1e-12),
    ("wire-gauge", {"awg": "-3"}, "diameter_m", 11.684e-3, 1e-3),
    # twice the length, as above; copper at 70 °C has 1 + 0.00393 × 50 of its resistance
    ("voltage-drop", {"length_m": "0.5", "awg": "20", "current_a": "3"}, "drop_v", 0.0999, 1e-3),
    ("voltage-drop", {"length_m": "0.5", "awg": "20", "current_a": "3", "temperature_c": "70"}, "drop_v",
     0.0999 * 1.1965, 1e-3),
    # VDI 2230:2003, annex A, class 8.8, friction 0.12 (from memory): 1.3, 3.0, 5.9, 10.1 and 24.6 N·m; M8 pulls 18.6 kN
    *(("tightening-torque", {"diameter_m": d, "pitch_m": p, "yield_pa": "640 MPa"}, "torque_n_m", t, 0.04)
      for d, p, t in (("3mm", "0.5mm", 1.3), ("4mm", "0.7mm", 3.0), ("5mm", "0.8mm", 5.9), ("6mm", "1mm", 10.1),
                      ("8mm", "1.25mm", 24.6))),
    ("tightening-torque", {"diameter_m": "8mm", "pitch_m": "1.25mm", "yield_pa": "640 MPa"}, "preload_n", 18600, 0.01),
    # mean of 20 µA for 59 s and 80 mA for 1 s
    ("duty-average", {"currents_a": "20uA,80mA", "durations_s": "59,1"}, "average_current_a", 1.353e-3, 1e-9),
    # Davare et al. 2007: a just-missed sample costs its period and its response
    ("chain-latency", {"stages": "4ms:6ms,sampled:20ms:2ms"}, "most_s", 0.028, 1e-9),
    ("chain-latency", {"stages": "(4ms, 6ms), sampled (20ms, 2ms)"}, "least_s", 0.006, 1e-9),
    ("chain-latency", {"stages": "4ms:6ms,sampled:20ms:2ms"}, "typical_s", 0.017, 1e-9),
    # longest NMEA 0183 sentence at 9600 8N1
    ("uart-time", {"bytes": "82", "baud": "9600"}, "time_s", 85.4e-3, 1e-3),
    # UM10204: 9 clocks a byte, the address byte too
    ("i2c-time", {"bytes_each_transfer": "6", "clock_hz": "400 kHz"}, "time_s", (9 * 7 + 2) / 400e3, 1e-12),
    ("spi-time", {"bytes_each_transfer": "6", "clock_hz": "8 MHz", "transfers": "10"}, "time_s", 60e-6, 1e-12),
    # Semtech AN1200.13, section 4
    ("lora-airtime", {"spreading_factor": "12", "bandwidth_hz": "125kHz", "payload_bytes": "51"}, "airtime_s",
     2.465792, 1e-9),
    ("lora-airtime", {"spreading_factor": "9", "bandwidth_hz": "125kHz", "payload_bytes": "24"}, "airtime_s",
     0.205824, 1e-9),
    ("lora-airtime", {"spreading_factor": "7", "bandwidth_hz": "125kHz", "payload_bytes": "0", "crc": "no",
                      "explicit_header": "no"}, "airtime_s", 20.25 * 1.024e-3, 1e-9),
    # Joseph & Pandya 1986; the example of three tasks
    ("response-times", {"execution_s": "3,3,5", "period_s": "7,12,20"}, "response_s", [3, 6, 20], 1e-9),
    ("response-times", {"execution_s": "3,3,5", "period_s": "7,12,20"}, "utilisation", 0.92857, 1e-5),
    # rigid-body tables: an even cube
    ("box-inertia", {"mass_kg": "12", "length_m": "1", "width_m": "1", "height_m": "1"}, "about_z_kg_m2", 2.0, 1e-12),
    # statics: half of the way to the front pair, which carries three quarters of it
    ("wheel-loads", {"x_m": "1,1,-1,-1", "y_m": "1,-1,1,-1", "weight_n": "100", "centre_x_m": "0.5", "centre_y_m": "0"},
     "load_n", [37.5, 37.5, 12.5, 12.5], 1e-9),
    ("centre-of-mass", {"masses_kg": "1,3", "x_m": "0,4", "y_m": "0,0", "z_m": "1,1"}, "centre_x_m", 3.0, 1e-12),
    # ESA margin philosophy, from memory
    ("mass-growth", {"knowledge": "guess"}, "allowance", 0.20, 1e-12),
    ("mass-growth", {"knowledge": "measured"}, "allowance", 0.0, 1e-12),
    # Clopper & Pearson 1934, Wilson 1927: 20 of 20 at 95 %
    ("success-interval", {"successes": "20", "trials": "20"}, "exact_lower", 0.832, 1e-3),
    ("success-interval", {"successes": "20", "trials": "20"}, "wilson_lower", 0.839, 1e-3),
    ("success-interval", {"successes": "20", "trials": "20"}, "one_sided_lower", 0.861, 1e-3),
    # success-run theorem
    ("trials-for-proof", {"reliability": "0.95", "confidence": "90 %"}, "trials", 45, 1e-12),
    ("trials-for-proof", {"reliability": "0.95", "confidence": "0.95"}, "trials", 59, 1e-12),
]  # fmt: skip


@pytest.mark.parametrize(("name", "inputs", "output", "value", "tolerance"), PUBLISHED)
def test_published_value(name, inputs, output, value, tolerance):
    _, outputs = find_method(name).work(inputs)
    assert outputs[output] == pytest.approx(value, rel=tolerance)


IMPOSSIBLE = [
    ("constant-power-sag", {"open_circuit_voltage_v": "12", "resistance_ohm": "0.5", "power_w": "80"},
     "constant-power-sag: cannot deliver 80 W: the most is V²/4R = 72 W"),
    ("wire-gauge", {"awg": "99"}, "wire-gauge: gauge is from −3 (4/0) to 40"),
    ("wire-gauge", {"awg": "20.5"}, "awg is a whole number, not “20.5”."),
    ("wire-gauge", {}, "wire-gauge needs awg: gauge number, −3 (4/0) to 40. Give it as awg=1."),
    ("uart-time", {"bytes": "1", "baud": "9600", "foo": "1"},
     "uart-time has no input “foo”. Its inputs are bytes, baud, bits_per_byte."),
    ("uart-time", {"bytes": "1", "baud": "3 V"},
     "baud: “3 V” is in V, Bd is wanted. Write it like 2.5 Bd."),
    ("duty-average", {"currents_a": "1,2", "durations_s": "1"}, "duty-average: as many currents as durations"),
    ("mass-growth", {"knowledge": "hunch"},
     "mass-growth: knowledge is measured, datasheet, estimate, guess, not “hunch”"),
    ("lora-airtime", {"spreading_factor": "13", "bandwidth_hz": "125kHz", "payload_bytes": "1"},
     "lora-airtime: spreading factor is 5 to 12"),
    ("lora-airtime", {"spreading_factor": "7", "bandwidth_hz": "125kHz", "payload_bytes": "1", "crc": "maybe"},
     "crc is yes or no, not “maybe”."),
    ("switching-converter", {"input_voltage_v": "12", "output_voltage_v": "5", "output_current_a": "2",
                             "efficiency": "1.2"}, "switching-converter: efficiency is above 0 and at most 1"),
    ("success-interval", {"successes": "3", "trials": "2"},
     "success-interval: trials are 1 or more, successes 0 to trials"),
    ("chain-latency", {"stages": "soon"},
     "stages: “soon” is no stage. Write each as least:most, or sampled:period:response, with commas between."),
    ("peukert-runtime", {"capacity_ah": "1", "rated_time_h": "20", "exponent": "0.9", "current_a": "1"},
     "peukert-runtime: Peukert's exponent is 1 or more"),
]  # fmt: skip


@pytest.mark.parametrize(("name", "inputs", "said"), IMPOSSIBLE)
def test_impossible_inputs_are_refused_in_one_line(name, inputs, said):
    from wired_union.physics.method import MethodError

    with pytest.raises(MethodError) as refusal:
        find_method(name).work(inputs)
    assert str(refusal.value) == said
    assert "\n" not in said
