"""Loads to move in a whole project: what each needs, what its part gives, how power and mass answer."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import quad

import edits
from builders import a_driver, a_gearmotor, a_load, a_pack, a_part, a_project, a_rover, with_load
from wired_union.catalogue.parts import part
from wired_union.kernel.ripple import offered, ripple
from wired_union.physics.wheel import drive_torque, step_climb, step_friction
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.project.model import Motor, Mount, Space, Spring, Tank
from wired_union.project.motion_model import ArmLoad
from wired_union.subjects import assess
from wired_union.subjects.mass.gives import MASS
from wired_union.subjects.motion.assess import MOTION, natural_hz, voltages
from wired_union.subjects.motion.gears import matched_ratio, other_ratios, same_motor
from wired_union.subjects.motion.kinds.arm import arm_torque
from wired_union.subjects.motion.kinds.stored import direct_speed_m_s
from wired_union.subjects.motion.results import continuous_current_a
from wired_union.subjects.motion.room import room_refusal
from wired_union.subjects.motion.shaking import voltages_that_keep_out
from wired_union.subjects.motion.spiral import spiral
from wired_union.subjects.motion.usual import constants_of
from wired_union.subjects.power.gives import POWER
from wired_union.units import show

G = 9.80665


def result_of(project, load_id: str = "drive"):
    return assess(project).of(MOTION).of(load_id)


def test_wheels_need_what_statics_says():
    assessed = assess(a_rover())
    r, mass = assessed.of(MOTION).of("drive"), assessed.of(MASS).total_kg
    by_name = {p.name: p for p in r.points}
    assert by_name["slope"].torque_n_m == pytest.approx(drive_torque(mass, 12, 0.15, 0, 0.06, 4).torque_per_wheel_n_m)
    assert by_name["step"].torque_n_m == pytest.approx(step_climb(mass * G / 4, 0.06, 0.025).torque_n_m)
    assert by_name["usual"].torque_n_m == pytest.approx(0.15 * mass * G * 0.06 / 4)
    checks = {c.id: c for c in r.checks}
    assert checks["step"].use == pytest.approx(by_name["step"].torque_n_m / r.drive.stall_n_m)
    assert checks["step grip"].needed == pytest.approx(step_friction(0.06, 0.025, 4, 4))
    at_stop = result_of(edits.set_load(a_rover(), "drive", step_m=r.facts["stops_m"]).after)  # as the verdict says
    assert max(c.use for c in at_stop.checks if c.id in {"step", "step grip"}) == pytest.approx(1.0, abs=1e-6)


def test_the_usual_current_is_what_power_counts():
    """The motor's current at work is the one that rolling takes, not the datasheet's."""
    still = a_rover()
    moving = edits.set_load(still, "drive", rolling_resistance=0.3).after
    a, b = assess(still), assess(moving)
    motor = constants_of(a_gearmotor())
    for assessed, rolling in ((a, 0.15), (b, 0.3)):
        mass = assessed.of(MASS).total_kg
        power = assessed.of(POWER)
        current = power.currents.of(power.currents.average, "motor")[0] / 4  # all four copies together
        assert current == pytest.approx(motor.current_at(rolling * mass * G * 0.06 / 4))
    assert b.measure("runtime").value < a.measure("runtime").value
    assert next(i for i in still.concept.items if i.id == "motor").part.load.active_a == 0.4  # the part stays as it is


@pytest.mark.parametrize("figure", ["stall_torque_n_m", "rated_voltage_v", "no_load_current_a"])
def test_a_motor_that_lacks_a_figure_draws_what_nobody_knows(figure):
    """Its current at work as the datasheet has it is that of another task: 0.4 A here, more than rolling takes."""
    without = assess(edits.set_part_value(a_rover(), "motor", f"motor.{figure}", None).after)
    runtime = without.measure("runtime")
    assert runtime.verdict == "unknown"
    assert any(m.startswith("motor: its current when active") for m in runtime.missing)
    assert without.measure("peak-current").verdict == "unknown"


def test_a_heavier_machine_draws_more_and_the_sag_slows_it():
    light, heavy = a_rover(), edits.set_part_value(a_rover(), "frame", "mass_kg", 6.0).after
    a, b = assess(light), assess(heavy)
    assert b.measure("runtime").value < a.measure("runtime").value
    assert b.measure("speed:drive").value < a.measure("speed:drive").value
    weak = edits.set_part_value(light, "pack", "pack.cell_resistance_ohm", 0.05).after
    c = assess(weak)
    assert c.of(MOTION).of("drive").drive.sag_v < a.of(MOTION).of("drive").drive.sag_v
    assert c.measure("speed:drive").value < a.measure("speed:drive").value
    assert voltages("motor", c.of(POWER), (0,))[1] == c.of(MOTION).of("drive").drive.sag_v
    assert voltages("frame", c.of(POWER), (0,)) == (None, None)


def test_power_and_motion_are_at_their_fixed_point():
    """Assessing again from any earlier assessment changes nothing: one pass each way is enough."""
    project = a_rover()
    fresh = assess(project)
    other = assess(edits.set_part_value(project, "frame", "mass_kg", 9.0).after)
    again = assess(project, other)
    for m in fresh.all_measures.values():
        if m.value is not None:
            assert again.measure(m.id).value == pytest.approx(m.value, rel=1e-12, abs=0), m.id


def test_another_ratio_moves_speed_current_runtime_and_mass():
    project = a_rover()
    swapped = edits.swap_part(project, "motor", a_gearmotor("slow", no_load_speed_rad_s=4.1, stall_torque_n_m=2.6,
                                                            gear_ratio=200.0).but(mass_kg=0.2))  # fmt: skip
    moved = {m.id for m in ripple(assess(project), swapped).moved}
    assert "runtime" in moved
    after = assess(swapped.after)
    assert after.measure("speed:drive").value < assess(project).measure("speed:drive").value
    assert after.measure("mass").value > assess(project).measure("mass").value


def test_ground_of_which_nothing_is_said_may_be_slippery_and_is_no_better_than_a_dry_floor():
    """A wheel's own grip is that on a hard dry floor: on sand or wet grass it has half of it (common practice)."""
    unsaid = result_of(a_rover(friction=None), "drive")
    assert (unsaid.verdict, unsaid.missing) == ("unknown", ("the grip of the ground",))
    assert not {"grip", "step grip"} & {c.id for c in unsaid.checks}
    steep = result_of(a_rover(friction=None, slope_deg=30.0), "drive")  # 0.58 and the rolling besides, of 0.6
    assert next(c for c in steep.checks if c.id == "grip").verdict == "breaks"
    assert result_of(a_rover(friction=0.6), "drive").missing == ()


