"""Edits of analogue chains and of surfaces: one more, one less, other figures, points."""

from collections.abc import Sequence
from functools import partial

from wired_union.project.bench_model import AnalogueChain, Surface, SurfacePoint
from wired_union.project.change import Change, by_id, replaced, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import add_listed, remove_listed, set_listed
from wired_union.project.model import Project
from wired_union.project.pasted import rows_of
from wired_union.units import parse

add_chain = partial(add_listed, room="analogue_chains", of_kind=AnalogueChain, word="analogue chain")
set_chain = partial(set_listed, room="analogue_chains", word="analogue chain")
remove_chain = partial(remove_listed, room="analogue_chains", word="analogue chain")
add_surface = partial(add_listed, room="surfaces", of_kind=Surface, word="surface")
set_surface = partial(set_listed, room="surfaces", word="surface")


def remove_surface(project: Project, value_id: str) -> Change:
    """One less. Raises ProjectError where it has points: those are kept."""
    old = by_id(project.concept.surfaces, value_id, "surface")
    if old.points:
        raise ProjectError(f"{old.name} holds {len(old.points)} points, which are kept. Strike them out instead.")
    return remove_listed(project, room="surfaces", value_id=value_id, word="surface")


def add_points(project: Project, value_id: str, points: Sequence[SurfacePoint]) -> Change:
    """More points, at the end."""
    if not points:
        raise ProjectError("There is no point in it. A point a line: both inputs, and what was read.")
    old = by_id(project.concept.surfaces, value_id, "surface")
    said = f"{len(points)} point{'s' if len(points) > 1 else ''} more"
    return _with(project, old, old.but(points=(*old.points, *points)), said)


def strike_point(project: Project, value_id: str, number: int, why: str) -> Change:
    """A point, by its number from 1, that does not count, with the reason; "" counts it again."""
    old = by_id(project.concept.surfaces, value_id, "surface")
    if not 1 <= number <= len(old.points):
        raise ProjectError(f"{old.name} has {len(old.points)} points.")
    point = old.points[number - 1].but(struck=why.strip())
    points = (*old.points[: number - 1], point, *old.points[number:])
    said = f"point {number} struck out: {why.strip()}" if why.strip() else f"point {number} counts again"
    return _with(project, old, old.but(points=points), said)


def read_points(surface: Surface, text: str) -> list[SurfacePoint]:
    """Points from a sheet, both inputs and the value a line; or a table whose first row and column are the inputs,
    where the first cell is empty or a word. Raises ProjectError with the number of the first line that makes no sense.
    """
    rows = rows_of(text)
    if rows and len(rows[0]) > 3:
        return _grid(surface, rows)
    found: list[SurfacePoint] = []
    for number, row in enumerate(rows, 1):
        try:
            if len(row) < 3:
                raise ProjectError("a point is both inputs, and what was read.")
            x, y, value = _figures(surface, row[0], row[1], row[2])
        except (ProjectError, ValueError) as error:
            if number == 1 and len(rows) > 1 and not any(c.strip()[:1].isdigit() for c in row):
                continue  # names of the columns
            raise ProjectError(f"Line {number}: {error} Nothing was taken.") from error
        found.append(SurfacePoint(x=x, y=y, value=value))
    return found


def _grid(surface: Surface, rows: list[list[str]]) -> list[SurfacePoint]:
    found: list[SurfacePoint] = []
    for number, row in enumerate(rows[1:], 2):
        for across, cell in zip(rows[0][1:], row[1:], strict=False):
            if not cell.strip():
                continue  # not measured there
            try:
                x, y, value = _figures(surface, across, row[0], cell)
            except ValueError as error:
                raise ProjectError(f"Line {number}: {error} Nothing was taken.") from error
            found.append(SurfacePoint(x=x, y=y, value=value))
    return found


def _figures(surface: Surface, x: str, y: str, value: str) -> tuple[float, float, float]:
    return parse(x, surface.x_unit), parse(y, surface.y_unit), parse(value, surface.unit)


def _with(project: Project, old: Surface, new: Surface, said: str) -> Change:
    after = with_concept(project, surfaces=replaced(project.concept.surfaces, old, new))
    return Change(project, after, f"{new.name}: {said}")
