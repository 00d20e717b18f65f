"""Radio: time on air, what arrives at the far end, who talks over whom."""

import math
from collections.abc import Sequence

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import ABRAMSON, ITU_F1336, ITU_P525, ITU_P526, LORA, POZAR, RAPPAPORT


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


SPEED_OF_LIGHT_M_S = 299_792_458.0
THERMAL_DBM_PER_HZ = -174.0
"""Noise of a matched resistor at 17 °C."""


class Loss(Struct, frozen=True):
    loss_db: float


class Sensitivity(Struct, frozen=True):
    sensitivity_dbm: float


class Match(Struct, frozen=True):
    reflection: float
    vswr: float
    mismatch_loss_db: float


class Clearance(Struct, frozen=True):
    radius_m: float


class Budget(Struct, frozen=True):
    received_dbm: float
    margin_db: float


class Throughput(Struct, frozen=True):
    offered: float
    arrives: float


@method(
    "free-space-loss",
    source="20·log10(4π·d·f/c)",
    works=(ITU_P525,),
    checked="1 km at 868 MHz: 91.2 dB",
    limits="nothing in the way, no ground near; further than some wavelengths",
)
def free_space_loss(distance_m: float, frequency_hz: float) -> Loss:
    """Loss between two antennas in free space.

    Args:
        distance_m: between them
        frequency_hz: of the carrier
    Returns:
        loss_db: of the way
    Raises:
        ValueError: a figure that is not above zero.
    """
    require(distance_m > 0 and frequency_hz > 0, "distance and frequency are above 0")
    return Loss(20 * math.log10(4 * math.pi * distance_m * frequency_hz / SPEED_OF_LIGHT_M_S))


@method(
    "plane-earth-loss",
    source="40·log10 d − 20·log10(h₁·h₂), where that is more than free space",
    works=(RAPPAPORT,),
    checked="the two rays added up as complex waves by numpy, far away",
    limits="flat open ground or water, antennas many wavelengths apart",
)
def plane_earth_loss(distance_m: float, frequency_hz: float, height_one_m: float, height_other_m: float) -> Loss:
    """Loss over flat ground, which cancels more of the wave the lower the antennas are.

    Args:
        distance_m: between the antennas
        frequency_hz: of the carrier
        height_one_m: of one antenna over the ground
        height_other_m: of the other
    Returns:
        loss_db: the larger of that and the loss in free space
    Raises:
        ValueError: a figure that is not above zero.
    """
    require(height_one_m > 0 and height_other_m > 0, "heights are above 0")
    free = free_space_loss(distance_m, frequency_hz).loss_db
    return Loss(max(free, 40 * math.log10(distance_m) - 20 * math.log10(height_one_m * height_other_m)))


@method(
    "fresnel-clearance",
    source="√(λ·d₁·d₂/(d₁ + d₂)); 0.6 of it free is as good as all",
    works=(ITU_P526,),
    checked="values worked by hand",
    limits="first zone, between the antennas",
)
def fresnel_clearance(distance_one_m: float, distance_other_m: float, frequency_hz: float) -> Clearance:
    """Radius of the first Fresnel zone at a place between two antennas.

    Args:
        distance_one_m: from one antenna to that place
        distance_other_m: from there to the other
        frequency_hz: of the carrier
    Returns:
        radius_m: of the zone; 0.6 of it should be free
    Raises:
        ValueError: a figure that is not above zero.
    """
    require(min(distance_one_m, distance_other_m, frequency_hz) > 0, "distances and frequency are above 0")
    wave = SPEED_OF_LIGHT_M_S / frequency_hz
    return Clearance(math.sqrt(wave * distance_one_m * distance_other_m / (distance_one_m + distance_other_m)))


@method(
    "knife-edge-loss",
    source="6.9 + 20·log10(√((ν − 0.1)² + 1) + ν − 0.1) above ν = −0.78, ν = h·√2/r₁",
    works=(ITU_P526,),
    checked="Fresnel's integrals by scipy",
    limits="one sharp edge; a hill, a dune or a metal box is worse",
)
def knife_edge_loss(edge_m: float, distance_one_m: float, distance_other_m: float, frequency_hz: float) -> Loss:
    """Loss over a sharp edge in the way.

    Args:
        edge_m: how far the edge is above the line of sight; below 0 it is under it
        distance_one_m: from one antenna to the edge
        distance_other_m: from there to the other
        frequency_hz: of the carrier
    Returns:
        loss_db: besides that of the way
    Raises:
        ValueError: a distance or frequency that is not above zero.
    """
    radius = fresnel_clearance(distance_one_m, distance_other_m, frequency_hz).radius_m
    nu = edge_m * math.sqrt(2) / radius
    if nu <= -0.78:
        return Loss(0.0)
    return Loss(max(6.9 + 20 * math.log10(math.sqrt((nu - 0.1) ** 2 + 1) + nu - 0.1), 0.0))


@method(
    "lora-sensitivity",
    source="−174 + 10·log10 B + NF + the signal to noise that it needs: −7.5 dB at 7, 2.5 less for each step",
    works=(LORA,),
    checked="SF12, 125 kHz, 6 dB: −137.0 dBm",
    limits="spreading factors 5 to 12; noise of the receiver alone",
)
def lora_sensitivity(spreading_factor: int, bandwidth_hz: float, noise_figure_db: float) -> Sensitivity:
    """Weakest signal that a chirp receiver still reads.

    Args:
        spreading_factor: 5 to 12
        bandwidth_hz: of the channel
        noise_figure_db: of the receiver
    Returns:
        sensitivity_dbm: at its input
    Raises:
        ValueError: a figure outside what the modem takes.
    """
    require(5 <= spreading_factor <= 12, "spreading factor is 5 to 12")
    require(bandwidth_hz > 0 and noise_figure_db >= 0, "bandwidth is above 0, the noise figure 0 or more")
    needs = -7.5 - 2.5 * (spreading_factor - 7)
    return Sensitivity(THERMAL_DBM_PER_HZ + 10 * math.log10(bandwidth_hz) + noise_figure_db + needs)


