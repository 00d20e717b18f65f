"""The best combination, proven: a branch and bound over packs and runtimes with a mixed-integer program in each node.

What is a sum (mass, money, least charge, least peak) is exact in the program, which HiGHS solves; what is not
(runtime, sag, hard requirements) is checked by the real assessment of each answer, and what that breaks is cut off
together with everything no better. No answer is guessed: the bound is the least score that anything not yet looked
at could have. Sources: Land & Doig 1960 (branch and bound); Hooker & Ottosson 2003 (cuts from a subproblem);
HiGHS, Huangfu & Hall 2018.
"""

import heapq
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from itertools import pairwise

import numpy as np

from wired_union.assess.power import PackFigures
from wired_union.choose.combination import Question, Tried
from wired_union.choose.cuts import Cut, Cutter, no_good
from wired_union.choose.power_bound import bound_power
from wired_union.choose.rating_rows import RatingRows, Row
from wired_union.physics.battery import Array

KEEP = 11
"""The best, and the ten next best."""
CLOSE = 1e-9
FINE = 1e-4
"""Relative gap at which a score with runtime in it counts as proven."""


@dataclass(frozen=True)
class Progress:
    """How far a search is: what was found, best first, and the least score that anything else could have."""

    found: tuple[Tried, ...]
    bound: float
    assessed: int
    solved: int
    open_nodes: int
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
        """Whether nothing can be better than the best by more than a ten-thousandth."""
        return (self.done and not self.found) or self.gap <= FINE


@dataclass(order=True)
class _Node:
    """Combinations with one pack whose runtime is from `low_s` to `high_s`, and the least score they could have."""

    bound: float
    number: int
    pack: int | None = field(compare=False)
    low_s: float = field(compare=False)
    high_s: float = field(compare=False)
    places: tuple[int, ...] | None = field(compare=False, default=None)
    seen_cuts: int = field(compare=False, default=0)


def search(question: Question, keep: int = KEEP) -> Iterator[Progress]:
    """Search until the best `keep` are proven; gives its progress after each step, so that it can be stopped."""
    yield from _Search(question, keep).run()


