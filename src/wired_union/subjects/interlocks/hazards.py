"""What can hurt, found from the parts; and the list of the team beside it."""

from collections.abc import Iterator

from msgspec import Struct

from wired_union.project.interlock_model import Hazard, HazardKind
from wired_union.project.model import Concept, Item

SPINS = {"fan", "reaction wheel", "motor", "gearmotor", "stepper"}
HOT = {"heater", "hot wire", "thermoelectric cooler"}
BRIGHT = {"laser pointer"}
FALLS = {"parachute", "tether"}
PINCHES = {"linear actuator", "servo", "solenoid", "cylinder"}
LOOSE = {"fastening"}
DRAWS_IN = {"fan", "pump"}
LITHIUM = {"lifepo4", "li-ion", "lipo", "lithium-manganese", "lithium-primary"}
HURTS: dict[HazardKind, str] = {
    "lithium": "short circuit, swelling, fire", "pressure": "bursts, whips, blows into eyes",
    "spring": "releases at once", "height": "falls on somebody", "heat": "burns", "light": "harms eyes",
    "spin": "draws in hair, cord and fingers", "fasteners": "a loose screw is drawn in and thrown",
    "falling mass": "falls on somebody", "pinching": "pinches fingers", "other": "",
}  # fmt: skip
SEVERITY: dict[HazardKind, int] = {
    "lithium": 3, "pressure": 3, "spring": 3, "height": 3, "heat": 2, "light": 3, "spin": 2, "fasteners": 2,
    "falling mass": 3, "pinching": 2, "other": 2,
}  # fmt: skip
GUARDS: dict[HazardKind, str] = {
    "lithium": "charger made for its chemistry, in sight, above 0 °C; fuse near the pack; a box that does not burn",
    "pressure": "valve that opens by itself, shield, eye protection; emptied before work",
    "spring": "keep out of its line, eye protection; unloaded before work", "height": "nobody below; a second line",
    "heat": "guard, thermostat that fails cold; gloves", "light": "class of the emitter, shutter, goggles",
    "spin": "guard; first runs tethered and behind a screen; hair and cords tied back",
    "fasteners": "threads locked and marked; a look above every opening before each run",
    "falling mass": "nobody below; a rope that bears it", "pinching": "guard, force limit, two hands on the button",
    "other": "",
}  # fmt: skip
"""What people usually do: common practice. The rules of the lab come first."""


class Found(Struct, frozen=True):
    """A part that can hurt in a way."""

    item: Item
    kind: HazardKind
    energy_j: float | None = None


def found_in(concept: Concept) -> Iterator[Found]:
    """What the parts can do, whether the team has it on its list or not."""
    for item in concept.items:
        part = item.part
        if part.pack is not None and part.pack.chemistry in LITHIUM:
            yield Found(item, "lithium")
        if part.tank is not None:
            yield Found(item, "pressure", part.tank.volume_m3 * part.tank.max_pressure_pa)
        if part.spring is not None or (part.stored_energy_j or 0.0) > 0:
            yield Found(item, "spring", part.stored_energy_j)
        for kind, classes in BY_CLASS:
            if part.kind in classes:
                yield Found(item, kind)
    yield from _above_what_draws_in(concept)


BY_CLASS: tuple[tuple[HazardKind, set[str]], ...] = (
    ("spin", SPINS), ("heat", HOT), ("light", BRIGHT), ("falling mass", FALLS), ("pinching", PINCHES),
)  # fmt: skip


def _above_what_draws_in(concept: Concept) -> Iterator[Found]:
    """Fasteners above a propeller or an intake: placed above one, or somewhere while one is there."""
    intakes = [i for i in concept.items if i.part.kind in DRAWS_IN]
    if not intakes:
        return
    lowest = min((p.z_m for i in intakes for p in i.places), default=None)
    for item in concept.items:
        if item.part.kind in LOOSE and (lowest is None or not item.places or any(p.z_m > lowest for p in item.places)):
            yield Found(item, "fasteners")


def not_listed(concept: Concept) -> list[Found]:
    """Those that are on no list yet: no hazard of that kind from that part, or of that kind from no part."""
    listed = {(h.kind, h.item) for h in concept.hazards}
    return [f for f in found_in(concept) if (f.kind, f.item.id) not in listed and (f.kind, "") not in listed]


def as_hazard(found: Found, hazard_id: str) -> Hazard:
    """What is found as an entry of the team's list, with what people usually do."""
    return Hazard(id=hazard_id, name=f"{found.item.name}: {found.kind}"[:120], kind=found.kind, item=found.item.id,
                  hurts=HURTS[found.kind], severity=SEVERITY[found.kind], guarded_by=GUARDS[found.kind],
                  energy_j=found.energy_j)  # fmt: skip
