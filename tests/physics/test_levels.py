"""Levels, dividers, wires and bus lengths against the rows of standards and values worked by hand."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wired_union.physics.bus import bus_reach, from_a_bag, i2c_pull_up
from wired_union.physics.levels import logic_levels, noise_margins, voltage_divider
from wired_union.physics.wire import (
    voltage_drop,
    warm_ampacity,
    wire_ampacity,
    wire_gauge,
    wire_mass,
    wire_temperature,
)

TABLE = [
    # family, supply, output high, output low, input high, input low; from memory
    ("TTL", 3.3, 2.4, 0.4, 2.0, 0.8),  # JEDEC JESD8C.01, LVTTL
    ("TTL", 5.0, 2.4, 0.4, 2.0, 0.8),
    ("CMOS", 3.3, 3.1, 0.2, 2.0, 0.8),  # JESD8C.01, LVCMOS: supply − 0.2 V
    ("CMOS", 2.5, 2.3, 0.2, 1.7, 0.7),  # JESD8-5A
    ("CMOS", 1.8, 1.35, 0.45, 1.17, 0.63),  # JESD8-7A: supply − 0.45 V, 0.65 and 0.35 of it
    ("CMOS", 4.5, 3.9, 0.33, 3.15, 1.35),  # JESD7-A, HC at 4.5 V: 3.15 and 1.35 V
    ("I2C", 3.3, 3.3, 0.4, 2.31, 0.99),  # NXP UM10204, table 9: 0.7 and 0.3 of the supply, 0.4 V
    ("contact", 3.3, 3.3, 0.0, 2.0, 0.8),
    ("open drain", 5.0, 5.0, 0.4, 3.5, 1.5),
]


@pytest.mark.parametrize("row", TABLE)
def test_levels_are_those_of_the_standards(row):
    family, supply, *wanted = row
    got = logic_levels(family, supply)
    assert [got.output_high_v, got.output_low_v, got.input_high_v, got.input_low_v] == pytest.approx(wanted)


def test_the_classic_pairs():
    """TTL keeps 0.4 V either way; 3.3 V CMOS is not read by 5 V CMOS, but by 5 V TTL: common practice."""
    ttl, low, high = logic_levels("TTL", 5.0), logic_levels("CMOS", 3.3), logic_levels("CMOS", 5.0)
    assert noise_margins(2.4, 0.4, 2.0, 0.8).high_v == pytest.approx(0.4)
    assert noise_margins(2.4, 0.4, 2.0, 0.8).low_v == pytest.approx(0.4)
    assert noise_margins(low.output_high_v, low.output_low_v, high.input_high_v, high.input_low_v).high_v < 0
    assert noise_margins(low.output_high_v, low.output_low_v, ttl.input_high_v, ttl.input_low_v).high_v > 1


def test_a_divider_worked_by_hand():
    """12 V over 10 kΩ and 3.3 kΩ: 12·3.3/13.3 V, seen through 33/13.3 kΩ."""
    got = voltage_divider(12.0, 10e3, 3.3e3)
    assert got.output_v == pytest.approx(2.97744, abs=1e-5)
    assert got.source_ohm == pytest.approx(2481.203, abs=1e-3)
    assert got.current_a == pytest.approx(12 / 13300)


def test_what_cannot_be_is_refused():
    for wrong in (lambda: logic_levels("ECL", 5.0), lambda: logic_levels("TTL", 0.0), lambda: bus_reach("i2c", 1e5),
                  lambda: bus_reach("can", 0.0), lambda: voltage_divider(5.0, 0.0, 1.0), lambda: wire_mass(20, 0),
                  lambda: noise_margins(3.0, 0.0, 1.0, 2.0), lambda: warm_ampacity(5.0, 30.0, 20.0),
                  lambda: wire_temperature(1.0, 0.0, 25.0), lambda: wire_temperature(1.0, 5.0, 25.0, 25.0)):  # fmt: skip
        with pytest.raises(ValueError, match=r"."):
            wrong()


def test_buses_reach_as_far_as_common_practice_says():
    """ISO 11898-2, from memory: 40 m at 1 Mbit/s; 250 m at 250 kbit/s and 500 m at 125 kbit/s, common practice."""
    for clock, metres in ((1e6, 40.0), (250e3, 250.0), (125e3, 500.0)):
        assert bus_reach("can", clock).length_m == pytest.approx(metres, rel=0.34)
    assert bus_reach("can", 1e6).length_m <= 40.0
    assert bus_reach("spi", 1e6).length_m == pytest.approx((500e-9 - 30e-9) / 2 / 5e-9)
    assert bus_reach("spi", 100e6).length_m == 0.0


@pytest.mark.parametrize(("awg", "grams"), [(14, 24.0), (18, 10.5), (20, 7.2), (22, 4.9), (26, 2.4)])
def test_insulated_wire_weighs_what_spools_say(awg, grams):
    """Usual hook-up wire for 300 V, from memory, within a fifth."""
    assert wire_mass(awg).mass_kg_per_m * 1e3 == pytest.approx(grams, rel=0.2)
    assert wire_mass(awg, 4).mass_kg_per_m == pytest.approx(4 * wire_mass(awg).mass_kg_per_m)
    assert wire_mass(awg).mass_kg_per_m > wire_gauge(awg).area_m2 * 8890
    assert wire_mass(awg, 4).diameter_m == pytest.approx(2.4 * wire_mass(awg).diameter_m)


def test_warm_air_takes_from_what_a_wire_carries():
    assert warm_ampacity(11.0, 25.0).ampacity_a == 11.0
    assert warm_ampacity(11.0, 65.0).ampacity_a == pytest.approx(11 / math.sqrt(2))
    assert warm_ampacity(11.0, 105.0).ampacity_a == 0.0
    assert warm_ampacity(11.0, 200.0).ampacity_a == 0.0


@given(current_a=st.floats(0.0, 40.0), awg=st.integers(10, 30), air_c=st.floats(-20.0, 100.0))
def test_a_wire_at_what_warm_air_leaves_it_is_as_hot_as_its_insulation_bears(current_a, awg, air_c):
    """Two methods that must agree: the temperature passes the insulation's just where the current passes its limit."""
    free = wire_ampacity(awg).ampacity_a
    left = warm_ampacity(free, air_c).ampacity_a
    got = wire_temperature(current_a, free, air_c).temperature_c
    assert wire_temperature(left, free, air_c).temperature_c == pytest.approx(105.0)
    assert (got > 105.0 + 1e-6) <= (current_a > left * (1 - 1e-9))
    assert wire_temperature(0.0, free, air_c).temperature_c == air_c


def test_warm_copper_loses_more():
    """IEC 60028: 0.393 % a kelvin, so 15.7 % more at 60 °C; from memory."""
    cool, warm = voltage_drop(1.0, 20, 5.0), voltage_drop(1.0, 20, 5.0, 60.0)
    assert cool.drop_v == pytest.approx(0.333, rel=1e-3)
    assert warm.drop_v / cool.drop_v == pytest.approx(1.157, abs=1e-3)


def test_a_resistor_from_the_bag_fits():
    fits = i2c_pull_up(3.3, 100e-12, 300e-9, 0.4, 0.003)
    chosen = from_a_bag(fits)
    assert fits.least_ohm < chosen < fits.most_ohm
    assert from_a_bag(i2c_pull_up(3.3, 400e-12, 300e-9, 0.4, 0.003)) is None
