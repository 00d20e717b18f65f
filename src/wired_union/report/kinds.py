"""The kinds of report: the whole story, two pages for a judge, one to build it by, one for whoever comes next."""

from collections.abc import Callable, Collection, Sequence
from typing import Any

from wired_union.kernel.cautions import RULES
from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Assessment, Block, BuildStep, Section
from wired_union.picture.shapes import Kit
from wired_union.report.content import Told, page_content, report_content, sections

MOST_BREAKS = (5, 3, 2, 1)
"""Findings that a judge is told, the fewer the less room there is."""
SIZES = (9.5, 9.0, 8.5, 7.5)
MOST_UNCHECKED, MOST_NAMED = 4, 6


def content(
    kind: str, assessment: Assessment, today: str, left_out: Collection[str] = (), told: Told = lambda _: None,
    level: int = 0,
) -> dict[str, Any]:  # fmt: skip
    """The data of a kind of report; `level` is how tightly a judge's is set. Raises KeyError for an unknown kind."""
    if kind == "whole":
        return report_content(assessment, today, left_out, told)
    makers: dict[str, Callable[[], dict[str, Any]]] = {
        "judge": lambda: judge_content(assessment, today, level), "builder": lambda: builder_content(assessment, today),
        "successor": lambda: successor_content(assessment, today),
    }  # fmt: skip
    return makers[kind]()


def _blocks(assessment: Assessment, what: str) -> list[Section]:
    """What subjects give of one field of the contract, a section each."""
    found = []
    for s in assessment.subjects:
        where = getattr(s, what)
        blocks = s.load(where)(assessment, Kit()) if where else []
        if blocks:
            found.append(Section(s.title, tuple(blocks)))
    return found


def judge_content(assessment: Assessment, today: str, level: int = 0) -> dict[str, Any]:
    """The brief, what breaks, the gist of each subject, what was not checked: two pages."""
    told: list[dict[str, Any]]
    breaks = [f for f in assessment.findings if f.verdict is Verdict.BREAKS]
    told = [{"verdict": f.verdict.value, "title": f.title, "what": f.what, "why": f.why if level == 0 else "",
             "remedies": []} for f in breaks[: MOST_BREAKS[level]]]  # fmt: skip
    left = len(breaks) - len(told)
    data = page_content(assessment, today, _blocks(assessment, "gist")[: None if level < 3 else 1], {
        "title": "for the judges", "findings": told, "size": SIZES[level],
        "left_out": f"{left} more break{'s' if left == 1 else ''}; the whole report tells them." if left else "",
    })  # fmt: skip
    unchecked = data["not_checked"]
    more = len(unchecked) - MOST_UNCHECKED
    rest = [f"and {more} more, in the whole report"] if more > 0 else []
    data["not_checked"] = [*unchecked[:MOST_UNCHECKED], *rest]
    titles = ", ".join(c["title"].lower() for c in data["cautions"])
    data["cautions"], data["rules"] = [], f"Read in full in the whole report: {titles}. {RULES}" if titles else RULES
    return data


def builder_content(assessment: Assessment, today: str) -> dict[str, Any]:
    """What to have at hand, step by step with pictures and care, and what is looked up meanwhile."""
    steps = sorted(
        (b for s in assessment.subjects if s.builds for b in s.load(s.builds)(assessment, Kit())), key=lambda b: b.order
    )
    tools = tuple(dict.fromkeys(t for b in steps for t in b.tools))
    at_hand = Block(text=f"At hand: {', '.join(tools)}." if tools else "Nothing special is needed.")
    said = Block(text=f"{len(steps)} steps. Do them one after the other, and stop where one is not as it says.")
    first = (at_hand, said)
    blocks = [b for n, step in enumerate(steps, 1) for b in _step(n, step)]
    handing = {s.id for s in assessment.subjects if s.papers}
    looked_up = [s for i, s in sections(assessment, Kit()) if s.looked_up and i in handing and s.blocks]
    parts = [Section("Before you begin", first), Section("Step by step", tuple(blocks)), *looked_up]
    return page_content(assessment, today, [p for p in parts if p.blocks], {"title": "to build it by", "limits": []})


def _step(number: int, step: BuildStep) -> list[Block]:
    said = [Block(text=f"{number}. {step.title}", tone="heading"), Block(text=step.text)]
    if step.tools:
        said.append(Block(text=f"With {', '.join(step.tools)}.", tone="note"))
    if step.care:
        said.append(Block(text=f"Take care: {step.care}"))
    if step.svg:
        said.append(Block(svg=step.svg, caption=step.title))
    return said


OPENING = (
    "The project is a JSON file that any text editor opens; docs/file-format.md of the program and the schema beside it"
    " say what each field is. Pictures and earlier versions are in the folder beside it that ends in .union.kept, each"
    " named by the SHA-256 of its contents; versions are packed with gzip. Wired Union opens it, and"
    " `wired-union verify` checks the archive that this came in.",
    "Tables are CSV and XLSX, drawings SVG, DXF and PDF, the plan ICS, programs C and Python.",
)


def _few(names: Sequence[str]) -> str:
    return ", ".join(names[:MOST_NAMED]) + (" …" if names[MOST_NAMED:] else "")


def successor_content(assessment: Assessment, today: str) -> dict[str, Any]:
    """What we would do next, what is open, what breaks and what it costs, and how to open the files."""
    asked = [u for s in assessment.subjects if s.unready is not None for u in s.unready(assessment) if u.names]
    lacks = [(u.what, f"{u.of - len(u.names)} of {u.of}", _few(u.names)) for u in asked]
    parts = _blocks(assessment, "passes_on")
    if lacks:
        table = Block(head=("wanted", "done", "not yet"), rows=tuple(lacks), figures=(1,))
        parts.append(Section("What is not done", (table,)))
    parts.append(Section("How to open the files", tuple(Block(text=t) for t in OPENING)))
    return page_content(assessment, today, parts, {"title": "for whoever comes next"})
