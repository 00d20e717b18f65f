"""A motor under its load: speed, current, efficiency against torque; and the spiral."""

from collections.abc import Callable, Sequence

from wired_union.physics.stepper import StepperConstants
from wired_union.picture.axis import ticks
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Region, Ring, Shape, kept_inside
from wired_union.subjects.motion.results import Drive, LoadResult, Point
from wired_union.subjects.motion.spiral import Spiral
from wired_union.units import show

POINTS = 60
Place = Callable[[float, float], tuple[float, float]]
"""(torque at the motor, speed of the motor) to pixels."""


def motor_chart(result: LoadResult, kit: Kit, width: float, height: float) -> Picture:
    """Torque at the load along, speed up; current and efficiency as shares of their most. Regions are "point:N"."""
    drive, ratio, gear = result.drive, result.load.ratio, result.load.torque_ratio
    if drive is None:
        words = kit.words(0, 14, "No motor yet: the chart needs its torque, speed and currents.", "small", "mute")
        return Picture(width, height, (words,))
    left, right, top, bottom = kit.px(50), width - kit.px(20), kit.px(20), height - kit.px(34)
    stall, free = drive.motor.stall_torque_at(drive.nominal_v), drive.motor.speed_at(drive.nominal_v, 0.0)
    most_t, most_w = stall * gear * 1.06, free / ratio * 1.1

    def at(torque_n_m: float, speed_rad_s: float) -> tuple[float, float]:
        return left + (right - left) * torque_n_m * gear / most_t, bottom - (
            bottom - top
        ) * speed_rad_s / ratio / most_w

    shapes = _bands(drive, stall, at, top, bottom, kit)
    shapes += _axes(kit, (left, right, top, bottom), most_t, most_w)
    shapes += _curves(drive, stall, free, at, kit, [at(p.torque_n_m, 0)[0] for p in result.points])
    regions = []
    named: dict[tuple[int, int], str] = {}  # points that lie on each other share one label
    for k, point in enumerate(result.points):
        if point.speed_rad_s < 0 or point.torque_n_m > stall:
            continue
        x, y = at(point.torque_n_m, point.speed_rad_s)
        shapes += [Line(x, y, x, bottom, "ink", 1.2, (2.0, 3.0)), Ring(x, y, kit.px(5), "ink", 2.0, (), "card")]
        spot = next(
            (s for s in named if abs(s[0] - x) < kit.px(10) and abs(s[1] - y) < kit.px(10)), (round(x), round(y))
        )
        named[spot] = f"{named[spot]}, {point.name}" if spot in named else point.name
        regions.append(Region(f"point:{k}", x - 9, y - 9, 18, 18, _point_words(point, ratio)))
    shapes += [kit.words(x + kit.px(8), y - kit.px(9), name, "small", bold=True) for (x, y), name in named.items()]
    return Picture(width, height, kept_inside(shapes, kit, width), tuple(regions))


def _point_words(point: Point, ratio: float) -> str:
    return (
        f"{point.name}: {show(point.torque_n_m * ratio, 'N·m')}, {show(point.speed_rad_s / ratio, 'rad/s')},"
        f" {show(point.current_a, 'A')}"
    )


def _axes(kit: Kit, frame: tuple[float, float, float, float], most_t: float, most_w: float) -> list[Shape]:
    """Torque along, speed up, in a frame (left, right, top, bottom)."""
    left, right, top, bottom = frame
    shapes: list[Shape] = [Line(left, bottom, right, bottom, "mute"), Line(left, top, left, bottom, "mute")]
    for value in ticks(0, most_t, 6):
        x = left + (right - left) * value / most_t
        shapes.append(Line(x, bottom, x, bottom + 4, "mute"))
        shapes.append(kit.figures(x, bottom + kit.px(12), show(value, "N·m"), "small", "mute", anchor="middle"))
    for value in ticks(0, most_w, 5):
        y = bottom - (bottom - top) * value / most_w
        shapes.append(Line(left - 4, y, left, y, "mute"))
        shapes.append(kit.figures(left - 7, y, f"{value:g}", "small", "mute", anchor="end"))
    shapes.append(kit.words(0, kit.px(8), "speed, rad/s", "small"))
    shapes.append(kit.words(right, bottom + kit.px(26), "torque at the load", "small", anchor="end"))
    return shapes


def _bands(drive: Drive, stall: float, at: Place, top: float, bottom: float, kit: Kit) -> list[Shape]:
    """What it carries all day, and for a while: up to the continuous current, and up to twice it."""
    motor = drive.motor
    edges = [stall, stall]  # a stepper's rated current is one that it carries all day
    if not isinstance(motor, StepperConstants):
        warm = [drive.continuous_a, 2 * drive.continuous_a]
        edges = [max(min((a - motor.no_load_current_a) * motor.torque_n_m_per_a, stall), 0.0) for a in warm]
    x0, x1, x2 = at(0, 0)[0], at(edges[0], 0)[0], at(edges[1], 0)[0]
    shapes: list[Shape] = [
        Box(x0, top, x1 - x0, bottom - top, "soft"),
        Box(x1, top, x2 - x1, bottom - top, "tight_soft"),
    ]
    for x, wide, text, ink in (
        (x0, x1 - x0, "all day", "holds_text"),
        (x1, x2 - x1, "short spells", "tight_text"),
    ):
        words = kit.cut(text, wide - kit.px(10), "small", bold=True)
        shapes.append(kit.words(x + kit.px(6), top + kit.px(9), words, "small", ink, bold=True))
    return shapes


