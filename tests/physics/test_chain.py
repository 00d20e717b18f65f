"""Joints in series against d'Alembert: points turned by scipy, their accelerations and ways by differences in time."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.spatial.transform import Rotation
from scipy.special import ellipk

from wired_union.physics.chain import Joint, worst_poses
from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.physics.turning import joint_torque, pendulum, swing_torques

AXES = {"pitch": (0.0, -1.0, 0.0), "yaw": (0.0, 0.0, 1.0), "roll": (1.0, 0.0, 0.0)}
R = math.radians
PIECES = 60


def points(joints, q):
    """Every small piece of a chain in a pose: mass and place. Links are cut into many slices, not into three."""
    frames, ends, kg, spots = {-1: Rotation.identity()}, {-1: np.zeros(3)}, [], []
    for n, (joint, by) in enumerate(zip(joints, q, strict=True)):
        base, origin = frames[joint.on], ends[joint.on]
        turned = (
            Rotation.identity() if joint.turns == "slide" else Rotation.from_rotvec(by * np.array(AXES[joint.turns]))
        )
        frames[n] = base * turned
        along = frames[n].apply((1.0, 0.0, 0.0))
        start = origin + (by * along if joint.turns == "slide" else 0.0)
        ends[n] = start + joint.length_m * along
        slices = (np.arange(PIECES) + 0.5) / PIECES
        spots += [start + s * joint.length_m * along for s in slices] + [ends[n], start - joint.counter_m * along]
        kg += [joint.link_kg / PIECES] * PIECES + [joint.end_kg, joint.counter_kg]
    return np.array(kg), np.array(spots)


def asked(joints, q, speeds, accelerations):
    """What every joint must give: Σ m·(p'' + g)·∂p/∂q, less its spring."""
    h = 1e-4
    path = [points(joints, q + speeds * t + accelerations * t**2 / 2)[1] for t in (-h, 0.0, h)]
    kg, _ = points(joints, q)
    pulled = (path[0] - 2 * path[1] + path[2]) / h**2 + np.array((0.0, 0.0, G))
    found = []
    for k, joint in enumerate(joints):
        step = np.eye(len(joints))[k] * 1e-6
        way = (points(joints, q + step)[1] - points(joints, q - step)[1]) / 2e-6
        found.append(float(np.einsum("p,px,px->", kg, pulled, way)) - joint.lift)
    return np.array(found)


LENGTHS = st.floats(0.05, 0.4)


@st.composite
def chains(draw, fast=True):
    joints = []
    for n in range(draw(st.integers(1, 4))):
        turns = draw(st.sampled_from(["pitch", "pitch", "yaw", "roll", "slide"]))
        low = draw(st.floats(0, 0.1)) if turns == "slide" else draw(st.floats(-2.5, 1))
        joints.append(Joint(
            turns, draw(st.integers(-1 if n == 0 else max(n - 2, 0), n - 1)), low, low + draw(st.floats(0, 2)),
            draw(LENGTHS), draw(st.floats(0, 0.5)), draw(st.floats(0, 1)), draw(st.floats(0, 0.5)),
            draw(st.floats(0, 0.2)), draw(st.floats(0, 2)), draw(st.floats(0, 4)) if fast else 0.0,
            draw(st.floats(0, 5)) if fast else 0.0,
        ))  # fmt: skip
    return tuple(joints)


@settings(max_examples=10, deadline=None)
@given(chains(), st.integers(0, 10**6))
def test_no_pose_speed_or_acceleration_asks_for_more(joints, seed):
    dice = np.random.default_rng(seed)
    held = worst_poses(joints)
    low, high = np.array([j.low for j in joints]), np.array([j.high for j in joints])
    for _ in range(12):
        q = dice.uniform(low, high)
        speeds = np.array([j.speed for j in joints]) * dice.choice((-1, 0, 1), len(joints))
        pushed = np.array([j.acceleration for j in joints]) * dice.choice((-1, 1), len(joints))
        for one, torque in zip(held, asked(joints, q, speeds, pushed), strict=True):
            assert abs(torque) <= one.most * 1.002 + 1e-4


@settings(max_examples=25, deadline=None)
@given(chains(fast=False))
def test_the_worst_pose_takes_what_is_said_of_it(joints):
    still = np.zeros(len(joints))
    for k, one in enumerate(worst_poses(joints)):
        torque = asked(joints, np.array(one.pose), still, still)[k]
        assert torque == pytest.approx(one.weight, rel=1e-4, abs=1e-5)
        assert one.most == pytest.approx(abs(one.weight))
        assert all(j.low - 1e-9 <= q <= j.high + 1e-9 for j, q in zip(joints, one.pose, strict=True))


def test_accelerations_of_all_joints_add_in_the_pose_that_is_worst():
    """Two links as a pendulum pair, both speeding up the same way: by d'Alembert in the pose that the search names."""
    joints = (Joint("pitch", -1, R(-40), R(80), 0.3, 0.2, 0.3, acceleration=3.0),
              Joint("pitch", 0, R(-120), R(10), 0.25, 0.15, 0.4, acceleration=5.0))  # fmt: skip
    for k, one in enumerate(worst_poses(joints)):
        torque = asked(joints, np.array(one.pose), np.zeros(2), np.array((3.0, 5.0)))[k]
        assert one.most == pytest.approx(torque, rel=1e-4)


