"""The trade-off against brute force, the decision's overturning weights against a grid."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

import edits
from builders import a_limit, a_pack, a_part, a_project
from wired_union.choose.alternatives import alternatives
from wired_union.choose.tradeoff import not_bettered, trade_off
from wired_union.kernel.concepts import assess_all
from wired_union.subjects import assess
from wired_union.subjects.concepts.weighing import total_at, weigh_up

FEW = st.integers(0, 6).map(float)


@given(st.lists(st.tuples(FEW, FEW), max_size=25))
def test_not_bettered_against_every_pair(points):
    def bettered(p):
        return any(q[0] <= p[0] and q[1] <= p[1] and q != p for q in points)

    assert not_bettered(points) == [not bettered(p) for p in points]


def test_points_are_the_whole_projects_measures(mudlark_assessed):
    tries = list(alternatives(mudlark_assessed, "battery"))
    points = trade_off(mudlark_assessed, tries, "mass", "runtime")
    assert points[0].alternative is None
    for p in points[1:]:
        fresh = assess(p.alternative.change.after)
        alone = [fresh.measure("mass").value, fresh.measure("runtime").value]
        assert [p.x.value, p.y.value] == pytest.approx(alone, rel=1e-12)
    fair = [p for p in points if not p.breaks]
    for p in fair:
        beaten = any(q.x.value <= p.x.value and q.y.value >= p.y.value and (q.x.value, q.y.value) != (p.x.value, p.y.value)
                     for q in fair)  # fmt: skip
        assert p.best == (not beaten)
    assert not any(p.best for p in points if p.breaks)


def a_decision(weights, scores):
    project = a_project(a_pack(), a_part("deck"), limits=(a_limit("mass", 50.0),))
    for name in range(1, len(scores)):
        project = edits.copy_concept(project, "a", f"n{name}").after
    for k, weight in enumerate(weights):
        project = edits.add_criterion(project, f"c{k}").after
        project = edits.set_criterion(project, f"c{k}", weight=float(weight)).after
        for concept, row in zip(project.concepts, scores, strict=True):
            project = edits.set_score(project, f"c{k}", concept.id, float(row[k])).after
    return project


@given(
    st.lists(st.integers(1, 9), min_size=2, max_size=4).flatmap(
        lambda w: st.tuples(
            st.just(w),
            st.lists(st.lists(st.integers(0, 10), min_size=len(w), max_size=len(w)), min_size=2, max_size=3),
        )
    )
)
def test_overturning_weights_against_a_grid(case):
    """Walking each weight from 0 to 1 in thousandths, another concept comes first exactly past the share told."""
    weights, scores = case
    project = a_decision(weights, scores)
    weighing = weigh_up(project, {})
    concepts = [s.concept for s in weighing.standings]
    totals = [s.total for s in weighing.standings]
    if len(totals) > 1 and abs(totals[0] - totals[1]) < 1e-9:
        return  # a tie has no first
    criteria = list(project.decision.criteria)
    for c in criteria:
        now = weighing.shares[c.id]

        def first(share, c=c):
            values = [total_at(criteria, weighing.shares, k.id, c.id, share) for k in concepts]
            return values[0] >= max(values) - 1e-9

        grid = [i / 1000 for i in range(1001)]
        above = next((s for s in grid if s > now and not first(s)), None)
        below = next((s for s in reversed(grid) if s < now and not first(s)), None)
        told = {o.share_then >= now: o.share_then for o in weighing.overturns if o.criterion.id == c.id}
        for side, seen in ((True, above), (False, below)):
            if seen is not None:
                assert side in told
                assert abs(told[side] - seen) <= 0.0011
        for side, share in told.items():
            seen = above if side else below
            assert seen is not None or share in (0.0, 1.0) or abs(share - (1.0 if side else 0.0)) < 0.0011


def test_totals_by_hand():
    """Additive value model: 0.6·8 + 0.4·3 = 6 and 0.6·5 + 0.4·9 = 6.6."""
    weighing = weigh_up(a_decision((6, 4), ((8, 3), (5, 9))), {})
    assert [(s.concept.id, pytest.approx(s.total)) for s in weighing.standings] == [("b", 6.6), ("a", 6.0)]
    nearest = weighing.overturns[0]
    assert nearest.share_then == pytest.approx(2 / 3)  # 8w + 3(1 − w) = 5w + 9(1 − w) at w = 2/3
    assert nearest.first_then.id == "a"


def test_a_must_have_is_met_from_five_of_ten():
    """Half of the scale is yes: common practice of the table that the program asks for."""
    project = edits.add_criterion(a_decision([1], [[8], [6]]), "Floats", must_have=True).after
    must = project.decision.criteria[-1].id
    for value, out in ((5, False), (4, True)):
        scored = edits.set_score(project, must, "a", value).after
        standing = next(s for s in weigh_up(scored, {}).standings if s.concept.id == "a")
        assert bool(standing.knocked_out) is out


def test_must_haves_and_broken_limits_knock_out_and_are_not_scored(mudlark):
    weighing = weigh_up(mudlark, assess_all(assess(mudlark), {}))
    by_id = {s.concept.id: s for s in weighing.standings}
    assert set(by_id) == {"a", "b"}  # the retired one takes no part
    assert by_id["a"].total > by_id["b"].total
    assert weighing.standings[0].concept.id == "b"  # A breaks the runtime
    assert by_id["a"].knocked_out[0].startswith("Runtime breaks")
    banned = edits.set_score(mudlark, "fits-the-club-s-van", "b", 0.0).after
    out = weigh_up(banned, assess_all(assess(banned), {}))
    assert all(s.knocked_out for s in out.standings)
    assert out.first is None
    assert "fits-the-club-s-van" not in out.shares


def test_a_missing_score_is_said_and_leaves_no_total():
    project = edits.set_score(a_decision((1, 1), ((5, 5), (6, 6))), "c1", "b", None).after
    weighing = weigh_up(project, {})
    lacking = next(s for s in weighing.standings if s.concept.id == "b")
    assert (lacking.total, lacking.missing) == (None, ("c1",))
    assert weighing.overturns == ()
