"""What Trials hands over: every run as it was."""

from collections.abc import Iterator

from wired_union.catalogue.sheet_files import table_bytes
from wired_union.kernel.subject import Assessment, Paper
from wired_union.project.model import Project
from wired_union.project.trial_model import Run
from wired_union.project.value import named_values


def papers(assessment: Assessment) -> Iterator[Paper]:
    """A table of all runs, where there are some."""
    project = assessment.project
    if any(t.runs for t in project.trials):
        yield Paper("runs.csv", "every run of every trial as it was, struck ones with the reason",
                    lambda: runs_table(project))  # fmt: skip


def runs_table(project: Project) -> bytes:
    """A row for each run; what a run says of one of its trial's settings is in one cell."""
    names = [name for name, _ in named_values(Run())]
    rows = [[trial.name, str(number), *(_cell(v) for _, v in named_values(run))]
            for trial in project.trials for number, run in enumerate(trial.runs, 1)]  # fmt: skip
    return table_bytes(["trial", "run", *names], rows, ".csv", frozenset())


def _cell(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, tuple):
        return " ".join("high" if v else "low" for v in value)
    return str(value)
