"""A body turned by a reaction wheel."""

import math

from wired_union.physics.turning import reaction_wheel_slew
from wired_union.picture.shapes import Kit, Line, Ring, Shape
from wired_union.project.motion_model import SlewLoad
from wired_union.subjects.motion.kind import LoadKind, Scene
from wired_union.subjects.motion.results import LoadResult, Row, check_of, steady
from wired_union.subjects.motion.scale import Scale, arc
from wired_union.units import show


def carried(load: SlewLoad, scene: Scene) -> LoadResult:
    fly = scene.actuator.part.flywheel if scene.actuator is not None else None
    facts = {"angle_deg": load.angle_deg, "time_s": load.time_s}
    if fly is None:
        return LoadResult(load, missing=("which reaction wheel turns it",), facts=facts)
    need = reaction_wheel_slew(load.body_inertia_kg_m2, load.angle_deg, load.time_s, fly.inertia_kg_m2)
    checks = (
        check_of("torque", need.torque_n_m, fly.max_torque_n_m, "N·m"),
        check_of("wheel speed", need.wheel_speed_change_rad_s, fly.max_speed_rad_s, "rad/s"),
    )
    rows = (Row("torque", show(need.torque_n_m, "N·m")), Row("momentum", f"{need.momentum_n_m_s:.3g}\u202fN·m·s"),
            Row("wheel speeds up by", show(need.wheel_speed_change_rad_s, "rad/s")))  # fmt: skip
    return LoadResult(load, checks, rows, facts=facts,
                      turning=(steady("reaction wheel", need.wheel_speed_change_rad_s / (2 * math.pi)),))  # fmt: skip


def drawn(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    angle = min(result.facts["angle_deg"], 350.0)
    scale = Scale(1.0, width * 0.4, height * 0.5)
    r = height * 0.3
    return [
        Ring(*scale.at(0, 0), r, "line", 1.4, ()),
        arc(scale, r, 90, 90 - angle, "copper", 3.0),
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


KIND = LoadKind(
    SlewLoad,
    "reaction wheel",
    carried,
    drawn,
    asked=lambda load: f"{load.angle_deg:g}° in {show(load.time_s, 's')}",
    dragged=lambda _: {"angle_deg": 180.0},
    unused=lambda *_: frozenset({"ratio", "gear_efficiency", "motors"}),
)
