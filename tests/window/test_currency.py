"""Money is counted in what the project says: no other sign is left anywhere, and no amount is converted."""

import pytest
from PyQt6.QtWidgets import QLabel, QLineEdit, QPushButton

import edits
from wired_union import units
from wired_union.catalogue.demo import demo
from wired_union.catalogue.starts import STARTS, start
from wired_union.choose.candidates import candidates
from wired_union.kernel.differences import differences
from wired_union.project.errors import ProjectError
from wired_union.report.write import report_html
from wired_union.subjects import assess

PROJECTS = {"mudlark": demo, "bat-counter": lambda: demo("bat-counter"), **{n: lambda n=n: start(n) for n in STARTS}}


@pytest.mark.parametrize("name", PROJECTS)
def test_nothing_that_is_said_of_a_project_in_euros_is_in_pounds(name):
    plain = PROJECTS[name]().but(notebook=(), versions=())  # what was written down then stays in what it was then
    project = edits.set_currency(plain, "€").after
    found = assess(project)
    assert "€" in report_html(found, "2026-11-24").decode()
    said = [report_html(found, "2026-11-24").decode(), *(f"{f.title} {f.what} {f.why}" for f in found.findings)]
    for item in project.concept.items[:4]:
        asked = edits.set_requirement(project, item.id, "most_price", 0.01).after
        tried = candidates(assess(asked), item.id)
        said += [r.text for c in tried.refused for r in c.refusals]
        said += [f"{m}" for m in tried.moves]
    said += differences(project, edits.set_part_value(project, project.concept.items[0].id, "price", 77.0).after)
    said.append(edits.set_part_value(project, project.concept.items[0].id, "price", 77.0).sentence)
    assert not [x for x in said if "£" in x]


def test_amounts_stay_the_numbers_they_are():
    project = demo()
    euros = edits.set_currency(project, "€").after
    assert assess(euros).measure("money").value == assess(project).measure("money").value
    assert assess(euros).measure("money").shown == assess(project).measure("money").shown.replace("£", "€")
    assert differences(project, euros) == ["currency: £, then €"] or any("€" in d for d in differences(project, euros))
    with pytest.raises(ProjectError, match="Choose one of £, €"):
        edits.set_currency(project, "shells")


@pytest.mark.parametrize(
    ("currency", "shown"), [("€", "€1,234"), ("kr", "1,234\u202fkr"), ("CHF", "1,234\u202fCHF"), ("¥", "¥1,234")]
)
def test_a_sign_stands_before_and_a_word_behind(currency, shown):
    assert units.show(1234.0, currency) == shown
    assert units.parse(shown, currency) == 1234.0
    assert units.parse("£12.50", currency) == 12.5


def test_the_window_counts_in_it_too(window):
    window.go("brief")
    view = window.views["brief"]
    from PyQt6.QtWidgets import QComboBox

    choice = next(c for c in view.panel.findChildren(QComboBox) if c.accessibleName() == "Currency")
    choice.picked.emit("€")
    for stage in window.views:
        window.go(stage)
        shown = [
            w.text() for kind in (QLabel, QPushButton, QLineEdit) for w in window.findChildren(kind) if w.isVisible()
        ]
        assert not [t for t in shown if "£" in t], stage
    assert window.strip.cell("money").accessibleName().startswith("Money: €")
    window.undo()
    assert window.store.project.brief.currency == "£"
