"""Buses and their messages: how long each takes and may wait, the share of the time, bytes that are lost."""

import math
from collections.abc import Mapping, Sequence

from msgspec import Struct
from msgspec.structs import replace

from wired_union.kernel.checks import Check, check_of
from wired_union.kernel.results import Verdict, worst
from wired_union.kernel.subject import Given, Node
from wired_union.physics.bus import can_frame_bits, i2c_time, one_wire_time, spi_time, uart_time
from wired_union.physics.tasks import Shared, queued, worst_response
from wired_union.project.model import Project
from wired_union.project.timing_model import Bus, Message
from wired_union.subjects.timing.packets import PACKETS, message_sized
from wired_union.subjects.timing.pull_ups import Lines, lines_of
from wired_union.subjects.timing.tasks import TASKS, ProcessorResult, TaskResult

FRAME_BYTES = 8
ERROR_BITS = 31
"""Bits that telling an error takes at the most, before the frame is sent again (Tindell 1995; Davis 2007)."""


class MessageResult(Struct, frozen=True):
    """A message: how long it is on the wire, and its worst time from when it is handed over until it is there."""

    message: Message
    time_s: float
    response_s: float | None
    overrun: Check | None = None
    """Bytes that come in before they are read, against those that are kept."""
    missing: tuple[str, ...] = ()

    @property
    def deadline_s(self) -> float:
        return self.message.deadline_s or self.message.every_s

    @property
    def check(self) -> Check | None:
        if self.response_s is None:
            return None
        return check_of("arrival", self.response_s, self.deadline_s, "s", of=self.message.id)

    @property
    def verdict(self) -> Verdict:
        found = [c.verdict for c in (self.check, self.overrun) if c is not None]
        if Verdict.BREAKS in found:
            return Verdict.BREAKS
        return Verdict.UNKNOWN if self.missing or self.check is None else worst(found) or Verdict.UNKNOWN


class BusResult(Struct, frozen=True):
    """A bus with its messages, and the share of the time that it is in use at the most."""

    bus: Bus
    messages: tuple[MessageResult, ...]
    share: float | None
    missing: tuple[str, ...] = ()
    lines: Lines | None = None
    """How its lines are pulled up, where somebody says anything of that."""

    @property
    def verdict(self) -> Verdict | None:
        return worst([*(m.verdict for m in self.messages), *((self.lines.verdict,) if self.lines else ())])

    def of(self, message_id: str) -> MessageResult | None:
        return next((m for m in self.messages if m.message.id == message_id), None)

    @property
    def worst_wait_s(self) -> float | None:
        """The longest that any message waits and travels."""
        known = [m.response_s for m in self.messages if m.response_s is not None]
        return max(known) if len(known) == len(self.messages) and known else None


def on_wire_s(message: Message, bus: Bus) -> float:
    """Time of a message on its bus, all its transfers."""
    if bus.kind == "can":
        return frames_of(message) * frame_s(message, bus)
    if bus.kind == "i2c":
        return i2c_time(message.bytes, bus.clock_hz, message.transfers).time_s
    if bus.kind == "spi":
        return spi_time(message.bytes, bus.clock_hz, message.transfers).time_s
    if bus.kind == "uart":
        return uart_time(message.bytes * message.transfers, bus.clock_hz).time_s
    return one_wire_time(message.bytes).time_s * message.transfers


def frames_of(message: Message) -> int:
    """Frames of CAN that carry its bytes."""
    return max(math.ceil(message.bytes / FRAME_BYTES), 1) * message.transfers


def frame_s(message: Message, bus: Bus) -> float:
    """Its longest frame of CAN, stuffed at the worst."""
    return can_frame_bits(min(message.bytes, FRAME_BYTES), bus.extended).bits / bus.clock_hz


def assess_bus(bus: Bus, messages: Sequence[Message], processors: Sequence[ProcessorResult]) -> BusResult:
    """Every message of a bus."""
    own = [m for m in messages if m.bus == bus.id]
    lines = lines_of(bus)
    if not own:
        return BusResult(bus, (), None, (f"{bus.name}: its messages",), lines)
    times = [on_wire_s(m, bus) for m in own]
    waits, mixed = _on_can(bus, own) if bus.kind == "can" else _in_turn(own, times), _mixed(bus, own)
    found = []
    for message, time, wait in zip(own, times, waits, strict=True):
        missing = list(mixed)
        if math.isnan(wait):
            missing.append(f"{message.name}: how long it waits; {bus.name} hardly ever pauses")
        overrun = _overrun(bus, message, processors, missing)
        found.append(MessageResult(message, time, None if math.isnan(wait) or mixed else wait, overrun, tuple(missing)))
    share = sum(t / m.every_s for t, m in zip(times, own, strict=True)) + _spoilt(bus, own)
    lacks = tuple(m for r in found for m in r.missing)
    return BusResult(bus, tuple(found), share, lacks, lines)


