"""Lanes as value changes, messages as a table, measured runs read: written out and read in again."""

import csv
import io

import pytest
from vcd.reader import TokenKind, tokenize

from wired_union.project.errors import ProjectError
from wired_union.subjects import assess
from wired_union.subjects.timing.buses import BUSES
from wired_union.subjects.timing.files import lanes_vcd, messages_csv, read_runs, take_runs
from wired_union.subjects.timing.lanes import lanes_of
from wired_union.subjects.timing.tasks import TASKS


def test_lanes_are_value_changes_that_a_reader_adds_up_to_the_same_runs(mudlark_assessed):
    """Read by pyvcd's own reader: each task is 1 for as long as it runs, to a microsecond for each stretch."""
    (result,) = mudlark_assessed.of(TASKS)
    lanes = lanes_of(result)
    names, ones, since, now = {}, {}, {}, 0
    for token in tokenize(io.BytesIO(lanes_vcd(lanes, "Controller").encode())):
        if token.kind is TokenKind.VAR:
            names[token.var.id_code] = token.var.reference
        elif token.kind is TokenKind.CHANGE_TIME:
            now = token.time_change
        elif token.kind is TokenKind.CHANGE_SCALAR and token.scalar_change.value == "1":
            since[token.scalar_change.id_code] = now
        elif token.kind is TokenKind.CHANGE_SCALAR and token.scalar_change.id_code in since:
            code = token.scalar_change.id_code
            ones[names[code]] = ones.get(names[code], 0) + now - since.pop(code)
    for n, task in enumerate(lanes.tasks):
        ran = [s for s in lanes.run.stretches if s.task == n]
        seen = sum(v for name, v in ones.items() if name.endswith(f"_{n}"))
        assert seen == pytest.approx(sum(s.end_s - s.start_s for s in ran) * 1e6, abs=1.0 * len(ran)), task.name


def test_messages_are_a_table(mudlark_assessed):
    rows = list(csv.DictReader(io.StringIO(messages_csv(mudlark_assessed.of(BUSES)))))
    speeds = next(r for r in rows if r["message"] == "Speeds")
    assert (speeds["bus"], float(speeds["on_wire_s"])) == ("To the driver", pytest.approx(120 / 19200))
    assert len(rows) == len(mudlark_assessed.project.concept.messages)


@pytest.mark.parametrize("table", [
    "task,start,stop\nControl,0.0,0.0031\ncontrol,10 ms,14.8 ms\nLog,1,1.006\n",
    "\ufeffrun , task\n3.1 ms,Control\n4.8 ms,Control\n6 ms,Log\n",
])  # fmt: skip
def test_measured_runs_take_the_place_of_guesses(mudlark, table):
    change = take_runs(mudlark, read_runs(table, mudlark.concept.tasks))
    control = next(t for t in change.after.concept.tasks if t.id == "control")
    assert (control.least_s, control.most_s) == (pytest.approx(3.1e-3), pytest.approx(4.8e-3))
    assert control.known == "measured"
    before, after = (assess(p).of(TASKS)[0].of("control").response_s for p in (mudlark, change.after))
    assert after == pytest.approx(before + 0.6e-3, abs=1e-4)
    assert next(t for t in change.after.concept.tasks if t.id == "radio").known == "guess"


@pytest.mark.parametrize(("table", "says"), [
    ("a,b\n1,2\n", "needs the columns task"), ("", "needs the columns task"), ("task,run\nSteer,1\n", "no task “Steer”"),
    ("task,run\nControl,soon\n", "Line 2: “soon” is no time"), ("task,start,stop\nControl,2,1\n", "before it starts"),
    ("task,run\n", "no run in the table"), ("task,run\nControl\n", "is no time"),
])  # fmt: skip
def test_a_table_that_cannot_be_read_says_why(mudlark, table, says):
    with pytest.raises(ProjectError, match=says):
        take_runs(mudlark, read_runs(table, mudlark.concept.tasks))
