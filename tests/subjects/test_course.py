"""The course: the best order against everything tried out, points against runs drawn, what is missing, runs that count."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import a_pack, a_project
from second_course import a_ground, a_leg, drawn_points, tried_out
from wired_union.catalogue.demo import demo
from wired_union.kernel.ripple import offered
from wired_union.physics.course import points_in_time
from wired_union.project.concept_edits import copy_concept
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.project.model import Limit
from wired_union.project.trial_model import Run, Trial
from wired_union.subjects import assess
from wired_union.subjects.trials.course import COURSE, Ground, plan_of, walk
from wired_union.subjects.trials.course_edits import (
    add_place,
    add_task,
    add_trip,
    move_task,
    move_trip,
    remove_place,
    remove_task,
    remove_trip,
    set_course,
    set_task,
    set_trip,
    take_plan,
)
from wired_union.subjects.trials.course_search import Best, best_order
from wired_union.subjects.trials.picture_course import best_words, course_words


def best_of(ground, **more):
    *_, last = best_order(ground, **more)
    assert isinstance(last, Best)
    return last


@pytest.mark.parametrize("seed", range(24))
def test_the_best_order_is_that_of_everything_tried_out(seed):
    free = seed % 2 == 0
    ground = a_ground(seed, trips=3, tasks=6 if free else 7, share=(0.3, 0.5, 0.7, 0.9, 1.1)[seed % 5], free=free,
                      wild=seed % 3 == 0)  # fmt: skip
    found, tried = best_of(ground), tried_out(ground)
    assert found.proven
    assert found.points == pytest.approx(tried.points, abs=1e-9)
    assert walk(ground, found.plan).points == pytest.approx(found.points)
    assert found.orders == 6


def test_what_is_not_proven_says_how_much_more_there_could_be():
    ground = a_ground(5, trips=3, tasks=7, share=0.6, free=False)
    cut, whole = best_of(ground, stop=3), best_of(ground)
    assert not cut.proven
    assert cut.points <= whole.points <= cut.most
    assert "not proven: none brings more than" in best_words(walk(ground, ()), cut)


@pytest.mark.parametrize("seed", range(4))
def test_points_and_their_spread_are_those_of_runs_drawn(seed):
    ground = a_ground(seed, trips=3, tasks=8, share=0.85, free=False)
    w = walk(ground, tuple((n, tuple(range(len(t)))) for n, t in enumerate(ground.trips)))
    got = drawn_points(w, 200_000, seed)
    assert w.points == pytest.approx(float(got.mean()), rel=0.01)
    assert sum(share for _, share in w.spread) == pytest.approx(1, abs=1e-9)
    for share in (0.9, 0.5, 0.1):
        assert w.reached(share) == pytest.approx(float(np.quantile(got, 1 - share)), abs=5.001)
    steps = [d.at_s - b for d, b in zip(w.done, [0, *(d.at_s for d in w.done)], strict=False)]
    spreads = np.sqrt(np.diff([0, *(d.variance_s2 for d in w.done)]))
    made = points_in_time([d.leg.points for d in w.done], [d.leg.chance for d in w.done], steps, spreads.tolist(),
                          ground.allowed_s)  # fmt: skip
    assert (made.expected, made.last_lost) == pytest.approx((w.points, w.last_lost))


def test_many_different_points_are_told_apart_no_finer_than_can_be_and_never_more():
    legs = tuple(a_leg(f"t{n}", 10 + 0.0137 * 1.7**n, 0.5, 1.0, 0.0) for n in range(14))
    ground = Ground(100.0, (legs,), ("T",), (False,), ("",), ((0.0,),), 0.0, 0.0, 0.0)
    w = walk(ground, ((0, tuple(range(14))),))
    mean = sum(p * share for p, share in w.spread)
    assert mean <= w.points + 1e-9
    assert mean == pytest.approx(w.points, rel=2e-3)
    assert len(w.spread) < 20_000


def a_course():
    project = a_project(a_pack())
    for name, x in (("Start", 0.0), ("Buoy", 6.0)):
        project = add_place(project, name=name, x_m=x, y_m=0.0).after
    project = set_course(project, allowed_s=60.0, start="start", drive_m_s=1.0).after
    for trip, task in (("One", "Core"), ("Two", "Picture")):
        project = add_trip(project, name=trip).after
        project = add_task(project, trip.lower(), task).after
        project = set_task(project, task.lower(), points=10.0, usual_s=15.0, spread_s=2.0, chance=0.5,
                           place="buoy").after  # fmt: skip
    return project


def test_times_add_up_with_the_ways_and_a_change_where_something_else_is_carried():
    project = a_course()
    assert assess(project).measure("course-time").value == pytest.approx(6 + 15 + 6 + 6 + 15)
    other = set_trip(project, value_id="two", fitted="camera").after
    assert assess(other).measure("course").verdict == "unknown"  # how long a change takes is not said
    other = set_course(other, change_s=10.0, change_spread_s=0.0).after
    assert assess(other).measure("course-time").value == pytest.approx(58)
    alike = set_trip(other, value_id="one", fitted=" Camera").after
    assert assess(alike).measure("course-time").value == pytest.approx(48)
    assert assess(project).measure("course").value == pytest.approx(10, abs=0.01)


@pytest.mark.parametrize(("change", "lacks"), [
    (lambda p: set_task(p, "core", usual_s=None), "Core: usual time"),
    (lambda p: set_task(p, "core", spread_s=None), "Core: spread of its time"),
    (lambda p: set_task(p, "core", chance=None), "Core: chance"), (lambda p: set_task(p, "core", points=None), "points"),
    (lambda p: set_task(p, "core", place=""), "Core: where it is"),
    (lambda p: set_course(p, allowed_s=None), "time for the course"),
    (lambda p: set_course(p, drive_m_s=None), "speed between places"),
    (lambda p: set_course(p, drive_spread=None), "spread of the driving"),
    (lambda p: remove_place(p, value_id="start"), "where the course starts"),
])  # fmt: skip
def test_what_is_missing_makes_the_course_unknown(change, lacks):
    limit = Limit(measure="course", name="Points", value=1.0, direction="at least", group="Prove")
    project = change(a_course()).after
    assessed = assess(project.but(brief=project.brief.but(limits=(limit,))))
    measure = assessed.measure("course")
    assert (measure.value, measure.verdict) == (None, "unknown")
    assert any(lacks in m for m in measure.missing)
    assert "course-gap" in {f.check for f in assessed.findings}
    assert "Not known yet" in course_words(assessed.of(COURSE))
    out = set_task(project, "core", left_out=True).after
    assert (assess(out).measure("course").value is None) == ("Core" not in lacks and lacks != "points")


def test_it_holds_where_nine_of_ten_courses_reach_it():
    project = a_course()

    def verdict(value, measure="course", direction="at least"):
        limit = Limit(measure=measure, name="Points", value=value, direction=direction, group="Prove")
        return assess(project.but(brief=project.brief.but(limits=(limit,)))).measure(measure).verdict

    assert [verdict(v) for v in (0.0, 5.0, 9.9, 12.0)] == ["holds", "tight", "tight", "breaks"]
    assert [verdict(v, "course-time", "at most") for v in (60.0, 49.0, 47.0)] == ["holds", "tight", "breaks"]


def test_runs_stand_in_the_place_of_guesses():
    project = a_course()
    times = Trial(id="t", name="Core time", counts="a time", proves="mean", unit="s",
                  runs=tuple(Run(value=v) for v in (20.0, 22.0, 27.0)))  # fmt: skip
    good = Trial(id="g", name="Good", runs=tuple(Run(good=g) for g in (True, True, True, False)))
    project = project.but(trials=(times, good))
    linked = set_task(set_task(project, "core", time_from="t").after, "core", chance_from="g").after
    (leg,), _ = assess(linked).of(COURSE).walked.ground.trips
    assert (leg.usual_s, leg.chance) == (23.0, 0.75)
    assert leg.variance_s2 == pytest.approx(
        13.0 * (1 + 1 / 3)
    )  # of the next run: NIST/SEMATECH e-Handbook, from memory
    assert "3 runs" in leg.measured
    few = linked.but(trials=(times.but(runs=times.runs[:1]), good.but(runs=())))
    (leg,), _ = assess(few).of(COURSE).walked.ground.trips
    assert (leg.usual_s, leg.chance) == (15.0, 0.5)
    gone = assess(linked.but(trials=()))
    assert gone.measure("course").value == assess(a_course()).measure("course").value


def test_a_way_out_is_worked_out_on_the_whole_project():
    project = set_course(a_course(), allowed_s=49.0).after
    assessed = assess(project)
    (finding,) = [f for f in assessed.findings if f.check == "course-lost"]
    ways = offered(assessed, finding)
    assert ways
    for way, words in ways:
        after = assess(way.change.after)
        assert (
            after.of(COURSE).walked.last_lost <= 0.1 or after.measure("course").value > assessed.measure("course").value
        )
        assert words


def test_a_plan_is_taken_kept_and_undone(tmp_path):
    project = demo()
    w = assess(project).of(COURSE).walked
    best = best_of(w.ground)
    taken = take_plan(project, best.plan, "the best order").after
    after = assess(taken).of(COURSE).walked
    assert after.points == pytest.approx(best.points) == pytest.approx(assess(taken).measure("course").value)
    assert {t.id for t in taken.concept.trips} == {t.id for t in project.concept.trips}
    assert best_of(after.ground).points == pytest.approx(best.points)
    assert from_text(to_text(taken), tmp_path / "x") == taken
    some = take_plan(project, ((2, (1,)), (0, (0,))), "two tasks").after
    assert [d.leg.task.id for d in assess(some).of(COURSE).walked.done] == [
        w.ground.trips[2][1].task.id, w.ground.trips[0][0].task.id]  # fmt: skip
    for plan in (((9, (0,)),), ((0, (9,)),), ((0, (0,)), (0, (1,)))):
        with pytest.raises(ProjectError):
            take_plan(project, plan, "x")


def test_tasks_in_any_order_are_put_so():
    project = set_trip(a_course(), value_id="one", any_order=True).after
    project = add_task(project, "one", "Flag").after
    project = set_task(project, "flag", points=50.0, usual_s=5.0, spread_s=1.0, chance=1.0, place="buoy").after
    project = set_course(project, allowed_s=27.0).after
    best = best_of(assess(project).of(COURSE).walked.ground)
    taken = take_plan(project, best.plan, "x").after
    assert [t.id for t in taken.concept.trips[0].tasks] == ["flag", "core"]
    assert plan_of(taken.concept)[0] == (0, (0, 1))


def test_edits_refuse_what_is_not_there():
    project = a_course()
    assert [t.id for t in move_trip(project, "two", 1).after.concept.trips] == ["two", "one"]
    moved = move_task(project, "core", "two", 1).after
    assert [[t.id for t in trip.tasks] for trip in moved.concept.trips] == [[], ["core", "picture"]]
    assert [t.id for t in move_task(moved, "core", "two", 2).after.concept.trips[1].tasks] == ["picture", "core"]
    assert remove_task(project, "core").after.concept.trips[0].tasks == ()
    assert len(remove_trip(project, value_id="one").after.concept.trips) == 1
    assert remove_place(project, value_id="buoy").after.concept.trips[0].tasks[0].place == ""
    for edit in (lambda: set_task(project, "x", points=1.0), lambda: set_task(project, "core", place="x"),
                 lambda: add_task(project, "x", "y"), lambda: set_course(project, start="x"),
                 lambda: set_task(project, "core", chance=1.5), lambda: move_trip(project, "x", 1)):  # fmt: skip
        with pytest.raises(ProjectError):
            edit()


@given(st.integers(0, 10_000), st.floats(1.0, 3.0))
@settings(max_examples=40, deadline=None)
def test_more_time_never_brings_less_and_a_worse_task_never_more(seed, longer):
    ground = a_ground(seed, trips=2, tasks=5, share=0.6, free=False)
    more = Ground(ground.allowed_s * longer, *[getattr(ground, f) for f in ground.__struct_fields__[1:]])
    plan = tuple((n, tuple(range(len(t)))) for n, t in enumerate(ground.trips))
    assert walk(more, plan).points >= walk(ground, plan).points - 1e-9
    assert best_of(more).points >= best_of(ground).points - 1e-9


def test_a_copy_of_a_concept_keeps_its_course():
    project = a_course()
    assert copy_concept(project, "a", "Two").after.concepts[-1].trips == project.concept.trips
