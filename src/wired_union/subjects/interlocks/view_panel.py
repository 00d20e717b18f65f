"""The right panel of Interlocks: a state, way, cue, hazard, gate or failure, or all that is to settle."""

from collections.abc import Collection
from functools import partial
from typing import Any

from wired_union.project.interlock_model import Failure, Gate, Hazard, MachineState, Passage
from wired_union.subjects.interlocks import edits
from wired_union.subjects.interlocks.assess import FAILING, GATES, STATES, STOPS
from wired_union.subjects.interlocks.failing import silent_in
from wired_union.subjects.interlocks.picture_states import clause_words
from wired_union.subjects.interlocks.view_base import InterlocksBase
from wired_union.ui.fields import Choice, Form, button, label
from wired_union.ui.value_form import ValueForm
from wired_union.units import show

EDITS = {
    "states": (edits.set_state, edits.remove_state), "passages": (edits.set_passage, edits.remove_passage),
    "cues": (edits.set_cue, edits.remove_cue), "hazards": (edits.set_hazard, edits.remove_hazard),
    "gates": (edits.set_gate, edits.remove_gate), "failures": (edits.set_failure, edits.remove_failure),
}  # fmt: skip
WORDS = {
    "mode": "mode of Power", "entry": "on the way in", "is_stop": "everything stands", "may_end": "may end there",
    "item": "the part", "quantity": "compares", "side": "true", "threshold": "threshold", "hysteresis": "false again",
    "dwell_s": "held for", "urgent": "asks for a stop", "start": "from", "end": "to", "after_s": "after a time of",
    "chain": "as long as chain", "most_s": "takes at most", "rank": "goes first, rank", "hurts": "what can happen",
    "severity": "how bad, 1 to 4", "likelihood": "how likely, 1 to 4", "guarded_by": "guarded by",
    "checked_by": "who looks", "energy_j": "releases", "wanted": "failures wanted", "stays": "stays without power",
    "released_by": "unloaded by", "hazard": "stands before", "beside": "beside gate", "hands": "hands",
    "has_key": "takes a key", "seen_by": "noticed by",
    "told_by": "the machine notices by",
}  # fmt: skip
EMPTIES = {"threshold": "not known", "after_s": "no time-out", "most_s": "not known", "energy_j": "not known",
           "wanted": "by how bad it is"}  # fmt: skip
SKIP = {"x", "y", "clauses", "meant_in", "closed_in", "closes", "silences", "beyond"}


