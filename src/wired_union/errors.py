"""The root of every error that is meant for people: its text is one plain sentence that says what to do."""

OUR_FAULT = "The program could not do that: a fault of its own, not of your work."


class PlainError(ValueError):
    """Something that a person asked for and that cannot be; the text says what to do instead."""


def plain_text(error: BaseException) -> str:
    """What to say of an error: its own text where it is meant for people, else that the fault is the program's."""
    if isinstance(error, PlainError):
        return str(error)
    if isinstance(error, MemoryError):
        return "There is not enough memory for that. Close other programs, or try something smaller."
    if isinstance(error, OSError):
        return f"A file could not be used: {(error.strerror or str(error)).lower()}."
    return OUR_FAULT
