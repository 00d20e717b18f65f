"""A surface as C and as Python: from two inputs to the quantity, inside its range, with its error."""

from wired_union.project.change import plain
from wired_union.subjects.bench.code import NoCode
from wired_union.subjects.bench.surfaces import Surfaced

TERMS = ("1.0", "x", "y", "x * y", "x * x", "y * y")


def surface_name(s: Surfaced) -> str:
    """An identifier of its name."""
    made = "".join(ch if ch.isascii() and ch.isalnum() else "_" for ch in s.surface.name.lower()).strip("_")
    return f"{made}_at" if made and not made[0].isdigit() else f"map_{made}_at"


def _parts(s: Surfaced) -> tuple[str, str, tuple[float, float], tuple[float, float], float]:
    if s.fit is None:
        raise NoCode(f"{s.missing[0] if s.missing else s.surface.name}. Nothing was written.")
    formula = " + ".join(f"({c!r}) * {t}" for c, t in zip(s.fit.coefficients, TERMS, strict=False))
    said = " ".join(f"{plain(s.surface.name)}, off by {s.fit.worst:.3g} {plain(s.surface.unit)} at the most".split())
    return formula, said.replace("*/", "* /").replace("\\", "/").replace('"', "'"), *s.ends, s.fit.worst


def surface_c(s: Surfaced) -> str:
    """A header with one function; NAN outside its range. Raises NoCode."""
    formula, said, (x0, x1), (y0, y1), worst = _parts(s)
    name = surface_name(s)
    return f"""/* {said} ({s.surface.confidence:.0%} of readings). Written by Wired Union. */
#ifndef SURFACE_{name.upper()}_H
#define SURFACE_{name.upper()}_H
#include <math.h>

#define {name.upper()}_ERROR ({worst!r})

/* NAN outside {x0:g} to {x1:g} and {y0:g} to {y1:g}. */
static inline double {name}(double x, double y) {{
    if (!(x >= {x0!r} && x <= {x1!r} && y >= {y0!r} && y <= {y1!r})) return NAN;
    return {formula};
}}

#endif
"""


def surface_python(s: Surfaced) -> str:
    """A module with one function; None outside its range. Raises NoCode."""
    formula, said, (x0, x1), (y0, y1), worst = _parts(s)
    return f'''"""{said} ({s.surface.confidence:.0%} of readings). Written by Wired Union."""

ERROR = {worst!r}


def {surface_name(s)}(x, y):
    """None outside {x0:g} to {x1:g} and {y0:g} to {y1:g}."""
    if not ({x0!r} <= x <= {x1!r} and {y0!r} <= y <= {y1!r}):
        return None
    return {formula}
'''
