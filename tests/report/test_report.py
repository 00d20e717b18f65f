"""Documents: self-contained, complete, and safe from what people type."""

import csv
import io
from html.parser import HTMLParser
from pathlib import Path

import pytest

import edits
from builders import a_limit, a_load, a_pack, a_part, a_project, an_item
from wired_union.catalogue.sheet_files import rows, write_parts
from wired_union.project.documents import DocumentError
from wired_union.report.write import report_html, report_pages, report_pdf, write_report
from wired_union.subjects import assess

TODAY = "2026-11-24"


class Words(HTMLParser):
    """The texts and the addresses of a page."""

    def __init__(self) -> None:
        super().__init__()
        self.words: list[str] = []
        self.links: list[str] = []
        self.tags: list[str] = []

    def handle_starttag(self, tag, attrs):
        self.tags.append(tag)
        self.links += [v for k, v in attrs if k in {"src", "href"} and v]

    def handle_data(self, data):
        self.words.append(data.strip())


def read(page: bytes) -> Words:
    found = Words()
    found.feed(page.decode())
    return found


def test_the_page_has_everything_a_judge_looks_for(mudlark_assessed):
    page = read(report_html(mudlark_assessed, TODAY))
    said = " ".join(page.words).replace("\u202f", " ")
    for heading in ("Brief and verdicts", "What needs attention", "Power", "Mass and money", "Parts",
                    "What was not checked", "Cautions", "From something sensed to something done"):  # fmt: skip
        assert heading in said
    assert "4.36 h" in said
    assert "Your local rules and a licensed practitioner come first" in said
    for item in mudlark_assessed.project.concept.items:
        assert item.name in said
    assert page.tags.count("svg") >= 8 + 4 + 2


def test_it_holds_every_concept_the_decision_and_what_tests_decide(mudlark_assessed):
    project = mudlark_assessed.project
    question = project.concepts[0].questions[0]
    project = edits.answer_question(project, "a", question.id, "It never jammed", "2026-11-27").after
    project = edits.set_question(project, "a", question.id, figures="10 of 10 cores").after
    project = edits.add_need(project, project.concept.subsystems[0].id, "A lamp for dusk").after
    said = " ".join(read(report_html(assess(project), TODAY)).words).replace("\u202f", " ")
    for concept in project.concepts:
        assert concept.name in said
        assert concept.retired is None or concept.retired.why in said
    for criterion in project.decision.criteria:
        assert criterion.name in said
    for asked in (q for c in project.living for q in c.questions):
        assert asked.question in said
    for words in (
        "It never jammed",
        "2026-11-27",
        "10 of 10 cores",
        "A lamp for dusk",
        "4.36 h, breaks",
        "5.49 h, tight",
    ):
        assert words in said
    drawn = report_html(assess(project), TODAY).decode()
    assert all(f'aria-label="{x.name}, to scale"' in drawn for x in project.concept.loads)


def test_the_page_needs_nothing_from_outside(mudlark_assessed):
    page = report_html(mudlark_assessed, TODAY)
    assert all(link.startswith("#") for link in read(page).links)
    assert b"url(http" not in page
    assert page.count(b"@font-face") == 4


def test_what_people_type_stays_text():
    project = a_project(an_item(a_part("<img src=x onerror=alert(1)>")), limits=(a_limit("mass", 1.0),))
    page = report_html(assess(edits.rename_project(project, "<b>&'\"").after), TODAY)
    assert b"<img" not in page
    assert "<img src=x onerror=alert(1)>" in " ".join(read(page).words)


def test_the_pdf_is_a_pdf_and_its_pages_are_pictures(mudlark_assessed):
    assert report_pdf(mudlark_assessed, TODAY).startswith(b"%PDF-")
    pages = report_pages(mudlark_assessed, TODAY, dots_per_inch=40)
    assert 2 <= len(pages) <= 20  # ten, then trials, course, plan, money, concepts, versions and figures
    assert all(p.startswith(b"\x89PNG") for p in pages)


@pytest.mark.parametrize("hostile", ["#panic()", "*bold_ $x$ @ref", "\\ ] #[", '"; #let x = 1'])
def test_the_pdf_takes_any_name(hostile):
    project = edits.rename_project(a_project(an_item(a_part(hostile))), hostile).after
    assert report_pdf(assess(project), TODAY).startswith(b"%PDF-")


def test_a_project_of_nothing_has_a_report_too():
    assert b"No pack with a mission yet." in report_html(assess(a_project()), TODAY)
    assert report_pdf(assess(a_project()), TODAY).startswith(b"%PDF-")


def test_a_report_of_a_pack_that_cannot_deliver():
    project = a_project(a_pack(resistance_ohm=0.5), a_load("heater", 20.0, draw="power"), feeds=(("pack", "heater"),))
    assert b"Cannot deliver" in report_html(assess(project), TODAY)
    assert report_pdf(assess(project), TODAY).startswith(b"%PDF-")


def test_reasons_are_in_the_report():
    project = edits.write_entry(a_project(), TODAY, "", "swap a for b", why="b is in the drawer").after
    assert b"b is in the drawer" in report_html(assess(project), TODAY)


def test_wrong_endings_and_places_are_refused(mudlark_assessed, mudlark, tmp_path):
    with pytest.raises(DocumentError, match=r"a report is \.html or \.pdf"):
        write_report(mudlark_assessed, tmp_path / "r.docx", TODAY)
    with pytest.raises(DocumentError, match=r"a parts list is \.csv or \.xlsx"):
        write_parts(mudlark, tmp_path / "p.txt")
    with pytest.raises(DocumentError, match="Choose another folder"):
        write_parts(mudlark, Path(tmp_path / "nowhere" / "p.csv"))


def test_the_list_holds_every_item_with_its_figures(mudlark, tmp_path):
    write_parts(mudlark, tmp_path / "p.csv")
    found = list(csv.DictReader(io.StringIO((tmp_path / "p.csv").read_text(encoding="utf-8"))))
    assert len(found) == len(mudlark.concept.items)
    motor = next(r for r in found if r["item"].startswith("Gearmotor"))
    assert (motor["count"], motor["mass_kg"], motor["motor.stall_current_a"]) == ("4", "0.205", "2.4") or float(
        motor["mass_kg"]
    ) == pytest.approx(mudlark.concept.items[0].part.mass_kg)


def test_the_sheet_has_numbers_as_numbers(mudlark, tmp_path):
    from openpyxl import load_workbook

    write_parts(mudlark, tmp_path / "p.xlsx")
    sheet = load_workbook(tmp_path / "p.xlsx").active
    head = [c.value for c in sheet[1]]
    first = dict(zip(head, [c.value for c in sheet[2]], strict=True))
    assert first["count"] == 4
    assert isinstance(first["mass_kg"], float)
    assert sheet.max_row == len(mudlark.concept.items) + 1


def test_a_name_that_looks_like_a_formula_stays_a_text(tmp_path):
    from openpyxl import load_workbook

    project = a_project(an_item(a_part("=1+1")), an_item(a_part("-x"), knowledge="guess"))
    write_parts(project, tmp_path / "p.csv")
    assert "'=1+1" in (tmp_path / "p.csv").read_text(encoding="utf-8")
    write_parts(project, tmp_path / "p.xlsx")
    sheet = load_workbook(tmp_path / "p.xlsx").active
    assert sheet["B2"].data_type == "s"
    assert sheet["B2"].value == "=1+1"
    assert rows(project)[0][:3] == ["subsystem", "item", "count"]
