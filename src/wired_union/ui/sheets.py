"""Tables from the clipboard or a file, texts saved where a person says; what goes wrong is said, nothing is lost."""

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtWidgets import QApplication, QFileDialog, QMessageBox, QWidget

from wired_union.catalogue.sheet import SheetError, table_text
from wired_union.project.documents import DocumentError, write_bytes


def clipboard_text() -> str:
    """What was copied last, "" for nothing."""
    clipboard = QApplication.clipboard()
    return clipboard.text() if clipboard is not None else ""


def open_table(parent: QWidget, title: str) -> str:
    """The cells of a CSV or XLSX file that is chosen, between tabs; "" where none is, or it cannot be read."""
    path, _ = QFileDialog.getOpenFileName(parent, title, "", "Tables (*.csv *.txt *.xlsx)")
    if not path:
        return ""
    try:
        return table_text(Path(path))
    except SheetError as error:
        QMessageBox.warning(parent, "It was not read", str(error))
        return ""


CODES = {"h": "C (*.h)", "py": "Python (*.py)"}


def save_code(parent: QWidget, name: str, ending: str, write: Callable[[], str]) -> None:
    """Save a program's text where a person says; `write` raises ValueError where there is none."""
    try:
        text = write()
    except ValueError as error:
        QMessageBox.warning(parent, "Nothing to write", str(error))
        return
    _save(parent, f"{name}.{ending}", CODES[ending], text.encode())


def save_file(parent: QWidget, name: str, kinds: str, write: Callable[[], bytes]) -> None:
    """Save a document where a person says; `write` raises ValueError where there is nothing to write."""
    try:
        data = write()
    except ValueError as error:
        QMessageBox.warning(parent, "Nothing to write", str(error))
        return
    _save(parent, name, kinds, data)


def _save(parent: QWidget, name: str, kinds: str, data: bytes) -> None:
    path, _ = QFileDialog.getSaveFileName(parent, "Save", name, kinds)
    if not path:
        return
    try:
        write_bytes(Path(path), data)
    except DocumentError as error:
        QMessageBox.warning(parent, "It was not saved", str(error))
