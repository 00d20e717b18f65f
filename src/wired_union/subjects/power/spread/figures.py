"""A concept with figures that are so many times its own: one mission as a project of its own."""

from collections.abc import Callable, Mapping

from wired_union.physics.converter import Curve
from wired_union.project.model import Concept, Item, Load, Motor, Part
from wired_union.subjects.power.spread.unknowns import What

Times = Callable[[str, What], float]
"""Times its own that a figure of an item is."""


def with_times(concept: Concept, times: Times) -> Concept:
    """Every part with its currents, cells and losses as they are in one mission."""
    return concept.but(items=tuple(_item(i, times) for i in concept.items))


def usual_times(usual: Mapping[str, float], times: Times) -> dict[str, float]:
    """The same of currents that a load's task sets."""
    return {item: amperes * times(item, "current") for item, amperes in usual.items()}


def _item(item: Item, times: Times) -> Item:
    part, current = item.part, times(item.id, "current")
    capacity, resistance = times(item.id, "capacity"), times(item.id, "resistance")
    changed: dict[str, object] = {}
    if part.load is not None and current != 1.0:
        changed["load"] = _load(part.load, current)
    if part.motor is not None and current != 1.0:
        changed["motor"] = _motor(part.motor, current)
    if part.pack is not None:
        pack = part.pack
        changed["pack"] = pack.but(
            cell_capacity_ah=_more(pack.cell_capacity_ah, capacity), cell_slow_ohm=pack.cell_slow_ohm * resistance,
            cell_resistance_ohm=_more(pack.cell_resistance_ohm, resistance),
            cell_minutes_ohm=pack.cell_minutes_ohm * resistance,
        )  # fmt: skip
    changed |= _lossy(part, times(item.id, "loss"))
    return item.but(part=part.but(**changed)) if changed else item


def _load(load: Load, times: float) -> Load:
    currents = {f: _more(getattr(load, f), times) for f in ("sleep_a", "idle_a", "active_a", "peak_a", "startup_a")}
    return load.but(**currents)


def _motor(motor: Motor, times: float) -> Motor:
    """More current for the same torque: its winding has less resistance."""
    currents = {f: _more(getattr(motor, f), times) for f in ("stall_current_a", "no_load_current_a")}
    return motor.but(**currents)


def _lossy(part: Part, times: float) -> dict[str, object]:
    """What a converter or a driver loses, and takes for itself."""
    found: dict[str, object] = {}
    if times == 1.0:
        return found
    if part.regulator is not None:
        own = part.regulator
        found["regulator"] = own.but(
            quiescent_a=_more(own.quiescent_a, times), efficiency_curve=_less(own.efficiency_curve, times),
            second_efficiency_curve=_less(own.second_efficiency_curve, times),
        )  # fmt: skip
    elif part.driver is not None:
        found["driver"] = part.driver.but(quiescent_a=_more(part.driver.quiescent_a, times))
    return found


def _less(curve: Curve, times: float) -> Curve:
    """An efficiency at which so many times as much is lost."""
    return tuple((amperes, 1 / (1 + (1 / share - 1) * times)) for amperes, share in curve)


def _more(value: float | None, times: float) -> float | None:
    return None if value is None else value * times
