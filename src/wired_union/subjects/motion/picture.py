"""What must move, drawn to scale from its numbers: a wheel at a step, an arm, a screw, a spring, a canopy."""

import math
from collections.abc import Callable

from msgspec import Struct

from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Ring, Shape, kept_inside, shifted
from wired_union.picture.wire import wire
from wired_union.subjects.motion.results import LoadResult
from wired_union.units import show

CARD_H = 86.0
KIND_WORDS = {
    "wheels": "wheels or tracks",
    "arm": "arm on a joint",
    "drum": "lift on a drum",
    "screw": "screw",
    "spin": "launcher wheel or roller",
    "stored": "stored energy",
    "slew": "reaction wheel",
    "canopy": "canopy",
    "flap": "flap in air",
}


def load_card(result: LoadResult, kit: Kit, width: float, *, selected: bool) -> Picture:
    """One load in the list: what it is, what is asked, and its wire."""
    h = kit.px(CARD_H)
    load, verdict = result.load, result.verdict
    left, right = kit.px(11), width - kit.px(11)
    shapes: list[Shape] = [
        Box(0.75, 0.75, width - 1.5, h - 1.5, "card", "ink" if selected else "line", 4, 2.0 if selected else 1.0),
        kit.words(left, h * 0.18, kit.cut(load.name, right - left - kit.px(54), "base", bold=True), "base", bold=True),
        kit.figures(right, h * 0.18, verdict.value, "small", f"{verdict.value}_text", bold=True, anchor="end"),
        kit.words(left, h * 0.40, kit.cut(asked(result), right - left, "small"), "small", "mute"),
        kit.words(left, h * 0.58, kit.cut(_nearest(result), right - left, "small"), "small", "mute"),
    ]
    shapes += shifted(wire(result.use, verdict, right - left, h * 0.81), left, 0)
    return Picture(width, h, tuple(shapes))


def asked(result: LoadResult) -> str:
    """What is asked of a load, in a few words."""
    load = result.load
    texts = {
        "wheels": lambda: f"{load.slope_deg:g}° slope · {show(load.step_m, 'm')} step",  # type: ignore[union-attr]
        "arm": lambda: f"{show(load.payload_kg, 'kg')} at {show(load.reach_m, 'm')}",  # type: ignore[union-attr]
        "drum": lambda: f"lifts {show(load.payload_kg, 'kg')}",  # type: ignore[union-attr]
        "screw": lambda: f"{show(load.force_n, 'N')} over {show(load.stroke_m, 'm')}",  # type: ignore[union-attr]
        "spin": lambda: f"{show(load.shot_mass_kg, 'kg')} at {show(load.release_speed_m_s, 'm/s')}",  # type: ignore[union-attr]
        "stored": lambda: f"{show(load.mass_kg, 'kg')} at {show(load.release_speed_m_s, 'm/s')}",  # type: ignore[union-attr]
        "slew": lambda: f"{load.angle_deg:g}° in {show(load.time_s, 's')}",  # type: ignore[union-attr]
        "canopy": lambda: f"lands at {show(load.speed_m_s, 'm/s')} or less",  # type: ignore[union-attr]
        "flap": lambda: f"{show(load.air_speed_m_s, 'm/s')} of air",  # type: ignore[union-attr]
    }
    return texts[load.kind]()


def _nearest(result: LoadResult) -> str:
    if result.missing:
        return f"lacks {result.missing[0]}"
    worst = result.worst
    return f"{worst.name}: {worst.said}" if worst is not None else KIND_WORDS[result.load.kind]


class _Scale(Struct, frozen=True):
    """Metres to pixels: x to the right, y up, about an origin."""

    px: float
    x0: float
    y0: float

    def at(self, x: float, y: float) -> tuple[float, float]:
        return self.x0 + x * self.px, self.y0 - y * self.px


def drawing(result: LoadResult, kit: Kit, width: float, height: float) -> Picture:
    """The mechanics of a load to scale, with its forces."""
    shapes = _DRAWN[result.load.kind](result, kit, width, height)
    return Picture(width, height, kept_inside(shapes, kit, width))


