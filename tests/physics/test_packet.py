"""Packets: encoded and decoded again, zero bytes included; checksums by their published check values."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from wired_union.physics.packet import (
    Field,
    checksum,
    framed,
    framed_bytes,
    pack,
    packet_bits,
    stuffed,
    text_bytes,
    unpack,
    unstuffed,
)

FIELDS = st.lists(
    st.tuples(st.floats(-1e4, 1e4), st.floats(0.5, 1e4), st.integers(1, 60_000)).map(
        lambda x: Field(x[0], x[0] + x[1], x[1] / x[2])
    ),
    min_size=1, max_size=8,
)  # fmt: skip


@settings(max_examples=120, deadline=None)
@given(fields=FIELDS, shares=st.lists(st.floats(0.0, 1.0), min_size=8, max_size=8))
def test_what_was_packed_comes_out_within_half_a_step(fields, shares):
    values = [f.least + (f.most - f.least) * s for f, s in zip(fields, shares, strict=False)]
    data = pack(fields, values)
    assert len(data) == math.ceil(sum(f.bits for f in fields) / 8)
    for f, value, again in zip(fields, values, unpack(fields, data), strict=True):
        assert abs(value - again) <= f.resolution * (0.5 + 1e-6)
    for ends in (lambda f: f.least, lambda f: f.most, lambda f: -1e9, lambda f: 1e9):
        for f, again in zip(fields, unpack(fields, pack(fields, [ends(f) for f in fields])), strict=True):
            assert f.least - 1e-9 <= again <= f.most + f.resolution * 0.5


@given(data=st.binary(max_size=700))
def test_a_stuffed_frame_has_no_zero_and_gives_back_what_it_was_given(data):
    frame = framed(data, "stuffed")
    assert 0 not in frame[:-1]
    assert frame[-1] == 0
    assert unstuffed(frame[:-1]) == data
    assert len(frame) <= framed_bytes(len(data), "stuffed")
    assert len(framed(bytes(254), "stuffed")) <= framed_bytes(254, "stuffed")


def test_frames_as_published():
    """Examples of Cheshire and Baker's stuffing, from memory."""
    for plain, stuffing in ((b"\0", b"\1\1"), (b"\0\0", b"\1\1\1"), (b"\x11\x22\0\x33", b"\3\x11\x22\2\x33"),
                            (b"\x11\x22\x33\x44", b"\5\x11\x22\x33\x44"), (b"\x11\0\0\0", b"\2\x11\1\1\1")):  # fmt: skip
        assert stuffed(plain) == stuffing
    with pytest.raises(ValueError, match="frame that is whole"):
        unstuffed(b"\5\x11")


def test_checksums_of_123456789():
    """The check values of the usual catalogue of sums, from memory: 0xF4 and 0x31C3."""
    assert checksum(b"123456789", "CRC-8") == b"\xf4"
    assert checksum(b"123456789", "CRC-16") == b"\x31\xc3"
    assert checksum(b"123456789", "none") == b""


def test_a_position_in_a_dozen_bytes():
    """Latitude and longitude to 1e-5°, height to 1 m, battery to 0.1 V, a state: 11 bytes instead of a long line of text."""
    found = packet_bits([-90, -180, 0, 9, 0], [90, 180, 1000, 16, 7], [1e-5, 1e-5, 1.0, 0.1, 1.0], 8, "length first")
    assert found.bits == [25, 26, 10, 7, 3]
    assert (found.payload_bytes, found.framed_bytes) == (9, 11)
    assert text_bytes([Field(-90, 90, 1e-5), Field(-180, 180, 1e-5)]) == 10 + 11 + 1
    with pytest.raises(ValueError, match="at most 32 bits"):
        packet_bits([0], [1e6], [1e-6])
