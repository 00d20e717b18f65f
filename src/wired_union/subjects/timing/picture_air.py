"""A radio link over distance: what arrives against what is needed, what is kept for fading, where it ends."""

import math

from wired_union.kernel.results import Verdict
from wired_union.physics.radio import antenna_match, fresnel_clearance
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Ring, Shape, hint_picture, kept_inside
from wired_union.project.model import Concept
from wired_union.subjects.timing.air import LinkResult, budget_at, copies, noise_dbm
from wired_union.units import show

HIGH, POINTS = 150.0, 60
INKS = {Verdict.HOLDS: "holds", Verdict.TIGHT: "tight", Verdict.BREAKS: "breaks", Verdict.UNKNOWN: "unknown"}


def link_picture(r: LinkResult, kit: Kit, width: float) -> Picture:
    """Strength at the receiver over distance, in powers of ten."""
    if r.foreign:
        return hint_picture("A network of others carries it: how strongly it arrives is theirs to say.", kit, width)
    if r.budget is None or r.sensitivity_dbm is None or r.link.distance_m is None:
        return hint_picture(f"Not known yet: {'; '.join(r.missing)}.", kit, width)
    needs, far = r.sensitivity_dbm, max(r.link.distance_m, r.ends_m or 0.0, 1.0)
    low, high = math.log10(max(min(r.link.distance_m, r.ends_m or 1.0) / 30, 0.1)), math.log10(far * 3)
    top_dbm = budget_at(r.link, 10**low, needs).received_dbm + 6
    bottom_dbm = min(needs - 12, budget_at(r.link, 10**high, needs).received_dbm)
    left, right, tall = kit.px(54), width - kit.px(8), kit.px(HIGH)
    top, bottom = kit.px(8), tall - kit.px(20)

    def at(metres: float, dbm: float) -> tuple[float, float]:
        x = left + (right - left) * (math.log10(metres) - low) / (high - low)
        return x, bottom - (bottom - top) * (dbm - bottom_dbm) / (top_dbm - bottom_dbm)

    shapes: list[Shape] = []
    for power in range(math.ceil(low), math.floor(high) + 1):
        x, _ = at(10.0**power, needs)
        shapes.append(Line(x, top, x, bottom, "line"))
        shapes.append(kit.figures(x, bottom + kit.px(11), show(10.0**power, "m"), "small", "mute", anchor="middle"))
    y, kept = at(1.0, needs)[1], at(1.0, needs + r.link.fade_db)[1]
    shapes.append(Box(left, kept, right - left, y - kept, "tight_soft"))
    shapes.append(Line(left, y, right, y, "ink", 1.6))
    shapes.append(kit.figures(left - kit.px(6), y, f"{needs:.0f}", "small", "ink", anchor="end"))
    shapes.append(kit.words(left + kit.px(4), y + kit.px(9), "the least it reads, dBm", "small", "mute"))
    metres = [10 ** (low + (high - low) * k / POINTS) for k in range(POINTS + 1)]
    shapes.append(Poly(tuple(at(m, budget_at(r.link, m, needs).received_dbm) for m in metres), "copper", width=2.0))
    for heard in r.link.heard:
        x, y = at(min(max(heard.distance_m, 10**low), 10**high), heard.snr_db + noise_dbm(r.link))
        shapes.append(Ring(x, min(max(y, top), bottom), kit.px(2.5), "plum", 1.4, (), "plum"))
    x, here = at(r.link.distance_m, r.budget.received_dbm)
    ink = INKS[r.verdict]
    shapes.append(Line(x, here, x, bottom, ink, 1.0, (3.0, 3.0)))
    shapes.append(Ring(x, here, kit.px(5), ink, 2.0, (), "card"))
    said = f"{show(r.link.distance_m, 'm')}: {r.budget.received_dbm:.0f} dBm"
    shapes.append(kit.figures(x + kit.px(9), here - kit.px(8), said, "small", ink, bold=True))
    return Picture(width, tall, kept_inside(shapes, kit, width))


def link_words(r: LinkResult) -> str:
    """ "165 ms on the air, 0.3 % of the hour; 12 dB above what it needs, ends at 1.4 km" """
    if r.foreign:
        least, most = r.takes_s
        return (
            f"there after {show(least, 's')} to {show(most, 's')}" if not r.missing else "not known how long it takes"
        )
    air = f"{show(r.airtime_s, 's')} on the air, {show(r.hour_share, 'share')} of the hour"
    passed = copies(r.link) > 1
    there = f"; there after {show(r.takes_s[1], 's')} at the most" if passed else ""
    busy = f", the channel {show(r.channel_share, 'share')}" if passed or r.link.nodes > 1 else ""
    over = f"; {show(1 - r.arrives, 'share')} talked over" if r.link.nodes > 1 else ""
    if r.spare_db is None:
        return f"{air}{busy}{there}{over}"
    above = f"{r.spare_db:.0f} dB above" if r.spare_db >= 0 else f"{-r.spare_db:.0f} dB below"
    ends = f", ends at {show(r.ends_m, 'm')}" if r.ends_m is not None else ""
    heard = ""
    if r.found is not None:
        side = "weaker" if r.found.loss_db >= 0 else "stronger"
        heard = f"; heard {abs(r.found.loss_db):.0f} dB {side} than worked out"
    return f"{air}{busy}{there}{over}; {above} what it needs{ends}{heard}"


FREE = 0.6
"""Share of the first zone that should be free: common practice."""


def clearance_words(r: LinkResult) -> str:
    """ "Halfway 5.3 m should be free around the line of sight; the ground leaves 1.2 m." Nothing where it is free."""
    link = r.link
    if link.distance_m is None or link.own_height_m is None or link.far_height_m is None or r.foreign:
        return ""
    zone = fresnel_clearance(link.distance_m / 2, link.distance_m / 2, link.frequency_hz).radius_m
    ground = (link.own_height_m + link.far_height_m) / 2
    edge = -link.edge_m if link.edge_m is not None else ground
    leaves, what = (edge, "the edge") if edge < ground else (ground, "the ground")
    if leaves >= FREE * zone:
        return ""
    left = f"{what} leaves {show(leaves, 'm')}" if leaves >= 0 else f"{what} stands {show(-leaves, 'm')} into it"
    return f"Halfway {show(FREE * zone, 'm')} around the line of sight should be free; {left}."


def match_words(r: LinkResult) -> str:
    """ "Of what goes to its antenna 12.6 % comes back (standing wave 2.1 to 1), 0.58 dB are lost" """
    if r.link.return_loss_db is None or r.foreign:
        return ""
    match = antenna_match(-r.link.return_loss_db)
    return (f"Of what goes to its antenna {show(match.reflection**2, 'share')} comes back (standing wave"
            f" {match.vswr:.1f} to 1), {match.mismatch_loss_db:.2g} dB are lost.")  # fmt: skip


def energy_j(concept: Concept, r: LinkResult) -> float | None:
    """What its radio takes for one packet, at its peak; None where its figures are not known."""
    load = next((i.part.load for i in concept.items if i.id == r.link.item), None)
    if load is None or load.peak_a is None or load.rated_v is None or r.unsized or r.foreign:
        return None
    return load.peak_a * load.rated_v * r.airtime_s


def energy_words(concept: Concept, r: LinkResult) -> str:
    """ "184 mJ a packet" """
    energy = energy_j(concept, r)
    return f"{show(energy, 'J')} a packet" if energy is not None else ""
