"""A foot switch, or any small device, on a serial line: every line that it prints is a run."""

from collections.abc import Iterator

from wired_union.instruments.door import NoReading
from wired_union.instruments.serial_line import SerialLine
from wired_union.instruments.text_line import figure_in
from wired_union.project.trial_model import Trial
from wired_union.subjects.trials.paste import BAD, GOOD

QUIET_S = 0.25


def presses(line: SerialLine) -> Iterator[str | None]:
    """Each line as it comes; None a few times a second while nothing does, so that it can be stopped.

    Raises NoReading where the line is not there, or has gone.
    """
    line.waits_s = QUIET_S
    try:
        line.open()
        yield None
        while True:
            try:
                said: str | None = line.line()
            except NoReading:
                if not line.is_there():
                    raise
                said = None
            yield said
    finally:
        line.close()


def run_of(trial: Trial, said: str) -> dict[str, bool | float]:
    """The run that a line stands for: its word, good where it was only pressed, or the number where one is measured.

    Raises NoReading for a line that is none.
    """
    if trial.counts != "pass or fail":
        return {"value": figure_in(said, 1)}
    word = said.strip().lower()
    if not word or word in GOOD:
        return {"good": True}
    if word in BAD:
        return {"good": False}
    raise NoReading(f"The switch said “{word[:40]}”, which is neither good nor bad.")
