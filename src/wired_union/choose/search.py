"""The best combination, proven: a branch and bound over packs and runtimes with a mixed-integer program in each node.

What is a sum (mass, money, least charge, least peak) is exact in the program, which HiGHS solves; what is not
(runtime, sag, hard requirements) is checked by the real assessment of each answer, and what that breaks is cut off
together with everything no better. No answer is guessed: the bound is the least score that anything not yet looked
at could have. Sources: Land & Doig 1960 (branch and bound); Hooker & Ottosson 2003 (cuts from a subproblem);
HiGHS, Huangfu & Hall 2018.
"""

import heapq
from collections.abc import Iterator

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from wired_union.choose.bounds import Bounds
from wired_union.choose.combination import Question, Tried
from wired_union.choose.cuts import Cut, Cutter, no_good
from wired_union.choose.program import CLOSE, Program, Rules

KEEP = 11
"""The best, and the ten next best."""
WIDE = 0.01
"""Share by which the runtimes of a node may differ when its whole program is asked."""
MANY_OPTIONS = 100
"""Options of all slots from which a whole program takes longer than bounding many parts of it."""
FINE = 5e-4
"""Relative gap at which a score with runtime in it counts as proven."""


class Progress(Struct, frozen=True):
    """How far a search is: what was found, best first, and the least score that anything else could have."""

    found: tuple[Tried, ...]
    bound: float
    assessed: int
    solved: int
    open_nodes: int
    never: tuple[str, ...] = ()
    """Ids of the limits that broke in every combination that was assessed."""
    done: bool = False

    @property
    def best(self) -> Tried | None:
        return self.found[0] if self.found else None

    @property
    def gap(self) -> float:
        """By what share the best could still be beaten; infinite while nothing is found."""
        if not self.found:
            return float("inf")
        score = self.found[0].score
        return max(score - self.bound, 0.0) / abs(score) if score else 0.0

    @property
    def proven(self) -> bool:
        """Whether nothing can be better than the best by more than half a thousandth."""
        return (self.done and not self.found) or self.gap <= FINE


class _Node(Struct, order=True):
    """Combinations with one pack whose runtime is from `low_s` to `high_s`, and the least score they could have.

    `places` is the answer of its program, None while that has not been asked.
    """

    bound: float
    number: int
    """No two have the same, so that nothing else is compared."""
    pack: int | None
    low_s: float
    high_s: float
    places: tuple[int, ...] | None = None
    seen_cuts: int = 0


def search(question: Question, keep: int = KEEP) -> Iterator[Progress]:
    """Search until the best `keep` are proven; gives its progress after each step, so that it can be stopped."""
    yield from Search(question, keep).run()


def bounds_of(question: Question) -> Bounds | None:
    """The bounds of the one subject that hands the search some; None where none does."""
    found = (s.load(s.bounds)(question) for s in question.assessment.subjects if s.bounds)
    return next((b for b in found if b is not None), None)


def cutter_of(question: Question, bounds: Bounds | None) -> Cutter:
    """What every subject proves."""
    subjects = question.assessment.subjects
    return Cutter(question, {s.id: s.load(s.cuts)(question, bounds) for s in subjects if s.cuts})


