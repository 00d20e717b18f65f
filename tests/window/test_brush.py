"""A stretch of the mission drawn out over its curves: who draws what in it, by the pointer and by keys."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLabel
from tests.window.hands import click

from wired_union.project.model import Mission, Phase
from wired_union.subjects.power.node import POWER
from wired_union.subjects.power.pick import PowerPick
from wired_union.subjects.power.shares import between, energy_shares

STRETCHES = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier


@given(st.lists(st.floats(1.0, 100.0), min_size=1, max_size=5), st.floats(0.0, 900.0), st.floats(0.0, 900.0))
def test_a_stretch_has_of_each_phase_what_fine_steps_have_of_it(lasts, a, b):
    """Against a count of a hundred thousand moments between the two times."""
    mission = Mission(phases=tuple(Phase(mode=str(n), duration_s=t) for n, t in enumerate(lasts)), repeats=100)
    start, end = min(a, b), max(a, b)
    found = {p.mode: p.duration_s for p in between(mission, start, end)}
    moments = start + (np.arange(100_000) + 0.5) / 100_000 * (end - start)
    at = np.searchsorted(np.cumsum(lasts), moments % sum(lasts), side="right")
    for n in range(len(lasts)):
        exact = float((at == n).mean()) * (end - start)
        assert found.get(str(n), 0.0) == pytest.approx(exact, abs=2e-4 * (end - start) + 1e-9)
    assert sum(found.values()) == pytest.approx(end - start, abs=1e-6)


@pytest.fixture
def curves(window):
    window.go("power")
    QTest.qWait(50)
    canvas = window.views["power"].span.canvases["mission"]
    return canvas, canvas.region("curve")


def said(window):
    return " ".join(x.text() for x in window.views["power"].panel.findChildren(QLabel) if x.isVisibleTo(window))


def test_a_stretch_is_drawn_out_and_its_energy_told_until_the_curves_are_pressed(window, curves):
    canvas, region = curves
    y = round(region.y + region.h / 2)
    left, right = (QPoint(round(region.x + region.w * share), y) for share in (0.25, 0.5))
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=right)
    QTest.mouseMove(canvas, left)
    QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=left)
    result = window.store.assessment.of(POWER)
    start, end = window.store.picked(PowerPick).stretch
    whole = canvas.region("curve").w * window.views["power"].span.mission._laid.curve_s_per_px
    assert (start, end) == (pytest.approx(0.25 * whole, rel=0.02), pytest.approx(0.5 * whole, rel=0.02))
    shares = energy_shares(result, between(result.concept.mission, start, end))
    cycle = energy_shares(result)
    cycles = (end - start) / result.concept.mission.cycle_s
    assert shares.total_wh == pytest.approx(cycles * cycle.total_wh, rel=0.5)
    QTest.qWait(1)
    assert "the stretch from" in said(window)
    assert "Gearmotor" in said(window)
    QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, pos=left)
    assert window.store.picked(PowerPick).stretch is None
    QTest.qWait(1)
    assert "in one cycle" in said(window)


def test_keys_draw_it_out_from_where_the_cursor_is_and_a_phase_takes_its_place(window, curves):
    canvas, _ = curves
    canvas.setFocus()
    for _ in range(10):
        QTest.keyClick(canvas, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
    for _ in range(5):
        QTest.keyClick(canvas, Qt.Key.Key_Right, STRETCHES)
    start, end = window.store.picked(PowerPick).stretch
    assert start > 0
    assert end - start == pytest.approx(start / 2, rel=0.02)
    for _ in range(2):
        QTest.keyClick(canvas, Qt.Key.Key_Left, STRETCHES)
    assert window.store.picked(PowerPick).stretch[1] == pytest.approx(start + (end - start) * 3 / 5, rel=0.02)
    window.store.change(PowerPick, phase=None)
    phase = canvas.region("phase:0")
    QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, pos=QPoint(round(phase.x + 4), round(phase.y + phase.h / 2)))
    assert window.store.picked(PowerPick).stretch is None
    assert window.store.picked(PowerPick).phase == 0
    click(window.views["power"].span.buttons["mission"])
