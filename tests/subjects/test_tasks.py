"""Tasks of processors and messages of buses in whole projects: verdicts, gaps, remedies, chains that pass through them."""

import math

import pytest

from builders import a_chain, a_limit, a_project, plain
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered, outcome, ripple
from wired_union.project.errors import ProjectError
from wired_union.project.timing_model import Bus, Event, Message, MessageStage, Processor, Task, TaskStage
from wired_union.subjects import assess
from wired_union.subjects.timing import edits_shared as edits
from wired_union.subjects.timing.buses import BUSES
from wired_union.subjects.timing.lanes import lanes_of, room_left, worst_seen
from wired_union.subjects.timing.tasks import TASKS

MS = 1e-3


def running(way="pre-emptive", *tasks, cores=1):
    """A processor, and tasks as (name, period, longest run, more figures)."""
    made = tuple(
        Task(id=name, name=name.title(), processor="p", period_s=period, most_s=most, **{"priority": n, **more})
        for n, (name, period, most, more) in enumerate(tasks, 1)
    )
    project = a_project()
    concept = project.concept.but(processors=(Processor(id="p", name="Board", way=way, cores=cores),), tasks=made)
    return project.but(concepts=(concept,))


def of(project):
    (found,) = assess(project).of(TASKS)
    return found


def mended(project, check, of_id):
    """Labels of what is offered for a finding, each with the verdict of the task or message after it."""
    assessed = assess(project)
    finding = next(f for f in assessed.findings if f.check == check and f.of == of_id)
    found = {}
    for remedy in finding.remedies:
        told = outcome(assessed, ripple(assessed, remedy.change), finding)
        if told.helps:
            found[plain(remedy.label)] = assess(remedy.change.after)
    return found


SLOW_ABOVE = (("log", 100 * MS, 30 * MS, {}), ("control", 20 * MS, 5 * MS, {}))


def test_an_urgent_task_that_is_numbered_last_is_late_and_an_order_mends_it():
    project = running("pre-emptive", *SLOW_ABOVE)
    late = of(project).of("control")
    assert (late.response_s, late.verdict) == (pytest.approx(35 * MS), Verdict.BREAKS)
    after = mended(project, "task", "control")["the order Control, Log"]
    assert all(t.verdict is Verdict.HOLDS for t in after.of(TASKS)[0].tasks)
    assert after.of(TASKS)[0].of("log").response_s == pytest.approx(40 * MS)


@pytest.mark.parametrize(("way", "response"), [("pre-emptive", 5 * MS), ("each run finished first", 35 * MS),
                                               ("plain loop", 40 * MS)])  # fmt: skip
def test_the_way_it_runs_decides_what_an_urgent_task_waits_for(way, response):
    """At once; after the longest run below; after a whole pass and itself."""
    project = running(way, ("control", 20 * MS, 5 * MS, {}), ("log", 100 * MS, 30 * MS, {}))
    assert of(project).of("control").response_s == pytest.approx(response)


def test_a_wait_in_a_loop_is_named_for_what_it_does_to_all():
    project = running("plain loop", ("buttons", 50 * MS, 1 * MS, {}), ("sweep", 2.0, 2 * MS, {"waits_s": 0.5}))
    finding = next(f for f in assess(project).findings if f.of == "buttons")
    assert finding.verdict is Verdict.BREAKS
    assert "“Sweep” sits in a wait of 500 ms: everything else waits with it." in plain(finding.why)
    assert of(project).pass_s == pytest.approx(0.503)
    assert of(project).load == pytest.approx(1 / 50 + 0.502 / 2)
    after = mended(project, "task", "buttons")["no wait in “Sweep”: look at the clock, and go on"]
    assert after.of(TASKS)[0].of("buttons").response_s == pytest.approx(4 * MS)
    free = running("pre-emptive", ("sweep", 2.0, 2 * MS, {"waits_s": 0.5}), ("buttons", 50 * MS, 1 * MS, {}))
    (said,) = (f for f in assess(free).findings if f.of == "buttons")  # late only if the wait keeps the processor
    assert (said.verdict, said.title) == (Verdict.UNKNOWN, "Buttons may be late")


def test_a_run_that_nobody_knows_leaves_itself_and_all_below_unknown():
    project = running("pre-emptive", ("a", 10 * MS, 1 * MS, {}), ("b", 20 * MS, None, {}), ("c", 50 * MS, 5 * MS, {}))
    found = of(project)
    assert [t.verdict for t in found.tasks] == [Verdict.HOLDS, Verdict.UNKNOWN, Verdict.UNKNOWN]
    assert found.missing == ("B: its longest run",)
    assert found.load is None
    loop = of(edits.set_processor(project, value_id="p", way="plain loop").after)
    assert {t.verdict for t in loop.tasks} == {Verdict.UNKNOWN}
    full = running("pre-emptive", ("a", 10 * MS, 11 * MS, {}), ("b", 20 * MS, None, {}))
    assert of(full).of("a").verdict is Verdict.BREAKS  # whatever the other takes
    assert of(running("pre-emptive")).missing == ("Board: its tasks",)
    nowhere = of(running("pre-emptive", ("a", 10 * MS, 1 * MS, {"core": 2})))
    assert nowhere.missing == ("A: a core of Board that there is",)


