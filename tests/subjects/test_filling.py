"""A gap, or a part that a source does not suit, offers what mends it; each offer is tried on and does."""

import pytest

import edits
from builders import a_driver, a_gearmotor, a_load, a_pack, a_part, a_project, a_rover
from wired_union.catalogue.parts import part
from wired_union.kernel.ripple import offered
from wired_union.project.fresh import new_project
from wired_union.project.model import Wheel
from wired_union.subjects import assess


def offers(project, finding_id):
    """The remedies of a finding that help it, each with the findings that are left once it is done."""
    assessed = assess(project)
    finding = next(f for f in assessed.findings if f.id == finding_id)
    return {r.label: {f.id for f in assess(r.change.after).findings if f.verdict in {"breaks", "unknown"}}
            for r, _ in offered(assessed, finding) if r.change is not None}  # fmt: skip


def test_a_sensor_that_nothing_feeds_is_offered_what_feeds_it():
    sensor = a_load("sensor", 0.02, supply_min_v=3.0, supply_max_v=3.6, rated_v=3.3)
    found = offers(a_project(a_pack(), sensor), "missing:sensor: what feeds it")
    assert len(found) == 3
    assert all(label.startswith("add ") and label.endswith(", fed from pack") for label in found)
    assert all(left == set() for left in found.values())
    rail = a_project(
        a_pack(), a_part("ldo", regulator=part("ldo-3p3-v-0p8-a").regulator), sensor, feeds=(("pack", "ldo"),)
    )
    first = next(iter(offers(rail, "missing:sensor: what feeds it")))
    assert first == "feed sensor from ldo"  # what is there comes before what is to be bought


def test_an_answer_to_one_of_two_questions_gives_no_figure_that_waits_for_the_other():
    project = new_project("Pond probe")
    for lane, known in (
        ("feed", "pack-4s-6-ah-lifepo4"),
        ("sense", "imu-6-axis"),
        ("move", "gearmotor-25-mm-12-v-75-1"),
    ):
        project = edits.add_item(project, lane, part(known)).after
    assessed = assess(project)
    finding = next(f for f in assessed.findings if f.id == "missing:IMU 6-axis: what feeds it")
    words = [w for _, w in offered(assessed, finding)]
    assert words
    assert set(words) == {"then known"}


def test_a_motor_is_offered_a_driver_and_never_passed_around_it():
    motor = a_gearmotor()
    found = offers(a_project(a_pack(), motor), "missing:motor: what feeds it")
    assert found
    assert all(label.startswith("add ") for label in found)
    assert all(left == set() for left in found.values())
    there = a_project(a_pack(), a_driver(), motor, feeds=(("pack", "driver"),))
    assert next(iter(offers(there, "missing:motor: what feeds it"))) == "feed motor from driver"
    high = a_project(a_pack(series=6), a_driver(), motor, feeds=(("pack", "driver"), ("driver", "motor")))
    labels = [r.label for f in assess(high).findings if f.id == "input-high:motor" for r in f.remedies]
    assert "feed motor from pack" not in labels


def test_what_gets_too_much_is_offered_a_regulator_in_between():
    probe = a_load("probe", 0.1, supply_min_v=4.5, supply_max_v=5.5, rated_v=5.0)
    project = a_project(a_pack(), probe, feeds=(("pack", "probe"),))
    found = offers(project, "input-high:probe")
    assert found
    assert all(left == set() for left in found.values())


@pytest.mark.parametrize(("gap", "label"), [
    ("missing:how it is used: its modes", "add a mode in which everything works"),
    ("missing:the mission: which modes, and how long each lasts", "one hour of Work"),
])  # fmt: skip
def test_modes_and_a_mission_are_offered_a_beginning(gap, label):
    project = a_project(a_pack(), a_load(), feeds=(("pack", "load"),))
    concept = project.concept
    bare = concept.but(mission=concept.mission.but(phases=())) if "mission" in gap else concept.but(
        modes=(), mission=concept.mission.but(phases=()))  # fmt: skip
    found = offers(project.but(concepts=(bare,)), gap)
    assert found == {label: set()}


def test_too_weak_a_motor_is_offered_a_stronger_one_and_too_small_a_wheel_a_larger():
    weak = a_gearmotor(stall_torque_n_m=0.2, stall_current_a=2.4)
    project = edits.swap_part(a_rover(), "motor", weak).after
    found = offers(project, "motion:drive:step")
    assert found
    assert all("motion:drive:step" not in left for left in found.values())
    small = edits.swap_part(a_rover(step_m=0.05), "wheel", a_part("wheel", "wheel", wheel=Wheel(diameter_m=0.09))).after
    steep = edits.set_load(small, "drive", friction=0.8).after
    found = offers(steep, "motion:drive:step")
    assert any(label.startswith("a larger wheel") for label in found)
    half = a_rover(driven_wheels=2, motors=2)
    found = offers(half, "motion:drive:step grip")
    assert "motion:drive:step grip" not in found["drive all 4 wheels"]


def test_a_remedy_says_what_it_newly_breaks():
    """Larger wheels climb the step, and then the motors that turn them are too warm."""
    small = edits.swap_part(a_rover(step_m=0.05), "wheel", a_part("wheel", "wheel", wheel=Wheel(diameter_m=0.09))).after
    project = edits.set_load(small, "drive", friction=0.8).after
    assessed = assess(project)
    finding = next(f for f in assessed.findings if f.id == "motion:drive:step")
    said = {r.label: words for r, words in offered(assessed, finding)}
    assert said["a larger wheel, Wheel 130 mm, beach tyre"] == "then holds, but 1 new break: Drive overheats"
