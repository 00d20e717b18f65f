"""Signals on pins as a mixed-integer program, for boards on which the search does not come to an end in time.

A variable of 0 or 1 for each option of each need; for each frequency of each timer, instance of each group and family
of each owner one more, which options that ask for it hold up. HiGHS solves it (Huangfu & Hall 2018).
"""

from collections.abc import Hashable, Sequence

from wired_union.subjects.wiring.pin_solver import Need

Row = tuple[dict[int, float], float, float]
"""Coefficients by variable, and between what their sum lies."""


def decide(needs: Sequence[Need], seconds: float = 60.0) -> list[int] | bool | None:
    """An option for each need; False where there is proven to be none, None where time ran out."""
    import numpy as np  # heavy, and seldom asked for
    from scipy.optimize import Bounds, LinearConstraint, milp
    from scipy.sparse import csr_array

    names: dict[Hashable, int] = {}
    rows = _rows(needs, names)
    cells = [(r, c, v) for r, (row, _, _) in enumerate(rows) for c, v in row.items()]
    at, places, values = zip(*cells, strict=True) if cells else ((), (), ())
    matrix = csr_array((values, (at, places)), shape=(len(rows), max(len(names), 1)))
    limits = LinearConstraint(matrix, [low for _, low, _ in rows], [high for _, _, high in rows])
    whole = np.ones(max(len(names), 1), dtype=np.uint8)
    found = milp(0.0 * whole, constraints=limits, integrality=whole, bounds=Bounds(0, 1),
                 options={"time_limit": seconds})  # fmt: skip
    if found.status == INFEASIBLE:
        return False
    if found.x is None:
        return None
    return [
        max(range(len(need.options)), key=lambda i, n=n: found.x[names["option", n, i]])  # type: ignore[misc]
        for n, need in enumerate(needs)
    ]


INFEASIBLE = 2


def _rows(needs: Sequence[Need], names: dict[Hashable, int]) -> list[Row]:
    def var(*key: Hashable) -> int:
        return names.setdefault(key, len(names))

    rows: list[Row] = []
    once: dict[Hashable, dict[int, float]] = {}
    """What only one may have, or be."""
    for n, need in enumerate(needs):
        rows.append(({var("option", n, i): 1.0 for i in range(len(need.options))}, 1.0, 1.0))
        for i, option in enumerate(need.options):
            once.setdefault(("pin", option.pin), {})[var("option", n, i)] = 1.0
            if option.only is not None:
                once.setdefault(("only", option.only), {})[var("option", n, i)] = 1.0
            for kind, of, value in _asked(need, n, i):
                held = var(kind, of, value)
                rows.append(({var("option", n, i): 1.0, held: -1.0}, float("-inf"), 0.0))
                once.setdefault((kind, of), {})[held] = 1.0
                if kind == "group":
                    once.setdefault(("instance", value), {})[held] = 1.0
    return [*rows, *((row, 0.0, 1.0) for row in once.values())]


def _asked(need: Need, n: int, i: int) -> list[tuple[str, Hashable, Hashable]]:
    """What an option asks of things that others ask of, too."""
    option = need.options[i]
    found: list[tuple[str, Hashable, Hashable]] = [("owner", owner, option.family) for owner in need.owners]
    if need.group is not None:
        found.append(("group", need.group, option.instance))
    if option.timer is not None and need.frequency_hz is not None:
        found.append(("timer", option.timer, need.frequency_hz))
    return found
