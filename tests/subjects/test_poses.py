"""How it stands at times: poses against projects that are changed by hand, braking and pushes against the moments."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

import edits
from builders import a_limit, a_part, a_project, an_item
from wired_union.physics.wheel import tip_angle
from wired_union.project.change import with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.model import Foot, Place, Room, Wheel
from wired_union.subjects import assess
from wired_union.subjects.mass.balance import BALANCE
from wired_union.subjects.mass.place_edits import move_places
from wired_union.subjects.mass.pose_edits import add_pose, pose_in_mode, remove_pose, set_pose, shift_part

FEET = tuple(Foot(id=f"f{n}", name=f"leg {n}", x_m=x, y_m=y) for n, (x, y) in enumerate(
    [(0.15, 0.1), (0.15, -0.1), (-0.15, 0.1), (-0.15, -0.1)]))  # fmt: skip
G = 9.80665


@given(st.floats(0.02, 0.5), st.floats(0.02, 0.5), st.floats(0.0, 3.0), st.floats(0.0, 20.0), st.floats(0.0, 0.5))
def test_a_tip_angle_balances_the_moments_about_the_edge(base, height, acceleration, push, push_height):
    """W·(d·cos α − h·sin α) = m·a·h + P·z solved by scipy's brentq."""
    weight = 30.0

    def left(angle):
        holds = weight * (base * math.cos(angle) - height * math.sin(angle))
        return holds - weight / G * acceleration * height - push * push_height

    found = tip_angle(base, height, acceleration, push, push_height, weight).angle_deg
    steepest = math.atan2(base, height)
    flattest = steepest - math.pi / 2  # there it holds best
    if left(flattest) <= 0:
        assert found == -90.0
    else:
        assert found == pytest.approx(math.degrees(brentq(left, flattest, steepest + 1e-9)), abs=1e-6)


def test_a_push_asks_for_the_weight():
    with pytest.raises(ValueError, match="asks for the weight"):
        tip_angle(0.1, 0.1, push_n=1.0, push_height_m=0.1)


def machine(*, knowledge="measured", limit=18.0):
    """A body of 2 kg, 0.1 m up in the middle, and an arm of 0.5 kg."""
    items = [
        an_item(a_part(name, mass_kg=kg), knowledge=knowledge, places=(Place(x_m=0.0, y_m=0.0, z_m=z),))
        for name, kg, z in (("body", 2.0, 0.1), ("arm", 0.5, 0.2))
    ]
    project = a_project(*items, limits=(a_limit("tip-angle", limit, "at least"),))
    return with_concept(project, feet=FEET)


def reaching(project, **figures):
    project = add_pose(project, "arm out").after
    return shift_part(project, "arm-out", "arm", **figures).after


def test_a_pose_is_the_machine_with_the_part_moved():
    project = reaching(machine(), dx_m=0.3, dz_m=0.05)
    moved = move_places(machine(), "arm", 0.3, 0.0, 0.05).after
    measure = assess(project).measure("tip-angle")
    assert measure.value == pytest.approx(assess(moved).measure("tip-angle").value)
    assert measure.value < assess(machine()).measure("tip-angle").value
    finding = next(
        f for f in assess(pose_in_mode(project, "arm-out", "work", taken=True).after).findings if f.check == "tip-angle"
    )
    assert "forward in “arm out” (Work), of the" in finding.what


@given(
    st.floats(-0.3, 0.3),
    st.floats(-0.3, 0.3),
    st.floats(0.0, 0.3),
    st.floats(0.0, 3.0),
    st.floats(0.0, 4.0),
    st.floats(0.0, 30.0),
)
def test_no_pose_makes_the_tip_angle_better(dx, dy, dz, kg, acceleration, push):
    before = assess(machine()).measure("tip-angle").value
    project = reaching(machine(), dx_m=dx, dy_m=dy, dz_m=dz, mass_kg=kg)
    project = set_pose(project, "arm-out", acceleration_m_s2=acceleration, push_n=push, push_height_m=0.2).after
    assert assess(project).measure("tip-angle").value <= before + 1e-9