def test_tasks_alike_may_each_wait_for_the_other_and_cores_for_none():
    alike = running("pre-emptive", ("a", 10 * MS, 4 * MS, {"priority": 3}), ("b", 10 * MS, 4 * MS, {"priority": 3}))
    assert [t.response_s for t in of(alike).tasks] == pytest.approx([8 * MS, 8 * MS])
    apart = running("pre-emptive", ("a", 10 * MS, 4 * MS, {}), ("b", 10 * MS, 8 * MS, {"core": 2}), cores=2)
    assert [t.response_s for t in of(apart).tasks] == pytest.approx([4 * MS, 8 * MS])
    assert of(apart).load == pytest.approx(0.8)


def test_what_still_fits_fits_and_the_lanes_never_run_past_the_bound():
    for way in ("pre-emptive", "each run finished first", "plain loop"):
        project = running(way, ("a", 10 * MS, 1 * MS, {}), ("b", 20 * MS, 3 * MS, {}), ("c", 60 * MS, 2 * MS, {}))
        found, room = of(project), room_left(of(project))
        assert room.run_s > 0
        for share, late in ((0.99, False), (1.02, True)):
            place = [t.task.name for t in found.tasks].index(room.below) if room.below else -1
            wide = edits.order_tasks(project, ["a", "b", "c"]).after
            tasks = tuple(t.but(priority=10 * t.priority) for t in wide.concept.tasks)
            wide = wide.but(concepts=(wide.concept.but(tasks=tasks),))
            more = edits.add_task(wide, "More", "p", period_s=room.period_s, most_s=room.run_s * share,
                                  priority=10 * (place + 1) + 5).after  # fmt: skip
            assert any(t.response_s > t.deadline_s for t in of(more).tasks) == late, (way, share)
        lanes = lanes_of(found, 2.0)
        for n, t in enumerate(found.tasks):
            assert 0 < lanes.run.worst_s(n) <= t.response_s + 1e-9


def test_a_chain_goes_through_a_task_and_a_message():
    """Event, once a period and the response; sent at once, each other message of its bus before it once."""
    project = running("pre-emptive", ("control", 20 * MS, 5 * MS, {"least_s": 1 * MS}))
    buses = (Bus(id="bus", name="Bus", kind="spi", clock_hz=1e6),)
    messages = (Message(id="m", name="M", bus="bus", bytes=125), Message(id="n", name="N", bus="bus", bytes=250))
    stages = (Event(name="e", least_s=0.0, most_s=1 * MS), TaskStage(name="t", task="control"),
              MessageStage(name="m", message="m"))  # fmt: skip
    concept = project.concept.but(buses=buses, messages=messages, chains=(a_chain(*stages),))
    project = project.but(concepts=(concept,), brief=project.brief.but(limits=(a_limit("chain:bump", 0.02),)))
    chain = assess(project).measure("chain:bump")
    assert chain.value == pytest.approx((1 + 20 + 5 + 1 + 2) * MS)
    assert chain.low == pytest.approx((1 + 1) * MS)
    faster = edits.set_task(project, "control", period_s=10 * MS).after
    assert assess(faster).measure("chain:bump").value == pytest.approx(19 * MS)
    does = mended(project, "chain", "bump")
    assert "start “Control” at once, by an interrupt" in does
    gone = edits.remove_task(project, value_id="control").after
    assert gone.concept.chains[0].stages[1].task == ""
    assert assess(gone).measure("chain:bump").missing == ("t: which task it is",)
    bare = edits.remove_bus(edits.remove_processor(project, value_id="p").after, value_id="bus").after
    assert (bare.concept.tasks, bare.concept.messages) == ((), ())
    assert assess(bare).measure("chain:bump").missing == ("t: which task it is", "m: which message it is")


def wired(kind, *messages, clock_hz=9600.0, tasks=(), **bus):
    project = running("pre-emptive", *tasks)
    made = tuple(Message(id=name, name=name.title(), bus="bus", **figures) for name, figures in messages)
    concept = project.concept.but(
        buses=(Bus(id="bus", name="Bus", kind=kind, clock_hz=clock_hz, **bus),), messages=made
    )
    return project.but(concepts=(concept,))


