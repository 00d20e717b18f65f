"""What is selected on the Notebook screen."""

from msgspec import Struct

NOW = "now"
"""Stands for the present among the versions."""


class NotePick(Struct, frozen=True):
    """An entry or a fault by its id; one or two versions to compare, the present among them."""

    entry: str = ""
    fault: str = ""
    versions: tuple[str, ...] = ()
