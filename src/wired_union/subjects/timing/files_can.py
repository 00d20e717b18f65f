"""Messages of a CAN bus as a DBC, and what a log of one says beside what was worked out."""

import math
from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import Any

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.project.change import Change, new_id, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.model import Project
from wired_union.project.timing_model import Message, Packet
from wired_union.subjects.timing.buses import FRAME_BYTES, BusResult, MessageResult, frames_of, identities
from wired_union.subjects.timing.files import wire_name
from wired_union.subjects.timing.packets import fields_of
from wired_union.units import show

AT_A_TIME, SPARE_S, MOST_PRIORITY = 50_000, 1e-4, 1000
"""A tenth of a millisecond more is no violation: clocks of adapters are no better."""
LOGS = (".asc", ".blf", ".csv", ".db", ".log", ".trc")
"""Formats of logs that are read, by python-can."""


def dbc_of(result: BusResult, packets: Mapping[str, Packet]) -> str:
    """Every message that is one frame, with its packet's fields, as a DBC. Raises ProjectError for what is none."""
    if result.bus.kind != "can":
        raise ProjectError(f"{result.bus.name} is no CAN bus. A DBC is of CAN messages.")
    own = [m.message for m in result.messages if frames_of(m.message) == 1]
    if not own:
        raise ProjectError(f"{result.bus.name} has no message of one frame. A DBC needs one.")
    from cantools.database.can import Database  # only where one is written

    ids, names = identities(result.bus, [m.message for m in result.messages]), _names([m.name for m in own])
    messages = [
        _message(m, packets.get(m.packet), name, ids[m.id], extended=result.bus.extended)
        for m, name in zip(own, names, strict=True)
    ]
    return str(Database(messages=messages).as_dbc_string())


def _names(names: list[str]) -> list[str]:
    """Names as a DBC may have them, none twice."""
    found: list[str] = []
    for name in names:
        plain = wire_name(name)[:28]
        plain = plain if plain[0].isalpha() else f"m_{plain}"
        while plain in found:
            plain = f"{plain[:26]}_{len(found)}"
        found.append(plain)
    return found


def _message(message: Message, packet: Packet | None, name: str, frame_id: int, *, extended: bool) -> Any:
    from cantools.database.can import Message as Frame

    signals, at = [], 0
    fields = packet.fields if packet is not None else ()
    plain = fields_of(packet) if packet is not None else []
    for field, bits, called in zip(fields, plain, _names([f.name for f in fields]), strict=True):
        signals.append(_signal(called, at, bits.bits, field.resolution, field.least, field.most, field.unit))
        at += bits.bits
    every_ms = max(round(message.every_s * 1e3), 1)
    return Frame(frame_id, name, min(message.bytes, FRAME_BYTES), signals, cycle_time=every_ms,
                 is_extended_frame=extended)  # fmt: skip


def _signal(name: str, at: int, bits: int, step: float, least: float, most: float, unit: str) -> Any:
    """A field that begins so many bits after the first, the highest bit first."""
    from cantools.database.can import Signal as Wire
    from cantools.database.conversion import LinearConversion

    start = at // 8 * 8 + 7 - at % 8
    conversion = LinearConversion(step, least, is_float=False)
    return Wire(name, start, bits, byte_order="big_endian", conversion=conversion, minimum=least, maximum=most,
                unit=unit or None)  # fmt: skip


def take_dbc(project: Project, bus_id: str, text: str) -> Change:
    """The messages of a DBC on a bus, as one edit: name, bytes, period and identity. Raises ProjectError, with why."""
    import cantools

    try:
        loaded = cantools.database.load_string(text, "dbc")
    except (cantools.database.Error, ValueError, KeyError) as error:
        raise ProjectError(f"The DBC cannot be read: {str(error)[:200]}.") from error
    found = loaded.messages if isinstance(loaded, cantools.database.can.Database) else []
    if not found:
        raise ProjectError("The DBC has no message.")
    bus = next((b for b in project.concept.buses if b.id == bus_id), None)
    if bus is None or bus.kind != "can":
        raise ProjectError("Messages of a DBC go onto a CAN bus. Choose one.")
    known = [m.id for m in project.concept.messages]
    made: list[Message] = []
    for n, frame in enumerate(sorted(found, key=lambda f: f.frame_id), 1):
        new = new_id(frame.name, (*known, *(m.id for m in made)))
        every = (frame.cycle_time or 100) / 1e3
        made.append(Message(id=new, name=frame.name, bus=bus_id, bytes=frame.length, every_s=every,
                            priority=min(n, MOST_PRIORITY), identity=frame.frame_id))  # fmt: skip
    messages = (*project.concept.messages, *made)
    return Change(project, with_concept(project, messages=messages), f"{bus.name}: {len(made)} messages of a DBC")


