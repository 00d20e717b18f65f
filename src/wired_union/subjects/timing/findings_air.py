"""Radio links as measures and findings: too weak, too long on the air, talked over."""

from collections.abc import Iterator
from functools import partial

from msgspec.structs import replace

from wired_union.kernel.results import Finding, Measure, Remedy, Verdict, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.project.change import Change
from wired_union.project.model import Project
from wired_union.subjects.timing.air import AIR, USUAL_RETURN_LOSS_DB, Found, LinkResult, standing_in, wished
from wired_union.subjects.timing.edits_shared import set_link
from wired_union.subjects.timing.packets import assess_packet
from wired_union.subjects.timing.picture_air import clearance_words
from wired_union.units import show

TALKED_OVER = 0.05
"""Share of packets that may be lost to others unsaid."""
SHORT_BYTES = 12
RULES = "How long a sender may be on the air, and how loud, is for your country's rules to say: check them."
MOST_POWER = 100.0
DUTY = 0.01
"""Share of the hour from which many countries' rules ask: common practice."""
Way = tuple[str, Change | None]


def air_measures(assessment: Assessment) -> Iterator[Measure]:
    """The share of the hour of all links together, and how far each is above what it needs."""
    links = assessment.of(AIR)
    if links:
        gaps = tuple(g for r in links if r.unsized for g in r.missing)
        whole = sum(r.hour_share for r in links)
        yield Measure("air", "On the air, of the hour", None if gaps else whole, "share", missing=gaps)
    for r in links:
        lacks = r.missing or ((f"{r.link.name}: what arrives; its network says",) if r.foreign else ())
        yield Measure("link-margin", f"{r.link.name}, above what it needs", r.spare_db, "dB", direction="at least",
                      missing=lacks, of=r.link.id)  # fmt: skip
        spares = [x for x in links if x.link.instead_of == r.link.id and x is not r]
        if spares:
            known = [x.spare_db for x in (r, *spares) if x.spare_db is not None]
            yield Measure("link-together", f"{r.link.name}, by the best way", max(known) if known else None, "dB",
                          direction="at least", missing=() if known else lacks, of=r.link.id)  # fmt: skip


def air_findings(assessment: Assessment) -> Iterator[Finding]:
    """What is too weak, or not known; what is on the air too long; what others talk over; and limits."""
    links = assessment.of(AIR)
    for r in links:
        measure = f"link-margin:{r.link.id}"
        for gap in r.missing:
            yield Finding("link-gap", Verdict.UNKNOWN, r.link.name, f"Not known yet: {gap}.",
                          "Until it is known nothing says whether it gets through.", (), measure, of=r.link.id,
                          detail=gap)  # fmt: skip
        if r.budget is not None and r.verdict in {Verdict.BREAKS, Verdict.TIGHT} and r.hour_share <= 1:
            weak = _weak(assessment.project, r)
            yield _carried(weak, standing_in(r, links)) if wished(r, links) is not r.verdict else weak
        if r.found is not None and r.found.loss_db > max(AS_WORKED_OUT_DB, 2 * r.found.error_db):
            yield _heard(assessment.project, r, r.found)
        yield from () if r.unsized else _said_of_air(assessment.project, r)
    for kind in ("air", *(f"link-margin:{r.link.id}" for r in links)):
        found = assessment.measure(kind)
        if found.limit is not None and found.value is not None and found.verdict is not Verdict.HOLDS:
            yield Finding("air" if kind == "air" else "link-margin", found.verdict, found.label,
                          f"{found.shown} of {found.limit_shown}.", RULES if kind == "air" else "", (), found.id,
                          partial(_all_remedies, assessment.project, links), of=found.of, of_limit=True)  # fmt: skip


def _weak(project: Project, r: LinkResult) -> Finding:
    breaks, spare, link = r.verdict is Verdict.BREAKS, r.spare_db or 0.0, r.link
    where = show(link.distance_m, "m")
    what = f"{-spare:.0f} dB too little arrives at {where}."
    if not breaks:
        what = f"{spare:.0f} dB above what it needs at {where}; {link.fade_db:g} dB are kept for fading."
    ends = f"It ends at {show(r.ends_m, 'm')}. " if r.ends_m is not None else ""
    why = (
        f"{ends}The way takes {r.loss_db:.0f} dB over flat ground between antennas so low. {clearance_words(r)}".strip()
    )
    return Finding(
        "link", r.verdict, f"{link.name} {'does not get through' if breaks else 'gets through only just'}", what, why,
        (link.item,) if link.item else (), f"link-margin:{link.id}", partial(_remedies, project, r), of=link.id,
        use=10 ** min(-(spare - (0.0 if breaks else link.fade_db)) / 20, MOST_POWER),
    )  # fmt: skip


def _carried(weak: Finding, spares: list[LinkResult]) -> Finding:
    names = " and ".join(f"“{x.link.name}”" for x in spares)
    return replace(weak, verdict=Verdict.TIGHT, title=f"{weak.title}; {names} carries it",
                   why=f"{weak.why} One of both is enough, but none is left to fail.", use=None)  # fmt: skip


AS_WORKED_OUT_DB = 3.0
"""Up to which what is heard is as good as what is worked out: receivers tell no better."""


