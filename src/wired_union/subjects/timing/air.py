"""Radio links: time on the air, the share of the hour, who talks over whom, what arrives at the far end."""

import math
from collections.abc import Iterable, Mapping

from msgspec import Struct
from msgspec.structs import replace

from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Given, Node
from wired_union.physics.radio import (
    Budget,
    antenna_match,
    antenna_pattern,
    free_space_loss,
    heard_fit,
    knife_edge_loss,
    link_budget,
    lora_airtime,
    lora_sensitivity,
    plane_earth_loss,
    slotted_aloha,
)
from wired_union.project.air_model import RadioLink
from wired_union.project.model import Project
from wired_union.subjects.timing.packets import PACKETS, link_sized

HOUR_S = 3600.0
FURTHEST_M, NEAREST_M, HALVINGS = 1e6, 0.1, 60
USUAL_RETURN_LOSS_DB = 10.0


class Found(Struct, frozen=True):
    """What a trial says beside what is worked out: what takes so much more, and how sure that is."""

    loss_db: float
    spread_db: float
    error_db: float


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
    found: Found | None = None
    """What was heard says of it."""

    @property
    def foreign(self) -> bool:
        """Whether a network of others carries it, of which only the time is known."""
        return self.link.modulation == "phone or satellite"

    @property
    def hour_share(self) -> float:
        """Share of the hour that its own radio is on the air: what it passes on for others counted."""
        return self.airtime_s * self.sends / self.link.every_s

    @property
    def sends(self) -> int:
        """How often its radio sends for each packet of each sender: its own, and where all pass on, those of others."""
        return self.link.nodes if self.link.passing == "all that hear it" and self.link.relays else 1

    @property
    def channel_share(self) -> float:
        """Share of the time that anybody of it is on the air."""
        return self.airtime_s * self.link.nodes * copies(self.link) / self.link.every_s

    @property
    def takes_s(self) -> tuple[float, float]:
        """From when it is sent until it is there, all its hops; what is lost is not counted."""
        if self.foreign:
            return self.link.latency_least_s or 0.0, self.link.latency_most_s or 0.0
        passed = self.link.hops - 1
        return self.airtime_s * self.link.hops, self.airtime_s * self.link.hops + passed * self.link.wait_s

    @property
    def spare_db(self) -> float | None:
        """How far what arrives is above what the receiver needs."""
        return self.budget.margin_db if self.budget is not None and not self.missing else None

    @property
    def verdict(self) -> Verdict:
        spare = self.spare_db
        if self.unsized:
            return Verdict.UNKNOWN
        if self.foreign:
            return Verdict.UNKNOWN if self.missing else Verdict.HOLDS
        if self.hour_share > 1:
            return Verdict.BREAKS
        if spare is None:
            return Verdict.UNKNOWN
        return Verdict.BREAKS if spare < 0 else Verdict.TIGHT if spare < self.link.fade_db else Verdict.HOLDS


def copies(link: RadioLink) -> int:
    """How often each packet is on the air: once a hop, or once of its sender and once of each that passes it on."""
    return 1 + link.relays if link.passing == "all that hear it" else link.hops


def airtime_s(link: RadioLink) -> float:
    """One packet on the air; none of ours where a network of others carries it."""
    if link.modulation == "phone or satellite":
        return 0.0
    if link.modulation == "plain":
        return 8 * (link.payload_bytes + link.overhead_bytes) / link.bit_rate_hz
    return lora_airtime(link.spreading_factor, link.bandwidth_hz, link.payload_bytes, coding_rate=link.coding_rate,
                        preamble_symbols=link.preamble_symbols).airtime_s  # fmt: skip