class CanLog(Struct, frozen=True):
    """When each message came, by its id, since the first of all; shapes (frames,). And how many frames there were."""

    arrivals: Mapping[str, Array]
    count: int
    unknown: int
    seconds: float


class OnTheBus(Struct, frozen=True):
    """A message as the log has it beside what was worked out."""

    id: str
    name: str
    count: int
    widest_s: float
    """from one to the next"""
    allowed_s: float
    late: int
    first_late_s: float | None
    lost: int


def read_can_log(path: Path, result: BusResult) -> Iterator[int | CanLog]:
    """Frames read so far, now and then, and at last the log, in any of `LOGS`. Raises ProjectError for what is none."""
    import can  # only where one is read

    if path.suffix.lower() not in LOGS:
        raise ProjectError(f"A log of a bus is one of {', '.join(LOGS)}.")
    with path.open("rb") as file:
        if path.suffix.lower() == ".blf" and file.read(4) != b"LOGG":
            raise ProjectError("This is no BLF: its first bytes are others.")
    ids = identities(result.bus, [m.message for m in result.messages])
    named = {number: message for message, number in ids.items()}
    found: dict[str, list[float]] = {}
    count, unknown, first, last = 0, 0, math.inf, -math.inf
    try:
        with can.LogReader(path) as frames:
            for frame in frames:
                count += 1
                first, last = min(first, frame.timestamp), max(last, frame.timestamp)
                message = named.get(frame.arbitration_id)
                if message is None:
                    unknown += 1
                else:
                    found.setdefault(message, []).append(frame.timestamp)
                if count % AT_A_TIME == 0:
                    yield count
    except OSError:
        raise
    except Exception as error:  # each format's reader has errors of its own
        raise ProjectError(f"The log cannot be read after {count} frames: {str(error)[:200]}.") from error
    if not found:
        raise ProjectError(f"The log has no message of {result.bus.name}. Do its identities agree?")
    yield CanLog({m: np.array(sorted(t)) - first for m, t in found.items()}, count, unknown, last - first)


def laid_on(result: BusResult, log: CanLog) -> list[OnTheBus]:
    """Each message of the log against its period and how late it may be."""
    return [_on(m, log.arrivals[m.message.id]) for m in result.messages if m.message.id in log.arrivals]


def _on(m: MessageResult, times: Array) -> OnTheBus:
    """Two may lie a period and the whole difference between its worst and its best apart."""
    every, gaps = m.message.every_s, np.diff(times)
    worst = m.response_s if m.response_s is not None and math.isfinite(m.response_s) else every
    allowed = every + max(worst - m.time_s, 0.0)
    late = np.flatnonzero(gaps > allowed + SPARE_S)
    lost = int(np.maximum(np.round(gaps[late] / every) - 1, 0).sum())
    widest = float(gaps.max()) if len(gaps) else 0.0
    return OnTheBus(m.message.id, m.message.name, len(times), widest, allowed, len(late),
                    float(times[late[0] + 1]) if len(late) else None, lost)  # fmt: skip


def can_words(log: CanLog, laid: list[OnTheBus]) -> str:
    """What of the log is not as planned; the first of each."""
    head = f"Log of {log.count} frames over {show(log.seconds, 's')}"
    strange = f", {log.unknown} of messages that are not here" if log.unknown else ""
    told = [
        f"{x.name} came up to {show(x.widest_s, 's')} apart of {show(x.allowed_s, 's')}, first at"
        f" {show(x.first_late_s, 's')}; {x.lost} lost"
        for x in laid if x.late
    ]  # fmt: skip
    return f"{head}{strange}: {'; '.join(told) if told else 'every message came in time'}."
