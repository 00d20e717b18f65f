"""What flows through cables: voltage lost, heat, contacts, and the fuse before each."""

import math
from collections.abc import Iterator

from msgspec import Struct
from msgspec.structs import replace

from wired_union.kernel.checks import Check, check_of
from wired_union.kernel.results import Verdict, worst
from wired_union.physics.wire import copper_warmth, warm_ampacity, wire_ampacity, wire_gauge, wire_temperature
from wired_union.project.cables import posed_ends
from wired_union.project.model import Brief, Concept, Feed
from wired_union.project.wiring_model import Cable
from wired_union.subjects.power.gives import PowerResult, copper_c
from wired_union.subjects.wiring.laid import LaidCable

BENDS = 10.0
"""A cable that moves is bent no tighter than ten times its thickness: common practice."""
PLUGS_NONE = {"", "none", "soldered", "screwed"}


class FeedLoss(Struct, frozen=True):
    """What one feed loses in its wire at the worst instant, and what flows for long in each of its wires."""

    feed: Feed
    drop_v: float | None
    rail_v: float | None
    flows_a: float | None
    most_a: float | None
    copper_c: float | None = None
    """Of its copper: the hottest air, and its own heat from what flows for long."""
    mode: str = ""
    missing: str = ""

    @property
    def share(self) -> float | None:
        if self.drop_v is None or self.rail_v is None:
            return None
        return self.drop_v / self.rail_v if self.rail_v > 0 else math.inf


class CableResult(Struct, frozen=True):
    """One cable with what must hold of it."""

    laid: LaidCable
    losses: tuple[FeedLoss, ...]
    checks: tuple[Check, ...]
    fuse: str
    missing: tuple[str, ...]

    @property
    def id(self) -> str:
        return self.laid.cable.id

    @property
    def share(self) -> float | None:
        """Worst share of a rail lost in it; None where it is not known of one of its feeds."""
        known = [x.share for x in self.losses]
        return None if any(s is None for s in known) else max((s for s in known if s is not None), default=0.0)

    @property
    def verdict(self) -> Verdict:
        found = worst([c.verdict for c in self.checks])
        if found is Verdict.BREAKS:
            return found
        return Verdict.UNKNOWN if self.missing else found or Verdict.HOLDS


class Bare(Struct, frozen=True):
    """A feed that no cable carries."""

    loss: FeedLoss
    name: str


def loss_of(power: PowerResult, feed: Feed) -> FeedLoss:
    """What a feed by itself loses at the worst instant over all modes, its copper as warm as it gets."""
    return _warmed(power, _in_air(power, feed))


def _warmed(power: PowerResult, loss: FeedLoss, loaded: int = 2, insulation_c: float = 105.0) -> FeedLoss:
    """A loss with the wire's own heat on top of the hottest air, which is what Power counts with; `loaded` wires lie
    together.
    """
    awg = loss.feed.wire_awg
    if loss.drop_v is None or loss.flows_a is None or awg is None or insulation_c <= 25.0:
        return loss
    air_c = copper_c(power.around.hottest_c)
    bears = wire_ampacity(awg, max(loaded, 1)).ampacity_a
    own_c = wire_temperature(loss.flows_a, bears, air_c, insulation_c).temperature_c
    return replace(loss, drop_v=loss.drop_v * copper_warmth(own_c) / copper_warmth(air_c), copper_c=own_c)


