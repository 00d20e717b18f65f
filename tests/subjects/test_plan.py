"""The plan: against a second one that walks day by day, by its laws, and what it says, offers, makes and writes."""

import io
import random
from datetime import date

import openpyxl
import pytest
import vobject
from hypothesis import given
from hypothesis import strategies as st

import edits as part_edits
from second_plan import SecondPlan
from wired_union.catalogue.demo import WRITTEN_ON, demo
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered, ripple
from wired_union.picture.shapes import Kit, Text
from wired_union.project.change import with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.file import to_text
from wired_union.project.model import Project
from wired_union.project.plan_model import (
    After,
    Calendar,
    Closed,
    Hand,
    Machine,
    Milestone,
    Person,
    Plan,
    PlanTask,
    Skill,
)
from wired_union.subjects import assess
from wired_union.subjects.plan import edits, feature_edits
from wired_union.subjects.plan.acting import drop_feature
from wired_union.subjects.plan.compare import all_against
from wired_union.subjects.plan.level import best, taken
from wired_union.subjects.plan.make import make_plan, missing_tasks, tidy
from wired_union.subjects.plan.orders import orders
from wired_union.subjects.plan.out import NoPlan, plan_book, plan_calendar, week_data, week_list
from wired_union.subjects.plan.pick import PlanPick
from wired_union.subjects.plan.picture import plan_picture
from wired_union.subjects.plan.read_tasks import read_tasks, take_tasks
from wired_union.subjects.plan.schedule import PLAN, planned

TODAY = WRITTEN_ON  # a Wednesday


@pytest.fixture(scope="module")
def rover() -> Project:
    return demo()


def looked_at(project: Project):
    return assess(project).on(TODAY)


def a_task(
    name: str, hours: float = 8.0, who: tuple[str, ...] = ("ada",), after: tuple[str, ...] = (), **more
) -> PlanTask:
    figures = {
        "least_h": hours / 2,
        "likely_h": hours,
        "most_h": hours * 2,
        "hands": tuple(Hand(person=w) for w in who),
    }
    return PlanTask(id=name, name=name, after=tuple(After(task=a) for a in after), **figures | more)


def a_wait(name: str, days: float = 4.0, **more) -> PlanTask:
    return PlanTask(id=name, name=name, kind="wait", least_days=days / 2, likely_days=days, most_days=days * 2, **more)


def with_tasks(project: Project, *tasks: PlanTask, **plan) -> Project:
    """The demo with other tasks; Ada gives 20 hours a week, Jo 10."""
    people = (
        Person(id="ada", name="Ada", hours_a_week=20.0, skills=(Skill(name="code"),)),
        Person(id="jo", name="Jo", hours_a_week=10.0, skills=(Skill(name="workshop"), Skill(name="code"))),
    )
    plan = {"date": "2026-12-19", "people": people, "machines": (Machine(id="lathe", name="Lathe"),)} | plan
    return with_concept(project.but(plan=Plan(**plan)), plan_tasks=tasks, milestones=(), features=())


@pytest.mark.parametrize("name", ["mudlark", "bat-counter"])
def test_the_demos_day_by_day(name):
    for concept in demo(name).living:
        project = demo(name).but(at_work=concept.id)
        if not concept.plan_tasks:
            continue
        walked, plan = SecondPlan(to_text(project), TODAY), looked_at(project).of(PLAN)
        assert {r.task.id: r.finish for r in plan.rows} == pytest.approx(walked.walk())
        assert plan.slack == pytest.approx(walked.slack(), abs=1e-6)
        assert plan.missing == ()


@st.composite
def plans(draw):
    """Tasks of two people, a machine and deliveries, with links and days off."""
    count = draw(st.integers(2, 7))
    tasks = []
    for n in range(count):
        after = tuple(f"t{b}" for b in range(n) if draw(st.integers(0, 3)) == 0)
        if draw(st.integers(0, 3)) == 0:
            tasks.append(a_wait(f"t{n}", float(draw(st.integers(1, 9))), after=tuple(After(task=a) for a in after)))
        else:
            who = draw(st.sampled_from([("ada",), ("jo",), ("ada", "jo")]))
            machine = draw(st.sampled_from(["", "lathe"]))
            tasks.append(a_task(f"t{n}", float(draw(st.integers(1, 15))), who, after, machine=machine))
    closed = tuple(Closed(first=f"2026-12-{d:02}") for d in draw(st.sets(st.integers(1, 18), max_size=3)))
    return tuple(tasks), closed


