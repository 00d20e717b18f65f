"""Mass: what hangs on the wire, allowance told apart from what is known; and where the money comes from."""

from functools import partial

from wired_union import units
from wired_union.kernel.subject import Selection
from wired_union.picture.bars import Bar, knowledge_bars, share_bars
from wired_union.project.model import KNOWLEDGE, Beam, Item
from wired_union.subjects.mass.assess import MASS
from wired_union.subjects.mass.beams import BEAMS
from wired_union.subjects.mass.money import MONEY, MoneyResult
from wired_union.subjects.mass.pick import MassPick
from wired_union.subjects.mass.picture import hanging_picture
from wired_union.subjects.mass.picture_beams import said
from wired_union.subjects.mass.view_beams import BeamForm, BeamsCard
from wired_union.subjects.mass.view_places import FeetForm, PlaceForm, PlacesCard, RoomForm
from wired_union.subjects.mass.view_poses import PoseForm, ShiftForm, new_pose_button
from wired_union.subjects.mass.view_weighing import WeighCard, WeighForm
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import label
from wired_union.ui.view import Desk, View, card

HANG_H = 236.0
SCHOOLS = {"by knowledge": "for what is not", "fixed share": "as one share of all",
           "root of squares": "as the root of squares"}  # fmt: skip


class MassView(View):
    stage, title = "mass", "Mass"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.bars = Canvas(self.theme, name="What hangs on the wire", tall=False)
        self.bars.setFixedHeight(self.theme.px(HANG_H))
        self.bars.chosen.connect(self._chosen)
        self.column.addWidget(
            card(self.theme, label("What hangs on the wire", "heading"),
                 label("length is mass; hatched is the allowance for guesses and estimates", "mute"), self.bars)
        )  # fmt: skip
        self.places = PlacesCard(self.store, self.theme)
        self.column.addWidget(self.places)
        self.beams = BeamsCard(self.store, self.theme)
        self.column.addWidget(self.beams)
        self.weighing = WeighCard(self.store, self.theme, self._chosen)
        self.column.addWidget(self.weighing)
        self._copy: tuple[str, int] = ("", 0)
        self.money = Canvas(self.theme, name="Where the money goes")
        self._money_note = label("", "mute", wrap=True)
        self.column.addWidget(card(self.theme, label("Money", "heading"), self._money_note, self.money))
        self.column.addStretch(1)

    def refresh(self) -> None:
        mass, concept = self.store.assessment.of(MASS), self.store.project.concept
        limit = self.store.assessment.measure("mass")
        small = f", {units.show(mass.small_kg, 'kg')} cables, screws, glue" if mass.small_kg else ""
        small += f", {units.show(mass.cables_kg, 'kg')} cables" if mass.cables_kg else ""
        margin = f", {units.show(mass.margin_kg, 'kg')} system margin" if mass.margin_kg else ""
        of = f" · limit {limit.limit_shown}" if limit.limit is not None else ""
        self.subtitle.setText(
            f"{units.show(mass.known_kg, 'kg')} known, {units.show(mass.allowance_kg, 'kg')} allowed"
            f" {SCHOOLS[self.store.project.brief.margin_school]}{small}{margin}{of}"
        )
        chosen = self.store.picked(Selection).item
        kit = self.theme.kit
        self.bars.show_layout(lambda w, h: hanging_picture(mass, concept, kit, w, h, selected=chosen))
        self.weighing.show_list()
        self.places.show_places()
        self.beams.show_beams()
        self._show_money(self.store.assessment.of(MONEY))
        self._show_panel()

    def _chosen(self, of: object) -> None:
        if isinstance(of, str):
            self.store.pick(MassPick())
            self.store.change(Selection, item=of)

    def _show_money(self, money: MoneyResult) -> None:
        inks = {"bought": "moss", "to buy": "copper", "owned": "slate", "donated": "plum", "refunded": "unknown"}
        rows = [(o, v) for o, v in money.by_origin.items() if v > 0]
        total = sum(v for _, v in rows) or 1.0
        bars = [Bar(o, v / total, units.show(v, self.store.project.brief.currency), inks[o]) for o, v in rows]
        measure = self.store.assessment.measure("money")
        of = f" of {measure.limit_shown}" if measure.limit is not None else ""
        gaps = f" Not known yet: {'; '.join(money.missing)}." if money.missing else ""
        self._money_note.setText(
            f"{measure.shown}{of} counts: bought and to buy. What is owned, donated or refunded is shown, not"
            f" counted.{gaps}"
        )
        self.money.show_layout(lambda w, h: share_bars(bars, self.theme.kit, w))

    def _show_panel(self) -> None:
        self.panel.clear()
        concept, wanted = self.store.project.concept, self.store.picked(MassPick).beam
        beam = next((b for b in concept.beams if b.id == wanted), None)
        if beam is not None:
            self._beam_panel(beam)
            return
        item_id = self.store.picked(Selection).item
        item = next((i for i in concept.items if i.id == item_id), None)
        if item is not None:
            self._item_panel(item)
        else:
            column = self.panel.column
            column.addWidget(label("Mass and money", "title"))
            hint = "Select a bar to weigh a part, to see what it is, or to say where."
            column.addWidget(label(hint, "mute", wrap=True))
        findings = [f for f in self.store.assessment.findings if f.subject == "mass"]
        self.finding_cards(findings[:6])
        self._knowledge()
        if item is None:
            self._poses_and_feet()
        self.panel.column.addStretch(1)

    def _item_panel(self, item: Item) -> None:
        """What one weighs, where each is, and what it does in every pose."""
        column, concept = self.panel.column, self.store.project.concept
        column.addWidget(label(item.name, "title", wrap=True))
        said = f"{units.show(item.part.mass_kg, 'kg')} each, {item.count} of them · {item.knowledge}"
        column.addWidget(label(said, "mute", wrap=True))
        column.addWidget(WeighForm(self.store, self.theme, item, self.desk.today))
        column.addWidget(label("Where it is", "heading"))
        copy = self._copy[1] if self._copy[0] == item.id else 0
        column.addWidget(PlaceForm(self.store, self.theme, item, copy, partial(self._pick_copy, item.id)))
        if len(item.places) < item.count:
            lane = next(s for s in concept.subsystems if s.id == item.subsystem)
            column.addWidget(label(f"Else somewhere in the room of {lane.name}", "mute", wrap=True))
            column.addWidget(RoomForm(self.store, self.theme, lane))
        for pose in concept.poses:
            column.addWidget(label(f"In “{pose.name}”", "heading", wrap=True))
            column.addWidget(ShiftForm(self.store, self.theme, pose, item))

    def _knowledge(self) -> None:
        """How much of the mass is known how well."""
        column = self.panel.column
        column.addWidget(label("What is known", "heading"))
        levels = self.store.assessment.of(MASS).by_knowledge
        total = sum(levels.values()) or 1.0
        rows = [(k, levels[k] / total, units.show(levels[k], "kg")) for k in reversed(KNOWLEDGE)]
        chart = Canvas(self.theme, name="What is known of the mass")
        chart.setFixedHeight(self.theme.px(92))
        column.addWidget(chart)
        chart.show_layout(lambda w, h: knowledge_bars(rows, self.theme.kit, w))

    def _poses_and_feet(self) -> None:
        column = self.panel.column
        column.addWidget(label("How it stands at times", "heading"))
        hint = "Poses that modes take: an arm out, a corer down, a hopper full, braking, a shove."
        column.addWidget(label(hint, "mute", wrap=True))
        for pose in self.store.project.concept.poses:
            column.addWidget(label(pose.name, "heading", wrap=True))
            column.addWidget(PoseForm(self.store, self.theme, pose))
        column.addWidget(new_pose_button(self.store, self))
        column.addWidget(label("What it stands on", "heading"))
        column.addWidget(label("Each wheel with a place, and these:", "mute", wrap=True))
        column.addWidget(FeetForm(self.store, self.theme))

    def _beam_panel(self, beam: Beam) -> None:
        column = self.panel.column
        column.addWidget(label(beam.name, "title", wrap=True))
        found = next(r for r in self.store.assessment.of(BEAMS) if r.beam.id == beam.id)
        column.addWidget(label(f"{said(found)}.", "mute", wrap=True))
        about = [f for f in self.store.assessment.findings if f.subject == "mass" and f.of == beam.id]
        self.finding_cards(about)
        column.addWidget(BeamForm(self.store, self.theme, beam))
        column.addStretch(1)

    def _pick_copy(self, item_id: str, copy: int) -> None:
        self._copy = (item_id, copy)
        self._show_panel()
