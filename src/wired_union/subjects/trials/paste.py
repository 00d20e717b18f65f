"""Runs from a sheet or the clipboard: a run a line, the result first, then version, condition, setting, note."""

import re

from wired_union.project.errors import ProjectError
from wired_union.project.pasted import rows_of
from wired_union.project.trial_model import Trial
from wired_union.units import parse

GOOD = {"good", "pass", "passed", "yes", "y", "ok", "g", "1", "true"}
BAD = {"bad", "fail", "failed", "no", "n", "b", "0", "false"}
HIGH, LOW = {"+", "+1", "1", "2", "high", "yes"}, {"-", "−", "-1", "−1", "0", "low", "no"}
COLUMNS = ("result", "version", "condition", "setting", "note", "by", "on")
OTHER_NAMES = {
    "value": "result",
    "run": "result",
    "arrived": "received",
    "distance": "setting",
    "snr": "signal",
    "taken for": "seen",
    "who": "by",
    "date": "on",
    "day": "on",
}


def read_runs(trial: Trial, text: str) -> list[dict[str, object]]:
    """Runs as figures for `add_runs`. A first line of names says which column is which.

    Raises ProjectError with the number of the first line that makes no sense.
    """
    rows = rows_of(text)
    if not rows:
        raise ProjectError("There is no run in it. A run a line: good or bad, or what was measured.")
    named = [OTHER_NAMES.get(c.strip().lower(), c.strip().lower()) for c in rows[0]]
    if {"result", "received", "seen"} & set(named):
        columns, rows, first = named, rows[1:], 2
    else:
        columns, first = list(COLUMNS), 1
    return [_row(trial, dict(zip(columns, row, strict=False)), n) for n, row in enumerate(rows, first)]


def _row(trial: Trial, cells: dict[str, str], number: int) -> dict[str, object]:
    texts = {k: v.strip() for k, v in cells.items()}
    kept = ("version", "condition", "note", "by", "on", "picture")
    figures: dict[str, object] = {k: texts[k] for k in kept if texts.get(k)}
    try:
        figures |= _result(trial, texts) | _levels(trial, texts)
        if texts.get("setting"):
            figures["setting"] = parse(texts["setting"], "")
    except (ProjectError, ValueError) as error:
        raise ProjectError(f"Line {number}: {error} Nothing was taken.") from error
    return figures


def _result(trial: Trial, texts: dict[str, str]) -> dict[str, object]:
    """What came of the run, by what counts in the trial. Raises ProjectError or ValueError."""
    result = texts.get("result", "")
    if trial.counts == "packets":
        received, sent = packets_read(
            f"{texts['received']} of {texts.get('sent', '')}" if "received" in texts else result
        )
        signal = {"value": parse(texts["signal"], "dB")} if texts.get("signal") else {}
        return {"received": received, "sent": sent, **signal}
    if trial.counts == "what is seen":
        return {"was": texts.get("was", ""), "seen": texts.get("seen", result)}
    if trial.counts != "pass or fail":
        return {"value": parse(result, trial.unit)}
    if result.lower() not in GOOD | BAD:
        raise ProjectError(f"“{result}” is neither good nor bad.")
    return {"good": result.lower() in GOOD}


def _levels(trial: Trial, texts: dict[str, str]) -> dict[str, object]:
    """Levels of the two-level settings, from columns that are called like them."""
    named = [texts.get(f.name.strip().lower()) for f in trial.factors]
    if not any(named):
        return {}
    found: list[bool] = []
    for factor, text in zip(trial.factors, named, strict=True):
        word = (text or "").lower()
        if word in {factor.high.lower()} | HIGH:
            found.append(True)
        elif word in {factor.low.lower()} | LOW:
            found.append(False)
        else:
            raise ProjectError(f"“{text or ''}” is no level of {factor.name}: {factor.low} or {factor.high}.")
    return {"levels": tuple(found)}


def packets_read(text: str) -> tuple[int, int]:
    """Packets that arrived, and that were sent: "97 of 100", "97/100". Raises ValueError for what is neither."""
    found = re.fullmatch(r"\s*(\d+)\s*(?:of|/|,|;|\s)\s*(\d+)\s*", text)
    if found is None:
        raise ValueError(f"“{text.strip()}” does not say how many of how many: 97 of 100.")
    return int(found[1]), int(found[2])
