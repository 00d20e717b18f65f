"""Signal chains, tasks, buses, loops, radio links, wires and ways in the report."""

from collections.abc import Iterator

from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import drawn
from wired_union.subjects.timing.air import AIR
from wired_union.subjects.timing.assess import TIMING, chain_measure
from wired_union.subjects.timing.buses import BUSES
from wired_union.subjects.timing.findings_air import RULES
from wired_union.subjects.timing.findings_loops import loop_words
from wired_union.subjects.timing.lanes import lanes_of, room_left
from wired_union.subjects.timing.loops import LOOPS
from wired_union.subjects.timing.packets import PACKETS
from wired_union.subjects.timing.picture import chain_picture
from wired_union.subjects.timing.picture_air import link_words
from wired_union.subjects.timing.picture_bode import bode_picture
from wired_union.subjects.timing.picture_buses import bus_words, message_words
from wired_union.subjects.timing.picture_lanes import lanes_picture, lanes_words, load_words, task_words
from wired_union.subjects.timing.picture_loop import loop_picture
from wired_union.subjects.timing.picture_packet import packet_words
from wired_union.subjects.timing.picture_spread import age_words, moved_words, sampling_words, spread_words
from wired_union.subjects.timing.picture_way import way_picture
from wired_union.subjects.timing.signals import SIGNALS, signal_words
from wired_union.subjects.timing.tasks import TASKS
from wired_union.subjects.timing.ways import WAYS, way_words
from wired_union.units import show

WIDE = 760.0


def section(assessment: Assessment, kit: Kit) -> Section:
    """Each chain with its bars, then what it passes through."""
    blocks = [*_chains(assessment, kit), *_tasks(assessment, kit), *_buses(assessment), *_loops(assessment, kit),
              *_links(assessment), *_packets(assessment), *_wires(assessment),
              *_ways(assessment, kit)]  # fmt: skip
    return Section("From something sensed to something done", tuple(blocks) or (Block(text="No signal chain yet."),))


def _chains(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    for chain in assessment.of(TIMING).chains:
        latency, name = chain.latency, chain.chain.name
        text = f"{show(latency.most_s, 's')} worst, {show(latency.typical_s, 's')} typical" if latency else (
            "; ".join(chain.missing))  # fmt: skip
        yield Block(text=f"{name}: {text}", tone="heading")
        limit = chain_measure(assessment, chain).limit
        told = (spread_words(chain, limit), age_words(chain), *sampling_words(chain), moved_words(assessment, chain))
        if latency and limit is not None:
            yield Block(text=" ".join(filter(None, told)))
        if limit is not None or chain is assessment.of(TIMING).chains[0]:
            yield drawn(chain_picture(chain, kit, WIDE, limit), name)


def _tasks(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    for p in assessment.of(TASKS):
        lanes = lanes_of(p)
        yield Block(text=f"Tasks of {p.processor.name}: {p.processor.way}, {load_words(p)}", tone="heading")
        yield drawn(lanes_picture(p, lanes, kit, WIDE, ""), f"Tasks of {p.processor.name}")
        yield Block(text=lanes_words(p, room_left(p), None))
        late = [t for t in p.tasks if t.verdict is not Verdict.HOLDS]
        if late:
            yield Block(head=("task", "at the worst", "verdict"),
                        rows=tuple((t.task.name, task_words(t), t.verdict.value) for t in late))  # fmt: skip


def _buses(assessment: Assessment) -> Iterator[Block]:
    rows = tuple(
        (b.bus.name, bus_words(b), message_words(m), m.verdict.value)
        for b in assessment.of(BUSES) for m in b.messages
    )  # fmt: skip
    if rows:
        yield Block(text="Buses and what goes over them", tone="heading")
        yield Block(head=("bus", "in use", "message", "verdict"), rows=rows)


def _loops(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    for r in assessment.of(LOOPS):
        left = f"{r.left_deg:.0f}° of phase margin left" if r.left_deg is not None else "not known yet"
        yield Block(text=f"Control loop {r.loop.name}: {left}. {loop_words(r)}", tone="heading")
        if r.verdict is not Verdict.HOLDS:
            yield drawn(loop_picture(r, kit, WIDE), r.loop.name)
        if r.known and not r.switches and r.verdict is not Verdict.HOLDS:
            yield drawn(bode_picture(r, kit, WIDE), f"{r.loop.name}, over frequency")


def _links(assessment: Assessment) -> Iterator[Block]:
    links = assessment.of(AIR)
    if links:
        yield Block(text="Through the air", tone="heading")
        rows = tuple((r.link.name, link_words(r), r.verdict.value) for r in links)
        yield Block(head=("link", "at the worst", "verdict"), rows=rows)
        yield Block(text=RULES, tone="note")


def _wires(assessment: Assessment) -> Iterator[Block]:
    wires = assessment.of(SIGNALS)
    if wires:
        yield Block(text="Pulses, samples and edges", tone="heading")
        rows = tuple((r.signal.name, r.signal.kind, signal_words(r), r.verdict.value) for r in wires)
        yield Block(head=("wire", "kind", "at the worst", "verdict"), rows=rows)


def _ways(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    for r in assessment.of(WAYS):
        yield Block(text=f"Way driven by counting: {r.way.name}, {way_words(r)}", tone="heading")
        if r.verdict is not Verdict.HOLDS:
            yield drawn(way_picture(r, kit, WIDE), r.way.name)


def _packets(assessment: Assessment) -> Iterator[Block]:
    for r in assessment.of(PACKETS):
        yield Block(text=f"Packet {r.packet.name}: {packet_words(r)}", tone="heading")
        if r.missing:
            continue
        rows = tuple(
            (f.name, str(bits), f"{f.least:g} to {f.most:g} {f.unit}".strip(), f"{f.resolution:g}")
            for f, bits in zip(r.packet.fields, r.bits, strict=True)
        )
        yield Block(head=("field", "bits", "from and to", "in steps of"), rows=rows)
