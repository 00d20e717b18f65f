"""The list of what can hurt: found from the parts, added by the team, ticked before each run with date and hand."""

from functools import partial

from wired_union.project.interlock_model import Hazard
from wired_union.subjects.interlocks import edits
from wired_union.subjects.interlocks.hazards import not_listed
from wired_union.subjects.interlocks.view_base import InterlocksBase
from wired_union.ui import ask
from wired_union.ui.fields import button, empty, label
from wired_union.ui.list_card import ListCard

SEVERITIES = {1: "a scratch", 2: "a wound", 3: "lasting harm", 4: "death"}
MOST = 8


class HazardsCard(ListCard):
    """Every hazard with how bad, what guards and who looked last; what was found and is on no list."""

    def __init__(self, view: InterlocksBase) -> None:
        super().__init__(view.theme, "What can hurt, and what to look at before each run")
        self.view = view
        self.box.addLayout(self.listed)
        self.box.addWidget(button("+ something that can hurt", self._add, kind="link"))

    def show_all(self) -> None:
        """Write what the store holds."""
        empty(self.listed)
        concept = self.view.store.project.concept
        for h in concept.hazards:
            self.listed.addWidget(button(h.name, partial(self.view.pick, "hazards", h.id), kind="link"))
            self.listed.addWidget(label(self._said(h), "mute", wrap=True))
            self.listed.addWidget(button("looked at before this run", partial(self._tick, h), kind="link"))
        found = not_listed(concept)
        if found:
            self.listed.addWidget(label("Found from the parts, on no list yet", "heading"))
        for f in found[:MOST]:
            act = partial(self.view.store.attempt, edits.take_on, f)
            self.listed.addWidget(button(f"+ {f.item.name}: {f.kind}", act, kind="link"))
        if len(found) > MOST:
            self.listed.addWidget(label(f"and {len(found) - MOST} more", "mute"))

    def _said(self, h: Hazard) -> str:
        ticks = [t for t in self.view.store.project.concept.ticks if t.hazard == h.id]
        last = f" Last looked at {ticks[-1].on} by {ticks[-1].by}." if ticks else " Nobody looked at it yet."
        guards = f" Guarded by {h.guarded_by}." if h.guarded_by else " Nothing is said to guard it."
        hurts = f"{h.hurts[:1].upper()}{h.hurts[1:]}: " if h.hurts else ""
        return f"{hurts}{SEVERITIES[h.severity]} at worst, likelihood {h.likelihood} of 4.{guards}{last}"

    def _tick(self, h: Hazard) -> None:
        name, meant = ask.word(self, h.name, f"Who looked? {h.guarded_by or 'What guards it stands as it should.'}")
        if meant:
            self.view.store.attempt(edits.tick, h.id, self.view.desk.today(), name)

    def _add(self) -> None:
        self.view.add("hazards", "What can hurt", "What is it called? “Core ejector”, “Lift falls”", edits.add_hazard)
