"""The taut wire: a limit as a wire stretched from zero to a post. Shape and word carry the verdict."""

from wired_union.kernel.results import Measure, Verdict
from wired_union.picture.shapes import Line, Poly, Ring, Shape

POST = 0.84
"""Where the post stands, as a share of the width; the rest is room for what runs past it."""
FARTHEST = 1.16


def place(use: float | None, width: float) -> float:
    """Where a use of the limit lies on a wire of that width; far overruns end at the edge."""
    if use is None or use != use:
        return 0.0
    return min(max(use, 0.0), FARTHEST) * POST * width


def wire(
    use: float | None, verdict: Verdict, width: float, y: float = 0.0, *, ring: float | None = None, thick: float = 4.0,
    tone: str = "",
) -> tuple[Shape, ...]:  # fmt: skip
    """Shapes of a wire at height `y`, from x = 0. `ring` is the use a pending edit would lead to."""
    post = POST * width
    ink = (tone or "") + verdict.value
    shapes: list[Shape] = [Line(0, y, post, y, "line", 1.4)]
    end = place(use, width)
    if verdict is Verdict.UNKNOWN:
        shapes = [Line(0, y, post, y, ink, 1.8, (1.0, 3.0))]
        if use is not None:
            shapes.append(Line(0, y, min(end, post), y, ink, thick, (3.0, 3.0)))
    elif verdict is Verdict.BREAKS:
        shapes += _snapped(post, max(end, post + 9), y, ink, thick)
    else:
        shapes.append(Line(0, y, end, y, ink, thick))
        if verdict is Verdict.TIGHT:
            shapes += [Line(x, y - 5, x, y + 5, ink, 1.2) for x in (end - 2, end - 6, end - 10)]
    shapes.append(Line(post, y - 8, post, y + 8, "ink", 2.0))
    if ring is not None:
        shapes.append(Ring(place(ring, width), y, 6.0, "ink"))
    return tuple(shapes)


def _snapped(post: float, end: float, y: float, ink: str, thick: float) -> list[Shape]:
    left, right = post - 7, post + 6
    shapes: list[Shape] = [Line(0, y, left, y, ink, thick), Line(right, y, end, y, ink, thick)]
    for lift in (-5, 0, 5):
        shapes.append(Line(left, y + lift * 0.2, left + 4.5, y + lift, ink, 1.2))
        shapes.append(Line(right, y + lift * 0.2, right - 3.5, y + lift, ink, 1.2))
    return shapes


def wire_of(
    measure: Measure, width: float, y: float = 0.0, *, ring: float | None = None, thick: float = 4.0
) -> tuple[Shape, ...]:
    """The wire of a measure."""
    return wire(measure.use, measure.verdict, width, y, ring=ring, thick=thick)


def glyph(verdict: Verdict | None, width: float, y: float, x: float = 0.0, tone: str = "") -> tuple[Shape, ...]:
    """A verdict in the space of a word: plain, strained, snapped or dotted wire."""
    if verdict is None:
        return ()
    ink = tone + verdict.value
    if verdict is Verdict.HOLDS:
        return (Line(x, y, x + width, y, ink, 3.2),)
    if verdict is Verdict.UNKNOWN:
        return (Line(x, y, x + width, y, ink, 1.8, (1.0, 2.5)),)
    middle = x + width / 2
    if verdict is Verdict.TIGHT:
        strain = tuple(Line(middle + d, y - 4, middle + d, y + 4, ink, 1.2) for d in (-1, 2.5, 6))
        return (Line(x, y, x + width, y, ink, 3.2), *strain)
    ends = tuple(
        Poly(((middle + side * 5, y), (middle + side * 2, y + lift)), ink, width=1.2)
        for side in (-1, 1)
        for lift in (-4, 4)
    )
    return (Line(x, y, middle - 4, y, ink, 3.2), Line(middle + 4, y, x + width, y, ink, 3.2), *ends)


def limit_words(measure: Measure) -> str:
    """The limit as the strip says it: "of 5 h wanted" or "of 12 A"."""
    if measure.limit is None:
        return "no limit"
    return f"of {measure.limit_shown} wanted" if measure.direction == "at least" else f"of {measure.limit_shown}"
