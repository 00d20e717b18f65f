"""Down under a canopy."""

import math

from wired_union.physics.atmosphere import descent_rate, fall_time_s, standard_atmosphere
from wired_union.physics.shock import opening_shock
from wired_union.picture.shapes import Kit, Line, Poly, Shape
from wired_union.project.motion_model import CanopyLoad
from wired_union.subjects.motion.kind import LoadKind, Scene, known
from wired_union.subjects.motion.results import LoadResult, Row, check_of
from wired_union.subjects.motion.scale import blank
from wired_union.units import show


def carried(load: CanopyLoad, scene: Scene) -> LoadResult:
    canopy = scene.actuator.part.canopy if scene.actuator is not None else None
    mass = load.mass_kg or scene.mass_kg
    facts = {"speed_m_s": load.speed_m_s, "opening_m": load.opening_m, "ground_m": load.ground_m}
    if canopy is None or scene.actuator is None:
        return LoadResult(load, missing=("which parachute lets it down",), facts=facts)
    area = math.pi / 4 * canopy.diameter_m**2 * scene.actuator.count
    low, high = (standard_atmosphere(h).density_kg_m3 for h in (load.ground_m, load.opening_m))
    lands = descent_rate(mass, area, canopy.drag_coefficient, low).speed_m_s
    opens = descent_rate(mass, area, canopy.drag_coefficient, high).speed_m_s
    time = fall_time_s(mass, area, canopy.drag_coefficient, load.opening_m, load.ground_m)
    drift = load.wind_m_s * time
    shock = None
    if load.opening_speed_m_s is not None:
        shock = opening_shock(high, load.opening_speed_m_s, area, canopy.drag_coefficient, load.opening_factor).force_n
    missing: tuple[str, ...] = ()
    if load.most_shock_n is not None and shock is None:
        missing = (f"{load.name}: the speed at which it opens",)
    checks = known(
        check_of("opening shock", shock, load.most_shock_n, "N", extra=", as if nothing slowed down while it opens")
        if shock is not None and load.most_shock_n
        else None,
        check_of("landing speed", lands, load.speed_m_s, "m/s"),
        check_of("drift", drift, load.drift_m, "m") if load.drift_m else None,
    )
    rows = (Row("speed at the ground", show(lands, "m/s")), Row("falls under the open canopy at", show(opens, "m/s")),
            Row("on the way down", show(time, "s")), Row("drifts", show(drift, "m")),
            Row("mass that comes down", show(mass, "kg")),
            *((Row("pulls as it opens, at most", show(shock, "N")),) if shock is not None else ()))  # fmt: skip
    facts |= {"diameter_m": canopy.diameter_m, "lands_m_s": lands, "drift_m": drift, "time_s": time}
    return LoadResult(load, checks, rows, missing=missing, speed_m_s=lands, facts=facts, takes_s=(time, time))


def drawn(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    f = result.facts
    if "diameter_m" not in f:
        return blank(kit, "Say which parachute lets it down.")
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


KIND = LoadKind(
    CanopyLoad,
    "canopy",
    carried,
    drawn,
    asked=lambda load: f"reaches the ground at {show(load.speed_m_s, 'm/s')} or less",
    dragged=lambda _: {"opening_m": 3000.0},
    speed="at most",
    by_total_mass=lambda load: load.mass_kg is None,
    unused=lambda *_: frozenset({"ratio", "gear_efficiency", "mode", "motors"}),
)