def test_two_driven_wheels_carry_twice_as_much_each():
    project = a_rover()
    change = edits.drive_wheels(project, "drive", 2)
    assert change.sentence == "Drive: 2 wheels driven"
    assert next(i for i in change.after.concept.items if i.id == "motor").count == 2
    two, four = assess(change.after), assess(project)
    ratio = two.of(MASS).total_kg / four.of(MASS).total_kg
    slope = [next(p for p in a.of(MOTION).of("drive").points if p.name == "slope").torque_n_m for a in (two, four)]
    assert slope[0] == pytest.approx(2 * ratio * slope[1])
    step = next(p for p in two.of(MOTION).of("drive").points if p.name == "step").torque_n_m
    lift = step_climb(two.of(MASS).total_kg * G / 4, 0.06, 0.025)
    grips = [next(c for c in a.of(MOTION).of("drive").checks if c.id == "grip").needed for a in (two, four)]
    assert grips[0] == pytest.approx(2 * grips[1])  # half the weight presses on the wheels that pull
    assert step == pytest.approx(max(lift.torque_n_m, lift.push_n * 2 * 0.06 / 2))  # two push two over


@pytest.mark.parametrize(
    ("load", "check", "words"),
    [
        ({"slope_deg": 50.0}, "grip", "Drive slips"),
        ({"step_m": 0.07}, "step", "Drive stops at the step"),
        ({"speed_m_s": 0.9}, "speed", "Drive is too slow"),
        ({"rolling_resistance": 1.5}, "all day", "Drive overheats"),
        (
            {"slope_deg": 70.0, "rolling_resistance": 2.0, "friction": 90.0, "driven_wheels": 1, "motors": 1},
            "slope",
            "Drive does not climb the slope",
        ),
    ],
)
def test_what_breaks_is_said_in_plain_words(load, check, words):
    findings = {f.id: f for f in assess(a_rover(**load)).findings}
    finding = findings[f"motion:drive:{check}"]
    assert (finding.verdict, finding.title) == ("breaks", words)
    assert finding.hard
    assert finding.items == ("motor",)


def test_what_is_missing_is_unknown_and_named():
    assert result_of(a_rover(actuator="")).missing == ("what moves it",)
    assert result_of(a_rover(wheel="")).missing == ("which wheel it runs on",)
    gone = edits.remove_item(a_rover(), "motor").after
    assert assess(gone).measure("motion:drive").verdict == "unknown" or not assess(gone).measure("motion:drive").limit
    assert "Not known yet: what moves it." in [f.what for f in assess(gone).findings]
    bare = edits.swap_part(a_rover(), "motor", a_part("mystery", "gearmotor", motor=Motor(rated_voltage_v=12.0))).after
    assert result_of(bare).missing == ("mystery: its torque, speed and currents",)


def test_an_arm_over_its_whole_range():
    r = result_of(with_load("arm", actuator="motor", payload_kg=0.3, reach_m=0.2, from_deg=-60, to_deg=80), "load")
    assert r.facts["angle_deg"] == pytest.approx(0, abs=4)
    assert r.facts["torque_n_m"] == pytest.approx(0.3 * G * 0.2, rel=5e-3)
    high = result_of(with_load("arm", actuator="motor", payload_kg=0.3, reach_m=0.2, from_deg=40, to_deg=80), "load")
    assert high.facts["torque_n_m"] == pytest.approx(0.3 * G * 0.2 * math.cos(math.radians(40)))
    geared = result_of(with_load("arm", actuator="motor", ratio=3.0, payload_kg=0.3, reach_m=0.2), "load")
    assert geared.points[1].torque_n_m == pytest.approx(r.points[1].torque_n_m / 3, rel=1e-2)


def test_a_servo_is_judged_at_the_voltage_it_gets_and_not_at_its_rating():
    """A pack that cannot deliver, or no feed, leaves what it moves unknown: no figure of the datasheet steps in."""
    servo = part("servo-standard-1-n-m")
    pack = a_pack(series=2, chemistry="nimh", resistance_ohm=0.01)
    project = a_project(pack, servo, feeds=(("pack", servo.id),))
    project = edits.add_load(project, "arm", "Load", actuator=servo.id, payload_kg=0.05, reach_m=0.1).after
    found = result_of(project, "load")
    volts = found.drive.sag_v
    assert volts < 3
    stall = 1.0 / (2.0 - 0.15) * (volts / 3.0 - 0.15)  # linear model: 6 V and 2 A blocked make 3 Ω
    assert next(c for c in found.checks if c.id == "torque").use == pytest.approx(0.05 * G * 0.1 / stall)
    unfed = result_of(edits.feed_from(project, servo.id, None).after, "load")
    assert (unfed.verdict, unfed.missing) == ("unknown", (f"{servo.name}: the voltage it gets",))
    weak = edits.set_part_value(project, "pack", "pack.cell_resistance_ohm", 9.0).after
    assert result_of(weak, "load").verdict == "unknown"


