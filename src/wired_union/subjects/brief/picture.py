"""A limit of the brief as a row: what is wanted, the wire, the figure, the verdict, how it will be proved."""

from wired_union.kernel.results import Measure, Verdict
from wired_union.picture.shapes import Box, Kit, Picture, Shape, shifted
from wired_union.picture.wire import POST, wire_of
from wired_union.project.model import Limit

ROW_H = 48.0


def brief_row(
    limit: Limit, measure: Measure, kit: Kit, width: float, *, selected: bool = False, ring: float | None = None
) -> Picture:
    """One limit. `ring` is the use that a pending edit would lead to."""
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
    figure = "no figure" if measure.value is None else measure.shown
    ink = tone if verdict in {Verdict.BREAKS, Verdict.TIGHT} else "mute" if measure.value is None else "ink"
    at = far + (width - far) * 0.26
    shapes += [
        kit.figures(at, h * 0.36, figure, "heading", ink, bold=True, anchor="end"),
        kit.figures(at + kit.px(10), h * 0.36, verdict.value, "small", tone, bold=True),
    ]
    x = max(far + (width - far) * 0.50, at + kit.px(20) + kit.width("unknown", "small", "figures", True))
    room = width - x - kit.px(10)
    proof, how = limit.proof or "no proof yet", "missing a figure" if measure.missing else "computed"
    if measure.missing and measure.value is None and measure.missing[0] == "nothing informs it yet":
        how = "nothing informs it yet"
    shapes += [
        kit.words(x, h * 0.33, kit.cut(proof, room, "small"), "small", "ink" if limit.proof else "mute"),
        kit.words(x, h * 0.70, kit.cut(how, room, "small"), "small", "mute"),
    ]
    return Picture(width, h, tuple(shapes))
