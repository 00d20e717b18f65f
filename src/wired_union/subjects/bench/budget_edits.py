"""Edits of error budgets: one more, one less, other figures, contributions."""

from functools import partial

from wired_union.project.budget_model import Doubt, ErrorBudget
from wired_union.project.change import Change, by_id, checked_name, figures_of, replaced, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import add_listed, remove_listed, set_listed
from wired_union.project.model import Project
from wired_union.project.value import checked, made
from wired_union.units import plain_words, show_named

add_budget = partial(add_listed, room="error_budgets", of_kind=ErrorBudget, word="error budget")
set_budget = partial(set_listed, room="error_budgets", word="error budget")
remove_budget = partial(remove_listed, room="error_budgets", word="error budget")


def add_doubt(project: Project, value_id: str, name: str, **figures: object) -> Change:
    """One contribution more."""
    name, old = checked_name(name, "contribution"), _budget(project, value_id)
    with figures_of(name):
        doubt = made(Doubt, name=name, **figures)
    return _with(project, old, old.but(doubts=(*old.doubts, _joined(project, doubt))), f"{name} makes it wrong as well")


def set_doubt(project: Project, value_id: str, number: int, **figures: object) -> Change:
    """Other figures of a contribution, by its number from 1. Raises ProjectError for what cannot be."""
    old = _budget(project, value_id)
    before = _doubt(old, number)
    with figures_of(before.name):
        new = _joined(project, checked(before, **figures))
    if new.averaged > 1 and new.of != "repeat":
        raise ProjectError(
            f"Averaging readings makes {new.name} no smaller: it is the same in all of them. Only a repeat error is."
        )
    doubts = (*old.doubts[: number - 1], new, *old.doubts[number:])
    said = ", ".join(f"{plain_words(f)} {_said(f, getattr(new, f))}" for f in figures)
    return _with(project, old, old.but(doubts=doubts), f"{new.name} {said}")


def remove_doubt(project: Project, value_id: str, number: int) -> Change:
    """One contribution less."""
    old = _budget(project, value_id)
    gone = _doubt(old, number)
    doubts = (*old.doubts[: number - 1], *old.doubts[number:])
    return _with(project, old, old.but(doubts=doubts), f"{gone.name} no longer counted")


def _said(field: str, value: object) -> str:
    return show_named(field, value) if isinstance(value, int | float) else str(value or "not said")


def _joined(project: Project, doubt: Doubt) -> Doubt:
    if doubt.calibration:
        by_id(project.concept.calibrations, doubt.calibration, "calibration")
    return doubt


def _budget(project: Project, value_id: str) -> ErrorBudget:
    return by_id(project.concept.error_budgets, value_id, "error budget")


def _doubt(budget: ErrorBudget, number: int) -> Doubt:
    if not 1 <= number <= len(budget.doubts):
        raise ProjectError(f"{budget.name} has {len(budget.doubts)} contributions.")
    return budget.doubts[number - 1]


def _with(project: Project, old: ErrorBudget, new: ErrorBudget, said: str) -> Change:
    after = with_concept(project, error_budgets=replaced(project.concept.error_budgets, old, new))
    return Change(project, after, f"{new.name}: {said}")
