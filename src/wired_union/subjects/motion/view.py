"""Motion: what must move, drawn to scale, against what moves it."""

from functools import partial

from PyQt6.QtWidgets import QHBoxLayout, QMenu, QVBoxLayout, QWidget

from wired_union import units
from wired_union.kernel.results import Verdict, measure_id, tried
from wired_union.kernel.ripple import Ripple, ripple
from wired_union.kernel.subject import Assessment
from wired_union.picture.shapes import Picture
from wired_union.project.change import Change
from wired_union.project.model import Mount, WheelLoad
from wired_union.subjects.mass.gives import MASS
from wired_union.subjects.motion import edits
from wired_union.subjects.motion.assess import MOTION
from wired_union.subjects.motion.gears import Gear, matched_ratio, other_ratios
from wired_union.subjects.motion.kinds.every import every_kind, kind_of, named_kind
from wired_union.subjects.motion.pick import MotionPick
from wired_union.subjects.motion.picture import drawing, load_card
from wired_union.subjects.motion.picture_motor import motor_chart, spiral_picture, spiral_words
from wired_union.subjects.motion.picture_shakes import shakes_picture
from wired_union.subjects.motion.results import LoadResult
from wired_union.subjects.motion.spiral import spiral
from wired_union.subjects.motion.view_forms import load_form, mount_form, room_form
from wired_union.subjects.power.gives import DRIVER_CHECKS, POWER
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas, PictureButton
from wired_union.ui.fields import button, empty, label
from wired_union.ui.findings import ChangeButton, as_concept_button
from wired_union.ui.prose import Paragraph, Prose
from wired_union.ui.slider import FigureSlider
from wired_union.ui.view import Desk, View, card
from wired_union.units import show

LIST_W, DRAW_H, CHART_H, SPIRAL_H = 190.0, 214.0, 270.0, 92.0


