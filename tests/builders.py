"""Small made-up projects for tests: name only what matters to the test."""

import edits
from wired_union.picture.shapes import Picture, Text
from wired_union.project.model import (
    Actuator,
    Brief,
    Chain,
    Concept,
    Debounce,
    Driver,
    Event,
    Feed,
    Item,
    Limit,
    Link,
    Load,
    Mission,
    Mode,
    Motor,
    Pack,
    Part,
    Phase,
    Project,
    Rail,
    Regulator,
    Sampled,
    Subsystem,
    Supply,
    Transfer,
    Use,
    Wheel,
)  # fmt: skip
from wired_union.project.value import field_names
from wired_union.subjects.mass.place_edits import set_place


def a_part(name: str = "thing", kind: str = "structure", **figures) -> Part:
    return Part(id=name.lower().replace(" ", "-"), name=name, kind=kind, **{"mass_kg": 0.1, "price": 5.0, **figures})


def _split(figures: dict) -> tuple[dict, dict]:
    """Figures of the part itself, and those of its facet."""
    own = {k: v for k, v in figures.items() if k in field_names(Part)}
    return own, {k: v for k, v in figures.items() if k not in own}


def a_pack(name: str = "pack", *, series: int = 4, capacity_ah: float = 6.0, resistance_ohm: float = 0.006,
           chemistry: str = "lifepo4", **figures) -> Part:  # fmt: skip
    own, figures = _split(figures)
    pack = Pack(chemistry=chemistry, series=series, cell_capacity_ah=capacity_ah, cell_resistance_ohm=resistance_ohm,
                **{"max_current_a": 20.0, **figures})  # fmt: skip
    return a_part(name, "pack", pack=pack, **own)


def a_load(name: str = "load", amperes: float = 1.0, **figures) -> Part:
    own, figures = _split(figures)
    load = {"supply_min_v": 1.0, "supply_max_v": 30.0, "rated_v": 12.0, "idle_a": 0.0, "active_a": amperes,
            "peak_a": amperes, **figures}  # fmt: skip
    return a_part(name, "gadget", load=Load(**load), **own)


def a_supply(name: str = "adapter", volts: float = 12.0, **figures) -> Part:
    own, figures = _split(figures)
    return a_part(
        name,
        "mains adapter",
        supply=Supply(output_v=volts, **{"max_current_a": 5.0, "resistance_ohm": 0.0, **figures}),
        **own,
    )


def a_bank(name: str = "bank", *, least_load_a: float | None = 0.0, **figures) -> Part:
    """A power bank of one Li-ion cell of 5 Ah: 5 V up to 2 A at 90 %."""
    cells = Pack(
        chemistry="li-ion", series=1, cell_capacity_ah=5.0, cell_resistance_ohm=0.05, least_load_a=least_load_a
    )
    made = {"topology": "boost", "output_v": 5.0, "max_current_a": 2.0, "efficiency_curve": ((0.1, 0.9),),
            "quiescent_a": 0.0, **figures}  # fmt: skip
    return a_part(name, "power bank", pack=cells, regulator=Regulator(**made))


def a_buck(name: str = "buck", volts: float = 5.0, **figures) -> Part:
    own, figures = _split(figures)
    given = {"input_min_v": 6.0, "input_max_v": 28.0, "max_current_a": 3.0, "dropout_v": 0.0, "quiescent_a": 0.0,
             "efficiency_curve": ((0.01, 0.7), (0.5, 0.9), (3.0, 0.88)), **figures}  # fmt: skip
    return a_part(
        name, "switching regulator", regulator=Regulator(topology="switching", output_v=volts, **given), **own
    )


BY_INPUT_V = {"efficiency_curve": ((0.01, 0.75), (0.5, 0.93), (3.0, 0.9)), "curve_input_v": 8.0,
              "second_efficiency_curve": ((0.01, 0.6), (0.5, 0.86), (3.0, 0.87)), "second_curve_input_v": 16.0}  # fmt: skip
"""A converter measured at 8 V and at 16 V."""


def an_ldo(name: str = "ldo", volts: float = 3.3, **figures) -> Part:
    own, figures = _split(figures)
    given = {
        "input_min_v": 2.5,
        "input_max_v": 15.0,
        "max_current_a": 0.5,
        "dropout_v": 0.3,
        "quiescent_a": 0.0,
        **figures,
    }
    return a_part(name, "linear regulator", regulator=Regulator(topology="linear", output_v=volts, **given), **own)


