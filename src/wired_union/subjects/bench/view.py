"""Bench: wake one part at a time, expected beside found, instruments behind one door."""

from functools import partial
from typing import Any

from PyQt6.QtWidgets import QFrame, QVBoxLayout, QWidget

from wired_union.kernel.results import Verdict
from wired_union.subjects.bench import edits
from wired_union.subjects.bench.assess import BENCH, Found, Woken, shown_found
from wired_union.subjects.bench.budgets import BUDGETS
from wired_union.subjects.bench.calibrations import CALIBRATIONS
from wired_union.subjects.bench.chains import CHAINS
from wired_union.subjects.bench.order import ANSWERS
from wired_union.subjects.bench.pick import BenchPick
from wired_union.subjects.bench.picture import steps_picture
from wired_union.subjects.bench.surfaces import SURFACED
from wired_union.subjects.bench.view_budget import BudgetCards
from wired_union.subjects.bench.view_calibration import CalibrationCards
from wired_union.subjects.bench.view_instruments import Instruments
from wired_union.subjects.bench.view_maps import MapCards
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Choice, EntryField, Form, button, empty, label, number_reader
from wired_union.ui.view import Desk, View, card, row
from wired_union.units import show


class BenchView(View):
    stage, title = "bench", "Bench"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.steps = Canvas(self.theme, name="Steps, each needs only what already works")
        self.steps.chosen.connect(self._chosen)
        note = label("Each needs only what already works.", "mute", wrap=True)
        self._list = QWidget()
        self._listed = QVBoxLayout(self._list)
        self._listed.setContentsMargins(0, 0, 0, 0)
        left = card(self.theme, label("What can be trusted how far", "heading"), self._list,
                    label("Wake one at a time", "heading"), note, self.steps)  # fmt: skip
        self._step = QWidget()
        self._box = QVBoxLayout(self._step)
        self._box.setContentsMargins(0, 0, 0, 0)
        self._box.setSpacing(self.theme.px(8))
        holder = QWidget()
        self.flow(left, self._step, wide=self._step, least=640.0, parent=holder, beside_w=290.0)
        self.column.addWidget(holder)
        self.column.addStretch(1)
        self.fields: dict[str, Any] = {}
        self.instruments = Instruments(self, self.fields)
        self.calibration = CalibrationCards(self, self.fields, self.instruments)
        self.budget = BudgetCards(self, self.fields)
        self.maps = MapCards(self, self.fields)

    @property
    def woken(self) -> Woken | None:
        """The step that is selected, else the first that could be woken now."""
        found = self.store.assessment.of(BENCH)
        picked = self.store.picked(BenchPick)
        ready = [w for w in found if w.stands in {"next", "differs"}] or list(found)
        return next((w for w in found if w.step.item.id == picked.item), ready[0] if ready else None)

    def refresh(self) -> None:
        found, now = self.store.assessment.of(BENCH), self.woken
        kit, c, b = self.theme.kit, self.calibration.current, self.budget.current
        m = self.maps.current
        other = c is not None or b is not None or m is not None
        picked = BenchPick(now.step.item.id if now is not None and not other else "")
        self.steps.show_layout(lambda w, h: steps_picture(found, kit, w, picked))
        done = sum(w.stands == "woken" for w in found)
        read = sum(f.reading is not None for w in found for f in w.found)
        off = sum(len(w.differs) for w in found)
        differ = f" · {off} differ{'s' if off == 1 else ''} from what was expected" if off else ""
        figures = f"{read} figure{'s' if read != 1 else ''} measured"
        self.subtitle.setText(f"{done} of {len(found)} woken · {figures}{differ}" if found else "")
        self._show_list()
        empty(self._box)
        self.panel.clear()
        self.fields.clear()
        if c is not None:
            self.calibration.show(self._box, c)
            self.calibration.panel(c)
        elif b is not None:
            self.budget.show(self._box, b)
            self.budget.panel(b)
        elif m is not None:
            self.maps.show(self._box, m)
            self.maps.panel(m)
        if other:
            self._box.addStretch(1)
            self.panel.column.addStretch(1)
            return
        self._show_step(now)
        self._show_panel(now)

    def _show_list(self) -> None:
        """Every calibration with how far it can be off, and one more."""
        empty(self._listed)
        for c in self.store.assessment.of(CALIBRATIONS):
            worst = f": {show(c.worst, c.calibration.unit)}" if c.worst is not None else ""
            pick = partial(self.store.pick, BenchPick(calibration=c.calibration.id))
            self._listed.addWidget(button(f"{c.calibration.name}{worst}", pick, kind="link"))
        for b in self.store.assessment.of(BUDGETS):
            error = f": {show(b.error, b.budget.unit)}" if b.error is not None else ""
            pick = partial(self.store.pick, BenchPick(budget=b.budget.id))
            self._listed.addWidget(button(f"{b.budget.name}{error}", pick, kind="link"))
        named = [
            (c.chain.name, c.error, c.chain.unit, BenchPick(chain=c.chain.id)) for c in self.store.assessment.of(CHAINS)
        ]
        named += [(s.surface.name, s.error, s.surface.unit, BenchPick(surface=s.surface.id))
                  for s in self.store.assessment.of(SURFACED)]  # fmt: skip
        for name, off, unit, to in named:
            words = f"{name}: {show(off, unit)}" if off is not None else name
            self._listed.addWidget(button(words, partial(self.store.pick, to), kind="link"))
        self._listed.addWidget(row(
            button("+ a calibration", self._add_calibration, kind="link",
                   tip="A sensor against something that is trusted"),
            button("+ an error budget", self.budget.add, kind="link", tip="All that makes a figure wrong, together"),
        ))  # fmt: skip
        self._listed.addWidget(row(
            button("+ an analogue chain", self.maps.add_chain, kind="link", tip="A quantity, volts, numbers"),
            button("+ a surface", self.maps.add_surface, kind="link", tip="A quantity over two others"),
        ))  # fmt: skip

    def _add_calibration(self) -> None:
        name, meant = ask.word(self, "A calibration", "What does the sensor tell? “Distance ahead”, “Salinity”")
        if meant and self.store.attempt(edits.add_calibration, name=name):
            self.store.pick(BenchPick(calibration=self.store.project.concept.calibrations[-1].id))

    def _chosen(self, of: object) -> None:
        if isinstance(of, BenchPick):
            self.store.pick(of)

    # the step in the middle

    def _show_step(self, now: Woken | None) -> None:
        if now is None:
            return
        item = now.step.item
        self._box.addWidget(self._expected_card(now))
        self._box.addWidget(self.instruments.card(now))
        self._box.addWidget(card(self.theme, label("Usually wrong when it differs", "heading"),
                                 label(now.step.wrong, "mute", wrap=True)))  # fmt: skip
        if now.step.care:
            self._box.addWidget(
                card(self.theme, label("Take care", "heading"), label(now.step.care, "mute", wrap=True))
            )
        self._box.addWidget(row(button("all of this part", partial(self.desk.go_to_item, item.id), kind="link")))
        self._box.addStretch(1)

    def _expected_card(self, now: Woken) -> QFrame:
        item, form = now.step.item, Form(self.theme)
        for found in now.found:
            form.add(f"{found.expect.name}: {_expected(found)}", self._entry(item.id, item.name, found),
                     f"With {found.expect.tool}")  # fmt: skip
        word = "does not work yet" if now.woken_on else "it works"
        day = "" if now.woken_on else self.desk.today()
        works = button(word, partial(self.store.attempt, edits.wake, item.id, day),
                       kind="plain" if now.woken_on else "main")  # fmt: skip
        self.fields["works"] = works
        title = label(f"{item.name}{', one' if item.count > 1 else ''}: expected and found", "heading", wrap=True)
        return card(self.theme, title, form, row(works))

    def _entry(self, item_id: str, name: str, found: Found) -> QWidget:
        figure = found.expect.figure
        if figure == ANSWERS:
            choice = Choice([("", "not asked"), ("1", "yes"), ("0", "no")], f"{name}: answers")
            choice.show_value("" if found.reading is None else "1" if found.reading.value else "0")
            choice.picked.connect(lambda v: v and self.instruments.add(item_id, figure, float(v)))
            self.fields[figure] = choice
            return choice
        field = EntryField(number_reader(found.expect.unit), f"{name}: {found.expect.name}")
        field.show_text(shown_found(found), "what was found")
        field.committed.connect(lambda v: self.store.attempt_or(field.complain, edits.add_reading, item_id, figure, v,
                                                                on=self.desk.today()))  # fmt: skip
        self.fields[figure] = field
        return field

    # the panel

    def _show_panel(self, now: Woken | None) -> None:
        column = self.panel.column
        if now is None:
            column.addWidget(label("Bench", "title"))
            column.addWidget(label("Nothing to wake yet.", "mute", wrap=True))
            column.addStretch(1)
            return
        item = now.step.item
        column.addWidget(label(item.name, "title", wrap=True))
        steps = self.store.assessment.of(BENCH)
        number = next(n for n, w in enumerate(steps, 1) if w is now)
        names = {i.id: i.name for i in self.store.project.concept.items}
        lacks = f" · after {', '.join(names[n] for n in now.lacks)}" if now.lacks else ""
        woken = f" · works since {now.woken_on}" if now.woken_on else ""
        column.addWidget(label(f"step {number}{woken}{lacks}", "mute", wrap=True))
        found = [f for f in self.store.assessment.findings if f.subject == "bench" and f.of == item.id]
        self.finding_cards(found)
        form = Form(self.theme)
        waits = EntryField(str.strip, f"{item.name}: waits for")
        waits.show_text(now.waits_for, "nothing")
        waits.committed.connect(lambda v: self.store.attempt(edits.wait_for, item.id, v))
        form.add("waits for", waits, "A person, a tool, a delivery")
        self.fields["waits"] = waits
        column.addWidget(form)
        self._readings(item.id)
        column.addStretch(1)

    def _readings(self, item_id: str) -> None:
        """Every reading of the part, the last one first: none is ever overwritten."""
        mine = [r for r in self.store.project.concept.readings if r.item == item_id]
        if not mine:
            return
        self.panel.column.addWidget(label("Readings", "heading"))
        expects = {f.expect.figure: f.expect for w in self.store.assessment.of(BENCH) for f in w.found
                   if w.step.item.id == item_id}  # fmt: skip
        for r in mine[:-13:-1]:
            expect = expects.get(r.figure)
            name = expect.name if expect is not None else r.figure
            value = (
                ("yes" if r.value else "no") if r.figure == ANSWERS else show(r.value, expect.unit if expect else "")
            )
            told = " · ".join(filter(None, (f"{name} {value}", r.instrument, r.on, r.by)))
            self.panel.column.addWidget(label(told, "mute", wrap=True))


def _expected(found: Found) -> str:
    """What is expected, and whether it was found."""
    expect = found.expect
    if expect.figure == ANSWERS:
        return "yes"
    mark = {Verdict.HOLDS: " ✓", Verdict.BREAKS: " ✗"}.get(found.verdict, "")
    return f"{show(expect.value, expect.unit)}{mark}"
