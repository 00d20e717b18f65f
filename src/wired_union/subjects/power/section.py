"""Power in the report: modes, the mission, the tree, where the energy goes."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.bars import Bar, share_bars
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import drawn
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.first.picture import first_chart
from wired_union.subjects.power.first.run import Watched
from wired_union.subjects.power.first.words import chain
from wired_union.subjects.power.light.picture import light_picture
from wired_union.subjects.power.node import DAY_ODDS, FIRST, HEAT, LIGHT, ODDS, POWER, START_ODDS, WARM_ODDS
from wired_union.subjects.power.packs import PackResult
from wired_union.subjects.power.picture_mission import mission_chart
from wired_union.subjects.power.picture_tree import power_tree_picture
from wired_union.subjects.power.shares import drains, mode_flows
from wired_union.subjects.power.spread.picture import advice, resets_of, said_of, spread_picture
from wired_union.subjects.power.spread.told import (
    shares_of,
    told_of_days,
    told_of_missions,
    told_of_parts,
    told_of_starts,
    told_of_warmth,
)
from wired_union.subjects.power.spread.told_picture import told_block
from wired_union.subjects.power.trace import mission_trace
from wired_union.subjects.power.warmth.measures import extremes
from wired_union.subjects.power.warmth.picture import warm_chart
from wired_union.units import show

WIDE, CHART_H, BARS_W, MOST_NODES = 760.0, 240.0, 420.0, 100
"""Sizes, and of how many parts at most a report waits for hundreds of starts and missions."""
TITLE = "Power"


def section(assessment: Assessment, kit: Kit) -> Section:
    """How the pack that ends first gets through the mission."""
    result = assessment.of(POWER)
    pack = result.limiting
    if pack is None or pack.discharge is None:
        return Section(TITLE, (Block(text="No pack with a mission yet."),))
    end = pack.discharge
    text = (
        (
            f"The mission ends at {end.ended_by} after {show(end.runtime_s, 's')}, with"
            f" {show(end.charge, fraction=True)} of the charge left."
        )
        if end.runtime_s < float("inf")
        else f"The mission does not end: {end.ended_by}."
    )
    if pack.figures.gained_per_h:
        text += " The sun is counted as under an overcast sky, day after day."
    chart = mission_chart(result.concept, pack, mission_trace(result, pack), kit, WIDE, CHART_H)
    worst = pack.worst_mode
    tree = power_tree_picture(result.tree, mode_flows(result, worst), kit, WIDE)
    return Section(TITLE, (
        Block(text=text), _modes(result, pack),
        Block(text="The mission", tone="heading"),
        drawn(chart.picture, "current and voltage over the mission"),
        Block(text=f"From the pack to the last load, in {result.concept.modes[worst].name}", tone="heading"),
        drawn(tree, "power tree"),
        Block(text="Where the energy goes", tone="heading"), _shares(result, kit),
        *_starting(assessment, kit), *_warm(assessment, kit), *_light(assessment, kit), *_odds(assessment, kit),
    ))  # fmt: skip


def _starting(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    """The worst start, with what happens in words."""
    first = assessment.of(FIRST)
    if not first.starts:
        return
    worst = first.worst.dip if first.worst is not None else None
    mode = worst.mode if worst is not None and worst.mode in first.modes else first.modes[0]
    start = next(s for s in first.starts if s.mode == mode)
    yield Block(text=f"The first half second of {first.result.concept.modes[mode].name}", tone="heading")
    for watched in (w for w in first.watched if w.item.id in start.circuit.spots and w.least_v is not None):
        own = Watched(watched.item, watched.least_v, start.dips[watched.item.id])
        yield Block(text=" ".join(chain(start, own, first.result)))
    yield drawn(first_chart(first, start, kit, WIDE).picture, "current and supplies while it starts")
    some = assessment.of(START_ODDS).soon if len(first.result.tree.nodes) <= MOST_NODES else None
    if some is not None:
        yield Block(text=resets_of(some))
        yield told_block(list(told_of_starts(some, first, assessment.project.brief)))


def _warm(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    """Temperatures, where a box or a mount is described."""
    heat = assessment.of(HEAT)
    if not heat.described or not heat.setting.items:
        return
    yield Block(text="Temperatures", tone="heading")
    for cold in (False, True)[: len(heat.runs)]:
        air = heat.runs[-1 if cold else 0].air.name
        yield drawn(warm_chart(heat, kit, WIDE, cold=cold).picture, f"temperatures over the mission, air: {air}")
    known = list(extremes(heat))
    rows = tuple(
        (e.item.name, show(e.coldest_c, "°C"), show(e.hottest_c, "°C"), show(e.item.part.temperature_min_c, "°C"),
         show(e.item.part.temperature_max_c, "°C")) for e in known
    )  # fmt: skip
    yield Block(head=("part", "coldest", "hottest", "works from", "works to"), rows=rows, figures=(1, 2, 3, 4))
    some = assessment.of(WARM_ODDS).soon if len(heat.known) <= MOST_NODES else None
    if some is not None:
        yield told_block([*told_of_warmth(some, heat, assessment.project.brief), *told_of_parts(some)])
    if heat.setting.lacks:
        yield Block(text=f"Not known: {'; '.join(heat.setting.lacks.values())}.", tone="note")


def _light(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    """A day in against a day out of every pack that is charged."""
    light = assessment.of(LIGHT)
    if not light.charged:
        return
    yield Block(text="Charging", tone="heading")
    if light.gaps:
        yield Block(text=f"Not known: {'; '.join(light.gaps)}.", tone="note")
        return
    for day in light.days:
        yield drawn(light_picture(light, day, kit, WIDE), f"charging {day.pack.node.item.name}")
    some = assessment.of(DAY_ODDS).soon
    if some is not None:
        yield told_block(list(told_of_days(some, assessment.project.brief)))


def _odds(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    """How long a thousand missions last, and which unknown matters most."""
    odds = assessment.of(ODDS)
    if odds.gaps or odds.soon is None:
        return
    yield Block(text="The odds", tone="heading")
    shares = shares_of(odds.soon.unknowns, odds.soon.normal, odds.soon.runtime_s)
    yield Block(text=f"{said_of(odds.soon, odds.wanted_s)} {advice(shares)}")
    yield told_block(list(told_of_missions(odds.soon, odds, assessment.project.brief)))
    yield drawn(spread_picture(odds.soon, odds.wanted_s, kit, WIDE), "how long a thousand missions last")
    by = tuple((u.called, u.knowledge, show(s, fraction=True)) for u, s in shares)
    yield Block(head=("unknown", "known by", "share of the spread"), rows=by, figures=(2,))


def _modes(result: PowerResult, pack: PackResult) -> Block:
    rows = []
    for index, mode in enumerate(result.concept.modes):
        flow = mode_flows(result, index)[pack.node.item.id]
        rows.append((mode.name, show(flow.current_a, "A"), show(flow.power_w, "W"),
                     show(pack.peak_current_a[index], "A"), show(pack.peak_voltage_v[index], "V")))  # fmt: skip
    head = ("mode", "on average", "power", "worst instant", "pack sags to")
    return Block(head=head, rows=tuple(rows), figures=(1, 2, 3, 4))


def _shares(result: PowerResult, kit: Kit) -> Block:
    bars = [Bar(d.name, d.amount, d.text, d.ink) for d in drains(result)]
    return drawn(share_bars(bars, kit, BARS_W), "where the energy goes")
