"""Where the project came from: a rope for each concept, a knot for each version, to today."""

from collections.abc import Iterable
from datetime import date

from msgspec import Struct

from wired_union.picture.palette import CONCEPT_INKS
from wired_union.picture.shapes import Kit, Line, Picture, Poly, Region, Ribbon, Ring, Shape, hint_picture, kept_inside
from wired_union.project.dates import as_day, shown_day
from wired_union.project.model import Concept, Project
from wired_union.project.notebook_model import Version
from wired_union.subjects.notebook.pick import NOW

TOP, ROPE_H, AXIS_H, LEFT, RIGHT = 22.0, 46.0, 20.0, 34.0, 44.0
LEAST_GAP = 62.0
"""Between two knots of one rope: their names need room."""
BEND = 40.0
"""How far before its first knot a rope leaves the one that it came from."""
HINT = "No version yet. Tie a knot: the whole project is kept as it is, to compare with, and to bring parts back from."


class Knot(Struct, frozen=True):
    """A version, or the present, at its place."""

    id: str
    x: float
    y: float
    version: Version | None


class Rope(Struct, frozen=True):
    """The versions of one concept, in their order."""

    concept: Concept | None
    letter: str
    ink: str
    y: float
    knots: tuple[Knot, ...]
    starts: tuple[float, float]
    """where it leaves the rope that it came from, or where it begins"""
    over: str = ""
    """why it was given up"""


def ropes_picture(project: Project, today: str, kit: Kit, width: float, picked: Iterable[str]) -> Picture:
    """The ropes; a hint where nothing has been tied."""
    ropes = ropes_of(project, today, kit, width)
    if not project.versions and len(ropes) < 2:
        return hint_picture(HINT, kit, width)
    chosen, shapes, regions = set(picked), list[Shape](), list[Region]()
    bottom = kit.px(TOP) + kit.px(ROPE_H) * len(ropes)
    shapes += _days(project, today, kit, width, bottom)
    for rope in ropes:
        shapes += _line(rope, kit)
    for rope in ropes:
        found = _knots(rope, kit, width, chosen)
        shapes += found[0]
        regions += found[1]
    return Picture(width, bottom + kit.px(AXIS_H), kept_inside(shapes, kit, width), tuple(regions))


def ropes_of(project: Project, today: str, kit: Kit, width: float) -> list[Rope]:
    """Every concept's rope with the places of its knots, the one at work first."""
    letters = list(dict.fromkeys([*(c.letter for c in project.concepts), *(v.concept for v in project.versions)]))
    scale = _Scale(*_span(project, today), kit.px(LEFT), width - kit.px(RIGHT))
    lanes = {letter: kit.px(TOP) + kit.px(ROPE_H) * (n + 0.4) for n, letter in enumerate(letters)}
    by_letter = {c.letter: c for c in project.concepts}
    xs = {letter: _places(project, letter, scale, kit) for letter in letters}
    placed = {v.id: (x, lanes[v.concept]) for letter in letters for v, x in xs[letter]}
    return [
        _rope(project, by_letter.get(letter), letter, CONCEPT_INKS[n % len(CONCEPT_INKS)], scale, kit,
              _Placed(lanes, placed, xs[letter]))
        for n, letter in enumerate(letters)
    ]  # fmt: skip


class _Placed(Struct, frozen=True):
    """Where things are before ropes are drawn: heights by letter, versions by id, and this rope's versions."""

    lanes: dict[str, float]
    versions: dict[str, tuple[float, float]]
    own: list[tuple[Version, float]]


class _Scale(Struct, frozen=True):
    first: date
    last: date
    left: float
    right: float

    def x(self, text: str) -> float:
        """Where a day is; the first for what is none."""
        day = as_day(text) or self.first
        share = (day - self.first).days / max((self.last - self.first).days, 1)
        return self.left + (self.right - self.left) * min(max(share, 0.0), 1.0)


def _span(project: Project, today: str) -> tuple[date, date]:
    """The first day that anything is known of, and today."""
    texts = [today, *(v.on for v in project.versions), *(e.when for e in project.notebook[:1]),
             *(c.copied_on for c in project.concepts)]  # fmt: skip
    days = [d for d in map(as_day, texts) if d is not None] or [date(2000, 1, 1)]
    return min(days), max(days)


def _places(project: Project, letter: str, scale: _Scale, kit: Kit) -> list[tuple[Version, float]]:
    """A rope's versions, each at its day, apart enough to be read."""
    mine = [v for v in project.versions if v.concept == letter]
    xs = _apart([scale.x(v.on) for v in mine], kit.px(LEAST_GAP), scale.right)
    return list(zip(mine, xs, strict=True))


def _rope(
    project: Project, concept: Concept | None, letter: str, ink: str, scale: _Scale, kit: Kit, at: _Placed
) -> Rope:  # fmt: skip
    y = at.lanes[letter]
    knots = [Knot(v.id, x, y, v) for v, x in at.own]
    retired = concept.retired if concept is not None else None
    over = retired.why if retired is not None else "" if concept is not None else "taken away"
    starts = _starts(concept, knots, scale, kit, at, y)
    if not over:
        knots.append(Knot(NOW if concept is project.concept else f"{NOW} {letter}", scale.right, y, None))
    else:
        least = (knots[-1].x if knots else starts[0]) + kit.px(BEND)
        end = scale.x(retired.when) if retired is not None and retired.when else least
        knots.append(Knot(f"end {letter}", min(max(end, least), scale.right), y, None))
    return Rope(concept, letter, ink, y, tuple(knots), starts, over)


