"""A serial line that prints text: a controller's own, a scale, a foot switch; also loop:// and socket:// addresses."""

import time
from typing import Any

from wired_union.instruments.door import NoReading
from wired_union.instruments.text_line import figure_in

WAITS_S, SLICE_S, MOST_BYTES = 2.0, 0.05, 4096
BAUDS = (9600, 19200, 38400, 57600, 115200, 230400, 921600)


class SerialLine:
    """Reads lines of text, and one number of each."""

    def __init__(self, address: str, baud: int = 115200, number: int = 1, waits_s: float = WAITS_S) -> None:
        self.address, self.baud, self.number, self.waits_s = address.strip(), baud, number, waits_s
        self._port: Any = None
        self._rest, self._gone = b"", False

    @property
    def name(self) -> str:
        return f"serial line {self.address}"

    def open(self) -> None:
        """Raises NoReading where there is no such line, or another program holds it."""
        import serial

        self._rest, self._gone = b"", False
        if not self.address:
            raise NoReading("Say which line: /dev/ttyUSB0, socket://host:port or loop://.")
        try:
            self._port = serial.serial_for_url(self.address, baudrate=self.baud, timeout=SLICE_S, exclusive=None)
        except (serial.SerialException, OSError, ValueError) as error:
            raise NoReading(
                f"{self.address} does not open: {error}. Is it plugged in, and no other program at it?"
            ) from error

    def line(self) -> str:
        """The next whole line. Raises NoReading where none comes in time, or the line has gone."""
        end = time.monotonic() + self.waits_s
        while b"\n" not in self._rest:
            if time.monotonic() > end:
                raise NoReading(f"{self.address}: no line in {self.waits_s:g} s. Is its speed {self.baud} baud?")
            self._rest += self._more()
            if len(self._rest) > MOST_BYTES:
                self._rest = b""
                raise NoReading(f"{self.address} sends no line ends. Is its speed {self.baud} baud?")
        line, _, self._rest = self._rest.partition(b"\n")
        return line.decode("utf-8", errors="replace").strip()

    def is_there(self) -> bool:
        """Whether the line still stands, though nothing came."""
        return self._port is not None and not self._gone

    def _more(self) -> bytes:
        import serial

        if self._port is None:
            raise NoReading(f"{self.address} is not open.")
        try:
            return bytes(self._port.read(max(1, self._port.in_waiting)))
        except (serial.SerialException, OSError, TypeError, AttributeError) as error:  # gone while it was read
            self._gone = True
            raise NoReading(f"{self.address} has gone: {error}. What was read is kept; plug it in again.") from error

    def read(self) -> float:
        """The number wanted of the next line."""
        return figure_in(self.line(), self.number)

    def send(self, text: str) -> None:
        """A line to the device. Raises NoReading where it has gone."""
        import serial

        try:
            self._port.write(text.encode() + b"\n")
        except (serial.SerialException, OSError, AttributeError) as error:
            raise NoReading(f"{self.address} has gone: {error}.") from error

    def close(self) -> None:
        port, self._port = self._port, None
        if port is not None:
            try:
                port.close()
            except Exception:  # it has gone already: nothing is left to close
                return


def lines_here() -> list[tuple[str, str]]:
    """Serial lines of this machine: address and what it says it is."""
    from serial.tools import list_ports

    return [(p.device, p.description or p.device) for p in list_ports.comports()]