@given(plans(), st.integers(0, 10_000))
def test_laws_of_a_plan(made, seed):
    project = with_tasks(demo(), *made[0], calendar=Calendar(closed=made[1]))
    tasks, plan = project.concept.plan_tasks, planned(project, TODAY)
    walked = SecondPlan(to_text(project), TODAY)
    assert {r.task.id: r.finish for r in plan.rows} == pytest.approx(walked.walk())
    if plan.slack >= 0:  # of a late plan no single task need be able to mend it
        assert plan.slack == pytest.approx(walked.slack(), abs=1e-6)
    assert plan.late == pytest.approx(walked.lateness(walked.walk()))
    assert (plan.slack >= -1e-9) == all(r.finish <= plan.deadline + 1e-9 for r in plan.rows)  # fits: none is late
    a, b = sorted(random.Random(seed).sample(range(len(tasks)), 2))
    if tasks[a].id not in {x.task for x in tasks[b].after}:
        assert planned(edits.add_link(project, tasks[b].id, tasks[a].id).after, TODAY).end >= plan.end - 1e-9
    assert planned(edits.remove_task(project, tasks[a].id).after, TODAY).end <= plan.end + 1e-9
    waits = [t for t in tasks if t.kind == "wait"]
    if waits:
        later = edits.set_task(project, waits[0].id, likely_days=waits[0].likely_days + 1.0)
        assert planned(later.after, TODAY).end >= plan.end - 1e-9
    freer = best(project, TODAY, anew=True, tries=60)
    assert planned(taken(project, freer).after, TODAY).late == pytest.approx(freer.answer.late, abs=1e-6)
    assert freer.answer.bound - 1e-9 <= freer.answer.late <= plan.late + 1e-9


def test_a_better_order_is_never_worse(rover):
    """The end of the best that is found is at most that of what stands."""
    for seed in range(6):
        tasks = (a_task("slow", 30.0), a_task("first", 4.0 + seed), a_wait("comes", 9.0, after=(After(task="first"),)),
                 a_task("last", 6.0, after=("comes",)))  # fmt: skip
        project = with_tasks(rover, *tasks)
        found = best(project, TODAY, tries=200)
        after = planned(taken(project, found).after, TODAY)
        assert after.end < planned(project, TODAY).end  # what waits for a delivery comes first
        assert found.answer.late == pytest.approx(after.end - after.deadline)


def test_what_is_not_known_is_named_and_never_holds(rover):
    cases = {
        "who does it": a_task("x", who=()),
        "how long it takes": a_task("x", least_h=None, likely_h=None, most_h=None),
        "least, likely and most in this order": a_task("x").but(least_h=9.0, likely_h=8.0),
        "how many hours are left": a_task("x", spent_h=9.0),
        "when it comes": a_wait("x", 2.0, begun_on="2026-11-01"),
        "not before “soon”": a_task("x", not_before="soon"),
        "done: “yes” is no day": a_task("x", done_on="yes"),
        "is still to come": a_task("x", done_on="2026-11-26"),
    }
    for words, task in cases.items():
        project = with_tasks(rover, task, a_task("y", 2.0))
        seen = looked_at(project)
        assert words in seen.of(PLAN).missing[0], words
        for measure in ("slack", "in-time", "order-by"):
            assert seen.measure(measure).verdict is Verdict.UNKNOWN, (words, measure)
        assert any(f.verdict is Verdict.UNKNOWN and f.subject == "plan" for f in seen.findings)
    assert looked_at(with_tasks(rover, a_task("x"), date="")).measure("slack").value is None
    assert assess(with_tasks(rover, a_task("x"))).measure("slack").missing == ("which day it is",)
    nobody = with_tasks(rover, a_task("x"), people=(Person(id="ada", name="Ada"),))
    assert "Ada's hours a week" in looked_at(nobody).of(PLAN).missing[0]
    never = with_tasks(rover, a_task("x"), people=(Person(id="ada", name="Ada", hours_a_week=0.0),))
    assert "a day on which all who do it are there" in looked_at(never).of(PLAN).missing[0]
    wide = with_tasks(rover, a_task("x", least_h=None))
    assert looked_at(wide).measure("slack").missing == ()
    assert looked_at(wide).measure("in-time").missing == ("x: how little and how much it may take",)
    ring = with_tasks(rover, a_task("x", after=("y",)), a_task("y", after=("x",)))
    assert "ring: x, y" in looked_at(ring).of(PLAN).missing[0]
    long = with_tasks(rover, a_task("x", 50_000.0))
    assert "three years" in looked_at(long).of(PLAN).missing[0]


