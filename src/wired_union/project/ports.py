"""The signals of a part: which it needs, which go through a level shifter, and dividers before a controller's pins."""

from collections.abc import Iterator

from wired_union.project.change import Change, figures_of, replaced, with_concept
from wired_union.project.model import Item, Part, Project, Shifter
from wired_union.project.value import checked
from wired_union.project.wiring_model import SHARED, Ability, Flow, Line, Port


def lines_of(part: Part) -> tuple[Line, ...] | None:
    """The signals a part needs, by its own list or by its bus and the number of its pins; None where nothing says.

    Common practice: half of the lines of a driver are PWM, the other half directions; all lines beyond those of a
    bus are plain.
    """
    if part.port is not None and part.port.lines:
        return part.port.lines
    if part.link is None:
        return ()
    if part.link.bus is None or part.link.pins is None:
        return None
    return tuple(_by_bus(part.link.bus, part.link.pins, part.kind))


BUS_LINES: dict[str, tuple[tuple[str, Ability, str, Flow], ...]] = {
    "I2C": (("clock", "I2C", "clock", "both"), ("data", "I2C", "data", "both")),
    "SPI": (("clock", "SPI", "clock", "to the part"), ("out", "SPI", "out", "to the part"),
            ("in", "SPI", "in", "from the part"), ("select", "plain", "", "to the part")),
    "UART": (("from it", "UART", "in", "from the part"), ("to it", "UART", "out", "to the part")),
    "CAN": (("out", "CAN", "out", "to the part"), ("in", "CAN", "in", "from the part")),
}  # fmt: skip
SOCKET_OF: dict[str, Ability] = {"USB": "USB", "CSI": "camera port"}


def _by_bus(bus: str, pins: int, kind: str) -> Iterator[Line]:
    if bus in SOCKET_OF:
        yield Line(name="socket", does=SOCKET_OF[bus])
        return
    if bus in BUS_LINES:
        known = BUS_LINES[bus]
        for name, does, role, flows in known[: max(pins, 1)]:
            yield Line(name=name, does=does, role=role, flows=flows)
        yield from (Line(name=f"line {n + 1}") for n in range(len(known), pins))
        return
    drives = bus == "PWM" and kind != "servo"
    for n in range(pins):
        number = f" {n // 2 + 1}" if pins > 2 else ""
        if bus == "PWM":
            pulse = not drives or n % 2 == 0
            hertz = 50.0 if kind == "servo" else None
            yield Line(name=f"{'PWM' if pulse else 'direction'}{number}", does="PWM" if pulse else "plain",
                       flows="to the part", frequency_hz=hertz)  # fmt: skip
        elif bus == "analogue":
            yield Line(name=f"level {n + 1}" if pins > 1 else "level", does="analogue", flows="from the part")
        else:
            yield Line(name=f"line {n + 1}" if pins > 1 else "line")


def own_lines_of(item: Item) -> tuple[Line, ...]:
    """The same of an item, none where nothing says."""
    return lines_of(item.part) or ()


def with_lines(project: Project, item: Item, lines: tuple[Line, ...], said: str) -> Change:
    """An item with other signals."""
    new = item.but(part=item.part.but(port=(item.part.port or Port()).but(lines=lines)))
    after = with_concept(project, items=replaced(project.concept.items, item, new))
    return Change(project, after, f"{item.name}: {said}")


def is_divided(part: Part) -> bool:
    """Whether one of its signals has a divider, so that its wires must be looked at one by one."""
    return part.port is not None and any(x.upper_ohm is not None or x.lower_ohm is not None for x in part.port.lines)


def can_be_divided(line: Line) -> bool:
    """Whether a divider may sit on it: only what flows one way, to the controller."""
    return line.flows == "from the part"


def can_be_common(line: Line) -> bool:
    """Whether copies of a part may have it on one pin: only what they are told, and no line of a bus."""
    return line.flows == "to the part" and not (line.does in SHARED and line.role) and line.does != "UART"


def divide(project: Project, item: Item, upper_ohm: float | None, lower_ohm: float | None) -> Change:
    """A divider of two resistors on every signal of a part that flows to its controller; None and None for none.

    Raises ProjectError where a figure cannot be so.
    """
    with figures_of(item.name):
        lines = tuple(
            checked(x, upper_ohm=upper_ohm, lower_ohm=lower_ohm) if can_be_divided(x) else x for x in own_lines_of(item)
        )
    said = "no divider" if upper_ohm is None else "a divider"
    return with_lines(project, item, lines, f"{said} before each pin that it gives a level to")


def is_passed(line: Line, shifter: Shifter, part_v: float, controller_v: float) -> bool:
    """Whether a signal goes through a level shifter: all of them, or those that flow the one way that it passes."""
    if shifter.passes == "either way":
        return True
    if line.flows == "both" or part_v == controller_v:
        return False
    falls = (part_v > controller_v) == (line.flows == "from the part")
    return falls == (shifter.passes == "to the low side")
