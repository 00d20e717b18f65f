"""What else runs say: packets, what is seen, settings at two levels, wear, strangers, outliers, the score table."""

import math

import numpy as np
import pytest
import scipy.stats

from builders import a_pack, a_project, plain
from wired_union.picture.shapes import Box, Kit, Ring, Text
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.project.model import Limit
from wired_union.project.trial_model import Factor, Run, Trial
from wired_union.subjects import assess
from wired_union.subjects.trials.assess import TRIALS
from wired_union.subjects.trials.edits import add_factor, add_run, add_runs, add_trial, remove_factor, set_trial
from wired_union.subjects.trials.looks import (
    accuracy_words,
    effects_of,
    outliers_of,
    reach_words,
    reaches_of,
    seen_of,
    seen_words,
    wear_of,
    wear_words,
)
from wired_union.subjects.trials.paste import packets_read, read_runs
from wired_union.subjects.trials.pick import TrialPick
from wired_union.subjects.trials.picture import said_words
from wired_union.subjects.trials.picture_looks import effects_picture, effects_words, reach_picture, seen_picture
from wired_union.subjects.trials.picture_scores import is_scored, more_to_ten, score_words, scores_picture


def a_trial(*runs, **figures):
    return Trial(id="t", name="Trial", **figures, runs=tuple(runs))


def in_project(trial, *limits):
    project = a_project(a_pack()).but(trials=(trial,))
    return project.but(brief=project.brief.but(limits=limits))


def result(project):
    (r,) = assess(project).of(TRIALS)
    return r


def packets(distance, received, sent=100, **figures):
    return Run(setting=float(distance), received=received, sent=sent, **figures)


def test_packets_count_one_by_one_and_a_link_is_as_good_as_where_fewest_arrive():
    trial = a_trial(packets(50, 1000, 1000), packets(100, 95), packets(100, 96), counts="packets", wanted=0.9)
    r = result(in_project(trial))
    assert (r.now.good, r.now.tries, r.value) == (191, 200, 0.955)  # what was counted close by does not help
    assert r.verdict == "holds"  # a bound of 2 runs would show nothing; of 200 packets it does
    assert r.bound == pytest.approx(scipy.stats.beta.ppf(0.05, 191, 10))
    assert "191 of 200 at 100 m shows at least" in plain(said_words(r))
    metal = result(in_project(trial.but(runs=(*trial.runs, packets(100, 5, 10, condition="in metal")))))
    assert metal.verdict == "breaks"
    assert r.now.marks == (True, False, False)
    silly = a_trial(packets(50, 9, 5), Run(setting=1.0), packets(60, 5, 5), counts="packets", wanted=0.9)
    assert result(in_project(silly)).now.tries == 5  # what cannot be does not count
    assert result(in_project(silly.but(runs=silly.runs[:2]))).now is None


@pytest.mark.parametrize(("figures", "says"), [
    ({"sent": 5}, "how many arrived"), ({"received": 5}, "how many packets were sent"), ({"sent": 5, "received": 6}, "More packets"),
])  # fmt: skip
def test_packets_that_cannot_be_are_refused(figures, says):
    with pytest.raises(ProjectError, match=says):
        add_run(in_project(a_trial(counts="packets")), "t", **figures)


