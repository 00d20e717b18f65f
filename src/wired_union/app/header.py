"""The header: menu, project, concept switch, find-anything, and whether the work is saved."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QMenu, QToolButton, QWidget

from wired_union.project.concept_edits import said
from wired_union.project.model import Concept, Project
from wired_union.ui.fields import button, empty, label
from wired_union.ui.findings import PreviewButton
from wired_union.ui.theme import Theme

HEIGHT = 44.0
ROOMY = 1180


class ConceptSwitch(QWidget):
    """The living concepts as buttons in one pill; pointing at one shows where its limits would land."""

    chosen = pyqtSignal(str)
    pointed = pyqtSignal(str, bool)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setObjectName("switch")
        self.setAccessibleName("Concepts")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._theme = theme
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(2, 2, 2, 2)
        self._row.setSpacing(0)
        self.buttons: dict[str, PreviewButton] = {}
        self._shown: tuple[object, ...] = ()

    def show_concepts(self, concepts: tuple[Concept, ...], at_work: str, *, roomy: bool) -> None:
        """Show the living concepts; by letter alone where there is little room or there are many."""
        names = roomy and len(concepts) <= 3
        wanted = (tuple((c.id, c.name) for c in concepts), names)
        if wanted != self._shown:
            self._shown = wanted
            empty(self._row)
            self.buttons = {}
            for concept in concepts:
                kit = self._theme.kit
                text = kit.cut(said(concept), kit.px(130), "base", bold=True) if names else concept.letter
                made = PreviewButton(text, "pill")
                made.setCheckable(True)
                made.setMinimumWidth(round(kit.width(text, "base", "words", True)) + self._theme.px(28))
                made.setAccessibleName(f"concept {said(concept)}")
                made.setToolTip(f"Work on {said(concept)}")
                made.clicked.connect(lambda _=False, i=concept.id: self.chosen.emit(i))
                made.pointed.connect(lambda on, i=concept.id: self.pointed.emit(i, on))
                self.buttons[concept.id] = made
                self._row.addWidget(made)
        for concept_id, made in self.buttons.items():
            made.setChecked(concept_id == at_work)
        self.setVisible(len(concepts) > 1)


class Header(QWidget):
    """44 px at the top of the window."""

    find_pressed = pyqtSignal()

    def __init__(self, theme: Theme, menu: QMenu) -> None:
        super().__init__()
        self.setObjectName("header")
        self.setFixedHeight(theme.px(HEIGHT))
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        row = QHBoxLayout(self)
        row.setContentsMargins(theme.px(14), 0, theme.px(12), 0)
        row.setSpacing(theme.px(10))
        self.menu = QToolButton()
        self.menu.setText("Menu")
        self.menu.setAccessibleName("Menu")
        self.menu.setMenu(menu)
        self.menu.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.name = label("", "heading")
        self.subtitle = label("", "quiet")
        self.saved = label("", "quiet")
        self.switch = ConceptSwitch(theme)
        self._find = button("", self.find_pressed.emit)
        self._find.setAccessibleName("Find a part, a number or an action, Ctrl K")
        self._theme = theme
        self._said: tuple[str, str, str, Project | None] | None = None
        row.addWidget(self.menu)
        row.addWidget(self.name)
        row.addWidget(self.subtitle)
        row.addWidget(self.switch)
        row.addStretch(1)
        row.addWidget(self._find)
        row.addStretch(1)
        row.addWidget(self.saved)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        if self._said is not None:
            self.show_state(*self._said)

    def show_state(self, name: str, subtitle: str, saved: str, project: Project | None = None) -> None:
        """Show what is open; `saved` says whether it is, and in which file."""
        self._said = (name, subtitle, saved, project)
        window = self.window()  # as wide, and knows it before the header is laid out
        roomy = (self if window is None else window).width() >= self._theme.px(ROOMY)
        concepts = project.living if project is not None else ()
        self.name.setText(name)
        self.subtitle.setText(subtitle)
        self.subtitle.setVisible(roomy or len(concepts) < 2)
        self._find.setText("Find a part, a number or an action      Ctrl K" if roomy else "Find      Ctrl K")
        self._find.setMinimumWidth(self._theme.px(250 if roomy else 110))
        self.saved.setText(saved)
        at_work = project.concept.id if project is not None else ""
        self.switch.show_concepts(concepts, at_work, roomy=roomy)
