"""The course tried out in full: every order of trips, every choice and order of tasks, and runs drawn one by one."""

import random
from collections.abc import Iterator
from itertools import combinations, permutations, product

import numpy as np

from wired_union.project.course_model import CourseTask
from wired_union.subjects.trials.course import Ground, Leg, Plan, Walked, walk


def a_leg(name: str, points: float, chance: float, usual_s: float, spread_s: float, place: int = 0) -> Leg:
    return Leg(CourseTask(id=name, name=name), points, chance, usual_s, spread_s**2, place)


def a_ground(seed: int, *, trips: int, tasks: int, share: float, free: bool, wild: bool = False) -> Ground:
    """A made-up course, the time allowed a share of what all of it takes."""
    r = random.Random(seed)
    spots = [(0.0, 0.0)] + [(r.uniform(0, 6), r.uniform(0, 4)) for _ in range(4)]
    drives = tuple(tuple(float(np.hypot(a[0] - b[0], a[1] - b[1])) / 0.5 for b in spots) for a in spots)

    def leg(n: int) -> Leg:
        usual = r.uniform(4, 20)
        spread = usual * r.uniform(0.05, 0.3) * (r.choice((0.1, 5.0)) if wild else 1.0)
        return a_leg(f"t{n}", float(r.choice((5, 10, 20, 30))), r.uniform(0.5, 1), usual, spread, r.randint(1, 4))

    legs = [leg(n) for n in range(tasks)]
    parts = tuple(tuple(legs[n::trips]) for n in range(trips))
    fitted = tuple(r.choice("ab") for _ in range(trips))
    names = tuple(f"T{n}" for n in range(trips))
    made = Ground(1e9, parts, names, (free,) * trips, fitted, drives, 0.1, 8.0, 4.0)
    whole = walk(made, tuple((n, tuple(range(len(p)))) for n, p in enumerate(parts)))
    return Ground(whole.usual_s * share, parts, names, (free,) * trips, fitted, drives, 0.1, 8.0, 4.0)


def every_plan(ground: Ground) -> Iterator[Plan]:
    """All orders of some of the trips, in each some of its tasks, in their order or in any where that is allowed."""
    choices = []
    for trip, free in zip(ground.trips, ground.any_order, strict=True):
        some = permutations if free else combinations
        choices.append([c for k in range(1, len(trip) + 1) for c in some(range(len(trip)), k)])
    for count in range(1, len(choices) + 1):
        for order in permutations(range(len(choices)), count):
            for picks in product(*(choices[n] for n in order)):
                yield tuple(zip(order, picks, strict=True))


def tried_out(ground: Ground) -> Walked:
    """The best of all plans that begin no task after the time is up as usual."""
    walked = (walk(ground, plan) for plan in every_plan(ground))
    return max((w for w in walked if all(d.from_s <= ground.allowed_s for d in w.done)), key=lambda w: w.points)


def drawn_points(w: Walked, runs: int, seed: int) -> np.ndarray:
    """Points of courses driven one by one: a task counts where all before it and it are done in time, and it succeeds."""
    draw, now, got = np.random.default_rng(seed), np.zeros(runs), np.zeros(runs)
    before = square = 0.0
    for d in w.done:
        now = now + draw.normal(d.at_s - before, np.sqrt(d.variance_s2 - square), runs)
        before, square = d.at_s, d.variance_s2
        got += d.leg.points * (now <= w.ground.allowed_s) * (draw.random(runs) < d.leg.chance)
    return got
