"""The straight line that the search lays under a converter's input power: never above it, and close."""

from itertools import product

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import BY_INPUT_V
from wired_union.choose.combination import Favour, ask
from wired_union.choose.search import Search
from wired_union.project import edits
from wired_union.project.model import Regulator
from wired_union.subjects import assess
from wired_union.subjects.power.bounds.minorant import lines_under

CURVES = st.lists(
    st.tuples(st.floats(0.001, 5.0), st.floats(0.05, 1.0)), min_size=1, max_size=6, unique_by=lambda p: p[0]
)


def watts(regulator: Regulator, count: int, current_a):
    """Input power of so many side by side, from its definition: V·I/η, with η from the curve at each one's share."""
    curve = regulator.efficiency_curve
    share = np.interp(current_a / count, [a for a, _ in curve], [e for _, e in curve]) if curve else 1.0
    return regulator.output_v * current_a / share


@given(CURVES, st.floats(0.0, 4.0), st.floats(0.0, 4.0), st.integers(1, 3))
def test_the_line_lies_under_the_curve(curve, one, other, count):
    low, high = sorted((one, other))
    regulator = Regulator(topology="switching", output_v=5.0, efficiency_curve=tuple(sorted(curve)))
    (a,), (b,) = lines_under(regulator, count, np.array([low]), np.array([high]))
    assert b >= 0  # what takes less behind it takes less before it
    at = np.linspace(low, high, 400)
    over = a + b * at - watts(regulator, count, at)
    assert over.max() <= 1e-9 * max(watts(regulator, count, at).max(), 1.0)


@given(CURVES, CURVES, st.floats(0.0, 4.0), st.floats(0.0, 4.0))
def test_the_line_lies_under_both_of_two_curves(curve, other, one, two):
    """Whatever its input voltage, a converter takes what lies between its two curves."""
    low, high = sorted((one, two))
    regulator = Regulator(topology="switching", output_v=5.0, efficiency_curve=tuple(sorted(curve)), curve_input_v=8.0,
                          second_efficiency_curve=tuple(sorted(other)), second_curve_input_v=16.0)  # fmt: skip
    (a,), (b,) = lines_under(regulator, 1, np.array([low]), np.array([high]))
    at = np.linspace(low, high, 400)
    taken = np.minimum(*(watts(regulator.but(efficiency_curve=tuple(sorted(c))), 1, at) for c in (curve, other)))
    assert (a + b * at - taken).max() <= 1e-9 * max(taken.max(), 1.0)


def test_the_line_meets_the_curve_where_there_is_one_current_or_no_curve():
    plain = Regulator(topology="switching", output_v=5.0)
    (a,), (b,) = lines_under(plain, 1, np.array([0.1]), np.array([2.0]))
    assert (a, b) == (pytest.approx(0.0, abs=1e-9), pytest.approx(5.0))
    bent = Regulator(topology="switching", output_v=5.0, efficiency_curve=((0.1, 0.7), (1.0, 0.9)))
    (a,), (b,) = lines_under(bent, 1, np.array([0.5]), np.array([0.5]))
    assert a + b * 0.5 == pytest.approx(float(watts(bent, 1, np.array(0.5))))


@pytest.mark.parametrize("by_input_v", [False, True])
def test_what_is_proven_with_runtime_among_the_weights_is_the_best_of_all(mudlark_assessed, by_input_v):
    """Places behind the demo's buck, where the line counts: every combination assessed, one by one."""
    if by_input_v:
        project = mudlark_assessed.project
        for figure, value in BY_INPUT_V.items():
            project = edits.set_part_value(project, "buck", f"regulator.{figure}", value).after
        mudlark_assessed = assess(project)
    question = ask(mudlark_assessed, ("battery", "controller", "camera"), Favour(1, 1, 1))
    every = product(*(range(len(c.options)) for c in question.choices))
    held = [t.score for places in every if (t := question.try_out(places)).holds]
    steps = list(Search(question, 3).run())
    assert steps[-1].proven
    assert steps[-1].found[0].score == pytest.approx(min(held), rel=5e-4)
    assert all(s.bound <= min(held) * (1 + 1e-9) for s in steps)
