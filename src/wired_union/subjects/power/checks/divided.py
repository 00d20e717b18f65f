"""Several regulators at one place: they do not share a rail, so each carries loads of its own.

Regulators in parallel do not divide a current: the one that is set highest carries it until it limits (common
practice; they share only with ballast resistors or a control loop made for it). So the loads are divided between them,
the heaviest first onto the one that carries least: Graham 1969, "Bounds on multiprocessing timing anomalies" (longest
processing time first, at most 4/3 of the best division). What this division breaks, another one may still hold.
"""

from collections.abc import Sequence

import numpy as np

from wired_union.physics.battery import Array
from wired_union.project.model import Mode
from wired_union.subjects.power.scene import PowerScene
from wired_union.subjects.power.tree import Node


def divided(units: Sequence[float], bins: int) -> list[int]:
    """For each unit the bin it goes to, the largest first into what holds least."""
    held = [0.0] * bins
    place = [0] * len(units)
    for n in sorted(range(len(units)), key=lambda n: -units[n]):
        place[n] = min(range(bins), key=lambda b: held[b])
        held[place[n]] += units[n]
    return place


def busiest(scene: PowerScene, node: Node) -> tuple[Array, Array]:
    """What the busiest of several regulators gives in every mode: on average, and at the worst instant.

    Shapes (modes,); NaN in a mode where what one of its loads takes is not known.
    """
    modes, copies = scene.result.modes, node.item.count
    units = [(row / c.item.count) for c in node.children for row in [scene.result.flows.row(c.item.id, "current_a")]
             for _ in range(c.item.count)]  # fmt: skip
    if not units:
        return np.zeros(modes), np.zeros(modes)
    table = np.array(units)
    heaviest = np.where(np.isnan(table), np.inf, table)[:, modes:].max(axis=1, initial=0.0)
    place = np.array(divided(heaviest.tolist(), copies))
    sums = np.array([table[place == b].sum(axis=0) for b in range(copies)])
    sums = np.where(np.isnan(sums).any(axis=0), np.nan, sums.max(axis=0))
    return sums[:modes], sums[modes:]


def most_of(table: Array, modes: Sequence[Mode]) -> tuple[float, Mode | None]:
    """The highest over the modes, and its mode; NaN is the highest of all."""
    if not modes:
        return 0.0, None
    at = int(table.argmax())
    return float(table[at]), modes[at]
