"""Parts: a lane for each subsystem, cards in it, and what the selected one could be instead."""

from functools import partial
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PyQt6.QtCore import QPoint
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QVBoxLayout

from wired_union import units
from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Selection
from wired_union.project import edits
from wired_union.project.model import Item, Subsystem
from wired_union.subjects.mass.gives import MASS
from wired_union.subjects.parts.pick import PartsPick
from wired_union.subjects.parts.picture_lane import lane_head, share_measure
from wired_union.subjects.parts.view_lane import Lane, PartCard
from wired_union.subjects.power.gives import POWER, lane_power
from wired_union.ui import ask
from wired_union.ui.fields import EntryField, Form, button, empty, label, number_reader
from wired_union.ui.prose import Prose, muted
from wired_union.ui.view import Desk, View

if TYPE_CHECKING:
    from wired_union.subjects.parts.view_item import ItemPanel
    from wired_union.ui.item_form import ItemForm
    from wired_union.ui.tries import TryList


class PartsView(View):
    stage, title = "parts", "Parts"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self._lanes_box = QVBoxLayout()
        self._lanes_box.setSpacing(self.theme.px(8))
        self.column.addLayout(self._lanes_box)
        self.column.addWidget(button("+ add a subsystem", self._add_lane, kind="link"))
        self.column.addStretch(1)
        self.lanes: dict[str, Lane] = {}
        self.cards: dict[str, PartCard] = {}
        self._panel_for: tuple[str, str] = ("", "")
        self._of_item: ItemPanel | None = None
        for keys, done in (("Delete", self._delete), ("Ctrl+D", self._duplicate), ("F2", self._rename),
                           ("Ctrl++", lambda: self._more(1)), ("Ctrl+-", lambda: self._more(-1))):  # fmt: skip
            QShortcut(QKeySequence(keys), self, done)

    @property
    def selected(self) -> Item | None:
        wanted = self.store.picked(Selection).item
        items = self.store.project.concept.items
        return next((i for i in items if i.id == wanted), None)

    # the lanes

    def show_item(self, item_id: str) -> None:
        card = self.cards.get(item_id)
        if card is not None:
            card.setFocus()
            self.ensureWidgetVisible(card)

    def refresh(self) -> None:
        concept = self.store.project.concept
        attention = sum(v.rank < 2 for v in self.store.assessment.item_verdicts.values())
        count = sum(i.count for i in concept.items)
        told = f"{attention} need attention" if attention != 1 else "1 needs attention"
        self.subtitle.setText(f"{count} parts in {len(concept.subsystems)} subsystems · {told}")
        wanted = {s.id: [i.id for i in concept.items if i.subsystem == s.id] for s in concept.subsystems}
        shown = {k: [c.item_id for c in lane.cards] for k, lane in self.lanes.items()}
        if wanted != shown:
            self._rebuild(wanted)
        self._draw()
        self._show_panel()

    def selection_moved(self) -> None:
        self._draw()
        self._show_panel()

    def _rebuild(self, wanted: dict[str, list[str]]) -> None:
        focused = next((i for i, c in self.cards.items() if c.hasFocus()), None)
        keep = self.cards
        self.cards = {}
        for lane in self.lanes.values():
            for card in lane.cards:
                card.setParent(None)
        empty(self._lanes_box)
        self.lanes = {}
        for lane_id, item_ids in wanted.items():
            lane = Lane(self.theme, lane_id)
            lane.head_pressed.connect(self._select_lane)
            lane.add_pressed.connect(self.desk.add_part)
            lane.resized.connect(partial(self._draw_cards, lane))
            for item_id in item_ids:
                card = keep.get(item_id) or PartCard(self.theme, item_id, self)
                card.setParent(lane)
                lane.cards.append(card)
                self.cards[item_id] = card
            self.lanes[lane_id] = lane
            self._lanes_box.addWidget(lane)
            lane.place_cards()
        for item_id, card in keep.items():
            if item_id not in self.cards:
                card.deleteLater()
        if focused in self.cards:
            self.cards[focused].setFocus()

    def _draw(self) -> None:
        concept, assessment = self.store.project.concept, self.store.assessment
        watts = lane_power(assessment.of(POWER))
        mass = {lane: sum(x.total_kg for x in lines) for lane, lines in assessment.of(MASS).by_subsystem}
        whole = (sum(watts.values()), sum(mass.values()))
        for lane in concept.subsystems:
            power = share_measure("power", watts.get(lane.id, 0.0), lane.power_share_w, "W")
            weight = share_measure("mass", mass.get(lane.id, 0.0), lane.mass_share_kg, "kg")
            said = f"{lane.name}, power {power.shown}, mass {weight.shown}"
            self.lanes[lane.id].show_head(lane_head(lane.name, power, weight, self.theme.kit, whole), said)
            self._draw_cards(self.lanes[lane.id])

    def _draw_cards(self, lane: Lane) -> None:
        if not lane.laid_out:
            return
        items = {i.id: i for i in self.store.project.concept.items}
        verdicts, chosen = self.store.assessment.item_verdicts, self.store.picked(Selection).item
        width = lane.card_width()
        for card in lane.cards:
            if card.item_id in items:
                item = items[card.item_id]
                card.show_item(item, verdicts.get(item.id), width, selected=item.id == chosen)

    def select(self, item_id: str) -> None:
        self.store.change(Selection, item=item_id)

    def walk(self, item_id: str, dx: int, dy: int) -> None:
        lanes = list(self.lanes.values())
        at = next(k for k, lane in enumerate(lanes) if any(c.item_id == item_id for c in lane.cards))
        place = [c.item_id for c in lanes[at].cards].index(item_id)
        if dx:
            place = max(0, min(place + dx, len(lanes[at].cards) - 1))
        else:
            step = [k for k in range(at + dy, len(lanes) if dy > 0 else -1, dy) if lanes[k].cards]
            at = step[0] if step else at
            place = min(place, len(lanes[at].cards) - 1)
        card = lanes[at].cards[place]
        card.setFocus()
        self.ensureWidgetVisible(card)

    def shove(self, item_id: str, dx: int, dy: int) -> None:
        lanes = list(self.lanes)
        at = next(k for k, n in enumerate(lanes) if any(c.item_id == item_id for c in self.lanes[n].cards))
        place = [c.item_id for c in self.lanes[lanes[at]].cards].index(item_id)
        if dy and 0 <= at + dy < len(lanes):
            self.store.attempt(edits.move_item, item_id, lanes[at + dy])
        elif dx and 0 <= place + dx < len(self.lanes[lanes[at]].cards):
            self.store.attempt(edits.move_item, item_id, lanes[at], place + dx)

    def carry(self, item_id: str, corner: QPoint) -> None:
        card = self.cards[item_id]
        if card.parent() is not self.inside:
            card.setParent(self.inside)
            card.show()
        card.move(self.inside.mapFromGlobal(corner))
        card.raise_()

    def land(self, item_id: str, point: QPoint) -> None:
        at = self.inside.mapFromGlobal(point)
        lane = next((x for x in self.lanes.values() if x.geometry().contains(at)), None)
        home = next(x for x in self.lanes.values() if any(c.item_id == item_id for c in x.cards))
        self.cards[item_id].setParent(home)
        home.place_cards()
        if lane is not None:
            place = lane.place_at(lane.mapFromGlobal(point))
            if lane is home:
                place -= int([c.item_id for c in lane.cards].index(item_id) < place)
            self.store.attempt(edits.move_item, item_id, lane.lane_id, place)

    # what keys and buttons do

    def _delete(self) -> None:
        if self.selected is not None:
            self.store.attempt(edits.remove_item, self.selected.id)

    def _duplicate(self) -> None:
        if self.selected is not None:
            self.store.attempt(edits.duplicate_item, self.selected.id)

    def _more(self, step: int) -> None:
        if self.selected is not None:
            self.store.attempt(edits.set_count, self.selected.id, self.selected.count + step)

    def _rename(self) -> None:
        if self.selected is not None:
            field = self.form.fields["name"]
            self.panel.ensureWidgetVisible(field)
            field.line.setFocus()
            field.line.selectAll()

    def _add_lane(self) -> None:
        name, ok = ask.word(self, "New subsystem", "What is it called?")
        if ok:
            self.store.attempt(edits.add_subsystem, name)

    def _select_lane(self, lane_id: str) -> None:
        self.store.pick(PartsPick(lane_id), replace(self.store.picked(Selection), item=""))
        self._draw()
        self._show_panel()

    # the panel

    def _show_panel(self) -> None:
        item = self.selected
        if item is None:
            if self._of_item is not None:
                self._of_item.stop()
            self._show_lane_panel()
            return
        if self._of_item is None:
            from wired_union.subjects.parts.view_item import ItemPanel

            self._of_item = ItemPanel(self, self._duplicate, self._delete)
        elif self._panel_for != ("item", item.id):
            self._of_item.build()
        self._panel_for = ("item", item.id)
        self._of_item.show_item(item)

    def _show_lane_panel(self) -> None:
        lanes = self.store.project.concept.subsystems
        wanted = self.store.picked(PartsPick).lane
        lane = next((s for s in lanes if s.id == wanted), None)
        self._panel_for = ("lane", wanted)
        self.panel.clear()
        column = self.panel.column
        if lane is None:
            self._show_attention()
            return
        column.addWidget(label(lane.name, "title"))
        column.addWidget(label("a subsystem and its shares", "mute"))
        column.addWidget(self._lane_form(lane))
        column.addWidget(button("Delete this subsystem", lambda: self.store.attempt(edits.remove_subsystem, lane.id)))
        column.addStretch(1)

    def _show_attention(self) -> None:
        """With nothing selected: what needs attention, and how to go on."""
        column = self.panel.column
        column.addWidget(label("What needs attention", "title"))
        hint = "Select a part to see what else could take its place, and what that would do to every limit."
        keys = "Arrows walk, Enter swaps an alternative in, Alt and arrows move a part."
        column.addWidget(Prose(self.theme, [muted(f"{hint} {keys}")]))
        findings = self.store.assessment.findings
        self.finding_cards([f for f in findings if f.verdict is not Verdict.HOLDS and f.items][:6])
        self.show_cautions(self.store.assessment.cautions)
        column.addStretch(1)

    def _lane_form(self, lane: Subsystem) -> Form:
        form = Form(self.theme)
        name = EntryField(str.strip, "Name of the subsystem")
        name.show_text(lane.name)
        name.committed.connect(lambda value: self.store.attempt(edits.rename_subsystem, lane.id, value))
        form.add("Called", name)
        for path, text in (("mass_share_kg", "Share of mass"), ("power_share_w", "Share of power")):
            field = EntryField(number_reader(units.unit_of(path), empty=True), text)
            value = getattr(lane, path)
            field.show_text("" if value is None else units.show_named(path, value), "no share set")
            field.committed.connect(lambda v, p=path: self.store.attempt(edits.set_share, lane.id, p, v))
            form.add(text, field)
        return form

    # alternatives

    @property
    def tries_ready(self) -> bool:
        """Whether every alternative of the selected part has been worked out."""
        return self.selected is None or (self._of_item is not None and self._of_item.ready(self.selected.id))

    @property
    def try_list(self) -> "TryList":
        """The alternatives of the selected part."""
        assert self._of_item is not None
        return self._of_item.tries

    @property
    def form(self) -> "ItemForm":
        """The figures of the selected part."""
        assert self._of_item is not None
        return self._of_item.form
