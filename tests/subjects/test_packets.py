"""Packets in whole projects: sizes that move buses and links, gaps, and code that is compiled and compared."""

import random
import shutil
import subprocess

import pytest

from builders import a_project
from wired_union.kernel.results import Verdict
from wired_union.physics.packet import checksum, pack
from wired_union.project.air_model import RadioLink
from wired_union.project.errors import ProjectError
from wired_union.project.timing_model import Bus, Message, Packet, PacketField
from wired_union.subjects import assess
from wired_union.subjects.timing import edits_shared as edits
from wired_union.subjects.timing.air import AIR
from wired_union.subjects.timing.buses import BUSES
from wired_union.subjects.timing.packet_code import c_code, names_of, python_code
from wired_union.subjects.timing.packets import PACKETS, fields_of

FIELDS = (
    PacketField(id="lat", name="Latitude", least=-90.0, most=90.0, resolution=1e-5, unit="°"),
    PacketField(id="lon", name="Longitude", least=-180.0, most=180.0, resolution=1e-5, unit="°"),
    PacketField(id="bat", name="Battery 1", least=9.0, most=16.0, resolution=0.1, unit="V"),
    PacketField(id="for", name="for", least=0.0, most=7.0, resolution=1.0),
    PacketField(id="twice", name="battery-1", least=0.0, most=1.0, resolution=1.0),
)


def carried(**figures):
    packet = Packet(id="p", name="Position", **{"fields": FIELDS, **figures})
    project = a_project()
    concept = project.concept.but(
        packets=(packet,), buses=(Bus(id="b", name="B", kind="uart", clock_hz=9600.0),),
        messages=(Message(id="m", name="M", bus="b", bytes=82, packet="p", every_s=1.0),),
        radio_links=(RadioLink(id="r", name="R", payload_bytes=82, packet="p"),),
    )  # fmt: skip
    return project.but(concepts=(concept,))


def test_a_packet_is_as_long_as_its_bits_and_moves_bus_and_link():
    """25 + 26 + 7 + 3 + 1 bits are 8 bytes; with sum and length 10 on the wire, 9 in the radio's own frame."""
    project = carried()
    (packet,) = assess(project).of(PACKETS)
    assert (packet.bits, packet.payload_bytes, packet.framed_bytes) == ((25, 26, 7, 3, 1), 8, 10)
    assert assess(project).of(BUSES)[0].messages[0].time_s == pytest.approx(100 / 9600)
    assert assess(project).of(AIR)[0].link.payload_bytes == 9
    longer = edits.set_field(project, "p", "lat", resolution=1e-7).after
    assert assess(longer).of(PACKETS)[0].bits[0] == 31
    assert assess(longer).of(AIR)[0].airtime_s >= assess(project).of(AIR)[0].airtime_s
    gone = edits.remove_packet(project, value_id="p").after
    assert gone.concept.messages[0].packet == ""
    assert assess(gone).of(BUSES)[0].messages[0].message.bytes == 82


def test_a_packet_that_makes_no_sense_leaves_all_that_carry_it_unknown():
    empty = carried(fields=())
    assert assess(empty).of(PACKETS)[0].missing == ("Position: what is in it",)
    bus, link = assess(empty).of(BUSES)[0], assess(empty).of(AIR)[0]
    assert (bus.share, bus.messages[0].verdict) == (None, Verdict.UNKNOWN)
    assert link.verdict is Verdict.UNKNOWN
    assert assess(empty).measure("air").value is None
    fine = carried(fields=(PacketField(id="x", name="X", least=0.0, most=1e6, resolution=1e-6),))
    assert "at most 32 bits" in assess(fine).of(PACKETS)[0].missing[0]


def test_edits_of_fields():
    project = edits.add_field(carried(), "p", "Depth", most=3.0, resolution=0.01).after
    assert project.concept.packets[0].fields[-1].id == "depth"
    with pytest.raises(ProjectError, match="above its smallest"):
        edits.set_field(project, "p", "depth", least=5.0)
    assert edits.remove_field(project, "p", "depth").after.concept.packets == carried().concept.packets


def values(packet: Packet, rng: random.Random) -> list[float]:
    """A random value of each field, its ends and what is beyond them among those."""
    return [rng.choice([f.least, f.most, f.least - 1, f.most * 2 + 1, 0.0, rng.uniform(f.least, f.most)])
            for f in packet.fields]  # fmt: skip


@pytest.mark.parametrize("kind", ["none", "CRC-8", "CRC-16"])
def test_the_python_that_is_written_makes_the_same_bytes(kind):
    packet = carried(checksum=kind).concept.packets[0]
    assert names_of(packet) == ["latitude", "longitude", "battery_1", "v_for", "battery_1_2"]
    module: dict = {}
    exec(python_code(packet), module)
    rng = random.Random(1)
    for _ in range(200):
        wanted = values(packet, rng)
        data = module["encode"](**dict(zip(names_of(packet), wanted, strict=True)))
        body = pack(fields_of(packet), wanted)
        assert data == body + checksum(body, kind)
        again = module["decode"](data)
        for name, f, value in zip(names_of(packet), packet.fields, wanted, strict=True):
            assert abs(again[name] - min(max(value, f.least), f.most)) <= f.resolution * 0.51
    if kind != "none":
        with pytest.raises(ValueError, match="cut short"):
            module["decode"](bytes([data[0] ^ 1]) + data[1:])


@pytest.mark.skipif(shutil.which("cc") is None, reason="no C compiler on this machine")
@pytest.mark.parametrize("kind", ["none", "CRC-8", "CRC-16"])
def test_the_c_that_is_written_compiles_and_makes_the_same_bytes(kind, tmp_path):
    packet = carried(checksum=kind).concept.packets[0]
    names = names_of(packet)
    reads = "".join(f'if (scanf("%lf", &v.{n}) != 1) return 0;' for n in names)
    shows = "".join(f'printf(" %.9g", v.{n});' for n in names)
    (tmp_path / "packet.h").write_text(c_code(packet))
    (tmp_path / "main.c").write_text(
        f'#include <stdio.h>\n#include "packet.h"\nint main(void) {{ packet_values v; uint8_t b[PACKET_SIZE]; for (;;) {{ {reads}'
        f' packet_encode(&v, b); for (unsigned n = 0; n < PACKET_SIZE; n++) printf("%02x", b[n]);'
        f' if (!packet_decode(b, &v)) return 1; {shows} printf("\\n"); }} }}\n'
    )
    command = ["cc", "-std=c99", "-Wall", "-Werror", "-o", "run", "main.c", "-lm"]
    subprocess.run(command, cwd=tmp_path, check=True, timeout=60)
    rng = random.Random(2)
    sets = [values(packet, rng) for _ in range(200)]
    typed = "\n".join(" ".join(repr(float(v)) for v in s) for s in sets)
    said = subprocess.run([str(tmp_path / "run")], input=typed, capture_output=True, text=True, timeout=60).stdout
    for line, wanted in zip(said.strip().split("\n"), sets, strict=True):
        body = pack(fields_of(packet), wanted)
        hexed, *again = line.split(" ")
        assert bytes.fromhex(hexed) == body + checksum(body, kind)
        for text, f, value in zip(again, packet.fields, wanted, strict=True):
            assert abs(float(text) - min(max(value, f.least), f.most)) <= f.resolution * 0.51
