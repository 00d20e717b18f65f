"""The bench drawing: a page for each controller and one for each cable, and a sheet of labels for their ends."""

import tempfile
from collections.abc import Iterator, Sequence
from itertools import islice
from pathlib import Path
from xml.sax.saxutils import quoteattr

from msgspec import Struct

from wired_union.kernel.subject import Assessment
from wired_union.picture.shapes import Box, Kit, Line, Picture, Shape
from wired_union.picture.svg import to_svg
from wired_union.project.model import Item
from wired_union.shipped import FONTS
from wired_union.subjects.wiring.assess import WIRES
from wired_union.subjects.wiring.exports import label_rows
from wired_union.subjects.wiring.laid import LaidCable
from wired_union.subjects.wiring.leads import PLUGS_NONE, CableResult
from wired_union.subjects.wiring.picture_cables import plug_words
from wired_union.subjects.wiring.picture_loom import INKS, use_words
from wired_union.subjects.wiring.pins import PINS, Wired
from wired_union.subjects.wiring.shared import cable_between
from wired_union.units import show

PAGE_W, PAGE_H, TOP, ROW = 718.0, 1046.0, 64.0, 20.0
LABEL_W, LABEL_H, ACROSS = 174.0, 58.0, 4


class WireIn(Struct, frozen=True):
    """One wire of a cable: what it is, from where, to where."""

    what: str
    start: str
    end: str
    ink: str


def bench_pages(assessment: Assessment, kit: Kit) -> list[Picture]:
    """All pages, at A4 and 96 dots an inch within its margins."""
    print_kit = Kit(1.0, kit.ruler)
    pages = [p for board in assessment.of(PINS).boards() for p in _board_pages(assessment, board, print_kit)]
    pages += [
        p for c in assessment.of(WIRES).cables if not c.laid.is_plugged for p in _cable_pages(assessment, c, print_kit)
    ]
    return pages or [Picture(PAGE_W, PAGE_H, (print_kit.words(0, 20, "Nothing is wired yet."),))]


def _head(kit: Kit, title: str, said: str) -> list[Shape]:
    return [
        kit.words(0, 16, kit.cut(title, PAGE_W, "title", bold=True), "title", bold=True),
        kit.words(0, 42, kit.cut(said, PAGE_W, "small"), "small", "mute"),
        Line(0, 54, PAGE_W, 54, "ink", 1.4),
    ]


