"""Trials: what runs show against scipy and counting, laws, what is said of how they were made, the demo, sheets."""

import itertools

import pytest
import scipy.stats
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import a_limit, a_pack, a_project, plain
from wired_union.catalogue.demo import demo
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered
from wired_union.project.change import with_brief
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.project.model import Limit
from wired_union.project.trial_model import Run, Trial
from wired_union.subjects import assess
from wired_union.subjects.trials.assess import TRIALS, proofs_of
from wired_union.subjects.trials.edits import add_run, add_runs, add_trial, remove_trial, set_trial, strike
from wired_union.subjects.trials.paste import read_runs
from wired_union.subjects.trials.picture import said_words
from wired_union.subjects.trials.picture_boxes import groups_of, sweep_of, sweep_words
from wired_union.subjects.trials.shown import Wish, result_of


def marks(text: str, **figures) -> tuple[Run, ...]:
    return tuple(Run(good=c == "g", **figures) for c in text)


def values(*numbers: float, **figures) -> tuple[Run, ...]:
    return tuple(Run(value=v, **figures) for v in numbers)


def a_trial(runs=(), **figures) -> Trial:
    return Trial(id="t", name="Good cores", runs=tuple(runs), **figures)


def a_wish(trial: Trial, *limits: Limit):
    return a_project(a_pack(), limits=limits).but(trials=(trial,))


def found(project):
    return [(f.check, f.verdict.value) for f in assess(project).findings if f.subject == "trials"]


def shown(runs, value=0.9, direction="at least", **figures):
    return result_of(a_trial(runs, **figures), Wish(value, direction))


def test_eighteen_of_twenty_meet_ninety_of_a_hundred_and_do_not_show_it():
    """Clopper & Pearson 1934: 18 of 20 one-sided at 95 %: 0.7174 (scipy's binomial test); 29 clean runs show 90 %."""
    r = shown(marks("g" * 9 + "b" + "g" * 9 + "b"))
    assert r.value == pytest.approx(0.9)
    exact = scipy.stats.binomtest(18, 20, alternative="greater").proportion_ci(0.95, "exact").low
    assert r.bound == pytest.approx(exact, abs=1e-9)
    assert r.verdict is Verdict.TIGHT
    assert shown(marks("g" * 29)).verdict is Verdict.HOLDS
    assert shown(marks("g" * 28)).verdict is Verdict.TIGHT
    assert shown(marks("gb")).verdict is Verdict.BREAKS
    assert shown(()).verdict is None
    assert shown(marks("g" * 28)).more_clean == 1


@pytest.mark.parametrize(("good", "runs", "bad"), [(18, 20, 0), (18, 20, 1), (0, 1, 0), (43, 45, 1), (9, 9, 0)])
def test_so_many_more_runs_show_it_and_one_less_does_not(good, runs, bad):
    r = shown(marks("g" * good + "b" * (runs - good)))
    more = r.more_with_one_bad if bad else r.more_clean
    assert more is not None

    def low(k):
        return scipy.stats.binomtest(good + k - bad, runs + k, alternative="greater").proportion_ci(0.95, "exact").low

    assert low(more) >= 0.9 - 1e-9 > low(more - 1) - 1e-9
    assert low(more - 1) < 0.9


@given(st.lists(st.booleans(), min_size=1, max_size=60), st.integers(1, 20), st.sampled_from((0.8, 0.95, 0.99)))
@settings(max_examples=150, deadline=None)
def test_more_clean_runs_never_lower_the_bound_and_order_changes_nothing(row, more, confidence):
    runs = tuple(Run(good=g) for g in row)
    r = shown(runs, confidence=confidence)
    assert shown((*runs, *marks("g" * more)), confidence=confidence).bound >= r.bound - 1e-12
    turned = shown(runs[::-1], confidence=confidence)
    assert (turned.bound, turned.ends, turned.verdict) == (r.bound, r.ends, r.verdict)
    assert r.ends[0] <= r.value <= r.ends[1]
    assert r.now.longest == max((len(list(g)) for good, g in itertools.groupby(row) if good), default=0)