@settings(max_examples=80, deadline=None)
@given(st.floats(-400, 400), st.floats(-400, 400), st.floats(0, 5), st.sampled_from(["level", "upright"]))
def test_an_arm_is_never_easier_than_anywhere_on_its_way(start, end, acceleration, axis):
    """Moments summed by hand at a thousand angles and both ways of accelerating; an upright axis bears no weight."""
    load = ArmLoad(id="x", name="x", payload_kg=0.4, reach_m=0.3, link_mass_kg=0.2, from_deg=start, to_deg=end,
                   acceleration_rad_s2=acceleration, axis=axis)  # fmt: skip
    inertia = 0.4 * 0.3**2 + 0.2 * 0.3**2 / 3
    weight = 0.0 if axis == "upright" else G * (0.4 * 0.3 + 0.2 * 0.15)
    angles = np.radians(np.linspace(start, end, 1001))
    most = max(abs(weight * np.cos(angles) + way * inertia * acceleration).max() for way in (-1, 1))
    found, angle = arm_torque(load)
    assert found >= most * (1 - 1e-12)
    assert found == pytest.approx(most, rel=1e-3, abs=1e-9)
    assert min(start, end) - 1e-9 <= angle <= max(start, end) + 1e-9


def test_motors_share_a_load_and_loads_add_on_a_motor():
    figures = {"actuator": "motor", "payload_kg": 0.6, "drum_diameter_m": 0.04}
    alone = with_load("drum", **figures)
    pair = edits.set_count(alone, "motor", 2).after
    one, two = result_of(alone, "load"), result_of(pair, "load")
    assert two.points[0].torque_n_m == pytest.approx(one.points[0].torque_n_m / 2)
    assert ("shared by", "2 × motor") in [(r.name, r.text) for r in two.rows]
    each = result_of(edits.set_load(pair, "load", motors=1).after, "load")  # the second copy moves something else
    assert each.points[0].torque_n_m == pytest.approx(one.points[0].torque_n_m)
    both = edits.add_load(alone, "arm", "Arm", actuator="motor", payload_kg=0.2, reach_m=0.1).after
    arm = 0.2 * G * 0.1
    assert result_of(both, "load").points[0].torque_n_m == pytest.approx(one.points[0].torque_n_m + arm)
    assert result_of(both, "arm").points[1].torque_n_m == pytest.approx(one.points[0].torque_n_m + arm)
    motor = constants_of(a_gearmotor())
    power = assess(both).of(POWER)
    drawn = power.currents.of(power.currents.average, "motor")[0]
    assert drawn == pytest.approx(motor.current_at(one.points[0].torque_n_m + arm))


def test_loads_of_other_modes_neither_add_nor_slow_each_other():
    project = with_load("drum", actuator="motor", payload_kg=0.6, drum_diameter_m=0.04)
    project = edits.add_load(project, "arm", "Arm", actuator="motor", payload_kg=0.2, reach_m=0.1).after
    project = edits.add_mode(project, "Reach").after
    project = edits.set_use(project, "reach", "motor", "active").after
    first = project.concept.modes[0].id
    together = result_of(project, "load").points[0].torque_n_m
    apart = edits.set_load(edits.set_load(project, "load", mode=first).after, "arm", mode="reach").after
    drum = 0.6 * G * 0.02
    assert together == pytest.approx(drum + 0.2 * G * 0.1)
    assert result_of(apart, "load").points[0].torque_n_m == pytest.approx(drum)
    assert result_of(apart, "arm").points[1].torque_n_m == pytest.approx(0.2 * G * 0.1)
    gone = edits.set_use(apart, "reach", "motor", "off").after
    assert result_of(gone, "arm").missing == ("a mode in which motor works",)
    assert result_of(gone, "load").missing == ()


def test_the_sag_of_a_mode_it_rests_in_does_not_slow_a_load():
    project = a_rover(a_load("heater", 12.0))
    project = edits.feed_from(project, "heater", "pack").after
    project = edits.set_part_value(project, "pack", "pack.cell_resistance_ohm", 0.05).after
    project = edits.add_mode(project, "Warm").after
    first = project.concept.modes[0].id
    project = edits.set_use(edits.set_use(project, first, "heater", "off").after, first, "motor", "active").after
    project = edits.set_use(edits.set_use(project, "warm", "heater", "active").after, "warm", "motor", "off").after
    cold = edits.set_part_value(project, "heater", "load.active_a", 0.0).after
    assert result_of(project).drive.sag_v == pytest.approx(result_of(cold).drive.sag_v)
    warm = edits.set_use(project, first, "heater", "active").after
    assert result_of(warm).drive.sag_v < result_of(cold).drive.sag_v - 0.5


def test_a_drum_lifts_at_the_speed_of_its_motor():
    r = result_of(with_load("drum", actuator="motor", payload_kg=2.0, drum_diameter_m=0.04, speed_m_s=0.1), "load")
    torque = 2.0 * G * 0.02
    assert r.points[0].torque_n_m == pytest.approx(torque)
    assert r.speed_m_s == pytest.approx(r.drive.motor.speed_at(r.drive.sag_v, torque) * 0.02)


