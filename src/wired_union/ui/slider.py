"""A slider for one figure: while it is dragged it says where it is, and when it is let go it says so once."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QSlider, QWidget

from wired_union.ui.fields import label
from wired_union.ui.theme import Theme
from wired_union.units import show

STEPS = 300


class FigureSlider(QWidget):
    """Name, slider, figure. Arrow keys move it a step, and let go at once."""

    moved = pyqtSignal(float)
    let_go = pyqtSignal(float)

    def __init__(self, theme: Theme, name: str, unit: str, most: float, least: float = 0.0,
                 steps: int = STEPS) -> None:  # fmt: skip
        super().__init__()
        self.unit, self._most, self._least, self._steps = unit, most, least, steps
        self.row = row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        title = label(name, "mute")
        title.setFixedWidth(theme.px(92))
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, steps)
        self.slider.setAccessibleName(name)
        self.figure = label("", "figures")
        self.figure.setFixedWidth(theme.px(64))
        row.addWidget(title)
        row.addWidget(self.slider, 1)
        row.addWidget(self.figure)
        self.slider.valueChanged.connect(self._changed)
        self.slider.sliderReleased.connect(self._released)

    def set_ends(self, least: float, most: float) -> None:
        """Another range; what shows is set anew with `show_value`."""
        self._least, self._most = least, most

    @property
    def value(self) -> float:
        return self._least + (self._most - self._least) * self.slider.value() / self._steps

    def show_value(self, value: float) -> None:
        """Show a figure without saying that it moved."""
        self.slider.blockSignals(True)
        share = (value - self._least) / (self._most - self._least)
        self.slider.setValue(round(self._steps * min(max(share, 0.0), 1.0)))
        self.slider.blockSignals(False)
        self.figure.setText(show(value, self.unit))

    def _released(self) -> None:
        self.let_go.emit(self.value)

    def _changed(self) -> None:
        self.figure.setText(show(self.value, self.unit))
        self.moved.emit(self.value)
        if not self.slider.isSliderDown():
            self.let_go.emit(self.value)
