"""What keeps a part cooler or warmer: how it is fixed, its box, a sink, a fan; worked out when tried on."""

from wired_union.kernel.results import Remedy, possible, tried
from wired_union.project.model import Project
from wired_union.project.warmth_model import WarmPart
from wired_union.subjects.power.warmth.edits import set_enclosure, set_warm
from wired_union.subjects.power.warmth.run import Heat
from wired_union.units import show

SINK_K_PER_W, FAN_M_S, VENT_M3_S, LAYER_M = 15.0, 1.0, 0.002, 0.01
"""A small sink, a small fan's breath, slots that let 2 l/s through, a layer of foam: common practice."""
WARMER_K = 5.0


def colder(project: Project, heat: Heat, item_id: str) -> tuple[Remedy, ...]:
    """For a part that gets too hot."""
    how = _how(heat, item_id)
    name = next(i.name for i in heat.concept.items if i.id == item_id)
    found = []
    if how.mount == "flat":
        found.append((f"{name} on standoffs", tried(set_warm, project, item_id, mount="standoffs")))
    if how.sink_k_per_w is None:
        found.append((f"a heat sink of {show(SINK_K_PER_W, 'K/W')} on {name}",
                      tried(set_warm, project, item_id, sink_k_per_w=SINK_K_PER_W)))  # fmt: skip
    if how.air_speed_m_s < FAN_M_S:
        found.append((f"a fan that blows {show(FAN_M_S, 'm/s')} along {name}",
                      tried(set_warm, project, item_id, air_speed_m_s=FAN_M_S)))  # fmt: skip
    box = next((e for e in heat.concept.enclosures if e.id == how.enclosure), None)
    if box is not None:
        if box.vent_m3_s < VENT_M3_S:
            found.append((f"slots in {box.name} that let 2 l/s through", tried(set_enclosure, project, box.id,
                                                                              vent_m3_s=VENT_M3_S)))  # fmt: skip
        if box.sun_w_per_m2 and box.foil == "no":
            found.append((f"a bright foil on {box.name}", tried(set_enclosure, project, box.id, foil="outside")))
        found.append((f"{name} outside {box.name}", tried(set_warm, project, item_id, enclosure="")))
    return possible(*found)


def warmer(project: Project, heat: Heat, item_id: str) -> tuple[Remedy, ...]:
    """For a part that gets too cold."""
    how = _how(heat, item_id)
    box = next((e for e in heat.concept.enclosures if e.id == how.enclosure), None)
    found = []
    if box is not None:
        for layers in (1, 2, 4):
            thick = box.insulation_m + layers * LAYER_M
            found.append((f"{show(thick, 'm')} of foam around {box.name}",
                          tried(set_enclosure, project, box.id, insulation_m=thick)))  # fmt: skip
    part = next(i.part for i in heat.concept.items if i.id == item_id)
    least = part.temperature_min_c
    for warm in heat.concept.warm_parts:
        heats = warm.plate == item_id and least is not None
        if heats and warm.holds_c is not None and least is not None and warm.holds_c < least + WARMER_K:
            words = f"its heater holds {show(least + WARMER_K, '°C')}"
            found.append((words, tried(set_warm, project, warm.item, holds_c=least + WARMER_K)))
    return possible(*found)


def _how(heat: Heat, item_id: str) -> WarmPart:
    return next((w for w in heat.concept.warm_parts if w.item == item_id), WarmPart(item=item_id))