def test_a_screw_with_its_own_motor_and_as_an_actuator():
    r = result_of(with_load("screw", actuator="motor", force_n=60.0, stroke_m=0.1, time_s=30.0), "load")
    names = {row.name: row.text for row in r.rows}
    assert names["holds by itself"] == "yes"
    assert {c.id for c in r.checks} == {"torque", "buckling", "whirling", "time", "all day"}
    assert any("No switch at the ends" in n for n in r.notes)
    turn = r.drive.motor.speed_at(r.drive.sag_v, r.points[1].torque_n_m)
    assert r.speed_m_s == pytest.approx(turn * 0.002 / (2 * math.pi))
    steep = result_of(
        with_load("screw", actuator="motor", force_n=60.0, lead_m=0.02, starts=8, limit_switches=True), "load"
    )
    assert any("does not hold by itself" in n for n in steep.notes)
    cut = result_of(with_load("screw", actuator="motor", force_n=60.0, lead_m=0.02), "load")  # half a pitch of 20 mm
    assert cut.verdict == "unknown" and "leaves no core" in cut.missing[0]
    actuator = part("leadscrew-actuator-12-v-200-mm-150-n")
    project = edits.add_load(a_project(a_pack(), actuator), "screw", "Load", actuator=actuator.id, force_n=75.0,
                             stroke_m=0.18, time_s=20.0).after  # fmt: skip
    unfed = result_of(project, "load")
    assert (unfed.verdict, unfed.missing) == ("unknown", (f"{actuator.name}: the voltage it gets",))
    project = edits.feed_from(project, actuator.id, "pack").after
    found = result_of(project, "load")
    low = assess(project).of(POWER).lowest_v(actuator.id)[0]
    assert 12.0 < low < 13.5  # more than its rated 12 V turns it faster, but the screw bears no more than its figure
    assert found.speed_m_s == pytest.approx(0.024 * low / 12 * (1 - 75 / 150 / (low / 12)), rel=1e-3)
    low_pack = edits.set_part_value(project, "pack", "pack.series", 2).after
    assert (
        next(c for c in result_of(low_pack, "load").checks if c.id == "force").use > 0.9
    )  # half the volts, half the push
    assert {c.id: round(c.use, 2) for c in found.checks} == {"force": 0.5, "stroke": 0.72, "time": 0.69}
    longer = edits.set_load(project, "load", stroke_m=0.25).after
    assert next(c for c in result_of(longer, "load").checks if c.id == "stroke").verdict == "breaks"


def launcher(every_s=2.0, ratio=1.0, gear=1.0, speed=900.0, **motor):
    fast = a_gearmotor("fast", no_load_speed_rad_s=speed, stall_torque_n_m=0.02, gear_ratio=gear, **motor)
    project = a_project(a_pack(), a_driver(), fast, feeds=(("pack", "driver"), ("driver", "fast")))
    return edits.add_load(project, "spin", "Load", actuator="fast", wheel_diameter_m=0.08, inertia_kg_m2=2e-4,
                          shot_mass_kg=0.05, release_speed_m_s=8.0, every_s=every_s, ratio=ratio, gear_efficiency=1.0).after  # fmt: skip


def test_a_launcher_wheel_gives_energy_shot_by_shot():
    """Against a ball pressed on a spinning wheel, followed by small steps until nothing slips any more."""
    r = result_of(launcher(), "load")
    names = {row.name: row.text.replace("\u202f", " ") for row in r.rows}
    assert names["energy of one shot"] == "1.6 J"
    turn = r.facts["turn_rad_s"]
    wheel, speed, force, dt = turn, 0.0, 30.0, 1e-6
    while speed < 0.5 * 0.04 * wheel:  # rubs at one side of the ball, which rolls at half the rim's speed
        wheel, speed = wheel - force * 0.04 / 2e-4 * dt, speed + force / 0.05 * dt
    assert speed == pytest.approx(8.0, rel=1e-3)
    assert names["the wheel loses"] == f"{2e-4 * (turn**2 - wheel**2) / 2:.3g} J"
    assert names["speed it loses a shot"] == f"{(1 - wheel / turn) * 100:.2g} %"
    assert names["speed at release"] == f"8 m/s to {0.5 * 0.04 * turn:.3g} m/s"
    assert {"speed", "rhythm"} == {c.id for c in r.checks}


def test_a_screw_keeps_three_times_from_buckling_and_a_fifth_from_whirling():
    """Both common practice. Euler 1744: P = π² E I/L², I = π d⁴/64, E of steel 206 GPa (Shigley); the root of a screw of 8 mm
    and 2 mm lead is 7 mm."""
    r = result_of(
        with_load(
            "screw", actuator="motor", force_n=60.0, stroke_m=0.3, mean_diameter_m=0.008, lead_m=0.002, ends="supported"
        ),
        "load",
    )
    checks = {c.id: c for c in r.checks}
    euler = math.pi**2 * 206e9 * (math.pi * 0.007**4 / 64) / 0.3**2
    assert checks["buckling"].use == pytest.approx(3 * 60.0 / euler, rel=1e-6)
    rows = {row.name: row.text.split("\u202f")[0] for row in r.rows}
    free = r.drive.motor.speed_at(r.drive.nominal_v, 0.0)
    assert checks["whirling"].use == pytest.approx(free / 0.8 / float(rows["whirls at"]), rel=5e-3)


def test_what_breaks_in_motion_is_on_the_rail_without_a_limit():
    rover = edits.set_load(a_rover(), "drive", slope_deg=45.0, rolling_resistance=0.5).after
    assessed = assess(rover)
    assert assessed.of(MOTION).of("drive").verdict == "breaks"
    motion = assessed.subject("motion")
    assert assessed.stage_verdict(motion) == "breaks"
    assert all(m.subject != "motion" for m in assessed.measures), "no limit of the brief says it"
    near = assess(a_rover(friction=0.55, slope_deg=20.0))  # 0.51 of 0.55: nothing breaks, and no limit says it is near
    assert near.of(MOTION).of("drive").verdict == "tight"
    assert near.stage_verdict(near.subject("motion")) == "tight"


