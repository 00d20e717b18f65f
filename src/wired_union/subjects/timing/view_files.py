"""What Timing saves and reads besides lanes: a DBC, logs of a bus and of packets, link budgets, heard strengths."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QMessageBox, QVBoxLayout, QWidget

from wired_union.picture.shapes import Picture
from wired_union.project.documents import DocumentError, write_bytes
from wired_union.project.errors import ProjectError
from wired_union.subjects.timing.air import AIR, LinkResult, noise_dbm
from wired_union.subjects.timing.buses import BUSES, BusResult
from wired_union.subjects.timing.edits_shared import set_link
from wired_union.subjects.timing.files_air import PacketLog, heard_of, links_csv, packet_log_words, read_packet_log
from wired_union.subjects.timing.files_can import CanLog, can_words, dbc_of, laid_on, read_can_log, take_dbc
from wired_union.subjects.timing.picture_log import gaps_picture, strengths_picture
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, empty, label
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.ui.worker import Worker

Said = tuple[str, Callable[[float, float], Picture]]
Action = tuple[str, Callable[[str], object]]


class FileActions(QWidget):
    """Buttons for one bus or one radio link, and under them what a log says."""

    def __init__(self, store: Store, theme: Theme, said: dict[str, Said]) -> None:
        """`said` keeps what logs said, by what they are of: a panel is made anew with each edit."""
        super().__init__()
        self._kept = said
        self._store, self._theme = store, theme
        self._worker = Worker(self)
        self._worker.told.connect(self._told)
        self._worker.failed.connect(lambda _, text: self._sorry("The log was not read", text))
        self._of = ""
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self.said = label("", "mute", wrap=True)
        self._drawn = QVBoxLayout()

    def for_bus(self, bus_id: str) -> "FileActions":
        """Of a CAN bus."""
        self._offer(bus_id, (
            ("save its messages as DBC", self._save_dbc), ("take messages from a DBC", self._open_dbc),
            ("lay a log over the bus", self._open_can_log),
        ))  # fmt: skip
        return self

    def for_link(self, link_id: str) -> "FileActions":
        """Of a radio link."""
        self._offer(link_id, (
            ("save all link budgets as CSV", self._save_links), ("lay a log of packets over it", self._open_packets),
        ))  # fmt: skip
        return self

    def _offer(self, of: str, actions: tuple[Action, ...]) -> None:
        self._of = of
        for text, act in actions:
            self._column.addWidget(button(text, partial(act, of), kind="link"))
        self._column.addWidget(self.said)
        self._column.addLayout(self._drawn)
        if of in self._kept:
            self._show(self._kept[of])

    def _bus(self) -> BusResult:
        return next(b for b in self._store.assessment.of(BUSES) if b.bus.id == self._of)

    def _link(self) -> LinkResult:
        return next(r for r in self._store.assessment.of(AIR) if r.link.id == self._of)

    def _sorry(self, title: str, text: str) -> None:
        QMessageBox.warning(self, title, text)

    def _save(self, name: str, kinds: str, make: Callable[[], str]) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Save", name, kinds)
        if path:
            try:
                write_bytes(Path(path), make().encode())
            except (DocumentError, ProjectError) as error:
                self._sorry("It was not saved", str(error))

    def _save_dbc(self, bus_id: str) -> None:
        packets = {p.id: p for p in self._store.project.concept.packets}
        self._save(f"{bus_id}.dbc", "DBC (*.dbc)", lambda: dbc_of(self._bus(), packets))

    def _save_links(self, _: str) -> None:
        self._save("links.csv", "CSV (*.csv)", lambda: links_csv(self._store.assessment.of(AIR)))

    def _open_dbc(self, bus_id: str) -> None:
        path, _ = QFileDialog.getOpenFileName(self, "Messages of a bus", "", "DBC (*.dbc)")
        if path:
            self._reading("The DBC was not read", partial(self.take_dbc, bus_id, Path(path)))

    def take_dbc(self, bus_id: str, path: Path) -> None:
        """Take the messages of a DBC onto a bus, as one edit. Raises ProjectError, with why not."""
        text = path.read_text(encoding="cp1252", errors="replace")  # as its own tools write it
        self._store.apply(take_dbc(self._store.project, bus_id, text))

    def _open_can_log(self, _: str) -> None:
        kinds = "Logs of a bus (*.asc *.blf *.csv *.db *.log *.trc)"
        path, _kind = QFileDialog.getOpenFileName(self, "A log of the bus", "", kinds)
        if path:
            self.read_can_log(Path(path))

    def read_can_log(self, path: Path) -> None:
        """Read a log off the interface thread, saying how far it is, and lay it over what was worked out."""
        result = self._bus()

        self._worker.start(0, lambda: read_can_log(path, result))

    def _told(self, _: int, step: object) -> None:
        if not isinstance(step, CanLog):
            self.said.setText(f"{step} frames read…")
            return
        laid = laid_on(self._bus(), step)
        self._say(can_words(step, laid), lambda w, h: gaps_picture(step, laid, self._theme.kit, w))

    def _say(self, words: str, layout: Callable[[float, float], Picture]) -> None:
        self._kept[self._of] = words, layout
        self._show(self._kept[self._of])

    def _show(self, said: Said) -> None:
        """What a log says, and a picture of it under that; the one before goes."""
        words, layout = said
        self.said.setText(words)
        empty(self._drawn)
        self.canvas = Canvas(self._theme, name="The log over time")
        self.canvas.show_layout(layout)
        self._drawn.addWidget(self.canvas)

    def _open_packets(self, _: str) -> None:
        path, _kind = QFileDialog.getOpenFileName(self, "Packets: time, snr, distance, number", "", "CSV (*.csv)")
        if path:
            self.read_packets(Path(path))

    def read_packets(self, path: Path) -> None:
        """Read a log of packets; where it has strengths with distances, take them as heard, in one edit."""
        self._reading("The log was not read", partial(self._take_packets, path))

    def _take_packets(self, path: Path) -> None:
        result = self._link()
        log: PacketLog = read_packet_log(path.read_text(encoding="utf-8", errors="replace"), result.link.every_s)
        least = None if result.sensitivity_dbm is None else result.sensitivity_dbm - noise_dbm(result.link)
        kit = self._theme.kit
        self._say(packet_log_words(result, log), lambda w, h: strengths_picture(log, least, kit, w))
        try:
            heard = heard_of(log)
        except ProjectError:
            return  # what it says of losses is said all the same
        self._store.attempt(set_link, value_id=self._of, heard=heard)

    def _reading(self, title: str, act: Callable[[], object]) -> None:
        try:
            act()
        except (OSError, ProjectError) as error:
            self._sorry(title, str(error))
