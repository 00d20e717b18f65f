"""What is selected on the Wiring screen."""

from msgspec import Struct

from wired_union.subjects.wiring.wishes import Key


class WiringPick(Struct, frozen=True):
    """A value by its room and id ("items", "cables", "joins" …), a signal, or a pin of a controller."""

    room: str = ""
    id: str = ""
    key: Key | None = None
    pin: str = ""
