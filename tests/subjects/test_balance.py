"""What stands: tip angles by hand, ranges against every corner of them, and laws that moving and turning must keep."""

import math
from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import edits
from builders import CORNERS, a_limit, a_part, a_project, a_rover, an_item, on_wheels
from wired_union.kernel.ripple import offered
from wired_union.physics.crossing import front_at_edge, held_by, rear_at_edge
from wired_union.physics.growth import ALLOWANCES
from wired_union.project.change import with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.model import Foot, Place, Room, Wheel
from wired_union.subjects import assess
from wired_union.subjects.mass.balance import BALANCE
from wired_union.subjects.mass.gives import CARRIED, TOTAL_KG
from wired_union.subjects.mass.place_edits import (
    add_foot,
    forget_places,
    mirror_place,
    move_places,
    remove_foot,
    set_foot,
    set_place,
    set_room,
)
from wired_union.subjects.mass.pose_edits import add_pose, pose_in_mode, shift_part
from wired_union.subjects.motion.gives_times import MOTION

FEET = tuple(Foot(id=f"f{n}", name=f"leg {n}", x_m=x, y_m=y) for n, (x, y) in enumerate(CORNERS))


def standing(*items, feet=FEET, limit=18.0, rooms=()):
    project = a_project(*items, limits=(a_limit("tip-angle", limit, "at least"),))
    lanes = tuple(s.but(room=dict(rooms).get(s.id)) for s in project.concept.subsystems)
    return with_concept(project, feet=feet, subsystems=lanes)


def block(name, kg, *places, count=1, knowledge="measured"):
    part = a_part(name, mass_kg=kg)
    made = tuple(Place(x_m=x, y_m=y, z_m=z) for x, y, z in places)
    return an_item(part, count, places=made, knowledge=knowledge)


def tip(project):
    return assess(project).measure("tip-angle")


def test_a_block_on_four_legs_by_hand():
    """0.5 kg in the middle at 0.2 m and 1 kg 0.03 m forward at 0.1 m: atan((0.15 − 0.02)/0.1333) forward, atan(0.1/0.1333)
    to the side (statics)."""
    project = standing(block("top", 0.5, (0.0, 0.0, 0.2)), block("pack", 1.0, (0.03, 0.0, 0.1)))
    balance = assess(project).of(BALANCE)
    assert balance.centre == pytest.approx((0.02, 0.0, 0.4 / 3))
    height = 0.4 / 3
    angles = {t.way: t.least_deg for t in balance.tips}
    assert angles["forward"] == pytest.approx(math.degrees(math.atan(0.13 / height)))
    assert angles["backward"] == pytest.approx(math.degrees(math.atan(0.17 / height)))
    assert angles["to the left"] == angles["to the right"] == pytest.approx(math.degrees(math.atan(0.1 / height)))
    measure = tip(project)
    assert (measure.value, measure.verdict) == (pytest.approx(math.degrees(math.atan(0.1 / height))), "holds")
    assert sum(balance.loads_n) == pytest.approx(1.5 * 9.80665)
    front = sum(n for n, c in zip(balance.loads_n, balance.contacts, strict=True) if c.x_m > 0)
    assert front == pytest.approx(1.5 * 9.80665 * (0.15 + 0.02) / 0.3)  # moments about the rear legs


def test_wheels_stand_on_their_rims():
    wheel = a_part("wheel", mass_kg=0.2, wheel=Wheel(diameter_m=0.12))
    wheels = an_item(wheel, 4, places=tuple(Place(x_m=x, y_m=y, z_m=0.06) for x, y in CORNERS), knowledge="measured")
    balance = assess(standing(wheels, block("box", 2.0, (0.0, 0.0, 0.16)), feet=())).of(BALANCE)
    assert balance.floor_m == pytest.approx(0.0)
    assert balance.centre[2] == pytest.approx((0.8 * 0.06 + 2.0 * 0.16) / 2.8)
    assert [c.name for c in balance.contacts] == ["wheel 1", "wheel 2", "wheel 3", "wheel 4"]


