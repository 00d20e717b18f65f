"""What the parts of the Notebook's panel have at hand: the store, the desk, fields, pictures that somebody chooses."""

from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtWidgets import QFileDialog, QWidget

from wired_union.project.errors import ProjectError
from wired_union.project.kept import photo_form, read_photo
from wired_union.project.notebook_model import Photo
from wired_union.subjects.notebook.pick import NotePick
from wired_union.ui.fields import button
from wired_union.ui.view import View, row

PICTURES = "Pictures (*.png *.jpg *.jpeg);;All files (*)"


class PanelHand:
    """`show` fills the panel anew; `fields` are those that show, by what they are."""

    def __init__(self, view: View) -> None:
        self.view, self.store, self.theme, self.desk = view, view.store, view.theme, view.desk
        self.fields: dict[str, Any] = {}

    def show(self) -> None:
        """Fill the panel."""
        raise NotImplementedError

    def add(self, *widgets: QWidget) -> None:
        """Put widgets under each other."""
        for widget in widgets:
            self.view.panel.column.addWidget(widget)

    def back(self) -> QWidget:
        """A way back to the new entry."""
        return row(button("back", partial(self.store.pick, NotePick()), kind="link", tip="To a new entry"))

    def choose_photos(self) -> list[Photo]:
        """Pictures that somebody chooses, kept beside the project at once."""
        paths, _ = QFileDialog.getOpenFileNames(self.view, "Add a picture", "", PICTURES)
        found: list[Photo] = []
        for path in map(Path, paths):
            try:
                data = read_photo(path)
                form = photo_form(data)
                digest = self.desk.kept().put(data, form)
            except ProjectError as error:
                self.store.refused.emit(f"{path.name}: {error}")
                continue
            found.append(Photo(digest=digest, form="png" if form == "png" else "jpg", caption=path.stem[:80]))
        return found
