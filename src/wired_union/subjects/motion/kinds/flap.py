"""A flap in a stream of air: drag against its weight."""

from wired_union.physics.growth import ALLOWANCES
from wired_union.physics.turning import airflow_flap
from wired_union.picture.shapes import Kit, Line, Shape
from wired_union.project.motion_model import FlapLoad
from wired_union.subjects.motion.kind import LoadKind, Scene
from wired_union.subjects.motion.results import LoadResult, Row, check_of
from wired_union.subjects.motion.scale import arrow
from wired_union.units import show


def carried(load: FlapLoad, scene: Scene) -> LoadResult:
    mass = load.mass_kg
    missing: tuple[str, ...] = ()
    if (item := scene.item(load.flap)) is not None:
        missing = () if item.part.mass_kg is not None else (f"{item.name}: its mass",)
        mass = (item.part.mass_kg or 0.0) * (1 + ALLOWANCES[item.knowledge]) or load.mass_kg
    flow = airflow_flap(mass, load.area_m2, load.air_speed_m_s, load.drag_coefficient)
    rows = (Row("drag", show(flow.drag_n, "N")), Row("weight", show(flow.weight_n, "N")),
            Row("drag over weight", f"{flow.lift_ratio:.2f}"))  # fmt: skip
    facts = {"drag_n": flow.drag_n, "weight_n": flow.weight_n}
    return LoadResult(load, (check_of("lift", flow.weight_n, flow.drag_n, "N"),), rows, missing=missing, facts=facts)


def drawn(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    f = result.facts
    most = max(f["drag_n"], f["weight_n"])
    x, y, room = width * 0.4, height * 0.5, height * 0.34
    shapes: list[Shape] = [Line(x - kit.px(60), y, x + kit.px(60), y, "ink", 5.0)]
    shapes += arrow(x + kit.px(14), y, x + kit.px(14), y - room * f["drag_n"] / most, "copper")
    shapes += arrow(x - kit.px(14), y, x - kit.px(14), y + room * f["weight_n"] / most, "slate")
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


KIND = LoadKind(
    FlapLoad,
    "flap in air",
    carried,
    drawn,
    asked=lambda load: f"{show(load.air_speed_m_s, 'm/s')} of air",
    dragged=lambda _: {"air_speed_m_s": 20.0},
    unused=lambda load, _: frozenset({"mass_kg"}) if load.flap else frozenset(),
)
