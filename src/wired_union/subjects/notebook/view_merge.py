"""The panel of a merge: what is kept, what is taken, what is to be chosen, and where every limit lands."""

from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtWidgets import QWidget

from wired_union.kernel.merge_pick import MergePick
from wired_union.kernel.merge_words import Told
from wired_union.kernel.ripple import ripple
from wired_union.project.change import Change
from wired_union.project.errors import ProjectError
from wired_union.project.kept import Kept
from wired_union.project.merge import Merged, Side
from wired_union.subjects.notebook.merging import as_change, conflicts, result
from wired_union.subjects.notebook.view_hand import PanelHand
from wired_union.ui.fields import button, label
from wired_union.ui.findings import PreviewButton
from wired_union.ui.prose import Paragraph, Prose
from wired_union.ui.view import row

MOST_SHOWN = 30


class MergePanel:
    """Shows a merge until it is taken or left."""

    def __init__(self, panel: PanelHand) -> None:
        self.panel, self.store = panel, panel.store

    def show(self) -> None:
        """Counts, then every conflict with both values, then taking it."""
        panel, pick = self.panel, self.store.picked(MergePick)
        panel.add(label(f"Merge with {pick.name}", "title", wrap=True), label(pick.base_name, "mute", wrap=True))
        try:
            found = result(self.store.project, pick)
        except ProjectError as error:
            panel.add(label(str(error), "error", wrap=True), self._leave())
            return
        panel.add(Prose(panel.theme, self._counts(found)))
        told = conflicts(self.store.assessment, pick, found)
        for one in told[:MOST_SHOWN]:
            self._conflict(one, pick)
        if len(told) > MOST_SHOWN:
            panel.add(label(f"and {len(told) - MOST_SHOWN} more", "mute"))
        self._rest(found, pick)
        self._take(found, pick)

    def _counts(self, found: Merged) -> list[Paragraph]:
        rows = [("changed here alone", found.from_ours, "kept"), ("changed there alone", found.from_theirs, "taken"),
                ("changed alike in both", found.alike, "once")]  # fmt: skip
        said = [Paragraph(f"{n} {what}", beside=word, beside_ink="holds_text") for what, n, word in rows if n]
        if found.open:
            said.append(
                Paragraph(f"{len(found.open)} changed otherwise in both", beside="choose", beside_ink="tight_text")
            )
        return said or [Paragraph("Nothing differs.", "mute")]

    def _conflict(self, one: Told, pick: MergePick) -> None:
        """Both values with who, when and how well known; pointing at one shows where every limit lands."""
        panel, chosen = self.panel, pick.chosen.get(one.id)
        panel.add(label(one.title, "heading", wrap=True))
        sides: tuple[tuple[Side, str, str, str], ...] = (
            ("ours", one.ours, one.ours_from, "ours"), ("theirs", one.theirs, one.theirs_from, "theirs"),
        )  # fmt: skip
        for side, value, source, word in sides:
            text = f"{word}: {value}{f' ({source})' if source else ''}"
            lines = panel.theme.kit.wrap(text, panel.theme.px(230.0), "small", "words", True)
            made = PreviewButton("\n    ".join(lines), "main" if chosen == side else "")
            made.setAccessibleName(f"{one.title}: {text}")
            made.pointed.connect(partial(self._rings, {one.id: side}))
            made.clicked.connect(partial(self._choose, {one.id: side}))
            panel.add(made)
        if one.better_known is not None:
            panel.add(label(f"{one.better_known} is better known", "mute"))

    def _choose(self, sides: dict[str, Side], _: bool = False) -> None:
        pick = self.store.picked(MergePick)
        self.store.show_preview(None)
        self.store.pick(replace(pick, chosen={**pick.chosen, **sides}))

    def _rings(self, sides: dict[str, Side], on: bool) -> None:
        """Where every limit lands if the merge is taken with these choices."""
        pick = self.store.picked(MergePick)
        if pick.theirs is None:
            return
        try:
            found = result(self.store.project, replace(pick, chosen={**pick.chosen, **sides}))
        except ProjectError:
            return
        change = as_change(self.store.project, pick, found)
        self.store.show_preview(ripple(self.store.assessment, change) if on else None)

    def _rest(self, found: Merged, pick: MergePick) -> None:
        if len(found.open) > 1:
            ours: dict[str, Side] = {c.id: "ours" for c in found.open}
            theirs: dict[str, Side] = {c.id: "theirs" for c in found.open}
            self.panel.add(row(button("all the rest ours", partial(self._choose, ours), kind="link"),
                               button("all the rest theirs", partial(self._choose, theirs), kind="link")))  # fmt: skip

    def _take(self, found: Merged, pick: MergePick) -> None:
        if not found.open:
            made = PreviewButton("Take the merge", "main")
            made.pointed.connect(partial(self._rings, {}))
            made.clicked.connect(lambda _=False: self._taken(as_change(self.store.project, pick, found), pick))
            self.panel.add(made)
        else:
            self.panel.add(label("Nothing is taken before everything is chosen.", "mute", wrap=True))
        self.panel.add(self._leave())

    def _leave(self) -> QWidget:
        return row(button("leave it", partial(self.store.pick, MergePick()), kind="link"))

    def _taken(self, change: Change, pick: MergePick) -> None:
        """Make the merge the present, and bring along what is kept beside the other file."""
        kept = self.panel.desk.kept()
        try:
            missing = Kept((*kept.folders, Path(pick.folder))).bring(change.after, kept.folders[0])
        except ProjectError as error:
            self.store.refused.emit(str(error))
            return
        if self.store.apply(change):
            if pick.taken is not None:
                pick.taken()
            self.store.pick(MergePick())
            if missing:
                self.store.refused.emit(f"Merged. Not found beside either file: {'; '.join(missing)}.")
