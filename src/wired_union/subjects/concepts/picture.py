"""Concepts side by side: where each lands on shared wires, what no formula knows, and how sure the order is."""

from collections.abc import Mapping, Sequence

from msgspec import Struct

from wired_union.kernel.results import Measure, Verdict
from wired_union.kernel.subject import Assessment
from wired_union.picture.palette import CONCEPT_INKS
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Ring, Shape, Text
from wired_union.picture.wire import POST, limit_words, place
from wired_union.project.model import Concept, Criterion, Project
from wired_union.subjects.concepts.weighing import Overturn, Weighing
from wired_union.units import show

BADGE_R = 7.5
ROW_H = 37.0
LANES = 9
"""Letters above each other on one wire; more share a lane."""


def concept_ink(project: Project, concept_id: str) -> str:
    """The colour role a concept wears."""
    ids = [c.id for c in project.concepts]
    return CONCEPT_INKS[ids.index(concept_id) % len(CONCEPT_INKS)]


def badge(kit: Kit, x: float, y: float, concept: Concept, ink: str, *, chosen: bool = False) -> tuple[Shape, ...]:
    """A concept's letter in a disc; a retired one is a dashed ring."""
    r = kit.px(BADGE_R)
    retired = concept.retired is not None
    disc = Ring(x, y, r, "unknown" if retired else ink, 1.4, (2.5, 2.0) if retired else (), "card" if retired else ink)
    letter = Text(x, y, concept.letter, "mute" if retired else "card", kit.size("tiny"), "figures", True, "middle")
    halo = (Ring(x, y, r + 2.5, "ink", 1.2, ()),) if chosen else ()
    return (*halo, disc, letter)


class _Mark(Struct, frozen=True):
    concept: Concept
    measure: Measure
    x: float


def landing_picture(
    project: Project, assessments: Mapping[str, Assessment], kit: Kit, width: float, *, chosen: str = ""
) -> Picture:
    """Every limit as one wire that all concepts share, each concept's letter where it lands."""
    limits = [m for m in assessments[project.concept.id].measures if _informed(m.id, assessments)]
    row, name_w = kit.px(ROW_H), kit.px(112)
    left = name_w + kit.px(96)
    room = width - left - kit.px(10)
    post, far = left + POST * room, left + room
    bottom = float(kit.px(4))
    shapes: list[Shape] = []
    regions: list[Region] = []
    for limit in limits:
        marks = [
            _Mark(c, m, left + place(m.use, room))
            for c in project.concepts
            if (m := assessments[c.id].measure(limit.id)).use is not None
        ]
        spread = _spread(marks, kit.px(BADGE_R))
        up, down = max((-dy for _, dy in spread), default=0.0), max((dy for _, dy in spread), default=0.0)
        y, bottom = bottom + row / 2 + up, bottom + row + up + down
        shapes += [
            kit.words(0, y, kit.cut(limit.label, name_w - 4, "small", bold=True), "small", bold=True),
            kit.figures(left - kit.px(12), y, kit.cut(_wanted(limit), kit.px(84), "small", "figures"), "small", "mute",
                        anchor="end"),
            Line(left, y, post, y, "line", 1.4),
            Box(post, y - row * 0.36 - up, far - post, row * 0.72 + up + down, "breaks_soft"),
            Line(post, y - row * 0.36 - up, post, y + row * 0.36 + down, "ink", 2.0),
        ]  # fmt: skip
        for mark, dy in spread:
            ink, at = concept_ink(project, mark.concept.id), y + dy
            shapes += badge(kit, mark.x, at, mark.concept, ink, chosen=mark.concept.id == chosen)
            regions.append(_region(kit, mark, at))
    shapes.append(kit.figures(post + kit.px(8), bottom + kit.px(9), "breaks", "small", "breaks_text", bold=True))
    shapes.append(kit.figures(left, bottom + kit.px(9), "0", "small", "mute"))
    shapes.append(kit.figures(post - kit.px(6), bottom + kit.px(9), "the limit", "small", "mute", anchor="end"))
    return Picture(width, bottom + kit.px(20), tuple(shapes), tuple(regions))


def _informed(measure_id: str, assessments: Mapping[str, Assessment]) -> bool:
    return any(a.measure(measure_id).value is not None for a in assessments.values())


def _wanted(measure: Measure) -> str:
    return limit_words(measure).removesuffix(" wanted") if measure.direction == "at most" else (
        f"over {measure.limit_shown}"
    )  # fmt: skip


