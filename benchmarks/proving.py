"""Bench and Trials at their largest: a log at 1 kHz for ten minutes, 100 000 runs, a course of six trips."""

import random
import tempfile
import time
from pathlib import Path

import numpy as np
from PyQt6.QtCore import QCoreApplication, QEventLoop

from wired_union.app.run import make_app, make_window
from wired_union.catalogue.demo import demo
from wired_union.instruments.log import Log
from wired_union.project.course_model import CourseTask
from wired_union.project.trial_model import Run
from wired_union.subjects.bench.pick import BenchPick
from wired_union.subjects.bench.view import BenchView
from wired_union.subjects.trials import edits as trial_edits
from wired_union.subjects.trials.course import Ground, Leg, walk
from wired_union.subjects.trials.course_search import Best, best_order
from wired_union.subjects.trials.pick import TrialPick
from wired_union.ui.places import Places

SAMPLES = 600_000
FRAMES = 60


def log_frame_ms() -> tuple[float, float]:
    """One frame of the window while a log of ten minutes at 1 kHz is drawn and grows: usual and worst of sixty."""
    app = make_app(["wired-union"])
    with tempfile.TemporaryDirectory() as name:
        window = make_window(Places.within(Path(name)))
        window.resize(1280, 800)
        window.open_demo("mudlark")
        window.show()
        window.go("bench")
        app.processEvents()
        view = window.views["bench"] if window.views is not None else None
        assert isinstance(view, BenchView)
        window.store.pick(BenchPick("battery"))
        app.processEvents()
        log = Log("Pack, full, without load", "V")
        noise = np.random.default_rng(1).normal(13.5, 0.05, SAMPLES)
        log._t, log._v = np.arange(SAMPLES) / 1e3, noise  # as if it had been read for ten minutes
        log.count = SAMPLES - 17 * FRAMES
        view.instruments.log = log
        view.refresh()
        app.processEvents()
        times = []
        for _ in range(FRAMES):
            start = time.perf_counter()
            log.count += 17
            view.instruments.draw()
            QCoreApplication.processEvents(QEventLoop.ProcessEventsFlag.AllEvents)
            times.append((time.perf_counter() - start) * 1e3)
        window.store = None
        window.close()
    return float(np.median(times)), max(times)


def run_entered_ms(runs: int) -> float:
    """One run more in a trial of very many, entered and drawn, in the window."""
    app = make_app(["wired-union"])
    with tempfile.TemporaryDirectory() as name:
        window = make_window(Places.within(Path(name)))
        window.resize(1280, 800)
        window.open_demo("mudlark")
        window.show()
        window.go("trials")
        store = window.store
        assert store is not None
        draw = random.Random(1)
        trial = demo().trials[0]
        many = trial.but(runs=tuple(Run(good=draw.random() < 0.9) for _ in range(runs)))
        before = store.project
        store.apply(trial_edits._with(before, trial, many, "many runs"))
        store.pick(TrialPick(trial.id))
        app.processEvents()
        times = []
        for _ in range(9):
            start = time.perf_counter()
            store.attempt(trial_edits.add_run, trial.id, good=True)
            app.processEvents()
            times.append((time.perf_counter() - start) * 1e3)
        window.store = None
        window.close()
    return min(times)


def a_course(seed: int, share: float) -> Ground:
    """Six trips with twenty tasks; the time allowed a share of what all of them take."""
    r = random.Random(seed)
    spots = [(0.0, 0.0)] + [(r.uniform(0, 6), r.uniform(0, 4)) for _ in range(8)]
    drives = tuple(tuple(float(np.hypot(a[0] - b[0], a[1] - b[1])) / 0.5 for b in spots) for a in spots)

    def leg(n: int) -> Leg:
        usual = r.uniform(4, 20)
        worth = float(r.choice((5, 10, 15, 20, 30)))
        spread, task = usual * r.uniform(0.05, 0.3), CourseTask(id=f"t{n}", name=f"T{n}")
        return Leg(task, worth, r.uniform(0.5, 1), usual, spread**2, r.randint(1, 8))

    legs = [leg(n) for n in range(20)]
    parts = tuple(tuple(legs[n::6]) for n in range(6))
    fitted = tuple(r.choice("abc") for _ in parts)
    names = tuple(f"T{n}" for n in range(6))
    made = Ground(1e9, parts, names, (False,) * 6, fitted, drives, 0.1, 8.0, 4.0)
    whole = walk(made, tuple((n, tuple(range(len(p)))) for n, p in enumerate(parts))).usual_s
    return Ground(whole * share, parts, names, (False,) * 6, fitted, drives, 0.1, 8.0, 4.0)


def course_s() -> tuple[float, int]:
    """The longest of nine courses, from a third of the time that all would take to all of it; how many were proven."""
    longest, proven = 0.0, 0
    for seed in range(3):
        for share in (0.4, 0.7, 1.0):
            ground = a_course(seed, share)
            start = time.perf_counter()
            *_, best = best_order(ground)
            longest = max(longest, time.perf_counter() - start)
            proven += isinstance(best, Best) and best.proven
    return longest, proven
