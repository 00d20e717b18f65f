"""Text to numbers and back."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wired_union import units


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [
        ("2 in", "m", 0.0508),  # the inch is 25.4 mm exactly: international yard and pound agreement, 1959
        ("1 ft", "m", 0.3048),
        ("650mAh", "Ah", 0.65),
        ("0,5 A", "A", 0.5),
        ("1/3", "", 1 / 3),
        ("1/4 turn", "°", 90.0),
        ("1 1/2 h", "h", 1.5),
        ("1.5 h", "s", 5400.0),
        ("5 min", "s", 300.0),  # never milli-inches
        ("20 ms", "s", 0.02),
        ("3 days", "s", 259200.0),
        ("£550", "£", 550.0),
        ("12.50", "£", 12.5),
        ("15 %", "", 0.15),
        ("210 g", "kg", 0.21),
        ("1 lb", "kg", 0.45359237),  # SI Brochure / NIST SP 811, appendix B
        ("1 oz", "kg", 0.028349523125),
        ("24 mΩ", "Ω", 0.024),
        ("2.2 kohm", "Ω", 2200.0),
        ("8.2k", "Ω", 8200.0),
        ("4.7 M", "Ω", 4.7e6),
        ("100n", "F", 100e-9),
        ("400k", "Hz", 400e3),
        ("400 kHz", "Hz", 4e5),
        ("-40 °C", "°C", -40.0),
        ("−3e-3 A", "A", -0.003),
        ("1 000 g", "kg", 1.0),
        (".5", "V", 0.5),
        ("60 rpm", "rad/s", 2 * math.pi),
        ("9600 baud", "Bd", 9600.0),
        ("12 bytes", "B", 12.0),
        ("25 µA", "A", 25e-6),
        ("3.3", "V", 3.3),
        ("5.5 g·cm²", "kg·m²", 5.5e-7),
        ("0.002 kg·m²", "kg·m²", 0.002),
        ("0.5 l", "m³", 5e-4),
        ("6 l/min", "m³/s", 1e-4),
        ("8 bar", "Pa", 8e5),
        ("36 km/h", "m/s", 10.0),
        ("2 weeks", "days", 14.0),
        ("48 h", "days", 2.0),
        ("20 %", "share", 0.2),
        # NIST SP 811, appendix B.8
        ("12 kg·cm", "N·m", 12 * 9.80665e-2),
        ("12 kgf*cm", "N·m", 12 * 9.80665e-2),
        ("100 oz·in", "N·m", 100 * 7.061552e-3),
        ("5 lbf·in", "N·m", 5 * 0.112984829),
        ("2 N*m", "N·m", 2.0),
        ("3 lbf", "N", 3 * 4.448222),
        ("3 kgf", "N", 3 * 9.80665),
        ("30 psi", "Pa", 30 * 6894.757),
        ("4 N/mm", "N/m", 4000.0),
        ("3 cm²", "m²", 3e-4),
        ("12 mm^4", "m⁴", 12e-12),
        ("2.7 g/cm³", "kg/m³", 2700.0),
        ("300 RPM", "rad/s", 10 * math.pi),
        ("10 mph", "m/s", 4.4704),
        ("3 yd", "m", 2.7432),
        ("3 ft", "m", 0.9144),
        ("5 sec", "s", 5.0),
        ("30 degrees", "°", 30.0),
        ("5 mOhm", "Ω", 0.005),
        ("6 3/4 in", "m", 0.17145),
        ("5 \u03bcs", "s", 5e-6),
        ("5 \u00b5s", "s", 5e-6),
        # as data sheets and people in a hurry write them; factors as above
        ("9.4kg.cm", "N·m", 9.4 * 9.80665e-2),
        ("9.4 kgcm", "N·m", 9.4 * 9.80665e-2),
        ("130 oz.in", "N·m", 130 * 7.061552e-3),
        ("5 gm", "kg", 0.005),
        ("2200 mah", "Ah", 2.2),
        ("100khz", "Hz", 1e5),
        ("100R", "Ω", 100.0),
        ("3000 r/min", "rad/s", 100 * math.pi),
        ("0.12 sec/60°", "rad/s", math.pi / 3 / 0.12),
        ("-40 °F", "°C", -40.0),
        ("0 °F", "°C", -17.77777778),
        ("212 F", "°C", 100.0),
        ("2 h 30 min", "s", 9000.0),
        ("1h30min", "h", 1.5),
        ("5 ft 2 in", "m", 1.5748),
        ("-1 ft 6 in", "m", -0.4572),
        ("2 lb 4 oz", "kg", 1.02058283),
        ("6½ in", "m", 0.1651),
        ("½ in", "m", 0.0127),
        # one comma before three digits: thousands of money; both marks: the last begins the decimals
        ("£1,234", "£", 1234.0),
        ("1,234", "£", 1234.0),
        ("€ 12,50", "£", 12.5),
        ("99 SEK", "£", 99.0),
        ("-$3", "£", -3.0),
        ("1,234.5 g", "kg", 1.2345),
        ("1.234,5 g", "kg", 1.2345),
        ("1,234,567", "Hz", 1234567.0),
        ("0,125 A", "A", 0.125),
    ],
)
def test_reads_what_people_type(text, unit, value):
    assert units.parse(text, unit) == pytest.approx(value, rel=1e-7)


@pytest.mark.parametrize(
    ("text", "unit", "said"),
    [
        ("abc", "A", "“abc” is not a number. Write it like 650 mA."),
        ("", "V", "“” is not a number. Write it like 3.3 V."),
        ("5 V", "A", "“5 V” is in V, A is wanted. Write it like 650 mA."),
        ("3 quux", "kg", "“3 quux” has a unit this program does not know (“quux”). Write it like 0.21 kg or 210 g."),
        ("5 m", "Ω", "“5 m” is in m, Ω is wanted. Write it like 24 mΩ."),
        ("5 k", "V", "“5 k” has a unit this program does not know (“k”). Write it like 3.3 V."),
        ("1/0", "", "“1/0” divides by zero. Write it like 0.15 or 15 %."),
        ("1e999", "m", "“1e999” is not a finite number. Write it like 25 mm or 2 in."),
        ("1.2.3", "s", "“1.2.3” has a unit this program does not know (“.3”). Write it like 20 ms, 5 min or 1.5 h."),
        ("nan", "V", "“nan” is not a number. Write it like 3.3 V."),
        ("1,500 g", "kg", "“1,500 g” could be 1500 or 1.500. Write one of them."),
        ("5 %", "A", "“5 %” is in %, A is wanted. Write it like 650 mA."),
        ("0 s/60°", "rad/s", "“0 s/60°” divides by zero. Write it like 2.5 rad/s."),
        ("2 A 30 mA", "A", "“2 A 30 mA” has a unit this program does not know (“A 30 mA”). Write it like 650 mA."),
    ],
)
def test_refuses_with_what_would_be_right(text, unit, said):
    with pytest.raises(units.UnitError) as refusal:
        units.parse(text, unit)
    assert str(refusal.value) == said


@pytest.mark.parametrize(
    ("value", "unit", "text"),
    [
        (0.0042, "A", "4.2 mA"),
        (20e-6, "A", "20 µA"),
        (7.912, "kg", "7.91 kg"),
        (0.21, "kg", "210 g"),
        (15480, "s", "4.3 h"),
        (0.187, "s", "187 ms"),
        (90, "s", "90 s"),
        (600, "s", "10 min"),
        (5.5e-7, "kg·m²", "5.5 g·cm²"),
        (0.0055, "kg·m²", "0.0055 kg·m²"),
        (4e-4, "m³", "400 ml"),
        (1e-4, "m³/s", "6 l/min"),
        (0.0144, "m/s", "14.4 mm/s"),
        (0.37, "m/s", "0.37 m/s"),
        (0.155, "share", "16 %"),
        (1.2, "share", "120 %"),
        (3.02e6, "s", "35 days"),
        (4.3, "h", "4.3 h"),
        (486, "£", "£486"),
        (12.5, "£", "£12.50"),
        (-30, "£", "−£30"),
        (18, "°", "18°"),
        (31, "", "31"),
        (0, "A", "0 A"),
        (None, "A", "not known"),
        (math.inf, "s", "without limit"),
        (1234, "Wh", "1.23 kWh"),
        (8.2, "B", "8.2 B"),
    ],
)
def test_shows_three_figures_and_a_thin_space(value, unit, text):
    assert units.show(value, unit).replace("\u202f", " ") == text


def test_a_share_is_shown_with_two_figures():
    assert units.show(0.8149, fraction=True) == "81\u202f%"
    assert units.show(1.0, fraction=True) == "100\u202f%"


@pytest.mark.parametrize(
    ("name", "unit"),
    [("stall_current_a", "A"), ("cell_capacity_ah", "Ah"), ("thermal_resistance_k_per_w", "K/W"), ("period_s", "s"),
     ("resistance_ohm_per_m", "Ω/m"), ("rolling_speed_m_s", "m/s"), ("load.active_a", "A"), ("baud", "Bd"),
     ("series", ""), ("no_load_speed_rad_s", "rad/s"), ("stall_torque_n_m", "N·m"), ("price", "£")],
)  # fmt: skip
def test_the_unit_is_the_end_of_the_name(name, unit):
    assert units.unit_of(name) == unit


def test_a_name_without_its_unit_reads_as_words():
    assert units.plain_words("load.stall_current_a") == "stall current"
    assert units.plain_words("efficiency") == "efficiency"


def test_a_difference_carries_its_sign():
    assert units.show_change(1.4, "A") == "+1.4\u202fA"
    assert units.show_change(-0.21, "kg") == "−210\u202fg"


@given(
    value=st.floats(min_value=1e-9, max_value=1e9), sign=st.sampled_from((1, -1)),
    unit=st.sampled_from(("V", "A", "W", "Wh", "Ah", "Ω", "kg", "s", "m", "N", "Hz", "N·m", "rad/s", "°", "°C", "£", "")),
)  # fmt: skip
def test_what_is_shown_reads_back_within_its_figures(value, sign, unit):
    """Text ↔ number: three significant figures survive the way there and back."""
    text = units.show(sign * value, unit)
    if unit == "£":
        assert units.parse(text.replace("−£", "-").replace(",", ""), unit) == pytest.approx(sign * value, abs=0.51)
    else:
        assert units.parse(text, unit) == pytest.approx(sign * value, rel=6e-3)


@given(st.text(max_size=12))
def test_any_text_is_read_or_refused(text):
    try:
        assert math.isfinite(units.parse(text, "V"))
    except units.UnitError as refusal:
        assert "Write it like" in str(refusal)
