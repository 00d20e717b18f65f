"""Motion: every load to move against the part that moves it, what shakes what, and what the room refuses.

The current that a load usually takes stands for its motor's current at work in Power; the voltage that Power finds
there, on average and at the worst instant, sets the speed here. The current does not depend on the voltage (linear
motor model), so one pass each way is the fixed point.
"""

from collections.abc import Iterator

from msgspec import Struct

from wired_union.kernel.results import Measure
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.physics.vibration import natural_frequency
from wired_union.project.model import AnyLoad, Concept, Item, Mount, Project
from wired_union.subjects.mass.gives import TOTAL_KG
from wired_union.subjects.motion.kind import Scene
from wired_union.subjects.motion.kinds.every import kind_of
from wired_union.subjects.motion.results import Drive, LoadResult
from wired_union.subjects.motion.usual import constants_of, moved_parts
from wired_union.subjects.power.gives import SUPPLY, PowerResult

SEPARATION = 0.2
"""Share that an excitation keeps away from a natural frequency: common practice."""


class Shake(Struct, frozen=True):
    """What turns near a natural frequency: how far away, as a share of it."""

    mount: Mount
    natural_hz: float
    source: str
    source_hz: float

    @property
    def apart(self) -> float:
        return abs(self.source_hz / self.natural_hz - 1)


class MotionResult(Struct, frozen=True):
    """Every load and every shake."""

    loads: tuple[LoadResult, ...]
    shakes: tuple[Shake, ...]

    def of(self, load_id: str) -> LoadResult | None:
        return next((r for r in self.loads if r.load.id == load_id), None)


def assess_motion(concept: Concept, mass_kg: float, power: PowerResult) -> MotionResult:
    """Assess every load to move."""
    items = {i.id: i for i in concept.items}
    loads = tuple(_assess_load(load, items.get(load.actuator), concept, mass_kg, power) for load in concept.loads)
    return MotionResult(loads, tuple(_shakes(concept, loads)))


def load_measures(result: LoadResult) -> list[Measure]:
    """The share a load uses of what moves it, and its speed."""
    load = result.load
    found = [Measure("motion", load.name, result.use, "share", missing=result.missing, of=load.id)]
    if result.speed_m_s is not None:
        found.append(Measure("speed", f"{load.name} speed", result.speed_m_s, "m/s",
                             direction=kind_of(load).speed, of=load.id))  # fmt: skip
    return found


def _assess_load(load: AnyLoad, item: Item | None, concept: Concept, mass_kg: float, power: PowerResult) -> LoadResult:
    drive, lacks = _drive_of(item, power)
    return carry(load, Scene(concept, mass_kg, drive, item, _duty(concept, load.actuator), lacks))


def carry(load: AnyLoad, scene: Scene) -> LoadResult:
    """What follows for a load; figures that make no sense together are missing ones, with the reason."""
    try:
        return kind_of(load).carried(load, scene)
    except ValueError as error:
        return LoadResult(load, missing=(str(error),))


def _drive_of(item: Item | None, power: PowerResult) -> tuple[Drive | None, tuple[str, ...]]:
    if item is None:
        return None, ("what moves it",)
    motor = constants_of(item.part)
    if motor is None:
        return None, (f"{item.name}: its torque, speed and currents",)
    nominal, sag = voltages(item.id, power)
    if nominal is None or sag is None:
        return None, (f"{item.name}: the voltage it gets",)
    return Drive(item, motor, nominal, sag), ()


def voltages(item_id: str, power: PowerResult) -> tuple[float | None, float | None]:
    """Voltage an item gets: on average where it works hardest, and at the worst instant; None where it is not fed."""
    modes = range(len(power.concept.modes))
    if item_id not in power.tree.nodes or not modes:
        return None, None
    average = power.currents.of(power.currents.average, item_id)
    row = power.input_v(item_id).tolist()
    mean, worst = row[int(average.argmax())], row[len(modes) :]
    return (None, None) if any(v != v for v in (mean, *worst)) else (mean, min(worst))


def _duty(concept: Concept, item_id: str) -> float:
    found = [u.duty for m in concept.modes for u in m.uses if u.item == item_id and u.state in {"active", "peak"}]
    return max(found, default=1.0)


def natural_hz(mount: Mount) -> float | None:
    """Natural frequency of a mount: given, or from its stiffness and mass."""
    if mount.frequency_hz is not None:
        return mount.frequency_hz
    if mount.stiffness_n_per_m is None or mount.mass_kg is None:
        return None
    return natural_frequency(mount.stiffness_n_per_m, mount.mass_kg).frequency_hz


def _shakes(concept: Concept, loads: tuple[LoadResult, ...]) -> Iterator[Shake]:
    for mount in concept.mounts:
        own = natural_hz(mount)
        if own is None:
            continue
        for result in loads:
            for what, hertz in result.turns_hz:
                if hertz > 0:
                    yield Shake(mount, own, f"{result.load.name}, {what}", hertz)


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    return *moved_parts(project), concept.mounts, tuple((m.id, m.uses) for m in concept.modes)


def _work(project: Project, given: Given) -> MotionResult:
    return assess_motion(project.concept, given.of(TOTAL_KG), given.of(SUPPLY))


MOTION = Node("motion", _read, _work, (TOTAL_KG, SUPPLY))


def measures(assessment: Assessment) -> list[Measure]:
    """The share that each load uses, and how fast it moves."""
    return [m for r in assessment.of(MOTION).loads for m in load_measures(r)]
