"""A body in air or water that turns the right way by itself: its centre of mass against where the pressure acts."""

import math

from wired_union.picture.shapes import Kit, Line, Ring, Shape
from wired_union.project.motion_model import SteadyLoad
from wired_union.subjects.motion.kind import LoadKind, Scene, known
from wired_union.subjects.motion.results import LoadResult, Row, check_of
from wired_union.subjects.motion.scale import Scale, arrow, scale_bar
from wired_union.units import show


def carried(load: SteadyLoad, scene: Scene) -> LoadResult:
    """What lifts must be above, and what drags behind, the centre of mass wherever that may be. Source: statics."""
    if scene.centre is None:
        return LoadResult(load, missing=scene.centre_lacks or ("where the centre of mass is",), impossible=True)
    low, high = scene.centre.low, scene.centre.high
    ahead = load.acts == "stream from ahead"
    lever = low[0] - load.pressure_x_m if ahead else load.pressure_z_m - high[2]
    beside = [(load.pressure_y_m, 1), (load.pressure_z_m, 2) if ahead else (load.pressure_x_m, 0)]
    aside = math.hypot(*(max(abs(at - low[k]), abs(high[k] - at)) for at, k in beside))
    lean = math.degrees(math.atan2(aside, lever)) if lever > 0 else 180.0
    words = "behind" if ahead else "above"
    rows = [Row(f"acts {words} its centre of mass by", show(lever, "m")),
            Row("hangs askew by, at most", show(lean, "°"))]  # fmt: skip
    if lever < load.righting_m:
        way = "come forward by" if ahead else "come down by"
        rows.append(Row(f"its centre of mass must {way}", show(load.righting_m - lever, "m"), "breaks"))
    checks = known(
        check_of("righting", load.righting_m, lever, "m", extra=f" {words} its centre of mass"),
        check_of("lean", lean, load.most_lean_deg, "°") if load.most_lean_deg is not None else None,
    )
    middle = [(a + b) / 2 for a, b in zip(low, high, strict=True)]
    facts = {"lever_m": lever, "aside_m": load.pressure_y_m - middle[1], "ahead": float(ahead)}
    return LoadResult(load, checks, tuple(rows), facts=facts)


def drawn(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    """The centre of mass with its weight or its way, and where the pressure acts."""
    f = result.facts
    far = max(abs(f["lever_m"]), abs(f["aside_m"]), 0.01)
    room = min(height - kit.px(90), width * 0.4)
    scale = Scale(room / (2 * far), width * 0.34, height / 2)
    ahead = bool(f["ahead"])
    spot = (-f["lever_m"] / 2, f["aside_m"]) if ahead else (f["aside_m"], f["lever_m"] / 2)
    mass = (f["lever_m"] / 2, 0.0) if ahead else (0.0, -f["lever_m"] / 2)
    (px, py), (mx, my) = scale.at(*spot), scale.at(*mass)
    shapes: list[Shape] = [Line(mx, my, px, py, "line", 2.0, (4.0, 3.0))]
    long = kit.px(34)
    shapes += arrow(px, py, px - long, py, "copper") if ahead else arrow(px, py, px, py - long, "copper")
    shapes += arrow(mx, my, mx + long, my, "slate") if ahead else arrow(mx, my, mx, my + long, "slate")
    for x, y, name, ink in ((px, py, "pressure", "copper"), (mx, my, "centre of mass", "slate")):
        shapes.append(Ring(x, y, kit.px(5), ink, 1.4, (), ink))
        shapes.append(kit.words(x + kit.px(12), y + kit.px(12), name, "small", ink))
    return [*shapes, *scale_bar(kit, scale.px, height)]


KIND = LoadKind(
    SteadyLoad,
    "body that rights itself",
    carried,
    drawn,
    asked=lambda load: f"by {load.acts}, {show(load.righting_m, 'm')} or more",
    dragged=lambda load: {"pressure_x_m": 1.0} if load.facts.get("ahead") else {"pressure_z_m": 1.0},
    by_total_mass=lambda _: True,
    unused=lambda *_: frozenset({"actuator", "ratio", "gear_efficiency", "motors", "mode"}),
)
