"""Where things are: the drawings that parts are dragged on, and the fields that say it in figures."""

from collections.abc import Callable
from functools import partial

from msgspec.structs import replace
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QVBoxLayout

from wired_union import units
from wired_union.kernel.results import tried
from wired_union.kernel.ripple import ripple
from wired_union.kernel.subject import Selection
from wired_union.project import edits
from wired_union.project.change import Change, find_item
from wired_union.project.meanings import meanings
from wired_union.project.model import Concept, Item, Subsystem
from wired_union.project.value import choices
from wired_union.subjects.mass.balance import BALANCE, Balance
from wired_union.subjects.mass.best_place import best_place
from wired_union.subjects.mass.envelope import ENVELOPE, size_words
from wired_union.subjects.mass.pick import MassPick
from wired_union.subjects.mass.picture_places import MOST_DRAWN, Kept, Pane, PlacesDrawing, Spot, places_drawing
from wired_union.subjects.mass.place_edits import (
    SIDES,
    add_foot,
    forget_places,
    mirror_place,
    move_places,
    remove_foot,
    set_foot,
    set_place,
    set_room,
)
from wired_union.subjects.mass.pose_edits import NOTHING, shift_part
from wired_union.subjects.mass.tipping import pose_words
from wired_union.subjects.mass.view_along import AlongMission
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Choice, EntryField, Form, button, label, number_reader
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme

STEEPEST_DEG = 70.0
"""A steeper ground is no drawing of use."""
GRID_M, NUDGE_M, CATCH_PX = 0.001, 0.005, 6.0
"""Places are whole millimetres; an arrow moves five; the middle catches what comes this near."""
AXES = (("x_m", "Forward"), ("y_m", "Left"), ("z_m", "Up"))