@given(st.lists(st.floats(1, 100), min_size=2, max_size=30), st.floats(1, 100), st.sampled_from((1e-3, 1e3)))
@settings(max_examples=100, deadline=None)
def test_units_changed_change_nothing(numbers, wish, factor):
    for direction in ("at least", "at most"):
        one = shown(values(*numbers), wish, direction, counts="a value", proves="mean")
        other = shown(values(*(v * factor for v in numbers)), wish * factor, direction, counts="a value", proves="mean")
        assert other.value == pytest.approx(one.value * factor)
        if abs(one.bound - wish) > 1e-6 * wish and abs(one.value - wish) > 1e-6 * wish:
            assert one.verdict is other.verdict


def test_a_mean_is_shown_when_its_one_sided_bound_is_what_is_wanted():
    """Student's t, one-sided: 10 ± 1.833·0.1/√10 of ten runs; scipy."""
    numbers = [9.9, 10.1] * 5
    r = shown(values(*numbers), 10.1, "at most", counts="a time", proves="mean")
    sd = (sum((v - 10) ** 2 for v in numbers) / 9) ** 0.5
    assert r.bound == pytest.approx(10 + scipy.stats.t.ppf(0.95, 9) * sd / 10**0.5)
    assert r.verdict is Verdict.HOLDS
    assert shown(values(*numbers), 10.05, "at most", counts="a time", proves="mean").verdict is Verdict.TIGHT
    assert shown(values(*numbers), 9.95, "at most", counts="a time", proves="mean").verdict is Verdict.BREAKS
    assert shown(values(10.0), 11.0, "at most", counts="a time", proves="mean").missing  # one run has no spread


def test_a_share_inside_a_band_needs_the_band():
    runs = values(1.0, 2.0, 3.0, 4.0)
    assert shown(runs, counts="a value", proves="share inside").missing == ("Good cores: the band that is wanted",)
    inside = shown(runs, 0.5, counts="a value", proves="share inside", band_low=2.0, band_high=3.0)
    assert (inside.value, inside.now.marks) == (0.5, (False, True, True, False))
    assert shown(runs, counts="a value").missing  # a value has no rate


def test_only_the_version_that_ran_last_counts_and_what_is_struck_does_not():
    runs = (*marks("bbbb", version="2"), *marks("ggg", version="3"), Run(good=False, version="3", struck="bit bent"))
    r = shown(runs)
    assert (r.now.version, r.value, [row.version for row in r.rows]) == ("3", 1.0, ["3", "2"])
    assert r.now.streak == 3


def test_a_limit_of_the_team_is_informed_by_its_trial_and_never_without_a_run():
    wish = Limit(measure="own-cores", name="Cores", value=0.9, direction="at least", own=True, unit="share")
    empty = assess(a_wish(a_trial(limit="own-cores"), wish))
    assert empty.measure("own-cores").verdict == "unknown"
    assert empty.uninformed == ("own-cores",)
    met = assess(a_wish(a_trial(marks("g" * 20), limit="own-cores"), wish))
    assert met.measure("own-cores").verdict == "tight"
    assert met.measures[0].value == 1.0
    done = assess(a_wish(a_trial(marks("g" * 29), limit="own-cores"), wish))
    assert [m.verdict for m in done.measures] == ["holds"]
    assert done.measure("own-cores").shown == "100\u202f%"
    measured = assess(a_wish(a_trial(limit="own-cores"), wish.but(measured=0.95)))
    assert measured.measure("own-cores").value == 0.95  # what was measured stands until there is a run


def test_a_limit_on_a_trial_is_judged_by_what_is_shown():
    """A rate of one alone would be a tenth above the wish after a single run."""
    trial = a_trial(marks("g"))
    project = a_wish(trial, a_limit("trial:t", 0.9, "at least"))
    assert assess(project).measure("trial:t").verdict == "tight"
    assert assess(project.but(trials=(trial.but(runs=marks("g" * 29)),))).measure("trial:t").verdict == "holds"
    assert assess(a_wish(a_trial(), a_limit("trial:t", 0.9, "at least"))).measure("trial:t").verdict == "unknown"


