"""A limit of the brief as a row: what is wanted, the wire, the figure, the verdict, how it will be proved."""

from wired_union.kernel.results import Measure, Verdict
from wired_union.picture.shapes import Box, Kit, Picture, Shape, shifted
from wired_union.picture.wire import POST, wire_of
from wired_union.project.model import Limit

ROW_H, NARROW_H, NARROW_W = 48.0, 84.0, 640.0
"""Heights of a row, and the width below which it takes three lines instead of two, so that nothing is cut."""


def brief_row(
    limit: Limit, measure: Measure, kit: Kit, width: float, *, selected: bool = False, ring: float | None = None
) -> Picture:
    """One limit. `ring` is the use that a pending edit would lead to."""
    if width < kit.px(NARROW_W):
        return _narrow_row(limit, measure, kit, width, selected, ring)
    h = kit.px(ROW_H)
    left, mid, far = kit.px(14), width * 0.23, width * 0.66
    wire_w = (far - mid - kit.px(10)) / 1.0
    verdict = measure.verdict
    tone = f"{verdict.value}_text"
    shapes: list[Shape] = [Box(2, 1, width - 4, h - 2, "soft", radius=4)] if selected else []
    shapes += [
        kit.words(left, h * 0.33, kit.cut(limit.name, mid - left - 8, "base", bold=True), "base", bold=True),
        kit.words(left, h * 0.70, kit.cut(measure.label.lower(), mid - left - 8, "small"), "small", "mute"),
    ]
    shapes += shifted(wire_of(measure, wire_w, h * 0.36, ring=ring), mid, 0)
    shapes.append(
        kit.figures(mid + POST * wire_w, h * 0.78, f"{limit.direction} {measure.limit_shown}", "small", "mute",
                    anchor="middle")
    )  # fmt: skip
    figure = _figure(measure)
    ink = tone if verdict in {Verdict.BREAKS, Verdict.TIGHT} else "mute" if measure.value is None else "ink"
    at = far + (width - far) * 0.26
    shapes += [
        kit.figures(at, h * 0.36, figure, "heading", ink, bold=True, anchor="end"),
        kit.figures(at + kit.px(10), h * 0.36, verdict.value, "small", tone, bold=True),
    ]
    x = max(far + (width - far) * 0.50, at + kit.px(20) + kit.width("unknown", "small", "figures", True))
    room = width - x - kit.px(10)
    proof, how = limit.proof or "no proof yet", _how(measure)
    shapes += [
        kit.words(x, h * 0.33, kit.cut(proof, room, "small"), "small", "ink" if limit.proof else "mute"),
        kit.words(x, h * 0.70, kit.cut(how, room, "small"), "small", "mute"),
    ]
    return Picture(width, h, tuple(shapes))


def _how(measure: Measure) -> str:
    """Where the figure comes from, or that there is none."""
    if not measure.missing:
        return measure.measured or "computed"
    return measure.missing[0] if measure.value is None and len(measure.missing) == 1 else "missing a figure"


def _figure(measure: Measure) -> str:
    return "no figure" if measure.value is None else measure.shown


def _narrow_row(limit: Limit, measure: Measure, kit: Kit, width: float, selected: bool, ring: float | None) -> Picture:
    """The same where there is little room: name and figure, the wire, then what it is and how it is proved."""
    h, left, right = kit.px(NARROW_H), kit.px(14), width - kit.px(14)
    verdict = measure.verdict
    tone = f"{verdict.value}_text"
    word_w = kit.width("unknown", "small", "figures", True)
    figure = _figure(measure)
    room = right - left - word_w - kit.width(figure, "heading", "figures", True) - kit.px(24)
    ink = tone if verdict in {Verdict.BREAKS, Verdict.TIGHT} else "mute" if measure.value is None else "ink"
    shapes: list[Shape] = [Box(2, 1, width - 4, h - 2, "soft", radius=4)] if selected else []
    shapes += [
        kit.words(left, h * 0.19, kit.cut(limit.name, room, "base", bold=True), "base", bold=True),
        kit.figures(right - word_w - kit.px(10), h * 0.19, figure, "heading", ink, bold=True, anchor="end"),
        kit.figures(right, h * 0.19, verdict.value, "small", tone, bold=True, anchor="end"),
    ]
    asked = f"{limit.direction} {measure.limit_shown}"
    wire_w = right - left - kit.width(asked, "small", "figures") - kit.px(10)
    shapes += shifted(wire_of(measure, wire_w, h * 0.47, ring=ring), left, 0)
    shapes.append(kit.figures(right, h * 0.47, asked, "small", "mute", anchor="end"))
    said = f"{measure.label.lower()} · {limit.proof or 'no proof yet'} · {_how(measure)}"
    lines = kit.few_lines(said, right - left, 2, "small")
    for n, line in enumerate(lines):
        y = h * (0.78 if len(lines) == 1 else 0.70 + 0.18 * n)
        shapes.append(kit.words(left, y, line, "small", "mute"))
    return Picture(width, h, tuple(shapes))
