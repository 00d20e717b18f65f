"""The right panel of Wiring: a signal, a part, a controller, a cable, an interface, or all of it."""

from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QFileDialog, QMessageBox
from PyQt6.sip import isdeleted

from wired_union.catalogue.pin_tables import PinTableError, read_pins, write_pins
from wired_union.project.cables import count_of
from wired_union.project.errors import ProjectError
from wired_union.project.model import Concept, Item
from wired_union.project.value import Value
from wired_union.project.wiring_model import Cable, Interface, Join, Port
from wired_union.subjects.wiring import edits
from wired_union.subjects.wiring.agreed import HANDED, agree
from wired_union.subjects.wiring.assess import LEVELS, WIRES
from wired_union.subjects.wiring.pick import WiringPick
from wired_union.subjects.wiring.picture_cables import made_words, share_words
from wired_union.subjects.wiring.pins import PINS, Wired
from wired_union.subjects.wiring.spare import asked_for, fits_words, still_fits, would_fit
from wired_union.subjects.wiring.view_files import FileButtons
from wired_union.subjects.wiring.view_signals import SignalFields
from wired_union.subjects.wiring.wishes import is_controller, is_expander
from wired_union.subjects.wiring.words import signal_words
from wired_union.ui.fields import Choice, EntryField, Form, button, label, number_reader
from wired_union.ui.value_form import ValueForm
from wired_union.ui.view import View
from wired_union.ui.worker import Worker
from wired_union.units import show

EDITS = {
    "cables": (edits.set_cable, edits.remove_cable), "joins": (edits.set_join, edits.remove_join),
    "own_lines": (edits.set_own, edits.remove_own), "interfaces": (edits.set_interface, edits.remove_interface),
    "controls": (edits.set_control, edits.remove_control),
}  # fmt: skip
WORDS = {
    "does": "needs", "item": "at the part", "board": "must be on", "flows": "flows", "frequency_hz": "timer runs at",
    "high_v": "highest volts", "current_a": "takes from the pin",
    "upper_ohm": "divider, upper", "lower_ohm": "divider, lower",
    "pulls": "at start-up pulls", "one": "from", "other": "to", "by": "they talk by",
    "bus": "bus of Timing", "start": "starts at", "length_m": "long", "slack": "slack", "count": "how many",
    "awg": "gauge (AWG)", "wires": "wires", "bundle": "tied into", "connector": "plugs", "ways": "contacts",
    "contact_a": "a contact bears", "latched": "plugs lock", "relieved": "ends are held", "passes": "passes",
    "bend_m": "bent to", "thick_m": "thick", "screened": "screened", "suppressed": "brushes have capacitors",
    "mass_kg": "weighs", "price": "costs", "capacitance_f_per_m": "a metre has", "insulation_c": "bears",
    "sold": "comes from", "made_by": "made by", "made_from": "made from", "tested_how": "tested how",
    "owner_one": "answers for it, from", "owner_other": "answers for it, to", "gives": "gives", "takes": "counts on",
    "rate_hz": "how often", "packet": "packet", "message": "message", "chain": "part of chain",
    "built_one": "built, from", "built_other": "built, to", "tried_on": "tried on", "scheme": "way to steer",
    "input": "stick, key, button", "state": "in state",
    "family": "levels as", "input_high_v": "high is read from", "input_low_v": "low is read to",
    "output_high_v": "high is at least", "output_low_v": "low is at most", "pull_up_ohm": "pulls up by",
    "capacitance_f": "a pin has", "clock_hz": "clock at most",
}  # fmt: skip
EMPTIES = {
    "length_m": "by places",
    "count": "one a copy",
    "awg": "not known",
    "wires": "as needed",
    "ways": "not known",
    "contact_a": "not known",
    "bend_m": "not known",
    "thick_m": "by its wires",
    "mass_kg": "by its copper",
    "price": "not known",
    "high_v": "not known",
    "current_a": "not known",
    "upper_ohm": "none",
    "lower_ohm": "none",
    "frequency_hz": "any",
    "rate_hz": "not said",
    "pull_up_ohm": "none known",
    "input_high_v": "by its family",
    "input_low_v": "by its family",
    "output_high_v": "by its family",
    "output_low_v": "by its family",
    "clock_hz": "not known",
}


