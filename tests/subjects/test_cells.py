"""Packs from cells, a measured discharge with what was put into it, blocked windings, and what Power hands over."""

import csv
import io

import numpy as np
import openpyxl
import pytest

import edits
from builders import a_driver, a_gearmotor, a_load, a_pack, a_project, a_rover, texts
from wired_union.physics.battery import CHEMISTRIES
from wired_union.physics.discharge_fit import fit_discharge
from wired_union.picture.shapes import Kit
from wired_union.project.errors import ProjectError
from wired_union.subjects import assess
from wired_union.subjects.power.cells.arrange import arrange, arrangements, measured, others
from wired_union.subjects.power.cells.picture import cells_picture, fit_picture
from wired_union.subjects.power.cells.read import discharge_of
from wired_union.subjects.power.node import POWER
from wired_union.subjects.power.papers import papers
from wired_union.subjects.power.warmth.windings import blocked

CELL = CHEMISTRIES["li-ion"]


def a_discharge(capacity_ah=2.6, ohm=0.09, series=3, amperes=(1.0, 2.0), points=400, noise_v=0.0, until=0.97):
    """Time, volts and amperes of a pack of which all is known; the current changes every quarter."""
    amps = np.array([amperes[k * 4 // points % len(amperes)] for k in range(points)])
    step = capacity_ah * until * 3600 / amps.sum()
    times = np.arange(points) * step
    drawn = np.concatenate([[0], np.cumsum((amps[1:] + amps[:-1]) / 2 * step)]) / 3600
    rest = series * np.interp(1 - drawn / capacity_ah, CELL.charge, CELL.open_circuit_v)
    noise = np.random.default_rng(3).normal(0, noise_v, points) if noise_v else 0.0
    return times, rest - ohm * amps + noise, amps


@pytest.mark.parametrize(("capacity", "ohm", "noise"), [(2.6, 0.09, 0.0), (1.1, 0.3, 0.005), (8.0, 0.02, 0.002)])
def test_a_fit_finds_what_was_put_in(capacity, ohm, noise):
    fit = fit_discharge(*a_discharge(capacity, ohm, noise_v=noise), CELL, 3)
    assert fit.capacity_ah == pytest.approx(capacity, rel=0.01)
    assert fit.resistance_ohm == pytest.approx(ohm, rel=0.05 if noise else 1e-3)
    assert fit.rms_v == pytest.approx(noise, abs=1e-4, rel=0.2)
    assert fit.resistance_shows
    level = fit_discharge(*a_discharge(capacity, ohm, amperes=(1.5,)), CELL, 3)
    assert not level.resistance_shows
    assert level.capacity_ah == pytest.approx(capacity, rel=0.02)


def test_half_a_discharge_still_tells_the_capacity_where_the_curve_bends():
    assert fit_discharge(*a_discharge(until=0.6), CELL, 3).capacity_ah == pytest.approx(2.6, rel=0.02)


def test_tables_are_read_in_any_order_and_unit_and_refused_in_a_sentence():
    times, volts, amps = a_discharge(points=20)
    rows = "\n".join(f"{a * 1000:.3f};{t / 60:.6f};{v:.5f}" for t, v, a in zip(times, volts, amps, strict=True))
    found = discharge_of(f"Current (mA);Time (min);Voltage (V)\n{rows}")
    assert found[0] == pytest.approx(times, abs=1e-3)
    assert found[1] == pytest.approx(volts, abs=1e-4)
    assert found[2] == pytest.approx(amps, abs=1e-5)
    plain = discharge_of("\n".join(f"{t}\t{v}\t{a}" for t, v, a in zip(times, volts, amps, strict=True)))
    assert plain[0] == pytest.approx(times)
    for text, why in (("", "no table"), ("a b\n1 2", "tabs"), ("time,volts\n1,2", "amperes"), ("t,v,a\n1,2,x", "Line 2"),
                      ("t,v,a\n1,2,nan", "amperes cannot"), ("t,v,a\n1,2", "amperes is missing")):  # fmt: skip
        with pytest.raises(ProjectError, match=why):
            discharge_of(text)
    with pytest.raises(ValueError, match="at least 8"):
        fit_discharge(times[:4], volts[:4], amps[:4], CELL, 3)
    with pytest.raises(ValueError, match="rise"):
        fit_discharge(times[::-1], volts, amps, CELL, 3)
    with pytest.raises(ValueError, match="discharged"):
        fit_discharge(times, volts, -amps, CELL, 3)


def test_measured_figures_become_those_of_the_cells_and_it_is_known_better():
    project = a_project(a_pack(chemistry="li-ion", series=3, parallel=2), a_load(), feeds=(("pack", "load"),))
    after = measured(project, "pack", 5.0, 0.06).after
    pack = after.concept.items[0].part.pack
    assert (pack.cell_capacity_ah, pack.cell_resistance_ohm) == pytest.approx((2.5, 0.04))
    assert after.concept.items[0].knowledge == "measured"
    assert assess(after).of(POWER).packs[0].figures.values.resistance_ohm == pytest.approx(0.06)


def test_four_small_cells_side_by_side_do_not_turn_a_motor_and_a_small_block_feeds_none():
    """Common practice: volts come from cells in series; cells of a large resistance give no motor's current."""
    cells = a_pack("cells", chemistry="alkaline", series=4, capacity_ah=2.0, resistance_ohm=0.15, max_current_a=4.0)
    motor = a_gearmotor(
        "motor", rated_voltage_v=6.0, no_load_speed_rad_s=10.0, stall_torque_n_m=0.3, stall_current_a=1.5
    )
    project = a_project(
        cells, a_driver(channels=1, input_min_v=2.5), motor, feeds=(("cells", "driver"), ("driver", "motor"))
    )
    project = edits.set_part_value(project, "motor", "load.supply_min_v", 3.0).after
    project = edits.set_part_value(project, "motor", "load.startup_a", 1.5).after
    project = edits.set_part_value(project, "motor", "load.peak_a", 1.5).after
    now = assess(project)
    assert list(others(project.concept.items[0])) == [(2, 2), (1, 4)]
    _two, one = arrangements(now, project.concept.items[0])
    assert (one.series, one.parallel) == (1, 4)
    assert "gets too little" in one.why
    after = one.change.after.concept.items[0].part
    assert after.mass_kg == cells.mass_kg
    assert after.pack.max_current_a == 16.0
    block = a_pack("block", chemistry="alkaline", series=6, capacity_ah=0.5, resistance_ohm=0.35, max_current_a=0.5)
    small = a_project(
        block, a_driver(channels=1, input_min_v=2.5), motor, feeds=(("block", "driver"), ("driver", "motor"))
    )
    assert any(f.check in {"pack", "brown-out"} for f in assess(small).hard_breaks)


def test_arrangements_are_of_the_same_cells():
    project = a_project(a_pack(series=4, parallel=3), a_load(), feeds=(("pack", "load"),))
    with pytest.raises(ProjectError, match="12 cells"):
        arrange(project, "pack", 5, 2)
    with pytest.raises(ProjectError, match="no pack"):
        arrange(project, "load", 1, 1)
    same = arrange(arrange(project, "pack", 12, 1).after, "pack", 4, 3).after
    assert same.concept.items[0].part.pack == project.concept.items[0].part.pack
    picture = cells_picture(project.concept.items[0], Kit(), 260.0)
    assert "4 in series, 3 of them side by side" in texts(picture)
    times, volts, _ = a_discharge()
    drawn = fit_picture(times.tolist(), volts.tolist(), (volts + 0.01).tolist(), Kit(), 300.0, 150.0)
    assert {"measured", "fitted"} <= set(texts(drawn))


def test_a_blocked_winding_lasts_less_from_a_warm_can_and_at_more_volts():
    item = next(i for i in a_rover().concept.items if i.id == "motor")
    part = item.part.but(mass_kg=0.2, length_m=0.065, width_m=0.025, height_m=0.025)
    item = item.but(part=part)
    cool, warm = blocked(item, 12.0, 30.0), blocked(item, 12.0, 80.0)
    assert 5 < warm.may_last_s < cool.may_last_s < 600
    assert blocked(item, 9.0, 30.0).may_last_s > cool.may_last_s
    assert blocked(item, 12.0, 140.0) is None
    assert blocked(item.but(part=part.but(mass_kg=None)), 12.0, 30.0) is None


def test_tables_say_what_the_screen_says():
    project = a_rover()
    now = assess(project)
    made = {p.name: p for p in papers(now)}
    assert {"power/operating-points.csv", "power/mission.xlsx", "power/start-work.csv", "power/tree.svg"} <= set(made)
    rows = list(csv.DictReader(io.StringIO(made["power/operating-points.csv"].make().decode())))
    assert {r["part"] for r in rows} == {"pack", "driver", "motor"}
    mission = list(csv.DictReader(io.StringIO(made["power/mission.csv"].make().decode())))
    assert float(mission[-1]["time s"]) == pytest.approx(now.measure("runtime").value, rel=1e-4)
    sheet = openpyxl.load_workbook(io.BytesIO(made["power/start-work.xlsx"].make())).active
    assert [c.value for c in sheet[1]][:3] == ["pack", "time s", "current A"]
    assert b"<svg" in made["power/tree.svg"].make()
    assert list(papers(assess(a_project(a_load())))) == []