def test_a_link_is_reliable_up_to_a_distance_under_each_condition():
    draw = np.random.default_rng(3)
    runs = [packets(d, int(draw.binomial(100, 1 / (1 + (d / far) ** 4))), condition=name,
                    value=40 - 20 * math.log10(d / 10) - loss)
            for name, far, loss in (("open", 600, 0), ("in metal", 150, 15)) for d in (20, 50, 100, 200, 400)]  # fmt: skip
    r = result(in_project(a_trial(*runs, counts="packets")))
    open_, metal = reaches_of(r.now, 0.95)
    assert (open_.condition, metal.condition) == ("open", "in metal")
    true = {c: far * (0.05 / 0.95) ** 0.25 for c, far in (("open", 600), ("in metal", 150))}
    for reach in (open_, metal):
        assert reach.found.lower_m <= true[reach.condition] <= reach.found.upper_m
    assert metal.weak_m == pytest.approx(10 * 10 ** (20 / 20), rel=1e-6)  # 25 dB at 10 m, 20 dB a decade: 5 dB at 100 m
    assert "95 % arrive up to" in plain(reach_words(metal, 0.95))
    assert "5 dB over the noise at 100 m" in plain(reach_words(metal, 0.95))
    (alone,) = reaches_of(result(in_project(a_trial(packets(50, 9, 9), packets(90, 9, 9), counts="packets"))).now, 0.95)
    assert alone.found is None
    assert "go further" in reach_words(alone, 0.95)
    near = [packets(d, n) for d, n in ((10, 100), (20, 99), (40, 99))]
    (sure,) = reaches_of(result(in_project(a_trial(*near, counts="packets"))).now, 0.9)
    assert plain(reach_words(sure, 0.9)) == "as it is: reliable as far as it was tried, 40 m."


def seen(was, as_, times=1):
    return [Run(was=was, seen=as_)] * times


def test_what_is_seen_is_counted_in_a_table():
    runs = [*seen("shell", "Shell", 8), *seen("shell", "stone", 3), *seen("stone", "stone", 9), *seen("weed", "shell")]
    trial = a_trial(*runs, counts="what is seen", wanted=0.8)
    r = result(in_project(trial))
    assert (r.now.good, r.now.tries) == (17, 21)
    t = seen_of(r.now)
    assert t.names == ("shell", "stone", "weed")
    assert t.counts == ((8, 3, 0), (0, 9, 0), (1, 0, 0))
    assert t.right[0].exact_lower == pytest.approx(0.390, abs=1e-3)  # 8 of 11 by scipy.stats.beta
    assert seen_words(r.now) == "shell is most often taken for stone: 3 of 11."
    assert seen_words(result(in_project(a_trial(*seen("a", "a"), counts="what is seen"))).now).startswith("Nothing was")
    with pytest.raises(ProjectError, match="what it was taken for"):
        add_run(in_project(trial), "t", was="shell")
    assert add_run(in_project(trial), "t", was="shell", seen="stone").sentence.endswith("shell taken for stone")


def settled(values, **figures):
    """Two settings in every mix, twice; the second with the first makes a difference."""
    mixes = [(a, b) for a in (False, True) for b in (False, True)] * 2
    runs = [Run(value=v, levels=m) for v, m in zip(values, mixes, strict=True)]
    factors = (Factor(name="Bit", low="28 mm", high="32 mm"), Factor(name="Speed"))
    return a_trial(*runs, counts="a value", proves="mean", unit="mm", factors=factors, **figures)


def test_each_setting_and_two_together_have_their_effect():
    trial = settled([100, 110, 130, 160, 102, 108, 131, 159])
    found = effects_of(trial)
    assert [(e.name, round(e.size, 2)) for e in found.effects] == [
        ("Bit", 40.0), ("Speed", 18.5), ("Bit with Speed", 10.5)]  # fmt: skip
    assert "Bit +40 mm" in plain(effects_words(trial, found))
    assert "three" not in effects_words(trial, found)
    calm = settled([100, 101, 99, 102, 101, 100, 102, 99])
    assert "No effect" in effects_words(calm, effects_of(calm))
    struck = trial.but(runs=tuple(r.but(struck="slipped") for r in trial.runs[:4]) + trial.runs[4:])
    assert "run some of the mixes twice" in effects_of(struck).missing
    assert "1 of 4 mixes" in effects_of(trial.but(runs=trial.runs[:3])).missing
    assert "No run says" in effects_of(trial.but(runs=())).missing
    odd = trial.but(runs=(Run(value=9.0, levels=(True,)), *trial.runs))
    assert effects_of(odd).effects == found.effects  # a level that is lacking says nothing