def test_a_rate_says_nothing_of_kilograms_and_a_mean_nothing_in_another_unit():
    """Nine of ten are no 0.9 kg: a share is at most 8.5 of anything."""
    passed = a_trial(marks("g" * 40), limit="mass")
    assessed = assess(a_wish(passed, a_limit("mass", 8.5)))
    assert assessed.of(TRIALS)[0].wish is None
    assert {p.limit.measure: p.how for p in proofs_of(assessed)}["mass"] != "a trial"
    assert assess(a_wish(passed.but(wanted=0.9), a_limit("mass", 8.5))).of(TRIALS)[0].wish == Wish(0.9)
    own = Limit(measure="own-x", name="x", value=5.0, direction="at most", own=True, unit="kg")
    weighed = a_trial(values(4.0, 4.1, 4.2), limit="own-x", counts="a value", proves="mean", unit="kg")
    assert assess(a_wish(weighed, own)).measure("own-x").verdict == "holds"
    other = assess(a_wish(weighed.but(unit="g"), own))
    assert other.of(TRIALS)[0].wish is None
    assert other.measure("own-x").verdict != "holds"
    percent = Limit(measure="own-p", name="p", value=90.0, direction="at least", own=True, unit="%")
    done = assess(a_wish(a_trial(marks("g" * 29), limit="own-p"), percent))
    assert (done.measure("own-p").verdict, done.measure("own-p").value) == ("holds", 100.0)
    odd = assess(a_wish(a_trial(marks("g" * 29)), a_limit("trial:t", 5.0)))
    assert odd.measure("trial:t").verdict == "unknown"
    project = a_wish(a_trial(), a_limit("mass", 8.5))
    timed = add_trial(project, "Weighed", "mass", "kg").after
    assert timed.trials[-1].unit == "kg"
    with pytest.raises(ProjectError, match="unit of the limit"):
        set_trial(timed, "weighed", unit="g")


def test_every_limit_says_how_it_is_proved():
    project = a_project(a_pack(), limits=(a_limit("mass", 9.0), a_limit("runtime", 1e4, "at least"))).but(
        trials=(
            a_trial(
                values(0.5, 0.52, 0.51, on="2026-11-20", by="Ida"),
                limit="mass",
                counts="a value",
                proves="mean",
                unit="kg",
            ),
        )
    )
    own = Limit(measure="own-x", name="x", value=1.0, direction="at least", own=True)
    project = with_brief(project, limits=(*project.brief.limits, own, own.but(measure="own-y", measured=2.0,
                                                                              measured_on="2026-11-21")))  # fmt: skip
    told = {p.limit.measure: (p.how, p.verdict.value, p.on) for p in proofs_of(assess(project))}
    assert told["mass"] == ("a trial", "holds", "2026-11-20")
    assert told["runtime"][0] in {"computed", "not yet"}
    assert told["own-x"] == ("not yet", "unknown", "")
    assert told["own-y"][0] == "measured"


# what is said of how they were made


def test_what_is_met_only_is_said_with_ways_to_show_it():
    assessed = assess(a_wish(a_trial(marks("g" * 18 + "bb"), wanted=0.9)))
    (finding,) = [f for f in assessed.findings if f.subject == "trials"]
    assert plain(finding.what) == "18 of 20 are good; they show at least 72 %, 95 % sure. Wanted at least 90 %."
    labels = [plain(r.label) for r in finding.remedies]
    assert labels == ["41 more runs, all good", "56 more runs, one bad allowed", "change the wish to 71 %"]
    words = {plain(r.label): w for r, w in offered(assessed, finding)}
    assert words["change the wish to 71 %"] == "then holds"
    assert found(finding.remedies[2].change.after) == []


def test_two_things_changed_at_once_are_said_until_one_is_tried_alone():
    runs = (*marks("ggg", version="1", condition="sand"), *marks("ggg", version="2", condition="silt"))
    assert ("together", "tight") in found(a_wish(a_trial(runs)))
    alone = (*runs, *marks("g", version="1", condition="silt"))
    assert ("together", "tight") not in found(a_wish(a_trial(alone)))
    one = (*marks("ggg", version="1"), *marks("ggg", version="2"))
    assert ("together", "tight") not in found(a_wish(a_trial(one)))


def test_who_stops_when_it_looks_good_is_told():
    early = a_trial(marks("g" * 29), wanted=0.9, planned=40)
    assert found(a_wish(early)) == [("stopped", "tight")]
    assert found(a_wish(early.but(planned=29))) == []
    assert found(a_wish(a_trial(marks("gb"), wanted=0.9, planned=40))) == [("not-shown", "breaks")]


