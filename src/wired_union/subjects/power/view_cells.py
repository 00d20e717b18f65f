"""A pack's cells on the Power screen: drawn, otherwise arranged, or as a measured discharge has them."""

from functools import partial

from PyQt6.QtWidgets import QMessageBox, QVBoxLayout, QWidget

from wired_union.physics.battery import CHEMISTRIES
from wired_union.physics.discharge_fit import DischargeFit, fit_discharge
from wired_union.project.errors import ProjectError
from wired_union.project.model import Item
from wired_union.subjects.power.cells.arrange import arrangements, measured, said
from wired_union.subjects.power.cells.picture import cells_picture, fit_picture
from wired_union.subjects.power.cells.read import discharge_of
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, label, wrapped
from wired_union.ui.findings import ChangeButton
from wired_union.ui.sheets import open_table
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.units import show

FIT_H = 150.0


class Cells:
    """Fills the panel while a pack is chosen."""

    def __init__(self, store: Store, theme: Theme, parent: QWidget) -> None:
        self._store, self._theme, self._parent = store, theme, parent
        self._fit: tuple[str, tuple[list[float], list[float]], DischargeFit] | None = None

    def fill(self, column: QVBoxLayout, node: str) -> None:
        """Nothing for what is no pack of cells."""
        item = next((i for i in self._store.project.concept.items if i.id == node), None)
        if item is None or item.part.pack is None:
            return
        column.addWidget(label(f"The cells of {item.name}", "heading", wrap=True))
        chart = Canvas(self._theme, name="The cells as they are wired")
        column.addWidget(chart)
        chart.show_layout(lambda w, h: cells_picture(item, self._theme.kit, w))
        for made in arrangements(self._store.assessment, item):
            words = f"{said(made.series, made.parallel)}{f': {made.why}' if made.why else ': nothing breaks'}"
            column.addWidget(ChangeButton(wrapped(words, self._theme), made.change, self._store))
        column.addWidget(button("fit a measured discharge …", partial(self._open, item), kind="link",
                                tip="A table of time, volts and amperes, from full"))  # fmt: skip
        if self._fit is not None and self._fit[0] == item.id:
            self._show_fit(column, item)

    def _open(self, item: Item) -> None:
        text = open_table(self._parent, "A measured discharge")
        if text:
            self.take(item, text)

    def take(self, item: Item, text: str) -> None:
        """Fit a table, and show it; what cannot be read or fitted is said."""
        pack = item.part.pack
        chemistry = CHEMISTRIES.get(pack.chemistry) if pack is not None else None
        if pack is None or chemistry is None:
            return
        try:
            times, volts, amperes = discharge_of(text)
            fit = fit_discharge(times, volts, amperes, chemistry, pack.series)
        except (ProjectError, ValueError) as error:
            QMessageBox.warning(self._parent, "It was not fitted", str(error))
            return
        self._fit = (item.id, (times.tolist(), volts.tolist()), fit)
        self._store.selection_moved.emit()

    def _show_fit(self, column: QVBoxLayout, item: Item) -> None:
        assert self._fit is not None
        _, (times, volts), fit = self._fit
        chart = Canvas(self._theme, name="Measured discharge and fit")
        column.addWidget(chart)
        fitted = fit.fitted_v.tolist()
        height = self._theme.px(FIT_H)
        chart.show_layout(lambda w, h: fit_picture(times, volts, fitted, self._theme.kit, w, height))
        alone = "" if fit.resistance_shows else " The current hardly varied: the resistance rests on the cells' curve."
        words = (
            f"{show(fit.capacity_ah, 'Ah')} and {show(fit.resistance_ohm, 'Ω')}; off by {show(fit.rms_v, 'V')} root"
            f" mean square, {show(fit.most_off_v, 'V')} at most, over {show(fit.drawn_ah, 'Ah')}.{alone}"
        )
        column.addWidget(label(words, "mute", wrap=True))
        try:
            change = measured(self._store.project, item.id, fit.capacity_ah, fit.resistance_ohm)
        except ProjectError as error:
            column.addWidget(label(str(error), "mute", wrap=True))
            return
        taken = wrapped(f"take these for {item.name}, measured", self._theme)
        column.addWidget(ChangeButton(taken, change, self._store))
