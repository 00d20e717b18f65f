"""Packets of a project: bits of each field, bytes with checksum and frame, against the same as a line of text."""

from collections.abc import Mapping

from msgspec import Struct

from wired_union.kernel.subject import Node
from wired_union.physics.packet import CRCS, Field, packet_bits, text_bytes
from wired_union.project.air_model import RadioLink
from wired_union.project.model import Project
from wired_union.project.timing_model import Message, Packet

MOST_PAYLOAD = 255
"""Bytes that a chirp radio takes at once."""


class PacketResult(Struct, frozen=True):
    """A packet; bytes are None where a field makes no sense, which `missing` says."""

    packet: Packet
    bits: tuple[int, ...] = ()
    payload_bytes: int | None = None
    framed_bytes: int | None = None
    text_bytes: int | None = None
    missing: tuple[str, ...] = ()


def fields_of(packet: Packet) -> list[Field]:
    return [Field(f.least, f.most, f.resolution) for f in packet.fields]


def assess_packet(packet: Packet) -> PacketResult:
    """What it takes."""
    if not packet.fields:
        return PacketResult(packet, missing=(f"{packet.name}: what is in it",))
    least, most, step = ([getattr(f, k) for f in packet.fields] for k in ("least", "most", "resolution"))
    try:
        found = packet_bits(least, most, step, CRCS[packet.checksum][0], packet.framing)
    except ValueError as error:
        return PacketResult(packet, missing=(f"{packet.name}: {error}",))
    return PacketResult(packet, tuple(found.bits), found.payload_bytes, found.framed_bytes,
                        text_bytes(fields_of(packet)))  # fmt: skip


PACKETS = Node("packets", lambda project: (project.concept.packets,), lambda project, _: _work(project))


def _work(project: Project) -> tuple[PacketResult, ...]:
    return tuple(assess_packet(p) for p in project.concept.packets)


Sizes = Mapping[str, PacketResult]
"""By the id of a packet."""


def message_sized(message: Message, sizes: Sizes) -> tuple[Message, tuple[str, ...]]:
    """A message with the bytes of its packet, and what is not known of that."""
    if not message.packet:
        return message, ()
    found = sizes[message.packet]
    return (message, found.missing) if found.framed_bytes is None else (message.but(bytes=found.framed_bytes), ())


def link_sized(link: RadioLink, sizes: Sizes) -> tuple[RadioLink, tuple[str, ...]]:
    """A link with the bytes of its packet; a radio frames its packets itself, so that only what is inside counts."""
    if not link.packet:
        return link, ()
    found = sizes[link.packet]
    if found.payload_bytes is None:
        return link, found.missing
    inside = found.payload_bytes + CRCS[found.packet.checksum][0] // 8
    if inside > MOST_PAYLOAD:
        return link, (f"{link.name}: a packet of at most {MOST_PAYLOAD} bytes",)
    return link.but(payload_bytes=inside), ()
