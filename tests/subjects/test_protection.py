"""Coils, wires that warm, bursts, starts of fuses and packs, converters that do not start, plugs that fit either way."""

import numpy as np
import pytest
from scipy.optimize import brentq

import edits
from builders import a_buck, a_load, a_pack, a_part, a_project, a_rover, plain
from wired_union.kernel.ripple import offered
from wired_union.project.model import Rail, Use
from wired_union.subjects import assess
from wired_union.subjects.power.checks.protection import released
from wired_union.subjects.power.first.words import started
from wired_union.subjects.power.node import FIRST, POWER


def a_coil(**figures):
    return a_load("coil", 1.0, draw="resistance", rated_v=12.0, **figures).but(kind="solenoid")


def on_pack(*parts, ohm=0.0, **brief):
    """All of them on a pack of three cells, of which mode Work puts all to work."""
    pack = a_pack(chemistry="li-ion", series=3, resistance_ohm=ohm, max_current_a=50.0)
    return a_project(pack, *parts, feeds=tuple(("pack", p.id) for p in parts), **brief)


def found(project, check):
    now = assess(project)
    return now, next((f for f in now.findings if f.check == check), None)


def test_a_coil_rises_through_its_inductance_and_is_named_among_what_starts():
    """12 Ω and 0.24 H: 63 % after 20 ms (textbook)."""
    now = assess(on_pack(a_coil(inductance_h=0.24)))
    start = now.of(FIRST).starts[0]
    times, amperes = np.array(start.course.times_s), np.array(start.course.source_a)
    final = start.circuit.stages[0].source.voltage_v / 12.0
    assert np.interp(0.02, times, amperes) == pytest.approx(final * (1 - np.exp(-1)), rel=0.01)
    assert amperes[-1] == pytest.approx(final, rel=1e-3)
    assert started(start, now.of(POWER)) == "coil starts in Work"
    bare = assess(on_pack(a_coil()))
    assert not bare.of(FIRST).starts
    assert bare.measure("peak-current").value == now.measure("peak-current").value


def test_a_coil_that_nothing_clamps_is_told_and_how_long_it_lets_go():
    """L/R·ln(1 + I·R/V) = 20 ms · ln(1 + 12/0.7) = 58 ms; ½·0.24·1² = 0.12 J."""
    now, said = found(on_pack(a_coil(inductance_h=0.24)), "no-clamp")
    assert "120 mJ of energy" in plain(said.what)
    ((remedy, _),) = offered(now, said)
    assert "diode across coil" in remedy.label
    clamped, gone = found(remedy.change.after, "no-clamp")
    assert gone is None
    assert "58 ms" in plain(released(clamped.project.concept.items[1]))
    assert "120 mJ" in plain(released(clamped.project.concept.items[1]))
    assert found(on_pack(a_load("lamp", 1.0)), "no-clamp")[1] is None
    assert found(a_rover(), "no-clamp")[1] is None  # a driver has its diodes


def test_a_hot_wire_starts_cold_and_settles():
    wire = a_load("wire", 1.0, draw="resistance", rated_v=12.0, startup_a=5.0, warms_s=0.05)
    start = assess(on_pack(wire)).of(FIRST).starts[0]
    volts = start.circuit.stages[0].source.voltage_v
    times, amperes = np.array(start.course.times_s), np.array(start.course.source_a)
    assert amperes[0] == pytest.approx(5.0 * volts / 12.0, rel=1e-3)
    assert np.interp(0.05, times, amperes) == pytest.approx((1 + 4 * np.exp(-1)) * volts / 12.0, rel=5e-3)
    assert amperes[-1] == pytest.approx(volts / 12.0, rel=5e-3)
    stands = assess(on_pack(wire.but(load=wire.load.but(warms_s=None)))).of(FIRST).starts[0]
    assert min(stands.course.source_a) == pytest.approx(5.0 * volts / 12.0, rel=1e-3)


