"""The panel of the Candidates view: the candidate that is picked, and what the slot asks."""

from collections.abc import Callable
from functools import partial
from typing import Any

from wired_union import units
from wired_union.catalogue.parts import DISCIPLINE_OF, catalogue
from wired_union.choose.alternatives import Alternative
from wired_union.choose.candidates import candidates
from wired_union.project import edits
from wired_union.project.meanings import meanings
from wired_union.project.model import Item, Need, Requires
from wired_union.project.slot_edits import requirement_words
from wired_union.project.value import named_values
from wired_union.ui.canvas import PictureButton
from wired_union.ui.fields import Choice, EntryField, Form, button, label, number_reader, wrapped
from wired_union.ui.findings import ChangeButton, as_concept_button
from wired_union.ui.tries import try_picture
from wired_union.ui.view import View

BUSES = ("I2C", "SPI", "UART", "PWM", "analogue", "digital", "USB", "CSI", "CAN")
# which requirements make sense for which facet, beside those that always do
_ALWAYS = ("most_mass_kg", "most_price", "most_length_m", "most_width_m", "most_height_m", "coldest_c", "hottest_c",
           "most_delivery_days")  # fmt: skip
_OF_FACET = {
    "motor": ("least_torque_n_m", "least_speed_rad_s"), "flywheel": ("least_torque_n_m", "least_speed_rad_s"),
    "thrust": ("least_force_n", "least_stroke_m"), "spring": ("least_force_n", "least_stroke_m"),
    "wheel": ("least_diameter_m",), "canopy": ("least_diameter_m",), "pack": ("least_energy_wh", "least_output_a"),
    "supply": ("least_output_a",), "regulator": ("least_output_a",), "driver": ("least_output_a",),
    "rail": ("least_output_a",),
    "load": ("supply_v", "most_current_a"), "link": ("bus", "logic_v"),
    "sense": ("quantity", "range_low", "range_high", "most_error"),
}  # fmt: skip


