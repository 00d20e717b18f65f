"""Levels, shared buses, cables and interfaces of whole projects, against figures worked by hand and from tables."""

import math

import pytest

from builders import a_load, a_motor, a_pack, a_part, a_project, plain
from subjects.test_pins import I2C, a_board, a_concept, a_thing
from wired_union.catalogue.demo import demo
from wired_union.catalogue.parts import part
from wired_union.physics.wire import wire_gauge, wire_mass
from wired_union.project.cables import length_of, together
from wired_union.project.change import with_brief, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.model import Brief, Bus, Item, Limit, Link, Place, Pose, Shift
from wired_union.project.part_edits import set_part_value, set_wire
from wired_union.project.value import BadFigure
from wired_union.project.wiring_model import Cable, Interface, OwnLine, Port, Reach, Wiring
from wired_union.subjects import assess
from wired_union.subjects.power.gives import POWER
from wired_union.subjects.wiring import edits
from wired_union.subjects.wiring.agreed import HANDED, agree
from wired_union.subjects.wiring.assess import LEVELS, WIRES
from wired_union.subjects.wiring.laid import HARNESS, LAID
from wired_union.subjects.wiring.levels import at_pin_v
from wired_union.subjects.wiring.pins import PINS


def verdicts(assessment, check):
    return [(f.verdict.value, f.title) for f in assessment.findings if f.subject == "wiring" and f.check == check]


# levels


def wired(mine: Port, link: Link, does: str = "plain to", **board):
    thing = Item(id="x", name="X", subsystem="s", part=a_part("X", "gadget", port=mine, link=link))
    return assess(a_concept(a_board("A: plain; analogue 1 1", **board), thing))


def a_port(does="plain to", **figures):
    from wired_union.catalogue.pin_tables import lines_of

    return Port(lines=lines_of(f"on = {does}"), **figures)


def test_levels_are_compared_by_thresholds_and_not_only_by_rails():
    """A 3.3 V output gives 3.1 V (LVCMOS, JESD8C.01); a part of its own threshold of 3.2 V does not read that."""
    fine = wired(a_port(), Link(logic_v=3.3))
    assert not verdicts(fine, "wire-level")
    assert fine.of(LEVELS)[0].margin_v == pytest.approx(0.8 - 0.2)
    high = wired(a_port(input_high_v=3.2), Link(logic_v=3.3))
    assert verdicts(high, "wire-level") == [("breaks", "X: on: not read")]
    assert high.hard_breaks
    near = wired(a_port(input_high_v=3.0), Link(logic_v=3.3))
    assert verdicts(near, "wire-level") == [("tight", "X: on: hardly read")]


def test_ttl_to_cmos_of_five_volts_is_not_read_and_a_pull_up_family_is():
    """TTL gives 2.4 V; a 3.3 V CMOS input reads that from 2.0 V: 0.4 V to spare."""
    ttl = wired(a_port("plain from", family="TTL"), Link(logic_v=3.3))
    assert ttl.of(LEVELS)[0].margin_v == pytest.approx(0.4)
    contact = wired(a_port("plain from", family="contact"), Link(logic_v=3.3))
    assert contact.of(LEVELS)[0].margin_v == pytest.approx(0.8)


def test_a_pin_that_survives_less_than_what_comes_is_said_and_another_offered():
    from wired_union.project.wiring_model import Board, Pin

    link = Link(bus="digital", logic_v=3.3, logic_max_v=5.5)
    pins = (Pin(name="A", does=(("analogue", "1", "1"),), max_v=3.0), Pin(name="B", does=(("analogue", "1", "2"), (
        "plain", "", "")), max_v=5.5))  # fmt: skip
    brain = Item(id="brain", name="Brain", subsystem="s", part=a_part("Brain", "microcontroller", board=Board(pins=pins),
                                                                       link=link))  # fmt: skip
    eye = a_thing("Eye", "v = analogue from")
    assessment = assess(a_concept(brain, eye))
    found = next(f for f in assessment.findings if f.check == "wire-level")
    assert found.what == "3.3 V come in; 3 V are survived."
    after = assessment.again(found.remedies[0].change.after)
    assert not verdicts(after, "wire-level")


