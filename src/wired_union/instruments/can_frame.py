"""A figure in the frames of a CAN bus: of one identifier some bytes, as a whole number times a factor."""

from typing import Any

from wired_union.instruments.door import NoReading

WAITS_S = 2.0


class CanFrame:
    """Waits for frames of one identifier. `interface` is the kind of adapter, as python-can names it."""

    def __init__(
        self, channel: str, identifier: int, *, interface: str = "socketcan", first_byte: int = 0, count: int = 2,
        factor: float = 1.0, signed: bool = True, big_endian: bool = True, waits_s: float = WAITS_S,
    ) -> None:  # fmt: skip
        self.channel, self.identifier, self.interface = channel.strip(), identifier, interface
        self.first_byte, self.count, self.factor, self.signed = first_byte, count, factor, signed
        self.big_endian, self.waits_s = big_endian, waits_s
        self._bus: Any = None

    @property
    def name(self) -> str:
        return f"CAN {self.channel} 0x{self.identifier:X}"

    def open(self) -> None:
        """Raises NoReading where there is no such adapter."""
        import can

        if not self.channel:
            raise NoReading("Say which bus: can0, vcan0.")
        try:
            self._bus = can.Bus(channel=self.channel, interface=self.interface)
        except Exception as error:  # each adapter's library raises its own
            raise NoReading(f"{self.channel} does not open: {str(error)[:120]}. Is the adapter up?") from error

    def read(self) -> float:
        """The figure of the next frame of that identifier. Raises NoReading where none comes in time."""
        import time

        if self._bus is None:
            raise NoReading(f"{self.channel} is not open.")
        end = time.monotonic() + self.waits_s
        while (left := end - time.monotonic()) > 0:
            try:
                frame = self._bus.recv(timeout=left)
            except Exception as error:
                raise NoReading(f"{self.channel} has gone: {str(error)[:120]}. What was read is kept.") from error
            if frame is not None and frame.arbitration_id == self.identifier and not frame.is_error_frame:
                return self._figure(bytes(frame.data))
        raise NoReading(f"{self.channel}: no frame 0x{self.identifier:X} in {self.waits_s:g} s.")

    def _figure(self, data: bytes) -> float:
        part = data[self.first_byte : self.first_byte + self.count]
        if len(part) < self.count:
            needs = self.first_byte + self.count
            raise NoReading(f"A frame 0x{self.identifier:X} of {len(data)} bytes came; {needs} are needed.")
        return int.from_bytes(part, "big" if self.big_endian else "little", signed=self.signed) * self.factor

    def close(self) -> None:
        bus, self._bus = self._bus, None
        if bus is not None:
            try:
                bus.shutdown()
            except Exception:  # it has gone already: nothing is left to close
                return


def frame_of(text: str) -> tuple[int, int, int, float]:
    """Identifier, first byte, bytes and factor from "0x123 0 2 0.01". Raises NoReading for what is none."""
    words = text.split()
    try:
        identifier = int(words[0], 0)
        first, count = (int(w) for w in (*words[1:3], *("0", "2")[len(words[1:3]) :]))
        factor = float(words[3]) if len(words) > 3 else 1.0
    except (ValueError, IndexError) as error:
        raise NoReading("Say the frame as 0x123 0 2 0.01: identifier, first byte, bytes, factor.") from error
    if not 0 <= identifier < 1 << 29 or not 0 <= first < 64 or not 1 <= count <= 8:
        raise NoReading("An identifier has up to 29 bits, a frame up to 64 bytes, a figure 1 to 8 of them.")
    return identifier, first, count, factor
