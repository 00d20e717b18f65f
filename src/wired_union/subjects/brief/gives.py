"""What other subjects may use of the brief: putting a limit on a measure of theirs."""

from wired_union.subjects.brief.edits import add_limit, set_limit

__all__ = ["add_limit", "set_limit"]