def test_an_own_signal_without_a_voltage_is_not_known_and_with_too_much_breaks():
    own = OwnLine(id="sense", name="Sense", does="analogue")
    board = a_board("A: analogue 1 1")
    assert assess(a_concept(board, own_lines=(own,))).of(LEVELS)[0].verdict == "unknown"
    assert assess(a_concept(board, own_lines=(own.but(high_v=3.0),))).of(LEVELS)[0].verdict == "holds"
    assert assess(a_concept(board, own_lines=(own.but(high_v=12.0),))).of(LEVELS)[0].verdict == "breaks"


def test_a_divider_brings_what_is_too_much_to_what_a_pin_survives():
    """14.6 V over 39 kΩ and 10 kΩ: 2.98 V at the pin."""
    own = OwnLine(id="sense", name="Sense", does="analogue", high_v=14.6)
    assessment = assess(a_concept(a_board("A: analogue 1 1"), own_lines=(own,)))
    found = next(f for f in assessment.findings if f.check == "wire-level")
    change = next(r for r in found.remedies if "divider" in r.label).change
    after = assessment.again(change.after)
    line = after.project.concept.own_lines[0]
    assert at_pin_v(line) == pytest.approx(14.6 * line.lower_ohm / (line.upper_ohm + line.lower_ohm))
    assert at_pin_v(line) < 3.3
    assert not verdicts(after, "wire-level")
    half = edits.set_own(after.project, value_id="sense", upper_ohm=None).after
    assert assess(half).of(LEVELS)[0].verdict == "unknown"


# buses


def i2c_project(length_m: float, timed_ohm: float | None, clock_hz: float = 400e3, **wiring):
    probe = a_thing("Probe", *I2C, addresses=(0x48,))
    cable = Cable(id="c", name="C", start="brain", reaches=(Reach(item="probe"),), length_m=length_m, awg=26)
    bus = Bus(id="b", name="B", kind="i2c", clock_hz=clock_hz, pull_up_ohm=timed_ohm)
    return a_concept(a_board("C: I2C 1 clock", "D: I2C 1 data"), probe, cables=(cable,), buses=(bus,),
                     wiring=Wiring(**wiring))  # fmt: skip


def test_pull_ups_are_weighed_against_pins_and_cable():
    """UM10204, §7.1: 10 pF a pin twice and 60 pF for a metre; 300 ns rise at 400 kHz: 300e-9/(0.8473·C)."""
    bus = assess(i2c_project(1.0, 4700.0)).of(WIRES).buses[0]
    assert bus.capacitance_f == pytest.approx(80e-12)
    assert bus.fits.most_ohm == pytest.approx(300e-9 / (0.8473 * 80e-12), rel=1e-4)
    assert bus.verdict == "breaks"  # 4.7 kΩ of 4.43 kΩ
    assert assess(i2c_project(0.2, 4700.0)).of(WIRES).buses[0].verdict == "holds"
    assert assess(i2c_project(1.0, None)).of(WIRES).buses[0].missing == ("I²C 1 of Brain: what pulls its lines up",)


def test_resistors_on_several_modules_lie_side_by_side():
    """4.7 kΩ and 10 kΩ: 1/(1/4700 + 1/10000) = 3197 Ω, worked by hand."""
    one, two = (a_thing(n, *I2C, addresses=(a,)) for n, a in (("One", 0x10), ("Two", 0x11)))
    one = one.but(part=one.part.but(port=one.part.port.but(pull_up_ohm=4700.0)))
    two = two.but(part=two.part.but(port=two.part.port.but(pull_up_ohm=10e3)))
    bus = assess(a_concept(a_board("C: I2C 1 clock", "D: I2C 1 data"), one, two)).of(WIRES).buses[0]
    assert bus.pull_up_ohm == pytest.approx(3197.3, abs=0.1)


def test_resistors_from_the_bag_clear_what_rises_too_slowly():
    for metres in (1.0, 3.0):
        assessment = assess(i2c_project(metres, None, pull_up_ohm=10e3))
        found = next(f for f in assessment.findings if f.check == "shared-bus")
        assert "rise too slowly" in found.title
        after = assessment.again(found.remedies[0].change.after)
        assert after.of(WIRES).buses[0].verdict in {"holds", "tight"}, found.remedies[0].label


