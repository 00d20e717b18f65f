"""Power: currents up the tree, the mission, the peak; laws that any tree keeps."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

import edits
from builders import (
    BY_INPUT_V,
    Feed,
    Rail,
    Use,
    a_buck,
    a_driver,
    a_limit,
    a_load,
    a_motor,
    a_pack,
    a_part,
    a_project,
    a_supply,
    an_item,
    an_ldo,
)  # fmt: skip
from wired_union.catalogue.demo import demo
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import Move
from wired_union.physics.battery import peukert_runtime
from wired_union.project.part_edits import feed_from
from wired_union.project.part_model import Flywheel
from wired_union.subjects import assess
from wired_union.subjects.power.gives import POWER
from wired_union.subjects.power.shares import energy_shares, input_voltage, lane_power, mode_flows
from wired_union.subjects.power.trace import mission_trace


def measure(project, name):
    return assess(project).all_measures[name]


def runtime_h(project) -> float:
    return measure(project, "runtime").value / 3600


def test_a_constant_current_empties_the_pack_in_capacity_over_current():
    project = a_project(
        a_pack(resistance_ohm=0.001), a_load(amperes=2.0), feeds=(("pack", "load"),), energy_reserve=0.15
    )
    assert runtime_h(project) == pytest.approx(6.0 * 0.85 / 2.0, rel=1e-9)


def test_lead_acid_follows_peukert():
    """Against Peukert 1897, the exponent and rated time being lead acid's: common practice, from memory."""
    project = a_project(
        a_pack(chemistry="lead-acid", series=6, capacity_ah=100.0, resistance_ohm=1e-5), a_load(amperes=20.0),
        feeds=(("pack", "load"),), energy_reserve=0.0, hours=100,
    )  # fmt: skip
    assert runtime_h(project) == pytest.approx(peukert_runtime(100.0, 20.0, 1.2, 20.0).runtime_h, rel=1e-3)


def test_the_mission_repeats_until_the_reserve():
    short = a_project(a_pack(resistance_ohm=0.0001), a_load(amperes=1.0), feeds=(("pack", "load"),), hours=0.5)
    assert runtime_h(short) == pytest.approx(5.1, rel=1e-6)


def test_two_packs_in_parallel_last_twice_as_long():
    one = a_project(a_pack(resistance_ohm=0.0), a_load(amperes=2.0), feeds=(("pack", "load"),))
    two = edits.set_count(one, "pack", 2).after
    assert runtime_h(two) == pytest.approx(2 * runtime_h(one), rel=1e-9)


def test_a_sagging_pack_ends_at_its_cut_off():
    project = a_project(a_pack(resistance_ohm=0.15), a_load(amperes=4.0), feeds=(("pack", "load"),))
    result = assess(project).of(POWER).packs[0].discharge
    assert result.ended_by == "cut-off"
    assert 0.15 < result.charge < 1


def test_a_load_beyond_quarter_v_squared_over_r_is_named():
    project = a_project(
        a_pack(resistance_ohm=0.2), a_load("heater", 10.0, draw="power"), feeds=(("pack", "heater"),)
    )  # 13 V and 0.8 ohm give 53 W at the most; 120 W are wanted
    found = assess(project)
    finding = next(f for f in found.findings if f.id == "pack:pack")
    assert finding.verdict is Verdict.BREAKS
    assert "Cannot deliver" in finding.what
    assert "V²/4R" in finding.why
    assert found.of(POWER).packs[0].discharge.ended_by == "cannot deliver"


def test_a_linear_regulator_passes_current_and_a_switching_one_power():
    parts = (a_pack(resistance_ohm=1e-6), a_load("logic", 0.4, rated_v=3.3))
    linear = a_project(*parts, an_ldo(quiescent_a=0.002), feeds=(("pack", "ldo"), ("ldo", "logic")))
    flow = mode_flows(assess(linear).of(POWER), 0)["ldo"]
    assert flow.current_a == pytest.approx(0.402)
    assert flow.loss_w == pytest.approx(flow.input_v * 0.402 - 3.3 * 0.4)
    switching = a_project(
        *parts,
        a_buck("buck", 3.3, efficiency_curve=((0.1, 0.9), (1.0, 0.9))),
        feeds=(("pack", "buck"), ("buck", "logic")),
    )
    flow = mode_flows(assess(switching).of(POWER), 0)["buck"]
    assert flow.power_w == pytest.approx(3.3 * 0.4 / 0.9)
    assert flow.loss_w == pytest.approx(3.3 * 0.4 / 0.9 - 3.3 * 0.4)


