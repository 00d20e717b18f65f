"""What is handed over: every kind of report, the archive with its manifest, names that would do harm."""

import csv
import io
import json
import re
import zipfile

import html5lib
import pytest
from openpyxl import load_workbook
from typer.testing import CliRunner

import edits
from builders import a_limit, a_load, a_pack, a_part, a_project, an_item
from wired_union.catalogue.demo import demo
from wired_union.cli.main import app
from wired_union.kernel.report_kinds import KINDS
from wired_union.picture.typeset import typeset
from wired_union.project.change import with_brief, with_concept
from wired_union.project.documents import DocumentError
from wired_union.project.file import from_text, load
from wired_union.project.kept import KEPT, Kept
from wired_union.project.notebook_model import Defect, Signature
from wired_union.report.everything import MANIFEST, archive_of, papers_of, verify, write_everything
from wired_union.report.kinds import content
from wired_union.report.write import dressed, report_html, report_pages, report_pdf
from wired_union.shipped import DEMOS, REPORT
from wired_union.subjects import assess

TODAY = "2026-11-24"
KEPT_DEMO = Kept((DEMOS / f"mudlark{KEPT}",))
HOSTILE = "=cmd|' /C calc'!A0<script>alert(1)</script>&\"'"


def page(assessment, kind: str = "whole"):
    """A report read by a validating parser: HTML Living Standard, as html5lib has it; any parse error raises."""
    return html5lib.HTMLParser(strict=True, namespaceHTMLElements=False).parse(report_html(assessment, TODAY, kind))


@pytest.mark.parametrize("kind", KINDS)
def test_every_report_is_valid_html_and_every_link_leads_somewhere(mudlark_assessed, kind):
    found = page(mudlark_assessed, kind)
    ids = [e.get("id") for e in found.iter() if e.get("id")]
    anchors = [i for i in ids if not i.startswith("hatch-")]  # patterns of pictures are alike wherever they stand
    assert len(anchors) == len(set(anchors))
    links = [e.get("href") for e in found.iter("a")]
    assert {link.removeprefix("#") for link in links} <= set(anchors)
    if kind == "whole":
        headings = {"".join(e.itertext()) for e in found.iter("h2")}
        assert {"".join(e.itertext()) for e in found.iter("a")} >= headings - {
            "Standards and rules that the team works to"
        }


def test_figures_are_numbered_in_a_row_and_say_what_they_show(mudlark_assessed):
    captions = ["".join(e.itertext()) for e in page(mudlark_assessed).iter("figcaption")]
    assert [int(re.match(r"Figure (\d+)\. \S", c).group(1)) for c in captions] == list(range(1, len(captions) + 1))
    assert len(captions) > 25


def test_every_figure_of_the_assessment_is_in_the_report(mudlark_assessed):
    text = " ".join(page(mudlark_assessed).itertext())
    for measure in mudlark_assessed.measures:
        assert measure.shown.replace("\u202f", " ") in text, measure.id
        assert measure.limit_shown.replace("\u202f", " ") in text, measure.id
    cells = {"".join(e.itertext()) for e in page(mudlark_assessed).iter("td")}
    for measure in mudlark_assessed.all_measures.values():
        assert measure.label in cells, measure.id
        assert measure.shown.replace("\u202f", " ") in cells, measure.id
    for item in mudlark_assessed.project.concept.items:
        assert item.name in text
    hard = len([f for f in mudlark_assessed.findings if f.verdict == "breaks" and not f.of_limit])
    assert f"{hard} more things break" in text
    for version in mudlark_assessed.project.versions:
        assert version.name in text
    for fault in mudlark_assessed.project.defects:
        assert fault.name in text


def test_the_matrix_tells_computed_measured_and_shown_apart(mudlark_assessed):
    rows = [["".join(c.itertext()).strip() for c in r] for r in page(mudlark_assessed).iter("tr")]
    head = next(r for r in rows if r[0] == "wish")
    assert head[3:6] == ["computed", "measured", "shown by runs"]
    bump = next(r for r in rows if r[0].startswith("Stops at a bump"))
    assert bump[3] == "180 ms"
    assert "12 runs of Stops at a bump" in bump[5]
    runtime = next(r for r in rows if r[0].startswith("Runs a whole tide"))
    assert runtime[4:6] == ["–", "–"]