@settings(max_examples=60)
@given(
    st.lists(st.tuples(st.floats(0.05, 3.0), st.floats(-0.1, 0.1), st.floats(-0.1, 0.1), st.floats(0.02, 0.3),
                       st.sampled_from(sorted(ALLOWANCES))), min_size=1, max_size=3),
    st.tuples(st.floats(0.0, 0.1), st.floats(0.0, 0.1), st.floats(0.0, 0.1)), st.floats(0.1, 2.0),
)  # fmt: skip
def test_the_range_is_that_of_all_its_corners(parts, sides, loose_kg):
    """Every corner of rooms and allowances tried one by one gives the same least and most, over every edge."""
    items = [block(f"b{n}", kg, (x, y, z), knowledge=known) for n, (kg, x, y, z, known) in enumerate(parts)]
    room = Room(
        back_m=-sides[0], front_m=sides[0], right_m=-sides[1], left_m=sides[1], bottom_m=0.05, top_m=0.05 + sides[2]
    )
    loose = block("loose", loose_kg, knowledge="guess")
    project = standing(*items, loose, rooms=[(loose.subsystem, room)])
    balance = assess(project).of(BALANCE)
    masses = [(kg, kg * (1 + ALLOWANCES[known])) for kg, *_, known in parts] + [(loose_kg, loose_kg * 1.2)]
    spots = list(product((room.back_m, room.front_m), (room.right_m, room.left_m), (room.bottom_m, room.top_m)))
    for t in balance.tips:
        found = []
        for spot, weights in product(spots, product(*masses)):
            where = [(x, y, z) for _, x, y, z, _ in parts] + [spot]
            inside = sum(m * t.edge.distance_m(p[:2]) for m, p in zip(weights, where, strict=True))
            high = sum(m * p[2] for m, p in zip(weights, where, strict=True))
            found.append(math.degrees(math.atan(inside / high)))
        assert t.least_deg == pytest.approx(min(found), abs=1e-6)
        assert t.most_deg == pytest.approx(max(found), abs=1e-6)


def test_turning_everything_changes_nothing():
    items = [((0.05, 0.02, 0.1), 1.0), ((-0.03, 0.04, 0.2), 0.4)]
    straight = standing(*(block(f"b{n}", kg, p) for n, (p, kg) in enumerate(items)))
    c, s = math.cos(0.7), math.sin(0.7)
    turned = standing(
        *(block(f"b{n}", kg, (c * p[0] - s * p[1], s * p[0] + c * p[1], p[2])) for n, (p, kg) in enumerate(items)),
        feet=tuple(f.but(x_m=c * f.x_m - s * f.y_m, y_m=s * f.x_m + c * f.y_m) for f in FEET),
    )
    assert tip(turned).value == pytest.approx(tip(straight).value)


@pytest.mark.parametrize(
    ("project", "said"),
    [
        (standing(block("a", 1.0), block("b", 1.0, (0.0, 0.0, 0.1))), "where a is"),
        (standing(block("a", 1.0), block("b", 1.0, (0.0, 0.0, 0.1), count=2)), "where a, b are"),
        (standing(block("a", None, (0.0, 0.0, 0.1))), "a: its mass"),
        (standing(block("a", 1.0, (0.0, 0.0, 0.1)), feet=FEET[:2]), "what it stands on: three wheels or feet that are not in a line"),
        (standing(block("a", 1.0, (0.0, 0.0, 0.1)), feet=(*FEET[:3], FEET[3].but(z_m=0.01))),
         "one floor for its wheels and feet: their lower ends are 10 mm apart"),
    ],
)  # fmt: skip
def test_what_is_not_known_is_named_and_never_the_origin(project, said):
    measure = tip(project)
    assert measure.verdict == "unknown"
    assert measure.value is None
    assert said in [m.replace("\u202f", " ") for m in measure.missing]
    found = next(f for f in assess(project).findings if f.check == "tip-angle")
    assert (found.verdict, found.is_gap) == ("unknown", True)


def test_without_any_place_nothing_informs_it():
    project = a_project(a_part("a", mass_kg=1.0), limits=(a_limit("tip-angle", 18.0, "at least"),))
    assert assess(project).uninformed == ("tip-angle",)


def test_what_falls_as_it_stands_breaks_even_without_a_limit():
    project = a_project(block("mast", 1.0, (0.2, 0.0, 0.5)))
    falling = assess(with_concept(project, feet=FEET))
    (found,) = [f for f in falling.findings if f.check == "tip-angle"]
    assert (found.verdict, found.hard, found.what) == ("breaks", True, "It falls over as it stands.")
    assert falling.breaks_besides


