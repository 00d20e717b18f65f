"""The look of the window: fonts that ship with the program, the palette, and the scale of texts."""

from msgspec import Struct, field
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor, QFont, QFontDatabase, QFontMetricsF, QGuiApplication

from wired_union.picture.palette import DARK, FIGURES, LIGHT, SIZES, WORDS, Palette
from wired_union.picture.shapes import Kit
from wired_union.shipped import FONTS

USUAL_POINTS = 10.0


def load_fonts() -> None:
    """Make the shipped fonts known to Qt."""
    for file in sorted(FONTS.glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(file))


def system_scale() -> float:
    """How much larger than usual the system's font is; small differences count as usual."""
    points = QGuiApplication.font().pointSizeF()
    scale = points / USUAL_POINTS if points > 0 else 1.0
    return 1.0 if 0.85 <= scale <= 1.12 else min(max(scale, 0.85), 2.0)


def system_is_dark() -> bool:
    hints = QGuiApplication.styleHints()
    return hints is not None and hints.colorScheme() == Qt.ColorScheme.Dark


class Theme(Struct):
    """One palette at one scale, with the fonts and widths that go with it."""

    palette: Palette = LIGHT
    scale: float = 1.0
    _fonts: dict[tuple[float, str, bool], QFont] = field(default_factory=dict)
    _metrics: dict[tuple[float, str, bool], QFontMetricsF] = field(default_factory=dict)
    _widths: dict[tuple[str, float, str, bool], float] = field(default_factory=dict)

    @classmethod
    def named(cls, name: str, scale: float) -> "Theme":
        """The "light", "dark" or "system" theme."""
        dark = name == "dark" or (name == "system" and system_is_dark())
        return cls(DARK if dark else LIGHT, scale)

    def colour(self, role: str) -> QColor:
        return QColor(getattr(self.palette, role))

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
            face = (size, family, bold)
            if face not in self._metrics:
                self._metrics[face] = QFontMetricsF(self.font(*face))
            self._widths[key] = self._metrics[face].horizontalAdvance(text)
        return self._widths[key]

    @property
    def kit(self) -> Kit:
        return Kit(self.scale, self.width)

    def style_sheet(self) -> str:
        """Qt style sheet of the whole window."""
        p, size = self.palette, {k: round(v * self.scale) for k, v in SIZES.items()}
        u = self.px
        return f"""
        * {{ font-family: "{WORDS}"; font-size: {size["base"]}px; color: {p.ink}; }}
        QMainWindow, QDialog, #work {{ background: {p.chalk}; }}
        #header {{ background: {p.pine}; }}
        #header QLabel {{ color: {p.rail_ink}; background: transparent; }}
        #header #quiet {{ color: {p.rail_mute}; }}
        #header QPushButton, #header QToolButton {{ background: {p.deep}; color: {p.rail_mute};
            border: 1px solid {p.deep}; border-radius: 4px; padding: {u(4)}px {u(10)}px; text-align: left; }}
        #header QToolButton::menu-indicator {{ image: none; }}
        #header QPushButton:hover, #header QToolButton:hover {{ color: {p.rail_ink}; }}
        #header QPushButton:focus, #header QToolButton:focus {{ border: 1px solid {p.rail_mute}; }}
        #switch {{ background: {p.deep}; border-radius: {u(14)}px; }}
        #header QPushButton#pill {{ background: transparent; color: {p.rail_mute}; border: 1px solid transparent;
            border-radius: {u(12)}px; padding: {u(3)}px {u(12)}px; text-align: center; }}
        #header QPushButton#pill:checked {{ background: {p.chalk}; color: {p.ink}; font-weight: 600; }}
        #header QPushButton#pill:focus {{ border: 1px solid {p.rail_mute}; }}
        #rail, #rail > QWidget > QWidget {{ background: {p.deep}; border: none; }}
        #panel {{ background: {p.card}; border-left: 1px solid {p.line}; }}
        #panel QScrollArea, #panel QScrollArea > QWidget > QWidget {{ background: {p.card}; border: none; }}
        #panel[drawer="true"] {{ border-left: 2px solid {p.line}; }}
        QPushButton#handle {{ border: none; border-left: 1px solid {p.line}; border-radius: 0; padding: 0;
            background: {p.card}; color: {p.link}; font-weight: 600; text-align: center; }}
        QPushButton#handle:hover, QPushButton#handle:focus {{ background: {p.soft}; }}
        #workarea, #workarea > QWidget > QWidget {{ background: {p.chalk}; border: none; }}
        #strip, #rippleLine {{ background: {p.card}; border: none; border-top: 1px solid {p.line}; }}
        #strip > QWidget > QWidget {{ background: {p.card}; }}
        QLabel#title {{ font-size: {size["title"]}px; font-weight: 600; }}
        QLabel#heading {{ font-size: {size["heading"]}px; font-weight: 600; }}
        QLabel#mute, QLabel#hint {{ color: {p.mute}; font-size: {size["small"]}px; }}
        QLabel#figures {{ font-family: "{FIGURES}"; font-weight: 500; }}
        QLabel#error {{ color: {p.breaks_text}; font-size: {size["small"]}px; }}
        QLabel#caution {{ color: {p.tight_text}; font-weight: 600; }}
        QFrame#card QScrollArea, QFrame#card QScrollArea > QWidget > QWidget {{ background: {p.card}; border: none; }}
        QFrame#card {{ background: {p.card}; border: 1px solid {p.line}; border-radius: 4px; }}
        QLineEdit, QComboBox, QSpinBox, QPlainTextEdit {{ background: {p.card}; border: 1px solid {p.line};
            border-radius: 4px; padding: {u(3)}px {u(7)}px; selection-background-color: {p.pine};
            selection-color: {p.button_ink if p.name == "light" else p.ink}; }}
        QLineEdit:focus, QComboBox:focus {{ border: 1.5px solid {p.ink}; }}
        QLineEdit[bad="true"] {{ border: 1.5px solid {p.breaks}; }}
        QComboBox::drop-down {{ border: none; width: {u(18)}px; }}
        QComboBox QAbstractItemView, QMenu, QListWidget {{ background: {p.card}; color: {p.ink};
            border: 1px solid {p.line}; selection-background-color: {p.soft}; selection-color: {p.ink}; outline: 0; }}
        QMenu::item {{ padding: {u(5)}px {u(22)}px; }}
        QMenu::item:selected {{ background: {p.soft}; }}
        QMenu::item:disabled {{ color: {p.mute}; }}
        QListWidget::item {{ padding: {u(5)}px {u(8)}px; border-bottom: 1px solid {p.line}; }}
        QListWidget::item:selected {{ background: {p.soft}; color: {p.ink}; }}
        QPushButton {{ background: {p.card}; border: 1px solid {p.line}; border-radius: 4px;
            padding: {u(5)}px {u(12)}px; font-size: {size["base"]}px; }}
        QPushButton:hover {{ background: {p.soft}; }}
        QPushButton:focus {{ border: 1.5px solid {p.ink}; }}
        QPushButton:disabled {{ color: {p.mute}; }}
        QPushButton#main {{ background: {p.button}; color: {p.button_ink}; font-weight: 600;
            border: 1px solid {p.button}; }}
        QPushButton#main:focus {{ border: 1.5px solid {p.copper}; }}
        QPushButton#link {{ background: transparent; border: 1px solid transparent; color: {p.link};
            padding: {u(2)}px {u(2)}px; text-align: left; font-weight: 600; font-size: {size["small"]}px; }}
        QPushButton#link:hover, QPushButton#link:focus {{ border: 1px solid {p.link}; }}
        QPushButton#mode {{ font-weight: 600; border-radius: {u(13)}px; padding: {u(4)}px {u(13)}px; }}
        QPushButton#mode:checked {{ background: {p.copper}; color: {p.card}; font-weight: 600;
            border-color: {p.copper}; }}
        QToolTip {{ background: {p.ink}; color: {p.card}; border: none; padding: 4px; }}
        QScrollBar:vertical {{ background: transparent; width: {u(10)}px; margin: 0; }}
        QScrollBar::handle:vertical {{ background: {p.line}; border-radius: {u(4)}px; min-height: 30px; }}
        QScrollBar:horizontal {{ background: transparent; height: {u(10)}px; margin: 0; }}
        QScrollBar::handle:horizontal {{ background: {p.line}; border-radius: {u(4)}px; min-width: 30px; }}
        QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
        QScrollBar::add-page, QScrollBar::sub-page {{ background: transparent; }}
        QSlider::groove:horizontal {{ background: {p.line}; height: {u(4)}px; border-radius: {u(2)}px; }}
        QSlider::handle:horizontal {{ background: {p.copper}; width: {u(14)}px; margin: -{u(5)}px 0;
            border-radius: {u(7)}px; }}
        QSlider::handle:horizontal:focus {{ border: 2px solid {p.ink}; }}
        QTableView {{ background: {p.card}; border: 1px solid {p.line}; gridline-color: {p.line};
            selection-background-color: {p.soft}; selection-color: {p.ink}; }}
        QHeaderView::section {{ background: {p.soft}; color: {p.mute}; border: none; padding: {u(3)}px {u(5)}px;
            border-right: 1px solid {p.line}; }}
        QCheckBox::indicator {{ width: {u(14)}px; height: {u(14)}px; }}
        QTextBrowser {{ background: {p.card}; border: 1px solid {p.line}; border-radius: 4px; }}
        """