def test_a_judge_gets_two_pages_whatever_breaks(mudlark_assessed):
    assert len(report_pages(mudlark_assessed, TODAY, dots_per_inch=20, kind="judge")) <= 2
    limits = [a_limit(m, 1e-6) for m in list(mudlark_assessed.all_measures)[:22]]
    project = with_brief(mudlark_assessed.project, limits=tuple(limits))
    crowded = assess(project).on(TODAY)
    assert len(typeset(REPORT / "report.typ", dressed(content("judge", crowded, TODAY)), "png", 9.0)) == 3
    assert len(re.findall(rb"/Type\s*/Page\b", report_pdf(crowded, TODAY, "judge"))) == 2


def test_the_builder_goes_by_the_order_of_the_bench(mudlark_assessed):
    titles = ["".join(e.itertext()) for e in page(mudlark_assessed, "builder").iter("h3")]
    steps = [t for t in titles if re.match(r"\d+\. ", t)]
    at = {name: next(n for n, t in enumerate(steps) if name in t) for name in
          ("Pack 4S", "Fused bus", "Buck", "Controller", "GNSS", "Gearmotor", "Before the first run", "tightened")}  # fmt: skip
    order = ("tightened", "Pack 4S", "Fused bus", "Buck", "Controller", "GNSS", "Gearmotor", "Before the first run")
    assert [at[x] for x in order] == sorted(at.values())
    assert next(n for n, t in enumerate(steps) if "Mount Deck plate" in t) < at["tightened"]
    text = " ".join(page(mudlark_assessed, "builder").itertext())
    assert "A lithium pack that is warm, swollen or smells goes outside" in text
    assert "M4 2.08 N·m" in text


def test_the_successor_learns_what_is_open_and_what_it_costs(mudlark_assessed):
    text = " ".join(page(mudlark_assessed, "successor").itertext())
    for upgrade in mudlark_assessed.project.upgrades:
        assert upgrade.name in text
    for words in ("Camera dark after a cold night", "parts without a spare", "wired-union verify", "Thanks to"):
        assert words in text


def test_a_caution_that_was_read_says_by_whom(mudlark_assessed):
    signed = mudlark_assessed.project.but(signatures=(Signature(caution="Radio", by="Jo", on="2026-11-20"),))
    assert "Read by Jo 2026-11-20." in " ".join(page(assess(signed)).itertext())


# the archive


@pytest.fixture(scope="module")
def archive(mudlark_assessed, tmp_path_factory):
    path = tmp_path_factory.mktemp("zip") / "rover.zip"
    assert write_everything(mudlark_assessed, KEPT_DEMO, TODAY, path) == []
    return path


def test_the_archive_holds_every_paper_and_the_project_itself(archive, mudlark_assessed):
    with zipfile.ZipFile(archive) as files:
        names = set(files.namelist())
        project = from_text(files.read("project.union.json").decode(), archive)
        index = html5lib.HTMLParser(strict=True, namespaceHTMLElements=False).parse(files.read("index.html"))
    assert project == mudlark_assessed.project
    assert {p.name for p in papers_of(mudlark_assessed, KEPT_DEMO, TODAY)} <= names
    assert {e.get("href") for e in index.iter("a")} == names - {MANIFEST, "index.html"}
    assert verify(archive) == []


def test_unpacked_it_opens_with_its_versions(archive, mudlark_assessed, tmp_path):
    with zipfile.ZipFile(archive) as files:
        files.extractall(tmp_path)
    project = load(tmp_path / "project.union.json")
    kept = Kept((tmp_path / f"project{KEPT}",))
    assert all(kept.project(v).name == "Mudlark" for v in project.versions)


def test_the_same_project_gives_the_same_archive(mudlark_assessed, archive):
    once = zipfile.ZipFile(archive)
    again = zipfile.ZipFile(io.BytesIO(archive_of(mudlark_assessed, KEPT_DEMO, TODAY)[0]))
    for name in once.namelist():
        if not name.endswith((".pdf", ".xlsx", ".dxf", MANIFEST)):  # these carry the time at which they were made
            assert once.read(name) == again.read(name), name