def test_a_bus_is_no_faster_than_its_slowest_part():
    probe = a_thing("Probe", *I2C, addresses=(0x48,))
    probe = probe.but(part=probe.part.but(port=probe.part.port.but(clock_hz=100e3)))
    project = with_concept(i2c_project(0.1, 4700.0), items=(a_board("C: I2C 1 clock", "D: I2C 1 data"), probe))
    assessment = assess(project)
    found = next(f for f in assessment.findings if f.check == "shared-bus" and "too fast" in f.title)
    slower = next(r for r in found.remedies if "100 kHz" in r.label.replace("\u202f", " "))
    assert not any("too fast" in f.title for f in assessment.again(slower.change.after).findings)


def test_one_broken_device_is_said_to_silence_the_others():
    buses = assess(demo()).of(WIRES).buses
    i2c = next(b for b in buses if b.slot.ability == "I2C")
    assert "Salinity probe" in i2c.silences
    assert "IMU 6-axis" in i2c.silences
    assert "not selected" in next(b for b in buses if b.slot.ability == "SPI").silences


# cables


def a_fed_motor(length_m=2.0, awg=22, **cable):
    """A pack without resistance, a motor's worth of constant current, and a cable between."""
    project = a_project(a_pack("pack", resistance_ohm=1e-6), a_load("lamp", 2.0), feeds=[("pack", "lamp")])
    made = Cable(id="c", name="Lead", start="pack", reaches=(Reach(item="lamp"),), length_m=length_m, awg=awg, **cable)
    return with_concept(project, cables=(made,))


def drop_share(project):
    return assess(project).measure("wire-drop")


def test_the_drop_is_that_of_the_table_of_wires():
    """AWG 22: 52.96 mΩ/m (ASTM B258); 2 A over 2 m there and back lose 0.4237 V at 20 °C, from memory.

    Of the 7 A that it carries (SAE AS50881), 5.6 A are left to two wires together; a rise of 80 K belongs to them. So
    it is 25 + 80 · (2/5.6)² = 35.2 °C warm, and loses 6 % more (IEC 60028: 0.393 % a kelvin).
    """
    assessment = assess(a_fed_motor())
    loss = assessment.of(WIRES).cables[0].losses[0]
    assert wire_gauge(22).resistance_ohm_per_m == pytest.approx(52.96e-3, rel=1e-3)
    assert loss.copper_c == pytest.approx(35.2, abs=0.05)
    assert loss.drop_v == pytest.approx(2.0 * 4 * 52.96e-3 * 1.0597, rel=1e-3)
    measure = assessment.measure("wire-drop")
    assert measure.value == pytest.approx(loss.drop_v / loss.rail_v)
    assert verdicts(assessment, "cable") == [("breaks", "Lead loses too much voltage")]


def test_hot_air_loses_more_in_wires_and_leaves_them_less_current_for_power_too():
    """At 65 °C copper has 17.7 % more resistance (IEC 60028), and half the rise up to 105 °C leaves 0.707 of 7 A."""
    bare = a_fed_motor(1.0, 22)
    bare = with_concept(bare, cables=(), feeds=tuple(f.but(wire_length_m=1.0, wire_awg=22) for f in bare.concept.feeds))
    bare = set_part_value(bare, "lamp", "load.active_a", 5.5).after
    usual, hot, cold = (assess(with_brief(bare, hottest_c=c, coldest_c=0.0)) for c in (25.0, 65.0, 0.0))

    def lost(assessment):
        power = assessment.of(POWER)
        return power.lowest_v("pack")[0] - power.lowest_v("lamp")[0]

    assert lost(hot) / lost(usual) == pytest.approx((1 + 0.00393 * 45) / (1 + 0.00393 * 5), rel=1e-6)
    assert lost(cold) / lost(usual) == pytest.approx(1 / (1 + 0.00393 * 5), rel=1e-6)
    found = {c: next((f for f in assess(with_brief(bare, hottest_c=c)).findings if f.check == "wire"), None)
             for c in (25.0, 65.0, 110.0)}  # fmt: skip
    assert found[25.0] is None
    assert found[65.0].verdict.value == found[110.0].verdict.value == "breaks"
    assert "4.95 A for long, by itself in free air of 65 °C" in plain(found[65.0].what)


