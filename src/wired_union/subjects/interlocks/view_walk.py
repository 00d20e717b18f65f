"""The states walked step by step: where it is, what could happen next, the story so far."""

from collections.abc import Callable
from functools import partial

from wired_union.project.interlock_model import Passage
from wired_union.subjects.interlocks.assess import STATES
from wired_union.subjects.interlocks.edits import mission_of
from wired_union.subjects.interlocks.picture_states import clause_words
from wired_union.ui.fields import button, empty, label
from wired_union.ui.list_card import ListCard
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.units import show

USUAL_S = 60.0
"""How long a state lasts in a mission while nothing says: a minute, for the team to change."""


class WalkCard(ListCard):
    """A walk of this look only; it can become the mission."""

    def __init__(self, store: Store, theme: Theme, walked: Callable[[], None]) -> None:
        super().__init__(theme, "Walk the states")
        self._store, self._tell = store, walked
        self.path: list[tuple[str, str, float]] = []
        """State, the way by which it was left, and how long it was in it."""
        self.state = ""
        self.box.addLayout(self.listed)

    def show_walk(self) -> None:
        """Where it is and what could happen next."""
        empty(self.listed)
        machine = self._store.assessment.of(STATES).machine
        self.setVisible(bool(machine.states))
        if not machine.states:
            self.path, self.state = [], ""
            return
        if self.state not in machine.names or any(s not in machine.names for s, _, _ in self.path):
            self.path, self.state = [], machine.states[0].id
        here = next(s for s in machine.states if s.id == self.state)
        told = "".join(f"{machine.names[s]} — {name} → " for s, name, _ in self.path[-8:])
        entry = f" On the way in: {here.entry}." if here.entry else ""
        self.listed.addWidget(label(f"{told}{here.name}.{entry}", "", wrap=True))
        ways = machine.ways[self.state]
        for p in ways:
            text = f"{p.name} → {machine.names[p.end]}"
            self.listed.addWidget(button(text, partial(self.take, p), kind="link", tip=clause_words(machine, p)))
        if not ways:
            self.listed.addWidget(label("No way leads out.", "mute"))
        if self.path:
            self.listed.addWidget(button("a step back", self.back, kind="link"))
            self.listed.addWidget(button("from the start", self.again, kind="link"))
            self.listed.addWidget(
                button("take this walk as the mission", self._as_mission, kind="link",
                       tip="A phase for each state with a mode, as long as its time-out or as it is in the mission now")
            )  # fmt: skip

    def take(self, p: Passage) -> None:
        """Go that way."""
        self.path.append((self.state, p.name, self._lasts(p)))
        self.state = p.end
        self._tell()

    def _lasts(self, p: Passage) -> float:
        if p.after_s is not None:
            return p.after_s
        concept = self._store.project.concept
        mode = next((s.mode for s in concept.states if s.id == self.state), "")
        return next((x.duration_s for x in concept.mission.phases if x.mode == mode), USUAL_S)

    def back(self) -> None:
        self.state = self.path.pop()[0]
        self._tell()

    def again(self) -> None:
        self.path, self.state = [], self.path[0][0]
        self._tell()

    def _as_mission(self) -> None:
        walked = [(s, seconds) for s, _, seconds in self.path]
        self._store.attempt(mission_of, [*walked, (self.state, USUAL_S)])

    @property
    def said(self) -> str:
        """The durations of the walk, for who listens."""
        return ", ".join(f"{s} {show(seconds, 's')}" for s, _, seconds in self.path)
