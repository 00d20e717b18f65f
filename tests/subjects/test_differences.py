"""What differs between two projects, said in words a team would use; and the trace of a mission that goes on for weeks."""

import pytest

import edits
from builders import Sampled, a_chain, a_limit, a_load, a_pack, a_part, a_project
from wired_union.kernel.differences import differences, differences_by_room
from wired_union.kernel.ripple import ripple
from wired_union.project.part_edits import set_use
from wired_union.subjects import assess
from wired_union.subjects.power.edits import add_mode, add_phase, set_phase_duration
from wired_union.subjects.power.gives import POWER
from wired_union.subjects.power.trace import mission_trace


def plain(said):
    return [s.replace("\u202f", " ") for s in said]


def base():
    return a_project(
        a_pack(), a_load("lamp", 1.0), a_part("frame", mass_kg=1.0), feeds=(("pack", "lamp"),),
        limits=(a_limit("runtime", 3600.0, "at least"),),
        chains=(a_chain(Sampled(name="poll", period_s=0.01, response_s=0.001), name="bump"),),
    )  # fmt: skip


CHANGES = [
    (lambda p: edits.rename_project(p, "Other").after, "called Other instead of Test"),
    (lambda p: edits.set_count(p, "lamp", 2).after, "lamp: 2 instead of 1"),
    (lambda p: edits.set_limit(p, "runtime", value=7200.0).after, "limit “runtime”: 3600 becomes 7200"),
    (lambda p: edits.remove_limit(p, "runtime").after, "limit “runtime” dropped"),
    (lambda p: edits.add_limit(p, a_limit("mass", 5.0)).after, "limit “mass” added"),
    (lambda p: add_mode(p, "Sleep").after, "mode Sleep added"),
    (lambda p: set_use(p, "work", "lamp", "idle").after, "lamp is idle in Work"),
    (lambda p: set_use(p, "work", "lamp", "active", 0.25).after, "lamp is active 25 % of the time in Work"),
    (lambda p: add_phase(p, "work", 3600.0).after, "2 h instead of 1 h"),
    (lambda p: edits.remove_chain(p, "bump").after, "chain Bump left out"),
    (lambda p: edits.add_chain(p, "Tilt to stop").after, "chain Tilt to stop added"),
    (lambda p: edits.set_stage(p, "bump", 0, period_s=0.02).after, "Bump: poll"),
    (lambda p: edits.feed_from(p, "lamp", None).after, "lamp from nothing instead of pack"),
]


@pytest.mark.parametrize(("change", "said"), CHANGES)
def test_each_change_is_said_once(change, said):
    before = base()
    found = plain(differences(before, change(before)))
    assert said in found
    assert found.count(said) == 1


def test_what_is_the_same_is_not_said():
    assert differences(base(), base()) == []
    assert differences_by_room(base(), base()) == []


def test_back_and_forth_says_the_opposite():
    before, after = base(), add_mode(base(), "Sleep").after
    assert "mode Sleep left out" in plain(differences(after, before))
    used = set_use(before, "work", "lamp", "idle").after
    assert "lamp is as the mode has it in Work" in plain(differences(used, before))


def test_a_new_part_and_one_left_out_stand_under_their_subsystem():
    before = base()
    after = edits.remove_item(before, "frame").after
    assert ("All", "frame left out") in differences_by_room(before, after)
    assert ("All", "frame added") in differences_by_room(after, before)


def test_a_ripple_that_moves_nothing_says_so():
    assessment = assess(base())
    moved = ripple(assessment, edits.rename_project(base(), "Other"))
    assert moved.moved == ()
    assert moved.shown == "no limit moved"
    heavier = ripple(assessment, edits.set_count(base(), "lamp", 3))
    assert [m.id for m in heavier.moved] == ["runtime"]
    assert heavier.shown.endswith("now tight") or heavier.moved[0].after.value < heavier.moved[0].before.value
    assert heavier.help <= 0


# the trace


def resting(hours: float, repeats: int):
    """A lamp that is on for a tenth of a cycle and idle else."""
    project = a_project(a_pack(capacity_ah=100.0), a_load("lamp", 1.0, idle_a=0.01), feeds=(("pack", "lamp"),),
                        hours=hours / 10, repeats=repeats)  # fmt: skip
    project = set_use(add_mode(project, "Rest").after, "rest", "lamp", "idle").after
    return set_phase_duration(project, 1, hours * 0.9 * 3600).after


def test_a_mission_of_many_cycles_is_traced_at_its_mean():
    """Charge by charge the current lies at the mean of the modes: 0.1 × 1 A + 0.9 × 10 mA."""
    assessment = assess(resting(0.02, 100_000))
    pack = assessment.of(POWER).packs[0]
    assert pack.discharge.averaged
    trace = mission_trace(assessment.of(POWER), pack)
    assert min(trace.current_a) == pytest.approx(0.109, rel=0.02)
    assert max(trace.current_a) == pytest.approx(0.109, rel=0.02)
    assert trace.charge == tuple(sorted(trace.charge, reverse=True))
    # what was used, integrated over the trace, is the reach of the pack without its reserve
    used = sum((b - a) * (i + j) / 2 for a, b, i, j in zip(
        trace.times_s, trace.times_s[1:], trace.current_a, trace.current_a[1:], strict=False)) / 3600  # fmt: skip
    spent = (trace.charge[0] - trace.charge[-1]) * pack.figures.values.capacity_ah
    assert used == pytest.approx(spent, rel=0.02)


def test_a_few_cycles_show_each_mode():
    assessment = assess(resting(10.0, 3))
    pack = assessment.of(POWER).packs[0]
    assert not pack.discharge.averaged
    trace = mission_trace(assessment.of(POWER), pack)
    assert max(trace.current_a) == pytest.approx(1.0, rel=0.02)
    assert min(trace.current_a) == pytest.approx(0.01, rel=0.02)
    time = (trace.legs[0][0] + trace.legs[0][1]) / 2
    assert trace.at(time)[0] == pytest.approx(1.0, rel=0.02)


def test_without_a_mission_there_is_no_trace():
    project = a_project(a_pack(), a_load("lamp", 0.0), feeds=(("pack", "lamp"),))
    assessment = assess(project)
    trace = mission_trace(assessment.of(POWER), assessment.of(POWER).packs[0])
    assert trace.times_s == ()
