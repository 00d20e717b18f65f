"""A log of what really ran, laid over what was planned: runs that are too long, starts that came late or never."""

import csv
import itertools
import math
from array import array
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from wired_union.physics.battery import Array
from wired_union.project.errors import ProjectError
from wired_union.project.timing_model import Task
from wired_union.subjects.timing.files import seconds_of, wire_name
from wired_union.subjects.timing.tasks import ProcessorResult, TaskResult
from wired_union.units import show

AT_A_TIME = 50_000
SPARE = 1e-6
"""A microsecond more is no violation: clocks are no better."""


class Log(Struct, frozen=True):
    """Starts and stops of each task by its id, in order, from the first start of all; shape (runs, 2), seconds."""

    runs: Mapping[str, Array]
    count: int


class Laid(Struct, frozen=True):
    """A task as the log has it beside what was worked out."""

    task: Task
    runs: int
    longest_s: float
    too_long: int
    first_long_s: float | None
    widest_s: float
    """from one start to the next"""
    late: int
    first_late_s: float | None
    lost: int
    """starts that never came"""

    @property
    def fits(self) -> bool:
        return not (self.too_long or self.late)


def read_log(path: Path, tasks: Sequence[Task]) -> Iterator[int | Log]:
    """Rows read so far, now and then, and at last the log. A table with task, start, stop; or VCD with a wire each.

    Raises ProjectError, with the line, for what cannot be read; OSError where the file cannot.
    """
    found: dict[str, array[float]] = {}
    rows = _vcd(path, tasks) if path.suffix.lower() == ".vcd" else _table(path, tasks)
    for number, (task, start, stop) in enumerate(rows, 1):
        runs = found.get(task)
        if runs is None:
            runs = found[task] = array("d")
        runs.append(start)
        runs.append(stop)
        if number % AT_A_TIME == 0:
            yield number
    if not found:
        raise ProjectError("The log has no run of a task of this processor.")
    sorted_runs = {task: _in_order(runs) for task, runs in found.items()}
    first = min(float(runs[0, 0]) for runs in sorted_runs.values())
    yield Log({task: runs - first for task, runs in sorted_runs.items()}, sum(map(len, sorted_runs.values())))


def _in_order(runs: "array[float]") -> Array:
    """Starts and stops by their starts; shape (runs, 2)."""
    whole = np.frombuffer(runs).reshape(-1, 2)
    found: Array = whole[np.lexsort((whole[:, 1], whole[:, 0]))]
    return found


def _table(path: Path, tasks: Sequence[Task]) -> Iterator[tuple[str, float, float]]:
    known = {t.name.lower(): t.id for t in tasks} | {t.id.lower(): t.id for t in tasks}
    known |= {t.name: t.id for t in tasks if known[t.name.lower()] == t.id}  # as they are mostly written
    with path.open(encoding="utf-8-sig", errors="replace", newline="") as file:
        rows = csv.reader(file)
        head = [c.strip().lower() for c in next(rows, [])]
        if not {"task", "start", "stop"} <= set(head):
            raise ProjectError("The log needs the columns task, start and stop, named in its first line.")
        at, begins, ends = head.index("task"), head.index("start"), head.index("stop")
        for number, row in enumerate(rows, 2):
            if len(row) < len(head):
                raise ProjectError(f"Line {number} is cut short.")
            task = known.get(row[at]) or known.get(row[at].strip().lower())
            if task is None:
                continue  # other tasks, of which nothing was planned
            try:  # plain seconds, as almost all are
                start, stop = float(row[begins]), float(row[ends])
            except ValueError:
                start, stop = _second(row[begins], number), _second(row[ends], number)
            if not (math.isfinite(start) and math.isfinite(stop)):
                start, stop = _second(row[begins], number), _second(row[ends], number)  # says which is none
            if not stop >= start:
                raise ProjectError(f"Line {number}: it stops before it starts.")
            yield task, start, stop


def _second(text: str, number: int) -> float:
    try:
        value = float(text)
    except ValueError:
        return seconds_of(text, number)
    if not math.isfinite(value):
        raise ProjectError(f"Line {number}: “{text}” is no time.")
    return value


