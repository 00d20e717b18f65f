"""How long bytes take on a wire."""

import math

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import DAVIS_CAN, I2C, ISO_11898, ISO_11898_2


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


class FrameBits(Struct, frozen=True):
    bits: int


@method(
    "can-frame-bits",
    source="g + 8n + 13 + ⌊(g + 8n − 1)/4⌋, g = 34, or 54 with 29 bits of identity",
    works=(ISO_11898, DAVIS_CAN),
    checked="the longest frames, 135 and 160 bits, and a frame stuffed bit by bit",
    limits="classic frames with the most stuff bits, and the 3 bits between frames",
)
def can_frame_bits(data_bytes: int, extended: bool = False) -> FrameBits:
    """Most bits that a data frame takes on the bus, stuffed at the worst.

    Args:
        data_bytes: bytes of data, 0 to 8
        extended: whether its identity has 29 bits
    Returns:
        bits: of the frame and the pause after it
    Raises:
        ValueError: fewer than 0 or more than 8 bytes.
    """
    require(0 <= data_bytes <= 8, "a classic frame carries 0 to 8 bytes")
    named = 54 if extended else 34
    return FrameBits(named + 8 * data_bytes + 13 + (named + 8 * data_bytes - 1) // 4)


SLOT_S, RESET_S = 70e-6, 960e-6


@method(
    "one-wire-time",
    source="a reset of 960 µs, then a slot of 70 µs for each bit",
    checked="values worked by hand",
    limits="standard speed; a conversion that the device makes meanwhile is not in it",
)
def one_wire_time(bytes: int) -> TransferTime:
    """Time for bytes on a one-wire bus, the reset before them counted.

    Args:
        bytes: bytes sent and read, commands and identity included
    Returns:
        time_s: time on the wire
    Raises:
        ValueError: a negative count.
    """
    require(bytes >= 0, "bytes are 0 or more")
    return TransferTime(RESET_S + 8 * bytes * SLOT_S)


RISING = math.log(7 / 3)
"""Time constants from 0.3 to 0.7 of the supply: 0.8473."""


class PullUp(Struct, frozen=True):
    least_ohm: float
    most_ohm: float


@method(
    "i2c-pull-up",
    source="least: (supply − low level) over what a part sinks; most: rise time / (0.8473·capacitance), §7.1",
    works=(I2C,),
    checked="3.3 V, 400 pF, 300 ns, 0.4 V, 3 mA: 967 and 885 Ω, none fits",
    limits="one resistor a line, no series resistors; both where the least is above the most: none fits",
)
def i2c_pull_up(
    supply_voltage_v: float, bus_capacitance_f: float, rise_time_s: float, low_voltage_v: float, sink_current_a: float
) -> PullUp:  # fmt: skip
    """Resistors that pull a line of an I²C bus up in time, and that its parts can still pull down.

    Args:
        supply_voltage_v: that the lines are pulled up to
        bus_capacitance_f: of one line, wires and pins
        rise_time_s: that a rise from 0.3 to 0.7 of the supply may take
        low_voltage_v: at which a line counts as low
        sink_current_a: that every part can sink at that
    Returns:
        least_ohm: below it a part does not get the line down
        most_ohm: above it the line rises too slowly
    Raises:
        ValueError: a figure that is not above zero, or a low level that is not below the supply.
    """
    figures = min(supply_voltage_v, bus_capacitance_f, rise_time_s, low_voltage_v, sink_current_a)
    require(figures > 0, "voltages, capacitance, time and current are above 0")
    require(low_voltage_v < supply_voltage_v, "the low level is below the supply")
    return PullUp((supply_voltage_v - low_voltage_v) / sink_current_a, rise_time_s / (RISING * bus_capacitance_f))


I2C_MODES = ((100e3, 1000e-9, 0.003), (400e3, 300e-9, 0.003), (1e6, 120e-9, 0.02))
"""Up to which clock, how long a rise may take, and what every part can sink: NXP UM10204, table 10 (from memory)."""
I2C_LOW_V = 0.4
DELAY_S_PER_M = 5.0e-9
"""A signal takes 5 ns for a metre of cable: common practice, ISO 11898-2 (from memory)."""


class Reach(Struct, frozen=True):
    length_m: float


@method(
    "bus-reach",
    source="CAN: the way there and back with 250 ns of transceivers in 0.8 of a bit; SPI: there and back with 30 ns"
    " of its parts in half a clock",
    works=(ISO_11898_2,),
    checked="CAN 1 Mbit/s: 40 m of ISO 11898-2; 125 kbit/s: 500 m of common practice, from memory, within a third",
    limits="a bound of time alone: noise and ringing make it shorter",
)
def bus_reach(kind: str, clock_hz: float) -> Reach:
    """How long a bus may be before its signals come too late.

    Args:
        kind: can or spi
        clock_hz: its clock, or bits a second
    Returns:
        length_m: at the most, 0 where even its parts take too long
    Raises:
        ValueError: a kind that does not exist, or a clock that is not above 0.
    """
    require(kind in {"can", "spi"}, "kind is can or spi")
    require(clock_hz > 0, "clock is above 0")
    if kind == "can":
        return Reach(max(0.8 / clock_hz / 2 - 250e-9, 0.0) / DELAY_S_PER_M)
    return Reach(max(0.5 / clock_hz - 30e-9, 0.0) / 2 / DELAY_S_PER_M)


STEPS = (1.0, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2)
"""The E12 series of IEC 60063."""
SPARE = 0.9


def from_a_bag(fits: PullUp) -> float | None:
    """The resistor of the series nearest to the middle of what fits with something to spare; None where none does."""
    if not (0 < fits.least_ohm <= fits.most_ohm < math.inf):
        return None
    middle = math.sqrt(fits.least_ohm * fits.most_ohm)
    decade = 10.0 ** math.floor(math.log10(middle))
    sizes = [round(s * d, 6) for d in (decade / 10, decade, 10 * decade) for s in STEPS]
    able = [s for s in sizes if fits.least_ohm <= SPARE * s and s <= SPARE * fits.most_ohm]
    return min(able, key=lambda s: abs(math.log(s / middle)), default=None)
