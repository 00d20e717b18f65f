"""What hangs on the shaft of each motor when it starts: inertia and torque, of everything that it moves at once."""

from msgspec import Struct

from wired_union.kernel.subject import Given, Node
from wired_union.project.model import Concept, Project
from wired_union.subjects.mass.gives import TOTAL_KG
from wired_union.subjects.motion.kind import Scene
from wired_union.subjects.motion.kinds.every import kind_of
from wired_union.subjects.motion.usual import moved_parts, torques_of


class Shaft(Struct, frozen=True):
    """One motor's shaft, behind its gear: what its loads add, not the rotor."""

    item: str
    inertia_kg_m2: float
    torque_n_m: float


def shafts(concept: Concept, mass_kg: float) -> tuple[Shaft, ...]:
    """Every motor whose loads all say what they weigh on it; of loads that move at other times the heaviest counts."""
    items = {i.id: i for i in concept.items}
    found: dict[str, Shaft | None] = {}
    for load in concept.loads:
        item = items.get(load.actuator)
        if item is None:
            continue
        find, scene = kind_of(load).inertia, Scene(concept, mass_kg, None, item, 1.0, ())
        inertia = find(load, scene) if find is not None else None
        torque = torques_of(load, concept, mass_kg, item)
        had = found.get(item.id, Shaft(item.id, 0.0, 0.0))
        if inertia is None or had is None:
            found[item.id] = None
            continue
        usual = torque.usual_n_m if torque is not None else 0.0
        found[item.id] = Shaft(item.id, max(had.inertia_kg_m2, inertia), max(had.torque_n_m, usual))
    return tuple(s for s in found.values() if s is not None)


def _work(project: Project, given: Given) -> tuple[Shaft, ...]:
    return shafts(project.concept, given.of(TOTAL_KG))


SHAFTS = Node("shafts", moved_parts, _work, (TOTAL_KG,))
