"""F1: what a screen computes, from which source."""

from html import escape

from PyQt6.QtWidgets import QDialog, QTextBrowser, QVBoxLayout, QWidget

from wired_union import units
from wired_union.kernel.cautions import NOT_CHECKED, RULES
from wired_union.kernel.subject import Assessment, Subject
from wired_union.physics.method import Method
from wired_union.physics.methods import find_method
from wired_union.ui.fields import button
from wired_union.ui.theme import Theme

START = ("Open or start a project; then each screen says here what it computes.",)


def help_text(subject: Subject | None, title: str, assessment: Assessment | None = None) -> str:
    """The page of a screen, as HTML made from the methods' declarations, and of what it works out at the moment."""
    about, names = (subject.about, subject.methods) if subject is not None else (START, ())
    if subject is not None and subject.about_now is not None and assessment is not None:
        about = (*about, *subject.about_now(assessment))
    said = "".join(f"<p>{escape(x)}</p>" for x in about)
    methods = "".join(_method(find_method(n)) for n in names)
    gaps = "".join(f"<li>{escape(x)}</li>" for x in NOT_CHECKED)
    return (
        f"<h2>{escape(title)}: what this screen computes</h2>{said}{methods}"
        f"<h3>What nothing here checks</h3><ul>{gaps}</ul><p>{escape(RULES)}</p>"
        "<p>Keys: Alt+1…9 stages, Ctrl K find, Ctrl Z and Ctrl Shift Z back and forth, Ctrl S save, arrows inside"
        " lanes and charts, Enter to choose, Esc to step back.</p>"
    )


def _method(method: Method) -> str:
    inputs = ", ".join(units.plain_words(i.name) for i in method.inputs)
    limits = f" Limits: {escape(method.limits)}." if method.limits else ""
    return (
        f"<p><b>{method.name}</b>: {escape(method.summary)} From {escape(inputs)}."
        f" <i>Source: {escape(method.cited)}.</i>{limits}</p>"
    )


class Help(QDialog):
    """The page of one screen."""

    def __init__(
        self, subject: Subject | None, title: str, theme: Theme, parent: QWidget | None = None,
        assessment: Assessment | None = None,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self.setWindowTitle(f"About {title}")
        self.resize(theme.px(620), theme.px(520))
        self.page = QTextBrowser()
        self.page.setHtml(help_text(subject, title, assessment))
        column = QVBoxLayout(self)
        column.addWidget(self.page, 1)
        column.addWidget(button("Close", self.accept, kind="main"))
