"""What goes through the air: radio links, and what was heard of them on a trial."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import Amount, Finite, Name, Positive, Ref, Value


class Heard(Value, frozen=True, kw_only=True):
    """One packet of a trial."""

    distance_m: Positive
    snr_db: Finite
    """signal to noise that the receiver gave"""


class RadioLink(Value, frozen=True, kw_only=True):
    """What is sent through the air to somewhere again and again."""

    id: Name
    name: Name
    item: Annotated[str, Ref("items", "clear")] = ""
    """the radio that sends"""
    modulation: Literal["chirp", "plain", "phone or satellite"] = "chirp"
    """chirps of spread spectrum, plain packets at a bit rate, or a network of others that takes its time"""
    latency_least_s: Amount | None = None
    """shortest time that such a network takes"""
    latency_most_s: Amount | None = None
    """longest time that it takes"""
    instead_of: Annotated[str, Ref("radio_links", "clear")] = ""
    """the link that it stands in for: one of both is enough"""
    powers: bool = False
    """whether its radio takes its peak just as long as this is on the air, in every mode that has it on"""
    payload_bytes: Annotated[int, Meta(ge=0, le=255)] = 20
    """bytes of each packet, without what the radio adds"""
    packet: Annotated[str, Ref("packets", "clear")] = ""
    """the packet that it carries, whose bytes then count"""
    every_s: Positive = 60.0
    """from one packet to the next"""
    spreading_factor: Annotated[int, Meta(ge=5, le=12)] = 9
    bandwidth_hz: Positive = 125e3
    coding_rate: Annotated[int, Meta(ge=1, le=4)] = 1
    """1 to 4 for 4/5 to 4/8"""
    preamble_symbols: Annotated[int, Meta(ge=0, le=1000)] = 8
    bit_rate_hz: Positive = 50e3
    """bits a second of plain packets"""
    overhead_bytes: Annotated[int, Meta(ge=0, le=1000)] = 16
    """bytes that plain packets carry besides: preamble, sync, address, length, checksum"""
    hops: Annotated[int, Meta(ge=1, le=20)] = 1
    """times that it is sent until it is there"""
    passing: Literal["one after the other", "all that hear it"] = "one after the other"
    """who passes a packet on: the next on the way, or each that hears it, once"""
    relays: Annotated[int, Meta(ge=0, le=1000)] = 0
    """how many pass it on, where all that hear it do"""
    wait_s: Amount = 0.0
    """most that each waits at random before it passes it on"""
    nodes: Annotated[int, Meta(ge=1, le=10_000)] = 1
    """senders on the same channel that say as much, this one counted"""
    slotted: bool = False
    """whether they all begin in common slots"""
    frequency_hz: Positive = 868e6
    power_dbm: Annotated[float, Meta(ge=-60, le=60)] = 14.0
    """that the radio sends with"""
    own_gain_dbi: Annotated[float, Meta(ge=-60, le=60)] = 0.0
    """gain of its antenna where it is strongest"""
    own_beam_deg: Annotated[float, Meta(gt=0, le=360)] | None = None
    """how wide its antenna is strong: between the directions of half its power; all round when empty"""
    own_off_deg: Annotated[float, Meta(ge=0, le=180)] = 0.0
    """how far off its strongest direction the far end may be"""
    far_gain_dbi: Annotated[float, Meta(ge=-60, le=60)] = 0.0
    """gain of the antenna at the far end"""
    return_loss_db: Annotated[float, Meta(ge=0.1, le=100)] | None = None
    """how much weaker what its antenna sends back is; 10 is usual, less wastes power"""
    distance_m: Positive | None = None
    """to the far end, at the most"""
    own_height_m: Positive | None = None
    """of its antenna over the ground"""
    far_height_m: Positive | None = None
    """of the antenna at the far end"""
    walls_db: Amount = 0.0
    """what walls, water and metal in between take: a wall of brick about 8, a closed metal box 30 and more"""
    edge_m: Finite | None = None
    """how far an edge in between is above the line of sight, halfway; none when empty"""
    noise_figure_db: Annotated[float, Meta(ge=0, le=60)] = 6.0
    """of the receiver"""
    sensitivity_dbm: Annotated[float, Meta(ge=-200, le=20)] | None = None
    """weakest signal that it reads; of chirps worked out when empty"""
    heard: tuple[Heard, ...] = ()
    """what was heard on a trial"""
    fade_db: Annotated[float, Meta(ge=0, le=60)] = 10.0
    """kept for fading"""
