"""Time on air."""

import math
from typing import NamedTuple

from wired_union.physics.method import method, require


class Airtime(NamedTuple):
    symbol_time_s: float
    airtime_s: float


@method(
    "lora-airtime",
    source="Semtech AN1200.13 (2013), section 4",
    limits="low data rate optimisation on when a symbol lasts 16 ms or more",
)
def lora_airtime(
    spreading_factor: int,
    bandwidth_hz: float,
    payload_bytes: int,
    *,
    coding_rate: int = 1,
    preamble_symbols: float = 8,
    explicit_header: bool = True,
    crc: bool = True,
) -> Airtime:
    """Symbol time and time on air of one LoRa packet.

    Args:
        spreading_factor: 6 to 12
        bandwidth_hz: bandwidth of the channel
        payload_bytes: bytes of the payload, 0 to 255
        coding_rate: 1 to 4 for 4/5 to 4/8
        preamble_symbols: programmed preamble length
        explicit_header: whether the header is sent
        crc: whether the payload carries a checksum
    Returns:
        symbol_time_s: time of one symbol
        airtime_s: time of the whole packet
    Raises:
        ValueError: a figure outside what the modem takes.
    """
    require(6 <= spreading_factor <= 12, "spreading factor is 6 to 12")
    require(bandwidth_hz > 0 and 0 <= payload_bytes <= 255, "bandwidth is above 0, payload 0 to 255 bytes")
    require(1 <= coding_rate <= 4 and preamble_symbols >= 0, "coding rate is 1 to 4, preamble 0 or more")
    chips = 2**spreading_factor
    symbol = chips / bandwidth_hz
    slow = 2 if symbol >= 0.016 else 0
    bits = 8 * payload_bytes - 4 * spreading_factor + 28 + 16 * crc - 20 * (not explicit_header)
    blocks = max(math.ceil(bits / (4 * (spreading_factor - slow))), 0)
    symbols = preamble_symbols + 4.25 + 8 + blocks * (coding_rate + 4)
    return Airtime(symbol, symbols * chips / bandwidth_hz)
