"""Rows of a sheet that was pasted or saved as text."""


def rows_of(text: str) -> list[list[str]]:
    """Cells by rows that hold anything; between them stand tabs of a sheet, semicolons, else commas."""
    import csv
    import io

    line = text.strip().split("\n", 1)[0]
    mark = next((m for m in ("\t", ";") if m in line), ",")
    rows = csv.reader(io.StringIO(text.strip("\ufeff")), delimiter=mark)
    return [row for row in rows if any(cell.strip() for cell in row)]
