"""The command that compares concepts."""

import typer

from wired_union.kernel.concepts import assess_all
from wired_union.project.concept_edits import said
from wired_union.subjects.concepts.compare import open_questions
from wired_union.subjects.concepts.weighing import weigh_up
from wired_union.terminal import AsJson, AssessFile, ProjectFile, number, print_json


def add(app: typer.Typer, assess_file: AssessFile) -> None:
    """Add the commands to the command line."""

    @app.command()
    def concepts(file: ProjectFile, as_json: AsJson = False) -> None:
        """Compare every concept on every limit."""
        assessment = assess_file(file)
        project, assessments = assessment.project, assess_all(assessment, {})
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
