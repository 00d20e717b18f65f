"""Points of a calibration from a sheet or the clipboard."""

from wired_union.project.bench_model import Calibration, Pair
from wired_union.project.errors import ProjectError
from wired_union.project.pasted import rows_of
from wired_union.units import parse


def read_pairs(calibration: Calibration, text: str) -> list[Pair]:
    """Points from a sheet: what it was, what the sensor said, and the sitting where there are several; a line of names
    may come first. Raises ProjectError with the number of the first line that makes no sense.
    """
    rows = rows_of(text)
    found: list[Pair] = []
    for number, row in enumerate(rows, 1):
        try:
            if len(row) < 2:
                raise ProjectError("a point is what it was, and what the sensor said.")
            known, reading = parse(row[0], calibration.unit), parse(row[1], calibration.reading_unit)
        except (ProjectError, ValueError) as error:
            if number == 1 and len(rows) > 1 and not any(c.strip()[:1].isdigit() for c in row[:2]):
                continue  # names of the columns
            raise ProjectError(f"Line {number}: {error} Nothing was taken.") from error
        found.append(Pair(known=known, reading=reading, session=row[2].strip() if len(row) > 2 else ""))
    return found
