"""The foot switch on the Trials screen: chosen by its address, listened to beside the window."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QLabel, QPushButton
from PyQt6.sip import isdeleted

from wired_union.instruments.door import NoReading
from wired_union.instruments.serial_line import SerialLine, lines_here
from wired_union.subjects.trials.foot_switch import presses
from wired_union.ui import ask
from wired_union.ui.fields import button, label
from wired_union.ui.view import View
from wired_union.ui.worker import Worker


class FootSwitch:
    """Listens to one line; `pressed` takes what it says, and raises NoReading for what is no run."""

    def __init__(self, view: View, pressed: Callable[[str], None]) -> None:
        self._view, self._pressed = view, pressed
        self.address, self._words = "", ""
        self._label: QLabel | None = None
        self.worker = Worker(view)
        self.worker.told.connect(self._told)
        self.worker.failed.connect(self._failed)

    def button(self) -> QPushButton:
        """To listen, or to stop."""
        if self.worker.running:
            return button(f"stop listening to {self.address}", self.stop, kind="link")
        return button("foot switch …", self.ask, kind="link", tip="A run for each line that a serial device prints")

    def said(self) -> QLabel:
        """What it said last that was no run, or why it is not heard."""
        self._label = label(self._words, "mute", wrap=True)
        self._label.setVisible(bool(self._words))
        return self._label

    def ask(self) -> None:
        """Which line."""
        here = ", ".join(a for a, _ in lines_here()) or "none is plugged in; socket://host:port does too"
        address, meant = ask.word(self._view, "Foot switch", f"On which serial line? Here: {here}.", text=self.address)
        if meant and address.strip():
            self.listen(address.strip())

    def listen(self, address: str) -> None:
        """Take a run for each line from now on."""
        self.address = address
        self._say("")
        self.worker.start(0, partial(presses, SerialLine(address)))
        self._view.refresh()

    def stop(self) -> None:
        """Listen no more."""
        self.worker.stop()
        self._view.refresh()

    def _told(self, _: int, said: object) -> None:
        if not isinstance(said, str):
            return
        self._say("")
        try:
            self._pressed(said)
        except NoReading as error:
            self._say(str(error))

    def _failed(self, _: int, text: str) -> None:
        self.worker.running = False
        self._view.refresh()
        self._say(text)

    def _say(self, text: str) -> None:
        self._words = text
        if self._label is not None and not isdeleted(self._label):
            self._label.setText(text)
            self._label.setVisible(bool(text))
