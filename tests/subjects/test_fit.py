"""What touches, what stays free, stacks and sights in whole projects."""

import math

import numpy as np
import pytest

import edits
from builders import a_part, a_project, an_item
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered
from wired_union.picture.shapes import Kit
from wired_union.project.errors import ProjectError
from wired_union.project.model import Limit, Pose, Shift, Wheel
from wired_union.project.place_model import Place
from wired_union.subjects import assess
from wired_union.subjects.fit import edits as fit
from wired_union.subjects.fit.boxes import FITTING
from wired_union.subjects.fit.picture import beams_picture, sees_picture, stacks_picture
from wired_union.subjects.fit.sights import SEEN, Look, floor_of, rays_of
from wired_union.subjects.fit.stacks import STACKS


def box(name, sides=(0.1, 0.1, 0.1), at=(0.0, 0.0, 0.0), **item):
    part = a_part(name, mass_kg=0.1, length_m=sides[0], width_m=sides[1], height_m=sides[2])
    return an_item(part, places=(Place(x_m=at[0], y_m=at[1], z_m=at[2]),), **item)


def said(project, check, of=""):
    return [f for f in assess(project).findings if f.check == check and (not of or f.of == of)]


def test_pairs_that_may_touch_are_named_with_how_deep():
    project = a_project(box("pack"), box("board", at=(0.09, 0, 0)), box("lid", at=(0, 0, 0.2)))
    (found,) = said(project, "overlap")
    assert found.verdict is Verdict.TIGHT
    assert "pack and board by 10" in found.what
    assert set(found.items) == {"pack", "board"}
    remedy, _ = offered(assess(project), found)[0]
    assert said(remedy.change.after, "overlap") == []
    assert said(a_project(box("pack"), box("board", at=(0.1, 0, 0))), "overlap") == []  # they lie side by side


def test_what_a_pose_makes_touch_is_said_with_the_pose():
    project = a_project(box("pack"), box("arm", at=(0.3, 0, 0)))
    down = Pose(id="down", name="Arm down", shifts=(Shift(item="arm", dx_m=-0.25),))
    posed = project.but(concepts=(project.concept.but(poses=(down,)),))
    (found,) = said(posed, "overlap")
    assert "by 50" in found.what.replace("\u202f", " ")
    assert "in “Arm down”" in found.what
    gone = down.but(shifts=(Shift(item="arm", dx_m=-0.25, mass_kg=0.0),))
    assert said(project.but(concepts=(project.concept.but(poses=(gone,)),)), "overlap") == []


def test_a_part_without_a_size_leaves_it_unknown_and_one_spread_about_does_not():
    project = a_project(box("pack"), box("cable", at=(0.05, 0, 0)))
    bare = edits.set_part_value(project, "cable", "height_m", None).after
    (found,) = said(bare, "overlap")
    assert (found.verdict, "cable: its size" in found.what) == (Verdict.UNKNOWN, True)
    assert said(edits.set_fills(bare, "cable", "spread about").after, "overlap") == []
    with pytest.raises(ProjectError, match="fills"):
        edits.set_fills(bare, "cable", "half")


def test_a_hand_gets_there_or_what_is_in_the_way_is_named():
    project = fit.add_clearance(a_project(box("pack"), box("lid", at=(0, 0, 0.3))), "pack").after
    assert said(project, "access") == []
    (access,) = assess(project).of(FITTING).accesses
    assert (access.blocked, access.missing, access.depth_m) == ((), (), 0.1)
    deeper = fit.set_clearance(project, value_id="pack-a-hand", depth_m=0.22).after
    (found,) = said(deeper, "access")
    assert found.verdict is Verdict.TIGHT  # 20 mm of a room that is 100 mm wide
    assert found.what.replace("\u202f", " ").startswith("lid reaches 20 mm into the 220 mm")
    near = edits.set_fills(fit.set_clearance(deeper, value_id="pack-a-hand", depth_m=0.3).after, "lid", "its box").after
    assert said(near, "access")[0].verdict is Verdict.BREAKS
    lost = a_project(box("pack"), an_item(a_part("lid", mass_kg=0.1)))
    assert said(fit.add_clearance(lost, "pack").after, "access")[0].verdict is Verdict.UNKNOWN
    left = fit.set_clearance(deeper, value_id="pack-a-hand", side="left").after
    assert said(left, "access") == []


