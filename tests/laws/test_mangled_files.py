"""Files and sheets with something wrong: a plain sentence, or the project; never an exception, a hang, or a loss."""

import json
import os
import random
import socket
import subprocess
import sys
import zipfile

import pytest

from values import mangled
from wired_union.catalogue.demo import demo
from wired_union.catalogue.parts import catalogue
from wired_union.catalogue.sheet import Sheet, SheetError, bad_rows_csv, read_sheet, reading
from wired_union.catalogue.sheet_files import write_sheet
from wired_union.project.errors import BrokenFile, FileError
from wired_union.project.file import from_text, load, save, to_text
from wired_union.project.model import Part, Project, Stock
from wired_union.subjects import assess

MANGLED_FILES, MANGLED_SHEETS = 5000, 1000


def small() -> str:
    """The second demo as text: every kind of value but loads to move."""
    return to_text(demo("bat-counter"))


@pytest.mark.parametrize("part", [0, *(pytest.param(n, marks=pytest.mark.slow) for n in (1, 2, 3, 4))])
def test_mangled_projects_are_refused_in_words_or_opened(tmp_path, part):
    text, rng = small(), random.Random(2026 + part)
    opened = 0
    for _ in range(MANGLED_FILES // 5):
        broken = mangled(text, rng)
        try:
            project = from_text(broken, tmp_path / "a.union.json")
        except FileError as error:
            assert "\n" not in str(error)
            assert len(str(error)) < 500
        else:
            assert isinstance(project, Project)
            opened += 1
            if opened % 25 == 0:
                assert assess(project).findings is not None
    assert opened > 10, "something must get through, or the test tests the first brace"


def flat_text(part: int) -> str:
    rng = random.Random(part)
    rows = rng.sample(list(catalogue()), 12)
    lines = ["name,kind,mass (g),price,qty,load.active_a,motor.stall_torque_n_m"]
    lines += [f'"{p.name}",{p.kind},{(p.mass_kg or 0.1) * 1000:g},{p.price or 1:g},2,0.1,' for p in rows]
    return "\n".join(lines) + "\n"


@pytest.mark.parametrize("part", [0, pytest.param(1, marks=pytest.mark.slow)])
def test_mangled_sheets_are_read_row_by_row_or_refused(tmp_path, part):
    text, rng = flat_text(part), random.Random(part)
    path = tmp_path / "sheet.csv"
    read = 0
    for _ in range(MANGLED_SHEETS // 2):
        path.write_bytes(mangled(text, rng).encode("utf-8", "surrogatepass"))
        try:
            sheet = read_sheet(path)
        except SheetError as error:
            assert "\n" not in str(error)
            continue
        read += 1
        assert all(r.good or r.problems for r in sheet.rows)
        assert isinstance(bad_rows_csv(sheet), str)
    assert read > 100


def test_a_packed_sheet_with_bytes_changed_is_read_or_refused(tmp_path):
    whole = tmp_path / "whole.xlsx"
    write_sheet([Stock(part=p) for p in catalogue()[:8]], whole)
    data, rng = whole.read_bytes(), random.Random(5)
    for n in range(60):
        broken = bytearray(data)
        for _ in range(rng.randrange(1, 6)):
            broken[rng.randrange(len(broken))] = rng.randrange(256)
        path = tmp_path / f"{n}.xlsx"
        path.write_bytes(broken[: rng.choice([len(broken), len(broken) // 2])])
        try:
            assert isinstance(read_sheet(path), Sheet)
        except SheetError as error:
            assert "\n" not in str(error)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("[" * 100_000, "nested more than"),
        ('{"format": "wired-union-project", "version": 1, "name": ' + "9" * 5000 + "}", "5000 digits"),
        ('{"format": "wired-union-project", "version": 1, "name": "x", "concepts": [], "a": NaN}', "NaN"),
        ("", "expecting value"),
        ("\ufeff{}", ""),
        ("null", "not a Wired Union project"),
        ('{"format": "wired-union-project", "version": "two"}', "must be given"),
        (
            '{"format": "wired-union-project", "version": 1, "name": "\\ud800", "concepts": [{"id": "a", "name": "a"}]}',
            "",
        ),
    ],
)
def test_texts_that_are_no_project(tmp_path, text, said):
    path = tmp_path / "a.union.json"
    path.write_bytes(text.encode("utf-8"))
    with pytest.raises(FileError) as refusal:
        load(path)
    assert said in str(refusal.value)
    assert path.read_bytes() == text.encode("utf-8")


def test_what_is_no_text_says_line_and_column(tmp_path):
    path = tmp_path / "a.union.json"
    path.write_bytes(b'{\n  "name": "caf\xe9"\n}')
    with pytest.raises(BrokenFile) as refusal:
        load(path)
    assert (refusal.value.line, refusal.value.column) == (2, 15)
    assert "not text in UTF-8" in refusal.value.reason


def test_a_file_of_other_bytes_is_saved_over_and_kept(tmp_path):
    path = tmp_path / "a.union.json"
    path.write_bytes(b"caf\xe9")
    save(demo(), path)
    assert load(path) == demo()
    assert (tmp_path / "a.union.json.before").read_bytes() == b"caf\xe9"


def run(*words: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run([sys.executable, "-m", "wired_union", *words], capture_output=True, text=True, timeout=30)


def special_files(tmp_path) -> dict[str, str]:
    """What is no plain file of a sensible size; none of it may be waited for."""
    os.mkfifo(tmp_path / "pipe")
    (tmp_path / "folder").mkdir()
    with (tmp_path / "huge").open("wb") as file:
        file.truncate(3 * 1024**3)
    with socket.socket(socket.AF_UNIX) as server:
        server.bind(str(tmp_path / "socket"))
    (tmp_path / "loop").symlink_to(tmp_path / "loop")
    return {"pipe": "pipe or a device", "folder": "a folder", "huge": "MB are read", "socket": "pipe or a device",
            "loop": "links", "missing": "no such file"}  # fmt: skip


def test_what_is_no_plain_file_is_refused_at_once(tmp_path):
    for name, said in special_files(tmp_path).items():
        with pytest.raises(FileError, match=said):
            load(tmp_path / name)
    with pytest.raises(FileError, match="pipe or a device"):
        load(tmp_path.__class__("/dev/zero"))
    with pytest.raises(SheetError):
        read_sheet((tmp_path / "folder").rename(tmp_path / "folder.csv"))


@pytest.mark.parametrize("command", ["check", "concepts", "parts", "report"])
def test_the_command_line_says_one_line_and_two(tmp_path, command):
    """Exit status 2 and one line on the error output, whatever is handed to it."""
    deep = tmp_path / "deep.union.json"
    deep.write_text("[" * 100_000, encoding="utf-8")
    output = ["-o", str(tmp_path / "x.html" if command == "report" else tmp_path / "x.csv")]
    done = run(command, str(deep), *(output if command in {"parts", "report"} else []))
    assert done.returncode == 2
    assert len(done.stderr.strip().splitlines()) == 1
    assert "Traceback" not in done.stderr


def test_a_fault_of_the_program_is_one_line_too(tmp_path, monkeypatch):
    script = (
        "import sys; sys.argv = ['wired-union', 'check', 'demo']\n"
        "import wired_union.cli.main as m\n"
        "def fails(*a): raise KeyError('inside')\n"
        "m.assess = fails\n"
        "from wired_union.__main__ import main; main()\n"
    )
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True)
    assert done.returncode == 2
    assert len(done.stderr.strip().splitlines()) == 1
    assert "a fault of its own" in done.stderr
    assert "KeyError" in done.stderr


def test_a_sheet_that_unpacks_to_far_too_much_is_refused(tmp_path, monkeypatch):
    monkeypatch.setattr("wired_union.catalogue.sheet.MOST_UNPACKED", 5_000_000)
    path = tmp_path / "bomb.xlsx"
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("xl/worksheets/sheet1.xml", b"0" * 7_000_000)
    assert path.stat().st_size < 100_000
    with pytest.raises(SheetError, match="unpacks to 7 MB"):
        read_sheet(path)


def test_a_cell_at_the_far_corner_costs_nothing(tmp_path):
    from openpyxl import Workbook

    book = Workbook()
    sheet = book.active
    sheet.append(["name", "kind"])
    sheet.append(["Plate", "structure"])
    sheet["XFD1048576"] = "far"
    path = tmp_path / "far.xlsx"
    book.save(path)
    read = read_sheet(path)
    assert [r.name for r in read.good and read.rows if r.good] == ["Plate"]


def test_a_csv_with_zero_bytes_and_endless_fields(tmp_path):
    path = tmp_path / "x.csv"
    path.write_bytes(b"name,kind\nPl\x00ate,structure\n")
    assert [r.stock.part.name for r in read_sheet(path).rows] == ["Plate"]
    path.write_text(f'name,kind\n"{"x" * 200_000}",structure\n', encoding="utf-8")
    with pytest.raises(SheetError, match="no table that can be read"):
        read_sheet(path)


def test_a_long_sheet_is_streamed_and_can_be_left(tmp_path):
    """Rows are told as they are read; leaving stops the reading."""
    path = tmp_path / "long.csv"
    with path.open("w", encoding="utf-8") as file:
        file.write("name,kind\n")
        file.writelines(f"Plate {n},structure\n" for n in range(20_000))
    steps = reading(path)
    assert next(steps) == 499
    assert next(steps) == 999
    steps.close()


@pytest.mark.parametrize(
    "name", ["=1+1", "\t=1+1", "\r=1+1", "\n=1", " =1+1", "＝1+1", "＋1", "－1", "＠x", "@SUM(A1)", "+1+1", "-1+cmd"]
)
def test_no_name_becomes_a_formula(tmp_path, name):
    import csv

    from openpyxl import load_workbook

    part = Part(id="x", name=name, kind="structure", mass_kg=0.1)
    for ending in ("csv", "xlsx"):
        write_sheet([Stock(part=part)], tmp_path / f"x.{ending}")
    with (tmp_path / "x.csv").open(encoding="utf-8", newline="") as file:
        cells = [c for row in csv.reader(file) for c in row]
    assert not [c for c in cells if c.strip().startswith(("=", "+", "@", "＝", "＋", "－", "＠"))]
    assert not [c for c in cells if c[:1] in "\t\r\n" and c]
    kinds = {c.data_type for row in load_workbook(tmp_path / "x.xlsx").active.iter_rows() for c in row}
    assert "f" not in kinds


def test_a_name_that_looks_like_a_number_stays_a_text(tmp_path):
    from openpyxl import load_workbook

    part = Part(id="0042", name="0012", kind="1e5", mass_kg=0.1)
    write_sheet([Stock(part=part, have=3)], tmp_path / "x.xlsx")
    head, row = load_workbook(tmp_path / "x.xlsx").active.iter_rows(values_only=True)
    found = dict(zip(head, row, strict=True))
    assert (found["id"], found["name"], found["kind"]) == ("0042", "0012", "1e5")
    assert (found["mass_kg"], found["have"]) == (0.1, 3)
    (back,) = read_sheet(tmp_path / "x.xlsx").good
    assert back.part == part


def test_unknown_keys_survive_wherever_they_stand(tmp_path):
    data = json.loads(to_text(demo()))
    data["flag"] = {"colour": None, "stripes": [1, {"a": None}]}
    data["concepts"][0]["modes"][0]["mood"] = "calm"
    data["concepts"][0]["loads"][0]["spice"] = 1.5
    project = from_text(json.dumps(data), tmp_path / "x")
    assert json.loads(to_text(project)) == data
    assert from_text(to_text(project), tmp_path / "x") == project
