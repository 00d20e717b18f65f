"""What sensors see: how small a thing they find and where, what hides behind the machine, the ground, two pictures."""

import math
from collections.abc import Iterator
from functools import cached_property, lru_cache
from itertools import pairwise

import numpy as np
from msgspec import Struct

from wired_union.kernel.results import Verdict, share_verdict
from wired_union.kernel.subject import Node
from wired_union.physics.battery import Array
from wired_union.physics.boxes import Box, met_at
from wired_union.physics.sight import GroundBand, beam_grid, field_of_view, ground_band
from wired_union.project.fit_model import Beams, Sight
from wired_union.project.model import Concept, Item, Project
from wired_union.subjects.fit.boxes import Placed, placed_parts

RAYS_WIDE, RAYS_HIGH, SWEPT = 17, 11, 7
"""Rays that look for what hides: across a view, up it, and over a sweep."""
MOST_HIDING = 2000
"""Copies that are looked at: what is further down a longer list is said not to be."""
MOST_KEPT = 1024
"""Boxes whose meetings with rays are kept: an alternative changes one of many."""
HIDDEN = 0.005
"""Share of a view that may hide behind the machine unsaid: a ray or two of the edge."""


class Look(Struct, frozen=True):
    """From where and in which direction a sensor looks, in the machine's frame."""

    at: tuple[float, float, float]
    yaw_deg: float
    pitch_deg: float


class Swept(Struct, frozen=True):
    """What a sweep covers, and the angle between two readings; None where nothing says how many there are."""

    covers_deg: float
    step_deg: float | None


class SightResult(Struct, frozen=True, dict=True):
    """What one sensor sees. Lengths that nothing tells are None; `missing` says what they lack."""

    sight: Sight
    item: Item | None
    look: Look | None
    smallest_m: float | None
    """smallest thing that it finds wherever it must; none without pixels"""
    spot_m: float
    """width of its picture, or spot, where it may stop to find things"""
    nearest_m: float
    """the same where it must begin"""
    ground: GroundBand | None
    blind_m: float | None
    """ground before the machine that it does not see"""
    swept: Swept | None
    missing: tuple[str, ...]
    hides_unknown: tuple[str, ...]
    """what the machine may hide behind and nobody knows where it is"""
    placed: tuple[Placed, ...]

    @cached_property
    def hidden(self) -> tuple[tuple[str, float], ...]:
        """What of the machine is in the way, and the share of the view that hides behind it; when it is asked for."""
        return hidden_behind(self.sight, self.look, self.placed) if self.look is not None else ()

    @property
    def hidden_share(self) -> float:
        return sum(share for _, share in self.hidden)

    @property
    def reaches(self) -> Verdict:
        """Whether it sees from where it must to where it may stop."""
        s = self.sight
        if s.least_m is None or s.most_m is None:
            return Verdict.UNKNOWN
        return share_verdict(max(s.least_m / s.from_m if s.from_m else float(s.least_m > 0) * 2, s.to_m / s.most_m))


class Pair(Struct, frozen=True):
    """Two pictures: how far they overlap near and far, below 0 how wide the gap between them is."""

    one: Sight
    other: Sight
    near_m: float
    far_m: float


class BeamsResult(Struct, frozen=True):
    """A row of beams: what surely breaks one, how well they must be aimed, how many each way of lying breaks."""

    row: Beams
    surely_seen_m: float
    tolerance_deg: float
    upright_breaks: int | None
    flat_breaks: int | None


class Seen(Struct, frozen=True):
    sights: tuple[SightResult, ...]
    pairs: tuple[Pair, ...]
    rows: tuple[BeamsResult, ...]


def look_of(sight: Sight, item: Item | None) -> Look | None:
    """From the middle of the sensor, turned and tilted as it is; None where it has no place."""
    if item is None or not item.places:
        return None
    place = item.places[0]
    return Look((place.x_m, place.y_m, place.z_m), place.turn_deg + sight.yaw_deg, place.tilt_deg + sight.pitch_deg)


