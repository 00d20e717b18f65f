"""The command line: everything the window computes, for scripts. Only `demo` and `screenshots` start the window."""

import os
from datetime import date
from pathlib import Path
from typing import Annotated, Any, NoReturn

import typer

from wired_union import __version__, units
from wired_union.cli import desktop, handing, merging
from wired_union.kernel.results import Finding, Measure
from wired_union.kernel.subject import Assessment
from wired_union.physics.method import Method
from wired_union.subjects import assess, subjects
from wired_union.terminal import AsJson, ProjectFile, number, print_json, read_project, stop

app = typer.Typer(no_args_is_help=False, add_completion=False, rich_markup_mode=None,
                  pretty_exceptions_enable=False,
                  help="Shows what an edit does to every limit of a machine before it is made.")  # fmt: skip


@app.callback(invoke_without_command=True)
def _main(
    context: typer.Context, version: Annotated[bool, typer.Option("--version", help="Say the version.")] = False
) -> None:
    if version:
        typer.echo(f"wired-union {__version__}")
        raise typer.Exit
    if context.invoked_subcommand is None:
        _window(None, "")


def _window(path: Path | None, demo: str) -> NoReturn:
    from wired_union.app.run import run

    raise typer.Exit(run(path, demo))


@app.command("open")
def open_window(file: Annotated[Path, typer.Argument(help="A *.union.json file.")]) -> None:
    """Open the window on a file."""
    _window(file, "")


@app.command()
def demo(name: Annotated[str, typer.Argument(help="mudlark or bat-counter.")] = "mudlark") -> None:
    """Open the window on a demo."""
    from wired_union.catalogue.demo import NAMES

    if name not in NAMES:
        stop(f"There is no demo “{name}”. There are: {', '.join(NAMES)}.")
    _window(None, name)


@app.command()
def check(file: ProjectFile, as_json: AsJson = False) -> None:
    """Check every limit. Exit status: 0 nothing breaks, 1 something breaks, 2 the file cannot be read."""
    assessment = assess_file(file)
    measures = [m for m in assessment.all_measures.values() if m.limit is None] + list(assessment.measures)
    breaks = any(m.verdict == "breaks" for m in assessment.measures) or bool(assessment.breaks_besides)
    if as_json:
        from wired_union.kernel.ripple import offers_in_words

        remedies = offers_in_words(assessment)
        print_json({"project": assessment.project.name, "measures": {m.id: _measure(m) for m in measures},
                     "findings": [_finding(f, remedies.get(f.id, [])) for f in assessment.findings]})  # fmt: skip
    else:
        for m in assessment.measures:
            lacks = f"  lacks: {'; '.join(m.missing)}" if m.missing else ""
            typer.echo(f"{m.verdict.value:8} {m.label}: {m.shown}, {m.direction} {m.limit_shown}{lacks}")
        for f in assessment.findings:
            if f.verdict != "holds" and not f.of_limit:
                typer.echo(f"{f.verdict.value:8} {f.title}: {f.what} {f.why}".rstrip())
    raise typer.Exit(1 if breaks else 0)


def _measure(measure: Measure) -> dict[str, Any]:
    return {
        "label": measure.label, "value": number(measure.value), "unit": measure.unit, "limit": measure.limit,
        "direction": measure.direction, "use": None if measure.use is None else number(measure.use),
        "verdict": None if measure.limit is None else measure.verdict.value, "missing": list(measure.missing),
    }  # fmt: skip


def _finding(finding: Finding, remedies: list[str]) -> dict[str, Any]:
    return {
        "id": finding.id, "verdict": finding.verdict.value, "title": finding.title, "what": finding.what,
        "why": finding.why, "subjects": list(finding.items), "measure": finding.measure,
        "remedies": remedies,
    }  # fmt: skip


def assess_file(name: str) -> Assessment:
    """A project file, or a demo, assessed. Stops with one line where it cannot be read."""
    return assess(read_project(name)).on(date.today().isoformat())


Output = Annotated[Path, typer.Option("-o", "--output", help="The file to write; its ending says the form.")]


@app.command()
def parts(file: ProjectFile, output: Output) -> None:
    """Write the parts list as .csv or .xlsx."""
    from wired_union.catalogue.sheet_files import write_parts
    from wired_union.project.documents import DocumentError

    try:
        write_parts(read_project(file), output)
    except DocumentError as error:
        stop(str(error))
    typer.echo(f"{output} written")


@app.command()
def places(file: ProjectFile, output: Output) -> None:
    """Write masses and places as .csv or .xlsx, or the outline from above as .svg or .dxf."""
    from wired_union.picture.shapes import Kit
    from wired_union.project.documents import DocumentError
    from wired_union.subjects.mass.places_file import write_places

    try:
        write_places(assess_file(file), Kit(), output)
    except DocumentError as error:
        stop(str(error))
    typer.echo(f"{output} written")


@app.command()
def take_places(
    file: ProjectFile, sheet: Annotated[Path, typer.Argument(help="A sheet of masses and places.")], output: Output
) -> None:
    """Take masses and places from a sheet into another project file."""
    from wired_union.catalogue.sheet import SheetError
    from wired_union.project.documents import DocumentError, write_bytes
    from wired_union.project.errors import ProjectError
    from wired_union.project.file import to_text
    from wired_union.subjects.mass.places_file import read_places

    try:
        taken = read_places(read_project(file), sheet)
        write_bytes(output, to_text(taken.change.after).encode("utf-8"))
    except (SheetError, ProjectError, DocumentError) as error:
        stop(str(error))
    for line in taken.trouble:
        typer.echo(line, err=True)
    typer.echo(f"{output} written: {taken.change.sentence}")


