"""More of Timing in the window: wires without bytes, ways, pictures of loops, files, spread, priorities dragged; undone."""

import can
import numpy as np
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLabel, QPushButton

from wired_union.kernel.results import Verdict
from wired_union.subjects.timing.assess import TIMING
from wired_union.subjects.timing.edits_shared import add_bus, add_message, set_link
from wired_union.subjects.timing.loops import LOOPS
from wired_union.subjects.timing.pick import SharedPick
from wired_union.subjects.timing.signals import SIGNALS
from wired_union.subjects.timing.tasks import TASKS
from wired_union.subjects.timing.ways import WAYS

from .hands import answer, named, typed


@pytest.fixture
def timing(window):
    window.open_demo()
    window.go("timing")
    return window.views["timing"]


def back(window, project):
    while window.store.can_undo:
        window.store.undo()
    assert window.store.project == project


def test_a_servo_is_added_named_and_made_good_by_typing(window, timing, monkeypatch):
    before = window.store.project
    answer(monkeypatch, "Gripper")
    timing.signals.add("servo frames")
    assert window.store.picked(SharedPick) == SharedPick("signals", "gripper")
    found = next(r for r in window.store.assessment.of(SIGNALS) if r.signal.id == "gripper")
    assert found.verdict is Verdict.UNKNOWN
    typed(timing, "Gripper: clock or baud", "1 MHz")
    found = next(r for r in window.store.assessment.of(SIGNALS) if r.signal.id == "gripper")
    assert found.verdict is Verdict.HOLDS
    typed(timing, "Gripper: a second", "600 Hz")
    assert any("has no room for its pulse" in f.title for f in window.store.assessment.findings)
    back(window, before)


def test_a_way_is_added_on_wheels_and_corrected(window, timing, monkeypatch):
    before = window.store.project
    answer(monkeypatch, "Home")
    timing.ways.add("drive")
    for field, text in (
        ("drives", "30 m"),
        ("track", "0.36 m"),
        ("wheels unlike by", "0.5 %"),
        ("may be off by", "1 m"),
    ):
        typed(timing, f"Home: {field}", text)
    found = next(r for r in window.store.assessment.of(WAYS) if r.way.id == "home")
    assert found.verdict is Verdict.BREAKS
    finding = next(f for f in window.store.assessment.findings if f.id == "way:home:across")
    remedy = next(r for r in finding.remedies if "measure both wheels" in r.label)
    window.store.apply(remedy.change)
    after = next(r for r in window.store.assessment.of(WAYS) if r.way.id == "home")
    assert after.off.most_across_m < found.off.most_across_m
    back(window, before)


def test_each_picture_of_a_loop_is_a_button_that_the_keyboard_reaches(window, timing):
    canvas = timing.loops.responses["drive-speed"]
    drawn = []
    for name in ("over frequency", "roots", "response"):
        mode = timing.loops.modes["drive-speed", name]
        mode.setFocus()
        QTest.keyClick(mode, Qt.Key.Key_Space)
        assert mode.isChecked()
        drawn.append(canvas.picture)
    assert drawn[0] != drawn[1] != drawn[2]


def test_a_measured_step_becomes_the_plant_in_one_edit(window, timing, tmp_path):
    before = window.store.project
    window.store.pick(SharedPick("control_loops", "heading-to-a-marker"))
    times = np.arange(0, 4, 0.02)
    rise = np.maximum(times - 0.1, 0)
    values = 2.0 * (rise - 0.3 * (1 - np.exp(-rise / 0.3)))
    path = tmp_path / "step.csv"
    path.write_text("time,heading\n" + "\n".join(f"{t},{v}" for t, v in zip(times, values, strict=True)))
    timing.loops.fit_step("heading-to-a-marker", path)
    loop = next(x for x in window.store.project.concept.control_loops if x.id == "heading-to-a-marker")
    assert (loop.plant_gain, loop.time_constant_s, loop.dead_s) == pytest.approx((2.0, 0.3, 0.1), rel=0.03)
    back(window, before)


def test_a_table_that_is_no_step_is_told_and_nothing_changes(window, timing, tmp_path, monkeypatch):
    before, told = window.store.project, []
    monkeypatch.setattr("PyQt6.QtWidgets.QMessageBox.warning", lambda *args: told.append(args[2]))
    window.store.pick(SharedPick("control_loops", "drive-speed"))
    path = tmp_path / "no.csv"
    path.write_text("nothing here")
    timing.loops.fit_step("drive-speed", path)
    timing.loops.fit_step("drive-speed", tmp_path / "missing.csv")
    assert len(told) == 2
    assert window.store.project == before


