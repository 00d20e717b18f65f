"""The loom: teeth of the controllers to the left, parts to the right, a thread for every signal between."""

from collections.abc import Mapping, Sequence

from msgspec import Struct

from wired_union.kernel.results import Verdict
from wired_union.picture.shapes import Box, Kit, Picture, Poly, Region, Ring, Shape, hint_picture
from wired_union.project.model import Concept, Item
from wired_union.subjects.wiring.laid import LaidCable
from wired_union.subjects.wiring.pick import WiringPick
from wired_union.subjects.wiring.pins import PinsResult, Wired
from wired_union.subjects.wiring.shared import cable_between
from wired_union.subjects.wiring.teeth import Tooth
from wired_union.subjects.wiring.wishes import Key
from wired_union.units import show

ROW, HEAD, BOARD, TOOTH, SIDE, GAP = 15.0, 40.0, 118.0, 11.0, 236.0, 14.0
STEPS = 14
INKS = {
    "plain": "mute", "interrupt": "moss", "analogue": "moss", "PWM": "copper", "I2C": "plum", "SPI": "slate",
    "UART": "slate", "CAN": "slate", "USB": "slate", "camera port": "slate",
}  # fmt: skip
SHOWN = {"I2C": "I²C", "camera port": "camera"}


class Loom(Struct, frozen=True):
    """What the loom is drawn from."""

    pins: PinsResult
    laid: tuple[LaidCable, ...]
    verdicts: Mapping[Key, Verdict]
    """of signals that do not simply hold"""
    concept: Concept


class _Part(Struct, frozen=True):
    """A box to the right: a part, an own signal, or the far end of a join."""

    room: str
    id: str
    name: str
    detail: str
    wired: tuple[Wired, ...]


def loom_picture(loom: Loom, kit: Kit, width: float, picked: WiringPick) -> Picture:
    """The loom as wide as it may be. Regions stand for a `WiringPick`; a thread's is carried onto a tooth."""
    if not loom.pins.teeth:
        return hint_picture("No controller with a pin table yet. Add one on Parts, or take a pin table from a file.",
                            kit, width)  # fmt: skip
    if not loom.pins.wired and loom.pins.clash:
        return hint_picture("No assignment: the signals named to the right cannot all be had at once.", kit, width)
    parts = _parts(loom)
    shapes: list[Shape] = []
    regions: list[Region] = []
    left: dict[int, tuple[float, float]] = {}
    y = 0.0
    for board in loom.pins.boards():
        y = _board(loom, board, parts, kit, y, left, shapes, regions, picked)
    tops, boxes_height = _boxes(_settled(parts, left), left, kit, width, shapes, regions, picked)
    threads = _threads(loom, parts, tops, left, kit, width, picked)
    labels = _cable_labels(loom, parts, tops, kit, width)
    high = max(y, boxes_height) + kit.px(4)
    return Picture(width, high, (*threads, *shapes, *labels), tuple(regions))


def _parts(loom: Loom) -> list[_Part]:
    """Boxes in the order of the parts; copies of a part share one."""
    found: dict[tuple[str, str], list[Wired]] = {}
    for wired in loom.pins.wired:
        key = wired.wish.key
        where = ("items", key.item) if key.item else ("own_lines", key.own) if key.own else ("joins", key.join)
        found.setdefault(where, []).append(wired)
    items = {i.id: i for i in loom.concept.items}
    own = {x.id: x.name for x in loom.concept.own_lines} | {x.id: x.name for x in loom.concept.joins}
    return [
        _Part(room, of, _title(items[of]) if room == "items" else own[of], _detail(of, wired, items), tuple(wired))
        for (room, of), wired in found.items()
    ]


def _title(item: Item) -> str:
    return f"{item.name} ×{item.count}" if item.count > 1 else item.name


