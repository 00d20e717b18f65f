"""The best combination against brute force: the same best, the same ten next, bounds that never lie."""

import itertools
import random

import pytest
from msgspec.structs import replace

import edits
from wired_union.catalogue.demo import demo
from wired_union.choose import explain
from wired_union.choose.combination import Favour, Question, ask
from wired_union.choose.search import FINE, KEEP, bounds_of, cutter_of, search
from wired_union.project.errors import ProjectError
from wired_union.project.value import named_values
from wired_union.subjects import assess
from wired_union.subjects.power.bounds.power_bound import bound_power
from wired_union.subjects.power.bounds.rating_rows import RatingRows


def load(row, places) -> float:
    """What a combination puts on a row."""
    return sum(float(column[p]) for column, p in zip(row[0], places, strict=True))


def few(question: Question, options: int, seed: int) -> Question:
    """The question with a few options a slot, what is in place among them."""
    rng = random.Random(seed)

    def some(choice):
        rest = [o for o in choice.options if not o.now]
        now = [o for o in choice.options if o.now]
        return replace(choice, options=tuple(now + rng.sample(rest, min(len(rest), options - 1))))

    return replace(question, choices=tuple(map(some, question.choices)))


def asked_less(name: str = "mudlark", **limits: float):
    """A demo without its slots' requirements, so that more fits, with some limits moved."""
    project = demo(name)
    for item in project.concept.items:
        for field, value in named_values(item.requires):
            if value is not None:
                project = edits.set_requirement(project, item.id, field, None).after
    for measure, value in limits.items():
        project = edits.set_limit(project, measure.replace("_", "-"), value=value).after
    return assess(project)


def brute(question: Question):
    """Every combination, by hand."""
    every = itertools.product(*(range(len(c.options)) for c in question.choices))
    return sorted((t for t in map(question.try_out, every) if t.holds), key=lambda t: t.score)


CASES = [
    ("mudlark", ("battery", "gearmotor", "driver"), Favour(mass=1), {"runtime": 15000.0}),
    ("mudlark", ("battery", "gearmotor", "imu"), Favour(money=1), {"peak_current": 9.5}),
    ("mudlark", ("battery", "imu", "gearmotor", "box"), Favour(runtime=1, mass=1, money=1), {"runtime": 9000.0}),
    ("mudlark", ("battery", "gnss", "wheel", "probe"), Favour(runtime=1, mass=1, money=1), {"runtime": 12000.0}),
    ("mudlark", ("probe", "ldo", "controller"), Favour(runtime=1), {"runtime": 9000.0}),
    ("mudlark", ("battery", "leadscrew", "ldo"), Favour(runtime=2, mass=1), {"runtime": 15000.0, "mass": 8.0}),
    ("bat-counter", ("battery", "beam", "radio", "controller"), Favour(runtime=1), {}),
    ("bat-counter", ("battery", "ldo", "climate", "beam"), Favour(runtime=0.3, mass=2, money=1), {}),
    ("bat-counter", ("climate", "case", "beam", "glands"), Favour(money=1), {}),
]


@pytest.mark.parametrize(
    ("name", "slots", "favour", "limits"),
    [pytest.param(*case, marks=pytest.mark.slow) if n in {2, 3, 6, 8} else case for n, case in enumerate(CASES)],
)
@pytest.mark.parametrize("seed", [1, pytest.param(2, marks=pytest.mark.slow)])
def test_the_best_and_the_ten_next_against_brute_force(name, slots, favour, limits, seed):
    question = few(ask(asked_less(name, **limits), slots, favour), 4, seed)
    expected = [t.score for t in brute(question)[:KEEP]]
    *_, last = search(question)
    assert last.done
    assert [t.score for t in last.found] == pytest.approx(expected, rel=FINE * 1.01)
    assert all(t.holds for t in last.found)
    assert last.proven
    assert last.assessed <= question.combinations


