"""Every subject keeps the contract; and a new subject is nothing but its folder."""

import importlib
import subprocess
import sys
import textwrap
from pathlib import Path

import pytest

import edits
from builders import a_limit, a_part, a_project
from values import told
from wired_union.catalogue.demo import demo
from wired_union.kernel.engine import assess_with, in_order
from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Assessment, Node, Section, Subject
from wired_union.physics.methods import find_method
from wired_union.picture.shapes import Kit
from wired_union.project.fresh import new_project
from wired_union.report.write import report_html, report_pdf
from wired_union.subjects import NAMES, assess, subjects

TUTORIAL = Path(__file__).parents[2] / "docs" / "new-subject.md"


def written_from(tutorial: Path, folder: Path) -> None:
    """Every file that the tutorial shows, written as it stands there: ```python title="water/node.py"."""
    lines = iter(tutorial.read_text(encoding="utf-8").splitlines())
    for line in lines:
        if line.startswith("```python title="):
            path = folder / line.split('"')[1]
            path.parent.mkdir(parents=True, exist_ok=True)
            body = []
            for inner in lines:
                if inner == "```":
                    break
                body.append(inner)
            path.write_text("\n".join(body) + "\n", encoding="utf-8")


@pytest.fixture
def toy(tmp_path, monkeypatch) -> Subject:
    """The worked subject of the tutorial, made from nothing but its folder."""
    written_from(TUTORIAL, tmp_path)
    monkeypatch.syspath_prepend(str(tmp_path))
    for name in [m for m in sys.modules if m == "water" or m.startswith("water.")]:
        monkeypatch.delitem(sys.modules, name)
    found = importlib.import_module("water.subject").SUBJECT
    yield found
    for name in [m for m in sys.modules if m == "water" or m.startswith("water.")]:
        del sys.modules[name]


def everyone(toy: Subject) -> tuple[Subject, ...]:
    return (*subjects(), toy)


def check_contract(subject: Subject, everybody: tuple[Subject, ...], project) -> None:
    assert subject.id.isidentifier()
    assert subject.title
    assert subject.group.isupper()
    assert subject.about
    assert all(len(x) > 40 for x in subject.about), "F1 has something to say"
    assert all(find_method(m).source for m in subject.methods)
    found = assess_with(everybody, project)
    mine = {m.id: m for m in found.all_measures.values() if m.subject == subject.id}
    for measure in mine.values():
        kind = found.kind_of(measure.id)
        assert kind is not None, f"{measure.id} is explained by nobody"
        assert kind.own_units or kind.unit == measure.unit
        assert bool(measure.of) == kind.each
        assert found.explainer(measure.id) is subject
        for driver in kind.drivers(found, measure) if kind.drivers else []:
            assert driver.name
            assert driver.text
    for finding in found.findings:
        assert finding.subject in {s.id for s in everybody}
        assert finding.what
        assert set(finding.items) <= {i.id for i in project.concept.items}
    if subject.section:
        made = subject.load(subject.section)(found, Kit())
        assert isinstance(made, Section)
        assert made.title
        for block in made.blocks:
            assert sum(bool(x) for x in (block.text, block.head, block.svg)) == 1
            assert all(len(row) == len(block.head) for row in block.rows)
    if subject.judges:
        assert found.stage_verdict(subject) in {None, *Verdict}
    else:
        assert found.stage_verdict(subject) is None


PROJECTS = {
    "mudlark": demo, "bats": lambda: demo("bat-counter"), "new": lambda: new_project("x"), "empty": a_project,
    "unknown": lambda: a_project(a_part("thing", mass_kg=None, price=None), limits=(a_limit("mass", 1.0), a_limit("moon", 3.0))),
}  # fmt: skip


@pytest.mark.parametrize("name", NAMES)
@pytest.mark.parametrize("project", PROJECTS)
def test_every_subject_keeps_the_contract(name, project):
    subject = next(s for s in subjects() if s.id == name)
    check_contract(subject, subjects(), PROJECTS[project]())


@pytest.mark.parametrize("project", PROJECTS)
def test_the_toy_keeps_it_too(toy, project):
    check_contract(toy, everyone(toy), PROJECTS[project]())


@pytest.mark.parametrize("project", PROJECTS)
def test_no_project_breaks_the_report(toy, project):
    found = assess_with(everyone(toy), PROJECTS[project]())
    page = report_html(found, "2026-11-24").decode()
    assert "What was not checked" in page
    assert "Water" in page
    assert report_pdf(found, "2026-11-24").startswith(b"%PDF")


def test_the_toy_is_seen_everywhere(toy):
    """Its measure can be limited, its finding is hard, its stage has a verdict, and nobody else changed a line."""
    everybody = everyone(toy)
    project = a_project(a_part("pump", "pump"), limits=(a_limit("depth", 2.0),))
    found = assess_with(everybody, project)
    assert found.measure("depth").value == 1.0
    assert found.measure("depth").verdict is Verdict.HOLDS
    deep = edits.set_count(project, "pump", 3).after
    after = found.again(deep)
    assert after.measure("depth").verdict is Verdict.BREAKS
    assert [f.id for f in after.hard_breaks] == ["flooded:pump"]
    assert after.stage_verdict(toy) is Verdict.BREAKS
    assert assess(project).measure("depth").missing == ("nothing informs it yet",)


