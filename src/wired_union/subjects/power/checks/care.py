"""Checks on what cells need besides current: a cut-off before they are harmed, and what the cool takes of them."""

from collections.abc import Iterator
from functools import partial

from wired_union.catalogue.parts import of_kind
from wired_union.kernel.results import Finding, Remedy, Verdict, possible, tried
from wired_union.physics.cell_state import FREEZING_C, cool_cell
from wired_union.project.model import Item
from wired_union.subjects.power.insert import IN_HAND, insert_behind
from wired_union.subjects.power.packs import PackResult
from wired_union.subjects.power.scene import PowerScene
from wired_union.units import show

CUTS_OFF = frozenset({"battery protection", "low voltage switch"})
"""Classes of part that switch a pack off before its cells are harmed."""
TOLD_C, SUGGESTED = 5.0, 2


def check_cut_off(scene: PowerScene) -> Iterator[Finding]:
    """Lithium cells that nothing switches off: a load that stays on harms them, and they must not be charged then."""
    concept = scene.result.concept
    if any(i.part.kind in CUTS_OFF for i in concept.items):
        return
    for pack in scene.result.packs:
        figures, item = pack.figures, pack.figures.item
        if not (figures.chemistry.lithium and figures.chemistry.rechargeable) or figures.converter is not None:
            continue
        yield Finding(
            "no-cut-off", Verdict.TIGHT, f"Nothing switches {item.name} off",
            f"Below {show(figures.cutoff_v, 'V')} its cells are harmed, and whatever stays on takes it there.",
            "Common practice: a protection on the pack, or a switch that opens at its cut-off; cells that were emptied"
            " further are not charged again.", (item.id,), offer=partial(_switches, scene, item), of=item.id,
        )  # fmt: skip


def _switches(scene: PowerScene, item: Item) -> tuple[Remedy, ...]:
    """Switches of the catalogue behind it that carry its current with a fifth in hand."""
    worst = next((p.highest_a for p in scene.result.packs if p.figures.item.id == item.id), 0.0)
    switches = (p for p in of_kind("low voltage switch") if p.rail is not None)
    fitting = [p for p in switches if p.rail is not None and (p.rail.max_current_a or 0.0) * IN_HAND >= worst]
    found = ((f"add {p.name} behind it", tried(insert_behind, scene.project, item, p)) for p in fitting)
    return possible(*found)[:SUGGESTED]


def check_cool(scene: PowerScene) -> Iterator[Finding]:
    """Between freezing and 5 °C: what such cells typically still give, while nobody measured these."""
    for pack in scene.result.packs:
        item, spec = pack.figures.item, pack.figures.item.part.pack
        coldest = scene.result.around.pack_c(item.id)
        told = spec is not None and spec.measured_at_c is not None and spec.measured_at_c <= coldest
        if told or not FREEZING_C <= coldest <= TOLD_C:
            continue
        yield _cool(pack, item, coldest)


def _cool(pack: PackResult, item: Item, coldest_c: float) -> Finding:
    cell = pack.figures.chemistry
    typical = cool_cell(coldest_c, cell.share_at_0_c, cell.times_at_0_c)
    return Finding(
        "cool", Verdict.TIGHT, f"{item.name} in the cool",
        f"At {show(coldest_c, '°C')} such cells typically give {show(typical.capacity_share, fraction=True)} of what"
        f" they do in a room, through {show(typical.resistance_times)} times the resistance: this is counted on.",
        "Common practice, from memory: measure a discharge there, and give the temperature at which it was measured.",
        (item.id,), of=item.id,
    )  # fmt: skip
