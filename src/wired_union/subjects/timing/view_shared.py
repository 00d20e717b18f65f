"""Processors with their lanes, buses with their bars, and the panel of what is selected of them."""

import csv
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtWidgets import QFileDialog, QFrame, QHBoxLayout, QMenu, QMessageBox, QVBoxLayout, QWidget

from wired_union.kernel.subject import Assessment
from wired_union.project.air_model import RadioLink
from wired_union.project.change import Change
from wired_union.project.documents import DocumentError, write_bytes
from wired_union.project.errors import ProjectError
from wired_union.project.loop_model import Loop
from wired_union.project.signal_model import Signal
from wired_union.project.timing_model import (
    Bus,
    Eye,
    Message,
    Packet,
    Processor,
    Task,
)
from wired_union.project.value import Value
from wired_union.project.way_model import Way
from wired_union.subjects.timing import edits_shared as edits
from wired_union.subjects.timing.air import AIR
from wired_union.subjects.timing.buses import BUSES, BusResult
from wired_union.subjects.timing.eyes import EYES, eye_words
from wired_union.subjects.timing.files import lanes_vcd, messages_csv, read_runs, take_runs
from wired_union.subjects.timing.findings_loops import loop_words
from wired_union.subjects.timing.lanes import lanes_of, room_left, worst_seen
from wired_union.subjects.timing.log import Log, laid_over, log_words, read_log
from wired_union.subjects.timing.loops import LOOPS
from wired_union.subjects.timing.packets import PACKETS
from wired_union.subjects.timing.pick import SharedPick
from wired_union.subjects.timing.picture_air import clearance_words, link_words, match_words
from wired_union.subjects.timing.picture_buses import BusPick, bus_words, buses_picture, message_words
from wired_union.subjects.timing.picture_lanes import lanes_picture, lanes_words, load_words, seen_words, task_words
from wired_union.subjects.timing.picture_packet import carried_words, packet_words
from wired_union.subjects.timing.signals import SIGNALS, signal_words
from wired_union.subjects.timing.tasks import TASKS, ProcessorResult
from wired_union.subjects.timing.view_files import FileActions, Said
from wired_union.subjects.timing.view_slide import decade_slider, rank_slider
from wired_union.subjects.timing.ways import WAYS, way_words
from wired_union.subjects.timing.words_shared import EMPTIES, WORDS, WORDS_OF, unused
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, empty, label
from wired_union.ui.slider import FigureSlider
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.ui.value_form import ValueForm
from wired_union.ui.view import card
from wired_union.ui.worker import Worker

EDITS: dict[str, tuple[Callable[..., Any], Callable[..., Any]]] = {
    "processors": (edits.set_processor, edits.remove_processor),
    "tasks": (edits.set_task, edits.remove_task),
    "buses": (edits.set_bus, edits.remove_bus),
    "messages": (edits.set_message, edits.remove_message),
    "ways": (edits.set_way, edits.remove_way),
    "signals": (edits.set_signal, edits.remove_signal),
    "eyes": (edits.set_eye, edits.remove_eye),
    "packets": (edits.set_packet, edits.remove_packet),
    "radio_links": (edits.set_link, edits.remove_link),
    "control_loops": (edits.set_loop, edits.remove_loop),
}
NEW_BUSES = (("i2c", "I²C, 400 kHz", 400e3), ("spi", "SPI, 8 MHz", 8e6), ("uart", "UART, 9600 baud", 9600.0),
             ("can", "CAN, 250 kbit/s", 250e3), ("one-wire", "one-wire", 16e3))  # fmt: skip


