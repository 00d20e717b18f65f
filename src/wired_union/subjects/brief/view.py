"""Brief: each limit as a wire with its number, how it will be proved, and the reserve."""

from collections.abc import Callable
from functools import partial
from typing import Any

from PyQt6.QtWidgets import QFrame, QHBoxLayout, QMenu, QVBoxLayout

from wired_union import units
from wired_union.kernel.results import Measure, Verdict
from wired_union.kernel.subject import NOT_INFORMED, NOT_TRIED, Selection, limit_on
from wired_union.picture.bars import Bar, share_bars
from wired_union.project.change import Change
from wired_union.project.meanings import meanings
from wired_union.project.model import Brief, Limit, Project
from wired_union.project.value import choices
from wired_union.subjects.brief import edits
from wired_union.subjects.brief.picture import brief_row
from wired_union.subjects.brief.steps import first_steps
from wired_union.subjects.trials.gives import proofs_of, proofs_picture
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas, PictureButton
from wired_union.ui.fields import Choice, EntryField, Form, button, empty, label, number_reader, wrapped
from wired_union.ui.view import Desk, View, card

MOST_GAPS, WIDE = 5, 420.0
GROUPS = ("Endure", "Carry and fit", "React", "Cost", "Prove")

EMPTY = {"small_things": "not counted", "margin_why": "for the report"}
"""What stands in a field that is empty."""


