"""An entry as it stands in the notebook: its day and hand, what was done, what it moved, why."""

from wired_union.picture.shapes import Box, Kit, Line, Picture, Shape
from wired_union.project.dates import as_day, shown_day
from wired_union.project.notebook_model import Entry, EntryKind

DAY_W, PAD, LINE_H, THUMB_W, THUMB_H = 72.0, 8.0, 17.0, 96.0, 60.0
INKS: dict[EntryKind, str] = {
    "note": "ink", "edit": "slate", "decision": "plum", "trial": "moss", "weighing": "moss", "reading": "moss",
    "delivery": "copper", "retirement": "plum", "version": "ink", "fault": "breaks", "merge": "slate",
}  # fmt: skip
"""The colour of what happened; its words say it too."""
MOST_LINES = 3


def entry_picture(
    entry: Entry, kit: Kit, width: float, *, day: bool, picked: bool = False, left_out: bool = False
) -> Picture:
    """`day` is whether its day stands beside it: the first of a day."""
    left = kit.px(DAY_W) + kit.px(14)
    shown = min(len(entry.photos), MOST_THUMBS)
    inner = width - left - kit.px(12) - shown * kit.px(THUMB_W + 6)
    ink = "unknown" if entry.struck else INKS[entry.kind]
    lines = _lines(entry, kit, inner)
    least = 2 if day and entry.by else 1
    tall = max(kit.px(2 * PAD) + kit.px(LINE_H) * max(len(lines), least), kit.px(2 * PAD + THUMB_H) if shown else 0.0)
    shapes: list[Shape] = []
    if picked:
        shapes.append(Box(0, 1, width, tall - 2, "soft", radius=4.0))
    shapes.append(Box(left - kit.px(12), kit.px(PAD - 2), kit.px(3), tall - kit.px(2 * PAD - 4), ink))
    shapes += _beside(entry, kit, day, left_out)
    for n, (text, role, tone, bold) in enumerate(lines):
        y = kit.px(PAD) + kit.px(LINE_H) * (n + 0.5)
        shapes.append(kit.words(left, y, text, role, tone, bold=bold))
        if entry.struck and n == 0:
            shapes.append(Line(left, y, left + kit.width(text, role, bold=bold), y, "mute", 1.2))
    return Picture(width, tall, tuple(shapes))


MOST_THUMBS = 3


def thumb_places(entry: Entry, kit: Kit, width: float) -> list[tuple[str, str, float, float, float, float]]:
    """Where small pictures stand: digest, form, and x, y, width, height."""
    shown = entry.photos[:MOST_THUMBS]
    step = kit.px(THUMB_W + 6)
    first = width - kit.px(6) - step * len(shown)
    return [(p.digest, p.form, first + step * n, kit.px(PAD), kit.px(THUMB_W), kit.px(THUMB_H))
            for n, p in enumerate(shown)]  # fmt: skip


def _lines(entry: Entry, kit: Kit, inner: float) -> list[tuple[str, str, str, bool]]:
    tone = "mute" if entry.struck else "ink"
    paragraphs = [t for t in entry.text.split("\n") if t.strip()] or [entry.text]
    found = [(line, "base", tone, n == 0) for n, text in enumerate(paragraphs[:MOST_LINES])
             for line in kit.few_lines(text, inner, 2 if len(paragraphs) == 1 else 1)]  # fmt: skip
    if entry.moved:
        found.append((kit.cut(entry.moved, inner, "small"), "small", "mute", False))
    if entry.why:
        found.append((kit.cut(f"“{entry.why}”", inner, "small"), "small", "link", False))
    if entry.struck:
        found.append((kit.cut(f"struck out: {entry.struck}", inner, "small"), "small", "tight_text", False))
    elif entry.former:
        found.append((f"corrected {entry.former[-1].corrected_on}", "small", "mute", False))
    return found


def _beside(entry: Entry, kit: Kit, day: bool, left_out: bool) -> list[Shape]:
    """The day, and under it or alone who it was."""
    found: list[Shape] = []
    y = kit.px(PAD + LINE_H / 2)
    if day:
        on = as_day(entry.when)
        words = shown_day(on) if on is not None else entry.when or "no day"
        found.append(kit.figures(kit.px(6), y, kit.cut(words, kit.px(DAY_W - 8), "base"), "base", bold=True))
        y += kit.px(LINE_H)
    if entry.by:
        found.append(kit.words(kit.px(6), y, kit.cut(entry.by, kit.px(DAY_W - 10), "small"), "small", "mute"))
        y += kit.px(LINE_H)
    if day and left_out:
        found.append(kit.words(kit.px(6), y, "not told", "tiny", "tight_text"))
    return found