def test_settings_at_two_levels_are_added_and_kept_as_they_were_tried(tmp_path):
    project = add_factor(in_project(a_trial()), "t", "Bit", "28 mm", "32 mm").after
    project = add_factor(project, "t", "Speed").after
    with pytest.raises(ProjectError, match="2 settings of two levels"):
        add_run(project, "t", good=True, levels=(True,))
    one_less = remove_factor(project, "t", 1).after
    assert [f.name for f in one_less.trials[0].factors] == ["Speed"]
    project = add_run(project, "t", good=True, levels=(True, False)).after
    for edit in (lambda: add_factor(project, "t", "Wind"), lambda: remove_factor(project, "t", 1),
                 lambda: remove_factor(one_less, "t", 2)):  # fmt: skip
        with pytest.raises(ProjectError):
            edit()
    assert from_text(to_text(project), tmp_path / "x") == project
    trial = project.trials[0]
    rows = read_runs(trial, "result;Bit;Speed\ngood;32 mm;low\nbad;-;+\ngood;;\n")
    assert [r.get("levels") for r in rows] == [(True, False), (False, True), None]
    with pytest.raises(ProjectError, match="no level of Bit"):
        read_runs(trial, "result;Bit;Speed\ngood;35 mm;low\n")


def test_sheets_of_packets_and_of_what_is_seen_are_read():
    assert packets_read("97/100") == packets_read("97 of 100") == packets_read(" 97 100 ") == (97, 100)
    link, eyes = a_trial(counts="packets"), a_trial(counts="what is seen")
    rows = read_runs(link, "distance;arrived;sent;SNR;condition\n100;97;100;12 dB;open\n200;60;100;;in metal\n")
    assert rows == [{"condition": "open", "received": 97, "sent": 100, "value": 12.0, "setting": 100.0},
                    {"condition": "in metal", "received": 60, "sent": 100, "setting": 200.0}]  # fmt: skip
    assert len(add_runs(in_project(link), "t", rows).after.trials[0].runs) == 2
    assert read_runs(link, "3/4\n1 of 4\n") == [{"received": 3, "sent": 4}, {"received": 1, "sent": 4}]
    assert read_runs(eyes, "was,taken for\nshell,stone\n") == [{"was": "shell", "seen": "stone"}]
    for trial, text in ((link, "many\n"), (link, "distance;arrived;sent\n5;x;9\n")):
        with pytest.raises(ProjectError, match="Line"):
            read_runs(trial, text)


def test_wear_says_when_the_band_is_left():
    values = [160.0 - 0.5 * n + 0.1 * (-1) ** n for n in range(12)]
    trial = a_trial(*(Run(value=v) for v in values), counts="a value", proves="share inside", unit="mm", band_low=150.0,
                    band_high=170.0)  # fmt: skip
    row = result(in_project(trial)).now
    wear = wear_of(row)
    assert wear.rate == pytest.approx(-0.5, abs=0.01)
    assert "below 150 mm in about 11 runs" in plain(wear_words(row, wear))
    (finding,) = [f for f in assess(in_project(trial)).findings if f.check == "drift"]
    assert "from run to run" in finding.title
    assert wear_of(result(in_project(trial.but(runs=trial.runs[:7]))).now) is None
    rising = trial.but(band_high=None, runs=tuple(Run(value=-v) for v in values))
    assert "below" not in wear_words(result(in_project(rising)).now, wear_of(result(in_project(rising)).now))
    assert wear_of(result(in_project(a_trial(*[Run(good=True)] * 9))).now) is None


def test_how_well_values_fit_their_band_is_said_with_its_doubt():
    draw = np.random.default_rng(1)
    trial = a_trial(*(Run(value=float(v)) for v in draw.normal(158, 4, 30)), counts="a value", proves="share inside",
                    unit="mm", band_low=150.0, band_high=180.0)  # fmt: skip
    words = plain(accuracy_words(result(in_project(trial)).now))
    assert "below the middle of the band" in words
    assert "rough" not in words
    assert "rough" in accuracy_words(result(in_project(trial.but(runs=trial.runs[:9]))).now)
    assert accuracy_words(result(in_project(trial.but(band_high=None))).now) == ""
    assert accuracy_words(result(in_project(trial.but(runs=(Run(value=1.0),) * 3))).now) == ""


