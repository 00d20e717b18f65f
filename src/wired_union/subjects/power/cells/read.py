"""A measured discharge from a table: time, volts and amperes, in whatever order and unit the headings say."""

import numpy as np

from wired_union import units
from wired_union.physics.battery import Array
from wired_union.project.errors import ProjectError

WORDS = {"s": ("time", "t", "s", "sec", "min", "h"), "V": ("voltage", "volt", "volts", "v", "u"),
         "A": ("current", "ampere", "amperes", "amps", "a", "i")}  # fmt: skip
MOST_LINES = 500_000


def discharge_of(text: str) -> tuple[Array, Array, Array]:
    """Times in s, volts and amperes from lines with tabs, semicolons or commas between the cells.

    Raises ProjectError for a table without the three columns, or a cell that is no number.
    """
    lines = [x for x in text.splitlines() if x.strip()]
    if len(lines) < 2:
        raise ProjectError("There is no table: time, volts and amperes, a line for each reading.")
    if len(lines) > MOST_LINES:
        raise ProjectError(f"{len(lines)} lines are more than {MOST_LINES}; every tenth reading is enough.")
    mark = next((m for m in ("\t", ";", ",") if m in lines[0]), None)
    if mark is None:
        raise ProjectError("Put tabs, semicolons or commas between time, volts and amperes.")
    head = [x.strip() for x in lines[0].split(mark)]
    columns = _columns(head)
    body = lines if columns is None else lines[1:]
    where, scale = columns or ([0, 1, 2], [1.0, 1.0, 1.0])
    table = [[_number(cells, n, k, line) for k, n in enumerate(where)]
             for line, x in enumerate(body, 1 if columns is None else 2) for cells in [x.split(mark)]]  # fmt: skip
    found = np.array(table) * np.array(scale)
    return found[:, 0], found[:, 1], found[:, 2]


def _columns(head: list[str]) -> tuple[list[int], list[float]] | None:
    """Which column is which, and what it is multiplied with; None where the first line is figures already."""
    if all(_is_number(x) for x in head[:3]) and len(head) >= 3:
        return None
    where, scale = [], []
    for unit, names in WORDS.items():
        n = next((k for k, x in enumerate(head) if _named(x)[0] in names), None)
        if n is None:
            missing = {"s": "time", "V": "volts", "A": "amperes"}[unit]
            raise ProjectError(f"No column is called {missing}. The first line is: {', '.join(head)}.")
        where.append(n)
        scale.append(_factor(_named(head[n]), unit))
    return where, scale


def _named(heading: str) -> tuple[str, str]:
    """A heading's first word, and the unit behind it: "Time (min)" is time in min."""
    words = heading.replace("(", " ").replace(")", " ").replace("[", " ").replace("]", " ").replace("/", " ").split()
    return (words[0].lower() if words else "", words[-1] if len(words) > 1 else "")


def _factor(named: tuple[str, str], unit: str) -> float:
    word, said = named
    for text in (said, word):
        try:
            return units.parse(f"1 {text}", unit) if text else 1.0
        except units.UnitError:
            continue
    return 1.0


def _is_number(text: str) -> bool:
    try:
        float(text.replace(",", "."))
    except ValueError:
        return False
    return True


def _number(cells: list[str], n: int, k: int, line: int) -> float:
    what = ("a time", "volts", "amperes")[k]
    try:
        found = float(cells[n].strip().replace(",", "."))
    except (ValueError, IndexError) as error:
        raise ProjectError(f"Line {line}: {what} is missing or no number.") from error
    if not np.isfinite(found) or abs(found) > 1e9:
        raise ProjectError(f"Line {line}: {what} cannot be {found:g}.")
    return found
