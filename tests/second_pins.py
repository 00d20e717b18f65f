"""Signals on pins a second time: by trying everything, and as a mixed-integer program that HiGHS solves."""

import itertools
import random

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import lil_matrix

from wired_union.subjects.wiring.pin_solver import Need, Option


def holds(needs, chosen) -> bool:
    """Whether an assignment keeps every rule."""
    pins, only, timers, groups, instances, owned = set(), set(), {}, {}, {}, {}
    for need, i in zip(needs, chosen, strict=True):
        o = need.options[i]
        if o.pin in pins or (o.only is not None and o.only in only):
            return False
        pins.add(o.pin)
        only.add(o.only)
        paced = o.timer is not None and need.frequency_hz is not None
        if paced and timers.setdefault(o.timer, need.frequency_hz) != need.frequency_hz:
            return False
        if need.group is not None:
            if groups.setdefault(need.group, o.instance) != o.instance:
                return False
            if instances.setdefault(o.instance, need.group) != need.group:
                return False
        if any(owned.setdefault(w, o.family) != o.family for w in need.owners):
            return False
    return True


def by_trying(needs) -> bool:
    return any(holds(needs, c) for c in itertools.product(*[range(len(n.options)) for n in needs]))


def least_clash(needs) -> int:
    """Size of the smallest set of wishes that clashes, by trying all sets."""
    wishes = sorted({n.wish for n in needs})
    return next(
        k for k in range(1, len(wishes) + 1)
        if any(not by_trying([n for n in needs if n.wish in some]) for some in itertools.combinations(wishes, k))
    )  # fmt: skip


def by_program(needs) -> bool:
    """Whether a mixed-integer program has an answer: a variable for each option, each timer's frequency, each group's
    instance, each owner's family."""
    names: dict[object, int] = {}
    rows = [({_var(names, "x", n, i): 1.0 for i in range(len(need.options))}, 1.0, 1.0) for n, need in enumerate(needs)]
    rows += [(row, 0.0, 1.0) for row in _once(names, needs).values()]
    rows += list(_held_up(names, needs))
    matrix = lil_matrix((len(rows), len(names)))
    for r, (row, _, _) in enumerate(rows):
        for c, value in row.items():
            matrix[r, c] = value
    limits = LinearConstraint(matrix.tocsr(), [r[1] for r in rows], [r[2] for r in rows])
    found = milp(np.zeros(len(names)), constraints=limits, integrality=np.ones(len(names)), bounds=Bounds(0, 1))
    assert found.status in {0, 2}, found.message
    return found.status == 0


def _var(names, *key) -> int:
    return names.setdefault(key, len(names))


def _ties(need, o) -> list[tuple]:
    """What an option asks of things that others ask of, too."""
    tied = [("w", w, o.family) for w in need.owners]
    if need.group is not None:
        tied.append(("g", need.group, o.instance))
    if o.timer is not None and need.frequency_hz is not None:
        tied.append(("t", o.timer, need.frequency_hz))
    return tied


def _held_up(names, needs):
    for n, need in enumerate(needs):
        for i, o in enumerate(need.options):
            for tie in _ties(need, o):
                yield {_var(names, "x", n, i): 1.0, _var(names, *tie): -1.0}, -np.inf, 0.0


def _once(names, needs) -> dict:
    """Sums that are at most one: of a pin, of what only one has, of values of a timer, a group, an owner."""
    sums: dict[object, dict[int, float]] = {}
    for n, need in enumerate(needs):
        for i, o in enumerate(need.options):
            x = _var(names, "x", n, i)
            sums.setdefault(("pin", o.pin), {})[x] = 1.0
            if o.only is not None:
                sums.setdefault(("only", o.only), {})[x] = 1.0
            for kind, of, value in _ties(need, o):
                sums.setdefault((kind, of), {})[_var(names, kind, of, value)] = 1.0
                if kind == "g":
                    sums.setdefault(("instance", value), {})[_var(names, kind, of, value)] = 1.0
    return sums


def random_board(seed: int, pins: int, wishes: int, two_boards: float = 0.3) -> list[Need]:
    """Made-up wishes on made-up pins; the same for the same seed."""
    r = random.Random(f"board {seed}")
    family = [r.randint(0, 1) if r.random() < two_boards else 0 for _ in range(pins)]
    timers, lines, ports = max(2, pins // 8), max(3, pins // 3), max(2, pins // 10)

    def options(kind: str) -> tuple[Option, ...]:
        found = []
        for p in range(pins):
            q = random.Random(f"{seed} {p} {kind}")
            if q.random() > (0.6 if pins < 10 else 0.45):
                continue
            f = family[p]
            if kind == "PWM":
                timer = ("t", f, q.randrange(timers))
                found.append(Option(p, f, None, (*timer, q.randrange(4)), timer))
            elif kind == "interrupt":
                found.append(Option(p, f, None, ("i", f, q.randrange(lines))))
            elif kind in {"out", "in"}:
                found.append(Option(p, f, ("u", f, q.randrange(ports))))
            else:
                found.append(Option(p, f))
        return tuple(found)

    needs: list[Need] = []
    for wish in range(wishes):
        kind = r.choice(["PWM", "interrupt", "plain", "serial", "plain"])
        owners = (r.randrange(max(3, wishes // 3)),) if r.random() < two_boards else ()
        if kind == "serial":
            needs += [Need(wish, options(role), ("g", wish), owners) for role in ("out", "in")]
        else:
            hertz = r.choice([None, 50.0, 100.0]) if kind == "PWM" else None
            needs.append(Need(wish, options(kind), None, owners, hertz))
    return needs
