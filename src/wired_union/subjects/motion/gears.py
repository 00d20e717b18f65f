"""The same motor with other gears: what each would do for a load, at the voltage it gets now."""

import math

from msgspec import Struct

from wired_union.catalogue.parts import of_kind
from wired_union.physics.motor import MotorConstants, best_gear_ratio, motor_constants
from wired_union.project.change import Change
from wired_union.project.model import Part, Project
from wired_union.project.part_edits import swap_part
from wired_union.subjects.motion.results import LoadResult


class Gear(Struct, frozen=True):
    """One other gear: its part, the edit that takes it, and how it carries the hardest point of the load."""

    part: Part
    change: Change
    ratio: float
    stall_use: float
    """Share of its stall torque that the hardest point takes, at the voltage the motor sags to."""
    speed_rad_s: float
    """Speed at the second hardest point (the slope), 0 where it stalls."""
    efficiency: float
    usual_a: float

    def mends(self, result: LoadResult, check_id: str) -> bool:
        """Whether it carries what the present gear does not, without stalling or becoming too slow."""
        drive = result.drive
        if drive is None or self.stall_use > 1:
            return False
        slope = result.points[-2].torque_n_m if len(result.points) > 2 else result.points[-1].torque_n_m
        now = max(drive.motor.speed_at(drive.sag_v, slope), 0.0)
        if check_id == "speed":
            return self.speed_rad_s > now
        speed = next((c for c in result.checks if c.id == "speed"), None)
        fast = speed is None or now <= 0 or speed.use * now / max(self.speed_rad_s, 1e-9) <= 1 or speed.use > 1
        hardest = max(p.torque_n_m for p in result.points) / drive.stall_n_m if drive.stall_n_m else math.inf
        return fast and self.stall_use < hardest


def same_motor(part: Part) -> list[Part]:
    """Catalogue parts with the same motor and another gear: voltage, stall current and no-load current agree."""
    motor = part.motor
    if motor is None:
        return []
    return [
        p for p in of_kind(part.kind)
        if p.motor is not None and p.id != part.id and p.motor.rated_voltage_v == motor.rated_voltage_v
        and p.motor.stall_current_a == motor.stall_current_a and p.motor.no_load_current_a == motor.no_load_current_a
        and p.width_m == part.width_m
    ]  # fmt: skip


def _constants(part: Part) -> MotorConstants:
    m = part.motor
    assert m is not None
    return motor_constants(
        m.rated_voltage_v or 0.0, m.no_load_speed_rad_s or 0.0, m.stall_torque_n_m or 0.0, m.stall_current_a or 0.0,
        m.no_load_current_a or 0.0,
    )  # fmt: skip


def other_ratios(project: Project, result: LoadResult) -> list[Gear]:
    """The same motor with every other gear of the catalogue, in order of ratio; empty without a motor."""
    drive = result.drive
    if drive is None or not result.points:
        return []
    found = []
    hardest = max(p.torque_n_m for p in result.points)
    slope = result.points[-2].torque_n_m if len(result.points) > 2 else hardest
    for part in same_motor(drive.item.part):
        motor = _constants(part)
        stall = motor.stall_torque_at(drive.sag_v)
        speed = max(motor.speed_at(drive.sag_v, slope), 0.0)
        current = motor.current_at(slope)
        efficiency = slope * speed / (drive.sag_v * current) if current > 0 and drive.sag_v > 0 else 0.0
        change = swap_part(project, drive.item.id, part)
        ratio = part.motor.gear_ratio if part.motor is not None and part.motor.gear_ratio else 1.0
        use = hardest / stall if stall > 0 else math.inf
        found.append(Gear(part, change, ratio, use, speed, efficiency, motor.current_at(result.points[0].torque_n_m)))
    return sorted(found, key=lambda g: g.ratio)


def matched_ratio(result: LoadResult, load_inertia_kg_m2: float) -> float | None:
    """The ratio that accelerates the load fastest; None while the rotor's inertia is not given."""
    motor = result.drive.item.part.motor if result.drive is not None else None
    if motor is None or motor.rotor_inertia_kg_m2 is None or load_inertia_kg_m2 <= 0:
        return None
    return best_gear_ratio(load_inertia_kg_m2, motor.rotor_inertia_kg_m2).ratio
