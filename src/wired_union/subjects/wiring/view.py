"""Wiring: the loom from pins to parts, cables to scale, buses, and what people's parts hand each other."""

from functools import partial
from typing import Any

from PyQt6.QtWidgets import QMenu, QWidget

from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import compare
from wired_union.kernel.subject import Assessment
from wired_union.project.change import Change
from wired_union.project.errors import ProjectError
from wired_union.subjects.wiring import edits
from wired_union.subjects.wiring.assess import LEVELS, WIRES
from wired_union.subjects.wiring.laid import LAID
from wired_union.subjects.wiring.pick import WiringPick
from wired_union.subjects.wiring.picture_cables import cables_picture
from wired_union.subjects.wiring.picture_loom import Loom, loom_picture
from wired_union.subjects.wiring.pins import PINS
from wired_union.subjects.wiring.view_hand import ControlsCard, HandedCard
from wired_union.subjects.wiring.view_panel import WiringPanel
from wired_union.subjects.wiring.wishes import Key
from wired_union.subjects.wiring.words import bus_words, head_words
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, empty, label
from wired_union.ui.list_card import ListCard
from wired_union.ui.view import Desk, View, card, row


class WiringView(View):
    stage, title = "wiring", "Wiring"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.loom = Canvas(self.theme, name="The loom: pins, threads and parts")
        self.loom.chosen.connect(self._chosen)
        self.loom.carried.connect(self._carried)
        self._note = label("", "mute", wrap=True)
        self.column.addWidget(
            card(self.theme, label("The loom", "heading"), self._note, self.loom, self._pin_buttons())
        )
        self.buses = ListCard(self.theme, "Buses that parts share")
        self.buses.box.addLayout(self.buses.listed)
        self.column.addWidget(self.buses)
        self.cables = Canvas(self.theme, name="Cables to scale")
        self.cables.chosen.connect(self._chosen)
        self._cables_note = label("", "mute", wrap=True)
        self.column.addWidget(
            card(self.theme, label("Cables", "heading"), self._cables_note, self.cables, self._cable_buttons())
        )
        self.handed = HandedCard(self.store, self.theme, self._pick)
        self.column.addWidget(self.handed)
        self.controls = ControlsCard(self.store, self.theme, self._pick)
        self.column.addWidget(self.controls)
        self.column.addStretch(1)
        self.details = WiringPanel(self)

    def _pin_buttons(self) -> QWidget:
        return row(
            button("Solve the pins", lambda: self.store.attempt(edits.solve_pins), kind="main",
                   tip="Every signal on a pin, those that are kept where they are"),
            button("solve afresh", lambda: self.store.attempt(edits.solve_pins, afresh=True), kind="link",
                   tip="Without regard to where those were that are not kept"),
            button("keep all", lambda: self.store.attempt(edits.keep_all), kind="link",
                   tip="Every signal stays where it is, such as once it is soldered"),
            button("+ a signal of our own", self._add_own, kind="link",
                   tip="A lamp, a button, a divider at the pack: what no part carries"),
            button("+ join two controllers", self._add_join, kind="link"),
        )  # fmt: skip

    def _cable_buttons(self) -> QWidget:
        return row(
            button("+ a cable", self._add_cable, kind="link"),
            button("a cable for everything", self._cables_for_all, kind="link",
                   tip="One for each feed and for the signals of each part that lie in none"),
        )  # fmt: skip

    def refresh(self) -> None:
        self._show(self.store.assessment)
        self._show_buses()
        self.handed.show_all()
        self.controls.show_all()
        self.details.show()

    def _show(self, assessment: Assessment) -> None:
        """Draw loom and cables as an assessment has them."""
        pins, wires, kit = assessment.of(PINS), assessment.of(WIRES), self.theme.kit
        picked = self.store.picked(WiringPick)
        loom = Loom(pins, assessment.of(LAID), self._verdicts(assessment), assessment.project.concept)
        self.loom.show_layout(lambda w, h: loom_picture(loom, kit, w, picked))
        allowed = assessment.project.concept.wiring.most_drop
        self.cables.show_layout(lambda w, h: cables_picture(wires.cables, allowed, kit, w, picked.id))
        settle = sum(f.subject == "wiring" and f.verdict is not Verdict.HOLDS for f in assessment.findings)
        self.subtitle.setText(head_words(pins, len(wires.cables), wires.length_m, settle))
        found = sum(not w.stored for w in pins.wired)
        self._note.setText(
            f"A thread is a signal; dashed ones are found and not laid yet ({found}). Drag a tooth to another pin."
            if found else "A thread is a signal. Drag a tooth to another pin; a dot marks what is kept there."
        )  # fmt: skip
        self._cables_note.setText(
            "Length to scale, thickness is the wire, ends are plugs; to the right the share of the rail that is lost."
        )

    def _verdicts(self, assessment: Assessment) -> dict[Key, Verdict]:
        """What is wrong with single signals: levels, and pins that matter at the start."""
        found: dict[Key, Verdict] = {}
        found |= {x.wired.wish.key: x.verdict for x in assessment.of(LEVELS) if x.verdict is not Verdict.HOLDS}
        at_start = {f.of for f in assessment.findings if f.check == "start-pin" and f.verdict is Verdict.BREAKS}
        for w in assessment.of(PINS).wired:
            if f"{w.tooth.item.id}/{w.tooth.pin.name}" in at_start:
                found[w.wish.key] = Verdict.BREAKS
        return found

    def _show_buses(self) -> None:
        empty(self.buses.listed)
        found = self.store.assessment.of(WIRES).buses
        self.buses.setVisible(bool(found))
        for bus in found:
            first = next((d.item for d in bus.devices if d.item), "")
            pick = partial(self._pick, WiringPick("items", first))
            self.buses.listed.addWidget(button(bus.name, pick, kind="link"))
            self.buses.listed.addWidget(label(f"{bus_words(bus)}. {bus.silences}", "mute", wrap=True))

    # acting

    def _pick(self, pick: WiringPick) -> None:
        self.store.pick(pick)

    def _chosen(self, of: object) -> None:
        if isinstance(of, WiringPick):
            self._pick(of)

    def _carried(self, of: object, onto: object, let_go: bool) -> None:
        """A thread on its way to another tooth: the strip shows where that leads, and letting go lays it there."""
        change = self._laid(of, onto)
        if let_go:
            self.store.show_preview(None)
            if change is not None:
                self.store.apply(change)
            elif isinstance(onto, WiringPick) and isinstance(of, WiringPick) and of.key is not None and onto.pin:
                self.store.attempt(edits.lay_thread, of.key, onto.id, onto.pin)  # says why not
            return
        now = self.store.assessment
        after = now.again(change.after) if change is not None else None
        self.store.show_preview(compare(now, after, change.sentence) if change and after is not None else None)

    def _laid(self, of: object, onto: object) -> Change | None:
        if not (isinstance(of, WiringPick) and isinstance(onto, WiringPick) and of.key is not None and onto.pin):
            return None
        try:
            return edits.lay_thread(self.store.project, of.key, onto.id, onto.pin)
        except ProjectError:
            return None

    # adding

    def _add(self, room: str, title: str, hint: str, edit: Any, **figures: Any) -> None:
        name, meant = ask.word(self, title, hint)
        if meant and self.store.attempt(edit, name=name, **figures):
            self._pick(WiringPick(room, getattr(self.store.project.concept, room)[-1].id))

    def _add_own(self) -> None:
        self._add("own_lines", "A signal of our own", "What is it? “Lamp”, “Pack sense”, “Start button”", edits.add_own)

    def _add_join(self) -> None:
        boards = self.store.assessment.of(PINS).boards()
        ends = {"one": boards[0].id, "other": boards[1].id} if len(boards) > 1 else {}
        hint = "What is it called? “Computer to motor board”"
        self._add("joins", "Two controllers that talk", hint, edits.add_join, **ends)

    def _add_cable(self) -> None:
        """Offer what a cable may start from."""
        menu = QMenu(self)
        for item in self.store.project.concept.items:
            menu.addAction(item.name, partial(self._cable_from, item.id))
        menu.popup(self.cursor().pos())

    def _cable_from(self, item_id: str) -> None:
        hint = "What is it called? “Mast loom”, “Pack to bus”"
        self._add("cables", "A cable", hint, edits.add_cable, start=item_id)

    def _cables_for_all(self) -> None:
        self.store.attempt(edits.cables_for_all, self.store.assessment.of(PINS))
