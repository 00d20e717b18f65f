"""What is selected on the Timing screen."""

from msgspec import Struct


class TimingPick(Struct, frozen=True):
    """A stage of a chain, from 0; −1 for the one that costs most."""

    chain: str = ""
    stage: int = -1
