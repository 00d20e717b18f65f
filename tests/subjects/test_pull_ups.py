"""Resistors that pull an I²C bus's lines up: what fits, verdicts, gaps, and remedies that do what they say."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import a_project
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import compare, outcome
from wired_union.project.timing_model import Bus, Message
from wired_union.subjects import assess
from wired_union.subjects.timing.buses import BUSES
from wired_union.subjects.timing.picture_buses import bus_words
from wired_union.subjects.timing.pull_ups import MODES, lines_of


def wired(**figures):
    bus = Bus(id="it", name="It", **{"kind": "i2c", "clock_hz": 400e3, **figures})
    concept = a_project().concept.but(buses=(bus,), messages=(Message(id="m", name="M", bus="it"),))
    return a_project().but(concepts=(concept,))


def of(project):
    (found,) = assess(project).of(BUSES)
    return found


def said(project):
    return [f for f in assess(project).findings if f.check in {"lines", "lines-gap"}]


FULL = {"supply_voltage_v": 3.3, "capacitance_f": 100e-12, "pull_up_ohm": 2200.0}


def test_what_fits_holds_and_the_words_say_from_where_to_where():
    project = wired(**FULL)
    assert of(project).lines.verdict is Verdict.HOLDS
    assert "967 Ω to 3.54 kΩ fit" in bus_words(of(project)).replace("\u202f", " ")
    assert not said(project)


@pytest.mark.parametrize(("ohm", "word"), [(4700.0, "too weak"), (680.0, "too strong")])
def test_too_much_or_too_little_breaks_and_a_resistor_of_the_series_mends_it(ohm, word):
    project = wired(**{**FULL, "pull_up_ohm": ohm})
    assert of(project).lines.verdict is Verdict.BREAKS
    assert of(project).verdict is Verdict.BREAKS
    (finding,) = said(project)
    assert finding.title == f"It: pull-ups {word}"
    (remedy, *_) = finding.remedies
    assert of(remedy.change.after).lines.verdict is Verdict.HOLDS


def test_none_fits_then_every_remedy_is_a_slower_clock():
    project = wired(**{**FULL, "capacitance_f": 400e-12})
    (finding,) = said(project)
    assert finding.title == "No pull-up fits It"
    for remedy in finding.remedies:
        bus = remedy.change.after.concept.buses[0]
        assert bus.clock_hz == 100e3
        assert of(remedy.change.after).lines.verdict is Verdict.HOLDS


@pytest.mark.parametrize("left", list(FULL))
def test_what_nobody_says_makes_it_unknown(left):
    project = wired(**{k: v for k, v in FULL.items() if k != left})
    assert of(project).lines.verdict is Verdict.UNKNOWN
    assert of(project).verdict is Verdict.UNKNOWN
    assert all(f.verdict is Verdict.UNKNOWN for f in said(project))
    assert len(said(project)) == 1


def test_nothing_said_is_told_as_not_looked_at():
    assert of(wired()).lines is None
    assert "was not looked at" in bus_words(of(wired()))
    assert of(wired(kind="spi", **FULL)).lines is None


def test_beyond_the_fastest_clock_nothing_is_claimed():
    assert of(wired(**{**FULL, "clock_hz": 3.4e6})).lines.verdict is Verdict.UNKNOWN


def test_an_edit_that_breaks_no_limit_but_the_lines_says_so_and_a_remedy_that_would_too():
    before, after = wired(**FULL), wired(**{**FULL, "pull_up_ohm": 10e3})
    made = compare(assess(before), assess(after), "weaker pull-ups")
    assert made.told == "no limit moved · 1 new break: It: pull-ups too weak"
    late = next(f for f in assess(before).findings if f.check != "lines")
    assert "1 new break: It: pull-ups too weak" in outcome(assess(before), made, late).words


@given(st.floats(0.5, 6), st.floats(1e-12, 1e-8), st.floats(1, 1e6), st.sampled_from([hz for hz, _, _ in MODES]))
def test_more_wire_never_makes_more_fit_and_holds_means_both(supply_v, farad, ohm, clock_hz):
    bus = Bus(id="it", name="It", clock_hz=clock_hz, supply_voltage_v=supply_v, capacitance_f=farad, pull_up_ohm=ohm)
    lines, longer = lines_of(bus), lines_of(bus.but(capacitance_f=2 * farad))
    assert longer.fits.most_ohm == pytest.approx(lines.fits.most_ohm / 2)
    if lines.verdict is Verdict.HOLDS:
        rise_s = math.log(7 / 3) * ohm * farad
        assert rise_s <= next(r for hz, r, _ in MODES if hz == clock_hz)
        assert (supply_v - 0.4) / ohm <= next(a for hz, _, a in MODES if hz == clock_hz)
