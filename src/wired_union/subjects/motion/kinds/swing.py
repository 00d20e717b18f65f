"""A pendulum or a leg, swung to and fro by a motor."""

import math

import numpy as np

from wired_union.physics.battery import Array
from wired_union.physics.turning import pendulum, swing_torques
from wired_union.picture.shapes import Kit, Line, Ring, Shape
from wired_union.project.motion_model import SwingLoad
from wired_union.subjects.motion.kind import (
    LoadKind,
    Scene,
    Torques,
    all_day,
    known,
    reflected,
    shared,
    sharing,
    with_others,
)
from wired_union.subjects.motion.results import LoadResult, Row, check_of, steady
from wired_union.subjects.motion.scale import Scale, arc, scale_bar
from wired_union.units import show

INSTANTS = 361
FRICTION = "Friction of its joint is not counted: at its own period it takes little but that."


def inertia_of(load: SwingLoad) -> float:
    """About the joint; an even rod's, twice as long as its centre is away, where nothing is given."""
    return load.inertia_kg_m2 or load.mass_kg * (2 * load.centre_m) ** 2 / 3


def _own(load: SwingLoad) -> tuple[float, float]:
    """Its own period, and the one it is swung with."""
    own = pendulum(load.mass_kg, load.centre_m, inertia_of(load), load.amplitude_deg).period_s
    return own, load.period_s or own


def _cycle(load: SwingLoad) -> tuple[Array, Array]:
    """Speed and torque over one to and fro."""
    period = _own(load)[1]
    return swing_torques(load.mass_kg, load.centre_m, inertia_of(load), load.amplitude_deg, period, INSTANTS)


def torques(load: SwingLoad, scene: Scene) -> Torques:
    """Of an even to and fro: the root of the mean square counts as usual."""
    _, torque = _cycle(load)
    return shared(load, scene, float(np.sqrt(np.mean(torque[:-1] ** 2))), float(np.abs(torque).max()))


def carried(load: SwingLoad, scene: Scene) -> LoadResult:
    inertia = inertia_of(load)
    swing = pendulum(load.mass_kg, load.centre_m, inertia, load.amplitude_deg)
    own, period = _own(load)
    speeds, torque = _cycle(load)
    rows = (Row("swings by itself in", show(own, "s")), Row("is swung in", show(period, "s")),
            Row("energy of a swing", show(swing.energy_j, "J")),
            Row("fastest", show(float(np.abs(speeds).max()), "rad/s")),
            Row("held at the end of its swing by", show(swing.holding_n_m, "N·m")), *sharing(load, scene))  # fmt: skip
    facts = {"centre_m": load.centre_m, "amplitude_deg": load.amplitude_deg, "most": float(np.abs(torque).max())}
    if scene.drive is None:
        return LoadResult(load, rows=rows, missing=scene.lacks, facts=facts)
    drive, needed = scene.drive, with_others(torques(load, scene), scene)
    share = needed.most_n_m / facts["most"] if facts["most"] > 0 else 0.0
    given = [max(drive.motor.speed_at(drive.sag_v, abs(t) * share), 0.0) / load.ratio for t in torque]
    uses = [abs(s) / g if g > 0 else (math.inf if s else 0.0) for s, g in zip(speeds, given, strict=True)]
    worst = int(np.argmax(uses))
    checks = known(
        check_of("torque", needed.most_n_m, drive.stall_n_m, "N·m"),
        check_of("speed", abs(float(speeds[worst])), given[worst], "rad/s"),
        all_day(scene, drive.motor.current_at(needed.usual_n_m)),
    )
    points = (drive.point("mean", needed.usual_n_m), drive.point("most", needed.most_n_m))
    return LoadResult(load, checks, rows, points, drive, facts=facts, takes_s=(period / 2, period / 2),
                      turning=(steady("swing", 1 / period),), notes=(FRICTION,))  # fmt: skip


def drawn(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    f = result.facts
    far, room = f["centre_m"], kit.px(30)
    scale = Scale(min(height - 2 * room, width * 0.4) / far, width * 0.36, room)
    shapes: list[Shape] = [arc(scale, far, -90 - f["amplitude_deg"], -90 + f["amplitude_deg"], "line", 1.4)]
    for angle, ink, thick in (
        (-f["amplitude_deg"], "unknown", 3.0),
        (0.0, "unknown", 3.0),
        (f["amplitude_deg"], "ink", 6.0),
    ):
        a = math.radians(angle)
        end = scale.at(far * math.sin(a), -far * math.cos(a))
        shapes += [Line(*scale.at(0, 0), *end, ink, thick), Ring(*end, kit.px(6), ink, 1.0, (), ink)]
    x, y = scale.at(0, 0)
    shapes.append(Ring(x, y, kit.px(8), "copper", 1.0, (), "copper"))
    shapes.append(kit.figures(x + 16, y + 4, show(f["most"], "N·m"), "small", "copper", bold=True))
    a = math.radians(f["amplitude_deg"])
    px, py = scale.at(far * 1.12 * math.sin(a), -far * 1.12 * math.cos(a))
    shapes.append(
        kit.figures(min(px, width - kit.px(60)), max(py, kit.px(12)), f"{f['amplitude_deg']:g}°", "small", "mute")
    )
    return [*shapes, *scale_bar(kit, scale.px, height)]


KIND = LoadKind(
    SwingLoad,
    "pendulum or leg",
    carried,
    drawn,
    asked=lambda load: f"{show(load.mass_kg, 'kg')}, {load.amplitude_deg:g}° either way",
    dragged=lambda _: {"amplitude_deg": 170.0, "mass_kg": 2.0},
    torques=torques,
    sets_current=True,
    inertia=lambda load, scene: reflected(load, scene, inertia_of(load)),
)
