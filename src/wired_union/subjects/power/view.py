"""Power: the tree from pack to last load in each mode, the mission over time, and where the energy goes."""

import math
from functools import partial

from PyQt6.QtWidgets import QButtonGroup, QHBoxLayout, QMenu, QPushButton, QWidget

from wired_union import units
from wired_union.kernel.results import Finding, tried
from wired_union.kernel.ripple import ripple
from wired_union.picture.bars import Bar, share_bars
from wired_union.picture.shapes import Picture, Region
from wired_union.project.change import Change
from wired_union.project.model import Concept, Mode
from wired_union.project.part_edits import feed_from, feeds_others
from wired_union.subjects.motion.gives_times import MOTION
from wired_union.subjects.power import edits
from wired_union.subjects.power.flow import Flow
from wired_union.subjects.power.node import POWER
from wired_union.subjects.power.packs import PackResult
from wired_union.subjects.power.pick import PowerPick
from wired_union.subjects.power.picture_loose import loose, with_loose
from wired_union.subjects.power.picture_mission import EdgeMark, MissionChart, PhaseMark, mission_chart
from wired_union.subjects.power.picture_tree import power_tree_picture
from wired_union.subjects.power.shares import drains, mode_flows
from wired_union.subjects.power.trace import Trace, mission_trace
from wired_union.subjects.power.view_cells import Cells
from wired_union.subjects.power.view_first import FirstHalf
from wired_union.subjects.power.view_light import Charging
from wired_union.subjects.power.view_spread import Spread
from wired_union.subjects.power.view_warmth import Temperatures
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Elided, EntryField, Form, button, empty, label, number_reader, wrapped
from wired_union.ui.findings import ChangeButton
from wired_union.ui.sheets import save_file
from wired_union.ui.view import Desk, View, card

WORST = "worst"
SPANS = {"mission": "Mission", "first": "First half second", "warmth": "Warmth", "spread": "Odds",
         "sun": "Charging"}
HINTS = {"mission": "drag an edge, or use Shift and arrows on it, to change how long a mode lasts",
         "first": "point at it to read every supply at once", "warmth": "point at it to read them all",
         "spread": "if what is not known well goes as it may", "sun": "energy in against energy out"}  # fmt: skip
CHART_H = 200.0
MOST_GIVERS = 8
PHASES_SHOWN = 24
"""Phases of a mission in the form at a time."""


