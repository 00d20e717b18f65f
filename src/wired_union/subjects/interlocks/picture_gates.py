"""Gates on a wire before a hazard: open or closed in a state, those beside each other above each other."""

from collections.abc import Collection

from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Ring, Shape, hint_picture
from wired_union.project.interlock_model import Gate
from wired_union.subjects.interlocks.gates import GatesResult, fires_with
from wired_union.subjects.interlocks.pick import InterlockPick

INKS = {"mechanical": "copper", "in the power path": "copper", "sensed": "moss", "software": "plum"}
END_W, EACH_W, ROW_H = 92.0, 128.0, 96.0


def gates_picture(
    r: GatesResult, state: str, broken: Collection[str], kit: Kit, width: float, picked: InterlockPick
) -> Picture:  # fmt: skip
    """The wire from what drives it to the hazard. Regions stand for an `InterlockPick` of a gate."""
    if not r.groups:
        return hint_picture("No gate yet: nothing stands between a switch and this.", kit, width)
    room = width - 2 * kit.px(END_W) - kit.px(20)
    across = max(int(room // kit.px(EACH_W)), 1)
    rows = [r.groups[n : n + across] for n in range(0, len(r.groups), across)]
    deep = [max(len(g) for g in row) for row in rows]
    shapes: list[Shape] = []
    regions: list[Region] = []
    y, each = 0.0, room / min(across, max(len(r.groups), 1))
    for n, (row, many) in enumerate(zip(rows, deep, strict=True)):
        high = kit.px(ROW_H) * many
        middle = y + kit.px(ROW_H) / 2
        x = kit.px(END_W) + kit.px(10)
        shapes.append(Line(kit.px(END_W), middle, x + each * len(row), middle, "line", 1.4))
        for k, group in enumerate(row):
            for d, gate in enumerate(group):
                at = (x + each * k, y + kit.px(ROW_H) * d)
                _gate(gate, state, gate.id in broken, kit, at, each, picked, shapes, regions)
                if d:
                    shapes += _beside(kit, x + each * k, middle, at[1] + kit.px(ROW_H) / 2, each)
        if n == 0:
            shapes += _end(kit, 0.0, middle, "what drives it", "ink")
        if n == len(rows) - 1:
            fires = fires_with(r, frozenset(broken), state)
            shapes += _end(kit, x + each * len(row) + kit.px(8), middle, r.hazard.name, "breaks" if fires else "ink",
                           filled=fires)  # fmt: skip
            regions.append(Region(f"hazard {r.hazard.id}", x + each * len(row), middle - kit.px(22), kit.px(END_W + 8),
                                  kit.px(44), r.hazard.name, of=InterlockPick("hazards", r.hazard.id)))  # fmt: skip
        y += high
    return Picture(width, y, tuple(shapes), tuple(regions))


def _beside(kit: Kit, x: float, middle: float, y: float, each: float) -> list[Shape]:
    return [Line(x + kit.px(6), middle, x + kit.px(6), y, "line", 1.4), Line(x + kit.px(6), y, x + each - kit.px(6), y,
            "line", 1.4), Line(x + each - kit.px(6), y, x + each - kit.px(6), middle, "line", 1.4)]  # fmt: skip


def _end(kit: Kit, x: float, middle: float, name: str, ink: str, *, filled: bool = False) -> list[Shape]:
    w = kit.px(END_W)
    lines = kit.few_lines(name, w - kit.px(10), 2, "small")
    top = middle - kit.px(20)
    shapes: list[Shape] = [Box(x, top, w, kit.px(40), "breaks_soft" if filled else "card", ink, 4)]
    for n, line in enumerate(lines):
        y = middle + kit.px(15) * (n - (len(lines) - 1) / 2)
        shapes.append(kit.words(x + w / 2, y, line, "small", bold=True, anchor="middle"))
    return shapes


def _gate(
    gate: Gate, state: str, is_broken: bool, kit: Kit, at: tuple[float, float], each: float, picked: InterlockPick,
    shapes: list[Shape], regions: list[Region],
) -> None:  # fmt: skip
    """A switch: its name above, what kind below; broken ones are welded in red."""
    x, y = at
    middle, centre = y + kit.px(ROW_H) / 2, x + each / 2
    closed = is_broken or any(c.state == state for c in gate.closed_in)
    ink = "breaks" if is_broken else INKS[gate.kind]
    half, r = kit.px(22), kit.px(3.4)
    if picked == InterlockPick("gates", gate.id):
        shapes.append(Box(x + 2, y + kit.px(4), each - 4, kit.px(ROW_H - 8), "soft", radius=4))
    shapes.append(Line(x + kit.px(6), middle, centre - half, middle, "ink", 2.0))
    shapes.append(Line(centre + half, middle, x + each - kit.px(6), middle, "ink", 2.0))
    end = (centre + half, middle) if closed else (centre + half * 0.7, middle - kit.px(16))
    shapes.append(Box(centre - half, middle - kit.px(2), 2 * half, kit.px(4), "card"))
    shapes.append(Line(centre - half, middle, *end, ink, 3.0))
    shapes += [Ring(centre + d, middle, r, ink, 1.6, (), "card") for d in (-half, half)]
    name = kit.cut(gate.name, each - kit.px(8), "small", bold=True)
    shapes.append(kit.words(centre, middle - kit.px(29), name, "small", bold=True, anchor="middle"))
    shapes.append(kit.words(centre, middle + kit.px(18), kit.cut(how_words(gate), each - kit.px(6), "tiny"), "tiny",
                            "mute", anchor="middle"))  # fmt: skip
    word = "broken, closed" if is_broken else gate.kind
    shapes.append(kit.figures(centre, middle + kit.px(33), word, "tiny", "breaks_text" if is_broken else ink,
                              anchor="middle", bold=True))  # fmt: skip
    state_words = "broken" if is_broken else "closed" if closed else "open"
    regions.append(Region(f"gate {gate.id}", x, y + kit.px(4), each, kit.px(ROW_H - 8),
                          f"{gate.name}: {gate.kind}, {state_words} here. Press to break it.",
                          of=InterlockPick("gates", gate.id)))  # fmt: skip


def how_words(gate: Gate) -> str:
    """ "held 2 s, two hands, a key" """
    hands = {1: "one hand", 2: "two hands"}.get(gate.hands, f"{gate.hands} hands" if gate.hands else "")
    held = f"held {gate.dwell_s:g} s" if gate.dwell_s else ""
    return ", ".join(filter(None, (held, hands, "a key" if gate.has_key else "")))
