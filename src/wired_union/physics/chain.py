"""Joints in series: what each must hold and push in the worst pose of all, found by search.

Every body is point masses: a slender even link as a sixth of its mass at each end and the rest in its middle, which has
its mass, its centre and its inertia exactly. With J the way of a mass by a joint and H the change of that way,

    torque = Σ m·g·J_z  +  Σ m·J·(Σ J_j·α_j)  +  Σ m·J·(Σ H_ij·ω_i·ω_j)

Craig, Introduction to Robotics: Mechanics and Control, manipulator dynamics (from memory).
"""

import math
from functools import lru_cache
from itertools import product
from typing import Any

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.physics.method import require

Array = NDArray[Any]
Spot = tuple[float, float, float]
MOST_JOINTS, FIRST_POSES, KEPT, STEPS = 6, 2000, 12, 17
WIDTHS = (0.5, 0.5, 0.1, 0.015, 0.002)
"""Share of a joint's range that it is moved by either way, round by round."""


class Joint(Struct, frozen=True):
    """One joint with the link that it moves. A slide moves its link along itself; its figures are m, m/s and N."""

    turns: str
    """pitch, yaw, roll or slide"""
    on: int
    """place in the chain of the joint that it sits on, before its own; −1 for the body"""
    low: float
    high: float
    """range: rad, or m"""
    length_m: float
    link_kg: float = 0.0
    end_kg: float = 0.0
    """at the end of the link: payload, and motors that sit there"""
    counter_kg: float = 0.0
    counter_m: float = 0.0
    """behind the joint"""
    lift: float = 0.0
    """what a spring lifts with: N·m, or N"""
    speed: float = 0.0
    acceleration: float = 0.0


class Held(Struct, frozen=True):
    """What a joint must give in its worst pose."""

    most: float
    """torque or force, everything included"""
    weight: float
    """the part of it that holds the weight, less the spring's; its sign says which way"""
    inertia: float
    """about the joint in that pose; of a slide the mass"""
    pose: tuple[float, ...]
    """of every joint of the chain"""
    points: tuple[Spot, ...]
    """the body's end of each link, then each link's end"""


class Posed(Struct, frozen=True):
    """A chain in many poses: its axes, where masses are and by which joint's link, and each one's way by each joint."""

    axes: Array
    """(joints, 3, poses)"""
    kg: Array
    """(masses,)"""
    way: Array
    """(joints, masses, 3, poses), 0 for a joint that does not move that mass"""
    ends: Array
    """(joints, 3, poses), where each link ends"""


@lru_cache(maxsize=256)
def worst_poses(joints: tuple[Joint, ...]) -> tuple[Held, ...]:
    """What every joint of a chain must give in the pose that is worst for it.

    An acceleration and a speed may go either way and all at once; what the speeds push adds by its size, which is a
    bound. Searched from a grid of poses, then joint by joint around the worst of them.

    Raises:
        ValueError: no joint, more than six, or one that sits on nothing before it.
    """
    require(0 < len(joints) <= MOST_JOINTS, f"a chain has 1 to {MOST_JOINTS} joints")
    require(all(-1 <= j.on < n for n, j in enumerate(joints)), "each joint sits on one before it")
    starts, owner = _starts(joints)
    poses = _refined(joints, starts, owner)
    most, weight, inertia = _asked(joints, poses, owner)
    found = []
    for k in range(len(joints)):
        own = np.nonzero(owner == k)[0]
        best = own[most[own].argmax()]
        points = _posed(joints, poses[best : best + 1]).ends[..., 0]
        found.append(Held(float(most[best]), float(weight[best]), float(inertia[best]), tuple(poses[best].tolist()),
                          ((0.0, 0.0, 0.0), *((float(x), float(y), float(z)) for x, y, z in points))))  # fmt: skip
    return tuple(found)


def _starts(joints: tuple[Joint, ...]) -> tuple[Array, Array]:
    """For every joint the poses of a grid in which it takes the most; and whose each is."""
    each = max(2, min(9, int(FIRST_POSES ** (1 / len(joints)))))
    grid = np.array(list(product(*(_stops(j, each) for j in joints))))
    count = len(joints)
    asked = _asked(joints, np.tile(grid, (count, 1)), np.repeat(np.arange(count), len(grid)))[0].reshape(count, -1)
    kept = [grid[np.argsort(-asked[k])[:KEPT]] for k in range(count)]
    return np.concatenate(kept), np.repeat(np.arange(count), [len(x) for x in kept])


def _stops(joint: Joint, count: int) -> list[float]:
    if joint.high - joint.low < 1e-12 or (joint.on < 0 and joint.turns == "yaw"):
        return [joint.low]  # nothing follows from how the whole chain is turned about the upright
    even = set(np.linspace(joint.low, joint.high, count).tolist())
    quarters = {n * math.pi / 2 for n in range(-8, 9)} if joint.turns != "slide" else set()  # level and upright
    return sorted(even | {q for q in quarters if joint.low <= q <= joint.high and count > 2})


