"""The demo projects that ship with the program: all made up."""

from datetime import timedelta
from pathlib import Path
from typing import Any

import msgspec

from wired_union.project.dates import as_day
from wired_union.project.decision_model import Question
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text
from wired_union.project.kept import KEPT
from wired_union.project.model import Concept, Project
from wired_union.project.money_model import Purchase, Rate
from wired_union.project.plan_model import Milestone, Plan, PlanTask
from wired_union.project.references import inner_kinds
from wired_union.project.value import Value
from wired_union.shipped import DEMOS

NAMES = ("mudlark", "bat-counter")


KEPT_WITH_DEMOS = tuple(DEMOS / f"{name}{KEPT}" for name in NAMES)
"""Folders with pictures and versions of the demos."""
WRITTEN_ON = "2026-11-25"
"""The day on which the plans of the demos stand."""


def demo(name: str = "mudlark", today: str = "") -> Project:
    """A demo project, its plan as if it had been made for that day; as it was written where none is given.

    Raises ProjectError when there is none of that name.
    """
    if name not in NAMES:
        raise ProjectError(f"There is no demo “{name}”. There are: {', '.join(NAMES)}.")
    file = DEMOS / f"{name}.union.json"
    text = file.read_text(encoding="utf-8")
    day = as_day(today)
    written = as_day(WRITTEN_ON)
    if day is not None and written is not None and day != written:
        text = _moved(text, day - written)
    return from_text(text, Path(file.name))


def _moved(text: str, by: timedelta) -> str:
    """The file's text with every day of its plan, its money and its open questions so much later."""
    project = msgspec.json.decode(text)
    for part in _dated(Project):
        if part in project:
            project[part] = _later(project[part], by)
    for concept in project["concepts"]:
        for part in _dated(Concept):
            if part in concept:
                concept[part] = _later(concept[part], by)
    return msgspec.json.encode(project).decode()


def _later(value: Any, by: timedelta) -> Any:
    if isinstance(value, dict):
        return {k: _later(v, by) for k, v in value.items()}
    if isinstance(value, list):
        return [_later(v, by) for v in value]
    day = as_day(value) if isinstance(value, str) else None
    return (day + by).isoformat() if day is not None else value


DATED: tuple[type[Value], ...] = (Plan, Purchase, Rate, PlanTask, Milestone, Question)
"""Kinds of values whose days move with the day on which a demo is opened; what was tried and read stays."""


def _dated(kind: type[Value]) -> list[str]:
    """Fields that hold such values."""
    return [field for field, kinds in inner_kinds(kind).items() if set(kinds) & set(DATED)]