def rays_of(look: Look, wide_deg: float, high_deg: float, across: int = RAYS_WIDE, up: int = RAYS_HIGH) -> Array:
    """Rays spread over a picture, of length 1, of shape (rays, 3): even on a flat picture, as pixels are."""
    yaw, pitch = math.radians(look.yaw_deg), math.radians(look.pitch_deg)
    ahead = np.array((math.cos(yaw) * math.cos(pitch), math.sin(yaw) * math.cos(pitch), math.sin(pitch)))
    left = np.array((-math.sin(yaw), math.cos(yaw), 0.0))
    over = np.cross(ahead, left)
    a = np.tan(math.radians(wide_deg) / 2) * np.linspace(-1, 1, across)
    b = np.tan(math.radians(high_deg) / 2) * np.linspace(-1, 1, up)
    ways = ahead + a[:, None, None] * left + b[None, :, None] * over
    flat = ways.reshape(-1, 3)
    found: Array = flat / np.linalg.norm(flat, axis=1)[:, None]
    return found


@lru_cache(maxsize=64)
def _rays(look: Look, wide_deg: float, high_deg: float, sweep_deg: float) -> Array:
    """Rays of a sight in all directions that it sweeps through."""
    swings = np.linspace(-sweep_deg / 2, sweep_deg / 2, SWEPT) if sweep_deg else np.zeros(1)
    turned = (Look(look.at, look.yaw_deg + by, look.pitch_deg) for by in swings.tolist())
    return np.concatenate([rays_of(each, wide_deg, high_deg) for each in turned])


@lru_cache(maxsize=MOST_KEPT)
def _met(box: Box, look: Look, wide_deg: float, high_deg: float, sweep_deg: float) -> Array:
    """How far along each ray of a sight a box begins."""
    found: Array = met_at([box], look.at, _rays(look, wide_deg, high_deg, sweep_deg))[0]
    return found


def hidden_behind(sight: Sight, look: Look, placed: tuple[Placed, ...]) -> tuple[tuple[str, float], ...]:
    """Parts of the machine that stand nearer than it must see, and the share of its rays that each meets first."""
    others = [p for p in placed if p.item.id != sight.item][:MOST_HIDING]
    if not others:
        return ()
    view = (look, sight.wide_deg, sight.high_deg, sight.sweep_deg)
    if len(others) > MOST_KEPT // 8:
        met = met_at([p.box for p in others], look.at, _rays(*view))
    else:
        met = np.array([_met(p.box, *view) for p in others])
    within = [p.item.fills == "open inside" and not row.any() for p, row in zip(others, met, strict=True)]
    solid = [p for p, inside in zip(others, within, strict=True) if not inside]
    if not solid:
        return ()
    met = met[[not inside for inside in within]]
    first, near = met.argmin(axis=0), met.min(axis=0) < sight.to_m
    shares = {n: float(((first == n) & near).mean()) for n in set(first[near].tolist())}
    named: dict[str, float] = {}
    for n, share in shares.items():
        named[solid[n].name] = named.get(solid[n].name, 0.0) + share
    return tuple(sorted(((n, s) for n, s in named.items()), key=lambda x: -x[1]))


def sight_of(sight: Sight, concept: Concept, placed: tuple[Placed, ...], floor_m: float | None) -> SightResult:
    """One sensor."""
    item = next((i for i in concept.items if i.id == sight.item), None)
    look = look_of(sight, item)
    far = field_of_view(sight.to_m, sight.wide_deg, sight.high_deg, sight.pixels_wide or 0)
    near = field_of_view(sight.from_m, sight.wide_deg, sight.high_deg)
    smallest = far.pixel_m * sight.pixels_needed if far.pixel_m is not None else None
    missing = [f"{sight.name}: {words}" for words, lacks in (
        ("pixels from side to side, or a trial", smallest is None),
        ("the nearest that it sees", sight.least_m is None), ("the furthest that it sees", sight.most_m is None),
    ) if lacks]  # fmt: skip
    if look is None:
        missing.append(f"{item.name}: its place" if item is not None else f"{sight.name}: which sensor it is")
    sized = {(p.item.id, p.copy) for p in placed}
    beyond = (f"what is beyond {MOST_HIDING} copies",) if len(placed) > MOST_HIDING else ()
    unknown = beyond + tuple(i.name for i in concept.items if i.id != sight.item and i.fills != "spread about"
                    and any((i.id, n) not in sized for n in range(i.count)))  # fmt: skip
    band = ground_band(look.at[2] - floor_m, look.pitch_deg, sight.high_deg) if (
        look is not None and floor_m is not None and look.at[2] > floor_m and -90 < look.pitch_deg < 90
    ) else None  # fmt: skip
    return SightResult(
        sight, item, look, smallest, far.width_m, near.width_m, band, _blind(look, band, placed),
        _swept(sight), tuple(missing), unknown, placed,
    )  # fmt: skip


