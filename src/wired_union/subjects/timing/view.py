"""Timing: signal chains from something sensed to something done, each against its limit."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QMenu, QVBoxLayout, QWidget

from wired_union import units
from wired_union.kernel.results import Measure
from wired_union.kernel.subject import Assessment
from wired_union.project.model import (
    Actuator,
    Again,
    AirStage,
    Debounce,
    Event,
    MessageStage,
    Movement,
    PictureStage,
    Sampled,
    SignalStage,
    Stage,
    TaskStage,
    Transfer,
)
from wired_union.project.value import choices
from wired_union.subjects.timing import edits
from wired_union.subjects.timing.assess import TIMING, chain_measure
from wired_union.subjects.timing.pick import SharedPick, TimingPick
from wired_union.subjects.timing.picture import chain_picture, row_picture
from wired_union.subjects.timing.picture_spread import (
    age_words,
    moved_words,
    sampling_words,
    spread_picture,
    spread_words,
)
from wired_union.subjects.timing.results import ChainResult
from wired_union.subjects.timing.view_air import AirCard
from wired_union.subjects.timing.view_eyes import EyesCard
from wired_union.subjects.timing.view_loops import LoopCards
from wired_union.subjects.timing.view_packets import PacketsCard
from wired_union.subjects.timing.view_shared import SharedCards
from wired_union.subjects.timing.view_signals import SignalsCard
from wired_union.subjects.timing.view_ways import WaysCard
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Choice, EntryField, Form, button, empty, label, number_reader
from wired_union.ui.view import Desk, View, card

KINDS = (("event", "event"), ("sampled", "sampled"), ("transfer", "bus transfer"), ("debounce", "debounce"),
         ("actuator", "actuator"), ("movement", "movement"), ("again", "again"), ("task", "task of a processor"),
         ("message", "message on a bus"),
         ("air", "packet through the air"), ("picture", "picture looked through"),
         ("signal", "pulse, sample or edge"))  # fmt: skip
BUSES = (("uart", "UART"), ("i2c", "I²C"), ("spi", "SPI"))
NEW_STAGES: tuple[tuple[str, Stage], ...] = (
    ("something happens", Event(name="something happens", least_s=0.001, most_s=0.005)),
    ("a debounce", Debounce(name="debounce", least_s=0.02, most_s=0.02)),
    ("a task or sensor that looks once a period", Sampled(name="sampled", period_s=0.02, response_s=0.002)),
    ("bytes over a bus", Transfer(name="bus transfer", bus="i2c", bytes=6, clock_hz=100e3)),
    ("a movement that Motion works out", Movement(name="movement")),
    ("a task of a processor", TaskStage(name="task")),
    ("a message on a bus", MessageStage(name="message")),
    ("a packet through the air", AirStage(name="packet")),
    ("a picture that is looked through", PictureStage(name="picture")),
    ("a pulse, a sample or an edge", SignalStage(name="sample")),
    ("the stages before it again", Again(name="again", stages=2, times=4)),
    ("something responds", Actuator(name="actuator responds", least_s=0.05, most_s=0.1)),
)


Named = TaskStage | MessageStage | AirStage | PictureStage | SignalStage
NAMES = {"task": ("tasks", "task"), "message": ("messages", "message"), "air": ("radio_links", "link"),
         "picture": ("eyes", "eye"), "signal": ("signals", "signal")}  # fmt: skip
"""Where what a stage names is listed, and by which field it names it."""


class TimingView(View):
    stage, title = "timing", "Timing"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.subtitle.setText("from sensed to done, at least and, faint, at most; ticks: when it is due")
        self._chains = QVBoxLayout()
        self._chains.setSpacing(self.theme.px(8))
        self.column.addLayout(self._chains)
        self.column.addWidget(button("+ add a signal chain", self._add_chain, kind="link"))
        self.shared = SharedCards(self.store, self.theme, self._show_assessed)
        self.column.addWidget(self.shared)
        self.loops = LoopCards(self.store, self.theme)
        self.column.addWidget(self.loops)
        self.air = AirCard(self.store, self.theme)
        self.column.addWidget(self.air)
        self.ways = WaysCard(self.store, self.theme)
        self.column.addWidget(self.ways)
        self.signals = SignalsCard(self.store, self.theme)
        self.column.addWidget(self.signals)
        self.eyes = EyesCard(self.store, self.theme)
        self.column.addWidget(self.eyes)
        self.packets = PacketsCard(self.store, self.theme)
        self.column.addWidget(self.packets)
        self.column.addStretch(1)
        self.canvases: dict[str, Canvas] = {}
        self._heads: dict[str, tuple[QLabel, QLabel]] = {}

    @property
    def _at(self) -> tuple[ChainResult | None, int]:
        """The chain and stage on show."""
        chains, wanted = self.store.assessment.of(TIMING).chains, self.store.picked(TimingPick)
        chain = next((c for c in chains if c.chain.id == wanted.chain), chains[0] if chains else None)
        if chain is None or not chain.chain.stages:
            return chain, -1
        chosen = wanted.chain == chain.chain.id and wanted.stage >= 0
        number = wanted.stage if chosen else chain.costliest if chain.bars else 0
        return chain, min(number, len(chain.chain.stages) - 1)

    def _measure(self, result: ChainResult) -> Measure:
        return chain_measure(self.store.assessment, result)

    def refresh(self) -> None:
        chains = self.store.assessment.of(TIMING).chains
        if list(self.canvases) != [c.chain.id for c in chains]:
            self._rebuild(chains)
        self._show_chains(chains)
        self.shared.show_all()
        self.loops.show_all()
        self.air.show_all()
        self.ways.show_all()
        self.signals.show_all()
        self.eyes.show_all()
        self.packets.show_all()
        self._show_panel()

    def _show_chains(self, chains: tuple[ChainResult, ...]) -> None:
        here, index = self._at
        kit = self.theme.kit
        for result in chains:
            chosen = index if here is not None and result.chain.id == here.chain.id else -1
            title, figures = self._heads[result.chain.id]
            title.setText(result.chain.name)
            figures.setText(_summary(result, self._measure(result)))
            whole = here is not None and result.chain.id == here.chain.id
            self.canvases[result.chain.id].show_layout(
                lambda w, h, r=result, c=chosen, k=whole: (  # type: ignore[misc]
                    chain_picture(r, kit, w, self._measure(r).limit, selected=c) if k else
                    row_picture(r, kit, w, self._measure(r).limit)
                )
            )  # fmt: skip

    def _show_assessed(self, assessment: Assessment) -> None:
        """Draw chains, lanes, buses and loops as an assessment has them, while something is dragged."""
        self._show_chains(assessment.of(TIMING).chains)
        self.shared.show_assessed(assessment)
        self.loops.show_assessed(assessment)

    def _rebuild(self, chains: tuple[ChainResult, ...]) -> None:
        empty(self._chains)
        self.canvases, self._heads = {}, {}
        for result in chains:
            chain_id = result.chain.id
            canvas = Canvas(self.theme, name=f"Signal chain {result.chain.name}")
            canvas.chosen.connect(partial(self._stage_chosen, chain_id))
            head = QWidget()
            row = QHBoxLayout(head)
            row.setContentsMargins(0, 0, 0, 0)
            title, figures = label("", "heading", wrap=True), label("", "mute", wrap=True)
            row.addWidget(title, 0, Qt.AlignmentFlag.AlignTop)
            row.addWidget(figures, 1, Qt.AlignmentFlag.AlignTop)
            row.addWidget(button("+ stage", partial(self._offer_stages, chain_id), kind="link"))
            self._heads[chain_id] = (title, figures)
            self.canvases[chain_id] = canvas
            self._chains.addWidget(card(self.theme, head, canvas))

    def _stage_chosen(self, chain_id: str, stage: int) -> None:
        self.store.pick(TimingPick(chain_id, stage), SharedPick())

    def _add_chain(self) -> None:
        name, ok = ask.word(self, "New signal chain", "From what to what? Such as: Bump to stop")
        if ok:
            self.store.attempt(edits.add_chain, name)

    def _offer_stages(self, chain_id: str) -> None:
        menu = QMenu(self)
        for text, stage in NEW_STAGES:
            action = menu.addAction(text)
            assert action is not None
            action.triggered.connect(lambda _=False, s=stage: self._add_stage(chain_id, s))
        menu.popup(self.cursor().pos())

    def _add_stage(self, chain_id: str, stage: Stage) -> None:
        if self.store.attempt(edits.add_stage, chain_id, stage):
            chain = next(c for c in self.store.project.concept.chains if c.id == chain_id)
            self.store.pick(TimingPick(chain_id, len(chain.stages) - 1), SharedPick())

    # the panel

    def _show_panel(self) -> None:
        self.panel.clear()
        column = self.panel.column
        if self.shared.fill_panel(column, self._findings_of, self.loops.sliders, self.packets.fields_form):
            column.addStretch(1)
            return
        result, index = self._at
        if result is None:
            column.addWidget(label("Signal chains", "title"))
            hint = "A chain goes from something sensed to something done. Its worst time is what counts."
            column.addWidget(label(hint, "mute", wrap=True))
            column.addStretch(1)
            return
        column.addWidget(label(result.chain.name, "title", wrap=True))
        column.addWidget(label(_summary(result, self._measure(result)), "mute", wrap=True))
        self.finding_cards([f for f in self.store.assessment.findings if f.measure == self._measure(result).id])
        self._show_spread(result)
        if self._measure(result).limit is None:
            column.addWidget(button("set a limit in the brief", self._limit_it, kind="link"))
        if index >= 0:
            column.addWidget(label(f"Stage {index + 1} of {len(result.chain.stages)}", "heading"))
            column.addWidget(self._stage_form(result.chain.id, index, result.chain.stages[index]))
        column.addWidget(self._stage_buttons(result, index))
        column.addWidget(
            button("delete this chain", partial(self.store.attempt, edits.remove_chain, result.chain.id), kind="link")
        )
        column.addStretch(1)

    def _show_spread(self, result: ChainResult) -> None:
        """How its times spread, how old what it acts on is, what is lost between, how far it moves meanwhile."""
        column, limit = self.panel.column, self._measure(result).limit
        if result.latency is None:
            return
        canvas = Canvas(self.theme, name=f"Spread of {result.chain.name}")
        canvas.show_layout(lambda w, h: spread_picture(result, self.theme.kit, w, limit))
        column.addWidget(canvas)
        moved = moved_words(self.store.assessment, result)
        for words in (spread_words(result, limit), age_words(result), *sampling_words(result), moved):
            if words:
                column.addWidget(label(words, "mute", wrap=True))
        form = Form(self.theme)
        field = EntryField(number_reader("m/s", empty=True), "What it is about moves at")
        speed = result.chain.moves_m_s
        field.show_text("" if speed is None else units.show(speed, "m/s"))
        field.committed.connect(lambda value: self.store.attempt_or(
            field.complain, edits.set_chain, result.chain.id, moves_m_s=value))  # fmt: skip
        field.line.setPlaceholderText("as Motion rolls")
        form.add("moves at", field, "The machine, or what it aims at: how far it is meanwhile")
        column.addWidget(form)

    def _findings_of(self, value_id: str) -> None:
        """What there is to say of a processor with its tasks, or of a bus with its messages."""
        concept = self.store.project.concept
        own = {value_id, *(t.id for t in concept.tasks if t.processor == value_id),
               *(m.id for m in concept.messages if m.bus == value_id)}  # fmt: skip
        about = [f for f in self.store.assessment.findings if f.subject == "timing" and f.check != "chain"]
        self.finding_cards([f for f in about if f.of in own][:5])

    def _limit_it(self) -> None:
        result, _ = self._at
        if result is not None:
            self.desk.go_to_stage("brief")

    def _stage_form(self, chain_id: str, index: int, stage: Stage) -> Form:
        form = Form(self.theme)
        self.fields: dict[str, EntryField] = {}
        self._field(form, chain_id, index, "name", "Called", stage.name, str.strip)
        kind = Choice(KINDS, "Kind of stage")
        kind.show_value(stage.kind)
        kind.picked.connect(lambda k: self.store.attempt(edits.set_stage, chain_id, index, **self._as_kind(index, k)))
        form.add("Kind", kind)
        if isinstance(stage, Sampled):
            values = [("period_s", "looks every", stage.period_s), ("response_s", "then takes", stage.response_s)]
        elif isinstance(stage, Transfer):
            bus = Choice(BUSES, "Bus")
            bus.show_value(stage.bus)
            bus.picked.connect(lambda b: self.store.attempt(edits.set_stage, chain_id, index, bus=b))
            form.add("Bus", bus)
            clock = "baud rate" if stage.bus == "uart" else "clock"
            values = [("bytes", "bytes", stage.bytes), ("clock_hz", clock, stage.clock_hz)]
        elif isinstance(stage, Movement):
            loads = [("", "nothing yet"), *((x.id, x.name) for x in self.store.project.concept.loads)]
            load = Choice(loads, "What moves")
            load.show_value(stage.load)
            load.picked.connect(lambda v: self.store.attempt(edits.set_stage, chain_id, index, load=v))
            form.add("One movement of", load, "As long as Motion works out: a stroke, a swing, a spin-up")
            values = []
        elif isinstance(stage, Named):
            self._named_choices(form, chain_id, index, stage)
            values = []
        elif isinstance(stage, Again):
            values = [("stages", "stages before it", stage.stages), ("times", "times more", stage.times)]
        else:
            values = [("least_s", "at least", stage.least_s), ("most_s", "at most", stage.most_s)]
        for name, text, value in values:
            whole = name in {"bytes", "stages", "times"}
            read = number_reader("Hz" if name == "clock_hz" else units.unit_of(name), whole=whole)
            shown = str(value) if whole else units.show_named(name, value)
            self._field(form, chain_id, index, name, text, shown, read)
        return form

    def _named_choices(self, form: Form, chain_id: str, index: int, stage: Named) -> None:
        """Which task, message, link or eye it is, and what starts it."""
        room, field = NAMES[stage.kind]
        named = [("", "nothing yet"), *((x.id, x.name) for x in getattr(self.store.project.concept, room))]
        fields = [(field, f"Which {field}", named, "")]
        if not isinstance(stage, PictureStage | SignalStage):
            starts = [(w, w) for w in choices(type(stage), "starts")]
            hint = "Once a period it may just have been missed; at once it is started by what comes before"
            fields.append(("starts", "Starts", starts, hint))
        for name, text, options, tip in fields:
            choice = Choice(options, text)
            choice.show_value(getattr(stage, name))
            choice.picked.connect(lambda v, n=name: self.store.attempt(edits.set_stage, chain_id, index, **{n: v}))
            form.add(text, choice, tip)

    def _as_kind(self, index: int, kind: str) -> dict[str, object]:
        """Fields of a stage of another kind, with figures to start from."""
        result, _ = self._at
        bar = result.bars[index] if result is not None and index < len(result.bars) else None
        least, most = (bar.least_s, bar.most_s) if bar is not None else (0.001, 0.005)
        if kind == "sampled":
            return {"kind": kind, "period_s": max(most - least, 0.001), "response_s": least}
        if kind == "transfer":
            return {"kind": kind, "bus": "i2c", "bytes": 6, "clock_hz": 100e3}
        if kind in {"movement", "again", "task", "message", "air", "picture", "signal"}:
            return {"kind": kind}
        return {"kind": kind, "least_s": least, "most_s": most}

    def _field(
        self, form: Form, chain_id: str, index: int, name: str, text: str, shown: str, read: Callable[[str], object]
    ) -> None:
        field = EntryField(read, text)
        field.show_text(shown)
        field.committed.connect(
            lambda value: self.store.attempt_or(field.complain, edits.set_stage, chain_id, index, **{name: value})
        )
        self.fields[name] = field
        form.add(text, field)

    def _stage_buttons(self, result: ChainResult, index: int) -> QWidget:
        row = QWidget()
        box = QHBoxLayout(row)
        box.setContentsMargins(0, 0, 0, 0)
        chain_id = result.chain.id
        for text, edit, arguments in (
            ("earlier", edits.move_stage, (chain_id, index, index - 1)),
            ("later", edits.move_stage, (chain_id, index, index + 1)),
            ("delete", edits.remove_stage, (chain_id, index)),
        ):
            made = button(text, partial(self.store.attempt, edit, *arguments))
            made.setEnabled(index >= 0)
            box.addWidget(made)
        return row


def _summary(result: ChainResult, measure: Measure) -> str:
    if result.latency is None:
        return "not known yet" if result.chain.stages else "no stages yet"
    allowed = f" · {measure.limit_shown} allowed" if measure.limit is not None else " · no limit set"
    return (
        f"{units.show(result.latency.most_s, 's')} worst · {units.show(result.latency.typical_s, 's')} typical ·"
        f" {units.show(result.latency.least_s, 's')} at least{allowed}"
    )
