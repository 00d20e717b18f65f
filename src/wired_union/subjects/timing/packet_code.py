"""A packet as code: an encoder and a decoder in Python and in C, of the same bits as the program's own."""

import re

from wired_union.physics.packet import CRCS
from wired_union.project.timing_model import Packet
from wired_union.subjects.timing.packets import fields_of

RESERVED = {"int", "float", "for", "if", "in", "is", "not", "and", "or", "char", "short", "long", "double", "data",
            "return", "class", "from", "while", "do", "case", "default", "struct", "values", "raw"}  # fmt: skip


PYTHON = '''"""{name}: made by Wired Union. Name, least, step, largest whole number, bits of each value."""

from math import floor

FIELDS = (
{rows}
)
BITS = sum(f[4] for f in FIELDS)
SIZE = (BITS + 7) // 8
SUM_BITS, POLYNOMIAL = {width}, {polynomial:#x}


def encode(**values):
    whole = 0
    for name, least, step, most, bits in FIELDS:
        raw = floor((values[name] - least) / step + 0.5)
        whole = whole << bits | min(max(raw, 0), most)
    data = (whole << (8 * SIZE - BITS)).to_bytes(SIZE, "big")
    return data + checksum(data)


def decode(data):
    body = data[:SIZE]
    if len(data) != SIZE + SUM_BITS // 8 or checksum(body) != data[SIZE:]:
        raise ValueError("the packet is cut short, or a bit is wrong")
    whole, found = int.from_bytes(body, "big") >> (8 * SIZE - BITS), {{}}
    for name, least, step, most, bits in reversed(FIELDS):
        found[name] = least + (whole & ((1 << bits) - 1)) * step
        whole >>= bits
    return found


def checksum(data):
    if not SUM_BITS:
        return b""
    rest = 0
    for byte in data:
        rest ^= byte << (SUM_BITS - 8)
        for _ in range(8):
            rest = (rest << 1 ^ POLYNOMIAL if rest >> (SUM_BITS - 1) & 1 else rest << 1) & ((1 << SUM_BITS) - 1)
    return rest.to_bytes(SUM_BITS // 8, "big")
'''

C99 = """/* {name}: made by Wired Union. Fields packed without gaps, the highest bit first. */
#include <math.h>
#include <stdint.h>
#include <string.h>

#define PACKET_BODY {size}
#define PACKET_SIZE {whole}

typedef struct {{
{members}
}} packet_values;

static uint32_t packet_raw(double value, double least, double step, uint32_t most) {{
    double raw = floor((value - least) / step + 0.5);
    if (!(raw > 0.0)) return 0u;
    return raw > (double)most ? most : (uint32_t)raw;
}}

static void packet_put(uint8_t *out, unsigned *at, uint32_t raw, unsigned bits) {{
    while (bits--) {{
        if (raw >> bits & 1u) out[*at / 8] |= (uint8_t)(0x80u >> (*at % 8));
        (*at)++;
    }}
}}

static uint32_t packet_get(const uint8_t *in, unsigned *at, unsigned bits) {{
    uint32_t raw = 0u;
    while (bits--) {{
        raw = raw << 1 | (in[*at / 8] >> (7 - *at % 8) & 1u);
        (*at)++;
    }}
    return raw;
}}

static uint32_t packet_sum(const uint8_t *data) {{
    uint32_t rest = 0u;
    for (unsigned n = 0; n < PACKET_BODY && {width}; n++) {{
        rest ^= (uint32_t)data[n] << ({at_least} - 8);
        for (int k = 0; k < 8; k++)
            rest = (rest << 1 ^ (rest >> ({at_least} - 1) & 1u ? {polynomial:#x}u : 0u)) & {mask:#x}u;
    }}
    return rest;
}}

/* Writes PACKET_SIZE bytes. */
static void packet_encode(const packet_values *in, uint8_t *out) {{
    unsigned at = 0;
    memset(out, 0, PACKET_SIZE);
{puts}
    uint32_t sum = packet_sum(out);
    for (unsigned n = 0; n < {sum_bytes}; n++) out[PACKET_BODY + n] = (uint8_t)(sum >> ({width} - 8 - 8 * n));
}}

/* Reads PACKET_SIZE bytes; 0 where a bit is wrong. */
static int packet_decode(const uint8_t *in, packet_values *out) {{
    unsigned at = 0;
    uint32_t sum = packet_sum(in);
    for (unsigned n = 0; n < {sum_bytes}; n++)
        if (in[PACKET_BODY + n] != (uint8_t)(sum >> ({width} - 8 - 8 * n))) return 0;
{gets}
    return 1;
}}
"""


def names_of(packet: Packet) -> list[str]:
    """Names of its fields as both languages take them, each once."""
    found: list[str] = []
    for field in packet.fields:
        name = re.sub(r"[^a-z0-9]+", "_", field.name.lower()).strip("_") or "value"
        name = f"v_{name}" if name[0].isdigit() or name in RESERVED else name
        while name in found:
            name += "_2"
        found.append(name)
    return found


def python_code(packet: Packet) -> str:
    """A module with `encode(**values) -> bytes` and `decode(data) -> dict`: fields and checksum, without the frame."""
    width, polynomial = CRCS[packet.checksum]
    rows = "\n".join(
        f"    ({name!r}, {f.least!r}, {f.resolution!r}, {f.steps}, {f.bits}),"
        for name, f in zip(names_of(packet), fields_of(packet), strict=True)
    )
    return PYTHON.format(name=packet.name, rows=rows, width=width, polynomial=polynomial)


def c_code(packet: Packet) -> str:
    """A header with a struct, `packet_encode` and `packet_decode`: plain C99, no memory of its own."""
    names, fields = names_of(packet), fields_of(packet)
    width, polynomial = CRCS[packet.checksum]
    size = (sum(f.bits for f in fields) + 7) // 8
    members = "\n".join(f"    double {name};" for name in names)
    puts = "\n".join(
        f"    packet_put(out, &at, packet_raw(in->{name}, {f.least!r}, {f.resolution!r}, {f.steps}u), {f.bits});"
        for name, f in zip(names, fields, strict=True)
    )
    gets = "\n".join(
        f"    out->{name} = {f.least!r} + packet_get(in, &at, {f.bits}) * {f.resolution!r};"
        for name, f in zip(names, fields, strict=True)
    )
    return C99.format(
        name=packet.name, members=members, puts=puts, gets=gets, size=size, whole=size + width // 8, width=width,
        at_least=max(width, 8), mask=(1 << width) - 1, sum_bytes=width // 8, polynomial=polynomial,
    )  # fmt: skip
