"""What a report says: plain data that the HTML and the PDF template both read, and each subject's own section."""

from collections.abc import Sequence
from typing import Any

from wired_union.kernel.cautions import NOT_CHECKED, RULES
from wired_union.kernel.results import Finding, Verdict
from wired_union.kernel.ripple import offers_in_words
from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit, Picture
from wired_union.picture.svg import to_svg
from wired_union.picture.wire import wire_of
from wired_union.project.change import plain


def report_content(assessment: Assessment, today: str) -> dict[str, Any]:
    """Everything a report shows, as texts and SVG pictures."""
    project, kit = assessment.project, Kit()
    told, also = attention(assessment)
    remedies = offers_in_words(assessment)
    found: dict[str, Any] = printable({
        "name": project.name,
        "subtitle": project.subtitle,
        "today": today,
        "verdict": verdict_line(assessment),
        "limits": [_limit(assessment, x.measure) for x in project.brief.limits],
        "findings": [
            {"verdict": f.verdict.value, "title": f.title, "what": f.what, "why": f.why,
             "remedies": remedies[f.id]}
            for f in told
        ],
        "also": "; ".join(f"{f.title}: {f.what.rstrip('.')}" for f in also),
        "sections": [_section(s) for s in sections(assessment, kit) if s.blocks],
        "notebook": [{"when": e.when, "text": e.text, "why": e.why} for e in project.notebook],
        "not_checked": [*_uninformed(assessment), *NOT_CHECKED],
        "cautions": [{"title": c.title, "text": c.text} for c in assessment.cautions],
        "rules": RULES,
    })  # fmt: skip
    return found


def attention(assessment: Assessment) -> tuple[list[Finding], list[Finding]]:
    """What is told in full, and what is only tight and told in passing: a judge reads five minutes."""
    found = [f for f in assessment.findings if f.verdict is not Verdict.HOLDS]
    tight = [f for f in found if f.verdict is Verdict.TIGHT]
    also = tight[MOST_TIGHT:]
    return [f for f in found if f not in also], also


MOST_TIGHT = 6


def sections(assessment: Assessment, kit: Kit) -> list[Section]:
    """Every subject's section, in the order of the rail; what is looked up comes last."""
    found = [s.load(s.section)(assessment, kit) for s in assessment.subjects if s.section]
    return sorted(found, key=lambda s: s.looked_up)


def printable(value: Any) -> Any:
    """The data with every control character out of its texts, which no document can hold."""
    if isinstance(value, dict):
        return {k: printable(v) for k, v in value.items()}
    if isinstance(value, list):
        return [printable(v) for v in value]
    return plain(value) if isinstance(value, str) else value


def _section(section: Section) -> dict[str, Any]:
    return {"title": section.title, "blocks": [_block(b, section.blocks) for b in section.blocks]}


SHORTEST, LONGEST = 6, 40
"""Characters of a column that count for its width."""


def _widths(block: Block, blocks: Sequence[Block]) -> list[float]:
    """Shares of the width by the longest text; the same for all tables of a section with the same head."""
    alike = [b for b in blocks if b.head == block.head]
    longest = [
        max(len(text) for b in alike for text in (b.head[n], *(row[n] for row in b.rows)))
        for n in range(len(block.head))
    ]
    chars = [min(max(n, SHORTEST), LONGEST) + 2 for n in longest]
    return [c / sum(chars) for c in chars]


def _block(block: Block, blocks: Sequence[Block]) -> dict[str, Any]:
    rows = [[{"text": c, "figure": n in block.figures} for n, c in enumerate(row)] for row in block.rows]
    return {"text": block.text, "tone": block.tone, "head": list(block.head), "rows": rows, "svg": block.svg,
            "widths": _widths(block, blocks)}  # fmt: skip


def _svg(picture: Picture, label: str) -> str:
    return to_svg(picture, label=label)


def verdict_line(assessment: Assessment) -> str:
    """The headline: how many limits hold, and how much else breaks."""
    counts: dict[str, int] = {}
    for measure in assessment.measures:
        counts[measure.verdict.value] = counts.get(measure.verdict.value, 0) + 1
    told = ", ".join(f"{counts[w]} {w}" for w in ("breaks", "tight", "unknown", "holds") if w in counts)
    count = len(assessment.measures)
    line = f"{count} limit{'' if count == 1 else 's'}: {told}." if counts else "No limits set yet."
    more = len(assessment.breaks_besides)
    return f"{line} {more} more {'thing breaks' if more == 1 else 'things break'}." if more else line


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
