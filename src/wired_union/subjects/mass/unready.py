"""What Mass misses before it is handed over."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, Unready


def unready(assessment: Assessment) -> Iterator[Unready]:
    """Parts whose mass nobody measured."""
    items = assessment.project.concept.items
    weighed = {w.item for w in assessment.project.concept.weighings}
    bare = tuple(i.name for i in items if i.knowledge != "measured" and i.id not in weighed)
    yield Unready("parts with a measured mass", bare, len(items), "mass")
