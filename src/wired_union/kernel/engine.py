"""Everything that follows from a project: the nodes of all subjects in order, each worked out only when it must be."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, TypeVar

from wired_union.kernel.subject import Assessment, Node, Subject
from wired_union.project.model import Project

T = TypeVar("T")


@dataclass
class _Given:
    """What a node may look at while it is worked out."""

    results: dict[Node[Any], Any]

    def of(self, node: Node[T]) -> T:
        found: T = self.results[node]
        return found


def assess_with(subjects: tuple[Subject, ...], project: Project, before: Assessment | None = None) -> Assessment:
    """Assess a project; nodes that read the same values as in `before` are used again."""
    results: dict[Node[Any], Any] = {}
    read: dict[Node[Any], tuple[Any, ...]] = {}
    given = _Given(results)
    for node in in_order(subjects):
        read[node] = node.reads(project)
        known = before.known(node) if before is not None else None
        same = known is not None and known[1] == read[node] and _needs_same(node, results, before)
        results[node] = known[0] if same and known is not None else _new(node, project, given, known)
    return Assessment(project, subjects, results, read, assess_with)


def _needs_same(node: Node[Any], results: dict[Node[Any], Any], before: Assessment | None) -> bool:
    return before is not None and all(results[n] is before.of(n) for n in node.needs)


def _new(node: Node[Any], project: Project, given: _Given, known: tuple[Any, tuple[Any, ...]] | None) -> Any:
    """A node worked out; where a plain value came out the same, the one before, so that what needs it need not move."""
    found = node.work(project, given)
    if known is not None and isinstance(found, tuple | float) and found == known[0]:
        return known[0]
    return found


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