def _detail(of: str, wired: Sequence[Wired], items: Mapping[str, Item]) -> str:
    """ "I²C 0x68", "contact · interrupt", "UART" """
    kinds = list(dict.fromkeys(w.wish.line.does for w in wired))
    address = next((w.wish.address for w in wired if w.wish.address is not None), None)
    said = [SHOWN.get(k, k) for k in kinds if k != "plain" or len(kinds) == 1][:2]
    if address is not None and "I2C" in kinds:
        said[said.index("I²C")] = f"I²C {address:#04x}"
    item = items.get(of)
    family = item.part.port.family if item is not None and item.part.port is not None else ""
    level = item.part.link.logic_v if item is not None and item.part.link is not None else None
    front = [family] if family else [f"{level:g} V"] if level is not None else []
    return " · ".join([*front, *said])


def _middle(part: _Part, left: Mapping[int, tuple[float, float]]) -> float:
    """Where the teeth of a part are, on average."""
    heights = [left[w.tooth.number][1] for w in part.wired if w.tooth.number in left]
    return sum(heights) / len(heights) if heights else 0.0


def _settled(parts: Sequence[_Part], left: Mapping[int, tuple[float, float]]) -> list[_Part]:
    """Parts in the order of their teeth, so that few threads cross."""
    return sorted(parts, key=lambda p: _middle(p, left))


def _boxes(
    parts: Sequence[_Part],
    left: Mapping[int, tuple[float, float]],
    kit: Kit,
    width: float,
    shapes: list[Shape],
    regions: list[Region],
    picked: WiringPick,
) -> tuple[dict[tuple[str, str], float], float]:
    """Boxes of the parts, with where each begins; and how high all are."""
    tops: dict[tuple[str, str], float] = {}
    y, x, side = kit.px(2), width - kit.px(SIDE), kit.px(SIDE)
    for part in parts:
        high = max(kit.px(24), kit.px(7) + kit.px(5.5) * len(part.wired))
        y = max(y, _middle(part, left) - high / 2)
        ink = INKS[part.wired[0].wish.line.does]
        chosen = (picked.room, picked.id) == (part.room, part.id) or (
            picked.key is not None and any(w.wish.key == picked.key for w in part.wired)
        )
        shapes.append(Box(x, y, side - 1, high, "soft" if chosen else "card", ink, 4, 1.8 if chosen else 1.0))
        wide = kit.width(part.detail, "small", "figures")
        name = kit.cut(part.name, side - wide - kit.px(26), "small", bold=True)
        shapes.append(kit.words(x + kit.px(10), y + high / 2, name, "small", bold=True))
        shapes.append(kit.figures(x + side - kit.px(10), y + high / 2, part.detail, "small", "mute", anchor="end"))
        said = f"{part.name}: " + "; ".join(
            f"{w.wish.name.rpartition(': ')[2]} on {w.tooth.pin.name}" for w in part.wired[:12]
        )
        pick = WiringPick(part.room, part.id)
        regions.append(Region(f"part {part.room} {part.id}", x, y, side, high, said, of=pick))
        tops[part.room, part.id] = y
        y += high + kit.px(7)
    return tops, y


def _board(
    loom: Loom, board: Item, parts: Sequence[_Part], kit: Kit, top: float,
    left: dict[int, tuple[float, float]], shapes: list[Shape], regions: list[Region], picked: WiringPick,
) -> float:  # fmt: skip
    """One controller with its used teeth in the order of the parts, then those that are free; where it ends."""
    order = {w.tooth.number: n for n, w in reversed(list(enumerate(w for p in parts for w in p.wired)))}
    own = [t for t in loom.pins.teeth if t.item.id == board.id]
    used = sorted((t for t in own if t.number in order), key=lambda t: order[t.number])
    free = [t for t in own if t.number not in order]
    wide, row = kit.px(BOARD), kit.px(ROW)
    body = len(shapes)
    shapes.append(kit.words(kit.px(10), top + kit.px(14), kit.cut(board.name, wide - kit.px(14), "small", bold=True),
                            "small", bold=True))  # fmt: skip
    pins = sum(not t.is_socket for t in own)
    shapes.append(kit.figures(kit.px(10), top + kit.px(29), f"{len(used)} of {pins} pins", "small", "mute"))
    y = top + kit.px(HEAD)
    for tooth in used:
        _used(loom, tooth, kit, y, left, shapes, regions, picked)
        y += row
    y = _free(free, kit, y + kit.px(4), shapes, regions, picked) if free else y
    shapes.insert(body, Box(1, top + 1, wide, y - top + kit.px(2), "soft", "line", 4))
    return y + kit.px(GAP)