def test_a_hard_finding_that_the_search_does_not_know_cuts_off_that_combination_alone(toy):
    """The toy says nothing of what its finding proves: the search is right all the same, by brute force."""
    import itertools

    from wired_union.choose.combination import Favour, ask
    from wired_union.choose.search import bounds_of, cutter_of, search

    project = edits.set_limit(demo(), "runtime", value=9000.0).after
    question = ask(assess_with(everyone(toy), project), ("imu", "gnss"), Favour(mass=1))
    every = itertools.product(*(range(len(c.options)) for c in question.choices))
    tried = [question.try_out(p) for p in every]
    flooded = [t for t in tried if any(f.subject == "water" for f in t.hard)]
    assert flooded, "the toy must refuse some, or this tests nothing"
    for t in flooded[:3]:
        if {f.subject for f in t.hard} == {"water"}:
            cut = cutter_of(question, bounds_of(question)).cut(t)
            assert [p.places for p in tried if cut.holds_for(p.places)] == [t.places]
    best = min((t.score for t in tried if t.holds), default=None)
    *_, last = search(question)
    assert (last.found[0].score if last.found else None) == pytest.approx(best)


def test_the_toy_took_few_files_and_none_of_ours():
    shown = [line for line in TUTORIAL.read_text(encoding="utf-8").splitlines() if line.startswith("```python title=")]
    assert len(shown) <= 4


def test_a_node_is_worked_out_only_when_what_it_reads_has_changed(mudlark, mudlark_assessed):
    """A name, a proof, an origin: no currents, no voltages, no loads are worked out again."""
    names = {n.name: n for n in in_order(subjects())}
    heavy = [names["supply"], names["motion"], names["usual currents"], names["timing"]]
    for change in (
        edits.rename_item(mudlark, "probe", "Other"),
        edits.set_limit(mudlark, "mass", proof="weighed on the day"),
        edits.set_origin(mudlark, "probe", "donated"),
        edits.set_part_value(mudlark, "probe", "price", 3.0),
        edits.write_entry(mudlark, "2026-11-24", "Ada", "seen", why="why"),
    ):
        after = mudlark_assessed.again(change.after)
        assert all(after.of(n) is mudlark_assessed.of(n) for n in heavy), change.sentence
    after = mudlark_assessed.again(edits.set_part_value(mudlark, "probe", "load.active_a", 0.03).after)
    assert after.of(names["supply"]) is not mudlark_assessed.of(names["supply"])


def test_a_new_name_is_seen_in_every_finding(mudlark):
    before = assess(mudlark)
    for item in mudlark.concept.items:
        change = edits.rename_item(mudlark, item.id, f"Zebra {item.id}")
        quick, fresh = before.again(change.after), assess(change.after)
        assert told(quick.findings) == told(fresh.findings)
        assert quick.measures == fresh.measures


def test_nodes_that_need_each_other_in_a_ring_are_refused():
    needs = []
    one = Node("one", lambda p: (), lambda p, g: 1, needs)
    needs.append(Node("other", lambda p: (), lambda p, g: 2, (one,)))
    with pytest.raises(ValueError, match="needs itself"):
        in_order((Subject(id="x", title="X", group="X", about=(), view="", nodes=(one,)),))


def test_measures_need_not_be_ratios():
    """Decibels, days, chances: so far from the limit, in a span of their own."""
    from wired_union.kernel.results import Measure

    margin = {"unit": "dB", "limit": 10.0, "direction": "at least", "span": 20.0, "reserve": 0.2}
    assert Measure("link", "Link", 16.0, **margin).verdict is Verdict.HOLDS
    assert Measure("link", "Link", 13.0, **margin).verdict is Verdict.TIGHT
    assert Measure("link", "Link", 9.0, **margin).verdict is Verdict.BREAKS
    assert Measure("link", "Link", -3.0, **{**margin, "limit": -5.0}).verdict is Verdict.TIGHT
    assert Measure("slack", "Slack", 0.0, "days", 0.0, "at least", span=10.0, reserve=0.0).verdict is Verdict.HOLDS
    assert Measure("x", "X", float("nan"), "A", 1.0).verdict is Verdict.UNKNOWN
    assert Measure("x", "X", 1.0, "A", 0.0).verdict is Verdict.BREAKS
    assert Measure("x", "X", 0.0, "A", 5.0, "at least").verdict is Verdict.BREAKS
    assert Measure("x", "X", -0.5, "V", 0.0, "at least").verdict is Verdict.BREAKS
    assert Measure("x", "X", -7.0, "°C", -5.0, "at least").verdict is Verdict.BREAKS
    assert Measure("x", "X", 0.0, "V", 0.0, "at least").verdict is Verdict.TIGHT
    assert Measure("x", "X", 0.5, "V", 0.0, "at least").verdict is Verdict.HOLDS


def test_nothing_outside_names_a_subject():
    """The shells loop over the subjects: none of their ids stands as a word in app, report, cli or the kits."""
    source = Path(importlib.import_module("wired_union").__file__).parent
    wanted = {f'"{n}"' for n in NAMES} - {
        '"parts"',
        '"brief"',
        '"mass"',
        '"power"',
        '"concepts"',
    }  # words of the model too
    found = [
        (file.name, word)
        for room in ("kernel", "report", "ui", "choose", "cli", "app")
        for file in (source / room).rglob("*.py")
        if file.name not in {"screenshots.py", "diary.py"}  # what a picture shows; lists of the model by their names
        for word in wanted
        if word in file.read_text(encoding="utf-8")
    ]
    assert found == []


def test_the_example_of_the_tutorial_is_checked_by_the_house_rules(tmp_path):
    written_from(TUTORIAL, tmp_path)
    root = Path(__file__).parents[2]
    done = subprocess.run([sys.executable, "-m", "ruff", "check", "--config", str(root / "pyproject.toml"), str(tmp_path)],
                          capture_output=True, text=True)  # fmt: skip
    assert done.returncode == 0, textwrap.indent(done.stdout, "  ")
    assert isinstance(assess(demo()), Assessment)


def test_one_subject_is_where_items_are_edited():
    assert [s.id for s in subjects() if s.edits_items] == ["parts"]
