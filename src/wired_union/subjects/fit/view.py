"""Fit and sight: what sensors see, what touches, what must stay free, how high stacks are."""

from collections.abc import Callable
from functools import partial
from typing import Any

from PyQt6.QtWidgets import QMenu, QPushButton, QVBoxLayout, QWidget

from wired_union.project.fit_model import Stack
from wired_union.project.value import Value
from wired_union.subjects.fit import edits
from wired_union.subjects.fit.boxes import FITTING, Access, Fitting
from wired_union.subjects.fit.pick import FitPick
from wired_union.subjects.fit.picture import beams_picture, said, sees_picture, stacks_picture
from wired_union.subjects.fit.sights import SEEN, SightResult, floor_of
from wired_union.subjects.fit.stacks import STACKS
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Choice, EntryField, Form, button, empty, label, number_reader, wrapped
from wired_union.ui.value_form import ValueForm
from wired_union.ui.view import Desk, View, card
from wired_union.units import show

SEES_H, STACKS_H, MOST_PAIRS, LINE = 300.0, 190.0, 8, 420.0
EDITS = {"sights": (edits.set_sight, edits.remove_sight), "stacks": (edits.set_stack, edits.remove_stack),
         "beam_rows": (edits.set_beams, edits.remove_beams),
         "clearances": (edits.set_clearance, edits.remove_clearance)}  # fmt: skip
WORDS = {
    "item": "the part", "wide_deg": "wide", "high_deg": "high", "least_m": "sees from", "most_m": "sees to",
    "from_m": "must find from", "to_m": "must find to", "pixels_wide": "pixels across", "yaw_deg": "looks left by",
    "pitch_deg": "looks up by", "sweep_deg": "sweeps", "sweep_s": "one sweep takes",
    "readings_per_s": "readings a second",
    "pixels_needed": "pixels on a thing", "smallest_m": "smallest thing", "aimed_deg": "aimed to",
    "upright_m": "upright, it is", "flat_m": "flat, it is", "depth_m": "free for", "access": "must get there",
    "tube_m": "inside of the tube", "high_m": "may be high",
    "lowest_m": "lowest beam at", "across_m": "from end to end", "pitch_m": "apart",
    "beam_m": "beam is", "receiver_m": "receiver is", "beams": "beams",
}  # fmt: skip
BESIDE = {"front": "before", "back": "behind", "left": "left of", "right": "right of"}
EMPTIES = {"depth_m": "as usual", "pixels_wide": "one spot"}