def test_a_rhythm_is_unknown_without_the_rotor_unless_it_breaks_already():
    def thrown(every_s, gear=3.0, **motor):
        project = launcher(every_s, 2.0, gear, 1250.0, **motor)
        return result_of(project, "load"), assess(project).measure("motion:load")

    unknown, measure = thrown(20.0)
    assert unknown.missing == ("fast: its rotor inertia and gear",)
    assert unknown.verdict == "unknown"
    assert measure.verdict == "unknown"
    assert measure.value is None
    broken, measure = thrown(0.01)
    assert broken.verdict == "breaks"
    assert measure.value > 1
    rotor = 1e-5
    known, _ = thrown(20.0, rotor_inertia_kg_m2=rotor)
    assert known.missing == ()
    # by hand: speed nears the no-load speed as e^(-t/T), T = J ω0/M, J = wheel + rotor × (gear × ratio)²
    drive, inertia = known.drive, 2e-4 + rotor * (3 * 2) ** 2
    free, stall = drive.motor.speed_at(drive.sag_v, 0.0) / 2, drive.stall_n_m * 2
    slow = 8.0 / (0.5 * 0.04)
    fast = slow * (1 + 0.5 * 0.05 * 0.04**2 / inertia)
    again = inertia * free / stall * math.log((free - slow) / (free - fast))
    assert next(c for c in known.checks if c.id == "rhythm").use == pytest.approx(again / 20.0)


def test_an_arm_has_the_inertia_of_its_payload_and_of_a_rod():
    """A mass at the end and a slender rod about its end, m r² + m l²/3: any table of moments of inertia."""
    r = result_of(with_load("arm", actuator="motor", payload_kg=0.3, reach_m=0.2, link_mass_kg=0.15), "load")
    row = next(row.text for row in r.rows if row.name == "inertia about the joint")
    assert float(row.split("\u202f")[0]) == pytest.approx(0.3 * 0.04 + 0.15 * 0.04 / 3, rel=1e-2)


def test_stored_energy_next_to_the_motor():
    spring = a_part("spring", "spring", spring=Spring(stiffness_n_per_m=3000, travel_m=0.05, efficiency=0.9))
    project = with_load("stored", spring, actuator="motor", store="spring", mass_kg=0.3, release_speed_m_s=4.0,
                        recharge_s=5.0, winding_diameter_m=0.016)  # fmt: skip
    r = result_of(project, "load")
    assert r.speed_m_s == pytest.approx(math.sqrt(2 * 0.9 * 3.75 / 0.3))
    assert r.facts["brake_m_s"] == pytest.approx(r.drive.motor.speed_at(r.drive.nominal_v, 0) * 0.008)
    assert r.facts["brake_m_s"] < 4.0
    assert any("let it free-wheel" in n for n in r.notes)
    assert any("eye protection" in n for n in r.notes)
    power = r.drive.motor.stall_torque_at(r.drive.nominal_v) * r.drive.motor.speed_at(r.drive.nominal_v, 0) / 4
    assert direct_speed_m_s(r.drive, 0.3, 0.05) == pytest.approx((3 * power * 0.05 / 0.3) ** (1 / 3))
    assert r.facts["direct_m_s"] < r.speed_m_s  # the reason why people store energy
    measured = edits.set_load(project, "load", curve=((0.0, 0.0), (0.03, 60.0), (0.05, 200.0))).after
    found = result_of(measured, "load")
    assert found.facts["energy_j"] == pytest.approx(0.03 * 30 + 0.02 * 130)
    too_far = edits.set_load(project, "load", travel_m=0.08).after
    assert next(c for c in result_of(too_far, "load").checks if c.id == "travel").verdict == "breaks"


def test_a_store_loaded_by_hand_needs_no_motor_and_a_curve_keeps_count_and_efficiency():
    spring = a_part("spring", "spring", spring=Spring(stiffness_n_per_m=1000.0, travel_m=0.05, efficiency=0.8))
    project = edits.set_count(with_load("stored", spring, store="spring", mass_kg=0.1), "spring", 2).after
    by_hand = result_of(project, "load")
    assert (by_hand.missing, by_hand.verdict) == ((), "holds")
    assert by_hand.speed_m_s == pytest.approx(math.sqrt(2 * 0.8 * 2 * 1.25 / 0.1))
    curve = ((0.0, 0.0), (0.05, 50.0))  # the same spring, measured
    measured = result_of(edits.set_load(project, "load", curve=curve).after, "load")
    assert measured.speed_m_s == pytest.approx(by_hand.speed_m_s)
    pressed = edits.set_part_value(project, "spring", "spring.preload_n", 20.0).after
    energy = 2 * (1.25 + 20.0 * 0.05)
    assert result_of(pressed, "load").facts["energy_j"] == pytest.approx(energy)
    assert result_of(pressed, "load").facts["force_n"] == pytest.approx(2 * (50.0 + 20.0))