def test_when_all_is_done_the_days_to_the_date_are_in_hand(rover):
    seen = looked_at(with_tasks(rover, a_task("x", done_on="2026-11-20"), a_wait("y", done_on="2026-11-25")))
    assert seen.measure("slack").value == 24.0
    assert seen.measure("in-time").value == 1.0
    assert seen.of(PLAN).missing == ()
    assert seen.measure("order-by").value == float("inf")


def test_days_off_deliveries_and_progress(rover):
    """Ada gives 4 h on each of five days: 8 h from Wednesday take until Thursday evening."""
    plan = planned(with_tasks(rover, a_task("x")), TODAY)
    assert plan.rows[0].finish == pytest.approx(2.0)
    assert plan.day(plan.rows[0].finish) == date(2026, 11, 26)
    away = edits.close(with_tasks(rover, a_task("x")), "2026-11-26", "2026-11-30", "ill", person="ada").after
    assert planned(away, TODAY).rows[0].finish == pytest.approx(7.0)  # Thursday to Monday away, then Tuesday
    half = edits.set_task(with_tasks(rover, a_task("x")), "x", spent_h=6.0, begun_on="2026-11-20").after
    assert planned(half, TODAY).rows[0].finish == pytest.approx(0.5)
    more = edits.set_task(half, "x", left_h=8.0).after
    assert planned(more, TODAY).rows[0].finish == pytest.approx(2.0)
    done = edits.set_task(half, "x", done_on="2026-11-24").after
    assert planned(done, TODAY).open == ()
    late = with_tasks(rover, a_wait("x", 4.0, begun_on="2026-11-20"), a_task("y", after=("x",)))
    assert planned(late, TODAY).row("x").finish == 1.0  # it should be here: tomorrow at the earliest
    lag = with_tasks(rover, a_task("x", 4.0), a_task("y", 4.0, after=()).but(after=(After(task="x", lag_days=3.0),)))
    assert planned(lag, TODAY).row("y").start == pytest.approx(5.0)  # Saturday is no day: Monday


def test_a_part_moves_the_plan(rover):
    """A delivery takes the days of its part, none where the part is in hand; it goes with its part."""
    axle = next(t for t in rover.concept.plan_tasks if t.id == "radio-comes")
    assert axle.likely_days is None
    slow = part_edits.set_part_value(rover, "radio", "delivery_days", 30.0).after
    assert looked_at(slow).measure("slack").value < -5
    moved = ripple(looked_at(rover), part_edits.set_part_value(rover, "radio", "delivery_days", 30.0))
    assert "Slack" in moved.shown
    owned = part_edits.set_origin(rover, "radio", "owned").after
    assert "radio-comes" in looked_at(owned).of(PLAN).needless
    gone = part_edits.remove_item(rover, "radio").after
    assert looked_at(gone).of(PLAN).row("radio-comes") is None
    unknown = part_edits.set_part_value(rover, "radio", "delivery_days", None).after
    assert "how many days" in looked_at(unknown).measure("slack").missing[0]
    left = tidy(owned, looked_at(owned).of(PLAN).needless).after
    assert looked_at(left).of(PLAN).end == pytest.approx(looked_at(owned).of(PLAN).end)


def test_a_plan_is_made_from_the_project(rover):
    bare = with_concept(rover, plan_tasks=(), milestones=(), features=())
    change = make_plan(bare, TODAY)
    tasks = {t.name: t for t in change.after.concept.plan_tasks}
    assert looked_at(change.after).measure("slack").missing == ()
    assert tasks["Radio sub-GHz comes"].likely_days is None  # by its part
    assert missing_tasks(bare)[0].name.startswith("Test: Do wet wheels slip")  # the riskiest first
    drawn, made = tasks["Draw: Core tube"], tasks["Core tube made"]
    assert [a.task for a in made.after] == [drawn.id]
    assert all(h.person in {"mika", "sol"} for h in drawn.hands)  # who can draw
    assert len(tasks["Assembly"].hands) == 4
    assert change.after.concept.milestones[0].on == "2026-12-12"  # a week before: common practice
    assert not any(t.name.startswith("Gearmotor") for t in tasks.values())  # bought already
    with pytest.raises(ProjectError, match="every task already"):
        make_plan(change.after, TODAY)
    again = edits.remove_task(change.after, made.id).after
    assert len(make_plan(again, TODAY).after.concept.plan_tasks) == len(tasks)


