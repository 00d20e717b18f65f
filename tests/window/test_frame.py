"""The frame in narrow windows and with many stages and limits: nothing that decides is out of reach."""

import itertools

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QWidget

import edits
from builders import a_limit
from wired_union.app.rail import Rail
from wired_union.kernel.subject import Selection, Subject
from wired_union.project.model import Limit
from wired_union.subjects import subjects
from wired_union.subjects.brief.edits import add_limit

from .hands import click

CTRL, ALT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.AltModifier


@pytest.fixture
def many(window):
    """The demo with twenty limits."""
    measures = [m for m in window.store.assessment.all_measures.values() if m.limit is None and m.value]
    for measure in measures:
        window.store.attempt(edits.add_limit, a_limit(measure.id, abs(measure.value) * 3 + 1))
    for n in range(20 - len(window.store.project.brief.limits)):
        window.store.attempt(edits.add_limit, a_limit(f"own-{n}", 5.0))
    QTest.qWait(1)
    return window


def test_twenty_limits_have_a_bundle_that_opens_and_closes(many):
    strip = many.strip
    assert strip.bundled
    assert strip.bundle.isVisible()
    for measure in many.store.assessment.measures:
        if measure.verdict in {"breaks", "tight"}:
            assert strip.cell(measure.id).isVisible(), measure.id
    hidden = strip.bundled[0]
    assert not strip.cell(hidden).isVisible()
    QTest.keyClick(many, Qt.Key.Key_F6)
    assert strip.opened
    assert all(strip.cell(m.id).isVisible() for m in many.store.assessment.measures)
    assert QApplication.focusWidget() is strip.cell(hidden)
    QTest.keyClick(many, Qt.Key.Key_Escape)
    assert not strip.opened
    click(strip.bundle)
    assert strip.opened
    QTest.keyClick(strip.bundle, Qt.Key.Key_Return)
    assert not strip.opened


def test_a_limit_that_nothing_informs_is_on_the_strip(window):
    limit = Limit(measure="charge-cycles", name="Charged by then", value=2.0, direction="at least")
    window.store.attempt(add_limit, limit)
    assert "unknown" in window.strip.cell("charge-cycles").accessibleName()
    assert window.store.assessment.measure("charge-cycles").limit_shown == "2"


def test_the_rail_is_walked_by_keys(window):
    window.go("brief")
    order = [s.id for s in subjects()]
    for stage in (*order[1:], order[0]):
        QTest.keyClick(window, Qt.Key.Key_PageDown, CTRL)
        assert window.stage == stage
    QTest.keyClick(window, Qt.Key.Key_PageUp, CTRL)
    assert window.stage == order[-1]
    QTest.keyClick(window, Qt.Key.Key_3, ALT)
    assert window.stage == order[2]


