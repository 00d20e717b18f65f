"""A concept as it stands, drawn from three sides: for whoever compares concepts or builds one."""

from wired_union.kernel.subject import Assessment
from wired_union.picture.shapes import Kit, Picture
from wired_union.subjects.mass.balance import BALANCE
from wired_union.subjects.mass.picture_places import places_drawing
from wired_union.subjects.mass.tipping import is_asked


def outline(assessment: Assessment, kit: Kit, width: float, part: str = "") -> Picture | None:
    """The concept at work with one part marked; None where nothing has a place, or the part has none."""
    concept = assessment.project.concept
    if not is_asked(concept):
        return None
    if part and not any(i.id == part and i.places for i in concept.items):
        return None
    drawing = places_drawing(assessment.of(BALANCE), kit, width, part)
    return drawing.picture if drawing.panes else None
