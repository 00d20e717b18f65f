"""Sheets of parts in and out, and a store's library that still answers when it is large."""

import csv
import re

import pytest
from openpyxl import Workbook, load_workbook

from builders import a_part
from wired_union.catalogue.figures import Ask
from wired_union.catalogue.library import Library, LibraryError
from wired_union.catalogue.parts import catalogue, of_kind
from wired_union.catalogue.sheet import (
    SheetError,
    bad_rows_csv,
    column_for,
    read_sheet,
    reading,
    stocks_of,
)
from wired_union.catalogue.sheet_files import write_sheet
from wired_union.project.model import Stock

SHEET = """Name;Class;Mass (g);Cost;Qty;Stall torque (N·m);No load speed (rpm);Voltage;Colour
Winch motor;gearmotor;210;£18;2;1,1;90;12;green
Old bumper;limit switch;60 g;4;3;;;;
Heavy thing;structure;lots;3;1;;;;
No class;;12;2;1;;;;
Free lunch;fastening;20;0;4;;;;
"""


@pytest.fixture
def sheet(tmp_path):
    path = tmp_path / "store.csv"
    path.write_text(SHEET, encoding="utf-8")
    return read_sheet(path)


def test_good_rows_are_read_in_si_and_bad_ones_say_what_is_wrong(sheet):
    winch, bumper = sheet.good
    assert (winch.part.mass_kg, winch.part.price, winch.have) == (0.21, 18.0, 2)
    assert winch.part.motor.stall_torque_n_m == 1.1
    assert winch.part.motor.no_load_speed_rad_s == pytest.approx(9.4248, rel=1e-4)  # 90 rpm
    assert bumper.part.mass_kg == 0.06
    assert [r.number for r in sheet.bad] == [4, 5, 6]
    said = [f"{p.field}: {p.text}" for r in sheet.bad for p in r.problems]
    assert said == [
        "mass_kg: “lots” is not a number. Write it like 0.21 kg or 210 g.",
        "kind: is missing; every row needs a kind",
        "price: must be above 0; what costs nothing is donated or owned, which is said elsewhere",
    ]
    assert sheet.left_out == ("Colour",)


def test_bad_rows_go_out_with_what_is_wrong_and_come_back_mended(sheet, tmp_path):
    text = bad_rows_csv(sheet)
    rows = list(csv.DictReader(text.splitlines()))
    assert [r["Name"] for r in rows] == ["Heavy thing", "No class", "Free lunch"]
    assert rows[0]["what is wrong"].startswith("mass_kg: “lots”")
    path = tmp_path / "mended.csv"
    path.write_text(
        text.replace("lots", "900").replace("No class,,", "No class,structure,").replace(",20,0,", ",20,5,")
    )
    assert len(read_sheet(path).good) == 3


@pytest.mark.parametrize(("ending", "step"), [("csv", 1), ("xlsx", 5), pytest.param("xlsx", 1, marks=pytest.mark.slow)])
def test_the_catalogue_goes_out_and_comes_back_the_same(tmp_path, ending, step):
    path, parts = tmp_path / f"all.{ending}", catalogue()[::step]
    stocks = [s.but(have=n % 3, donated=n % 2 == 1) for n, s in enumerate(stocks_of(parts))]
    write_sheet(stocks, path)
    back = read_sheet(path)
    assert back.bad == ()
    assert [s.part for s in back.good] == list(parts)
    assert [(s.have, s.donated) for s in back.good] == [(s.have, s.donated) for s in stocks]


def test_a_name_that_looks_like_a_formula_stays_a_name(tmp_path):
    write_sheet([Stock(part=a_part("x").but(name="=1+1"))], tmp_path / "x.xlsx")
    cells = [c.value for c in load_workbook(tmp_path / "x.xlsx").active[2]]
    assert "=1+1" in cells
    assert read_sheet(tmp_path / "x.xlsx").good[0].part.name == "=1+1"


@pytest.mark.parametrize(
    ("heading", "path", "unit"),
    [("mass_kg", "mass_kg", ""), ("Mass (g)", "mass_kg", "g"), ("weight [g]", "mass_kg", "g"), ("Unit price", "price", ""),
     ("load.active_a", "load.active_a", ""), ("stall torque (N·m)", "motor.stall_torque_n_m", "N·m"),
     ("Lead time", "delivery_days", ""), ("qty", "have", "")],
)  # fmt: skip
def test_headings_people_write(heading, path, unit):
    found = column_for(heading)
    assert (found.path, found.unit) == (path, unit)
    assert column_for("phase of the moon") is None


