"""States as boxes, ways between them as arrows with what takes them; stops in red, faults in red."""

import math
from collections.abc import Mapping, Sequence

from msgspec import Struct

from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Region, Shape, hint_picture
from wired_union.project.interlock_model import MachineState, Passage
from wired_union.subjects.interlocks.machine import Fault, Machine
from wired_union.subjects.interlocks.pick import InterlockPick
from wired_union.subjects.interlocks.stops import takes_s
from wired_union.units import show

BOX_W, BOX_H, GAP_X, GAP_Y, MARGIN = 104.0, 34.0, 76.0, 58.0, 10.0
TRIES = (0.45, 0.32, 0.6, 0.22, 0.72, 0.52, 0.14, 0.82)


class Drawn(Struct, frozen=True):
    """What the picture is drawn from."""

    machine: Machine
    faults: Sequence[Fault]
    chains: Mapping[str, float | None]
    at: str = ""
    """the state that a walk is in"""


def states_picture(drawn: Drawn, kit: Kit, width: float, picked: InterlockPick) -> Picture:
    """Boxes and arrows. Regions stand for an `InterlockPick`; a state can be dragged to another place."""
    machine = drawn.machine
    if not machine.states:
        return hint_picture("No state yet. Add what the machine does: waiting, driving, stopped; the first is where it"
                            " begins.", kit, width)  # fmt: skip
    places = _places(machine, kit, width)
    shapes: list[Shape] = []
    regions: list[Region] = []
    taken: list[tuple[float, float, float, float]] = [
        (x, y, kit.px(BOX_W), kit.px(BOX_H)) for x, y in places.values()
    ]  # fmt: skip
    for (start, end), ways in _pairs(machine).items():
        _arrow(drawn, kit, places, start, end, ways, picked, taken, shapes, regions)
    wrong = {s for f in drawn.faults if f.sure for s in f.states}
    for state in machine.states:
        _box(drawn, kit, state, places[state.id], picked, state.id in wrong, shapes, regions)
    high = max(y for _, y in places.values()) + kit.px(BOX_H + MARGIN)
    return Picture(width, high, tuple(shapes), tuple(regions))