@pytest.mark.parametrize("seed", [1, 2, *(pytest.param(n, marks=pytest.mark.slow) for n in (0, 3))])
def test_the_bound_never_passes_what_is_there(seed):
    """At every step the bound lies at or under the best that brute force finds."""
    question = few(ask(asked_less(runtime=9000.0), ("battery", "gearmotor", "gnss"), Favour(1, 1, 1)), 5, seed)
    held = brute(question)
    least = held[0].score if held else float("inf")
    bounds = []
    for progress in search(question):
        assert progress.bound <= least * (1 + 1e-9) or progress.bound == float("inf")
        bounds.append(progress.bound)
    assert [t.score for t in progress.found][:1] == pytest.approx([t.score for t in held[:1]], rel=FINE)


@pytest.mark.parametrize("seed", [1, 2, *(pytest.param(n, marks=pytest.mark.slow) for n in (0,))])
def test_linear_rows_refuse_only_what_really_breaks(seed):
    """Each row of the program is a lower bound: whatever breaks one breaks the limit in the real assessment."""
    question = few(ask(asked_less(), ("battery", "gearmotor", "driver", "buck", "camera"), Favour(mass=1)), 6, seed)
    bound = bound_power(question)
    ratings = RatingRows(bound)
    rng = random.Random(seed)
    for _ in range(40):
        places = tuple(rng.randrange(len(c.options)) for c in question.choices)
        tried = question.try_out(places)
        pack = bound.pack_at(places[bound.pack_slot])
        runtime = tried.runtime_s

        if runtime > 0:
            reached = bound.runtime_row(pack, runtime)
            assert load(reached, places) <= reached[1] + 1e-9, "a runtime that was reached is called impossible"
            inverse = bound.inverse_row(pack, runtime * 0.9, runtime * 1.1)
            assert load(inverse, places) + inverse[1] <= 1 / runtime + 1e-12
        broken = any(load(row, places) > row[1] + 1e-9 for row in ratings.rows(pack))
        high = any(bad[p] for bad, p in zip(ratings.too_high(pack), places, strict=True))
        if broken or high:
            hard = {f.id for f in tried.assessment.findings if f.hard and f.verdict == "breaks"}
            assert hard - question.hard_before, places


