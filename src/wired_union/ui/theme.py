"""The look of the window: fonts that ship with the program, the palette, and the scale of texts."""

from msgspec import Struct, field
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QBrush, QColor, QFont, QFontDatabase, QFontMetricsF, QGuiApplication, QPalette, QPen
from PyQt6.QtWidgets import QApplication

from wired_union.picture.palette import DARK, FIGURES, LIGHT, SIZES, WORDS, Palette
from wired_union.picture.shapes import Kit
from wired_union.shipped import FONTS
from wired_union.ui.style_sheet import style_sheet

USUAL_POINTS = 10.0
MOST_PENS = 2_000


def load_fonts() -> None:
    """Make the shipped fonts known to Qt."""
    for file in sorted(FONTS.glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(file))


def system_scale() -> float:
    """How much larger than usual the system's font is; small differences count as usual."""
    points = QFontDatabase.systemFont(QFontDatabase.SystemFont.GeneralFont).pointSizeF()
    scale = points / USUAL_POINTS if points > 0 else 1.0
    return 1.0 if 0.85 <= scale <= 1.12 else min(max(scale, 0.85), 2.0)


def system_is_dark() -> bool:
    hints = QGuiApplication.styleHints()
    return hints is not None and hints.colorScheme() == Qt.ColorScheme.Dark


class Theme(Struct):
    """One palette at one scale, with the fonts and widths that go with it."""

    palette: Palette = LIGHT
    scale: float = 1.0
    _colours: dict[str, QColor] = field(default_factory=dict)
    _pens: dict[tuple[str, float, tuple[float, ...]], QPen] = field(default_factory=dict)
    _brushes: dict[str, QBrush] = field(default_factory=dict)
    _fonts: dict[tuple[float, str, bool], QFont] = field(default_factory=dict)
    _metrics: dict[tuple[float, str, bool], QFontMetricsF] = field(default_factory=dict)
    _widths: dict[tuple[str, float, str, bool], float] = field(default_factory=dict)

    @classmethod
    def named(cls, name: str, scale: float) -> "Theme":
        """The "light", "dark" or "system" theme."""
        dark = name == "dark" or (name == "system" and system_is_dark())
        return cls(DARK if dark else LIGHT, scale)

    def colour(self, role: str) -> QColor:
        """A colour of the palette by its role, made once; nobody changes it."""
        if role not in self._colours:
            self._colours[role] = QColor(getattr(self.palette, role))
        return self._colours[role]

    def pen(self, ink: str, width: float, dash: tuple[float, ...] = ()) -> QPen:
        """A pen, made once; "" draws nothing. Nobody changes it."""
        key = (ink, width, dash)
        if key not in self._pens:
            if len(self._pens) > MOST_PENS:  # widths of paths are as many as there are watts
                self._pens.clear()
            made = QPen(self.colour(ink), width) if ink else QPen(Qt.PenStyle.NoPen)
            made.setCapStyle(Qt.PenCapStyle.FlatCap)
            if ink and dash:
                made.setDashPattern([d / max(width, 0.1) for d in dash])
            self._pens[key] = made
        return self._pens[key]

    def brush(self, fill: str) -> QBrush:
        """A brush, made once; "" fills nothing."""
        if fill not in self._brushes:
            self._brushes[fill] = QBrush(self.colour(fill)) if fill else QBrush(Qt.BrushStyle.NoBrush)
        return self._brushes[fill]

    def px(self, value: float) -> int:
        return round(value * self.scale)

    def font(self, size: float, family: str = "words", bold: bool = False) -> QFont:
        key = (size, family, bold)
        if key not in self._fonts:
            font = QFont(WORDS if family == "words" else FIGURES)
            font.setPixelSize(max(round(size), 6))
            font.setWeight(QFont.Weight.DemiBold if bold else QFont.Weight.Medium if family == "figures"
                           else QFont.Weight.Normal)  # fmt: skip
            self._fonts[key] = font
        return self._fonts[key]

    def width(self, text: str, size: float, family: str, bold: bool) -> float:
        """Width of a text in px, remembered."""
        key = (text, size, family, bold)
        if key not in self._widths:
            if len(self._widths) > 20_000:
                self._widths.clear()
            self._widths[key] = self.metrics(size, family, bold).horizontalAdvance(text)
        return self._widths[key]

    def metrics(self, size: float, family: str, bold: bool) -> QFontMetricsF:
        """The measures of a font, remembered."""
        face = (size, family, bold)
        if face not in self._metrics:
            self._metrics[face] = QFontMetricsF(self.font(*face))
        return self._metrics[face]

    @property
    def kit(self) -> Kit:
        return Kit(self.scale, self.width)

    def dress(self, app: QApplication) -> None:
        """Give the whole program this look. What has no rule of its own follows the font and the palette."""
        font = self.font(self.px(SIZES["base"]))
        if app.font() != font:
            app.setFont(font)
        palette, sheet = self._qt_palette(), style_sheet(self.palette, self.px)
        if app.palette() != palette:
            app.setPalette(palette)
        if app.styleSheet() != sheet:  # else every widget there is would be dressed again
            app.setStyleSheet(sheet)

    def _qt_palette(self) -> QPalette:
        role = QPalette.ColorRole
        roles = {
            role.Window: "chalk", role.WindowText: "ink", role.Base: "card", role.AlternateBase: "soft",
            role.Text: "ink", role.Button: "card", role.ButtonText: "ink", role.ToolTipBase: "ink",
            role.ToolTipText: "card", role.Highlight: "soft", role.HighlightedText: "ink", role.Link: "link",
            role.PlaceholderText: "mute",
        }  # fmt: skip
        made = QPalette()
        for one, name in roles.items():
            made.setColor(one, self.colour(name))
        for one in (role.WindowText, role.Text, role.ButtonText):
            made.setColor(QPalette.ColorGroup.Disabled, one, self.colour("mute"))
        return made
