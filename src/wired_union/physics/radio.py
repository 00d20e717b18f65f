"""Time on air."""

import math

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import LORA


class Airtime(Struct, frozen=True):
    symbol_time_s: float
    airtime_s: float


@method(
    "lora-airtime",
    works=(LORA,),
    checked="values worked by hand",
    limits="low data rate optimisation on when a symbol lasts 16 ms or more;"
    " spreading factors 5 and 6 by the SX1261/2 data sheet, 6.1.4, from memory",
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
        spreading_factor: 5 to 12
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
    require(5 <= spreading_factor <= 12, "spreading factor is 5 to 12")
    require(bandwidth_hz > 0 and 0 <= payload_bytes <= 255, "bandwidth is above 0, payload 0 to 255 bytes")
    require(1 <= coding_rate <= 4 and preamble_symbols >= 0, "coding rate is 1 to 4, preamble 0 or more")
    low = spreading_factor < 7
    chips = 2**spreading_factor
    symbol = chips / bandwidth_hz
    slow = 2 if symbol >= 0.016 and not low else 0
    bits = 8 * payload_bytes - 4 * spreading_factor + (20 if low else 28) + 16 * crc - 20 * (not explicit_header)
    blocks = max(math.ceil(bits / (4 * (spreading_factor - slow))), 0)
    symbols = preamble_symbols + (6.25 if low else 4.25) + 8 + blocks * (coding_rate + 4)
    return Airtime(symbol, symbols * chips / bandwidth_hz)


class AirtimeShare(Struct, frozen=True):
    hour_share: float


@method(
    "airtime-share",
    source="sum of the packets of an hour",
    checked="values worked by hand",
    limits="many countries limit how long a band may be used: check the rules of yours",
)
def airtime_share(airtime_s: float, packets_per_hour: float) -> AirtimeShare:
    """Share of an hour that a sender is on the air.

    Args:
        airtime_s: time on air of one packet
        packets_per_hour: packets that are sent in an hour
    Returns:
        hour_share: share of the hour that these packets take
    Raises:
        ValueError: figures that are below zero, or packets that do not fit into an hour.
    """
    require(airtime_s >= 0 and packets_per_hour >= 0, "airtime and packets are 0 or more")
    share = airtime_s * packets_per_hour / 3600
    require(share <= 1, f"{packets_per_hour:.4g} packets of {airtime_s:.4g} s do not fit into an hour")
    return AirtimeShare(share)