class FitView(View):
    stage, title = "fit", "Fit and sight"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.subtitle.setText("what sensors see, what touches, what must stay free")
        self.sees = Canvas(self.theme, name="What sensors see", tall=False)
        self.sees.chosen.connect(partial(self._choose, "sights"))
        self._sees_note = label("", "mute", wrap=True)
        self.column.addWidget(
            card(self.theme, label("What it sees", "heading"), self._sees_note, self.sees,
                 button("+ a sensor that looks", self._add_sight, kind="link"))
        )  # fmt: skip
        self._touch_note, self._touching = label("", "mute", wrap=True), QVBoxLayout()
        self._touching.setSpacing(0)
        self._touching.setContentsMargins(0, 0, 0, 0)
        inside = QWidget()
        inside.setLayout(self._touching)
        self.column.addWidget(
            card(self.theme, label("What touches, and what must stay free", "heading"), self._touch_note, inside,
                 button("+ room that must stay free", self._add_clearance, kind="link"))
        )  # fmt: skip
        self.stacks = Canvas(self.theme, name="Stacks", tall=False)
        self.stacks.chosen.connect(partial(self._choose, "stacks"))
        self.beams = Canvas(self.theme, name="Rows of beams")
        self.beams.chosen.connect(partial(self._choose, "beam_rows"))
        for title, canvas, add in (("Stacks", self.stacks, ("+ a stack", self._add_stack)),
                                   ("Rows of beams", self.beams, ("+ a row of beams", self._add_beams))):  # fmt: skip
            self.column.addWidget(card(self.theme, label(title, "heading"), canvas, button(*add, kind="link")))
        self.column.addStretch(1)

    def refresh(self) -> None:
        fitting, seen, picked = self.store.assessment.of(FITTING), self.store.assessment.of(SEEN), self._picked
        concept, kit = self.store.project.concept, self.theme.kit
        looking = any(r.look is not None for r in seen.sights)
        self.sees.setFixedHeight(self.theme.px(SEES_H if looking else 26))
        floor = floor_of(concept)
        self.sees.show_layout(lambda w, h: sees_picture(seen, fitting.placed, floor, kit, w, h, picked.id))
        lost = [r.sight.name for r in seen.sights if r.look is None]
        self._sees_note.setText(
            f"Not drawn, since the sensor has no place: {', '.join(lost)}." if lost else
            "To scale; dashed is where it must begin to find things, the far arc where it may stop."
        )  # fmt: skip
        self._show_touching(fitting)
        stacks = self.store.assessment.of(STACKS)
        self.stacks.setFixedHeight(self.theme.px(STACKS_H if any(s.slices for s in stacks) else 26))
        self.stacks.show_layout(lambda w, h: stacks_picture(stacks, kit, w, h, picked.id))
        self.beams.show_layout(lambda w, h: beams_picture(seen.rows, kit, w, picked.id))
        self._show_panel()

    @property
    def _picked(self) -> FitPick:
        return self.store.picked(FitPick)

    def _choose(self, room: str, of: object) -> None:
        self.store.pick(FitPick(room, str(of)))

    def _show_touching(self, fitting: Fitting) -> None:
        empty(self._touching)
        parts, known = len(self.store.project.concept.items), len({p.item.id for p in fitting.placed})
        lacking = fitting.unplaced
        without = f" Not looked at, since place or size lacks: {', '.join(lacking[:4])}" if lacking else ""
        without += f" and {len(lacking) - 4} more." if len(lacking) > 4 else "." if without else ""
        pairs = len(fitting.overlaps)
        told = f"{pairs} pairs may touch" if pairs != 1 else "one pair may touch"
        self._touch_note.setText(
            f"{known} of {parts} parts have a place and a size; {told}, counted as boxes.{without}"
        )
        for x in fitting.overlaps[:MOST_PAIRS]:
            when = f", in “{x.pose}”" if x.pose else ""
            words = f"{x.one.name} and {x.other.name}: {show(x.deep_m, 'm')} into each other{when}"
            self._touching.addWidget(self._link(words, partial(self.desk.go_to_item, x.one.item.id)))
        for a in fitting.accesses:
            words = f"{a.clearance.access} {_where(a)}, {show(a.depth_m, 'm')}: {_state(a)}"
            choose = partial(self._choose, "clearances", a.clearance.id)
            self._touching.addWidget(self._link(words[:1].upper() + words[1:], choose))

    def _link(self, words: str, done: Callable[[], object]) -> QPushButton:
        return button(wrapped(words, self.theme, LINE), done, kind="link")

    # the panel

    def _show_panel(self) -> None:
        self.panel.clear()
        picked, column = self._picked, self.panel.column
        listed = getattr(self.store.project.concept, picked.room or "sights")
        value = next((x for x in listed if x.id == picked.id), None)
        if value is None:
            column.addWidget(label("Fit and sight", "title"))
            hint = "Select a view, a stack, a row of beams or a clearance to say what it is."
            column.addWidget(label(hint, "mute", wrap=True))
        else:
            self._value_panel(picked.room, value)
        about = [f for f in self.store.assessment.findings if f.subject == "fit"]
        self.finding_cards([f for f in about if value is None or f.of == picked.id][:6])
        column.addStretch(1)

    def _value_panel(self, room: str, value: Any) -> None:
        column = self.panel.column
        items = {i.id: i.name for i in self.store.project.concept.items}
        name = getattr(value, "name", "") or f"{value.access} at {items[value.item]}"
        column.addWidget(label(name, "title", wrap=True))
        if room == "sights":
            result = next(r for r in self.store.assessment.of(SEEN).sights if r.sight.id == value.id)
            for line in sight_lines(result):
                column.addWidget(label(line, "mute", wrap=True))
            self._pair_lines(value.id)
        form = ValueForm(self.theme, self.store, value, name, partial(self._set, room, value), words=WORDS,
                         skip={"layers"}, empties=EMPTIES)  # fmt: skip
        column.addWidget(form)
        if isinstance(value, Stack):
            self._layers(value)
        remove = EDITS[room][1]
        away = partial(self.store.attempt, remove, value_id=value.id)
        column.addWidget(button(f"take {name} away", away, kind="link"))

    def _set(self, room: str, value: Value, complain: Any, field: str, new: Any) -> None:
        set_it = EDITS[room][0]
        self.store.attempt_or(complain, set_it, value_id=value.id, **{field: new})  # type: ignore[attr-defined]

    def _pair_lines(self, sight_id: str) -> None:
        """How its picture overlaps with the next."""
        for p in self.store.assessment.of(SEEN).pairs:
            if sight_id in {p.one.id, p.other.id}:
                other = p.other if p.one.id == sight_id else p.one
                words = f"With {other.name}: far away they {_meet(p.far_m)}, near they {_meet(p.near_m)}."
                self.panel.column.addWidget(label(words, "mute", wrap=True))

    def _layers(self, stack: Stack) -> None:
        """Every layer from the top, its copies and spacer; one more."""
        column, items = self.panel.column, {i.id: i for i in self.store.project.concept.items}
        column.addWidget(label("Layers, from the top", "heading"))
        form = Form(self.theme)
        for layer in reversed(stack.layers):
            name = items[layer.item].name
            for field, text, unit in (("copies", f"{name}, copies", ""), ("spacer_m", "spacer above each", "m")):
                entry = EntryField(number_reader(unit, whole=not unit), f"{name}: {text}")
                entry.show_text(show(getattr(layer, field), unit) if unit else str(layer.copies))
                entry.committed.connect(partial(self._set_layer, entry, stack.id, layer.item, field))
                form.add(text, entry, "0 takes it out" if field == "copies" else "")
        lying = {x.item for x in stack.layers}
        others = [(i.id, i.name) for i in items.values() if i.id not in lying]
        choice = Choice([("", "choose a part"), *others], "lay on top")
        choice.picked.connect(lambda v: v and self.store.attempt(edits.lay, stack.id, v))
        form.add("lay on top", choice)
        column.addWidget(form)

    def _set_layer(self, entry: EntryField, stack_id: str, item_id: str, field: str, value: float) -> None:
        new = int(value) if field == "copies" else value
        self.store.attempt_or(entry.complain, edits.set_layer, stack_id, item_id, **{field: new})

    # adding

    def _add(self, room: str, title: str, hint: str, edit: Any) -> None:
        name, meant = ask.word(self, title, hint)
        if meant and self.store.attempt(edit, name=name):
            self._choose(room, getattr(self.store.project.concept, room)[-1].id)

    def _add_sight(self) -> None:
        self._add("sights", "A sensor that looks", "What is it called? “Front sonar”, “Eye”", edits.add_sight)

    def _add_stack(self) -> None:
        self._add("stacks", "A stack", "What is it called? “Boards in the lid”, “Core of the tube”", edits.add_stack)

    def _add_beams(self) -> None:
        self._add("beam_rows", "A row of beams", "What is it called? “Gate at the slide”", edits.add_beams)

    def _add_clearance(self) -> None:
        menu = QMenu(self)
        for item in self.store.project.concept.items:
            menu.addAction(item.name, partial(self._take_clearance, item.id))
        menu.popup(self.cursor().pos())

    def _take_clearance(self, item_id: str) -> None:
        if self.store.attempt(edits.add_clearance, item_id):
            self._choose("clearances", self.store.project.concept.clearances[-1].id)


