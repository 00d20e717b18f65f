"""Edits of throws: one more, one less, other figures."""

from functools import partial

from wired_union.project.change import Change
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import add_listed, remove_listed, set_listed
from wired_union.project.model import Project
from wired_union.project.throw_model import Throw

add_throw = partial(add_listed, room="throws", of_kind=Throw, word="throw")
remove_throw = partial(remove_listed, room="throws", word="throw")


def set_throw(project: Project, value_id: str, **figures: object) -> Change:
    """Other figures of a throw. Raises ProjectError for what cannot be."""
    change = set_listed(project, room="throws", value_id=value_id, word="throw", **figures)
    throw = next(t for t in change.after.concept.throws if t.id == value_id)
    if throw.band_low_m is not None and throw.band_high_m is not None and throw.band_low_m > throw.band_high_m:
        raise ProjectError("The band ends nearer than it begins. Give the nearer end first.")
    if throw.trial and throw.trial not in {t.id for t in project.trials}:
        raise ProjectError("There is no such trial. Choose one that there is.")
    return change