QUIET_MS = 400
"""How long nothing is done before what would still fit is worked out."""


class WiringPanel:
    """Fills the panel of the view by what is selected."""

    def __init__(self, view: View) -> None:
        self.view, self.store, self.theme = view, view.store, view.theme
        self.fields: dict[str, Any] = {}
        self._fits = label("", "mute", wrap=True)
        self._worker = Worker(view)
        self._worker.told.connect(self._told)
        self._later = QTimer(view)
        self._later.setSingleShot(True)
        self._later.setInterval(QUIET_MS)
        self._later.timeout.connect(self._look)
        self.asked = ""

    @property
    def column(self) -> Any:
        return self.view.panel.column

    def show(self) -> None:
        """The form of what is selected; where nothing is, everything that is to settle."""
        self.view.panel.clear()
        self._later.stop()
        self._worker.stop()
        self.fields = {}
        pick = self.store.picked(WiringPick)
        items = {i.id: i for i in self.store.project.concept.items}
        wired = self.store.assessment.of(PINS).at.get(pick.key) if pick.key is not None else None
        if wired is not None:
            self._signal(wired)
        elif pick.room == "pins" and pick.id in items:
            self._controller(items[pick.id], pick.pin)
        elif pick.room == "items" and pick.id in items:
            self._part(items[pick.id])
        elif pick.room in EDITS and (value := self._value(pick)) is not None:
            self._of_value(pick.room, value)
        else:
            self._whole()
        self.column.addStretch(1)

    def _value(self, pick: WiringPick) -> Any:
        return next((x for x in getattr(self.store.project.concept, pick.room) if x.id == pick.id), None)

    def _findings(self, *of: str, items: tuple[str, ...] = (), most: int = 4) -> None:
        found = [f for f in self.store.assessment.findings if f.subject == "wiring"]
        about = [f for f in found if f.of in of or (items and set(items) & set(f.items))]
        self.view.finding_cards(about[:most])

    # all of it

    def _whole(self) -> None:
        self.column.addWidget(label("Wiring", "title"))
        found = [f for f in self.store.assessment.findings if f.subject == "wiring"]
        hint = "Select a thread, a part, a pin or a cable." if found else "Everything that was looked at holds."
        self.column.addWidget(label(hint, "mute", wrap=True))
        self.view.finding_cards(found[:4])
        if len(found) > 4:
            self.column.addWidget(label(f"and {len(found) - 4} more, each at its part or cable", "mute", wrap=True))
        self._spare()
        form = Form(self.theme)
        drop = EntryField(number_reader("share"), "A wire may lose")
        drop.show_text(show(self.store.project.concept.wiring.most_drop, "share"))
        drop.committed.connect(lambda v: self.store.attempt_or(drop.complain, edits.set_wiring, most_drop=v))
        form.add("a wire may lose", drop, "Share of its rail; 3 % is common practice")
        ohm = EntryField(number_reader("Ω", empty=True), "I²C buses pulled up besides by")
        put = self.store.project.concept.wiring.pull_up_ohm
        ohm.show_text(show(put, "Ω") if put is not None else "", "nothing")
        ohm.committed.connect(lambda v: self.store.attempt_or(ohm.complain, edits.set_wiring, pull_up_ohm=v))
        form.add("I²C pulled up by", ohm, "Resistors put on every I²C bus besides those on its parts")
        self.fields |= {"most_drop": drop, "pull_up_ohm": ohm}
        self.column.addWidget(form)
        self.column.addWidget(FileButtons(self.store, self.theme))

    def _spare(self) -> None:
        """What would still fit: of each kind, and what is asked for."""
        pins = self.store.assessment.of(PINS)
        if not pins.solved or not pins.teeth:
            return
        self.column.addWidget(label("If one more is needed", "heading"))
        self._fits = label("looking …", "mute", wrap=True)
        self.column.addWidget(self._fits)
        self._later.start()
        form = Form(self.theme)
        field = EntryField(asked_for, "Would these fit")
        field.show_text(self.asked, "2 interrupts, 1 UART, a servo")
        answer = label("", "mute", wrap=True)
        field.committed.connect(lambda asked: self._answer(field, answer, asked))
        form.add("would fit?", field, "What you may still need: how many of what")
        self.fields["asked"], self.answer = field, answer
        self.column.addWidget(form)
        self.column.addWidget(answer)

    def _look(self) -> None:
        """Work out what would still fit, once the hands rest: beside it an edit would wait."""
        concept, revision, pins = self.store.project.concept, self.store.revision, self.store.assessment.of(PINS)
        self._worker.start(revision, lambda: still_fits(concept, pins))

    def _told(self, revision: int, found: Any) -> None:
        if revision == self.store.revision and not isdeleted(self._fits):
            self._fits.setText(fits_words(found))

    def _answer(self, field: EntryField, answer: Any, asked: Any) -> None:
        self.asked = field.line.text()
        found = would_fit(self.store.project.concept, asked, self.store.assessment.of(PINS))
        if found.solved:
            used = found.used - self.store.assessment.of(PINS).used
            answer.setText(f"They fit, on {used} pins more.")
        elif found.clash:
            names = list(dict.fromkeys(w.name for w in found.clash))
            answer.setText(f"They do not fit: {', '.join(names[:8])} clash.")
        else:
            answer.setText("Neither an assignment nor a proof was found.")

    # a signal

    def _signal(self, wired: Wired) -> None:
        column, store, key = self.column, self.store, wired.wish.key
        column.addWidget(label(wired.wish.name, "title", wrap=True))
        level = next((x for x in store.assessment.of(LEVELS) if x.wired.wish.key == key), None)
        column.addWidget(label(signal_words(wired, level), "mute", wrap=True))
        at = f"{wired.tooth.item.id}/{wired.tooth.pin.name}"
        self._findings(at, key.item or "?", key.own or "?")
        form = Form(self.theme)
        line = wired.wish.line
        able = [
            t for t in store.assessment.of(PINS).teeth
            if any(d[0] == line.does and (not line.role or not d[2] or d[2] == line.role) for d in t.pin.does)
        ]  # fmt: skip
        taken = {w.tooth.number: w.wish.name for w in store.assessment.of(PINS).wired}
        several = len({t.item.id for t in able}) > 1
        options = [(str(t.number), f"{t.pin.name}{f' of {t.item.name}' if several else ''}"
                    f"{f' ({taken[t.number]})' if t.number in taken else ''}") for t in able]  # fmt: skip
        choice = Choice(options, f"{wired.wish.name}: pin")
        choice.show_value(str(wired.tooth.number))
        by = {str(t.number): t for t in able}
        choice.picked.connect(lambda n: store.attempt(edits.lay_thread, key, by[n].item.id, by[n].pin.name))
        form.add("pin", choice, "Pins that can do it; what is there moves on")
        self.fields["pin"] = choice
        column.addWidget(form)
        if wired.kept:
            column.addWidget(button("let it go", partial(store.attempt, edits.let_go, key), kind="link",
                                    tip="It may go to another pin when the pins are solved"))  # fmt: skip
        else:
            keep = partial(store.attempt, edits.lay_thread, key, wired.tooth.item.id, wired.tooth.pin.name)
            column.addWidget(button("keep it there", keep, kind="link"))
        for room, of in (("items", key.item), ("own_lines", key.own), ("joins", key.join)):
            if of:
                go = partial(store.pick, WiringPick(room, of))
                column.addWidget(button("what it belongs to", go, kind="link"))

    # a part

    def _part(self, item: Item) -> None:
        column, store = self.column, self.store
        column.addWidget(label(item.name, "title", wrap=True))
        wired = [w for w in store.assessment.of(PINS).wired if w.wish.key.item == item.id]
        said = "; ".join(f"{w.wish.name.rpartition(': ')[2]} on {w.tooth.pin.name}" for w in wired[:10])
        column.addWidget(label(f"{said}." if said else "None of its signals is on a pin.", "mute", wrap=True))
        self._findings(item.id, items=(item.id,))
        form, signals = Form(self.theme), SignalFields(store, self.theme, self.fields)
        boards = [(i.id, i.name) for i in store.project.concept.items if is_controller(i)]
        if len(boards) > 1 or item.board:
            choice = Choice([("", "any of them"), *boards], f"{item.name}: controller")
            choice.show_value(item.board)
            choice.picked.connect(lambda v: store.attempt(edits.set_board, item.id, v))
            form.add("controller", choice, "Which one its signals go to")
            self.fields["board"] = choice
        if any(w.wish.line.does == "I2C" for w in wired) or (item.part.port and item.part.port.addresses):
            form.add("address", signals.address(item), "0x68 or 104; empty for the one it is sold with")
        column.addWidget(form)
        column.addWidget(label("Signals it needs", "heading"))
        column.addWidget(signals.form(item))
        port = ValueForm(self.theme, store, item.part.port or Port(), item.name, partial(self._set_port, item.id),
                         words=WORDS, skip={"lines", "addresses"}, empties=EMPTIES)  # fmt: skip
        column.addWidget(label("Its levels", "heading"))
        column.addWidget(port)
        self.fields |= port.fields
        if is_expander(item):
            column.addWidget(button("its pins", partial(store.pick, WiringPick("pins", item.id)), kind="link"))
        column.addWidget(button("all of this part", partial(self.view.desk.go_to_item, item.id), kind="link"))

    def _set_port(self, item_id: str, complain: Any, field: str, new: Any) -> None:
        self.store.attempt_or(complain, edits.set_port, item_id, **{field: new})

    # a controller

    def _controller(self, item: Item, pin: str) -> None:
        column, store = self.column, self.store
        column.addWidget(label(f"{item.name}{f', pin {pin}' if pin else ''}", "title", wrap=True))
        pins = store.assessment.of(PINS)
        own = [t for t in pins.teeth if t.item.id == item.id]
        tooth = next((t for t in own if t.pin.name == pin), None)
        if tooth is not None:
            does = ", ".join(" ".join(filter(None, d)) for d in tooth.pin.does) or "nothing"
            starts = f" It {tooth.pin.at_start} while the controller starts." if tooth.starts else ""
            most = f" Survives {show(tooth.pin.max_v, 'V')}." if tooth.pin.max_v is not None else ""
            column.addWidget(label(f"It can be: {does}.{starts}{most}", "mute", wrap=True))
            able = [w for w in pins.wired if any(d[0] == w.wish.line.does and (
                not w.wish.line.role or not d[2] or d[2] == w.wish.line.role) for d in tooth.pin.does)]  # fmt: skip
            form = Form(self.theme)
            choice = Choice([("", "nothing"), *((str(n), w.wish.name) for n, w in enumerate(able))], f"Put on {pin}")
            choice.picked.connect(lambda n: n and store.attempt(edits.lay_thread, able[int(n)].wish.key, item.id, pin))
            form.add("put here", choice)
            column.addWidget(form)
            self.fields["put"] = choice
        else:
            free = [t.pin.name for t in pins.free if t.item.id == item.id]
            column.addWidget(label(f"{len(own)} pins; free: {', '.join(free) or 'none'}.", "mute", wrap=True))
        self._findings(item.id, items=(item.id,), most=3)
        column.addWidget(button("take a pin table from CSV", partial(self._read_pins, item.id), kind="link",
                                tip="Columns pin and does: plain; interrupt 5; PWM 3 2; I2C 1 clock"))  # fmt: skip
        if item.part.board is not None:
            column.addWidget(button("save its pin table", partial(self._save_pins, item), kind="link"))
        column.addWidget(button("all of this part", partial(self.view.desk.go_to_item, item.id), kind="link"))

    def _read_pins(self, item_id: str) -> None:
        path, _ = QFileDialog.getOpenFileName(self.view, "A pin table", "", "CSV (*.csv)")
        if path:
            self.read_pins(item_id, Path(path))

    def read_pins(self, item_id: str, path: Path) -> None:
        """Take a pin table from a file; what is wrong with it is said, and nothing changes."""
        try:
            text = path.read_text(encoding="utf-8", errors="replace")
            self.store.apply(edits.set_pins(self.store.project, item_id, read_pins(text)))
        except (OSError, PinTableError, ProjectError) as error:
            QMessageBox.warning(self.view, "The pin table was not taken", str(error))

    def _save_pins(self, item: Item) -> None:
        from wired_union.subjects.wiring.view_hand import save

        path, _ = QFileDialog.getSaveFileName(self.view, "Save the pin table", f"{item.id}-pins.csv", "CSV (*.csv)")
        if path and item.part.board is not None:
            save(self.view, path, write_pins(item.part.board.pins).encode())

    # a value of its own

    def _of_value(self, room: str, value: Any) -> None:
        column, store = self.column, self.store
        column.addWidget(label(value.name, "title", wrap=True))
        if isinstance(value, Cable):
            self._cable_said(value)
        if isinstance(value, Interface):
            self._interface_said(value)
        if isinstance(value, Join):
            column.addWidget(label(join_words(store.project.concept, value), "mute", wrap=True))
        self._findings(value.id)
        form = ValueForm(self.theme, store, value, value.name, partial(self._set, room, value), words=WORDS,
                         skip={"reaches", "agreed"}, empties=EMPTIES)  # fmt: skip
        column.addWidget(form)
        self.fields |= form.fields
        if isinstance(value, Cable):
            self._reaches(value)
        away = partial(store.attempt, EDITS[room][1], value_id=value.id)
        column.addWidget(button(f"take {value.name} away", away, kind="link"))

    def _set(self, room: str, value: Value, complain: Any, field: str, new: Any) -> None:
        set_it = EDITS[room][0]
        self.store.attempt_or(complain, set_it, value_id=value.id, **{field: new})  # type: ignore[attr-defined]

    def _cable_said(self, cable: Cable) -> None:
        concept = self.store.project.concept
        found = self.store.assessment.of(WIRES).cable(cable.id)
        if found is None:
            return
        count = count_of(concept, cable)
        many = f"{count} alike. " if count > 1 else ""
        weighs = f" {show(found.laid.all_kg, 'kg')} together." if found.laid.all_kg is not None else ""
        carries = f" Carries {len(found.laid.feeds)} feeds and {found.laid.signals} signals."
        said = f"{many}{made_words(found)}; {share_words(found, concept.wiring.most_drop)}.{weighs}{carries}"
        self.column.addWidget(label(said, "mute", wrap=True))

    def _reaches(self, cable: Cable) -> None:
        """What it goes to, each taken off by picking it; one more."""
        items = {i.id: i for i in self.store.project.concept.items}
        form = Form(self.theme)
        for r in cable.reaches:
            form.add("goes to", button(f"{items[r.item].name} ✕", partial(
                self.store.attempt, edits.no_longer, cable.id, r.item), kind="link"))  # fmt: skip
        there = {cable.start, *(r.item for r in cable.reaches)}
        others = [(i.id, i.name) for i in items.values() if i.id not in there]
        choice = Choice([("", "choose a part"), *others], f"{cable.name}: goes also to")
        choice.picked.connect(lambda v: v and self.store.attempt(edits.reach, cable.id, v))
        form.add("also to", choice)
        self.fields["reach"] = choice
        self.column.addWidget(form)

    def _interface_said(self, i: Interface) -> None:
        handed = next((h for h in self.store.assessment.of(HANDED) if h.interface.id == i.id), None)
        if handed is None:
            return
        self.column.addWidget(label(f"{handed.stands[:1].upper()}{handed.stands[1:]}.", "mute", wrap=True))
        words = "both sides agree again" if handed.moved else "both sides agree on it"
        if i.agreed is None or handed.moved:
            act = partial(self.store.attempt, agree, i.id, self.view.desk.today())
            self.column.addWidget(button(words, act, kind="link"))


def join_words(concept: Concept, join: Join) -> str:
    """Who owns what, and which messages of Timing cross."""
    names = {i.id: i.name for i in concept.items}
    crossing = [m.name for m in concept.messages if join.bus and m.bus == join.bus]
    said = f"Crosses: {', '.join(crossing)}." if crossing else "Which messages cross is said by its bus of Timing."
    for end in filter(None, (join.one, join.other)):
        own = [i.name for i in concept.items if i.board == end]
        said += f" {names[end]} owns {', '.join(own)}." if own else ""
    return said
