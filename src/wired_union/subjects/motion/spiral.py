"""The spiral: a heavier motor needs a heavier pack needs a heavier motor. Where it settles, or that it does not.

Scaled from what is in place: the motors by the torque they need (mass goes with torque, common practice), the pack by
the energy the wanted runtime takes. Fixed point of m = rest + motors(m) + pack(m), iterated from any start.
"""

from msgspec import Struct

from wired_union.project.model import Concept
from wired_union.subjects.mass.gives import MassResult
from wired_union.subjects.motion.results import LoadResult
from wired_union.subjects.power.gives import PowerResult, energy_shares

ROUNDS = 60
SETTLED = 1e-4
IN_HAND = 0.8


class Spiral(Struct, frozen=True):
    """Mass after each round; where it settles, None where each round adds more than the one before."""

    rounds: tuple[float, ...]
    settles_kg: float | None
    growth: float
    """What one kilogram more asks for on top, in kilograms."""
    rest_kg: float

    @property
    def count(self) -> int:
        """Rounds until it moves by less than a gram."""
        last = self.rounds[-1]
        return next((i for i, m in enumerate(self.rounds) if abs(m - last) < 1e-3), len(self.rounds) - 1)


def iterate(rest_kg: float, motors_per_kg: float, pack_kg: float, pack_per_kg: float, start_kg: float) -> Spiral:
    """Iterate m = rest + motors_per_kg·m + pack_kg + pack_per_kg·m from a start.

    Args:
        rest_kg: what neither moves nor feeds
        motors_per_kg: mass of motors for each kilogram of the whole
        pack_kg: pack for what does not move
        pack_per_kg: pack for each kilogram of the whole
        start_kg: mass to start from
    """
    growth = motors_per_kg + pack_per_kg
    rounds = [start_kg]
    for _ in range(ROUNDS):
        rounds.append(rest_kg + pack_kg + growth * rounds[-1])
        if abs(rounds[-1] - rounds[-2]) < SETTLED or rounds[-1] > 1e6:
            break
    settles = (rest_kg + pack_kg) / (1 - growth) if growth < 1 else None
    return Spiral(tuple(rounds), settles, growth, rest_kg)


def spiral(
    concept: Concept, result: LoadResult, mass: MassResult, power: PowerResult, runtime_s: float | None
) -> Spiral | None:
    """The spiral of one driven load; None while the motor, the pack or the runtime is not known."""
    drive, total = result.drive, mass.total_kg
    if drive is None or not total or not power.packs or not result.points or not runtime_s:
        return None
    lines = {line.item.id: line.total_kg for line in mass.lines()}
    motors = lines.get(drive.item.id, 0.0)
    feeding = power.tree.root_of(drive.item.id)
    pack = next((p for p in power.packs if p.node.item.id == feeding), None)
    if pack is None:
        return None
    pack_kg = lines.get(pack.figures.item.id, 0.0)
    if not motors or not pack_kg or pack.discharge is None or not pack.discharge.runtime_s:
        return None
    share = energy_shares(power)
    moving = share.by_item.get(drive.item.id, 0.0) / share.total_wh if share.total_wh else 0.0
    sized = (
        motors * max(p.torque_n_m for p in result.points) / (IN_HAND * drive.stall_n_m) if drive.stall_n_m else motors
    )
    energy_kg = pack_kg * min(runtime_s / pack.discharge.runtime_s, 20.0)
    rest = total - motors - pack_kg
    return iterate(rest, sized / total, energy_kg * (1 - moving), energy_kg * moving / total, rest)
