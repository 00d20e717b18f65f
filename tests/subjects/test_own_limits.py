"""Limits that the team measures itself: kept with unit, day and name, and judged like any other."""

import pytest

import edits
from builders import a_load, a_pack, a_project
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.report.content import verdict_line
from wired_union.subjects import assess


def sorter():
    project = a_project(a_pack(), a_load(), feeds=(("pack", "load"),))
    project = edits.add_own_limit(project, "Pieces sorted in a minute").after
    return edits.set_limit(project, project.brief.limits[0].measure, value=20.0, unit="pieces", reserve=0.2).after


def test_an_own_limit_is_unknown_until_it_was_tried_and_then_judged(tmp_path):
    project = sorter()
    name = project.brief.limits[0].measure
    untried = assess(project).measure(name)
    assert (untried.verdict, untried.missing, untried.limit_shown) == ("unknown", ("not tried yet",), "20\u202fpieces")
    for value, verdict in ((15.0, "breaks"), (21.0, "tight"), (30.0, "holds")):
        tried = assess(edits.measure_limit(project, name, value, "2026-11-25").after)
        assert (tried.measure(name).verdict, tried.measure(name).value) == (verdict, value)
        assert tried.measures[0].measured == "measured 2026-11-25"
        assert verdict_line(tried).startswith(f"1 limit: 1 {verdict}")
    done = edits.measure_limit(project, name, 30.0, "2026-11-25").after
    done = edits.set_limit(done, name, measured_by="Ada").after
    assert assess(done).measure(name).measured == "measured 2026-11-25 by Ada"
    assert from_text(to_text(done), tmp_path / "x") == done
    back = edits.measure_limit(done, name, None, "2026-11-26").after
    assert assess(back).measure(name).verdict == "unknown"
    assert back.brief.limits[0].measured_on == ""
    again = edits.measure_limit(
        edits.set_limit(done, name, measured_on="2026-11-01").after, name, 25.0, "2026-11-26"
    ).after
    assert again.brief.limits[0].measured_on == "2026-11-01"  # the day that was typed stays


def test_what_the_program_computes_is_not_overruled_by_a_measured_figure(mudlark):
    project = edits.measure_limit(mudlark, "mass", 1.0, "2026-11-25").after
    assert assess(project).measure("mass").value == assess(mudlark).measure("mass").value
    pins = edits.measure_limit(mudlark, "pins", 21.0, "2026-11-25").after  # nothing computes this one
    assert assess(pins).measure("pins").verdict == "holds"
    assert "pins" not in assess(pins).uninformed


def test_names_of_own_limits_never_meet():
    project = sorter()
    twice = edits.add_own_limit(project, "Pieces sorted in a minute").after
    assert len({x.measure for x in twice.brief.limits}) == 2
    with pytest.raises(ProjectError):
        edits.add_own_limit(project, "  ")