def test_wires_that_warm_one_after_another_wait_until_each_has_settled():
    wire = a_load("wire", 1.0, draw="resistance", rated_v=12.0, startup_a=5.0, warms_s=0.02)
    project = edits.stagger(edits.set_count(on_pack(wire), "wire", 3).after, "work", True).after
    start = assess(project).of(FIRST).starts[0]
    assert start.circuit.gap_s == pytest.approx(0.06)
    whole = assess(edits.set_count(on_pack(wire), "wire", 3).after).of(FIRST).starts[0]
    assert max(start.course.source_a) < 0.55 * max(whole.course.source_a)


def sending(after_s, peak_s=0.04, duty=0.2):
    radio = a_load("radio", 0.02, idle_a=0.01, peak_a=0.5, peak_s=peak_s)
    project = on_pack(radio)
    mode = project.concept.modes[0]
    use = Use(item="radio", state="active", duty=duty, after_s=after_s)
    concept = project.concept.but(modes=(mode.but(uses=(use,)),))
    return project.but(concepts=(concept,))


def test_bursts_come_when_it_is_said_and_may_come_at_any_time_where_it_is_not():
    start = assess(sending(0.1)).of(FIRST).starts[0]
    times, amperes = np.array(start.course.times_s), np.array(start.course.source_a)
    high = amperes > 0.25
    assert amperes[high] == pytest.approx(0.5)
    assert amperes[~high] == pytest.approx(0.01)
    edges = times[1:][np.diff(high.astype(int)) != 0]
    assert edges[:4] == pytest.approx([0.1, 0.14, 0.3, 0.34], abs=2e-3)  # 40 ms of every 200 ms
    always = assess(sending(0.0)).of(FIRST).starts[0]
    assert min(always.course.source_a) == pytest.approx(0.5)


def test_a_heavy_rotor_opens_a_fuse_that_bears_a_light_one():
    """The same stall current; the time constant of the heavy one is a hundred times as long."""
    fuse = a_part("fuse", "fuse", rail=Rail(max_current_a=7.0))
    project = a_rover(fuse)
    for load, source in (("driver", "fuse"), ("fuse", "pack")):
        project = edits.feed_from(project, load, source).after
    said = []
    for inertia in (2e-8, 2e-4):
        heavy = edits.set_part_value(project, "motor", "motor.rotor_inertia_kg_m2", inertia).after
        said.append(found(heavy, "rail")[1])
    light, heavy = said
    assert light is None or not light.breaks_hard
    assert heavy.breaks_hard
    assert "or more" in plain(heavy.what)


def test_a_pack_gives_its_pulse_where_a_start_is_over_in_it_and_no_longer():
    """9.6 A and more at a start of well under a second, of 5 A for long and 20 A for 10 s."""
    project = a_rover()
    project = edits.set_part_value(project, "motor", "motor.rotor_inertia_kg_m2", 2e-8).after
    for path, value in (("pack.max_current_a", 5.0), ("pack.pulse_current_a", 20.0), ("pack.pulse_s", 10.0)):
        project = edits.set_part_value(project, "pack", path, value).after
    assert not any(f.check == "pack" and f.hard for f in assess(project).findings)
    short = edits.set_part_value(project, "pack", "pack.pulse_s", 0.001).after
    assert "for long" in plain(found(short, "pack")[1].what)
    assert found(short, "pack")[1].breaks_hard
    unknown = edits.set_part_value(project, "motor", "motor.rotor_inertia_kg_m2", None).after
    assert found(unknown, "pack")[1].breaks_hard


@pytest.mark.parametrize(("start_v", "said"), [(13.0, "even from a full pack"), (11.3, "near the end"), (9.0, None)])
def test_a_converter_that_needs_more_to_start_than_to_run(start_v, said):
    """Three cells: 12.6 V full, 10.5 V at 15 % (typical curve)."""
    buck = a_buck(start_v=start_v)
    pack = a_pack(chemistry="li-ion", series=3)
    project = a_project(pack, buck, a_load(rated_v=5.0), feeds=(("pack", "buck"), ("buck", "load")))
    finding = found(project, "start")[1]
    if said is None:
        assert finding is None
        return
    assert said in plain(finding.what)
    assert finding.breaks_hard == (start_v == 13.0)