class BriefView(View):
    stage, title = "brief", "Brief"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self._groups = QVBoxLayout()
        self._groups.setSpacing(self.theme.px(8))
        self.column.addLayout(self._groups)
        foot = QHBoxLayout()
        self.add_button = button("+ add a limit", self._offer_limits, kind="link")
        foot.addWidget(self.add_button)
        self._uninformed = label("", "mute", wrap=True)
        foot.addWidget(self._uninformed, 1)
        self.column.addLayout(foot)
        self.proofs = Canvas(self.theme, name="How each wish is proved")
        self.proofs.chosen.connect(lambda of: self.store.pick(of))
        self._proofs_card = card(self.theme, label("How each wish is proved", "heading"), self.proofs)
        self.column.addWidget(self._proofs_card)
        self._gaps = QVBoxLayout()
        self._gaps.setSpacing(self.theme.px(6))
        self.column.addLayout(self._gaps)
        self.column.addStretch(1)
        self.rows: dict[str, PictureButton] = {}
        self._form_for, self._form_school = "", ""
        self._fields: dict[str, EntryField] = {}
        self._direction: Choice | None = None

    @property
    def _selected(self) -> str:
        wanted = self.store.picked(Selection).measure
        limits = self.store.project.brief.limits
        if any(x.measure == wanted for x in limits):
            return wanted
        return limits[0].measure if limits else ""

    def refresh(self) -> None:
        measures = self.store.assessment.measures
        counts = [sum(m.verdict is v for m in measures) for v in (Verdict.BREAKS, Verdict.TIGHT, Verdict.UNKNOWN)]
        words = [f"{n} {w}" for n, w in zip(counts, ("break" if counts[0] != 1 else "breaks", "tight", "unknown"),
                                            strict=True) if n]  # fmt: skip
        told = ", ".join(words) or "all hold"
        more = len(self.store.assessment.breaks_besides)
        besides = f" · {more} more {'thing breaks' if more == 1 else 'things break'}" if more else ""
        self.subtitle.setText(f"{len(measures)} limits, each with its number and its proof · {told}{besides}")
        self._show_rows()
        gaps = self.store.assessment.uninformed
        names = ", ".join(x.name.lower() for x in self.store.project.brief.limits if x.measure in gaps)
        self._uninformed.setText(f"Nothing yet informs: {names}." if gaps else "")
        proofs, kit = proofs_of(self.store.assessment), self.theme.kit
        self._proofs_card.setVisible(bool(proofs))
        self.proofs.show_layout(lambda w, h: proofs_picture(proofs, kit, w, self._selected))
        self._show_gaps()
        self._show_panel()

    def previewed(self) -> None:
        self._draw_rows()

    def _show_gaps(self) -> None:
        """What is still to be known, with what would fill it: a list that empties as the project grows."""
        empty(self._gaps)
        found = [f for f in self.store.assessment.findings if f.is_gap]
        if not found:
            return
        self._gaps.addWidget(label(f"Still to be known: {len(found)}", "heading"))
        self.finding_cards(found[:MOST_GAPS], self._gaps, WIDE)
        if len(found) > MOST_GAPS:
            self._gaps.addWidget(label(f"… and {len(found) - MOST_GAPS} more after these.", "mute"))

    def _show_rows(self) -> None:
        if list(self.rows) != [x.measure for x in self._ordered()]:
            self._rebuild_rows()
        self._draw_rows()

    def _ordered(self) -> list[Limit]:
        limits = self.store.project.brief.limits
        groups = [*GROUPS, *(x.group for x in limits)]
        return sorted(limits, key=lambda x: groups.index(x.group))

    def _rebuild_rows(self) -> None:
        empty(self._groups)
        self.rows = {}
        for group in dict.fromkeys(x.group for x in self._ordered()):
            frame = QFrame()
            frame.setObjectName("card")
            column = QVBoxLayout(frame)
            column.setContentsMargins(1, self.theme.px(6), 1, self.theme.px(3))
            column.setSpacing(0)
            head = label(f"   {group.upper()}", "hint")
            column.addWidget(head)
            for limit in self._ordered():
                if limit.group == group:
                    row = PictureButton(self.theme)
                    row.clicked.connect(lambda _=False, m=limit.measure: self.store.change(Selection, measure=m))
                    self.rows[limit.measure] = row
                    column.addWidget(row)
            self._groups.addWidget(frame)

    def _draw_rows(self) -> None:
        preview = self.store.preview
        rings = {m.id: m.after.use for m in preview.moves if m.moved} if preview else {}
        view = self.viewport()
        width = (view.width() if view else 700) - self.theme.px(34)
        for limit in self.store.project.brief.limits:
            row = self.rows.get(limit.measure)
            if row is None:
                continue
            measure = self.store.assessment.measure(limit.measure)
            picture = brief_row(
                limit, measure, self.theme.kit, width, selected=limit.measure == self._selected,
                ring=rings.get(limit.measure),
            )  # fmt: skip
            said = f"{limit.name}: {measure.shown}, {limit.direction} {measure.limit_shown}, {measure.verdict.value}"
            row.show_picture(picture, said)

    def resizeEvent(self, event: object) -> None:
        super().resizeEvent(event)  # type: ignore[arg-type]
        self._draw_rows()

    def _offer_limits(self) -> None:
        menu = QMenu(self)
        own = menu.addAction("One of our own, which we measure …")
        assert own is not None
        own.triggered.connect(lambda _=False: self._add_own())
        taken = {x.measure for x in self.store.project.brief.limits}
        for measure in self.store.assessment.limited_measures.values():
            if measure.id not in taken:
                action = menu.addAction(f"{measure.label} (now {measure.shown})")
                assert action is not None
                action.triggered.connect(lambda _=False, m=measure: self._add_limit(m))
        for kind in self.store.assessment.not_worked_out:
            action = menu.addAction(f"{kind.kind}: {kind.about}")
            assert action is not None
            action.triggered.connect(lambda _=False, k=kind.kind: self._add_limit(self.store.assessment.measure(k)))
        menu.popup(self.add_button.mapToGlobal(self.add_button.rect().topLeft()))

    def _add_own(self) -> None:
        """Ask what the team wants to measure itself, and select the new limit for its number and unit."""
        name, meant = ask.word(self, "A limit of our own", "What is wanted? “Pieces sorted in a minute”")
        if meant and self.store.attempt(edits.add_own_limit, name):
            self.store.change(Selection, measure=self.store.project.brief.limits[-1].measure)

    def _add_limit(self, measure: Measure) -> None:
        """Add a limit where the project stands now, rounded, for the team to change."""
        limit = limit_on(measure, self.store.assessment.kind_of(measure.id))
        if self.store.attempt(edits.add_limit, limit):
            self.store.change(Selection, measure=measure.id)

    # the panel

    def _show_panel(self) -> None:
        measure_id = self._selected
        limit = self.store.project.brief.limit(measure_id)
        if limit is None:
            self._form_for = ""
            self.panel.clear()
            self._show_steps()
            self.panel.column.addStretch(1)
            return
        school = self.store.project.brief.margin_school  # which sets what fields there are
        if (self._form_for, self._form_school) != (measure_id, school) or "value" not in self._fields:
            self._build_form(limit)
            self._form_for, self._form_school = measure_id, school
        self._fill_form(limit)

    def _build_form(self, limit: Limit) -> None:
        self.panel.clear()
        column = self.panel.column
        self._heading = label("", "title", wrap=True)
        self._about = label("", "mute", wrap=True)
        column.addWidget(self._heading)
        column.addWidget(self._about)
        form = Form(self.theme)
        unit = self.store.assessment.measure(limit.measure).unit
        self._direction = Choice((("at most", "at most"), ("at least", "at least")), "Direction")
        self._direction.picked.connect(lambda v: self._set("direction", v))
        self._fields = {
            "name": EntryField(str.strip, "Name of the limit"),
            "value": EntryField(number_reader(unit), "Limit"),
            "reserve": EntryField(number_reader(""), "Reserve"),
            "proof": EntryField(str.strip, "Proved by"),
            "group": EntryField(str.strip, "Group"),
        }
        form.add("Called", self._fields["name"])
        form.add("Direction", self._direction)
        form.add("Limit", self._fields["value"], "What is wanted, with its unit")
        form.add("Kept in hand", self._fields["reserve"], "Share of the limit kept free; tight beyond it")
        form.add("Proved by", self._fields["proof"], "How the team will show it")
        form.add("Group", self._fields["group"])
        for name, field in self._fields.items():
            field.committed.connect(lambda value, n=name: self._set(n, value))
        self._add_measured(form, limit, unit)
        if limit.measure == "runtime":
            self._add_brief_field(form, "energy_reserve", "Pack reserve", edits.set_energy_reserve)
        if limit.measure == "mass":
            self._add_brief_field(form, "mass_margin", "System margin", edits.set_mass_margin)
            self._add_mass_rules(form)
        column.addWidget(form)
        self._lower = QVBoxLayout()
        self._lower.setSpacing(self.theme.px(8))
        column.addLayout(self._lower)
        column.addStretch(1)

    def _add_measured(self, form: Form, limit: Limit, unit: str) -> None:
        """What the team measured, when and who; where nothing computes it, its unit as well."""
        more = {
            "measured": EntryField(number_reader(unit, empty=True), "Measured"),
            "measured_on": EntryField(str.strip, "Measured on"),
            "measured_by": EntryField(str.strip, "Measured by"),
        }
        if self.store.assessment.kind_of(limit.measure) is None:
            more = {"unit": EntryField(str.strip, "Unit"), **more}
            form.add("Unit", more["unit"], "As it is written behind the number")
        form.add("Measured", more["measured"], "What a trial showed; empty until there was one")
        form.add("On", more["measured_on"], "The day, as 2026-11-25")
        form.add("By", more["measured_by"])
        for name, field in more.items():
            field.committed.connect(lambda value, n=name: self._set(n, value))
        self._fields |= more

    def _add_brief_field(self, form: Form, name: str, text: str, edit: Callable[[Project, float], Change]) -> None:
        field = EntryField(number_reader(""), text)
        field.committed.connect(lambda value: self.store.attempt_or(field.complain, edit, value))
        self._fields[name] = field
        tip = "Share of the pack never planned on" if name == "energy_reserve" else "On top of all allowances"
        form.add(text, field, tip)

    def _add_mass_rules(self, form: Form) -> None:
        """Which school of margins the brief follows and why, and a rule for what nobody lists."""
        brief = self.store.project.brief
        school = Choice([(w, w) for w in choices(Brief, "margin_school")], "Allowance")
        school.show_value(brief.margin_school)
        school.picked.connect(lambda v: self.store.attempt(edits.set_mass_rule, "margin_school", v))
        form.add("Allowance", school, meanings(Brief)["margin_school"])
        wanted: dict[str, tuple[str, Callable[[str], Any]]] = {
            "small_things": ("Cables, screws, glue", number_reader("", empty=True)),
            "margin_why": ("Why so", str.strip),
        }
        if brief.margin_school == "fixed share":
            wanted = {"fixed_allowance": ("Share of all", number_reader("")), **wanted}
        for name, (text, read) in wanted.items():
            field = EntryField(read, text)
            field.committed.connect(
                lambda v, n=name, f=field: self.store.attempt_or(f.complain, edits.set_mass_rule, n, v)
            )
            self._fields[name] = field
            form.add(text, field, meanings(Brief)[name])

    def _set(self, name: str, value: object) -> None:
        field = self._fields.get(name)
        if name in {"name", "group"} and not value:
            if field is not None:
                field.complain("This cannot be empty.")
            return
        complain = field.complain if field is not None else lambda _: None
        if name == "measured":
            given = value if isinstance(value, float) else None
            self.store.attempt_or(complain, edits.measure_limit, self._form_for, given, self.desk.today())
            return
        done = self.store.attempt_or(complain, edits.set_limit, self._form_for, **{name: value})
        if done and name == "unit":
            self._form_for = ""  # the fields read another unit now
            self._show_panel()

    def _fill_form(self, limit: Limit) -> None:
        measure = self.store.assessment.measure(limit.measure)
        brief = self.store.project.brief
        self._heading.setText(limit.name)
        about = self._what_it_is(limit.measure)
        if measure.missing in {(NOT_INFORMED,), (NOT_TRIED,)}:
            about = "Nothing this program computes informs it: it stays unknown until you write down what you measured."
        elif measure.measured:
            about = f"{measure.measured[:1].upper()}{measure.measured[1:]}; nothing computes it.".replace("  ", " ")
        self._about.setText(about)
        texts = {
            "name": limit.name,
            "value": measure.limit_shown,
            "reserve": units.show(limit.reserve, fraction=True),
            "proof": limit.proof,
            "group": limit.group,
            "unit": limit.unit,
            "measured": "" if limit.measured is None else units.show(limit.measured, measure.unit),
            "measured_on": limit.measured_on,
            "measured_by": limit.measured_by,
            "energy_reserve": units.show(brief.energy_reserve, fraction=True),
            "mass_margin": units.show(brief.mass_margin, fraction=True),
            "fixed_allowance": units.show(brief.fixed_allowance, fraction=True),
            "small_things": "" if brief.small_things is None else units.show(brief.small_things, fraction=True),
            "margin_why": brief.margin_why,
        }
        for name, field in self._fields.items():
            field.show_text(texts[name], EMPTY.get(name, ""))
        if self._direction is not None:
            self._direction.show_value(limit.direction)
        self._fill_lower(limit, measure)

    def _fill_lower(self, limit: Limit, measure: Measure) -> None:
        empty(self._lower)
        for gap in measure.missing[:4]:
            if gap not in {NOT_INFORMED, NOT_TRIED}:
                self._lower.addWidget(label(f"Not known yet: {gap}", "mute", wrap=True))
        bars = self._drivers(limit.measure)
        if bars:
            self._lower.addWidget(label("What drives it", "heading"))
            chart = Canvas(self.theme, name="What drives it")
            chart.setFocusPolicy(chart.focusPolicy().NoFocus)
            chart.setFixedHeight(self.theme.px(23) * len(bars))
            self._lower.addWidget(chart)
            chart.show_layout(lambda w, h: share_bars(bars, self.theme.kit, w))
        stage = button("Why this figure?", lambda: self.desk.go_to_stage(limit.measure), kind="main")
        drop = button("Drop this limit", lambda: self.store.attempt(edits.remove_limit, limit.measure))
        if limit.measure in self.store.assessment.limited_measures:
            self._lower.addWidget(stage)
        self._lower.addWidget(drop)
        self._show_steps()

    def _air_form(self) -> Form:
        """The air around the parts, which every part must stand and every converter must get rid of its heat in."""
        form, brief = Form(self.theme), self.store.project.brief
        for name, text in (("coldest_c", "Coldest air"), ("hottest_c", "Warmest air")):
            field = EntryField(number_reader("°C"), text)
            field.show_text(units.show(getattr(brief, name), "°C"))
            field.committed.connect(lambda v, f=field, n=name: self.store.attempt_or(f.complain, edits.set_air, n, v))
            form.add(text, field, "Around the parts, in the shade of the box")
        currency = Choice([(c, c) for c in units.CURRENCIES], "Currency")
        currency.show_value(brief.currency)
        currency.picked.connect(lambda v: self.store.attempt(edits.set_currency, v))
        form.add("Money in", currency, "Amounts stay the numbers they are; nothing is converted")
        return form

    def _show_steps(self) -> None:
        column = self._lower if self._form_for else self.panel.column
        column.addWidget(label("Where it works, and what is paid", "heading"))
        column.addWidget(self._air_form())
        steps = first_steps(self.store.project, self.store.assessment)
        if not steps:
            return
        column.addWidget(label("First steps", "heading"))
        for step in steps:
            column.addWidget(
                button(wrapped(f"→ {step.text}", self.theme), partial(self.desk.go_to_stage, step.stage), kind="link")
            )

    def _what_it_is(self, measure: str) -> str:
        kind = self.store.assessment.kind_of(measure)
        return kind.about if kind is not None else "nothing computes it yet: show it by a test"

    def _drivers(self, measure: str) -> list[Bar]:
        """What drives a measure, as the subject that explains it says."""
        assessment = self.store.assessment
        kind = assessment.kind_of(measure)
        found = kind.drivers(assessment, assessment.measure(measure)) if kind is not None and kind.drivers else []
        return [Bar(d.name, d.amount, d.text, d.ink) for d in found if d.amount > 0]