class Search:
    """The state of one search."""

    def __init__(self, question: Question, keep: int) -> None:
        self.question, self.keep = question, keep
        self.bounds = bounds_of(question)
        self.cutter = cutter_of(question, self.bounds)
        self.limits = {m: question.assessment.measure(m) for m in question.must_hold}
        self.runtime_cost = question.favour.runtime * question.scale["runtime"]
        self.runtime_counts = self.runtime_cost > 0
        self.cuts: list[Cut] = []
        self.tried: dict[tuple[int, ...], Tried] = {}
        self.pool: list[Tried] = []
        self.heap: list[_Node] = []
        self.numbers = 0
        self._popped = float("-inf")
        self.assessed = self.solved = 0
        self.never: set[str] | None = None
        favour, scale = question.favour, question.scale
        self.costs = [
            np.array([favour.mass * o.mass_kg / scale["mass"] + favour.money * o.cost / scale["money"]
                      for o in c.options])
            for c in question.choices
        ]  # fmt: skip
        self.options = sum(len(c.options) for c in question.choices)
        self.base = favour.mass * question.base_kg / scale["mass"] + favour.money * question.base_cost / scale["money"]

    def run(self) -> Iterator[Progress]:
        self._start()
        yield self._progress()
        while self.heap and self.heap[0].bound < self._cutoff():
            node = heapq.heappop(self.heap)
            self._popped = node.bound
            self._step(node)
            yield self._progress()
        yield replace(self._progress(), done=True)

    def _cutoff(self) -> float:
        """The score that a node must be able to beat to be worth opening."""
        if len(self.pool) < self.keep:
            return float("inf")
        last = self.pool[self.keep - 1].score
        return last - abs(last) * (FINE if self.runtime_counts else CLOSE)

    def _progress(self) -> Progress:
        lowest = self.heap[0].bound if self.heap else float("inf")
        bound = min(lowest, self.pool[0].score) if self.pool else lowest
        never = tuple(m for m in self.limits if self.never is not None and m in self.never)
        return Progress(tuple(self.pool[: self.keep]), bound, self.assessed, self.solved, len(self.heap), never)

    def _start(self) -> None:
        """A node for each pack; the favourite is tried at once, so that there is something to stop with."""
        self._try(self.question.favourite)
        slot = self.bounds.split_slot if self.bounds is not None else None
        packs: list[int | None] = list(range(len(self.question.choices[slot].options))) if slot is not None else [None]
        low = self.limits["runtime"].limit or 0.0 if "runtime" in self.limits else 0.0
        self.longest_s = 0.0
        for pack in packs:
            counts = self.runtime_counts and self.bounds is not None
            high = self.bounds.longest_s(pack) if counts and self.bounds is not None else float("inf")
            self.longest_s = max(self.longest_s, high if high < float("inf") else 0.0)
            if high >= low:
                self._open(pack, low, high, float("-inf"), relaxed=True)

    def _open(self, pack: int | None, low_s: float, high_s: float, at_least: float, *, relaxed: bool) -> None:
        """Bound some combinations and put them on the heap, unless nothing in it can be.

        `at_least` is what is known of their scores already; relaxed only bounds them, which is quick.
        """
        most = float("inf") if relaxed else self._worth()
        answer = Program(self._rules(), pack, low_s, high_s).solve(relaxed=relaxed, at_most=most - self.base)
        self.solved += 1
        if answer is None:
            if most < float("inf"):  # nothing in it scores less than `most`; it may be wanted for the next best
                self._keep(_Node(max(most, at_least), 0, pack, low_s, high_s, None, len(self.cuts)))
            return
        places, score = answer
        self._keep(_Node(max(self.base + score, at_least), 0, pack, low_s, high_s, places, len(self.cuts)))

    def _rules(self) -> Rules:
        return Rules(self.question, self.bounds, self.limits, self.costs, self.runtime_cost, tuple(self.cuts))

    def _worth(self) -> float:
        """What an answer must score less than to be of use now: first the best is proven, then the next best."""
        if self.pool and self.heap and min(self.heap[0].bound, self._popped) < self.pool[0].score:
            return self.pool[0].score
        return self.pool[self.keep - 1].score if len(self.pool) >= self.keep else float("inf")

    def _keep(self, node: _Node) -> None:
        self.numbers += 1
        heapq.heappush(self.heap, replace(node, number=self.numbers))

    def _step(self, node: _Node) -> None:
        """Open the node that could be best: ask its program, or try its answer and learn from it."""
        if node.places is None and self._is_wide(node):
            middle = (max(node.low_s, node.high_s / 1e3) * node.high_s) ** 0.5
            self._open(node.pack, node.low_s, middle, node.bound, relaxed=True)
            self._open(node.pack, middle, node.high_s, node.bound, relaxed=True)
            return
        new = [cut for cut in self.cuts[node.seen_cuts :] if cut.applies(node.low_s)]
        if node.places is None or any(cut.holds_for(node.places) for cut in new):
            self._open(node.pack, node.low_s, node.high_s, node.bound, relaxed=False)
            return
        tried = self._try(node.places)
        runtime = tried.runtime_s
        if not tried.holds:
            self._learn(tried, node, runtime)
        elif runtime < node.low_s:
            self.cuts.append(self.cutter.runtime_cut(tried))
        elif self.runtime_counts and node.low_s < runtime < node.high_s:
            self._keep(replace(node, low_s=runtime * (1 + 1e-9), places=None))
            node = replace(node, high_s=runtime)
        self._keep(replace(node, places=None))

    def _is_wide(self, node: _Node) -> bool:
        """Whether a node has so many runtimes in it that its program would say little: bounding halves is quicker."""
        if not self.runtime_counts or not 0 < node.high_s < float("inf") or self.options < MANY_OPTIONS:
            return False
        return node.high_s > (1 + WIDE) * max(node.low_s, self.longest_s / 1e3)

    def _learn(self, tried: Tried, node: _Node, runtime: float) -> None:
        """Cut off what broke, with everything no better; at least the combination itself.

        What only can not be judged proves nothing about others.
        """
        if not tried.broken and not tried.hard:
            self.cuts.append(no_good(tried.places))
            return
        cut = self.cutter.cut(tried) if runtime >= node.low_s or tried.hard else self.cutter.runtime_cut(tried)
        self.cuts.append(cut)
        if not cut.holds_for(tried.places):
            self.cuts.append(no_good(tried.places))

    def _try(self, places: tuple[int, ...]) -> Tried:
        """Assess a combination, once. One that holds goes to the pool, and is cut so that the next best comes up."""
        if places not in self.tried:
            found = self.question.try_out(places)
            self.tried[places] = found
            self.assessed += 1
            self.never = set(found.broken) if self.never is None else self.never & set(found.broken)
            if found.holds:
                self.pool.append(found)
                self.pool.sort(key=lambda t: t.score)
                self.cuts.append(no_good(places))
        return self.tried[places]
