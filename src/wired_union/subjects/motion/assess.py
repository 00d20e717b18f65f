"""Motion: every load to move against the part that moves it, what shakes what, and what the room refuses.

The current that a load usually takes stands for its motor's current at work in Power; the voltage that Power finds
there, on average and at the worst instant, sets the speed here. The current does not depend on the voltage (linear
motor model), so one pass each way is the fixed point.
"""

from collections.abc import Iterator, Sequence

from msgspec import Struct
from msgspec.structs import replace

from wired_union.kernel.results import Measure
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.physics.vibration import natural_frequency
from wired_union.project.model import AnyLoad, Concept, Item, Mount, Project
from wired_union.subjects.mass.gives import (
    CARRIED,
    CENTRE,
    FREQUENCIES,
    TOTAL_KG,
    UNWEIGHED,
    Carried,
    Whereabouts,
    stance_in,
)
from wired_union.subjects.motion.kind import Scene
from wired_union.subjects.motion.kinds.every import kind_of
from wired_union.subjects.motion.results import Drive, LoadResult, Turning
from wired_union.subjects.motion.usual import lacks_gear, moved_parts, mover_of, others_of
from wired_union.subjects.power.gives import RUNNING, SUPPLY, PowerResult, held_to_a, state_in

SEPARATION = 0.2
"""Share that an excitation keeps away from a natural frequency: common practice."""


TIMES_A_TURN = (1, 2)
"""How often in a turn something is shaken: once by what is out of true, twice by a bent shaft: common practice."""


class Shake(Struct, frozen=True):
    """What turns against what swings: how often it shakes it, from least to most, and how far away that is."""

    mount: Mount
    natural_hz: float
    source: str
    turning: Turning
    load: str = ""
    """the load that it turns with"""
    times: int = 1
    """how often in a turn it shakes"""

    @property
    def least_hz(self) -> float:
        return self.turning.least_hz * self.times

    @property
    def most_hz(self) -> float:
        return self.turning.most_hz * self.times

    @property
    def apart(self) -> float:
        """How far the nearest of its frequencies is away, as a share of the natural one."""
        nearest = min(max(self.natural_hz, self.least_hz), self.most_hz)
        return abs(nearest / self.natural_hz - 1)

    @property
    def run_through(self) -> bool:
        """Whether what turns passes its frequency on the way up, where its imbalance shakes it a moment."""
        return self.least_hz > self.natural_hz * (1 + SEPARATION)


class MotionResult(Struct, frozen=True):
    """Every load and every shake."""

    loads: tuple[LoadResult, ...]
    shakes: tuple[Shake, ...]
    unheard: tuple[Mount, ...] = ()
    """what can swing, nobody knows how often"""

    def of(self, load_id: str) -> LoadResult | None:
        return next((r for r in self.loads if r.load.id == load_id), None)


class Body(Struct, frozen=True):
    """What mass and places say of the whole."""

    mass_kg: float
    unweighed: tuple[str, ...] = ()
    """parts whose mass is not in it"""
    carried: Carried = ()
    """how loads stand on their wheels, where that is known"""
    beams: tuple[tuple[str, str, float], ...] = ()
    """what can swing besides mounts: id, name, frequency"""
    where: Whereabouts = Whereabouts(None, (), ("where its parts are",))


def assess_motion(concept: Concept, body: Body, power: PowerResult) -> MotionResult:
    """Assess every load to move."""
    items = {i.id: i for i in concept.items}
    found = (_assess_load(load, items.get(load.actuator), concept, body, power) for load in concept.loads)
    loads = tuple(_lacking_volts(_lacking_gear(_lacking_mass(r, body.unweighed)), power) for r in found)
    swinging = [Mount(id=f"beam {i}", name=name, frequency_hz=hertz) for i, name, hertz in body.beams]
    unheard = tuple(m for m in concept.mounts if natural_hz(m) is None)
    return MotionResult(loads, tuple(_shakes((*concept.mounts, *swinging), loads)), unheard)


def load_measures(result: LoadResult) -> list[Measure]:
    """The share a load uses of what moves it, and its speed."""
    load = result.load
    found = [Measure("motion", load.name, result.use, "share", missing=result.missing, of=load.id)]
    if result.speed_m_s is not None:
        found.append(Measure("speed", f"{load.name} speed", result.speed_m_s, "m/s",
                             direction=kind_of(load).speed, missing=result.missing, of=load.id))  # fmt: skip
    return found


def _lacking_mass(result: LoadResult, unweighed: tuple[str, ...]) -> LoadResult:
    if not unweighed or not kind_of(result.load).by_total_mass(result.load):
        return result
    return replace(result, missing=(*result.missing, *(f"{name}: its mass" for name in unweighed)))


def _lacking_gear(result: LoadResult) -> LoadResult:
    """A further gear loses something, and nobody says how much: what is worked out without it is a bound."""
    if not lacks_gear(result.load) or not result.checks:
        return result
    return replace(result, missing=(*result.missing, f"{result.load.name}: what its further gear passes on"))


def _lacking_volts(result: LoadResult, power: PowerResult) -> LoadResult:
    """What is not known of the same tree, or hangs on nothing yet, may pull the voltage down further."""
    if result.load.actuator not in power.tree.nodes or not result.checks:
        return result
    gaps = tuple(g.said for g in power.missing if g.item in power.tree.nodes or g.lacks == "a feed")
    return replace(result, missing=(*result.missing, *gaps)) if gaps else result


