"""Files of tasks: lanes as VCD for a logic analyser's viewer, messages as CSV, and measured runs read from CSV."""

import csv
import io
import math
from collections.abc import Mapping, Sequence

from msgspec import Struct

from wired_union.project.change import Change
from wired_union.project.errors import ProjectError
from wired_union.project.model import Project
from wired_union.project.timing_model import Task
from wired_union.subjects.timing.buses import BusResult
from wired_union.subjects.timing.lanes import Lanes
from wired_union.units import parse

TICK_S = 1e-6
MOST_ROWS = 2_000_000


class Runs(Struct, frozen=True):
    """Measured runs of a task: the shortest, the longest, how many."""

    least_s: float
    most_s: float
    count: int


def lanes_vcd(lanes: Lanes, name: str) -> str:
    """Each task as a wire that is 1 while it runs, in microseconds; for any viewer of value changes (IEEE 1364)."""
    from vcd import VCDWriter  # only where one is written

    out = io.StringIO()
    with VCDWriter(out, timescale="1 us", date="", comment="made by Wired Union") as writer:
        wires = [writer.register_var(wire_name(name), wire_name(t.name) + f"_{n}", "wire", size=1, init=0)
                 for n, t in enumerate(lanes.tasks)]  # fmt: skip
        changes: dict[tuple[int, int], int] = {}
        for s in lanes.run.stretches:
            start = round(s.start_s / TICK_S)
            changes[start, s.task] = 1
            changes.setdefault((max(round(s.end_s / TICK_S), start + 1), s.task), 0)
        for (at, task), value in sorted(changes.items()):
            writer.change(wires[task], at, value)
    return out.getvalue()


def wire_name(name: str) -> str:
    """A name as a wire of a VCD may have it."""
    return "".join(c if c.isascii() and c.isalnum() else "_" for c in name) or "_"


def messages_csv(buses: tuple[BusResult, ...]) -> str:
    """Every message with its bus, its bytes and its times, a line each."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["bus", "kind", "clock_hz", "message", "bytes", "every_s", "on_wire_s", "worst_s", "deadline_s"])
    for b in buses:
        for m in b.messages:
            worst = "" if m.response_s is None else f"{m.response_s:.9g}"
            figures = (f"{m.message.every_s:g}", f"{m.time_s:.9g}", worst, f"{m.deadline_s:g}")
            named = (
                safe_cell(b.bus.name),
                b.bus.kind,
                f"{b.bus.clock_hz:g}",
                safe_cell(m.message.name),
                m.message.bytes,
            )
            writer.writerow([*named, *figures])
    return out.getvalue()


def safe_cell(text: str) -> str:
    """A text that no spreadsheet takes for a formula."""
    return f"'{text}" if text[:1] in "=+-@" else text


def read_runs(text: str, tasks: Sequence[Task]) -> dict[str, Runs]:
    """Measured runs by the id of their task, from a table of task, and start and stop, or run or high-water.

    Times are seconds, or have their unit: "3.2 ms". Raises ProjectError, with the line, for what cannot be read.
    """
    rows = csv.DictReader(io.StringIO(text.lstrip("\ufeff")))
    columns = {(c or "").strip().lower() for c in rows.fieldnames or ()}
    timed = {"start", "stop"} <= columns
    single = next((c for c in ("run", "high-water") if c in columns), "")
    if "task" not in columns or not (timed or single):
        raise ProjectError("The table needs the columns task, start and stop; or task and run, or high-water. The first"
                           " line names them.")  # fmt: skip
    known = {t.name.lower(): t.id for t in tasks} | {t.id.lower(): t.id for t in tasks}
    found: dict[str, list[float]] = {}
    for number, raw in enumerate(rows, 2):
        if number > MOST_ROWS:
            raise ProjectError(f"The table has more than {MOST_ROWS} lines. Keep the longest runs.")
        row = {(k or "").strip().lower(): (v or "").strip() for k, v in raw.items() if isinstance(v, str | None)}
        task = known.get(row.get("task", "").lower())
        if task is None:
            names = ", ".join(t.name for t in tasks)
            raise ProjectError(f"Line {number}: there is no task “{row.get('task', '')}”. There are: {names}.")
        run = seconds_of(row.get("stop" if timed else single, ""), number)
        run -= seconds_of(row.get("start", ""), number) if timed else 0.0
        if run < 0:
            raise ProjectError(f"Line {number}: it stops before it starts.")
        found.setdefault(task, []).append(run)
    return {task: Runs(min(runs), max(runs), len(runs)) for task, runs in found.items()}


def seconds_of(text: str, number: int) -> float:
    """A time of a line. Raises ProjectError with the line."""
    try:
        value = parse(text, "s")
    except ValueError as error:
        raise ProjectError(f"Line {number}: “{text}” is no time. Write seconds, or a unit: “3.2 ms”.") from error
    if not math.isfinite(value):
        raise ProjectError(f"Line {number}: “{text}” is no time.")
    return value


def take_runs(project: Project, runs: Mapping[str, Runs]) -> Change:
    """Take measured runs for the runs of tasks: the longest that was seen is a high-water mark, not a proof."""
    if not runs:
        raise ProjectError("There is no run in the table.")
    tasks = tuple(
        t.but(least_s=runs[t.id].least_s, most_s=runs[t.id].most_s, known="measured") if t.id in runs else t
        for t in project.concept.tasks
    )
    names = ", ".join(t.name for t in tasks if t.id in runs)
    concept = project.concept.but(tasks=tasks)
    concepts = tuple(concept if c is project.concept else c for c in project.concepts)
    return Change(project, project.but(concepts=concepts), f"measured runs of {names}")
