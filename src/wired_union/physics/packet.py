"""Packets of bits: how many a value takes, packed and unpacked, checked by a sum, framed without a forbidden byte."""

import math
from collections.abc import Sequence

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import CHESHIRE

MOST_BITS = 32
CRCS = {"none": (0, 0), "CRC-8": (8, 0x07), "CRC-16": (16, 0x1021)}
"""Bits and polynomial, the highest first, starting from 0: SMBus, and XMODEM."""
BLOCK = 254


class PacketBits(Struct, frozen=True):
    bits: list[int]
    payload_bytes: int
    framed_bytes: int


class Field(Struct, frozen=True):
    """A number in a packet: from least to most in steps."""

    least: float
    most: float
    resolution: float

    @property
    def steps(self) -> int:
        """The largest whole number that stands for a value."""
        return math.floor((self.most - self.least) / self.resolution * (1 + 1e-12) + 0.5)

    @property
    def bits(self) -> int:
        return max(self.steps.bit_length(), 1)

    def raw(self, value: float) -> int:
        """The whole number for a value; one beyond the ends is held at the end."""
        if math.isnan(value):
            return 0
        held = min(max(value, self.least), self.most)
        return min(max(math.floor((held - self.least) / self.resolution + 0.5), 0), self.steps)

    def value(self, raw: int) -> float:
        return self.least + raw * self.resolution


@method(
    "packet-bits",
    source="⌈log₂(steps + 1)⌉ of each field; stuffing adds a byte for every 254 and one to end",
    works=(CHESHIRE,),
    checked="every packet encoded and decoded again over random values",
    limits="fields of at most 32 bits, packed without gaps",
)
def packet_bits(
    least: Sequence[float], most: Sequence[float], resolution: Sequence[float], checksum_bits: int = 0,
    framing: str = "none",
) -> PacketBits:  # fmt: skip
    """Bits of each field, and bytes of the packet with its checksum and its frame.

    Args:
        least: smallest value of each field
        most: largest value of each
        resolution: step of each
        checksum_bits: 0, 8 or 16
        framing: none, length first, or stuffed
    Returns:
        bits: of each field
        payload_bytes: of all fields together
        framed_bytes: with checksum and frame
    Raises:
        ValueError: lists of different length, an end that is not above the beginning, or a field of more than 32 bits.
    """
    require(len(least) == len(most) == len(resolution), "lists of the same length")
    require(all(r > 0 for r in resolution), "steps are above 0")
    require(all(a < b for a, b in zip(least, most, strict=True)), "the largest value is above the smallest")
    require(all((b - a) / r < 2**MOST_BITS for a, b, r in zip(least, most, resolution, strict=True)),
            f"a field takes at most {MOST_BITS} bits; take a coarser step")  # fmt: skip
    require(checksum_bits in {0, 8, 16} and framing in FRAMES, "checksum 0, 8 or 16 bits; none, length first, stuffed")
    bits = [Field(*each).bits for each in zip(least, most, resolution, strict=True)]
    payload = math.ceil(sum(bits) / 8)
    return PacketBits(bits, payload, framed_bytes(payload + checksum_bits // 8, framing))


def framed_bytes(inside: int, framing: str) -> int:
    """Bytes with the frame around so many, at the most."""
    if framing == "length first":
        return inside + 1
    if framing == "stuffed":
        return inside + inside // BLOCK + 2
    return inside


FRAMES = ("none", "length first", "stuffed")


def pack(fields: Sequence[Field], values: Sequence[float]) -> bytes:
    """The values one after the other, the highest bit first; what is left of the last byte is 0."""
    whole, count = 0, 0
    for field, value in zip(fields, values, strict=True):
        whole = (whole << field.bits) | field.raw(value)
        count += field.bits
    size = math.ceil(count / 8)
    return (whole << (8 * size - count)).to_bytes(size, "big")


def unpack(fields: Sequence[Field], data: bytes) -> list[float]:
    """The values again, each within half a step. Raises ValueError where bytes lack."""
    count = sum(f.bits for f in fields)
    require(len(data) == math.ceil(count / 8), f"{math.ceil(count / 8)} bytes, not {len(data)}")
    whole, found = int.from_bytes(data, "big") >> (8 * len(data) - count), []
    for field in reversed(fields):
        found.append(field.value(whole & ((1 << field.bits) - 1)))
        whole >>= field.bits
    return found[::-1]


def checksum(data: bytes, kind: str) -> bytes:
    """Of bytes, by the name of the polynomial."""
    width, polynomial = CRCS[kind]
    if not width:
        return b""
    rest, top = 0, 1 << (width - 1)
    for byte in data:
        rest ^= byte << (width - 8)
        for _ in range(8):
            rest = ((rest << 1) ^ polynomial if rest & top else rest << 1) & ((1 << width) - 1)
    return rest.to_bytes(width // 8, "big")


def framed(data: bytes, framing: str) -> bytes:
    """With its length before it, or stuffed so that only the end is a 0 (consistent overhead)."""
    if framing == "length first":
        return bytes([len(data)]) + data
    return stuffed(data) + b"\0" if framing == "stuffed" else data


def stuffed(data: bytes) -> bytes:
    """Each 0 replaced by how far it is to the next one. Source: Cheshire and Baker 1999."""
    out, block = bytearray(), bytearray()
    for byte in data:
        if byte:
            block.append(byte)
        if not byte or len(block) == BLOCK:
            out += bytes([len(block) + 1]) + block
            block.clear()
            if byte:
                continue
    return bytes(out + bytes([len(block) + 1]) + block)


def unstuffed(data: bytes) -> bytes:
    """What `stuffed` was given. Raises ValueError where a length leads beyond the end, or a 0 is in it."""
    out, at = bytearray(), 0
    while at < len(data):
        step = data[at]
        require(step > 0 and at + step <= len(data), "a frame that is whole")
        out += data[at + 1 : at + step]
        at += step
        if step <= BLOCK and at < len(data):
            out.append(0)
    return bytes(out)


def text_bytes(fields: Sequence[Field]) -> int:
    """Bytes of the same values as text with commas and a line's end, each with the digits that its step asks for."""
    return sum(_digits(f) + 1 for f in fields) + 1


def _digits(field: Field) -> int:
    places = max(-math.floor(math.log10(field.resolution) + 1e-9), 0)
    widest = max(abs(field.least), abs(field.most))
    whole = max(math.floor(math.log10(widest)) + 1 if widest >= 1 else 1, 1)
    return whole + (places + 1 if places else 0) + (1 if field.least < 0 else 0)
