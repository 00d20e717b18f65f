"""The best place of a part: never beaten by any other that is free, inside, and touching nothing new."""

import itertools

import pytest

from builders import a_limit, a_part, a_project, an_item
from wired_union.kernel.ripple import offered
from wired_union.project.change import with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.model import Foot, Place, Room
from wired_union.subjects import assess
from wired_union.subjects.mass.best_place import best_place
from wired_union.subjects.mass.place_edits import move_places
from wired_union.subjects.mass.pose_edits import add_pose, set_pose

FEET = tuple(Foot(id=f"f{n}", name=f"leg {n}", x_m=x, y_m=y) for n, (x, y) in enumerate(
    [(0.15, 0.1), (0.15, -0.1), (-0.15, 0.1), (-0.15, -0.1)]))  # fmt: skip


def box(name, kg, sides, at):
    length, width, height = sides
    part = a_part(name, mass_kg=kg, length_m=length, width_m=width, height_m=height)
    return an_item(part, places=(Place(x_m=at[0], y_m=at[1], z_m=at[2]),), knowledge="measured")


def machine(*more, pack_at=(0.08, 0.05, 0.15), limit=60.0):
    """A deck with a pack beside the middle, high up."""
    deck, pack = box("deck", 1.0, (0.3, 0.2, 0.01), (0, 0, 0.05)), box("pack", 1.5, (0.08, 0.06, 0.04), pack_at)
    project = a_project(deck, pack, *more, limits=(a_limit("tip-angle", limit, "at least"),))
    return with_concept(project, feet=FEET)


def tip(project):
    return assess(project).measure("tip-angle").value


def test_it_comes_to_lie_in_the_middle_on_the_deck():
    """In the middle across, as low as the deck under it lets it; along, where nothing is to gain, it stays."""
    change = best_place(machine(), "pack")
    place = next(i for i in change.after.concept.items if i.id == "pack").places[0]
    assert (place.x_m, place.y_m) == pytest.approx((0.08, 0.0), abs=0.006)
    assert place.z_m == pytest.approx(0.05 + 0.005 + 0.02, abs=0.005)
    assert "where it tips last: +" in change.sentence


def test_no_other_free_place_of_a_grid_is_better():
    """A tower in the middle: every place of a grid of 20 mm that is inside and runs into nothing is tried by hand."""
    tower = box("tower", 0.5, (0.1, 0.08, 0.2), (0.0, 0.0, 0.156))
    project = machine(tower, pack_at=(0.1, 0.06, 0.2))
    found = tip(best_place(project, "pack").after)
    best = 0.0
    for dx, dy, dz in itertools.product(range(-13, 3), range(-9, 2), range(-7, 3)):
        x, y, z = 0.1 + 0.02 * dx, 0.06 + 0.02 * dy, 0.2 + 0.02 * dz
        inside = abs(x) <= 0.15 - 0.04 and abs(y) <= 0.1 - 0.03 and z >= 0.055 + 0.02
        in_tower = abs(x) < 0.05 + 0.04 and abs(y) < 0.04 + 0.03 and abs(z - 0.156) < 0.1 + 0.02
        if inside and not in_tower:
            best = max(best, tip(move_places(project, "pack", 0.02 * dx, 0.02 * dy, 0.02 * dz).after))
    assert best > tip(project) + 1
    assert found >= best - 0.3  # the grid of the search is another one


def test_it_stays_in_its_room_and_in_the_case_that_it_is_in():
    room = Room(back_m=0.02, front_m=0.14, right_m=-0.1, left_m=0.1, bottom_m=0.05, top_m=0.2)
    project = machine()
    project = with_concept(project, subsystems=tuple(s.but(room=room) for s in project.concept.subsystems))
    place = next(i for i in best_place(project, "pack").after.concept.items if i.id == "pack").places[0]
    assert place.x_m - 0.04 >= 0.02 - 1e-6
    case = box("case", 0.2, (0.12, 0.1, 0.08), (0.08, 0.05, 0.15))
    place = next(i for i in best_place(machine(case), "pack").after.concept.items if i.id == "pack").places[0]
    assert abs(place.x_m - 0.08) <= 0.02 + 1e-6
    assert abs(place.z_m - 0.15) <= 0.02 + 1e-6


def test_poses_count_and_the_remedy_is_offered_where_it_tips():
    project = set_pose(add_pose(machine(), "shoved").after, "shoved", push_n=3.0, push_height_m=0.2).after
    change = best_place(project, "pack")
    assert tip(change.after) > tip(project)
    assessed = assess(project)
    finding = next(f for f in assessed.findings if f.check == "tip-angle")
    labels = [r.label for r, _ in offered(assessed, finding)]
    assert "pack where it stands best" in labels


def test_where_nothing_is_better_or_known_it_says_so():
    best = best_place(machine(), "pack").after
    with pytest.raises(ProjectError, match="nowhere better"):
        best_place(best, "pack")
    unsized = an_item(a_part("blob", mass_kg=0.1), places=(Place(x_m=0.0, y_m=0.0, z_m=0.1),))
    with pytest.raises(ProjectError, match="has a place and a size"):
        best_place(machine(unsized), "blob")
    lost = an_item(a_part("lost", mass_kg=0.1))
    with pytest.raises(ProjectError, match="not known yet"):
        best_place(machine(lost), "pack")
