"""What people's parts hand each other: what both sides agreed on, and what has moved since."""

from collections.abc import Iterator

from msgspec import Struct

from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Given, Node
from wired_union.project.change import Change, by_id, replaced, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.model import Concept, Project
from wired_union.project.wiring_model import Agreed, Interface
from wired_union.units import show


class Handed(Struct, frozen=True):
    """One interface: what was agreed and moved since, and what lacks."""

    interface: Interface
    moved: tuple[str, ...]
    lacks: tuple[str, ...]
    asks: tuple[str, ...]
    """who is to look at it again"""

    @property
    def verdict(self) -> Verdict:
        if self.moved:
            return Verdict.BREAKS
        if self.lacks:
            return Verdict.UNKNOWN
        done = self.interface.built_one and self.interface.built_other and bool(self.interface.tried_on)
        return Verdict.HOLDS if done else Verdict.TIGHT

    @property
    def stands(self) -> str:
        """How far it is: "agreed 2026-11-20, built on one side, not tried"."""
        i = self.interface
        if i.agreed is None:
            return "not agreed"
        built = {0: "built on neither side", 1: "built on one side", 2: "built on both"}[i.built_one + i.built_other]
        on = f" {i.agreed.on}" if i.agreed.on else ""
        tried = f"tried {i.tried_on}" if i.tried_on else "not tried"
        return f"agreed{on}, {'moved since, ' if self.moved else ''}{built}, {tried}"


def carried(concept: Concept, i: Interface) -> str:
    """What the packet, message or chain that it is looks like now, so that a change of it is seen."""
    found: list[str] = []
    for packet in (p for p in concept.packets if p.id == i.packet):
        fields = ", ".join(
            f"{f.name} {f.least:g}…{f.most:g} by {f.resolution:g} {f.unit}".strip() for f in packet.fields
        )
        found.append(f"packet {packet.name}: {fields}; {packet.checksum}, {packet.framing}")
    for message in (m for m in concept.messages if m.id == i.message):
        size = f"packet {message.packet}" if message.packet else f"{message.bytes} bytes"
        found.append(f"message {message.name}: {size} every {show(message.every_s, 's')}")
    for chain in (c for c in concept.chains if c.id == i.chain):
        found.append(f"chain {chain.name}: {', '.join(s.name for s in chain.stages)}")
    return "; ".join(found)


def looked_at(concept: Concept, i: Interface) -> Handed:
    """One interface against what was agreed."""
    lacks = [w for w, gone in (
        ("the part that gives", not i.one), ("the part that takes", not i.other), ("who answers for what gives", not
         i.owner_one.strip()), ("who answers for what takes", not i.owner_other.strip()), ("what is given", not
         (i.gives.strip() or i.packet or i.message or i.chain)), ("that both sides agreed", i.agreed is None),
    ) if gone]  # fmt: skip
    if i.agreed is None:
        return Handed(i, (), tuple(lacks), ())
    now = {"what is given": (i.agreed.gives, i.gives), "what is taken": (i.agreed.takes, i.takes),
           "the unit": (i.agreed.unit, i.unit), "how often": (_rate(i.agreed.rate_hz), _rate(i.rate_hz)),
           "what it stands for": (i.agreed.carried, carried(concept, i))}  # fmt: skip
    moved = tuple(f"{what}: “{then}” is now “{today}”" for what, (then, today) in now.items() if then != today)
    givers = {"what is given", "the unit", "how often", "what it stands for"}
    given = any(then != today for what, (then, today) in now.items() if what in givers)
    asks = [i.owner_other or "whoever takes it"] if given else []
    asks += [i.owner_one or "whoever gives it"] if i.agreed.takes != i.takes else []
    return Handed(i, moved, tuple(lacks), tuple(asks))


def _rate(hertz: float | None) -> str:
    return "" if hertz is None else show(hertz, "Hz")


def agree(project: Project, interface_id: str, today: str) -> Change:
    """Both sides agree on it as it stands. Raises ProjectError while nobody says what is handed over, or by whom."""
    i = by_id(project.concept.interfaces, interface_id, "interface")
    said = looked_at(project.concept, i)
    lacks = [x for x in said.lacks if x != "that both sides agreed"]
    if lacks:
        raise ProjectError(f"{i.name}: say first {', '.join(lacks)}.")
    agreed = Agreed(gives=i.gives, takes=i.takes, unit=i.unit, rate_hz=i.rate_hz, carried=carried(project.concept, i),
                    on=today)  # fmt: skip
    new = i.but(agreed=agreed, tried_on="" if said.moved else i.tried_on)
    after = with_concept(project, interfaces=replaced(project.concept.interfaces, i, new))
    return Change(project, after, f"{i.name}: agreed")


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    if not concept.interfaces:
        return ()
    return concept.interfaces, concept.packets, concept.messages, concept.chains


def _work(project: Project, _: Given) -> tuple[Handed, ...]:
    return tuple(looked_at(project.concept, i) for i in project.concept.interfaces)


HANDED = Node("handed over", _read, _work)


def not_agreed(found: tuple[Handed, ...]) -> Iterator[Handed]:
    return (h for h in found if h.interface.agreed is None or h.moved)
