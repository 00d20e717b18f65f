"""Radio links: time on the air, the share of the hour, who talks over whom, what arrives at the far end."""

import math

from msgspec import Struct
from msgspec.structs import replace

from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Given, Node
from wired_union.physics.radio import (
    Budget,
    antenna_match,
    free_space_loss,
    knife_edge_loss,
    link_budget,
    lora_airtime,
    lora_sensitivity,
    plane_earth_loss,
    slotted_aloha,
)
from wired_union.project.model import Project
from wired_union.project.timing_model import RadioLink
from wired_union.subjects.timing.packets import PACKETS, link_sized

HOUR_S = 3600.0
FURTHEST_M, NEAREST_M, HALVINGS = 1e6, 0.1, 60
USUAL_RETURN_LOSS_DB = 10.0


class LinkResult(Struct, frozen=True):
    """A link: its time on the air, and what arrives; None where something of that is not known."""

    link: RadioLink
    airtime_s: float
    arrives: float
    """Share of its packets that no other sender of the channel talks over."""
    sensitivity_dbm: float | None
    budget: Budget | None = None
    loss_db: float | None = None
    """Of the way, with walls and the edge."""
    ends_m: float | None = None
    """Distance at which nothing is left."""
    missing: tuple[str, ...] = ()
    unsized: bool = False
    """Whether the bytes of its packet are not known, and so no time of it."""

    @property
    def hour_share(self) -> float:
        return self.airtime_s / self.link.every_s

    @property
    def spare_db(self) -> float | None:
        """How far what arrives is above what the receiver needs."""
        return self.budget.margin_db if self.budget is not None and not self.missing else None

    @property
    def verdict(self) -> Verdict:
        spare = self.spare_db
        if self.unsized:
            return Verdict.UNKNOWN
        if self.hour_share > 1:
            return Verdict.BREAKS
        if spare is None:
            return Verdict.UNKNOWN
        return Verdict.BREAKS if spare < 0 else Verdict.TIGHT if spare < self.link.fade_db else Verdict.HOLDS


def airtime_s(link: RadioLink) -> float:
    """One packet on the air."""
    if link.modulation == "plain":
        return 8 * (link.payload_bytes + link.overhead_bytes) / link.bit_rate_hz
    return lora_airtime(link.spreading_factor, link.bandwidth_hz, link.payload_bytes, coding_rate=link.coding_rate,
                        preamble_symbols=link.preamble_symbols).airtime_s  # fmt: skip


def assess_link(link: RadioLink) -> LinkResult:
    """Everything of one link."""
    time = airtime_s(link)
    arrives = slotted_aloha(link.nodes, time, link.every_s, link.slotted).arrives if time > 0 else 1.0
    needs = sensitivity_dbm(link)
    lacks = [f"{link.name}: {words}" for words, gone in (
        ("the weakest signal that it reads", needs is None), ("how far it must reach", link.distance_m is None),
        ("how high its antenna is", link.own_height_m is None),
        ("how high the antenna at the far end is", link.far_height_m is None),
        ("how much its antenna sends back", link.return_loss_db is None),
    ) if gone]  # fmt: skip
    if lacks or needs is None or link.distance_m is None:
        return LinkResult(link, time, arrives, needs, missing=tuple(lacks))
    loss = way_loss_db(link, link.distance_m)
    budget = budget_at(link, link.distance_m, needs)
    return LinkResult(link, time, arrives, needs, budget, loss, _ends_m(link, needs))


def sensitivity_dbm(link: RadioLink) -> float | None:
    """As given, else of a chirp receiver."""
    if link.sensitivity_dbm is not None or link.modulation == "plain":
        return link.sensitivity_dbm
    return lora_sensitivity(link.spreading_factor, link.bandwidth_hz, link.noise_figure_db).sensitivity_dbm


def way_loss_db(link: RadioLink, distance_m: float) -> float:
    """Over flat ground by the heights of both antennas, with walls, and an edge halfway."""
    own, far = link.own_height_m, link.far_height_m
    if own is not None and far is not None:
        loss = plane_earth_loss(distance_m, link.frequency_hz, own, far).loss_db
    else:
        loss = free_space_loss(distance_m, link.frequency_hz).loss_db
    if link.edge_m is not None:
        loss += knife_edge_loss(link.edge_m, distance_m / 2, distance_m / 2, link.frequency_hz).loss_db
    return loss + link.walls_db


def budget_at(link: RadioLink, distance_m: float, needs_dbm: float) -> Budget:
    """What arrives at a distance."""
    mismatch = antenna_match(-(link.return_loss_db or USUAL_RETURN_LOSS_DB)).mismatch_loss_db
    losses = max(way_loss_db(link, distance_m) + mismatch, 0.0)
    return link_budget(link.power_dbm, link.own_gain_dbi, link.far_gain_dbi, losses, needs_dbm)


def _ends_m(link: RadioLink, needs_dbm: float) -> float:
    """Where what arrives is just what is needed: it falls all the way out, but for an edge that counts less there."""
    low, high = math.log(NEAREST_M), math.log(FURTHEST_M)
    if budget_at(link, NEAREST_M, needs_dbm).margin_db < 0 and link.edge_m is None:
        return 0.0
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if budget_at(link, math.exp(middle), needs_dbm).margin_db >= 0 else (low, middle)
    return math.exp(low)


def _work(project: Project, given: Given) -> tuple[LinkResult, ...]:
    sizes, found = {p.packet.id: p for p in given.of(PACKETS)}, []
    for link in project.concept.radio_links:
        sized, gaps = link_sized(link, sizes)
        result = assess_link(sized)
        found.append(replace(result, missing=(*gaps, *result.missing), unsized=bool(gaps)))
    return tuple(found)


AIR = Node("air", lambda project: (project.concept.radio_links,), _work, (PACKETS,))