def test_sixteen_stages_stay_in_reach(window, qtbot):
    """More stages than there are, in a low window: it scrolls, and keeps the present one in sight."""
    more = tuple(
        Subject(id=f"s{n}", title=f"Stage {n}", group=("A", "B", "C")[n // 6], about=("x",), view="") for n in range(18)
    )
    rail = Rail(window.theme, more)
    qtbot.addWidget(rail)
    rail.resize(rail.width(), 300)
    rail.fit(480)
    rail.show()
    for stage in ("s17", "s0", "s9"):
        rail.show_stages(stage, {})
        QTest.qWait(1)
        button = rail.button(stage)
        top = button.mapTo(rail.viewport(), button.rect().topLeft()).y()
        assert 0 <= top <= rail.viewport().height() - button.height()
    assert rail.button("s9").toolTip().endswith("(Alt+0)")
    assert rail.button("s10").toolTip().endswith("(Ctrl+K)")


def test_every_key_that_a_tooltip_promises_works(window):
    for number, subject in enumerate(subjects(), 1):
        key = f"Alt+{number % 10}" if number <= 10 else "Ctrl+K"
        assert window.rail.button(subject.id).toolTip() == f"{subject.title}  ({key})"
        if number > 10:
            continue
        QTest.keyClick(window, getattr(Qt.Key, f"Key_{number % 10}"), ALT)
        assert window.stage == subject.id


def test_below_its_width_the_panel_is_a_drawer(open_window):
    window = open_window(size=(1024, 700))
    window.go("parts")
    drawer = window.drawer
    assert drawer.is_drawer
    assert not window.panels.isVisible()
    assert drawer.handle.isVisible()
    before = window.work.width()
    QTest.keyClick(window, Qt.Key.Key_F9)
    QTest.qWait(1)
    assert window.panels.isVisible()
    assert window.work.width() == before, "it lies over the work, which does not move"
    assert window.panels.height() == drawer.handle.height()
    QTest.keyClick(window, Qt.Key.Key_Escape)
    assert not window.panels.isVisible()
    window.store.pick(Selection(item="probe"))
    assert window.panels.isVisible(), "a selection asks for its details"
    click(drawer.handle)
    assert not window.panels.isVisible()
    window.resize(1280, 800)
    QTest.qWait(1)
    assert window.panels.isVisible()
    assert not drawer.handle.isVisible()
    assert window.panels.x() >= window.work.x() + window.work.width()


@pytest.mark.parametrize("factor", [1.0, 1.3])
def test_nothing_that_decides_is_cut_in_a_small_window(open_window, factor):
    window = open_window(size=(1024, 700))
    if factor != 1.0:
        window.scale_text(factor)
    QTest.qWait(1)
    shown = [m for m in window.store.assessment.measures if window.strip.cell(m.id).isVisible()]
    assert {m.id for m in shown} >= {m.id for m in window.store.assessment.measures if m.verdict in {"breaks", "tight"}}
    right = window.strip.bundle if window.strip.bundled else window.strip.cell(shown[-1].id)
    assert right.mapTo(window, right.rect().topRight()).x() <= window.width()
    for stage in window.views:
        window.go(stage)
        view = window.views[stage]
        QTest.qWait(1)
        assert view.inside.minimumSizeHint().width() <= view.viewport().width() + 2, stage


def test_one_word_is_asked_for_in_our_looks(window, qtbot):
    from wired_union.ui.ask import Ask

    asked = Ask(window, "New mode", "What is the machine doing in it?", "Park")
    qtbot.addWidget(asked)
    asked.show()
    QTest.keyClicks(asked.field, "Wait")
    QTest.keyClick(asked.field, Qt.Key.Key_Return)
    assert asked.result() == Ask.DialogCode.Accepted
    assert asked.field.text() == "Wait"


@pytest.mark.parametrize("width", [1280, 1024, 800])
def test_limits_on_the_strip_never_lie_on_each_other(open_window, width):
    """With nothing known of a converter most limits keep their place, and a second row is begun."""
    window = open_window(size=(width, 700))
    for change in (edits.set_part_value(window.store.project, "buck", "regulator.efficiency_curve", ()), None):
        strip = window.strip
        cells = [strip.cell(m.id) for m in window.store.assessment.measures]
        shown = [c.geometry() for c in (*cells, strip.bundle) if c.isVisible()]
        assert len(shown) > 4
        assert not [(a, b) for a, b in itertools.combinations(shown, 2) if a.intersects(b)]
        assert max(g.bottom() for g in shown) <= strip.viewport().height()
        if change is not None:
            window.store.apply(change)
            QApplication.processEvents()


def lie_on_each_other(view: QWidget) -> list[tuple[QWidget, QWidget]]:
    found = []
    for parent in view.findChildren(QWidget):
        inside = [c for c in parent.children() if isinstance(c, QWidget) and c.isVisible() and not c.isWindow()]
        for a, b in itertools.combinations(inside, 2):
            shared = a.geometry() & b.geometry()
            if shared.width() > 1 and shared.height() > 1:
                found.append((a, b))
    return found


@pytest.mark.parametrize("stage", ["motion", "candidates", "combination"])
def test_nothing_lies_on_anything_else_in_a_narrow_window_with_large_text(open_window, qtbot, stage):
    """A column of a wrapping list and a wide card once took the height of another width, and rows lay on a drawing."""
    window = open_window(size=(1024, 700))
    window.scale_text(1.5)
    window.go(stage)
    qtbot.wait(300)  # until pictures have taken the height that their width gives
    qtbot.waitUntil(lambda: not lie_on_each_other(window.views[stage]), timeout=5000)