def test_a_pack_that_goes_in_either_way_wants_something_that_passes_one_way_only():
    project = on_pack(a_load("brain", 0.1))
    assert found(project, "no-reverse")[1] is None
    either = edits.set_part_value(project, "pack", "pack.plug", "either way").after
    now, said = found(either, "no-reverse")
    labels = [r.label for r, _ in offered(now, said)]
    assert any("deal diode" in x for x in labels)
    assert "a plug that fits one way only" in labels
    for remedy, _ in offered(now, said):
        assert found(remedy.change.after, "no-reverse")[1] is None


def test_contacts_cost_what_they_conduct():
    """2 A through 0.1 Ω: 0.2 V and 0.4 W (Ohm's law); two side by side half of it."""
    switch = a_part("switch", "switch", rail=Rail(max_current_a=20.0, resistance_ohm=0.1))
    project = a_project(a_pack(resistance_ohm=0.0), switch, a_load("lamp", 2.0),
                        feeds=(("pack", "switch"), ("switch", "lamp")))  # fmt: skip
    result = assess(project).of(POWER)
    volts = [float(result.input_v(i)[0]) for i in ("pack", "lamp")]
    assert volts[0] - volts[1] == pytest.approx(0.2)
    assert float(result.flows.loss_w[result.flows.index["switch"], 0]) == pytest.approx(0.4)
    two = assess(edits.set_count(project, "switch", 2).after).of(POWER)
    assert float(two.flows.loss_w[two.flows.index["switch"], 0]) == pytest.approx(0.2)


def a_diode(drop_v=0.4, ohm=0.0):
    return a_part("diode", "diode", rail=Rail(max_current_a=20.0, drop_v=drop_v, resistance_ohm=ohm))


@pytest.mark.parametrize("law", ["current", "power", "resistance"])
@pytest.mark.parametrize("ohm", [0.0, 0.05])
def test_a_diode_keeps_its_voltage_before_loads_of_every_law(law, ohm):
    """Kirchhoff's voltage law solved by scipy's brentq: E − R·I(V) − D = V, with what the diode burns D·I + R·I²."""
    load = a_load("lamp", 2.0, draw=law, rated_v=12.0)
    pack = a_pack(chemistry="li-ion", series=3, resistance_ohm=0.1)
    project = a_project(pack, a_diode(0.4, ohm), load, feeds=(("pack", "diode"), ("diode", "lamp")))
    result = assess(project).of(POWER)
    open_v = result.packs[0].figures.open_circuit_at(0.5)

    def amperes(v):
        return {"current": 2.0, "power": 24.0 / v, "resistance": v / 6.0}[law]

    exact = brentq(lambda v: open_v - (0.3 + ohm) * amperes(v) - 0.4 - v, 5.0, 13.0)
    assert float(result.input_v("lamp")[0]) == pytest.approx(exact, abs=1e-6)
    burns = float(result.flows.loss_w[result.flows.index["diode"], 0])
    assert burns == pytest.approx(0.4 * amperes(exact) + ohm * amperes(exact) ** 2, rel=1e-6)


def test_in_the_first_half_second_a_diode_costs_the_same_and_energy_is_kept():
    """Before two loads of constant power, one behind a wire, as something starts."""
    parts = (a_diode(), a_load("board", 1.0, draw="power", rated_v=12.0), a_coil(inductance_h=0.1))
    pack = a_pack(chemistry="li-ion", series=3, resistance_ohm=0.1)
    feeds = (("pack", "diode"), ("diode", "board"), ("diode", "coil"))
    project = edits.set_wire(a_project(pack, *parts, feeds=feeds), "board", 2.0, 24).after
    start = assess(project).of(FIRST).starts[0]
    spots, volts = start.circuit.spots, start.course.volts
    assert start.course.worst_missing_j < 1e-6 * start.course.energy.given_j
    result = assess(project).of(POWER)
    assert volts[spots["diode"]][-1] == pytest.approx(float(result.input_v("diode")[1]), rel=2e-3)
    assert volts[spots["pack"]][-1] - volts[spots["diode"]][-1] == pytest.approx(0.4, abs=1e-3)
    assert volts[spots["board"]][-1] < volts[spots["diode"]][-1]
