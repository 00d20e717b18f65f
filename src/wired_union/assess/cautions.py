"""What can hurt someone: the hazard, what people usually do, and whom to ask."""

from typing import NamedTuple

from wired_union.physics.battery import CHEMISTRIES
from wired_union.project.model import Concept, Item

RULES = "Your local rules and a licensed practitioner come first."
STRONG_TORQUE_N_M = 0.5  # common practice: from here a motor pinches fingers badly
STRONG_CURRENT_A = 10.0

NOT_CHECKED = (
    "behaviour in cold or heat beyond room temperature",
    "shock, vibration and water",
    "wiring mistakes, short circuits and electromagnetic disturbance",
    "software, and what it does when a part fails",
    "the typical values of generic parts: measure the real ones",
)


class Caution(NamedTuple):
    title: str
    text: str
    items: tuple[str, ...]


def find_cautions(concept: Concept) -> tuple[Caution, ...]:
    """The cautions that a concept's parts call for."""
    kinds = (
        (_is_lithium, "Lithium pack", "Charge only with a charger made for its chemistry, in sight, above 0\u202f°C."
         " Fuse it close to the pack; never short, pierce or crush it."),
        (_is_other_pack, "Pack", "A pack gives far more current into a short than it is rated for. Fuse it close to"
         " the pack, and disconnect it before rewiring."),
        (_is_strong, "Moving parts", "First run with wheels or load off the ground and hands clear; guard what"
         " pinches or spins, and keep a switch in reach that cuts the power."),
        (_stores_energy, "Stored energy", "Springs, elastics and tanks release at once. Unload before working on"
         " them, keep out of the line of release, wear eye protection."),
        (_is_laser, "Laser or bright emitter", "Use only a class that is safe to look into, never aim it at eyes,"
         " and follow the lab's laser rules."),
        (_is_radio, "Radio", "Power, duty cycle and licence differ by country: check the rules where it will run."),
    )  # fmt: skip
    return tuple(
        Caution(title, f"{text} {RULES}", tuple(i.id for i in concept.items if test(i)))
        for test, title, text in kinds
        if any(test(i) for i in concept.items)
    )


def _is_lithium(item: Item) -> bool:
    chemistry = CHEMISTRIES.get(item.part.pack.chemistry) if item.part.pack else None
    return chemistry is not None and chemistry.lithium


def _is_other_pack(item: Item) -> bool:
    return item.part.pack is not None and not _is_lithium(item)


def _is_strong(item: Item) -> bool:
    motor = item.part.motor
    if motor is not None and (motor.stall_torque_n_m or 0.0) >= STRONG_TORQUE_N_M:
        return True
    return item.part.kind == "linear actuator"


def _stores_energy(item: Item) -> bool:
    return item.part.kind in {"spring", "tank"} or (item.part.stored_energy_j or 0.0) > 0


def _is_laser(item: Item) -> bool:
    return "laser" in item.part.name.lower()


def _is_radio(item: Item) -> bool:
    return item.part.kind == "radio"