def test_a_remedy_moves_the_heavy_part_and_says_how_far_that_helps():
    """A pack of 3 kg 0.1 m forward at 0.3 m: atan(0.075/0.25) = 16.7°; back by 40 mm it is 22.8° there,
    and to the side, atan(0.1/0.25) = 21.8° comes first."""
    project = standing(block("pack", 3.0, (0.1, 0.0, 0.3)), block("base", 1.0, (0.0, 0.0, 0.1)))
    before = assess(project)
    found = next(f for f in before.findings if f.check == "tip-angle")
    assert (found.verdict, found.what) == ("breaks", "16.7° forward, of the 18° wanted.")
    told = {r.label: words for r, words in offered(before, found)}
    assert told["pack 40\u202fmm back"].startswith("+5.1°, then holds")
    change = next(r.change for r, _ in offered(before, found) if r.label == "pack 40\u202fmm back")
    assert assess(change.after).measure("tip-angle").value == pytest.approx(math.degrees(math.atan(0.1 / 0.25)))


def test_places_are_edited_and_refused_in_plain_words():
    project = a_project(an_item(a_part("wheel", mass_kg=0.1), 2))
    with pytest.raises(ProjectError, match=r"Say first where copy 1 of wheel is\."):
        set_place(project, "wheel", 1, x_m=0.1)
    with pytest.raises(ProjectError, match=r"There are 2 of wheel\."):
        set_place(project, "wheel", 2, x_m=0.1)
    with pytest.raises(ProjectError, match="x must be at most 1000"):
        set_place(project, "wheel", 0, x_m=2000.0)
    one = set_place(project, "wheel", 0, x_m=0.1, y_m=0.2, z_m=0.05)
    assert one.sentence.replace("\u202f", " ") == "wheel 1 at 100 mm forward, 200 mm left, 50 mm up"
    both = mirror_place(one.after, "wheel").after
    assert [(p.x_m, p.y_m, p.z_m) for p in both.concept.items[0].places] == [(0.1, 0.2, 0.05), (0.1, -0.2, 0.05)]
    with pytest.raises(ProjectError, match="All 2 of wheel have a place"):
        mirror_place(both, "wheel")
    moved = move_places(both, "wheel", -0.04, 0.0, 0.01, copy=1)
    assert moved.sentence.replace("\u202f", " ") == "move wheel 2 40 mm back, 10 mm up"
    assert [p.x_m for p in moved.after.concept.items[0].places] == pytest.approx([0.1, 0.06])
    assert edits.set_count(both, "wheel", 1).after.concept.items[0].places == both.concept.items[0].places[:1]
    assert edits.duplicate_item(both, "wheel").after.concept.items[1].places == ()
    assert forget_places(both, "wheel").after.concept.items[0].places == ()


def test_rooms_and_feet_are_edited():
    project = a_project(a_part("a", mass_kg=1.0))
    lane = project.concept.subsystems[0].id
    room = set_room(project, lane, back_m=-0.1, front_m=0.2).after.concept.subsystems[0].room
    assert (room.back_m, room.front_m, room.top_m) == (-0.1, 0.2, 0.0)
    with pytest.raises(ProjectError, match="its back lies beyond its front"):
        set_room(project, lane, back_m=0.3, front_m=0.2)
    assert set_room(set_room(project, lane, top_m=0.1).after, lane, top_m=None).after.concept.subsystems[0].room is None
    stood = add_foot(project, "skid", 0.1, 0.0).after
    assert set_foot(stood, "skid", y_m=0.05).after.concept.feet[0].y_m == 0.05
    assert remove_foot(stood, "skid").after.concept.feet == ()


def on_a_skid(x_mm: float):
    """Two driven wheels at the back and a skid at the front, with a heavy box so far forward; 12° of slope."""
    project = a_rover(wheels=2, driven_wheels=2, slope_deg=12.0, step_m=0.0, friction=0.6)
    project = edits.set_count(edits.set_count(project, "wheel", 2).after, "motor", 2).after
    for copy, y in ((0, 0.15), (1, -0.15)):
        project = set_place(project, "wheel", copy, x_m=-0.1, y_m=y, z_m=0.06).after
        project = set_place(project, "motor", copy, x_m=-0.1, y_m=y / 2, z_m=0.06).after
    for item, x in (("pack", 0.0), ("driver", 0.0), ("frame", x_mm / 1000)):
        project = set_place(project, item, 0, x_m=x, z_m=0.08).after
    for item in ("wheel", "motor", "driver"):
        project = edits.set_part_value(project, item, "mass_kg", 0.0 if item == "driver" else 0.1).after
    return add_foot(add_foot(project, "left skid", 0.2, 0.1).after, "right skid", 0.2, -0.1).after