@pytest.mark.parametrize(("volts", "share"), [(6.5, 0.93), (8.0, 0.93), (16.0, 0.86), (20.0, 0.86), (12.0, 2 / (1 / 0.93 + 1 / 0.86))])  # fmt: skip
def test_what_a_converter_takes_runs_straight_between_two_input_voltages(volts, share):
    """Half way between the two it takes the mean of both powers; outside them it stays at the nearer one."""
    project = a_project(a_supply("bench", volts), a_buck(**BY_INPUT_V), a_load("logic", 0.5, rated_v=5.0),
                        feeds=(("bench", "buck"), ("buck", "logic")))  # fmt: skip
    flow = mode_flows(assess(project).of(POWER), 0)["buck"]
    assert flow.power_w == pytest.approx(5.0 * 0.5 / share)
    assert flow.loss_w == pytest.approx(5.0 * 0.5 * (1 / share - 1))


def test_one_that_works_better_from_more_volts_still_delivers_below_both():
    """A boost measured at 3 V and 4 V, from a sagging cell: below 3 V its power is held, and does not run away."""
    figures = {"input_min_v": 1.0, "input_max_v": 5.0, "efficiency_curve": ((0.1, 0.6),), "curve_input_v": 3.0,
               "second_efficiency_curve": ((0.1, 0.9),), "second_curve_input_v": 4.0}  # fmt: skip
    boost = a_buck("boost", **figures)
    boost = boost.but(regulator=boost.regulator.but(topology="boost"))
    project = a_project(a_supply("bench", 3.0, resistance_ohm=0.5), boost, a_load("logic", 0.5, rated_v=5.0),
                        feeds=(("bench", "boost"), ("boost", "logic")))  # fmt: skip
    flow = mode_flows(assess(project).of(POWER), 0)["boost"]
    watts = 5.0 * 0.5 / 0.6
    assert flow.input_v == pytest.approx((3 + (9 - 4 * 0.5 * watts) ** 0.5) / 2)  # V = E − R·P/V
    assert flow.power_w == pytest.approx(watts)


def test_two_curves_without_their_voltages_leave_it_unknown():
    project = a_project(a_pack(), a_buck(**{**BY_INPUT_V, "curve_input_v": None}), a_load("logic", 0.5, rated_v=5.0),
                        feeds=(("pack", "buck"), ("buck", "logic")), limits=(a_limit("runtime", 1.0, direction="at least"),))  # fmt: skip
    assessed = assess(project)
    assert assessed.measure("runtime").verdict is Verdict.UNKNOWN
    assert "buck: two curves, and the two input voltages that they belong to" in assessed.measure("runtime").missing


@pytest.mark.parametrize(("lost", "said"), [("wire_length_m", "motor: the length of its wire"), ("wire_awg", "motor: the gauge of its wire")])  # fmt: skip
def test_half_of_a_wires_figures_is_not_none_of_them(lost, said):
    """Without its length a wire would cost nothing, and what its drop breaks would hold."""
    project = a_project(a_pack(), a_motor("motor"), feeds=(("pack", "motor"),),
                        limits=(a_limit("runtime", 1.0, direction="at least"),))  # fmt: skip
    feeds = tuple(f.but(wire_length_m=2.0, wire_awg=24).but(**{lost: None}) for f in project.concept.feeds)
    measure = assess(project.but(concepts=(project.concept.but(feeds=feeds),))).measure("runtime")
    assert measure.verdict is Verdict.UNKNOWN
    assert said in measure.missing


@pytest.mark.parametrize(("part", "field", "said"), [
    (a_buck("it"), "regulator.quiescent_a", "the current that it uses itself"),
    (an_ldo("it", 5.0), "regulator.dropout_v", "how far its input must lie above its output"),
    (a_driver("it"), "driver.on_resistance_ohm", "its resistance when it is on"),
    (a_driver("it"), "driver.quiescent_a", "the current that it uses itself"),
])  # fmt: skip
def test_what_is_not_said_of_a_converter_is_not_nothing(part, field, said):
    """Every regulator and bridge uses and loses something; without the figure nothing that rests on it holds."""
    project = a_project(a_pack(), part, a_load(rated_v=5.0), feeds=(("pack", "it"), ("it", "load")),
                        limits=(a_limit("runtime", 1.0, direction="at least"),))  # fmt: skip
    assert assess(project).measure("runtime").verdict is Verdict.HOLDS
    after = assess(edits.set_part_value(project, "it", field, None).after).measure("runtime")
    assert (after.verdict, after.missing) == (Verdict.UNKNOWN, (f"it: {said}",))