def test_drift_is_told_of_runs_that_were_made_alike():
    """Fisher's exact test, 6 of 6 against 0 of 6: 2 in 924 tables (C(12, 6) = 924)."""
    worn = a_trial(marks("g" * 6 + "b" * 6))
    (finding,) = [f for f in assess(a_wish(worn)).findings if f.check == "drift"]
    assert "by luck 0.22 % of the time" in plain(finding.what)
    assert ("drift", "tight") not in found(a_wish(a_trial(marks("gb" * 6))))
    apart = (*marks("g" * 6, condition="sand"), *marks("b" * 6, condition="clay"))
    assert ("drift", "tight") not in found(a_wish(a_trial(apart)))
    rising = a_trial(values(1, 1.1, 1, 1.1, 2, 2.1, 2, 2.1), counts="a value", proves="mean", unit="m")
    assert ("drift", "tight") in found(a_wish(rising))


def test_computed_and_measured_that_disagree_are_told():
    weighed = a_trial(values(2.0, 2.01, 2.02), limit="mass", counts="a value", proves="mean", unit="kg")
    project = a_wish(weighed, a_limit("mass", 9.0))
    computed = assess(project).measure("mass").value
    assert found(project) == [("disagrees", "tight")]
    close = weighed.but(runs=values(computed * 0.99, computed, computed * 1.01))
    assert found(a_wish(close, a_limit("mass", 9.0))) == []


# boxes and a sweep


def test_boxes_count_what_is_inside_by_condition():
    trial = a_trial((*values(1.0, 2.0, 3.0, condition="sand"), *values(9.0, condition="clay"),
                     Run(value=99.0, condition="clay", struck="slipped")), counts="a value", band_low=2.0, band_high=8.0)  # fmt: skip
    groups = groups_of(trial)
    assert [(g.name, g.inside, len(g.values)) for g in groups] == [("sand", 2, 3), ("clay", 0, 1)]
    assert groups[0].box.median == 2.0


@given(st.floats(-50, 50), st.floats(0.1, 5), st.floats(-100, 100))
@settings(max_examples=60)
def test_the_best_of_a_sweep_is_the_top_of_its_parabola(top, bend, height):
    settings_tried = [top - 3, top - 1, top + 2, top + 4]
    runs = [Run(value=height - bend * (x - top) ** 2, setting=x) for x in settings_tried for _ in range(2)]
    sweep = sweep_of(a_trial(runs, counts="a value", proves="mean"))
    assert sweep.best == pytest.approx(top, abs=1e-5)
    assert sweep.best_high - sweep.best_low == pytest.approx(0.0, abs=1e-4)
    a, b, c = sweep.curve
    assert a + b * top + c * top**2 == pytest.approx(height, abs=1e-4)


def test_no_best_is_said_where_none_was_passed():
    def swept(*points):
        return a_trial([Run(value=y, setting=x) for x, y in points for _ in range(2)], counts="a value", proves="mean")

    rising = swept((1, 1.0), (2, 2.0), (3, 2.9), (4, 3.7))
    assert sweep_words(rising, sweep_of(rising)).startswith("No best between")
    valley = swept((1, 3.0), (2, 1.0), (3, 3.0))
    assert sweep_of(valley).best is None
    few = swept((1, 3.0), (2, 1.0))
    assert sweep_words(few, sweep_of(few)).startswith("Three settings")


# edits, sheets, files


def test_no_run_is_overwritten_and_a_struck_one_stays():
    project = add_trial(a_project(a_pack()), "Good cores").after
    for good in (True, False, True):
        project = add_run(project, "good-cores", good=good, on="2026-11-26", by="Ida").after
    struck = strike(project, "good-cores", 2, "bit bent").after
    assert [r.struck for r in struck.trials[0].runs] == ["", "bit bent", ""]
    assert assess(struck).of(TRIALS)[0].value == 1.0
    assert strike(struck, "good-cores", 2, "").after == project
    with pytest.raises(ProjectError, match="3 runs, which are kept"):
        remove_trial(project, "good-cores")
    with pytest.raises(ProjectError, match="entered otherwise"):
        set_trial(project, "good-cores", counts="a value")
    with pytest.raises(ProjectError, match="good or bad"):
        add_run(project, "good-cores", value=3.0)
    with pytest.raises(ProjectError, match="has 3 runs"):
        strike(project, "good-cores", 4, "x")
    with pytest.raises(ProjectError, match="ends below"):
        set_trial(set_trial(project, "good-cores", band_low=2.0).after, "good-cores", band_high=1.0)
    assert not remove_trial(add_trial(project, "Other").after, "other").after.trials[1:]


