"""Handing over: reports for each reader, everything in one archive, and whether an archive is as it was made."""

from datetime import date
from pathlib import Path
from typing import Annotated

import typer

from wired_union.project.documents import DocumentError
from wired_union.project.kept import Kept, folder_beside
from wired_union.terminal import AsJson, AssessFile, ProjectFile, print_json, stop

Output = Annotated[Path, typer.Option("-o", "--output", help="The file to write; its ending says the form.")]


def verify(
    archive: Annotated[Path, typer.Argument(help="A .zip that `everything` made.")], as_json: AsJson = False
) -> None:  # fmt: skip
    """Check an archive against its manifest. Exit status: 0 all is as made, 1 something is not, 2 it is no archive."""
    from wired_union.report.everything import verify as wrong_of

    try:
        wrong = wrong_of(archive)
    except DocumentError as error:
        stop(str(error))
    if as_json:
        print_json({"archive": str(archive), "wrong": wrong})
    else:
        for line in wrong or [f"{archive.name} is as it was made"]:
            typer.echo(line)
    raise typer.Exit(1 if wrong else 0)


def add(app: typer.Typer, assess_file: AssessFile) -> None:
    """Add the commands to the command line."""

    @app.command()
    def report(
        file: ProjectFile, output: Output,
        kind: Annotated[str, typer.Option("--for", help="whole, judge (two pages), builder, successor.")] = "whole",
        without: Annotated[list[str] | None, typer.Option(help="A subject to leave out, by its id.")] = None,
    ) -> None:  # fmt: skip
        """Write the report as .html or .pdf."""
        from wired_union.report.write import write_report

        assessment = assess_file(file)
        known = {s.id for s in assessment.subjects}
        for subject in without or []:
            if subject not in known:
                stop(f"There is no subject “{subject}”. There are: {', '.join(sorted(known))}.")
        left_out = [*assessment.project.sections_left_out, *(without or [])]
        try:
            write_report(assessment, output, date.today().isoformat(), kind, left_out)
        except DocumentError as error:
            stop(str(error))
        typer.echo(f"{output} written")

    @app.command()
    def everything(file: ProjectFile, output: Output) -> None:
        """Write everything that is handed over into one .zip, with an index and a manifest of hashes."""
        from wired_union.report.everything import write_everything

        assessment = assess_file(file)
        try:
            lacks = write_everything(assessment, kept_beside(file), date.today().isoformat(), output,
                                     assessment.project.sections_left_out)  # fmt: skip
        except DocumentError as error:
            stop(str(error))
        for line in lacks:
            typer.echo(f"not in it: {line}", err=True)
        typer.echo(f"{output} written")

    app.command("verify")(verify)


def kept_beside(name: str) -> Kept:
    """Where what a project names is kept: beside its file, or with the demos."""
    from wired_union.catalogue.demo import KEPT_WITH_DEMOS

    return Kept((folder_beside(Path(name)), *KEPT_WITH_DEMOS))