def _refined(joints: tuple[Joint, ...], poses: Array, owner: Array) -> Array:
    """Each pose moved joint by joint to where its owner takes the most, in ever finer steps."""
    low, high = np.array([j.low for j in joints]), np.array([j.high for j in joints])
    free = [n for n, j in enumerate(joints) if len(_stops(j, 2)) > 1]
    for share in WIDTHS:
        for n in free:
            steps = np.linspace(-share, share, STEPS) * (high[n] - low[n])
            tried = np.repeat(poses, STEPS, axis=0)
            tried[:, n] = np.clip(tried[:, n] + np.tile(steps, len(poses)), low[n], high[n])
            most = _asked(joints, tried, np.repeat(owner, STEPS))[0].reshape(len(poses), STEPS)
            poses = tried.reshape(len(poses), STEPS, -1)[np.arange(len(poses)), most.argmax(axis=1)]
    return poses


def _asked(joints: tuple[Joint, ...], poses: Array, owner: Array) -> tuple[Array, Array, Array]:
    """Of each pose: what the joint that owns it must give, what of that is weight, and its inertia about it."""
    posed = _posed(joints, poses)
    each = np.arange(len(poses))
    own = np.moveaxis(posed.way[owner, :, :, each], 0, -1)
    weight = posed.kg @ own[:, 2] * G - np.array([j.lift for j in joints])[owner]
    loaded = own * posed.kg[:, None, None]
    inertia = np.einsum("pxn,jpxn->jn", loaded, posed.way)
    moved = np.array([j.acceleration for j in joints]) @ np.abs(inertia)
    return np.abs(weight) + moved + _thrown(joints, posed, loaded), weight, inertia[owner, each]


def _thrown(joints: tuple[Joint, ...], posed: Posed, loaded: Array) -> Array:
    """What the speeds of all joints push with, at most."""
    found = np.zeros(loaded.shape[-1])
    for i, first in enumerate(joints):
        if first.turns == "slide" or first.speed == 0:
            continue
        turned = _cross(loaded, posed.axes[i]) * posed.way[i].any(axis=(1, 2))[:, None, None]
        for j in range(i, len(joints)):
            if joints[j].speed:
                pushed = np.einsum("pxn,pxn->n", turned, posed.way[j])
                found += np.abs(pushed) * first.speed * joints[j].speed * (1 if i == j else 2)
    return found


def _cross(a: Array, b: Array) -> Array:
    """Vector products along the last axis but one."""
    (ax, ay, az), (bx, by, bz) = np.moveaxis(a, -2, 0), np.moveaxis(b, -2, 0)
    return np.stack((ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx), axis=-2)


def _posed(joints: tuple[Joint, ...], poses: Array) -> Posed:
    """The chain in poses of shape (poses, joints)."""
    count = len(poses)
    origins: list[Array] = []
    axes: list[Array] = []
    frames: list[Array] = []
    ends: list[Array] = []
    kg: list[float] = []
    spots, carriers = [], []
    for n, joint in enumerate(joints):
        base = frames[joint.on] if joint.on >= 0 else np.broadcast_to(np.eye(3)[..., None], (3, 3, count))
        origin = ends[joint.on] if joint.on >= 0 else np.zeros((3, count))
        frame, axis = _turned(joint.turns, base, poses[:, n])
        start = origin + frame[0] * poses[:, n] if joint.turns == "slide" else origin
        end = start + frame[0] * joint.length_m
        for column, value in ((origins, origin), (axes, axis), (frames, frame), (ends, end)):
            column.append(value)
        for mass, spot in ((joint.link_kg / 6, start), (joint.link_kg * 2 / 3, (start + end) / 2),
                           (joint.link_kg / 6 + joint.end_kg, end),
                           (joint.counter_kg, start - frame[0] * joint.counter_m)):  # fmt: skip
            if mass > 0:
                kg.append(mass)
                spots.append(spot)
                carriers.append(n)
    way = np.zeros((len(joints), len(kg), 3, count))
    before = _before(joints)
    for j, joint in enumerate(joints):
        for p, body in enumerate(carriers):
            if before[body][j]:
                way[j, p] = axes[j] if joint.turns == "slide" else _cross(axes[j], spots[p] - origins[j])
    return Posed(np.array(axes), np.array(kg), way, np.array(ends))


def _before(joints: tuple[Joint, ...]) -> list[list[bool]]:
    """For the link of each joint, which joints move it."""
    found: list[list[bool]] = []
    for n, joint in enumerate(joints):
        above = found[joint.on] if joint.on >= 0 else [False] * len(joints)
        found.append([moves or k == n for k, moves in enumerate(above)])
    return found


def _turned(turns: str, base: Array, by: Array) -> tuple[Array, Array]:
    """The frame of a link (along, left, up; each (3, poses)) in the one it sits on, and the axis it moves about."""
    along, left, up = base
    c, s = np.cos(by), np.sin(by)
    if turns == "pitch":
        return np.stack((along * c + up * s, left, up * c - along * s)), -left
    if turns == "yaw":
        return np.stack((along * c + left * s, left * c - along * s, up)), up
    if turns == "roll":
        return np.stack((along, left * c + up * s, up * c - left * s)), along
    return np.stack((along, left, up)), along
