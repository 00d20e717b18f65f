"""What a report says: plain data that the HTML and the PDF template both read, and each subject's own section."""

from collections.abc import Callable, Collection, Mapping, Sequence
from typing import Any

from wired_union.kernel.cautions import NOT_CHECKED, RULES
from wired_union.kernel.results import Finding, Verdict
from wired_union.kernel.ripple import offers_in_words
from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit, Picture
from wired_union.picture.svg import to_svg
from wired_union.picture.wire import wire_of
from wired_union.project.change import plain
from wired_union.units import show

Told = Callable[[str], object]


def report_content(
    assessment: Assessment, today: str, left_out: Collection[str] = (), told: Told = lambda _: None
) -> dict[str, Any]:  # fmt: skip
    """The whole story as texts and SVG pictures, without the sections of some subjects.

    `told` hears what is being worked out, for progress.
    """
    told("what needs attention")
    full, also = attention(assessment)
    remedies = offers_in_words(assessment)
    found = [
        {"verdict": f.verdict.value, "title": f.title, "what": f.what, "why": f.why, "remedies": remedies[f.id]}
        for f in full
    ]
    parts = [s for subject, s in sections(assessment, Kit(), told) if s.blocks and subject not in left_out]
    parts.append(every_figure(assessment))
    out = sorted(s.title for s in assessment.subjects if s.id in left_out)
    return page_content(assessment, today, parts, {
        "title": "report", "findings": found,
        "also": "; ".join(f"{f.title}: {f.what.rstrip('.')}" for f in also),
        "left_out": f"Left out by the team: {', '.join(out)}." if out else "",
    })  # fmt: skip


def page_content(
    assessment: Assessment, today: str, parts: Sequence[Section], more: Mapping[str, Any]
) -> dict[str, Any]:  # fmt: skip
    """What every kind of report has: its head, the brief as a matrix, its sections, what was not checked, cautions."""
    project = assessment.project
    shown = {m: words for s in assessment.subjects if s.shows is not None for m, words in s.shows(assessment).items()}
    data = {
        "name": project.name, "subtitle": project.subtitle, "today": today, "verdict": verdict_line(assessment),
        "limits": [_limit(assessment, x.measure, shown) for x in project.brief.limits],
        "findings": None, "also": "", "left_out": "", "sections": numbered(parts), "standards": list(project.standards),
        "not_checked": [*_uninformed(assessment), *NOT_CHECKED],
        "cautions": [{"title": c.title, "text": c.text, "signed": _signed(assessment, c.title)}
                     for c in assessment.cautions],
        "rules": RULES, "size": 9.5, **more,
    }  # fmt: skip
    found: dict[str, Any] = printable(data)
    return found


def _signed(assessment: Assessment, caution: str) -> str:
    """Who has read a caution, and when; "" for nobody."""
    hands = [s for s in assessment.project.signatures if s.caution == caution]
    return ", ".join(" ".join(filter(None, (s.by, s.on))) for s in hands)


def attention(assessment: Assessment) -> tuple[list[Finding], list[Finding]]:
    """What is told in full, and what is only tight and told in passing: a judge reads five minutes."""
    found = [f for f in assessment.findings if f.verdict is not Verdict.HOLDS]
    tight = [f for f in found if f.verdict is Verdict.TIGHT]
    also = tight[MOST_TIGHT:]
    return [f for f in found if f not in also], also


MOST_TIGHT = 6


def sections(assessment: Assessment, kit: Kit, told: Told = lambda _: None) -> list[tuple[str, Section]]:
    """Every subject's section with its id, in the order of the rail; what is looked up comes last."""
    found: list[tuple[str, Section]] = []
    for s in assessment.subjects:
        if s.section:
            told(s.title)
            found.append((s.id, s.load(s.section)(assessment, kit)))
    return sorted(found, key=lambda f: f[1].looked_up)


def every_figure(assessment: Assessment) -> Section:
    """Each measure that was worked out, whether a limit is on it or not, and the stage that explains it."""
    titles = {s.id: s.title for s in assessment.subjects}
    rows = tuple(
        (m.label, m.shown, f"{m.direction} {m.limit_shown}" if m.limit is not None else "",
         m.verdict.value if m.limit is not None else "", titles.get(m.subject, ""), "; ".join(m.missing))
        for m in assessment.all_measures.values()
    )  # fmt: skip
    head = ("figure", "value", "limit", "verdict", "explained by", "lacks")
    blocks = (Block(head=head, rows=rows, figures=(1, 2)),) if rows else ()
    return Section("Every figure that was worked out", blocks, looked_up=True)


def numbered(parts: Sequence[Section]) -> list[dict[str, Any]]:
    """Sections with their numbers, and pictures with theirs, through the whole report."""
    found, figure = [], 0
    for n, section in enumerate(parts, 1):
        blocks = [_block(b, section.blocks) for b in section.blocks]
        for block in blocks:
            if block["svg"]:
                figure += 1
                block["number"] = figure
        found.append({"title": section.title, "anchor": f"part-{n}", "blocks": blocks})
    return found


def printable(value: Any) -> Any:
    """The data with every control character out of its texts, which no document can hold."""
    if isinstance(value, dict):
        return {k: printable(v) for k, v in value.items()}
    if isinstance(value, list):
        return [printable(v) for v in value]
    return plain(value) if isinstance(value, str) else value


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
    caption = block.caption[:1].upper() + block.caption[1:]
    return {"text": block.text, "tone": block.tone, "head": list(block.head), "rows": rows, "svg": block.svg,
            "caption": caption, "number": 0, "widths": _widths(block, blocks)}  # fmt: skip


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


def _limit(assessment: Assessment, measure_id: str, shown: Mapping[str, str]) -> dict[str, str]:
    """A row of the matrix: the wish, what is computed, measured and shown of it, and how it is to be proved."""
    limit = assessment.project.brief.limit(measure_id)
    measure = assessment.measure(measure_id)
    assert limit is not None
    wire = Picture(240, 20, wire_of(measure, 236, 10))
    by_hand = limit.measured is not None
    who = " ".join(filter(None, (limit.measured_by, limit.measured_on)))
    measured = f"{show(limit.measured, measure.unit)}{f' ({who})' if who else ''}" if by_hand else ""
    computed = "" if measure.measured or measure.value is None else measure.shown
    return {
        "name": limit.name,
        "measure": measure.label,
        "value": "no figure" if measure.value is None else measure.shown,
        "limit": f"{limit.direction} {measure.limit_shown}",
        "verdict": measure.verdict.value,
        "proof": limit.proof or "no proof yet",
        "missing": "; ".join(measure.missing),
        "computed": computed,
        "measured": measured,
        "shown": shown.get(measure_id, ""),
        "wire": _svg(wire, f"{measure.label} {measure.verdict.value}"),
    }


def _uninformed(assessment: Assessment) -> list[str]:
    limits = {x.measure: x.name for x in assessment.project.brief.limits}
    return [f"the limit “{limits[m]}”: nothing informs it yet" for m in assessment.uninformed]
