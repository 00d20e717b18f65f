"""Power in the report: modes, the mission, the tree, where the energy goes."""

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.bars import Bar, share_bars
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import drawn
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.node import POWER
from wired_union.subjects.power.packs import PackResult
from wired_union.subjects.power.picture_mission import mission_chart
from wired_union.subjects.power.picture_tree import power_tree_picture
from wired_union.subjects.power.shares import drains, mode_flows
from wired_union.subjects.power.trace import mission_trace
from wired_union.units import show

WIDE, CHART_H, BARS_W = 760.0, 240.0, 420.0
TITLE = "Power"


def section(assessment: Assessment, kit: Kit) -> Section:
    """How the pack that ends first gets through the mission."""
    result = assessment.of(POWER)
    pack = result.limiting
    if pack is None or pack.discharge is None:
        return Section(TITLE, (Block(text="No pack with a mission yet."),))
    end = pack.discharge
    text = (
        f"The mission ends at {end.ended_by} after {show(end.runtime_s, 's')}, with"
        f" {show(end.charge, fraction=True)} of the charge left."
    )
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
    ))  # fmt: skip


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
