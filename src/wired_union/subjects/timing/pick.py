"""What is selected on the Timing screen."""

from dataclasses import dataclass


@dataclass(frozen=True)
class TimingPick:
    """A stage of a chain, from 0; −1 for the one that costs most."""

    chain: str = ""
    stage: int = -1
