"""The views of one window, each loaded and made when it is first looked at, so that the window stands sooner."""

from collections.abc import Callable, Iterator, Mapping
from importlib import import_module
from typing import NamedTuple

from wired_union.app.views.view import Desk, View


class Kind(NamedTuple):
    """A view that can be made: its stage, its title, and where its class is."""

    stage: str
    title: str
    module: str
    name: str

    def load(self) -> type[View]:
        """The class of the view."""
        found: type[View] = getattr(import_module(f"wired_union.app.views.{self.module}"), self.name)
        return found


KINDS = (
    Kind("brief", "Brief", "brief", "BriefView"),
    Kind("concepts", "Concepts", "concepts", "ConceptsView"),
    Kind("parts", "Parts", "parts", "PartsView"),
    Kind("candidates", "Candidates", "candidates", "CandidatesView"),
    Kind("combination", "Best mix", "combination", "CombinationView"),
    Kind("motion", "Motion", "motion", "MotionView"),
    Kind("power", "Power", "power", "PowerView"),
    Kind("mass", "Mass", "mass", "MassView"),
    Kind("timing", "Timing", "timing", "TimingView"),
)
"""In the order of the rail and of the keys Alt+1 to Alt+9."""


class ViewRack(Mapping[str, View]):
    """Views by stage. `placed` is told of each one as it is made."""

    def __init__(self, desk: Desk, placed: Callable[[View], None]) -> None:
        self._desk, self._placed = desk, placed
        self._kinds = {kind.stage: kind for kind in KINDS}
        self.made: dict[str, View] = {}

    def __getitem__(self, stage: str) -> View:
        if stage not in self.made:
            view = self._kinds[stage].load()(self._desk)
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
