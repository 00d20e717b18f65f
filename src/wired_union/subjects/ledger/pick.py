"""What is selected on the Money screen."""

from msgspec import Struct


class MoneyPick(Struct, frozen=True):
    """A line of the ledger, a part that is made, or an upgrade by its id; or making more as a whole."""

    line: str = ""
    made: str = ""
    upgrade: str = ""
    making: bool = False
