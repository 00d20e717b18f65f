"""Figures in a line of text, as small devices print them: "t=1200 salinity: 1.42 V"."""

import re

from wired_union.instruments.door import NoReading

NUMBER = re.compile(r"[-+]?(?:\d+(?:[.,]\d+)?|[.,]\d+)(?:[eE][-+]?\d+)?")
LONGEST = 60


def figure_in(line: str, number: int) -> float:
    """One of the numbers of a line, counted from 1. Raises NoReading where it has not so many."""
    found = NUMBER.findall(line)
    if not 1 <= number <= len(found):
        shown = line.strip()[:LONGEST]
        have = f"{len(found)} number{'s' if len(found) != 1 else ''}" if found else "no number"
        raise NoReading(f"It said “{shown}”, which holds {have}; number {number} is wanted.")
    return float(found[number - 1].replace(",", "."))
