"""What the parts of the Notebook's panel have at hand: the store, the desk, fields, pictures that somebody chooses."""

from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtWidgets import QFileDialog, QWidget

from wired_union.project.errors import ProjectError
from wired_union.project.kept import Kept, photo_form, read_photo
from wired_union.project.notebook_model import Photo
from wired_union.subjects.notebook.pick import NotePick
from wired_union.ui.fields import button
from wired_union.ui.thumbs import Thumbs
from wired_union.ui.view import View, row
from wired_union.ui.worker import Worker

PICTURES = "Pictures (*.png *.jpg *.jpeg);;All files (*)"


class PanelHand:
    """`show` fills the panel anew; `fields` are those that show, by what they are."""

    def __init__(self, view: View) -> None:
        self.view, self.store, self.theme, self.desk = view, view.store, view.theme, view.desk
        self.fields: dict[str, Any] = {}
        self.thumbs = Thumbs(lambda digest, form: self.desk.kept().find(digest, form), view)
        self._photos_worker = Worker(view)
        self._photos_worker.told.connect(self._take_photo)
        self._photos_worker.ended.connect(self._photos_done)
        self._taken: list[Photo] = []
        self._then: Callable[[list[Photo]], object] = lambda _: None

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

    def choose_photos(self, then: Callable[[list[Photo]], object]) -> bool:
        """Pictures that somebody chooses, kept beside the project off the interface thread; `then` takes them.

        Gives whether any are under way.
        """
        paths, _ = QFileDialog.getOpenFileNames(self.view, "Add a picture", "", PICTURES)
        if paths:
            self._then, self._taken = then, []
            self._photos_worker.start(0, partial(_kept, self.desk.kept(), [Path(p) for p in paths]))
        return bool(paths)

    def _take_photo(self, _: int, found: Photo | str) -> None:
        if isinstance(found, str):
            self.store.refused.emit(found)
        else:
            self._taken.append(found)

    def _photos_done(self, _: int) -> None:
        self._then(self._taken)


def _kept(kept: Kept, paths: list[Path]) -> Iterator[Photo | str]:
    """Each picture once it is kept, or why it cannot be."""
    for path in paths:
        try:
            data = read_photo(path)
            form = photo_form(data)
            digest = kept.put(data, form)
        except ProjectError as error:
            yield f"{path.name}: {error}"
            continue
        yield Photo(digest=digest, form="png" if form == "png" else "jpg", caption=path.stem[:80])
