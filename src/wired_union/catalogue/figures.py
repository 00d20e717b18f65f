"""The figures of a part that a slot can ask for, each under one name whatever facet it comes from."""

from collections.abc import Callable

from msgspec import Struct

from wired_union.physics.battery import CHEMISTRIES
from wired_union.project.model import Part

Reader = Callable[[Part], float | None]


def _first(*paths: str) -> Reader:
    """Reads the first of some paths, such as "motor.stall_torque_n_m", that the part gives."""
    split = [path.split(".") for path in paths]

    def read(part: Part) -> float | None:
        for facet, field in split:
            inside = getattr(part, facet)
            value: float | None = getattr(inside, field) if inside is not None else None
            if value is not None:
                return value
        return None

    return read


def _own(field: str) -> Reader:
    def read(part: Part) -> float | None:
        value: float | None = getattr(part, field)
        return value

    return read


def pack_energy_wh(part: Part) -> float | None:
    """Energy of a pack at nominal voltage; None for what is no pack, or has no capacity given."""
    pack = part.pack
    if pack is None or pack.cell_capacity_ah is None or pack.chemistry not in CHEMISTRIES:
        return None
    return pack.series * pack.parallel * pack.cell_capacity_ah * CHEMISTRIES[pack.chemistry].nominal_v


def _supply_min(part: Part) -> float | None:
    if part.regulator is not None:
        return part.regulator.least_input_v
    return _first("load.supply_min_v", "driver.input_min_v")(part)


def _spring_force(part: Part) -> float | None:
    spring = part.spring
    return spring.preload_n + spring.stiffness_n_per_m * spring.travel_m if spring is not None else None


def _force(part: Part) -> float | None:
    given = _first("thrust.max_force_n")(part)
    return given if given is not None else _spring_force(part)


FIGURES: dict[str, Reader] = {
    "torque_n_m": _first("motor.stall_torque_n_m", "flywheel.max_torque_n_m"),
    "speed_rad_s": _first("motor.no_load_speed_rad_s", "flywheel.max_speed_rad_s"),
    "force_n": _force,
    "stroke_m": _first("thrust.stroke_m", "spring.travel_m"),
    "diameter_m": _first("wheel.diameter_m", "canopy.diameter_m"),
    "energy_wh": pack_energy_wh,
    "output_a": _first("regulator.max_current_a", "driver.channel_current_a", "rail.max_current_a",
                       "supply.max_current_a", "pack.max_current_a"),
    "current_a": _first("load.active_a", "load.peak_a"),
    "supply_min_v": _supply_min,
    "supply_max_v": _first("load.supply_max_v", "regulator.input_max_v", "driver.input_max_v"),
    "range_min": _first("sense.range_min"),
    "range_max": _first("sense.range_max"),
    "error": _first("sense.error"),
    "length_m": _own("length_m"),
    "width_m": _own("width_m"),
    "height_m": _own("height_m"),
    "mass_kg": _own("mass_kg"),
    "price": _own("price"),
    "temperature_min_c": _own("temperature_min_c"),
    "temperature_max_c": _own("temperature_max_c"),
    "delivery_days": _own("delivery_days"),
}  # fmt: skip


class Ask(Struct, frozen=True):
    """One figure that must be at least or at most so much; `requirement` is the field of Requires it comes from."""

    requirement: str
    figure: str
    at_least: bool
    value: float

    def holds(self, given: float | None) -> bool:
        """Whether a figure meets it; one that is not given does not."""
        if given is None:
            return False
        slack = 1e-9 * max(abs(self.value), 1.0)
        return given >= self.value - slack if self.at_least else given <= self.value + slack