class MotionView(View):
    stage, title = "motion", "Motion"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.subtitle.setText("what must move, and what moves it")
        self.cards: dict[str, PictureButton] = {}
        self._list = QVBoxLayout()
        self._list.setSpacing(self.theme.px(8))
        self.drawn = Canvas(self.theme, name="The load, to scale", tall=False)
        self.drawn.setFixedHeight(self.theme.px(DRAW_H))
        self._rows = QVBoxLayout()
        self.chart = Canvas(self.theme, name="The motor under its load", tall=False)
        self.chart.setFixedHeight(self.theme.px(CHART_H))
        self.spiral = Canvas(self.theme, name="The spiral", tall=False)
        self.spiral.setFixedHeight(self.theme.px(SPIRAL_H))
        self._spiral_words = label("", "mute", wrap=True)
        self.shakes = Canvas(self.theme, name="What turns against what swings")
        self.shakes.chosen.connect(lambda mount: self.store.change(MotionPick, mount=mount))
        self._title, self._chart_title, self._chart_note = label("", "heading"), label("", "heading"), label("", "mute")
        self._driven = QWidget()
        self._sliders = QVBoxLayout()
        self.sliders: dict[str, FigureSlider] = {}
        self._sliders_for: tuple[str, ...] = ()
        self._dragged: Ripple | None = None
        self._lay_out()

    def _lay_out(self) -> None:
        side = QWidget()
        left = QVBoxLayout(side)
        left.setContentsMargins(0, 0, 0, 0)
        left.addLayout(self._list)
        left.addWidget(button("+ something to move", self._offer_kinds, kind="link"))
        self._spiral_card = card(self.theme, label("The spiral", "heading"), self._spiral_words, self.spiral)
        left.addWidget(self._spiral_card)
        left.addStretch(1)
        body = QWidget()
        figures = QWidget()
        figures.setMinimumWidth(self.theme.px(226))
        column = QVBoxLayout(figures)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(self.theme.px(2))
        column.addLayout(self._rows)
        switch = QHBoxLayout(self._driven)
        switch.setContentsMargins(0, self.theme.px(6), 0, 0)
        column.addWidget(self._driven)
        column.addStretch(1)
        self.flow(self.drawn, figures, wide=self.drawn, least=760.0, parent=body)
        main = QWidget()
        right = QVBoxLayout(main)
        right.setContentsMargins(0, 0, 0, 0)
        right.setSpacing(self.theme.px(8))
        top = card(self.theme, self._title, body)
        below = top.layout()
        assert isinstance(below, QVBoxLayout)
        below.addLayout(self._sliders)
        right.addWidget(top)
        self._chart_card = card(self.theme, self._chart_title, self._chart_note, self.chart)
        right.addWidget(self._chart_card)
        swing = button("+ something that can swing", self._add_mount, kind="link")
        right.addWidget(card(self.theme, label("What turns, what swings", "heading"), self.shakes, swing))
        right.addStretch(1)
        self.column.addLayout(self.flow(side, main, wide=main, least=560.0, beside_w=LIST_W))
        self.column.addStretch(1)

    # what is selected

    @property
    def result(self) -> LoadResult | None:
        """The load on show: the one selected, else the first."""
        loads = self.store.assessment.of(MOTION).loads
        wanted = self.store.picked(MotionPick).load
        return next((r for r in loads if r.load.id == wanted), loads[0] if loads else None)

    def _choose(self, load_id: str) -> None:
        self.store.pick(MotionPick(load=load_id))

    # showing

    def refresh(self) -> None:
        assessment, kit = self.store.assessment, self.theme.kit
        loads = assessment.of(MOTION).loads
        if list(self.cards) != [r.load.id for r in loads]:
            self._rebuild(loads)
        here = self.result
        for r in loads:
            chosen = here is not None and r.load.id == here.load.id
            said = f"{r.load.name}, {kind_of(r.load).words}, {r.verdict.value}"
            self.cards[r.load.id].show_picture(load_card(r, kit, self.theme.px(LIST_W), selected=chosen), said)
        self._show_load(here)
        self._show_sliders(here)
        self._show_spiral(here, assessment)
        shakes = assessment.of(MOTION).shakes
        self.shakes.show_layout(lambda w, h: shakes_picture(shakes, kit, w))
        self._show_panel(here)

    def _rebuild(self, loads: tuple[LoadResult, ...]) -> None:
        empty(self._list)
        self.cards = {}
        for r in loads:
            made = PictureButton(self.theme)
            made.clicked.connect(partial(self._choose, r.load.id))
            self.cards[r.load.id] = made
            self._list.addWidget(made)

    def _show_load(self, r: LoadResult | None) -> None:
        kit = self.theme.kit
        empty(self._rows)
        layout = self._driven.layout()
        assert layout is not None
        empty(layout)
        self._chart_card.setVisible(r is not None and r.drive is not None)
        if r is None:
            self._title.setText("Nothing has to move yet")
            hint = kit.words(
                0, 14, "Say what must move: wheels on a slope, an arm, a screw, a spring …", "small", "mute"
            )
            self.drawn.show_layout(lambda w, h: Picture(w, h, (hint,)))
            return
        kind = kind_of(r.load)
        self._title.setText(f"{r.load.name}: {kind.words}, {kind.shown}")
        self.draw(r)
        for row in r.rows:
            ink = f"{row.tone}_text" if row.tone else "ink"
            told = Paragraph(row.name, "mute", "small", beside=row.text, beside_ink=ink, figures=True)
            self._rows.addWidget(Prose(self.theme, [told]))
        for note in r.notes[:2]:
            self._rows.addWidget(label(note, "mute", wrap=True))
        if isinstance(r.load, WheelLoad):
            self._show_switch(r.load)
        if r.drive is not None:
            self._chart_title.setText(r.drive.item.part.name)
            sag, usual = show(r.drive.sag_v, "V"), show(r.drive.nominal_v, "V")
            self._chart_note.setText(f"at the {usual} it gets and, dashed, at the {sag} it sags to")

    def _show_sliders(self, r: LoadResult | None) -> None:
        """What is asked, to drag: the drawing, the chart and the rings follow while the hand moves."""
        wanted = _slid(r) if r is not None else {}
        shape = (r.load.id if r is not None else "", *wanted)
        if shape != self._sliders_for:
            self._sliders_for = shape
            empty(self._sliders)
            self.sliders = {}
            for name, most in wanted.items():
                made = FigureSlider(self.theme, units.plain_words(name), units.unit_of(name), most)
                made.moved.connect(partial(self._dragging, name))
                made.let_go.connect(partial(self._let_go, name))
                self.sliders[name] = made
                self._sliders.addWidget(made)
        for name, slider in self.sliders.items():
            if r is not None:
                slider.show_value(float(getattr(r.load, name) or 0.0))

    def _change(self, name: str, value: float) -> Change | None:
        r = self.result
        return tried(edits.set_load, self.store.project, r.load.id, **{name: value}) if r is not None else None

    def _dragging(self, name: str, value: float) -> None:
        change = self._change(name, value)
        if change is None:
            return
        self._dragged = ripple(self.store.assessment, change)
        self.store.show_preview(self._dragged)
        r = self.result
        shown = self._dragged.after.of(MOTION).of(r.load.id) if r is not None else None
        if shown is not None:
            self.draw(shown)

    def draw(self, r: LoadResult) -> None:
        """Draw a load and its motor, as it is or as it would be."""
        kit = self.theme.kit
        self.drawn.show_layout(lambda w, h: drawing(r, kit, w, h))
        if r.drive is not None:
            self.chart.show_layout(lambda w, h: motor_chart(r, kit, w, h))

    def _let_go(self, name: str, value: float) -> None:
        self._dragged = None
        change = self._change(name, value)
        if change is not None:
            self.store.apply(change)
        elif self.result is not None:
            self.store.attempt(edits.set_load, self.result.load.id, **{name: value})
            self.refresh()

    def _show_switch(self, load: WheelLoad) -> None:
        """Two motors or four: each driven wheel has one."""
        layout = self._driven.layout()
        assert layout is not None
        for count, words in ((2, "two driven"), (4, "four driven")):
            if load.driven_wheels == count or not load.actuator:
                made = button(words, lambda: None, kind="mode")
                made.setCheckable(True)
                made.setChecked(load.driven_wheels == count)
                layout.addWidget(made)
            else:
                change = edits.drive_wheels(self.store.project, load.id, count)
                layout.addWidget(ChangeButton(words, change, self.store, "mode"))

    def _show_spiral(self, r: LoadResult | None, assessment: Assessment) -> None:
        kit, limit = self.theme.kit, self.store.project.brief.limit("runtime")
        wanted = limit.value if limit is not None else assessment.measure("runtime").value
        found = None
        if r is not None and kind_of(r.load).carries_all:
            found = spiral(self.store.project.concept, r, assessment.of(MASS), assessment.of(POWER), wanted)
        self._spiral_card.setVisible(found is not None)
        if found is not None:
            self._spiral_words.setText(spiral_words(found))
            self.spiral.show_layout(lambda w, h: spiral_picture(found, kit, w, h))

    # the panel

    def _show_panel(self, r: LoadResult | None) -> None:
        self.panel.clear()
        column = self.panel.column
        wanted = self.store.picked(MotionPick).mount
        mount = next((m for m in self.store.project.concept.mounts if m.id == wanted), None)
        if mount is not None:
            self._mount_panel(mount)
        elif r is None:
            column.addWidget(label("Motion", "title"))
            hint = "A load to move says what is asked; the program sizes what moves it, from the task and the pack."
            column.addWidget(label(hint, "mute", wrap=True))
            self._space_form()
        else:
            self._load_panel(r)
        column.addStretch(1)

    def _load_panel(self, r: LoadResult) -> None:
        column, store = self.panel.column, self.store
        column.addWidget(label(r.load.name, "title", wrap=True))
        item = next((i for i in store.project.concept.items if i.id == r.load.actuator), None)
        moved_by = f"moved by {item.name} ×{item.count}" if item is not None else "nothing moves it yet"
        column.addWidget(label(moved_by, "mute", wrap=True))
        about = [f for f in store.assessment.findings if f.measure == measure_id("motion", r.load.id)]
        driver = store.assessment.of(POWER).tree.source_of.get(r.load.actuator, "")
        about += [f for f in store.assessment.findings if driver in f.items and f.check in DRIVER_CHECKS]
        self.finding_cards([f for f in about if f.verdict is not Verdict.HOLDS][:4])
        self._gears(r)
        column.addWidget(label("What is asked", "heading"))
        column.addWidget(load_form(self.theme, self.store, r.load))
        for note in r.notes:
            column.addWidget(label(note, "mute", wrap=True))
        cautions = [c for c in store.assessment.cautions if r.load.actuator in c.items]
        self.show_cautions(cautions[:1])
        self._space_form()
        column.addWidget(button("It need not move", partial(store.attempt, edits.remove_load, r.load.id)))

    def _gears(self, r: LoadResult) -> None:
        gears = other_ratios(self.store.project, r)
        if not gears:
            return
        column = self.panel.column
        column.addWidget(label("Other ratios, same motor", "heading"))
        carry = [g for g in gears if g.stall_use <= 1] or gears
        best = [
            (max(carry, key=lambda g: g.speed_rad_s).part.id, "fastest"),
            (min(carry, key=lambda g: g.stall_use).part.id, "strongest"),
            (max(carry, key=lambda g: g.efficiency).part.id, "most efficient"),
        ]
        for gear in gears:
            row = QHBoxLayout()
            words = _gear_words(gear, ", ".join(word for part_id, word in best if part_id == gear.part.id), r)
            made = ChangeButton(words, gear.change, self.store)
            row.addWidget(made, 1)
            row.addWidget(as_concept_button(gear.change, self.store, self.desk.try_as))
            column.addLayout(row)
        self._inertia(r)

    def _inertia(self, r: LoadResult) -> None:
        motor = r.drive.item.part.motor if r.drive is not None else None
        if motor is None:
            return
        if motor.rotor_inertia_kg_m2 is None or motor.gear_ratio is None:
            text = "Reflected inertia: the rotor's own is not given."
        else:
            through = motor.rotor_inertia_kg_m2 * (motor.gear_ratio * r.load.ratio) ** 2
            text = f"Rotor seen through the gear: {show(through, 'kg·m²')}."
            radius = r.facts.get("radius_m")
            if radius is not None and isinstance(r.load, WheelLoad):
                mass = (self.store.assessment.of(MASS).total_kg) / r.load.driven_wheels
                matched = matched_ratio(r, mass * radius**2)
                text += f" Fastest acceleration at {matched:.0f}:1." if matched else ""
        self.panel.column.addWidget(label(text, "mute", wrap=True))

    def _space_form(self) -> None:
        self.panel.column.addWidget(label("The room there is", "heading"))
        self.panel.column.addWidget(room_form(self.theme, self.store))

    def _mount_panel(self, mount: Mount) -> None:
        column = self.panel.column
        column.addWidget(label(mount.name, "title", wrap=True))
        column.addWidget(label("what turns keeps 20 % or more away from it (common practice)", "mute", wrap=True))
        column.addWidget(mount_form(self.theme, self.store, mount))
        column.addWidget(button("Back to the load", lambda: self.store.change(MotionPick, mount="")))
        column.addWidget(button("Watch it no longer", partial(self.store.attempt, edits.remove_mount, mount.id)))

    # what hands do

    def _offer_kinds(self) -> None:
        menu = QMenu(self)
        for kind, what in every_kind().items():
            action = menu.addAction(what.words)
            assert action is not None
            action.triggered.connect(lambda _=False, k=kind: self.add(k))
        menu.popup(self.cursor().pos())

    def add(self, kind: str) -> None:
        """Ask for a name, and add a load of that kind."""
        name, ok = ask.word(self, "Something to move", f"What is it called? ({named_kind(kind).words})")
        if ok and self.store.attempt(edits.add_load, kind, name):
            self._choose(self.store.project.concept.loads[-1].id)

    def _add_mount(self) -> None:
        name, ok = ask.word(self, "Something that can swing", "What is it called? Such as: Camera bracket")
        if ok and self.store.attempt(edits.add_mount, name):
            self.store.change(MotionPick, mount=self.store.project.concept.mounts[-1].id)


def _slid(r: LoadResult) -> dict[str, float]:
    """Figures of a load that can be dragged, each with the most the slider reaches."""
    wanted = kind_of(r.load).dragged(r)
    return {n: max(most, 1.5 * float(getattr(r.load, n) or 0.0)) for n, most in wanted.items()}


def _gear_words(gear: Gear, best: str, r: LoadResult) -> str:
    """A ratio, what it is best at, how fast the load would be where it is hard, and what that takes of its stall."""
    radius = r.facts.get("radius_m")
    turn = gear.speed_rad_s / r.load.ratio
    fast = show(turn * radius, "m/s") if radius is not None else show(turn, "rad/s")
    carries = "stalls" if gear.stall_use > 1 else f"{show(gear.stall_use, 'share')} of stall"
    mark = f" · {best}" if best else ""
    return f"{gear.ratio:g}:1{mark}\n    {fast} · {carries}"
