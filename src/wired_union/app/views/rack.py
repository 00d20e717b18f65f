"""The views of one window, each made when it is first looked at, so that the window stands sooner."""

from collections.abc import Callable, Iterator, Mapping

from wired_union.app.views.brief import BriefView
from wired_union.app.views.candidates import CandidatesView
from wired_union.app.views.combination import CombinationView
from wired_union.app.views.concepts import ConceptsView
from wired_union.app.views.mass import MassView
from wired_union.app.views.parts import PartsView
from wired_union.app.views.power import PowerView
from wired_union.app.views.timing import TimingView
from wired_union.app.views.view import Desk, View

KINDS: tuple[type[View], ...] = (
    BriefView, ConceptsView, PartsView, CandidatesView, CombinationView, PowerView, MassView, TimingView,
)  # fmt: skip
"""In the order of the rail and of the keys Alt+1 to Alt+9."""


class ViewRack(Mapping[str, View]):
    """Views by stage. `placed` is told of each one as it is made."""

    def __init__(self, desk: Desk, placed: Callable[[View], None]) -> None:
        self._desk, self._placed = desk, placed
        self._kinds = {kind.stage: kind for kind in KINDS}
        self.made: dict[str, View] = {}

    def __getitem__(self, stage: str) -> View:
        if stage not in self.made:
            view = self._kinds[stage](self._desk)
            self.made[stage] = view
            self._placed(view)
        return self.made[stage]

    def __contains__(self, stage: object) -> bool:
        return stage in self._kinds

    def __iter__(self) -> Iterator[str]:
        return iter(self._kinds)

    def __len__(self) -> int:
        return len(self._kinds)

    @property
    def titles(self) -> dict[str, str]:
        """Each stage's title, without making its view."""
        return {stage: kind.title for stage, kind in self._kinds.items()}
