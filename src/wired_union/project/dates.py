"""Days as people type them, kept as 2026-11-28."""

import re
from datetime import date

from wired_union.project.errors import ProjectError

YEARS = (1970, 2200)
"""Years of days that can be reckoned with."""
_DAY_FIRST = r"^(\d{1,2})[./ ](\d{1,2})[./ ](\d{4})$"


def checked_day(text: str) -> str:
    """A day as 2026-11-28, "" for none. Raises ProjectError for what is no day.

    "28.11.2026" and "28/11/2026" are read with the day first where that is the only way to read them.
    """
    plain = text.strip()
    if not plain:
        return ""
    try:
        return date.fromisoformat(plain).isoformat()
    except ValueError:
        pass
    if (found := re.match(_DAY_FIRST, plain)) is not None:
        first, second, year = (int(x) for x in found.groups())
        if first > 12 or first == second:
            try:
                return date(year, second, first).isoformat()
            except ValueError:
                pass
    raise ProjectError(f"“{plain}” is no day that can be read one way. Write it as 2026-11-28.")


def as_day(text: str) -> date | None:
    """The day that a text of the file says, None for none, what is no day, or one that nobody can plan for."""
    try:
        day = date.fromisoformat(text)
    except ValueError:
        return None
    return day if YEARS[0] <= day.year <= YEARS[1] else None


def days_between(first: date, text: str) -> int | None:
    """How many days after the first a day is, below 0 where it is before; None where the text says none."""
    day = as_day(text)
    return (day - first).days if day is not None else None


def shown_day(day: date) -> str:
    """ "19 Dec", as people say it."""
    return f"{day.day} {day:%b}"
