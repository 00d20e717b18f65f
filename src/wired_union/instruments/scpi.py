"""Bench instruments that are asked in SCPI (IEEE 488.2): a meter, a supply, a scope, over a line or the network."""

from typing import Any

from wired_union.instruments.door import NoReading
from wired_union.instruments.text_line import figure_in

WAITS_MS = 2000
QUESTIONS = (
    ("MEAS:VOLT:DC?", "voltage"), ("MEAS:CURR:DC?", "current"), ("MEAS:RES?", "resistance"), ("READ?", "as it is set"),
)  # fmt: skip
BEYOND = 9.9e37
"""What SCPI instruments answer where a figure is beyond their range or none (SCPI-99, volume 1, from memory)."""


class Scpi:
    """Asks one question, again and again. `backend` is the library that speaks: its own in Python, or a simulation."""

    def __init__(self, address: str, question: str = "MEAS:VOLT:DC?", backend: str = "@py") -> None:
        self.address, self.question, self.backend = address.strip(), question.strip(), backend
        self._manager: Any = None
        self._instrument: Any = None

    @property
    def name(self) -> str:
        return f"SCPI {self.address}"

    def open(self) -> None:
        """Raises NoReading where there is no such instrument."""
        import pyvisa

        if not self.address:
            raise NoReading("Say which instrument: TCPIP::192.168.0.20::INSTR, or ASRL/dev/ttyUSB0::INSTR.")
        try:
            self._manager = pyvisa.ResourceManager(self.backend)
            self._instrument = self._manager.open_resource(self.address)
            self._instrument.timeout = WAITS_MS
            self._instrument.read_termination = self._instrument.write_termination = "\n"
        except Exception as error:  # pyvisa's backends raise whatever their libraries do
            self.close()
            raise NoReading(
                f"{self.address} does not open: {_short(error)}. Is it on, and is its address right?"
            ) from error

    def read(self) -> float:
        """What it answers. Raises NoReading where it does not, or says that it is out of range."""
        if self._instrument is None:
            raise NoReading(f"{self.address} is not open.")
        try:
            answer = str(self._instrument.query(self.question))
        except Exception as error:
            raise NoReading(f"{self.address} does not answer “{self.question}”: {_short(error)}.") from error
        value = figure_in(answer, 1)
        if abs(value) >= BEYOND:
            raise NoReading(f"{self.address}: out of range. Choose a larger range on the instrument.")
        return value

    def close(self) -> None:
        instrument, manager = self._instrument, self._manager
        self._instrument = self._manager = None
        for part in (instrument, manager):
            if part is not None:
                try:
                    part.close()
                except Exception:  # it has gone already: nothing is left to close
                    continue


def _short(error: Exception) -> str:
    return str(error).strip().split("\n")[0][:120] or type(error).__name__