class SharedCards(QWidget):
    """Two columns: a card for each processor, and one for all buses."""

    def __init__(self, store: Store, theme: Theme, seen: Callable[[Assessment], None]) -> None:
        """`seen` draws all of Timing as an assessment has it: what a slider would make of it."""
        super().__init__()
        self._store, self._theme, self._seen = store, theme, seen
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(theme.px(8))
        self._processors = QVBoxLayout()
        self._processors.setSpacing(theme.px(8))
        row.addLayout(self._processors, 1)
        self.lanes: dict[str, Canvas] = {}
        self.logs: dict[str, Log] = {}
        self.watched: dict[str, Any] = {}
        self.said: dict[str, Said] = {}
        self._worker = Worker(self)
        self._worker.told.connect(self._log_told)
        self._worker.failed.connect(self._log_failed)
        self._logging = ""
        self._heads: dict[str, tuple[Any, Any, Any]] = {}
        self.buses = Canvas(theme, name="Buses and their messages")
        self.buses.chosen.connect(self._bus_chosen)
        right = QVBoxLayout()
        right.addWidget(card(theme, label("Buses", "heading"), self.buses,
                             button("+ a bus", self._add_bus, kind="link")))  # fmt: skip
        right.addStretch(1)
        row.addLayout(right, 1)

    @property
    def _picked(self) -> SharedPick:
        return self._store.picked(SharedPick)

    def show_all(self) -> None:
        """Draw what the store holds."""
        found = self._store.assessment.of(TASKS)
        if list(self.lanes) != [p.processor.id for p in found]:
            self._rebuild(found)
        self.show_assessed(self._store.assessment, whole=True)

    def show_assessed(self, assessment: Assessment, *, whole: bool = False) -> None:
        """Draw lanes and bars as an assessment has them; what would still fit only where there is time for it."""
        for p in assessment.of(TASKS):
            if p.processor.id in self.lanes:
                self._show(p, whole=whole)
        buses = assessment.of(BUSES)
        self.buses.show_layout(lambda w, h: buses_picture(buses, self._theme.kit, w, self._picked.id))

    def _show(self, p: ProcessorResult, *, whole: bool) -> None:
        title, figures, words = self._heads[p.processor.id]
        lanes = lanes_of(p)
        title.setText(p.processor.name)
        figures.setText(f"{p.processor.way} · {load_words(p)}")
        nearest = max((t for t in p.tasks if t.response_s is not None),
                      key=lambda t: (t.response_s or 0.0) / t.deadline_s, default=None)  # fmt: skip
        seen = lanes.run.worst_s([t.id for t in lanes.tasks].index(nearest.task.id)) if nearest is not None else None
        words.setText(lanes_words(p, room_left(p) if whole else None, seen))
        self.lanes[p.processor.id].show_layout(
            lambda w, h: lanes_picture(p, lanes, self._theme.kit, w, self._picked.id, self.logs.get(p.processor.id))
        )

    def _rebuild(self, found: tuple[ProcessorResult, ...]) -> None:
        empty(self._processors)
        self.lanes, self._heads = {}, {}
        for p in found:
            self._processors.addWidget(self._card(p.processor.id))
        new = button("+ a processor with tasks", self._add_processor, kind="link")
        self._processors.addWidget(card(self._theme, label("Tasks", "heading"), new) if not found else new)
        self._processors.addStretch(1)

    def _card(self, processor_id: str) -> QFrame:
        title = button("", partial(self._pick, "processors", processor_id), kind="link")
        figures, words = label("", "mute", wrap=True), label("", "mute", wrap=True)
        canvas = Canvas(self._theme, name="Tasks in their lanes")
        canvas.chosen.connect(lambda of: self._pick("tasks", str(of)))
        head = QWidget()
        row = QHBoxLayout(head)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(title)
        row.addWidget(figures, 1)
        self.lanes[processor_id], self._heads[processor_id] = canvas, (title, figures, words)
        watched = self.watched[processor_id] = label("", "mute", wrap=True)
        watch = button(
            "run it for ten seconds, at random",
            partial(self.watch, processor_id, watched),
            kind="link",
            tip="Any start, any lateness, any length of each run: what is seen stays below what is worked out",
        )
        return card(self._theme, head, canvas, words, watched, watch,
                    button("+ a task", partial(self.add_task, processor_id), kind="link"))  # fmt: skip

    def watch(self, processor_id: str, words: Any) -> None:
        """Run its tasks, and write the longest that was seen of each beside what is worked out."""
        result = next(p for p in self._store.assessment.of(TASKS) if p.processor.id == processor_id)
        words.setText(seen_words(result, worst_seen(result)))

    def _pick(self, room: str, value_id: str) -> None:
        self._store.pick(SharedPick(room, value_id))

    def _bus_chosen(self, of: object) -> None:
        if isinstance(of, BusPick):
            self._pick(of.room, of.id)

    # adding

    def _add(self, room: str, title: str, hint: str, edit: Callable[..., Any], **figures: Any) -> None:
        name, meant = ask.word(self, title, hint)
        if meant and self._store.attempt(edit, name=name, **figures):
            self._pick(room, getattr(self._store.project.concept, room)[-1].id)

    def _add_processor(self) -> None:
        """Offer the controllers of the concept, and one by name."""
        menu, taken = QMenu(self), {p.item for p in self._store.project.concept.processors}
        for item in self._store.project.concept.items:
            if item.part.kind in CONTROLLERS and item.id not in taken:
                menu.addAction(item.name, partial(self._take_processor, item.id, item.name))
        hint = "What is it called? “Main controller”, “Motor board”"
        menu.addAction("another one", partial(self._add, "processors", "A processor", hint, edits.add_processor))
        menu.popup(self.cursor().pos())

    def _take_processor(self, item_id: str, name: str) -> None:
        if self._store.attempt(edits.add_processor, name=name, item=item_id):
            self._pick("processors", self._store.project.concept.processors[-1].id)

    def add_task(self, processor_id: str) -> None:
        """Ask for the name of one more task."""
        hint = "What does it do again and again? “Read encoders”, “Control”, “Log”"
        self._add("tasks", "A task", hint, edits.add_task, processor=processor_id)

    def _add_bus(self) -> None:
        menu = QMenu(self)
        for kind, text, clock in NEW_BUSES:
            hint = "What is it called? “Sensors”, “To the driver”"
            menu.addAction(text, partial(self._add, "buses", "A bus", hint, edits.add_bus, kind=kind, clock_hz=clock))
        menu.popup(self.cursor().pos())

    # the panel

    def fill_panel(
        self, column: QVBoxLayout, findings: Callable[[str], None], sliders: Callable[[str], QWidget],
        fields: Callable[[Packet], QWidget],
    ) -> bool:  # fmt: skip
        """The form of what is selected; False where nothing of these is."""
        picked = self._picked
        listed = getattr(self._store.project.concept, picked.room) if picked.room in EDITS else ()
        value = next((x for x in listed if x.id == picked.id), None)
        if value is None:
            return False
        column.addWidget(label(value.name, "title", wrap=True))
        column.addWidget(label(self._said(value), "mute", wrap=True))
        findings(value.id)
        if isinstance(value, Loop):
            column.addWidget(sliders(value.id))
        if isinstance(value, Task):
            self.slider = self._period_slider(value)
            column.addWidget(self.slider)
            self.rank = self._rank_slider(value)
            column.addWidget(self.rank)
        form = ValueForm(self._theme, self._store, value, value.name, partial(self._set, picked.room, value.id),
                         words=WORDS | WORDS_OF.get(type(value), {}), skip=unused(value), empties=EMPTIES)  # fmt: skip
        column.addWidget(form)
        if isinstance(value, Packet):
            column.addWidget(fields(value))
        self._fill_actions(column, value)
        away = partial(self._store.attempt, EDITS[picked.room][1], value_id=value.id)
        column.addWidget(button(f"take {value.name} away", away, kind="link"))
        return True

    def _fill_actions(self, column: QVBoxLayout, value: Value) -> None:
        """What can be added to it, saved of it, or laid over it."""
        if isinstance(value, Processor):
            for text, act in (
                ("lay a log over the lanes", self._open_log), ("take measured runs from a table", self._read_runs),
                ("save the lanes as VCD", self._save_vcd),
            ):  # fmt: skip
                column.addWidget(button(text, partial(act, value.id), kind="link"))
            column.addWidget(button("+ a task", partial(self.add_task, value.id), kind="link"))
        if isinstance(value, Bus):
            add = partial(self._add, "messages", "A message", "What goes over it? “Encoders”, “Position”",
                          edits.add_message, bus=value.id)  # fmt: skip
            column.addWidget(button("+ a message", add, kind="link"))
            column.addWidget(button("save all messages as CSV", self._save_messages, kind="link"))
            if value.kind == "can":
                self.files = FileActions(self._store, self._theme, self.said).for_bus(value.id)
                column.addWidget(self.files)
        if isinstance(value, RadioLink):
            self.files = FileActions(self._store, self._theme, self.said).for_link(value.id)
            column.addWidget(self.files)

    def _period_slider(self, task: Task) -> FigureSlider:
        """How often it runs: dragged, its lanes, the chains and loops that pass through it and the strip follow."""

        def edit(period_s: float) -> Change:
            return edits.set_task(self._store.project, task.id, period_s=period_s)

        return decade_slider(self._store, self._theme, "every", "s", task.period_s, edit, self._seen)

    def _rank_slider(self, task: Task) -> FigureSlider:
        """How urgent it is: dragged, all lanes, chains and loops follow."""
        own = [t for t in self._store.project.concept.tasks if t.processor == task.processor]

        def edit(priority: int) -> Change:
            return edits.set_task(self._store.project, task.id, priority=priority)

        most = max(len(own) + 1, *(t.priority for t in own))
        return rank_slider(self._store, self._theme, "priority, 1 first", task.priority, most, edit, self._seen)

    def _read_runs(self, processor_id: str) -> None:
        """Ask for a table of runs, and take the shortest and longest of each task."""
        path, _ = QFileDialog.getOpenFileName(self, "Measured runs: task, start, stop; or task, run", "", "CSV (*.csv)")
        if not path:
            return
        tasks = [t for t in self._store.project.concept.tasks if t.processor == processor_id]
        try:
            runs = read_runs(Path(path).read_text(encoding="utf-8", errors="replace"), tasks)
            self._store.apply(take_runs(self._store.project, runs))
        except (OSError, ProjectError, csv.Error) as error:
            QMessageBox.warning(self, "Measured runs", str(error))

    def _open_log(self, processor_id: str) -> None:
        name = "A log: task, start, stop; or a wire for each task"
        path, _ = QFileDialog.getOpenFileName(self, name, "", "CSV or VCD (*.csv *.vcd)")
        if path:
            self.read_log(processor_id, Path(path))

    def read_log(self, processor_id: str, path: Path) -> None:
        """Read a log off the interface thread, saying how far it is, and lay it over the lanes."""
        tasks = [t for t in self._store.project.concept.tasks if t.processor == processor_id]
        self._logging = processor_id
        self._worker.start(0, lambda: read_log(path, tasks))

    def _log_told(self, _: int, found: object) -> None:
        words = self.watched.get(self._logging)
        result = next((p for p in self._store.assessment.of(TASKS) if p.processor.id == self._logging), None)
        if words is None or result is None:
            return
        if isinstance(found, Log):
            self.logs[self._logging] = found
            words.setText(log_words(found, laid_over(result, found)))
            self._show(result, whole=True)
        else:
            words.setText(f"{found} runs read…")

    def _log_failed(self, _: int, text: str) -> None:
        QMessageBox.warning(self, "The log was not read", text)

    def _save_vcd(self, processor_id: str) -> None:
        result = next(p for p in self._store.assessment.of(TASKS) if p.processor.id == processor_id)
        path, _ = QFileDialog.getSaveFileName(self, "Save the lanes", f"{processor_id}.vcd", "VCD (*.vcd)")
        if path:
            self._write(path, lanes_vcd(lanes_of(result), result.processor.name))

    def _save_messages(self) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Save the messages", "messages.csv", "CSV (*.csv)")
        if path:
            self._write(path, messages_csv(self._store.assessment.of(BUSES)))

    def _write(self, path: str, text: str) -> None:
        try:
            write_bytes(Path(path), text.encode())
        except DocumentError as error:
            QMessageBox.warning(self, "It was not saved", str(error))

    def _said(self, value: Processor | Task | Bus | Message | Loop | RadioLink | Packet | Eye | Signal | Way) -> str:
        assessment = self._store.assessment
        if isinstance(value, Way):
            return way_words(next(r for r in assessment.of(WAYS) if r.way.id == value.id))
        if isinstance(value, Signal):
            return signal_words(next(r for r in assessment.of(SIGNALS) if r.signal.id == value.id))
        if isinstance(value, Eye):
            return eye_words(next(r for r in assessment.of(EYES) if r.eye.id == value.id))
        if isinstance(value, Packet):
            packet = next(r for r in assessment.of(PACKETS) if r.packet.id == value.id)
            return f"{packet_words(packet)}. {carried_words(assessment, packet)}".strip()
        if isinstance(value, RadioLink):
            link = next(r for r in assessment.of(AIR) if r.link.id == value.id)
            return " ".join(filter(None, (f"{link_words(link)}.", clearance_words(link), match_words(link))))
        if isinstance(value, Loop):
            return loop_words(next(r for r in assessment.of(LOOPS) if r.loop.id == value.id))
        if isinstance(value, Processor):
            return load_words(next(p for p in assessment.of(TASKS) if p.processor.id == value.id))
        if isinstance(value, Task):
            return task_words(next(t for p in assessment.of(TASKS) if (t := p.of(value.id)) is not None))
        buses: tuple[BusResult, ...] = assessment.of(BUSES)
        if isinstance(value, Bus):
            return bus_words(next(b for b in buses if b.bus.id == value.id))
        return message_words(next(m for b in buses if (m := b.of(value.id)) is not None))

    def _set(self, room: str, value_id: str, complain: Any, field: str, new: Any) -> None:
        self._store.attempt_or(complain, EDITS[room][0], value_id=value_id, **{field: new})


CONTROLLERS = {"microcontroller", "computer"}
"""Kinds of part that run tasks."""