def test_a_rule_that_predicts_is_taken_from_the_panel(window, timing, qtbot):
    before = window.store.project
    window.store.pick(SharedPick("control_loops", "heading-to-a-marker"))
    words = "both roots alike, predicting"
    qtbot.waitUntil(
        lambda: any(b.text().startswith(words) for b in timing.panel.findChildren(QPushButton)), timeout=10_000
    )
    rule = named(timing, words)
    QTest.mouseClick(rule, Qt.MouseButton.LeftButton)
    found = next(r for r in window.store.assessment.of(LOOPS) if r.loop.id == "heading-to-a-marker")
    assert found.loop.controller == "state feedback"
    assert found.loop.predicts_s > 0
    assert found.verdict is Verdict.HOLDS
    back(window, before)


def test_a_chain_shows_its_spread_and_how_far_it_moves(window, timing):
    timing._stage_chosen("bump-to-stop", 0)
    words = [w.text() for w in timing.panel.findChildren(type(timing._heads["bump-to-stop"][0]))]
    assert any("Half of all cases" in w for w in words)
    assert any("was sampled up to" in w for w in words)
    typed(timing, "What it is about moves at", "0.8 m/s")
    chain = next(c for c in window.store.assessment.of(TIMING).chains if c.chain.id == "bump-to-stop")
    assert chain.chain.moves_m_s == 0.8
    words = [w.text() for w in timing.panel.findChildren(type(timing._heads["bump-to-stop"][0]))]
    assert any(w.startswith("At 0.8") and "are passed by then" in w for w in words), [w for w in words if w[:2] == "At"]


def test_hovering_over_a_link_says_why(window, timing):
    region = timing.canvases["bump-to-stop"].region("stage:4")
    assert "waits up to 20" in region.label
    assert "behind what goes before it" in region.label


def test_a_priority_is_dragged_and_all_lanes_follow(window, timing):
    before = window.store.project
    window.store.pick(SharedPick("tasks", "control"))
    slider = timing.shared.rank.slider
    slider.setSliderDown(True)
    slider.setValue(slider.maximum())
    assert window.store.preview is not None
    assert window.store.project == before
    slider.setSliderDown(False)
    last = next(t for p in window.store.assessment.of(TASKS) if (t := p.of("control")) is not None)
    assert last.task.priority == slider.maximum() + 1
    back(window, before)


def test_a_log_of_packets_is_laid_over_its_link(window, timing, tmp_path):
    window.store.pick(SharedPick("radio_links", "position-to-the-shore"))
    path = tmp_path / "packets.csv"
    path.write_text("time,number,snr,distance\n0,1,3,100\n60,2,1,300\n240,5,-4,800\n")
    timing.shared.files.read_packets(path)
    assert timing.shared.files.canvas.picture.shapes
    link = window.store.project.concept.radio_links[0]
    assert [h.distance_m for h in link.heard] == [100, 300, 800]


def test_a_bus_takes_a_dbc_and_a_log_is_laid_over_it(window, timing, tmp_path, qtbot):
    store = window.store
    store.apply(add_bus(store.project, name="Drive bus", kind="can", clock_hz=250e3))
    store.apply(add_message(store.project, name="Speeds out", bus="drive-bus", bytes=8, every_s=0.02))
    store.pick(SharedPick("buses", "drive-bus"))
    path = tmp_path / "bus.log"
    with can.Logger(path) as writer:
        for n in range(50):
            writer(can.Message(timestamp=1.0 + 0.02 * n, arbitration_id=1, data=bytes(8), is_extended_id=False))
    timing.shared.files.read_can_log(path)
    qtbot.waitUntil(lambda: "every message came in time" in timing.shared.files.said.text(), timeout=10_000)
    assert timing.shared.files.canvas.picture.shapes
    dbc = tmp_path / "more.dbc"
    dbc.write_text(
        'VERSION ""\n\nBU_:\n\nBO_ 291 Battery: 4 Vector__XXX\n SG_ Volts : 7|16@0+ (0.01,0) [0|60] "V" Vector__XXX\n'
    )
    timing.shared.files.take_dbc("drive-bus", dbc)
    assert store.project.concept.messages[-1].identity == 291
    assert any("its identity, as the others have one" in f.what for f in store.assessment.findings)


def test_what_a_processor_is_told_by_hand_is_still_seen(window, timing):
    assert all(p.verdict is not Verdict.UNKNOWN for p in window.store.assessment.of(TASKS))


def test_a_packet_says_what_it_takes_where_it_is_carried(window, timing):
    """Eleven bytes of the position on its link: time on the air and energy, and what comes back of the antenna."""
    store = window.store
    store.apply(set_link(store.project, value_id="position-to-the-shore", packet="position-packed"))
    store.pick(SharedPick("packets", "position-packed"))
    words = [w.text() for w in timing.panel.findChildren(QLabel)]
    assert any("on the air to Position to the shore" in w and "a packet" in w for w in words)
    store.pick(SharedPick("radio_links", "position-to-the-shore"))
    words = [w.text() for w in timing.panel.findChildren(QLabel)]
    assert any("comes back (standing wave 2.1 to 1)" in w for w in words)
    assert "your country" in timing.air.share.text()
