"""What the sun brings to packs under an overcast sky day after day: as much as the runtime counts on."""

from wired_union.physics.battery import CHEMISTRIES, Array
from wired_union.physics.cell_state import FREEZING_C
from wired_union.physics.sun import CLEARNESS, day_hours, on_panel
from wired_union.project.model import Brief, Concept
from wired_union.project.sun_model import SunPanel


def panel_w(panel: SunPanel, peak_w: float, latitude_deg: float, day: int, clearness: float) -> Array:
    """What a panel brings to the cells by quarters of an hour."""
    plane, _, _ = on_panel(latitude_deg, day, day_hours(), panel.tilt_deg, panel.azimuth_deg, clearness)
    return plane / 1000 * peak_w * (1 - panel.shade) * panel.kept * panel.charger_efficiency


def counted_w(concept: Concept, brief: Brief) -> tuple[tuple[str, float], ...]:
    """Mean power into the cells of each pack that the sun charges; none where a figure is not known, nor of lithium in
    air that falls below freezing, nor of what is plugged in or cranked.
    """
    items, found = {i.id: i for i in concept.items}, dict[str, float]()
    if brief.site.latitude_deg is None:
        return ()
    for panel in concept.sun_panels:
        facet, pack = items[panel.item].part.panel, items[panel.charges].part.pack if panel.charges else None
        chemistry = CHEMISTRIES.get(pack.chemistry) if pack is not None else None
        if facet is None or chemistry is None or not chemistry.rechargeable:
            continue
        if chemistry.lithium and brief.coldest_c < FREEZING_C:
            continue
        peak_w = facet.peak_power_w * items[panel.item].count
        watts = panel_w(panel, peak_w, brief.site.latitude_deg, brief.site.day_of_year, CLEARNESS["overcast"])
        found[panel.charges] = found.get(panel.charges, 0.0) + float(watts.mean())
    return tuple(found.items())