def _on_can(bus: Bus, own: Sequence[Message]) -> list[float]:
    """Exactly by priority where each is one frame; where one is several, as if others could come in between."""
    frames, count = [frame_s(m, bus) for m in own], [frames_of(m) for m in own]
    whole = [Shared(f * n, m.every_s, m.jitter_s) for f, n, m in zip(frames, count, own, strict=True)]
    rank = ranks(own)
    above = [[k for k in range(len(own)) if k != n and rank[k] <= rank[n]] for n in range(len(own))]
    if bus.errors_per_min:  # one may spoil its own frame too: so late they may come
        whole.append(Shared(ERROR_BITS / bus.clock_hz + max(frames), 60.0 / bus.errors_per_min, max(frames)))
        above = [*([*a, len(own)] for a in above), []]
        frames, count = [*frames, 0.0], [*count, 1]
    if max(count) == 1:
        return queued(whole, 1 / bus.clock_hz, above)[: len(own)]
    found = []
    for n, one in enumerate(whole[: len(own)]):
        lower = [frames[k] for k in range(len(own)) if k != n and k not in above[n]]
        found.append(worst_response(one, [whole[k] for k in above[n]], max(lower, default=0.0)))
    return found


def ranks(own: Sequence[Message]) -> list[int]:
    """What goes first: by identity where every message has one, else by priority."""
    named = all(m.identity is not None for m in own)
    return [(m.identity or 0) if named else m.priority for m in own]


def identities(bus: Bus, own: Sequence[Message]) -> dict[str, int]:
    """Of each message by its id: its own, or the lowest that are free, in the order of priorities."""
    taken, found = {m.identity for m in own}, {m.id: m.identity for m in own if m.identity is not None}
    free = (n for n in range(1, 2**29 if bus.extended else 2**11) if n not in taken)
    for message in sorted((m for m in own if m.identity is None), key=lambda m: m.priority):
        found[message.id] = next(free)
    return found


def _mixed(bus: Bus, own: Sequence[Message]) -> tuple[str, ...]:
    """Some messages by identity and some by priority: nobody knows which goes first."""
    if bus.kind != "can" or not any(m.identity is not None for m in own):
        return ()
    return tuple(f"{m.name}: its identity, as the others have one" for m in own if m.identity is None)


def _spoilt(bus: Bus, own: Sequence[Message]) -> float:
    """Share of the time that errors and what is sent again take."""
    if bus.kind != "can" or not bus.errors_per_min:
        return 0.0
    longest = max(frame_s(m, bus) for m in own)
    return (ERROR_BITS / bus.clock_hz + longest) * bus.errors_per_min / 60.0


def _in_turn(own: Sequence[Message], times: Sequence[float]) -> list[float]:
    """One after the other as they are asked for: at the worst each other one is before it, once or more often."""
    shared = [Shared(t, m.every_s, m.jitter_s) for t, m in zip(times, own, strict=True)]
    once = sum(times)
    if all(once + s.jitter_s <= s.period_s for s in shared):
        return [s.jitter_s + once for s in shared]
    return [worst_response(s, [o for k, o in enumerate(shared) if k != n]) for n, s in enumerate(shared)]


def _overrun(
    bus: Bus, message: Message, processors: Sequence[ProcessorResult], missing: list[str]
) -> Check | None:  # fmt: skip
    """Bytes that come before the reader has been, against those that the receiver keeps."""
    if bus.kind != "uart" or not message.read_by:
        return None
    reader = _reader(message.read_by, processors)
    if bus.buffer_bytes is None:
        missing.append(f"{bus.name}: the bytes that its receiver keeps")
        return None
    if reader is None or reader.response_s is None or reader.bound:
        missing += reader.missing if reader is not None and reader.missing else [f"{message.name}: when it is read"]
        return None
    if not math.isfinite(reader.response_s):
        return Check("overrun", "bytes kept", math.inf, math.inf, float(bus.buffer_bytes))
    gap = reader.response_s + (0.0 if reader.task.interrupt else reader.task.period_s)
    comes = min(gap / uart_time(1, bus.clock_hz).time_s,
                message.bytes * message.transfers * math.ceil(gap / message.every_s + 1))  # fmt: skip
    return check_of("overrun", float(math.ceil(comes - 1e-9)), float(bus.buffer_bytes), "", extra=" bytes kept")


def _reader(task_id: str, processors: Sequence[ProcessorResult]) -> TaskResult | None:
    return next((t for p in processors if (t := p.of(task_id)) is not None), None)


def _read(project: Project) -> tuple[object, ...]:
    return project.concept.buses, project.concept.messages


def _work(project: Project, given: Given) -> tuple[BusResult, ...]:
    processors, sizes = given.of(TASKS), {p.packet.id: p for p in given.of(PACKETS)}
    sized = [message_sized(m, sizes) for m in project.concept.messages]
    lacks = {m.id: gaps for m, gaps in sized if gaps}
    messages = [m for m, _ in sized]
    return tuple(_lacking(assess_bus(b, messages, processors), lacks) for b in project.concept.buses)


def _lacking(result: BusResult, lacks: Mapping[str, tuple[str, ...]]) -> BusResult:
    """With a message of which the bytes are not known, nothing of its bus is."""
    gaps = tuple(dict.fromkeys(g for m in result.messages for g in lacks.get(m.message.id, ())))
    if not gaps:
        return result
    messages = tuple(replace(m, response_s=None, overrun=None, missing=gaps) for m in result.messages)
    return BusResult(result.bus, messages, None, (*result.missing, *gaps), result.lines)


BUSES = Node("buses", _read, _work, (TASKS, PACKETS))
