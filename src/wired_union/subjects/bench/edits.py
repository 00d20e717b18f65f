"""Edits of the bench: a reading, a part that works, what it waits for, a figure taken as measured; calibrations."""

from collections.abc import Sequence
from functools import partial

from wired_union.project.bench_model import Calibration, Pair, Reading, Waking
from wired_union.project.change import Change, by_id, figures_of, find_item, replaced, with_concept
from wired_union.project.dates import checked_day
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import add_listed, remove_listed, set_listed
from wired_union.project.model import Project
from wired_union.project.part_edits import set_part_value
from wired_union.project.value import made
from wired_union.project.weigh_edits import weigh
from wired_union.subjects.bench.order import WEIGHS
from wired_union.units import plain_words, show_named


def add_reading(
    project: Project, item_id: str, figure: str, value: float, *, on: str = "", by: str = "", instrument: str = ""
) -> Change:  # fmt: skip
    """One reading more; those before it stay. Raises ProjectError for one that cannot be."""
    item = find_item(project, item_id)
    with figures_of(item.name):
        reading = made(Reading, item=item.id, figure=figure, value=value, on=checked_day(on) if on else "", by=by,
                       instrument=instrument)  # fmt: skip
    after = with_concept(project, readings=(*project.concept.readings, reading))
    return Change(project, after, f"{item.name}: {plain_words(figure)} measured {show_named(figure, value)}")


def wake(project: Project, item_id: str, on: str, *, by: str = "") -> Change:
    """A part works; "" for not yet."""
    said = "works" if on else "does not work yet"
    return _waking(project, item_id, said, woken_on=checked_day(on) if on else "", by=by)


def wait_for(project: Project, item_id: str, what: str) -> Change:
    """A part waits for a person, a tool or a delivery; "" for nothing."""
    return _waking(project, item_id, f"waits for {what.strip()}" if what.strip() else "waits for nothing",
                   waits_for=what.strip())  # fmt: skip


def _waking(project: Project, item_id: str, said: str, **figures: str) -> Change:
    item = find_item(project, item_id)
    known = project.concept.wakings
    old = next((w for w in known if w.item == item.id), None)
    new = (old or Waking(item=item.id)).but(**figures)
    wakings = replaced(known, old, new) if old is not None else (*known, new)
    return Change(project, with_concept(project, wakings=wakings), f"{item.name}: {said}")


def take_as_measured(project: Project, item_id: str, figure: str) -> Change:
    """The last reading in the place of the figure that the plan counts with. How well the part is known otherwise, such
    as its mass, stays as it was.

    Raises ProjectError where there is no reading, or the figure stands for nothing of the part.
    """
    item = find_item(project, item_id)
    reading = next((r for r in reversed(project.concept.readings) if (r.item, r.figure) == (item.id, figure)), None)
    if reading is None:
        raise ProjectError(f"{item.name}: {plain_words(figure)} was not measured yet.")
    if figure == WEIGHS and reading.on:
        return weigh(project, item.id, reading.value, on=reading.on, scale=reading.instrument)
    if "." not in figure and figure != WEIGHS:
        raise ProjectError(f"{plain_words(figure)} is worked out, and not a figure of {item.name}.")
    after = set_part_value(project, item.id, figure, reading.value).after
    words = f"{item.name}: {plain_words(figure)} {show_named(figure, reading.value)} as measured"
    return Change(project, after, words)


# calibrations


add_calibration = partial(add_listed, room="calibrations", of_kind=Calibration, word="calibration")
set_calibration = partial(set_listed, room="calibrations", word="calibration")


def remove_calibration(project: Project, value_id: str) -> Change:
    """One less. Raises ProjectError where it has points: those are kept."""
    old = by_id(project.concept.calibrations, value_id, "calibration")
    if old.pairs:
        raise ProjectError(f"{old.name} holds {len(old.pairs)} points, which are kept. Strike them out instead.")
    return remove_listed(project, room="calibrations", value_id=value_id, word="calibration")


def add_pairs(project: Project, value_id: str, pairs: Sequence[Pair]) -> Change:
    """More points, at the end."""
    if not pairs:
        raise ProjectError("There is no point in it. A point a line: what it was, and what the sensor said.")
    old = by_id(project.concept.calibrations, value_id, "calibration")
    said = f"{len(pairs)} point{'s' if len(pairs) > 1 else ''} more"
    return _with_calibration(project, old, old.but(pairs=(*old.pairs, *pairs)), said)


def strike_pair(project: Project, value_id: str, number: int, why: str) -> Change:
    """A point, by its number from 1, that does not count, with the reason; "" counts it again."""
    old = by_id(project.concept.calibrations, value_id, "calibration")
    if not 1 <= number <= len(old.pairs):
        raise ProjectError(f"{old.name} has {len(old.pairs)} points.")
    pair = old.pairs[number - 1].but(struck=why.strip())
    pairs = (*old.pairs[: number - 1], pair, *old.pairs[number:])
    said = f"point {number} struck out: {why.strip()}" if why.strip() else f"point {number} counts again"
    return _with_calibration(project, old, old.but(pairs=pairs), said)


def _with_calibration(project: Project, old: Calibration, new: Calibration, said: str) -> Change:
    after = with_concept(project, calibrations=replaced(project.concept.calibrations, old, new))
    return Change(project, after, f"{new.name}: {said}")