class InterlockPanel:
    """Fills the panel of the view by what is selected."""

    def __init__(self, view: InterlocksBase) -> None:
        self.view, self.store, self.theme = view, view.store, view.theme
        self.fields: dict[str, Any] = {}

    @property
    def column(self) -> Any:
        return self.view.panel.column

    def show(self) -> None:
        """The form of what is selected; else findings and cautions."""
        self.view.panel.clear()
        self.fields = {}
        picked, concept = self.view.picked, self.store.project.concept
        value = (
            next((x for x in getattr(concept, picked.room) if x.id == picked.id), None)
            if picked.room in EDITS
            else None
        )
        if value is None:
            self._whole()
        else:
            self._value(picked.room, value)
        self.column.addStretch(1)

    def _whole(self) -> None:
        self.column.addWidget(label("Interlocks", "title"))
        found = [f for f in self.store.assessment.findings if f.subject == "interlocks"]
        hint = (
            "Select a state, a way or a gate; press a gate to break it."
            if found
            else ("Add states, and what can hurt with the gates before it.")
        )
        self.column.addWidget(label(hint, "mute", wrap=True))
        self.view.finding_cards(found[:5])
        if len(found) > 5:
            self.column.addWidget(label(f"and {len(found) - 5} more, each at its state or hazard", "mute", wrap=True))
        cues = self.store.project.concept.cues
        if cues:
            self.column.addWidget(label("Cues", "heading"))
        for cue in cues:
            self.column.addWidget(button(cue.name, partial(self.view.pick, "cues", cue.id), kind="link"))
        self._cautions()

    def _cautions(self) -> None:
        own = [s for s in self.store.assessment.subjects if s.id == "interlocks" and s.cautions is not None]
        for subject in own:
            assert subject.cautions is not None
            self.view.show_cautions(tuple(subject.cautions(self.store.project.concept)))

    def _value(self, room: str, value: Any) -> None:
        column, store = self.column, self.store
        column.addWidget(label(value.name, "title", wrap=True))
        for line in self._said(value):
            column.addWidget(label(line, "mute", wrap=True))
        found = [f for f in store.assessment.findings if f.subject == "interlocks"]
        of = value.hazard if isinstance(value, Gate) else value.start if isinstance(value, Passage) else value.id
        self.view.finding_cards([f for f in found if f.of == of][:3])
        form = ValueForm(self.theme, store, value, value.name, partial(self._set, room, value), words=WORDS,
                         skip=SKIP, empties=EMPTIES)  # fmt: skip
        column.addWidget(form)
        self.fields |= form.fields
        if isinstance(value, Passage):
            self._clauses(value)
        if isinstance(value, Hazard):
            self._toggles(
                "meant in", {c.state for c in value.meant_in}, partial(edits.toggle_meant), value.id, "states"
            )
        if isinstance(value, Gate):
            self._toggles(
                "closed in", {c.state for c in value.closed_in}, partial(edits.toggle_closed), value.id, "states"
            )
            broken = value.id in self.view.broken
            column.addWidget(
                button(
                    "mend it" if broken else "break it and see", partial(self.view.press_gate, value.id), kind="link"
                )
            )
        if isinstance(value, Failure):
            self._toggles("closes", {c.gate for c in value.closes}, partial(edits.toggle_closes), value.id, "gates")
            silent = {s.cue for s in value.silences}
            of_part = silent_in(store.project.concept, value.but(silences=()))
            self._toggles("not told then", silent, partial(edits.toggle_silences), value.id, "cues", without=of_part)
        away = partial(store.attempt, EDITS[room][1], value_id=value.id)
        column.addWidget(button(f"take {value.name} away", away, kind="link"))

    def _set(self, room: str, value: Any, complain: Any, field: str, new: Any) -> None:
        set_it = EDITS[room][0]
        self.store.attempt_or(complain, set_it, value_id=value.id, **{field: new})

    def _said(self, value: Any) -> list[str]:
        """What is worked out of it."""
        assessment = self.store.assessment
        machine = assessment.of(STATES).machine
        if isinstance(value, MachineState):
            story = machine.story(value.id)
            stops = [s for s in assessment.of(STOPS) if s.state == value.id]
            times = [f"{machine.cues[s.cue].name}: stands still within {show(s.time_s, 's')}" for s in stops
                     if s.time_s is not None and s.time_s < float("inf")]  # fmt: skip
            return [f"Shortest story there: {story}." if story else "Nothing leads there.", *times]
        if isinstance(value, Passage):
            return [f"Taken when {clause_words(machine, value)}."]
        if isinstance(value, Hazard):
            result = next(r for r in assessment.of(GATES) if r.hazard.id == value.id)
            return [f"{len(c.failures)}: {c.said}" for c in result.cuts[:5]]
        if isinstance(value, Failure):
            return self._failing_said(value)
        return []

    def _failing_said(self, failure: Failure) -> list[str]:
        machine = self.store.assessment.of(STATES).machine
        found = next((f for f in self.store.assessment.of(FAILING) if f.failure.id == failure.id), None)
        if found is None or not (found.silent or failure.told_by):
            return []
        silent = ", ".join(c.name for c in machine.cues.values() if c.id in found.silent)
        told = [f"Not told then: {silent}."] if silent else []
        if not (found.stuck or found.unnoticed) and found.time_s is not None:
            told.append(f"Stands still within {show(found.time_s, 's')} from any state.")
        return told

    def _toggles(self, text: str, now: set[str], edit: Any, of: str, room: str, without: Collection[str] = ()) -> None:
        """States, gates or cues, each switched by a press."""
        self.column.addWidget(label(text[:1].upper() + text[1:], "heading"))
        for x in (x for x in getattr(self.store.project.concept, room) if x.id not in without):
            mark = "✓" if x.id in now else "–"
            made = button(f"{mark} {x.name}", partial(self.store.attempt, edit, of, x.id), kind="link")
            made.setAccessibleName(f"{text} {x.name}: {'yes' if x.id in now else 'no'}")
            self.column.addWidget(made)
            self.fields[f"{text} {x.id}"] = made

    def _clauses(self, way: Passage) -> None:
        """What takes it: cues that must all be so, clause by clause; one more of each."""
        cues = {c.id: c.name for c in self.store.project.concept.cues}
        form = Form(self.theme)
        for n, clause in enumerate(way.clauses):
            form.add_heading("When" if n == 0 else "or when")
            for part in clause.parts:
                text = f"{'not ' if part.is_not else ''}{cues[part.cue]} ✕"
                less = partial(self.store.attempt, edits.ask_no_more, way.id, n, part.cue)
                form.add("", button(text, less, kind="link", tip="Ask for it no more"))
            form.add("and", self._cue_choice(way, n, f"and {n}"))
        form.add_heading("When" if not way.clauses else "or when")
        form.add("", self._cue_choice(way, len(way.clauses), "or"))
        self.column.addWidget(form)

    def _cue_choice(self, way: Passage, clause: int, name: str) -> Choice:
        cues = self.store.project.concept.cues
        options = [
            ("", "choose a cue"),
            *((f"+{c.id}", c.name) for c in cues),
            *((f"-{c.id}", f"not {c.name}") for c in cues),
        ]
        choice = Choice(options, f"{way.name}: {name}")
        choice.picked.connect(
            lambda v: v and self.store.attempt(edits.ask_also, way.id, clause, v[1:], is_not=v.startswith("-"))
        )
        self.fields[name] = choice
        return choice
