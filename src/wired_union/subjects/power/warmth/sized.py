"""What is sized until a part is cool or warm enough: how long it works at a time, and a heater on it."""

import math
from collections.abc import Callable, Iterator, Sequence

from wired_union.catalogue.parts import of_kind
from wired_union.kernel.results import Remedy, tried
from wired_union.project.change import Change
from wired_union.project.model import Item, Part, Project
from wired_union.project.part_edits import set_use
from wired_union.subjects.power.assess import Source
from wired_union.subjects.power.currents import RUNNING
from wired_union.subjects.power.insert import added
from wired_union.subjects.power.suiting import suits
from wired_union.subjects.power.warmth.edits import set_warm
from wired_union.subjects.power.warmth.run import Heat
from wired_union.units import show

HeatOf = Callable[[Project], Heat]
"""Heat and cold of another project."""
SHARES = (0.75, 0.5, 0.25, 0.1)
"""Of how long it works now, that are tried."""
WARMER_K, SUGGESTED = 5.0, 2


def less_at_work(project: Project, heat: Heat, item_id: str, heat_of: HeatOf) -> Iterator[Remedy]:
    """The most that what burns there may work in the mode in which it burns most, so that it stays cool enough."""
    found = _works_hardest(heat, item_id)
    if found is None:
        return
    runner, n = found
    mode = heat.concept.modes[n]
    use = next((u for u in mode.uses if u.item == runner.id), None)
    state, duty = (use.state, use.duty) if use is not None else (mode.otherwise, 1.0)
    if state not in RUNNING:
        return
    for share in SHARES:
        change = tried(set_use, project, mode.id, runner.id, state, duty * share)
        if change is not None and _hot_margin_k(heat_of(change.after), item_id) >= 0:
            words = f"{runner.name} at work {show(duty * share, fraction=True)} of {mode.name} alone"
            yield Remedy(words, change)
            return


def _works_hardest(heat: Heat, item_id: str) -> tuple[Item, int] | None:
    """The load at or behind an item that takes most in the mode in which the item burns most, and that mode."""
    losses, power = heat.losses.get(item_id), heat.power
    if losses is None or not len(losses.most_w):
        return None
    n = int(losses.most_w.argmax())
    items = {i.id: i for i in heat.concept.items}
    rows = power.currents.row
    loads = [i for i in (item_id, *power.tree.below(item_id)) if i in rows and power.currents.average[rows[i], n] > 0]
    hardest = max(loads, key=lambda i: float(power.currents.average[rows[i], n]), default=None)
    return (items[hardest], n) if hardest is not None else None


def _hot_margin_k(heat: Heat, item_id: str) -> float:
    margins = (e.hot_margin_k for e in heat.extremes if e.item.id == item_id)
    return next((m for m in margins if m is not None), -1.0)


def a_heater(project: Project, heat: Heat, item_id: str, least_c: float, heat_of: HeatOf) -> Iterator[Remedy]:
    """The weakest heaters of the catalogue that keep a part above a temperature, where none warms it yet.

    More than one, since the weakest may ask too much of the only source that suits it.
    """
    item = next(i for i in heat.concept.items if i.id == item_id)
    if any(w.plate == item_id and w.holds_c is not None for w in heat.concept.warm_parts):
        return
    holds_c = least_c + WARMER_K
    found = 0
    for part in sorted(of_kind("heater"), key=_watts):
        source = _source_for(part, heat.power.offered)
        change = tried(_heated, project, item, part, source.item.id, holds_c) if source is not None else None
        if change is not None and source is not None and _coldest_c(heat_of(change.after), item_id) >= least_c:
            yield Remedy(f"{part.name} on it, fed from {source.item.name}, holds {show(holds_c, '°C')}", change)
            found += 1
        if found == SUGGESTED:
            return


def _source_for(part: Part, offered: Sequence[Source]) -> Source | None:
    """The source that gives a heater most of what it is rated at; of such the last on the way, behind its fuse."""
    rated = (part.load.rated_v if part.load is not None else None) or 0.0
    fitting = [s for s in offered if s.item.part.driver is None and suits(s, part)]
    return max(reversed(fitting), key=lambda s: round(min(s.low_v, rated), 1), default=None)


def _heated(project: Project, item: Item, part: Part, source: str, holds_c: float) -> Change:
    """A heater flat on a part, fed and with its thermostat: one edit. Raises ProjectError as its steps do."""
    after, new = added(project, item.subsystem, part, source)
    how = next((w for w in project.concept.warm_parts if w.item == item.id), None)
    box = how.enclosure if how is not None else ""
    after = set_warm(after, new.id, plate=item.id, mount="flat", enclosure=box, holds_c=holds_c).after
    return Change(project, after, f"{new.name} keeps {item.name} at {show(holds_c, '°C')} at least")


def _coldest_c(heat: Heat, item_id: str) -> float:
    """How cold an item gets; endless where that is not known."""
    return next((e.coldest_c for e in heat.extremes if e.item.id == item_id), -math.inf)


def _watts(part: Part) -> float:
    return (part.load.active_a or 0.0) * (part.load.rated_v or 0.0) if part.load is not None else 0.0
