"""What each limit did from knot to knot, to today: a wire's use of its limit, with the figure at each knot."""

from msgspec import Struct

from wired_union.kernel.results import Measure, Verdict
from wired_union.kernel.subject import Assessment
from wired_union.picture.shapes import Kit, Line, Picture, Poly, Region, Ring, Shape, hint_picture
from wired_union.project.model import Project
from wired_union.project.notebook_model import Landed, Version
from wired_union.subjects.notebook.knots import parent_of
from wired_union.units import show

NAMES, ROW_H, TOP, RIGHT = 138.0, 40.0, 22.0, 40.0
MOST_USE, LEAST_SPAN = 2.0, 0.05
"""Of a limit that is drawn, what is beyond stands at the edge; and what a row spans at least."""


class Stand(Struct, frozen=True):
    """A limit at a knot: its figure, how much of the limit it used, its verdict."""

    shown: str
    use: float | None
    verdict: str


def path_to_now(project: Project) -> list[Version]:
    """The versions that the present came from, the first first."""
    found: list[Version] = []
    at, by_id = parent_of(project), {v.id: v for v in project.versions}
    while at is not None and at not in found:
        found.append(at)
        at = by_id.get(at.parent)
    return found[::-1]


def stand_of(landed: Landed | None, measure: Measure) -> Stand | None:
    """Where a limit stood at a knot, None where it was not there."""
    if landed is None:
        return None
    then = Measure(measure.kind, measure.label, landed.value, landed.unit or measure.unit, landed.limit,
                   measure.direction, of=measure.of, span=measure.span)  # fmt: skip
    verdict = landed.verdict or "unknown"
    return Stand(show(landed.value, then.unit), then.use, verdict)


def trend_picture(assessment: Assessment, kit: Kit, width: float) -> Picture:
    """A row for each limit, a column for each version on the way, and the present."""
    project = assessment.project
    way = path_to_now(project)
    if not way or not assessment.measures:
        return hint_picture("With a first knot and a limit, what each limit did shows here.", kit, width)
    most = max(int((width - kit.px(NAMES + RIGHT)) / kit.px(74)), 1)
    way = way[-most:]
    left, right = kit.px(NAMES), width - kit.px(RIGHT)
    xs = [left + (right - left) * (n + 0.4) / (len(way) + 0.4) for n in range(len(way) + 1)]
    xs = [min(x, right) for x in xs]
    shapes: list[Shape] = []
    for x, name in zip(xs, [*(v.name for v in way), "now"], strict=True):
        shapes.append(kit.figures(x, kit.px(9), name, "small", "mute", bold=True, anchor="middle"))
    regions: list[Region] = []
    for n, measure in enumerate(assessment.measures):
        y = kit.px(TOP) + kit.px(ROW_H) * n
        found = _row(measure, way, xs, kit, y)
        shapes += found[0]
        regions.append(Region(f"trend {measure.id}", 0, y, width, kit.px(ROW_H), found[1], of=measure.id))
    return Picture(width, kit.px(TOP) + kit.px(ROW_H) * len(assessment.measures), tuple(shapes), tuple(regions))


class _Places(Struct, frozen=True):
    """Where uses of a limit are in a row: from the least to the greatest that there is, the limit among them."""

    base: float
    tall: float
    low: float
    high: float

    @classmethod
    def of(cls, stands: list[Stand | None], base: float, tall: float) -> "_Places":
        uses = [min(max(s.use, 0.0), MOST_USE) for s in stands if s is not None and s.use is not None] + [1.0]
        low, high = min(uses), max(uses)
        return cls(base, tall, min(low, high - LEAST_SPAN), high)

    def y(self, use: float) -> float:
        return self.base - self.tall * (min(max(use, self.low), self.high) - self.low) / (self.high - self.low)


def _row(measure: Measure, way: list[Version], xs: list[float], kit: Kit, y: float) -> tuple[list[Shape], str]:
    stands = [stand_of(next((x for x in v.landed if x.measure == measure.id), None), measure) for v in way]
    stands.append(Stand(measure.shown, measure.use, measure.verdict.value))
    places = _Places.of(stands, y + kit.px(ROW_H - 6), kit.px(ROW_H - 24))
    shapes: list[Shape] = [
        kit.words(0, y + kit.px(13), kit.cut(measure.label, kit.px(NAMES - 40), "small"), "small"),
        kit.words(0, y + kit.px(28), kit.cut(f"{measure.direction} {measure.limit_shown}", kit.px(NAMES - 40), "tiny"),
                  "tiny", "mute"),
        Line(xs[0], places.y(1.0), xs[-1] + kit.px(14), places.y(1.0), "mute", 1.0, (2.0, 3.0)),
    ]  # fmt: skip
    points = [(x, places.y(s.use)) if s is not None and s.use is not None else None
              for x, s in zip(xs, stands, strict=True)]  # fmt: skip
    known = tuple(p for p in points if p is not None)
    if len(known) > 1:
        shapes.append(Poly(known, "mute", width=1.4))
    said = []
    for n, (x, stand) in enumerate(zip(xs, stands, strict=True)):
        if stand is None:
            continue
        ink, at = Verdict(stand.verdict).value, points[n]
        if at is not None:
            shapes.append(Ring(at[0], at[1], kit.px(3.4), ink, 1.6, (), ink))
        shapes.append(kit.figures(x, y + kit.px(7), stand.shown, "tiny", f"{ink}_text", bold=True, anchor="middle"))
        said.append(f"{way[n].name if n < len(way) else 'now'} {stand.shown} {stand.verdict}")
    return shapes, f"{measure.label}: {', '.join(said)}"
