"""The one holder of the project and its history. Views show what it holds and hand it changes."""

from collections.abc import Callable, Sequence
from typing import Any, Concatenate, ParamSpec, TypeVar

from msgspec import Struct
from msgspec.structs import replace
from PyQt6.QtCore import QObject, pyqtSignal

from wired_union.kernel.concepts import assess_all
from wired_union.kernel.diary import with_entry
from wired_union.kernel.ripple import Ripple, compare
from wired_union.kernel.subject import Assessment
from wired_union.project.change import Change
from wired_union.project.errors import ProjectError
from wired_union.project.model import Project

P = TypeVar("P")
A = ParamSpec("A")


def _worked_out(assessment: Assessment) -> Assessment:
    """The assessment with all that the window shows at once worked out, so that a fault shows now and not later."""
    assert assessment.measures is not None
    assert assessment.item_verdicts is not None
    return assessment


class Step(Struct):
    """A point of the history: what was done to get there, and the value it gave, read when it is first gone back to."""

    sentence: str
    value: Project | None = None
    read: Callable[[], Project] | None = None

    @property
    def project(self) -> Project:
        """The value. Raises ProjectError where it was kept in a file and cannot be read."""
        if self.value is None:
            assert self.read is not None
            self.value = self.read()
        return self.value


class Store(QObject):
    """Project, assessment, history, selection and preview of one window."""

    changed = pyqtSignal()
    previewed = pyqtSignal()
    selection_moved = pyqtSignal()
    refused = pyqtSignal(str)
    failed = pyqtSignal(object)
    """An exception: an edit that could not be worked out, and was not made."""

    def __init__(
        self, project: Project, assess: Callable[[Project], Assessment], sentence: str = "opened",
        hand: Callable[[], tuple[str, str]] | None = None, before: Sequence[Step] = (),
    ) -> None:  # fmt: skip
        """`hand` tells the day and who works here: then every edit writes its entry into the notebook.

        `before` is what led to the project, where that is known: undo goes back through it.
        """
        super().__init__()
        self._hand = hand
        self._steps = [*before, Step(sentence, project)]
        self._at = len(before)
        self._saved: Project | None = project
        self._assess = assess
        self.assessment = _worked_out(assess(project))
        self.preview: Ripple | None = None
        self.last_ripple: Ripple | None = None
        self.last_entry = ""
        """id of the entry that the last edit wrote, "" where it wrote none"""
        self._picked: dict[type, Any] = {}
        self.revision = 0
        self._all: tuple[Project, dict[str, Assessment]] = (project, {})

    @property
    def project(self) -> Project:
        return self._steps[self._at].project

    @property
    def concept_assessments(self) -> dict[str, Assessment]:
        """Every concept's assessment by its id, worked out when first asked for."""
        project, known = self._all
        if project is not self.project or not known:
            self._all = (self.project, assess_all(self.assessment, known))
        return self._all[1]

    @property
    def saved_project(self) -> Project | None:
        """The value that the file holds, as far as is known here; None where none does."""
        return self._saved

    @property
    def unsaved(self) -> bool:
        return self.project is not self._saved

    @property
    def unsaved_edits(self) -> tuple[str, ...]:
        """Sentences of the edits since the value that was last saved, where it is still in the history."""
        saved = next((i for i, s in enumerate(self._steps) if s.value is self._saved), 0)
        return tuple(s.sentence for s in self._steps[min(saved, self._at) + 1 : max(saved, self._at) + 1])

    @property
    def way_here(self) -> tuple[Step, ...]:
        """The steps that led to the present, itself the last."""
        return tuple(self._steps[: self._at + 1])

    @property
    def can_undo(self) -> str:
        """What undo would take back, "" for nothing."""
        return self._steps[self._at].sentence if self._at else ""

    @property
    def can_redo(self) -> str:
        return self._steps[self._at + 1].sentence if self._at + 1 < len(self._steps) else ""

    def apply(self, change: Change) -> bool:
        """Make a change the present. One that was worked out for another project is refused."""
        if change.before is not self.project:
            self.refused.emit("The project has moved on since that was worked out. Try it again.")
            return False
        try:
            assessment = _worked_out(self._written(self.assessment.again(change.after), change))
        except Exception as error:  # whatever the fault: the present stays what it is
            self.refused.emit(f"Not done, because it could not be worked out: {change.sentence}. Nothing was changed.")
            self.failed.emit(error)
            return False
        del self._steps[self._at + 1 :]
        self._steps.append(Step(change.sentence, assessment.project))
        wrote = len(assessment.project.notebook) > len(change.after.notebook)
        self.last_entry = assessment.project.notebook[-1].id if wrote else ""
        self._go(self._at + 1, change.sentence, assessment)
        return True

    def _written(self, after: Assessment, change: Change) -> Assessment:
        """What follows from an edit with its entry in the notebook, for which little is worked out anew."""
        if self._hand is None:
            return after
        project = with_entry(self.assessment, after, change, *self._hand())
        return after if project is after.project else after.again(project)

    def attempt(self, edit: Callable[Concatenate[Project, A], Change], *arguments: A.args, **named: A.kwargs) -> bool:
        """Work out an edit of the present project and apply it; a refusal is said, and changes nothing."""
        try:
            return self.apply(edit(self.project, *arguments, **named))
        except ProjectError as error:
            self.refused.emit(str(error))
            return False

    def attempt_or(
        self, complain: Callable[[str], object], edit: Callable[Concatenate[Project, A], Change],
        *arguments: A.args, **named: A.kwargs,
    ) -> bool:  # fmt: skip
        """`attempt`, with a refusal also handed to `complain`, such as the field that was typed into."""
        said: list[str] = []
        self.refused.connect(said.append)
        done = self.attempt(edit, *arguments, **named)
        self.refused.disconnect(said.append)
        if said:
            complain(said[0])
        return done

    def undo(self) -> None:
        if self._at:
            self.last_entry = ""
            self._go(self._at - 1, f"undo: {self._steps[self._at].sentence}")

    def redo(self) -> None:
        if self._at + 1 < len(self._steps):
            self.last_entry = ""
            self._go(self._at + 1, f"again: {self._steps[self._at + 1].sentence}")

    def _go(self, place: int, sentence: str, assessment: Assessment | None = None) -> None:
        before = self.assessment
        try:
            after = assessment or before.again(self._steps[place].project)
        except ProjectError as error:
            self.refused.emit(f"That far back cannot be read. {error}")
            return
        self._at = place
        self.revision += 1
        self.preview = None
        self.assessment = after
        self.last_ripple = compare(before, self.assessment, sentence)
        self.changed.emit()
        self.previewed.emit()

    def look_again(self) -> None:
        """Assess the present anew: the day is another, and nobody edited anything."""
        self.preview = None
        self.revision += 1
        self.assessment = _worked_out(self._assess(self.project))
        self._all = (self.project, {})
        self.changed.emit()
        self.previewed.emit()

    def mark_saved(self) -> None:
        self._saved = self.project
        self.changed.emit()

    def mark_unsaved(self) -> None:
        """Say that no file holds the present value: recovered work, a copy."""
        self._saved = None
        self.changed.emit()

    def show_preview(self, preview: Ripple | None) -> None:
        """Show where a pending edit would lead; None to stop."""
        if preview is not self.preview:
            self.preview = preview
            self.previewed.emit()

    def picked(self, kind: type[P]) -> P:
        """What is selected of a kind: a value of the kernel's `Selection`, or of a subject's own type."""
        found: P = self._picked.get(kind) or kind()
        return found

    def pick(self, *picks: object) -> None:
        """Select, each in place of what was selected of its kind."""
        new = {type(p): p for p in picks}
        if any(self._picked.get(kind, kind()) != p for kind, p in new.items()):
            self._picked.update(new)
            self.selection_moved.emit()

    def change(self, kind: type[P], **fields: object) -> None:
        """Select anew what is given, and keep the rest of that kind."""
        self.pick(replace(self.picked(kind), **fields))  # type: ignore[type-var]