def _board_pages(assessment: Assessment, board: Item, kit: Kit) -> Iterator[Picture]:
    """The pins of one controller: pin, what it is used as, signal, cable; as many to a page as it takes."""
    pins = assessment.of(PINS)
    laid = tuple(c.laid for c in assessment.of(WIRES).cables)
    wired = sorted(pins.on(board.id), key=lambda w: w.tooth.number)
    per = int((PAGE_H - TOP - 2 * ROW) // ROW)
    for first in range(0, max(len(wired), 1), per):
        shapes = _head(kit, board.name, f"{assessment.project.name}: {pins.used} of {pins.pins} pins taken")
        for x, text in ((40.0, "pin"), (66.0, "used as"), (190.0, "signal"), (500.0, "cable")):
            shapes.append(kit.words(x, TOP + 4, text, "small", "mute", anchor="end" if text == "pin" else "start"))
        for n, w in enumerate(wired[first : first + per]):
            shapes += _pin_row(kit, w, TOP + ROW * (n + 1.4), laid)
        yield Picture(PAGE_W, PAGE_H, tuple(shapes))


def _pin_row(kit: Kit, w: Wired, y: float, laid: tuple[LaidCable, ...]) -> list[Shape]:
    ink = INKS[w.wish.line.does]
    cable = cable_between(laid, w.tooth.item.id, w.wish.key.item) if w.wish.key.item else None
    name = cable.cable.name if cable is not None else "no cable yet" if w.wish.key.item else ""
    return [
        kit.figures(40, y, w.tooth.pin.name, "base", anchor="end", bold=True),
        Box(46, y - 5, 11, 10, ink, ink, 1.5),
        kit.figures(66, y, kit.cut(use_words(w), 116, "base", "figures"), "base", ink),
        Line(57, y + ROW / 2, PAGE_W, y + ROW / 2, "line", 0.6),
        kit.words(190, y, kit.cut(w.wish.name, 300, "small"), "small"),
        kit.words(500, y, kit.cut(name, PAGE_W - 504, "small"), "small", "mute"),
    ]


def wires_in(assessment: Assessment, cable: CableResult) -> Iterator[WireIn]:
    """Every wire of a cable: two a feed, one a signal, and the ground that signals share where no feed brings it."""
    names = {i.id: i.name for i in assessment.project.concept.items}
    own = cable.laid.cable
    ends = {own.start, *(r.item for r in own.reaches)}
    for feed in cable.laid.feeds:
        for sign in ("+", "−"):
            yield WireIn(sign, names.get(feed.source, ""), names.get(feed.load, ""), "copper")
    signals = [w for w in assessment.of(PINS).wired if w.tooth.item.id in ends and w.wish.key.item in ends]
    for w in signals:
        yield WireIn(use_words(w), f"{w.tooth.pin.name} of {w.tooth.item.name}", w.wish.name, INKS[w.wish.line.does])
    if signals and not cable.laid.feeds:
        boards = list(dict.fromkeys(w.tooth.item.name for w in signals))
        parts = list(dict.fromkeys(names.get(w.wish.key.item, "") for w in signals))
        yield WireIn("ground", boards[0], ", ".join(parts), "ink")


def _cable_pages(assessment: Assessment, cable: CableResult, kit: Kit) -> Iterator[Picture]:
    """One cable: its ends, each wire from where to where, how it is made and tested."""
    own, laid = cable.laid.cable, cable.laid
    length = show(laid.length_m, "m") if laid.length_m is not None else "length not known"
    gauge = f"{own.awg} AWG" if own.awg is not None else "gauge not known"
    many = f"{laid.count} alike, " if laid.count > 1 else ""
    said = f"{assessment.project.name}: {many}{length}, {gauge}{', screened' if own.screened else ''}"
    wires = list(wires_in(assessment, cable))
    per = int((PAGE_H - TOP - 220) // ROW)
    for first in range(0, max(len(wires), 1), per):
        shapes = _head(kit, own.name, said)
        y = TOP + 12
        plugs = own.connector.strip().lower() not in PLUGS_NONE
        shapes += [Line(40, y, PAGE_W - 40, y, "copper" if laid.moves_power else "slate", 5.0)]
        shapes += [Box(x, y - 10, 26, 20, "ink") for x in (20.0, PAGE_W - 46.0) if plugs]
        shapes.append(kit.figures(PAGE_W / 2, y + 14, length, "small", "mute", anchor="middle"))
        y += 40
        for n, wire in enumerate(wires[first : first + per]):
            shapes += _wire_row(kit, wire, n + first + 1, y + ROW * n)
        y += ROW * min(per, max(len(wires) - first, 0)) + 24
        shapes += _making(kit, cable, y)
        yield Picture(PAGE_W, PAGE_H, tuple(shapes))


def _wire_row(kit: Kit, wire: WireIn, number: int, y: float) -> list[Shape]:
    return [
        kit.figures(16, y, str(number), "small", "mute", anchor="end"),
        kit.words(28, y, kit.cut(wire.start, 230, "small"), "small"),
        Line(270, y, 360, y, wire.ink, 2.2),
        kit.figures(315, y - 8, kit.cut(wire.what, 86, "tiny", "figures"), "tiny", "mute", anchor="middle"),
        kit.words(374, y, kit.cut(wire.end, PAGE_W - 380, "small"), "small"),
    ]


def _making(kit: Kit, cable: CableResult, y: float) -> list[Shape]:
    """What is needed to make and test it."""
    own = cable.laid.cable
    rows = [
        ("plugs", plug_words(own) or "none"),
        ("comes from", own.sold),
        ("made by", own.made_by or "not said"),
        ("made from", own.made_from or "not said"),
        ("tested how", own.tested_how or "not said"),
        ("passes", own.passes),
        ("tied into", own.bundle or "nothing"),
        (
            "first",
            "Unplug the pack. Measure each wire end to end and against its neighbours before it carries anything.",
        ),
    ]
    found: list[Shape] = []
    for n, (name, text) in enumerate(rows):
        found.append(kit.words(28, y + 18 * n, name, "small", "mute"))
        found.append(kit.words(130, y + 18 * n, kit.cut(text, PAGE_W - 140, "small"), "small"))
    return found


def labels_picture(assessment: Assessment, kit: Kit) -> list[Picture]:
    """Labels for both ends of every cable, four across, as many pages as it takes."""
    print_kit, rows = Kit(1.0, kit.ruler), iter(label_rows(assessment))
    per = ACROSS * int(PAGE_H // (LABEL_H + 6))
    pages: list[Picture] = []
    while page := list(islice(rows, per)):
        shapes: list[Shape] = []
        for n, (name, at, to) in enumerate(page):
            x, y = (n % ACROSS) * (LABEL_W + 7), (n // ACROSS) * (LABEL_H + 6)
            shapes.append(Box(x, y, LABEL_W, LABEL_H, "", "mute", 4, 0.8))
            for k, (text, bold) in enumerate(((name, True), (at, False), (to, False))):
                cut = print_kit.cut(text, LABEL_W - 16, "small", bold=bold)
                shapes.append(print_kit.words(x + 8, y + 13 + 16 * k, cut, "small", bold=bold))
        pages.append(Picture(PAGE_W, PAGE_H, tuple(shapes)))
    return pages or [Picture(PAGE_W, PAGE_H, (print_kit.words(0, 20, "No cable has a label yet."),))]


def pages_svg(pages: Sequence[Picture]) -> str:
    """All pages below each other in one SVG."""
    high = sum(p.height + 20 for p in pages)
    inner, y = [], 0.0
    for page in pages:
        inner.append(to_svg(page).replace("<svg ", f'<svg y="{y:.0f}" ', 1))
        y += page.height + 20
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {PAGE_W:.0f} {high:.0f}" width="{PAGE_W:.0f}"'
        f' height="{high:.0f}" role="img" aria-label={quoteattr("bench drawing")}>{"".join(inner)}</svg>'
    )


def pages_pdf(pages: Sequence[Picture]) -> bytes:
    """All pages as a PDF of A4, by typst with our fonts."""
    import typst  # heavy, and only for this

    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        lines = ['#set page(paper: "a4", margin: 10mm)']
        for n, page in enumerate(pages):
            (folder / f"{n}.svg").write_text(to_svg(page), encoding="utf-8")
            lines.append(f'#image("{n}.svg", width: 100%){"" if n == len(pages) - 1 else " #pagebreak()"}')
        (folder / "pages.typ").write_text("\n".join(lines), encoding="utf-8")
        made = typst.compile(str(folder / "pages.typ"), format="pdf", font_paths=[str(FONTS)], ignore_system_fonts=True)
    return made[0] if isinstance(made, list) else made
