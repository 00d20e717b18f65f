"""Edits of parts and of the places they fill, which every subject may ask for; a subject's own are in its folder."""

from wired_union.project.part_edits import (
    add_item,
    add_subsystem,
    duplicate_item,
    feed_from,
    feeds_others,
    move_item,
    note,
    remove_item,
    remove_subsystem,
    rename_item,
    rename_project,
    rename_subsystem,
    set_count,
    set_fills,
    set_knowledge,
    set_origin,
    set_part_value,
    set_share,
    set_use,
    set_wire,
    shift_levels,
    swap_part,
    with_value,
)
from wired_union.project.slot_edits import (
    add_need,
    add_to_shelf,
    fill_need,
    find_slot,
    remove_from_shelf,
    remove_need,
    set_need,
    set_requirement,
    swap_parts,
    take_part,
)
from wired_union.project.weigh_edits import drop_weighing, weigh

__all__ = [
    "add_item", "add_need", "add_subsystem", "add_to_shelf", "drop_weighing", "duplicate_item", "feed_from",
    "feeds_others",    "fill_need", "find_slot", "move_item", "note", "remove_from_shelf", "remove_item", "remove_need",
    "remove_subsystem", "rename_item", "rename_project", "rename_subsystem", "set_count", "set_fills", "set_knowledge",
    "set_need", "set_origin", "set_part_value", "set_requirement", "set_share", "set_use", "set_wire", "shift_levels",
    "swap_part", "swap_parts", "take_part", "weigh", "with_value",
]  # fmt: skip
