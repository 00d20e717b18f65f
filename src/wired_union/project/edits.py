"""Every edit under one name: `edits.swap_part(project, item_id, part)` gives a Change."""

from wired_union.project.brief_edits import (
    add_chain,
    add_limit,
    add_stage,
    move_stage,
    note,
    remove_chain,
    remove_limit,
    remove_stage,
    rename_chain,
    rename_project,
    set_energy_reserve,
    set_limit,
    set_mass_margin,
    set_stage,
)  # fmt: skip
from wired_union.project.mission_edits import (
    add_mode,
    add_phase,
    move_edge,
    remove_mode,
    remove_phase,
    rename_mode,
    set_phase_duration,
    set_repeats,
    set_use,
    stagger,
)  # fmt: skip
from wired_union.project.part_edits import (
    add_item,
    add_subsystem,
    duplicate_item,
    feed_from,
    feeds_others,
    move_item,
    remove_item,
    remove_subsystem,
    rename_item,
    rename_subsystem,
    set_count,
    set_knowledge,
    set_origin,
    set_part_value,
    set_share,
    set_wire,
    swap_part,
    with_value,
)  # fmt: skip

__all__ = [
    "add_chain", "add_item", "add_limit", "add_mode", "add_phase", "add_stage", "add_subsystem", "duplicate_item",
    "feed_from", "feeds_others", "move_edge", "move_item", "move_stage", "note", "remove_chain", "remove_item",
    "remove_limit", "remove_mode", "remove_phase", "remove_stage", "remove_subsystem", "rename_chain", "rename_item",
    "rename_mode", "rename_project", "rename_subsystem", "set_count", "set_energy_reserve", "set_knowledge",
    "set_limit", "set_mass_margin", "set_origin", "set_part_value", "set_phase_duration", "set_repeats", "set_share",
    "set_stage", "set_use", "set_wire", "stagger", "swap_part", "with_value",
]  # fmt: skip
