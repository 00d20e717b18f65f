"""How a chain's times spread over all phases, and in words: late, old, lost between two periods, moved meanwhile."""

from collections.abc import Iterator
from itertools import pairwise

from wired_union.kernel.subject import Assessment
from wired_union.physics.latency import chain_spread, spread_of
from wired_union.picture.axis import ticks
from wired_union.picture.shapes import Kit, Line, Picture, Poly, Shape, hint_picture, kept_inside
from wired_union.project.model import WheelLoad
from wired_union.subjects.motion.gives_times import MOTION
from wired_union.subjects.timing.results import ChainResult
from wired_union.units import show

HIGH, POINTS = 84.0, 120


def spread_picture(result: ChainResult, kit: Kit, width: float, limit: float | None) -> Picture:
    """The density of its times from least to most; the half, and one in a hundred, as lines; a post at the limit."""
    if result.latency is None or not result.times:
        return hint_picture("Not known yet.", kit, width)
    times, done = spread_of(result.times)
    low, high = float(times[0]), max(float(times[-1]), limit or 0.0)
    if times[-1] <= times[0]:
        return hint_picture(f"Always {show(low, 's')}.", kit, width)
    left, right, top = kit.px(6), width - kit.px(6), kit.px(18)
    bottom, tall = kit.px(HIGH) - kit.px(18), kit.px(HIGH)
    stride = max(len(times) // POINTS, 1)
    at, share = times[::stride], done[::stride]
    density = [float(b - a) for a, b in pairwise(share)]
    most = max(density) or 1.0

    def x_of(t: float) -> float:
        return left + (right - left) * (t - low) / ((high - low) or 1.0)

    middles = [(float(a + b) / 2, d) for a, b, d in zip(at[:-1], at[1:], density, strict=True)]
    line = tuple((x_of(t), bottom - (bottom - top) * d / most) for t, d in middles)
    shapes: list[Shape] = [
        Poly(((x_of(low), bottom), *line, (x_of(float(times[-1])), bottom)), "plum", "plum_soft", 1.4)
    ]
    shapes.append(Line(left, bottom, right, bottom, "line"))
    for t in ticks(low, high, 4):
        shapes.append(kit.figures(x_of(t), bottom + kit.px(10), show(t, "s"), "small", "mute", anchor="middle"))
    found = chain_spread(result.times, limit or 0.0)
    for t, words in ((found.median_s, "half"), (found.ninety_nine_s, "99 of 100")):
        shapes.append(Line(x_of(t), top, x_of(t), bottom, "mute", 1.0, (2.0, 3.0)))
        shapes.append(kit.words(x_of(t), kit.px(7), words, "small", "mute", anchor="middle"))
    if limit is not None:
        shapes.append(Line(x_of(limit), top - kit.px(4), x_of(limit), bottom + kit.px(3), "ink", 2.0))
    return Picture(width, tall, kept_inside(shapes, kit, width))


def spread_words(result: ChainResult, limit: float | None) -> str:
    """ "Half of all cases within 131 ms, 99 of 100 within 160 ms; 0.4 % beyond what is allowed, phases at random." """
    if not result.times:
        return ""
    found = chain_spread(result.times, limit if limit is not None else 0.0)
    said = f"Half of all cases within {show(found.median_s, 's')}, 99 of 100 within {show(found.ninety_nine_s, 's')}"
    if limit is not None:
        over = 1 - found.within
        said += "; all within what is allowed" if over < 1e-9 else f"; {show(over, 'share')} beyond what is allowed"
    return f"{said}, phases at random."


def age_words(result: ChainResult) -> str:
    """ "Reacts within 180 ms; what it acts on is up to 120 ms old, up to 140 ms until the next." """
    age = result.age
    if age is None or not any(result.periods_s):
        return ""
    return (f"Reacts within {show(age.reaction_s, 's')}; what it acts on was sampled up to {show(age.age_s, 's')}"
            f" before, and is up to {show(age.kept_s, 's')} old until the next.")  # fmt: skip


def sampling_words(result: ChainResult) -> Iterator[str]:
    """Between stages that follow each other by periods: values that nobody reads, and values read again and again."""
    stages = [(s.name, p) for s, p in zip(result.chain.stages, result.periods_s, strict=False) if p > 0]
    if len(result.periods_s) != len(result.chain.stages):
        return  # a group is done again
    for (one, first), (other, second) in pairwise(stages):
        if second >= 2 * first:
            many = f"{second / first:.3g}"
            yield f"Of {many} values of “{one}” “{other}” reads one: the others are lost, or made for nothing."
        elif first >= 2 * second:
            yield f"“{other}” reads each value of “{one}” {first / second:.3g} times: more often helps nothing."


def moved_words(assessment: Assessment, result: ChainResult) -> str:
    """How far the machine, or what it aims at, has moved until a chain is done."""
    if result.latency is None:
        return ""
    if result.chain.moves_m_s is not None:
        far = result.chain.moves_m_s * result.latency.most_s
        return f"At {show(result.chain.moves_m_s, 'm/s')} {show(far, 'm')} are passed by then."
    speeds = [r.speed_m_s for r in assessment.of(MOTION).loads if isinstance(r.load, WheelLoad) and r.speed_m_s]
    if not speeds:
        return ""
    fastest = max(speeds)
    return f"At {show(fastest, 'm/s')} it has rolled {show(fastest * result.latency.most_s, 'm')} by then."