def test_a_supply_without_its_resistance_is_not_known():
    project = a_project(a_supply("adapter", resistance_ohm=None), a_load(), feeds=(("adapter", "load"),),
                        limits=(a_limit("lowest-voltage", 10.0, direction="at least"),))  # fmt: skip
    assert assess(project).measure("lowest-voltage").verdict is Verdict.UNKNOWN


def test_what_holds_a_motor_needs_its_current_at_the_start():
    """A pump that draws 1.6 A takes its stall current at the start (common practice); without it no peak holds."""
    pump = a_load("pump", 1.6, peak_a=2.0).but(kind="pump")
    wheel = a_load("wheel", 0.2, peak_a=0.5).but(
        flywheel=Flywheel(inertia_kg_m2=1e-4, max_speed_rad_s=600.0, max_torque_n_m=0.02)
    )
    for part in (pump, wheel):
        project = a_project(a_pack(), part, feeds=(("pack", part.id),), limits=(a_limit("peak-current", 9.0),))
        measure = assess(project).measure("peak-current")
        assert measure.verdict is Verdict.UNKNOWN
        assert f"{part.name}: its current while it starts" in measure.missing


def test_duty_and_rest_make_the_average():
    project = a_project(
        a_pack(), a_load("radio", 0.08, sleep_a=20e-6), feeds=(("pack", "radio"),), hours=1 / 60
    )  # 1 s in 60 s: the published duty average, 1.353 mA
    mode = project.concept.modes[0].but(uses=(Use(item="radio", state="active", duty=1 / 60, rest="sleep"),))
    concept = project.concept.but(modes=(mode,))
    project = project.but(concepts=(concept,))
    assert mode_flows(assess(project).of(POWER), 0)["radio"].current_a == pytest.approx(1.353e-3, rel=1e-3)


def test_start_up_adds_stall_currents_and_staggering_takes_all_but_one():
    """Several motors starting together add: common practice."""
    motors = an_item(a_motor(active_a=0.5, stall_a=2.4), 4)
    project = a_project(a_pack(), a_driver(), motors, feeds=(("pack", "driver"), ("driver", "motor")))
    together = measure(project, "peak-current").value
    assert together == pytest.approx(4 * 2.4, rel=1e-6)
    staggered = measure(edits.stagger(project, "work", True).after, "peak-current").value
    assert staggered == pytest.approx(3 * 0.5 + 2.4, rel=1e-6)


def test_what_runs_on_from_the_mode_before_does_not_start_again():
    project = a_project(a_pack(), a_driver(), a_motor(), feeds=(("pack", "driver"), ("driver", "motor")))
    project = edits.add_mode(project, "On").after
    project = edits.set_use(project, "on", "motor", "active").after
    peaks = assess(project).of(POWER).packs[0].peak_current_a
    assert peaks == pytest.approx((2.4, 0.5), rel=1e-6)


def test_what_pauses_within_a_mode_starts_again_and_what_runs_through_does_not():
    project = a_project(a_pack(), a_driver(), a_motor(), feeds=(("pack", "driver"), ("driver", "motor")), repeats=2)
    through = project.concept.modes[0].but(uses=(Use(item="motor", state="active"),))
    before = edits.add_mode(project.but(concepts=(project.concept.but(modes=(through,)),)), "On").after
    before = edits.add_phase(edits.set_use(before, "on", "motor", "active").after, "on", 60.0).after
    pausing = before.concept.modes[1].but(uses=(Use(item="motor", state="active", duty=0.5, rest="idle"),))
    project = before.but(concepts=(before.concept.but(modes=(before.concept.modes[0], pausing)),))
    assert assess(before).of(POWER).packs[0].peak_current_a[1] == pytest.approx(0.5, rel=1e-6)
    assert assess(project).of(POWER).packs[0].peak_current_a[1] == pytest.approx(2.4, rel=1e-6)