def _heard(project: Project, r: LinkResult, found: Found) -> Finding:
    link, takes = r.link, float(f"{r.link.walls_db + found.loss_db:.3g}")
    change = tried(set_link, project, value_id=link.id, walls_db=takes)
    return Finding(
        "heard", Verdict.TIGHT, f"{link.name} arrives weaker than worked out",
        f"{found.loss_db:.0f} dB weaker at {len(link.heard)} places, give or take {2 * found.error_db:.0f} dB.",
        f"Something in the way takes that much; what was heard scatters by {found.spread_db:.0f} dB (σ).", (),
        f"link-margin:{link.id}",
        lambda: possible((f"take {takes:g} dB in between, as measured", change)), of=link.id,
    )  # fmt: skip


def _said_of_air(project: Project, r: LinkResult) -> Iterator[Finding]:
    link = r.link
    if r.hour_share > 1:
        yield Finding("air-time", Verdict.BREAKS, f"{link.name} never gets round",
                      f"A packet takes {show(r.airtime_s, 's')}, and is sent every {show(link.every_s, 's')}.", "",
                      (), "air", partial(_air_remedies, project, r), of=link.id, use=r.hour_share)  # fmt: skip
    elif r.hour_share > DUTY:
        yield Finding("air-time", Verdict.TIGHT, f"{link.name} is on the air {show(r.hour_share, 'share')} of the hour",
                      f"{show(r.airtime_s, 's')} every {show(link.every_s, 's')}.", RULES, (), "air",
                      partial(_air_remedies, project, r), of=link.id, use=r.hour_share / DUTY * 0.9)  # fmt: skip
    if 1 - r.arrives > TALKED_OVER:
        slots = partial(_air_remedies, project, r, talked_over=True)
        yield Finding("talked-over", Verdict.TIGHT, f"{link.name} is talked over",
                      f"Of its packets {show(1 - r.arrives, 'share')} meet another of {link.nodes} senders.",
                      "Who does not get through must be told, or sent again.", (), "air",
                      slots, of=link.id, use=(1 - r.arrives) / TALKED_OVER)  # fmt: skip


def _all_remedies(project: Project, links: tuple[LinkResult, ...]) -> tuple[Remedy, ...]:
    return tuple(x for r in links for x in (*_remedies(project, r)[:2], *_air_remedies(project, r)[:2]))


def _remedies(project: Project, r: LinkResult) -> tuple[Remedy, ...]:
    return possible(*_ways(project, r))


def _ways(project: Project, r: LinkResult) -> Iterator[Way]:
    """Higher antennas, slower chirps, a better match, a better antenna at the far end."""
    link = r.link
    for field, words in (("own_height_m", "its antenna"), ("far_height_m", "the antenna at the far end")):
        high = getattr(link, field)
        if high is not None:
            yield f"{words} {show(2 * high, 'm')} high", tried(set_link, project, value_id=link.id, **{field: 2 * high})
    if link.modulation == "chirp" and link.spreading_factor < 12:
        slower = link.spreading_factor + 1
        yield f"spreading factor {slower}", tried(set_link, project, value_id=link.id, spreading_factor=slower)
    if link.return_loss_db is not None and link.return_loss_db < USUAL_RETURN_LOSS_DB:
        words = f"an antenna matched to {USUAL_RETURN_LOSS_DB:g} dB return loss"
        yield words, tried(set_link, project, value_id=link.id, return_loss_db=USUAL_RETURN_LOSS_DB)
    better = link.far_gain_dbi + 6
    words = f"{better:g} dBi at the far end"
    yield words, tried(set_link, project, value_id=link.id, far_gain_dbi=better)


def _air_remedies(project: Project, r: LinkResult, *, talked_over: bool = False) -> tuple[Remedy, ...]:
    return possible(*_shorter(project, r, talked_over=talked_over))


def _shorter(project: Project, r: LinkResult, *, talked_over: bool) -> Iterator[Way]:
    """Less often, fewer bytes, quicker chirps, common slots."""
    link = r.link
    for packet in project.concept.packets:
        inside = assess_packet(packet).payload_bytes
        if not link.packet and inside is not None and inside < link.payload_bytes:
            words = f"“{packet.name}” instead, {inside} bytes of {link.payload_bytes}"
            yield words, tried(set_link, project, value_id=link.id, packet=packet.id)
    yield (f"a packet every {show(2 * link.every_s, 's')}",
           tried(set_link, project, value_id=link.id, every_s=2 * link.every_s))  # fmt: skip
    if link.payload_bytes > SHORT_BYTES and not link.packet:
        half = link.payload_bytes // 2
        yield (
            f"{half} bytes instead of {link.payload_bytes}",
            tried(set_link, project, value_id=link.id, payload_bytes=half),
        )
    if link.modulation == "chirp" and link.spreading_factor > 7:
        quicker = link.spreading_factor - 1
        yield f"spreading factor {quicker}", tried(set_link, project, value_id=link.id, spreading_factor=quicker)
    if talked_over and not link.slotted:
        yield "all begin in common slots", tried(set_link, project, value_id=link.id, slotted=True)
