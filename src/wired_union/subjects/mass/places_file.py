"""Masses and places as a sheet that goes out and comes back, and the outline as a drawing: CSV, XLSX, SVG, DXF."""

import io
from collections.abc import Iterator, Sequence
from pathlib import Path

from msgspec import Struct

from wired_union import units
from wired_union.catalogue.sheet import SheetError, cell_text, rows_of
from wired_union.catalogue.sheet_files import table_bytes
from wired_union.kernel.subject import Assessment
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import to_svg
from wired_union.project.change import Change
from wired_union.project.documents import DocumentError, write_bytes
from wired_union.project.errors import ProjectError
from wired_union.project.model import KNOWLEDGE, Item, Project
from wired_union.project.part_edits import set_knowledge, set_part_value
from wired_union.subjects.mass.balance import BALANCE, Balance, Lump, corners_of
from wired_union.subjects.mass.picture_places import places_drawing
from wired_union.subjects.mass.place_edits import set_place

HEAD = ("item", "copy", "name", "subsystem", "mass kg", "knowledge", "forward mm", "left mm", "up mm", "turned °",
        "tilted °", "length mm", "width mm", "height mm")  # fmt: skip
PLACED = {"forward mm": ("x_m", "mm"), "left mm": ("y_m", "mm"), "up mm": ("z_m", "mm"),
          "turned °": ("turn_deg", "°"), "tilted °": ("tilt_deg", "°")}  # fmt: skip
NUMBERS = frozenset(n for n, name in enumerate(HEAD) if name == "copy" or name.split()[-1] in {"kg", "mm", "°"})
WIDE, MOST_ROWS, MOST_TOLD = 900.0, 100_000, 20
ENDINGS = ".csv, .xlsx, .svg or .dxf"


def places_table(project: Project) -> list[list[str]]:
    """One row a copy: what it is, what it weighs, where it is, how large."""
    lanes = {s.id: s.name for s in project.concept.subsystems}
    return [_row(item, copy, lanes) for item in project.concept.items for copy in range(item.count)]


def _row(item: Item, copy: int, lanes: dict[str, str]) -> list[str]:
    part, place = item.part, item.places[copy] if copy < len(item.places) else None
    at = [""] * 5
    if place is not None:
        figures = (place.x_m * 1000, place.y_m * 1000, place.z_m * 1000, place.turn_deg, place.tilt_deg)
        at = [_number(v) for v in figures]
    sides = ["" if s is None else _number(s * 1000) for s in (part.length_m, part.width_m, part.height_m)]
    mass = "" if part.mass_kg is None else _number(part.mass_kg)
    return [item.id, str(copy + 1), item.name, lanes[item.subsystem], mass, item.knowledge, *at, *sides]


def _number(value: float) -> str:
    return f"{round(value, 9):.12g}"


def write_places(assessment: Assessment, kit: Kit, path: Path) -> None:
    """Write as the ending says: a sheet (.csv, .xlsx) or the outline (.svg, .dxf).

    Raises DocumentError: another ending, a place that cannot be written, or an outline of nothing.
    """
    ending = path.suffix.lower()
    if ending in {".csv", ".xlsx"}:
        data = table_bytes(list(HEAD), places_table(assessment.project), ending, NUMBERS)
    elif ending in {".svg", ".dxf"}:
        balance = assessment.of(BALANCE)
        if not balance.lumps:
            raise DocumentError("Nothing has a place yet. Say where the parts are first.")
        data = _svg(balance, kit) if ending == ".svg" else _dxf(balance)
    else:
        raise DocumentError(f"“{path.name}”: places are written as {ENDINGS}. Give the file one of these endings.")
    write_bytes(path, data)


def _svg(balance: Balance, kit: Kit) -> bytes:
    return to_svg(places_drawing(balance, kit, WIDE).picture, label="where the parts are").encode("utf-8")


def _dxf(balance: Balance) -> bytes:
    """From above in millimetres, forward to the right: parts, what stands on the floor and the centre, a layer each."""
    import ezdxf
    from ezdxf import units as dxf_units

    drawing = ezdxf.new("R2010", setup=True)
    drawing.units = dxf_units.MM
    space = drawing.modelspace()
    for layer, colour in (("PARTS", 5), ("NAMES", 8), ("CONTACTS", 1), ("CENTRE", 3)):
        drawing.layers.add(layer, color=colour)
    for lump in balance.lumps:
        space.add_lwpolyline(_outline(lump), close=True, dxfattribs={"layer": "PARTS"})
        place = lump.item.places[lump.copy]
        name = space.add_text(lump.item.name, height=4.0, dxfattribs={"layer": "NAMES"})
        name.set_placement((place.x_m * 1000, place.y_m * 1000))
    for contact in balance.contacts:
        space.add_circle((contact.x_m * 1000, contact.y_m * 1000), 3.0, dxfattribs={"layer": "CONTACTS"})
    if balance.centre is not None:
        space.add_point((balance.centre[0] * 1000, balance.centre[1] * 1000), dxfattribs={"layer": "CENTRE"})
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue().encode("utf-8")