class PlacesCard(QFrame):
    """Three drawings to one scale. What is dragged shows on the strip what that does, before it is let go."""

    def __init__(self, store: Store, theme: Theme) -> None:
        super().__init__()
        self.setObjectName("card")
        self._store, self._theme = store, theme
        self._panes: dict[str, Pane] = {}
        self._parts = Kept()
        self.note = label("", "mute", wrap=True)
        self.pose = Choice([], "Which pose is drawn")
        self.pose.setMinimumWidth(theme.px(180))
        self.ground = Choice([("flat", "on the flat")], "Which ground it is drawn on")
        self.ground.setMinimumWidth(theme.px(150))
        self.ground.picked.connect(self.stand_on)
        self._ground = "flat"
        self.pose.picked.connect(self.take_pose)
        self._pose = ""
        self.canvas = Canvas(theme, name="Where things are: arrows walk, Shift and arrows move")
        self.canvas.chosen.connect(self._chosen)
        self.canvas.shifting.connect(self._shifting)
        self.canvas.shifted.connect(self._shifted)
        self.canvas.nudged.connect(self._nudged)
        box = QVBoxLayout(self)
        box.setContentsMargins(theme.px(14), theme.px(10), theme.px(14), theme.px(10))
        box.setSpacing(theme.px(6))
        head = QHBoxLayout()
        head.addWidget(label("Where it is", "heading"), 1)
        head.addWidget(self.ground)
        head.addWidget(self.pose)
        box.addLayout(head)
        self.along = AlongMission(store, theme, self.take_pose)
        for widget in (self.note, self.canvas, self.along):
            box.addWidget(widget)

    def show_places(self) -> None:
        """Draw what the store holds."""
        poses = self._store.project.concept.poses
        if self._pose not in {p.id for p in poses}:
            self._pose = ""
        self.pose.setVisible(bool(poses))
        self.pose.offer([("", "as it stands"), *((p.id, p.name) for p in poses)])
        self.pose.show_value(self._pose)
        balance = self._store.assessment.of(BALANCE)
        slopes = self._slopes(balance)
        self.ground.offer([(name, text) for name, (text, _) in slopes.items()])
        self._ground = self._ground if self._ground in slopes else "flat"
        self.ground.show_value(self._ground)
        size = size_words(self._store.assessment.of(ENVELOPE))
        size = f"{size[:1].upper()}{size[1:]}." if size else ""
        self.note.setText(f"{_said(balance, self._store.project.concept)} {size}".strip())
        self._draw(balance)
        self.along.show_mission()

    def _slopes(self, balance: Balance) -> dict[str, tuple[str, float]]:
        """The grounds that it can be drawn on: flat, the bank of the limit, and the slope at which it tips."""
        found = {"flat": ("on the flat", 0.0)}
        limit, first = self._store.assessment.measure("tip-angle").limit, balance.worst.first
        if limit is not None and 0 < limit < STEEPEST_DEG:
            found["bank"] = (f"on the bank, {limit:g}°", limit)
        if first is not None and 0 < first.least_deg < STEEPEST_DEG:
            found["tips"] = (f"where it tips, {first.least_deg:.1f}°", first.least_deg)
        return found

    def stand_on(self, ground: str) -> None:
        self._ground = ground
        self.show_places()

    def take_pose(self, pose: str) -> None:
        self._pose = pose
        self.show_places()

    def _draw(self, every: Balance, moving: str = "") -> None:
        drawn = (replace(p.balance, tips=p.tips) for p in every.poses if p.pose.id == self._pose)
        balance = next(drawn, every)
        chosen, slopes = self._store.picked(Selection).item, self._slopes(every)
        slope = slopes.get(self._ground, slopes["flat"])[1]
        self.canvas.show_layout(
            lambda w, h: (
                self._kept(places_drawing(balance, self._theme.kit, w, chosen, self._parts, slope, moving)).picture
            )
        )

    def _kept(self, drawing: PlacesDrawing) -> PlacesDrawing:
        self._panes = drawing.panes
        return drawing

    def _chosen(self, of: object) -> None:
        if isinstance(of, Spot):
            self._store.pick(MassPick())
            self._store.change(Selection, item=of.item)

    def _change(self, of: object, dx_px: float, dy_px: float) -> Change | None:
        """The edit that a drag stands for, to whole millimetres and caught by the middle; None where it is none."""
        pane = self._panes.get(of.pane) if isinstance(of, Spot) else None
        if pane is None or not isinstance(of, Spot):
            return None
        places = find_item(self._store.project, of.item).places
        if of.copy >= len(places):
            return None
        if self._pose:
            return self._shift(of.item, pane.metres(dx_px, dy_px))
        place = places[of.copy]
        new = {}
        for (name, _), way in zip(AXES, pane.metres(dx_px, dy_px), strict=True):
            if way:
                at = round((getattr(place, name) + way) / GRID_M) * GRID_M
                new[name] = 0.0 if name != "z_m" and abs(at) * pane.px_per_m < CATCH_PX else round(at, 6)
        return tried(set_place, self._store.project, of.item, of.copy, **new) if new else None

    def _shift(self, item: str, way: tuple[float, float, float]) -> Change | None:
        """What moves a part in the pose that is drawn, to whole millimetres."""
        pose = next(p for p in self._store.project.concept.poses if p.id == self._pose)
        old = next((s for s in pose.shifts if s.item == item), NOTHING)
        moved = {name: round(round((getattr(old, name) + w) / GRID_M) * GRID_M, 6)
                 for name, w in zip(("dx_m", "dy_m", "dz_m"), way, strict=True) if w}  # fmt: skip
        return tried(shift_part, self._store.project, self._pose, item, **moved) if moved else None

    def _shifting(self, of: object, dx_px: float, dy_px: float) -> None:
        change = self._change(of, dx_px, dy_px)
        if change is not None:
            found = ripple(self._store.assessment, change)
            self._store.show_preview(found)
            panes = self._panes  # the drag is read in the scale that it began in
            self._draw(found.after.of(BALANCE), of.item if isinstance(of, Spot) else "")
            self._panes = panes

    def _shifted(self, of: object, dx_px: float, dy_px: float) -> None:
        change = self._change(of, dx_px, dy_px)
        self._store.show_preview(None)
        if change is not None:
            self._store.apply(change)
        else:
            self.show_places()

    def _nudged(self, of: object, right: int, down: int) -> None:
        pane = self._panes.get(of.pane) if isinstance(of, Spot) else None
        if pane is not None and isinstance(of, Spot):
            way = pane.metres(right * pane.px_per_m, down * pane.px_per_m)
            dx, dy, dz = (NUDGE_M * w for w in way)
            if self._pose:
                if (change := self._shift(of.item, (dx, dy, dz))) is not None:
                    self._store.apply(change)
                return
            self._store.attempt(move_places, of.item, dx, dy, dz, of.copy)


def _said(every: Balance, concept: Concept) -> str:
    if every.lacking:
        return f"Not known yet: {'; '.join(every.lacking)}."
    worst = every.worst
    balance, first, centre = worst.balance, worst.first, worst.balance.centre
    if first is None or centre is None:
        return ""
    high = units.show(centre[2] - balance.floor_m, "m")
    tips = f"tips at {first.least_deg:.1f}° {first.way}{pose_words(concept, worst.pose)} first"
    placed = len(balance.lumps)
    few = f" The {MOST_DRAWN} heaviest of {placed} are drawn." if placed > MOST_DRAWN else ""
    return f"Centre of mass {high} high; {tips}. Point at a part for its name, drag it to see what that does.{few}"


