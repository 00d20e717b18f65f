"""What is selected on the Trials screen."""

from msgspec import Struct


class TrialPick(Struct, frozen=True):
    """A trial by its id."""

    id: str = ""
