"""Guessed times, networks of tasks, quantities and prices: against networkx, scipy and counting out."""

import random

import networkx as nx
import pytest
import scipy.stats
from hypothesis import given
from hypothesis import strategies as st

from wired_union.physics.planning import critical_path, three_point
from wired_union.physics.prices import break_even, price_with_margin


def test_three_figures_stand_for_a_beta_distribution():
    """With a + b = 6 its spread is near a sixth of its range: Malcolm and others 1959, from memory."""
    assert three_point(2, 4, 12) == three_point(2.0, 4.0, 12.0)
    assert (three_point(2, 4, 12).mean, three_point(2, 4, 12).sd) == (5.0, 10 / 6)
    for share in (0.3, 0.5, 0.7):
        beta = scipy.stats.beta(1 + 4 * share, 1 + 4 * (1 - share))
        found = three_point(0, share, 1)
        assert found.mean == pytest.approx(beta.mean())
        assert found.sd == pytest.approx(beta.std(), rel=0.15)
    with pytest.raises(ValueError, match="in this order"):
        three_point(3, 2, 4)


@pytest.mark.parametrize("seed", range(30))
def test_the_longest_way_is_that_of_networkx(seed):
    r = random.Random(seed)
    count = r.randint(1, 14)
    durations = [float(r.randint(0, 9)) for _ in range(count)]
    names = list(range(1, count + 1))
    r.shuffle(names)
    pairs = [(names[a], names[b]) for a in range(count) for b in range(a + 1, count) if r.random() < 0.3]
    found = critical_path(durations, [x for p in pairs for x in p])
    graph = nx.DiGraph()
    graph.add_nodes_from(range(1, count + 1))
    graph.add_edges_from(pairs)
    ends = {}
    for n in nx.topological_sort(graph):
        ends[n] = durations[n - 1] + max((ends[m] for m in graph.predecessors(n)), default=0.0)
    assert found.finish == tuple(ends[n] for n in range(1, count + 1))
    whole = max(found.finish)
    for n in range(count):
        assert found.start[n] == found.finish[n] - durations[n]
        later = list(durations)
        later[n] += found.slack[n]
        assert max(critical_path(later, [x for p in pairs for x in p]).finish) == pytest.approx(whole)
        later[n] += 1.0
        assert max(critical_path(later, [x for p in pairs for x in p]).finish) == pytest.approx(whole + 1)
    assert set(found.critical) == {n + 1 for n in range(count) if found.slack[n] == 0}
    for source, sink in pairs:
        graph.edges[source, sink]["weight"] = durations[source - 1]
    way = nx.dag_longest_path(graph, weight="weight", default_weight=0)
    assert sum(durations[n - 1] for n in way) <= whole


@pytest.mark.parametrize(("durations", "follows"), [
    ([], []), ([-1], []), ([1, 2], [1]), ([1, 2], [1, 3]), ([1, 2], [1, 2, 2, 1]), ([1], [1, 1]), ([1, 2], [1.5, 2]),
])  # fmt: skip
def test_networks_that_cannot_be_are_refused(durations, follows):
    with pytest.raises(ValueError, match=r"."):
        critical_path(durations, follows)


@given(*[st.integers(0, 60)] * 4)
def test_a_quantity_is_the_first_that_costs_no_more(fixed_a, unit_a, fixed_b, unit_b):
    first = next((n for n in range(200) if fixed_b + n * unit_b <= fixed_a + n * unit_a), None)
    assert break_even(fixed_a, unit_a, fixed_b, unit_b).quantity == first
    tenth = break_even(fixed_a / 10, unit_a / 10, fixed_b / 10, unit_b / 10).quantity
    assert tenth is None if first is None else abs(tenth - first) <= 1


def test_a_margin_is_of_the_cost_or_of_the_price():
    found = price_with_margin(60, 0.25)
    assert (found.price_on_cost, found.price_on_price) == (75, 80)
    for bad in ((-1, 0.2), (1, 1.0), (1, -0.1)):
        with pytest.raises(ValueError, match=r"."):
            price_with_margin(*bad)
    with pytest.raises(ValueError, match="0 or more"):
        break_even(-1, 1, 1, 1)
