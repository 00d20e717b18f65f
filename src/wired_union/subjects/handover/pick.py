"""What is selected on the Handover screen."""

from msgspec import Struct


class HandPick(Struct, frozen=True):
    """A compartment of the case by the subject that fills it; "" for none."""

    compartment: str = ""
