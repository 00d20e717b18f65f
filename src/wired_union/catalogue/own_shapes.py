"""Shapes for a part of the team's own: which class it is of and which figures it has, none of them known yet.

A figure that a shape cannot be without stands at what is usual for its class; the part counts as a guess.
"""

from typing import Any

from wired_union.project.model import (
    Canopy,
    Driver,
    Flywheel,
    Link,
    Load,
    Motor,
    Pack,
    Panel,
    Part,
    Rail,
    Regulator,
    Sense,
    Shifter,
    Spring,
    Stepper,
    Supply,
    Tank,
    Thrust,
    Wheel,
)  # fmt: skip

OWN = "own part"
"""Class of an own part that is like none of the catalogue's."""

SHAPES: dict[str, tuple[str, dict[str, Any]]] = {
    "a load": (OWN, {"load": Load()}),
    "a motor with its gear": ("gearmotor", {"load": Load(), "motor": Motor()}),
    "a servo": ("servo", {"load": Load(), "motor": Motor(), "link": Link(bus="PWM")}),
    "a stepper": ("stepper", {"load": Load(draw="power"), "stepper": Stepper()}),
    "a linear actuator": ("linear actuator", {"load": Load(), "thrust": Thrust()}),
    "a solenoid": ("solenoid", {"load": Load(draw="resistance"), "thrust": Thrust()}),
    "a sensor": (OWN, {"load": Load(), "link": Link(), "sense": Sense(quantity="something")}),
    "a controller": ("microcontroller", {"load": Load(), "link": Link()}),
    "a radio or other thing that talks": (OWN, {"load": Load(), "link": Link()}),
    "a pack": ("pack", {"pack": Pack(chemistry="li-ion", series=3)}),
    "a supply (mains, USB, bench)": ("mains adapter", {"supply": Supply(output_v=5.0)}),
    "a power bank": ("power bank", {"pack": Pack(chemistry="li-ion", series=1),
                                    "regulator": Regulator(topology="boost", output_v=5.0)}),
    "a regulator": ("switching regulator", {"regulator": Regulator(topology="switching", output_v=5.0)}),
    "a driver": ("motor driver", {"driver": Driver(channels=2)}),
    "a rail or switch": ("rail", {"rail": Rail()}),
    "a fuse": ("fuse", {"rail": Rail(fused="whole")}),
    "a level shifter": ("level shifter", {"shifter": Shifter(channels=4)}),
    "a solar panel": ("solar panel", {"panel": Panel(peak_power_w=5.0, peak_power_v=6.0)}),
    "a wheel": ("wheel", {"wheel": Wheel(diameter_m=0.1)}),
    "a spring or elastic": ("spring", {"spring": Spring(stiffness_n_per_m=1000.0, travel_m=0.05)}),
    "an air tank": ("tank", {"tank": Tank(volume_m3=0.5e-3, max_pressure_pa=8e5)}),
    "a reaction wheel": ("reaction wheel", {"load": Load(), "flywheel": Flywheel(
        inertia_kg_m2=1e-4, max_speed_rad_s=600.0, max_torque_n_m=0.02)}),
    "a parachute": ("parachute", {"canopy": Canopy(diameter_m=0.6, drag_coefficient=0.8)}),
    "nothing electrical": ("structure", {}),
}  # fmt: skip
"""By what a team calls it: its class in the catalogue, and the figures that it has."""


def own_part(shape: str, name: str) -> Part:
    """A part of a shape with nothing known. Raises KeyError for a shape that there is not."""
    kind, facets = SHAPES[shape]
    return Part(id=f"own-{name.lower().replace(' ', '-')}", name=name, kind=kind, note="made by the team", **facets)
