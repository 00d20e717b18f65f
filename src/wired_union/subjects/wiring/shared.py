"""Buses that parts share: addresses, pull-ups, clock, length, and what one broken device does to the rest."""

from collections.abc import Iterator, Mapping

from msgspec import Struct

from wired_union.kernel.checks import Check, check_of
from wired_union.kernel.results import Verdict, worst
from wired_union.physics.bus import I2C_LOW_V, I2C_MODES, PullUp, bus_reach, i2c_pull_up
from wired_union.project.model import Bus, Concept, Item
from wired_union.subjects.wiring.laid import LaidCable
from wired_union.subjects.wiring.pins import PinsResult, Wired
from wired_union.subjects.wiring.teeth import Slot

PIN_F = 10e-12
"""Capacitance of one pin: the most of NXP UM10204, table 10 (from memory)."""
BROKEN = {
    "I2C": "A device that holds a line low silences all of them: {others}.",
    "SPI": "A device that drives its output while it is not selected spoils what the others send: {others}.",
    "CAN": "A device that errs takes itself off; one that shorts the pair silences all of them: {others}.",
}
KIND_OF = {"I2C": "i2c", "SPI": "spi", "CAN": "can"}
SHOWN = {"I2C": "I²C", "SPI": "SPI", "CAN": "CAN"}


class Device(Struct, frozen=True):
    """One part, or one end of a join, on a bus."""

    name: str
    item: str
    copy: int
    address: int | None
    clock_hz: float | None


class SharedBus(Struct, frozen=True):
    """One bus of a controller with its devices."""

    id: str
    name: str
    board: Item
    slot: Slot
    devices: tuple[Device, ...]
    clock_hz: float | None
    length_m: float | None
    capacitance_f: float | None = None
    pull_up_ohm: float | None = None
    fits: PullUp | None = None
    checks: tuple[Check, ...] = ()
    missing: tuple[str, ...] = ()

    @property
    def verdict(self) -> Verdict:
        found = worst([c.verdict for c in self.checks])
        if found is Verdict.BREAKS:
            return found
        return Verdict.UNKNOWN if self.missing else found or Verdict.HOLDS

    @property
    def silences(self) -> str:
        """What one broken device does to the rest."""
        if len(self.devices) < 2:
            return ""
        return BROKEN[self.slot.ability].format(others=", ".join(d.name for d in self.devices))


def buses_of(concept: Concept, pins: PinsResult, laid: tuple[LaidCable, ...]) -> Iterator[SharedBus]:
    """Every shared bus of an assignment."""
    at: dict[tuple[str, tuple[str, str, int]], list[Wired]] = {}
    for wired in pins.wired:
        if wired.wish.shares:
            at.setdefault((wired.wish.line.does, wired.wish.device), []).append(wired)
    for slot in pins.slots:
        on = [w for d in slot.devices for w in at.get((slot.ability, d), [])]
        if on:
            yield _bus(concept, slot, on, laid, alone=sum(s.ability == slot.ability for s in pins.slots) == 1)


def _bus(concept: Concept, slot: Slot, on: list[Wired], laid: tuple[LaidCable, ...], *, alone: bool) -> SharedBus:
    board, instance = on[0].tooth.item, on[0].does[1]
    items = {i.id: i for i in concept.items}
    devices = tuple(_device(d, on, items) for d in slot.devices)
    timed = _timed(concept, slot) if alone else None
    slowest = min((d.clock_hz for d in devices if d.clock_hz is not None), default=None)
    clock = timed.clock_hz if timed is not None else slowest
    length, lost = _length(board, devices, laid)
    name = f"{SHOWN[slot.ability]}{f' {instance}' if instance else ''} of {board.name}"
    bare = SharedBus(f"{board.id}/{slot.ability}/{instance}", name, board, slot, devices, clock, length)
    lacks = [f"{name}: {words}" for words in lost]
    checks = [
        check_of("clock", clock, d.clock_hz, "Hz", of=d.item)
        for d in devices if clock is not None and d.clock_hz is not None and clock > d.clock_hz
    ]  # fmt: skip
    if slot.ability == "I2C":
        return _i2c(bare, concept, timed, laid, checks, lacks)
    return _by_length(bare, checks, lacks)


def _by_length(bus: SharedBus, checks: list[Check], lacks: list[str]) -> SharedBus:
    """Whether its signals come in time over its cables."""
    if bus.length_m:
        if bus.clock_hz is None:
            lacks.append(f"{bus.name}: its clock")
        else:
            reach = bus_reach(KIND_OF[bus.slot.ability], bus.clock_hz).length_m
            checks.append(check_of("reach", bus.length_m, reach, "m"))
    return _with(bus, checks, lacks)


