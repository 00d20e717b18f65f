"""What the window writes to hand over, as bytes: worked out beside it, written once it is whole."""

from collections.abc import Callable, Collection

from wired_union.kernel.report_kinds import EVERYTHING
from wired_union.kernel.subject import Assessment
from wired_union.project.documents import DocumentError
from wired_union.project.kept import Kept

Told = Callable[[str], object]


def hand_over(
    assessment: Assessment, kept: Kept, today: str, kind: str, ending: str, left_out: Collection[str], told: Told
) -> tuple[bytes, list[str]]:  # fmt: skip
    """A kind of report, or everything, and in words what could not be put into it. Raises DocumentError."""
    if kind == EVERYTHING:
        from wired_union.report.everything import archive_of

        return archive_of(assessment, kept, today, left_out, told)
    from wired_union.report.write import report_html, report_pdf

    writers: dict[str, Callable[..., bytes]] = {".html": report_html, ".pdf": report_pdf}
    if ending not in writers:
        raise DocumentError("A report is .html or .pdf. Give the file one of these endings.")
    return writers[ending](assessment, today, kind, left_out, told), []
