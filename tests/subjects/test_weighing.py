"""Weighings, what to weigh first, and the schools of margins."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

import edits
from builders import a_part, a_project, an_item
from wired_union.choose.combination import Favour, as_sums, ask
from wired_union.physics.growth import ALLOWANCES
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.subjects import assess
from wired_union.subjects.brief.edits import set_mass_rule
from wired_union.subjects.mass.assess import MASS

PARTS = (
    ("frame", 2.0, "estimate", 1),
    ("motor", 0.2, "guess", 4),
    ("pack", 1.1, "datasheet", 1),
    ("probe", 0.3, "measured", 1),
)


def project(*parts):
    rows = parts or PARTS
    return a_project(*(an_item(a_part(n, mass_kg=kg), knowledge=k, count=c) for n, kg, k, c in rows))


def total(project):
    return assess(project).of(MASS).total_kg


def test_what_narrows_the_total_most_is_weighed_first():
    """0.1 of 2 kg, 0.2 of 4 × 0.2 kg, 0.05 of 1.1 kg by hand; what is measured is not asked for."""
    lines = assess(project()).of(MASS).to_weigh()
    assert [(x.item.id, x.allowance_kg) for x in lines] == [
        ("frame", pytest.approx(0.2)), ("motor", pytest.approx(0.16)), ("pack", pytest.approx(0.055))
    ]  # fmt: skip


def test_a_weighing_is_kept_and_makes_its_part_measured():
    change = edits.weigh(project(), "motor", 0.86, 4, "28.11.2026", " kitchen scale ", 0.001)
    motor = next(i for i in change.after.concept.items if i.id == "motor")
    assert (motor.part.mass_kg, motor.knowledge) == (pytest.approx(0.215), "measured")
    (entry,) = change.after.concept.weighings
    assert (entry.item, entry.mass_kg, entry.copies, entry.on, entry.scale) == (
        "motor",
        0.86,
        4,
        "2026-11-28",
        "kitchen scale",
    )
    assert change.sentence.replace("\u202f", " ") == "motor weighs 215 g, 4 together 860 g, measured"
    assert from_text(to_text(change.after), "x") == change.after
    again = edits.weigh(change.after, "motor", 0.2).after
    assert [w.id for w in again.concept.weighings] == ["motor-weighed", "motor-weighed-2"]
    assert edits.drop_weighing(again, "motor-weighed").after.concept.weighings == again.concept.weighings[1:]
    swapped = edits.swap_part(again, "motor", a_part("other", mass_kg=0.3)).after
    assert swapped.concept.weighings == ()
    assert edits.remove_item(again, "motor").after.concept.weighings == ()


@pytest.mark.parametrize(
    ("figures", "said"),
    [((0.2, 5), "4 × motor; 5 cannot"), ((0.2, 1, "soon"), "no day"), ((0.2, 1, "", "", -1.0), "step")],
)
def test_what_cannot_lie_on_a_scale_is_refused(figures, said):
    with pytest.raises(ProjectError, match=said):
        edits.weigh(project(), "motor", *figures)
    with pytest.raises(ProjectError, match="not on the list"):
        edits.drop_weighing(project(), "nothing")


def test_the_schools_of_margins_by_hand():
    """GUM 5.1.2 for the root of squares (from memory): √(0.2² + 0.16² + 0.055²); one share of all is 0.2 of 4.2 kg."""
    plain, known = project(), 2.0 + 0.8 + 1.1 + 0.3
    assert total(plain) == pytest.approx(known + 0.2 + 0.16 + 0.055)
    squares = set_mass_rule(plain, "margin_school", "root of squares").after
    assert total(squares) == pytest.approx(known + math.sqrt(0.2**2 + 0.16**2 + 0.055**2))
    fixed = set_mass_rule(plain, "margin_school", "fixed share").after
    assert total(fixed) == pytest.approx(1.2 * known)
    assert total(set_mass_rule(fixed, "fixed_allowance", 0.1).after) == pytest.approx(1.1 * known)
    small = set_mass_rule(plain, "small_things", 0.05).after
    assert total(small) == pytest.approx(total(plain) + 0.05 * known)
    with_margin = edits.set_mass_margin(small, 0.1).after
    assert total(with_margin) == pytest.approx(1.1 * total(small))
    with pytest.raises(ProjectError, match="margin school"):
        set_mass_rule(plain, "margin_school", "by feeling")


@given(
    st.lists(
        st.tuples(st.floats(0.001, 5), st.sampled_from(sorted(ALLOWANCES)), st.integers(1, 9)), min_size=1, max_size=9
    )
)
def test_a_root_of_squares_lies_between_the_largest_and_the_sum(rows):
    plain = project(*((f"p{n}", kg, k, c) for n, (kg, k, c) in enumerate(rows)))
    each = [kg * c * ALLOWANCES[k] for kg, k, c in rows]
    found = assess(set_mass_rule(plain, "margin_school", "root of squares").after).of(MASS).allowance_kg
    assert max(each) - 1e-12 <= found <= sum(each) + 1e-12
    assert found <= assess(plain).of(MASS).allowance_kg + 1e-12


@pytest.mark.parametrize("school", ["by knowledge", "fixed share", "root of squares"])
def test_best_mix_adds_up_what_the_assessment_has_or_more(mudlark, school):
    given = set_mass_rule(set_mass_rule(mudlark, "margin_school", school).after, "small_things", 0.07).after
    assessed = assess(given)
    question = ask(assessed, ["battery"], Favour(mass=1.0))
    (choice,) = question.choices
    now = next(o for o in choice.options if o.now)
    assert question.base_kg + now.mass_kg == pytest.approx(as_sums(assessed).measure("mass").value)
    assert question.base_kg + now.mass_kg >= assessed.measure("mass").value - 1e-12
    for option in choice.options[:4]:
        swapped = (
            edits.swap_part(as_sums(assessed).project, "battery", option.item.part).after if not option.now else None
        )
        if swapped is not None:
            assert question.base_kg + option.mass_kg == pytest.approx(assess(swapped).measure("mass").value)
