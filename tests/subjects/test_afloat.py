"""What floats, rights itself, opens or flaps, in whole projects: against buoyancy integrated, and by hand."""

import math

import pytest

import edits
from builders import a_part, a_project, an_item
from wired_union.catalogue.parts import part
from wired_union.kernel.results import Verdict
from wired_union.physics.floating import list_angle
from wired_union.project.place_model import Place
from wired_union.subjects import assess
from wired_union.subjects.mass.pose_edits import add_pose, shift_part
from wired_union.subjects.motion.assess import MOTION

HULL = {"length_m": 0.6, "width_m": 0.3, "height_m": 0.15}


def raft(*more, z=0.05, knowledge="measured", kind="float", **figures):
    ballast = an_item(a_part("ballast", mass_kg=4.0), places=(Place(x_m=0, y_m=0, z_m=z),), knowledge=knowledge)
    project = a_project(ballast, *more)
    return edits.add_load(project, kind, "Hull", **({**HULL, **figures} if kind == "float" else figures)).after


def of(project):
    return assess(project).of(MOTION).of("hull")


def check(project, name):
    return next(c for c in of(project).checks if c.id == name)


def test_a_raft_by_hand():
    """4 kg on 0.18 m² lie 22.2 mm deep; KM across = 11.1 + 0.3²/(12·0.0222) = 348.6 mm."""
    project = raft()
    assert check(project, "floats").needed == pytest.approx(4.0 / 180.0 + 0.02)
    assert check(project, "across").given == pytest.approx(4 / 360 + 0.09 / (12 * 4 / 180) - 0.05)
    assert of(project).verdict is Verdict.HOLDS
    tall = raft(z=0.5)
    assert check(tall, "across").verdict is Verdict.BREAKS
    assert any(r.name == "its centre must come down by" for r in of(tall).rows)
    assert check(tall, "along").verdict is Verdict.HOLDS
    heavy = raft(an_item(a_part("lead", mass_kg=30.0), places=(Place(x_m=0, y_m=0, z_m=0.02),)))
    assert check(heavy, "floats").verdict is Verdict.BREAKS


def test_a_hull_leans_to_where_its_weight_is_and_its_edge_goes_down():
    """As list-angle says for the very figures; a middle that is said to be under the weight leaves it level."""
    beside = raft(middle_y_m=0.02, most_lean_deg=3.0)
    across = check(beside, "across").given
    leans = list_angle(across, 4 / 180, 0.3, 0.02)
    assert check(beside, "lean").needed == pytest.approx(leans.lean_deg)
    assert check(beside, "lean").verdict is Verdict.BREAKS
    assert check(beside, "floats").needed == pytest.approx(4.0 / 180.0 + 0.02 + leans.goes_down_m)
    level = edits.set_load(beside, "hull", middle_y_m=0.0).after
    assert (of(level).verdict, check(level, "lean").needed) == (Verdict.HOLDS, 0.0)
    ahead = edits.set_load(level, "hull", middle_x_m=-0.05).after
    assert check(ahead, "lean").needed == pytest.approx(
        list_angle(check(level, "along").given, 4 / 180, 0.6, 0.05).lean_deg
    )
    far = edits.set_load(level, "hull", middle_y_m=0.06, height_m=0.5).after
    assert of(far).missing == ("how far it leans: its bottom comes out of the water",)


def test_a_mast_that_is_put_up_in_a_pose_counts():
    project = raft(an_item(a_part("mast", mass_kg=2.0), places=(Place(x_m=0, y_m=0, z_m=0.1),), knowledge="measured"))
    up = shift_part(add_pose(project, "Mast up").after, "mast-up", "mast", dz_m=1.5).after
    assert of(project).verdict is Verdict.HOLDS
    assert of(up).verdict is Verdict.BREAKS


@pytest.mark.parametrize("kind", ["float", "steady"])
def test_without_places_nothing_is_said_to_right_itself(kind):
    lost = edits.add_load(a_project(a_part("ballast", mass_kg=4.0)), kind, "Hull").after
    assert of(lost).verdict is Verdict.UNKNOWN
    unweighed = edits.set_part_value(raft(kind=kind), "ballast", "mass_kg", None).after
    assert of(unweighed).verdict is Verdict.UNKNOWN


@pytest.mark.parametrize(("acts", "figures", "lever"), [
    ("buoyancy", {"pressure_z_m": 0.12}, 0.07), ("drag as it falls", {"pressure_z_m": 0.02}, -0.03),
    ("stream from ahead", {"pressure_x_m": -0.2, "pressure_z_m": 0.05}, 0.2),
])  # fmt: skip
def test_what_lifts_is_above_and_what_drags_behind(acts, figures, lever):
    project = raft(kind="steady", acts=acts, **figures)
    assert check(project, "righting").given == pytest.approx(lever)
    assert (check(project, "righting").verdict is Verdict.BREAKS) == (lever < 0.01)
    askew = edits.set_load(edits.set_load(project, "hull", pressure_y_m=0.03).after, "hull", most_lean_deg=10.0).after
    if lever > 0:
        assert check(askew, "lean").needed == pytest.approx(math.degrees(math.atan(0.03 / lever)))
    else:
        assert check(askew, "lean").verdict is Verdict.BREAKS


def test_the_shock_of_opening_is_a_bound_by_hand():
    """½·ρ·v²·C_D·A·C_x with ρ at the height it opens at; not known without the speed."""
    canopy = part("parachute-flat-0p6-m")
    project = a_project(canopy, a_part("body", mass_kg=0.8))
    project = edits.add_load(
        project, "canopy", "Hull", actuator=canopy.id, opening_m=0.0, ground_m=-10.0, most_shock_n=50.0
    ).after
    assert of(project).verdict is not Verdict.HOLDS
    assert any("speed at which it opens" in m for m in of(project).missing)
    fast = edits.set_load(project, "hull", opening_speed_m_s=12.0).after
    area = math.pi / 4 * canopy.canopy.diameter_m**2
    by_hand = 0.5 * 1.225 * 144 * canopy.canopy.drag_coefficient * area * 1.8
    assert check(fast, "opening shock").needed == pytest.approx(by_hand, rel=1e-3)


def test_a_flap_weighs_what_its_part_may_weigh():
    lid = an_item(a_part("lid", mass_kg=0.02), knowledge="guess")
    project = edits.add_load(a_project(lid), "flap", "Hull", flap="lid").after
    assert check(project, "lift").needed == pytest.approx(0.024 * 9.80665)
    assert of(edits.set_part_value(project, "lid", "mass_kg", None).after).verdict is Verdict.UNKNOWN
