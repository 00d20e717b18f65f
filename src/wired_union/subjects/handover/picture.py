"""The case that is handed over: a compartment for each subject, and how far each thing that must be done is done."""

from collections.abc import Sequence

from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Unready
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Region, Shape, hint_picture
from wired_union.picture.wire import wire
from wired_union.subjects.handover.pick import HandPick
from wired_union.subjects.handover.ready import Compartment

HIGH, GAP, HANDLE, LEAST_W = 58.0, 8.0, 22.0, 150.0
ROW_H, NAMES, FIGURES = 26.0, 300.0, 80.0
REPORTS = "reports"


def case_picture(found: Sequence[Compartment], reports: int, kept: int, kit: Kit, width: float, picked: str) -> Picture:
    """The case from above, its lid open: reports, each subject's papers, the project with what is kept of it."""
    cells = [(REPORTS, "Reports", reports, "for judge, builder, successor"),
             *((c.id, c.title, len(c.papers), _first(c)) for c in found),
             ("", "The project", 1 + kept, "its file, pictures and versions")]  # fmt: skip
    gap, top = kit.px(GAP), kit.px(HANDLE)
    across = max(int((width - gap) / kit.px(LEAST_W)), 1)
    wide, high = (width - gap) / across - gap, kit.px(HIGH)
    rows = -(-len(cells) // across)
    tall = rows * (high + gap) + gap
    shapes: list[Shape] = [*_handle(kit, width), Box(0.75, top, width - 1.5, tall, "soft", "ink", 6.0, 1.6)]
    regions: list[Region] = []
    for n, (key, title, count, said) in enumerate(cells):
        x, y = gap + (n % across) * (wide + gap), top + gap + (n // across) * (high + gap)
        empty = count == 0
        chosen = bool(key) and key == picked
        shapes.append(Box(x, y, wide, high, "" if empty else "card", "ink" if chosen else "line", 3.0,
                          1.8 if chosen else 1.0, dash=(4.0, 3.0) if empty else ()))  # fmt: skip
        words = "nothing yet" if empty else f"{count} paper{'' if count == 1 else 's'}"
        shapes.append(kit.words(x + kit.px(10), y + kit.px(16), kit.cut(title, wide - kit.px(20), "base", bold=True),
                                "base", "mute" if empty else "ink", bold=True))  # fmt: skip
        shapes.append(kit.figures(x + kit.px(10), y + kit.px(33), words, "small", "mute" if empty else "holds_text",
                                  bold=True))  # fmt: skip
        shapes.append(
            kit.words(x + kit.px(10), y + kit.px(48), kit.cut(said, wide - kit.px(20), "tiny"), "tiny", "mute")
        )
        regions.append(Region(f"compartment {key or 'project'}", x, y, wide, high, f"{title}: {words}. {said}".strip(),
                              of=HandPick(key)))  # fmt: skip
    return Picture(width, top + tall + 2, tuple(shapes), tuple(regions))


def _first(compartment: Compartment) -> str:
    return compartment.papers[0].about if compartment.papers else ""


def _handle(kit: Kit, width: float) -> list[Shape]:
    """What a case is carried by."""
    middle, half, top = width / 2, kit.px(46), kit.px(HANDLE)
    points = ((middle - half, top), (middle - half + 6, 6.0), (middle + half - 6, 6.0), (middle + half, top))
    return [Poly(points, "ink", width=4.0), Line(middle - half, top, middle + half, top, "ink", 1.6)]


def ready_picture(lacks: Sequence[Unready], kit: Kit, width: float) -> Picture:
    """A wire for each thing to be done: as long as it is done, to a post where all of it is."""
    asked = [u for u in lacks if u.of]
    if not asked:
        return hint_picture("Nothing is asked for yet: add limits and parts first.", kit, width)
    names = min(kit.px(NAMES), width * 0.5)
    long = width - names - kit.px(FIGURES)
    shapes: list[Shape] = []
    regions: list[Region] = []
    for n, u in enumerate(asked):
        y = kit.px(ROW_H) * (n + 0.5)
        done = u.of - len(u.names)
        verdict = Verdict.UNKNOWN if u.names else Verdict.HOLDS
        shapes.append(kit.words(0, y, kit.cut(_done_words(u), names - kit.px(12), "small"), "small"))
        drawn = wire(done / u.of, verdict, long, y)
        shapes += [_moved(s, names) for s in drawn]
        shapes.append(
            kit.figures(width, y, f"{done} of {u.of}", "small", f"{verdict.value}_text", bold=True, anchor="end")
        )
        left = ", ".join(u.names[:8]) + (" …" if u.names[8:] else "")
        regions.append(Region(f"ready {n}", 0, y - kit.px(ROW_H / 2), width, kit.px(ROW_H),
                              f"{u.what}; not yet: {left or 'none'}", of=n))  # fmt: skip
    return Picture(width, kit.px(ROW_H) * len(asked), tuple(shapes), tuple(regions))


def _moved(shape: Shape, dx: float) -> Shape:
    from wired_union.picture.shapes import shifted

    return shifted([shape], dx, 0.0)[0]


def _done_words(u: Unready) -> str:
    return f"{u.group}: {u.what}"