def test_gas_and_rubber_rise_by_their_own_law():
    """By integration of Boyle's law and of λ − λ⁻² (scipy's quad), both ending at the same force as a straight spring."""
    figures = {"stiffness_n_per_m": 1000.0, "travel_m": 0.1, "preload_n": 100.0, "efficiency": 0.8}
    gas, rubber = Spring(**figures, law="gas"), Spring(**{**figures, "preload_n": 0.0}, law="rubber", free_length_m=0.1)
    for spring, force in (
        (gas, lambda x: 100.0 / (1 - x / 0.2)),  # 200 N where half of its gas is left
        (rubber, lambda x: 100.0 * (1 + x / 0.1 - (1 + x / 0.1) ** -2) / 1.75),
    ):
        project = with_load("stored", a_part("spring", "spring", spring=spring), actuator="motor", store="spring",
                            mass_kg=0.1, winding_diameter_m=0.016)  # fmt: skip
        found = result_of(project, "load")
        energy = quad(force, 0, 0.1)[0]
        assert found.facts["energy_j"] == pytest.approx(energy)
        assert found.speed_m_s == pytest.approx(math.sqrt(2 * 0.8 * energy / 0.1))
        assert [p.torque_n_m for p in found.points] == pytest.approx(
            [force(0.05) * 0.008, force(0.1) * 0.008], rel=1e-3
        )
        shorter = result_of(edits.set_load(project, "load", travel_m=0.06).after, "load")
        assert shorter.facts["energy_j"] == pytest.approx(quad(force, 0, 0.06)[0])


def test_a_spring_whose_law_lacks_a_figure_is_not_known():
    figures = {"stiffness_n_per_m": 1000.0, "travel_m": 0.1}
    for law, lacks in (
        ("rubber", "its length before it is stretched"),
        ("gas", "the force at the start of its travel"),
    ):
        spring = a_part("spring", "spring", spring=Spring(**figures, law=law))
        found = result_of(with_load("stored", spring, actuator="motor", store="spring", mass_kg=0.1), "load")
        assert found.verdict == "unknown"
        assert lacks in found.missing[0]
    far = a_part("spring", "spring", spring=Spring(**figures, law="gas", preload_n=100.0))
    project = with_load("stored", far, store="spring", mass_kg=0.1, travel_m=0.25)
    assert result_of(project, "load").verdict == "unknown"  # beyond the end of its gas


def test_half_wound_is_the_force_half_of_the_way():
    """F₀ + k·x/2 on the winding's radius: a constant-force spring pulls as hard half of the way as at its end."""
    spring = a_part("spring", "spring", spring=Spring(stiffness_n_per_m=100.0, travel_m=0.1, preload_n=20.0))
    project = with_load("stored", spring, actuator="motor", store="spring", mass_kg=0.1, winding_diameter_m=0.016)
    half, full = (p.torque_n_m for p in result_of(project, "load").points)
    assert (half, full) == (pytest.approx(25.0 * 0.008), pytest.approx(30.0 * 0.008))
    measured = edits.set_load(project, "load", curve=((0.0, 0.0), (0.02, 40.0), (0.1, 40.0))).after
    assert [p.torque_n_m for p in result_of(measured, "load").points] == pytest.approx([40.0 * 0.008] * 2)


def test_what_a_motor_carries_all_day_follows_from_the_heat_of_its_winding():
    """I²R through the can in still air; common practice puts 25 mm cans near 30 % of stall, those over 35 mm near 10 %."""
    small = part("gearmotor-25-mm-12-v-34-1")
    assert continuous_current_a(small) == pytest.approx(0.3 * small.motor.stall_current_a, rel=0.02)
    large = a_part("can", "motor", length_m=0.067, width_m=0.042,
                   motor=Motor(rated_voltage_v=12.0, stall_current_a=100.0, stall_torque_n_m=0.7,
                               no_load_current_a=1.5, no_load_speed_rad_s=1600.0))  # fmt: skip
    surface = math.pi * 0.042 * (0.067 + 0.021)  # mantle and both ends
    heat = continuous_current_a(large) ** 2 * 0.12 * (1 + 0.00393 * 80)
    assert heat * (1 + 0.4) / (12.0 * surface) == pytest.approx(80.0)
    assert 0.05 < continuous_current_a(large) / 100 < 0.12
    unsized = large.but(length_m=None)
    assert continuous_current_a(unsized) == pytest.approx(10.0)
    given = large.but(motor=large.motor.but(continuous_current_a=7.0))
    assert continuous_current_a(given) == 7.0


def test_a_tank_shows_both_bounds_and_its_pump():
    tank = a_part("tank", "tank", tank=Tank(volume_m3=4e-4, max_pressure_pa=8e5))
    project = with_load("stored", tank, store="tank", mass_kg=0.1, release_speed_m_s=5.0, pump_flow_m3_s=1e-4,
                        recharge_s=10.0, valve_share=0.5)  # fmt: skip
    r = result_of(project, "load")
    names = {row.name: row.text for row in r.rows}
    assert " to " in names["energy, adiabatic to isothermal"]
    assert {c.id for c in r.checks} == {"energy", "recharge", "pressure"}
    assert r.verdict == "holds"
    bound = result_of(edits.set_load(project, "load", valve_share=None).after, "load")
    assert r.speed_m_s == pytest.approx(bound.speed_m_s * math.sqrt(0.5))  # half of the energy
    assert (bound.verdict, bound.missing) == ("unknown", ("how much of the air's energy valve and pipe let through",))
    slow = result_of(edits.set_load(project, "load", valve_share=None, release_speed_m_s=500.0).after, "load")
    assert slow.verdict == "breaks"  # even without any loss
    unpumped = result_of(edits.set_load(project, "load", pump_flow_m3_s=None).after, "load")
    assert (unpumped.verdict, unpumped.missing) == ("unknown", ("how much air the pump gives",))


