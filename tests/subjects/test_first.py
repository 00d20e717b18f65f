"""What resets while something starts, against the bounds that need no step, and by hand where that can be done."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import edits
from builders import (
    a_bank,
    a_buck,
    a_driver,
    a_gearmotor,
    a_limit,
    a_load,
    a_pack,
    a_part,
    a_project,
    a_rover,
    a_supply,
    an_item,
    an_ldo,
    plain,
    texts,
)
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered
from wired_union.picture.shapes import Kit
from wired_union.project.change import with_concept
from wired_union.project.file import from_text, to_text
from wired_union.project.model import Feed, Link
from wired_union.subjects import assess
from wired_union.subjects.motion.gives import SHAFTS
from wired_union.subjects.power.first.circuit import circuits_of
from wired_union.subjects.power.first.picture import first_chart
from wired_union.subjects.power.first.remedies import remedies
from wired_union.subjects.power.node import FIRST, POWER

KIT = Kit()


def a_brain(reset_v: float | None = 2.7, least_v: float | None = 2.8, **figures):
    return a_load("brain", 0.1, rated_v=3.3, supply_min_v=least_v, supply_max_v=3.6, reset_v=reset_v, **figures).but(
        kind="microcontroller")  # fmt: skip


def a_rover_that_thinks(
    cell_ohm: float = 0.8, *, reset_v: float | None = 2.7, inductance_h: float | None = None, **more
):
    """Four motors and a controller on an LDO on one pack of two cells: 6.5 V at rest near the end of its charge."""
    project = a_rover(an_ldo("ldo", input_min_v=2.3, dropout_v=0.25), a_brain(reset_v, **more))
    pack = a_pack(series=2, resistance_ohm=cell_ohm, mass_kg=0.8)
    project = edits.swap_part(project, "pack", pack).after
    for path, value in (("motor.rotor_inertia_kg_m2", 5e-7), ("motor.inductance_h", inductance_h)):
        project = edits.set_part_value(project, "motor", path, value).after
    for load, source in (("ldo", "pack"), ("brain", "ldo")):
        project = edits.feed_from(project, load, source).after
    return edits.set_part_value(project, "driver", "driver.input_min_v", 1.0).after


def dip(project):
    return assess(project).of(FIRST).lowest["brain"].volts


def test_four_motors_that_start_together_reset_it_and_it_says_why_and_what_helps():
    now = assess(a_rover_that_thinks())
    found = next(f for f in now.findings if f.id == "resets:brain")
    assert found.verdict is Verdict.BREAKS
    assert found.hard
    why = plain(found.why)
    assert "4 × motor start in Work" in why
    assert "ldo gets 2.69 V, less than the 3.55 V it needs" in why
    assert "it resets below 2.7 V" in why
    said = [r.label for r, _ in offered(now, found)]
    assert any("one after another" in s for s in said)
    assert any("opens over" in s for s in said)
    for remedy, words in offered(now, found):
        after = now.again(remedy.change.after)
        assert not any(f.id == "resets:brain" and f.verdict is Verdict.BREAKS for f in after.findings), remedy.label
        assert "holds" in words


def test_the_dip_at_the_first_instant_is_that_of_the_circuit_at_rest():
    """Without inductance all four windings stand across the pack at once: E·(R/4)/(R/4 + R₀), less what the LDO takes."""
    now = assess(a_rover_that_thinks())
    circuit = next(iter(circuits_of(now.of(POWER), 0, now.of(SHAFTS))))
    source = circuit.stages[0].source
    others = 0.1  # the controller's, passed on by a linear regulator
    bare = (source.voltage_v - source.ohm * others) / (1 + source.ohm * 4 / 5.0)
    start = now.of(FIRST).starts[0]
    assert start.course.volts[circuit.spots["pack"]][0] == pytest.approx(bare, rel=1e-3)


def test_a_winding_whose_current_must_rise_first_dips_less_and_never_more():
    assert dip(a_rover_that_thinks(inductance_h=20e-3)) > dip(a_rover_that_thinks()) + 0.01


def test_each_thing_that_can_be_done_helps_and_undone_is_as_before():
    project, before = a_rover_that_thinks(), dip(a_rover_that_thinks())
    for change in (
        edits.stagger(project, "work", True),
        edits.set_part_value(project, "driver", "driver.soft_start_s", 0.3),
        edits.put_capacitor(project, "ldo", 22e-3),
        edits.set_part_value(project, "driver", "driver.current_limit_a", 0.5),
    ):
        assert dip(change.after) > before + 0.02, change.sentence
    back = edits.put_capacitor(edits.put_capacitor(project, "ldo", 22e-3).after, "ldo", None).after
    assert dip(back) == before


def test_a_motor_that_is_reversed_counts_with_twice_its_stall_current_everywhere():
    project = a_rover_that_thinks(0.2)
    turned = edits.reverse(project, "work", "motor", True).after
    before, after = assess(project), assess(turned)
    assert after.of(FIRST).lowest["pack"].volts < before.of(FIRST).lowest["pack"].volts - 1
    assert after.measure("peak-current").value > 1.5 * before.measure("peak-current").value


def test_what_starts_later_is_told_apart_and_kept_when_its_state_is_set():
    project = a_rover_that_thinks()
    later = edits.start_after(project, "work", "motor", 0.3).after
    start = assess(later).of(FIRST).starts[0]
    at = [v for t, v in zip(start.course.times_s, start.course.source_a, strict=True) if t < 0.299]
    assert max(at) == pytest.approx(0.1, rel=0.1)  # the controller alone
    use = edits.set_use(later, "work", "motor", "active", 0.5).after.concept.modes[0].uses[-1]
    assert (use.after_s, use.duty) == (0.3, 0.5)
    with pytest.raises(edits.ProjectError, match="up to"):
        edits.start_after(project, "work", "motor", 61.0)


def test_a_start_that_comes_late_is_looked_at_too():
    """A motor that starts 40 s after the mode begins dips as one that starts with it."""
    project = a_rover_that_thinks()
    late = edits.start_after(project, "work", "motor", 40.0).after
    start = assess(late).of(FIRST).starts[0]
    assert start.course.times_s[-1] > 40.4
    assert len(start.course.times_s) < 1500
    assert dip(late) == pytest.approx(dip(project), abs=1e-3)
    assert any(f.id == "resets:brain" for f in assess(late).findings)


def test_one_after_another_waits_until_each_turns():
    start = assess(edits.stagger(a_rover_that_thinks(), "work", True).after).of(FIRST).starts[0]
    assert [n for _, n in start.circuit.windings] == [1, 1, 1, 1]
    begins = [m.starts_s for p in start.circuit.stages[0].places for m in p.motors]
    assert begins == pytest.approx([n * start.circuit.gap_s for n in range(4)])
    assert start.course.times_s[-1] > 3 * start.circuit.gap_s


def test_where_no_inertia_is_known_it_stays_blocked_and_is_not_stepped_apart():
    project = edits.set_part_value(a_rover_that_thinks(), "motor", "motor.rotor_inertia_kg_m2", None).after
    start = assess(project).of(FIRST).starts[0]
    assert start.course.source_a[-1] == pytest.approx(max(start.course.source_a), rel=1e-3)
    apart = assess(edits.stagger(project, "work", True).after).of(FIRST).starts[0]
    assert apart.circuit.gap_s == 0


def test_least_margin_is_a_measure_that_is_unknown_while_a_figure_under_it_is():
    limit = a_limit("brown-out", 0.1, "at least")
    project = a_rover_that_thinks(0.01)
    project = project.but(brief=project.brief.but(limits=(*project.brief.limits, limit)))
    held = assess(project).measure("brown-out")
    assert held.verdict is Verdict.HOLDS
    assert held.value == pytest.approx(3.3 - 2.7)
    for path in ("pack.cell_resistance_ohm", "pack.cell_capacity_ah"):
        gone = assess(edits.set_part_value(project, "pack", path, None).after).measure("brown-out")
        assert gone.verdict is Verdict.UNKNOWN
    nothing = edits.set_part_value(project, "brain", "load.reset_v", None).after
    assert assess(nothing).measure("brown-out").value == pytest.approx(3.3 - 2.8)  # its lowest supply then
    nothing = edits.set_part_value(nothing, "brain", "load.supply_min_v", None).after
    assert assess(nothing).measure("brown-out").verdict is Verdict.UNKNOWN
    alone = assess(a_project(a_pack(), a_load(), feeds=(("pack", "load"),))).measure("brown-out")
    assert alone.missing == ("a controller that is fed",)


def test_it_is_worked_out_only_where_a_limit_is_on_it_or_somebody_asks():
    now = assess(a_rover_that_thinks(0.01))
    assert now.measures
    assert now.hard_breaks is not None
    assert not vars(now.of(FIRST)).get("_known")  # the bounds clear it
    assert now.all_measures["brown-out"].value is not None
    assert vars(now.of(FIRST))["_known"]


@settings(max_examples=25, deadline=None)
@given(st.floats(0.005, 0.5), st.floats(0.02, 2.0), st.booleans(), st.booleans(), st.sampled_from([None, 5e-3]))
def test_no_step_comes_below_the_bounds_that_need_none(cell_ohm, wire_m, together, reverses, coil):
    """Everything at its worst at once, as if it stood, is a lower bound of what is stepped."""
    project = a_rover_that_thinks(cell_ohm, inductance_h=coil)
    project = edits.set_wire(project, "driver", wire_m, 20).after
    project = edits.stagger(project, "work", not together).after
    project = edits.reverse(project, "work", "motor", reverses).after
    first = assess(project).of(FIRST)
    for item, bound in first.bounds.items():
        assert first.lowest[item].volts >= bound - 1e-6 * max(bound, 1.0)
    for start in first.starts:
        bounds = first.bounds_in(start.mode)
        assert all(dip.volts >= bounds[i] - 1e-6 * max(bounds[i], 1.0) for i, dip in start.dips.items())
    least = min(w.margin_v for w in first.watched)
    assert assess(project).of(FIRST).worst.margin_v == pytest.approx(
        least, abs=1e-6
    )  # with no more steps than it takes


@settings(max_examples=25, deadline=None)
@given(st.floats(0.05, 0.5), st.floats(0.2, 6.0), st.sampled_from([None, 5e-3, 0.1]))
def test_the_worst_of_several_modes_is_found_without_stepping_them_all(cell_ohm, amperes, coil):
    """A mode whose bounds lie lowest need not be the one that dips lowest: a winding never gets to its stall current."""
    project = a_project(
        a_pack(resistance_ohm=cell_ohm), a_driver(), a_gearmotor(inductance_h=coil), a_load("lamp", amperes),
        a_load("brain", 0.1, rated_v=12.0, reset_v=6.0),
        feeds=(("pack", "driver"), ("driver", "motor"), ("pack", "lamp"), ("pack", "brain")))  # fmt: skip
    project = edits.set_use(project, "work", "lamp", "off").after
    project = edits.add_mode(project, "Light").after
    for item, state in (("motor", "off"), ("lamp", "active"), ("brain", "active")):
        project = edits.set_use(project, "light", item, state).after
    margins = {m: d["brain"].volts - 6.0 for m, d in ((m, first_of(project)._dips_in(m, first_of(project).bounds_in(m)))
                                                       for m in (0, 1))}  # fmt: skip
    found = first_of(project).worst
    assert found.margin_v == pytest.approx(min(margins.values()), abs=1e-9)
    assert margins[found.dip.mode] == pytest.approx(min(margins.values()), abs=1e-9)
    low = first_of(project).lowest
    cutoff_v = assess(project).of(POWER).packs[0].figures.cutoff_v
    said = {(f.check, f.of) for f in assess(project).findings if f.subject == "power"}
    assert (("brown-out", "pack") in said) == (low["pack"].volts < cutoff_v)
    assert (("resets", "brain") in said) == (min(margins.values()) < 0)


def first_of(project):
    return assess(project).of(FIRST)


@pytest.mark.parametrize(("limiting", "left_v"), [("hiccup", 0.0), ("constant", 3.3 * 0.5 / 0.65)])
def test_a_regulator_that_is_asked_for_more_than_it_gives_lets_its_controller_go(limiting, left_v):
    """Nothing starts at all. One that holds its current: 0.5 A through what takes 0.65 A at 3.3 V as a resistance."""
    brain = a_load("brain", 0.05, rated_v=3.3, draw="resistance", reset_v=2.7)
    project = a_project(
        a_pack(), an_ldo(input_max_v=20.0, limiting=limiting), a_load("lamp", 0.6, rated_v=3.3, draw="resistance"), brain,
        feeds=(("pack", "ldo"), ("ldo", "lamp"), ("ldo", "brain")))  # fmt: skip
    now = assess(project)
    first = now.of(FIRST)
    assert not any(first.starting)
    assert first.bounds["brain"] == 0.0
    assert not first.clears()
    assert now.measure("brown-out").value == pytest.approx(left_v - 2.7, abs=1e-3)
    found = next(f for f in now.findings if f.check == "resets")
    assert found.verdict is Verdict.BREAKS
    assert "What is at work in" in found.why
    assert " in Work; below 2.7 V it resets" in plain(found.what)
    fits = edits.set_part_value(project, "lamp", "load.active_a", 0.4).after
    fits = edits.set_part_value(fits, "lamp", "load.peak_a", 0.4).after
    assert assess(fits).of(FIRST).clears()
    assert assess(fits).measure("brown-out").value == pytest.approx(0.6)


def test_filling_capacitors_are_told_at_switching_on():
    project = edits.put_capacitor(a_rover_that_thinks(0.01), "ldo", 4.7e-3).after
    found = next(f for f in assess(project).findings if f.check == "inrush")
    assert found.verdict is Verdict.TIGHT
    assert "Capacitors fill with up to" in found.what


def test_a_capacitor_beside_what_nothing_feeds_or_beyond_reason_is_refused():
    project = a_project(a_pack(), a_load())
    with pytest.raises(edits.ProjectError, match="not fed by anything"):
        edits.put_capacitor(project, "load", 1e-3)
    with pytest.raises(edits.ProjectError, match="capacitor"):
        edits.put_capacitor(a_rover_that_thinks(), "ldo", -1.0)


def test_the_chart_reads_every_supply_at_once_and_survives_the_file():
    project = from_text(to_text(edits.put_capacitor(a_rover_that_thinks(), "ldo", 1e-3).after), "rover")
    first = assess(project).of(FIRST)
    chart = first_chart(first, first.starts[0], KIT, 700.0)
    assert any("lowest" in t and "resets below 2.7 V" in t for t in texts(chart.picture))
    assert "brain" in chart.reading(chart.left + 1)
    assert {r.id for r in chart.picture.regions} == {"current", "lane:pack", "lane:ldo", "lane:brain"}


def test_a_servo_without_a_model_is_taken_as_it_stands_and_power_loads_and_resistances_too():
    parts = (a_pack(), a_buck(), a_load("servo", 0.3, startup_a=2.0, rated_v=5.0),
             a_load("lamp", 0.5, draw="resistance"), a_load("board", 0.4, draw="power"))  # fmt: skip
    project = a_project(*parts, feeds=(("pack", "buck"), ("buck", "servo"), ("pack", "lamp"), ("pack", "board")))
    start = assess(project).of(FIRST).starts[0]
    row = assess(project).of(POWER).instants.flows.row("pack", "current_a")
    assert start.course.source_a[-1] == pytest.approx(row[-1], rel=1e-6)  # as the static tree has it


def test_two_packs_are_stepped_apart():
    parts = (a_pack(), an_item(a_pack("logic", series=2)), a_driver(), a_gearmotor(), a_brain(), a_part("frame"))
    feeds = (("pack", "driver"), ("driver", "motor"), ("logic", "brain"))
    first = assess(a_project(*parts, feeds=feeds)).of(FIRST)
    assert {s.circuit.root for s in first.starts} == {"pack", "logic"}
    assert first.lowest["brain"].volts > 6


def test_what_no_size_mends_is_not_offered():
    """Through eight ohms a cell the controller alone is too much: no start, soft or late, is the reason."""
    now = assess(a_rover_that_thinks(14.0))
    first = now.of(FIRST)
    worst = first.worst
    assert worst.margin_v < 0
    found = remedies(now.project, first, worst.item, worst.dip, lambda p: now.again(p).of(FIRST))
    assert not any("opens over" in r.label or "a capacitor of" in r.label for r in found)


def with_lamps(each_a, draw):
    """The rover with four lamps on the pack, each behind a thin wire of its own."""
    project = a_rover_that_thinks(0.3)
    for n, amperes in enumerate(each_a):
        lamp = a_load(f"lamp{n}", amperes, rated_v=6.0, draw=draw)
        project = edits.add_item(project, project.concept.subsystems[0].id, lamp).after
        name = project.concept.items[-1].id
        feed = Feed(source="pack", load=name, wire_length_m=2.0, wire_awg=28)
        kept = tuple(f for f in project.concept.feeds if f.load != name)
        project = with_concept(project, feeds=(*kept, feed))
    return project


@pytest.mark.parametrize("draw", ["current", "power", "resistance"])
def test_loads_alike_are_stepped_as_one_and_come_to_what_each_would(draw):
    alike, apart = (
        assess(with_lamps(each, draw)).of(FIRST) for each in ([0.2] * 4, [0.2 + n * 1e-12 for n in range(4)])
    )
    places = [len(f.starts[0].circuit.stages[0].places) for f in (alike, apart)]
    assert places[1] == places[0] + 3
    assert alike.lowest.keys() == apart.lowest.keys()
    for item, low in apart.lowest.items():
        assert alike.lowest[item].volts == pytest.approx(low.volts, rel=1e-7), item
    before, after = (f.starts[0].course.energy for f in (apart, alike))
    assert (after.given_j, after.lost_j, after.used_j) == pytest.approx((before.given_j, before.lost_j, before.used_j))


def test_another_driver_that_holds_the_current_back_is_offered_where_it_keeps_it_up():
    """One that is made for steppers, or has fewer channels, never is."""
    part = a_brain().but(link=Link(logic_v=3.3))
    now = assess(edits.swap_part(a_rover_that_thinks(0.72), "brain", part).after)
    found = next(f for f in now.findings if f.id == "resets:brain")
    swaps = [(r, words) for r, words in offered(now, found) if "in place of driver" in r.label]
    assert swaps
    for remedy, _ in swaps:
        part = next(i.part for i in remedy.change.after.concept.items if i.id == "driver")
        assert part.driver.current_limit_a > 0
        assert part.driver.channels * next(i.count for i in remedy.change.after.concept.items if i.id == "driver") >= 4
        assert part.driver.made_for != "steppers"
        after = now.again(remedy.change.after)
        assert not any(f.id == "resets:brain" and f.verdict is Verdict.BREAKS for f in after.findings)
        limited = after.of(FIRST).starts[0]
        assert max(limited.course.source_a) < max(now.of(FIRST).starts[0].course.source_a)


@pytest.mark.parametrize("source", [a_supply("source", max_current_a=2.0, resistance_ohm=0.05), a_bank("source")])
def test_what_limits_its_current_lets_a_controller_go_as_soon_as_a_start_asks_for_more(source):
    """A motor of 2.4 A at stall, or a load of 4 A as it starts, on 2 A: above it, it limits or switches off."""
    from_supply = source.supply is not None
    volts = 12.0 if from_supply else 5.0
    starter = a_gearmotor(inductance_h=1e-3) if from_supply else a_load("motor", 1.0, rated_v=5.0, startup_a=4.0)
    brain = a_load("brain", 0.1, rated_v=volts, reset_v=0.8 * volts)
    project = a_project(source, a_driver(), starter, brain, feeds=(
        ("source", "driver"), ("driver", "motor"), ("source", "brain")))  # fmt: skip
    now = assess(project)
    assert now.measure("brown-out").value == pytest.approx(-0.8 * volts)
    assert not now.of(FIRST).clears()
    assert all(b == 0 for i, b in now.of(FIRST).bounds.items() if i != "source")
    found = next(f for f in now.findings if f.check == "resets")
    assert "more than the 2 A that source gives; it limits or switches off" in plain(found.why)
    field = "supply.max_current_a" if from_supply else "regulator.max_current_a"
    strong = edits.set_part_value(project, "source", field, 6.0).after
    assert assess(strong).measure("brown-out").value > 0
    assert not any(f.check == "resets" for f in assess(strong).findings)


def test_a_pack_has_the_limit_of_its_supply_only_while_that_is_plugged_in():
    project = a_project(
        a_pack(), a_supply(max_current_a=2.0), a_driver(), a_gearmotor(), a_load("brain", 0.1, rated_v=12.0, reset_v=9.0),
        feeds=(("adapter", "pack"), ("pack", "driver"), ("driver", "motor"), ("pack", "brain")))  # fmt: skip
    assert assess(project).measure("brown-out").value > 0
    plugged = edits.plug_in(project, "work", True).after
    assert assess(plugged).measure("brown-out").value == -9.0