def test_a_limit_that_goes_leaves_its_trial_which_can_still_be_changed():
    gone = a_wish(a_trial(marks("gg"), limit="mass"))
    assert assess(gone).of(TRIALS)[0].wish is None
    assert set_trial(gone, "t", wanted=0.5).after.trials[0].wanted == 0.5
    with pytest.raises(ProjectError, match="no such limit"):
        set_trial(gone, "t", limit="moon")


def test_runs_are_read_from_a_sheet_and_a_wrong_line_takes_nothing(tmp_path):
    trial = a_trial()
    rows = read_runs(trial, "result;version;condition\ngood;3;sand\nFAIL;3;silt\n\n")
    assert rows == [{"good": True, "version": "3", "condition": "sand"},
                    {"good": False, "version": "3", "condition": "silt"}]  # fmt: skip
    assert [r["good"] for r in read_runs(trial, "good\nbad")] == [True, False]  # the first is a run and no heading
    timed = a_trial(counts="a time", unit="s", proves="mean")
    assert [r["value"] for r in read_runs(timed, "180 ms\t3\n0.2\t3\n")] == [0.18, 0.2]
    with pytest.raises(ProjectError, match="Line 3: “maybe” is neither good nor bad"):
        read_runs(trial, "result\ngood\nmaybe\n")
    with pytest.raises(ProjectError, match="no run in it"):
        read_runs(trial, "\n \n")
    with pytest.raises(ProjectError, match="Row 2"):
        add_runs(a_wish(trial), "t", [{"good": True}, {"good": None}])
    project = add_runs(a_wish(trial), "t", rows).after
    assert from_text(to_text(project), tmp_path / "x") == project


def test_what_was_measured_once_is_held_against_what_is_computed():
    project = demo()
    mass = assess(project).measure("mass").value

    def told(value):
        limits = tuple(
            x.but(measured=value, measured_on="2026-11-20") if x.measure == "mass" else x for x in project.brief.limits
        )
        found = assess(project.but(brief=project.brief.but(limits=limits))).findings
        return [plain(f.what) for f in found if f.check == "disagrees" and f.detail == "measured"]

    assert told(mass * 1.05) == []
    over = tuple(x.but(measured=9.0, measured_by="Ada") if x.measure == "mass" else x for x in project.brief.limits)
    proof = next(
        p for p in proofs_of(assess(project.but(brief=project.brief.but(limits=over)))) if p.limit.measure == "mass"
    )
    assert (proof.how, plain(proof.said), proof.verdict, proof.by) == (
        "measured",
        "9 kg; 8.02 kg computed",
        "breaks",
        "Ada",
    )
    (what,) = told(mass * 1.2)
    assert what == "8.02 kg is computed, 9.62 kg was measured on 2026-11-20."


def test_the_demo_shows_what_is_hoped_and_what_is_shown():
    assessed = assess(demo())
    results = {r.trial.id: r for r in assessed.of(TRIALS)}
    assert plain(said_words(results["good-cores"])).startswith(
        "18 of 20 shows at least 72 %. To show 90 %: 41 more runs"
    )
    assert results["stops-at-a-bump"].verdict is Verdict.HOLDS
    assert sweep_of(results["bit-angle"].trial).best == pytest.approx(33.5, abs=1.0)
    assert [f.check for f in assessed.findings if f.subject == "trials"] == ["not-shown", "not-shown", "course-lost"]


@given(st.lists(st.booleans(), min_size=2, max_size=30), st.randoms())
@settings(max_examples=40, deadline=None)
def test_the_order_of_runs_changes_no_interval(marks, chance):
    def found(runs):
        r = result_of(Trial(id="t", name="T", wanted=0.7, runs=tuple(runs)), Wish(0.7))
        return r.ends, r.bound, r.verdict

    runs = [Run(good=m) for m in marks]
    mixed = list(runs)
    chance.shuffle(mixed)
    assert found(mixed) == found(runs)
