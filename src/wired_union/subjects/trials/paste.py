"""Runs from a sheet or the clipboard: a run a line, the result first, then version, condition, setting, note."""

from wired_union.project.errors import ProjectError
from wired_union.project.pasted import rows_of
from wired_union.project.trial_model import Trial
from wired_union.units import parse

GOOD = {"good", "pass", "passed", "yes", "y", "ok", "g", "1", "true"}
BAD = {"bad", "fail", "failed", "no", "n", "b", "0", "false"}
COLUMNS = ("result", "version", "condition", "setting", "note", "by", "on")
OTHER_NAMES = {"value": "result", "run": "result", "who": "by", "date": "on", "day": "on"}


def read_runs(trial: Trial, text: str) -> list[dict[str, object]]:
    """Runs as figures for `add_runs`. A first line of names says which column is which.

    Raises ProjectError with the number of the first line that makes no sense.
    """
    rows = rows_of(text)
    if not rows:
        raise ProjectError("There is no run in it. A run a line: good or bad, or what was measured.")
    named = [OTHER_NAMES.get(c.strip().lower(), c.strip().lower()) for c in rows[0]]
    if "result" in named:
        columns, rows, first = named, rows[1:], 2
    else:
        columns, first = list(COLUMNS), 1
    return [_row(trial, dict(zip(columns, row, strict=False)), n) for n, row in enumerate(rows, first)]


def _row(trial: Trial, cells: dict[str, str], number: int) -> dict[str, object]:
    texts = {k: v.strip() for k, v in cells.items()}
    figures: dict[str, object] = {k: texts[k] for k in ("version", "condition", "note", "by", "on") if texts.get(k)}
    result = texts.get("result", "")
    try:
        if trial.counts != "pass or fail":
            figures["value"] = parse(result, trial.unit)
        elif result.lower() in GOOD | BAD:
            figures["good"] = result.lower() in GOOD
        else:
            raise ProjectError(f"“{result}” is neither good nor bad.")
        if texts.get("setting"):
            figures["setting"] = parse(texts["setting"], "")
    except (ProjectError, ValueError) as error:
        raise ProjectError(f"Line {number}: {error} Nothing was taken.") from error
    return figures
