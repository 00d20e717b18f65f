"""The margin strip laid out: which limits keep their name, and which gather in a bundle of thin wires."""

from collections.abc import Mapping, Sequence

from msgspec import Struct

from wired_union.kernel.results import Measure, Verdict, worst
from wired_union.picture.shapes import Kit, Line, Picture, Shape, shifted
from wired_union.picture.wire import POST, limit_words, place, wire_of

LEAST_W, BUNDLE_W, HIGH, THIN = 128.0, 118.0, 76.0, 4.5
MOST_THIN = 8
"""Thin wires that are drawn; the count says how many there are."""


class Arrangement(Struct, frozen=True):
    """Limits that are shown by name, in the brief's order, and those in the bundle; widths in px."""

    shown: tuple[Measure, ...]
    bundled: tuple[Measure, ...]
    cell_w: float
    bundle_w: float


def arrange(measures: Sequence[Measure], kit: Kit, room: float) -> Arrangement:
    """What breaks, is tight or unknown keeps its place and name; where there is no room for all, what holds gathers."""
    if not measures:
        return Arrangement((), (), 0.0, 0.0)
    least = max(cell_least(m, kit) for m in measures)
    if least * len(measures) <= room:
        return Arrangement(tuple(measures), (), room / len(measures), 0.0)
    gathers = [m for m in measures if m.verdict is Verdict.HOLDS or m.value is None]
    bundle = max(kit.px(BUNDLE_W), kit.width(_count(gathers), "small", bold=True) + kit.px(30))
    places = max(int((room - bundle) // least), 1)
    named = [m for m in measures if m.verdict is not Verdict.HOLDS]
    if len(named) > places:  # what nothing informs yet gives way before anything scrolls out of sight
        named = [m for m in named if m.value is not None]
    holds = [m for m in measures if m.verdict is Verdict.HOLDS]
    kept = {m.id for m in (*named, *holds[: max(places - len(named), 0)])}
    shown = tuple(m for m in measures if m.id in kept)
    bundled = tuple(m for m in measures if m.id not in kept)
    if not bundled:
        return Arrangement(shown, (), max(room / len(shown), least), 0.0)
    width = max((room - bundle) / max(len(shown), 1), least) if shown else 0.0
    return Arrangement(shown, bundled, width, max(bundle, room - width * len(shown)))


def cell_least(measure: Measure, kit: Kit) -> float:
    """Width in which nothing of a limit is cut: its name on two lines, its figure, its limit, its verdict."""
    figure = kit.width(_figure(measure), "base", "figures", True)
    words = measure.label.split()
    breaks: list[tuple[str, ...]] = [(" ".join(words[:n]), " ".join(words[n:])) for n in range(1, len(words))]
    name = min(max(kit.width(line, "small", bold=True) for line in lines) for lines in breaks or [(measure.label,)])
    foot = kit.width(limit_words(measure), "small", "figures") + kit.width("unknown", "small", "figures", True)
    return max(kit.px(LEAST_W), name + figure + kit.px(38), foot + kit.px(38))


def _figure(measure: Measure) -> str:
    return "" if measure.value is None else measure.shown


def strip_cell(measure: Measure, kit: Kit, width: float, height: float, ring: Measure | None = None) -> Picture:
    """One limit on the strip: name, figure, wire, limit and verdict; a ring where a pending edit leads."""
    left, right = kit.px(14), width - kit.px(12)
    verdict = measure.verdict
    tone = f"{verdict.value}_text"
    figure = _figure(measure)
    figure_ink = tone if verdict in {Verdict.BREAKS, Verdict.TIGHT} else "ink"
    room = right - left - kit.width(figure, "base", "figures", True) - kit.px(8)
    lines = kit.wrap(measure.label, room, "small", bold=True)
    two = len(lines) > 1
    names = [lines[0], kit.cut(" ".join(lines[1:]), room, "small", bold=True)] if two else [lines[0]]
    tops = (height * 0.15, height * 0.34) if two else (height * 0.21,)
    said = ring.verdict.value if ring is not None and ring.verdict is not verdict else ""
    word = f"then {said}" if said else verdict.value
    word_ink = f"{said}_text" if said else tone
    shapes: list[Shape] = [
        kit.words(left, y, kit.cut(name, room, "small", bold=True), "small", bold=True)
        for y, name in zip(tops, names, strict=True)
    ]
    shapes.append(kit.figures(right, height * 0.21, figure, "base", figure_ink, bold=True, anchor="end"))
    ring_use = None if ring is None or ring.use is None else ring.use
    y_wire = height * (0.57 if two else 0.5)
    shapes += shifted(wire_of(measure, right - left, y_wire, ring=ring_use), left, 0)
    rest = right - left - kit.width(word, "small", "figures", True) - 8
    limit = kit.cut(limit_words(measure), rest, "small", "figures")
    shapes += [
        kit.figures(left, height * 0.82, limit, "small", "mute"),
        kit.figures(right, height * 0.82, word, "small", word_ink, bold=True, anchor="end"),
    ]
    return Picture(width, height, tuple(shapes))


def _count(measures: Sequence[Measure]) -> str:
    """How many of some limits hold, and how many are unknown."""
    known = sum(m.verdict is Verdict.HOLDS for m in measures)
    holds = f"{known} hold" if known != 1 else "1 holds"
    if known == len(measures):
        return holds
    return f"{holds}, {len(measures) - known} unknown" if known else f"{len(measures)} unknown"


def bundle_cell(
    measures: Sequence[Measure], kit: Kit, width: float, height: float, rings: Mapping[str, Measure], *, opened: bool
) -> Picture:
    """What holds, as a bundle of thin wires with a count; what a pending edit would turn is said."""
    left, right = kit.px(14), width - kit.px(12)
    turned = [r for m in measures if (r := rings.get(m.id)) is not None and r.verdict is not m.verdict]
    bad = worst([r.verdict for r in turned])
    count = _count(measures)
    word = f"then {len(turned)} {bad.value}" if bad is not None else "close" if opened else "open"
    if bad is None and kit.width(count + word, "small", bold=True) > right - left - kit.px(8):
        word = ""  # the count matters more
    ink = f"{bad.value}_text" if bad is not None else "link"
    shapes: list[Shape] = [
        kit.words(left, height * 0.21, count, "small", "holds_text", bold=True),
        kit.figures(right, height * 0.21, word, "small", ink, bold=True, anchor="end"),
    ]
    across, top = right - left, height * 0.36
    step = min(kit.px(THIN), height * 0.56 / max(min(len(measures), MOST_THIN), 1))
    for n, measure in enumerate(measures[:MOST_THIN]):
        y = top + step * n
        unknown = measure.verdict is Verdict.UNKNOWN
        end = left + (POST * across if unknown else place(measure.use, across))
        shapes.append(Line(left, y, end, y, measure.verdict.value, 1.6, (1.0, 3.0) if unknown else ()))
    high = top + step * (min(len(measures), MOST_THIN) - 1)
    shapes.append(Line(left + POST * across, top - 4, left + POST * across, high + 4, "ink", 1.6))
    return Picture(width, height, tuple(shapes))
