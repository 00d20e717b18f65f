"""Whether a part's figures can be true together. Each rule names the field that is out and what would be right.

A part that passes is possible, not right: measure yours. Figures that are not given are not judged.
"""

import math
from collections.abc import Callable, Iterator
from itertools import pairwise

from msgspec import Struct

from wired_union.catalogue.parts import CURVES
from wired_union.physics.battery import CHEMISTRIES
from wired_union.project.model import Load, Motor, Part
from wired_union.units import show

LEAD_KG_M3 = 11_340.0
SUN_W_M2 = 1000.0
BEST_CELL_SHARE = 0.25  # common practice: panels on sale give up to a quarter of the sun
ENERGY_WH_PER_KG = {
    # least and most of packs on sale with their wrapping: common practice
    "lifepo4": (60, 160), "li-ion": (90, 280), "lipo": (80, 260), "nimh": (35, 120), "lead-acid": (20, 50),
    "alkaline": (50, 190), "lithium-manganese": (150, 360),
    "lithium-primary": (150, 720),
}  # fmt: skip


class Problem(Struct, frozen=True):
    """A figure that cannot be right: the field, and why with figures."""

    field: str
    text: str


def problems(part: Part) -> tuple[Problem, ...]:
    """Everything about a part that cannot be true; empty where it could be."""
    return tuple(problem for rule in RULES for problem in rule(part))


def _general(part: Part) -> Iterator[Problem]:
    if part.price is not None and part.price <= 0:
        yield Problem("price", "must be above 0; what costs nothing is donated or owned, which is said elsewhere")
    if part.mass_kg is not None and part.mass_kg <= 0:
        yield Problem("mass_kg", "must be above 0")
    low, high = part.temperature_min_c, part.temperature_max_c
    if low is not None and low < -273.15:
        yield Problem("temperature_min_c", f"{low:g}\u202f°C is below absolute zero")
    if low is not None and high is not None and low >= high:
        yield Problem("temperature_max_c", f"{high:g}\u202f°C is not above the coldest, {low:g}\u202f°C")
    if part.delivery_days is not None and part.delivery_days > 730:
        yield Problem("delivery_days", f"{part.delivery_days:g} days is over two years; give days")


def _size(part: Part) -> Iterator[Problem]:
    sides = (part.length_m, part.width_m, part.height_m)
    names = ("length_m", "width_m", "height_m")
    for name, side in zip(names, sides, strict=True):
        if side is not None and side > 10:
            yield Problem(name, f"{show(side, 'm')} is more than any bench holds; give metres")
    if None in sides or part.mass_kg is None:
        return
    volume = math.prod(x for x in sides if x is not None)
    if volume > 0 and part.mass_kg / volume > LEAD_KG_M3:
        yield Problem(
            "mass_kg", f"{show(part.mass_kg, 'kg')} in that size is denser than lead; check the mass and sides"
        )


def _load(part: Part) -> Iterator[Problem]:
    load = part.load
    if load is None:
        return
    if load.supply_min_v is not None and load.supply_max_v is not None and load.supply_min_v > load.supply_max_v:
        yield Problem("load.supply_max_v", f"is below the lowest supply, {show(load.supply_min_v, 'V')}")
    if load.rated_v is not None and not (load.supply_min_v or 0) <= load.rated_v <= (load.supply_max_v or math.inf):
        yield Problem("load.rated_v", f"{show(load.rated_v, 'V')} is outside its own supply range")
    yield from _rising(load)


def _rising(load: Load) -> Iterator[Problem]:
    known = [(n, v) for n in ("sleep_a", "idle_a", "active_a", "peak_a") if (v := getattr(load, n)) is not None]
    for (name, low), (next_name, high) in pairwise(known):
        if low > high:
            said = f"{show(high, 'A')} is below the {show(low, 'A')} of {name.removesuffix('_a')}"
            yield Problem(f"load.{next_name}", said)


def _motor(part: Part) -> Iterator[Problem]:
    motor = part.motor
    if motor is None:
        return
    volts, stall_a, idle_a = motor.rated_voltage_v, motor.stall_current_a, motor.no_load_current_a
    if stall_a is not None and idle_a is not None and idle_a >= stall_a:
        yield Problem("motor.no_load_current_a", f"{show(idle_a, 'A')} is not below the stall current")
    if motor.stall_torque_n_m is None or motor.no_load_speed_rad_s is None or volts is None or stall_a is None:
        return
    given = motor.stall_torque_n_m * motor.no_load_speed_rad_s / 4
    taken = volts * (stall_a + (idle_a or 0.0)) / 2
    if given >= taken / 2:  # the linear model: at half speed at least half is heat
        yield Problem(
            "motor.stall_torque_n_m",
            f"gives {show(given, 'W')} at half speed from {show(taken, 'W')}; a motor gives less than half there",
        )
        return
    if idle_a is not None and idle_a < stall_a:
        yield from _constants(motor, volts, stall_a, idle_a)