def _arrow(x1: float, y1: float, x2: float, y2: float, ink: str) -> list[Shape]:
    angle = math.atan2(y2 - y1, x2 - x1)
    heads = [(x2 - 8 * math.cos(angle + s), y2 - 8 * math.sin(angle + s)) for s in (0.45, -0.45)]
    return [Line(x1, y1, x2, y2, ink, 2.0), Poly((heads[0], (x2, y2), heads[1]), ink, ink, 1.0)]


def _arc(scale: _Scale, radius: float, start_deg: float, end_deg: float, ink: str, width: float = 2.0) -> Poly:
    steps = 24
    angles = [math.radians(start_deg + (end_deg - start_deg) * k / steps) for k in range(steps + 1)]
    return Poly(tuple(scale.at(radius * math.cos(a), radius * math.sin(a)) for a in angles), ink, width=width)


def _scale_bar(kit: Kit, px_per_m: float, height: float) -> list[Shape]:
    """A length to judge by, so that "to scale" can be checked."""
    length = next((s for s in (1.0, 0.5, 0.2, 0.1, 0.05, 0.02, 0.01) if s * px_per_m <= kit.px(110)), 0.01)
    y, x = height - kit.px(8), kit.px(2)
    return [
        Line(x, y, x + length * px_per_m, y, "mute", 1.4),
        Line(x, y - 3, x, y + 3, "mute"),
        Line(x + length * px_per_m, y - 3, x + length * px_per_m, y + 3, "mute"),
        kit.figures(x + length * px_per_m + 6, y, show(length, "m"), "small", "mute"),
    ]


