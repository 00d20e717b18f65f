"""What a report says: plain data that the HTML and the PDF template both read."""

from typing import Any

from wired_union.assess.assessment import Assessment
from wired_union.assess.cautions import NOT_CHECKED, RULES
from wired_union.assess.mission_trace import mission_trace
from wired_union.assess.power_flow import energy_shares, mode_flows
from wired_union.picture.bars import Bar, share_bars
from wired_union.picture.card import gist
from wired_union.picture.chain import chain_picture
from wired_union.picture.hanging import hanging_picture
from wired_union.picture.mission import mission_chart
from wired_union.picture.power_tree import power_tree_picture
from wired_union.picture.shapes import Kit, Picture
from wired_union.picture.svg import to_svg
from wired_union.picture.wire import wire_of
from wired_union.units import show

WIDE = 760.0
_FROM = {
    "guess": "a guess",
    "estimate": "an estimate",
    "datasheet": "datasheet or typical of class",
    "measured": "measured",
}


def report_content(assessment: Assessment, today: str) -> dict[str, Any]:
    """Everything a report shows, as texts and SVG pictures."""
    project, kit = assessment.project, Kit()
    return {
        "name": project.name,
        "subtitle": project.subtitle,
        "today": today,
        "verdict": _verdict_line(assessment),
        "limits": [_limit(assessment, x.measure) for x in project.brief.limits],
        "findings": [
            {"verdict": f.verdict.value, "title": f.title, "what": f.what, "why": f.why,
             "remedies": [r.label for r in f.remedies]}
            for f in assessment.findings if f.verdict.value != "holds"
        ],
        "lanes": _lanes(assessment),
        "power": _power(assessment, kit),
        "mass": _svg(hanging_picture(assessment.mass, project.concept, kit, WIDE, 270.0), "mass by subsystem"),
        "mass_text": f"{show(assessment.mass.known_kg, 'kg')} known, {show(assessment.mass.allowance_kg, 'kg')} allowed"
        f" for what is not, {show(assessment.mass.margin_kg, 'kg')} system margin.",
        "money": [{"origin": o, "sum": show(v, "£")} for o, v in assessment.money.by_origin.items() if v],
        "chains": [
            {"name": c.chain.name, "svg": _svg(chain_picture(c, kit, WIDE), c.chain.name),
             "text": f"{show(c.latency.most_s, 's')} worst, {show(c.latency.typical_s, 's')} typical"
             if c.latency else "no stages yet"}
            for c in assessment.timing.chains
        ],
        "notebook": [{"when": e.when, "text": e.text, "why": e.why} for e in project.notebook],
        "not_checked": [*_uninformed(assessment), *NOT_CHECKED],
        "cautions": [{"title": c.title, "text": c.text} for c in assessment.cautions],
        "rules": RULES,
    }  # fmt: skip


def _svg(picture: Picture, label: str) -> str:
    return to_svg(picture, label=label)


def _verdict_line(assessment: Assessment) -> str:
    counts: dict[str, int] = {}
    for measure in assessment.measures:
        counts[measure.verdict.value] = counts.get(measure.verdict.value, 0) + 1
    told = ", ".join(f"{counts[w]} {w}" for w in ("breaks", "tight", "unknown", "holds") if w in counts)
    return f"{len(assessment.measures)} limits: {told}." if counts else "No limits set yet."


def _limit(assessment: Assessment, measure_id: str) -> dict[str, str]:
    limit = assessment.project.brief.limit(measure_id)
    measure = assessment.measure(measure_id)
    assert limit is not None
    wire = Picture(240, 20, wire_of(measure, 236, 10))
    return {
        "name": limit.name,
        "measure": measure.label,
        "value": "no figure" if measure.value is None else measure.shown,
        "limit": f"{limit.direction} {measure.limit_shown}",
        "verdict": measure.verdict.value,
        "proof": limit.proof or "no proof yet",
        "missing": "; ".join(measure.missing),
        "wire": _svg(wire, f"{measure.label} {measure.verdict.value}"),
    }


def _uninformed(assessment: Assessment) -> list[str]:
    limits = {x.measure: x.name for x in assessment.project.brief.limits}
    return [f"the limit “{limits[m]}”: nothing informs it yet" for m in assessment.uninformed]


def _lanes(assessment: Assessment) -> list[dict[str, Any]]:
    concept = assessment.project.concept
    lanes = []
    for lane in concept.subsystems:
        items = [i for i in concept.items if i.subsystem == lane.id]
        rows = [
            {
                "name": i.name,
                "count": str(i.count),
                "gist": gist(i.part),
                "mass": show(i.part.mass_kg * i.count, "kg") if i.part.mass_kg is not None else "not known",
                "price": show(i.part.price * i.count, "£") if i.part.price is not None else "not known",
                "source": f"{_FROM[i.knowledge]}; {i.origin}",
            }
            for i in items
        ]
        if rows:
            lanes.append({"name": lane.name, "rows": rows})
    return lanes


def _power(assessment: Assessment, kit: Kit) -> dict[str, Any]:
    result = assessment.power
    packs = [p for p in result.packs if p.discharge is not None]
    if not packs:
        return {"modes": [], "mission": "", "tree": "", "shares": "", "text": "No pack with a mission yet."}
    pack = min(packs, key=lambda p: p.discharge.runtime_s if p.discharge else 0.0)
    assert pack.discharge is not None
    chart = mission_chart(result.concept, pack, mission_trace(result, pack), kit, WIDE, 240.0)
    modes = []
    for index, mode in enumerate(result.concept.modes):
        flow = mode_flows(result, index)[pack.node.item.id]
        modes.append(
            {"name": mode.name, "average": show(flow.current_a, "A"), "power": show(flow.power_w, "W"),
             "peak": show(pack.peak_current_a[index], "A"), "low": show(pack.peak_voltage_v[index], "V")}
        )  # fmt: skip
    worst = mode_flows(result, pack.worst_mode)
    shares = energy_shares(result)
    names = {s.id: s.name for s in result.concept.subsystems}
    bars = [Bar(names[i], e, show(e / (shares.total_wh or 1.0), fraction=True), "copper")
            for i, e in shares.by_subsystem if e > 0]  # fmt: skip
    bars.append(
        Bar("Losses", shares.losses_wh, show(shares.losses_wh / (shares.total_wh or 1), fraction=True), "unknown")
    )
    return {
        "modes": modes,
        "mission": _svg(chart.picture, "current and voltage over the mission"),
        "tree": _svg(power_tree_picture(result.tree, worst, kit, WIDE), "power tree"),
        "tree_mode": result.concept.modes[pack.worst_mode].name,
        "shares": _svg(share_bars(bars, kit, 420.0), "where the energy goes"),
        "text": f"The mission ends at {pack.discharge.ended_by} after {show(pack.discharge.runtime_s, 's')},"
        f" with {show(pack.discharge.charge, fraction=True)} of the charge left.",
    }
