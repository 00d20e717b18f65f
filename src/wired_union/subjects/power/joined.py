"""Packs side by side on one supply: each through a diode of its own, or one after another through a switch.

Through diodes the pack with the highest voltage gives until it has fallen to the next one's, from then on both do; each
stops at its reserve. In between nothing flows back. That is the path of small currents, exact where the packs'
resistances are small against the loads'; the resistance is that of the worst of them alone, as at the end only one is
left, which must carry the whole by itself. Source: Kirchhoff's laws with a diode as a voltage that is lost.
"""

from collections.abc import Iterator, Mapping, Sequence

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array, PackValues
from wired_union.physics.discharge import charge_grid
from wired_union.project.model import Concept, Item, JoinedPack

LEVELS = 4000
_GRID = charge_grid()


class Cells(Struct, frozen=True, eq=False):
    """One of the packs as the common supply sees it: full to empty over the grid, less what its diode keeps."""

    open_v: Array
    capacity_ah: float
    resistance_ohm: float
    cutoff_v: float
    """Below which it is switched off, as the supply sees it."""


class Together(Struct, frozen=True, eq=False):
    """All of them as one pack: over the grid of the charge that they hold together."""

    open_v: Array
    cutoff_v: Array
    """Cut-off of the one that gives there; the least falls first."""
    gives: Array
    """Share of the charge used there that each gives, shape (packs, grid)."""
    capacity_ah: float
    resistance_ohm: float


def together(packs: Sequence[Cells], reserve: float, *, in_turn: bool) -> Together:
    """Packs as one: through diodes, or `in_turn` the first down to its reserve, then the next."""
    whole = sum(p.capacity_ah for p in packs)
    each, volts, cutoff = (_in_turn if in_turn else _highest_first)(packs, reserve)
    left = each.sum(axis=0) / whole  # falls along the way
    order = np.argsort(left, kind="stable")
    open_v = np.interp(_GRID, left[order], volts[order])
    at = np.clip(np.searchsorted(left[order], _GRID, side="left"), 0, len(left) - 1)
    held = np.array([np.interp(_GRID, left[order], row[order]) for row in each])
    used = -np.diff(held, axis=1)
    planned = int(np.flatnonzero(used.sum(axis=0) > 0)[-1]) + 1
    used[:, planned:] = used[:, planned - 1 : planned]  # under the reserve the last one would give on
    gives = used / used.sum(axis=0)
    return Together(open_v, cutoff[order][at], np.concatenate([gives[:, :1], gives], axis=1), whole,
                    max(p.resistance_ohm for p in packs))  # fmt: skip


def _in_turn(packs: Sequence[Cells], reserve: float) -> tuple[Array, Array, Array]:
    """Charge that each holds, shape (packs, steps), voltage of the one that gives and its cut-off, from full on."""
    shares = np.linspace(1.0, reserve, LEVELS)
    each = np.ones((len(packs), len(packs) * LEVELS))
    for n, pack in enumerate(packs):
        each[n, n * LEVELS : (n + 1) * LEVELS] = shares
        each[n, (n + 1) * LEVELS :] = reserve
        each[n] *= pack.capacity_ah
    volts = [np.interp(shares, _GRID[::-1], p.open_v[::-1]) for p in packs]
    return each, np.concatenate(volts), np.repeat([p.cutoff_v for p in packs], LEVELS)


def _highest_first(packs: Sequence[Cells], reserve: float) -> tuple[Array, Array, Array]:
    """The same through diodes: at each level of the voltage every pack is down to it, or full, or at its reserve."""
    ends = [float(np.interp(reserve, _GRID[::-1], p.open_v[::-1])) for p in packs]
    knots = [v for p, end in zip(packs, ends, strict=True) for v in (*p.open_v.tolist(), end)]
    high, low = max(float(p.open_v[0]) for p in packs), min(ends)
    levels = np.unique(np.concatenate([np.linspace(low, high, LEVELS), np.clip(knots, low, high)]))[::-1]
    each = [_left(p, end, reserve, levels) for p, end in zip(packs, ends, strict=True)]
    cutoff = np.zeros(len(levels))
    for pack, end in zip(packs, ends, strict=True):
        gives = (levels <= pack.open_v[0]) & (levels >= end)
        cutoff = np.where(gives, np.maximum(cutoff, pack.cutoff_v), cutoff)
    return np.array([p.capacity_ah * s for p, s in zip(packs, each, strict=True)]), levels, cutoff


def _left(pack: Cells, end_v: float, reserve: float, levels: Array) -> Array:
    """Share of its charge that one still holds when the supply has come down to each level."""
    share = np.interp(levels, pack.open_v[::-1], _GRID[::-1])
    return np.where(levels <= end_v, reserve, np.clip(share, reserve, 1.0))


def joined_in(concept: Concept) -> tuple[dict[str, tuple[JoinedPack, ...]], list[tuple[JoinedPack, str]]]:
    """What stands beside each pack that loads hang on, and what cannot, with why."""
    items = {i.id: i for i in concept.items}
    found: dict[str, list[JoinedPack]] = {}
    refused: list[tuple[JoinedPack, str]] = []
    feeding = {f.source for f in concept.feeds if items[f.load].part.pack is None}
    taken: set[str] = set()
    leaders = {j.pack for j in concept.joined_packs}
    for joint in concept.joined_packs:
        why = _refusal(joint, items, feeding, taken | leaders)
        if why:
            refused.append((joint, why))
            continue
        taken.add(joint.beside)
        found.setdefault(joint.pack, []).append(joint)
    return {i: tuple(j) for i, j in found.items()}, refused


def _refusal(joint: JoinedPack, items: Mapping[str, Item], feeding: set[str], taken: set[str]) -> str:
    """Why two packs cannot stand side by side; "" for no reason."""
    for name in (joint.pack, joint.beside):
        item = items[name]
        if item.part.pack is None or item.part.regulator is not None:
            return f"{item.name} is no pack of cells alone"
    beside = items[joint.beside]
    if joint.beside in taken:
        return f"{beside.name} already stands beside a pack, or has one beside it"
    if joint.beside in feeding:
        return f"{beside.name} feeds loads of its own: feed them from {items[joint.pack].name} first"
    return ""


def lacking(concept: Concept) -> Iterator[tuple[str, str]]:
    """Items and what is not known of how packs are joined, in words."""
    items, (found, refused) = {i.id: i for i in concept.items}, joined_in(concept)
    for joint, why in refused:
        yield joint.beside, f"how {items[joint.beside].name} and {items[joint.pack].name} give together: {why}"
    for joints in found.values():
        for joint in joints:
            if joint.how == "diodes" and joint.drop_v is None:
                yield joint.beside, f"{items[joint.beside].name}: the voltage that its diode keeps"


def as_one(values: PackValues, parts: Together) -> PackValues:
    """Values of the first pack with what all hold together, and the resistance of the worst alone."""
    volts = values.voltage_v
    most = float(parts.open_v.max()) ** 2 / (4 * parts.resistance_ohm) if parts.resistance_ohm else float("inf")
    return PackValues(volts, parts.capacity_ah, parts.resistance_ohm, volts * parts.capacity_ah, most)