def _wheels(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    facts = result.facts
    r = facts.get("radius_m")
    if r is None:
        return _blank(kit, "Say which wheel it runs on.")
    step, slope = min(facts["step_m"], r * 1.4), math.radians(facts["slope_deg"])
    scale = _Scale(min(height * 0.30, width * 0.2) / r, width * 0.42, height * 0.52)

    def turned(x: float, y: float) -> tuple[float, float]:
        return scale.at(x * math.cos(slope) - y * math.sin(slope), x * math.sin(slope) + y * math.cos(slope))

    edge = math.sqrt(max(step * (2 * r - step), 0.0)) if step < r else r
    ground = [turned(-2.2 * r, -r), turned(edge, -r), turned(edge, -r + step), turned(2.3 * r, -r + step)]
    shapes: list[Shape] = [
        Poly(tuple(ground), "ink", width=2.0),
        Ring(*scale.at(0, 0), r * scale.px, "ink", 2.0, (), "soft"),
        Ring(*scale.at(0, 0), r * scale.px * 0.72, "line", 1.2, ()),
        Ring(*scale.at(0, 0), kit.px(10), "copper", 1.0, (), "copper"),
    ]
    shapes.append(_arc(scale, r * 0.5, 200, 60, "copper"))
    cx, cy = scale.at(0, 0)
    shapes += _arrow(cx, cy, cx, cy + r * scale.px * 0.78, "slate")
    shapes.append(
        kit.figures(
            cx - kit.px(8),
            cy + r * scale.px * 0.72,
            show(facts["weight_n"], "N"),
            "small",
            "slate",
            bold=True,
            anchor="end",
        )
    )
    if step:
        shapes.append(Line(cx, cy, *turned(edge, -r + step), "ink", 1.2, (4.0, 3.0)))
        text = show(facts["step_m"], "m")
        shapes.append(kit.figures(*turned(edge + 0.12 * r, -r + step / 2), f" {text} step", "small", "ink"))
    shapes.append(
        kit.figures(
            scale.at(-1.25 * r, 0)[0],
            cy - r * scale.px * 0.5,
            show(facts["torque_n_m"], "N·m"),
            "small",
            "copper",
            bold=True,
            anchor="end",
        )
    )
    shapes.append(kit.figures(*turned(1.3 * r, -1.32 * r), f"{facts['slope_deg']:g}° slope", "small", "mute"))
    return [*shapes, *_scale_bar(kit, scale.px, height)]


def _arm(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    f = result.facts
    scale = _Scale(min(width * 0.42, height * 0.42) / f["reach_m"], width * 0.3, height * 0.55)
    shapes: list[Shape] = [_arc(scale, f["reach_m"], f["from_deg"], f["to_deg"], "line", 1.4)]
    for angle, ink, thick in (
        (f["from_deg"], "unknown", 3.0),
        (f["to_deg"], "unknown", 3.0),
        (f["angle_deg"], "ink", 6.0),
    ):
        a = math.radians(angle)
        end = scale.at(f["reach_m"] * math.cos(a), f["reach_m"] * math.sin(a))
        shapes.append(Line(*scale.at(0, 0), *end, ink, thick))
    a = math.radians(f["angle_deg"])
    x, y = scale.at(f["reach_m"] * math.cos(a), f["reach_m"] * math.sin(a))
    shapes += _arrow(x, y, x, y + kit.px(42), "slate")
    shapes.append(kit.figures(x + 8, y + kit.px(30), show(f["payload_kg"] * 9.80665, "N"), "small", "slate", bold=True))
    shapes.append(Ring(*scale.at(0, 0), kit.px(9), "copper", 1.0, (), "copper"))
    x0, y0 = scale.at(0, 0)
    shapes.append(
        kit.figures(x0 - 14, y0 - 12, show(f["torque_n_m"], "N·m"), "small", "copper", bold=True, anchor="end")
    )
    for angle in (f["from_deg"], f["to_deg"]):
        a = math.radians(angle)
        px, py = scale.at(f["reach_m"] * 1.08 * math.cos(a), f["reach_m"] * 1.08 * math.sin(a))
        shapes.append(kit.figures(px, py, f"{angle:g}°", "small", "mute"))
    return [*shapes, *_scale_bar(kit, scale.px, height)]


def _drum(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    f = result.facts
    r = f["diameter_m"] / 2
    px = height * 0.18 / r
    scale = _Scale(px, width * 0.4, height * 0.3)
    x, y = scale.at(r, 0)
    shapes: list[Shape] = [
        Ring(*scale.at(0, 0), r * px, "ink", 2.0, (), "soft"),
        Ring(*scale.at(0, 0), kit.px(6), "copper", 1.0, (), "copper"),
        Line(x, y, x, height * 0.7, "ink", 1.6),
        Box(x - kit.px(20), height * 0.7, kit.px(40), kit.px(24), "slate_soft", "slate", 2),
    ]
    shapes.append(
        kit.figures(x + kit.px(28), height * 0.7 + kit.px(12), show(f["force_n"], "N"), "small", "slate", bold=True)
    )
    return [*shapes, *_scale_bar(kit, px, height)]


def _screw(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    f = result.facts
    length = f["stroke_m"] * 1.35
    px = min(width * 0.72 / length, height * 4 / length)
    scale = _Scale(px, width * 0.12, height * 0.45)
    d = max(f["diameter_m"] * px, kit.px(8))
    x0, y0 = scale.at(0, 0)
    x1 = x0 + length * px
    shapes: list[Shape] = [
        Box(x0 - kit.px(34), y0 - kit.px(16), kit.px(34), kit.px(32), "copper_soft", "copper", 3),
        Box(x0, y0 - d / 2, x1 - x0, d, "soft", "ink", 1),
    ]
    turns = min(max(round(length / f["lead_m"]), 8), 70)
    for k in range(turns):
        x = x0 + (x1 - x0) * (k + 0.5) / turns
        shapes.append(Line(x - 2, y0 + d / 2, x + 2, y0 - d / 2, "mute", 1.0))
    nut = x0 + (x1 - x0) * 0.55
    shapes.append(Box(nut - kit.px(13), y0 - d / 2 - kit.px(9), kit.px(26), d + kit.px(18), "slate_soft", "slate", 3))
    shapes += _arrow(nut + kit.px(90), y0 - d / 2 - kit.px(20), nut + kit.px(18), y0 - d / 2 - kit.px(20), "slate")
    shapes.append(
        kit.figures(nut + kit.px(94), y0 - d / 2 - kit.px(20), show(f["force_n"], "N"), "small", "slate", bold=True)
    )
    y = y0 + d / 2 + kit.px(24)
    end = x0 + f["stroke_m"] * px
    shapes += [
        Line(x0, y, end, y, "mute", 1.2),
        Line(x0, y - 4, x0, y + 4, "mute"),
        Line(end, y - 4, end, y + 4, "mute"),
        kit.figures(
            (x0 + end) / 2, y + kit.px(11), f"stroke {show(f['stroke_m'], 'm')}", "small", "mute", anchor="middle"
        ),
    ]
    return [*shapes, *_scale_bar(kit, px, height)]


def _spin(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    f = result.facts
    r = f["diameter_m"] / 2
    px = height * 0.3 / r
    scale = _Scale(px, width * 0.4, height * 0.45)
    x, y = scale.at(0, r)
    shapes: list[Shape] = [
        Ring(*scale.at(0, 0), r * px, "ink", 2.0, (), "soft"),
        _arc(scale, r * 0.6, 200, 60, "copper"),
        Ring(x, y - kit.px(9), kit.px(8), "slate", 1.4, (), "slate_soft"),
    ]
    shapes += _arrow(x + kit.px(10), y - kit.px(9), x + kit.px(80), y - kit.px(9), "slate")
    shapes.append(kit.figures(x + kit.px(86), y - kit.px(9), show(f["speed_m_s"], "m/s"), "small", "slate", bold=True))
    shapes.append(
        kit.figures(*scale.at(0, 0), show(f["turn_rad_s"], "rad/s"), "small", "copper", bold=True, anchor="middle")
    )
    return [*shapes, *_scale_bar(kit, px, height)]


def _stored(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    """The store and the motor for the same task, one above the other, each as long as the speed it gives."""
    f = result.facts
    if "speed_m_s" not in f:
        return _blank(kit, "Say which spring, elastic or tank stores the energy.")
    wanted = float(result.load.release_speed_m_s)  # type: ignore[union-attr]
    rows = [("stored", f["speed_m_s"], "moss"), ("wanted", wanted, "ink")]
    if "direct_m_s" in f:
        rows += [("motor alone", f["direct_m_s"], "copper"), ("motor brakes from", f["brake_m_s"], "breaks")]
    most = max(v for _, v, _ in rows)
    left, row = kit.px(104), kit.px(26)
    top = height * 0.40
    coils = 14
    spring_w = width * 0.34
    y = height * 0.18
    points = [(left + spring_w * k / coils, y + (kit.px(10) if k % 2 else -kit.px(10))) for k in range(coils + 1)]
    end = left + spring_w
    shapes: list[Shape] = [
        Line(left, y - kit.px(16), left, y + kit.px(16), "ink", 3.0),
        Poly(tuple(points), "moss", width=2.0),
        Box(end, y - kit.px(13), kit.px(26), kit.px(26), "slate_soft", "slate", 3),
    ]
    shapes += _arrow(end + kit.px(30), y, end + kit.px(60), y, "slate")
    said = f"{show(f['energy_j'], 'J')} over {show(f['travel_m'], 'm')}"
    shapes.append(kit.figures(left - kit.px(8), y, said, "small", "ink", bold=True, anchor="end"))
    for k, (name, speed, ink) in enumerate(rows):
        at = top + row * k
        length = (width - left - kit.px(80)) * speed / most
        shapes += [
            kit.words(0, at, name, "small"),
            Box(left, at - kit.px(7), max(length, 1.5), kit.px(14), ink, radius=1.5),
            kit.figures(left + length + 6, at, show(speed, "m/s"), "base", bold=True),
        ]
    return shapes


def _slew(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    angle = min(result.facts["angle_deg"], 350.0)
    scale = _Scale(1.0, width * 0.4, height * 0.5)
    r = height * 0.3
    return [
        Ring(*scale.at(0, 0), r, "line", 1.4, ()),
        _arc(scale, r, 90, 90 - angle, "copper", 3.0),
        Line(*scale.at(0, 0), *scale.at(0, r), "unknown", 2.0, (4.0, 3.0)),
        Line(
            *scale.at(0, 0), *scale.at(r * math.sin(math.radians(angle)), r * math.cos(math.radians(angle))), "ink", 2.4
        ),
        Ring(*scale.at(0, 0), kit.px(15), "plum", 1.6, (), "plum_soft"),
        kit.figures(
            *scale.at(r + 10, r * 0.4),
            f"{result.facts['angle_deg']:g}° in {show(result.facts['time_s'], 's')}",
            "small",
            "copper",
            bold=True,
        ),
    ]


def _canopy(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    f = result.facts
    if "diameter_m" not in f:
        return _blank(kit, "Say which parachute lets it down.")
    drop = max(f["opening_m"] - f["ground_m"], 1.0)
    span = max(f["drift_m"], drop * 0.4)
    px = min((height - kit.px(52)) / drop, width * 0.6 / span)
    ground, x0 = height - kit.px(22), width * 0.18
    start = (x0, ground - drop * px)
    end = (x0 + f["drift_m"] * px, ground)
    dome = [
        (start[0] + kit.px(22) * math.cos(math.radians(a)), start[1] - kit.px(16) * math.sin(math.radians(a)))
        for a in range(0, 181, 12)
    ]
    shapes: list[Shape] = [
        Line(0, ground, width, ground, "ink", 1.6),
        Line(*start, *end, "slate", 1.6, (5.0, 4.0)),
        Poly(tuple(dome), "plum", "plum_soft", 1.6),
        Line(start[0] - kit.px(22), start[1], *_below(kit, start), "mute"),
        Line(start[0] + kit.px(22), start[1], *_below(kit, start), "mute"),
    ]
    shapes += [
        kit.figures(start[0] + kit.px(30), start[1], f"opens at {show(f['opening_m'], 'm')}", "small", "ink"),
        kit.figures(
            (x0 + end[0]) / 2,
            ground + kit.px(12),
            f"drifts {show(f['drift_m'], 'm')} in {show(f['time_s'], 's')}",
            "small",
            "mute",
            anchor="middle",
        ),
        kit.figures(end[0] + kit.px(8), ground - kit.px(14), show(f["lands_m_s"], "m/s"), "small", "slate", bold=True),
    ]
    return shapes


def _below(kit: Kit, start: tuple[float, float]) -> tuple[float, float]:
    return start[0], start[1] + kit.px(22)


def _flap(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    f = result.facts
    most = max(f["drag_n"], f["weight_n"])
    x, y, room = width * 0.4, height * 0.5, height * 0.34
    shapes: list[Shape] = [Line(x - kit.px(60), y, x + kit.px(60), y, "ink", 5.0)]
    shapes += _arrow(x + kit.px(14), y, x + kit.px(14), y - room * f["drag_n"] / most, "copper")
    shapes += _arrow(x - kit.px(14), y, x - kit.px(14), y + room * f["weight_n"] / most, "slate")
    shapes += [
        kit.figures(x + kit.px(24), y - room * 0.6, f"drag {show(f['drag_n'], 'N')}", "small", "copper", bold=True),
        kit.figures(
            x - kit.px(24),
            y + room * 0.6,
            f"weight {show(f['weight_n'], 'N')}",
            "small",
            "slate",
            bold=True,
            anchor="end",
        ),
    ]
    return shapes


def _blank(kit: Kit, text: str) -> list[Shape]:
    return [kit.words(0, kit.px(14), text, "small", "mute")]


_DRAWN: dict[str, Callable[[LoadResult, Kit, float, float], list[Shape]]] = {
    "wheels": _wheels,
    "arm": _arm,
    "drum": _drum,
    "screw": _screw,
    "spin": _spin,
    "stored": _stored,
    "slew": _slew,
    "canopy": _canopy,
    "flap": _flap,
}
