"""Checks on charging: never the wrong cells, never too fast, never in the cold; whether a day gives what it takes."""

from collections.abc import Iterator
from functools import partial

from wired_union.catalogue.parts import of_kind
from wired_union.kernel.cautions import RULES
from wired_union.kernel.results import Finding, Remedy, Verdict, possible, tried
from wired_union.physics.battery import CHEMISTRIES
from wired_union.physics.sun import CLEARNESS
from wired_union.project.model import Inlet, Item
from wired_union.project.part_edits import set_count, swap_part
from wired_union.subjects.power.light.edits import set_panel
from wired_union.subjects.power.light.run import PackDay, best_tilt_deg
from wired_union.subjects.power.scene import PowerScene
from wired_union.units import show

RATE_PER_H = 1.0
"""Charge in an hour: what cells bear of which nothing is said, at most (common practice: half of that is kind)."""
MOST_PANELS = 8


def check_charging(scene: PowerScene) -> Iterator[Finding]:
    """Nothing is said where nothing charges."""
    light = scene.light
    if not light.charged:
        return
    for name in light.charged:
        item = next(i for i in light.concept.items if i.id == name)
        yield from _cells(scene, item)
    if scene.hard_only:
        return
    for gap in light.gaps:
        yield Finding("charging", Verdict.UNKNOWN, "What charges", f"Not known yet: {gap}.",
                      "Until it is known nothing says whether a day gives what it takes.", measure="energy-balance",
                      of=gap)  # fmt: skip
    if not light.gaps:
        for day in light.days:
            yield from _balance(scene, day)


def _cells(scene: PowerScene, item: Item) -> Iterator[Finding]:
    """Cells that must not be charged, a charger made for others, or one that is too strong."""
    pack = item.part.pack
    chemistry = CHEMISTRIES.get(pack.chemistry) if pack is not None else None
    if pack is None or chemistry is None:
        return
    if not chemistry.rechargeable:
        yield Finding("charges", Verdict.BREAKS, f"{item.name} must not be charged",
                      f"Its cells are {chemistry.name}: they are used once.", f"They leak, vent or burn. {RULES}",
                      (item.id,), hard=True, of=item.id)  # fmt: skip
        return
    for inlet in scene.light.concept.inlets:
        if inlet.charges != item.id:
            continue
        if inlet.made_for and inlet.made_for != pack.chemistry:
            other = CHEMISTRIES[inlet.made_for].name if inlet.made_for in CHEMISTRIES else inlet.made_for
            yield Finding("charges", Verdict.BREAKS, f"{inlet.name} is made for other cells",
                          f"It charges {other}; {item.name} is {chemistry.name}.",
                          f"The voltage at which it ends is another: cells are overcharged. {RULES}", (item.id,),
                          hard=True, of=item.id, detail=inlet.id)  # fmt: skip
        yield from _too_fast(item, inlet, chemistry.nominal_v)


def _too_fast(item: Item, inlet: Inlet, cell_v: float) -> Iterator[Finding]:
    pack = item.part.pack
    if pack is None or inlet.power_w is None or pack.cell_capacity_ah is None:
        return
    capacity = pack.cell_capacity_ah * pack.parallel * item.count
    amperes = inlet.power_w / (cell_v * pack.series)
    said = pack.max_charge_a * item.count if pack.max_charge_a is not None else None
    most = said if said is not None else RATE_PER_H * capacity
    if amperes <= most:
        return
    of = "it may be charged with" if said is not None else "that fills it in an hour; its own limit is not said"
    yield Finding("charge-rate", Verdict.BREAKS if said is not None else Verdict.TIGHT, f"{item.name} is charged fast",
                  f"{inlet.name} gives {show(amperes, 'A')}, of {show(most, 'A')} {of}.",
                  f"Cells age and warm; lithium plates out. {RULES}", (item.id,), hard=said is not None, of=item.id,
                  detail=inlet.id, use=amperes / most)  # fmt: skip


def _balance(scene: PowerScene, day: PackDay) -> Iterator[Finding]:
    item = day.pack.node.item
    if day.blocked_h > 0:
        yield Finding("cold-light", Verdict.TIGHT, f"{item.name}: light that it may not take",
                      f"In {show(day.blocked_h, 'h')} of light a day it is below 0\u202f°C and must not be charged.",
                      "Lithium plates out of a cold cell under charge (common practice).", (item.id,),
                      of=item.id)  # fmt: skip
    if day.balance_wh < 0:
        yield Finding(
            "balance", Verdict.TIGHT, f"{item.name}: a day takes more than it gives",
            f"{show(day.in_wh, 'Wh')} come in, of which the cells give {show(day.in_wh * day.stored, 'Wh')} again, and"
            f" {show(day.out_wh, 'Wh')} go out: empty after {show(day.lasts_days, 'days')}.",
            _neutral(day), (item.id,), "energy-balance",
            partial(_more_sun, scene, day), of=item.id, use=day.neutral_factor if day.in_wh > 0 else None,
        )  # fmt: skip
    elif day.week_left_wh < 0:
        yield Finding(
            "worst-week", Verdict.TIGHT, f"{item.name}: a week without sun",
            f"A usual day leaves {show(day.balance_wh, 'Wh')}; an overcast one brings {show(day.dark_wh, 'Wh')} of the"
            f" {show(day.out_wh, 'Wh')} it takes, and a full pack lasts"
            f" {show(day.usable_wh / (day.out_wh - day.dark_wh), 'days')}.", "Weeks like that come every winter.",
            (item.id,), "energy-balance", partial(_more_sun, scene, day), of=item.id,
        )  # fmt: skip


def _neutral(day: PackDay) -> str:
    """What would make it even."""
    if day.in_wh <= 0:
        return "Nothing comes in on a usual day."
    less = show(1 / day.neutral_factor, fraction=True)
    return f"{show(day.neutral_factor)} times the light would make it even, or {less} of what it does now."


def _more_sun(scene: PowerScene, day: PackDay) -> tuple[Remedy, ...]:
    """A better tilt, more panels, a larger one: the least of each that makes a usual day even."""
    light, project, found = scene.light, scene.project, []
    items = {i.id: i for i in light.concept.items}
    site = light.brief.site
    for panel in light.concept.sun_panels:
        item = items[panel.item]
        if panel.charges != day.pack.node.item.id or item.part.panel is None or site.latitude_deg is None:
            continue
        best = best_tilt_deg(panel, site.latitude_deg, site.day_of_year, CLEARNESS[site.weather])
        if best != panel.tilt_deg:
            found.append((f"tilt {item.name} to {best:g}°", tried(set_panel, project, item.id, tilt_deg=best)))
        wanted = max(day.neutral_factor, 1.0) if day.balance_wh < 0 else 2.0
        count = -(-item.count * wanted // 1)
        if count <= MOST_PANELS and count > item.count:
            found.append((f"{int(count)} × {item.name}", tried(set_count, project, item.id, int(count))))
        watts = item.part.panel.peak_power_w * wanted
        fitting = sorted((p.panel.peak_power_w, p.id, p) for p in of_kind(item.part.kind) if p.panel is not None)
        larger = next((p for w, _, p in fitting if w >= watts), None)
        if larger is not None:
            found.append((f"take {larger.name} in its place", tried(swap_part, project, item.id, larger)))
    return possible(*found)