def a_driver(name: str = "driver", **figures) -> Part:
    own, figures = _split(figures)
    given = {"channels": 2, "channel_current_a": 5.0, "total_current_a": 8.0, "input_min_v": 6.0, "input_max_v": 28.0,
             "on_resistance_ohm": 0.0, "quiescent_a": 0.0}  # fmt: skip
    return a_part(name, "motor driver", driver=Driver(**{**given, **figures}), **own)


def a_motor(name: str = "motor", *, active_a: float = 0.5, stall_a: float = 2.4) -> Part:
    """A motor whose stall current is given at the voltage of `a_pack` at rest, so that it starts with just that."""
    return a_load(name, active_a, startup_a=stall_a, peak_a=stall_a, rated_v=13.6).but(kind="gearmotor")


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


def a_gearmotor(name: str = "motor", **figures):
    own, figures = _split(figures)
    motor = {"rated_voltage_v": 12.0, "no_load_speed_rad_s": 8.2, "stall_torque_n_m": 1.344, "stall_current_a": 2.4,
             "no_load_current_a": 0.1, "gear_ratio": 100.0, **figures}  # fmt: skip
    load = Load(supply_min_v=6, supply_max_v=15, rated_v=12, idle_a=0.0, active_a=0.4, peak_a=2.4, startup_a=2.4)
    return a_part(name, "gearmotor", load=load, motor=Motor(**motor), **own)


def a_rover(*more, **load):
    """A pack, a driver, a motor, a wheel: 3 kg that drive."""
    wheel = a_part("wheel", "wheel", wheel=Wheel(diameter_m=0.12, friction=0.6))
    project = a_project(
        a_pack(mass_kg=0.8), a_driver(channels=4, total_current_a=20.0), a_gearmotor(), wheel, a_part("frame", mass_kg=2.0),
        *more, feeds=(("pack", "driver"), ("driver", "motor")), limits=(a_limit("runtime", 7200.0, "at least"),),
    )  # fmt: skip
    figures = {"actuator": "motor", "wheel": "wheel", "wheels": 4, "driven_wheels": 4, "slope_deg": 12.0, "step_m": 0.025,
               "clearance_m": 0.08,               "rolling_resistance": 0.15, "friction": 0.6, **load}  # fmt: skip
    project = edits.set_count(project, "motor", 4).after
    return edits.add_load(project, "wheels", "Drive", **figures).after


CORNERS = [(0.15, 0.1), (0.15, -0.1), (-0.15, 0.1), (-0.15, -0.1)]
"""Where four wheels stand."""


def on_wheels(frame_x_m: float, *, known: bool = False, **load):
    """Four wheels with a motor each, and a frame of 2 kg that far forward; weighed where `known`."""
    project = edits.set_count(a_rover(**load), "wheel", 4).after
    for copy, (x, y) in enumerate(CORNERS):
        project = set_place(project, "wheel", copy, x_m=x, y_m=y, z_m=0.06).after
        project = set_place(project, "motor", copy, x_m=x, y_m=y / 2, z_m=0.06).after
    for item, x in (("pack", 0.1), ("driver", 0.0), ("frame", frame_x_m)):
        project = set_place(project, item, 0, x_m=x, z_m=0.08).after
    for item, kg in (("wheel", 0.05), ("motor", 0.05), ("driver", 0.0)):
        project = edits.set_part_value(project, item, "mass_kg", kg).after
    for item in project.concept.items if known else ():
        project = edits.set_knowledge(project, item.id, "measured").after
    return project


def with_load(kind, *parts, **figures):
    """A pack, a driver, a motor and what is given, with one load of a kind, called “load”."""
    project = a_project(a_pack(), a_driver(), a_gearmotor(), *parts, feeds=(("pack", "driver"), ("driver", "motor")))
    return edits.add_load(project, kind, "Load", **figures).after


def texts(picture: Picture) -> list[str]:
    """What stands in a picture, with plain spaces."""
    return [s.text.replace("\u202f", " ") for s in picture.shapes if isinstance(s, Text)]


__all__ = [
    "BY_INPUT_V",
    "Actuator",
    "Debounce",
    "Driver",
    "Event",
    "Feed",
    "Item",
    "Limit",
    "Link",
    "Mode",
    "Phase",
    "Rail",
    "Sampled",
    "Subsystem",
    "Transfer",
    "Use",
    "a_bank",
    "a_buck",
    "a_chain",
    "a_driver",
    "a_gearmotor",
    "a_limit",
    "a_load",
    "a_motor",
    "a_pack",
    "a_part",
    "a_project",
    "a_rover",
    "a_supply",
    "an_item",
    "an_ldo",
    "texts",
    "with_load",
]  # fmt: skip


def plain(text: str) -> str:
    """Words with usual spaces in place of the narrow ones before units."""
    return text.replace("\u202f", " ")