def test_losses_are_those_of_joule_and_nothing_is_lost_twice():
    """I²R in a lead, a bridge and a pack; what leaves the cells is what arrives and what warms: conservation of energy.

    Lead: 2 × 1.5 m of AWG 20, 33.3 mΩ/m (ASTM B258, 20 °C), 0.393 % a kelvin more in air of 25 °C.
    """
    driver = a_driver(channels=2, on_resistance_ohm=0.3, quiescent_a=0.01)
    project = a_project(a_pack(), driver, a_load("motor", 2.0), feeds=(("pack", "driver"), ("driver", "motor")))
    lead = Feed(source="pack", load="driver", wire_length_m=1.5, wire_awg=20)
    project = project.but(concepts=(project.concept.but(feeds=(lead, project.concept.feeds[1])),))
    flows = mode_flows(assess(project).of(POWER), 0)
    lead_ohm = 2 * 1.5 * 0.0333 * (1 + 0.00393 * 5)
    bridge, lost_in_lead = 2.0**2 * 0.3, 2.01**2 * lead_ohm
    rest = 0.01 * flows["driver"].input_v
    assert flows["driver"].current_a == pytest.approx(2.01, rel=1e-6)
    assert flows["driver"].loss_w == pytest.approx(bridge + lost_in_lead + rest, rel=2e-3)
    assert flows["pack"].loss_w == pytest.approx(2.01**2 * 4 * 0.006, rel=1e-6)
    dropped = flows["pack"].input_v - flows["driver"].input_v
    assert dropped == pytest.approx(2.01 * lead_ohm, rel=1e-3)
    assert flows["driver"].input_v - flows["motor"].input_v == pytest.approx(2.0 * 0.3)  # the bridge drops volts, once
    pair = mode_flows(assess(edits.set_count(project, "motor", 2).after).of(POWER), 0)  # a channel to each
    assert pair["driver"].input_v - pair["motor"].input_v == pytest.approx(2.0 * 0.3)
    wired = edits.set_wire(edits.set_count(project, "motor", 2).after, "motor", 1.5, 20).after
    pair = mode_flows(assess(wired).of(POWER), 0)  # and a lead
    assert pair["driver"].input_v - pair["motor"].input_v == pytest.approx(2.0 * (0.3 + lead_ohm), rel=1e-3)


@pytest.mark.parametrize(("rated", "raised"), [(6.0, 13.6 / 6), (12.0, 13.6 / 12), (24.0, 1.0)])
def test_a_motor_above_its_rated_voltage_starts_with_more(rated, raised):
    """Stall current is V/R: four cells of 3.4 V at rest; below its rating the datasheet's figure is kept."""
    project = a_project(a_pack(resistance_ohm=0.0), a_load("motor", 0.5, startup_a=2.0, rated_v=rated),
                        feeds=(("pack", "motor"),))  # fmt: skip
    assert measure(project, "peak-current").value == pytest.approx(2.0 * raised)
    behind = a_project(a_pack(), a_buck(volts=6.0), a_load("motor", 0.5, startup_a=2.0, rated_v=6.0),
                       feeds=(("pack", "buck"), ("buck", "motor")))  # fmt: skip
    assert assess(behind).of(POWER).most("motor", "current_a")[0] == pytest.approx(2.0)


def test_an_unknown_current_is_listed_and_never_zero():
    project = a_project(a_pack(), a_load("mystery", None), feeds=(("pack", "mystery"),))
    project = edits.set_part_value(project, "mystery", "load.idle_a", None).after
    found = measure(project, "runtime")
    assert found.verdict is Verdict.UNKNOWN
    assert found.missing == ("mystery: its current when active",)


def test_a_state_without_a_figure_takes_the_livelier_one():
    project = a_project(a_pack(), a_load(amperes=0.7, idle_a=None), feeds=(("pack", "load"),), uses={"load": "sleep"})
    assert mode_flows(assess(project).of(POWER), 0)["load"].current_a == pytest.approx(0.7)


def test_what_nothing_draws_from_yet_is_not_shown_as_running_for_ever():
    """Until the motor and the sensor are fed the runtime is not known; "without limit" would read as an answer."""
    project = a_project(a_pack(), a_load())
    found = measure(project, "runtime")
    assert (found.value, found.shown) == (float("inf"), "not known")
    fed = measure(feed_from(project, "load", "pack").after, "runtime")
    move = Move(found, fed)
    assert (move.moved, move.change, move.better, move.shown_change) == (True, None, None, fed.shown)
    assert not Move(found, found).moved
    assert Move(found, found).shown_change == "not known"


