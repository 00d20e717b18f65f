"""Everything that follows from a project: the nodes of all subjects in order, each worked out only when it must be."""

from collections.abc import Iterable, Sequence
from functools import lru_cache
from typing import Any, TypeVar

from msgspec import Struct

from wired_union.kernel.subject import Assessment, Node, Subject
from wired_union.project.model import Project

T = TypeVar("T")


class _Work(Struct):
    """A project while it is assessed: the results so far, and what each node read."""

    project: Project
    today: str
    results: dict[Node[Any], Any]
    read: dict[Node[Any], tuple[Any, ...]]

    def of(self, node: Node[T]) -> T:
        found: T = self.results[node]
        return found

    def used_again(self, node: Node[Any], known: tuple[Any, tuple[Any, ...]] | None, before: Assessment | None) -> bool:
        """Whether the result before stands, since the node reads and needs the same."""
        self.read[node] = (self.today, *node.reads(self.project)) if node.dated else node.reads(self.project)
        if known is None or before is None or known[1] != self.read[node]:
            return False
        if any(self.results[n] is not before.of(n) for n in node.needs):
            return False
        self.results[node] = known[0]
        return True


def assess_with(subjects: tuple[Subject, ...], project: Project, before: Assessment | None = None) -> Assessment:
    """Assess a project; nodes that read the same values as in `before` are used again."""
    return assess_all_with(subjects, [project], before)[0]


def assess_all_with(
    subjects: tuple[Subject, ...], projects: Sequence[Project], before: Assessment | None = None,
    today: str | None = None,
) -> list[Assessment]:  # fmt: skip
    """Assess several projects, each as `assess_with` does it; a node that can is worked out for all of them at once.

    `today` is the day on which they are looked at, as 2026-11-28: that of `before` where it is not given.
    """
    on = today if today is not None else before.today if before is not None else ""
    works = [_Work(p, on, {}, {}) for p in projects]
    for node in in_order(subjects):
        known = before.known(node) if before is not None else None
        anew = [w for w in works if not w.used_again(node, known, before)]
        if node.work_all is not None and len(anew) > 1:
            found = node.work_all([(w.project, w) for w in anew])
        else:
            found = [node.work(w.project, w) for w in anew]
        for w, result in zip(anew, found, strict=True):
            w.results[node] = _or_same(result, known)
    return [Assessment(w.project, subjects, w.results, w.read, assess_all_with, on) for w in works]


def _or_same(found: Any, known: tuple[Any, tuple[Any, ...]] | None) -> Any:
    """What was found; where a plain value came out the same, the one before, so that what needs it need not move."""
    return known[0] if known is not None and isinstance(found, tuple | float) and found == known[0] else found


@lru_cache(maxsize=8)
def in_order(subjects: tuple[Subject, ...]) -> tuple[Node[Any], ...]:
    """Every node of some subjects, what it needs before it. Raises ValueError where they need each other in a ring."""
    found: list[Node[Any]] = []
    _add(found, (n for s in subjects for n in s.nodes), ())
    return tuple(found)


def _add(found: list[Node[Any]], nodes: Iterable[Node[Any]], above: tuple[Node[Any], ...]) -> None:
    for node in nodes:
        if node in above:
            raise ValueError(f"the node “{node.name}” needs itself in the end")
        if node not in found:
            _add(found, node.needs, (*above, node))
            found.append(node)
