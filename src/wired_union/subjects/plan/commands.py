"""The command that writes the plan: a calendar, a workbook, or the page of the week."""

from pathlib import Path
from typing import Annotated

import typer

from wired_union.project.documents import DocumentError, write_bytes
from wired_union.subjects.plan.out import plan_book, plan_calendar, week_list
from wired_union.terminal import AssessFile, ProjectFile, stop


def add(app: typer.Typer, assess_file: AssessFile) -> None:
    """Add the command to the command line."""

    @app.command()
    def plan(
        file: ProjectFile, output: Annotated[Path, typer.Option("--output", "-o", help="Where to write.")],
        who: Annotated[str, typer.Option(help="Only what one person does, by name; for calendars.")] = "",
    ) -> None:  # fmt: skip
        """Write the plan as a calendar (.ics), a workbook (.xlsx), or the coming week on a page (.pdf)."""
        assessment = assess_file(file)
        person = next((p.id for p in assessment.project.plan.people if p.name.lower() == who.strip().lower()), "")
        if who and not person:
            stop(f"Nobody is called “{who}”. There are: {', '.join(p.name for p in assessment.project.plan.people)}.")
        more = [p for s in assessment.subjects if s.pages for p in s.load(s.pages)(assessment)]
        writers = {".ics": lambda: plan_calendar(assessment, person), ".xlsx": lambda: plan_book(assessment, more),
                   ".pdf": lambda: week_list(assessment)}  # fmt: skip
        writer = writers.get(output.suffix.lower())
        if writer is None:
            stop(f"“{output.name}”: give the file one of the endings .ics, .xlsx, .pdf.")
        try:
            write_bytes(output, writer())
        except ValueError as error:
            stop(str(error))
        except DocumentError as error:
            stop(str(error))
        typer.echo(f"{output} written")
