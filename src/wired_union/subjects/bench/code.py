"""A calibration as C and as Python: from a reading to the quantity, inside its range, with its error."""

from wired_union.project.change import plain
from wired_union.subjects.bench.calibrations import Calibrated

C_FORM = {
    "power": "{a} * pow(x, {b})", "exponential": "{a} * exp({b} * x)", "saturating": "{a} * -expm1(-{b} * x)",
    "reciprocal": "{a} + {b} / (x + {c})",
}  # fmt: skip


class NoCode(ValueError):
    """A calibration that cannot be written; the text says what lacks."""


def name_of(c: Calibrated) -> str:
    """An identifier of its name."""
    made = "".join(ch if ch.isascii() and ch.isalnum() else "_" for ch in c.calibration.name.lower()).strip("_")
    return f"{made}_of" if made and not made[0].isdigit() else f"cal_{made}_of"


def _table(c: Calibrated) -> tuple[list[str], list[str]]:
    """Places of a table, and what the sensor says at each."""
    assert c.fit is not None
    figures = [repr(v) for v in c.fit.coefficients]
    return figures[: len(figures) // 2], figures[len(figures) // 2 :]


def _c_body(c: Calibrated) -> str:
    if c.form != "table":
        return f"return {_formula(c)};"
    at, says = _table(c)
    return (f"static const double at[] = {{{', '.join(at)}}}, says[] = {{{', '.join(says)}}};"
            f" int n = 1; while (n < {len(at) - 1} && x >= at[n]) n++;"
            " return says[n - 1] + (x - at[n - 1]) * ((says[n] - says[n - 1]) / (at[n] - at[n - 1]));")  # fmt: skip


def _python_body(c: Calibrated) -> str:
    if c.form != "table":
        formula = _formula(c)
        for word in ("pow", "expm1"):
            formula = formula.replace(f"{word}(", f"math.{word}(")
        return f"return {formula.replace(' exp(', ' math.exp(') if c.form == 'exponential' else formula}"
    at, says = _table(c)
    return (f"at, says = ({', '.join(at)}), ({', '.join(says)})\n"
            f"    n = min(max(sum(x >= v for v in at), 1), {len(at) - 1})\n"
            "    return says[n - 1] + (x - at[n - 1]) * ((says[n] - says[n - 1]) / (at[n] - at[n - 1]))")  # fmt: skip


def _formula(c: Calibrated) -> str:
    assert c.fit is not None
    figures = [repr(v) for v in c.fit.coefficients]
    if c.form in C_FORM:
        return C_FORM[c.form].format(**dict(zip("abc", (f"({f})" for f in figures), strict=False)))
    return " + ".join(f"({f})" + " * x" * n for n, f in enumerate(figures))


def _checked(c: Calibrated) -> tuple[float, float, float]:
    """Both ends and the error. Raises NoCode where there is no function to write."""
    if c.fit is None or c.worst is None:
        raise NoCode(f"{c.missing[0] if c.missing else c.calibration.name}. Nothing was written.")
    return (*c.ends, c.worst)


def _said(c: Calibrated) -> str:
    low, high, worst = _checked(c)
    unit = " ".join(plain(c.calibration.unit).split())
    text = f"{plain(c.calibration.name)}, {low:g} to {high:g} {unit}, off by {worst:.3g} {unit} at the most"
    return " ".join(text.split()).replace("*/", "* /").replace("\\", "/").replace('"', "'")


def c_code(c: Calibrated) -> str:
    """A header with one function; NAN outside its range. Raises NoCode."""
    low, high, worst = _checked(c)
    name = name_of(c)
    guard = f"CALIBRATION_{name.upper()}_H"
    return f"""/* {_said(c)} ({c.calibration.confidence:.0%} of readings). Written by Wired Union. */
#ifndef {guard}
#define {guard}
#include <math.h>

#define {name.upper()}_LOW ({low!r})
#define {name.upper()}_HIGH ({high!r})
#define {name.upper()}_ERROR ({worst!r})

static inline double {name}_reading(double x) {{ {_c_body(c)} }}

/* The quantity that gives a reading; NAN where none of its range does. */
static inline double {name}(double reading) {{
    double low = {name.upper()}_LOW, high = {name.upper()}_HIGH;
    double at_low = {name}_reading(low), at_high = {name}_reading(high);
    int n, rises = at_high > at_low;
    if (!(reading >= (rises ? at_low : at_high) && reading <= (rises ? at_high : at_low))) return NAN;
    for (n = 0; n < 60; n++) {{
        double middle = (low + high) / 2;
        if (({name}_reading(middle) < reading) == rises) low = middle; else high = middle;
    }}
    return (low + high) / 2;
}}

#endif
"""


def python_code(c: Calibrated) -> str:
    """A module with one function; None outside its range. Raises NoCode."""
    low, high, worst = _checked(c)
    return f'''"""{_said(c)} ({c.calibration.confidence:.0%} of readings). Written by Wired Union."""

import math

LOW, HIGH, ERROR = {low!r}, {high!r}, {worst!r}


def sensor_says(x):
    """What the sensor says of a quantity."""
    {_python_body(c)}


def {name_of(c)}(reading):
    """The quantity that gives a reading; None where none of its range does."""
    low, high = LOW, HIGH
    at_low, at_high = sensor_says(low), sensor_says(high)
    if not min(at_low, at_high) <= reading <= max(at_low, at_high):
        return None
    for _ in range(60):
        middle = (low + high) / 2
        if (sensor_says(middle) < reading) == (at_high > at_low):
            low = middle
        else:
            high = middle
    return (low + high) / 2
'''