def test_who_did_it_before_is_no_stranger():
    runs = [Run(value=200.0 + n, by=who) for n, who in enumerate(("Ada", "Ben", "ada", ""))]
    trial = a_trial(*runs, counts="a time", proves="share inside", unit="s", band_high=300.0, strangers=True)
    (finding,) = [f for f in assess(in_project(trial)).findings if f.check == "strangers"]
    assert finding.what == "1 run by somebody who had done it before. Of 1 run nobody says who it was."
    fine = trial.but(runs=tuple(runs[:2]))
    assert not [f for f in assess(in_project(fine)).findings if f.check == "strangers"]
    assert not [f for f in assess(in_project(trial.but(strangers=False))).findings if f.check == "strangers"]


def test_values_far_off_are_marked_and_counted_all_the_same():
    values = [10.0, 11, 12, 10, 11, 12, 30]
    trial = a_trial(*(Run(value=v) for v in values), counts="a value", proves="mean", unit="mm")
    assert outliers_of(trial) == {7}
    assert result(in_project(trial)).value == pytest.approx(sum(values) / 7)
    assert outliers_of(trial.but(runs=(*trial.runs[:6], trial.runs[6].but(condition="silt")))) == frozenset()


def test_the_score_table_has_ten_of_each():
    r = result(in_project(a_trial(*[Run(good=n != 3) for n in range(14)])))
    few = result(in_project(a_trial(*[Run(good=True)] * 4)))
    assert [score_words(x) for x in (r, few)] == ["10 of 10", "4 of 4"]
    assert more_to_ten(few) == "6 more before a choice"
    assert more_to_ten(r).startswith("all 14:")
    link = result(in_project(a_trial(packets(1, 1, 2), counts="packets")))
    assert (is_scored(link), plain(score_words(link))) == (False, "50 %")
    assert more_to_ten(link).startswith("at 1")
    untried = result(in_project(a_trial()))
    assert (score_words(untried), more_to_ten(untried)) == ("", "not tried yet")
    picture = scores_picture([r, few, untried], Kit(), 800, TrialPick("t"))
    assert len([s for s in picture.every if isinstance(s, Box) and s.fill == "holds"]) == 14


def test_a_trial_begins_as_what_it_is_for_and_its_runs_fix_that():
    project = add_trial(a_project(a_pack()), "Link", counts="packets", setting="distance in m").after
    assert project.trials[0].counts == "packets"
    project = add_run(project, "link", sent=9, received=9).after
    with pytest.raises(ProjectError, match="entered otherwise"):
        set_trial(project, "link", counts="pass or fail")
    mean = a_trial(packets(1, 1, 1), counts="packets", proves="mean")
    limit = Limit(measure="trial:t", name="x", value=0.5, direction="at least", group="Prove")
    assert assess(in_project(mean, limit)).measure("trial:t").verdict == "unknown"


def test_every_picture_is_drawn_with_much_with_little_and_with_nothing():
    link = [packets(d, n, condition=c) for c in ("a", "b") for d, n in ((20, 99), (100, 80), (300, 5))]
    for runs in (link, link[:1], link[:3], []):
        r = result(in_project(a_trial(*runs, counts="packets")))
        reaches = reaches_of(r.now, 0.95) if r.now is not None else ()
        picture = reach_picture(reaches, 0.95, Kit(), 640)
        rings = [s for s in picture.every if isinstance(s, Ring)]
        assert len(rings) == (len(runs) if len(runs) > 1 else 0)
        assert all(0 <= s.x <= 640 and 0 <= s.y <= picture.height for s in rings)
    for trial in (settled([1.0] * 8), settled(range(8)), a_trial(factors=(Factor(name="Bit"),))):
        assert effects_picture(trial, Kit(), 640).height > 0
    table = seen_of(result(in_project(a_trial(*seen("a", "b", 3), counts="what is seen"))).now)
    texts = [s.text for s in seen_picture(table, Kit(), 640).every if isinstance(s, Text)]
    assert {"a", "b", "3"} <= set(texts)