def assess_link(link: RadioLink) -> LinkResult:
    """Everything of one link."""
    if link.modulation == "phone or satellite":
        least, most = link.latency_least_s, link.latency_most_s
        missing = []
        if least is None or most is None:
            missing.append(f"{link.name}: how long its network takes, at least and at most")
        elif least > most:
            missing.append(f"{link.name}: a shortest time below the longest")
        return LinkResult(link, 0.0, 1.0, None, missing=tuple(missing))
    time = airtime_s(link)
    arrives = slotted_aloha(link.nodes, time * copies(link), link.every_s, link.slotted).arrives if time > 0 else 1.0
    arrives **= link.hops  # each hop has to get through
    needs = sensitivity_dbm(link)
    lacks = _lacks(link, needs)
    if lacks or needs is None or link.distance_m is None:
        return LinkResult(link, time, arrives, needs, missing=lacks)
    loss = way_loss_db(link, link.distance_m)
    budget = budget_at(link, link.distance_m, needs)
    return LinkResult(link, time, arrives, needs, budget, loss, _ends_m(link, needs), found=_found(link))


def _lacks(link: RadioLink, needs: float | None) -> tuple[str, ...]:
    return tuple(f"{link.name}: {words}" for words, gone in (
        ("the weakest signal that it reads", needs is None), ("how far it must reach", link.distance_m is None),
        ("how high its antenna is", link.own_height_m is None),
        ("how high the antenna at the far end is", link.far_height_m is None),
        ("how much its antenna sends back", link.return_loss_db is None),
        ("how wide its antenna is strong", link.own_off_deg > 0 and link.own_beam_deg is None),
    ) if gone)  # fmt: skip


def noise_dbm(link: RadioLink) -> float:
    """Noise in its bandwidth: −174 dBm/Hz at room temperature, and what the receiver adds."""
    width = link.bandwidth_hz if link.modulation == "chirp" else link.bit_rate_hz
    return -174 + 10 * math.log10(width) + link.noise_figure_db


def snr_at(link: RadioLink, distance_m: float) -> float:
    """Signal to noise at a distance, worked out."""
    return budget_at(link, distance_m, 0.0).received_dbm - noise_dbm(link)


def _found(link: RadioLink) -> Found | None:
    if len(link.heard) < 2:
        return None
    told = heard_fit([snr_at(link, h.distance_m) for h in link.heard], [h.snr_db for h in link.heard])
    return Found(told.loss_db, told.spread_db, told.standard_error_db)


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


def off_beam_db(link: RadioLink) -> float:
    """What its antenna loses off its strongest direction."""
    return antenna_pattern(link.own_off_deg, link.own_beam_deg).loss_db if link.own_beam_deg is not None else 0.0


def budget_at(link: RadioLink, distance_m: float, needs_dbm: float) -> Budget:
    """What arrives at a distance."""
    mismatch = antenna_match(-(link.return_loss_db or USUAL_RETURN_LOSS_DB)).mismatch_loss_db
    losses = max(way_loss_db(link, distance_m) + mismatch + off_beam_db(link), 0.0)
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


OnAir = Mapping[str, float | None]


def _on_air(_: Project, given: Given) -> OnAir:
    """By item, the share of the time that a radio is on the air; None where that is not known."""
    found: dict[str, float | None] = {}
    for r in given.of(AIR):
        if r.link.powers and r.link.item:
            before = found.get(r.link.item, 0.0)
            unknown = r.unsized or before is None or r.foreign
            found[r.link.item] = None if unknown else min((before or 0.0) + r.hour_share, 1.0)
    return found


ON_AIR = Node("on the air", lambda project: (project.concept.radio_links,), _on_air, (AIR,))


def standing_in(r: LinkResult, links: Iterable[LinkResult]) -> list[LinkResult]:
    """Links that stand in for it and hold."""
    return [x for x in links if x.link.instead_of == r.link.id and x is not r and x.verdict is Verdict.HOLDS]


def wished(r: LinkResult, links: Iterable[LinkResult]) -> Verdict:
    """Of a link with those that stand in for it: one of them is enough, but then none is left to fail."""
    if r.verdict is Verdict.BREAKS and standing_in(r, links):
        return Verdict.TIGHT
    return r.verdict
