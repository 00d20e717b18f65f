"""What Power hands over: operating points and series as tables, the tree as a picture."""

from collections.abc import Callable, Iterator, Sequence
from functools import partial

from wired_union.catalogue.sheet_files import table_bytes
from wired_union.kernel.subject import Assessment, Paper
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import to_svg
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.first.run import Start
from wired_union.subjects.power.node import FIRST, HEAT, POWER
from wired_union.subjects.power.picture_tree import power_tree_picture
from wired_union.subjects.power.shares import mode_flows
from wired_union.subjects.power.trace import mission_trace
from wired_union.subjects.power.warmth.run import Heat

TREE_W = 900.0
ENDINGS = (".xlsx", ".csv")
Table = tuple[list[str], list[list[str]], int]
"""Heading, rows, and how many of the first columns are words."""


def papers(assessment: Assessment) -> Iterator[Paper]:
    """Nothing of what is not there."""
    result = assessment.of(POWER)
    if not result.modes or not result.tree.nodes:
        return
    for ending in ENDINGS:
        yield Paper(
            f"power/operating-points{ending}",
            "every part in every mode: volts, amperes, watts, heat",
            partial(_made, partial(points, result), ending),
        )
        if result.limiting is not None and result.limiting.discharge is not None:
            yield Paper(
                f"power/mission{ending}",
                "current, voltage and charge along the mission",
                partial(_made, partial(mission, result), ending),
            )
        if assessment.of(HEAT).described:
            yield Paper(
                f"power/temperatures{ending}",
                "temperatures along the mission",
                partial(_made, partial(temperatures, assessment.of(HEAT)), ending),
            )
        for mode in assessment.of(FIRST).modes:
            name = result.concept.modes[mode].id
            yield Paper(
                f"power/start-{name}{ending}",
                f"the first half second of {result.concept.modes[mode].name}",
                partial(_made, partial(start_table, assessment, mode), ending),
            )
    yield Paper(
        "power/tree.svg", "from the pack to the last load, in the hungriest mode", partial(tree_svg, assessment)
    )


def _made(of: Callable[[], Table], ending: str) -> bytes:
    head, rows, words = of()
    return table_bytes(head, rows, ending, frozenset(range(words, len(head))))


def _figure(value: float) -> str:
    return "" if value != value else f"{value:.6g}"


def points(result: PowerResult) -> Table:
    """Every node in every mode, on average at half charge and at its worst instant; empty what cannot be delivered."""
    head = ["part", "mode", "input V", "current A", "power W", "heat W", "worst current A", "worst input V"]
    rows = []
    for index, mode in enumerate(result.concept.modes):
        usual, worst = mode_flows(result, index), mode_flows(result, index, peak=True)
        for item, node in result.tree.nodes.items():
            flow, hard = usual[item], worst[item]
            figures = (flow.input_v, flow.current_a, flow.power_w, flow.loss_w, hard.current_a, hard.input_v)
            rows.append([node.item.name, mode.name, *map(_figure, figures)])
    return head, rows, 2


def mission(result: PowerResult) -> Table:
    """The pack that ends first along the mission."""
    pack = result.limiting
    assert pack is not None
    trace = mission_trace(result, pack)
    each_leg = len(trace.times_s) // max(len(trace.legs), 1)
    modes = [result.concept.modes[m].name for _, _, m in trace.legs for _ in range(each_leg)]
    each = zip(modes, trace.times_s, trace.current_a, trace.voltage_v, trace.charge, strict=True)
    return ["mode", "time s", "current A", "voltage V", "charge"], [[m, *map(_figure, row)] for m, *row in each], 1


def temperatures(heat: Heat) -> Table:
    """Every lump in every air."""
    names = {i.id: i.name for i in heat.concept.items}
    names |= {f"air {e.id}": f"air in {e.name}" for e in heat.concept.enclosures}
    lumps = {**heat.setting.items, **{f"air {e}": n for e, n in heat.setting.airs.items()}}
    head = ["air", "time s", "outside °C", *(f"{names[i]} °C" for i in lumps)]
    rows = [
        [run.air.name, *map(_figure, (time, run.air.outside_c[n], *(run.warmth.end_c[n, k] for k in lumps.values())))]
        for run in heat.runs for n, time in enumerate(heat.times_s.tolist())
    ]  # fmt: skip
    return head, rows, 1


def start_table(assessment: Assessment, mode: int) -> Table:
    """Every pack's start in a mode: its current, and the voltage that each part gets."""
    starts = [s for s in assessment.of(FIRST).starts if s.mode == mode]
    names = {i.id: i.name for i in assessment.project.concept.items}
    parts = list(dict.fromkeys(i for s in starts for i in s.circuit.spots))
    head = ["pack", "time s", "current A", *(f"{names[i]} V" for i in parts)]
    return head, [row for s in starts for row in _start_rows(s, names, parts)], 1


def _start_rows(start: Start, names: dict[str, str], parts: Sequence[str]) -> Iterator[list[str]]:
    spots, volts = start.circuit.spots, start.course.volts
    for n, time in enumerate(start.course.times_s):
        own = (volts[spots[i]][n] if i in spots else float("nan") for i in parts)
        yield [names[start.circuit.root], *map(_figure, (time, start.course.source_a[n], *own))]


def tree_svg(assessment: Assessment) -> bytes:
    """The tree in its hungriest mode."""
    result = assessment.of(POWER)
    picture = power_tree_picture(result.tree, mode_flows(result, result.worst_mode), Kit(), TREE_W,
                                 verdicts=assessment.item_verdicts)  # fmt: skip
    return to_svg(picture, label="power tree").encode()
