"""The command that finds the best combination."""

from typing import Annotated

import typer

from wired_union.choose import explain
from wired_union.choose.combination import FAVOURED, Favour, ask
from wired_union.choose.search import search
from wired_union.project.errors import ProjectError
from wired_union.terminal import AsJson, AssessFile, ProjectFile, number, print_json, stop


def add(app: typer.Typer, assess_file: AssessFile) -> None:
    """Add the commands to the command line."""

    @app.command()
    def best(
        file: ProjectFile, slots: Annotated[str, typer.Argument(help="Ids of parts in place, with commas between.")],
        favour: Annotated[str, typer.Option(help="runtime, mass, money, or weights: runtime=1,mass=2.")] = "mass",
        as_json: AsJson = False,
    ) -> None:  # fmt: skip
        """Find the combination of parts that is proven best. Exit status 1 when none holds every limit."""
        assessment = assess_file(file)
        try:
            question = ask(assessment, [s.strip() for s in slots.split(",") if s.strip()], _favour(favour))
        except ProjectError as error:
            stop(str(error))
        *_, last = search(question)
        rows = [{"figures": {n: number(t.assessment.measure(n).value) for n in ("runtime", "mass", "money")},
                 "parts": {c.slot.id: c.options[p].part.id for c, p in zip(question.choices, t.places, strict=True)}}
                for t in last.found]  # fmt: skip
        if as_json:
            print_json({"proven": last.proven, "gap": number(last.gap), "found": rows})
        else:
            typer.echo(explain.proof(question, last))
            for n, t in enumerate(last.found, 1):
                swaps = "; ".join(f"{s.slot}: {s.part}" for s in explain.swaps(question, t)) or "as it stands"
                typer.echo(f"{n:3} {explain.figure(question, t)}  {swaps}")
        raise typer.Exit(0 if last.found else 1)


def _favour(text: str) -> Favour:
    weights = {}
    for part in text.split(","):
        name, _, value = part.partition("=")
        if name.strip() not in FAVOURED:
            stop(f"“{name}” cannot be favoured. Favour {', '.join(FAVOURED)}, or weights such as runtime=1,mass=2.")
        try:
            weights[name.strip()] = float(value) if value else 1.0
        except ValueError:
            stop(f"“{value}” is no weight. Write it like {name}=2.")
    return Favour(**weights)