def test_a_longer_cable_loses_more_and_a_thicker_one_mends_it():
    short, long = drop_share(a_fed_motor(0.5)).value, drop_share(a_fed_motor(1.0)).value
    assert long == pytest.approx(2 * short, rel=0.02)
    assessment = assess(a_fed_motor())
    found = next(f for f in assessment.findings if f.check == "cable")
    assert len(found.remedies) == 2
    for remedy in found.remedies:
        assert not verdicts(assessment.again(remedy.change.after), "cable"), remedy.label


def test_power_and_its_edits_use_the_wire_of_the_cable():
    project = a_fed_motor(1.0, 20)
    bare = with_concept(
        project, cables=(), feeds=tuple(f.but(wire_length_m=1.0, wire_awg=20) for f in project.concept.feeds)
    )
    mine, theirs = assess(project), assess(bare)
    for m in theirs.all_measures.values():
        if m.subject == "power":
            assert mine.measure(m.id).value == m.value, m.id
    after = set_wire(project, "lamp", 1.0, 16).after
    assert after.concept.cables[0].awg == 16
    assert after.concept.feeds == project.concept.feeds
    assert set_wire(project, "lamp", 0.5, 16).after.concept.cables[0].length_m == 0.5


def test_a_cable_that_is_not_known_makes_power_and_its_own_measures_unknown():
    project = a_fed_motor(None)
    assessment = assess(with_brief(project, limits=(Limit(measure="wire-drop", name="d", value=0.5, direction="at most"),
                                                    Limit(measure="cable-length", name="l", value=99.0,
                                                          direction="at most"))))  # fmt: skip
    assert assessment.measure("wire-drop").verdict == "unknown"
    assert assessment.measure("cable-length").verdict == "unknown"
    assert any("length of its wire" in m for m in assessment.measure("runtime").missing)
    assert any("Lead: its mass" in m for m in assessment.measure("mass").missing)


def test_a_feed_and_a_signal_without_a_cable_make_the_length_unknown_and_one_press_lays_them():
    project = demo()
    bare = with_concept(project, cables=())
    assessment = assess(bare)
    assert assessment.measure("cable-length").missing
    assert verdicts(assessment, "no-cable")
    after = assessment.again(next(f for f in assessment.findings if f.check == "no-cable").remedies[0].change.after)
    assert not verdicts(after, "no-cable")
    with pytest.raises(ProjectError, match=r"already"):
        edits.cables_for_all(after.project, after.of(PINS))


def placed(**figures):
    project = a_fed_motor(None, **figures)
    spots = {"pack": (0.0, 0.0, 0.0), "lamp": (0.3, -0.2, 0.1)}
    items = tuple(i.but(places=(Place(x_m=spots[i.id][0], y_m=spots[i.id][1], z_m=spots[i.id][2]),))
                  for i in project.concept.items)  # fmt: skip
    return with_concept(project, items=items)


def test_the_length_follows_from_places_poses_and_slack():
    """Along, across and up: 0.3 + 0.2 + 0.1 m, and 15 % of slack; lifted by 0.4 m in a pose, 0.4 m more."""
    project = placed()
    cable = project.concept.cables[0]
    assert length_of(project.concept, cable)[0] == pytest.approx(0.6 * 1.15)
    pose = Pose(id="up", name="Up", shifts=(Shift(item="lamp", dz_m=0.4),))
    lifted = with_concept(project, poses=(pose,))
    assert length_of(lifted.concept, cable)[0] == pytest.approx(1.0 * 1.15)
    short = edits.set_cable(lifted, value_id="c", length_m=0.45).after
    assert verdicts(assess(short), "cable")[0] == ("breaks", "Lead is too short")
    longer = assess(short).findings
    found = next(f for f in longer if f.check == "cable" and "short" in f.title)
    for remedy in found.remedies:
        assert not any("short" in f.title for f in assess(remedy.change.after).findings), remedy.label


