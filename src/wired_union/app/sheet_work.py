"""Sheets that a window writes and reads: the parts list, masses and places, parts of others."""

from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QMessageBox

from wired_union.app.host import Host
from wired_union.app.project_files import folder_of
from wired_union.project.model import Stock

SHEETS = "Sheets (*.xlsx *.csv);;All files (*)"


class SheetWork:
    """Asks where to, and writes; asks which, and reads."""

    def __init__(self, host: Host) -> None:
        self._host = host

    def write_parts(self) -> None:
        from wired_union.catalogue.sheet_files import write_parts
        from wired_union.project.documents import DocumentError

        host = self._host
        if host.store is None:
            return
        usual = str(Path(folder_of(host)) / "parts.xlsx")
        text, _ = QFileDialog.getSaveFileName(host.widget, "Write the parts list", usual, "XLSX (*.xlsx);;CSV (*.csv)")
        if not text:
            return
        try:
            write_parts(host.store.project, Path(text))
        except DocumentError as error:
            QMessageBox.warning(host.widget, "Parts list", str(error))

    def write_places(self) -> None:
        """Write masses and places as a sheet, or the outline as a drawing."""
        from wired_union.project.documents import DocumentError
        from wired_union.subjects.mass.places_file import write_places

        host = self._host
        if host.store is None:
            return
        usual = str(Path(folder_of(host)) / "places.xlsx")
        forms = "XLSX (*.xlsx);;CSV (*.csv);;SVG (*.svg);;DXF (*.dxf)"
        text, _ = QFileDialog.getSaveFileName(host.widget, "Write masses and places", usual, forms)
        if not text:
            return
        try:
            write_places(host.store.assessment, host.theme.kit, Path(text))
        except DocumentError as error:
            QMessageBox.warning(host.widget, "Masses and places", str(error))
            return
        host.say(f"Masses and places are in {text}.")

    def read_places(self) -> None:
        """Take masses and places from a sheet, as one edit; say what was not understood."""
        from wired_union.catalogue.sheet import SheetError
        from wired_union.project.errors import ProjectError
        from wired_union.subjects.mass.places_file import read_places

        host = self._host
        if host.store is None:
            return
        text, _ = QFileDialog.getOpenFileName(host.widget, "Read masses and places", folder_of(host), SHEETS)
        if not text:
            return
        try:
            taken = read_places(host.store.project, Path(text))
        except (SheetError, ProjectError) as error:
            QMessageBox.warning(host.widget, "Masses and places", str(error))
            return
        host.store.apply(taken.change)
        if taken.trouble:
            said = "\n".join(taken.trouble)
            QMessageBox.warning(host.widget, "Masses and places", f"The rest was taken. Not understood:\n{said}")

    def import_parts(self) -> None:
        """Read a sheet of parts, show what is wrong with each row, and add the good ones."""
        host = self._host
        text, _ = QFileDialog.getOpenFileName(host.widget, "Import parts", folder_of(host), SHEETS)
        if text:
            self.import_sheet(Path(text))

    def import_sheet(self, path: Path) -> None:
        from wired_union.app.dialogs.import_parts import ImportParts
        from wired_union.catalogue.library import Library

        host = self._host
        if host.store is not None:
            ImportParts(path, host.store, Library(host.places.library), host.theme, host.widget).exec()

    def export_parts(self) -> None:
        """Write the catalogue, with the shelf's own parts and counts, as a sheet that can be imported."""
        from wired_union.catalogue.parts import catalogue
        from wired_union.catalogue.sheet_files import write_sheet
        from wired_union.project.documents import DocumentError

        host = self._host
        if host.store is None:
            return
        text, _ = QFileDialog.getSaveFileName(
            host.widget, "Export parts", str(Path(folder_of(host)) / "catalogue.xlsx"), SHEETS
        )
        if not text:
            return
        shelf = {s.part.id: s for s in host.store.project.shelf}
        general = [shelf.pop(p.id, Stock(part=p)) for p in catalogue()]
        try:
            write_sheet([*general, *shelf.values()], Path(text))
        except DocumentError as error:
            QMessageBox.warning(host.widget, "Export parts", str(error))
