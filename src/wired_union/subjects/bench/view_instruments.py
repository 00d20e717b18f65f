"""Instruments on the Bench screen: choose one, take a reading, log for a while with a live plot, tag it to a figure."""

from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QFrame, QMessageBox, QWidget
from PyQt6.sip import isdeleted

from wired_union.instruments.can_frame import CanFrame, frame_of
from wired_union.instruments.door import Door, NoReading
from wired_union.instruments.log import Log, record, take_one
from wired_union.instruments.scpi import Scpi
from wired_union.instruments.serial_line import BAUDS, SerialLine
from wired_union.subjects.bench import edits
from wired_union.subjects.bench.assess import BENCH, Woken
from wired_union.subjects.bench.instruments import KINDS, SIMULATED, SimulatedBench, faults_of
from wired_union.subjects.bench.order import ANSWERS, Expect
from wired_union.subjects.bench.picture_log import log_picture, log_words
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Choice, EntryField, Form, button, label, number_reader
from wired_union.ui.view import View, card, row
from wired_union.ui.worker import Worker
from wired_union.units import show

FRAME_MS = 16
PRACTICE = (("", "as planned"), ("hidden", "one thing wrong, for practice"))
REAL = {"serial": "serial line", "scpi": "SCPI instrument", "can": "CAN bus"}
ADDRESS = {"serial": "/dev/ttyUSB0, socket://host:port", "scpi": "TCPIP::192.168.0.20::INSTR", "can": "can0"}
HOW = {"serial": ("number of the line", "1"), "scpi": ("asked", "MEAS:VOLT:DC?"), "can": ("frame", "0x123 0 2 0.01")}
HOW_TIP = {"serial": "Which of the numbers that a line holds, from 1", "scpi": "The question that it answers",
           "can": "Identifier, first byte, bytes, factor"}  # fmt: skip


