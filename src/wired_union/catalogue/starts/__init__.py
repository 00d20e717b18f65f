"""Eight made-up projects to start from: each works, something in it breaks, and all of it is there to be changed."""

from collections.abc import Callable

from wired_union.project.errors import ProjectError
from wired_union.project.model import Project


def _makers() -> dict[str, Callable[[], Project]]:
    from wired_union.catalogue.starts import reaching, rolling, throwing, waiting  # when a start is asked for

    return {
        "seed-cart": rolling.seed_cart,
        "jar-picker": reaching.jar_picker,
        "feed-caster": throwing.feed_caster,
        "hen-door": reaching.hen_door,
        "river-probe": rolling.river_probe,
        "bog-logger": waiting.bog_logger,
        "button-sorter": throwing.button_sorter,
        "sun-follower": reaching.sun_follower,
    }


STARTS = {
    "seed-cart": "rolls: a seed-drill cart for a raised bed",
    "jar-picker": "reaches and grips: a jar picker for a greenhouse shelf",
    "feed-caster": "throws: a feed caster for a fish pond",
    "hen-door": "opens and closes: a hen-house door",
    "river-probe": "floats and sinks: a river-bottom probe that comes up again",
    "bog-logger": "sits and senses for weeks: a peat-bog level logger",
    "button-sorter": "sorts on a table: a button sorter",
    "sun-follower": "turns and points: a sun follower for a cooker",
}
"""Each start by its name, with what it does, in the order that a menu offers them."""


def start(name: str) -> Project:
    """A project to start from. Raises ProjectError when there is none of that name."""
    if name not in STARTS:
        raise ProjectError(f"There is no start “{name}”. There are: {', '.join(STARTS)}.")
    return _makers()[name]()
