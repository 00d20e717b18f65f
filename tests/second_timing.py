"""Tasks and messages by other means: Lehoczky's points, scanned one by one, over the plain data of a project's file."""

import math

WIRE_BITS = {"uart": lambda m: 10 * m["bytes"] * m["transfers"], "spi": lambda m: 8 * m["bytes"] * m["transfers"],
             "i2c": lambda m: (9 * (m["bytes"] + 1) + 2) * m["transfers"]}  # fmt: skip


def _needs(t: float, others: list[dict]) -> float:
    return sum(math.ceil(round((t + o["jitter_s"]) / o["period_s"], 9)) * (o["most_s"] + o["waits_s"]) for o in others)


def _first_point(own_s: float, others: list[dict]) -> float:
    """The first moment by which own work and all that comes in meanwhile is done; for a first instance (Lehoczky 1989)."""
    points = sorted({k * o["period_s"] - o["jitter_s"] for o in others for k in range(1, 4000)})
    for point in (p for p in points if p > 0):
        if own_s + _needs(point, others) <= point + 1e-12:
            return own_s + _needs(point, others)
    return own_s


def response_s(concept: dict, task: dict) -> float:
    """Worst response of a task that ends before it is due again; others of its processor by number."""
    processor = next(p for p in concept["processors"] if p["id"] == task["processor"])
    others = [t for t in concept["tasks"] if t["processor"] == processor["id"] and t is not task]
    place = (not task["interrupt"], task["priority"])
    higher = [t for t in others if (not t["interrupt"], t["priority"]) <= place]
    own = task["most_s"] + task["waits_s"]
    if task["interrupt"] or processor["way"] == "pre-emptive":
        held = max((t["holds_s"] for t in others if t not in higher), default=0.0)
        return task["jitter_s"] + _first_point(own + held, higher)
    assert processor["way"] == "plain loop"
    calls = [t for t in [*others, task] if not t["interrupt"]]
    whole = sum(t["most_s"] + t["waits_s"] for t in calls) + own
    return task["jitter_s"] + _first_point(whole, [t for t in others if t["interrupt"]])


def on_wire_s(concept: dict, message: dict) -> float:
    bus = next(b for b in concept["buses"] if b["id"] == message["bus"])
    return WIRE_BITS[bus["kind"]](message) / bus["clock_hz"]


def arrival_s(concept: dict, message: dict) -> float:
    """Each other message of its bus may be before it once."""
    return message["jitter_s"] + sum(on_wire_s(concept, m) for m in concept["messages"] if m["bus"] == message["bus"])


def packet_s(link: dict) -> float:
    """A chirp packet with header and checksum: the formula of AN1200.13, written out anew (from memory)."""
    factor, symbol = link["spreading_factor"], 2 ** link["spreading_factor"] / link["bandwidth_hz"]
    slow = 1 if symbol >= 0.016 else 0
    blocks = math.ceil((8 * link["payload_bytes"] - 4 * factor + 44) / (4 * (factor - 2 * slow)))
    return (link["preamble_symbols"] + 12.25 + max(blocks, 0) * (link["coding_rate"] + 4)) * symbol


def stage_s(concept: dict, stage: dict) -> float:
    """Longest time of a stage that is a task, a message or a packet."""
    if stage["kind"] == "air":
        link = next(x for x in concept["radio_links"] if x["id"] == stage["link"])
        return packet_s(link) * link["hops"] + (link["every_s"] if stage["starts"] == "by its period" else 0.0)
    if stage["kind"] == "picture":
        eye = next(x for x in concept["eyes"] if x["id"] == stage["eye"])
        work = {"a colour": 30, "edges and shapes": 300, "learned things": 10_000}[eye["looks_for"]]
        known = eye["pixels_wide"] * eye["pixels_high"] * eye["region"] * work / eye["operations_hz"]
        known += eye["exposure_s"] + eye["transfer_s"]
        return known + max(math.ceil(round(known * eye["rate_hz"], 9)), 1) / eye["rate_hz"]
    room = "tasks" if stage["kind"] == "task" else "messages"
    value = next(x for x in concept[room] if x["id"] == stage[stage["kind"]])
    takes = (response_s if room == "tasks" else arrival_s)(concept, value)
    period = value["period_s"] if room == "tasks" else value["every_s"]
    return takes + (period if stage["starts"] == "by its period" else 0.0)