def tampered(archive, tmp_path, change):
    """The archive with its files changed, its manifest as it was."""
    out = tmp_path / "tampered.zip"
    with zipfile.ZipFile(archive) as old, zipfile.ZipFile(out, "w") as new:
        files = {n: old.read(n) for n in old.namelist()}
        for name, data in change(files).items():
            new.writestr(name, data)
    return out


@pytest.mark.parametrize(("change", "said"), [
    (lambda f: f | {"parts.csv": f["parts.csv"] + b"x"}, "parts.csv is not as it was made"),
    (lambda f: {k: v for k, v in f.items() if k != "runs.csv"}, "runs.csv is missing"),
    (lambda f: f | {"more.exe": b"MZ"}, "more.exe was added"),
])  # fmt: skip
def test_verify_finds_what_was_changed(archive, tmp_path, change, said):
    other = tampered(archive, tmp_path, change)
    assert verify(other) == [said]
    done = CliRunner().invoke(app, ["verify", str(other)])
    assert (done.exit_code, done.stdout) == (1, said + "\n")


@pytest.mark.parametrize("data", [b"", b"PK\x03\x04 no", b"%PDF-1.4"])
def test_what_is_no_archive_is_said(tmp_path, data):
    (tmp_path / "a.zip").write_bytes(data)
    with pytest.raises(DocumentError, match=r"a\.zip"):
        verify(tmp_path / "a.zip")
    empty = tmp_path / "b.zip"
    with zipfile.ZipFile(empty, "w") as files:
        files.writestr("x", "y")
    with pytest.raises(DocumentError, match="was not made by"):
        verify(empty)
    done = CliRunner().invoke(app, ["verify", str(tmp_path / "gone.zip")])
    assert done.exit_code == 2


def test_what_is_found_nowhere_is_told_and_not_silently_left_out(mudlark_assessed, tmp_path):
    lacks = write_everything(mudlark_assessed, Kept((tmp_path,)), TODAY, tmp_path / "a.zip")
    assert len(lacks) == len(mudlark_assessed.project.versions) + 1
    assert b"version A1" in zipfile.ZipFile(tmp_path / "a.zip").read("index.html")
    with pytest.raises(DocumentError, match=r"goes into a \.zip"):
        write_everything(mudlark_assessed, KEPT_DEMO, TODAY, tmp_path / "a.tar")


def hostile_demo():
    """The demo with every part and cable under a name that would do harm."""
    project = edits.rename_project(demo(), HOSTILE).after
    concept = project.concept
    items = tuple(i.but(name=HOSTILE[:110]) for i in concept.items)
    cables = tuple(c.but(name=HOSTILE[:100]) for c in concept.cables)
    return with_concept(project, items=items, cables=cables)


def hostile_bit():
    project = a_project(an_item(a_part(HOSTILE[:100])), a_pack(), a_load("lamp"), feeds=(("pack", "lamp"),))
    project = edits.rename_project(project, HOSTILE).after.but(defects=(Defect(id="x", name=HOSTILE[:110]),))
    return edits.write_entry(project, TODAY, HOSTILE[:40], HOSTILE, why=HOSTILE).after


@pytest.mark.parametrize("made", [hostile_bit, hostile_demo])
def test_names_that_would_do_harm_stay_texts_in_every_paper(made):
    data, lacks = archive_of(assess(made()).on(TODAY), KEPT_DEMO, TODAY)
    assert lacks == []
    with zipfile.ZipFile(io.BytesIO(data)) as files:
        for name in files.namelist():
            assert not name.startswith(("/", "..")) and "\\" not in name
            content = files.read(name)
            if name.endswith(".html"):
                assert b"<script>alert" not in content, name
                html5lib.HTMLParser(strict=True).parse(content)
            if name.endswith(".csv"):
                for row in csv.reader(io.StringIO(content.decode())):
                    assert not any(cell.startswith(("=", "@")) for cell in row), name
            if name.endswith(".xlsx"):
                book = load_workbook(io.BytesIO(content))
                cells = [c for sheet in book for r in sheet.iter_rows() for c in r]
                assert not any(c.data_type == "f" for c in cells), name
        assert json.loads(files.read(MANIFEST))["project"] == HOSTILE