class _Search:
    def __init__(self, question: Question, keep: int) -> None:
        self.question, self.keep = question, keep
        self.bound_rows = bound_power(question)
        self.ratings = RatingRows(self.bound_rows) if self.bound_rows is not None else None
        self._ratings_of: dict[int | None, list[Row]] = {}
        self.cutter = Cutter(question, self.bound_rows)
        self.limits = {m: question.assessment.measure(m) for m in question.must_hold}
        self.runtime_counts = bool(question.favour.runtime)
        self.cuts: list[Cut] = []
        self.tried: dict[tuple[int, ...], Tried] = {}
        self.pool: list[Tried] = []
        self.heap: list[_Node] = []
        self.numbers = 0
        self.assessed = self.solved = 0
        favour, scale = question.favour, question.scale
        self.costs = [
            np.array([favour.mass * o.mass_kg / scale["mass"] + favour.money * o.cost / scale["money"]
                      for o in c.options])
            for c in question.choices
        ]  # fmt: skip
        self.base = favour.mass * question.base_kg / scale["mass"] + favour.money * question.base_cost / scale["money"]

    def run(self) -> Iterator[Progress]:
        self._start()
        yield self._progress()
        while self.heap and self.heap[0].bound < self._cutoff():
            self._step(heapq.heappop(self.heap))
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
        return Progress(tuple(self.pool[: self.keep]), bound, self.assessed, self.solved, len(self.heap))

    def _start(self) -> None:
        """A node for each pack; the favourite is tried at once, so that there is something to stop with."""
        self._try(self.question.favourite)
        rows = self.bound_rows
        slot = rows.pack_slot if rows is not None else None
        packs: list[int | None] = list(range(len(self.question.choices[slot].options))) if slot is not None else [None]
        low = self.limits["runtime"].limit or 0.0 if "runtime" in self.limits else 0.0
        for pack in packs:
            high = self._longest(pack) if self.runtime_counts else float("inf")
            if high >= low:
                self._push(pack, low, high)

    def _longest(self, pack: int | None) -> float:
        """The longest that any combination with a pack could run, were each slot as thrifty as it can be."""
        figures = self._figures(pack)
        if figures is None or self.bound_rows is None:
            return float("inf")
        low, high = 0.0, 3600.0

        def could(runtime_s: float) -> bool:
            columns, most = self.bound_rows.runtime_row(figures, runtime_s)  # type: ignore[union-attr]
            return sum(float(c.min()) for c in columns) <= most

        while could(high):
            low, high = high, high * 2
            if high > 1e11:
                return float("inf")
        for _ in range(40):
            middle = (low + high) / 2
            low, high = (middle, high) if could(middle) else (low, middle)
        return high

    def _figures(self, pack: int | None) -> PackFigures | None:
        return self.bound_rows.pack_at(pack) if self.bound_rows is not None else None

    def rating_rows(self, pack: int | None) -> list[Row]:
        """The rows of hard requirements with a pack; worked out once."""
        figures = self._figures(pack)
        if self.ratings is None or figures is None:
            return []
        if pack not in self._ratings_of:
            self._ratings_of[pack] = self.ratings.rows(figures)
        return self._ratings_of[pack]

    def _runtime_term(self, high_s: float) -> float:
        favour = self.question.favour.runtime
        return favour * self.question.scale["runtime"] / high_s if favour and high_s < float("inf") else 0.0

    def _push(self, pack: int | None, low_s: float, high_s: float) -> None:
        """Solve a node's program and put it on the heap, unless nothing in it can be."""
        places, linear = _Program(self, pack, low_s).solve()
        self.solved += 1
        if places is None:
            return
        self.numbers += 1
        bound = self.base + linear + self._runtime_term(high_s)
        heapq.heappush(self.heap, _Node(bound, self.numbers, pack, low_s, high_s, places, len(self.cuts)))

    def _step(self, node: _Node) -> None:
        assert node.places is not None
        new = self.cuts[node.seen_cuts :]
        if any(
            cut.runtime_s >= float("inf") or cut.runtime_s < node.low_s for cut in new if cut.holds_for(node.places)
        ):
            self._push(node.pack, node.low_s, node.high_s)
            return
        tried = self._try(node.places)
        runtime = tried.assessment.measure("runtime").value or 0.0
        if not tried.holds:
            cut = self.cutter.cut(tried) if runtime >= node.low_s or tried.hard else self.cutter.runtime_cut(tried)
            self.cuts.append(cut)
            if runtime >= node.low_s or not cut.holds_for(node.places):
                self.cuts.append(no_good(node.places))
            self._push(node.pack, node.low_s, node.high_s)
            return
        if runtime < node.low_s:
            self.cuts.append(self.cutter.runtime_cut(tried))
        elif self.runtime_counts and node.low_s < runtime < node.high_s:
            self._push(node.pack, runtime * (1 + 1e-9), node.high_s)
            node.high_s = runtime
        self._push(node.pack, node.low_s, node.high_s)

    def _try(self, places: tuple[int, ...]) -> Tried:
        """Assess a combination, once. One that holds goes to the pool, and is cut so that the next best comes up."""
        if places not in self.tried:
            found = self.question.try_out(places)
            self.tried[places] = found
            self.assessed += 1
            if found.holds:
                self.pool.append(found)
                self.pool.sort(key=lambda t: t.score)
                self.cuts.append(no_good(places))
        return self.tried[places]


