"""Motion: every load to move against the part that moves it, what shakes what, and what the room refuses.

The current that a load usually takes stands for its motor's current at work in Power; the voltage that Power finds
there, on average and at the worst instant, sets the speed here. The current does not depend on the voltage (linear
motor model), so one pass each way is the fixed point.
"""

from collections.abc import Iterator
from dataclasses import dataclass

from wired_union.assess.motion_gears import other_ratios
from wired_union.assess.motion_loads import (
    KINDS,
    Scene,
    arm_torque,
    drum_torque,
    screw_torque,
    wheel_radius_m,
    wheel_torques,
)
from wired_union.assess.motion_results import Check, Drive, LoadResult
from wired_union.assess.power import PowerResult
from wired_union.assess.power_flow import input_voltage
from wired_union.assess.results import Finding, Measure, Remedy, Verdict, judged
from wired_union.physics.motor import MotorConstants, motor_constants
from wired_union.physics.vibration import natural_frequency
from wired_union.project.change import replaced
from wired_union.project.model import AnyLoad, Brief, Concept, Item, Mount, Part, Project, Space
from wired_union.project.motion_model import ArmLoad, DrumLoad, ScrewLoad, WheelLoad
from wired_union.units import show

SEPARATION = 0.2
"""Share that an excitation keeps away from a natural frequency: common practice."""


@dataclass(frozen=True)
class Shake:
    """What turns near a natural frequency: how far away, as a share of it."""

    mount: Mount
    natural_hz: float
    source: str
    source_hz: float

    @property
    def apart(self) -> float:
        return abs(self.source_hz / self.natural_hz - 1)


@dataclass(frozen=True)
class MotionResult:
    """Every load, every shake, and the parts that the room refuses."""

    loads: tuple[LoadResult, ...]
    shakes: tuple[Shake, ...]
    refused: tuple[tuple[Item, str], ...]
    measures: tuple[Measure, ...]

    def of(self, load_id: str) -> LoadResult | None:
        return next((r for r in self.loads if r.load.id == load_id), None)


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
    """Torque at the motor's shaft on most of the way; None for loads that set no current."""
    if isinstance(load, WheelLoad):
        radius = wheel_radius_m(_bare_scene(concept, mass_kg), load)
        return wheel_torques(load, mass_kg, radius)[0] if radius and mass_kg > 0 else None
    if isinstance(load, ArmLoad):
        return max(arm_torque(load)[0], 0.0) / load.ratio
    if isinstance(load, DrumLoad):
        return drum_torque(load)
    if isinstance(load, ScrewLoad):
        return screw_torque(load, load.force_n if load.usual_force_n is None else load.usual_force_n)
    return None


def _bare_scene(concept: Concept, mass_kg: float) -> Scene:
    return Scene(concept, mass_kg, None, None, 1.0, ())


def with_usual_currents(concept: Concept, mass_kg: float) -> Concept:
    """The concept with each motor's current at work from what it has to move; the same object where nothing moves."""
    items = concept.items
    for load in concept.loads:
        item = next((i for i in items if i.id == load.actuator), None)
        if item is None or item.part.load is None or (motor := constants_of(item.part)) is None:
            continue
        torque = usual_torque_n_m(load, concept, mass_kg)
        if torque is None:
            continue
        new = item.part.load.but(active_a=min(motor.current_at(torque), _blocked_a(item)))
        part = item.part.but(load=new)
        items = replaced(items, item, item.but(part=part))
    return concept if items is concept.items else concept.but(items=items)


def _blocked_a(item: Item) -> float:
    motor = item.part.motor
    return motor.stall_current_a or float("inf") if motor is not None else float("inf")


def assess_motion(concept: Concept, brief: Brief, mass_kg: float, power: PowerResult) -> MotionResult:
    """Assess every load to move."""
    loads = tuple(_assess_load(load, concept, mass_kg, power) for load in concept.loads)
    measures = [m for r in loads for m in load_measures(r)]
    return MotionResult(
        loads, tuple(_shakes(concept, loads)), tuple(refused_by_room(concept, brief.space)),
        tuple(judged(m, brief) for m in measures),
    )  # fmt: skip


def load_measures(result: LoadResult) -> list[Measure]:
    """The share a load uses of what moves it, and its speed."""
    load = result.load
    found = [Measure(f"motion:{load.id}", load.name, result.use, "share", missing=result.missing)]
    if result.speed_m_s is not None:
        at_most = load.kind == "canopy"
        found.append(Measure(f"speed:{load.id}", f"{load.name} speed", result.speed_m_s, "m/s",
                             direction="at most" if at_most else "at least"))  # fmt: skip
    return found


def _assess_load(load: AnyLoad, concept: Concept, mass_kg: float, power: PowerResult) -> LoadResult:
    item = next((i for i in concept.items if i.id == load.actuator), None)
    drive, lacks = _drive_of(item, power)
    return carry(load, Scene(concept, mass_kg, drive, item, _duty(concept, load.actuator), lacks))


def carry(load: AnyLoad, scene: Scene) -> LoadResult:
    """What follows for a load; figures that make no sense together are missing ones, with the reason."""
    try:
        return KINDS[load.kind](load, scene)
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
        rated = item.part.motor.rated_voltage_v if item.part.motor else None
        nominal = sag = rated or 0.0
    return Drive(item, motor, nominal, sag), ()