def _spread(marks: list[_Mark], r: float) -> list[tuple[_Mark, float]]:
    """Marks with how far each is lifted so that none hides another: up and down in turn where they crowd."""
    found: list[tuple[_Mark, float]] = []
    lanes = [0.0, *(way * step * (2 * r + 5) for step in range(1, LANES // 2 + 1) for way in (-1, 1))]
    for mark in sorted(marks, key=lambda m: m.x):
        taken = [dy for other, dy in found if abs(other.x - mark.x) < 2 * r + 5]
        found.append((mark, min(lanes, key=lambda lane: (taken.count(lane), abs(lane)))))
    return found


def _region(kit: Kit, mark: _Mark, y: float) -> Region:
    r = kit.px(BADGE_R) + 2
    said = f"{mark.concept.letter} {mark.concept.name}: {mark.measure.label} {mark.measure.shown}"
    retired = ", retired" if mark.concept.retired is not None else ""
    label = f"{said} {limit_words(mark.measure)}, {mark.measure.verdict.value}{retired}"
    return Region(f"{mark.concept.id}/{mark.measure.id}", mark.x - r, y - r, 2 * r, 2 * r, label, of=mark.concept.id)


def legend_picture(project: Project, kit: Kit, width: float, *, chosen: str = "") -> Picture:
    """The concepts by letter and name, in a row that wraps."""
    x, y, row = 0.0, kit.px(11), kit.px(23)
    shapes: list[Shape] = []
    regions: list[Region] = []
    for concept in project.concepts:
        retired = concept.retired is not None
        text = concept.name + (f", retired {concept.retired.when}".rstrip() if concept.retired is not None else "")
        bold = concept.id == chosen
        wide = kit.px(22) + kit.width(text, "small", "words", bold) + kit.px(18)
        if x + wide > width and x > 0:
            x, y = 0.0, y + row
        shapes += badge(kit, x + kit.px(10), y, concept, concept_ink(project, concept.id), chosen=bold)
        ink = "mute" if retired else "ink"
        shapes.append(kit.words(x + kit.px(24), y, kit.cut(text, width - x - kit.px(26), "small", bold=bold), "small",
                                ink, bold=bold))  # fmt: skip
        regions.append(Region(concept.id, x, y - row / 2, wide - kit.px(8), row, f"concept {concept.letter} {text}"))
        x += wide
    return Picture(width, y + row * 0.55, tuple(shapes), tuple(regions))


def difference_picture(rows: Sequence[tuple[str, str]], kit: Kit, width: float) -> Picture:
    """What one concept does otherwise: subsystem or room at the left, words at the right."""
    label_w, line = kit.px(62), kit.px(17)
    shapes: list[Shape] = []
    y, last = kit.px(9), ""
    for room, words in rows:
        if room != last:
            shapes.append(kit.words(0, y, kit.cut(room, label_w - 6, "small", bold=True), "small", "link", bold=True))
        last = room
        for part in kit.wrap(words, width - label_w, "small"):
            shapes.append(kit.words(label_w, y, part, "small"))
            y += line
        y += kit.px(4)
    return Picture(width, y, tuple(shapes))


def decision_picture(project: Project, weighing: Weighing, kit: Kit, width: float, *, chosen: str = "") -> Picture:
    """Each criterion with its share of the weight and every living concept's score from 0 to 10."""
    row = kit.px(29)
    left = width * 0.53
    right = width - kit.px(12)
    shapes: list[Shape] = []
    regions: list[Region] = []
    for i, c in enumerate(project.decision.criteria):
        y = row * (i + 0.5)
        if c.id == chosen:
            shapes.append(Box(-4, y - row / 2 + 1, width + 8, row - 2, "soft", radius=4))
        share = "must" if c.must_have else show(weighing.shares.get(c.id, 0.0), fraction=True)
        lines = kit.few_lines(c.name, left - kit.px(54), 2, "small")
        for n, text in enumerate(lines):
            at = y + (n - (len(lines) - 1) / 2) * kit.px(13)
            shapes.append(kit.words(0, at, text, "small"))
        shapes += [
            kit.figures(left - kit.px(14), y, share, "small", "mute", anchor="end"),
        ]
        said = []
        if c.must_have:
            shapes += _must_marks(project, c, kit, left, y)
            said = [f"{k.letter} {_yes_no(c, k)}" for k in project.living]
        else:
            shapes.append(Line(left, y, right, y, "line", 1.4))
            for k in project.living:
                score = c.score(k.id)
                said.append(f"{k.letter} {'not scored' if score is None else f'{score.value:g}'}")
                if score is not None:
                    x = left + (right - left) * score.value / 10
                    shapes += badge(kit, x, y, k, concept_ink(project, k.id))
        regions.append(Region(c.id, 0, y - row / 2, width, row, f"{c.name}, {share}: {', '.join(said)}"))
    return Picture(width, max(row * len(project.decision.criteria), 1.0), tuple(shapes), tuple(regions))


def _yes_no(criterion: Criterion, concept: Concept) -> str:
    score = criterion.score(concept.id)
    return "not said" if score is None else "yes" if score.value >= 5 else "no"


def _must_marks(project: Project, criterion: Criterion, kit: Kit, x: float, y: float) -> list[Shape]:
    shapes: list[Shape] = []
    for concept in project.living:
        word = _yes_no(criterion, concept)
        ink = {"yes": "holds_text", "no": "breaks_text"}.get(word, "mute")
        shapes += badge(kit, x + kit.px(9), y, concept, concept_ink(project, concept.id))
        shapes.append(kit.figures(x + kit.px(21), y, word, "small", ink, bold=True))
        x += kit.px(30) + kit.width(word, "small", "figures", True) + kit.px(8)
    return shapes


def sureness_picture(
    project: Project, first: Concept, overturns: Sequence[Overturn], kit: Kit, width: float
) -> Picture:
    """One criterion's weight from none to all: who comes first for which share, and where the weight is now."""
    h, y = kit.px(20), kit.px(4)
    now = overturns[0].share_now
    below = next((o for o in overturns if o.share_then < now), None)
    above = next((o for o in overturns if o.share_then >= now), None)
    edges = [
        (0.0, below.share_then if below else 0.0, below.first_then if below else None),
        (below.share_then if below else 0.0, above.share_then if above else 1.0, first),
        (above.share_then if above else 1.0, 1.0, above.first_then if above else None),
    ]
    shapes: list[Shape] = []
    for start, end, concept in edges:
        if concept is None or end <= start:
            continue
        x, wide = start * width, (end - start) * width
        shapes.append(Box(x, y, wide, h, concept_ink(project, concept.id)))
        text = f"{concept.letter} first"
        if kit.width(text, "small", "figures", True) + 12 < wide:
            shapes.append(kit.figures(x + kit.px(7), y + h / 2, text, "small", "card", bold=True))
    shapes.append(Line(now * width, y - 3, now * width, y + h + 4, "tight", 3.0))
    shapes.append(Line(now * width, y - 3, now * width, y + h + 4, "ink", 1.2))
    foot = y + h + kit.px(12)
    shapes += [
        kit.figures(0, foot, "0 %", "small", "mute"),
        kit.figures(width, foot, "100 %", "small", "mute", anchor="end"),
        kit.figures(min(max(now * width, kit.px(44)), width - kit.px(60)), foot,
                    f"now {show(now, fraction=True)}", "small", "ink", bold=True, anchor="middle"),
    ]  # fmt: skip
    return Picture(width, foot + kit.px(9), tuple(shapes))


def sureness_words(weighing: Weighing, first: Concept) -> str:
    """Which single weights would overturn the order, in one or two sentences."""
    if not weighing.overturns:
        return f"No single weight, moved from none to all, puts another concept before {first.letter}."
    said = []
    for o in weighing.overturns:
        side = "above" if o.share_then >= o.share_now else "below"
        said.append(
            f"“{o.criterion.name}” now weighs {show(o.share_now, fraction=True)};"
            f" {o.first_then.letter} would come first {side} {show(o.share_then, fraction=True)}."
        )
    count = {o.criterion.id for o in weighing.overturns}
    rest = "" if len(count) == len(weighing.shares) else " No other single weight overturns it."
    return " ".join(said) + rest


def verdict_words(measures: Sequence[Measure]) -> str:
    """A concept's limits in a line: what breaks, what is tight."""
    parts = []
    for verdict in (Verdict.BREAKS, Verdict.TIGHT, Verdict.UNKNOWN):
        names = [m.label.lower() for m in measures if m.verdict is verdict]
        if names:
            parts.append(f"{verdict.value}: {', '.join(names)}")
    return "; ".join(parts) or "every limit holds"