def _outline(lump: Lump) -> list[tuple[float, float]]:
    """Corners of a part from above, in millimetres: the smallest polygon around those of its box."""
    from wired_union.physics.balance import support_polygon

    points = support_polygon([(round(x * 1000, 6), round(y * 1000, 6)) for x, y, _ in corners_of(lump)])
    return points if len(points) > 1 else points * 2


class Taken(Struct, frozen=True):
    """What a sheet of places brought: the edit, and what of it was not understood, in words."""

    change: Change
    trouble: tuple[str, ...]


def read_places(project: Project, path: Path) -> Taken:
    """Take masses and places from a sheet: rows by item and copy, or by name; cells that are empty change nothing.

    Raises SheetError: no sheet, or no column that is understood; ProjectError: nothing in it differs.
    """
    table = rows_of(path)
    head = [cell_text(c).strip().lower() for c in next(table, ())]
    if not ({"item", "name"} & set(head)) or not ({"mass kg", *PLACED} & set(head)):
        known = ", ".join(HEAD[:5] + tuple(PLACED)[:3])
        raise SheetError(f"{path.name}: the first row holds headings such as {known}. Export a sheet to see them all.")
    after, trouble, done = project, [], 0
    for number, cells in enumerate(table, 2):
        row = {h: cell_text(c).strip() for h, c in zip(head, cells, strict=False) if h}
        if number > MOST_ROWS:
            raise SheetError(f"{path.name} has over {MOST_ROWS} rows. Split it.")
        if not any(row.values()):
            continue
        try:
            new = _taken(after, row)
        except (ProjectError, units.UnitError) as error:
            trouble.append(f"row {number}: {error}")
            continue
        done += new is not after
        after = new
    if after is project:
        why = f" {'; '.join(trouble[:3])}" if trouble else ""
        raise ProjectError(f"Nothing in {path.name} differs from what is there.{why}")
    told = trouble[:MOST_TOLD] + ([f"and {len(trouble) - MOST_TOLD} rows more"] if len(trouble) > MOST_TOLD else [])
    return Taken(
        Change(project, after, f"take masses and places of {done} row{'' if done == 1 else 's'} from {path.name}"),
        tuple(told),
    )


def _taken(project: Project, row: dict[str, str]) -> Project:
    """The project with what one row says."""
    item = _item_of(project, row)
    if mass := row.get("mass kg"):
        value = units.parse(mass, "kg")
        if item.part.mass_kg is None or abs(value - item.part.mass_kg) > 1e-9:
            project = set_part_value(project, item.id, "mass_kg", value).after
    if (known := row.get("knowledge")) and known != item.knowledge:
        if known not in KNOWLEDGE:
            raise ProjectError(f"“{known}” is none of {', '.join(KNOWLEDGE)}")
        project = set_knowledge(project, item.id, known).after
    figures = dict(_figures(row))
    copy = int(units.parse(row.get("copy") or "1", "")) - 1
    here = item.places[copy] if 0 <= copy < len(item.places) else None
    if here is not None:
        figures = {n: v for n, v in figures.items() if abs(getattr(here, n) - v) > 1e-9}
    return set_place(project, item.id, copy, **figures).after if figures else project


def _item_of(project: Project, row: dict[str, str]) -> Item:
    items: Sequence[Item] = project.concept.items
    found = [i for i in items if i.id == row.get("item")] or [i for i in items if i.name == row.get("name")]
    if len(found) != 1:
        said = row.get("item") or row.get("name") or ""
        raise ProjectError(f"“{said}” is no part of this concept" if not found else f"“{said}” is more than one part")
    return found[0]


def _figures(row: dict[str, str]) -> Iterator[tuple[str, float]]:
    """What a row says of the place, in metres and degrees."""
    for name, (field, unit) in PLACED.items():
        if text := row.get(name):
            yield field, units.parse(f"{text} {unit}" if text[-1].isdigit() else text, "m" if unit == "mm" else unit)
