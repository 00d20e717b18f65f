"""What is selected on the Plan screen."""

from msgspec import Struct


class PlanPick(Struct, frozen=True):
    """A task, person, machine, milestone or feature by its id; the end of a task, which is dragged."""

    task: str = ""
    person: str = ""
    machine: str = ""
    milestone: str = ""
    feature: str = ""
    end: bool = False
    calendar: bool = False
