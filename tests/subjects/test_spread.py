"""Thousands of missions against one by one, against closed forms, and what ifs that keep nothing."""

import math
from statistics import NormalDist

import msgspec
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import edits
from builders import a_bank, a_buck, a_limit, a_load, a_pack, a_part, a_project, plain, texts
from wired_union.kernel.results import Verdict
from wired_union.picture.shapes import Kit
from wired_union.project.model import Phase
from wired_union.subjects import assess
from wired_union.subjects.bench import edits as bench
from wired_union.subjects.power.node import ODDS, POWER
from wired_union.subjects.power.spread import told
from wired_union.subjects.power.spread.draw import drawn
from wired_union.subjects.power.spread.odds import chance_to_last
from wired_union.subjects.power.spread.picture import advice, said_of, spread_picture
from wired_union.subjects.power.spread.told import figure, quantile, told_of_missions
from wired_union.subjects.power.spread.unknowns import SPREAD, unknowns_of
from wired_union.subjects.power.spread.whatif import WhatIf, what_if
from wired_union.units import show


def one_load(knowledge="estimate", hours=1.0, repeats=10, wanted_s=None, **pack):
    """A load of constant current on a pack without resistance to speak of: runtime = capacity / current."""
    limits = () if wanted_s is None else (a_limit("runtime", wanted_s, "at least"),)
    project = a_project(a_pack(resistance_ohm=0.0, **pack), a_load(amperes=1.0), feeds=(("pack", "load"),), hours=hours,
                        repeats=repeats, limits=limits)  # fmt: skip
    return edits.set_knowledge(project, "load", knowledge).after


def all_of(project, count=10_000):
    return list(assess(project).of(ODDS).lots(count))[-1]


def shares_of(some):
    return told.shares_of(some.unknowns, some.normal, some.runtime_s)


def rows_of(project, some):
    return {r.typical.kind: r for r in told_of_missions(some, assess(project).of(ODDS), project.brief)}


def test_of_capacity_over_current_the_spread_is_the_closed_form():
    """Logarithms of products add: sd of ln(runtime) = √(σ_current² + σ_capacity²), median where nothing spreads."""
    some = all_of(one_load())
    sd = math.hypot(SPREAD["current"]["estimate"], SPREAD["capacity"]["datasheet"])
    logs = np.log(some.runtime_s)
    assert np.median(some.runtime_s) == pytest.approx(assess(one_load()).measure("runtime").value, rel=0.01)
    assert logs.std() == pytest.approx(sd, rel=0.02)
    shares = {u.called: s for u, s in shares_of(some)}
    assert shares["load: current"] == pytest.approx(SPREAD["current"]["estimate"] ** 2 / sd**2, abs=0.03)
    for wanted_h in (4.0, 5.0, 6.0):
        exact = 1 - NormalDist(math.log(float(np.median(some.runtime_s))), sd).cdf(math.log(wanted_h * 3600))
        assert (some.runtime_s >= wanted_h * 3600).mean() == pytest.approx(exact, abs=0.015)


def a_whole(*, wire_m=0.5):
    """A pack, a converter, loads of every law, two modes, wires."""
    project = a_project(
        a_pack(resistance_ohm=0.05), a_buck(), a_load("lamp", 0.5, draw="resistance"), a_load("board", 0.4, draw="power"),
        a_load("chip", 0.3, rated_v=5.0), feeds=(("pack", "lamp"), ("pack", "board"), ("pack", "buck"), ("buck", "chip")),
        hours=0.7, repeats=3)  # fmt: skip
    project = edits.set_wire(project, "board", wire_m, 22).after
    project = edits.add_mode(project, "Rest").after
    mission = project.concept.mission
    phases = (*mission.phases[:1], Phase(mode="rest", duration_s=900.0))
    return project.but(concepts=(project.concept.but(mission=mission.but(phases=phases)),))


