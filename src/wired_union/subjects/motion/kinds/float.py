"""The machine on the water: how deep it lies, and whether it rights itself in both axes."""

from msgspec import Struct

from wired_union.physics.floating import Afloat, float_stability, list_angle
from wired_union.picture.shapes import Box, Kit, Line, Ring, Shape
from wired_union.project.motion_model import FloatLoad
from wired_union.subjects.mass.gives import Centre
from wired_union.subjects.motion.kind import LoadKind, Scene
from wired_union.subjects.motion.results import Check, LoadResult, Row, check_of
from wired_union.subjects.motion.scale import Scale, scale_bar
from wired_union.units import show


class Way(Struct, frozen=True):
    """How a hull leans one way: with the worst of what it may weigh."""

    name: str
    side_m: float
    metacentre_m: float
    lean_deg: float = 0.0
    goes_down_m: float = 0.0
    emerges: bool = False
    """Whether its bottom comes out, so that it leans further than that."""


def carried(load: FloatLoad, scene: Scene) -> LoadResult:
    """With the most that it may weigh it must float; with any weight and the highest centre it must right itself."""
    heavy = max(scene.mass_kg, scene.centre.most_kg if scene.centre is not None else 0.0)
    if heavy <= 0:
        return LoadResult(load, missing=("what it weighs",), impossible=True)
    deep = _afloat(load, heavy, 0.0)
    facts = {"width_m": load.width_m, "height_m": load.height_m, "draught_m": min(deep.draught_m, load.height_m)}
    if scene.centre is None or deep.freeboard_m < 0:
        lacks = scene.centre_lacks or ("where the centre of mass is",) if scene.centre is None else ()
        return LoadResult(load, (_floats(load, deep),), _depth_rows(deep, 0.0), missing=lacks, facts=facts)
    ways = [_leaning(load, scene.centre, heavy, axis) for axis in (1, 0)]
    down = sum(w.goes_down_m for w in ways)
    checks, rows = [_floats(load, deep, down)], [*_depth_rows(deep, down)]
    for way in ways:
        checks.append(check_of(way.name, load.righting_m, way.metacentre_m, "m", extra=" above its centre of mass"))
        rows.append(Row(f"metacentre {way.name}, above its centre", show(way.metacentre_m, "m")))
        if way.metacentre_m < load.righting_m:
            rows.append(Row("its centre must come down by", show(load.righting_m - way.metacentre_m, "m"), "breaks"))
    leans = max(w.lean_deg for w in ways)
    rows.append(Row("leans, its weight beside its middle", show(leans, "°")))
    if load.most_lean_deg is not None:
        checks.append(check_of("lean", leans, load.most_lean_deg, "°"))
    out = ("how far it leans: its bottom comes out of the water",) if any(w.emerges for w in ways) else ()
    high = scene.centre.high[2] - load.bottom_m
    facts |= {"centre_m": high, "metacentre_m": high + ways[0].metacentre_m}
    return LoadResult(load, tuple(checks), tuple(rows), missing=out, facts=facts)


def _afloat(load: FloatLoad, mass_kg: float, high_m: float) -> Afloat:
    sides = (load.length_m, load.width_m, load.height_m)
    return float_stability(mass_kg, *sides, high_m, load.fullness, load.water_kg_m3)


def _floats(load: FloatLoad, deep: Afloat, down_m: float = 0.0) -> Check:
    return check_of("floats", deep.draught_m + down_m + load.freeboard_m, load.height_m, "m", extra=" of hull")


def _depth_rows(deep: Afloat, down_m: float) -> tuple[Row, ...]:
    left = Row(
        "left above it, where it leans to" if down_m > 0 else "left above it", show(deep.freeboard_m - down_m, "m")
    )
    return Row("lies in the water", show(deep.draught_m, "m")), left


def _leaning(load: FloatLoad, centre: Centre, heavy_kg: float, axis: int) -> Way:
    """How it leans along one axis, with all that it may weigh and wherever its centre may be."""
    name, side, middle = (("along", load.length_m, load.middle_x_m), ("across", load.width_m, load.middle_y_m))[axis]
    beside = max(abs(centre.low[axis] - middle), abs(centre.high[axis] - middle))
    both = [_afloat(load, kg, centre.high[2] - load.bottom_m) for kg in (centre.least_kg, heavy_kg)]
    metacentres = [s.metacentre_across_m if axis else s.metacentre_along_m for s in both]
    if min(metacentres) <= 0:
        return Way(name, side, min(metacentres))
    leans = [list_angle(gm, s.draught_m, side, beside) for gm, s in zip(metacentres, both, strict=True)]
    out = any(lean.goes_down_m > s.draught_m for lean, s in zip(leans, both, strict=True))
    return Way(name, side, min(metacentres), max(x.lean_deg for x in leans), max(x.goes_down_m for x in leans), out)


def drawn(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    """From behind: hull, water, centre of mass and metacentre."""
    f = result.facts
    top = max(f["height_m"], f.get("centre_m", 0.0), min(f.get("metacentre_m", 0.0), 2 * f["height_m"]))
    scale = Scale(min((height - kit.px(60)) / top, width * 0.5 / f["width_m"]), width * 0.36, height - kit.px(34))
    x0, y0 = scale.at(-f["width_m"] / 2, f["height_m"])
    shapes: list[Shape] = [Box(x0, y0, f["width_m"] * scale.px, f["height_m"] * scale.px, "soft", "ink", width=1.6)]
    _, water = scale.at(0, f["draught_m"])
    shapes.append(Line(x0 - kit.px(50), water, x0 + f["width_m"] * scale.px + kit.px(50), water, "slate", 2.0))
    for key, name, ink in (("centre_m", "centre of mass", "ink"), ("metacentre_m", "metacentre", "copper")):
        if key in f:
            x, y = scale.at(0, min(f[key], 2 * f["height_m"]))
            shapes.append(Ring(x, y, kit.px(5), ink, 1.6, (), ink if key == "centre_m" else "card"))
            shapes.append(kit.words(x + kit.px(10), y, name, "small", ink))
    return [*shapes, *scale_bar(kit, scale.px, height)]


KIND = LoadKind(
    FloatLoad,
    "machine on the water",
    carried,
    drawn,
    asked=lambda load: f"hull of {show(load.length_m, 'm')} by {show(load.width_m, 'm')}",
    dragged=lambda _: {"width_m": 1.0, "height_m": 0.5},
    by_total_mass=lambda _: True,
    unused=lambda *_: frozenset({"actuator", "ratio", "gear_efficiency", "motors", "mode"}),
    shown="from behind, to scale",
)