def test_mass_money_and_length_count_every_cable():
    """Two wires of AWG 22 for 2 m, a quarter more for sleeves; and ten per cent of growth, since nobody weighed it."""
    project = a_fed_motor(2.0, 22, price=3.0, count=2)
    bare, laid = assess(with_concept(project, cables=())), assess(project)
    each = wire_mass(22, 2).mass_kg_per_m * 2.0 * 1.25
    assert laid.of(LAID)[0].mass_kg == pytest.approx(each)
    assert laid.measure("mass").value - bare.measure("mass").value == pytest.approx(2 * each * 1.1)
    assert laid.measure("money").value - bare.measure("money").value == pytest.approx(6.0)
    assert laid.measure("cable-length").value == pytest.approx(4.0)
    weighed = assess(edits.set_cable(project, value_id="c", mass_kg=0.05).after)
    assert weighed.measure("mass").value - bare.measure("mass").value == pytest.approx(0.1)
    free = assess(edits.set_cable(project, value_id="c", price=None).after)
    assert "Lead: its price" in free.measure("money").missing
    assert free.of(HARNESS).unpriced


def test_a_bundle_and_warm_air_take_from_what_a_wire_carries():
    """AWG 22 carries 7 A alone at 25 °C (common table); three loaded wires 0.8 of it (SAE AS50881, from memory), at
    65 °C √(40/80) of that: 3.96 A."""
    cool = a_fed_motor(0.2, 22)
    checks = {c.id: c for c in assess(cool).of(WIRES).cables[0].checks}
    assert checks["heat"].given == pytest.approx(5.6)
    warm = with_brief(cool, hottest_c=65.0)
    checks = {c.id: c for c in assess(warm).of(WIRES).cables[0].checks}
    assert checks["heat"].given == pytest.approx(5.6 * math.sqrt(0.5))


def test_plugs_bear_and_have_contacts_enough():
    few = assess(a_fed_motor(0.2, 18, connector="two-pin", ways=1, contact_a=1.0))
    titles = {t for _, t in verdicts(few, "cable")}
    assert titles == {"Lead has too few contacts", "Lead carries too much for its plug"}
    found = next(f for f in few.findings if "contacts" in f.title)
    assert "Lead has too few contacts" not in {
        t for _, t in verdicts(few.again(found.remedies[0].change.after), "cable")
    }
    gaps = assess(a_fed_motor(0.2, 18, connector="two-pin")).of(WIRES).cables[0].missing
    assert gaps == ("Lead: how many contacts its plugs have", "Lead: what a contact of its plugs bears")


def test_a_cable_that_moves_or_is_made_asks_for_what_lacks():
    hinge = assess(a_fed_motor(0.2, 18, passes="a hinge", sold="made by us", made_by="Ada"))
    assert set(hinge.of(WIRES).cables[0].missing) == {
        "Lead: how tightly it is bent where it moves", "Lead: made from what, tested how"}  # fmt: skip
    assert verdicts(hinge, "cable-moves") == [("tight", "Lead passes a hinge")]
    bent = assess(a_fed_motor(0.2, 18, passes="a hinge", bend_m=0.01))
    assert ("breaks", "Lead is bent too tightly") in verdicts(bent, "cable")
    held = assess(a_fed_motor(0.2, 18, passes="a wheel", relieved="yes", bundle="axle"))
    assert not verdicts(held, "cable-moves")


def test_motor_leads_beside_sensor_leads_are_noisy_until_they_are_apart():
    project = demo()
    loud = edits.set_cable(edits.set_cable(project, value_id="motor-leads", suppressed=False).after,
                           value_id="bumper-loom", bundle="axle loom").after  # fmt: skip
    assessment = assess(loud)
    found = next(f for f in assessment.findings if f.check == "noise")
    assert len(found.remedies) == 3
    for remedy in found.remedies:
        assert not verdicts(assessment.again(remedy.change.after), "noise"), remedy.label


def test_a_main_switch_and_a_stop_button_are_asked_for_and_sit_at_the_pack():
    assessment = assess(demo())
    for check in ("main-switch", "stop-button"):
        found = next(f for f in assessment.findings if f.check == check)
        after = assessment.again(found.remedies[0].change.after)
        assert not verdicts(after, check)
        assert not verdicts(after, "no-cable")
        assert after.measure("wire-drop").value is not None
        assert not after.measure("wire-drop").missing


