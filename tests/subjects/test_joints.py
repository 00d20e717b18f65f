"""Joints in series, legs, grippers and rollers that draw in, in whole projects."""

import math

import pytest

import edits
from builders import a_gearmotor, a_part, a_project, an_item, with_load
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered
from wired_union.physics.growth import ALLOWANCES
from wired_union.project.errors import ProjectError
from wired_union.project.model import Space
from wired_union.subjects import assess
from wired_union.subjects.motion.assess import MOTION
from wired_union.subjects.motion.kinds.intake import pull_n
from wired_union.subjects.motion.usual import constants_of, least_asking, shaping_parts
from wired_union.subjects.power.gives import POWER

G = 9.80665


def an_arm(**elbow):
    """A shoulder of 300 mm that carries the elbow's motor and link; only the shoulder is driven by `motor`."""
    small = a_part("small", "gearmotor", mass_kg=0.1, motor=a_gearmotor().motor, load=a_gearmotor().load)
    forearm = an_item(a_part("forearm", mass_kg=0.2), knowledge="estimate")
    project = with_load("joint", forearm, small, actuator="motor", link_m=0.3, link_mass_kg=0.1, from_deg=0, to_deg=90)
    figures = {"actuator": "small", "on": "load", "link": "forearm", "link_m": 0.2, "payload_kg": 0.25,
               "from_deg": -90, "to_deg": 0, **elbow}  # fmt: skip
    return edits.add_load(project, "joint", "Elbow", **figures).after


def result_of(project, load_id: str = "load"):
    return assess(project).of(MOTION).of(load_id)


def check(result, name):
    return next(c for c in result.checks if c.id == name)


def mass_of(project, item_id):
    item = next(i for i in project.concept.items if i.id == item_id)
    return item.part.mass_kg * (1 + ALLOWANCES[item.knowledge])


def test_links_motors_and_payload_count_where_they_sit():
    """Stretched out level: moments by hand, each mass with the allowance of what is known of it."""
    project = an_arm()
    forearm, small = mass_of(project, "forearm"), mass_of(project, "small")
    by_hand = G * (0.1 * 0.15 + small * 0.3 + forearm * 0.4 + 0.25 * 0.5)
    shoulder, elbow = result_of(project), result_of(project, "elbow")
    assert shoulder.points[1].torque_n_m == pytest.approx(by_hand)
    assert shoulder.facts["most"] == pytest.approx(by_hand)
    assert elbow.facts["most"] == pytest.approx(G * (forearm * 0.1 + 0.25 * 0.2))
    assert ("in the pose", "Load 0°, Elbow 0°") in [(r.name, r.text) for r in shoulder.rows]


def test_a_joint_that_is_alone_is_the_single_arm():
    figures = {"payload_kg": 0.3, "from_deg": -60, "to_deg": 80}
    arm = result_of(
        with_load("arm", actuator="motor", reach_m=0.2, link_mass_kg=0.15, acceleration_rad_s2=2.0, **figures)
    )
    one = result_of(
        with_load("joint", actuator="motor", link_m=0.2, link_mass_kg=0.15, acceleration_rad_s2=2.0, **figures)
    )
    assert [(c.id, c.use) for c in one.checks] == [(c.id, pytest.approx(c.use, rel=1e-6)) for c in arm.checks]


def test_a_mass_that_nobody_knows_makes_every_joint_of_the_chain_unknown():
    project = an_arm()
    weightless = edits.set_part_value(project, "small", "mass_kg", None).after
    assert result_of(weightless).missing == ("small: its mass",)
    assert result_of(weightless).verdict == "unknown"
    unsaid = edits.set_load(edits.set_load(project, "elbow", link="").after, "elbow", link_mass_kg=None).after
    assert "Elbow: the mass of its link" in result_of(unsaid).missing
    usual = [m for m in assess(unsaid).measure("runtime").missing if m.startswith("motor")]
    assert usual or result_of(unsaid).verdict == "unknown"


def test_a_ring_of_joints_is_said_and_not_worked_out():
    ring = edits.set_load(an_arm(), "load", on="elbow").after
    result = result_of(ring)
    assert result.impossible
    assert "sits on itself in a ring" in result.missing[0]
    assert assess(ring).findings
    with pytest.raises(ProjectError, match="load"):
        edits.set_load(an_arm(), "elbow", on="nothing")
    gone = edits.remove_load(an_arm(), "load").after
    assert gone.concept.loads[0].on == ""


def test_the_motor_draws_what_its_worst_pose_takes():
    project = edits.set_load(an_arm(payload_kg=0.02), "load", link_m=0.15).after
    motor = constants_of(a_gearmotor())
    power = assess(project).of(POWER)
    drawn = power.currents.of(power.currents.average, "motor")[0]
    assert drawn == pytest.approx(motor.current_at(result_of(project).facts["most"]))


def test_a_whole_arm_reaches_as_far_as_its_links_together():
    project = edits.set_space(an_arm(), "reach_m", 0.45).after
    assert project.brief.space == Space(reach_m=0.45)
    assert any("reaches" in f.what and f.of == "motor" for f in assess(project).findings)
    roomy = edits.set_space(project, "reach_m", 0.55).after
    assert not any("reaches" in f.what for f in assess(roomy).findings)


def test_a_slide_lifts_with_a_force_through_its_pinion():
    project = with_load("joint", actuator="motor", turns="slide", link_m=0.1, link_mass_kg=0.0, payload_kg=1.0,
                        travel_m=0.2, pinion_m=0.03)  # fmt: skip
    assert result_of(project).facts["most"] == pytest.approx(0, abs=1e-9)  # level
    mast = edits.add_load(project, "joint", "Mast", link_m=0.05, link_mass_kg=0.0, from_deg=90, to_deg=90).after
    mast = edits.set_load(mast, "load", on="mast").after
    result = result_of(mast)
    assert result.facts["most"] == pytest.approx(G)
    assert result.points[1].torque_n_m == pytest.approx(G * 0.015)
    assert result.speed_m_s == pytest.approx(result.points[1].speed_rad_s * 0.015, rel=0.05)