def test_grip_counts_what_the_driven_wheels_carry():
    """Moments about the skid, 0.3 m before the axle: what each mass puts on the wheels is its way to the skid over that.

    Before places were known the two driven of two wheels were taken to carry all.
    """
    for x_mm in (-50.0, 100.0):
        assessed = assess(on_a_skid(x_mm))
        parts = [(i, p.x_m) for i in assessed.project.concept.items for p in i.places[: i.count]]
        grown = [(i.part.mass_kg * (1 + a), x) for i, x in parts for a in (0.0, ALLOWANCES[i.knowledge])]
        share = [sum(m * (0.2 - x) for m, x in grown[k::2]) / 0.3 / sum(m for m, _ in grown[k::2]) for k in (0, 1)]
        found = assessed.of(CARRIED)[0].pressed
        assert found == pytest.approx(min(share), rel=0.02)
        drive = assessed.of(MOTION).of("drive")
        needed = math.tan(math.radians(12.0)) + 0.15
        assert next(c for c in drive.checks if c.id == "grip").needed == pytest.approx(needed / found)
        words = {r.name: r.text for r in drive.rows}["driven wheels carry"]
        assert words.endswith("at least, by their places")


def test_without_places_all_carry_alike_and_it_says_so():
    words = {r.name: r.text for r in assess(a_rover()).of(MOTION).of("drive").rows}["driven wheels carry"]
    assert words.endswith("if all carry alike")


def test_of_four_wheels_two_driven_ones_carry_as_little_as_they_may():
    """A box right over the front pair: which pair is driven nobody says, so the rear one counts, and hardly grips."""
    project = on_wheels(0.12, driven_wheels=2, slope_deg=5.0, step_m=0.0)
    assessed = assess(project)
    balance = assessed.of(BALANCE)
    rear = min((0.15 - x) / 0.3 for x in (balance.centre_range[0][0], balance.centre_range[1][0]))
    assert rear < 0.3
    assert assessed.of(CARRIED)[0].pressed == pytest.approx(rear)
    needed = math.tan(math.radians(5.0)) + 0.15
    grip = next(c for c in assessed.of(MOTION).of("drive").checks if c.id == "grip")
    assert (grip.needed, grip.verdict) == (pytest.approx(needed / rear), "breaks")
    for axle, share in (
        ("rear", rear),
        ("front", 1 - max((0.15 - x) / 0.3 for x in (balance.centre_range[0][0], balance.centre_range[1][0]))),
    ):
        said = assess(edits.set_load(project, "drive", driven_axle=axle).after).of(CARRIED)[0]
        assert said.pressed == pytest.approx(share)
        assert said.axles.driven == (axle,)
    assert assess(edits.set_load(project, "drive", driven_wheels=4).after).of(CARRIED)[0].pressed == 1.0


@pytest.mark.parametrize("frame_x_m", [0.0, 0.06])
def test_a_step_takes_the_whole_vehicle(frame_x_m):
    """Front, rear or all driven give different answers: those of statics for the very places (held_by is checked apart)."""
    step, radius, needed = 0.012, 0.06, {}
    for name, load in (("front", {"driven_wheels": 2, "driven_axle": "front"}),
                       ("rear", {"driven_wheels": 2, "driven_axle": "rear"}), ("both", {"driven_wheels": 4}),
                       ("any", {"driven_wheels": 2})):  # fmt: skip
        assessed = assess(on_wheels(frame_x_m, known=True, step_m=step, **load))
        checks = {c.id: c for c in assessed.of(MOTION).of("drive").checks}
        needed[name] = checks["step grip"].needed
        if name == "any":
            continue
        x, _, z = assessed.of(BALANCE).centre
        up_front = held_by(front_at_edge(0.3, radius, x + 0.15, step, name))
        up_rear = held_by(rear_at_edge(0.3, radius, radius, x + 0.15, z, step, name))
        assert needed[name] == pytest.approx(float(max(up_front.friction, up_rear.friction)), rel=1e-6)
        weight = assessed.of(TOTAL_KG) * 9.80665
        most = max(float(max(held.drive)) for held in (up_front, up_rear)) * weight * radius / 2
        assert checks["step"].needed == pytest.approx(
            most * (4 / 4 if name == "both" else 2 / 4), rel=1e-6
        )  # of a motor
    assert needed["any"] == max(needed["front"], needed["rear"])
    assert needed["both"] < min(needed["front"], needed["rear"])
    assert needed["front"] != needed["rear"]


