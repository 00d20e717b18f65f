"""What thermostats make heaters draw, found before the supply is worked out; and how cold packs get with that."""

from collections.abc import Mapping

from msgspec import Struct

from wired_union.physics.cell_state import FULL_C
from wired_union.project.model import Brief, Concept, Mode, Use
from wired_union.subjects.power.assess import assess_power
from wired_union.subjects.power.missing import Around
from wired_union.subjects.power.warmth.run import heat_of


class Heating(Struct, frozen=True):
    """Share of the time that each heater is on in each mode, and the coldest that each pack gets."""

    shares: tuple[tuple[str, tuple[float, ...]], ...] = ()
    packs_c: tuple[tuple[str, float], ...] = ()
    """Packs whose temperature is worked out."""
    lacks: tuple[str, ...] = ()
    """What is not known of heaters, in words."""


def heating_of(concept: Concept, brief: Brief, around: Around, usual: Mapping[str, float]) -> Heating:
    """Worked out with the heaters off: what they burn besides warms nothing but what they are fixed to.

    In air that stands it is the coldest that counts.
    """
    heated = {w.item for w in concept.warm_parts if w.holds_c is not None}
    cool = brief.coldest_c < FULL_C and bool(concept.enclosures or concept.warm_parts)
    if not (heated or cool):  # above that nothing of the supply rests on how warm things get
        return Heating()
    heat = heat_of(assess_power(_switched_off(concept, heated), around, usual), concept, brief)
    found = ((i, h.power_w, heat.heater_by_mode(i)) for i, h in heat.setting.heaters)
    shares = tuple(
        (i, tuple(min(w / most, 1.0) if most > 0 else 0.0 for w in mean.tolist())) for i, most, mean in found
        if mean is not None
    )  # fmt: skip
    packs = tuple((e.item.id, e.coldest_c) for e in heat.extremes if e.item.part.pack is not None)
    lacks = tuple(said for i, said in heat.setting.lacks.items() if i in heated)
    return Heating(shares, packs, lacks)


def _switched_off(concept: Concept, items: set[str]) -> Concept:
    """The concept with some items off in every mode."""
    modes = tuple(_with_uses(m, tuple(Use(item=i, state="off") for i in sorted(items))) for m in concept.modes)
    return concept.but(modes=modes) if items else concept


def with_heaters(concept: Concept, heating: Heating) -> Concept:
    """The concept with every heater on for as long as its thermostat asks; the same object where there is none."""
    if not heating.shares:
        return concept
    modes = tuple(
        _with_uses(m, tuple(Use(item=i, state="active", duty=share[n], rest="off") for i, share in heating.shares))
        for n, m in enumerate(concept.modes)
    )
    return concept.but(modes=modes)


def _with_uses(mode: Mode, uses: tuple[Use, ...]) -> Mode:
    named = {u.item for u in uses}
    return mode.but(uses=(*(u for u in mode.uses if u.item not in named), *uses))
