"""Fields of how it stands at times: which modes take a pose, what pushes, and what each part does in it."""

from functools import partial

from PyQt6.QtWidgets import QPushButton, QWidget

from wired_union import units
from wired_union.project.model import Item, Pose
from wired_union.subjects.mass.pose_edits import add_pose, pose_in_mode, remove_pose, set_pose, shift_part
from wired_union.ui import ask
from wired_union.ui.fields import Choice, EntryField, Form, button, number_reader
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme

PUSHES = (("acceleration_m_s2", "brakes or turns"), ("push_n", "pushed with"), ("push_height_m", "at a height of"))
SHIFTS = (("dx_m", "forward"), ("dy_m", "left"), ("dz_m", "up"))


class PoseForm(Form):
    """What pushes it in a pose, and which modes take that."""

    def __init__(self, store: Store, theme: Theme, pose: Pose) -> None:
        super().__init__(theme)
        self._store, self._pose = store, pose
        self.fields: dict[str, EntryField] = {}
        for name, text in PUSHES:
            field = EntryField(number_reader(units.unit_of(name)), f"{pose.name}: {text}")
            value = getattr(pose, name)
            field.show_text(units.show_named(name, value) if value else "", "nothing")
            field.committed.connect(partial(self._set, name))
            self.fields[name] = field
            self.add(text, field)
        self.add("taken in", self._modes())
        self.add("", button(f"take {pose.name} away", partial(store.attempt, remove_pose, pose.id), kind="link"))

    def _modes(self) -> Choice:
        """The modes that take it, each put in or out by picking it."""
        taken = {m.mode for m in self._pose.modes}
        modes = self._store.project.concept.modes
        said = ", ".join(m.name for m in modes if m.id in taken) or "any mode"
        options = [("", said), *((m.id, f"{'not ' if m.id in taken else ''}in {m.name}") for m in modes)]
        choice = Choice(options, f"{self._pose.name}: modes")
        choice.show_value("")
        choice.picked.connect(lambda mode: mode and self._store.attempt(
            pose_in_mode, self._pose.id, mode, taken=mode not in taken))  # fmt: skip
        return choice

    def _set(self, name: str, value: float) -> None:
        self._store.attempt_or(self.fields[name].complain, set_pose, self._pose.id, **{name: value})


def new_pose_button(store: Store, parent: QWidget) -> QPushButton:
    """Asks for the name of another pose."""

    def ask_name() -> None:
        name, ok = ask.word(parent, "A pose", "How does it stand at times? Then say what moves or pushes.")
        if ok:
            store.attempt(add_pose, name)

    return button("+ a pose", ask_name, kind="link", tip="An arm out, a corer down, a hopper full; braking, a shove")


class ShiftForm(Form):
    """What a part does in a pose: how far it moves, and what each copy weighs."""

    def __init__(self, store: Store, theme: Theme, pose: Pose, item: Item) -> None:
        super().__init__(theme)
        self._store, self._pose, self._item = store, pose.id, item.id
        self.fields: dict[str, EntryField] = {}
        shift = next((s for s in pose.shifts if s.item == item.id), None)
        for name, text in SHIFTS:
            self._add(name, text, getattr(shift, name) if shift is not None else 0.0, "stays")
        self._add("mass_kg", "one weighs", shift.mass_kg if shift is not None else None, "as always")

    def _add(self, name: str, text: str, value: float | None, none: str) -> None:
        field = EntryField(number_reader(units.unit_of(name), empty=name == "mass_kg"), f"{text}, in the pose")
        field.show_text(units.show_named(name, value) if value or (value == 0 and name == "mass_kg") else "", none)
        field.committed.connect(partial(self._set, name))
        self.fields[name] = field
        self.add(text, field)

    def _set(self, name: str, value: float | None) -> None:
        self._store.attempt_or(self.fields[name].complain, shift_part, self._pose, self._item, **{name: value})