def _places(machine: Machine, kit: Kit, width: float) -> dict[str, tuple[float, float]]:
    """Top left of every box: where it was dragged, else by how many ways lead there; stops at the foot."""
    depth: dict[str, int] = {}
    for state in machine.reached:
        depth[state] = len(machine.path_to(state))
    most = max(int((width - kit.px(2 * MARGIN)) // kit.px(BOX_W + GAP_X / 2)), 1)
    rows: dict[int, int] = {}
    found: dict[str, tuple[float, float]] = {}
    across = min(most, max(len({d for s, d in depth.items()}), 2))
    step_x = (width - kit.px(2 * MARGIN + BOX_W)) / max(across - 1, 1)
    later = [s for s in machine.states if s.is_stop]
    for s in [*(s for s in machine.states if not s.is_stop), *later]:
        column = min(depth.get(s.id, across - 1), across - 1)
        if s.is_stop:
            column = min(column, max(across - 2, 0)) if column else column
            row = max(rows.values(), default=0)
            rows[column] = row + 1
        else:
            row = rows.get(column, 0)
            rows[column] = row + 1
        x, y = kit.px(MARGIN) + column * step_x, kit.px(MARGIN) + row * kit.px(BOX_H + GAP_Y)
        if s.x is not None and s.y is not None:
            x = min(max(kit.px(s.x), 0.0), max(width - kit.px(BOX_W), 0.0))
            y = min(max(kit.px(s.y), 0.0), kit.px(2000))
        found[s.id] = (x, y)
    return found


def place_of(machine: Machine, kit: Kit, width: float, state: str) -> tuple[float, float]:
    """Where a state is drawn, in px at scale 1."""
    x, y = _places(machine, kit, width)[state]
    return x / kit.scale, y / kit.scale


def _pairs(machine: Machine) -> dict[tuple[str, str], list[Passage]]:
    found: dict[tuple[str, str], list[Passage]] = {}
    for p in machine.passages:
        found.setdefault((p.start, p.end), []).append(p)
    return found


def _box(
    drawn: Drawn, kit: Kit, state: MachineState, place: tuple[float, float], picked: InterlockPick, wrong: bool,
    shapes: list[Shape], regions: list[Region],
) -> None:  # fmt: skip
    x, y = place
    w, h = kit.px(BOX_W), kit.px(BOX_H)
    chosen, here = picked == InterlockPick("states", state.id), drawn.at == state.id
    ink = "breaks" if wrong or state.is_stop else "ink"
    fill = "copper_soft" if here else "card" if state.is_stop else "soft"
    shapes.append(Box(x, y, w, h, fill, ink, 4 if state.is_stop else 14, 2.2 if chosen or here else 1.2))
    if state.id == drawn.machine.states[0].id:
        shapes.append(Line(x - kit.px(8), y + h / 2, x, y + h / 2, "ink", 2.4))
    name = kit.cut(state.name, w - kit.px(12), "small", bold=True)
    shapes.append(kit.words(x + w / 2, y + h / 2, name, "small", bold=True, anchor="middle"))
    reached = state.id in drawn.machine.reached
    said = f"{state.name}{', a stop' if state.is_stop else ''}{'' if reached else ', never reached'}"
    said += f"; on the way in: {state.entry}" if state.entry else ""
    regions.append(Region(f"state {state.id}", x, y, w, h, said, "place", InterlockPick("states", state.id)))


def _arrow(
    drawn: Drawn, kit: Kit, places: Mapping[str, tuple[float, float]], start: str, end: str, ways: Sequence[Passage],
    picked: InterlockPick, taken: list[tuple[float, float, float, float]], shapes: list[Shape], regions: list[Region],
) -> None:  # fmt: skip
    """One arrow for all ways between two states, with a label for each that is put where nothing lies yet."""
    w, h = kit.px(BOX_W), kit.px(BOX_H)
    (x1, y1), (x2, y2) = places[start], places[end]
    a, b = (x1 + w / 2, y1 + h / 2), (x2 + w / 2, y2 + h / 2)
    to_stop = any(s.id == end and s.is_stop for s in drawn.machine.states)
    chosen = any(picked == InterlockPick("passages", p.id) for p in ways)
    ink = "breaks" if to_stop else "mute"
    if start == end:
        points = _loop(x1 + w, y1, kit)
    else:
        back = (end, start) in _pairs(drawn.machine)
        points = _straight(a, b, w, h, kit.px(6) if back else 0.0)
    shapes.append(Poly(tuple(points), ink, width=2.2 if chosen else 1.3))
    shapes.append(_head(points[-2], points[-1], kit, ink))
    for n, p in enumerate(ways):
        words = kit.cut(way_words(drawn, p), kit.px(150), "tiny", "figures")
        wide, high = kit.width(words, "tiny", "figures") + kit.px(6), kit.px(13)
        x, y = _free_spot(points, wide, high, n, taken)
        taken.append((x, y, wide, high))
        lit = picked == InterlockPick("passages", p.id)
        shapes.append(Box(x, y, wide, high, "soft" if lit else "card", radius=2))
        shapes.append(kit.figures(x + wide / 2, y + high / 2, words, "tiny", "breaks_text" if to_stop else "ink",
                                  anchor="middle"))  # fmt: skip
        names = drawn.machine.names
        said = f"{names[start]} → {names[end]}: {clause_words(drawn.machine, p)}"
        regions.append(Region(f"way {p.id}", x, y, wide, high, said, of=InterlockPick("passages", p.id)))


def _straight(
    a: tuple[float, float], b: tuple[float, float], w: float, h: float, aside: float
) -> list[tuple[float, float]]:  # fmt: skip
    """From border to border of two boxes, a little aside where another goes back."""
    dx, dy = b[0] - a[0], b[1] - a[1]
    long = math.hypot(dx, dy) or 1.0
    ox, oy = -dy / long * aside, dx / long * aside
    share = min(_edge(dx, w), _edge(dy, h), 0.49)
    return [(a[0] + dx * share + ox, a[1] + dy * share + oy), (b[0] - dx * share + ox, b[1] - dy * share + oy)]


def _edge(d: float, size: float) -> float:
    return size / 2 / abs(d) if abs(d) > 1e-6 else 1.0


def _loop(x: float, y: float, kit: Kit) -> list[tuple[float, float]]:
    r = kit.px(9)
    turns = [math.radians(200 - 290 * n / 10) for n in range(11)]
    return [(x - r * 0.2 + r * math.cos(t), y - r * math.sin(t)) for t in turns]


def _head(before: tuple[float, float], tip: tuple[float, float], kit: Kit, ink: str) -> Shape:
    turn = math.atan2(tip[1] - before[1], tip[0] - before[0])
    size = kit.px(7)
    wings = [(tip[0] - size * math.cos(turn + s), tip[1] - size * math.sin(turn + s)) for s in (0.42, -0.42)]
    return Poly((tip, *wings, tip), ink, ink)


def _free_spot(
    points: Sequence[tuple[float, float]], wide: float, high: float, n: int,
    taken: Sequence[tuple[float, float, float, float]],
) -> tuple[float, float]:  # fmt: skip
    """Where along an arrow a label covers nothing; else below the one before."""
    (x1, y1), (x2, y2) = points[0], points[-1]
    first = (0.0, 0.0)
    for k, t in enumerate(TRIES):
        x, y = x1 + (x2 - x1) * t - wide / 2, y1 + (y2 - y1) * t - high / 2
        first = (x, y) if k == 0 else first
        if not any(x < a + c and a < x + wide and y < b + d and b < y + high for a, b, c, d in taken):
            return x, y
    return first[0], first[1] + (n + 1) * high


def way_words(drawn: Drawn, p: Passage) -> str:
    """ "bump · 188 ms", "30 s" """
    if p.after_s is not None and not p.clauses:
        return f"{p.name} · after {show(p.after_s, 's')}" if p.name else f"after {show(p.after_s, 's')}"
    time = takes_s(p, drawn.chains)
    return f"{p.name} · {show(time, 's')}" if time else p.name


def clause_words(machine: Machine, p: Passage) -> str:
    """ "bump, or core full and not lifted, or after 20 s" """
    said = []
    for clause in p.clauses:
        parts = [f"{'not ' if x.is_not else ''}{machine.cues[x.cue].name}" for x in clause.parts]
        said.append(" and ".join(parts) or "always")
    if p.after_s is not None:
        said.append(f"after {show(p.after_s, 's')}")
    return ", or ".join(said) or "at once"
