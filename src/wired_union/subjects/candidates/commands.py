"""The command that lists candidates."""

from typing import Annotated

import typer

from wired_union.choose import candidates as choose
from wired_union.project.errors import ProjectError
from wired_union.terminal import AsJson, AssessFile, ProjectFile, print_json, stop


def add(app: typer.Typer, assess_file: AssessFile) -> None:
    """Add the commands to the command line."""

    @app.command()
    def candidates(
        file: ProjectFile, slot: Annotated[str, typer.Argument(help="Id of a part in place, or of a need.")],
        as_json: AsJson = False,
    ) -> None:  # fmt: skip
        """List what could fill a place, and every part refused with the requirement that refused it."""
        assessment = assess_file(file)
        try:
            found = choose.candidates(assessment, slot)
        except ProjectError as error:
            stop(f"{error} Places: {', '.join(s.id for s in choose.slots(assessment.project))}.")
        if as_json:
            print_json({
                "slot": slot, "fits": [{"id": c.part.id, "name": c.part.name, "free": c.free} for c in found.fitting],
                "refused": [{"id": c.part.id, "name": c.part.name,
                             "by": [{"requirement": r.requirement, "text": r.text} for r in c.refusals]}
                            for c in found.refused],
                "moves": [{"requirement": m.requirement, "to": m.to, "part": m.part.id} for m in found.moves],
            })  # fmt: skip
            return
        for c in found.fitting:
            typer.echo(f"fits     {c.part.name}{f', {c.shelf_words}' if c.free else ''}")
        for c in found.refused:
            typer.echo(f"refused  {c.part.name}: {'; '.join(r.text for r in c.refusals)}")
        for m in found.moves:
            typer.echo(f"next     {m.text}")
