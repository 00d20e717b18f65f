"""The box around a machine against turned corners, what sticks out, and the gate."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

import edits
from builders import a_limit, a_part, a_project, an_item
from wired_union.kernel.ripple import offered
from wired_union.project.change import with_concept
from wired_union.project.model import Foot, Place, Room, Wheel
from wired_union.subjects import assess
from wired_union.subjects.mass.envelope import reach

SIZES = st.floats(0.001, 2.0)
ANGLES = st.floats(-180, 180)


@given(SIZES, SIZES, SIZES, ANGLES, ANGLES)
def test_a_turned_box_reaches_as_far_as_its_corners(length, width, height, turn, tilt):
    """Against scipy's rotations of all eight corners: tilted about the axis to the right, then turned upright."""
    turned = Rotation.from_euler("z", turn, degrees=True) * Rotation.from_euler("y", -tilt, degrees=True)
    half = np.array([length, width, height]) / 2
    corners = turned.apply([[a, b, c] * half for a in (-1, 1) for b in (-1, 1) for c in (-1, 1)]) + np.array(
        [1.0, 2.0, 3.0]
    )
    low, high = reach((length, width, height), Place(x_m=1.0, y_m=2.0, z_m=3.0, turn_deg=turn, tilt_deg=tilt))
    assert low == pytest.approx(corners.min(axis=0), abs=1e-9)
    assert high == pytest.approx(corners.max(axis=0), abs=1e-9)


def sized(name, sides, *places, count=1):
    length, width, height = sides
    part = a_part(name, mass_kg=1.0, length_m=length, width_m=width, height_m=height)
    return an_item(part, count, places=tuple(Place(x_m=x, y_m=y, z_m=z, turn_deg=turn) for x, y, z, turn in places))


def machine(*items, room=None, limits=(), gate=None):
    project = a_project(*items, limits=limits)
    lanes = tuple(s.but(room=room) for s in project.concept.subsystems)
    project = with_concept(project, subsystems=lanes, feet=(Foot(id="leg", name="leg", x_m=0.0, y_m=0.0, z_m=-0.05),))
    for name, value in zip(("gate_width_m", "gate_height_m"), gate or (), strict=False):
        project = edits.set_space(project, name, value).after
    return project


DECK = ("deck", (0.4, 0.3, 0.02))


def test_length_width_and_height_by_hand():
    """A deck of 400 × 300 × 20 mm with its middle 0.1 m up, and a bar of 500 × 20 × 20 mm across it; a leg ends 50 mm down."""
    found = assess(
        machine(sized(*DECK, (0, 0, 0.1, 0)), sized("bar", (0.5, 0.02, 0.02), (0.1, 0, 0.12, 90)))
    ).all_measures
    assert [found[k].value for k in ("length", "width", "height")] == pytest.approx([0.4, 0.5, 0.18])


def test_a_wheel_stands_on_its_tread():
    wheel = a_part(
        "wheel", "wheel", wheel=Wheel(diameter_m=0.12, width_m=0.04), length_m=0.12, width_m=0.12, height_m=0.04
    )
    found = assess(machine(an_item(wheel, places=(Place(x_m=0, y_m=0, z_m=0.06),)))).all_measures
    assert [found[k].value for k in ("length", "width", "height")] == pytest.approx([0.12, 0.04, 0.17])


def test_what_has_no_place_counts_with_its_room_and_what_has_neither_is_lacking():
    room = Room(back_m=-0.3, front_m=0.3, right_m=-0.1, left_m=0.1, bottom_m=0.0, top_m=0.2)
    deck, loose = sized(*DECK, (0, 0, 0.1, 0)), sized("pack", (0.1, 0.1, 0.1))
    length = assess(machine(deck, loose, room=room)).measure("length")
    assert (length.low, length.high, length.value) == pytest.approx((0.4, 0.6, 0.6))
    lost = assess(machine(deck, loose, limits=(a_limit("length", 0.5),))).measure("length")
    assert (lost.value, lost.verdict, lost.missing) == (pytest.approx(0.4), "unknown", ("where pack is",))
    unsized = sized("blob", (None, 0.1, 0.1), (0, 0, 0.1, 0))
    assert assess(machine(deck, unsized)).measure("width").missing == ("blob: its size",)
    long = assess(machine(deck, loose, limits=(a_limit("length", 0.3),))).measure("length")
    assert long.verdict == "breaks"  # what is known is too long already


def test_without_any_place_nothing_says_how_large_it_is():
    assert "length" not in assess(machine(sized("pack", (0.1, 0.1, 0.1)))).all_measures


def test_what_sticks_out_is_named_and_moved_in():
    deck, arm = sized(*DECK, (0, 0, 0.1, 0)), sized("arm", (0.02, 0.1, 0.02), (0, 0.15, 0.12, 0))
    assessed = assess(machine(deck, arm, limits=(a_limit("width", 0.33),)))
    finding = next(f for f in assessed.findings if f.check == "width")
    assert finding.verdict == "breaks"
    assert finding.what.replace("\u202f", " ") == "350 mm of 330 mm."
    assert finding.why == "Furthest right is deck, furthest left arm."
    (remedy, words), *_ = offered(assessed, finding)
    assert remedy.label.replace("\u202f", " ") == "arm 21 mm to the right"
    assert assess(remedy.change.after).measure("width").value == pytest.approx(0.329)
    assert words


@pytest.mark.parametrize(("gate", "verdict"), [((0.36, 0.3), None), ((0.34, 0.3), "breaks"), ((0.36, 0.1), "breaks")])
def test_the_whole_machine_must_pass_the_gate(gate, verdict):
    deck, arm = sized(*DECK, (0, 0, 0.1, 0)), sized("arm", (0.02, 0.1, 0.02), (0, 0.15, 0.12, 0))
    assessed = assess(machine(deck, arm, gate=gate))
    found = [f for f in assessed.findings if f.check == "gate"]
    assert [f.verdict for f in found] == ([verdict] if verdict else [])
    assert [f.check for f in assessed.hard_breaks if f.check == "gate"] == (["gate"] if verdict else [])
    lost = assess(machine(deck, arm, sized("pack", (0.1, 0.1, 0.1)), gate=(0.36, 0.3)))
    assert [f.verdict for f in lost.findings if f.check == "gate"] == ["unknown", "unknown"]


def test_how_full_a_room_is():
    room = Room(back_m=0.0, front_m=0.2, right_m=0.0, left_m=0.1, bottom_m=0.0, top_m=0.1)
    cells = sized("cell", (0.05, 0.05, 0.1), count=4)
    assessed = assess(machine(cells, room=room, limits=(a_limit("room:s", 0.4),)))
    measure = next(m for m in assessed.all_measures.values() if m.kind == "room")
    assert measure.value == pytest.approx(4 * 0.05 * 0.05 * 0.1 / (0.2 * 0.1 * 0.1))
    assert math.isinf(
        next(
            m.value
            for m in assess(machine(cells, room=room.but(front_m=0.0))).all_measures.values()
            if m.kind == "room"
        )
    )
