"""Keeping at its largest: two files of 500 parts merged, a notebook of 5 000 entries, the whole report of 500 parts."""

import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from wired_union.app.run import make_app, make_window
from wired_union.catalogue.demo import WRITTEN_ON, demo
from wired_union.kernel.diary import with_entry
from wired_union.project.change import Change
from wired_union.project.edits import set_count, set_part_value
from wired_union.project.merge import merged
from wired_union.project.model import Project
from wired_union.project.notebook_model import Entry
from wired_union.report.write import report_pdf
from wired_union.subjects import assess
from wired_union.ui.places import Places

MANY = 5_000


def least_s(work: Callable[[], object], times: int = 5) -> float:
    """The least time of several runs."""
    found = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        found.append(time.perf_counter() - start)
    return min(found)


def merge_s(project: Project) -> tuple[float, float]:
    """Fifty figures changed on either side, put together; and assessing the project once."""
    ours = theirs = project
    for n, item in enumerate(project.concept.items[:100]):
        if n % 2:
            ours = set_part_value(ours, item.id, "mass_kg", 0.5).after
        else:
            theirs = set_part_value(theirs, item.id, "mass_kg", 0.6).after
    found = merged(project, ours, theirs)
    assert not found.conflicts
    return least_s(lambda: merged(project, ours, theirs)), least_s(lambda: assess(project))


def entries(count: int) -> tuple[Entry, ...]:
    """So many entries, each with all that an edit writes."""
    said = {"by": "Ada", "moved": "Runtime +1 min · Mass +20 g", "why": "the tide is longer there"}
    return tuple(Entry(id=f"e{n}", when=f"2026-11-{n % 24 + 1:02d}", text=f"entry {n}", **said) for n in range(count))


def edit_s(count: int) -> float:
    """An edit with its entry, measures and findings worked out, in a notebook of so many entries."""
    project = demo().but(notebook=entries(count))
    before = assess(project).on(WRITTEN_ON)
    assert before.findings is not None
    change = set_count(project, "limit-switch", 3)

    def edit() -> None:
        after = before.again(change.after)
        written = before.again(with_entry(before, after, change, WRITTEN_ON, "Ada"))
        assert written.findings is not None

    return least_s(edit)


def shown_s(count: int) -> float:
    """The notebook shown anew in the window, with so many entries."""
    app = make_app(["benchmark"])
    with tempfile.TemporaryDirectory() as name:
        window = make_window(Places.within(Path(name)), WRITTEN_ON)
        window.resize(1280, 800)
        window.open_demo()
        window.show()
        assert window.store is not None
        project = window.store.project
        window.store.apply(Change(project, project.but(notebook=entries(count)), "many entries"))
        window.go("notebook")
        app.processEvents()
        assert window.views is not None
        view = window.views["notebook"]

        def show() -> None:
            view.refresh()
            app.processEvents()

        found = least_s(show)
        window.store = None
        window.close()
        return found


def report_s(project: Project) -> float:
    """The whole report as a PDF."""
    assessment = assess(project).on(WRITTEN_ON)
    return least_s(lambda: report_pdf(assessment, WRITTEN_ON), 1)