def _used(
    loom: Loom, tooth: Tooth, kit: Kit, y: float, left: dict[int, tuple[float, float]], shapes: list[Shape],
    regions: list[Region], picked: WiringPick,
) -> None:  # fmt: skip
    """A tooth that something is on: its name, the tooth, what it is used as."""
    on = [w for w in loom.pins.wired if w.tooth.number == tooth.number]
    wired = on[0]
    verdict = next((loom.verdicts[w.wish.key] for w in on if w.wish.key in loom.verdicts), None)
    ink = verdict.value if verdict in {Verdict.BREAKS, Verdict.TIGHT} else INKS[wired.wish.line.does]
    middle, x, row = y + kit.px(ROW) / 2, kit.px(BOARD), kit.px(ROW)
    chosen = picked.key is not None and any(w.wish.key == picked.key for w in on)
    if chosen:
        shapes.append(Box(kit.px(6), y, x + kit.px(86), row, "line", radius=2))
    shapes.append(kit.figures(x - kit.px(8), middle, tooth.pin.name, "small", anchor="end", bold=wired.kept))
    shapes.append(Box(x, middle - kit.px(4.5), kit.px(TOOTH), kit.px(9), ink, ink, 1.5))
    words = kit.cut(use_words(wired), kit.px(72), "small", "figures")
    text = f"{ink}_text" if verdict in {Verdict.BREAKS, Verdict.TIGHT} else ink
    shapes.append(kit.figures(x + kit.px(TOOTH + 5), middle, words, "small", text))
    if wired.kept:
        shapes.append(Ring(x + kit.px(TOOTH / 2), middle, kit.px(2), "card", 1.0, (), "card"))
    left[tooth.number] = (x + kit.px(TOOTH + 84), middle)
    names = " and ".join(w.wish.name for w in on[:4])
    state = "kept there" if wired.kept else "laid" if wired.stored else "found, not laid yet"
    starts = f"; {tooth.pin.at_start} at start-up" if tooth.starts else ""
    pick = WiringPick("threads", tooth.item.id, wired.wish.key, tooth.pin.name)
    regions.append(
        Region(
            f"tooth {tooth.number}",
            0,
            y,
            x + kit.px(TOOTH + 84),
            row,
            f"{tooth.pin.name}: {names}, {state}{starts}. Drag it to another pin.",
            "carry",
            pick,
        )
    )


