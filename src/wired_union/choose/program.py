"""The mixed-integer program of one node of the search: one option in each slot, the least score, every row held."""

from collections.abc import Mapping
from itertools import pairwise

import numpy as np
from msgspec import Struct

from wired_union.choose.bounds import Bounds, Row
from wired_union.choose.combination import Question
from wired_union.choose.cuts import Cut
from wired_union.kernel.results import Measure
from wired_union.physics.battery import Array

CLOSE = 1e-9
HIGHS_INFEASIBLE = 2


class Rules(Struct, frozen=True):
    """What every program of a search has in common."""

    question: Question
    bounds: Bounds | None
    limits: Mapping[str, Measure]
    costs: list[Array]
    """What each option adds to the score, by slot."""
    runtime_cost: float
    """What 1/runtime adds to the score; 0 where runtime is not favoured."""
    cuts: tuple[Cut, ...]


class Program:
    """Combinations with one pack whose runtime is from `low_s` to `high_s`.

    Variables: one of 0 or 1 for each option, and 1/runtime where runtime is favoured.
    """

    def __init__(self, rules: Rules, pack: int | None, low_s: float, high_s: float) -> None:
        self.rules, self.low_s, self.high_s = rules, low_s, high_s
        self.bounds = rules.bounds if rules.bounds is not None and rules.bounds.knows(pack) else None
        self.pack = pack
        self.sizes = [len(c.options) for c in rules.question.choices]
        self.allowed = [np.ones(n, dtype=bool) for n in self.sizes]
        slot = rules.bounds.split_slot if rules.bounds is not None else None
        if slot is not None and pack is not None:
            self.allowed[slot][:] = False
            self.allowed[slot][pack] = True
        for k, bad in enumerate(self.bounds.impossible(pack) if self.bounds is not None else ()):
            self.allowed[k] &= ~bad

    def solve(self, *, relaxed: bool, at_most: float) -> tuple[tuple[int, ...] | None, float] | None:
        """The places of the least score and that score, without what is fixed; None where the rows cannot all hold,
        or nothing scores `at_most`. Relaxed, options may be taken in part: a bound comes without places.
        """
        rows = self._tightened(self._rows())
        if rows is None:
            return None
        inverse = self._inverse_row()
        if not rows and inverse is None:
            places = tuple(int(np.where(a, c, np.inf).argmin()) for a, c in zip(self.allowed, self._costs, strict=True))
            return places, sum(float(c[p]) for c, p in zip(self._costs, places, strict=True))
        return self._by_solver(rows, inverse, relaxed=relaxed, at_most=at_most)

    @property
    def _costs(self) -> list[Array]:
        return self.rules.costs

    def _rows(self) -> list[Row]:
        question, limits = self.rules.question, self.rules.limits
        found: list[Row] = []
        for name, base, values in (
            ("mass", question.base_kg, [[o.mass_kg for o in c.options] for c in question.choices]),
            ("money", question.base_cost, [[o.cost for o in c.options] for c in question.choices]),
        ):
            limit = limits[name].limit if name in limits else None
            if limit is not None and limits[name].direction == "at most":
                found.append(([np.array(v) for v in values], limit * (1 + CLOSE) - base))
        if self.bounds is not None:
            found += self.bounds.rows(self.pack, limits, self.low_s)
        return found

    def _inverse_row(self) -> Row | None:
        """What 1/runtime is at least, where runtime is favoured."""
        if not self.rules.runtime_cost or self.bounds is None:
            return None
        return self.bounds.inverse_row(self.pack, self.low_s, self.high_s)

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
        for cut in self.rules.cuts:
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

    def _by_solver(
        self, rows: list[Row], inverse: Row | None, *, relaxed: bool, at_most: float
    ) -> tuple[tuple[int, ...] | None, float] | None:
        from scipy.optimize import Bounds, LinearConstraint, milp

        runtime_cost = self.rules.runtime_cost
        options = sum(self.sizes)
        upper = np.concatenate([*self.allowed, [np.inf]]).astype(float)
        lower = np.zeros(options + 1)
        starts = np.concatenate([[0], np.cumsum(self.sizes)])
        choose = np.zeros((len(self.sizes), options + 1))
        for k, (a, b) in enumerate(pairwise(starts)):
            choose[k, a:b] = 1.0
        matrix = [np.concatenate([*columns, [0.0]]) for columns, _ in rows]
        most = [m for _, m in rows]
        if inverse is not None:
            # the last variable is runtime_cost/runtime, so that it is of the size of the score
            matrix.append(np.concatenate([*(runtime_cost * c for c in inverse[0]), [-1.0]]))
            most.append(-runtime_cost * inverse[1])
            lower[-1] = runtime_cost / self.high_s
        costs = np.concatenate([*self._costs, [1.0 if inverse is not None else 0.0]])
        if at_most < float("inf"):
            matrix.append(costs)
            most.append(at_most)
        sizes = np.array([np.abs(row).max() or 1.0 for row in matrix])
        constraints = [LinearConstraint(choose, 1.0, 1.0)]
        if matrix:
            constraints.append(LinearConstraint(np.array(matrix) / sizes[:, None], -np.inf, np.array(most) / sizes))
        whole = np.concatenate([np.ones(options), [0.0]]).astype(np.uint8)
        done = milp(costs, integrality=whole * (not relaxed), bounds=Bounds(lower, upper), constraints=constraints,
                    options={"mip_rel_gap": 0.0})  # fmt: skip
        if done.x is None:
            if done.status != HIGHS_INFEASIBLE:
                raise RuntimeError(f"the solver stopped: {done.message}")
            return None
        if relaxed:
            return None, float(done.fun) - CLOSE * abs(float(done.fun))
        places = tuple(int(done.x[a:b].argmax()) for a, b in pairwise(starts))
        score = sum(float(c[p]) for c, p in zip(self._costs, places, strict=True))
        return places, score + (float(done.x[-1]) if inverse is not None else 0.0)
