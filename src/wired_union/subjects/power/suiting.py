"""What a part takes, and which source suits it: what can be said of a part and a source alone."""

from wired_union.project.model import Part
from wired_union.subjects.power.assess import Source

SELF_DRIVEN = {"servo"}
"""Classes of motor with a driver of their own inside."""


def needs(part: Part) -> tuple[float | None, float | None]:
    """Lowest and highest supply a part takes; None where it does not say."""
    if part.load is not None:
        return part.load.supply_min_v, part.load.supply_max_v
    if part.regulator is not None:
        return part.regulator.least_input_v, part.regulator.most_input_v
    if part.driver is not None:
        return part.driver.input_min_v, part.driver.input_max_v
    return None, None


def wants_driver(part: Part) -> bool:
    """Whether a part is a bare motor, which a driver has to switch."""
    return part.stepper is not None or (part.motor is not None and part.kind not in SELF_DRIVEN)


def suits(source: Source, part: Part) -> bool:
    """Whether the source's whole range of voltage suits the part."""
    least, most = needs(part)
    return (least is None or source.low_v >= least) and (most is None or source.high_v <= most)


def best_source(part: Part, offered: tuple[Source, ...]) -> Source | None:
    """The source a new part would be fed from: motors from a driver, the rest from the last suiting rail."""
    if part.load is None and part.regulator is None and part.driver is None and part.rail is None:
        return None
    fitting = [s for s in offered if suits(s, part)]
    if wants_driver(part):
        drivers = [s for s in fitting if s.item.part.driver is not None]
        return drivers[0] if drivers else None
    rails = [s for s in fitting if s.item.part.driver is None]
    if part.regulator is not None or part.driver is not None:
        return rails[0] if rails else None
    return rails[-1] if rails else None
