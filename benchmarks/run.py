"""Speed as ratios within one run: every figure is divided by a yardstick measured in the same minute.

Prints a table and keeps it in docs/benchmarks.md. The aims are those of the first issue, for a machine of two cores.
"""

import gc
import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np
from scipy.integrate import solve_ivp

from wired_union.assess.assessment import assess
from wired_union.assess.power import PackResult
from wired_union.assess.ripple import ripple
from wired_union.catalogue.demo import demo
from wired_union.choose.alternatives import changes_for
from wired_union.physics.battery import peukert_rate
from wired_union.physics.discharge import charge_grid, end_places, run_down
from wired_union.project import edits
from wired_union.project.file import load, save
from wired_union.project.model import Feed, Project

ROOT = Path(__file__).parent.parent


def best_ms(work: Callable[[], object], repeats: int = 9) -> float:
    """Least of several runs, in ms: what the work costs when nothing else disturbs it."""
    gc.collect()
    times = []
    for _ in range(repeats):
        start = time.perf_counter()
        work()
        times.append((time.perf_counter() - start) * 1e3)
    return min(times)


def yardstick_ms() -> float:
    """A fixed piece of plain Python, so that tables of different machines can be compared."""
    return best_ms(lambda: sum(i * i % 7 for i in range(200_000)), 15)


def large_project(items: int) -> Project:
    """The demo with its loads copied until there are `items` items, each copy fed like its original."""
    project = demo()
    concept = project.concept
    loads = [i for i in concept.items if i.part.load is not None and i.part.motor is None]
    source = {f.load: f.source for f in concept.feeds}
    more, feeds = list(concept.items), list(concept.feeds)
    for n in range(items - len(more)):
        original = loads[n % len(loads)]
        copy = original.model_copy(update={"id": f"{original.id}-copy-{n}"})
        more.append(copy)
        feeds.append(Feed(source=source[original.id], load=copy.id))
    new = concept.model_copy(update={"items": tuple(more), "feeds": tuple(feeds)})
    return project.model_copy(update={"concepts": (new,)})


def edit_ms(project: Project) -> float:
    before = assess(project)
    change = edits.set_part_value(project, "probe", "load.active_a", 0.025)
    return best_ms(lambda: assess(change.after, before).measures)


def findings_ms(project: Project) -> float:
    before = assess(project)
    change = edits.set_part_value(project, "probe", "load.active_a", 0.025)
    return best_ms(lambda: assess(change.after, before).findings)


def ripples_ms() -> float:
    project = demo()
    before = assess(project)
    changes = [c for i in project.concept.items for _, c in changes_for(before, i.id)][:200]
    assert len(changes) == 200
    return best_ms(lambda: [ripple(before, c).moves for c in changes], 5)


def mission_against_ode() -> tuple[float, float, float, float]:
    """Our time and solve_ivp's in ms at about the same error against a tight reference, and both errors in s."""
    result = assess(demo()).power
    pack: PackResult = result.packs[0]
    capacity, chemistry = pack.figures.values.capacity_ah, pack.figures.chemistry
    rate = peukert_rate(pack.current_a, capacity, chemistry)
    ends = end_places(pack.voltage_v, pack.figures.cutoff_v, 0.15)
    phases = [(result.mode_index[p.mode], p.duration_s) for p in result.concept.mission.phases]
    rising = charge_grid()[::-1]
    tables = [r[::-1] for r in rate]

    def ode(tolerance: float) -> float:
        def empty(_: float, s: np.ndarray, m: int) -> float:
            return float(s[0] - 0.15)

        empty.terminal = True  # type: ignore[attr-defined]
        now, charge = 0.0, 1.0
        while True:
            for mode, lasts in phases:
                leg = solve_ivp(lambda _, s, m: [-np.interp(s[0], rising, tables[m]) / 3600], (0, lasts), [charge],
                                args=(mode,), events=empty, rtol=tolerance, atol=tolerance / 100)  # fmt: skip
                now, charge = now + leg.t[-1], float(leg.y[0, -1])
                if leg.status == 1:
                    return now

    exact = ode(1e-12)
    ours = run_down(rate, ends, phases).runtime_s
    error = abs(ours - exact)
    tolerance = next(t for t in (1e-3, 1e-4, 1e-5, 1e-6, 1e-7, 1e-8, 1e-9) if abs(ode(t) - exact) <= max(error, 0.05))
    return (
        best_ms(lambda: run_down(rate, ends, phases)), best_ms(lambda: ode(tolerance), 3), error,
        abs(ode(tolerance) - exact),
    )  # fmt: skip