def test_ways_out_are_worked_out_and_help(rover):
    late = edits.set_task(rover, "core-tube-made", least_days=10.0, likely_days=14.0, most_days=20.0).after
    seen = looked_at(late)
    assert seen.measure("slack").verdict is Verdict.BREAKS
    finding = next(f for f in seen.findings if f.check == "slack")
    found = offered(seen, finding)
    assert found
    for remedy, words in found:
        after = looked_at(remedy.change.after)
        assert after.measure("slack").value > seen.measure("slack").value, remedy.label
        assert "day" in words
    way = next(r for r, _ in found if "turn it from stock" in r.label)
    tube = next(i for i in way.change.after.concept.items if i.id == "core-tube")
    assert tube.part.price == pytest.approx(18.0 + 9.0)
    assert looked_at(way.change.after).measure("money").value == pytest.approx(seen.measure("money").value + 9.0)


def test_a_feature_goes_with_its_parts_and_tasks(rover):
    change = drop_feature(rover, "camera-mast")
    assert "mast" not in {i.id for i in change.after.concept.items}
    assert "mast" not in {t.id for t in change.after.concept.plan_tasks}
    moved = ripple(looked_at(rover), change)
    assert "Money −£9" in moved.shown.replace("\u202f", "")
    made = feature_edits.add_feature(rover, "second probe").after
    made = feature_edits.with_part(made, "second-probe", "probe").after
    assert made.concept.features[-1].parts[0].item == "probe"
    assert feature_edits.with_part(made, "second-probe", "probe", False).after.concept.features[-1].parts == ()
    assert part_edits.remove_item(made, "probe").after.concept.features[-1].parts == ()


