"""Error budgets: draws of every shape against what is said, what moves together, what is missing, what would do."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import stats

from builders import a_pack, a_project
from wired_union.catalogue.demo import demo
from wired_union.kernel.ripple import offered
from wired_union.project.budget_model import Doubt, ErrorBudget
from wired_union.project.change import with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.project.references import Fault
from wired_union.subjects import assess
from wired_union.subjects.bench.budget_edits import add_budget, add_doubt, remove_budget, remove_doubt, set_doubt
from wired_union.subjects.bench.budgets import BUDGETS, budgeted, spread_that_does
from wired_union.subjects.bench.edits import add_calibration, remove_calibration

DRAWS = {
    "standard deviation": lambda r, n: r.normal(0, 1, n),
    "95 of 100": lambda r, n: r.normal(0, 1 / stats.norm.ppf(0.975), n),
    "anywhere within": lambda r, n: r.uniform(-1, 1, n),
    "mostly the middle": lambda r, n: r.triangular(-1, 0, 1, n),
    "mostly the ends": lambda r, n: np.sin(r.uniform(0, 2 * math.pi, n)),
}


def a_budget(*doubts, **figures):
    return budgeted(ErrorBudget(id="e", name="Place", **{"unit": "m", **figures}, doubts=doubts), {})


def a_doubt(name="steps", spread=1.0, **figures):
    return Doubt(name=name, spread=spread, **figures)


def in_project(*doubts, **figures):
    return with_concept(a_project(a_pack()), error_budgets=(a_budget(*doubts, **figures).budget,))


@pytest.mark.parametrize("shape", DRAWS)
def test_the_standard_deviation_of_each_shape_is_that_of_a_million_draws(shape):
    drawn = DRAWS[shape](np.random.default_rng(3), 1_000_000)
    (part,) = a_budget(a_doubt(spread_as=shape)).parts
    assert part.standard == pytest.approx(float(drawn.std()), rel=3e-3)
    assert not part.has_ends or part.worst == pytest.approx(float(abs(drawn).max()), rel=1e-3)


def test_of_many_together_as_many_lie_inside_as_is_said():
    """JCGM 101 (GUM, supplement 1): the same sum drawn a million times."""
    draw, n = np.random.default_rng(4), 1_000_000
    sizes = (1.0, 2.2, 1.9, 2.6, 1.2)
    doubts = [a_doubt(s, size, spread_as=s, sensitivity=(-1) ** k * 1.5) for k, (s, size) in enumerate(
        zip(DRAWS, sizes, strict=True))]  # fmt: skip
    b = a_budget(*doubts)
    drawn = sum(d.sensitivity * d.spread * DRAWS[d.spread_as](draw, n) for d in doubts)
    assert b.combined == pytest.approx(float(drawn.std()), rel=3e-3)
    assert float((abs(drawn) <= b.error).mean()) == pytest.approx(0.95, abs=0.006)
    assert sum(b.shares) == pytest.approx(1)
    assert b.largest == 1


def test_what_moves_together_adds_and_what_goes_the_other_way_takes_away():
    one, other = (a_doubt(n, spread_as="standard deviation", together="heat") for n in ("gain", "offset"))
    assert a_budget(one, other).combined == pytest.approx(2)
    assert a_budget(one, other.but(sensitivity=-1.0)).combined == pytest.approx(0)
    assert a_budget(one, other.but(sensitivity=-1.0)).worst == pytest.approx(6)  # the worst does not rely on it
    assert a_budget(one, other.but(together="")).combined == pytest.approx(math.sqrt(2))


def test_from_a_file_too_only_a_repeat_error_gets_less_by_averaging():
    assert a_budget(a_doubt(of="alignment", averaged=9)).error == a_budget(a_doubt()).error
    steady = a_doubt(of="repeat", spread_as="standard deviation")
    assert a_budget(steady.but(averaged=9)).error == pytest.approx(a_budget(steady).error / 3)


def test_few_readings_widen_it():
    b = a_budget(a_doubt(spread_as="standard deviation", readings=6))
    assert b.error == pytest.approx(stats.t.ppf(0.975, 5))


@pytest.mark.parametrize(("doubts", "lacks"), [
    ((), "what makes it wrong"), ((a_doubt(spread=None),), "spread of steps"),
    ((a_doubt(), a_doubt("heat", sensitivity=None)), "how much heat moves it"),
    ((a_doubt(readings=1),), "a second reading"), ((a_doubt(calibration="gone"),), "the error of"),
])  # fmt: skip
def test_what_is_missing_makes_it_unknown_never_nothing(doubts, lacks):
    b = a_budget(*doubts, wanted=100.0)
    assert any(lacks in m for m in b.missing)
    assert (b.error, b.worst, b.verdict) == (None, None, "unknown")
    assert assess(in_project(*doubts) if not any(d.calibration for d in doubts) else
                  in_project()).measure("error:e").value is None  # fmt: skip


def test_a_calibration_brings_its_error_and_unknown_stays_unknown():
    project = demo()
    budget = ErrorBudget(id="e", name="Salt", unit="g/l", doubts=(Doubt(name="probe", calibration="salinity"),))
    found = next(b for b in assess(with_concept(project, error_budgets=(budget,))).of(BUDGETS) if b.budget.id == "e")
    (cal,) = project.concept.calibrations
    worst = assess(project).measure("error:salinity").value
    assert found.error == pytest.approx(worst, rel=1e-6)  # alone it is what the calibration says
    few = with_concept(project, error_budgets=(budget,), calibrations=(cal.but(pairs=cal.pairs[:3]),))
    assert assess(few).measure("error:e").verdict == "unknown"


@given(st.lists(st.floats(0.01, 10), min_size=1, max_size=5), st.integers(0, 4), st.floats(1, 5),
       st.sampled_from(sorted(DRAWS)))  # fmt: skip
@settings(max_examples=60, deadline=None)
def test_a_wider_spread_never_makes_it_better_and_units_change_nothing(spreads, which, factor, shape):
    doubts = [a_doubt(f"d{n}", s, spread_as=shape) for n, s in enumerate(spreads)]
    which %= len(doubts)
    wider = [d.but(spread=d.spread * factor) if n == which else d for n, d in enumerate(doubts)]
    assert a_budget(*wider).error >= a_budget(*doubts).error - 1e-12
    scaled = [d.but(spread=d.spread * 1000) for d in doubts]
    assert a_budget(*scaled).error == pytest.approx(1000 * a_budget(*doubts).error)
    assert a_budget(*doubts).error <= max(a_budget(*doubts).worst, 3 * a_budget(*doubts).combined) + 1e-9


def test_a_way_out_is_worked_out_and_averaging_helps_a_repeat_error_alone():
    project = in_project(a_doubt("noise", 2.0, of="repeat", spread_as="standard deviation"),
                         a_doubt("askew", 0.5, of="alignment"), wanted=2.0)  # fmt: skip
    assessed = assess(project)
    (finding,) = [f for f in assessed.findings if f.check == "budget"]
    assert "noise has 98" in finding.what.replace("\u2009", "")
    (average, words), (less, _) = offered(assessed, finding)[:2]
    assert (average.label, words) == ("average 5 readings", "then holds")
    after = assess(average.change.after)
    assert after.measure("error:e").value <= 2.0
    assert assess(set_doubt(project, "e", 1, averaged=4).after).measure("error:e").value > 2.0
    (b,) = assessed.of(BUDGETS)
    most = spread_that_does(b, 0, {})
    at, over = (assess(set_doubt(project, "e", 1, spread=most * f).after).measure("error:e").value for f in (1, 1.001))
    assert at <= 2.0 < over
    assert less.label.startswith("noise: at most")
    with pytest.raises(ProjectError, match="Averaging"):
        set_doubt(project, "e", 2, averaged=5)


def test_edits_go_there_and_back_and_an_id_is_one_of_both_lists(tmp_path):
    project = add_calibration(a_project(a_pack()), name="Depth").after
    project = add_budget(project, name="Depth", unit="m").after
    project = remove_calibration(project, "depth").after
    project = add_calibration(project, name="Depth 2").after
    assert project.concept.error_budgets[0].id != project.concept.calibrations[0].id
    budget = project.concept.error_budgets[0].id
    project = add_doubt(project, budget, "heat").after
    assert remove_doubt(project, budget, 1).after.concept.error_budgets[0].doubts == ()
    assert remove_budget(project, value_id=budget).after.concept.error_budgets == ()
    for edit in (lambda: remove_doubt(project, budget, 2), lambda: set_doubt(project, budget, 1, calibration="x"),
                 lambda: add_doubt(project, "x", "heat"), lambda: set_doubt(project, budget, 1, spread=-1.0)):  # fmt: skip
        with pytest.raises(ProjectError):
            edit()
    assert from_text(to_text(project), tmp_path / "x") == project
    alike = with_concept(
        project, error_budgets=(project.concept.error_budgets[0].but(id=project.concept.calibrations[0].id),)
    )
    with pytest.raises((ProjectError, Fault), match="give one of them another"):
        from_text(to_text(alike), tmp_path / "x")