class Instruments:
    """The card of instruments for a step, and what they read. What is chosen stays while the window is open."""

    def __init__(self, view: View, fields: dict[str, Any]) -> None:
        self.view, self.store, self.theme, self.fields = view, view.store, view.theme, fields
        self.bench = SimulatedBench(seed=1)
        self.kind, self.figure = "meter", ""
        self.address: dict[str, str] = {}
        self.how = {kind: text for kind, (_, text) in HOW.items()}
        self.seconds, self.period_s, self.baud, self.interface = 10.0, 0.1, 115200, "socketcan"
        self.log: Log | None = None
        self._of: tuple[str, Expect] | None = None
        self._seed, self._number = 1, 0
        self._then: Callable[[float], object] | None = None
        self._complain: Callable[[str], object] = self.say
        self._door_name = ""
        self.worker = Worker(view)
        self.worker.told.connect(self._told)
        self.worker.ended.connect(self._ended)
        self.worker.failed.connect(self._failed)
        self._clock = QTimer(view)
        self._clock.setInterval(FRAME_MS)
        self._clock.timeout.connect(self.draw)
        self._canvas: Canvas | None = None
        self._said: Any = None

    # the card

    def card(self, now: Woken) -> QFrame:
        """Which instrument, at which figure, and what it does."""
        form = Form(self.theme)
        simulated = [(kind, f"{k.name}, {SIMULATED}") for kind, k in KINDS.items()]
        which = self._choice("instrument", [*simulated, *REAL.items()], self.kind, "with", self._choose)
        form.add("with", which)
        if self.kind in REAL:
            self._real(form)
        expects = [e for e in now.step.expects if self.kind not in REAL or e.figure != ANSWERS]
        now_at = self.expect(now)
        options = [(e.figure, e.name) for e in expects]
        at = now_at.figure if now_at is not None else ""
        form.add("at", self._choice("at", options, at, "reads", partial(setattr, self, "figure")))
        self._entry(form, "for", "log for", "seconds", "s")
        self._entry(form, "every", "a reading every", "period_s", "s")
        return card(self.theme, label("Instruments", "heading"), form, self._buttons(now), *self._live(now),
                    self._practice(now))  # fmt: skip

    def _choice(
        self, key: str, options: list[tuple[str, str]], value: str, name: str, picked: Callable[[str], object]
    ) -> Choice:  # fmt: skip
        choice = Choice(options, f"Instrument: {name}")
        choice.show_value(value)
        choice.picked.connect(picked)
        self.fields[key] = choice
        return choice

    def _real(self, form: Form) -> None:
        """Where a real one is, and what of it is read."""
        address = EntryField(str.strip, "Instrument: address")
        address.show_text(self.address.get(self.kind, ""), ADDRESS[self.kind])
        address.committed.connect(lambda v: self.address.__setitem__(self.kind, v))
        form.add("address", address, "Where it is")
        how = EntryField(str.strip, f"Instrument: {HOW[self.kind][0]}")
        how.show_text(self.how[self.kind])
        how.committed.connect(lambda v: self.how.__setitem__(self.kind, v))
        form.add(HOW[self.kind][0], how, HOW_TIP[self.kind])
        self.fields |= {"address": address, "how": how}
        if self.kind == "serial":
            speeds = [(str(b), f"{b} baud") for b in BAUDS]
            speed = self._choice("baud", speeds, str(self.baud), "speed", lambda v: setattr(self, "baud", int(v)))
            form.add("speed", speed, "As the device is set")
        elif self.kind == "can":
            adapter = EntryField(str.strip, "Instrument: adapter")
            adapter.show_text(self.interface)
            adapter.committed.connect(lambda v: setattr(self, "interface", v or "socketcan"))
            form.add("adapter", adapter, "Kind of adapter, as python-can names it: socketcan, slcan, pcan …")
            self.fields["adapter"] = adapter

    def _entry(self, form: Form, key: str, text: str, attribute: str, unit: str) -> None:
        field = EntryField(partial(_above_zero, number_reader(unit)), f"Instrument: {text}")
        field.show_text(show(getattr(self, attribute), unit))
        field.committed.connect(partial(setattr, self, attribute))
        form.add(text, field)
        self.fields[key] = field

    def _buttons(self, now: Woken) -> QWidget:
        take = button("Take this reading", partial(self.take, now), kind="main")
        word = "stop the log" if self.worker.running else f"Log for {show(self.seconds, 's')}"
        log = button(word, self.stop if self.worker.running else partial(self.start_log, now))
        self.fields |= {"take": take, "log": log}
        return row(take, log)

    def _live(self, now: Woken) -> list[QWidget]:
        """The log that runs or ran, and its mean to be taken as found."""
        self._said = label("", "mute", wrap=True)
        self._canvas = Canvas(self.theme, name="Log")
        self._canvas.setVisible(self.log is not None)
        self._mean = button("take the mean as found", partial(self._take_mean, now), kind="link")
        self._mean.setVisible(self.log is not None and self.log.count > 0 and not self.worker.running)
        self.fields |= {"mean": self._mean, "said": self._said}
        self.draw()
        return [self._canvas, self._said, self._mean]

    def _practice(self, now: Woken) -> QWidget:
        """The whole simulated bench: with a fault that nobody knows, where that is wanted."""
        choice = self._choice("practice", list(PRACTICE), "hidden" if self.bench.fault is not None else "",
                              "what the simulated bench is like", self._practise)  # fmt: skip
        tip = "All of its figures, each with the simulated instrument that tells it"
        read = button("read all of it, simulated", partial(self.read_all, now), kind="link", tip=tip)
        self.fields["simulate"] = read
        tell = button("tell me what is wrong", self._tell, kind="link")
        tell.setVisible(self.bench.fault is not None)
        self.fields["tell"] = tell
        return row(choice, read, tell)

    def _choose(self, kind: str) -> None:
        self.kind = kind
        self.view.refresh()

    def expect(self, now: Woken) -> Expect | None:
        """The figure that is read: the one chosen, else the first that the instrument tells."""
        mine = [e for e in now.step.expects if e.figure == self.figure]
        units = KINDS[self.kind].units if self.kind in KINDS else ()
        tells = [e for e in now.step.expects if (e.unit in units if units else e.figure != ANSWERS)]
        return next(iter([*mine, *tells, *now.step.expects]), None)

    # reading

    def door(self, now: Woken, expect: Expect) -> Door:
        """The instrument that is chosen. Raises NoReading where it cannot read that."""
        if self.kind in KINDS:
            return self.bench.at(self.kind, now.step, expect)
        return self.real_door()

    def real_door(self) -> Door:
        """The real instrument that is chosen. Raises NoReading for what is typed wrong."""
        address, how = self.address.get(self.kind, ""), self.how[self.kind]
        if self.kind == "serial":
            if not how.isdigit() or int(how) < 1:
                raise NoReading("Say which number of the line it is: 1, 2, 3 …")
            return SerialLine(address, self.baud, int(how))
        if self.kind == "scpi":
            return Scpi(address, how)
        identifier, first, count, factor = frame_of(how)
        return CanFrame(address, identifier, interface=self.interface, first_byte=first, count=count, factor=factor)

    def _ready(self, now: Woken) -> tuple[Expect | None, Door | None]:
        """What is read and with what; why not is said."""
        expect = self.expect(now)
        if expect is None:
            return None, None
        try:
            return expect, self.door(now, expect)
        except NoReading as error:
            self.say(str(error))
            return expect, None

    def take(self, now: Woken) -> None:
        """One reading of the figure."""
        expect, door = self._ready(now)
        if expect is None or door is None:
            return
        self.ask(door, lambda value: self.add(now.step.item.id, expect.figure, value, door.name))

    def ask(
        self, door: Door, then: Callable[[float], object], complain: Callable[[str], object] | None = None
    ) -> None:  # fmt: skip
        """One reading of an instrument beside the window, what to do with it, and where to say that there is none."""
        self._then, self._complain = then, complain or self.say
        self._complain("reading …")

        def work() -> Iterator[Any]:
            yield take_one(door)

        self.worker.start(self.store.revision, work)

    def start_log(self, now: Woken) -> None:
        """Read again and again beside the window; drawn as it comes, kept in a file as it comes."""
        expect, door = self._ready(now)
        if expect is None or door is None:
            return
        log = Log(f"{now.step.item.name}, {expect.name}", expect.unit, self._path())
        self.log, self._of, self._then = log, (now.step.item.id, expect), None
        self._door_name, self._complain = door.name, self.say
        seconds, period = self.seconds, self.period_s
        self.worker.start(self.store.revision, lambda: record(door, log, seconds=seconds, period_s=period))
        self._clock.start()
        self.view.refresh()

    def _path(self) -> Path:
        self._number += 1
        folder = self.view.desk.places.journals.parent / "logs"
        day = self.view.desk.today()
        while (path := folder / f"{day} {self._number:03}.csv").exists():
            self._number += 1
        return path

    def stop(self) -> None:
        """End the log; what it read stays."""
        self.worker.stop()
        self._ended(0)

    def draw(self) -> None:
        """The log as it is now."""
        log, canvas = self.log, self._canvas
        if log is None or canvas is None or isdeleted(canvas):
            return
        kit = self.theme.kit
        expected = self._of[1].value if self._of is not None else None
        canvas.show_layout(lambda w, h: log_picture(log, kit, w, expected))
        if not isdeleted(self._said):
            self._said.setText(f"{log.name}: {log_words(log)}")

    # what comes back

    def _told(self, _: int, told: object) -> None:
        then, self._then = self._then, None
        if then is not None and isinstance(told, float):
            self.worker.running = False
            self._complain("")
            then(told)

    def _ended(self, _: int) -> None:
        self.worker.running = False
        self._clock.stop()
        if self.log is not None and self._then is None:
            self.view.refresh()

    def _failed(self, _: int, text: str) -> None:
        self.worker.running = False
        self._clock.stop()
        self._then = None
        if self.log is not None and not self.log.count:
            self.log = None
        self.view.refresh()
        self._complain(text)

    def say(self, text: str) -> None:
        """Say something under the buttons."""
        if self._said is not None and not isdeleted(self._said):
            self._said.setText(text)

    def add(self, item_id: str, figure: str, value: float, instrument: str = "") -> bool:
        """Keep a reading of a part."""
        return bool(self.store.attempt(edits.add_reading, item_id, figure, value, on=self.view.desk.today(),
                                       instrument=instrument))  # fmt: skip

    def _take_mean(self, now: Woken) -> None:
        log, of = self.log, self._of
        expect = of[1] if of is not None else self.expect(now)
        item = of[0] if of is not None else now.step.item.id
        if log is not None and log.mean is not None and expect is not None:
            self.add(item, expect.figure, log.mean, f"mean of {log.count}, {self._door_name}")

    # the simulated bench

    def _practise(self, how: str) -> None:
        """Another simulated bench: as planned, or with one fault that nobody knows."""
        self._seed += 1
        faults = faults_of([w.step for w in self.store.assessment.of(BENCH)])
        fault = faults[self._seed * 7 % len(faults)] if how and faults else None
        self.bench = SimulatedBench(self._seed, fault)
        self.view.refresh()

    def _tell(self) -> None:
        fault = self.bench.fault
        said = f"{fault.said}." if fault is not None else "Nothing is wrong."
        QMessageBox.information(self.view, "The planted fault", said)

    def read_all(self, now: Woken) -> None:
        """Every figure of a part that the plan knows, each with the instrument that tells it."""
        for expect in now.step.expects:
            try:
                value, name = self.bench.read(now.step, expect)
            except NoReading:
                continue
            self.add(now.step.item.id, expect.figure, value, name)


def _above_zero(read: Callable[[str], float | None], text: str) -> float:
    value = read(text)
    if value is None or not 1e-4 <= value <= 86_400:
        raise ValueError("It must be from 0.1 ms to a day.")
    return value