def test_sheets_that_cannot_be_read_say_what_to_do(tmp_path):
    (tmp_path / "a.pdf").write_text("x")
    (tmp_path / "b.csv").write_text("Colour,Shape\nred,round\n")
    (tmp_path / "c.xlsx").write_text("no zip")
    for name, said in (("a.pdf", "is .csv or .xlsx"), ("b.csv", "no column is called name"),
                       ("c.xlsx", "is no XLSX file"), ("d.csv", "cannot be read")):  # fmt: skip
        with pytest.raises(SheetError, match=said):
            read_sheet(tmp_path / name)


def test_twice_the_same_id_names_the_other_row(tmp_path):
    path = tmp_path / "twice.csv"
    path.write_text("id,name,kind,have\nx,One,gear,1\nx,Two,gear,1\ny,Three,gear,-4\n")
    assert [p.text for r in read_sheet(path).bad for p in r.problems] == [
        "“x” is in row 2 already", "“-4” is no whole number of 0 or more",
    ]  # fmt: skip


def test_a_long_sheet_tells_how_far_it_is(tmp_path):
    path = tmp_path / "long.csv"
    path.write_text("name,kind,id\n" + "".join(f"Cog,gear,c{n}\n" for n in range(1100)))
    *counts, last = reading(path)
    assert counts == [499, 999]
    assert len(last.good) == 1100


def test_an_xlsx_with_numbers_as_numbers(tmp_path):
    book = Workbook()
    book.active.append(["Name", "Kind", "mass_kg", "pack.series", "pack.chemistry"])
    book.active.append(["Pack", "pack", 0.4, 4.0, "lipo"])
    book.save(tmp_path / "n.xlsx")
    (stock,) = read_sheet(tmp_path / "n.xlsx").good
    assert (stock.part.pack.series, stock.part.mass_kg) == (4, 0.4)


# the library


@pytest.fixture
def library(tmp_path):
    made = Library(tmp_path / "store.sqlite")
    made.add(Stock(part=p, have=n % 4) for n, p in enumerate(catalogue()))
    return made


def test_every_word_is_found_and_what_is_in_hand_comes_first(library):
    found = library.search("gearmotor 25 mm")
    expected = [p for p in of_kind("gearmotor") if re.search(r"\b25", p.name)]  # "25" finds 25 mm and 250:1
    assert found.total == len(expected)
    haves = [s.have > 0 for s in found.stocks]
    assert haves == sorted(haves, reverse=True)
    assert library.search("gearmotor", kinds=("pack",)).total == 0
    assert library.search("").total == len(library) == len(catalogue())
    assert library.search('" OR x*').total == 0  # what people type is never a query language


def test_candidates_against_the_same_figures_in_python(library):
    from wired_union.catalogue.figures import FIGURES

    asked = [Ask("", "torque_n_m", True, 1.0), Ask("", "mass_kg", False, 0.3)]
    meet = {p.id for p in of_kind("gearmotor") if all(a.holds(FIGURES[a.figure](p)) for a in asked)}
    found = library.candidates(("gearmotor",), asked, limit=500)
    assert found.total == len(meet)
    assert {s.part.id for s in found.stocks[: found.total]} == meet
    assert len(found.stocks) == len(of_kind("gearmotor"))  # those that miss come behind


def test_adding_again_replaces_and_stopping_adds_none(library):
    cog = a_part("cog", "gear")
    library.add([Stock(part=cog, have=1)])
    library.add([Stock(part=cog.but(name="Bronze cog"), have=9)])
    assert [(s.part.name, s.have) for s in library.search("cog").stocks] == [("Bronze cog", 9)]
    before = len(library)
    steps = library.adding(Stock(part=a_part(f"n{n}", "gear")) for n in range(5000))
    assert next(steps) == 2000
    steps.close()
    assert len(library) == before
    assert "gear" in library.kinds()
    assert len(list(library.everything())) == before


def test_a_missing_library_is_empty_and_a_broken_one_is_said(tmp_path):
    missing = Library(tmp_path / "none.sqlite")
    assert (len(missing), missing.search("x").total, missing.candidates((), []).total) == (0, 0, 0)
    (tmp_path / "bad.sqlite").write_text("this is no database, and long enough to be read as one" * 40)
    with pytest.raises(LibraryError, match="Move it away"):
        Library(tmp_path / "bad.sqlite").search("x")