def _where(a: Access) -> str:
    side = a.clearance.side
    return f"{side} {a.item.name}" if side in {"above", "below"} else f"{BESIDE[side]} {a.item.name}"


def _state(a: Access) -> str:
    if a.blocked:
        return f"in the way: {', '.join(n for n, _ in a.blocked)}"
    return "not known" if a.missing else "free"


def _meet(overlap_m: float) -> str:
    return f"overlap {show(overlap_m, 'm')}" if overlap_m > 0 else f"leave {show(-overlap_m, 'm')} between"


def sight_lines(r: SightResult) -> list[str]:
    """What is seen, a sentence each."""
    lines = [f"{said(r)}; {show(r.nearest_m, 'm')} where it must begin."]
    if r.ground is not None and r.ground.near_m is not None:
        far = "the horizon" if r.ground.far_m is None else show(r.ground.far_m, "m")
        lines.append(f"Sees the ground from {show(r.ground.near_m, 'm')} before it to {far}.")
    if r.blind_m is not None and r.blind_m > 0:
        lines.append(f"Blind on the ground for {show(r.blind_m, 'm')} before the machine.")
    if r.swept is not None:
        step = f", {show(r.swept.step_deg, '°')} from reading to reading" if r.swept.step_deg is not None else ""
        lines.append(f"A sweep covers {show(r.swept.covers_deg, '°')}{step}.")
    if r.hidden:
        lines.append("Hidden: " + ", ".join(f"{show(s, fraction=True)} behind {n}" for n, s in r.hidden[:3]) + ".")
    if r.missing:
        lines.append(f"Not known yet: {'; '.join(r.missing)}.")
    return lines