def test_the_height_of_a_stack_with_its_spacers_by_hand():
    """Three boards of 12 mm with 10 mm between them on a pack of 30 mm with 5 mm above: 30 + 5 + 36 + 20 = 91 mm."""
    project = a_project(box("pack", (0.06, 0.04, 0.03)), box("board", (0.05, 0.03, 0.012), count=3))
    project = fit.add_stack(project, name="Core").after
    project = fit.lay(fit.lay(project, "core", "pack").after, "core", "board").after
    project = fit.set_layer(project, "core", "pack", spacer_m=0.005).after
    project = fit.set_layer(project, "core", "board", spacer_m=0.01).after
    (stack,) = assess(project).of(STACKS)
    assert stack.height_m == pytest.approx(0.091)
    assert assess(project).measure("stack:core").value == pytest.approx(0.091)
    low = fit.set_stack(project, value_id="core", high_m=0.08).after
    (found,) = said(low, "stack")
    assert found.verdict is Verdict.BREAKS
    remedy, _ = offered(assess(low), found)[0]
    assert assess(remedy.change.after).of(STACKS)[0].height_m <= 0.08
    tube = fit.set_stack(project, value_id="core", tube_m=0.07).after
    assert said(tube, "stack")[0].what.replace("\u202f", " ") == "72.1 mm of 70 mm."  # the diagonal of 60 × 40
    unknown = edits.set_part_value(fit.set_stack(project, value_id="core", high_m=0.5).after, "board", "height_m", None)
    assert said(unknown.after, "stack")[0].verdict is Verdict.UNKNOWN
    out = fit.set_layer(project, "core", "pack", copies=0).after
    assert [x.item for x in out.concept.stacks[0].layers] == ["board"]
    for wrong in (lambda: fit.lay(project, "core", "pack"), lambda: fit.set_layer(out, "core", "pack", copies=1)):
        with pytest.raises(ProjectError, match="lie"):
            wrong()
    assert edits.remove_item(project, "board").after.concept.stacks[0].layers == project.concept.stacks[0].layers[:1]


def looking(*more, **sight):
    """An eye 300 mm over the floor, at the machine's front, that looks ahead."""
    wheel = a_part("wheel", mass_kg=0.1, wheel=Wheel(diameter_m=0.1), length_m=0.1, width_m=0.02, height_m=0.1)
    project = a_project(
        box("eye", (0.02, 0.02, 0.02), (0.0, 0.0, 0.3)),
        an_item(wheel, places=(Place(x_m=-0.2, y_m=0.0, z_m=0.05),)), *more,
    )  # fmt: skip
    figures = {"wide_deg": 60.0, "high_deg": 40.0, "least_m": 0.1, "most_m": 3.0, "pixels_wide": 640, **sight}
    return fit.add_sight(project, name="Eye", item="eye", **figures).after


def test_the_smallest_thing_that_is_found_can_be_a_limit():
    """Three pixels at 1.2 m: 3·2·1.2·tan 30°/640 by hand."""
    project = looking()
    small = 3 * 2 * 1.2 * math.tan(math.radians(30)) / 640
    assert assess(project).measure("finds:eye").value == pytest.approx(small)
    limit = Limit(measure="finds:eye", name="Finds a nut", value=0.004, direction="at most")
    wanted = edits.add_limit(project, limit).after
    assert assess(wanted).measure("finds:eye").verdict is Verdict.BREAKS
    (found,) = [f for f in assess(wanted).findings if f.check == "finds"]
    remedy, _ = offered(assess(wanted), found)[0]
    assert assess(remedy.change.after).measure("finds:eye").value <= 0.004


@pytest.mark.parametrize(
    ("figures", "lacks"),
    [({"pixels_wide": None}, "pixels"), ({"least_m": None}, "nearest"), ({"most_m": None}, "furthest"),
     ({"most_m": 1.0}, "does not see from"), ({"sweep_deg": 90.0}, "time of a sweep")],
)  # fmt: skip
def test_what_is_not_known_of_a_view_leaves_what_it_finds_unknown(figures, lacks):
    limit = Limit(measure="finds:eye", name="Finds", value=1.0, direction="at most")
    measure = assess(edits.add_limit(looking(**figures), limit).after).measure("finds:eye")
    assert measure.verdict is Verdict.UNKNOWN
    assert any(lacks in m for m in measure.missing)


def test_the_machine_in_its_own_view_is_named_with_its_share():
    """A wall that covers all left of straight ahead hides half of the rays."""
    project = looking(box("wall", (0.01, 2.0, 2.0), (0.2, 1.0, 0.3)))
    (result,) = assess(project).of(SEEN).sights
    assert result.hidden[0][0] == "wall"
    assert result.hidden_share == pytest.approx(0.5, abs=0.03)
    assert said(project, "hidden")[0].verdict in {Verdict.BREAKS, Verdict.TIGHT}
    assert assess(project).measure("finds:eye").missing
    far = looking(box("wall", (0.01, 2.0, 2.0), (1.3, 1.0, 0.3)))
    assert assess(far).of(SEEN).sights[0].hidden == ()  # behind what it must see
    inside = looking(box("case", (0.4, 0.4, 0.4), (0, 0, 0.3), fills="open inside"))
    assert assess(inside).of(SEEN).sights[0].hidden == ()
    outside = looking(box("crate", (0.2, 2.0, 2.0), (0.5, 0.0, 0.3), fills="open inside"))
    assert assess(outside).of(SEEN).sights[0].hidden_share == pytest.approx(1.0)
    partly = looking(box("wall", (0.01, 2.0, 2.0), (0.2, 1.1, 0.3)), an_item(a_part("lid", mass_kg=0.1)))
    assert said(partly, "hidden")[0].verdict is Verdict.UNKNOWN  # at least so much, and the lid may hide more
    lost = looking(an_item(a_part("lid", mass_kg=0.1)))
    assert said(lost, "hidden")[0].verdict is Verdict.UNKNOWN


