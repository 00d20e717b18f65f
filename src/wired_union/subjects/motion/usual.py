"""What a load usually takes: the current at work that its task, not a datasheet, sets for the part that moves it."""

from collections.abc import Mapping

from wired_union.kernel.subject import Given, Node
from wired_union.physics.motor import MotorConstants, motor_constants
from wired_union.project.model import AnyLoad, Concept, Item, Part, Project
from wired_union.subjects.mass.gives import TOTAL_KG
from wired_union.subjects.motion.kind import Scene
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


def usual_torque_n_m(load: AnyLoad, concept: Concept, mass_kg: float) -> float | None:
    """Torque at the motor's shaft on most of the way; None for loads that set no current, or make no sense."""
    find = kind_of(load).usual_torque_n_m
    try:
        return find(load, Scene(concept, mass_kg, None, None, 1.0, ())) if find is not None else None
    except ValueError:
        return None


def usual_currents(concept: Concept, mass_kg: float) -> Usual:
    """Each motor's current at work from what it has to move; the last of several loads on one motor counts."""
    items = {i.id: i for i in concept.items}
    found: dict[str, float] = {}
    for load in concept.loads:
        item = items.get(load.actuator)
        if item is None or item.part.load is None or (motor := constants_of(item.part)) is None:
            continue
        torque = usual_torque_n_m(load, concept, mass_kg)
        if torque is not None:
            found[item.id] = min(motor.current_at(torque), _blocked_a(item))
    return tuple(found.items())


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
    named = {n for x in concept.loads for n in (x.actuator, getattr(x, "wheel", ""), getattr(x, "store", ""))}
    return concept.loads, tuple((i.id, i.name, i.count, i.part) for i in concept.items if i.id in named)


def _work(project: Project, given: Given) -> Usual:
    return usual_currents(project.concept, given.of(TOTAL_KG))


USUAL = Node("usual currents", moved_parts, _work, (TOTAL_KG,))
