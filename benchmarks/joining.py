"""Large boards and large machines for the benchmarks: made-up, the same every time."""

import random

from wired_union.project.interlock_model import (
    Clause,
    ClosedIn,
    Closes,
    Cue,
    CueIs,
    Failure,
    Gate,
    Hazard,
    MachineState,
    Passage,
    Silences,
)
from wired_union.project.model import Concept, Item, Link, Part, Subsystem
from wired_union.project.wiring_model import Board, Does, Line, Pin, Port


def board_of(pins: int) -> Board:
    """A controller with ports of 16 pins, 12 timers, 8 serial ports, 6 buses of each kind, alternatives for most."""
    r = random.Random("board")
    made = []
    for n in range(pins):
        port, bit = divmod(n, 16)
        does: list[Does] = [("plain", "", ""), ("interrupt", str(bit), "")]
        if n % 3 == 0:
            does.append(("PWM", str(1 + n // 12), str(1 + n % 4)))
        if n % 5 == 0:
            does.append(("analogue", str(1 + n // 50), str(n % 24)))
        for ability, roles, every in (("UART", ("out", "in"), 8), ("I2C", ("clock", "data"), 6), ("SPI", (
            "clock", "out", "in"), 6), ("CAN", ("out", "in"), 3)):  # fmt: skip
            if r.random() < 0.3:
                does.append((ability, str(1 + r.randrange(every)), r.choice(roles)))  # type: ignore[arg-type]
        made.append(Pin(name=f"P{'ABCDEFGHIJ'[port]}{bit}", does=tuple(does)))
    return Board(pins=tuple(made))


def large_board(extra: int = 0) -> Concept:
    """144 pins and some 60 signals: drivers, serial ports, sensors on three kinds of bus, servos, switches, levels."""
    link = Link(bus="digital", logic_v=3.3, logic_max_v=5.5)
    part = Part(id="c", name="Controller", kind="microcontroller", board=board_of(144), link=link)
    items = [Item(id="c", name="Controller", subsystem="s", part=part)]

    def add(name: str, count: int, *lines: Line) -> None:
        thing = Part(id=name, name=name, kind="gadget", link=Link(logic_v=3.3), port=Port(lines=lines, addresses=(
            len(items) + 8,)))  # fmt: skip
        items.append(Item(id=name, name=name, subsystem="s", part=thing, count=count))

    add("drive", 4, Line(name="a", does="PWM", frequency_hz=20e3), Line(name="b"), Line(name="c"))
    add("servo", 5, Line(name="a", does="PWM", frequency_hz=50.0))
    add("switch", 9 + extra, Line(name="a", does="interrupt"))
    add("level", 6, Line(name="a", does="analogue"))
    add("serial", 4, Line(name="o", does="UART", role="out"), Line(name="i", does="UART", role="in"))
    for k in range(4):
        add(f"sensor {k}", 1, Line(name="c", does="I2C", role="clock"), Line(name="d", does="I2C", role="data"))
    for k in range(3):
        add(f"radio {k}", 1, *(Line(name=x, does="SPI", role=x) for x in ("clock", "out", "in")), Line(name="s"))
    add("bus", 1, Line(name="o", does="CAN", role="out"), Line(name="i", does="CAN", role="in"))
    return Concept(id="a", name="A", subsystems=(Subsystem(id="s", name="S"),), items=tuple(items))


def large_machine(states: int) -> Concept:
    """So many states, three ways out of each, a stop heard everywhere, eight gates and ten failures."""
    r = random.Random("machine")
    cues = (*(Cue(id=f"e{k}", name=f"e{k}") for k in range(12)), Cue(id="stop", name="stop", urgent=True),
            Cue(id="low", name="low", kind="threshold", quantity="v", side="below", threshold=10.0))  # fmt: skip

    def clause(*names: str) -> Clause:
        return Clause(parts=tuple(CueIs(cue=n) for n in names))

    every = tuple(MachineState(id=f"s{n}", name=f"s{n}", is_stop=n == 1) for n in range(states))
    ways: list[Passage] = []
    for n in range(states):
        ways.append(Passage(id=f"a{n}", name="next", start=f"s{n}", end=f"s{(n + 1) % states}", rank=2,
                            clauses=(clause(f"e{n % 12}"),), most_s=0.1))  # fmt: skip
        ways.append(Passage(id=f"b{n}", name="jump", start=f"s{n}", end=f"s{r.randrange(states)}", rank=3,
                            clauses=(clause(f"e{(n + 5) % 12}", "low"),), most_s=0.1))  # fmt: skip
        if n != 1:
            ways.append(
                Passage(id=f"c{n}", name="stop", start=f"s{n}", end="s1", clauses=(clause("stop"),), most_s=0.2)
            )
    gates = tuple(Gate(id=f"g{k}", name=f"g{k}", hazard="h", kind="in the power path", item="", closed_in=tuple(
        ClosedIn(state=f"s{n}") for n in range(k, states, 2 + k))) for k in range(8))  # fmt: skip
    failures = tuple(
        Failure(id=f"f{k}", name=f"f{k}", closes=tuple(Closes(gate=f"g{(k + d) % 8}") for d in range(1 + k % 3)))
        for k in range(10)
    )
    failures = (*failures, Failure(id="hung", name="hung", kind="hung program"),
                Failure(id="deaf", name="deaf", silences=(Silences(cue="stop"),), told_by="e1"))  # fmt: skip
    return Concept(id="a", name="A", states=every, cues=cues, passages=tuple(ways), gates=gates, failures=failures,
                   hazards=(Hazard(id="h", name="H"),))  # fmt: skip
