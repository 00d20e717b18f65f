"""The Qt style sheet of the whole window, from a theme's palette and sizes."""

from collections.abc import Callable

from wired_union.picture.palette import FIGURES, SIZES, Palette

Px = Callable[[float], int]


def style_sheet(p: Palette, px: Px) -> str:
    """The style sheet in a palette, with lengths as `px` makes them."""
    size = {k: px(v) for k, v in SIZES.items()}
    parts = (_frame(p, px, size), _labels(p, size), _fields(p, px), _buttons(p, px, size), _bars(p, px))
    return "\n".join(parts)


def _frame(p: Palette, px: Px, size: dict[str, int]) -> str:
    """What stands around the work: header, rail, panel, strip."""
    return f"""
    QMainWindow, QDialog, #work {{ background: {p.chalk}; }}
    #header {{ background: {p.pine}; }}
    #header QLabel {{ color: {p.rail_ink}; background: transparent; }}
    #header #quiet {{ color: {p.rail_mute}; }}
    #header QPushButton, #header QToolButton {{ background: {p.deep}; color: {p.rail_mute};
        border: 1px solid {p.deep}; border-radius: 4px; padding: {px(4)}px {px(10)}px; text-align: left; }}
    #header QToolButton::menu-indicator {{ image: none; }}
    #header QPushButton:hover, #header QToolButton:hover {{ color: {p.rail_ink}; }}
    #header QPushButton:focus, #header QToolButton:focus {{ border: 1px solid {p.rail_mute}; }}
    #switch {{ background: {p.deep}; border-radius: {px(14)}px; }}
    #header QPushButton#pill {{ background: transparent; color: {p.rail_mute}; border: 1px solid transparent;
        border-radius: {px(12)}px; padding: {px(3)}px {px(12)}px; text-align: center; }}
    #header QPushButton#pill:checked {{ background: {p.chalk}; color: {p.ink}; font-weight: 600; }}
    #header QPushButton#pill:focus {{ border: 1px solid {p.rail_mute}; }}
    #rail, #rail > QWidget > #railInside {{ background: {p.deep}; border: none; }}
    #panel {{ background: {p.card}; border-left: 1px solid {p.line}; }}
    #panel QScrollArea, #panel QScrollArea > QWidget > #paper {{ background: {p.card}; border: none; }}
    #panel[drawer="true"] {{ border-left: 2px solid {p.line}; }}
    QPushButton#handle {{ border: none; border-left: 1px solid {p.line}; border-radius: 0; padding: 0;
        background: {p.card}; color: {p.link}; font-weight: 600; text-align: center; }}
    QPushButton#handle:hover, QPushButton#handle:focus {{ background: {p.soft}; }}
    #workarea, #workarea > QWidget > #paper {{ background: {p.chalk}; border: none; }}
    #strip, #rippleLine {{ background: {p.card}; border: none; border-top: 1px solid {p.line}; }}
    #strip > QWidget > #paper {{ background: {p.card}; }}
    """


def _labels(p: Palette, size: dict[str, int]) -> str:
    """Labels and cards."""
    return f"""
    QLabel#title {{ font-size: {size["title"]}px; font-weight: 600; }}
    QLabel#heading {{ font-size: {size["heading"]}px; font-weight: 600; }}
    QLabel#mute, QLabel#hint {{ color: {p.mute}; font-size: {size["small"]}px; }}
    QLabel#figures {{ font-family: "{FIGURES}"; font-weight: 500; }}
    QLabel#error {{ color: {p.breaks_text}; font-size: {size["small"]}px; }}
    QFrame#card QScrollArea, QFrame#card QScrollArea > QWidget > #paper {{ background: {p.card}; border: none; }}
    QFrame#card {{ background: {p.card}; border: 1px solid {p.line}; border-radius: 4px; }}
    """


