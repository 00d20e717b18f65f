"""Signals on pins: every assignment keeps the rules, every proof is right, every clash is the smallest."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from second_pins import by_program, by_trying, holds, least_clash, random_board
from wired_union.subjects.wiring.pin_program import decide
from wired_union.subjects.wiring.pin_solver import Clash, Need, Option, Solved, Undecided, matching, solve


@pytest.mark.parametrize("block", range(4))
def test_small_boards_come_out_as_by_trying_everything(block):
    impossible = 0
    for seed in range(block * 150, block * 150 + 150):
        needs = random_board(seed, 2 + seed % 5, 1 + seed % 4)
        found = solve(needs)
        if by_trying(needs):
            assert isinstance(found, Solved), seed
            assert holds(needs, found.chosen), seed
        else:
            impossible += 1
            assert isinstance(found, Clash), seed
            assert not by_trying([n for n in needs if n.wish in found.wishes]), seed
            assert found.smallest, seed
            assert len(found.wishes) == least_clash(needs), seed
    assert 20 < impossible < 130


@pytest.mark.parametrize("seed", range(24))
def test_large_boards_come_out_as_the_program_says(seed):
    needs = random_board(seed, 60, 24 + 2 * (seed % 12), 0.25)
    found, possible = solve(needs, explain=False), by_program(needs)
    if isinstance(found, Undecided):  # which is said; the program that stands behind it decides
        told = decide(needs)
        assert possible == isinstance(told, list)
        return
    assert isinstance(found, Solved) == possible
    if isinstance(found, Solved):
        assert holds(needs, found.chosen)


def test_large_boards_are_of_both_kinds_and_nearly_all_are_decided_by_search():
    kinds = [type(solve(random_board(s, 60, 24 + 2 * (s % 12), 0.25), explain=False)) for s in range(24)]
    assert kinds.count(Undecided) <= 2
    assert kinds.count(Solved) > 5
    assert kinds.count(Clash) > 3


@pytest.mark.parametrize("seed", range(40))
def test_the_program_behind_the_search_says_the_same(seed):
    needs = random_board(seed, 2 + seed % 5, 1 + seed % 4)
    told = decide(needs)
    assert isinstance(told, list) == by_trying(needs)
    assert not isinstance(told, list) or holds(needs, told)


@given(st.integers(0, 10_000), st.integers(2, 7), st.integers(1, 5))
@settings(max_examples=60)
def test_a_wish_more_never_makes_the_impossible_possible(seed, pins, wishes):
    needs = random_board(seed, pins, wishes)
    fewer = [n for n in needs if n.wish < wishes - 1]
    if fewer and isinstance(solve(fewer), Clash):
        assert isinstance(solve(needs), Clash)


@given(st.integers(0, 10_000))
@settings(max_examples=60)
def test_where_it_begins_does_not_change_whether_there_is_one(seed):
    needs = random_board(seed, 5, 4)
    found = solve(needs)
    if isinstance(found, Solved):
        again = solve(needs, dict(enumerate(found.chosen)))
        assert again.chosen == found.chosen
    assert type(solve(needs, dict.fromkeys(range(len(needs)), 0))) is type(found)


def test_more_signals_than_pins_is_seen_at_once():
    options = tuple(Option(p) for p in range(100))
    found = solve([Need(n, options, like="plain") for n in range(101)])
    assert isinstance(found, Clash)
    assert found.nodes == 1
    assert len(found.wishes) == 101


def test_too_many_ports_are_seen_without_trying_all_orders():
    options = tuple(Option(p, 0, ("u", p // 2)) for p in range(20))
    needs = [n for w in range(11) for n in (Need(w, options, ("g", w)), Need(w, options, ("g", w)))]
    found = solve(needs, explain=False)
    assert isinstance(found, Clash)
    assert found.nodes < 10


def test_it_says_when_it_is_not_decided():
    needs = random_board(3, 60, 30, 0.25)
    assert isinstance(solve(needs, most=0), Undecided)


def test_the_too_many_of_a_matching_are_a_smallest_part():
    _, lost = matching({"a": ["x"], "b": ["x", "y"], "c": ["y"], "d": ["z"]}, {})
    assert lost == {"a", "b", "c"}
    assert matching({"a": ["x"], "b": ["x", "y"], "d": ["z"]}, {"b": "x"})[0] == {"a": "x", "b": "y", "d": "z"}
