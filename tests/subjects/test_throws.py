"""Throws of whole projects: where they land against throws drawn, the wall, which angle, speed and charge would do."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import a_pack, a_project, plain
from wired_union.kernel.ripple import offered
from wired_union.physics.flight import drag_per_m, flights
from wired_union.picture.shapes import Kit
from wired_union.project.change import with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.project.model import Limit
from wired_union.project.throw_model import Throw
from wired_union.project.trial_model import Run, Trial
from wired_union.subjects import assess
from wired_union.subjects.trials.assess import TRIALS
from wired_union.subjects.trials.picture_throw import throw_picture, throw_words
from wired_union.subjects.trials.throw_edits import add_throw, remove_throw, set_throw
from wired_union.subjects.trials.throws import CHARGES, THROWS

USUAL = {"speed_m_s": 10.0, "speed_spread_m_s": 0.3, "angle_deg": 40.0, "angle_spread_deg": 2.0, "height_m": 1.0}


def a_throw(**figures):
    return with_concept(a_project(a_pack()), throws=(Throw(id="t", name="Ball", **USUAL | figures),))


def result(project):
    (t,) = assess(project).of(THROWS)
    return t


def charges(project):
    return assess(project).of(CHARGES)["t"]


@pytest.mark.parametrize("drag", [0.0, 0.5])
def test_where_it_lands_is_where_a_hundred_thousand_throws_do(drag):
    project = a_throw(drag_coefficient=drag, mass_kg=0.06, diameter_m=0.07, band_low_m=9.5, band_high_m=11.0, wall_m=5.0,
                      wall_height_m=2.6)  # fmt: skip
    draw, t = np.random.default_rng(1), result(project)
    per_m = drag_per_m(0.06, 0.07, drag)
    made = flights(draw.normal(10, 0.3, 20_000), np.radians(draw.normal(40, 2, 20_000)), 1.0, per_m, 5.0)
    assert t.ends == pytest.approx(tuple(np.quantile(made.range_m, (0.1, 0.9))), abs=0.05)
    assert t.deviation_m == pytest.approx(float(made.range_m.std()), rel=0.05)
    good = (made.range_m >= 9.5) & (made.range_m <= 11) & (np.nan_to_num(made.at_wall_m, nan=-1) > 2.6)
    assert t.inside == pytest.approx(float(good.mean()), abs=0.02)
    assert assess(project).measure("throw:t").value == t.inside


def test_without_spread_it_lands_or_not():
    steady = {"speed_spread_m_s": 0.0, "angle_spread_deg": 0.0}
    far = result(a_throw(**steady)).range_m
    assert result(a_throw(**steady, band_low_m=far - 0.1)).inside == 1.0
    assert result(a_throw(**steady, band_low_m=far + 0.1)).inside == 0.0
    assert result(a_throw(**steady, band_high_m=far - 0.1)).inside == 0.0
    assert result(a_throw(**steady, wall_m=far + 1)).inside == 0.0  # what does not reach it does not clear it
    assert result(a_throw(**steady, wall_m=far + 1)).clearance_m is None
    assert result(a_throw(**steady, wall_m=3.0, wall_height_m=1.0)).clearance_m > 0


@pytest.mark.parametrize(("figures", "lacks"), [
    ({"speed_m_s": None}, "speed"), ({"speed_spread_m_s": None}, "spread of its speed"), ({"angle_deg": None}, "angle"),
    ({"angle_spread_deg": None}, "spread of its angle"), ({"drag_coefficient": 0.5}, "its mass"),
    ({"drag_coefficient": 0.5, "mass_kg": 1.0}, "its diameter"),
    ({"drag_coefficient": 3.0, "mass_kg": 1e-6, "diameter_m": 1.0}, "does not all but stop"),
])  # fmt: skip
def test_what_is_missing_makes_it_unknown(figures, lacks):
    project = a_throw(band_low_m=0.0, **figures)
    measure = assess(project).measure("throw:t")
    assert measure.value is None
    assert any(lacks in m for m in measure.missing)
    assert "throw-gap" in {f.check for f in assess(project).findings}
    assert throw_words(result(project)).startswith("Not known yet")
    assert throw_picture(result(project), Kit(), 600).height > 0


def test_where_nothing_is_wanted_nothing_is_said_of_it():
    measure = assess(a_throw()).measure("throw:t")
    assert measure.missing == ("Ball: where it must land",)
    assert not [f for f in assess(a_throw()).findings if f.subject == "trials"]


def test_an_angle_and_a_speed_that_would_do_are_offered_and_help():
    project = a_throw(band_low_m=8.0, band_high_m=9.0)
    assessed = assess(project)
    (finding,) = [f for f in assessed.findings if f.check == "throw"]
    ways = [r for r, _ in offered(assessed, finding) if r.change is not None]
    assert len(ways) == 3
    for way in ways:
        after = result(way.change.after)
        assert after.range_m == pytest.approx(8.5, abs=1e-3)
        assert after.inside > result(project).inside
    assert result(project).angles_for(100.0) == ()
    assert result(a_throw(angle_deg=-80.0)).speed_for(1e5) is None


@given(st.floats(3, 25), st.floats(0, 0.8), st.floats(2, 8))
@settings(max_examples=25, deadline=None)
def test_turned_round_a_throw_lands_where_it_was_wanted(speed, drag, wanted):
    t = result(a_throw(speed_m_s=speed, drag_coefficient=drag, mass_kg=0.1, diameter_m=0.05))
    for angle in t.angles_for(wanted):
        assert float(t.fly([speed], [angle]).range_m[0]) == pytest.approx(wanted, abs=1e-4)
    needed = t.speed_for(wanted)
    assert float(t.fly([needed], [40.0]).range_m[0]) == pytest.approx(wanted, abs=1e-4)


def test_the_charge_for_a_distance_comes_from_runs():
    draw = np.random.default_rng(3)
    runs = tuple(Run(setting=float(c), value=0.02 * c**1.8 + draw.normal(0, 0.03)) for c in range(10, 40, 3))
    trial = Trial(id="charge", name="Charge", counts="a value", proves="mean", unit="m", runs=runs)
    project = a_throw(band_low_m=6.0, band_high_m=8.0, trial="charge").but(trials=(trial,))
    charge, lacks = charges(project)
    assert charge.charge == pytest.approx((7 / 0.02) ** (1 / 1.8), rel=0.01)
    assert 0.03 <= charge.error_m <= 0.15
    assert "lands in the middle" in throw_words(result(project), charge, lacks)
    few = project.but(trials=(trial.but(runs=runs[:3]),))
    assert "4 runs with their charge at least; 3 are there" in throw_words(result(few), *charges(few))
    far = set_throw(project, "t", band_high_m=99.0).after
    assert "beyond the charges" in throw_words(result(far), *charges(far))
    assert charges(project.but(trials=())) == (None, "")


def test_throws_are_made_changed_and_kept(tmp_path):
    project = add_throw(a_project(a_pack()), name="Ball").after
    project = set_throw(project, "ball", speed_m_s=5.0, band_low_m=2.0).after
    for figures in ({"band_high_m": 1.0}, {"speed_m_s": -1.0}, {"angle_deg": 91.0}, {"trial": "x"}):
        with pytest.raises(ProjectError):
            set_throw(project, "ball", **figures)
    assert from_text(to_text(project), tmp_path / "x") == project
    assert remove_throw(project, value_id="ball").after.concept.throws == ()
    dropped = result(a_throw(speed_m_s=0.0, speed_spread_m_s=0.0, height_m=4.903325))
    assert float(dropped.usual.time_s[0]) == pytest.approx(1.0)  # it falls for a second
    assert dropped.range_m == pytest.approx(0.0, abs=1e-9)


def test_throws_computed_and_thrown_that_disagree_are_told():
    limit = Limit(measure="throw:t", name="Lands in the ring", value=0.8, direction="at least", group="Prove")
    project = a_throw(band_low_m=8.0)
    project = project.but(brief=project.brief.but(limits=(limit,)))
    assert assess(project).measure("throw:t").value > 0.95
    trial = Trial(id="r", name="Thrown", limit="throw:t", runs=tuple(Run(good=n % 2 == 0) for n in range(30)))
    assessed = assess(project.but(trials=(trial,)))
    (finding,) = [f for f in assessed.findings if f.check == "disagrees"]
    assert "is computed, 50 % was measured" in plain(finding.what)
    assert assessed.of(TRIALS)[0].verdict == "breaks"
    fine = trial.but(runs=tuple(Run(good=n != 3) for n in range(30)))
    assert not [f for f in assess(project.but(trials=(fine,))).findings if f.check == "disagrees"]


def test_what_flies_as_it_is_and_would_not_faster_is_no_error():
    project = a_throw(drag_coefficient=0.5, mass_kg=0.0004, diameter_m=0.12, speed_m_s=3.0, speed_spread_m_s=0.1, band_low_m=8.0,
                      band_high_m=9.0)  # fmt: skip
    assessed = assess(project)
    (finding,) = [f for f in assessed.findings if f.check == "throw"]
    assert [r.label for r in finding.remedies][-1].startswith("a steadier throw")