def _constants(motor: Motor, volts: float, stall_a: float, idle_a: float) -> Iterator[Problem]:
    """A bare motor gives as much torque for an ampere as it makes volts for a turn; a gear loses some."""
    assert motor.stall_torque_n_m is not None
    assert motor.no_load_speed_rad_s is not None
    made = (volts - idle_a * volts / stall_a) / motor.no_load_speed_rad_s
    share = motor.stall_torque_n_m / (stall_a - idle_a) / made
    if motor.gear_ratio == 1 and not 0.85 <= share <= 1.05:
        yield Problem(
            "motor.stall_torque_n_m", f"is {share:.0%} of what its voltage and speed make; without a gear 100 %"
        )
    elif not 0.25 <= share <= 1.02:
        yield Problem(
            "motor.stall_torque_n_m", f"is {share:.0%} of what its voltage and speed make; with a gear 25 to 95 %"
        )


def _pack(part: Part) -> Iterator[Problem]:
    pack = part.pack
    if pack is None:
        return
    chemistry = CHEMISTRIES.get(pack.chemistry)
    if chemistry is None:
        yield Problem("pack.chemistry", f"“{pack.chemistry}” is not one of {', '.join(CHEMISTRIES)}")
        return
    if pack.cell_capacity_ah is None:
        return
    amount = pack.cell_capacity_ah * pack.parallel
    if part.mass_kg:
        density = pack.series * amount * chemistry.nominal_v / part.mass_kg
        low, high = ENERGY_WH_PER_KG[pack.chemistry]
        if not low <= density <= high:
            yield Problem("mass_kg", f"{density:.0f}\u202fWh/kg; {chemistry.name} packs hold {low} to {high}")
    if pack.max_current_a is not None and pack.max_current_a > 150 * amount:
        yield Problem("pack.max_current_a", f"empties it in {3600 * amount / pack.max_current_a:.0f}\u202fs")


def _regulator(part: Part) -> Iterator[Problem]:
    regulator = part.regulator
    if regulator is None:
        return
    for field in CURVES:
        curve = getattr(regulator, field)
        if any(share >= 1 for _, share in curve):
            yield Problem(f"regulator.{field}", "reaches 100 %; every converter loses something")
        amperes = [a for a, _ in curve]
        if amperes != sorted(set(amperes)):
            yield Problem(f"regulator.{field}", "must be in rising order of current")
    one, other = regulator.curve_input_v, regulator.second_curve_input_v
    if regulator.second_efficiency_curve and (one is None or other is None or one == other):
        yield Problem("regulator.second_curve_input_v", "two curves need the two input voltages that they belong to")
    low, high = regulator.input_min_v, regulator.input_max_v
    if low is not None and high is not None and low > high:
        yield Problem("regulator.input_max_v", f"is below the lowest input, {show(low, 'V')}")
    if regulator.topology in {"linear", "switching"} and high is not None and high < regulator.output_v:
        yield Problem("regulator.input_max_v", "is below the output; only a boost or buck-boost one steps up")
    if regulator.topology in {"linear", "switching"} and low is not None and low < regulator.output_v:
        yield Problem("regulator.input_min_v", "is below the output; only a boost or buck-boost one works from there")
    if regulator.topology == "boost" and high is not None and high > regulator.output_v:
        yield Problem("regulator.input_max_v", "is above the output; a boost one would pass that on")


def _stepper(part: Part) -> Iterator[Problem]:
    """What a stepper takes from the supply, and what its windings burn while its driver holds their current."""
    s, load = part.stepper, part.load
    if s is None or s.coil_current_a is None or s.coil_resistance_ohm is None:
        return
    burnt = 2 * s.coil_current_a**2 * s.coil_resistance_ohm
    if load is None or load.active_a is None or load.rated_v is None:
        return
    taken = load.rated_v * load.active_a
    if taken < 0.99 * burnt:
        yield Problem("load.active_a", f"takes {show(taken, 'W')}; its windings burn {show(burnt, 'W')}")
    elif taken > 3 * burnt:
        yield Problem("load.active_a", "is that of its windings; from the supply a driver takes less, I²·R through V")