def test_a_joint_that_is_too_weak_is_offered_a_spring_that_helps():
    project = an_arm(payload_kg=3.0)
    weak = next(f for f in assess(project).findings if f.check == "motion" and f.detail == "torque" and f.of == "load")
    spring = next(r for r, _ in offered(assess(project), weak) if "spring" in r.label)
    before, after = result_of(project).facts["most"], result_of(spring.change.after).facts["most"]
    assert after < 0.6 * before


def test_best_mix_counts_nothing_of_a_joint_whose_chain_is_open():
    project = an_arm()
    assert shaping_parts(project.concept) == {"forearm", "small", "motor"}
    open_link = least_asking(project.concept, frozenset({"forearm"}))
    assert all(result_of(project.but(concepts=(open_link,)), x).facts["most"] == 0 for x in ("load", "elbow"))
    assert least_asking(project.concept, frozenset({"battery"})) == project.concept


def test_a_further_gear_passes_on_what_is_said():
    figures = {"actuator": "motor", "payload_kg": 0.6, "drum_diameter_m": 0.04, "ratio": 2.0}
    plain, lossy = with_load("drum", **figures), with_load("drum", gear_efficiency=0.8, **figures)
    one, other = result_of(plain), result_of(lossy)
    assert other.points[0].torque_n_m == pytest.approx(one.points[0].torque_n_m / 0.8)
    assert ("further gear", "2:1, its loss not said") in [(r.name, r.text) for r in one.rows]
    assert one.verdict is Verdict.UNKNOWN
    assert "Load: what its further gear passes on" in one.missing
    assert other.verdict is not Verdict.UNKNOWN
    said = edits.set_load(plain, "load", gear_efficiency=0.9).sentence
    assert said == "Load: gear efficiency 0.9"


def test_a_leg_swung_faster_than_it_likes_takes_torque():
    """Even to and fro of a small swing at twice its pace: I·ω² − m·g·d = 3·m·g·d by hand."""
    figures = {"actuator": "motor", "mass_kg": 0.3, "centre_m": 0.12, "amplitude_deg": 3.0}
    own = result_of(with_load("swing", **figures))
    period = 2 * math.pi * math.sqrt(4 / 3 * 0.12 / G)
    assert own.takes_s[0] * 2 == pytest.approx(period, rel=1e-3)
    fast = result_of(with_load("swing", period_s=period / 2, **figures))
    assert fast.facts["most"] == pytest.approx(3 * 0.3 * G * 0.12 * math.radians(3), rel=5e-3)
    assert check(fast, "speed").needed <= math.radians(3) * 4 * math.pi / period + 1e-9


def test_a_gripper_by_friction_and_by_work():
    """1 kg, μ 0.5, two fingers, twice: 19.61 N each; a lead of 2 mm at 30 %: 2·19.61·2 mm/(2π·0.3) by hand."""
    figures = {"actuator": "motor", "held_kg": 1.0, "acceleration_m_s2": 0.0, "advance_m": 0.002, "efficiency": 0.3}
    result = result_of(with_load("grip", **figures))
    assert result.facts["force_n"] == pytest.approx(G * 2)
    assert result.points[1].torque_n_m == pytest.approx(2 * G * 2 * 0.002 / (2 * math.pi * 0.3))
    egg = result_of(with_load("grip", most_force_n=15.0, **figures))
    assert check(egg, "crushing").verdict is Verdict.BREAKS
    assert check(egg, "blocked force").use > check(egg, "crushing").use


def test_a_roller_draws_in_what_it_grips_at_a_speed_between_two():
    project = with_load("intake", actuator="motor", squeeze_n=5.0, friction=0.8, ramp_friction=0.3, ramp_deg=30.0,
                        piece_kg=0.2, roller_m=0.04, least_m_s=0.02, most_m_s=5.0)  # fmt: skip
    result = result_of(project)
    behind = 0.3 * (5 + 0.2 * G * math.cos(math.radians(30))) + 0.2 * (G / 2 + 0.02**2 / 0.12)
    assert pull_n(result.load, 0.02) == pytest.approx(behind)
    assert check(result, "grip").use == pytest.approx(behind / 4.0)
    assert result.points[1].torque_n_m == pytest.approx(behind * 0.02)
    full = assess(project).of(POWER).full_v["motor"]
    motor = constants_of(a_gearmotor())
    assert check(result, "throwing").needed == pytest.approx(motor.speed_at(full, 0.0) * 0.02)
    rolling = result_of(edits.set_load(project, "load", rolls=True).after)
    assert check(rolling, "throwing").needed == pytest.approx(check(result, "throwing").needed / 2)
    slippery = edits.set_load(project, "load", friction=0.5).after
    slips = next(f for f in assess(slippery).findings if f.detail == "grip")
    mended = [r.change.after for r, _ in offered(assess(slippery), slips)]
    assert mended
    assert all(check(result_of(p), "grip").use <= 1 for p in mended)


@pytest.mark.parametrize("kind", ["joint", "swing", "grip", "intake"])
def test_unfed_nothing_is_said_to_hold(kind):
    figures = {"link_mass_kg": 0.1} if kind == "joint" else {}
    project = edits.add_load(a_project(a_gearmotor()), kind, "Load", actuator="motor", **figures).after
    assert result_of(project).verdict == "unknown"