def test_a_reaction_wheel_a_canopy_and_a_flap():
    wheel, canopy = part("reaction-wheel-60-mm"), part("parachute-flat-0p6-m")
    project = a_project(wheel, canopy, a_part("body", mass_kg=0.8))
    project = edits.add_load(
        project, "slew", "Turn", actuator=wheel.id, body_inertia_kg_m2=5e-3, angle_deg=90, time_s=4
    ).after
    project = edits.add_load(
        project, "canopy", "Fall", actuator=canopy.id, mass_kg=1.0, speed_m_s=7.0, drift_m=300.0
    ).after
    project = edits.add_load(project, "flap", "Lid", mass_kg=0.02, area_m2=0.005, air_speed_m_s=8.0).after
    turn, fall, lid = assess(project).of(MOTION).loads
    assert {c.id: round(c.use, 3) for c in turn.checks} == {"torque": 0.245, "wheel speed": 0.149}
    assert fall.speed_m_s == pytest.approx(math.sqrt(2 * G / (1.225 * 0.75 * math.pi / 4 * 0.36)), rel=1e-3)
    assert lid.checks[0].use == pytest.approx(0.02 * G / 0.2352)
    assert assess(project).measure("speed:fall").direction == "at most"
    assert edits.set_load(project, "fall", mass_kg=None).after.concept.loads[1].mass_kg is None


def test_other_ratios_of_the_same_motor(mudlark_assessed):
    r = mudlark_assessed.of(MOTION).of("drive")
    family = same_motor(r.drive.item.part)
    assert {p.motor.stall_current_a for p in family} == {2.4}
    assert all("25 mm 12 V" in p.name for p in family)
    gears = other_ratios(mudlark_assessed.project, r)
    assert [g.ratio for g in gears] == sorted(g.ratio for g in gears)
    uses = [g.stall_use for g in gears]
    assert uses == sorted(uses, reverse=True)  # a ratio that gives torque …
    carrying = [g.speed_rad_s for g in gears if g.stall_use < 0.8]
    assert carrying == sorted(carrying, reverse=True)  # … takes speed
    untold = edits.set_part_value(mudlark_assessed.project, "gearmotor", "motor.rotor_inertia_kg_m2", None).after
    assert matched_ratio(assess(untold).of(MOTION).of("drive"), 1e-3) is None
    given = edits.set_part_value(mudlark_assessed.project, "gearmotor", "motor.rotor_inertia_kg_m2", 1e-7).after
    assert matched_ratio(assess(given).of(MOTION).of("drive"), 1e-3) == pytest.approx(100.0)


def test_remedies_are_ratios_that_mend(mudlark):
    steep = edits.set_load(mudlark, "drive", step_m=0.045).after
    finding = next(f for f in assess(steep).findings if f.id == "motion:drive:step")
    before = next(c for c in assess(steep).of(MOTION).of("drive").checks if c.id == "step")
    assert finding.remedies
    for remedy, words in offered(assess(steep), finding):
        checks = {c.id: c for c in assess(remedy.change.after).of(MOTION).of("drive").checks}
        assert checks["step"].use < before.use
        assert checks["speed"].use <= 1 or "Drive speed would break" in words
    slow = edits.set_load(mudlark, "drive", speed_m_s=0.37).after
    finding = next(f for f in assess(slow).findings if f.id == "motion:drive:speed")
    for remedy in finding.remedies:
        assert assess(remedy.change.after).measure("speed:drive").value > assess(slow).measure("speed:drive").value


def test_the_spiral_of_the_demo_settles_near_what_it_weighs(mudlark_assessed):
    a = mudlark_assessed
    found = spiral(a.project.concept, a.of(MOTION).of("drive"), a.of(MASS), a.of(POWER), 18_000.0)
    assert found.settles_kg == pytest.approx(found.rounds[-1], rel=1e-3)
    assert 0 < found.growth < 1
    longer = spiral(a.project.concept, a.of(MOTION).of("drive"), a.of(MASS), a.of(POWER), 72_000.0)
    assert longer.growth > found.growth
    assert spiral(a.project.concept, a.of(MOTION).of("corer"), a.of(MASS), a.of(POWER), 18_000.0) is None


def test_what_turns_near_what_swings_is_found():
    project = a_rover()
    turning = {t.what: t for t in result_of(project).turning}["rotor"]
    assert turning.least_hz < turning.hertz < turning.most_hz
    drive, power = result_of(project).drive, assess(project).of(POWER)
    easiest = min(p.torque_n_m for p in result_of(project).points)
    gear = drive.item.part.motor.gear_ratio
    full = drive.motor.speed_at(power.full_v["motor"], easiest) * gear / (2 * math.pi)
    assert turning.most_hz == pytest.approx(full)
    hertz = turning.most_hz
    near = edits.add_mount(project, "Mast").after
    near = edits.set_mount(near, "mast", frequency_hz=hertz * 1.1).after
    finding = next(f for f in assess(near).findings if f.id.startswith("shake:mast"))
    assert finding.verdict == "tight"
    assert "9.1 % away" in finding.what.replace("\u202f", " ")
    within = edits.set_mount(near, "mast", frequency_hz=turning.hertz).after
    assert "which lies within" in next(f.what for f in assess(within).findings if f.id.startswith("shake:mast"))
    far = edits.set_mount(near, "mast", frequency_hz=hertz * 2.6).after
    assert not [f for f in assess(far).findings if f.id.startswith("shake")]
    twice = edits.set_mount(near, "mast", frequency_hz=hertz * 2.3).after
    (finding,) = (f for f in assess(twice).findings if f.id.startswith("shake"))
    assert "shakes twice in a turn" in finding.what
    assert natural_hz(Mount(id="m", name="m", stiffness_n_per_m=900.0, mass_kg=0.35)) == pytest.approx(8.07, abs=0.01)
    assert natural_hz(Mount(id="m", name="m")) is None
    unheard = edits.add_mount(project, "Mast").after
    assert any(f.title == "Mast may shake" and f.verdict == "unknown" for f in assess(unheard).findings)
    assert edits.remove_mount(far, "mast").after.concept.mounts == ()


