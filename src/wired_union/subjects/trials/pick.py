"""What is selected on the Trials screen."""

from msgspec import Struct


class TrialPick(Struct, frozen=True):
    """A trial by its id; or the course, one of its trips, tasks or places by its id; or a throw."""

    id: str = ""
    course: bool = False
    trip: str = ""
    task: str = ""
    place: str = ""
    throw: str = ""