def _starts(
    concept: Concept | None, knots: list[Knot], scale: _Scale, kit: Kit, at: _Placed, y: float
) -> tuple[float, float]:  # fmt: skip
    """Where a rope leaves the one that it came from; where it begins, where it came from none."""
    first = knots[0].x if knots else scale.right
    parent = at.versions.get(knots[0].version.parent) if knots and knots[0].version is not None else None
    if parent is not None and parent[1] != y:
        return parent
    source = concept.copied_from[:2].upper() if concept is not None else ""
    if concept is not None and source in at.lanes:
        on = scale.x(concept.copied_on) if concept.copied_on else first - kit.px(2 * BEND)
        return (max(min(on, first - kit.px(BEND)), scale.left), at.lanes[source])
    return (min(scale.left, first), y)


def _apart(xs: list[float], gap: float, most: float) -> list[float]:
    """Places in their order, each so far from the one before; pushed back where they would leave the picture."""
    out: list[float] = []
    for x in xs:
        out.append(max(x, out[-1] + gap) if out else x)
    over = most - gap
    for n in range(len(out) - 1, -1, -1):
        out[n] = min(out[n], over)
        over = out[n] - min(gap, (most - gap) / max(len(out), 1))
    return out


def _line(rope: Rope, kit: Kit) -> list[Shape]:
    dash = (5.0, 4.0) if rope.over else ()
    ink, thick = ("unknown", 1.8) if rope.over else (rope.ink, 2.4)
    x, y = rope.starts
    end = max((k.x for k in rope.knots), default=x)
    if y == rope.y:
        return [Line(x, y, end, y, ink, thick, dash)]
    bend = min(x + kit.px(BEND), end)
    drawn: list[Shape] = [Line(bend, rope.y, end, rope.y, ink, thick, dash)]
    if dash:
        steps = [n / 12 for n in range(13)]
        curve = tuple((x + (bend - x) * t, y + (rope.y - y) * (3 * t * t - 2 * t**3)) for t in steps)
        return [Poly(curve, ink, width=thick, dash=dash), *drawn]
    return [Ribbon(x, y, bend, rope.y, thick, ink), *drawn]


def _knots(rope: Rope, kit: Kit, width: float, chosen: set[str]) -> tuple[list[Shape], list[Region]]:
    shapes: list[Shape] = []
    regions: list[Region] = []
    r = kit.px(6)
    for n, knot in enumerate(rope.knots):
        room = (rope.knots[n + 1].x if n + 1 < len(rope.knots) else width) - knot.x
        version, given_up = knot.version, knot.version is not None and bool(knot.version.dropped)
        ended = knot.version is None and bool(rope.over)
        ink = "unknown" if given_up or ended else rope.ink
        fill = rope.ink if knot.id in chosen else "card"
        shapes.append(Ring(knot.x, knot.y, r, ink, 2.2, (), fill))
        if given_up or ended:
            shapes.append(Line(knot.x - r * 0.7, knot.y + r * 0.7, knot.x + r * 0.7, knot.y - r * 0.7, ink, 1.8))
        shapes += _words(rope, knot, kit, room)
        regions.append(Region(f"knot {knot.id}", knot.x - 2 * r, knot.y - 2 * r, 4 * r, 4 * r,
                              _label(rope, version), of=knot.id))  # fmt: skip
    return shapes, regions


def _words(rope: Rope, knot: Knot, kit: Kit, room: float) -> list[Shape]:
    """The name and what it is above; at the end of a rope that was given up, why."""
    version = knot.version
    if version is None and rope.over:
        why = kit.cut(f"{_called(rope)}, given up: {rope.over}", max(room - kit.px(16), kit.px(60)), "small")
        return [kit.words(knot.x + kit.px(14), knot.y, why, "small", "mute")]
    if version is None:
        return [kit.figures(knot.x, knot.y - kit.px(17), "now" if knot.id == NOW else f"{rope.letter} now", "small",
                            rope.ink, bold=True, anchor="middle")]  # fmt: skip
    about = f"given up: {version.dropped}" if version.dropped else version.about
    ink, y = "mute" if version.dropped else rope.ink, knot.y - kit.px(16)
    left = knot.x - kit.px(8)
    wide = kit.width(version.name, "base", "figures", bold=True) + kit.px(7)
    return [
        kit.figures(left, y, version.name, "base", ink, bold=True),
        kit.words(left + wide, y, kit.cut(about, max(room - wide, 0.0), "tiny"), "tiny", "mute"),
    ]


def _called(rope: Rope) -> str:
    return f"{rope.letter} {rope.concept.name}" if rope.concept is not None else rope.letter


def _label(rope: Rope, version: Version | None) -> str:
    if version is None:
        return f"{_called(rope)}, given up: {rope.over}" if rope.over else f"{_called(rope)} as it is now"
    by = f" by {version.by}" if version.by else ""
    what = f": {version.about}" if version.about else ""
    over = f". Given up on {version.dropped_on}: {version.dropped}" if version.dropped else ""
    return f"{version.name}, {version.on}{by}{what}{over}"


def _days(project: Project, today: str, kit: Kit, width: float, bottom: float) -> list[Shape]:
    """A few days under the ropes."""
    scale = _Scale(*_span(project, today), kit.px(LEFT), width - kit.px(RIGHT))
    days = (scale.last - scale.first).days
    step = max(round(days / max((scale.right - scale.left) / kit.px(90), 1)), 1)
    found: list[Shape] = []
    month = None
    for n in range(0, days + 1, step):
        day = date.fromordinal(scale.first.toordinal() + n)
        words = shown_day(day) if day.month != month else str(day.day)
        month = day.month
        found.append(kit.figures(scale.x(day.isoformat()), bottom + kit.px(8), words, "tiny", "mute", anchor="middle"))
    return found