def test_the_step_that_stops_it_is_where_the_verdict_turns():
    drive = assess(on_wheels(-0.1, step_m=0.008)).of(MOTION).of("drive")
    assert {c.id: c.verdict for c in drive.checks}["step grip"] != "breaks"
    words = {r.name: r.text for r in drive.rows}
    assert words["the harder axle"] == "rear, with the front up"
    at_stop = assess(on_wheels(-0.1, step_m=drive.facts["stops_m"])).of(MOTION).of("drive")
    assert max(c.use for c in at_stop.checks if c.id in {"step", "step grip"}) == pytest.approx(1.0, abs=2e-2)
    assert at_stop.facts["stops_m"] == pytest.approx(drive.facts["stops_m"], rel=5e-3)


@pytest.mark.parametrize("lost", ["a mass", "a place", "two axles"])
def test_a_step_is_not_known_once_anything_has_a_place_and_something_lacks(lost):
    """That all wheels carry alike is taken while nothing has a place; afterwards no guess stands in for a figure."""
    project = on_wheels(0.0, step_m=0.012)
    known = assess(project).of(MOTION).of("drive")
    assert {"step", "step grip"} <= {c.id for c in known.checks}
    if lost == "a mass":
        project = edits.set_part_value(project, "frame", "mass_kg", None).after
    elif lost == "a place":
        project = forget_places(project, "frame").after
    else:
        project = add_foot(project, "skid", 0.0, 0.0).after
    drive = assess(project).of(MOTION).of("drive")
    assert not {"step", "step grip"} & {c.id for c in drive.checks}
    assert drive.verdict == "unknown"
    assert {r.name: r.text for r in drive.rows}["step that stops it"] == "not known"
    high = assess(edits.set_load(project, "drive", step_m=0.06).after).of(MOTION).of("drive")
    assert {c.id: c.verdict for c in high.checks}["step"] == "breaks"  # as high as the radius, wherever things are


def test_turning_on_the_spot_scrubs_by_wheelbase_over_track():
    """skid-turn for the places: 0.3 m from axle to axle, 0.2 m from side to side, shared by four motors; rollers do not scrub."""
    project = on_wheels(0.0, known=True, step_m=0.0, turns_on_spot=True)
    assessed = assess(project)
    checks = {c.id: c for c in assessed.of(MOTION).of("drive").checks}
    weight = assessed.of(TOTAL_KG) * 9.80665
    side = 0.6 * weight * 0.3 / 2 / 0.2
    assert checks["turn"].needed == pytest.approx(2 * side * 0.06 / 4)
    assert checks["turn grip"].needed == pytest.approx(2 * side / weight)  # 0.9: a machine longer than wide slips
    assert checks["turn grip"].verdict == "breaks"
    assert any(f.title == "Drive slips as it turns on the spot" for f in assessed.findings)
    rolling = assess(edits.set_load(project, "drive", sideways_friction=0.05).after).of(MOTION).of("drive")
    assert {c.id: c.use for c in rolling.checks}["turn grip"] == pytest.approx(checks["turn grip"].use * 0.05 / 0.6)
    for rolls_on, friction in (("roller wheels", 0.05), ("casters at one end", 0.15)):
        other = assess(edits.set_load(project, "drive", rolls_on=rolls_on).after).of(MOTION).of("drive")
        assert {c.id: c.use for c in other.checks}["turn grip"] == pytest.approx(
            checks["turn grip"].use * friction / 0.6
        )
    nowhere = assess(a_rover(turns_on_spot=True)).of(MOTION).of("drive")
    assert "where its wheels stand" in nowhere.missing
    assert not {"turn", "turn grip"} & {c.id for c in nowhere.checks}
    assert "turn" not in {c.id for c in assess(on_wheels(0.0)).of(MOTION).of("drive").checks}