def _curves(drive: Drive, stall: float, free: float, at: Place, kit: Kit, points_x: Sequence[float]) -> list[Shape]:
    line, sagged = (drive.motor.curve(max(v, 0.0), POINTS) for v in (drive.nominal_v, drive.sag_v))
    shapes: list[Shape] = [
        Poly(tuple(at(t, w) for t, w in line), "copper", width=2.4),
        Poly(tuple(at(max(t, 0.0), max(w, 0.0)) for t, w in sagged), "copper", width=1.6, dash=(6.0, 4.0)),
    ]
    most_a = drive.stall_a
    current = [at(t, free * drive.motor.current_at(t) / most_a) for t in (0.0, stall)]
    shapes.append(Poly(tuple(current), "plum", width=1.6))
    shapes.append(
        kit.words(
            current[1][0] - kit.px(4),
            current[1][1] - kit.px(10),
            f"current, {show(most_a, 'A')}",
            "small",
            "plum",
            anchor="end",
        )
    )
    curve = []
    for k in range(POINTS + 1):
        torque = stall * k / POINTS
        speed = drive.motor.speed_at(drive.nominal_v, torque)
        taken_w = drive.motor.power_at(drive.nominal_v, torque, speed)
        share = torque * speed / taken_w if taken_w > 0 else 0.0
        curve.append((at(torque, free * max(share, 0.0)), share))
    best = max(curve, key=lambda c: c[1])
    shapes.append(Poly(tuple(p for p, _ in curve), "moss", width=1.6))
    words = f"efficiency ≤ {show(best[1], 'share')}"
    x, y = _clear_of([p for p, _ in curve], best[0], points_x, kit.width(words, "small"), kit.px(6))
    shapes.append(kit.words(x, y - kit.px(9), words, "small", "moss"))
    x, y = at(stall * 0.86, free * 0.14)
    if drive.steps:
        y -= kit.px(14)
    shapes.append(kit.words(x + kit.px(6), y - kit.px(6), "speed", "small", "copper", bold=True))
    return shapes


def _clear_of(
    curve: Sequence[tuple[float, float]], best: tuple[float, float], points_x: Sequence[float], wide: float, gap: float
) -> tuple[float, float]:
    """Where words of a width start, above a curve and near its best, so that no line of a point crosses them."""
    clear = [x for x, _ in curve if x + wide < curve[-1][0] and not any(x - gap < p < x + wide + gap for p in points_x)]
    start = min(clear, key=lambda x: abs(x + wide / 2 - best[0]), default=best[0])
    return start, min((y for x, y in curve if start <= x <= start + wide), default=best[1])


def spiral_picture(found: Spiral, kit: Kit, width: float, height: float) -> Picture:
    """Mass round by round."""
    rounds = found.rounds[: max(min(found.count + 2, 9), 3)]
    left, right, top, bottom = kit.px(6), width - kit.px(10), kit.px(16), height - kit.px(18)
    low, high = min(rounds), max(rounds)
    span = (high - low) or 1.0

    def at(k: int, m: float) -> tuple[float, float]:
        return left + (right - left) * k / (len(rounds) - 1), bottom - (bottom - top) * (m - low) / span

    shapes: list[Shape] = [Line(left, bottom + 4, right, bottom + 4, "line")]
    shapes.append(Poly(tuple(at(k, m) for k, m in enumerate(rounds)), "slate", width=1.8))
    for k, m in enumerate(rounds):
        shapes.append(Ring(*at(k, m), kit.px(3), "slate", 1.0, (), "slate"))
        shapes.append(kit.figures(at(k, m)[0], bottom + kit.px(13), str(k), "small", "mute", anchor="middle"))
    shapes.append(
        kit.figures(left + kit.px(12), at(0, rounds[0])[1] - kit.px(5), show(rounds[0], "kg"), "small", "mute")
    )
    shapes.append(
        kit.figures(right, at(0, rounds[-1])[1] - kit.px(9), show(rounds[-1], "kg"), "small", bold=True, anchor="end")
    )
    return Picture(width, height, kept_inside(shapes, kit, width))


def spiral_words(found: Spiral) -> str:
    """Where the spiral settles, or that it does not."""
    each = f"Each kilogram asks for {show(found.growth, 'kg')} more of motor and pack."
    if found.settles_kg is None:
        return f"It does not settle: every round is heavier than the last. {each} Another way of moving is needed."
    settles = f"settles after {found.count} rounds at {show(found.settles_kg, 'kg')}"
    return f"Heavier motors, heavier pack, heavier machine: {settles}. {each}"