def _blind(look: Look | None, band: GroundBand | None, placed: tuple[Placed, ...]) -> float | None:
    """From the foremost corner of the machine, the way it looks, to where the ground comes into view."""
    if look is None or band is None or band.near_m is None or not placed:
        return None
    yaw = math.radians(look.yaw_deg)
    ahead = np.array((math.cos(yaw), math.sin(yaw)))
    front = max(float((p.box.corners()[:, :2] @ ahead).max()) for p in placed)
    return float(np.array(look.at[:2]) @ ahead) + band.near_m - front


def _swept(sight: Sight) -> Swept | None:
    if not sight.sweep_deg:
        return None
    readings = sight.readings_per_s * sight.sweep_s if sight.readings_per_s and sight.sweep_s else None
    return Swept(min(sight.sweep_deg + sight.wide_deg, 360.0), sight.sweep_deg / readings if readings else None)


def pairs_of(results: tuple[SightResult, ...]) -> Iterator[Pair]:
    """Sensors that look much the same way, each with the next one to its left."""
    placed = [r for r in results if r.look is not None]
    placed.sort(key=lambda r: (r.look.yaw_deg, r.look.at[1]))  # type: ignore[union-attr]
    for one, other in pairwise(placed):
        assert one.look is not None
        assert other.look is not None
        high = (one.sight.high_deg + other.sight.high_deg) / 2
        if other.look.yaw_deg - one.look.yaw_deg < 90 and abs(other.look.pitch_deg - one.look.pitch_deg) < high:
            near, far = (max(getattr(one.sight, f), getattr(other.sight, f)) for f in ("from_m", "to_m"))
            yield Pair(one.sight, other.sight, _overlap(one, other, near), _overlap(one, other, far))


def _overlap(one: SightResult, other: SightResult, distance_m: float) -> float:
    """By how much two pictures overlap from above, on a line across their common direction at a distance."""
    a, b = one.look, other.look
    assert a is not None
    assert b is not None
    mean = math.radians((a.yaw_deg + b.yaw_deg) / 2)
    ahead, left = np.array((math.cos(mean), math.sin(mean))), np.array((-math.sin(mean), math.cos(mean)))
    middle = (np.array(a.at[:2]) + np.array(b.at[:2])) / 2

    def edge(r: SightResult, look: Look, side: int) -> float:
        turn = math.radians(look.yaw_deg) - mean + side * math.radians(r.sight.wide_deg) / 2
        offset = np.array(look.at[:2]) - middle
        if abs(turn) >= math.pi / 2:
            return math.copysign(math.inf, turn)
        return float(offset @ left + (distance_m - offset @ ahead) * math.tan(turn))

    return edge(one, a, 1) - edge(other, b, -1)


def beams_of(row: Beams) -> BeamsResult:
    """One row of beams. Raises ValueError for a receiver narrower than its beam."""
    grid = beam_grid(row.pitch_m, row.beam_m, row.across_m, row.receiver_m)

    def broken(height_m: float | None) -> int | None:
        if height_m is None:
            return None
        return sum(row.lowest_m + n * row.pitch_m + row.beam_m / 2 <= height_m + 1e-9 for n in range(row.beams))

    return BeamsResult(row, grid.surely_seen_m, grid.tolerance_deg, broken(row.upright_m), broken(row.flat_m))


def seen_of(concept: Concept, floor_m: float | None) -> Seen:
    """Every sensor, every two pictures side by side, every row of beams that can be."""
    placed = placed_parts(concept)
    sights = tuple(sight_of(s, concept, placed, floor_m) for s in concept.sights)
    rows = tuple(beams_of(b) for b in concept.beam_rows if b.receiver_m >= b.beam_m)
    return Seen(sights, tuple(pairs_of(sights)), rows)


def floor_of(concept: Concept) -> float | None:
    """Height of the floor in the machine's frame: the lowest foot or wheel; None where nothing stands."""
    bottoms = [f.z_m for f in concept.feet]
    for item in concept.items:
        if item.part.wheel is not None:
            bottoms += [p.z_m - item.part.wheel.diameter_m / 2 for p in item.places[: item.count]]
    return min(bottoms, default=None)


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    if not concept.sights:
        return concept.sights, concept.beam_rows
    items = tuple(
        (i.id, i.name, i.count, i.places, i.fills, i.part.length_m, i.part.width_m, i.part.height_m, i.part.wheel)
        for i in concept.items
    )
    return concept.sights, concept.beam_rows, concept.feet, items


SEEN = Node("seen", _read, lambda project, _: seen_of(project.concept, floor_of(project.concept)))