@method(
    "antenna-match",
    source="|Γ| = 10^(S₁₁/20); (1 + |Γ|)/(1 − |Γ|); −10·log10(1 − |Γ|²)",
    works=(POZAR,),
    checked="−10 dB: 0.316, 1.925, 0.458 dB",
    limits="at one frequency",
)
def antenna_match(s11_db: float) -> Match:
    """What of the power an antenna sends back.

    Args:
        s11_db: its S₁₁; a return loss of 10 dB is −10
    Returns:
        reflection: share of the wave that comes back
        vswr: standing-wave ratio
        mismatch_loss_db: power that does not get out
    Raises:
        ValueError: an S₁₁ that is not below 0.
    """
    require(-1000 <= s11_db <= -0.001, "S₁₁ is below 0 dB, and above -1000")
    back = 10 ** (s11_db / 20)
    return Match(back, (1 + back) / (1 - back), -10 * math.log10(1 - back**2))


@method(
    "link-budget",
    source="power and gains less losses, against what the receiver needs",
    works=(POZAR,),
    checked="values worked by hand",
    limits="means; fading comes on top, for which some of the margin is kept",
)
def link_budget(
    power_dbm: float, gain_one_dbi: float, gain_other_dbi: float, losses_db: float, sensitivity_dbm: float
) -> Budget:
    """What arrives, and how far above what is needed.

    Args:
        power_dbm: of the sender
        gain_one_dbi: of its antenna
        gain_other_dbi: of the receiver's antenna
        losses_db: of the way, in walls, at edges, by mismatch, in cables
        sensitivity_dbm: weakest signal that the receiver reads
    Returns:
        received_dbm: at the receiver
        margin_db: above its sensitivity
    Raises:
        ValueError: losses below zero.
    """
    require(losses_db >= 0, "losses are 0 or more")
    received = power_dbm + gain_one_dbi + gain_other_dbi - losses_db
    return Budget(received, received - sensitivity_dbm)


@method(
    "slotted-aloha",
    source="e^(−2G), or e^(−G) where all begin in slots, G = n·t/T",
    works=(ABRAMSON,),
    checked="a hundred thousand packets at random times by numpy",
    limits="all as loud; who collides is lost; nobody listens first",
)
def slotted_aloha(nodes: int, airtime_s: float, every_s: float, slotted: bool = False) -> Throughput:
    """How much of what many senders say on one channel arrives.

    Args:
        nodes: that send
        airtime_s: of each packet
        every_s: from one packet of a node to its next, on average
        slotted: whether all begin in common slots
    Returns:
        offered: share of the time that they ask for together
        arrives: share of a node's packets that no other talks over
    Raises:
        ValueError: no node, or a time that is not above zero.
    """
    require(nodes >= 1 and airtime_s > 0 and every_s > 0, "there is a node, times are above 0")
    others = (nodes - 1) * airtime_s / every_s
    return Throughput(nodes * airtime_s / every_s, math.exp(-(1 if slotted else 2) * others))


class Pattern(Struct, frozen=True):
    loss_db: float


@method(
    "antenna-pattern",
    source="12·(φ/φ₃)² dB off the strongest direction, 25 dB at the most; φ₃ between the directions of half power",
    works=(ITU_F1336,),
    checked="3 dB at half the width, by the definition of it; a half-wave dipole's own pattern near its middle",
    limits="one lobe; what is behind is 25 dB down at the least, side lobes are not told apart",
)
def antenna_pattern(off_deg: float, beam_deg: float) -> Pattern:
    """How much weaker an antenna is off its strongest direction.

    Args:
        off_deg: how far off, 0 to 180
        beam_deg: between the directions of half its power
    Returns:
        loss_db: below its strongest direction
    Raises:
        ValueError: an angle that cannot be.
    """
    require(0 <= off_deg <= 180 and 0 < beam_deg <= 360, "off is 0 to 180°, the width above 0 and at most 360°")
    return Pattern(min(12 * (off_deg / beam_deg) ** 2, MOST_OFF_DB))


MOST_OFF_DB = 25.0


class Obstruction(Struct, frozen=True):
    loss_db: float
    spread_db: float
    standard_error_db: float


@method(
    "heard-fit",
    source="mean of what was worked out less what was heard; its spread, and spread/√n",
    works=(RAPPAPORT,),
    checked="noisy strengths by numpy: the loss put in is found within two standard errors",
    limits="one loss for all distances; receivers tell signal to noise to about 2 dB, and hardly above 10 dB",
)
def heard_fit(worked_out_db: Sequence[float], heard_db: Sequence[float]) -> Obstruction:
    """What stands in a link's way besides what is worked out, from signal to noise heard at several distances.

    Args:
        worked_out_db: signal to noise worked out for each place
        heard_db: what was heard there
    Returns:
        loss_db: that something takes besides
        spread_db: standard deviation of what is left over
        standard_error_db: of the loss
    Raises:
        ValueError: fewer than 2 places, or not as many of both.
    """
    require(len(worked_out_db) == len(heard_db) and len(heard_db) >= 2, "at least 2 places, both for each")
    off = [w - h for w, h in zip(worked_out_db, heard_db, strict=True)]
    mean = sum(off) / len(off)
    spread = math.sqrt(sum((x - mean) ** 2 for x in off) / (len(off) - 1))
    return Obstruction(mean, spread, spread / math.sqrt(len(off)))
