"""Notebook: what happened and why, faults, versions, and two members' files put together."""

from wired_union.kernel.results import Verdict, worst
from wired_union.kernel.subject import Assessment, Subject
from wired_union.subjects.notebook.findings import findings, unready


def _verdict(assessment: Assessment) -> Verdict | None:
    """Nothing while no fault was found."""
    if not assessment.project.defects:
        return None
    return worst([Verdict.HOLDS, *(f.verdict for f in assessment.findings if f.subject == "notebook")])


SUBJECT = Subject(
    id="notebook", title="Notebook", group="KEEP",
    about=(
        "Every edit writes its own entry: the day, who works here, what it was, what it moved. Say why on the line"
        " above the strip. What people write stands beside it, with pictures. An entry can be corrected and struck out;"
        " what it said before stays to be read. Undo takes an edit's entry back with the edit.",
        "A knot keeps the whole project as it is, in a file beside the project by the SHA-256 of its text. Compared,"
        " every field that differs is told, and both are looked at as of today. A part, a subsystem or the whole is"
        " brought back as one edit; notebook, faults and versions stay as they are now.",
        "A merge puts two files together by meaning: what one side alone did is taken, the same done twice is one, and"
        " where both did otherwise somebody chooses. A figure never gets the knowledge of another. The way of it is"
        " that of diff3, on values instead of lines.",
        "Not checked: whether what people wrote is so.",
    ),
    view="view:NotebookView", holds_notebook=True, findings=findings, hard_findings=lambda _: (), verdict=_verdict,
    section="section:section", passes_on="section:passed_on", unready=unready,
)  # fmt: skip
