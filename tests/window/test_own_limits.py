"""A limit of the team's own, from the link on the Brief to a verdict on the strip, by clicks and keys."""

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMenu

from .hands import answer, click, typed


def test_an_own_limit_is_named_given_a_number_and_measured(window, monkeypatch):
    window.go("brief")
    view = window.views["brief"]
    answer(monkeypatch, "Cores of twenty")
    click(view.add_button)
    menu = next(w for w in QApplication.topLevelWidgets() if isinstance(w, QMenu) and w.isVisible())
    assert menu.actions()[0].text() == "One of our own, which we measure …"
    QTest.keyClick(menu, Qt.Key.Key_Down)
    QTest.keyClick(menu, Qt.Key.Key_Return)
    limit = window.store.project.brief.limits[-1]
    assert (limit.name, limit.own) == ("Cores of twenty", True)
    assert window.strip.cell(limit.measure).accessibleName().endswith("unknown, lacks not tried yet")
    typed(view, "Unit", "cores")
    typed(view, "Limit", "18")
    typed(view, "Measured", "17 cores")
    typed(view, "Measured by", "the shore crew")
    measure = window.store.assessment.measure(limit.measure)
    assert (measure.verdict, measure.shown) == ("breaks", "17\u202fcores")
    assert measure.measured == f"measured {window.today()} by the shore crew"
    assert not window.strip.cell(limit.measure).isHidden()
    typed(view, "Measured", "many")
    assert window.store.assessment.measure(limit.measure).value == 17.0  # what cannot be read changes nothing
    while window.store.project.brief.limit(limit.measure) is not None:
        window.undo()
    assert len(window.store.project.brief.limits) == 10


def test_the_air_around_it_is_set_on_the_brief(window):
    window.go("brief")
    view = window.views["brief"]
    typed(view, "Coldest air", "-15")
    assert window.store.project.brief.coldest_c == -15.0
    cold = [f for f in window.store.assessment.hard_breaks if f.check == "climate"]
    assert len(cold) == 1
    assert view.subtitle.text().endswith("· 4 more things break")  # besides the boot pin, corer and program of the demo
    typed(view, "Warmest air", "-20 °C")  # refused: colder than the coldest
    assert window.store.project.brief.hottest_c == 25.0
    window.undo()
    assert window.store.project.brief.coldest_c == 10.0
