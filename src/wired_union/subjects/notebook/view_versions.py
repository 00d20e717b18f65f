"""The panel for versions: one that is kept, two compared, what can be brought back."""

from collections.abc import Iterator
from functools import partial

from PyQt6.QtCore import QObject

from wired_union.kernel.subject import Assessment
from wired_union.project.change import Change
from wired_union.project.errors import ProjectError
from wired_union.project.notebook_model import Version
from wired_union.subjects.notebook import knots
from wired_union.subjects.notebook.pick import NOW
from wired_union.subjects.notebook.view_hand import PanelHand
from wired_union.ui import ask
from wired_union.ui.fields import button, label
from wired_union.ui.findings import ChangeButton
from wired_union.ui.pick_menu import pick_button
from wired_union.ui.prose import Paragraph, Prose, muted
from wired_union.ui.view import row
from wired_union.ui.worker import Worker

MOST_SAID = 60


class VersionsPanel(QObject):
    """Shows one or two versions; what they were is worked out beside the window."""

    def __init__(self, panel: PanelHand) -> None:
        super().__init__(panel.view)
        self.panel, self.store = panel, panel.store
        self._known: dict[str, Assessment] = {}
        self._lost: dict[str, str] = {}
        self._all, self._shown = False, tuple[str, ...]()
        """whether every difference is told, or the first ones"""
        self._worker = Worker(self)
        self._worker.told.connect(self._take)
        self._worker.ended.connect(lambda _: self.panel.show())  # another version may have been chosen meanwhile

    def show(self, chosen: tuple[str, ...]) -> None:
        """One version against the present, or two against each other."""
        by_id = {v.id: v for v in self.store.project.versions}
        if chosen != self._shown:
            self._shown, self._all, self._lost = chosen, False, {}
        versions = [by_id.get(v) for v in chosen if v in by_id or v == NOW]
        named = [v for v in versions if v is not None]
        if not named:
            hint = label("Click a version to compare it with.", "mute", wrap=True)
            self.panel.add(label("As it is now", "title"), hint, self.panel.back())
            return
        if len(named) == 2:
            first, last = sorted(named, key=lambda v: self.store.project.versions.index(v))
            self._compare(first, last)
        else:
            self._one(named[0])
            self._compare(named[0], None)
        self.panel.add(self.panel.back())

    def _one(self, version: Version) -> None:
        """What a version is, and what can be done with it."""
        panel, store, today = self.panel, self.store, self.panel.desk.today()
        panel.add(label(version.name, "title", wrap=True))
        who = " ".join(filter(None, ("tied", version.on, f"by {version.by}" if version.by else "")))
        panel.add(label(f"{who}. {version.about}".strip(), "mute", wrap=True))
        if version.dropped:
            panel.add(label(f"Given up {version.dropped_on}: {version.dropped}", "", wrap=True))
            panel.add(
                row(button("take it up again", partial(store.attempt, knots.take_up_again, version.id), kind="link"))
            )
            return

        def drop() -> None:
            why, meant = ask.word(panel.view, f"Give {version.name} up", "Why? It stays, with the reason.")
            if meant:
                store.attempt(knots.drop_version, version.id, why, today)

        panel.add(row(button("give it up …", drop, kind="link", tip="Its reason stays with it")))

    def _compare(self, one: Version, other: Version | None) -> None:
        wanted = [v for v in (one, other) if v is not None]
        lost = [self._lost[v.digest] for v in wanted if v.digest in self._lost]
        if lost:
            self.panel.add(label(lost[0], "error", wrap=True))
            return
        due = [v for v in wanted if v.digest not in self._known]
        if due:
            self.panel.add(label("Working out what it was …", "mute"))
            if not self._worker.running:
                self._worker.start(self.store.revision, partial(self._work, due, self.store.assessment))
            return
        before = self._known[one.digest]
        after = self._known[other.digest] if other is not None else self.store.assessment
        self._differences(one, other, knots.compared(before, after))
        if other is None:
            self._bring_back(one, before)

    def _work(self, versions: list[Version], present: Assessment) -> Iterator[tuple[str, Assessment | str]]:
        kept = self.panel.desk.kept()
        for version in versions:
            try:
                found = present.again(kept.project(version))
                assert found.measures is not None
                yield version.digest, found
            except ProjectError as error:
                yield version.digest, f"{version.name} is not here. {error}"

    def _take(self, _: int, found: tuple[str, Assessment | str]) -> None:
        digest, what = found
        if isinstance(what, str):
            self._lost[digest] = what
        else:
            self._known[digest] = what

    def _differences(self, one: Version, other: Version | None, found: knots.Compared) -> None:
        """Every difference in words, and what each limit did."""
        to = other.name if other is not None else "now"
        self.panel.add(label(f"From {one.name} to {to}", "heading"))
        moved = [Paragraph(m.after.label, beside=m.shown_change, figures=True,
                           beside_ink={True: "holds_text", False: "breaks_text", None: "ink"}[m.better])
                 for m in found.ripple.moved]  # fmt: skip
        self.panel.add(Prose(self.panel.theme, moved or [muted("No limit moved.")]))
        count = len(found.said)
        most = count if self._all else MOST_SAID
        said = [Paragraph(text, role="small") for text in found.said[:most]]
        self.panel.add(label(f"{count} thing{' is' if count == 1 else 's are'} otherwise", "heading"),
                       Prose(self.panel.theme, said or [muted("Nothing differs.")]))  # fmt: skip
        if count > most:
            self.panel.add(row(button(f"and {count - most} more", self._tell_all, kind="link")))

    def _tell_all(self) -> None:
        self._all = True
        self.panel.show()

    def _bring_back(self, version: Version, was: Assessment) -> None:
        """The whole, a part or a subsystem as it was: each is one edit, tried on with rings."""
        panel, store, old = self.panel, self.store, was.project
        panel.add(label("Bring back", "heading"))
        try:
            whole: Change | None = knots.bring_version(store.project, version, old)
        except ProjectError:
            whole = None
        if whole is not None:
            made = ChangeButton(f"all of {version.name}", whole, store)
            made.setAccessibleName(f"Bring all of {version.name} back")
            panel.add(made)
        now = {i.id: i for i in store.project.concept.items}
        parts = [(i.id, i.name) for i in old.concept.items if now.get(i.id) != i]
        lanes = [(s.id, s.name) for s in old.concept.subsystems]
        panel.add(row(
            pick_button("a part …", parts, partial(self._try, version, old, "part"), "Bring a part back"),
            pick_button("a subsystem …", lanes, partial(self._try, version, old, "lane"), "Bring a subsystem back"),
        ))  # fmt: skip

    def _try(self, version: Version, was: object, what: str, chosen: str) -> None:
        bring = {"part": knots.bring_part, "lane": knots.bring_subsystem}[what]
        self.store.attempt(lambda p: bring(p, version, was, chosen))  # type: ignore[arg-type]