def test_many_copies_in_a_room_are_each_anywhere_in_it_and_cost_no_more_than_one():
    """Three loose copies: every corner of each tried alone gives the same least and most; ten thousand are no more rows."""
    room = Room(back_m=-0.08, front_m=0.05, right_m=-0.02, left_m=0.06, bottom_m=0.05, top_m=0.12)
    body, loose = block("body", 1.0, (0.0, 0.0, 0.1)), block("loose", 0.4, count=3, knowledge="guess")
    balance = assess(standing(body, loose, rooms=[(loose.subsystem, room)])).of(BALANCE)
    spots = list(product((-0.08, 0.05), (-0.02, 0.06), (0.05, 0.12)))
    for t in balance.tips:
        found = []
        for three in product(product(spots, (0.4, 0.48)), repeat=3):
            lumps = [((0.0, 0.0, 0.1), 1.0), *three]
            whole = sum(kg for _, kg in lumps)
            x, y, z = (sum(kg * at[k] for at, kg in lumps) / whole for k in range(3))
            found.append(math.degrees(math.atan2(t.edge.distance_m((x, y)), z)))
        assert (t.least_deg, t.most_deg) == pytest.approx((min(found), max(found)))
    crowd = assess(standing(body, loose.but(count=10_000), rooms=[(loose.subsystem, room)])).of(BALANCE)
    assert len(crowd.table.least_kg) == len(balance.table.least_kg)
    assert crowd.table.least_kg.sum() == pytest.approx(1.0 + 4000.0)


def test_wheels_in_one_line_give_no_step_and_no_turn():
    """Two wheels one behind the other stand on no polygon: what rests on the axles is unknown, and nothing holds."""
    project = edits.set_count(a_rover(step_m=0.012, turns_on_spot=True), "wheel", 2).after
    for copy, x in enumerate((0.15, -0.15)):
        project = set_place(project, "wheel", copy, x_m=x, z_m=0.06).after
    for item in ("motor", "pack", "driver", "frame"):
        for copy in range(next(i.count for i in project.concept.items if i.id == item)):
            project = set_place(project, item, copy, x_m=0.0, z_m=0.08).after
    for item in ("wheel", "motor", "driver"):
        project = edits.set_part_value(project, item, "mass_kg", 0.05).after
    drive = assess(project).of(MOTION).of("drive")
    assert drive.verdict == "unknown"
    assert not {"step", "step grip", "turn", "turn grip"} & {c.id for c in drive.checks}
    assert any("not in a line" in m for m in drive.missing)


def test_a_pose_that_takes_weight_off_the_driven_wheels_counts_in_the_modes_that_take_it():
    """Rear driven; with the frame out in front the rear axle carries less: shares by moments about the front axle."""
    project = on_wheels(0.0, driven_wheels=2, driven_axle="rear", slope_deg=5.0, step_m=0.0)
    project = edits.add_mode(project, "Park").after
    project = add_pose(project, "Arm out").after
    project = shift_part(project, "arm-out", "frame", dx_m=0.12).after
    out = assess(on_wheels(0.12, driven_wheels=2, driven_axle="rear", slope_deg=5.0, step_m=0.0))

    def grip(changed):
        return next(c for c in assess(changed).of(MOTION).of("drive").checks if c.id == "grip").needed

    worse = next(c for c in out.of(MOTION).of("drive").checks if c.id == "grip").needed
    assert grip(project) == pytest.approx(worse)  # taken in any mode
    parked = pose_in_mode(project, "arm-out", "park", taken=True).after
    assert grip(parked) < worse  # its motors rest there
    driving = pose_in_mode(parked, "arm-out", parked.concept.modes[0].id, taken=True).after
    assert grip(driving) == pytest.approx(worse)


def test_loads_on_a_slope_balance_about_its_foot():
    """Square to a slope of 15°: their sum is W·cos 15°, and they act where the plumb line meets the floor."""
    balance = assess(on_wheels(0.05, known=True)).of(BALANCE)
    fall = math.tan(math.radians(15))
    flat, sloped = balance.loads_on_slope(0, 0.0), balance.loads_on_slope(0, fall)
    assert sum(sloped) == pytest.approx(sum(flat) * math.cos(math.radians(15)))
    acts = sum(n * c.x_m for n, c in zip(sloped, balance.contacts, strict=True)) / sum(sloped)
    assert acts == pytest.approx(balance.centre[0] + (balance.centre[2] - balance.floor_m) * fall)
    assert balance.loads_on_slope(0, 50.0) == ()  # there it falls
