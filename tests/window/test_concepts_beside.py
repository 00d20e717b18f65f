"""Another concept beside the one on show: its figures are those that it shows by itself, and its curves are dashed."""

from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLabel, QPushButton

from wired_union.kernel.concepts import as_at_work
from wired_union.picture.shapes import Poly, Text
from wired_union.subjects import assess
from wired_union.subjects.power.pick import PowerPick
from wired_union.units import show

from .hands import click


def link(view, words):
    made = (b for b in view.panel.findChildren(QPushButton) if b.isVisibleTo(view.panel))
    return next((b for b in made if words in " ".join(b.text().split())), None)


def test_another_concept_is_put_beside_and_taken_away_again(window):
    window.go("power")
    QTest.qWait(50)
    view, project = window.views["power"], window.store.project
    other = next(c for c in project.concepts if c.id != project.concept.id)
    canvas = view.span.canvases["mission"]
    assert not [s for s in canvas.picture.shapes if isinstance(s, Poly) and s.dash]
    click(link(view, f"compare with {other.name}"))
    QTest.qWait(50)
    assert window.store.picked(PowerPick).beside == other.id
    alone = assess(as_at_work(project, other.id))
    told = [x.text() for x in view.panel.findChildren(QLabel) if x.isVisibleTo(view.panel)]
    for kind in ("runtime", "peak-current"):
        own, its = (a.measure(kind) for a in (window.store.assessment, alone))
        assert f"{show(own.value, own.unit)} · {show(its.value, its.unit)}" in told
    assert len([s for s in canvas.picture.shapes if isinstance(s, Poly) and s.dash]) == 2
    assert any(isinstance(s, Text) and s.text == f"dashed: {other.name}" for s in canvas.picture.shapes)
    assert window.store.project is project
    click(link(view, "compare no more"))
    QTest.qWait(50)
    assert not [s for s in canvas.picture.shapes if isinstance(s, Poly) and s.dash]


def test_a_concept_that_is_gone_is_no_longer_compared_with(window):
    window.go("power")
    window.store.change(PowerPick, beside="no such concept")
    QTest.qWait(50)
    view = window.views["power"]
    assert view.span.other.result is None
    assert link(view, "compare with") is not None
