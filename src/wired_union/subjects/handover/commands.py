"""The command that says what is missing before it is handed over."""

import typer

from wired_union.subjects.handover.ready import readiness
from wired_union.terminal import AsJson, AssessFile, ProjectFile, print_json


def add(app: typer.Typer, assess_file: AssessFile) -> None:
    """Add the command to the command line."""

    @app.command()
    def ready(file: ProjectFile, as_json: AsJson = False) -> None:
        """Say what is missing before it is handed over. Exit status: 0 nothing, 1 something."""
        found = readiness(assess_file(file))
        if as_json:
            print_json([{"group": u.group, "what": u.what, "missing": list(u.names), "of": u.of} for u in found.lacks])
        else:
            for u in found.left:
                typer.echo(f"{u.group}: {u.what}: {u.of - len(u.names)} of {u.of}; not yet {', '.join(u.names)}")
            if not found.left:
                typer.echo("nothing that this program asks for is missing")
        raise typer.Exit(1 if found.left else 0)
