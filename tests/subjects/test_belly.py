"""The belly of a vehicle at a step: its height as given, or what places and sizes say."""

import pytest

import edits
from builders import a_rover, on_wheels
from wired_union.physics.crossing import belly_clearance
from wired_union.subjects import assess
from wired_union.subjects.mass.place_edits import forget_places, set_place, set_room
from wired_union.subjects.motion.gives_times import MOTION


def drive_of(project):
    return assess(project).of(MOTION).of("drive")


def belly_of(project):
    return next((c for c in drive_of(project).checks if c.id == "belly"), None)


def sized(bottom_m: float, step_m: float = 0.02):
    """A frame between the axles, as low as that, and everything else of it small and high."""
    project = on_wheels(0.0, known=True, step_m=step_m, clearance_m=None)
    for item in ("motor", "pack", "driver"):
        for side in ("length_m", "width_m", "height_m"):
            project = edits.set_part_value(project, item, side, 0.01).after
    for side, metres in (("length_m", 0.2), ("width_m", 0.1), ("height_m", 0.02)):
        project = edits.set_part_value(project, "frame", side, metres).after
    return set_place(project, "frame", 0, x_m=0.0, z_m=bottom_m + 0.01).after


def test_without_places_its_height_alone_says_whether_a_step_touches_it():
    drive = drive_of(a_rover(clearance_m=None))
    assert drive.missing == ("the height of its belly over the floor",)
    assert drive.verdict == "unknown"
    closest = belly_clearance(0.12, 0.06, 0.06, 0.02, 0.0, 0.12).height_m  # wheels that nearly touch
    low = belly_of(a_rover(step_m=0.02, clearance_m=closest * 0.99))
    assert (low.verdict, low.needed) == ("breaks", pytest.approx(closest))
    between = drive_of(a_rover(step_m=0.02, clearance_m=(closest + 0.02) / 2))
    assert between.missing == ("how far its axles are apart, for the belly at the step",)
    high = belly_of(a_rover(step_m=0.02, clearance_m=0.021))
    assert (high.verdict, high.needed) == ("tight", 0.02)
    for wheelbase in (0.12, 0.2, 5.0):  # as high as the step clears it, however far the axles are apart
        assert belly_clearance(wheelbase, 0.06, 0.06, 0.02, 0.0, wheelbase).height_m <= 0.02
    assert belly_of(a_rover(step_m=0.0, clearance_m=0.0)) is None


def test_places_and_sizes_say_what_the_step_touches():
    needed = belly_clearance(0.3, 0.06, 0.06, 0.02, 0.05, 0.25).height_m
    for bottom, verdict in ((needed * 1.3, "holds"), (needed * 0.9, "breaks")):
        check = belly_of(sized(bottom))
        assert (check.needed, check.given, check.verdict) == (pytest.approx(needed), pytest.approx(bottom), verdict)
        assert check.of == "frame"
    just = drive_of(sized(0.022)).facts["stops_m"]
    if just < 0.022:  # the belly stops it before motors and grip do: right at its height there
        assert belly_clearance(0.3, 0.06, 0.06, just, 0.05, 0.25).height_m == pytest.approx(0.022)
    assert belly_of(edits.set_load(sized(needed * 0.9), "drive", clearance_m=0.05).after).verdict == "holds"


def test_what_has_no_size_leaves_the_belly_unknown():
    project = edits.set_part_value(sized(0.05), "pack", "height_m", None).after
    assert any("its size" in m for m in drive_of(project).missing)
    assert drive_of(project).verdict == "unknown"
    assert drive_of(sized(0.05)).missing == ()


def test_what_lies_anywhere_in_a_low_room_may_touch_the_step():
    """Without a place the pack counts with all of its room: low enough to touch, and not sure to."""
    project = sized(0.05)
    lane = next(i.subsystem for i in project.concept.items if i.id == "pack")
    project = forget_places(project, "pack").after
    for side, metres in (("back_m", -0.05), ("front_m", 0.05), ("right_m", -0.05), ("left_m", 0.05), ("top_m", 0.1)):
        project = set_room(project, lane, **{side: metres}).after
    low, high = (set_room(project, lane, bottom_m=bottom).after for bottom in (0.005, 0.06))
    assert any(m.endswith("where it is; a step may touch it") for m in drive_of(low).missing)
    assert drive_of(low).verdict == "unknown"
    assert not any("may touch" in m for m in drive_of(high).missing)


def test_what_the_step_touches_is_moved_up_and_then_clears_it():
    project = sized(0.014)
    finding = next(f for f in assess(project).findings if f.detail == "belly")
    assert finding.title == "Drive sits on the step with its belly"
    remedy = next(r for r in finding.offer() if r.label.endswith("higher"))
    assert belly_of(remedy.change.after).verdict == "holds"