def test_parts_that_do_not_fit_the_room_are_refused_by_name():
    space = Space(gate_width_m=0.30, gate_height_m=0.20, length_m=0.5)
    wide = a_part("plate", length_m=0.4, width_m=0.35, height_m=0.01)
    assert room_refusal(wide, space).replace("\u202f", " ") == (
        "350 mm × 10 mm across; the gate is 300 mm × 200 mm: 50 mm over"
    )
    turned = a_part("mast", length_m=0.45, width_m=0.19, height_m=0.29)
    assert room_refusal(turned, space) is None  # turned, it passes
    assert room_refusal(a_part("pole", length_m=0.9, width_m=0.01, height_m=0.01), space).startswith("900")
    assert room_refusal(a_part("unknown"), space) is None
    project = edits.set_space(edits.set_space(a_project(wide), "gate_width_m", 0.3).after, "gate_height_m", 0.2).after
    finding = next(f for f in assess(project).findings if f.id == "room:plate")
    assert finding.hard
    arm = with_load("arm", actuator="motor", reach_m=0.5)
    arm = edits.set_space(arm, "reach_m", 0.4).after
    assert any(f.id == "room:motor" for f in assess(arm).findings)


def test_a_part_refused_by_the_gate_is_no_candidate(mudlark):
    from wired_union.choose.candidates import candidates

    narrow = edits.set_space(edits.set_space(mudlark, "gate_width_m", 0.09).after, "gate_height_m", 0.09).after
    found = candidates(assess(narrow), "battery")
    refused = next(c for c in found.refused if c.part.id == "pack-4s-8-ah-lifepo4")
    assert any("the gate is" in r.text for r in refused.refusals)


@pytest.mark.parametrize(
    ("edit", "said"),
    [
        (lambda p: edits.set_load(p, "drive", slope_deg=95.0), "slope"),
        (lambda p: edits.set_load(p, "drive", driven_wheels=0), "driven wheels"),
        (lambda p: edits.set_load(p, "ghost", slope_deg=5.0), "no load “ghost”"),
        (lambda p: edits.add_load(p, "wheels", " "), "Give the load a name"),
        (lambda p: edits.add_load(p, "rocket", "Up"), "no kind of load “rocket”"),
        (lambda p: edits.set_space(p, "length_m", -1.0), "above zero"),
        (lambda p: edits.set_mount(p, "ghost", mass_kg=1.0), "no mount"),
    ],
)
def test_edits_that_make_no_sense_are_refused(edit, said):
    with pytest.raises(ProjectError, match=said):
        edit(a_rover())


def test_loads_are_kept_in_the_file_and_taken_out(tmp_path):
    project = with_load("stored", actuator="motor", curve=((0.0, 0.0), (0.05, 30.0)))
    assert from_text(to_text(project), tmp_path / "x") == project
    assert edits.remove_load(project, "load").after.concept.loads == ()


def mended(project, load: str, check: str) -> dict[str, bool]:
    """What is offered for a check of a load, and whether the check holds or is tight then."""
    found = assess(project)
    finding = next(f for f in found.findings if f.subject == "motion" and f.of == load and f.detail == check)
    after = {r.label: assess(r.change.after).of(MOTION).of(load) for r, _ in offered(found, finding) if r.change}
    return {label: next(c.use for c in result.checks if c.id == check) <= 1 for label, result in after.items()}


def test_a_screw_that_lacks_torque_is_offered_a_ratio_a_lead_and_another_motor():
    """Torque at the screw follows its lead (F·l/2π without friction), and a ratio or a second motor divides it."""
    project = with_load(
        "screw", actuator="motor", force_n=900.0, lead_m=0.02, mean_diameter_m=0.03, stroke_m=0.1, friction=0.1
    )
    does = mended(project, "load", "torque")
    for words in ("ratio of", "lead of", "one more motor"):
        assert any(words in label for label in does), (words, does)
    assert all(holds for label, holds in does.items() if "ratio of" in label)


def test_a_stroke_that_takes_too_long_is_offered_a_faster_lead():
    project = with_load("screw", actuator="motor", force_n=20.0, lead_m=0.002, stroke_m=0.1, time_s=20.0)
    does = mended(project, "load", "time")
    assert any("lead of" in label and holds for label, holds in does.items()), does


def test_which_voltage_keeps_out_of_a_frequency_and_how_hard_a_gram_shakes():
    """With the voltages that are named, the wheel turns at the edges of the band at its easiest and hardest."""
    project = a_rover()
    power = assess(project).of(MOTION).of("drive")
    turning = next(t for t in power.turning if t.what == "wheel")
    turns = turning.hertz
    watched = edits.set_mount(edits.add_mount(project, "Mast").after, "mast", frequency_hz=turns * 1.05).after
    result = assess(watched).of(MOTION)
    shake = next(s for s in result.shakes if s.source.endswith("wheel"))
    low, high = voltages_that_keep_out(result.of("drive"), shake)
    drive, torques = result.of("drive").drive, [p.torque_n_m for p in result.of("drive").points]
    for volts, edge, torque in ((low, 0.8, min(torques)), (high, 1.2, max(torques))):
        speed = drive.motor.speed_at(volts, torque) / (2 * math.pi)
        assert speed == pytest.approx(edge * turns * 1.05)
    said = next(f for f in assess(watched).findings if f.check == "shake" and f.detail == shake.source)
    pulls = 1e-5 * (2 * math.pi * turning.most_hz) ** 2
    assert f"pulls with {show(pulls, 'N')}" in said.why
    assert "It keeps out below" in said.why
