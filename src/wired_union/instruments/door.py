"""What every instrument can do."""

from typing import Protocol

from wired_union.errors import PlainError


class NoReading(PlainError):
    """An instrument that gives no figure; the text says why, and what to do."""


class Door(Protocol):
    """One instrument, real or simulated. It is opened by the thread that reads it, and closed by it."""

    @property
    def name(self) -> str:
        """What stands beside a reading: "serial line /dev/ttyUSB0"."""
        ...

    def open(self) -> None:
        """Begin. Raises NoReading where it is not there."""
        ...

    def read(self) -> float:
        """One figure, as soon as there is one. Raises NoReading where none comes in time, or nonsense does."""
        ...

    def close(self) -> None:
        """End; never raises, also where it was never opened or has gone."""
        ...