def _in_air(power: PowerResult, feed: Feed) -> FeedLoss:
    """What it loses by Power's own tree."""
    node = power.tree.nodes.get(feed.load)
    if node is None:
        name = next((i.name for i in power.concept.items if i.id == feed.load), feed.load)
        return FeedLoss(feed, None, None, None, None, missing=f"what flows to {name}")
    item = node.item
    if feed.wire_length_m is None or (feed.wire_awg is None and feed.wire_length_m > 0):
        return FeedLoss(feed, None, None, None, None, missing=f"the length and gauge of the wire to {item.name}")
    most, lowest, mode = _worst(power, item.id)
    below = {item.id, *power.tree.below(item.id)}
    gap = next((g.said for g in power.missing if g.lacks != "a mission" and (not g.item or g.item in below)), "")
    if not (math.isfinite(most) and math.isfinite(lowest)):
        return FeedLoss(feed, None, None, None, None, missing=gap or f"what flows to {item.name}")
    drop = most * node.wire_ohm
    lasting = power.average(item.id, "current_a").tolist()
    flows = max((x for x in lasting if x == x), default=0.0) / item.count
    return FeedLoss(feed, drop, lowest + drop, flows, most / item.count, mode=mode, missing=gap)


def _worst(power: PowerResult, item_id: str) -> tuple[float, float, str]:
    """Highest current and lowest voltage of a node over the worst instants of all modes, NaN where one cannot be; and
    the mode of the highest. Of this node alone: a few cables are no reason to look at all nodes.
    """
    if not power.modes:
        return 0.0, math.inf, ""
    currents = power.flows.row(item_id, "current_a")[power.modes :].tolist()
    volts = power.input_v(item_id)[power.modes :].tolist()
    if any(x != x for x in (*currents, *volts)):
        return math.nan, math.nan, ""
    return max(currents), min(volts), power.concept.modes[currents.index(max(currents))].name


def cable_results(
    concept: Concept, brief: Brief, laid: tuple[LaidCable, ...], power: PowerResult
) -> tuple[CableResult, ...]:  # fmt: skip
    """Every cable with its checks."""
    feeds = {f.load: f for f in power.concept.feeds}
    cool = {c.cable.id: tuple(_in_air(power, feeds[f.load]) for f in c.feeds if f.load in feeds) for c in laid}
    hot = _loaded_by_bundle(laid, cool)
    found = []
    for c in laid:
        loaded = hot[_bundle(c.cable)]
        losses = tuple(_warmed(power, x, loaded, c.cable.insulation_c) for x in cool[c.cable.id])
        found.append(_cable(concept, brief, c, losses, power, loaded))
    return tuple(found)


def _bundle(cable: Cable) -> str:
    """Name of the bundle it lies in; a cable without one is alone."""
    return cable.bundle or f"={cable.id}"


def _loaded_by_bundle(
    laid: tuple[LaidCable, ...], losses: dict[str, tuple[FeedLoss, ...]]
) -> dict[str, int]:  # fmt: skip
    """How many loaded wires lie together, by their bundle."""
    found: dict[str, int] = {}
    for c in laid:
        loaded = sum(2 for x in losses[c.cable.id] if x.flows_a is None or x.flows_a > 0)
        key = _bundle(c.cable)
        found[key] = found.get(key, 0) + loaded * (c.count if c.cable.bundle else 1)
    return found


def _cable(
    concept: Concept, brief: Brief, laid: LaidCable, losses: tuple[FeedLoss, ...], power: PowerResult,
    loaded: int,
) -> CableResult:  # fmt: skip
    cable = laid.cable
    missing = [*laid.missing, *(f"{cable.name}: {x.missing}" for x in losses if x.missing)]
    checks: list[Check] = []
    if not laid.is_plugged:
        checks += _electric(concept, brief, laid, losses, loaded)
        contacts, lacks = _contacts(laid, losses)
        checks += contacts
        missing += lacks
        checks += _geometry(concept, laid)
        missing += _unsaid(laid)
    return CableResult(laid, losses, tuple(checks), _fuse_words(power, losses), tuple(dict.fromkeys(missing)))


