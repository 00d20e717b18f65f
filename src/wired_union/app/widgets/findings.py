"""Findings that act: what, why, and remedies that can be tried on."""

from collections.abc import Callable

from PyQt6.QtCore import QEvent, pyqtSignal
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QVBoxLayout

from wired_union.app.store import Store
from wired_union.app.theme.theme import Theme
from wired_union.app.widgets.fields import label, wrapped
from wired_union.assess.results import Finding, Remedy
from wired_union.assess.ripple import ripple


class PreviewButton(QPushButton):
    """A button that says when it is pointed at or focused."""

    pointed = pyqtSignal(bool)

    def __init__(self, text: str, kind: str = "link") -> None:
        super().__init__(text)
        self.setObjectName(kind)
        self.setAutoDefault(False)

    def event(self, event: QEvent | None) -> bool:
        if event is not None:
            if event.type() in (QEvent.Type.Enter, QEvent.Type.FocusIn):
                self.pointed.emit(True)
            elif event.type() in (QEvent.Type.Leave, QEvent.Type.FocusOut):
                self.pointed.emit(False)
        return super().event(event)


def remedy_button(remedy: Remedy, store: Store, go: Callable[[], None]) -> PreviewButton:
    """A remedy: pointing at it shows rings, pressing it does it, or goes to the part where only people can."""
    made = PreviewButton("→ " + remedy.label)
    change = remedy.change
    if change is None:
        made.clicked.connect(lambda _=False: go())
        return made

    def show(on: bool) -> None:
        current = change.before is store.project
        store.show_preview(ripple(store.assessment, change) if on and current else None)

    made.pointed.connect(show)
    made.clicked.connect(lambda _=False: store.apply(change))
    return made


class FindingCard(QFrame):
    """One finding. `go` opens what it is about."""

    def __init__(self, finding: Finding, store: Store, theme: Theme, go: Callable[[Finding], None]) -> None:
        super().__init__()
        tone = finding.verdict.value
        self.setObjectName("finding")
        palette = theme.palette
        self.setStyleSheet(
            f"QFrame#finding {{ background: {palette.soft}; border: none; border-left: 4px solid"
            f" {getattr(palette, tone)}; }} QFrame#finding QLabel {{ background: transparent; }}"
            f" QLabel#tone {{ color: {getattr(palette, tone + '_text')}; font-weight: 600;"
            f" font-size: {theme.px(12)}px; }}"
        )
        box = QVBoxLayout(self)
        box.setContentsMargins(theme.px(10), theme.px(8), theme.px(8), theme.px(7))
        box.setSpacing(theme.px(3))
        head = QHBoxLayout()
        title = label(finding.title, "heading", wrap=True)
        head.addWidget(title, 1)
        head.addWidget(label(tone, "tone"))
        box.addLayout(head)
        box.addWidget(label(finding.what, wrap=True))
        if finding.why:
            box.addWidget(label(finding.why, "mute", wrap=True))
        for remedy in finding.remedies:
            made = remedy_button(remedy, store, lambda: go(finding))
            made.setText(wrapped(made.text(), theme))
            box.addWidget(made)
