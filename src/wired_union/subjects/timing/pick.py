"""What is selected on the Timing screen."""

from msgspec import Struct


class TimingPick(Struct, frozen=True):
    """A stage of a chain, from 0; −1 for the one that costs most."""

    chain: str = ""
    stage: int = -1


class SharedPick(Struct, frozen=True):
    """A processor, task, bus or message by its list and id; "" where a chain is looked at."""

    room: str = ""
    id: str = ""
