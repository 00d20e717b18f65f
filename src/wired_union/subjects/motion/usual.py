"""What a load usually takes: the current at work that its task, not a datasheet, sets for the part that moves it."""

import math
from collections.abc import Mapping

from wired_union.kernel.subject import Given, Node
from wired_union.physics.motor import MotorConstants, motor_constants
from wired_union.physics.stepper import StepperConstants, stepper_constants
from wired_union.project.model import AnyLoad, Concept, Item, Part, Project
from wired_union.subjects.mass.gives import TOTAL_KG
from wired_union.subjects.motion.kind import Scene, Torques, other_parts
from wired_union.subjects.motion.kinds.every import kind_of

Usual = tuple[tuple[str, float], ...]
"""Item id and current in amperes of one copy, for every part that a load sets."""


def constants_of(part: Part) -> MotorConstants | None:
    """The linear model of a part's motor; None where a figure is missing or makes no sense."""
    m = part.motor
    if m is None:
        return None
    figures = (m.rated_voltage_v, m.no_load_speed_rad_s, m.stall_torque_n_m, m.stall_current_a, m.no_load_current_a)
    if None in figures:
        return None
    try:
        return motor_constants(*figures)  # type: ignore[arg-type]
    except ValueError:
        return None


def mover_of(part: Part) -> MotorConstants | StepperConstants | None:
    """The model of what turns a part's shaft, brushed or stepping; None where a figure is missing or makes no sense."""
    s = part.stepper
    if s is None:
        return constants_of(part)
    figures = (s.coil_current_a, s.coil_resistance_ohm, s.coil_inductance_h, s.holding_torque_n_m, s.full_step_deg)
    if None in figures:
        return None
    return stepper_constants(*figures)  # type: ignore[arg-type]


def torques_of(load: AnyLoad, concept: Concept, mass_kg: float, item: Item | None) -> Torques | None:
    """What a load takes of the shaft of each of its motors; None where it takes none, or makes no sense."""
    find = kind_of(load).torques
    try:
        return find(load, Scene(concept, mass_kg, None, item, 1.0, ())) if find is not None else None
    except ValueError:
        return None


def others_of(load: AnyLoad, concept: Concept, mass_kg: float, item: Item | None) -> Torques:
    """What the motors of a load move besides it at the same time: their other loads of the same mode, or of any."""
    usual = most = 0.0
    for other in concept.loads:
        if other.id == load.id or not load.actuator or other.actuator != load.actuator:
            continue
        if load.mode and other.mode and load.mode != other.mode:
            continue
        if (taken := torques_of(other, concept, mass_kg, item)) is not None:
            usual, most = usual + taken.usual_n_m, most + taken.most_n_m
    return Torques(usual, most)


def lacks_gear(load: AnyLoad) -> bool:
    """Whether a further gear turns it of which nobody says what it passes on."""
    unsaid = load.ratio != 1 and load.gear_efficiency is None
    return unsaid and "ratio" not in kind_of(load).unused(load, lambda _: None)


def usual_currents(concept: Concept, mass_kg: float) -> Usual:
    """Each motor's current at work from what it has to move; of loads that move at other times the hardest counts.

    Not a number where a figure of the motor, or of the gear behind it, is missing: what is given as its current at
    work is that of another task.
    """
    items = {i.id: i for i in concept.items}
    found: dict[str, float] = {}
    for load in concept.loads:
        item = items.get(load.actuator)
        if item is None or item.part.load is None or item.part.motor is None or not kind_of(load).sets_current:
            continue
        motor, own = constants_of(item.part), torques_of(load, concept, mass_kg, item)
        if motor is None or lacks_gear(load):
            found[item.id] = math.nan
        elif own is not None:
            torque = own.usual_n_m + others_of(load, concept, mass_kg, item).usual_n_m
            current = min(motor.current_at(torque), _blocked_a(item))
            found[item.id] = max(found.get(item.id, 0.0), current)  # not a number stays
    return tuple(found.items())


def shaping_parts(concept: Concept) -> frozenset[str]:
    """Items whose parts set what a load takes, besides those that move it: wheels, links, counterweights, stores."""
    return frozenset[str]().union(*(kind_of(x).shaped_by(x, concept) for x in concept.loads))


def least_asking(concept: Concept, open_items: frozenset[str]) -> Concept:
    """The concept with nothing asked by loads that could ask for less with another choice of the open items."""
    loads = tuple(
        empty(x) if (empty := kind_of(x).emptied) is not None and open_items & kind_of(x).shaped_by(x, concept) else x
        for x in concept.loads
    )
    return concept.but(loads=loads)


def moved_by_mass(concept: Concept) -> frozenset[str]:
    """Items whose current at work follows from the mass of everything."""
    return frozenset(x.actuator for x in concept.loads if kind_of(x).sets_current and kind_of(x).by_total_mass(x))


def _blocked_a(item: Item) -> float:
    motor = item.part.motor
    return motor.stall_current_a or float("inf") if motor is not None else float("inf")


def with_usual_currents(concept: Concept, mass_kg: float) -> Concept:
    """The concept with each motor's current at work in place; the same object where nothing moves."""
    usual: Mapping[str, float] = dict(usual_currents(concept, mass_kg))
    return concept.but(items=tuple(_at_work(i, usual.get(i.id)) for i in concept.items)) if usual else concept


def _at_work(item: Item, amperes: float | None) -> Item:
    part = item.part
    return (
        item if amperes is None or part.load is None else item.but(part=part.but(load=part.load.but(active_a=amperes)))
    )


def moved_parts(project: Project) -> tuple[object, ...]:
    """What the loads to move read of a project: themselves, and the parts that they name with how many there are."""
    concept = project.concept
    named = {x.actuator for x in concept.loads}.union(*(other_parts(x) for x in concept.loads))
    read = tuple((i.id, i.name, i.count, i.knowledge, i.part) for i in concept.items if i.id in named)
    return concept.loads, read


def _work(project: Project, given: Given) -> Usual:
    return usual_currents(project.concept, given.of(TOTAL_KG))


USUAL = Node("usual currents", moved_parts, _work, (TOTAL_KG,))
