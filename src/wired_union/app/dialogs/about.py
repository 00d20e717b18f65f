"""About: the version, the licence, and the licences of what the program uses."""

from html import escape
from importlib import metadata

from PyQt6.QtWidgets import QDialog, QTextBrowser, QVBoxLayout, QWidget

from wired_union import __version__
from wired_union.ui.fields import button
from wired_union.ui.theme import Theme

FONTS = (
    ("Atkinson Hyperlegible Next", "SIL Open Font License 1.1"), ("Barlow Semi Condensed", "SIL Open Font License 1.1"),
)  # fmt: skip
LICENCE = (
    "Free software under the GNU General Public License, version 3 or later: use it, look into it, pass it on, change"
    " it. It comes without any warranty."
)
UNSAID = "see its own files"


def used() -> list[tuple[str, str, str]]:
    """Every library that the program asks for: name, version, licence as it says itself; gone ones are left out."""
    found = []
    for wanted in sorted(metadata.requires("wired-union") or [], key=str.lower):
        if "extra ==" in wanted:
            continue
        name = "".join(c for c in wanted.partition(">")[0] if c.isalnum() or c in "-_.")
        try:
            told = metadata.metadata(name)
        except metadata.PackageNotFoundError:
            continue
        found.append((name, str(told["Version"]), _licence(told)))
    return found


def _licence(told: metadata.PackageMetadata) -> str:
    """A library's licence: the expression, the classifier, or the first line of what it says."""
    said = told.json
    if said.get("license_expression"):
        return str(said["license_expression"])
    listed = said.get("classifier") or []
    named = [c.rpartition(":: ")[2] for c in listed if c.startswith("License ::")]
    if named:
        return ", ".join(named)
    return (str(said.get("license") or "").strip().splitlines() or [UNSAID])[0][:60]


def about_text() -> str:
    """The page, as HTML."""
    rows = "".join(f"<tr><td>{escape(n)}&nbsp;&nbsp;</td><td>{escape(v)}&nbsp;&nbsp;</td><td>{escape(x)}</td></tr>"
                   for n, v, x in used())  # fmt: skip
    fonts = "".join(f"<tr><td>{escape(n)}&nbsp;&nbsp;</td><td></td><td>{escape(x)}</td></tr>" for n, x in FONTS)
    return (
        f"<h2>Wired Union {escape(__version__)}</h2><p>Shows what an edit does to every limit of a machine before it is"
        f" made.</p><p>{escape(LICENCE)}</p><h3>What it uses</h3><table>{rows}{fonts}</table>"
    )


class About(QDialog):
    """The page about the program."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("About Wired Union")
        self.resize(theme.px(560), theme.px(480))
        self.page = QTextBrowser()
        self.page.setAccessibleName("About Wired Union")
        self.page.setHtml(about_text())
        column = QVBoxLayout(self)
        column.addWidget(self.page, 1)
        column.addWidget(button("Close", self.accept, kind="main"))
