"""The bench for a builder: what has nothing to wake is mounted first, then each part is placed and woken."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, BuildStep
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import to_svg
from wired_union.project.model import Concept, Item
from wired_union.project.place_words import said_place
from wired_union.subjects.bench.assess import BENCH
from wired_union.subjects.bench.order import Step, kind_of
from wired_union.subjects.mass.gives import outline
from wired_union.units import show

MOUNTED, WOKEN = 10.0, 50.0
WIDE = 520.0
MOST_DRAWN = 40
"""Parts that are drawn at their place; beyond it the drawing would be a page each for no more than its number says."""


def steps(assessment: Assessment, kit: Kit) -> Iterator[BuildStep]:
    """Every part of the concept at work."""
    concept = assessment.project.concept
    bare = [i for i in concept.items if kind_of(i) is None]
    few = len(concept.items) <= MOST_DRAWN
    for n, item in enumerate(bare):
        yield BuildStep(MOUNTED + 0.001 * n, f"Mount {_many(item)}", _where(item), ("screwdriver",),
                        svg=_drawn(assessment, kit, item) if few else "")  # fmt: skip
    bench = assessment.of(BENCH)
    for n, woken in enumerate(tuple(bench)):
        step = woken.step
        yield BuildStep(
            WOKEN + 0.001 * n, f"Place and wake {_many(step.item)}", _text(concept, step), _tools(step), step.care,
            _drawn(assessment, kit, step.item) if few else "",
        )  # fmt: skip


def _many(item: Item) -> str:
    return f"{item.count} × {item.name}" if item.count > 1 else item.name


def _where(item: Item) -> str:
    if not item.places:
        return "Its place is not written down yet."
    said = "; ".join(said_place(p) for p in item.places[: item.count])
    return f"At {said}, from the middle of the machine on the floor."


def _text(concept: Concept, step: Step) -> str:
    """Where it goes, what feeds it, what to look for, what usually is wrong."""
    names = {i.id: i.name for i in concept.items}
    fed = [names[f.source] for f in concept.feeds if f.load == step.item.id]
    said = [_where(step.item)]
    if fed:
        said.append(f"Fed from {fed[0]}.")
    looked = [f"{e.name} {show(e.value, e.unit)}" if e.unit else e.name for e in step.expects if e.value is not None]
    said.append(f"Look for: {'; '.join(looked)}." if looked else "What to expect of it is not known yet.")
    said.append(f"If not: {step.wrong[:1].lower()}{step.wrong[1:]}")
    return " ".join(said)


def _tools(step: Step) -> tuple[str, ...]:
    return tuple(dict.fromkeys(e.tool for e in step.expects if e.value is not None))


def _drawn(assessment: Assessment, kit: Kit, item: Item) -> str:
    picture = outline(assessment, kit, WIDE, item.id)
    return to_svg(picture, label=f"where {item.name} is") if picture is not None else ""
