"""Plans as formulas: people who cannot be in two places, the chance to be in time, and one's own pace."""

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from wired_union.physics.beta import t_quantile
from wired_union.physics.level_search import Question, better_order
from wired_union.physics.levelling import Activity, in_turn, levelled
from wired_union.physics.method import Impossible, method, require
from wired_union.physics.plan_draws import drawn, shuffled
from wired_union.physics.sources import KOLISCH, MALCOLM, VAN_SLYKE


def _links(count: int, follows: Sequence[float]) -> list[list[int]]:
    """Those before each task, of pairs of numbers from 1."""
    require(len(follows) % 2 == 0, "pairs are two numbers each")
    require(all(x == int(x) and 1 <= x <= count for x in follows), f"numbers of tasks are 1 to {count}")
    before: list[list[int]] = [[] for _ in range(count)]
    for one, other in zip(follows[::2], follows[1::2], strict=True):
        before[int(other) - 1].append(int(one) - 1)
    return before


def _activities(count: int, follows: Sequence[float], people: Sequence[float]) -> list[Activity]:
    """Tasks with what is before them and who does them. Raises Impossible for a ring."""
    require(not people or len(people) == count, "there is one person for each task, 0 for nobody")
    require(all(p == int(p) and 0 <= p <= count for p in people), f"people are numbered 1 to {count}, 0 for nobody")
    before = _links(count, follows)
    found = [
        Activity(
            after=tuple((b, 0.0) for b in before[n]), takes=((int(people[n]) - 1, 1),) if people and people[n] else ()
        )
        for n in range(count)
    ]
    if in_turn(found, range(count))[1]:
        raise Impossible("some tasks wait for each other in a ring: open it")
    return found


class LevelledPlan(Struct, frozen=True):
    start: tuple[float, ...]
    finish: tuple[float, ...]
    end: float
    earliest_end: float


@method(
    "level-resources",
    source="a serial schedule by the latest finish, then one task moved at a time; bound by links and by each person",
    works=(KOLISCH,),
    checked="HiGHS on random plans, time by time; j301_1 of PSPLIB (43 from memory), data as psplib 0.4.0 carries it",
    limits="one task at a time for each person, none interrupted; an order may be better than the one found",
)
def level_resources(
    durations: Sequence[float], follows: Sequence[float] = (), people: Sequence[float] = ()
) -> LevelledPlan:
    """When tasks are done where each person can do one at a time.

    Args:
        durations: of each task
        follows: pairs one behind the other, a task and the one that follows it, by their numbers from 1
        people: who does each task, numbered from 1; 0 for nobody, such as a delivery
    Returns:
        start: of each
        finish: of each
        end: of the last
        earliest_end: before which no order ends
    Raises:
        ValueError: no task, a negative duration, numbers that name nothing, or tasks that wait in a ring.
    """
    count = len(durations)
    require(count >= 1 and all(d >= 0 for d in durations), "there is a task, and no duration is below 0")
    found = _activities(count, follows, people)
    counts = (1,) * max([int(p) for p in people], default=0)
    asked = Question(tuple((a,) for a in found), counts, tuple(float(d) for d in durations), (0.0,) * count)
    *_, best = better_order(asked, in_turn(found, range(count))[0])
    plan = levelled(found, counts, np.array(asked.effort)[:, None], best.order)
    start, finish = tuple(plan.start[:, 0].tolist()), tuple(plan.finish[:, 0].tolist())
    return LevelledPlan(start, finish, max(finish), max(best.bound, 0.0))


class ChanceInTime(Struct, frozen=True):
    chance: float
    mean: float
    sd: float
    nine_of_ten: float


@method(
    "chance-in-time",
    source="10 000 plans with durations drawn from the beta distribution that three guesses stand for",
    works=(VAN_SLYKE, MALCOLM),
    checked="closed forms: sums of betas, the larger of two; scipy.stats.beta",
    limits="durations independent; guesses that are too hopeful stay so",
)
def chance_in_time(
    least: Sequence[float], likely: Sequence[float], most: Sequence[float], date: float,
    follows: Sequence[float] = (), people: Sequence[float] = (),
) -> ChanceInTime:  # fmt: skip
    """How likely all tasks are done by a date.

    Args:
        least: duration of each task where all goes well
        likely: as it usually is
        most: where much goes wrong
        date: by which all must be done, from the beginning
        follows: pairs one behind the other, a task and the one that follows it, by their numbers from 1
        people: who does each task, numbered from 1; 0 for nobody. Each does theirs in the order of the list
    Returns:
        chance: share of the plans that are done by then
        mean: end on average
        sd: standard deviation of the end
        nine_of_ten: by when nine of ten plans are done
    Raises:
        ValueError: lists of different lengths, or guesses that are not in this order, or as for `level-resources`.
    """
    count = len(likely)
    require(count >= 1 and len(least) == count == len(most), "least, likely and most are of one length")
    require(all(0 <= a <= m <= b for a, m, b in zip(least, likely, most, strict=True)),
            "least, likely, most come in this order, none below 0")  # fmt: skip
    found = _activities(count, follows, people)
    three = zip(least, likely, most, strict=True)
    effort = np.array([drawn(*t, shuffled(str(n))) for n, t in enumerate(three)])
    counts = (1,) * max([int(p) for p in people], default=0)
    end = levelled(found, counts, effort, in_turn(found, range(count))[0]).finish.max(axis=0)
    return ChanceInTime(float((end <= date).mean()), float(end.mean()), float(end.std()), float(np.quantile(end, 0.9)))


class OwnPace(Struct, frozen=True):
    factor: float
    lower: float | None
    upper: float | None
    count: int


@method(
    "own-pace",
    source="geometric mean of taken over said; interval of its logarithm by Student's t",
    checked="worked by hand; scipy.stats.ttest_1samp on logarithms",
    limits="tasks of one kind, as many as there are; a factor of few says little",
)
def own_pace(said_h: Sequence[float], taken_h: Sequence[float], confidence: float = 0.9) -> OwnPace:
    """How many times what is said tasks really take.

    Args:
        said_h: what was said of each, before
        taken_h: what each took
        confidence: chance that the interval holds the true factor, above 0, below 1
    Returns:
        factor: what to multiply by
        lower: lower end of the interval; none of one task
        upper: upper end of the interval; none of one task
        count: how many tasks it rests on
    Raises:
        ValueError: lists of different lengths, none, or a time that is not above 0.
    """
    count = len(said_h)
    require(count >= 1 and len(taken_h) == count, "there is one time taken for each that was said")
    require(all(x > 0 for x in (*said_h, *taken_h)), "times are above 0")
    require(0 < confidence < 1, "confidence is above 0 and below 1")
    logs = [math.log(b / a) for a, b in zip(said_h, taken_h, strict=True)]
    mean = sum(logs) / count
    if count < 2:
        return OwnPace(math.exp(mean), None, None, count)
    sd = math.sqrt(sum((x - mean) ** 2 for x in logs) / (count - 1))
    wide = t_quantile(0.5 + confidence / 2, count - 1) * sd / math.sqrt(count)
    return OwnPace(math.exp(mean), math.exp(mean - wide), math.exp(mean + wide), count)