def _free(free: Sequence[Tooth], kit: Kit, y: float, shapes: list[Shape], regions: list[Region],
          picked: WiringPick) -> float:  # fmt: skip
    """Teeth that nothing is on, in rows."""
    row, each = kit.px(ROW), kit.px(26)
    many = max(int((kit.px(BOARD + TOOTH) - kit.px(8)) // each), 1)
    shapes.append(kit.words(kit.px(8), y + row / 2, "free", "tiny", "mute"))
    y += row
    for n, tooth in enumerate(free):
        x, at = kit.px(6) + (n % many) * each, y + (n // many) * row
        chosen = picked.key is None and (picked.id, picked.pin) == (tooth.item.id, tooth.pin.name)
        shapes.append(Box(x, at + 1, each - 3, row - 2, "line" if chosen else "card", "line", 2))
        ink = "tight_text" if tooth.starts else "mute"
        name = kit.cut(tooth.pin.name, each - 4, "tiny", "figures")
        shapes.append(kit.figures(x + (each - 3) / 2, at + row / 2, name, "tiny", ink, anchor="middle"))
        does = ", ".join(dict.fromkeys(SHOWN.get(d[0], d[0]) for d in tooth.pin.does))
        starts = f"; {tooth.pin.at_start} at start-up" if tooth.starts else ""
        pick = WiringPick("pins", tooth.item.id, None, tooth.pin.name)
        regions.append(Region(f"free {tooth.number}", x, at, each - 3, row, f"{tooth.pin.name}: free; {does}{starts}",
                              of=pick))  # fmt: skip
    return y + (len(free) + many - 1) // many * row


def use_words(wired: Wired) -> str:
    """ "PWM 2", "I²C 1 clock", "direction" """
    ability, instance, _ = wired.does
    if ability == "plain":
        return wired.wish.line.name
    shown = SHOWN.get(ability, ability)
    role = wired.wish.line.role
    if ability in {"interrupt", "analogue"}:
        return wired.wish.line.name if len(wired.wish.line.name) < 12 else shown
    return " ".join(filter(None, (shown, instance, role)))


def _threads(
    loom: Loom, parts: Sequence[_Part], tops: Mapping[tuple[str, str], float],
    left: Mapping[int, tuple[float, float]], kit: Kit, width: float, picked: WiringPick,
) -> list[Shape]:  # fmt: skip
    """A smooth line for each signal; dashed where it is only found, red where it breaks, thick where selected."""
    shapes: list[Shape] = []
    x2 = width - kit.px(SIDE)
    for part in parts:
        high = max(kit.px(24), kit.px(7) + kit.px(5.5) * len(part.wired))
        for n, wired in enumerate(part.wired):
            start = left.get(wired.tooth.number)
            if start is None:
                continue
            y2 = tops[part.room, part.id] + high * (n + 1) / (len(part.wired) + 1)
            verdict = loom.verdicts.get(wired.wish.key)
            ink = verdict.value if verdict in {Verdict.BREAKS, Verdict.TIGHT} else INKS[wired.wish.line.does]
            chosen = picked.key == wired.wish.key or (picked.room, picked.id) == (part.room, part.id)
            dash = () if wired.stored else (5.0, 3.0)
            shapes.append(Poly(_curve(*start, x2, y2), ink, width=2.6 if chosen else 1.4, dash=dash))
    return shapes


def _curve(x1: float, y1: float, x2: float, y2: float) -> tuple[tuple[float, float], ...]:
    """A line that leaves and arrives level."""
    points = []
    for n in range(STEPS + 1):
        t = n / STEPS
        smooth = t * t * (3 - 2 * t)
        points.append((x1 + (x2 - x1) * t, y1 + (y2 - y1) * smooth))
    return tuple(points)


def _cable_labels(
    loom: Loom, parts: Sequence[_Part], tops: Mapping[tuple[str, str], float], kit: Kit, width: float
) -> list[Shape]:  # fmt: skip
    """The name of each cable with its length, beside the first part that it goes to."""
    shapes: list[Shape] = []
    said: set[str] = set()
    x = width - kit.px(SIDE) - kit.px(8)
    for part in parts:
        board = part.wired[0].tooth.item.id
        cable = cable_between(loom.laid, board, part.id) if part.room == "items" else None
        if cable is None or cable.cable.id in said or cable.is_plugged:
            continue
        said.add(cable.cable.id)
        words = f"{cable.cable.name} {show(cable.length_m, 'm')}" if cable.length_m is not None else cable.cable.name
        words = kit.cut(words, kit.px(170), "tiny", "figures")
        wide, y = kit.width(words, "tiny", "figures"), tops[part.room, part.id] + kit.px(5)
        shapes.append(Box(x - wide - 3, y - kit.px(6), wide + 6, kit.px(12), "card", radius=2))
        shapes.append(kit.figures(x, y, words, "tiny", "mute", anchor="end"))
    return shapes
