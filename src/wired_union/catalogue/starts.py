"""Eight made-up projects to start from: each works, something in it breaks, and all of it is there to be changed.

They are project files whose parts are named by their id alone: what they are stands in the catalogue.
"""

from pathlib import Path

from wired_union.catalogue.parts import part
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text
from wired_union.project.model import Concept, Project
from wired_union.shipped import STARTS as FOLDER

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
    file = FOLDER / f"{name}.union.json"
    bare = from_text(file.read_text(encoding="utf-8"), Path(file.name))
    return bare.but(concepts=tuple(_with_parts(c) for c in bare.concepts))


def _with_parts(concept: Concept) -> Concept:
    return concept.but(items=tuple(i.but(part=part(i.part.id)) for i in concept.items))
