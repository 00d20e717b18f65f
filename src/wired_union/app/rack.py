"""The views of one window, each loaded and made when it is first looked at, so that the window stands sooner."""

from collections.abc import Callable, Iterator, Mapping

from wired_union.kernel.subject import Subject
from wired_union.ui.view import Desk, View


class ViewRack(Mapping[str, View]):
    """Views by stage. `placed` is told of each one as it is made."""

    def __init__(self, subjects: tuple[Subject, ...], desk: Desk, placed: Callable[[View], None]) -> None:
        self._desk, self._placed = desk, placed
        self._subjects = {s.id: s for s in subjects}
        self.made: dict[str, View] = {}

    def __getitem__(self, stage: str) -> View:
        if stage not in self.made:
            subject = self._subjects[stage]
            view: View = subject.load(subject.view)(self._desk)
            self.made[stage] = view
            self._placed(view)
        return self.made[stage]

    def __contains__(self, stage: object) -> bool:
        return stage in self._subjects

    def __iter__(self) -> Iterator[str]:
        return iter(self._subjects)

    def __len__(self) -> int:
        return len(self._subjects)

    @property
    def titles(self) -> dict[str, str]:
        """Each stage's title, without making its view."""
        return {stage: s.title for stage, s in self._subjects.items()}
