"""How long bytes take on a wire."""

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import I2C


class TransferTime(Struct, frozen=True):
    time_s: float


@method(
    "uart-time",
    source="start, data, parity and stop bits at the baud rate",
    checked="the longest NMEA 0183 sentence",
    limits="no gap between bytes",
)
def uart_time(bytes: int, baud: float, bits_per_byte: float = 10) -> TransferTime:
    """Time for bytes on an asynchronous serial line.

    Args:
        bytes: how many bytes
        baud: line speed in bits per second
        bits_per_byte: bits on the line for each byte, 10 for 8N1
    Returns:
        time_s: from the first start bit to the last stop bit
    Raises:
        ValueError: a negative count or a speed that is not above zero.
    """
    require(bytes >= 0 and bits_per_byte > 0, "bytes are 0 or more, bits per byte above 0")
    require(baud > 0, "baud rate is above 0")
    return TransferTime(bytes * bits_per_byte / baud)


@method(
    "i2c-time",
    source="9 clocks a byte with its acknowledge, start and stop",
    works=(I2C,),
    checked="values worked by hand",
    limits="no clock stretching; start, repeated start and stop counted as one clock each",
)
def i2c_time(
    bytes_each_transfer: int, clock_hz: float, transfers: int = 1, register_bytes: int = 0
) -> TransferTime:  # fmt: skip
    """Time for transfers on an I²C bus, the address byte included in each.

    A read of a register first writes which one, then starts again and reads: give how many bytes name it.

    Args:
        bytes_each_transfer: data bytes of one transfer, without the address
        clock_hz: clock of the bus
        transfers: how many transfers
        register_bytes: bytes that name the register before a read, 0 where nothing is written first
    Returns:
        time_s: from the first start to the last stop
    Raises:
        ValueError: a negative count or a clock that is not above zero.
    """
    require(bytes_each_transfer >= 0 and transfers >= 0, "bytes and transfers are 0 or more")
    require(clock_hz > 0 and register_bytes >= 0, "clock is above 0, register bytes are 0 or more")
    naming = 9 * (register_bytes + 1) + 1 if register_bytes else 0
    return TransferTime(transfers * (naming + 9 * (bytes_each_transfer + 1) + 2) / clock_hz)


@method(
    "spi-time",
    source="8 clocks a byte",
    checked="values worked by hand",
    limits="no gap between bytes; chip select not counted",
)
def spi_time(bytes_each_transfer: int, clock_hz: float, transfers: int = 1) -> TransferTime:
    """Time for transfers on an SPI bus.

    Args:
        bytes_each_transfer: bytes of one transfer
        clock_hz: clock of the bus
        transfers: how many transfers
    Returns:
        time_s: clocked time
    Raises:
        ValueError: a negative count or a clock that is not above zero.
    """
    require(bytes_each_transfer >= 0 and transfers >= 0, "bytes and transfers are 0 or more")
    require(clock_hz > 0, "clock is above 0")
    return TransferTime(transfers * 8 * bytes_each_transfer / clock_hz)
