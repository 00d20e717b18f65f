"""What Mass hands over: masses and places as a table, the outline from above."""

import tempfile
from collections.abc import Iterator
from pathlib import Path

from wired_union.kernel.subject import Assessment, Paper
from wired_union.picture.shapes import Kit
from wired_union.subjects.mass.places_file import write_places
from wired_union.subjects.mass.tipping import is_asked


def papers(assessment: Assessment) -> Iterator[Paper]:
    """The table of all parts, and drawings where something has a place."""
    if not assessment.project.concept.items:
        return
    yield Paper("places.csv", "masses and places of all parts", lambda: _written(assessment, ".csv"))
    if is_asked(assessment.project.concept):
        yield Paper("outline.svg", "the machine from three sides", lambda: _written(assessment, ".svg"))
        yield Paper("outline.dxf", "the outline from above", lambda: _written(assessment, ".dxf"))


def _written(assessment: Assessment, ending: str) -> bytes:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / f"places{ending}"
        write_places(assessment, Kit(), path)
        return path.read_bytes()
