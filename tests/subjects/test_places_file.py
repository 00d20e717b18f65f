"""Masses and places go out and come back; the outline is a drawing that another library reads."""

import csv
from xml.etree import ElementTree

import ezdxf
import pytest
from openpyxl import load_workbook

import edits
from wired_union.catalogue.sheet import SheetError
from wired_union.picture.shapes import Kit
from wired_union.project.documents import DocumentError
from wired_union.project.errors import ProjectError
from wired_union.project.fresh import new_project
from wired_union.subjects import assess
from wired_union.subjects.mass.balance import BALANCE
from wired_union.subjects.mass.place_edits import move_places
from wired_union.subjects.mass.places_file import HEAD, read_places, write_places


@pytest.mark.parametrize("ending", ["csv", "xlsx"])
def test_a_sheet_comes_back_as_what_went_out(mudlark, tmp_path, ending):
    """Moved, weighed and counted anew: the sheet takes each back, and nothing of it differs from what it was made of."""
    path = tmp_path / f"places.{ending}"
    write_places(assess(mudlark), Kit(), path)
    with pytest.raises(ProjectError, match="differs from what is there"):
        read_places(mudlark, path)
    other = move_places(mudlark, "battery", 0.03, -0.01, 0.02).after
    other = edits.weigh(other, "mast", 0.4).after
    taken = read_places(other, path)
    assert taken.trouble == ()
    assert taken.change.after.concept.items == mudlark.concept.items
    assert "2 rows" in taken.change.sentence


def test_an_xlsx_has_numbers_and_no_formula(mudlark, tmp_path):
    named = edits.rename_item(mudlark, "mast", "=1+1").after
    write_places(assess(named), Kit(), tmp_path / "p.xlsx")
    rows = list(load_workbook(tmp_path / "p.xlsx").active.iter_rows())
    at = {str(c.value): n for n, c in enumerate(rows[0])}
    assert list(at) == list(HEAD)
    mast = next(r for r in rows if r[0].value == "mast")
    assert (mast[at["name"]].value, mast[at["name"]].data_type) == ("=1+1", "s")
    assert mast[at["up mm"]].value == 250
    write_places(assess(named), Kit(), tmp_path / "p.csv")
    assert "'=1+1" in (tmp_path / "p.csv").read_text(encoding="utf-8")


def sheet(tmp_path, *rows):
    path = tmp_path / "own.csv"
    with path.open("w", encoding="utf-8", newline="") as file:
        csv.writer(file).writerows(rows)
    return path


def test_a_sheet_of_a_team_is_taken_row_by_row(mudlark, tmp_path):
    """By name, in any unit, with columns of its own; what is not understood is said and takes nothing else with it."""
    path = sheet(
        tmp_path, ["Name", "Mass kg", "forward mm", "up mm", "who"],
        ["GNSS receiver", "31 g", "-12 cm", "400", "Ada"], ["No such thing", "1", "", "", ""],
        ["IMU 6-axis", "", "ten", "", ""], ["", "", "", "", ""], ["Salinity probe", "", "", "80", "Bo"],
    )  # fmt: skip
    taken = read_places(mudlark, path)
    items = {i.id: i for i in taken.change.after.concept.items}
    assert items["gnss"].part.mass_kg == pytest.approx(0.031)
    assert (items["gnss"].places[0].x_m, items["gnss"].places[0].y_m) == (pytest.approx(-0.12), -0.08)
    assert items["probe"].places[0].z_m == pytest.approx(0.08)
    assert [t.split(":")[0] for t in taken.trouble] == ["row 3", "row 4"]
    assert "“No such thing” is no part of this concept" in taken.trouble[0]


@pytest.mark.parametrize(("rows", "said"), [
    ([["colour"], ["red"]], "headings such as item, copy, name"),
    ([["name", "knowledge", "mass kg"], ["IMU 6-axis", "hearsay", ""]], "is none of guess"),
    ([["item", "copy", "forward mm"], ["wheel", "9", "10"]], "There are 4 of Wheel"),
])  # fmt: skip
def test_what_cannot_be_is_said(mudlark, tmp_path, rows, said):
    with pytest.raises((SheetError, ProjectError), match=said):
        read_places(mudlark, sheet(tmp_path, *rows))


def test_the_outline_is_to_scale_in_another_library(mudlark, tmp_path):
    assessed = assess(mudlark)
    balance = assessed.of(BALANCE)
    write_places(assessed, Kit(), tmp_path / "o.dxf")
    drawn = ezdxf.readfile(tmp_path / "o.dxf")
    assert not drawn.audit().has_errors
    space = drawn.modelspace()
    parts = space.query('LWPOLYLINE[layer=="PARTS"]')
    assert len(parts) == len(balance.lumps)
    widest = max(max(x for x, *_ in p.get_points()) - min(x for x, *_ in p.get_points()) for p in parts)
    assert widest == pytest.approx(400.0)  # the deck, in millimetres
    circles = [(c.dxf.center.x, c.dxf.center.y) for c in space.query("CIRCLE")]
    assert circles == [(pytest.approx(c.x_m * 1000), pytest.approx(c.y_m * 1000)) for c in balance.contacts]
    centre = space.query("POINT")[0].dxf.location
    assert (centre.x, centre.y) == pytest.approx((balance.centre[0] * 1000, balance.centre[1] * 1000))
    write_places(assessed, Kit(), tmp_path / "o.svg")
    assert ElementTree.parse(tmp_path / "o.svg").getroot().tag.endswith("svg")


def test_no_outline_of_nothing_and_no_other_ending(tmp_path):
    assessed = assess(new_project("Nothing"))
    with pytest.raises(DocumentError, match="Nothing has a place"):
        write_places(assessed, Kit(), tmp_path / "o.dxf")
    with pytest.raises(DocumentError, match=r"\.csv, \.xlsx, \.svg or \.dxf"):
        write_places(assessed, Kit(), tmp_path / "o.png")
