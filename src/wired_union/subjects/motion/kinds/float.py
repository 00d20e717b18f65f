"""The machine on the water: how deep it lies, and whether it rights itself in both axes."""

from wired_union.physics.floating import float_stability
from wired_union.picture.shapes import Box, Kit, Line, Ring, Shape
from wired_union.project.motion_model import FloatLoad
from wired_union.subjects.motion.kind import LoadKind, Scene
from wired_union.subjects.motion.results import LoadResult, Row, check_of
from wired_union.subjects.motion.scale import Scale, scale_bar
from wired_union.units import show


def carried(load: FloatLoad, scene: Scene) -> LoadResult:
    """With the most that it may weigh it must float; with any weight and the highest centre it must right itself."""
    heavy = max(scene.mass_kg, scene.centre.most_kg if scene.centre is not None else 0.0)
    if heavy <= 0:
        return LoadResult(load, missing=("what it weighs",), impossible=True)
    sides = (load.length_m, load.width_m, load.height_m)
    deep = float_stability(heavy, *sides, 0.0, load.fullness, load.water_kg_m3)
    checks = [check_of("floats", deep.draught_m + load.freeboard_m, load.height_m, "m", extra=" of hull")]
    rows = [Row("lies in the water", show(deep.draught_m, "m")), Row("left above it", show(deep.freeboard_m, "m"))]
    facts = {"width_m": load.width_m, "height_m": load.height_m, "draught_m": min(deep.draught_m, load.height_m)}
    if scene.centre is None or deep.freeboard_m < 0:
        lacks = scene.centre_lacks or ("where the centre of mass is",) if scene.centre is None else ()
        return LoadResult(load, tuple(checks), tuple(rows), missing=lacks, facts=facts)
    high = scene.centre.high[2] - load.bottom_m
    both = [float_stability(kg, *sides, high, load.fullness, load.water_kg_m3) for kg in (scene.centre.least_kg, heavy)]
    for way, field in (("across", "metacentre_across_m"), ("along", "metacentre_along_m")):
        least = min(getattr(s, field) for s in both)
        checks.append(check_of(way, load.righting_m, least, "m", extra=" above its centre of mass"))
        rows.append(Row(f"metacentre {way}, above its centre", show(least, "m")))
        if least < load.righting_m:
            rows.append(Row("its centre must come down by", show(load.righting_m - least, "m"), "breaks"))
    facts |= {"centre_m": high, "metacentre_m": high + min(s.metacentre_across_m for s in both)}
    return LoadResult(load, tuple(checks), tuple(rows), facts=facts)


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