class PlaceForm(Form):
    """Where one copy of a part is, in figures."""

    def __init__(self, store: Store, theme: Theme, item: Item, copy: int, pick: Callable[[int], None]) -> None:
        super().__init__(theme)
        self._store, self._item = store, item
        self.fields: dict[str, EntryField] = {}
        if item.count > 1:
            options = [(str(n), f"{n + 1} of {item.count}") for n in range(min(item.count, len(item.places) + 1))]
            self.choice = Choice(options, "Which copy")
            self.choice.show_value(str(copy))
            self.choice.picked.connect(lambda value: pick(int(value)))
            self.add("Which", self.choice)
        place = item.places[copy] if copy < len(item.places) else None
        for name, text in (*AXES, ("turn_deg", "Turned"), ("tilt_deg", "Tilted")):
            field = EntryField(number_reader(units.unit_of(name)), f"{text}, {item.name}")
            field.show_text("" if place is None else units.show_named(name, getattr(place, name)), "not known")
            field.committed.connect(partial(self._set, copy, name))
            self.fields[name] = field
            self.add(text, field)
        fills = Choice([(w, w) for w in choices(Item, "fills")], f"{item.name}: fills")
        fills.show_value(item.fills)
        fills.picked.connect(lambda v: store.attempt(edits.set_fills, item.id, v))
        self.add("Fills", fills, meanings(Item)["fills"])
        if item.count > 1 and 0 < len(item.places) < item.count:
            self.add("", button("mirror to the other side", lambda: store.attempt(mirror_place, item.id), kind="link"))
        if item.places and item.count == 1 and item.part.wheel is None:
            best = button("put it where it stands best", lambda: store.attempt(best_place, item.id), kind="link",
                          tip="Searches the free space for where the machine tips last")  # fmt: skip
            self.add("", best)
        if item.places:
            self.add("", button("forget where it is", lambda: store.attempt(forget_places, item.id), kind="link"))

    def _set(self, copy: int, name: str, value: float) -> None:
        self._store.attempt_or(self.fields[name].complain, set_place, self._item.id, copy, **{name: value})


class RoomForm(Form):
    """The box in which the parts of a subsystem are that have no place yet."""

    def __init__(self, store: Store, theme: Theme, lane: Subsystem) -> None:
        super().__init__(theme)
        self._store, self._lane = store, lane
        self.fields: dict[str, EntryField] = {}
        for side, text in zip(
            SIDES, ("forward from", "forward to", "left from", "left to", "up from", "up to"), strict=True
        ):
            field = EntryField(number_reader("m"), f"{units.plain_words(side)} of the room of {lane.name}")
            field.show_text("" if lane.room is None else units.show(getattr(lane.room, side), "m"), "not known")
            field.committed.connect(partial(self._set, side))
            self.fields[side] = field
            self.add(text, field)
        if lane.room is not None:
            self.add("", button("no room of its own", self._forget, kind="link"))

    def _set(self, side: str, value: float) -> None:
        self._store.attempt_or(self.fields[side].complain, set_room, self._lane.id, **{side: value})

    def _forget(self) -> None:
        self._store.attempt(set_room, self._lane.id, **dict.fromkeys(SIDES))


class FeetForm(Form):
    """What it stands on besides wheels."""

    def __init__(self, store: Store, theme: Theme) -> None:
        super().__init__(theme)
        for foot in store.project.concept.feet:
            for name, text in AXES[:2]:
                field = EntryField(number_reader("m"), f"{text}, {foot.name}")
                field.show_text(units.show(getattr(foot, name), "m"))
                field.committed.connect(lambda v, n=name, f=foot.id: store.attempt(set_foot, f, **{n: v}))
                self.add(f"{foot.name}, {text.lower()}", field)
            self.add("", button(f"take {foot.name} away", partial(store.attempt, remove_foot, foot.id), kind="link"))
        self.add("Legs, skids, corners", button("+ a foot", partial(self._ask, store), kind="link"))

    def _ask(self, store: Store) -> None:
        name, ok = ask.word(self, "A foot", "What does it stand on? Then say where.")
        if ok:
            store.attempt(add_foot, name, 0.0, 0.0)