@pytest.mark.parametrize("seed", [1, 2, *(pytest.param(n, marks=pytest.mark.slow) for n in (0,))])
def test_a_cut_takes_out_only_what_breaks_too(seed):
    """Every combination of a cut breaks something, by brute force over the cut's own set."""
    question = few(ask(asked_less(runtime=20000.0), ("battery", "gearmotor", "radio"), Favour(mass=1)), 6, seed)
    cutter = cutter_of(question, bounds_of(question))
    every = list(itertools.product(*(range(len(c.options)) for c in question.choices)))
    wide = 0
    for places in every[:: max(len(every) // 12, 1)]:
        tried = question.try_out(places)
        if tried.holds:
            continue
        cut = cutter.cut(tried)
        assert cut.holds_for(places)
        inside = [p for p in every if cut.holds_for(p)]
        wide += len(inside) > 1
        assert not any(question.try_out(p).holds for p in inside)
    assert wide, "cuts that never reach further than themselves prove nothing"


def test_nothing_that_holds_is_proven_too():
    question = few(ask(asked_less(mass=5.0), ("gnss", "imu"), Favour(money=1)), 4, 1)
    *_, last = search(question)
    assert last.found == ()
    assert last.done
    assert explain.proof(question, last).startswith("Proven: none of")
    assert "does not hold" in explain.favourite_words(question, last, question.try_out(question.favourite))


def test_it_can_be_stopped_and_keeps_the_best_so_far():
    question = ask(asked_less(runtime=15000.0), ("battery", "gearmotor", "gnss"), Favour(mass=1))
    steps = search(question)
    progress = next(s for s in steps if s.found)
    steps.close()
    assert progress.best.holds
    assert not progress.done
    assert progress.gap > 0
    assert "Not proven yet" in explain.proof(question, progress)


def test_the_result_is_one_edit_with_its_ripple():
    assessed = asked_less(runtime=18000.0)
    question = ask(assessed, ("battery", "gearmotor"), Favour(mass=1))
    *_, last = search(question)
    change = question.swap(last.best.places)
    assert change.before is assessed.project
    fresh = assess(change.after)
    assert fresh.measure("mass").value == pytest.approx(last.best.assessment.measure("mass").value, rel=1e-12)
    effect = explain.effect(question, last.best)
    assert {m.id: m.after.value for m in effect.moves} == {m.id: m.value for m in fresh.measures}
    assert change.sentence.startswith("swap ")
    assert len(explain.swaps(question, last.best)) == sum(
        not c.options[p].now for c, p in zip(question.choices, last.best.places, strict=True)
    )
    with pytest.raises(ProjectError, match="in place already"):
        question.swap(question.favourite)


def test_why_the_favourite_is_not_the_best():
    question = ask(asked_less(runtime=9000.0), ("battery", "gearmotor"), Favour(mass=1))
    *_, last = search(question)
    favourite = question.try_out(question.favourite)
    told = explain.favourite_words(question, last, favourite)
    placed = [t.places for t in last.found]
    if question.favourite in placed:
        assert told == f"What stands today is number {placed.index(question.favourite) + 1}."
    else:
        assert "is beaten" in told
        assert "Most of it is" in told


def test_sums_are_sums():
    """What an option adds is what the real assessment says it adds."""
    question = few(ask(asked_less(), ("battery", "wheel", "camera"), Favour(mass=1)), 4, 5)
    for places in itertools.product(*(range(len(c.options)) for c in question.choices)):
        assessed = question.try_out(places).assessment
        options = [c.options[p] for c, p in zip(question.choices, places, strict=True)]
        assert assessed.measure("mass").value == pytest.approx(question.base_kg + sum(o.mass_kg for o in options))
        assert assessed.measure("money").value == pytest.approx(question.base_cost + sum(o.cost for o in options))


@pytest.mark.parametrize(
    ("slots", "favour", "said"),
    [((), {"mass": 1}, "at least one place"), (("ghost",), {"mass": 1}, "no part “ghost”"),
     (("battery",), {"mass": 0}, "at least one of"), (("battery",), {"mass": -1}, "0 or more")],
)  # fmt: skip
def test_a_question_that_makes_no_sense_is_refused(mudlark_assessed, slots, favour, said):
    with pytest.raises(ProjectError, match=said):
        ask(mudlark_assessed, slots, Favour(**favour))


def test_an_option_without_a_price_is_left_out_with_the_reason(mudlark):
    from builders import a_part
    from wired_union.project.model import Stock

    nameless = edits.add_to_shelf(mudlark, [Stock(part=a_part("gift", "camera", price=None))]).after
    nameless = edits.set_requirement(nameless, "camera", "quantity", None).after
    (choice,) = ask(assess(nameless), ("camera",), Favour(mass=1)).choices
    assert ("gift", "not given: price") in [(p.id, why) for p, why in choice.left_out]


def test_what_can_not_be_judged_is_never_the_best(mudlark):
    """A camera that costs next to nothing, but nobody knows at which voltage its power was measured."""
    from wired_union.project.model import Stock

    now = next(i for i in mudlark.concept.items if i.id == "camera").part
    gift = now.but(id="gift", name="Gift", price=0.01, load=now.load.but(draw="power", rated_v=None))
    project = asked_less(runtime=9000.0).project
    assessed = assess(edits.add_to_shelf(project, [Stock(part=gift)]).after)
    question = ask(assessed, ("camera", "imu"), Favour(money=1))
    place = next(n for n, o in enumerate(question.choices[0].options) if o.item.part.id == "gift")
    tried = question.try_out((place, question.favourite[1]))
    assert tried.assessment.measure("runtime").verdict == "unknown"
    assert not tried.holds
    assert "runtime" in tried.unsure
    assert any("Runtime is not known" in said and "voltage" in said for said in tried.breaks)
    *_, last = search(question)
    assert last.done
    assert all(t.places[0] != place for t in last.found)
    rest = [t for t in brute(question) if t.places[0] != place]
    assert last.best.score == pytest.approx(rest[0].score)
