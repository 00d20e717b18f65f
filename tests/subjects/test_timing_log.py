"""Logs laid over what was planned: what the plan makes fits it, what does not is found where it was put in."""

import pytest

from wired_union.project.errors import ProjectError
from wired_union.subjects.timing.files import lanes_vcd
from wired_union.subjects.timing.lanes import lanes_of
from wired_union.subjects.timing.log import Log, laid_over, log_words, read_log, within
from wired_union.subjects.timing.tasks import TASKS


def read(path, tasks) -> Log:
    *_, log = read_log(path, tasks)
    assert isinstance(log, Log)
    return log


@pytest.fixture
def planned(mudlark_assessed):
    (result,) = mudlark_assessed.of(TASKS)
    return result, [t.task for t in result.tasks]


def table(tmp_path, rows):
    path = tmp_path / "log.csv"
    path.write_text("task,start,stop\n" + "".join(f"{t},{a},{b}\n" for t, a, b in rows))
    return path


def test_what_was_planned_fits_itself_as_table_and_as_vcd(planned, tmp_path):
    result, tasks = planned
    rows = [("Control", 5 + 0.02 * k, 5 + 0.02 * k + 0.004) for k in range(200)]
    log = read(table(tmp_path, [*rows, ("Somebody else", 0, 1)]), tasks)
    (laid,) = laid_over(result, log)
    assert (laid.runs, laid.fits, laid.lost) == (200, True, 0)
    assert sum(within(log, "control", 0.05), ()) == pytest.approx((0.0, 0.004, 0.02, 0.024, 0.04, 0.044))
    assert "all as planned" in log_words(log, [laid])
    path = tmp_path / "lanes.vcd"
    path.write_text(lanes_vcd(lanes_of(result), "Controller"))
    again = read(path, tasks)
    assert len(again.runs) == len(tasks)
    assert all(x.too_long == 0 for x in laid_over(result, again))


def test_a_run_too_long_and_starts_that_never_came_are_found(planned, tmp_path):
    """4.2 ms are planned; one takes 4.9 ms at 1.0 s, and three starts after 2 s are missing."""
    result, tasks = planned
    rows = [
        ("control", 0.02 * k, 0.02 * k + (0.0049 if k == 50 else 0.0035))
        for k in range(300)
        if k not in {101, 102, 103}
    ]
    log = read(table(tmp_path, rows), tasks)
    (laid,) = laid_over(result, log)
    assert (laid.too_long, laid.first_long_s, laid.longest_s) == (1, pytest.approx(1.0), pytest.approx(0.0049))
    assert (laid.late, laid.lost, laid.first_late_s) == (1, 3, pytest.approx(2.08))
    words = log_words(log, [laid]).replace("\u202f", " ")
    assert "Control ran up to 4.9 ms of 4.2 ms, first too long at 1 s" in words
    assert "3 starts never came" in words


@pytest.mark.parametrize(("text", "says"), [
    ("", "needs the columns"), ("task,start\n", "needs the columns"), ("task,start,stop\nControl,1\n", "Line 2 is cut short"),
    ("task,start,stop\nControl,2,1\n", "before it starts"), ("task,start,stop\nControl,x,1\n", "is no time"),
    ("task,start,stop\nControl,nan,1\n", "is no time"), ("task,start,stop\nOther,0,1\n", "no run of a task"),
])  # fmt: skip
def test_a_log_that_cannot_be_read_says_why(planned, tmp_path, text, says):
    path = tmp_path / "log.csv"
    path.write_text(text)
    with pytest.raises(ProjectError, match=says):
        read(path, planned[1])


@pytest.mark.parametrize("text", ["$timescale 1 us $end", "nonsense", "$var wire 1 ! Control_1 $end #0 1! #x"])
def test_a_vcd_that_is_none_says_so(planned, tmp_path, text):
    path = tmp_path / "log.vcd"
    path.write_text(text)
    with pytest.raises(ProjectError):
        read(path, planned[1])
