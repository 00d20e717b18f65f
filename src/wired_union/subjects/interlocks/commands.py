"""The command that writes the states of the machine as a program, or the page for the wall."""

from pathlib import Path
from typing import Annotated

import typer

from wired_union.project.documents import DocumentError, write_bytes
from wired_union.subjects.interlocks.assess import STATES
from wired_union.subjects.interlocks.code import c_code, python_code
from wired_union.subjects.interlocks.wall import wall_page
from wired_union.terminal import AssessFile, ProjectFile, stop


def add(app: typer.Typer, assess_file: AssessFile) -> None:
    """Add the command to the command line."""

    @app.command()
    def states(
        file: ProjectFile, output: Annotated[Path, typer.Option("--output", "-o", help="Where to write.")],
    ) -> None:  # fmt: skip
        """Write the states as C (.h) or Python (.py), or what to check before arming (.html)."""
        assessment = assess_file(file)
        machine, name = assessment.of(STATES).machine, assessment.project.name
        writers = {".h": lambda: c_code(machine, name), ".py": lambda: python_code(machine, name),
                   ".html": lambda: wall_page(assessment)}  # fmt: skip
        writer = writers.get(output.suffix.lower())
        if writer is None:
            stop(f"“{output.name}”: give the file one of the endings .h, .py, .html.")
        try:
            write_bytes(output, writer().encode())
        except ValueError as error:
            stop(str(error))
        except DocumentError as error:
            stop(str(error))
        typer.echo(f"{output} written")