def voltages(item_id: str, power: PowerResult) -> tuple[float | None, float | None]:
    """Voltage an item gets: on average where it works hardest, and at the worst instant; None where it is not fed."""
    modes = range(len(power.concept.modes))
    if item_id not in power.tree.nodes or not modes:
        return None, None
    hardest = max(modes, key=lambda m: power.average_a[m].get(item_id, 0.0))
    mean, reserve = input_voltage(power, item_id, hardest), power.brief.energy_reserve
    worst = [input_voltage(power, item_id, m, reserve, peak=True) for m in modes]
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


def room_refusal(part: Part, space: Space) -> str | None:
    """Why a part does not fit the room there is, with by how much; None where it fits or is not given."""
    sides = (part.length_m, part.width_m, part.height_m)
    if None in sides:
        return None
    length, width, height = sorted((s for s in sides if s is not None), reverse=True)
    if space.length_m is not None and length > space.length_m:
        return (
            f"{show(length, 'm')} long; {show(space.length_m, 'm')} at most: {show(length - space.length_m, 'm')} over"
        )
    gate = sorted(s for s in (space.gate_width_m, space.gate_height_m) if s is not None)
    if len(gate) == 2 and (height > gate[0] or width > gate[1]):
        most = max(height - gate[0], width - gate[1])
        return (
            f"{show(width, 'm')} × {show(height, 'm')} across; the gate is {show(gate[1], 'm')} × {show(gate[0], 'm')}:"
            f" {show(most, 'm')} over"
        )
    return None


def refused_by_room(concept: Concept, space: Space) -> Iterator[tuple[Item, str]]:
    """Parts that do not fit, by name."""
    for item in concept.items:
        why = room_refusal(item.part, space)
        if why is not None:
            yield item, why
    for load in concept.loads:
        reach = load.reach_m if isinstance(load, ArmLoad) else None
        mover = next((i for i in concept.items if i.id == load.actuator), None)
        if reach is not None and space.reach_m is not None and reach > space.reach_m and mover is not None:
            yield mover, f"{load.name} reaches {show(reach, 'm')}; {show(space.reach_m, 'm')} at most"


def motion_findings(project: Project, result: MotionResult) -> Iterator[Finding]:
    """What breaks or is tight, what is missing, what shakes, what does not fit."""
    for r in result.loads:
        subjects = (r.load.actuator,) if r.load.actuator else ()
        for gap in r.missing:
            why = "Until it is known nothing says whether it moves."
            yield Finding(f"motion-gap:{r.load.id}:{gap}", Verdict.UNKNOWN, r.load.name, f"Not known yet: {gap}.", why,
                          subjects, f"motion:{r.load.id}")  # fmt: skip
        for check in r.checks:
            if check.verdict in {Verdict.BREAKS, Verdict.TIGHT}:
                yield _finding(project, r, check, subjects)
    for shake in result.shakes:
        if shake.apart < SEPARATION:
            yield Finding(
                f"shake:{shake.mount.id}:{shake.source}", Verdict.TIGHT, f"{shake.mount.name} shakes",
                f"{shake.source} turns at {show(shake.source_hz, 'Hz')}; it swings by itself at"
                f" {show(shake.natural_hz, 'Hz')}, {show(shake.apart, 'share')} away.",
                "Keep excitation 20 % or more away (common practice): stiffen it, load it, or run at another speed.",
            )  # fmt: skip
    for item, why in result.refused:
        said = f"{why[:1].upper()}{why[1:]}."
        yield Finding(f"room:{item.id}", Verdict.BREAKS, f"{item.name} does not fit", said, "", (item.id,), hard=True)


_HOLDS = {"slope": "just climbs the slope", "step": "just climbs the step", "speed": "is just fast enough",
          "grip": "just grips", "all day": "runs warm", "time": "takes nearly all the time there is"}  # fmt: skip
_FAILS = {"slope": "does not climb the slope", "step": "stops at the step", "speed": "is too slow", "grip": "slips",
          "all day": "overheats", "time": "takes too long", "winding": "stalls before it is wound"}  # fmt: skip
_STUCK = {"slope", "step", "torque", "force", "winding"}


def _finding(project: Project, result: LoadResult, check: Check, subjects: tuple[str, ...]) -> Finding:
    fails = check.use > 1
    words = (_FAILS if fails else _HOLDS).get(check.id, f"{'lacks' if fails else 'has little'} {check.name} left")
    why = (
        "Most torque is at zero speed; a ratio that gives torque takes speed." if check.id in {"speed", "slope"} else ""
    )
    gears = other_ratios(project, result) if check.id in {"slope", "step", "torque", "speed"} else []
    remedies = tuple(Remedy(f"take {g.part.name}", g.change) for g in gears if g.mends(result, check.id))[:2]
    return Finding(
        f"motion:{result.load.id}:{check.id}", check.verdict, f"{result.load.name} {words}", f"{check.said}.", why,
        subjects, f"motion:{result.load.id}", remedies, hard=fails and check.id in _STUCK,
    )  # fmt: skip
