"""Writing the report: one self-contained HTML page, or a PDF that typst compiles offline with our fonts."""

import base64
from pathlib import Path
from typing import Any, Literal

from msgspec.structs import asdict

from wired_union.kernel.subject import Assessment
from wired_union.picture.palette import FIGURES, LIGHT, WORDS
from wired_union.picture.typeset import typeset
from wired_union.project.documents import DocumentError, write_bytes
from wired_union.report.content import report_content
from wired_union.shipped import FONTS, REPORT

_FACES = (
    (WORDS, 400, "AtkinsonHyperlegibleNext_400Regular.ttf"), (WORDS, 600, "AtkinsonHyperlegibleNext_600SemiBold.ttf"),
    (FIGURES, 500, "BarlowSemiCondensed_500Medium.ttf"), (FIGURES, 600, "BarlowSemiCondensed_600SemiBold.ttf"),
)  # fmt: skip


def write_report(assessment: Assessment, path: Path, today: str) -> None:
    """Write the report as its ending says. Raises DocumentError for another ending, or where it cannot be written."""
    writers = {".html": report_html, ".pdf": report_pdf}
    writer = writers.get(path.suffix.lower())
    if writer is None:
        raise DocumentError(f"“{path.name}”: a report is .html or .pdf. Give the file one of these endings.")
    write_bytes(path, writer(assessment, today))


def report_html(assessment: Assessment, today: str) -> bytes:
    """One page with everything in it: fonts, styles and pictures."""
    from jinja2 import Environment, PackageLoader, StrictUndefined

    folder = PackageLoader("wired_union.report", "templates")
    pages = Environment(loader=folder, autoescape=True, undefined=StrictUndefined, trim_blocks=True)
    page = pages.get_template("report.html.j2")
    text = page.render(
        **report_content(assessment, today), c=LIGHT, words=WORDS, figures=FIGURES, font_faces=_font_faces()
    )
    return text.encode("utf-8")


def _font_faces() -> Any:
    from markupsafe import Markup

    faces = []
    for family, weight, name in _FACES:
        data = base64.b64encode((FONTS / name).read_bytes()).decode()
        faces.append(
            f'@font-face {{ font-family: "{family}"; font-weight: {weight}; src: url(data:font/ttf;base64,{data}); }}'
        )
    return Markup("\n".join(faces))  # our own constants and our own font files, nothing of the project


def report_pdf(assessment: Assessment, today: str) -> bytes:
    """The report as a PDF."""
    return _compile(assessment, today, "pdf")[0]


def report_pages(assessment: Assessment, today: str, *, dots_per_inch: float = 96.0) -> list[bytes]:
    """The pages of the report as PNG pictures."""
    return _compile(assessment, today, "png", dots_per_inch)


def _compile(
    assessment: Assessment, today: str, kind: Literal["pdf", "png"], dots_per_inch: float = 96.0
) -> list[bytes]:
    data = {
        **report_content(assessment, today), "colours": asdict(LIGHT), "words": WORDS, "figures": FIGURES,
    }  # fmt: skip
    return typeset(REPORT / "report.typ", data, kind, dots_per_inch)
