"""Days as people type them, kept as 2026-11-28."""

import re
from datetime import date

from wired_union.project.errors import ProjectError

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