def _fields(p: Palette, px: Px) -> str:
    """Fields, lists and menus."""
    return f"""
    QLineEdit, QComboBox, QSpinBox, QPlainTextEdit {{ background: {p.card}; border: 1px solid {p.line};
        border-radius: 4px; padding: {px(3)}px {px(7)}px; selection-background-color: {p.pine};
        selection-color: {p.button_ink if p.name == "light" else p.ink}; }}
    QLineEdit:focus, QComboBox:focus {{ border: 1.5px solid {p.ink}; }}
    QLineEdit[bad="true"] {{ border: 1.5px solid {p.breaks}; }}
    QComboBox::drop-down {{ border: none; width: {px(18)}px; }}
    QComboBox QAbstractItemView, QMenu, QListWidget {{ background: {p.card}; color: {p.ink};
        border: 1px solid {p.line}; selection-background-color: {p.soft}; selection-color: {p.ink}; outline: 0; }}
    QMenu::item {{ padding: {px(5)}px {px(22)}px; }}
    QMenu::item:selected {{ background: {p.soft}; }}
    QMenu::item:disabled {{ color: {p.mute}; }}
    QListWidget::item {{ padding: {px(5)}px {px(8)}px; border-bottom: 1px solid {p.line}; }}
    QListWidget::item:selected {{ background: {p.soft}; color: {p.ink}; }}
    """


def _buttons(p: Palette, px: Px, size: dict[str, int]) -> str:
    """Buttons."""
    return f"""
    QPushButton {{ background: {p.card}; border: 1px solid {p.line}; border-radius: 4px;
        padding: {px(5)}px {px(12)}px; font-size: {size["base"]}px; }}
    QPushButton:hover {{ background: {p.soft}; }}
    QPushButton:focus {{ border: 1.5px solid {p.ink}; }}
    QPushButton:disabled {{ color: {p.mute}; }}
    QPushButton#main {{ background: {p.button}; color: {p.button_ink}; font-weight: 600;
        border: 1px solid {p.button}; }}
    QPushButton#main:focus {{ border: 1.5px solid {p.copper}; }}
    QPushButton#link {{ background: transparent; border: 1px solid transparent; color: {p.link};
        padding: {px(2)}px {px(2)}px; text-align: left; font-weight: 600; font-size: {size["small"]}px; }}
    QPushButton#link:hover, QPushButton#link:focus {{ border: 1px solid {p.link}; }}
    QPushButton#mode {{ font-weight: 600; border-radius: {px(13)}px; padding: {px(4)}px {px(13)}px; }}
    QPushButton#mode:checked {{ background: {p.copper}; color: {p.card}; font-weight: 600;
        border-color: {p.copper}; }}
    """


def _bars(p: Palette, px: Px) -> str:
    """Scroll bars, sliders, tables and the rest."""
    return f"""
    QToolTip {{ background: {p.ink}; color: {p.card}; border: none; padding: 4px; }}
    QScrollBar:vertical {{ background: transparent; width: {px(10)}px; margin: 0; }}
    QScrollBar::handle:vertical {{ background: {p.line}; border-radius: {px(4)}px; min-height: 30px; }}
    QScrollBar:horizontal {{ background: transparent; height: {px(10)}px; margin: 0; }}
    QScrollBar::handle:horizontal {{ background: {p.line}; border-radius: {px(4)}px; min-width: 30px; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
    QScrollBar::add-page, QScrollBar::sub-page {{ background: transparent; }}
    QSlider::groove:horizontal {{ background: {p.line}; height: {px(4)}px; border-radius: {px(2)}px; }}
    QSlider::handle:horizontal {{ background: {p.copper}; width: {px(14)}px; margin: -{px(5)}px 0;
        border-radius: {px(7)}px; }}
    QSlider::handle:horizontal:focus {{ border: 2px solid {p.ink}; }}
    QTableView {{ background: {p.card}; border: 1px solid {p.line}; gridline-color: {p.line};
        selection-background-color: {p.soft}; selection-color: {p.ink}; }}
    QHeaderView::section {{ background: {p.soft}; color: {p.mute}; border: none; padding: {px(3)}px {px(5)}px;
        border-right: 1px solid {p.line}; }}
    QCheckBox::indicator {{ width: {px(14)}px; height: {px(14)}px; }}
    QTextBrowser {{ background: {p.card}; border: 1px solid {p.line}; border-radius: 4px; }}
    """
