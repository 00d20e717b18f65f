"""Writing the report: one self-contained HTML page, or a PDF that typst compiles offline with our fonts."""

import base64
from collections.abc import Collection
from pathlib import Path
from typing import Any, Literal

from msgspec.structs import asdict

from wired_union.kernel.report_kinds import KINDS
from wired_union.kernel.subject import Assessment
from wired_union.picture.palette import FIGURES, LIGHT, WORDS
from wired_union.picture.typeset import typeset
from wired_union.project.documents import DocumentError, write_bytes
from wired_union.report.content import Told
from wired_union.report.kinds import SIZES, content
from wired_union.shipped import FONTS, REPORT

_FACES = (
    (WORDS, 400, "AtkinsonHyperlegibleNext_400Regular.ttf"), (WORDS, 600, "AtkinsonHyperlegibleNext_600SemiBold.ttf"),
    (FIGURES, 500, "BarlowSemiCondensed_500Medium.ttf"), (FIGURES, 600, "BarlowSemiCondensed_600SemiBold.ttf"),
)  # fmt: skip


def write_report(
    assessment: Assessment, path: Path, today: str, kind: str = "whole", left_out: Collection[str] = ()
) -> None:  # fmt: skip
    """Write a kind of report as its ending says. Raises DocumentError for another ending, or where it cannot be."""
    writers = {".html": report_html, ".pdf": report_pdf}
    writer = writers.get(path.suffix.lower())
    if writer is None:
        raise DocumentError(f"“{path.name}”: a report is .html or .pdf. Give the file one of these endings.")
    if kind not in KINDS:
        raise DocumentError(f"There is no report “{kind}”. There are: {', '.join(KINDS)}.")
    write_bytes(path, writer(assessment, today, kind, left_out))


def report_html(
    assessment: Assessment, today: str, kind: str = "whole", left_out: Collection[str] = (),
    told: Told = lambda _: None,
) -> bytes:  # fmt: skip
    """One page with everything in it: fonts, styles and pictures."""
    return page_html(content(kind, assessment, today, left_out, told))


def page_html(data: dict[str, Any]) -> bytes:
    """The data of a report as one page."""
    return _page("report.html.j2", {**data, "words": WORDS, "figures": FIGURES, "font_faces": _font_faces()})


def index_html(name: str, today: str, files: list[dict[str, str]], lacks: list[str]) -> bytes:
    """The page that says what each file of an archive is, and what could not be put into it."""
    return _page("index.html.j2", {"name": name, "today": today, "files": files, "lacks": lacks})


def _page(template: str, data: dict[str, Any]) -> bytes:
    from jinja2 import Environment, PackageLoader, StrictUndefined

    folder = PackageLoader("wired_union.report", "templates")
    pages = Environment(loader=folder, autoescape=True, undefined=StrictUndefined, trim_blocks=True)
    return pages.get_template(template).render(**data, c=LIGHT).encode("utf-8")


def _font_faces() -> Any:
    from markupsafe import Markup

    faces = []
    for family, weight, name in _FACES:
        data = base64.b64encode((FONTS / name).read_bytes()).decode()
        faces.append(
            f'@font-face {{ font-family: "{family}"; font-weight: {weight}; src: url(data:font/ttf;base64,{data}); }}'
        )
    return Markup("\n".join(faces))  # our own constants and our own font files, nothing of the project


def report_pdf(
    assessment: Assessment, today: str, kind: str = "whole", left_out: Collection[str] = (),
    told: Told = lambda _: None,
) -> bytes:  # fmt: skip
    """The report as a PDF; a judge's is set more tightly until it is two pages."""
    if kind != "judge":
        return _set(content(kind, assessment, today, left_out, told), "pdf")[0]
    for level in range(len(SIZES)):
        data = content(kind, assessment, today, level=level)
        if level == len(SIZES) - 1 or len(_set(data, "png", COUNTING_DPI)) <= JUDGED_PAGES:
            break
    return _set(data, "pdf")[0]


JUDGED_PAGES = 2
COUNTING_DPI = 9.0


def report_pages(
    assessment: Assessment, today: str, *, dots_per_inch: float = 96.0, kind: str = "whole"
) -> list[bytes]:  # fmt: skip
    """The pages of the report as PNG pictures."""
    return _set(content(kind, assessment, today), "png", dots_per_inch)


def _set(data: dict[str, Any], kind: Literal["pdf", "png"], dots_per_inch: float = 96.0) -> list[bytes]:
    return typeset(REPORT / "report.typ", dressed(data), kind, dots_per_inch)


def dressed(data: dict[str, Any]) -> dict[str, Any]:
    """The data of a report with colours and fonts, as its template for typst reads them."""
    return {**data, "colours": asdict(LIGHT), "words": WORDS, "figures": FIGURES}
