"""Timing in the window: a task that does not fit and its order solved, a loop calmed, a packet shortened, undone."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from wired_union.kernel.results import Verdict
from wired_union.subjects.timing.air import AIR
from wired_union.subjects.timing.buses import BUSES
from wired_union.subjects.timing.loops import LOOPS
from wired_union.subjects.timing.pick import SharedPick
from wired_union.subjects.timing.picture_buses import BusPick
from wired_union.subjects.timing.tasks import TASKS

from .hands import answer, named, typed


@pytest.fixture
def timing(window):
    window.open_demo()
    window.go("timing")
    return window.views["timing"]


def click(canvas, region_id: str) -> None:
    region = canvas.region(region_id)
    at = QPoint(int(region.x + region.w / 2), int(region.y + region.h / 2))
    QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, pos=at)


def of(window, task_id: str):
    return next(t for p in window.store.assessment.of(TASKS) if (t := p.of(task_id)) is not None)


def test_a_task_that_does_not_fit_is_added_and_the_order_solved(window, timing, monkeypatch):
    before = window.store.project
    answer(monkeypatch, "Steer")
    timing.shared.add_task("controller")
    assert window.store.picked(SharedPick) == SharedPick("tasks", "steer")
    assert of(window, "steer").verdict is Verdict.UNKNOWN  # nobody says how long it runs
    typed(timing, "Steer: every", "10 ms")
    typed(timing, "Steer: runs at most", "2 ms")
    assert of(window, "steer").verdict is Verdict.BREAKS  # below all others, and more urgent than they are
    finding = next(f for f in window.store.assessment.findings if f.of == "steer")
    order = next(r for r in finding.remedies if r.label.startswith("the order "))
    window.store.apply(order.change)
    assert of(window, "steer").verdict is not Verdict.BREAKS
    while window.store.can_undo:
        window.store.undo()
    assert window.store.project == before


def test_lanes_and_bars_lead_to_their_fields_and_back(window, timing):
    click(timing.shared.lanes["controller"], "task control")
    assert window.store.picked(SharedPick) == SharedPick("tasks", "control")
    typed(timing, "Control: every", "10 ms")
    assert of(window, "control").task.period_s == 0.01
    chain = window.store.assessment.measure("chain:bump-to-stop")
    assert chain.value < 0.175  # a shorter period waits less
    click(timing.shared.buses, "message two-sentences")
    assert window.store.picked(SharedPick) == SharedPick("messages", "two-sentences")
    typed(timing, "Two sentences: bytes", "12")
    assert window.store.assessment.of(BUSES)[1].share < 0.2
    timing.shared._bus_chosen(BusPick("buses", "position"))
    before = window.store.project
    typed(timing, "Position: clock or baud", "0")
    assert window.store.project == before
    timing._stage_chosen("bump-to-stop", 0)
    assert window.store.picked(SharedPick) == SharedPick()


def heading(window):
    return next(r for r in window.store.assessment.of(LOOPS) if r.loop.id == "heading-to-a-marker")


def test_a_picture_too_large_makes_it_circle_until_it_is_cheaper(window, timing):
    """Sixteen times the pixels; then what the finding of its eye offers, one after the other."""
    project = window.store.project
    window.store.pick(SharedPick("eyes", "marker-eye"))
    typed(timing, "Marker eye: pixels across", "1280")
    typed(timing, "Marker eye: pixels up", "960")
    assert heading(window).verdict is Verdict.BREAKS
    assert any(f.title == "Heading to a marker circles what it aims at" for f in window.store.assessment.findings)
    for words in ("pictures of", "pictures of", "a computer four times as fast", "look for a colour"):
        finding = next(f for f in window.store.assessment.findings if f.check == "eye")
        remedy = next(r for r in finding.remedies if words in r.label)
        window.store.apply(remedy.change)
        if heading(window).verdict is Verdict.HOLDS:
            break
    assert heading(window).verdict is not Verdict.BREAKS
    while window.store.can_undo:
        window.store.undo()
    assert window.store.project == project


def test_what_p_does_is_seen_while_it_is_dragged_and_kept_when_let_go(window, timing):
    window.store.pick(SharedPick("control_loops", "heading-to-a-marker"))
    gain = timing.loops.slid["control_gain"]
    before = timing.loops.responses["heading-to-a-marker"].picture
    gain.slider.setSliderDown(True)
    gain.slider.setValue(gain.slider.value() + 60)
    assert window.store.preview is not None
    assert timing.loops.responses["heading-to-a-marker"].picture != before
    gain.slider.setSliderDown(False)
    assert window.store.preview is None
    loop = next(x for x in window.store.project.concept.control_loops if x.id == "heading-to-a-marker")
    assert loop.control_gain > 1.7


def test_a_shorter_packet_is_less_of_the_hour(window, timing):
    window.store.pick(SharedPick("radio_links", "position-to-the-shore"))
    before = window.store.assessment.measure("air").value
    typed(timing, "Position to the shore: bytes", "12")
    assert window.store.assessment.measure("air").value < before / 2
    assert window.store.assessment.of(AIR)[0].link.payload_bytes == 12
    assert "0.7" not in timing.air.share.text()


def test_all_of_it_is_made_from_nothing(window, monkeypatch):
    """A processor, a task, a bus, a message, a loop and a link by name, each then taken away again."""
    window.open_demo("bat-counter")
    window.go("timing")
    view, store = window.views["timing"], window.store
    answer(monkeypatch, "Thing")
    view.shared._add(
        "processors", "", "", __import__("wired_union.subjects.timing.edits_shared", fromlist=["x"]).add_processor
    )
    view.shared.add_task("thing")
    view.loops._add()
    view.air._add("")
    concept = store.project.concept
    assert [concept.processors[-1].id, concept.tasks[-1].id, concept.control_loops[-1].id,
            concept.radio_links[-1].id] == ["thing"] * 4  # fmt: skip
    for room in ("processors", "control_loops", "radio_links"):
        store.pick(SharedPick(room, "thing"))
        named(view, "take Thing away").click()
        assert not any(x.id == "thing" for x in getattr(store.project.concept, room))
    assert not any(t.id == "thing" for t in store.project.concept.tasks)


def test_a_period_is_dragged_and_all_that_passes_through_it_follows(window, timing):
    """Lanes, the chain and the strip show what it would be; let go, it is so, in one step that is undone."""
    project = window.store.project
    window.store.pick(SharedPick("tasks", "control"))
    chain, lanes = timing.canvases["bump-to-stop"], timing.shared.lanes["controller"]
    before = chain.picture, lanes.picture
    slider = timing.shared.slider.slider
    slider.setSliderDown(True)
    slider.setValue(slider.value() - 40)
    assert window.store.preview is not None
    assert chain.picture != before[0]
    assert lanes.picture != before[1]
    slider.setSliderDown(False)
    assert of(window, "control").task.period_s < 0.02
    window.store.undo()
    assert window.store.project == project


def test_a_log_is_laid_over_the_lanes(window, timing, qtbot, tmp_path):
    """A run longer than planned is named, with when; what cannot be read says why, and nothing is lost."""
    path = tmp_path / "log.csv"
    path.write_text("task,start,stop\n" + "".join(f"Control,{0.02 * k},{0.02 * k + 0.0051}\n" for k in range(2000)))
    before = len(timing.shared.lanes["controller"].picture.shapes)
    timing.shared.read_log("controller", path)
    qtbot.waitUntil(lambda: "controller" in timing.shared.logs, timeout=10_000)
    assert "Control ran up to 5.1" in timing.shared.watched["controller"].text()
    assert len(timing.shared.lanes["controller"].picture.shapes) > before
