"""The command that writes what the bench needs of the wiring."""

from pathlib import Path
from typing import Annotated

import typer

from wired_union.picture.shapes import Kit
from wired_union.project.documents import DocumentError, write_bytes
from wired_union.subjects.wiring import exports
from wired_union.subjects.wiring.bench_drawing import bench_pages, labels_picture, pages_pdf, pages_svg
from wired_union.subjects.wiring.pins import PINS
from wired_union.terminal import AssessFile, ProjectFile, stop

WHAT = ("drawing", "labels", "pins", "cut", "plugs")


def add(app: typer.Typer, assess_file: AssessFile) -> None:
    """Add the command to the command line."""

    @app.command()
    def wiring(
        file: ProjectFile,
        output: Annotated[Path, typer.Option("--output", "-o", help="Where to write.")],
        what: Annotated[
            str, typer.Option(help="Of .pdf and .svg: drawing or labels; of .csv: pins, cut or plugs.")
        ] = "",
        board: Annotated[
            str, typer.Option(help="Id of the controller whose pins are named; the first when empty.")
        ] = "",
    ) -> None:
        """Write the bench drawing (.pdf, .svg), a table (.csv), or the names of pins (.h, .py)."""
        assessment = assess_file(file)
        ending = output.suffix.lower()
        if what and what not in WHAT:
            stop(f"“{what}” is not known. It is one of {', '.join(WHAT)}.")
        if ending in {".pdf", ".svg"}:
            pages = (labels_picture if what == "labels" else bench_pages)(assessment, Kit())
            data = pages_pdf(pages) if ending == ".pdf" else pages_svg(pages).encode()
        elif ending == ".csv":
            tables = {"cut": exports.cut_list, "plugs": exports.connector_list}
            data = tables.get(what, exports.pin_table)(assessment).encode()
        elif ending in {".h", ".py"}:
            boards = assessment.of(PINS).boards()
            found = next((b for b in boards if not board or b.id == board), None)
            if found is None:
                stop(f"There is no such controller. There are: {', '.join(b.id for b in boards) or 'none'}.")
            data = (exports.c_header if ending == ".h" else exports.python_header)(assessment, found).encode()
        else:
            stop(f"“{output.name}”: give the file one of the endings .pdf, .svg, .csv, .h, .py.")
        try:
            write_bytes(output, data)
        except DocumentError as error:
            stop(str(error))
        typer.echo(f"{output} written")