def test_each_mission_is_what_the_project_with_its_figures_comes_to():
    """Currents and capacity set one by one in the project itself, and assessed as a whole."""
    project = a_whole()
    result = assess(project).of(POWER)
    knowledge = {i.id: "estimate" for i in project.concept.items}
    some = list(drawn(result, knowledge, 12))[-1]
    for row, runtime in zip(some.normal, some.runtime_s, strict=True):
        factor = {(u.item, u.what): math.exp(z * u.spread) for u, z in zip(some.unknowns, row, strict=True)}
        own = project
        for item in ("lamp", "board", "chip"):
            load = next(i for i in own.concept.items if i.id == item).part.load
            more = factor[item, "current"]
            for field in ("active_a", "peak_a"):
                own = edits.set_part_value(own, item, f"load.{field}", getattr(load, field) * more).after
        curve = next(i for i in own.concept.items if i.id == "buck").part.regulator.efficiency_curve
        lossy = tuple((a, 1 / (1 + (1 / e - 1) * factor["buck", "loss"])) for a, e in curve)
        own = edits.set_part_value(own, "buck", "regulator.efficiency_curve", lossy).after
        for path, what in (("pack.cell_capacity_ah", "capacity"), ("pack.cell_resistance_ohm", "resistance")):
            was = {"pack.cell_capacity_ah": 6.0, "pack.cell_resistance_ohm": 0.05}[path]
            own = edits.set_part_value(own, "pack", path, was * factor["pack", what]).after
        assert runtime == pytest.approx(assess(own).measure("runtime").value, rel=5e-3)


def test_a_thousand_cycles_run_on_their_mean():
    some = all_of(one_load(hours=0.001, repeats=100), 500)
    stepped = all_of(one_load(hours=1.0), 500)
    assert np.median(some.runtime_s) == pytest.approx(np.median(stepped.runtime_s), rel=0.01)


def test_what_was_measured_spreads_less_and_something_else_matters_then():
    loose, known = all_of(one_load("guess")), all_of(one_load("measured"))
    assert known.runtime_s.std() < 0.4 * loose.runtime_s.std()
    assert "load: current" in advice(shares_of(loose))
    assert "pack: capacity" in advice(shares_of(known))
    measured = edits.set_knowledge(one_load("measured"), "pack", "measured").after
    assert advice(shares_of(all_of(measured))) == "All that matters is measured."


def test_the_chance_is_a_measure_and_unknown_while_something_under_it_is():
    limit = a_limit("chance-to-last", 0.9, "at least")
    project = one_load(wanted_s=4 * 3600.0)
    project = project.but(brief=project.brief.but(limits=(*project.brief.limits, limit)))
    now = assess(project)
    measure = now.measure("chance-to-last")
    some = all_of(project)
    assert measure.value == pytest.approx((some.runtime_s >= 4 * 3600.0).mean(), abs=0.02)
    assert measure.verdict is Verdict.BREAKS
    gone = assess(edits.set_part_value(project, "pack", "pack.cell_capacity_ah", None).after).measure("chance-to-last")
    assert gone.verdict is Verdict.UNKNOWN
    assert chance_to_last(assess(a_project(a_part("x"))).of(ODDS)).value is None


def test_said_in_words_apart_and_alike_every_time():
    one, other = all_of(one_load(), 1000), all_of(one_load(), 1000)
    assert (one.runtime_s == other.runtime_s).all()
    assert "of 1,000 missions last the" in said_of(one, 4 * 3600.0)
    lasts = rows_of(one_load(), one)["runtime"]
    for word in ("typical", "95 of 100 stay above", "the worst"):
        assert word in lasts.said
    assert [m.value for m in lasts.each] == [quantile(one.runtime_s, q) for q in (0.5, 0.05, 0.0)]