def _electric(
    concept: Concept, brief: Brief, laid: LaidCable, losses: tuple[FeedLoss, ...], loaded: int
) -> Iterator[Check]:  # fmt: skip
    """Voltage lost of what may be, and what flows for long of what its gauge carries in its bundle and warmth."""
    allowed = concept.wiring.most_drop
    for x in losses:
        if x.share is not None and laid.length_m:
            yield check_of("drop", x.share, allowed, "share", of=x.feed.load)
    if laid.cable.awg is None or laid.cable.insulation_c <= 25.0:
        return
    free = wire_ampacity(laid.cable.awg, max(loaded, 1)).ampacity_a
    carries = warm_ampacity(free, max(brief.hottest_c, 25.0), laid.cable.insulation_c).ampacity_a
    for x in losses:
        if x.flows_a is not None:
            yield check_of("heat", x.flows_a, carries, "A", of=x.feed.load)


def _contacts(laid: LaidCable, losses: tuple[FeedLoss, ...]) -> tuple[list[Check], list[str]]:
    """Contacts enough, and each bears what flows through it for long."""
    cable, checks, lacks = laid.cable, [], []
    if cable.connector.strip().lower() in PLUGS_NONE:
        return [], []
    if cable.ways is None:
        lacks.append(f"{cable.name}: how many contacts its plugs have")
    elif laid.wires is not None and laid.wires > cable.ways:
        checks.append(check_of("contacts", laid.wires, cable.ways, "", extra=" contacts"))
    flowing = [x for x in losses if x.flows_a is not None]
    if losses and cable.contact_a is None:
        lacks.append(f"{cable.name}: what a contact of its plugs bears")
    elif cable.contact_a is not None:
        checks += [check_of("contact", x.flows_a or 0.0, cable.contact_a, "A", of=x.feed.load) for x in flowing]
    return checks, lacks


def _geometry(concept: Concept, laid: LaidCable) -> Iterator[Check]:
    """Long enough in every pose, and not bent too tightly where it moves."""
    cable = laid.cable
    if laid.length_m is not None and cable.length_m is not None:
        ways = [
            (math.dist((a.x_m, a.y_m, a.z_m), (b.x_m, b.y_m, b.z_m)), pose)
            for pose, a, b in posed_ends(concept, cable)
        ]  # fmt: skip
        needed, pose = max(ways, default=(0.0, ""))
        if needed > 0:
            yield check_of("long enough", needed, laid.length_m, "m", extra=f" in “{pose}”" if pose else "")
    if cable.passes in {"a hinge", "a slide"} and cable.bend_m is not None and laid.thick_m is not None:
        yield check_of("bend", BENDS * laid.thick_m, cable.bend_m, "m")


def _unsaid(laid: LaidCable) -> Iterator[str]:
    """What must be said of a cable that moves, and of one that somebody has to make."""
    cable = laid.cable
    if cable.passes in {"a hinge", "a slide"} and cable.bend_m is None:
        yield f"{cable.name}: how tightly it is bent where it moves"
    if cable.sold in {"made by us", "made for us"}:
        lacks = [w for w, t in (("by whom", cable.made_by), ("from what", cable.made_from),
                                ("tested how", cable.tested_how)) if not t.strip()]  # fmt: skip
        if lacks:
            yield f"{cable.name}: made {', '.join(lacks)}"


def _fuse_words(power: PowerResult, losses: tuple[FeedLoss, ...]) -> str:
    """The fuse next above its first feed."""
    if not losses:
        return ""
    nodes = power.tree.nodes
    for above in power.tree.above(losses[0].feed.load):
        rail = nodes[above].item.part.rail if above in nodes else None
        if rail is not None and (rail.fused != "no" or nodes[above].item.part.kind == "fuse"):
            each = rail.fused == "each way"
            return "fused each way" if each else f"fuse {rail.max_current_a:g} A" if rail.max_current_a else "fused"
        if above in nodes and nodes[above].item.part.regulator is not None:
            return "behind a converter"
    return "no fuse"


def copper_ohm(laid: LaidCable) -> float | None:
    """Resistance of one pair of its wires, there and back."""
    if laid.length_m is None or laid.cable.awg is None:
        return None
    return 2 * laid.length_m * wire_gauge(laid.cable.awg).resistance_ohm_per_m