def test_an_unfed_load_and_a_missing_pack_are_gaps():
    assert measure(a_project(a_pack(), a_load()), "runtime").missing == ("load: what feeds it",)
    assert "a pack or a supply" in measure(a_project(a_load()), "runtime").missing


def test_a_missing_bound_that_breaks_already_breaks():
    project = a_project(a_pack(), a_load(amperes=6.0), a_load("mystery", None, idle_a=None),
                        feeds=(("pack", "load"), ("pack", "mystery")))  # fmt: skip
    from builders import a_limit

    project = edits.add_limit(project, a_limit("runtime", 5 * 3600, "at least")).after
    assert measure(project, "runtime").verdict is Verdict.BREAKS


def test_nothing_that_draws_never_ends():
    project = a_project(a_pack(), a_load(amperes=0.0), feeds=(("pack", "load"),))
    assert measure(project, "runtime").value == float("inf")


def test_energy_is_shared_out_whole():
    """What leaves the pack is what the loads take and what is lost: energy in = energy out + losses."""
    project = a_project(
        a_pack(resistance_ohm=0.01), a_driver(on_resistance_ohm=0.1), an_item(a_motor(), 2), a_buck(quiescent_a=0.003),
        an_ldo(quiescent_a=0.001), a_load("logic", 0.1, rated_v=3.3), a_part("bus", rail=Rail(max_current_a=10.0)),
        feeds=(("pack", "bus"), ("bus", "driver"), ("driver", "motor"), ("bus", "buck"), ("buck", "ldo"), ("ldo", "logic")),
    )  # fmt: skip
    project = edits.set_wire(project, "buck", 1.0, 24).after
    result = assess(project).of(POWER)
    flows, shares = mode_flows(result, 0), energy_shares(result)
    pack = flows["pack"]
    assert shares.total_wh == pytest.approx(pack.power_w + pack.loss_w, rel=2e-2)
    logic = flows["logic"]
    assert shares.by_item["logic"] == pytest.approx(3.3 * 0.1)
    assert logic.input_v == 3.3
    assert lane_power(result)["all"] == pytest.approx(sum(shares.by_item.values()))


def test_the_trace_follows_the_mission(mudlark_assessed):
    pack = mudlark_assessed.of(POWER).packs[0]
    trace = mission_trace(mudlark_assessed.of(POWER), pack)
    assert trace.times_s[-1] == pytest.approx(pack.discharge.runtime_s)
    assert trace.charge[0] == 1.0
    assert trace.charge[-1] == pytest.approx(0.15)
    current, volts, charge = trace.at(600.0)
    assert 1.5 < current < 2.0  # four motors at 420 mA and a little thinking
    assert 12 < volts < 13.6
    assert 0.9 < charge < 1.0
    assert trace.at(-1.0) is None


@given(extra=st.floats(0.001, 5), draw=st.sampled_from(("current", "power", "resistance")), count=st.integers(1, 4))
def test_a_load_added_never_lengthens_the_runtime(extra, draw, count):
    project = a_project(a_pack(resistance_ohm=0.01), a_load(amperes=0.8), feeds=(("pack", "load"),))
    more = edits.add_item(project, "all", a_load("more", extra, draw=draw), source="pack", count=count).after
    assert measure(more, "runtime").value <= measure(project, "runtime").value * (1 + 1e-9)


@given(st.floats(0.2, 3), st.floats(0.05, 0.9))
def test_more_capacity_or_less_reserve_never_shortens_it(amperes, reserve):
    project = a_project(a_pack(), a_load(amperes=amperes), feeds=(("pack", "load"),), energy_reserve=reserve)
    larger = edits.swap_part(project, "pack", a_pack("larger", capacity_ah=7.0)).after
    deeper = edits.set_energy_reserve(project, reserve / 2).after
    base = measure(project, "runtime").value
    assert measure(larger, "runtime").value >= base
    assert measure(deeper, "runtime").value >= base


@pytest.mark.parametrize("name", ["mudlark", "bat-counter"])
@pytest.mark.parametrize("peak", [False, True])
def test_the_voltage_of_one_item_is_that_of_the_whole_flow(name, peak):
    power = assess(demo(name)).of(POWER)
    for mode in range(len(power.concept.modes)):
        whole = mode_flows(power, mode, peak=peak)
        assert whole
        for item, flow in whole.items():
            assert input_voltage(power, item, mode, peak=peak) == flow.input_v
