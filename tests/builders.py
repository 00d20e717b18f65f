"""Small made-up projects for tests: name only what matters to the test."""

from wired_union.project.model import (
    Brief,
    Chain,
    Concept,
    Driver,
    Feed,
    Item,
    Limit,
    Link,
    Load,
    Mission,
    Mode,
    Pack,
    Part,
    Phase,
    Project,
    Rail,
    Regulator,
    Sampled,
    Spell,
    Subsystem,
    Transfer,
    Use,
)  # fmt: skip


def a_part(name: str = "thing", kind: str = "structure", **figures) -> Part:
    return Part(id=name.lower().replace(" ", "-"), name=name, kind=kind, **{"mass_kg": 0.1, "price": 5.0, **figures})


def a_pack(name: str = "pack", *, series: int = 4, capacity_ah: float = 6.0, resistance_ohm: float = 0.006,
           chemistry: str = "lifepo4", **figures) -> Part:  # fmt: skip
    pack = Pack(chemistry=chemistry, series=series, cell_capacity_ah=capacity_ah, cell_resistance_ohm=resistance_ohm,
                **{"max_current_a": 20.0, **figures})  # fmt: skip
    return a_part(name, "pack", pack=pack)


def a_load(name: str = "load", amperes: float = 1.0, **figures) -> Part:
    load = {"supply_min_v": 1.0, "supply_max_v": 30.0, "rated_v": 12.0, "idle_a": 0.0, "active_a": amperes, **figures}
    return a_part(name, "gadget", load=Load(**load))


def a_buck(name: str = "buck", volts: float = 5.0, **figures) -> Part:
    given = {"input_min_v": 6.0, "input_max_v": 28.0, "max_current_a": 3.0,
             "efficiency_curve": ((0.01, 0.7), (0.5, 0.9), (3.0, 0.88)), **figures}  # fmt: skip
    return a_part(name, "switching regulator", regulator=Regulator(topology="switching", output_v=volts, **given))


def an_ldo(name: str = "ldo", volts: float = 3.3, **figures) -> Part:
    given = {"input_max_v": 15.0, "max_current_a": 0.5, "dropout_v": 0.3, **figures}
    return a_part(name, "linear regulator", regulator=Regulator(topology="linear", output_v=volts, **given))


def a_driver(name: str = "driver", **figures) -> Part:
    given = {"channels": 2, "channel_current_a": 5.0, "total_current_a": 8.0, "input_min_v": 6.0, "input_max_v": 28.0}
    return a_part(name, "motor driver", driver=Driver(**{**given, **figures}))


def a_motor(name: str = "motor", *, active_a: float = 0.5, stall_a: float = 2.4) -> Part:
    return a_load(name, active_a, startup_a=stall_a, peak_a=stall_a).model_copy(update={"kind": "gearmotor"})


def an_item(part: Part, count: int = 1, **figures) -> Item:
    return Item(id=part.id, name=part.name, subsystem="all", part=part, count=count, **figures)


def a_project(
    *parts: Part | Item, feeds: tuple[tuple[str, ...], ...] = (), uses: dict[str, str] | None = None, hours: float = 1.0,
    repeats: int = 1, limits: tuple[Limit, ...] = (), chains: tuple[Chain, ...] = (), **brief,
) -> Project:  # fmt: skip
    """A project with one lane, one mode "work" in which named parts have a state (active otherwise)."""
    items = tuple(p if isinstance(p, Item) else an_item(p) for p in parts)
    mode = Mode(id="work", name="Work", otherwise="active",
                uses=tuple(Use(item=i, state=s) for i, s in (uses or {}).items()))  # fmt: skip
    concept = Concept(
        id="a", name="A", subsystems=(Subsystem(id="all", name="All"),), items=items,
        feeds=tuple(Feed(source=s, load=t) for s, t in feeds), modes=(mode,),
        mission=Mission(phases=(Phase(mode="work", duration_s=hours * 3600),), repeats=repeats), chains=chains,
    )  # fmt: skip
    return Project(name="Test", brief=Brief(limits=limits, **brief), concepts=(concept,))


def a_limit(measure: str, value: float, direction: str = "at most", **figures) -> Limit:
    return Limit(measure=measure, name=measure, value=value, direction=direction, **figures)


def a_chain(*stages, name: str = "bump") -> Chain:
    return Chain(id=name, name=name.title(), stages=tuple(stages))


__all__ = [
    "Driver", "Feed", "Item", "Limit", "Link", "Mode", "Phase", "Rail", "Sampled", "Spell", "Subsystem", "Transfer",
    "Use", "a_buck", "a_chain", "a_driver", "a_limit", "a_load", "a_motor", "a_pack", "a_part", "a_project", "an_item",
    "an_ldo",
]  # fmt: skip