class SlotPanel:
    """Fills the panel of a view for one slot."""

    def __init__(self, view: View, take: Callable[[Alternative], None]) -> None:
        self._view, self._take = view, take

    def show_slot(self, slot: Item | Need | None, picked: Alternative | None) -> None:
        view = self._view
        if view.panel.isAncestorOf(view.focusWidget()) and picked is None and self._shown == (slot, None):
            return
        self._shown = (slot, picked)
        view.panel.clear()
        column = view.panel.column
        if slot is None:
            column.addWidget(label("Candidates", "title"))
            column.addWidget(label("A slot is a part's place, or something looked for.", "mute", wrap=True))
            column.addStretch(1)
            return
        column.addWidget(label(slot.name, "title", wrap=True))
        state = "looked for; no part yet" if isinstance(slot, Need) else f"{slot.part.name} is in place"
        column.addWidget(label(state, "mute", wrap=True))
        if picked is not None:
            self._candidate(picked)
        else:
            hint = "Point at a candidate to see on the strip where it lands; choose it to keep it here."
            column.addWidget(label(hint, "mute", wrap=True))
        self._moves(slot)
        column.addWidget(label("What this place asks", "heading"))
        column.addWidget(self._form(slot))
        if isinstance(slot, Need):
            self._need_fields(slot)
        column.addStretch(1)

    _shown: tuple[object, object] = (None, None)

    def _candidate(self, picked: Alternative) -> None:
        view, theme = self._view, self._view.theme
        column = view.panel.column
        picture = PictureButton(theme)
        picture.show_picture(try_picture(picked, theme.kit, view.panel_width(), lit=True), f"Candidate {picked.title}")
        picture.clicked.connect(partial(self._take, picked))
        corner = as_concept_button(picked.change, view.store, view.desk.try_as)
        corner.setParent(picture)
        corner.move(round(view.panel_width()) - theme.px(38), theme.px(3))
        column.addWidget(picture)
        for text in picked.breaks[1:4]:
            column.addWidget(label(f"also: {text}", "error", wrap=True))
        if picked.candidate is not None and picked.candidate.part.delivery_days is not None:
            days = units.show(picked.candidate.part.delivery_days, "days")
            where = picked.candidate.shelf_words or f"from the {picked.candidate.where}, delivered in {days}"
            column.addWidget(label(where, "mute", wrap=True))
        column.addWidget(
            button("Take it", partial(self._take, picked), kind="main", tip="Enter on it again does the same")
        )

    def _moves(self, slot: Item | Need) -> None:
        """How far each requirement must move for the next candidate."""
        view = self._view
        moves = candidates(view.store.assessment, slot.id).moves
        if not moves:
            return
        column = view.panel.column
        column.addWidget(label("What keeps the next one out", "heading"))
        for move in moves[:3]:
            field = move.requirement
            if isinstance(getattr(Requires(), field, None), str) or field not in meanings(Requires):
                column.addWidget(label(move.text, "mute", wrap=True))
                continue
            change = edits.set_requirement(view.store.project, slot.id, field, move.to)
            made = ChangeButton(wrapped(f"→ {move.text}", view.theme), change, view.store)
            made.setToolTip("Ask that much instead")
            column.addWidget(made)

    def _fields(self, slot: Item | Need) -> list[str]:
        """Requirements to offer: those set, those of the slot's facets, and those that always make sense."""
        offered: list[str] = [n for n, v in named_values(slot.requires) if v is not None]
        if isinstance(slot, Item):
            facets = [f for f in _OF_FACET if getattr(slot.part, f) is not None]
        else:
            facets = ["sense", "link", "load"]
        offered += [n for f in facets for n in _OF_FACET[f]]
        return list(dict.fromkeys([*offered, *_ALWAYS]))

    def _form(self, slot: Item | Need) -> Form:
        form = Form(self._view.theme)
        for name in self._fields(slot):
            meaning = meanings(Requires)[name]
            if name == "bus":
                choice = Choice([("", "any"), *((b, b) for b in BUSES)], "bus")
                choice.show_value(slot.requires.bus or "")
                choice.picked.connect(
                    lambda v: self._view.store.attempt(edits.set_requirement, slot.id, "bus", v or None)
                )
                form.add("bus", choice, meaning)
                continue
            unit = _unit(name, slot, self._view.store.project.brief.currency)
            field = EntryField(self._reader(name, unit), requirement_words(name))
            field.show_text(_shown(name, getattr(slot.requires, name), unit), "anything")
            field.committed.connect(partial(self._set, field, slot.id, name))
            form.add(requirement_words(name), field, meaning)
        return form

    def _reader(self, name: str, unit: str) -> Callable[[str], Any]:
        if name == "quantity":
            return lambda text: text.strip() or None
        if units.unit_of(name):
            return number_reader(unit, empty=True)
        plain = number_reader("", empty=True)
        return lambda text: plain(text.strip().removesuffix(unit).strip() if unit else text)

    def _set(self, field: EntryField, slot_id: str, name: str, value: object) -> None:
        self._view.store.attempt_or(field.complain, edits.set_requirement, slot_id, name, value)

    def _need_fields(self, need: Need) -> None:
        view = self._view
        store, column = view.store, view.panel.column
        column.addWidget(label("What is looked for", "heading"))
        form = Form(view.theme)
        name = EntryField(str.strip, "Name")
        name.show_text(need.name)
        name.committed.connect(lambda v: store.attempt_or(name.complain, edits.set_need, need.id, name=v))
        form.add("Called", name)
        lane = Choice([(s.id, s.name) for s in store.project.concept.subsystems], "Subsystem")
        lane.show_value(need.subsystem)
        lane.picked.connect(lambda v: store.attempt(edits.set_need, need.id, subsystem=v))
        form.add("Subsystem", lane)
        count = EntryField(number_reader("", whole=True), "How many")
        count.show_text(str(need.count))
        count.committed.connect(lambda v: store.attempt_or(count.complain, edits.set_need, need.id, count=int(v)))
        form.add("How many", count)
        kinds = Choice([("", "any class"), *((k, k) for k in sorted(DISCIPLINE_OF))], "Class")
        kinds.show_value(need.kinds[0] if len(need.kinds) == 1 else "")
        kinds.picked.connect(lambda v: store.attempt(edits.set_need, need.id, kinds=(v,) if v else ()))
        form.add("Class", kinds, "One class, or any")
        column.addWidget(form)
        column.addWidget(button("Look for it no longer", lambda: store.attempt(edits.remove_need, need.id)))


def _unit(name: str, slot: Item | Need, money: str) -> str:
    """The unit of a requirement; a range and an error are in the unit that sensors of that quantity have."""
    quantity = slot.requires.quantity
    if name not in {"range_low", "range_high", "most_error"} or not quantity:
        return units.unit_of(name, money)
    told = (p.sense.unit for p in catalogue() if p.sense is not None and p.sense.quantity == quantity)
    return next(told, "")


def _shown(name: str, value: object, unit: str) -> str:
    if value is None:
        return ""
    if not isinstance(value, float | int):
        return str(value)
    return units.show(value, unit) if unit else units.show_named(name, value)
