"""The kit of the command line: reading a project, stopping with a word, printing JSON."""

import json
import math
from datetime import date
from pathlib import Path
from typing import Annotated, Any, NoReturn, Protocol

import typer

from wired_union.kernel.subject import Assessment

AsJson = Annotated[bool, typer.Option("--json", help="Print JSON for scripts.")]
ProjectFile = Annotated[str, typer.Argument(help="A *.union.json file, or demo for the Mudlark.")]


class AssessFile(Protocol):
    """Assesses the project of a name that was typed; stops with one line where it cannot be read."""

    def __call__(self, name: str, /) -> Assessment: ...


def stop(text: str, status: int = 2) -> NoReturn:
    typer.echo(text, err=True)
    raise typer.Exit(status)


def read_project(name: str) -> Any:
    from wired_union.catalogue.demo import NAMES, demo
    from wired_union.project.errors import ProjectError
    from wired_union.project.file import load

    try:
        if name == "demo" or (name in NAMES and not Path(name).exists()):
            return demo("mudlark" if name == "demo" else name, date.today().isoformat())
        return load(Path(name))
    except ProjectError as error:
        stop(str(error))


def number(value: float | None) -> float | str | None:
    """JSON has no infinity: an endless runtime is the text "inf"."""
    return value if value is None or math.isfinite(value) else str(value)


def print_json(data: Any) -> None:
    typer.echo(json.dumps(data, ensure_ascii=False, indent=2))