@settings(max_examples=20, deadline=None)
@given(st.floats(0.3, 3.0), st.floats(0.0, 0.2), st.sampled_from(["estimate", "guess"]))
def test_lots_cover_the_same_whatever_their_number(amperes, ohm, knowledge):
    project = edits.set_part_value(one_load(knowledge), "load", "load.active_a", amperes).after
    project = edits.set_part_value(project, "pack", "pack.cell_resistance_ohm", ohm).after
    lots = list(assess(project).of(ODDS).lots(2000))
    assert [len(x.runtime_s) for x in lots] == [1000, 2000]
    assert np.median(lots[0].runtime_s) == pytest.approx(np.median(lots[1].runtime_s), rel=0.05)


def test_unknowns_are_of_what_feeds_or_is_fed_alone():
    project = a_project(a_pack(), a_load(), a_load("loose"), feeds=(("pack", "load"),))
    found = unknowns_of(assess(project).of(POWER), {"pack": "guess"})
    assert {(u.item, u.what) for u in found} == {("pack", "capacity"), ("pack", "resistance"), ("load", "current")}


def test_what_ifs_lead_where_the_same_edits_do():
    project = one_load()
    now = assess(project).measure("runtime").value
    aged = assess(what_if(project, WhatIf(aged=0.2)).after)
    assert aged.measure("runtime").value == pytest.approx(0.8 * now, rel=1e-3)
    weak = assess(what_if(project, WhatIf(weak_cell=0.3)).after)
    assert weak.measure("runtime").value == pytest.approx(0.7 * now, rel=1e-3)  # one of four in series ends all
    side = assess(what_if(one_load(parallel=2), WhatIf(weak_cell=0.3)).after)
    assert side.measure("runtime").value == pytest.approx(0.85 * 2 * now, rel=1e-3)
    longer = what_if(project, WhatIf(longer=0.5)).after
    assert longer.concept.mission.duration_s == pytest.approx(1.5 * project.concept.mission.duration_s)
    cold = what_if(project, WhatIf(warmer_k=-30.0)).after
    assert assess(cold).measure("runtime").verdict is Verdict.UNKNOWN
    heavy = assess(what_if(project, WhatIf(payload_kg=1.5)).after)
    assert heavy.measure("mass").value == pytest.approx(assess(project).measure("mass").value + 1.5)
    assert what_if(project, WhatIf()).after is project


def test_a_power_bank_spreads_by_its_load_its_cells_and_what_its_converter_loses():
    """Cells of no resistance and level voltage: runtime = C·V·η/(5 V·I), so the logarithms add; 1/η − 1 of what is
    given is lost, a tenth of what the cells give at 90 %.
    """
    part = a_bank()
    bank = part.but(pack=part.pack.but(cell_resistance_ohm=0.0))
    project = a_project(bank, a_load(rated_v=5.0, amperes=0.5), feeds=(("bank", "load"),), hours=1.0, repeats=40)
    now = assess(project)
    some = all_of(project)
    assert np.median(some.runtime_s) == pytest.approx(now.measure("runtime").value, rel=0.01)
    known = {u.what: u.spread for u in some.unknowns}
    exact = math.sqrt(known["current"] ** 2 + known["capacity"] ** 2 + (0.1 * known["loss"]) ** 2)
    assert np.log(some.runtime_s).std() == pytest.approx(exact, rel=0.04)
    assert chance_to_last(now.of(ODDS)).missing == ()


def test_missions_that_do_not_end_are_told_and_never_make_a_figure_of_nothing():
    """Half of them end: the lower of two, never half the way from one to endless."""
    some = all_of(one_load(wanted_s=3600.0), 1000)
    runs = np.sort(some.runtime_s)
    runs[400:] = np.inf
    half = msgspec.structs.replace(some, runtime_s=runs)
    said = plain(rows_of(one_load(wanted_s=3600.0), half)["runtime"].said)
    assert "nan" not in said
    assert "typical no end" in said
    assert f"95 of 100 stay above {plain(show(float(runs[49]), 's'))}" in said
    drawn_texts = [plain(t) for t in texts(spread_picture(half, 3600.0, Kit(), 700.0))]
    assert "60 % do not end" in drawn_texts
    assert any("typical without end" in t for t in drawn_texts)


