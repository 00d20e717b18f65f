"""A concept as lumps: its parts with their surfaces, the boxes with their air and walls, what is fixed to what."""

import math
from collections.abc import Iterable, Mapping

import numpy as np
from msgspec import Struct

from wired_union.physics.heat import AIR_J_PER_M3_K, SOLIDS_J_PER_KG_K, STILL_AIR_W_PER_M2_K, shed_w_per_m2_k
from wired_union.physics.lumps import Heater, Lumps
from wired_union.project.model import Concept, Item, Part
from wired_union.project.warmth_model import Enclosure, WarmPart

CONTACT_W_PER_M2_K = 500.0
"""Dry faces screwed together: 500 to 3000, common practice; the least of them."""
STANDOFFS_W_PER_K = 0.1
"""Four standoffs of 10 mm with their screws: common practice."""
BRIGHT_SHARE = 0.5
"""Share of 10 W/m²K in still air that is not radiation, which a bright foil keeps in: common practice."""
LEAST_KG, LEAST_M = 0.001, 1e-4


class Setting(Struct, frozen=True, eq=False):
    """Lumps by name, what heats them, and what is not known of them."""

    items: dict[str, int]
    """Lump of each item."""
    airs: dict[str, int]
    """Lump of the air in each box, by its id."""
    walls: dict[str, int]
    lumps: Lumps
    sun_w: np.ndarray
    """What the strongest sun gives each lump, shape (n,)."""
    heaters: tuple[tuple[str, Heater], ...]
    """Heaters with a thermostat, by item."""
    lacks: dict[str, str]
    """What is not known of an item, in words."""


def sides_of(part: Part) -> tuple[float, float, float] | None:
    """Length, width and height; None where one is not known."""
    sides = (part.length_m, part.width_m, part.height_m)
    return None if None in sides else tuple(max(s, LEAST_M) for s in sides if s is not None)  # type: ignore[return-value]


def surface_m2(part: Part) -> float | None:
    """Surface of its box; None where a side is not known."""
    sides = sides_of(part)
    if sides is None:
        return None
    x, y, z = sides
    return 2 * (x * y + y * z + z * x)


def junction_k_per_w(part: Part) -> float | None:
    """From junction to air, of a regulator that says so: its rating is then of the air around it."""
    return part.regulator.thermal_resistance_k_per_w if part.regulator is not None else None


def heater_w(item: Item, volts: float) -> float | None:
    """What a heater gives at the voltage that it gets; None where a figure is not known."""
    load = item.part.load
    if load is None or load.active_a is None or load.rated_v is None or volts != volts:
        return None
    at_work_v = {"current": volts, "power": load.rated_v, "resistance": volts**2 / load.rated_v}[load.draw]
    return load.active_a * at_work_v * item.count


def _fixed_w_per_k(how: WarmPart, face_m2: float) -> float:
    """What passes to the plate that a part is fixed to."""
    if how.mount == "flat":
        return CONTACT_W_PER_M2_K * face_m2
    return STANDOFFS_W_PER_K if how.mount == "standoffs" else 0.0


