"""The air of the brief: every part must stand it, every converter gets rid of its heat in it, cold cells take no charge."""

import pytest

import edits
from builders import a_buck, a_limit, a_load, a_pack, a_part, a_project
from wired_union.project.errors import ProjectError
from wired_union.subjects import assess


def findings(project):
    return {f.id: f for f in assess(project).findings}


def with_air(project, coldest_c, hottest_c):
    return edits.set_air(edits.set_air(project, "coldest_c", coldest_c).after, "hottest_c", hottest_c).after


def test_a_part_that_the_air_is_too_hot_or_too_cold_for_breaks_hard():
    probe = a_part("probe", temperature_min_c=0.0, temperature_max_c=40.0)
    project = a_project(probe)
    assert "climate:probe" not in findings(with_air(project, 0.0, 40.0))
    hot, cold = findings(with_air(project, 0.0, 41.0)), findings(with_air(project, -1.0, 40.0))
    assert hot["climate:probe"].what == "It works up to 40\u202f°C; the air reaches 41\u202f°C."
    assert cold["climate:probe"].what == "It works from 0\u202f°C; the air falls to −1\u202f°C."
    assert hot["climate:probe"].breaks_hard
    with pytest.raises(ProjectError, match=r"The coldest air is warmer than the warmest\."):
        edits.set_air(project, "coldest_c", 30.0)


def test_an_electrical_part_that_does_not_say_is_unknown_beyond_usual_air():
    """0 to 40 °C is what all bear (common practice); a plate of metal is not asked."""
    project = a_project(a_load("lamp", 0.1), a_part("plate"))
    assert "climate:lamp" not in findings(with_air(project, 0.0, 40.0))
    hot, cold = findings(with_air(project, 0.0, 41.0)), findings(with_air(project, -1.0, 40.0))
    assert hot["climate:lamp"].what == "Not known yet: the hottest air it works in; here it reaches 41\u202f°C."
    assert cold["climate:lamp"].what == "Not known yet: the coldest air it works in; here it falls to −1\u202f°C."
    assert hot["climate:lamp"].is_gap
    assert "climate:plate" not in hot


def test_cold_lithium_cells_are_not_to_be_charged():
    """Common practice: no charge below 0 °C."""
    assert "cold-charge:pack" in findings(with_air(a_project(a_pack()), -0.5, 25.0))
    assert "cold-charge:pack" not in findings(with_air(a_project(a_pack()), 0.0, 25.0))
    assert "cold-charge:pack" not in findings(with_air(a_project(a_pack(chemistry="nimh")), -5.0, 25.0))


def test_a_converter_is_as_hot_as_its_loss_makes_it_in_the_warmest_air():
    """10 W at 90 % lose 1.11 W; 60 K/W add 66.7 °C to the air; 125 °C is the limit of silicon (common practice)."""
    buck = a_buck(efficiency_curve=((0.1, 0.9), (3.0, 0.9)), thermal_resistance_k_per_w=60.0)
    project = a_project(a_pack(), buck, a_load("load", 2.0, rated_v=5.0), feeds=(("pack", "buck"), ("buck", "load")))
    cool, warm, hot = (findings(with_air(project, 10.0, c)).get("heat:buck") for c in (25.0, 45.0, 60.0))
    assert cool is None
    assert warm.verdict == "tight"
    assert hot.verdict == "breaks"
    assert hot.use == pytest.approx((10 / 0.9 - 10) * 60.0 / (125 - 60))
    assert "brings it to 127\u202f°C in air of 60\u202f°C" in hot.what


def test_below_freezing_a_pack_is_known_only_by_figures_of_the_cold():
    """The same lamp and pack: at 0 °C its figures count, at −10 °C those of a room say nothing of it."""
    project = a_project(
        a_pack(), a_load("lamp", 0.5), feeds=(("pack", "lamp"),), limits=(a_limit("runtime", 3600.0, "at least"),)
    )
    assert assess(with_air(project, 0.0, 25.0)).measure("runtime").verdict == "holds"
    frozen = with_air(project, -10.0, 25.0)
    runtime = assess(frozen).measure("runtime")
    assert (runtime.verdict, runtime.missing) == ("unknown", ("pack: its capacity and resistance at −10\u202f°C",))
    assert findings(frozen)["pack:pack"].verdict == "unknown"
    for measured, said in ((-5.0, "unknown"), (-10.0, "holds"), (-20.0, "holds")):
        told = edits.set_part_value(frozen, "pack", "pack.measured_at_c", measured).after
        assert assess(told).measure("runtime").verdict == said
    flat = edits.set_part_value(frozen, "pack", "pack.cell_capacity_ah", 0.05).after
    assert assess(flat).measure("runtime").verdict == "breaks"  # even with what a room's figures promise