def test_a_reading_that_was_taken_narrows_it_and_several_say_by_how_much():
    """Of one load on one pack: sd of ln(runtime) = √(σ_current² + σ_capacity²); 0.95, 1.00 and 1.05 A: 5 % (stdev)."""
    loose = one_load("guess")
    read = bench.add_reading(loose, "load", "load.active_a", 1.0).after
    assert (
        np.log(all_of(bench.add_reading(loose, "load", "load.active_a", 1.3).after).runtime_s).std() > 0.3
    )  # not taken

    def sd(project):
        return float(np.log(all_of(project).runtime_s).std())

    capacity = SPREAD["capacity"]["datasheet"]
    assert sd(loose) == pytest.approx(math.hypot(SPREAD["current"]["guess"], capacity), rel=0.03)
    assert sd(read) == pytest.approx(math.hypot(SPREAD["current"]["measured"], capacity), rel=0.03)
    several = loose
    for amperes in (0.95, 1.05, 1.0):
        several = bench.add_reading(several, "load", "load.active_a", amperes).after
    assert sd(several) == pytest.approx(math.hypot(0.05, capacity), rel=0.03)
    cells = bench.take_as_measured(bench.add_reading(read, "pack", "pack.cell_capacity_ah", 5.7).after, "pack",
                                   "pack.cell_capacity_ah").after  # fmt: skip
    assert sd(cells) == pytest.approx(
        math.hypot(SPREAD["current"]["measured"], SPREAD["capacity"]["measured"]), rel=0.03
    )
    shares = shares_of(all_of(loose))
    assert "load: current" in advice(shares)
    assert "pack: capacity" in advice(shares_of(all_of(read)))


def test_peak_and_lowest_voltage_are_told_typical_of_95_of_100_and_at_worst():
    """A load of constant current: ln(peak) spreads as its current; the sag is I·R, whose logarithms add."""
    pack = a_pack(resistance_ohm=0.05)
    project = a_project(pack, a_load(amperes=2.0), feeds=(("pack", "load"),), hours=1.0, repeats=10)
    project = edits.set_knowledge(project, "load", "estimate").after
    now, some = assess(project), all_of(project)
    current, ohm = SPREAD["current"]["estimate"], SPREAD["resistance"]["datasheet"]
    assert np.median(some.peak_a) == pytest.approx(now.measure("peak-current").value, rel=0.01)
    assert np.log(some.peak_a).std() == pytest.approx(current, rel=0.03)
    assert np.median(some.low_v) == pytest.approx(now.measure("lowest-voltage").value, rel=1e-3)
    sag = now.of(POWER).packs[0].figures.open_circuit_at(0.15) - some.low_v
    assert np.log(sag).std() == pytest.approx(math.hypot(current, ohm), rel=0.03)
    exact = 2.0 * math.exp(NormalDist().inv_cdf(0.95) * current)
    rows = rows_of(project, some)
    assert rows["peak-current"].sure.value == pytest.approx(exact, rel=0.01)
    assert rows["peak-current"].worst.value == some.peak_a.max()
    assert [m.value for m in rows["lowest-voltage"].each] == [quantile(some.low_v, q) for q in (0.5, 0.05, 0.0)]
    weak = a_project(a_pack(resistance_ohm=0.6), a_load(amperes=1.4, draw="power", rated_v=12.0),
                     feeds=(("pack", "load"),), hours=1.0, repeats=10)  # fmt: skip
    hard = all_of(edits.set_knowledge(weak, "load", "guess").after)
    assert np.isinf(hard.peak_a).any()
    assert hard.low_v.min() == 0.0
    rows = rows_of(weak, hard)
    assert figure(rows["peak-current"].worst) == "too much"
    assert "nan" not in rows["lowest-voltage"].said


def test_of_a_power_bank_no_worst_instant_is_told():
    project = a_project(a_bank(), a_load(rated_v=5.0, amperes=0.5), feeds=(("bank", "load"),), hours=1.0, repeats=4)
    assert list(rows_of(project, all_of(project, 1000))) == ["runtime"]