BARE = """
import sys, time
import numpy
from PyQt6.QtWidgets import QApplication, QMainWindow, QLabel
app = QApplication(["x"])
window = QMainWindow()
window.setCentralWidget(QLabel("hello"))
window.resize(1280, 800)
window.show()
window.grab()
"""
OURS = """
import gc, sys, tempfile
gc.disable()  # as the command does until its window stands
from pathlib import Path
from wired_union.app.run import make_app, make_window
from wired_union.app.places import Places
app = make_app(["x"])
folder = Path(tempfile.mkdtemp())
window = make_window(Places.within(folder))
window.open_demo()
window.show()
window.grab()
if "memory" in sys.argv:
    for stage in window.views:
        window.go(stage)
        app.processEvents()
    for line in open("/proc/self/status"):
        if line.startswith("VmRSS"):
            print(int(line.split()[1]) / 1024)
window.store = None
"""


def start_ms(script: str) -> float:
    """Time of a whole process; the first run, which may compile the modules, does not count."""
    env = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}
    env["PYDANTIC_DISABLE_PLUGINS"] = "__all__"  # as the command itself does

    def once() -> None:
        subprocess.run([sys.executable, "-c", script], check=True, capture_output=True, env=env)

    once()
    return best_ms(once, 7)


def memory_mb() -> float:
    done = subprocess.run([sys.executable, "-c", OURS, "memory"], check=True, capture_output=True, text=True)
    return float(done.stdout.split()[-1])


def file_ms() -> tuple[float, float]:
    """Time to open a project of 5 MB, and its size in MB."""
    project = large_project(500)
    with tempfile.TemporaryDirectory() as name:
        path, items = Path(name) / "a.union.json", 500
        save(project, path)
        while path.stat().st_size < 5e6:
            items = round(items * 5.1e6 / path.stat().st_size)
            save(large_project(items), path)
        return best_ms(lambda: load(path), 5), path.stat().st_size / 1e6


def main() -> None:
    """Measure, print, keep."""
    unit = yardstick_ms()
    rows: list[tuple[str, str, str, str]] = []

    def row(what: str, ms: float, aim: str) -> None:
        rows.append((what, f"{ms:.1f} ms", f"{ms / unit:.2f}", aim))

    row("an edit's measures, demo (25 items)", edit_ms(demo()), "10 ms")
    row("an edit's measures and findings, demo", findings_ms(demo()), "")
    big = large_project(500)
    row("an edit's measures, 500 items", edit_ms(big), "50 ms")
    row("an edit's measures and findings, 500 items", findings_ms(big), "")
    row("ripple over 200 alternatives, demo", ripples_ms(), "200 ms")
    ours, ode, error, ode_error = mission_against_ode()
    rows.append(
        (f"mission: ours (error {error:.2f} s) against solve_ivp (error {ode_error:.2f} s)",
         f"{ours:.2f} ms and {ode:.1f} ms", f"{ode / ours:.0f} times faster", "50 times")
    )  # fmt: skip
    bare, cold = start_ms(BARE), start_ms(OURS)
    rows.append(("cold start to a drawn demo against a bare PyQt6 + numpy window", f"{cold:.0f} ms and {bare:.0f} ms",
                 f"{cold / bare:.2f} times", "2 times"))  # fmt: skip
    opened, size = file_ms()
    row(f"opening a file of {size:.1f} MB", opened, "500 ms")
    rows.append(("memory with the demo open, every view shown", f"{memory_mb():.0f} MB", "", "200 MB"))
    text = "\n".join(f"| {a} | {b} | {c} | {d} |" for a, b, c, d in rows)
    page = (
        "# Benchmarks\n\nMade by `script/benchmark`; times are the least of several runs. The third column is the ratio"
        f" within this run: to {unit:.2f} ms, the yardstick of plain Python (the sum of 200 000 small products), unless"
        " it says otherwise.\n\n| what | measured | ratio | aim |\n|---|---|---|---|\n" + text + "\n"
    )
    (ROOT / "docs" / "benchmarks.md").write_text(page, encoding="utf-8")
    print(page)


if __name__ == "__main__":
    main()