class _Builder:
    def __init__(
        self, concept: Concept, wanted: Iterable[str], volts: Mapping[str, float], wind_m_s: float
    ) -> None:  # fmt: skip
        self.wind_m_s, self.volts = wind_m_s, volts
        self.parts = {i.id: i for i in concept.items}
        self.how: dict[str, WarmPart] = {w.item: w for w in concept.warm_parts}
        self.boxes = {e.id: e for e in concept.enclosures}
        named = {*wanted, *self.how, *(w.plate for w in concept.warm_parts if w.plate)}
        shells = {e.item for e in concept.enclosures if e.item}
        self.items = {i.id: n for n, i in enumerate(x for x in concept.items if x.id in named and x.id not in shells)}
        n = len(self.items)
        self.airs = {e: n + 2 * k for k, e in enumerate(self.boxes)}
        self.walls = {e: n + 2 * k + 1 for k, e in enumerate(self.boxes)}
        whole = n + 2 * len(self.boxes)
        self.capacity = np.full(whole, LEAST_KG * SOLIDS_J_PER_KG_K)
        self.outside, self.sun = np.zeros(whole), np.zeros(whole)
        self.links: dict[tuple[int, int], float] = {}
        self.lacks: dict[str, str] = {}

    def join(self, one: int, other: int, w_per_k: float) -> None:
        pair = (min(one, other), max(one, other))
        self.links[pair] = self.links.get(pair, 0.0) + w_per_k

    def box(self, box: Enclosure) -> None:
        """A box: its air, its walls, what goes through them and around."""
        air, wall = self.airs[box.id], self.walls[box.id]
        shell = self.parts.get(box.item)
        sides = sides_of(shell.part) if shell is not None else None
        typed = (box.length_m, box.width_m, box.height_m)
        x, y, z = sides or tuple(t or 0.0 for t in typed)
        if sides is None and None in typed:
            self.lacks[box.id] = f"{box.name}: its sides"
            x, y, z = 0.1, 0.1, 0.1
        area = 2 * (x * y + y * z + z * x)
        mass = shell.part.mass_kg if shell is not None and shell.part.mass_kg else area * box.wall_m * 1000.0
        self.capacity[air] = max(x * y * z * AIR_J_PER_M3_K, LEAST_KG * SOLIDS_J_PER_KG_K)
        self.capacity[wall] = max(mass, LEAST_KG) * SOLIDS_J_PER_KG_K
        half = box.wall_m / 2 / box.wall_w_per_m_k
        bright = box.foil == "outside"
        still = STILL_AIR_W_PER_M2_K * (BRIGHT_SHARE if bright else 1.0)
        outer = max(still, shed_w_per_m2_k(self.wind_m_s, max(x, y, z))) if self.wind_m_s > 0 else still
        self.join(air, wall, area / (1 / STILL_AIR_W_PER_M2_K + half))
        self.outside[wall] += area / (half + box.insulation_m / box.insulation_w_per_m_k + 1 / outer)
        self.outside[air] += box.vent_m3_s * AIR_J_PER_M3_K
        self.sun[wall] += 0.0 if bright else self._sun_through(box, outer, half) * x * y

    @staticmethod
    def _sun_through(box: Enclosure, outer: float, half: float) -> float:
        """Sun on a square metre of the lid as if it came in at the wall: the air's part leaves it at once.

        Of heat at the outside of a layer, what passes on inward is as if R_out/R of it came in at the inside.
        """
        to_air, layer = 1 / outer, half + box.insulation_m / box.insulation_w_per_m_k
        return box.sun_w_per_m2 * box.absorbs * to_air / (to_air + layer)

    def item(self, item: Item) -> None:
        """A part: what it stores, what its surface sheds, what it is fixed to."""
        n, how = self.items[item.id], self.how.get(item.id, WarmPart(item=item.id))
        area, sides = surface_m2(item.part), sides_of(item.part)
        if area is None or sides is None:
            self.lacks[item.id] = f"{item.name}: its size"
            return
        if item.part.mass_kg is not None:
            self.capacity[n] = max(item.part.mass_kg * item.count, LEAST_KG) * SOLIDS_J_PER_KG_K
        face = sorted(sides)[1] * sorted(sides)[2]
        plate = self.items.get(how.plate)
        bare = area - face if how.mount == "flat" else area
        air = self.airs.get(how.enclosure)
        moves = how.air_speed_m_s if air is not None else max(how.air_speed_m_s, self.wind_m_s)
        sheds = shed_w_per_m2_k(moves, max(sides)) * bare * item.count
        theta = junction_k_per_w(item.part)
        sheds = max(sheds, item.count / theta) if theta else sheds  # as usually mounted, its board sheds for it
        sheds += item.count / how.sink_k_per_w if how.sink_k_per_w is not None else 0.0
        if plate is not None and plate != n and how.holds_c is None:
            self.join(n, plate, _fixed_w_per_k(how, face) * item.count)
        if air is None:
            self.outside[n] += sheds
        else:
            self.join(n, air, sheds)

    def heater(self, how: WarmPart) -> tuple[str, Heater] | None:
        """A heater with a thermostat: all of its heat goes into what it is fixed to."""
        item, warms = self.parts.get(how.item), self.items.get(how.plate)
        if item is None or how.holds_c is None:
            return None
        if warms is None:
            self.lacks[how.item] = f"{item.name}: what it warms"
            return None
        volts = self.volts.get(item.id, math.nan)
        watts = heater_w(item, volts)
        if watts is None:
            wants = "what feeds it" if volts != volts else "its current at work and the voltage that it is given at"
            self.lacks[how.item] = f"{item.name}: {wants}"
            return None
        return how.item, Heater(warms, warms, watts, how.holds_c)


def setting_of(
    concept: Concept, heats: Mapping[str, bool], volts: Mapping[str, float], wind_m_s: float = 0.0
) -> Setting:  # fmt: skip
    """The lumps of a concept: what `heats` (by item) or is described, and what that is fixed to; `volts` has what
    heaters get at the least.
    """
    made = _Builder(concept, (i for i, burns in heats.items() if burns), volts, wind_m_s)
    for box in concept.enclosures:
        made.box(box)
    for item_id in made.items:
        made.item(made.parts[item_id])
    heaters = tuple(h for w in concept.warm_parts if (h := made.heater(w)) is not None)
    lumps = Lumps(made.capacity, tuple((a, b, w) for (a, b), w in made.links.items() if w > 0), made.outside)
    return Setting(made.items, made.airs, made.walls, lumps, made.sun, heaters, made.lacks)
