"""Measures that cost work: asked for by a limit or by somebody, judged like any other, said by name until then."""

import pytest

from builders import a_limit
from wired_union.app.actions import _of_project
from wired_union.catalogue.demo import demo
from wired_union.kernel.results import Verdict
from wired_union.subjects import assess, subjects

DEEP = {"brown-out", "hottest", "coldest", "energy-balance", "time-to-full", "chance-to-last"}


def test_every_one_is_explained_and_is_what_it_is_called():
    now = assess(demo())
    assert {i for s in subjects() for i in s.deep} == DEEP
    for subject in subjects():
        kinds = {k.kind: k for k in subject.explains}
        for name, ask in subject.deep.items():
            assert name in kinds
            assert kinds[name].about
            measure = ask(now)
            assert (measure.id, measure.unit, measure.direction) == (name, kinds[name].unit, kinds[name].direction)


def test_none_is_worked_out_before_it_is_asked_for_and_each_once():
    now = assess(demo())
    assert {k.kind for k in now.not_worked_out} == DEEP
    assert DEEP.isdisjoint(now.limited_measures)
    first = now.measure("brown-out")
    assert {k.kind for k in now.not_worked_out} == DEEP - {"brown-out"}
    assert now.measure("brown-out") is first
    assert now.all_measures.keys() >= DEEP
    assert now.not_worked_out == ()


@pytest.mark.parametrize("name", sorted(DEEP))
def test_a_limit_on_one_is_judged_on_the_strip_and_leads_to_its_picture(name):
    project = demo()
    limits = (*project.brief.limits, a_limit(name, 1e6, "at most" if name == "time-to-full" else "at least"))
    now = assess(project.but(brief=project.brief.but(limits=limits)))
    measure = next(m for m in now.measures if m.id == name)
    assert measure.limit == 1e6
    assert measure.verdict in {Verdict.BREAKS, Verdict.UNKNOWN}
    assert now.explainer(name).id == "power"
    assert now.kind_of(name).select(now, measure).span != "mission"


def test_whoever_looks_for_a_number_finds_them_by_name(monkeypatch):
    class Hands:
        views = None

        def __getattr__(self, _):
            return lambda *args: None

    class Store:
        project, assessment = demo(), assess(demo())

    texts = [e.text for e in _of_project(Hands(), Store())]
    assert any(t.startswith("brown-out: least voltage") for t in texts)
    assert {k.kind for k in Store.assessment.not_worked_out} == DEEP  # looking works nothing out