@app.command()
def ripple(before: ProjectFile, after: ProjectFile, as_json: AsJson = False) -> None:
    """Say what changed between two projects, and what it did to every limit."""
    from wired_union.kernel.differences import differences
    from wired_union.kernel.ripple import compare

    a, b = assess_file(before), assess_file(after)
    changed, moves = differences(a.project, b.project, b.units), compare(a, b, "").moves
    if as_json:
        print_json({
            "changed": changed,
            "measures": {m.id: {"before": _measure(m.before), "after": _measure(m.after),
                                "change": None if m.change is None else number(m.change)} for m in moves},
        })  # fmt: skip
        return
    for line in changed or ["nothing changed"]:
        typer.echo(line)
    for m in moves:
        turned = (
            f", {m.before.verdict.value} becomes {m.after.verdict.value}" if m.before.verdict != m.after.verdict else ""
        )
        typer.echo(f"  {m.after.label}: {m.before.shown} becomes {m.after.shown}{turned}" if m.moved
                   else f"  {m.after.label}: {m.after.shown}, as before")  # fmt: skip


@app.command()
def schema() -> None:
    """Print the JSON Schema of the project file."""
    from wired_union.project.schema import schema_text

    typer.echo(schema_text(), nl=False)


@app.command()
def work(
    name: Annotated[str | None, typer.Argument(help="A method; without one, all are listed.")] = None,
    inputs: Annotated[
        list[str] | None, typer.Argument(help="key=value, with units if you like: current_a=650mA")
    ] = None,
    as_json: AsJson = False,
) -> None:
    """Work a published formula, show its inputs and source, or list them all."""
    from wired_union.physics.method import MethodError, shown
    from wired_union.physics.methods import all_methods, find_method

    if name is None:
        if as_json:
            print_json([_declared(m) for m in all_methods()])
            return
        for m in all_methods():
            typer.echo(f"{m.name:22} {m.summary}")
        return
    try:
        method = find_method(name)
        if not inputs:
            _describe(method, as_json)
            return
        values, outputs = method.work(_pairs(inputs))
    except MethodError as error:
        stop(str(error))
    if as_json:
        clean = {k: [number(x) for x in v] if isinstance(v, list) and v and isinstance(v[0], float) else
                 number(v) if isinstance(v, float) else v for k, v in outputs.items()}  # fmt: skip
        print_json({"method": method.name, "inputs": values, "outputs": clean, **_sources(method)})
        return
    for key, value in outputs.items():
        typer.echo(f"{key} = {shown(key, value)}")
    typer.echo(f"source: {method.cited}")


def _pairs(texts: list[str]) -> dict[str, str]:
    from wired_union.physics.method import MethodError

    found: dict[str, str] = {}
    for text in texts:
        key, equals, value = text.partition("=")
        if not equals or not key.strip():
            raise MethodError(f"“{text}” is not key=value. Write it like current_a=650mA.")
        if key.strip() in found:
            raise MethodError(f"{key.strip()} is given twice.")
        found[key.strip()] = value
    return found


def _sources(method: Method) -> dict[str, Any]:
    return {"source": method.source, "from_memory": method.from_memory, "checked_against": method.checked}


def _declared(method: Method) -> dict[str, Any]:
    return {
        "method": method.name, "summary": method.summary, **_sources(method), "limits": method.limits,
        "inputs": [
            {"name": i.name, "unit": i.unit, "meaning": i.meaning, "required": i.required} for i in method.inputs
        ],
        "outputs": [{"name": n, "unit": units.unit_of(n), "meaning": meaning} for n, meaning in method.outputs],
    }  # fmt: skip


def _describe(method: Method, as_json: bool) -> None:
    if as_json:
        print_json(_declared(method))
        return
    typer.echo(f"{method.name}: {method.summary}\n\ninputs:")
    for i in method.inputs:
        usual = "" if i.required else f" (usually {i.default})" if i.default is not None else " (may be left out)"
        typer.echo(f"  {i.name:28} {i.unit:6} {i.meaning}{usual}")
    typer.echo("outputs:")
    for n, meaning in method.outputs:
        typer.echo(f"  {n:28} {units.unit_of(n):6} {meaning}")
    typer.echo(f"source: {method.cited}")
    if method.limits:
        typer.echo(f"limits: {method.limits}")


@app.command()
def screenshots(folder: Annotated[Path, typer.Argument(help="Where the pictures go.")]) -> None:
    """Draw one PNG of each main view from the demo data."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from wired_union.app.screenshots import draw_all

    for path in draw_all(folder):
        typer.echo(str(path))


def check_parts(
    sheet: Annotated[Path | None, typer.Argument(help="A sheet of parts; the catalogue without one.")] = None,
) -> None:
    """Check parts for physical sense. Exit status 1 when a figure cannot be true."""
    from wired_union.catalogue.parts import catalogue
    from wired_union.catalogue.physical_sense import problems
    from wired_union.catalogue.sheet import SheetError, read_sheet

    if sheet is None:
        wrong = [(p.id, x) for p in catalogue() for x in problems(p)]
        count = len(catalogue())
    else:
        try:
            read = read_sheet(sheet)
        except SheetError as error:
            stop(str(error))
        wrong = [(f"row {r.number} ({r.name})", x) for r in read.rows for x in r.problems]
        count = len(read.rows)
    for name, problem in wrong:
        typer.echo(f"{name}, {problem.field}: {problem.text}")
    typer.echo(f"{count} parts, {len(wrong)} figures that cannot be true" if wrong else f"{count} parts make sense")
    raise typer.Exit(1 if wrong else 0)


app.command("check-parts")(check_parts)
merging.add(app)
handing.add(app, assess_file)
desktop.add(app)
for subject in subjects():
    if subject.commands:
        subject.load(subject.commands)(app, assess_file)