def test_orders_by_the_day_on_which_each_must_go_out(rover):
    seen = looked_at(rover)
    found = orders(seen)
    plan = seen.of(PLAN)
    assert [o.days // 1 for o in found] == sorted(o.days // 1 for o in found)
    assert seen.measure("order-by").value == pytest.approx(min(o.days for o in found))
    for o in found:
        late = edits.set_task(rover, o.row.task.id, not_before=plan.begins(o.days + 1.01).isoformat()).after
        assert looked_at(late).measure("slack").value < 0  # a day after that it is too late
        good = edits.set_task(rover, o.row.task.id, not_before=plan.begins(o.days).isoformat()).after
        assert looked_at(good).measure("slack").value >= -1e-9
    assert {o.row.task.id for o in found if o.shared} >= {"radio-comes"}
    assert "B skid plate is" in all_against(rover, TODAY)
    assert "C three wheels has no plan yet" in all_against(
        rover.but(concepts=tuple(c.but(retired=None) for c in rover.concepts)), TODAY
    )


def test_milestones_overload_pace_and_risk_are_said(rover):
    busy = with_tasks(rover, a_task("x", 60.0))
    said = {f.check: f for f in looked_at(busy).findings if f.subject == "plan"}
    assert said["overload"].of == "ada"
    assert said["overload"].verdict is Verdict.TIGHT  # 60 h of the 72 h until the date
    finds = looked_at(edits.set_task(busy, "x", most_h=200.0, likely_h=90.0).after).findings
    assert next(f for f in finds if f.check == "overload").verdict is Verdict.BREAKS
    shown = with_concept(busy, milestones=(Milestone(id="m", name="Shown", on="2026-12-01", after=(After(task="x"),)),))
    late = next(f for f in looked_at(shown).findings if f.check == "milestone")
    assert late.verdict is Verdict.BREAKS
    assert looked_at(shown).measure("slack").value < looked_at(busy).measure("slack").value - 10  # it presses
    assert len(offered(looked_at(shown), late)) >= 3  # three ways out
    done = tuple(a_task(f"d{n}", 4.0, done_on="2026-11-20", spent_h=6.4) for n in range(3))
    slow = with_tasks(rover, *done, a_task("x", 20.0))
    pace = next(f for f in looked_at(slow).findings if f.check == "own-pace")
    assert "1.6 times" in pace.what
    counted = pace.remedies[0].change.after
    assert planned(counted, TODAY).end == pytest.approx(
        planned(edits.set_task(slow, "x", most_h=40.0, likely_h=32.0).after, TODAY).end
    )
    assert "riskiest" in {f.check for f in looked_at(rover).findings}
    last = edits.set_task(rover, "wheels-on-the-bank", not_before="2026-12-16").after
    assert next(f for f in looked_at(last).findings if f.check == "riskiest").verdict is Verdict.BREAKS


def test_edits_refuse_what_makes_no_sense(rover):
    project = with_tasks(rover, a_task("x"), a_task("y", after=("x",)), a_wait("z"))
    for edit, words in [
        (lambda: edits.add_link(project, "x", "y"), "wait for each other"),
        (lambda: edits.set_task(project, "x", likely_h=1.0), "in this order"),
        (lambda: edits.set_task(project, "x", due="soon"), "no day"),
        (lambda: edits.set_task(project, "x", likely_h=-1.0), "must be 0 or more"),
        (lambda: edits.give_task(project, "x", ["nobody"]), "no person"),
        (lambda: edits.split_task(project, "z"), "can not be split"),
        (lambda: edits.close(project, "2026-12-05", "2026-12-01"), "before the first"),
        (lambda: edits.set_machine(project, "lathe", hours_a_day=30.0), "at most 24"),
        (lambda: edits.read_way("buy it"), "Write it like"),
        (
            lambda: edits.add_way(project, "z", name="a", least_days=3.0, likely_days=2.0, most_days=1.0),
            "in this order",
        ),
        (lambda: edits.take_way(project, "z", 0), "no such way"),
    ]:
        with pytest.raises(ProjectError, match=words):
            edit()
    bridged = edits.remove_task(
        with_tasks(rover, a_task("x"), a_task("y", after=("x",)), a_task("w", after=("y",))), "y"
    ).after
    assert [a.task for a in bridged.concept.plan_tasks[-1].after] == ["x"]
    halves = edits.split_task(project, "x").after.concept.plan_tasks
    assert [t.likely_h for t in halves[:2]] == [4.0, 4.0]
    assert [a.task for a in halves[2].after] == ["x", "x-2nd-half"]
    left = edits.remove_person(project, "ada").after
    assert left.concept.plan_tasks[0].hands == ()
    assert (
        edits.remove_machine(with_tasks(rover, a_task("x", machine="lathe")), "lathe")
        .after.concept.plan_tasks[0]
        .machine
        == ""
    )
    assert edits.set_skills(project, "ada", "Code, welding, code").after.plan.people[0].skills[1].name == "welding"
    assert edits.reach(project, "x", 1.5).after.concept.plan_tasks[0].likely_h == 12.0
    assert edits.reopen(edits.close(project, "2026-12-05").after, Closed(first="2026-12-05")).after == project
    assert edits.set_worked(project, ["Sat", "Mon"]).after.plan.calendar.worked == ("Mon", "Sat")
    assert [t.id for t in edits.move_task(project, "z", 0).after.concept.plan_tasks] == ["z", "x", "y"]


def test_the_calendar_is_read_by_another_reader(rover):
    seen = looked_at(rover)
    whole = vobject.readOne(plan_calendar(seen).decode())
    events = {e.summary.value: e for e in whole.vevent_list}
    assert events["the tide trial"].dtstart.value == date(2026, 12, 19)
    assert events["Gearmotors come"].dtstart.value == date(2026, 11, 25)
    assert events["Gearmotors come"].dtend.value == date(2026, 12, 3)  # until the evening of the 2nd
    theirs = {e.summary.value for e in vobject.readOne(plan_calendar(seen, "ada").decode()).vevent_list}
    assert theirs == {"Program: drive and bump", "Program: radio and log", "First drive on the mat", "Assembly",
                      "It drives", "the tide trial"}  # fmt: skip
    with pytest.raises(NoPlan):
        plan_calendar(assess(rover))


def test_the_workbook_and_the_week(rover):
    seen = looked_at(rover)
    book = openpyxl.load_workbook(io.BytesIO(plan_book(seen)))
    rows = list(book["Plan"].iter_rows(values_only=True))
    deck = next(r for r in rows if r[0] == "Deck cut and drilled")
    assert deck[2:5] == ("Mika", "2026-11-25", "2026-11-26")
    assert {r[0] for r in list(book["Orders"].iter_rows(values_only=True))[1:]} == {
        o.row.task.name for o in orders(seen)
    }
    data = week_data(seen)
    assert {g["who"] for g in data["groups"]} == {"Mika", "Jo", "Sol", "Ada", "Comes, or is waited for"}
    pdf = week_list(seen)
    assert pdf.startswith(b"%PDF")
    many = with_tasks(rover, *(a_task(f"a task of {n} with a name that is long", 0.5) for n in range(90)))
    assert week_list(looked_at(many)).count(b"/Type/Page\n") + week_list(looked_at(many)).count(b"/Type /Page\n") <= 1
    hostile = edits.set_task(rover, "deck", name="=cmd|' /C calc'!A0").after
    assert plan_book(looked_at(hostile))


def test_tasks_from_a_sheet_say_what_is_wrong(rover):
    text = ("task;who;least;likely;most;in;after;due;colour\nCut;Ada;1;2 h;4;h;;2026-12-01;red\nComes;;2;3;5;days;;;\n"
            "Fit;Ada, Jo;2;3;1;h;Cut;;\nGlue;Zoe;1;2;3;h;;;\nLast;Jo;1;2;3;h;Cut; soon ;\nSand;Jo;x;2;3;h;Nothing;;\n;Jo;1;2;3;h;;;\n")  # fmt: skip
    project = with_tasks(rover)
    read = read_tasks(project, text)
    assert read.left_out == ("colour",)
    assert [bool(r.wrong) for r in read.rows] == [False, False, True, True, True, True, True]
    wrong = {r.name: " ".join(r.wrong) for r in read.rows}
    assert "in this order" in wrong["Fit"]
    assert "nobody is called “Zoe”" in wrong["Glue"]
    assert "no day" in wrong["Last"]
    assert "not a number" in wrong["Sand"]
    assert "neither here nor in the plan" in wrong["Sand"]
    after = take_tasks(project, read, TODAY).after.concept.plan_tasks
    assert [(t.name, t.kind, t.likely_h, t.likely_days) for t in after] == [
        ("Cut", "work", 2.0, None),
        ("Comes", "wait", None, 3.0),
    ]
    with pytest.raises(ProjectError, match="No column is called task"):
        read_tasks(project, "colour;size\nred;3")
    with pytest.raises(ProjectError, match="ring"):
        take_tasks(project, read_tasks(project, "task,likely,after\na,2,b\nb,2,a\n"), TODAY)


def test_the_rope_is_straight_where_no_day_is_left(rover):
    kit = Kit()
    plan = planned(rover, TODAY)
    picture = plan_picture(plan, rover, kit, 900.0, PlanPick())
    named = [s.text for s in picture.shapes if isinstance(s, Text)]
    assert {"today", "the tide trial", "Gearmotors come"} <= set(named)
    assert {r.id for r in picture.regions} >= {"task deck", "end deck", "person mika"}
    shown = {r.task.id for r in plan.open} - set(plan.needless)
    assert {r.id for r in picture.regions if r.id.startswith("task ")} == {f"task {t}" for t in shown}
    late = edits.set_task(rover, "core-tube-made", least_days=10.0, likely_days=14.0, most_days=20.0).after
    words = [
        s.text for s in plan_picture(planned(late, TODAY), late, kit, 900.0, PlanPick()).shapes if isinstance(s, Text)
    ]
    assert any(w.endswith("late") for w in words)
    assert (
        "No task yet"
        in plan_picture(planned(with_tasks(rover), TODAY), with_tasks(rover), kit, 900.0, PlanPick()).shapes[0].text
    )


def test_a_demo_is_as_if_it_had_been_made_for_the_day():
    """Its days move with the day on which it is opened; how it stands stays, but for where the week-ends lie."""
    later = demo("mudlark", "2027-01-06")  # six weeks on, a Wednesday too
    assert later.plan.date == "2027-01-30"
    there = assess(later).on("2027-01-06").measure("slack").value
    assert there == pytest.approx(looked_at(demo()).measure("slack").value)
    assert demo("mudlark", TODAY) == demo()