def _assess_load(load: AnyLoad, item: Item | None, concept: Concept, body: Body, power: PowerResult) -> LoadResult:
    others = others_of(load, concept, body.mass_kg, item)
    volts, lacks = _volts_of(load, item, power)
    drive = None
    if item is not None and volts is not None:
        motor = mover_of(item.part)
        (held,) = held_to_a(concept, [item])
        drive = Drive(item, motor, *volts, held) if motor is not None else None
    if item is not None and drive is None and not lacks:
        lacks = (f"{item.name}: its torque, speed and currents",)
    sag = volts[1] if volts is not None else None
    duty, stance = _duty(concept, load), next((s for s in body.carried if s.load == load.id), None)
    modes = {concept.modes[n].id for n in working_modes(concept, load)}
    if stance is not None and stance.posed:
        stance = stance_in(stance, modes)
    centre = body.where.within(modes if item is not None else {m.id for m in concept.modes})
    full = power.full_v.get(load.actuator)
    return carry(load, Scene(
        concept, body.mass_kg, drive, item, duty, lacks, sag, full, stance, centre, body.where.missing, others
    ))  # fmt: skip


def carry(load: AnyLoad, scene: Scene) -> LoadResult:
    """What follows for a load; figures that make no sense together are missing ones, with the reason."""
    try:
        return kind_of(load).carried(load, scene)
    except ValueError as error:
        return LoadResult(load, missing=(str(error),), impossible=True)


def _volts_of(
    load: AnyLoad, item: Item | None, power: PowerResult
) -> tuple[tuple[float, float] | None, tuple[str, ...]]:  # fmt: skip
    """Voltage that the part of a load gets, as usual and at worst; what is missing where nothing says."""
    if item is None:
        return None, ("what moves it",)
    modes = working_modes(power.concept, load)
    if power.concept.modes and not modes:
        return None, (f"a mode in which {item.name} works",)
    nominal, sag = voltages(item.id, power, modes)
    if nominal is None or sag is None:
        return None, (f"{item.name}: the voltage it gets",)
    return (nominal, sag), ()


def working_modes(concept: Concept, load: AnyLoad) -> tuple[int, ...]:
    """Indices of the modes that a load moves in: its own, else every one in which its part is at work."""
    return tuple(
        n for n, mode in enumerate(concept.modes)
        if (not load.mode or mode.id == load.mode) and state_in(mode, load.actuator) in RUNNING
    )  # fmt: skip


def voltages(item_id: str, power: PowerResult, modes: tuple[int, ...]) -> tuple[float | None, float | None]:
    """Voltage an item gets in some modes: on average where it works hardest, and at the worst instant.

    None where it is not fed, or what feeds it cannot deliver in one of them.
    """
    if item_id not in power.tree.nodes or not modes:
        return None, None
    average = power.currents.of(power.currents.average, item_id)
    row, count = power.input_v(item_id).tolist(), len(power.concept.modes)
    mean = row[max(modes, key=lambda m: average[m])]
    worst = [row[count + m] for m in modes]
    return (None, None) if any(v != v for v in (mean, *worst)) else (mean, min(worst))


def _duty(concept: Concept, load: AnyLoad) -> float:
    """Largest share of the time that its part works in a mode that it moves in."""
    modes = [concept.modes[n] for n in working_modes(concept, load)]
    uses = [next((u.duty for u in m.uses if u.item == load.actuator), 1.0) for m in modes]
    return max(uses, default=1.0)


def natural_hz(mount: Mount) -> float | None:
    """Natural frequency of a mount: given, or from its stiffness and mass."""
    if mount.frequency_hz is not None:
        return mount.frequency_hz
    if mount.stiffness_n_per_m is None or mount.mass_kg is None:
        return None
    return natural_frequency(mount.stiffness_n_per_m, mount.mass_kg).frequency_hz


def _shakes(mounts: Sequence[Mount], loads: tuple[LoadResult, ...]) -> Iterator[Shake]:
    for mount in mounts:
        own = natural_hz(mount)
        if own is None:
            continue
        for result in loads:
            for turning in result.turning:
                if turning.most_hz > 0:
                    source = f"{result.load.name}, {turning.what}"
                    yield from (Shake(mount, own, source, turning, result.load.id, n) for n in TIMES_A_TURN)


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    return *moved_parts(project), concept.mounts, tuple((m.id, m.otherwise, m.uses) for m in concept.modes)


def _work(project: Project, given: Given) -> MotionResult:
    (where,) = given.of(CENTRE)
    body = Body(given.of(TOTAL_KG), given.of(UNWEIGHED), given.of(CARRIED), given.of(FREQUENCIES), where)
    return assess_motion(project.concept, body, given.of(SUPPLY))


MOTION = Node("motion", _read, _work, (TOTAL_KG, UNWEIGHED, SUPPLY, CARRIED, FREQUENCIES, CENTRE))


def measures(assessment: Assessment) -> list[Measure]:
    """The share that each load uses, and how fast it moves."""
    return [m for r in assessment.of(MOTION).loads for m in load_measures(r)]