def test_a_line_that_is_too_slow_for_its_sentences_is_late_and_a_faster_one_mends_it():
    """Two sentences of 82 bytes take 171 ms at 9600 baud: five a second do not go (NMEA 0183's longest, from memory)."""
    project = wired("uart", ("fix", {"bytes": 82, "transfers": 2, "every_s": 0.1}))
    (bus,) = assess(project).of(BUSES)
    assert bus.share == pytest.approx(1.708, abs=1e-3)
    assert math.isinf(bus.messages[0].response_s)
    does = mended(project, "message", "fix")
    assert does["Bus at 19200 baud"].of(BUSES)[0].messages[0].response_s == pytest.approx(85.4 * MS, abs=1e-4)


def test_bytes_are_lost_where_the_reader_comes_too_late_for_the_buffer():
    """1.042 ms a byte: in 100 ms and 5 ms of response 101 bytes come; 64 are kept."""
    reader = ("parse", 100 * MS, 5 * MS, {})
    project = wired("uart", ("fix", {"bytes": 82, "transfers": 2, "every_s": 0.5, "read_by": "parse"}),
                    tasks=(reader,), buffer_bytes=64)  # fmt: skip
    overrun = assess(project).of(BUSES)[0].messages[0].overrun
    assert (overrun.needed, overrun.given, overrun.verdict) == (101, 64, Verdict.BREAKS)
    does = mended(project, "overrun", "fix")
    assert "a buffer of 128 bytes" in does
    assert any("every" in label for label in does)
    unknown = edits.set_bus(project, value_id="bus", buffer_bytes=None).after
    (bus,) = assess(unknown).of(BUSES)
    assert bus.missing == ("Bus: the bytes that its receiver keeps",)
    assert bus.messages[0].verdict is Verdict.UNKNOWN


def test_messages_of_a_bus_of_priorities_are_put_in_order():
    slow = ("slow", {"bytes": 8, "every_s": 0.1, "priority": 1})
    quick = ("quick", {"bytes": 8, "every_s": 2.3 * MS, "priority": 2, "deadline_s": 2 * MS})
    project = wired("can", slow, quick, ("long", {"bytes": 8, "every_s": 0.05, "priority": 3}), clock_hz=125e3)
    bus = assess(project).of(BUSES)[0]
    frame = 135 / 125e3
    assert bus.of("quick").response_s == pytest.approx(3 * frame)  # one that is on its way, the one above, itself
    does = mended(project, "message", "quick")
    assert any("order Quick" in label for label in does) or any("Bus at" in label for label in does)
    split = wired("can", ("big", {"bytes": 20, "every_s": 0.1}), clock_hz=125e3)
    assert assess(split).of(BUSES)[0].messages[0].response_s == pytest.approx(3 * frame)


def test_edits_refuse_what_cannot_be():
    project = running("pre-emptive", ("a", 10 * MS, 1 * MS, {}))
    with pytest.raises(ProjectError, match="shortest run is above its longest"):
        edits.set_task(project, "a", least_s=2 * MS)
    with pytest.raises(ProjectError, match="There is no processor “q”"):
        edits.add_task(project, "B", "q")
    with pytest.raises(ProjectError, match="A: period must be above 0"):
        edits.set_task(project, "a", period_s=-1.0)
    assert edits.add_task(project, "B", "p").after.concept.tasks[-1].priority == 2


@pytest.mark.parametrize("way", ["pre-emptive", "each run finished first", "plain loop"])
@pytest.mark.parametrize("seed", [1, 2, 3])
def test_what_is_seen_in_a_run_at_random_stays_below_what_is_worked_out(way, seed):
    project = running(way, ("edges", 5 * MS, 0.4 * MS, {"interrupt": True}), ("a", 40 * MS, 6 * MS, {"jitter_s": 2 * MS}),
                      ("b", 60 * MS, 9 * MS, {"least_s": 2 * MS}), ("c", 150 * MS, 12 * MS, {}))  # fmt: skip
    found = of(project)
    seen = worst_seen(found, 20.0, seed)
    for t in found.tasks:
        assert 0.2 * t.response_s < seen[t.task.id] <= t.response_s + 1e-9, t.task.name


@pytest.mark.parametrize(("measure", "most"), [("load:controller", 0.5), ("bus:position", 0.5)])
def test_a_limit_on_a_load_or_a_share_is_offered_what_eases_it(mudlark, measure, most):
    brief = mudlark.brief.but(limits=(*mudlark.brief.limits, a_limit(measure, most)))
    limited = mudlark.but(brief=brief)
    before = assess(limited)
    finding = next(f for f in before.findings if f.measure == measure and f.of_limit)
    told = offered(before, finding)
    assert told
    for remedy, _ in told:
        assert assess(remedy.change.after).measure(measure).value < before.measure(measure).value
