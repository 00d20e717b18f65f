"""What is selected on the Interlocks screen."""

from msgspec import Struct


class InterlockPick(Struct, frozen=True):
    """A state, way, cue, hazard, gate or failure by its room and id."""

    room: str = ""
    id: str = ""