class _Program:
    """The mixed-integer program of one node: one option in each slot, the least sum, and every row that must hold."""

    def __init__(self, search: _Search, pack: int | None, low_s: float) -> None:
        self.search, self.pack, self.low_s = search, pack, low_s
        rows = search.bound_rows
        self.pack_slot = rows.pack_slot if rows is not None else None
        self.sizes = [len(c.options) for c in search.question.choices]
        self.allowed = [np.ones(n, dtype=bool) for n in self.sizes]
        if self.pack_slot is not None and pack is not None:
            self.allowed[self.pack_slot][:] = False
            self.allowed[self.pack_slot][pack] = True

        figures = search._figures(pack)
        if search.ratings is not None and figures is not None:
            for k, bad in enumerate(search.ratings.too_high(figures)):
                self.allowed[k] &= ~bad

    def solve(self) -> tuple[tuple[int, ...] | None, float]:
        """The places of the least sum and that sum; None where the rows cannot all hold."""
        rows = self._tightened(self._rows())
        if rows is None:
            return None, float("inf")
        if not rows:
            places = tuple(self._cheapest(k) for k in range(len(self.sizes)))
            return places, sum(float(c[p]) for c, p in zip(self.search.costs, places, strict=True))
        return self._by_solver(rows)

    def _cheapest(self, slot: int) -> int:
        costs = np.where(self.allowed[slot], self._guide(slot), np.inf)
        return int(costs.argmin())

    def _guide(self, slot: int) -> Array:
        """What the program minimises: the cost; where only runtime counts, the charge it takes."""
        return self._guides[slot] if self._guides is not None else self.search.costs[slot]

    _guides: list[Array] | None = None

    def _rows(self) -> list[Row]:
        question, limits = self.search.question, self.search.limits
        found: list[Row] = []
        for name, base, values in (
            ("mass", question.base_kg, [[o.mass_kg for o in c.options] for c in question.choices]),
            ("money", question.base_cost, [[o.cost for o in c.options] for c in question.choices]),
        ):
            limit = limits[name].limit if name in limits else None
            if limit is not None and limits[name].direction == "at most":
                found.append(([np.array(v) for v in values], limit * (1 + CLOSE) - base))
        figures, bound = self.search._figures(self.pack), self.search.bound_rows
        if bound is not None and figures is not None:
            peak = limits["peak-current"].limit if "peak-current" in limits else None
            least = limits["lowest-voltage"].limit if "lowest-voltage" in limits else None
            found += bound.peak_rows(figures, peak or float("inf"), least or 0.0)
            found += self.search.rating_rows(self.pack)
            if self.low_s > 0 or self.search.runtime_counts:
                columns, most = bound.runtime_row(figures, max(self.low_s, 1.0))
                if self.low_s > 0:
                    found.append((columns, most))
                if not any(c.any() for c in self.search.costs):
                    self._guides = columns
        return found

    def _tightened(self, rows: list[Row]) -> list[Row] | None:
        """Take out options that no row could bear, then rows that always hold; None where one never does."""
        for _ in range(3):
            for columns, most in rows:
                least = [float(c[a].min()) if a.any() else np.inf for c, a in zip(columns, self.allowed, strict=True)]
                total = sum(least)
                if not total <= most:
                    return None
                for slot, column in enumerate(columns):
                    self.allowed[slot] &= column <= most - (total - least[slot]) + 1e-12
        kept = [
            (columns, most)
            for columns, most in rows
            if sum(float(c[a].max()) for c, a in zip(columns, self.allowed, strict=True)) > most
        ]
        return kept + self._cut_rows()

    def _cut_rows(self) -> list[Row]:
        found = []
        for cut in self.search.cuts:
            if not cut.applies(self.low_s):
                continue
            columns = [np.zeros(n) for n in self.sizes]
            alive = True
            for slot, options in cut.sets:
                columns[slot][list(options)] = 1.0
                alive = alive and bool((columns[slot] * self.allowed[slot]).any())
            if alive:
                found.append((columns, len(cut.sets) - 1.0))
        return found

    def _by_solver(self, rows: list[Row]) -> tuple[tuple[int, ...] | None, float]:
        from scipy.optimize import Bounds, LinearConstraint, milp

        upper = np.concatenate(self.allowed).astype(float)
        choose = np.zeros((len(self.sizes), len(upper)))
        starts = np.concatenate([[0], np.cumsum(self.sizes)])
        for k, (a, b) in enumerate(pairwise(starts)):
            choose[k, a:b] = 1.0
        matrix = np.array([np.concatenate(columns) for columns, _ in rows])
        most = np.array([m for _, m in rows])
        sizes = np.abs(matrix).max(axis=1)
        sizes[sizes == 0] = 1.0
        guide = np.concatenate([self._guide(k) for k in range(len(self.sizes))])
        span = float(np.abs(guide).max()) or 1.0
        done = milp(
            guide / span, integrality=np.ones(len(upper), dtype=np.uint8), bounds=Bounds(0.0, upper),
            constraints=[LinearConstraint(choose, 1.0, 1.0),
                         LinearConstraint(matrix / sizes[:, None], -np.inf, most / sizes)],
            options={"mip_rel_gap": 0.0},
        )  # fmt: skip
        if done.x is None:
            return None, float("inf")
        places = tuple(int(done.x[a:b].argmax()) for a, b in pairwise(starts))
        return places, sum(float(c[p]) for c, p in zip(self.search.costs, places, strict=True))
