"""What other subjects may read of power."""

from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.checks.levels import has_channels, insert_shifter
from wired_union.subjects.power.currents import RUNNING, held_to_a
from wired_union.subjects.power.edits import follow_movement
from wired_union.subjects.power.insert import insert_behind
from wired_union.subjects.power.node import POWER, SUPPLY
from wired_union.subjects.power.packs import PackFigures, PackResult, pack_figures
from wired_union.subjects.power.shares import EnergyShares, energy_shares, input_voltage, lane_power
from wired_union.subjects.power.tree import copper_c, state_in

DRIVER_CHECKS = frozenset({"driver", "driver-sum"})
"""Kinds of finding on what a driver must carry: each channel, and all together."""

__all__ = [
    "DRIVER_CHECKS",
    "POWER",
    "RUNNING",
    "SUPPLY",
    "EnergyShares",
    "PackFigures",
    "PackResult",
    "PowerResult",
    "copper_c",
    "energy_shares",
    "follow_movement",
    "has_channels",
    "held_to_a",
    "input_voltage",
    "insert_behind",
    "insert_shifter",
    "lane_power",
    "pack_figures",
    "state_in",
]
