"""A button that opens a list to choose one of: what is chosen is done at once, and nothing while the list is walked."""

from collections.abc import Callable, Sequence
from functools import partial

from PyQt6.QtWidgets import QMenu, QPushButton

from wired_union.ui.fields import button


def pick_button(
    text: str, options: Sequence[tuple[str, str]], act: Callable[[str], object], name: str, tip: str = ""
) -> QPushButton:
    """A button for (value, words) to choose from; `name` is what it is called for those who hear it."""

    def choose() -> None:
        menu = QMenu(made)
        for value, words in options:
            menu.addAction(words, partial(act, value))
        if not options:
            menu.addAction("nothing to choose from").setEnabled(False)  # type: ignore[union-attr]
        menu.popup(made.mapToGlobal(made.rect().bottomLeft()))

    made = button(text, choose, kind="link", tip=tip)
    made.setAccessibleName(name)
    return made