def test_parts_that_sit_on_each_other_are_one_end_of_a_cable():
    project = demo()
    stacked = together(project.concept)
    assert stacked["ldo"] == stacked["radio"] == "controller"
    probe = assess(project).of(WIRES).cable("probe-lead")
    assert [f.load for f in probe.laid.feeds] == ["probe"]  # fed by the converter that sits on the controller
    assert probe.laid.wires == 4


# what is handed over


def an_interface(**figures):
    made = Interface(id="i", name="Speeds", one="controller", other="driver", owner_one="Ada", owner_other="Ben",
                     gives="duty", takes="PWM", rate_hz=50.0, **figures)  # fmt: skip
    return with_concept(demo(), interfaces=(made,))


def test_an_interface_is_agreed_and_a_change_on_one_side_asks_the_other():
    project = an_interface()
    assert assess(project).of(HANDED)[0].verdict == "unknown"
    agreed = agree(project, "i", "2026-11-26").after
    assert assess(agreed).of(HANDED)[0].verdict == "tight"  # agreed, and not built
    moved = assess(edits.set_interface(agreed, value_id="i", rate_hz=20.0).after)
    found = next(f for f in moved.findings if f.check == "interface")
    assert found.verdict == "breaks"
    assert "To be looked at again by Ben" in found.what
    back = assess(edits.set_interface(agreed, value_id="i", takes="levels").after)
    assert "To be looked at again by Ada" in next(f for f in back.findings if f.check == "interface").what
    again = agree(moved.project, "i", "2026-11-27").after
    assert assess(again).of(HANDED)[0].moved == ()
    built = edits.set_interface(again, value_id="i", built_one=True, built_other=True, tried_on="2026-11-28").after
    assert assess(built).of(HANDED)[0].verdict == "holds"


def test_a_change_of_the_message_it_stands_for_is_seen():
    from wired_union.project.listed_edits import set_listed

    agreed = agree(an_interface(message="speeds"), "i", "2026-11-26").after
    assert not assess(agreed).of(HANDED)[0].moved
    moved = set_listed(agreed, "messages", "speeds", "message", every_s=0.1).after
    assert "what it stands for" in assess(moved).of(HANDED)[0].moved[0]


def test_nobody_agrees_on_what_nobody_says():
    with pytest.raises(ProjectError, match=r"who answers for what takes"):
        agree(with_concept(an_interface(), interfaces=(Interface(id="i", name="X", one="controller", owner_one="a",
                                                                  gives="g", other="driver"),)), "i", "")  # fmt: skip
    with pytest.raises((ProjectError, BadFigure)):
        edits.set_wiring(demo(), most_drop=2.0)


def test_an_empty_project_asks_for_nothing_and_holds_nothing():
    assessment = assess(a_concept())
    for measure in ("pins", "spare-pins", "cable-length", "wire-drop"):
        assert assessment.measure(measure).missing
    assert not [f for f in assessment.findings if f.subject == "wiring"]


def test_the_brief_holds_pins_only_when_every_signal_has_one():
    limit = Limit(measure="pins", name="Pins", value=40.0, direction="at most")
    fits = assess(a_concept(a_board("A: plain"), a_thing("Lamp", "on = plain to")).but(brief=Brief(limits=(limit,))))
    assert fits.measure("pins").verdict == "holds"
    not_fits = assess(
        a_concept(a_board("A: plain"), a_thing("Lamp", "on = plain to", count=2)).but(brief=Brief(limits=(limit,)))
    )
    assert not_fits.measure("pins").verdict == "unknown"
    assert not_fits.hard_breaks


def test_a_motor_of_the_catalogue_on_a_long_thin_wire_is_said_with_its_worst_instant():
    project = a_project(a_pack("pack"), a_motor("motor"), feeds=[("pack", "motor")])
    lead = Cable(id="c", name="Lead", start="pack", reaches=(Reach(item="motor"),), length_m=3.0, awg=24)
    loss = assess(with_concept(project, cables=(lead,))).of(WIRES).cables[0].losses[0]
    assert loss.most_a > loss.flows_a
    assert part("gearmotor-25-mm-12-v-100-1")
