"""Best mix: choose several places at once, say what counts and what must hold, and have the best combination proven."""

from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QButtonGroup, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from wired_union.choose import explain
from wired_union.choose.combination import FAVOURED, Favour, Question, Tried, ask
from wired_union.choose.search import Progress, search
from wired_union.kernel.ripple import Ripple
from wired_union.project.errors import ProjectError
from wired_union.project.model import Item
from wired_union.subjects.combination.pick import Mix
from wired_union.subjects.combination.picture import MixRow, Tick, Trail, mix_list, tick_columns, tick_list, trail_chart
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import EntryField, Form, button, label, number_reader
from wired_union.ui.findings import as_concept_button
from wired_union.ui.view import Desk, View, card
from wired_union.ui.worker import Worker
from wired_union.units import show

LEFT_W, CHART_H = 220.0, 170.0
_FAVOURS = (("runtime", "longest runtime"), ("mass", "least mass"), ("money", "least money"), ("weights", "weights"))


class CombinationView(View):
    stage, title = "combination", "Best mix"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.worker = Worker(self)
        self.worker.told.connect(self._told)
        self.worker.ended.connect(self._ended)
        self.worker.failed.connect(self._failed)
        self._question: Question | None = None
        self.progress: Progress | None = None
        self._trail: list[tuple[float | None, float]] = []
        self._for = -1
        self._stopped = False
        self._chosen = 0
        self.places = Canvas(self.theme, name="Places to choose")
        self.places.chosen.connect(self._toggle_place)
        self.limits = Canvas(self.theme, name="What must hold")
        self.limits.chosen.connect(self._toggle_limit)
        self.chart = Canvas(self.theme, name="The search", tall=False)
        self.chart.setFixedHeight(self.theme.px(CHART_H))
        self.mixes = Canvas(self.theme, name="The best combinations")
        self.mixes.pointed.connect(self._point)
        self.mixes.chosen.connect(self._choose)
        self._proof, self._favourite = label("", "mute", wrap=True), label("", "mute", wrap=True)
        self._result_title = label("", "heading")
        self._lay_out()

    def _lay_out(self) -> None:
        left = card(self.theme, label("Choose together", "heading"), self.places)
        side = left.layout()
        assert isinstance(side, QVBoxLayout)
        side.addStretch(1)
        main = QWidget()
        right = QVBoxLayout(main)
        right.setContentsMargins(0, 0, 0, 0)
        right.setSpacing(self.theme.px(8))
        right.addWidget(self._ask_card())
        right.addWidget(card(self.theme, self._result_title, self.chart, self._proof, self._favourite))
        self._list_card = card(self.theme, label("The best, and the ten next", "heading"), self.mixes)
        right.addWidget(self._list_card)
        right.addStretch(1)
        self.column.addLayout(self.flow(left, main, wide=main, least=560.0, beside_w=LEFT_W))
        self.column.addStretch(1)

    def _ask_card(self) -> QWidget:
        """What to favour, what must hold, and the button that starts."""
        self._favour_row = QWidget()
        self._favour_grid = QGridLayout(self._favour_row)
        self._favour_grid.setContentsMargins(0, 0, 0, 0)
        group = QButtonGroup(self)
        self.favour_buttons = {}
        for name, text in _FAVOURS:
            made = button(text, partial(self._set_favour, name), kind="mode")
            made.setCheckable(True)
            group.addButton(made)
            self.favour_buttons[name] = made
        self._place_favours()
        self._weights = Form(self.theme)
        self.weight_fields = {}
        for name in FAVOURED:
            field = EntryField(number_reader(""), f"Weight of {name}")
            field.committed.connect(partial(self._set_weight, name))
            self.weight_fields[name] = field
            self._weights.add(f"weight of {name}", field, "Against the others, each as its share of the limit")
        self.find_button = button("Find the best", self.start, kind="main")
        self.stop_button = button("Stop and keep the best so far", self.stop)
        act = QWidget()
        buttons = QHBoxLayout(act)
        buttons.setContentsMargins(0, 0, 0, 0)
        buttons.addWidget(self.find_button)
        buttons.addWidget(self.stop_button)
        buttons.addStretch(1)
        return card(self.theme, label("Favour", "heading"), self._favour_row, self._weights,
                    label("What must hold", "heading"), self.limits, act)  # fmt: skip

    def _place_favours(self) -> None:
        """The four ways to favour in a row, or two and two where there is little room."""
        columns = 4 if self.width() >= self.theme.px(760) else 2
        for place, made in enumerate(self.favour_buttons.values()):
            self._favour_grid.addWidget(made, place // columns, place % columns, Qt.AlignmentFlag.AlignLeft)
        self._favour_grid.setColumnStretch(3, 1)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._place_favours()

    # what is asked; kept among the selection, so that it survives a change of theme

    @property
    def chosen_places(self) -> list[str]:
        ids = {i.id for i in self.store.project.concept.items}
        return [i for i in self.store.picked(Mix).places if i in ids]

    @property
    def must_hold(self) -> list[str]:
        """Ids of the limits that must hold: all that have a figure, less those unticked."""
        dropped = self.store.picked(Mix).dropped
        return [m.id for m in self.store.assessment.measures if m.value is not None and m.id not in dropped]

    @property
    def favoured(self) -> str:
        return self.store.picked(Mix).favour

    def _weight(self, name: str) -> float:
        mix = self.store.picked(Mix)
        return {"runtime": mix.runtime, "mass": mix.mass, "money": mix.money}[name]

    def _favour(self) -> Favour:
        if self.favoured == "weights":
            return Favour(**{name: self._weight(name) for name in FAVOURED})
        return Favour(**{self.favoured: 1.0})

    def _toggle_place(self, item_id: str) -> None:
        kept = self.chosen_places
        new = [i for i in kept if i != item_id] if item_id in kept else [*kept, item_id]
        self.store.change(Mix, places=tuple(new))

    def _toggle_limit(self, measure: str) -> None:
        self.store.change(Mix, dropped=self.store.picked(Mix).dropped ^ {measure})

    def _set_favour(self, name: str) -> None:
        self.store.change(Mix, favour=name)

    def _set_weight(self, name: str, value: float) -> None:
        if value < 0:
            self.weight_fields[name].complain("A weight is 0 or more.")
            return
        self.store.change(Mix, **{name: value})

    # showing

    def refresh(self) -> None:
        kit, project = self.theme.kit, self.store.project
        lanes = {s.id: s.name for s in project.concept.subsystems}
        ticked = set(self.chosen_places)
        rows = [Tick(i.id, _item_name(i), "", i.id in ticked, lanes[i.subsystem])
                for s in project.concept.subsystems for i in project.concept.items if i.subsystem == s.id]  # fmt: skip
        self.places.show_layout(lambda w, h: tick_list(rows, kit, w))
        held = set(self.must_hold)
        limits = [Tick(m.id, m.label, f"{m.direction} {m.limit_shown}", m.id in held)
                  for m in self.store.assessment.measures if m.value is not None]  # fmt: skip
        self.limits.show_layout(lambda w, h: tick_columns(limits, kit, w))
        self.favour_buttons[self.favoured].setChecked(True)
        self._weights.setVisible(self.favoured == "weights")
        for name, field in self.weight_fields.items():
            field.show_text(show(self._weight(name)))
        if self._for != self.store.revision and self.worker.running:
            self.worker.stop()
        count = len(self.chosen_places)
        self.subtitle.setText(
            f"{count} places ticked · proven, not guessed" if count else "tick the places that may change together"
        )
        self._show_result()

    @property
    def current(self) -> bool:
        """Whether what was found is of the present project."""
        return self._question is not None and self._for == self.store.revision

    def _show_result(self) -> None:
        question, progress, kit = self._question, self.progress, self.theme.kit
        busy = self.worker.running and self.current
        self.find_button.setEnabled(bool(self.chosen_places) and not busy)
        self.stop_button.setVisible(busy)
        show_it = self.current and progress is not None and question is not None
        self._list_card.setVisible(bool(show_it and progress is not None and progress.found))
        if not show_it or progress is None or question is None:
            self._result_title.setText("No search yet" if self._question is None else "The project has moved on")
            self.chart.hide()
            self._favourite.setText("")
            self._proof.setText(
                "The answer is proven: a bound says how good anything not looked at could be. Sums are solved exactly;"
                " runtime, sag and every hard requirement are checked on the whole project."
            )
            self._show_panel(None)
            return
        state = "Stopped" if self._stopped and not progress.done else "Found"
        if busy:  # the best may be proven long before the ten next are
            state = "Proven, looking for the next best" if progress.proven else "Searching"
        self._result_title.setText(f"{state}: {explain.favour_words(question)}")
        self.chart.show()
        trail = self._make_trail(question)
        self.chart.show_layout(lambda w, h: trail_chart(trail, kit, w, h))
        self._proof.setText(explain.proof(question, progress))
        rows = [MixRow(explain.figure(question, t), self._swap_words(question, t), t.places == question.favourite)
                for t in progress.found]  # fmt: skip
        chosen = min(self._chosen, max(len(rows) - 1, 0))
        self.mixes.show_layout(lambda w, h: mix_list(rows, kit, w, chosen=chosen))
        if not busy:
            favourite = question.try_out(question.favourite)
            self._favourite.setText(explain.favourite_words(question, progress, favourite))
        else:
            self._favourite.setText("")
        self._show_panel(progress.found[chosen] if progress.found else None)

    def _swap_words(self, question: Question, tried: Tried) -> str:
        swaps = explain.swaps(question, tried)
        said = [s.part if s.slot == s.was else f"{s.part} as {s.slot}" for s in swaps]
        return " · ".join(said) or "as it stands"

    def _make_trail(self, question: Question) -> Trail:
        """The trail in the unit of what is favoured, where that is one measure."""
        names = [n for n in FAVOURED if getattr(question.favour, n)]
        best, bound = [b for b, _ in self._trail], [b for _, b in self._trail]
        if len(names) > 1:
            return Trail(tuple(best), tuple(bound), "", "score, less is better")
        name = names[0]
        measure, scale = question.assessment.measure(name), question.scale[name]
        if name == "runtime":
            turned = [None if b is None else scale / b for b in best]
            return Trail(tuple(turned), tuple(scale / b if b > 0 else float("inf") for b in bound), "s",
                         "runtime, more is better", more_is_better=True)  # fmt: skip
        scaled = [None if b is None else b * scale for b in best]
        return Trail(tuple(scaled), tuple(b * scale for b in bound), measure.unit, f"{name}, less is better")

    def _show_panel(self, tried: Tried | None) -> None:
        self.panel.clear()
        column = self.panel.column
        question = self._question
        if tried is None or question is None:
            column.addWidget(label("Best mix", "title"))
            hint = (
                "Several parts are often right only together: a lighter pack with thriftier motors. Tick their places,"
                " say what counts, and let it search. What a place asks (Candidates) and what its rail gives decides"
                " which parts may stand in it."
            )
            column.addWidget(label(hint, "mute", wrap=True))
            column.addStretch(1)
            return
        swaps = explain.swaps(question, tried)
        column.addWidget(label("Nothing to swap" if not swaps else f"{len(swaps)} swaps, one edit", "title"))
        for swap in swaps:
            column.addWidget(label(swap.part, "heading", wrap=True))
            origin = f", {swap.origin}" if swap.origin != "to buy" else ""
            column.addWidget(label(f"instead of {swap.was}{origin}", "mute", wrap=True))
        if swaps:
            column.addWidget(label("What it does", "heading"))
            effect = self._effect(tried)
            for move in effect.moved:
                column.addWidget(label(f"{move.shown}: {move.after.shown}, {move.after.verdict.value}", "figures"))
            if effect.besides:
                column.addWidget(label(effect.besides, "error", wrap=True))
            column.addWidget(button("Take it all as one edit", partial(self.take, tried), kind="main"))
            column.addWidget(as_concept_button(question.swap(tried.places), self.store, self.desk.try_as))
        column.addWidget(label("How many fit where", "heading"))
        for choice in question.choices:
            said = (
                f"{choice.slot.name}: {len(choice.options)} of {len(choice.options) + len(choice.left_out)} parts fit"
            )
            column.addWidget(label(said, "mute", wrap=True))
        column.addStretch(1)

    def _effect(self, tried: Tried) -> Ripple:
        assert self._question is not None
        return explain.effect(self._question, tried)

    # what hands do

    def start(self) -> None:
        """Put the question and search off the interface thread."""
        try:
            question = ask(self.store.assessment, self.chosen_places, self._favour(), self.must_hold)
        except ProjectError as error:
            self.store.refused.emit(str(error))
            return
        self._question, self.progress, self._trail = question, None, []
        self._for, self._stopped, self._chosen = self.store.revision, False, 0
        self.worker.start(self._for, lambda: search(question))
        self._show_result()

    def stop(self) -> None:
        """Stop the search and keep the best so far."""
        self._stopped = True
        self.worker.stop()
        self._show_result()

    def take(self, tried: Tried) -> None:
        """Apply a combination as one edit."""
        question = self._question
        if question is not None:
            self.store.attempt(lambda _: question.swap(tried.places))

    def _told(self, revision: int, progress: Progress) -> None:
        if revision != self.store.revision or self._stopped:
            return
        self.progress = progress
        self._trail.append((progress.best.score if progress.best else None, progress.bound))
        if self.isVisible():
            self._show_result()

    def _ended(self, revision: int) -> None:
        if revision == self.store.revision and self.isVisible():
            self._show_result()

    def _failed(self, revision: int, text: str) -> None:
        self.store.refused.emit(f"The search broke off: {text}. Nothing was changed.")
        self._show_result()

    def _point(self, mix: int | None) -> None:
        found = self.progress.found if self.progress is not None and self.current else ()
        place = -1 if mix is None else mix
        if 0 <= place < len(found) and found[place].places != (self._question.favourite if self._question else ()):
            self.store.show_preview(self._effect(found[place]))
        else:
            self.store.show_preview(None)

    def _choose(self, mix: int) -> None:
        self._chosen = mix
        self._show_result()


def _item_name(item: Item) -> str:
    return f"{item.name} ×{item.count}" if item.count > 1 else item.name
