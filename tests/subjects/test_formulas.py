"""The team's own formulas: units against pint, numbers against Python, what is not known, and nothing that is run."""

import ast
import math
from pathlib import Path

import pint
import pytest
from hypothesis import given
from hypothesis import strategies as st

import edits
from builders import a_limit, a_load, a_pack, a_project
from wired_union.kernel.expression import FormulaError, Symbol, names_in, worked
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import ripple
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.subjects import assess

KNOWN = {
    "arm": Symbol(0.35, "m"), "spring": Symbol(0.08, "m"), "piece": Symbol(0.045, "m"), "price": Symbol(10.0, "£"),
    "rows": Symbol(12.0, "rows"), "motor.mass_kg": Symbol(0.2, "kg"), "lost": Symbol(None, "m", ("its length",)),
    "turn": Symbol(90.0, "°"), "pull": Symbol(1.5, "N·m"),
}  # fmt: skip


def find(name: str) -> Symbol:
    if name not in KNOWN:
        raise FormulaError(f"There is no “{name}” here.")
    return KNOWN[name]


def gives(text: str, unit: str = "") -> tuple[float | None, str]:
    found = worked(text, find, unit)
    return found.value, found.unit


def test_the_examples_of_a_spreadsheet():
    assert gives("floor((arm − spring) / piece)") == (6.0, "")
    assert gives("arm × rows") == (pytest.approx(4.2), "m")
    assert gives("price × 1.4") == (pytest.approx(14.0), "£")
    assert gives("£12.50 * rows") == (150.0, "£")
    assert gives("arm * 3", "mm") == (pytest.approx(1.05), "m")


UREG = pint.UnitRegistry(cache_folder=None)
UNITS = {"m": "meter", "kg": "kilogram", "s": "second", "A": "ampere", "V": "volt", "Wh": "watt_hour", "N": "newton",
         "Ω": "ohm", "Pa": "pascal", "h": "hour"}  # fmt: skip


@given(st.sampled_from(sorted(UNITS)), st.sampled_from(sorted(UNITS)), st.sampled_from("*/+-"),
       st.floats(0.01, 1e4), st.floats(0.01, 1e4))  # fmt: skip
def test_two_amounts_give_what_pint_gives_or_are_refused_where_it_refuses(one, other, sign, x, y):
    names = {"x": Symbol(x, one), "y": Symbol(y, other)}
    a, b = x * UREG(UNITS[one]), y * UREG(UNITS[other])
    try:
        wanted = {"*": lambda: a * b, "/": lambda: a / b, "+": lambda: a + b, "-": lambda: a - b}[sign]()
    except pint.DimensionalityError:
        with pytest.raises(FormulaError, match=r"cannot be (added|taken from each other)"):
            worked(f"x {sign} y", names.__getitem__)
        return
    found = worked(f"x {sign} y", names.__getitem__)
    if found.unit in UNITS or not found.unit:
        back = found.value * UREG(UNITS.get(found.unit, "dimensionless"))
        assert back.to_base_units().magnitude == pytest.approx(wanted.to_base_units().magnitude, rel=1e-9, abs=1e-12)
        assert back.dimensionality == wanted.dimensionality


@given(st.recursive(st.floats(0.1, 9).map(lambda x: f"{x:.3f}"),
                    lambda inner: st.tuples(inner, st.sampled_from("+-*/"), inner).map(lambda t: f"({t[0]} {t[1]} {t[2]})"),
                    max_leaves=12))  # fmt: skip
def test_plain_numbers_give_what_python_gives(text):
    try:
        wanted = eval(compile(ast.parse(text, mode="eval"), "", "eval"))  # a text made above, of numbers alone
    except ZeroDivisionError:
        wanted = None
    found = worked(text, find)
    assert found.value == (pytest.approx(wanted) if wanted is not None else None)


def test_a_hair_from_a_whole_number_is_whole():
    """0.7 / 0.1 is 6.999… in floats."""
    assert 0.7 / 0.1 < 7
    assert gives("floor(0.7 m / (100 mm))") == (7.0, "")
    assert gives("ceil(0.3 m / (100 mm))") == (3.0, "")
    assert gives("floor(5.99)") == (5.0, "")


