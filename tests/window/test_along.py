"""Poses along the mission: pointed at, played, stopped; and what each phase is said to stand like."""

import pytest
from PyQt6.QtCore import QPoint, Qt

from wired_union.catalogue.demo import demo
from wired_union.picture.shapes import Box, Kit
from wired_union.subjects.mass.along import stands_along
from wired_union.subjects.mass.balance import BALANCE
from wired_union.subjects.mass.picture_along import along_picture
from wired_union.subjects.mass.pose_edits import pose_in_mode, remove_pose


@pytest.fixture
def mass(window):
    window.hold(demo(), None)
    window.go("mass")
    return window.views.made["mass"]


def shown(mass) -> str:
    """The pose that is drawn, by the name that its field shows."""
    return mass.places.pose.currentText()


def test_every_phase_takes_the_pose_of_its_mode_in_which_it_tips_first(mudlark_assessed):
    every, concept = mudlark_assessed.of(BALANCE), mudlark_assessed.project.concept
    stands = stands_along(concept, every)
    assert [s.pose for s in stands] == ["tube-full-hard-stop", "corer-down", "tube-full-hard-stop", "", ""]
    down = next(p for p in every.poses if p.pose.id == "corer-down")
    assert stands[1].tips_deg == down.first.least_deg
    assert stands[3].tips_deg == every.first.least_deg
    assert min(s.tips_deg for s in stands) == every.worst.first.least_deg


def test_a_phase_is_clicked_and_the_mission_played(window, mass, qtbot):
    along = mass.places.along
    region = along.canvas.region("phase 1")
    at = QPoint(int(region.x + region.w / 2), int(region.y + 20))
    qtbot.mouseClick(along.canvas, Qt.MouseButton.LeftButton, pos=at)
    assert shown(mass) == "Corer down"
    qtbot.mouseClick(along.play, Qt.MouseButton.LeftButton)
    assert shown(mass) == "Tube full, hard stop"
    for pose in ("Corer down", "Tube full, hard stop", "as it stands", "as it stands"):
        along.step()
        assert shown(mass) == pose
    assert "stop" in along.play.text()
    along.step()
    assert "play" in along.play.text()


def test_without_the_pose_the_phase_stands_as_built_and_no_key_is_lost(window, mass):
    store = window.store
    store.attempt(remove_pose, "corer-down")
    assert stands_along(store.project.concept, store.assessment.of(BALANCE))[1].pose == ""
    store.undo()
    store.attempt(pose_in_mode, "corer-down", "core", taken=False)  # now any mode may take it
    every = store.assessment.of(BALANCE)
    core = stands_along(store.project.concept, every)[1]
    assert (core.pose, core.tips_deg) == ("", every.first.least_deg)  # which tips before the corer that is down


def test_what_tips_below_what_is_wanted_is_red(mudlark_assessed):
    stands = stands_along(mudlark_assessed.project.concept, mudlark_assessed.of(BALANCE))
    picture = along_picture(stands, 45.0, 1, Kit(), 700)
    boxes = [s for s in picture.shapes if isinstance(s, Box)]
    assert [b.ink for b in boxes] == ["breaks", "holds", "breaks", "breaks", "breaks"]
    assert [b.width > 2 for b in boxes] == [False, True, False, False, False]
