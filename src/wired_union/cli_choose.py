"""Commands for choosing: concepts side by side, candidates of a slot, the best combination, and a check of parts."""

from pathlib import Path
from typing import Annotated, Any

import typer

from wired_union.cli_common import AsJson, ProjectFile, assess_project, number, print_json, read_project, stop


def add_commands(app: typer.Typer) -> None:
    """Add the commands of this file."""
    for command in (concepts, candidates, best):
        app.command()(command)
    app.command("check-parts")(check_parts)


def concepts(file: ProjectFile, as_json: AsJson = False) -> None:
    """Compare every concept on every limit."""
    from wired_union.assess.concepts import assess_all, open_questions
    from wired_union.choose.weighing import weigh_up
    from wired_union.project.concept_edits import said

    project = read_project(file)
    assessments = assess_all(project, {})
    weighing = weigh_up(project, assessments)
    if as_json:
        totals = {s.concept.id: s.total for s in weighing.standings}
        out = {s.concept.id: list(s.knocked_out) for s in weighing.standings}
        print_json({c.id: {
            "name": c.name, "at_work": c.id == project.concept.id,
            "retired": c.retired.why if c.retired is not None else None, "score": totals.get(c.id),
            "knocked_out": out.get(c.id, []),
            "measures": {m.id: {"value": number(m.value), "verdict": m.verdict.value}
                         for m in assessments[c.id].measures},
        } for c in project.concepts})  # fmt: skip
        return
    for concept in project.concepts:
        state = f"  retired: {concept.retired.why}" if concept.retired is not None else ""
        typer.echo(f"{said(concept)}{state}")
        for m in assessments[concept.id].measures:
            typer.echo(f"  {m.verdict.value:8} {m.label}: {m.shown}, {m.direction} {m.limit_shown}")
    for concept, question in open_questions(project):
        typer.echo(f"open     {concept.letter}: {question.question} {question.test} {question.date}".rstrip())


def candidates(
    file: ProjectFile, slot: Annotated[str, typer.Argument(help="Id of a part in place, or of a need.")],
    as_json: AsJson = False,
) -> None:  # fmt: skip
    """List what could fill a place, and every part refused with the requirement that refused it."""
    from wired_union.choose import candidates as choose
    from wired_union.project.errors import ProjectError

    assessment = assess_project(file)
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


def best(
    file: ProjectFile, slots: Annotated[str, typer.Argument(help="Ids of parts in place, with commas between.")],
    favour: Annotated[str, typer.Option(help="runtime, mass, money, or weights: runtime=1,mass=2.")] = "mass",
    as_json: AsJson = False,
) -> None:  # fmt: skip
    """Find the combination of parts that is proven best. Exit status 1 when none holds every limit."""
    from wired_union.choose import explain
    from wired_union.choose.combination import ask
    from wired_union.choose.search import search
    from wired_union.project.errors import ProjectError

    assessment = assess_project(file)
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


def _favour(text: str) -> Any:
    from wired_union.choose.combination import FAVOURED, Favour

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