def test_angles_are_angles():
    assert gives("arm * sin(30°)") == (pytest.approx(0.175), "m")
    assert gives("cos(turn)")[0] == pytest.approx(0.0, abs=1e-12)
    assert gives("sqrt(arm^2 + spring²)") == (pytest.approx(math.hypot(0.35, 0.08)), "m")


@pytest.mark.parametrize(("text", "why"), [
    ("arm + price", "m and £ cannot be added."),
    ("floor(arm)", "floor needs a plain number, not m: divide first, as in floor(x / (1 m))."),
    ("sin(arm)", "sin needs an angle, such as 30°, not m."),
    ("max(arm, rows)", "m and a plain number cannot be compared."),
    ("arm ^ price", "What stands after ^ is a plain number, not in £."),
    ("2 ^ 2 ^ 9", "Powers go up to 8."),
    ("nothing * 2", "There is no “nothing” here."),
    ("(arm", "“(arm” cannot be read as an expression: check its brackets and signs."),
    ("", "Write an expression, such as floor((arm - spring) / piece)."),
    ("arm if rows else 2", "Only numbers, names, + − × ÷ ^, brackets and functions can stand in an expression."),
    ("'text'", "Only numbers can stand in an expression, no texts."),
    ("exec(1)", "There is no function “exec”. There are floor, ceil, round, min, max, abs, sqrt, sin, cos, tan."),
    ("(1).__class__", "A figure of a part is written as motor.mass_kg."),
    ("[x for x in (1,)]", "Only numbers, names, + − × ÷ ^, brackets and functions can stand in an expression."),
    ("floor()", "floor needs something in its brackets."),
    ("9" * 301, "Keep it under 300 characters; a part of it can be a formula of its own."),
])  # fmt: skip
def test_what_makes_no_sense_is_refused_with_what_would(text, why):
    with pytest.raises(FormulaError) as caught:
        worked(text, find)
    assert str(caught.value) == why


@pytest.mark.parametrize(
    "text", ["(" * 290, "-" * 290 + "1", "1" + "+1" * 149, "((((" * 70, "\x00", "a" * 300, "1e400", "£", "12 °C ^ 2"]
)
def test_nothing_that_is_typed_is_an_exception(text):
    try:
        worked(text, find)
    except FormulaError:
        return


def test_the_unit_it_is_wanted_in_must_fit():
    with pytest.raises(FormulaError, match="It gives m, not kg"):
        gives("arm", "kg")
    with pytest.raises(FormulaError, match=r"It gives m; “pieces” counts things"):
        gives("arm", "pieces")
    assert gives("floor(arm / piece)", "pieces") == (7.0, "pieces")
    assert gives("pull", "N·m") == (1.5, "N·m")


def test_unknown_stays_unknown():
    found = worked("arm + lost", find)
    assert found.value is None
    assert found.missing == ("its length",)
    assert worked("arm / (rows - 12)", find).value is None
    assert worked("sqrt(0 - 1)", find).missing == ("what cannot be worked out from these numbers",)


def test_the_numbers_are_said():
    assert (
        worked("floor((arm − spring) / piece)", find).numbers.replace("\u202f", " ")
        == "floor((350 mm − 80 mm) ÷ 45 mm)"
    )
    assert names_in("floor((arm − spring) / piece) * motor.mass_kg") == ("motor.mass_kg", "piece", "arm", "spring")


# in a project


def a_sampler(*more: str):
    project = a_project(a_pack(mass_kg=0.8), a_load(mass_kg=0.2), feeds=(("pack", "load"),))
    for text in ("track = 1.2 km", "spacing = 25 m"):
        project = edits.add_knob(project, text).after
    for text in ("samples = floor(track / spacing)", *more):
        project = edits.add_formula(project, text).after
    return project


