"""Cells that are cool or worn: what is counted on, against figures worked by hand and an Arrhenius law."""

import pytest

import edits
from builders import a_limit, a_load, a_pack, a_project
from wired_union.physics.battery import CHEMISTRIES
from wired_union.subjects import assess
from wired_union.subjects.power.node import ODDS, POWER
from wired_union.subjects.power.spread.whatif import WhatIf, what_if


def at(coldest_c, amperes=1.0, resistance_ohm=0.05, chemistry="li-ion", **brief):
    pack = a_pack(chemistry=chemistry, series=3, capacity_ah=2.4, resistance_ohm=resistance_ohm)
    load = a_load(amperes=amperes)
    return a_project(pack, load, feeds=(("pack", "load"),), hours=8.0, coldest_c=coldest_c, **brief)


def runtime_h(project):
    return assess(project).measure("runtime").value / 3600


def test_the_runtime_counts_with_the_cold_and_never_grows_with_it():
    """Without resistance the runtime follows the capacity: 85 % at freezing."""
    warm = runtime_h(at(10.0, resistance_ohm=0.0))
    assert warm == pytest.approx(2.4 * 0.85, rel=1e-3)
    assert runtime_h(at(0.0, resistance_ohm=0.0)) == pytest.approx(warm * CHEMISTRIES["li-ion"].share_at_0_c)
    hours = [runtime_h(at(c)) for c in (20.0, 10.0, 8.0, 5.0, 2.0, 0.0)]
    assert hours == sorted(hours, reverse=True)
    assert hours[0] == hours[1] > hours[2]
    lasts = (a_limit("runtime", 1.9 * 3600, "at least"),)
    assert assess(at(10.0, resistance_ohm=0.0, limits=lasts)).measure("runtime").verdict != "breaks"
    assert assess(at(0.0, resistance_ohm=0.0, limits=lasts)).measure("runtime").verdict == "breaks"
    some = list(assess(at(0.0)).of(ODDS).lots(2000))[-1]
    assert sorted(some.runtime_s)[1000] / 3600 == pytest.approx(hours[-1], rel=0.02)


def test_the_voltage_sags_through_what_the_cold_makes_of_the_resistance():
    """3 cells of 50 mΩ at 5 A: 0.75 V in a room, 1.5 V at freezing."""
    warm, cold = (assess(at(c, amperes=5.0)).measure("lowest-voltage").value for c in (10.0, 0.0))
    assert warm - cold == pytest.approx(0.75, abs=1e-6)
    assert assess(at(0.0)).measure("pack-energy").value == assess(at(20.0)).measure("pack-energy").value


def test_cells_measured_as_cold_hold_as_they_are_and_between_by_how_much_colder_it_gets():
    there = edits.set_part_value(at(0.0), "pack", "pack.measured_at_c", 0.0).after
    assert runtime_h(there) == runtime_h(at(20.0))
    half = edits.set_part_value(at(0.0, resistance_ohm=0.0), "pack", "pack.measured_at_c", 5.0).after
    assert runtime_h(half) == pytest.approx(2.4 * 0.85 * 0.85 / 0.925, rel=1e-3)
    warmer = edits.set_part_value(at(20.0), "pack", "pack.measured_at_c", 0.0).after
    assert runtime_h(warmer) == runtime_h(at(20.0))  # what it gives besides in the warm nobody measured
    frost = assess(at(-10.0))
    assert frost.measure("runtime").verdict == "unknown"
    assert frost.measure("runtime").value <= assess(at(0.0)).measure("runtime").value


def test_age_is_kept_with_the_pack_and_asked_of_the_tray():
    """A fifth lost: 80 % of the hours, and twice the sag; asked of the tray besides, both count."""
    old = edits.set_part_value(at(20.0, resistance_ohm=0.0), "pack", "pack.worn", 0.2).after
    assert runtime_h(old) == pytest.approx(0.8 * runtime_h(at(20.0, resistance_ohm=0.0)))
    older = what_if(old, WhatIf(aged=0.1)).after
    assert older.concept.items[0].part.pack.worn == pytest.approx(1 - 0.8 * 0.9)
    figures = assess(edits.set_part_value(at(20.0), "pack", "pack.worn", 0.2).after).of(POWER).packs[0].figures
    assert figures.values.resistance_ohm == pytest.approx(2 * 3 * 0.05)


def test_a_resistance_that_rises_as_it_empties_counts_where_it_is_empty():
    """150 mΩ level down to three tenths, then straight to five times that: at 15 % it is 3 times, and 4.5 V are lost."""
    level = at(20.0, amperes=10.0)
    rises = edits.set_part_value(level, "pack", "pack.empty_times", 5.0).after
    lowest = [assess(p).measure("lowest-voltage").value for p in (level, rises)]
    assert lowest[0] - lowest[1] == pytest.approx(10.0 * 0.15 * 2.0)
    result = assess(rises).of(POWER).packs[0]
    sag = result.figures.open_circuit_v - result.voltage_v[0]
    assert sag[:57] == pytest.approx(1.5)
    assert sag[-1] == pytest.approx(7.5)
    assert runtime_h(rises) <= runtime_h(level)
    some = list(assess(rises).of(ODDS).lots(2000))[-1]
    assert sorted(some.runtime_s)[1000] / 3600 == pytest.approx(runtime_h(rises), rel=0.03)