def test_braking_and_a_push_lean_it_over():
    """atan(d/h) to the side is that of 0.1 m over the height of the centre; with 2 m/s² and 5 N at 0.3 m as the moments say."""
    project = set_pose(
        add_pose(machine(), "shoved").after, "shoved", acceleration_m_s2=2.0, push_n=5.0, push_height_m=0.3
    ).after
    height = (2.0 * 0.1 + 0.5 * 0.2) / 2.5
    expected = tip_angle(0.1, height, 2.0, 5.0, 0.3, 2.5 * G).angle_deg
    assert assess(project).measure("tip-angle").value == pytest.approx(expected)
    loose = set_pose(
        add_pose(machine(knowledge="guess"), "shoved").after, "shoved", push_n=5.0, push_height_m=0.3
    ).after
    measure = assess(loose).measure("tip-angle")
    assert measure.low < measure.high  # the lightest and the heaviest machine do not tip alike
    assert measure.value == measure.low
    every = [tip_angle(0.1, (a * 0.1 + b * 0.2) / (a + b), 0.0, 5.0, 0.3, (a + b) * G).angle_deg
             for a in (2.0, 2.4) for b in (0.5, 0.6)]  # fmt: skip
    assert min(every) - 1.5 < measure.low <= min(every) + 1e-9
    assert max(every) - 1e-9 <= measure.high < max(every) + 1.5
    over = assess(set_pose(project, "shoved", push_n=50.0).after)
    finding = next(f for f in over.findings if f.check == "tip-angle")
    assert (finding.verdict, finding.hard) == ("breaks", True)
    assert finding.what == "It falls over in “shoved”."


def test_what_is_spent_or_gone_weighs_what_the_pose_says():
    project = reaching(machine(), mass_kg=0.0)
    spent = assess(project).of(BALANCE).poses[0].balance
    assert spent.centre == pytest.approx((0.0, 0.0, 0.1))
    assert assess(project).measure("mass").value == pytest.approx(2.5)  # the sum is that of all


def test_a_pose_that_is_not_known_hides_no_pose_that_breaks():
    """The arm weighs nobody knows what, but gone it is known: with the body alone shoved it falls."""
    project = edits.set_part_value(machine(), "arm", "mass_kg", None).after
    lone = shift_part(add_pose(project, "shoved").after, "shoved", "arm", mass_kg=0.0).after
    assert assess(lone).measure("tip-angle").verdict == "unknown"
    falls = assess(set_pose(lone, "shoved", push_n=50.0, push_height_m=0.3).after)
    assert falls.measure("tip-angle").verdict == "breaks"
    assert any(f.check == "tip-angle" and f.verdict == "breaks" for f in falls.findings)


def test_a_pose_in_which_it_stands_on_nothing_known_leaves_it_unknown():
    """The rear wheels lifted: as it stands all is known, in the pose the floor is not."""
    wheel = a_part("wheel", mass_kg=0.1, wheel=Wheel(diameter_m=0.1))
    rear = an_item(
        wheel.but(id="rear", name="rear"), 2, places=tuple(Place(x_m=-0.15, y_m=y, z_m=0.05) for y in (0.1, -0.1))
    )
    front = an_item(wheel, 2, places=tuple(Place(x_m=0.15, y_m=y, z_m=0.05) for y in (0.1, -0.1)))
    body = an_item(a_part("body", mass_kg=2.0), places=(Place(x_m=0.0, y_m=0.0, z_m=0.1),))
    project = a_project(rear, front, body, limits=(a_limit("tip-angle", 18.0, "at least"),))
    assert assess(project).measure("tip-angle").verdict == "holds"
    lifted = shift_part(add_pose(project, "tail up").after, "tail-up", "rear", dz_m=0.05).after
    measure = assess(lifted).measure("tip-angle")
    assert (measure.verdict, measure.missing[0].split(":")[0]) == ("unknown", "one floor for its wheels and feet")


def test_edits_of_poses_say_what_they_do_and_leave_nothing_empty():
    project = reaching(machine(), dx_m=0.3)
    assert shift_part(machine_with_pose := project, "arm-out", "arm", dx_m=0.2).sentence.replace("\u202f", " ") == (
        "arm out: arm 200 mm forward"
    )
    assert shift_part(machine_with_pose, "arm-out", "arm", dx_m=0.0).after.concept.poses[0].shifts == ()
    assert edits.remove_item(project, "arm").after.concept.poses[0].shifts == ()
    taken = pose_in_mode(project, "arm-out", "work", taken=True).after
    assert edits.remove_mode(taken, "work").after.concept.poses[0].modes == ()
    assert pose_in_mode(taken, "arm-out", "work", taken=False).after.concept.poses[0].modes == ()
    assert remove_pose(project, "arm-out").after.concept.poses == ()
    with pytest.raises(ProjectError, match="push"):
        set_pose(project, "arm-out", push_n=-1.0)
    with pytest.raises(ProjectError, match="arm"):
        shift_part(project, "arm-out", "arm", mass_kg=-1.0)


def test_a_part_in_a_room_stays_in_it():
    room = Room(back_m=0.0, front_m=0.0, right_m=0.0, left_m=0.0, bottom_m=0.1, top_m=0.2)
    project = with_concept(machine(), subsystems=tuple(s.but(room=room) for s in machine().concept.subsystems),
                           items=tuple(i.but(places=()) if i.id == "arm" else i for i in machine().concept.items))  # fmt: skip
    balance = assess(reaching(project, dx_m=0.3)).of(BALANCE)
    assert balance.poses[0].balance.centre == balance.centre
