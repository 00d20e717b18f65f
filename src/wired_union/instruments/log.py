"""A log of one instrument: readings with their times, kept in a file as they come, drawn by least and most."""

import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any, Protocol

from wired_union.instruments.door import Door, NoReading

BATCH_S = 0.02
"""How often what was read is told; 50 times a second is more often than anyone sees."""
FIRST, GROWS = 4096, 2
FLUSH_S = 1.0
WRONG_IN_A_ROW = 5
"""Answers without a figure after which an instrument is taken to be wrong rather than late."""


class Log:
    """Readings of one instrument, in their order; the file, where one is given, has each a second after it came."""

    def __init__(self, name: str, unit: str, path: Path | None = None) -> None:
        import numpy as np

        self.name, self.unit, self.path = name, unit, path
        self._t, self._v = np.empty(FIRST), np.empty(FIRST)
        self.count, self.wrong, self.said = 0, 0, ""

    def add(self, at_s: float, value: float) -> None:
        """One reading more."""
        if self.count == len(self._t):
            import numpy as np

            self._t, self._v = (np.resize(a, GROWS * len(a)) for a in (self._t, self._v))
        self._t[self.count], self._v[self.count] = at_s, value
        self.count += 1

    @property
    def times_s(self) -> Any:
        return self._t[: self.count]

    @property
    def values(self) -> Any:
        return self._v[: self.count]

    @property
    def mean(self) -> float | None:
        """Of all readings; None without one."""
        return float(self.values.mean()) if self.count else None

    @property
    def spread(self) -> float | None:
        """Standard deviation of single readings; None below two."""
        return float(self.values.std(ddof=1)) if self.count > 1 else None

    def columns(self, count: int) -> tuple[Any, Any, Any]:
        """Time, least and most of each of so many stretches of equally many readings, fewer where there are fewer."""
        import numpy as np

        n = self.count
        count = max(min(count, n), 1)
        edges = np.arange(count) * n // count
        v = self.values
        return self.times_s[edges], np.minimum.reduceat(v, edges), np.maximum.reduceat(v, edges)


class Clock(Protocol):
    """What tells the time while an instrument is read."""

    def monotonic(self) -> float: ...

    def sleep(self, seconds: float, /) -> None: ...


def record(door: Door, log: Log, *, seconds: float, period_s: float, clock: Clock = time) -> Iterator[int]:
    """Read an instrument for so long, telling the number of readings a few times a second.

    A wrong answer now and then is counted and left out; after some in a row, or when the instrument has gone, it ends
    with the reason in `log.said`, and what was read stays. The instrument is closed in any case.

    Raises NoReading where it gave nothing at all.
    """
    try:
        door.open()
        with _Kept(log) as kept:
            yield from _read_on(door, log, kept, seconds, period_s, clock)
    finally:
        door.close()
    if not log.count:
        raise NoReading(log.said or f"{log.name} gave no reading.")


def _read_on(
    door: Door, log: Log, kept: "_Kept", seconds: float, period_s: float, clock: Clock
) -> Iterator[int]:  # fmt: skip
    begin = clock.monotonic()
    told, due, wrong = begin, begin, 0
    while clock.monotonic() - begin < seconds:
        try:
            value = door.read()
        except NoReading as error:
            log.said, wrong, log.wrong = str(error), wrong + 1, log.wrong + 1
            if wrong >= WRONG_IN_A_ROW:
                return
        else:
            wrong = 0
            kept.add(clock.monotonic() - begin, value)
        due += period_s
        now = clock.monotonic()
        if now - told >= BATCH_S:
            told = now
            yield log.count
        if due > now:
            clock.sleep(due - now)
        elif now - due > 1.0:  # it answers slower than it is asked: no backlog
            due = now
    yield log.count


class _Kept:
    """The log's file while it is written; one that cannot be written is said and costs no reading."""

    def __init__(self, log: Log) -> None:
        self._log, self._flushed = log, 0.0
        self._file: Any = None

    def __enter__(self) -> "_Kept":
        path = self._log.path
        if path is not None:
            try:
                path.parent.mkdir(parents=True, exist_ok=True)
                self._file = path.open("w", encoding="utf-8")
                self._file.write(f"time in s,{self._log.name} in {self._log.unit or '1'}\n")
            except OSError as error:
                self._log.said, self._file = f"The log is not kept in a file: {error}.", None
        return self

    def add(self, at_s: float, value: float) -> None:
        self._log.add(at_s, value)
        if self._file is None:
            return
        try:
            self._file.write(f"{at_s:.6f},{value!r}\n")
            if at_s - self._flushed >= FLUSH_S:
                self._file.flush()
                self._flushed = at_s
        except OSError as error:
            self._log.said, self._file = f"The log is no longer kept in a file: {error}.", None

    def __exit__(self, *_: object) -> None:
        if self._file is not None:
            self._file.close()


def take_one(door: Door) -> float:
    """One reading of an instrument that is opened and closed for it. Raises NoReading."""
    try:
        door.open()
        return door.read()
    finally:
        door.close()
