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
    """Listens to one line for one trial, whatever is looked at meanwhile; `pressed` takes the trial's id and what the
    line says, and raises NoReading for what is no run.
    """

    def __init__(self, view: View, pressed: Callable[[str, str], None]) -> None:
        self._view, self._pressed = view, pressed
        self._trial = ""
        self.address, self._words = "", ""
        self._label: QLabel | None = None
        self.worker = Worker(view)
        self.worker.told.connect(self._told)
        self.worker.failed.connect(self._failed)

    def button(self, trial_id: str) -> QPushButton:
        """To listen for a trial, or to stop."""
        if self.worker.running:
            return button(f"stop listening to {self.address}", self.stop, kind="link")
        return button(
            "foot switch …",
            partial(self.ask, trial_id),
            kind="link",
            tip="A run for each line that a serial device prints",
        )

    def said(self) -> QLabel:
        """What it said last that was no run, or why it is not heard."""
        self._label = label(self._words, "mute", wrap=True)
        self._label.setVisible(bool(self._words))
        return self._label

    def ask(self, trial_id: str) -> None:
        """Which line."""
        here = ", ".join(a for a, _ in lines_here()) or "none is plugged in; socket://host:port does too"
        address, meant = ask.word(self._view, "Foot switch", f"On which serial line? Here: {here}.", text=self.address)
        if meant and address.strip():
            self.listen(address.strip(), trial_id)

    def listen(self, address: str, trial_id: str) -> None:
        """Take a run of a trial for each line from now on."""
        self.address, self._trial = address, trial_id
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
            self._pressed(self._trial, said)
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