def test_rays_fill_the_picture_evenly():
    """Tangents across, as pixels lie: by hand for yaw 30°, pitch −20°."""
    rays = rays_of(Look((0, 0, 0), 30.0, -20.0), 60.0, 40.0, across=3, up=3)
    middle = rays[4]
    yaw, pitch = math.radians(30), math.radians(-20)
    assert middle == pytest.approx((math.cos(yaw) * math.cos(pitch), math.sin(yaw) * math.cos(pitch), math.sin(pitch)))
    edge = rays[7]  # leftmost, middle height
    assert math.degrees(math.acos(float(edge @ middle))) == pytest.approx(30.0)
    assert np.linalg.norm(rays, axis=1) == pytest.approx(1.0)


def test_ground_blind_zone_and_sweep_by_hand():
    project = looking(pitch_deg=-30.0, sweep_deg=90.0, sweep_s=1.0, readings_per_s=30.0)
    (result,) = assess(project).of(SEEN).sights
    assert floor_of(project.concept) == pytest.approx(0.0)
    assert result.ground.near_m == pytest.approx(0.3 / math.tan(math.radians(50)))
    assert result.blind_m == pytest.approx(result.ground.near_m - 0.01)  # the eye's own front is foremost
    assert (result.swept.covers_deg, result.swept.step_deg) == (150.0, pytest.approx(3.0))
    fast = fit.set_sight(project, value_id="eye", sweep_s=0.03).after
    found = next(f for f in assess(fast).findings if f.check == "sweep")
    remedy, _ = offered(assess(fast), found)[0]
    assert not [f for f in assess(remedy.change.after).findings if f.check == "sweep"]


def test_two_pictures_side_by_side_by_hand():
    """60 mm apart, 60° each, looking ahead: they overlap by 2·d·tan 30° − 60 mm."""
    project = looking(box("other", (0.02, 0.02, 0.02), (0.0, 0.06, 0.3)))
    project = fit.add_sight(project, name="Other", item="other", least_m=0.1, most_m=3.0).after
    (pair,) = assess(project).of(SEEN).pairs
    assert pair.far_m == pytest.approx(2 * 1.2 * math.tan(math.radians(30)) - 0.06)
    apart = fit.set_sight(project, value_id="other", yaw_deg=80.0).after
    assert assess(apart).of(SEEN).pairs[0].far_m < 0


def test_beams_that_let_things_through_tell_so_and_what_mends_it():
    project = fit.add_beams(a_project(box("pack")), name="Gate", pitch_m=0.03, beam_m=0.003, smallest_m=0.03,
                            lowest_m=0.01, beams=4, upright_m=0.12, flat_m=0.12, aimed_deg=1.0).after  # fmt: skip
    found = {f.detail: f for f in assess(project).findings if f.check == "beams"}
    assert set(found) == {"pitch", "aim", "upright"}
    assert {f.verdict for f in found.values()} == {Verdict.BREAKS}
    remedy, _ = offered(assess(project), found["pitch"])[0]
    assert "pitch" not in {f.detail for f in assess(remedy.change.after).findings if f.check == "beams"}
    told = fit.set_beams(project, value_id="gate", flat_m=0.03).after
    assert "upright" not in {f.detail for f in assess(told).findings if f.check == "beams"}
    assert fit.remove_beams(project, value_id="gate").after.concept.beam_rows == ()


def test_pictures_show_what_there_is_and_ask_for_what_there_is_not():
    kit = Kit()
    project = looking(box("wall", (0.01, 0.2, 0.2), (0.2, 0.2, 0.3)))
    assessed = assess(project)
    seen = sees_picture(assessed.of(SEEN), assessed.of(FITTING).placed, 0.0, kit, 700, 300)
    assert [r.id for r in seen.regions] == ["eye"]
    for empty in (sees_picture(assess(a_project()).of(SEEN), (), None, kit, 700, 300), stacks_picture((), kit, 700, 200),
                  beams_picture((), kit, 700)):  # fmt: skip
        assert len(empty.shapes) == 1