def _vcd(path: Path, tasks: Sequence[Task]) -> Iterator[tuple[str, float, float]]:
    """Wires that are called as a task is, 1 while it runs."""
    from vcd.reader import TokenKind, VCDParseError, tokenize  # only where one is read

    wires = {wire_name(t.name).lower(): t.id for t in tasks}
    codes: dict[str, str] = {}
    since: dict[str, int] = {}
    now, tick = 0, 1e-9
    with path.open("rb") as file:
        try:
            for token in tokenize(file):
                if token.kind is TokenKind.TIMESCALE:
                    tick = (
                        float(token.timescale.magnitude)
                        * _TICKS[str(getattr(token.timescale.unit, "value", token.timescale.unit))]
                    )
                elif token.kind is TokenKind.VAR:
                    name = token.var.reference.lower()
                    task = wires.get(name) or wires.get(name.rpartition("_")[0])
                    if task:
                        codes[token.var.id_code] = task
                elif token.kind is TokenKind.CHANGE_TIME:
                    now = token.time_change
                elif token.kind is TokenKind.CHANGE_SCALAR and token.scalar_change.id_code in codes:
                    code = token.scalar_change.id_code
                    if token.scalar_change.value == "1":
                        since.setdefault(code, now)
                    elif code in since:
                        yield codes[code], since.pop(code) * tick, now * tick
        except VCDParseError as error:
            raise ProjectError(f"The VCD cannot be read: {error}.") from error


_TICKS = {"s": 1.0, "ms": 1e-3, "us": 1e-6, "ns": 1e-9, "ps": 1e-12, "fs": 1e-15}


def laid_over(result: ProcessorResult, log: Log) -> list[Laid]:
    """Each task of the log against its planned run, and its period with the response that it may have."""
    return [_laid(t, log.runs[t.task.id]) for t in result.tasks if t.task.id in log.runs]


def _laid(result: TaskResult, runs: Array) -> Laid:
    task = result.task
    long = runs[:, 1] - runs[:, 0]
    gaps = np.diff(runs[:, 0])
    too_long = long > (task.most_s or math.inf) + task.waits_s + SPARE
    room = result.response_s if result.response_s is not None and math.isfinite(result.response_s) else task.period_s
    late = gaps > task.period_s + room + SPARE if not task.interrupt else np.zeros(len(gaps), dtype=bool)
    lost = int(np.maximum(np.round(gaps[late] / task.period_s) - 1, 0).sum())
    return Laid(task, len(runs), float(long.max()), int(too_long.sum()), _first(runs[:, 0], too_long),
                float(gaps.max()) if len(gaps) else 0.0, int(late.sum()), _first(runs[1:, 0], late), lost)  # fmt: skip


def _first(times: Array, where: NDArray[np.bool_]) -> float | None:
    hit = np.flatnonzero(where)
    return float(times[hit[0]]) if len(hit) else None


def log_words(log: Log, laid: Sequence[Laid]) -> str:
    """What of the log is not as planned; the first of each."""
    told = []
    for x in laid:
        if x.too_long:
            most = show(x.task.most_s, "s")
            told.append(f"{x.task.name} ran up to {show(x.longest_s, 's')} of {most}, first too long at"
                        f" {show(x.first_long_s, 's')}")  # fmt: skip
        if x.late:
            told.append(f"{x.task.name} started late {x.late} times, first at {show(x.first_late_s, 's')};"
                        f" {x.lost} starts never came")  # fmt: skip
    head = f"Log of {log.count} runs of {len(laid)} tasks: "
    if not told:
        return f"{head}all as planned, none longer than its longest run and none late."
    return head + "; ".join(told) + "."


def within(log: Log, task_id: str, until_s: float) -> list[tuple[float, float]]:
    """Runs of a task in the first moments of the log, for the lanes."""
    runs = log.runs.get(task_id)
    if runs is None:
        return []
    return [(float(a), float(b)) for a, b in itertools.takewhile(lambda r: r[0] < until_s, runs)]