@given(st.floats(0, 2), st.floats(0.05, 0.8), st.floats(0, 1), st.floats(-170, 170), st.floats(0, 170), st.floats(0, 8))
def test_a_chain_of_one_joint_is_the_single_arm(payload, reach, link, start, span, acceleration):
    (one,) = worst_poses((Joint("pitch", -1, R(start), R(start + span), reach, link, payload,
                                acceleration=acceleration),))  # fmt: skip
    angles = np.linspace(start, start + span, 721)
    held = [abs(joint_torque(payload, reach, a, link, reach).torque_n_m) for a in angles]
    inertia = joint_torque(payload, reach, 0.0, link, reach).inertia_kg_m2
    assert one.most == pytest.approx(max(held) + inertia * acceleration, rel=1e-5, abs=1e-9)
    assert one.inertia == pytest.approx(inertia, abs=1e-12)


def test_an_upright_axis_bears_no_weight_and_a_tilted_one_does():
    arm = Joint("pitch", 0, R(-30), R(90), 0.3, 0.1, 0.5)
    base, _ = worst_poses((Joint("yaw", -1, R(-180), R(180), 0.05, 0.3, 0.2), arm))
    assert base.most == pytest.approx(0, abs=1e-12)
    shoulder = Joint("pitch", -1, R(0), R(90), 0.2, 0.1)
    wrist = Joint("yaw", 0, R(-90), R(90), 0.1, 0.0, 0.4)
    assert worst_poses((shoulder, wrist))[1].most == pytest.approx(0.4 * G * 0.1, rel=1e-4)  # the link stands upright


def test_two_links_that_turn_fast_push_as_in_the_textbook():
    """Two upright axes, so no weight: h = m·l₁·l₂·sin q₂; −h·(2·ω₁·ω₂ + ω₂²) and h·ω₁². Craig, the planar two-link arm
    (from memory), its bound taken with both terms one way."""
    fast = {"on": -1, "low": R(-90), "high": R(90)}
    joints = (Joint("yaw", length_m=0.3, speed=3.0, **fast),
              Joint("yaw", length_m=0.2, end_kg=0.5, speed=2.0, **{**fast, "on": 0}))  # fmt: skip
    h = 0.5 * 0.3 * 0.2
    first, second = worst_poses(joints)
    assert first.most == pytest.approx(h * (2 * 3.0 * 2.0 + 2.0**2), rel=1e-4)
    assert second.most == pytest.approx(h * 3.0**2, rel=1e-4)
    assert abs(second.pose[1]) == pytest.approx(math.pi / 2, abs=1e-2)


def test_a_weight_behind_the_joint_and_a_spring_lift_it():
    plain, balanced, sprung = (
        worst_poses((Joint("pitch", -1, 0.0, R(90), 0.3, 0.0, 0.5, **more),))[0].most
        for more in ({}, {"counter_kg": 1.5, "counter_m": 0.1}, {"lift": 0.5 * G * 0.15})
    )
    assert plain == pytest.approx(0.5 * G * 0.3)
    assert balanced == pytest.approx(0, abs=1e-12)
    assert sprung == pytest.approx(plain / 2)


@pytest.mark.parametrize("joints", [(), (Joint("pitch", 0, 0.0, 1.0, 0.1),), (Joint("pitch", -1, 0.0, 1.0, 0.1),) * 7])
def test_what_is_no_chain_is_refused(joints):
    with pytest.raises(ValueError, match="joint"):
        worst_poses(joints)


@given(st.floats(0.1, 175), st.floats(0.05, 2), st.floats(0.02, 1))
def test_a_pendulum_at_any_amplitude(amplitude, mass, centre):
    """Period by the complete elliptic integral, 4·√(I/m·g·d)·K(sin²(A/2)): scipy.special."""
    inertia = mass * centre**2 * 1.4
    found = pendulum(mass, centre, inertia, amplitude)
    weight = mass * G * centre
    assert found.period_s == pytest.approx(4 * math.sqrt(inertia / weight) * ellipk(math.sin(R(amplitude) / 2) ** 2))
    assert found.energy_j == pytest.approx(weight * (1 - math.cos(R(amplitude))))


def test_a_pendulum_comes_back_after_its_period_and_takes_no_torque_when_it_swings_little():
    inertia, (mass, centre) = 0.03, (0.5, 0.2)
    period = pendulum(mass, centre, inertia, 80.0).period_s
    run = solve_ivp(
        lambda _, y: (y[1], -mass * G * centre / inertia * math.sin(y[0])), (0, period), (R(80), 0.0), rtol=1e-10
    )
    assert run.y[0, -1] == pytest.approx(R(80), abs=1e-5)
    small = pendulum(mass, centre, inertia, 1.0).period_s
    _, free = swing_torques(mass, centre, inertia, 1.0, small, 361)
    assert abs(free).max() < 1e-4 * mass * G * centre
    _, forced = swing_torques(mass, centre, inertia, 1.0, small / 2, 361)  # four times as stiff: three times its weight
    assert abs(forced).max() == pytest.approx(3 * mass * G * centre * R(1), rel=1e-3)