def _with(bus: SharedBus, checks: list[Check], lacks: list[str], capacitance_f: float | None = None,
          pull_up_ohm: float | None = None, fits: PullUp | None = None) -> SharedBus:  # fmt: skip
    return SharedBus(bus.id, bus.name, bus.board, bus.slot, bus.devices, bus.clock_hz, bus.length_m, capacitance_f,
                     pull_up_ohm, fits, tuple(checks), tuple(lacks))  # fmt: skip


def _device(device: tuple[str, str, int], on: list[Wired], items: Mapping[str, Item]) -> Device:
    kind, of, copy = device
    wired = next(w for w in on if w.wish.device == device)
    item = items.get(of) if kind == "item" else None
    name = wired.wish.name.rpartition(":")[0]
    clock = item.part.port.clock_hz if item is not None and item.part.port is not None else None
    return Device(name, item.id if item is not None else "", copy, wired.wish.address, clock)


def _timed(concept: Concept, slot: Slot) -> Bus | None:
    """The bus of Timing that this one must be: the only one of its kind."""
    alike = [b for b in concept.buses if b.kind == KIND_OF[slot.ability]]
    return alike[0] if len(alike) == 1 else None


def _length(board: Item, devices: tuple[Device, ...], laid: tuple[LaidCable, ...]) -> tuple[float | None, list[str]]:
    """Length of all cables from the controller to the devices; and which are not known."""
    lost, total = [], 0.0
    found: dict[str, LaidCable] = {}
    for device in devices:
        cable = cable_between(laid, board.id, device.item) if device.item else None
        if device.item and cable is None:
            lost.append(f"the cable to {device.name}")
        elif cable is not None:
            found[cable.cable.id] = cable
    for cable in found.values():
        if cable.all_m is None:
            lost.append(f"the length of {cable.cable.name}")
        else:
            total += cable.all_m
    return (None if lost else total), lost


def cable_between(laid: tuple[LaidCable, ...], one: str, other: str) -> LaidCable | None:
    """The first cable that joins two parts."""
    for c in laid:
        far = {r.item for r in c.cable.reaches}
        near = {c.cable.start} if c.is_plugged else c.near
        if (
            (one in near and other in far)
            or (other in near and one in far)
            or (c.is_plugged and {one, other} <= c.near)
        ):
            return c
    return None


def _i2c(bus: SharedBus, concept: Concept, timed: Bus | None, laid: tuple[LaidCable, ...], checks: list[Check],
         lacks: list[str]) -> SharedBus:  # fmt: skip
    """Whether its lines rise in time and are pulled down."""
    lacks += [f"{d.name}: its address" for d in bus.devices if d.item and d.address is None and len(bus.devices) > 1]
    capacitance = _capacitance(bus, concept, laid)
    ohm = _pulled(bus, concept, timed)
    rail = bus.board.part.link.logic_v if bus.board.part.link is not None else None
    clock = bus.clock_hz
    mode = next(((t, a) for most, t, a in I2C_MODES if clock is not None and clock <= most), None)
    lacks += [words for gone, words in (
        (ohm is None, f"{bus.name}: what pulls its lines up"),
        (rail is None or rail <= I2C_LOW_V, f"{bus.board.name}: the voltage of its signals"),
        (mode is None, f"{bus.name}: a clock up to 1 MHz"),
    ) if gone]  # fmt: skip
    fits = None
    if capacitance and rail is not None and rail > I2C_LOW_V and mode is not None:
        fits = i2c_pull_up(rail, capacitance, mode[0], I2C_LOW_V, mode[1])
        if ohm is not None:
            checks += [check_of("line low", fits.least_ohm, ohm, "Ω"), check_of("line rises", ohm, fits.most_ohm, "Ω")]
    return _with(bus, checks, lacks, capacitance, ohm, fits)


def _capacitance(bus: SharedBus, concept: Concept, laid: tuple[LaidCable, ...]) -> float | None:
    """Pins and cables of one line; None where a cable is not known."""
    if bus.length_m is None:
        return None
    items = {i.id: i for i in concept.items}
    pins = PIN_F
    found: dict[str, LaidCable] = {}
    for device in bus.devices:
        port = items[device.item].part.port if device.item in items else None
        pins += port.capacitance_f if port is not None else PIN_F
        cable = cable_between(laid, bus.board.id, device.item) if device.item else None
        if cable is not None:
            found[cable.cable.id] = cable
    return pins + sum((c.all_m or 0.0) * c.cable.capacitance_f_per_m for c in found.values())


def _pulled(bus: SharedBus, concept: Concept, timed: Bus | None) -> float | None:
    """All resistors that pull one line up, side by side: those on its parts and those put there besides."""
    items = {i.id: i for i in concept.items}
    ports = [items[d.item].part.port for d in bus.devices if d.item in items]
    ohms = [p.pull_up_ohm for p in ports if p is not None and p.pull_up_ohm is not None]
    if concept.wiring.pull_up_ohm is not None:
        ohms.append(concept.wiring.pull_up_ohm)
    if ohms:
        return 1 / sum(1 / r for r in ohms)
    return timed.pull_up_ohm if timed is not None else None
