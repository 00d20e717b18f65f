"""What the starts are made of: places for generic parts, who feeds them, and what they do in each mode."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

from wired_union.catalogue.parts import part
from wired_union.project.model import (
    AnyLoad,
    Brief,
    Chain,
    Concept,
    Feed,
    Item,
    Limit,
    Mission,
    Mode,
    Phase,
    Project,
    State,
    Subsystem,
    Use,
)

Does = State | tuple[State, float]
"""What a part does in a mode: its state, or that with the share of the time."""


class Place(NamedTuple):
    """A part in a lane: its id here, its id in the catalogue, what feeds it, and how many copies there are."""

    id: str
    part: str
    lane: str
    feed: str = ""
    copies: int = 1


class Way(NamedTuple):
    """A mode: its name, how long it lasts in one cycle, what everything else does, and what some do."""

    name: str
    lasts_s: float
    otherwise: State
    uses: Mapping[str, Does] = {}
    staggered: bool = False


def made(
    name: str,
    subtitle: str,
    limits: Sequence[Limit],
    places: Sequence[Place],
    ways: Sequence[Way],
    repeats: int = 1,
    loads: tuple[AnyLoad, ...] = (),
    chains: tuple[Chain, ...] = (),
) -> Project:
    """A project of one concept from generic parts."""
    lanes = dict.fromkeys(p.lane for p in places)
    concept = Concept(
        id="a",
        name="as it starts",
        subsystems=tuple(Subsystem(id=lane.lower(), name=lane) for lane in lanes),
        items=tuple(_item(p) for p in places),
        feeds=tuple(Feed(source=p.feed, load=p.id) for p in places if p.feed),
        modes=tuple(_mode(w) for w in ways),
        mission=Mission(phases=tuple(Phase(mode=_id(w), duration_s=w.lasts_s) for w in ways), repeats=repeats),
        loads=loads,
        chains=chains,
    )
    return Project(name=name, subtitle=subtitle, brief=Brief(limits=tuple(limits)), concepts=(concept,))


def _item(place: Place) -> Item:
    known = part(place.part)
    return Item(id=place.id, name=known.name, subsystem=place.lane.lower(), part=known, count=place.copies)


def _id(way: Way) -> str:
    return way.name.lower().replace(" ", "-")


def _mode(way: Way) -> Mode:
    uses = (_use(item, does) for item, does in way.uses.items())
    return Mode(id=_id(way), name=way.name, uses=tuple(uses), otherwise=way.otherwise, staggered=way.staggered)


def _use(item: str, does: Does) -> Use:
    return Use(item=item, state=does) if isinstance(does, str) else Use(item=item, state=does[0], duty=does[1])


def runs(seconds: float, name: str = "Runs long enough") -> Limit:
    return Limit(measure="runtime", name=name, value=seconds, direction="at least", proof="a full run on the bench")


def weighs(kilograms: float, name: str = "Light enough to carry") -> Limit:
    return Limit(measure="mass", name=name, value=kilograms, direction="at most", group="Carry and fit", proof="scale")


def costs(amount: float, name: str = "Within the money") -> Limit:
    return Limit(measure="money", name=name, value=amount, direction="at most", group="Cost", proof="receipts")


def draws(amperes: float, name: str = "Peak the pack may give") -> Limit:
    return Limit(measure="peak-current", name=name, value=amperes, direction="at most", proof="clamp meter")


def reacts(chain: str, seconds: float, name: str) -> Limit:
    return Limit(measure=f"chain:{chain}", name=name, value=seconds, direction="at most", group="React", proof="filmed")


def shown(measure: str, name: str, value: float, unit: str, proof: str) -> Limit:
    """A limit that only a trial can show."""
    return Limit(
        measure=measure, name=name, value=value, direction="at least", group="Prove", unit=unit, own=True, proof=proof
    )
