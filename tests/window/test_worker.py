"""Work off the interface thread: told step by step, stopped between steps, held while hands move; and the slider."""

import subprocess
import sys
from threading import Event

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from wired_union.errors import OUR_FAULT, PlainError
from wired_union.ui.slider import STEPS, FigureSlider
from wired_union.ui.theme import Theme
from wired_union.ui.worker import Worker


class Heard:
    """What a worker said, in its order."""

    def __init__(self, worker: Worker) -> None:
        self.steps: list[tuple[int, object]] = []
        self.ends: list[tuple] = []
        worker.told.connect(lambda revision, step: self.steps.append((revision, step)))
        worker.ended.connect(lambda revision: self.ends.append((revision,)))
        worker.failed.connect(lambda revision, text: self.ends.append((revision, text)))


@pytest.fixture
def worker(qapp):
    made = Worker()
    yield made
    made.stop()
    made.wait()


def test_every_step_is_told_in_its_order(qtbot, worker):
    heard = Heard(worker)
    worker.start(7, lambda: iter("abc"))
    assert worker.running
    qtbot.waitUntil(lambda: bool(heard.ends), timeout=10_000)
    assert heard.steps == [(7, "a"), (7, "b"), (7, "c")]
    assert heard.ends == [(7,)]
    assert not worker.running


def test_a_failure_is_told_in_its_own_words_or_by_its_kind(qtbot, worker):
    heard = Heard(worker)

    def broken(error):
        yield 1
        raise error

    worker.start(1, lambda: broken(PlainError("the sheet has no heading")))
    qtbot.waitUntil(lambda: len(heard.ends) == 1, timeout=10_000)
    worker.start(2, lambda: broken(KeyError()))
    qtbot.waitUntil(lambda: len(heard.ends) == 2, timeout=10_000)
    assert heard.ends == [(1, "the sheet has no heading"), (2, OUR_FAULT)]
    assert heard.steps == [(1, 1), (2, 1)]
    assert not worker.running


def test_a_stop_keeps_what_was_told_and_says_nothing_more(qtbot, worker):
    heard, more = Heard(worker), Event()

    def steps():
        yield "first"
        more.wait(10)
        yield "second"

    worker.start(1, steps)
    qtbot.waitUntil(lambda: bool(heard.steps), timeout=10_000)
    worker.stop()
    more.set()
    worker.wait()
    QTest.qWait(1)
    assert heard.steps == [(1, "first")]
    assert heard.ends == []
    assert not worker.running


def test_an_older_run_that_ends_late_does_not_make_a_newer_one_look_idle(qtbot, worker):
    heard, first, second = Heard(worker), Event(), Event()

    def held(gate):
        gate.wait(10)
        yield from ()

    worker.start(1, lambda: held(first))
    worker.start(2, lambda: held(second))
    first.set()  # ends without a step in which it could see that it was stopped
    qtbot.waitUntil(lambda: heard.ends == [(1,)], timeout=10_000)
    assert worker.running
    second.set()
    qtbot.waitUntil(lambda: heard.ends == [(1,), (2,)], timeout=10_000)
    assert not worker.running


def test_held_work_waits_before_its_next_step(qtbot, worker):
    heard, more = Heard(worker), Event()

    def steps():
        yield 1
        more.wait(10)
        yield 2

    worker.start(1, steps)
    qtbot.waitUntil(lambda: len(heard.steps) == 1, timeout=10_000)
    worker.hold()
    more.set()
    QTest.qWait(30)
    assert [s for _, s in heard.steps] == [1]
    worker.go_on()
    qtbot.waitUntil(lambda: bool(heard.ends), timeout=10_000)
    assert [s for _, s in heard.steps] == [1, 2]


WINDOW_CLOSED_WHILE_IT_WORKS = """
import sys
from pathlib import Path
from threading import Event

from PyQt6 import sip
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from wired_union.app.main_window import MainWindow
from wired_union.ui.places import Places
from wired_union.ui.worker import Worker

app, at = QApplication([]), Path(sys.argv[1])
window = MainWindow(Places(at / "s.json", at / "recovery", at / "store.sqlite", at / "kept"), lambda: "2026-11-24")
window.open_demo("mudlark")
window.show()
begun, left = Event(), []

def steps():
    begun.set()
    try:
        while True:
            sum(range(20_000))
            yield 1
    finally:
        left.append(True)

for run in (mine := Worker(window)), (told := Worker(window)):
    begun.clear()
    run.start(1, steps)
    begun.wait(10)
if sys.argv[2] == "closed":
    window.close()
else:
    sip.delete(window)
    QTest.qWait(500)
print(len(left))
"""


@pytest.mark.parametrize("how", ["closed", "destroyed"])
def test_a_window_goes_at_once_while_long_work_runs_and_the_work_ends(how, tmp_path):
    """In a process of its own: a window that waits for ever would take the tests along."""
    ran = subprocess.run(
        [sys.executable, "-c", WINDOW_CLOSED_WHILE_IT_WORKS, str(tmp_path), how],
        capture_output=True,
        text=True,
        timeout=60,
    )
    assert (ran.returncode, ran.stdout.split()) == (0, ["2"]), ran.stderr


# the slider


@pytest.fixture
def slider(qtbot):
    made = FigureSlider(Theme(), "slope", "°", 60.0)
    qtbot.addWidget(made)
    made.resize(420, 40)
    made.show()
    qtbot.waitExposed(made)
    return made


def listened(slider):
    moved, let_go = [], []
    slider.moved.connect(moved.append)
    slider.let_go.connect(let_go.append)
    return moved, let_go


def test_showing_a_figure_moves_the_handle_and_says_nothing(slider):
    moved, let_go = listened(slider)
    slider.show_value(12.0)
    assert slider.value == pytest.approx(12.0)
    assert slider.figure.text() == "12°"
    slider.show_value(90.0)  # beyond its reach: the handle stays at the end, the figure is true
    assert slider.slider.value() == STEPS
    assert slider.figure.text() == "90°"
    assert (moved, let_go) == ([], [])


def test_arrow_keys_move_and_let_go_at_once(slider):
    slider.show_value(12.0)
    moved, let_go = listened(slider)
    QTest.keyClick(slider.slider, Qt.Key.Key_Right)
    assert moved == let_go == [pytest.approx(12.2)]
    assert slider.figure.text() == "12.2°"


def test_a_drag_says_where_it_is_and_lets_go_once(slider):
    slider.show_value(0.0)
    moved, let_go = listened(slider)
    inner, middle = slider.slider, slider.slider.height() // 2
    QTest.mousePress(inner, Qt.MouseButton.LeftButton, pos=QPoint(4, middle))
    for x in (30, 60, 90):
        QTest.mouseMove(inner, QPoint(x, middle))
    assert moved == sorted(moved)
    assert len(moved) == 3
    assert let_go == []
    QTest.mouseRelease(inner, Qt.MouseButton.LeftButton, pos=QPoint(90, middle))
    assert let_go == [moved[-1]]


def test_it_is_named_for_those_who_hear_it(slider):
    assert slider.slider.accessibleName() == "slope"
