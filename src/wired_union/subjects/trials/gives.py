"""What other subjects may use of trials: how every wish of the brief is proved, and that drawn."""

from wired_union.subjects.trials.assess import proofs_of
from wired_union.subjects.trials.picture_proofs import proofs_picture

__all__ = ["proofs_of", "proofs_picture"]