class PowerView(View):
    stage, title = "power", "Power"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.subtitle.setText("from the pack to the last load, in mode")
        self._modes_row = QHBoxLayout()
        self._modes_row.setSpacing(self.theme.px(6))
        self.head_row.addLayout(self._modes_row)
        self.mode_buttons: dict[str, QPushButton] = {}
        self._group = QButtonGroup(self)
        self.tree = Canvas(self.theme, name="Power tree")
        self.tree.chosen.connect(self._node_chosen)
        self.tree.carried.connect(self._carried)
        self._tree_note = label("", "mute", wrap=True)
        self.column.addWidget(card(self.theme, self.tree, self._tree_note))
        self.chart = Canvas(self.theme, name="Mission", tall=False)
        self.chart.setFixedHeight(self.theme.px(CHART_H))
        self.chart.dropped.connect(self._edge_dropped)
        self.chart.dragged.connect(self._edge_dragged)
        self.chart.chosen.connect(self._phase_chosen)
        self.chart.reader = self._read_chart
        self.first = Canvas(self.theme, name="The first half second")
        self.first.chosen.connect(self._node_chosen)
        self._first = FirstHalf(self.store, self.theme, self.first)
        self.first.reader = self._first.reading
        self.warmth = Canvas(self.theme, name="Temperatures")
        self.warmth.chosen.connect(self._phase_chosen)
        self._warmth = Temperatures(self.store, self.theme, self.warmth, self)
        self.warmth.reader = self._warmth.reading
        self.spread = Canvas(self.theme, name="The odds")
        self._spread = Spread(self.store, self.theme, self.spread, self)
        self.sun = Canvas(self.theme, name="Charging")
        self._sun = Charging(self.store, self.theme, self.sun, self)
        self._mission_title = label("", "heading")
        self._mission_hint = Elided()
        head = QWidget()
        row = QHBoxLayout(head)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self._mission_title)
        row.addWidget(self._mission_hint, 1)
        self.span_buttons = {s: self._span_button(s, words) for s, words in SPANS.items()}
        for made in self.span_buttons.values():
            row.addWidget(made)
        self.column.addWidget(card(self.theme, head, self.chart, self.first, self.warmth, self.spread, self.sun))
        self.column.addStretch(1)
        self._laid: MissionChart | None = None
        self._cells = Cells(self.store, self.theme, self)

    def _span_button(self, span: str, words: str) -> QPushButton:
        made = button(words, partial(self.store.change, PowerPick, span=span), kind="mode")
        made.setCheckable(True)
        return made

    # what is shown

    @property
    def mode(self) -> str:
        """Id of the mode on show, or WORST."""
        wanted = self.store.picked(PowerPick).mode
        ids = [m.id for m in self.store.project.concept.modes]
        return wanted if wanted in ids or wanted == WORST else (ids[0] if ids else WORST)

    def refresh(self) -> None:
        self._show_modes()
        self._show_tree()
        self._show_span()
        self._show_panel()

    def _show_modes(self) -> None:
        names = {m.id: m.name for m in self.store.project.concept.modes}
        wanted = {**names, WORST: "Worst instant"}
        if {i: b.text() for i, b in self.mode_buttons.items()} != wanted:
            empty(self._modes_row)
            while self._modes_row.count():
                self._modes_row.takeAt(0)
            self.mode_buttons = {}
            for mode_id, name in wanted.items():
                made = button(name, partial(self.store.change, PowerPick, mode=mode_id), kind="mode")
                made.setCheckable(True)
                self._group.addButton(made)
                self.mode_buttons[mode_id] = made
                self._modes_row.addWidget(made)
            self._modes_row.addWidget(button("+ mode", self._add_mode, kind="link"))
        self.mode_buttons[self.mode].setChecked(True)

    def _flows(self) -> tuple[dict[str, Flow], str]:
        result = self.store.assessment.of(POWER)
        if not result.concept.modes:
            return {}, ""
        if self.mode == WORST:
            index = result.worst_mode
            return mode_flows(result, index, peak=True), f"Start-up in {result.concept.modes[index].name}"
        index = result.mode_index[self.mode]
        return mode_flows(result, index), f"{result.concept.modes[index].name}, half charged"

    def _show_tree(self) -> None:
        result = self.store.assessment.of(POWER)
        flows, when = self._flows()
        if not flows:
            self.tree.show_layout(lambda w, h: Picture(w, 30, (self.theme.kit.words(
                0, 14, "Add a pack and feed something from it to see the tree.", ink="mute"),)))  # fmt: skip
            self._tree_note.setText("")
            return
        kit, verdicts = self.theme.kit, self.store.assessment.item_verdicts
        chosen = self.store.picked(PowerPick).node
        hanging, below = loose(result.concept, result.tree), _below(result.concept)

        def lay_out(width: float, _: float) -> Picture:
            tree = power_tree_picture(result.tree, flows, kit, width, selected=chosen, verdicts=verdicts)
            return with_loose(tree, hanging, below, kit, selected=chosen)

        self.tree.show_layout(lay_out)
        packs = [flows[i] for i in result.figures]
        leave = sum(f.power_w for f in packs)
        lost = sum(f.loss_w for i, f in flows.items())
        in_pack = sum(f.loss_w for f in packs)
        source = "pack" if result.packs else "supply"
        self._tree_note.setText(
            f"{when}: {units.show(leave, 'W')} leave the {source}, {units.show(leave - lost + in_pack, 'W')} reach the"
            f" loads, {units.show(lost, 'W')} warm the box. Width of a path = watts."
        )

    def _pack(self) -> PackResult | None:
        return self.store.assessment.of(POWER).limiting

    def _show_span(self) -> None:
        """The lower chart: the mission, or the first half second."""
        pick = self.store.picked(PowerPick)
        for span, made in self.span_buttons.items():
            made.setChecked(span == pick.span)
        self.chart.setVisible(pick.span == "mission")
        self.first.setVisible(pick.span == "first")
        self.warmth.setVisible(pick.span == "warmth")
        self.spread.setVisible(pick.span == "spread")
        self.sun.setVisible(pick.span == "sun")
        if pick.span != "spread":
            self._spread.rest()
        self._mission_hint.setText(HINTS[pick.span])
        if pick.span == "first":
            self._mission_title.setText(self._first.show(self.mode, pick.node))
        elif pick.span == "spread":
            self._mission_title.setText(self._spread.show())
        elif pick.span == "sun":
            self._mission_title.setText(self._sun.show(pick.node))
        elif pick.span == "warmth":
            self._mission_title.setText(self._warmth.show(pick.node))
        else:
            self._show_mission()

    def _show_mission(self) -> None:
        pack, mission = self._pack(), self.store.project.concept.mission
        if pack is None:
            self._mission_title.setText("No mission yet")
            self.chart.show_layout(lambda w, h: Picture(w, h, ()))
            self._laid = None
            return
        total = units.show(mission.duration_s, "s")
        times = f", {mission.repeats} × {units.show(mission.cycle_s, 's')}" if mission.repeats > 1 else ""
        self._mission_title.setText(f"The mission: {total}{times}")
        trace = mission_trace(self.store.assessment.of(POWER), pack)
        self.chart.show_layout(partial(self._lay_mission, pack, trace))

    def _lay_mission(self, pack: PackResult, trace: Trace, width: float, height: float) -> Picture:
        self._laid = mission_chart(self.store.project.concept, pack, trace, self.theme.kit, width, height)
        return self._laid.picture

    def _read_chart(self, region: Region, x: float) -> str:
        return self._laid.reading(x) if region.id == "curve" and self._laid else ""

    # what hands do

    def _node_chosen(self, of: object) -> None:
        if isinstance(of, str):
            self.store.change(PowerPick, node=of)

    def _carried(self, of: object, onto: object, let_go: bool) -> None:
        """Show where feeding one from the other would lead; let go there, do it."""
        change = None
        if isinstance(of, str) and isinstance(onto, str):
            change = tried(feed_from, self.store.project, of, onto)
        if let_go and isinstance(onto, str) and isinstance(of, str):
            self.store.attempt(feed_from, of, onto)
        else:
            self.store.show_preview(ripple(self.store.assessment, change) if change is not None else None)

    def _feed_buttons(self) -> None:
        """The keyed way to carry: what the chosen node could be fed from, each with its rings."""
        project, chosen = self.store.project, self.store.picked(PowerPick).node
        item = next((i for i in project.concept.items if i.id == chosen), None)
        if item is None or item.part.supply is not None:
            return
        besides = {item.id, self.store.assessment.of(POWER).tree.source_of.get(item.id)}
        givers = [i for i in project.concept.items if feeds_others(i.part) and i.id not in besides]
        changes = [(g, c) for g in givers if (c := tried(feed_from, project, item.id, g.id)) is not None]
        if item.part.pack is not None:
            changes = [(g, c) for g, c in changes if g.part.supply is not None]
        if not changes:
            return
        self.panel.column.addWidget(label(f"Feed {item.name} from", "heading", wrap=True))
        for giver, change in changes[:MOST_GIVERS]:
            self.panel.column.addWidget(ChangeButton(wrapped(giver.name, self.theme), change, self.store))

    def _edge_dragged(self, edge: object, dx: float) -> None:
        """Show on the strip where dropping the edge here would lead."""
        change = self._edge_change(edge, dx)
        self.store.show_preview(ripple(self.store.assessment, change) if change else None)

    def _edge_dropped(self, edge: object, dx: float) -> None:
        change = self._edge_change(edge, dx)
        if change is not None and abs(dx) >= 1:
            self.store.apply(change)
        else:
            self.store.show_preview(None)

    def _edge_change(self, edge: object, dx: float) -> Change | None:
        if self._laid is None or not isinstance(edge, EdgeMark):
            return None
        seconds = dx * self._laid.bar_s_per_px
        step = 60.0 if self.store.project.concept.mission.cycle_s > 1200 else 1.0
        moved = round(seconds / step) * step or (step if dx > 0 else -step)
        return edits.move_edge(self.store.project, edge.index, moved)

    def _phase_chosen(self, mark: object) -> None:
        if isinstance(mark, PhaseMark):
            phase = self.store.project.concept.mission.phases[mark.index]
            again = self.store.picked(PowerPick).phase == mark.index
            stretch = None if again else mark.index
            self.store.change(PowerPick, mode=phase.mode, page=mark.index // PHASES_SHOWN, phase=stretch)

    def _add_mode(self) -> None:
        name, ok = ask.word(self, "New mode", "What is the machine doing in it?")
        if ok and self.store.attempt(edits.add_mode, name):
            self.store.change(PowerPick, mode=self.store.project.concept.modes[-1].id)

    # the panel

    def _show_panel(self) -> None:
        self.panel.clear()
        column = self.panel.column
        result, chosen = self.store.assessment.of(POWER), self.store.picked(PowerPick).node
        hangs = any(i.id == chosen for i in loose(result.concept, result.tree))
        if hangs:
            self._feed_buttons()
        if self.store.picked(PowerPick).span == "first":
            self._first.fill(column, self.mode, chosen)
        elif self.store.picked(PowerPick).span == "warmth":
            self._warmth.fill(column, chosen, self.refresh)
        elif self.store.picked(PowerPick).span == "spread":
            self._spread.fill(column)
        elif self.store.picked(PowerPick).span == "sun":
            self._sun.fill(column, chosen)
        self._tell_node(chosen)
        self._cells.fill(column, chosen)
        column.addWidget(label("What to do about it", "title"))
        findings = [f for f in self.store.assessment.findings if _of_power(f)]
        self.finding_cards(findings[:6])
        if not findings:
            column.addWidget(label("Nothing to say yet.", "mute"))
        if not hangs:
            self._feed_buttons()
        self._show_shares()
        self._show_mission_form()
        column.addWidget(button("save tables and the tree …", self._hand_out, kind="link"))
        column.addStretch(1)

    def _hand_out(self) -> None:
        """Ask which of its documents to save."""
        from wired_union.subjects.power.papers import papers

        menu = QMenu(self)
        for paper in papers(self.store.assessment):
            name = paper.name.rpartition("/")[2]
            menu.addAction(f"{name}: {paper.about}", partial(save_file, self, name, "", paper.make))
        menu.popup(self.cursor().pos())

    def _tell_node(self, chosen: str) -> None:
        """The range of what the chosen part gets, and its worst moment."""
        result = self.store.assessment.of(POWER)
        node = result.tree.nodes.get(chosen)
        if node is None or not result.modes:
            return
        (low, low_mode), (most, most_mode) = result.lowest_v(chosen), result.most(chosen, "current_a")
        high = result.full_v.get(chosen, math.nan)
        self.panel.column.addWidget(label(node.item.name, "heading", wrap=True))
        gets = f"{units.show(low, 'V')} to {units.show(high, 'V')}" if low == low and high == high else "not known"
        lowest = f", lowest in {low_mode.name}" if low_mode is not None and low == low else ""
        known = most_mode is not None and most == most
        takes = f"; at most {units.show(most, 'A')}, in {most_mode.name}" if known and most_mode is not None else ""
        self.panel.column.addWidget(label(f"Gets {gets}{lowest}{takes}.", "mute", wrap=True))

    def _show_shares(self) -> None:
        result = self.store.assessment.of(POWER)
        if not (result.packs or result.supplies) or not result.concept.mission.phases:
            return
        phases, chosen = result.concept.mission.phases, self.store.picked(PowerPick).phase
        some = phases[chosen : chosen + 1] if chosen is not None and chosen < len(phases) else ()
        bars = [Bar(d.name, d.amount, d.text, d.ink) for d in drains(result, some or None)]
        self.panel.column.addWidget(label("Where the energy goes", "heading"))
        whole, lasts = sum(b.share for b in bars), sum(p.duration_s for p in some or phases)
        names = {m.id: m.name for m in result.concept.modes}
        where = f"phase {chosen + 1}, {names[some[0].mode]}" if some and chosen is not None else "one cycle"
        note = f"{units.show(whole, 'Wh')} in {where}, {units.show(lasts, 's')}"
        self.panel.column.addWidget(label(note, "mute", wrap=True))
        hint = "press the phase again for the whole cycle" if some else "press a phase to see it alone"
        self.panel.column.addWidget(label(hint, "mute", wrap=True))
        chart = Canvas(self.theme, name="Where the energy goes")
        chart.setFixedHeight(self.theme.px(23) * len(bars))
        self.panel.column.addWidget(chart)
        chart.show_layout(lambda w, h: share_bars(bars, self.theme.kit, w))

    def _show_mission_form(self) -> None:
        concept = self.store.project.concept
        column = self.panel.column
        column.addWidget(label("The mission", "heading"))
        names = {m.id: m.name for m in concept.modes}
        form = Form(self.theme)
        phases = concept.mission.phases
        page = min(self.store.picked(PowerPick).page, max(len(phases) - 1, 0) // PHASES_SHOWN)
        first = page * PHASES_SHOWN
        for i, phase in enumerate(phases[first : first + PHASES_SHOWN], first):
            field = EntryField(number_reader("s"), f"Duration of phase {i + 1}, {names[phase.mode]}")
            field.show_text(units.show(phase.duration_s, "s"))
            field.committed.connect(partial(self._set_duration, field, i))
            form.add(f"{i + 1}. {names[phase.mode]}", field, "How long this phase lasts; 0 takes it out")
        repeats = EntryField(number_reader("", whole=True), "Repeats")
        repeats.show_text(str(concept.mission.repeats))
        repeats.committed.connect(lambda v: self.store.attempt(edits.set_repeats, v))
        form.add("times over", repeats)
        column.addWidget(form)
        for there, words in ((page - 1, "earlier phases"), (page + 1, "later phases")):
            if 0 <= there * PHASES_SHOWN < len(phases):
                turn = partial(self.store.change, PowerPick, page=there)
                column.addWidget(button(f"{words} of {len(phases)}", turn, kind="link"))
        mode = next((m for m in concept.modes if m.id == self.mode), None)
        if mode is None:
            return
        self._movement_buttons(mode)
        how = "start together" if mode.staggered else "start one after another"
        if self.store.assessment.of(POWER).tree.stands_in:
            text = f"{'unplug the supply' if mode.plugged_in else 'plug the supply in'} in {mode.name}"
            change = partial(self.store.attempt, edits.plug_in, mode.id, not mode.plugged_in)
            column.addWidget(button(wrapped(text, self.theme), change, kind="link"))
        for text, edit, arguments in (
            (f"+ ten minutes of {mode.name}", edits.add_phase, (mode.id, 600.0)),
            (f"let loads {how} in {mode.name}", edits.stagger, (mode.id, not mode.staggered)),
            (f"delete mode {mode.name}", edits.remove_mode, (mode.id,)),
        ):
            column.addWidget(
                button(wrapped(text, self.theme), partial(self.store.attempt, edit, *arguments), kind="link")
            )

    def _movement_buttons(self, mode: Mode) -> None:
        """Let a mode's phase last as long as what Motion works out for a load that moves in it."""
        concept, motion = self.store.project.concept, self.store.assessment.of(MOTION)
        index = next((n for n, p in enumerate(concept.mission.phases) if p.mode == mode.id), None)
        if index is None:
            return
        for result in motion.loads:
            takes = result.takes_s[1] if result.takes_s is not None and not result.missing else math.inf
            if result.load.mode not in {"", mode.id} or not math.isfinite(takes):
                continue
            text = f"let {mode.name} last one movement of {result.load.name}, {units.show(takes, 's')}"
            follow = partial(self.store.attempt, edits.follow_movement, index, result.load.id, takes)
            self.panel.column.addWidget(button(wrapped(text, self.theme), follow, kind="link"))

    def _set_duration(self, field: EntryField, index: int, value: float) -> None:
        if value == 0:
            self.store.attempt(edits.remove_phase, index)
            return
        self.store.attempt_or(field.complain, edits.set_phase_duration, index, value)


def _below(concept: Concept) -> dict[str, int]:
    """How many items hang on each, at any depth."""
    source_of = {f.load: f.source for f in concept.feeds}
    found: dict[str, int] = {}
    for item in source_of:
        at = item
        while at in source_of:
            at = source_of[at]
            found[at] = found.get(at, 0) + 1
    return found


def _of_power(finding: Finding) -> bool:
    return finding.subject == PowerView.stage