def _driver(part: Part) -> Iterator[Problem]:
    driver = part.driver
    if driver is None or driver.channel_current_a is None or driver.total_current_a is None:
        return
    if driver.total_current_a > driver.channels * driver.channel_current_a * 1.001:
        yield Problem("driver.total_current_a", "is more than all its channels together")


def _sense(part: Part) -> Iterator[Problem]:
    sense = part.sense
    if sense is None or sense.range_min is None or sense.range_max is None:
        return
    if sense.range_min >= sense.range_max:
        yield Problem("sense.range_max", f"{sense.range_max:g} is not above the least, {sense.range_min:g}")
    elif sense.error is not None and sense.error >= sense.range_max - sense.range_min:
        yield Problem("sense.error", f"{sense.error:g} is as large as its range; it would tell nothing")


def _thrust(part: Part) -> Iterator[Problem]:
    thrust, load = part.thrust, part.load
    if thrust is None or load is None or thrust.max_force_n is None or thrust.no_load_speed_m_s is None:
        return
    taken = (load.rated_v or 0.0) * (load.peak_a or load.active_a or 0.0)
    given = thrust.max_force_n * thrust.no_load_speed_m_s / 4
    if taken and given >= taken / 2:
        yield Problem("thrust.max_force_n", f"gives {show(given, 'W')} from {show(taken, 'W')}; too much for a motor")


def _stored(part: Part) -> Iterator[Problem]:
    if part.spring is not None:
        energy = (
            part.spring.stiffness_n_per_m * part.spring.travel_m**2 / 2 + part.spring.preload_n * part.spring.travel_m
        )
        if part.stored_energy_j is not None and not 0.8 <= part.stored_energy_j / energy <= 1.25:
            yield Problem("stored_energy_j", f"½·k·x² is {show(energy, 'J')}")
        if part.mass_kg and energy / part.mass_kg > 8000:  # rubber holds a few kJ/kg: common practice
            yield Problem("spring.stiffness_n_per_m", f"{show(energy / part.mass_kg, 'J')} in a kilogram; check N/m")
        if part.spring.law == "gas" and part.spring.preload_n <= 0:
            yield Problem("spring.preload_n", "a gas spring pushes from its start: give that force")
        if part.spring.law == "rubber" and part.spring.free_length_m is None:
            yield Problem("spring.free_length_m", "rubber's force follows from its length before it is stretched")
    if part.tank is not None and part.tank.max_pressure_pa > 350e5:
        yield Problem(
            "tank.max_pressure_pa", f"{show(part.tank.max_pressure_pa, 'Pa')}; give pascals, 1 bar is 100 000"
        )


def _turning(part: Part) -> Iterator[Problem]:
    wheel, fly, longest = part.wheel, part.flywheel, part.length_m
    if wheel is not None and longest is not None and wheel.diameter_m > longest * 1.05:
        yield Problem("wheel.diameter_m", f"{show(wheel.diameter_m, 'm')} is more than its longest side")
    rotor = part.motor.rotor_inertia_kg_m2 if part.motor is not None else None
    if rotor is not None and part.width_m is not None and part.mass_kg is not None:
        most = part.mass_kg * (part.width_m / 2) ** 2
        if rotor > most:
            yield Problem(
                "motor.rotor_inertia_kg_m2", f"is more than all its mass at its edge gives, {most:.2g}\u202fkg·m²"
            )
    if fly is not None and longest is not None and part.mass_kg is not None:
        most = part.mass_kg * (longest / 2) ** 2
        if fly.inertia_kg_m2 > most:
            yield Problem(
                "flywheel.inertia_kg_m2", f"is more than all its mass at the rim gives, {most:.2g}\u202fkg·m²"
            )
        if fly.max_speed_rad_s * longest / 2 > 300:
            yield Problem("flywheel.max_speed_rad_s", "the rim would run at over 300 m/s")


def _sky(part: Part) -> Iterator[Problem]:
    if part.canopy is not None and not 0.3 <= part.canopy.drag_coefficient <= 2.5:
        yield Problem("canopy.drag_coefficient", f"{part.canopy.drag_coefficient:g}; canopies have 0.4 to 2.2")
    panel, sides = part.panel, (part.length_m, part.width_m)
    if panel is not None and sides[0] and sides[1]:
        most = SUN_W_M2 * BEST_CELL_SHARE * sides[0] * sides[1]
        if panel.peak_power_w > most:
            yield Problem("panel.peak_power_w", f"full sun on that area gives {show(most, 'W')} at the most")


RULES: tuple[Callable[[Part], Iterator[Problem]], ...] = (
    _general, _size, _load, _motor, _pack, _regulator, _stepper, _driver, _sense, _thrust, _stored, _turning, _sky,
)  # fmt: skip