def test_a_formula_is_a_measure_that_can_be_limited():
    project = a_sampler()
    project = edits.add_limit(project, a_limit("formula:samples", 50.0, "at least")).after
    measure = assess(project).measure("formula:samples")
    assert (measure.value, measure.verdict) == (48.0, Verdict.BREAKS)
    closer = edits.set_knob(project, "spacing", value=20.0)
    assert ripple(assess(project), closer).after.measure("formula:samples").value == 60.0


def test_a_formula_follows_parts_and_measures_and_other_formulas():
    project = a_sampler("a gram a sample = mass / samples", "both = load.mass_kg + pack.mass_kg", "twice = 2 * both")
    found = assess(project)
    assert found.measure("formula:a-gram-a-sample").value == pytest.approx(found.measure("mass").value / 48)
    assert found.measure("formula:twice").value == pytest.approx(2.0)
    heavier = edits.set_part_value(project, "load", "mass_kg", 0.7).after
    assert assess(heavier).measure("formula:twice").value == pytest.approx(3.0)


def test_what_a_formula_rests_on_is_missing_there_too():
    project = edits.set_part_value(a_sampler("both = load.mass_kg * 2"), "load", "mass_kg", None).after
    project = edits.add_limit(project, a_limit("formula:both", 1.0)).after
    measure = assess(project).measure("formula:both")
    assert measure.verdict is Verdict.UNKNOWN
    assert measure.missing == ("load: its mass",)


@pytest.mark.parametrize(("text", "why"), [
    ("odd = mass + spacing", "kg and m cannot be added."),
    ("odd = 2 * gone", "There is no “gone” here: no knob, no formula, no measure and no part is called so."),
    ("odd = odd + 1", "odd goes round in a circle: it rests on itself."),
    ("odd = load.weight", "“load.weight”: a figure of load is written as load.mass_kg."),
])  # fmt: skip
def test_a_formula_that_cannot_be_worked_out_says_why(text, why):
    found = assess(a_sampler(text))
    assert next(f for f in found.findings if f.id == "formula:odd").what == why
    assert found.measure("formula:odd").verdict is Verdict.UNKNOWN
    assert found.measure("formula:odd").value is None


def test_a_circle_of_two_is_found():
    project = a_sampler("one = 2 * spacing", "two = one + spacing")
    project = edits.set_formula(project, "one", text="two - spacing").after
    assert all(assess(project).measure(f"formula:{n}").value is None for n in ("one", "two"))


def test_edits_say_what_would_be_right():
    project = a_sampler("two = 2 * samples")
    for edit, arguments, why in (
        (edits.add_knob, ("nothing",), "Write a name and a number"), (edits.add_knob, ("x = red",), "red"),
        (edits.add_formula, ("nothing",), "Write a name and an expression"), (edits.add_formula, ("x = (",), "check its brackets"),
        (edits.remove_formula, ("samples",), "two rests on samples"),
    ):  # fmt: skip
        with pytest.raises(ProjectError, match=why):
            edit(project, *arguments)
    with pytest.raises(ProjectError, match="begin below"):
        edits.set_knob(project, "spacing", least=99.0)


def test_a_formula_goes_with_its_limit_and_comes_back_from_a_file():
    project = edits.add_limit(a_sampler("two = 2 * samples"), a_limit("formula:two", 5.0)).after
    assert from_text(to_text(project), Path("x")) == project
    without = edits.remove_formula(project, "two").after
    assert not without.brief.limits
    assert [f.id for f in without.brief.formulas] == ["samples"]


@pytest.mark.parametrize(("text", "value", "unit"), [
    ("arm length = 350 mm", 0.35, "m"), ("tubes = 6 tubes", 6.0, "tubes"), ("share = 15 %", 0.15, ""), ("cost = £3.20", 3.2, "£"),
    ("pull = 12 kg·cm", 12 * 9.80665 / 100, "N·m"), ("rows = 4", 4.0, ""),
])  # fmt: skip
def test_a_knob_reads_its_unit(text, value, unit):
    knob = edits.add_knob(a_project(a_pack()), text).after.concept.knobs[0]
    assert (knob.value, knob.unit) == (pytest.approx(value), unit)
    assert edits.read_amount(f"7 {unit}", unit) == pytest.approx(7.0)
