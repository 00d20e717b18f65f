"""The steps one below the other, a thread through them: woken, next, waiting, or not as expected."""

from collections.abc import Sequence

from wired_union.kernel.results import Verdict
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Ring, Shape, hint_picture
from wired_union.subjects.bench.assess import Woken, shown_found
from wired_union.subjects.bench.pick import BenchPick
from wired_union.units import show

ROW_H, ROUND = 46.0, 9.0


def steps_picture(steps: Sequence[Woken], kit: Kit, width: float, picked: BenchPick) -> Picture:
    """Regions stand for a `BenchPick` of the part."""
    if not steps:
        return hint_picture("Nothing to wake yet: add a pack, a controller, something that moves.", kit, width)
    row, x = kit.px(ROW_H), kit.px(16)
    shapes: list[Shape] = [Line(x, row / 2, x, row * (len(steps) - 0.5), "line", 1.4)]
    regions: list[Region] = []
    for n, woken in enumerate(steps):
        y = n * row
        if picked.item == woken.step.item.id:
            shapes.append(Box(0, y, width, row, "soft", radius=3))
        shapes += _mark(woken, n + 1, kit, x, y + row / 2)
        tone = "breaks_text" if woken.stands == "differs" else "ink" if woken.stands in {"woken", "next"} else "mute"
        name = woken.step.item.name + (", one" if woken.step.item.count > 1 else "")
        room = width - kit.px(46)
        later = woken.stands == "later"
        shapes.append(kit.words(kit.px(38), y + kit.px(15), kit.cut(name, room, "small", bold=True), "small",
                                "mute" if later else "ink", bold=not later))  # fmt: skip
        shapes.append(kit.words(kit.px(38), y + kit.px(32), kit.cut(step_words(woken), room, "tiny"), "tiny", tone))
        regions.append(Region(f"step {woken.step.item.id}", 0, y, width, row,
                              f"{n + 1}. {woken.step.item.name}: {woken.stands}, {step_words(woken)}",
                              of=BenchPick(woken.step.item.id)))  # fmt: skip
    return Picture(width, row * len(steps), tuple(shapes), tuple(regions))


def _mark(woken: Woken, number: int, kit: Kit, x: float, y: float) -> list[Shape]:
    ink = {"woken": "holds", "differs": "breaks", "next": "ink", "waits": "tight"}.get(woken.stands, "unknown")
    full = woken.stands == "woken"
    return [
        Ring(x, y, kit.px(ROUND), ink, 1.6, (), ink if full else "card"),
        kit.figures(x, y, f"{number}", "tiny", "card" if full else ink, bold=True, anchor="middle"),
    ]


def step_words(woken: Woken) -> str:
    """ "0.52 A of 0.42 A", "waits for the oven", "5.02 V, 41 mA" """
    if woken.differs:
        one = woken.differs[0]
        wanted = "an answer" if one.expect.unit == "" else show(one.expect.value, one.expect.unit)
        return f"{shown_found(one)} of {wanted}"
    if woken.waits_for and woken.stands == "waits":
        return f"waits for {woken.waits_for}"
    read = [shown_found(f) for f in woken.found if f.verdict is not Verdict.UNKNOWN]
    if read:
        return ", ".join("answers" if text == "yes" else text for text in read)
    first = next((f.expect for f in woken.found if f.expect.value is not None), None)
    if first is None:
        return "the plan says nothing of it yet"
    return f"{first.name}: {show(first.value, first.unit) if first.unit else 'yes'} expected"
