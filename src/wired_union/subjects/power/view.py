"""Power: the tree from pack to last load in each mode, the mission over time, and where the energy goes."""

from functools import partial

from PyQt6.QtWidgets import QButtonGroup, QHBoxLayout, QMenu, QPushButton

from wired_union import units
from wired_union.kernel.results import Finding, tried
from wired_union.kernel.ripple import ripple
from wired_union.picture.bars import Bar, share_bars
from wired_union.picture.shapes import Picture
from wired_union.project.model import Concept, Phase
from wired_union.project.part_edits import feed_from, feeds_others
from wired_union.subjects.power import edits
from wired_union.subjects.power.flow import Flow
from wired_union.subjects.power.node import POWER
from wired_union.subjects.power.pick import PowerPick
from wired_union.subjects.power.picture_loose import loose, with_loose
from wired_union.subjects.power.picture_tree import power_tree_picture
from wired_union.subjects.power.ranges import range_of
from wired_union.subjects.power.shares import between, drains, mode_flows, thirstiest
from wired_union.subjects.power.view_cells import Cells
from wired_union.subjects.power.view_joined import Beside
from wired_union.subjects.power.view_span import SpanCard
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Form, button, empty, label, wrapped
from wired_union.ui.findings import ChangeButton
from wired_union.ui.sheets import save_file
from wired_union.ui.view import Desk, View, card

WORST = "worst"
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
        self.span = SpanCard(self.store, self.theme, self)
        self.chart = self.span.canvases["mission"]
        self.column.addWidget(self.span.widget)
        self.column.addStretch(1)
        self._cells = Cells(self.store, self.theme, self)
        self._beside = Beside(self.store, self.theme)

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
        self.span.show(self.mode)
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
            tree = power_tree_picture(result.tree, flows, kit, width, selected=chosen, verdicts=verdicts,
                                       ranges=partial(range_of, result))  # fmt: skip
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
        self.span.fill(column, self.mode)
        told = self._picked_stretch()
        if told:
            self._show_shares()
        compares = self.span.other.result is not None
        if compares:
            self.span.other.fill(column)
        self._tell_node(chosen)
        self._cells.fill(column, chosen)
        self._beside.fill(column, chosen)
        column.addWidget(label("What to do about it", "title"))
        findings = [f for f in self.store.assessment.findings if _of_power(f)]
        self.finding_cards(findings[:6])
        if not findings:
            column.addWidget(label("Nothing to say yet.", "mute"))
        if not hangs:
            self._feed_buttons()
        if not told:
            self._show_shares()
        self.span.mission.fill(column, self.mode)
        if not compares:
            self.span.other.fill(column)
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
        self.panel.column.addWidget(label(node.item.name, "heading", wrap=True))
        said = range_of(result, chosen)
        self.panel.column.addWidget(label(f"{said[0].upper()}{said[1:]}.", "mute", wrap=True))
        self._modes_beside(chosen)

    def _modes_beside(self, chosen: str) -> None:
        """The chosen part in every mode: on average, and at the worst instant."""
        result = self.store.assessment.of(POWER)
        form = Form(self.theme)
        for n, mode in enumerate(result.concept.modes):
            usual, worst = (mode_flows(result, n, peak=peak)[chosen] for peak in (False, True))
            if usual.current_a != usual.current_a or worst.current_a != worst.current_a:
                form.add(mode.name, label("cannot be delivered", "mute"))
                continue
            said = f"{units.show(usual.current_a, 'A')}, {units.show(usual.power_w, 'W')}"
            hardest = f"{units.show(worst.current_a, 'A')} at {units.show(worst.input_v, 'V')}"
            form.add(mode.name, label(f"{said}; worst {hardest}", "figures", wrap=True))
        self.panel.column.addWidget(form)

    def _picked_stretch(self) -> bool:
        """Whether a part of the mission is asked of, so that it is told first."""
        pick = self.store.picked(PowerPick)
        return pick.stretch is not None or pick.phase is not None

    def _stretch(self) -> tuple[list[Phase], str, str]:
        """The phases that are asked of, none for the whole cycle; how they are called, and what can be done."""
        concept, pick = self.store.assessment.of(POWER).concept, self.store.picked(PowerPick)
        phases, chosen = concept.mission.phases, pick.phase
        if pick.stretch is not None:
            start, end = pick.stretch
            where = f"the stretch from {units.show(start, 's')} to {units.show(end, 's')}"
            return between(concept.mission, start, end), where, "press the curves for the whole cycle"
        if chosen is not None and chosen < len(phases):
            name = next(m.name for m in concept.modes if m.id == phases[chosen].mode)
            return [phases[chosen]], f"phase {chosen + 1}, {name}", "press the phase again for the whole cycle"
        return [], "one cycle", "press a phase, or draw a stretch over the curves, to see it alone"

    def _show_shares(self) -> None:
        result = self.store.assessment.of(POWER)
        if not (result.packs or result.supplies) or not result.concept.mission.phases:
            return
        some, where, hint = self._stretch()
        bars = [Bar(d.name, d.amount, d.text, d.ink) for d in drains(result, some or None)]
        self.panel.column.addWidget(label("Where the energy goes", "heading"))
        whole, lasts = sum(b.share for b in bars), sum(p.duration_s for p in some or result.concept.mission.phases)
        note = f"{units.show(whole, 'Wh')} in {where}, {units.show(lasts, 's')}"
        self.panel.column.addWidget(label(note, "mute", wrap=True))
        most = ", ".join(f"{n} {units.show(s, fraction=True)}" for n, s in thirstiest(result, some or None))
        self.panel.column.addWidget(label(f"{most}." if most else hint, "mute", wrap=True))
        if most:
            self.panel.column.addWidget(label(hint, "mute", wrap=True))
        chart = Canvas(self.theme, name="Where the energy goes")
        chart.setFixedHeight(self.theme.px(23) * len(bars))
        self.panel.column.addWidget(chart)
        chart.show_layout(lambda w, h: share_bars(bars, self.theme.kit, w))


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
