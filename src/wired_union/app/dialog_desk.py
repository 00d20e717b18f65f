"""The dialogs of a window: each asks one thing, or shows one."""

from PyQt6.QtWidgets import QMessageBox

from wired_union.app.host import Host
from wired_union.project import concept_edits, edits
from wired_union.project.change import Change
from wired_union.ui import ask


class DialogDesk:
    """Opens dialogs before a window."""

    def __init__(self, host: Host) -> None:
        self._host = host

    def try_as_concept(self, change: Change) -> None:
        """Ask for a name, and take a pending edit up as a concept of its own."""
        host = self._host
        if host.store is None:
            return
        name, ok = ask.word(
            host.widget, "Try as a concept of its own", f"What is it called? It will {change.sentence}."
        )
        if ok:
            host.store.attempt(lambda _: concept_edits.try_as_concept(change, name, host.today()))

    def add_part(self, lane: str) -> None:
        from wired_union.app.dialogs.add_part import AddPart
        from wired_union.catalogue.library import Library

        host = self._host
        assert host.store is not None
        AddPart(host.store, host.theme, lane, host.widget, Library(host.places.library)).exec()

    def calculate(self, method: str) -> None:
        """Open the calculator of a published formula."""
        from wired_union.app.dialogs.calculator import Calculator
        from wired_union.physics.methods import find_method

        host = self._host
        Calculator(find_method(method), host.theme, host.widget).exec()

    def rename_project(self) -> None:
        host = self._host
        if host.store is None:
            return
        name, ok = ask.word(host.widget, "Project", "What is it called?", text=host.store.project.name)
        if ok:
            host.store.attempt(edits.rename_project, name)

    def show_about(self) -> None:
        from wired_union.app.dialogs.about import About

        host = self._host
        About(host.theme, host.widget).exec()

    def say_trouble(self, text: str) -> None:
        host = self._host
        if host.store is not None:
            host.say(text)
        QMessageBox.warning(host.widget, "Wired Union", text)

    def tell_fault(self, text: str, details: str) -> None:
        from wired_union.app.dialogs.fault import Fault

        host = self._host
        Fault(text, details, host.theme, host.widget).open()
