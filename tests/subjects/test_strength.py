"""Everything that must bear, in whole projects: by hand, by handbook values, with remedies that mend."""

import math

import pytest

import edits
from builders import a_part, a_project, an_item
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered
from wired_union.physics.materials import BOLTS_PA, GRADES, THREADS_M2
from wired_union.project.errors import ProjectError
from wired_union.project.strength_model import TEST_KINDS
from wired_union.subjects import assess
from wired_union.subjects.strength import edits as strength
from wired_union.subjects.strength.assess import STRENGTH

G = 9.80665
LOAD = an_item(a_part("load", mass_kg=2.0), knowledge="measured", count=2)


def with_test(kind, *items, **figures):
    return strength.add_test(a_project(*(items or (LOAD,))), kind, "It", **figures).after


def of(project):
    return assess(project).of(STRENGTH)[0]


def check(project, name):
    return next(c for c in of(project).checks if c.id == name)


def mended(project, name):
    """Every remedy on offer, each with the check that it leaves."""
    assessed = assess(project)
    finding = next(f for f in assessed.findings if f.check == "strength" and f.detail == name)
    assert finding.verdict is Verdict.BREAKS
    return [(remedy.label, check(remedy.change.after, name).use) for remedy, _ in offered(assessed, finding)]


def test_a_square_plate_on_its_edges_by_the_handbook():
    """Timoshenko's table for a square plate on its edges, ν = 0.3: 0.00406·q·a⁴/D and 0.0479·q·a² (from memory)."""
    project = with_test("plate", length_m=0.3, width_m=0.3, thick_m=0.01, material="aluminium", load_kg=20.0)
    grade = GRADES["aluminium"]
    q = (20.0 + 0.09 * 0.01 * grade.density_kg_m3) * G / 0.09
    stiff = grade.modulus_pa * 0.01**3 / (12 * (1 - 0.09))
    sag = with_sag = strength.set_test(project, value_id="it", most_sag_m=0.001).after
    assert check(sag, "sag").needed == pytest.approx(0.00406 * q * 0.3**4 / stiff, rel=3e-3)
    stress = 6 * 0.0479 * q * 0.09 / 0.01**2
    assert check(with_sag, "strength").needed == pytest.approx(stress * 2 * 2, rel=3e-3)


def test_what_lies_on_a_plate_counts_with_its_allowance_and_is_named_where_unknown():
    project = with_test("plate", an_item(a_part("box", mass_kg=1.0), knowledge="guess"), thick_m=0.01)
    laid = strength.lay_on(project, "it", "box", on=True).after
    assert check(laid, "strength").use > check(project, "strength").use
    same = strength.set_test(project, value_id="it", load_kg=1.2).after
    assert check(laid, "strength").use == pytest.approx(check(same, "strength").use)
    unknown = edits.set_part_value(laid, "box", "mass_kg", None).after
    assert (of(unknown).verdict, of(unknown).missing) == (Verdict.UNKNOWN, ("box: its mass",))
    assert strength.lay_on(laid, "it", "box", on=False).after.concept.borne == project.concept.borne
    assert edits.remove_item(laid, "box").after.concept.borne[0].carries == ()
    thin = strength.set_test(laid, value_id="it", thick_m=0.001, material="printed PLA across layers").after
    assert "half its thickness" in " ".join(of(thin).missing) or of(thin).verdict is Verdict.BREAKS


def test_a_plate_made_of_something_else_weighs_something_else():
    sheet = an_item(a_part("sheet", mass_kg=0.5, price=8.0))
    project = with_test("plate", sheet, item="sheet", material="aluminium", load_kg=60.0, thick_m=0.002)
    ways = mended(project, "strength")
    assert ways
    assert all(use <= 1 for _, use in ways)
    other = strength.remade(project, "it", "steel").after
    item = next(i for i in other.concept.items if i.id == "sheet")
    assert item.part.mass_kg == pytest.approx(0.5 * 7850 / 2700)
    assert item.knowledge == "estimate"


def test_bolts_in_shear_and_pull_by_hand():
    """Four M4 8.8 on 40 mm, 200 N at 50 mm: 50 + 200·50/(4·20) = 175 N on the worst; with 40 N pull each by von Mises."""
    project = with_test(
        "bolts", bolts=4, circle_m=0.04, thread="M4", grade="8.8", force_n=200.0, arm_m=0.05, pull_n=160.0
    )
    stress = math.hypot(40.0, math.sqrt(3) * 175.0) / 8.78e-6
    assert check(project, "strength").use == pytest.approx(stress * 2 / 640e6)
    weak = strength.set_test(project, value_id="it", thread="M2", grade="nylon").after
    assert all(use <= 1 for _, use in mended(weak, "strength"))
    one = strength.set_test(project, value_id="it", bolts=1).after
    assert "one bolt holds no force beside it" in of(one).missing[0]


@pytest.mark.parametrize(("thread", "outer", "pitch"), [("M3", 3, 0.5), ("M4", 4, 0.7), ("M5", 5, 0.8), ("M6", 6, 1.0),
                                                        ("M8", 8, 1.25), ("M10", 10, 1.5), ("M12", 12, 1.75)])  # fmt: skip
def test_stress_areas_are_those_of_coarse_threads(thread, outer, pitch):
    """ISO 898-1: π/4·(d − 0.9382·p)² with the coarse pitches of ISO 261 (from memory)."""
    assert THREADS_M2[thread] * 1e6 == pytest.approx(math.pi / 4 * (outer - 0.9382 * pitch) ** 2, rel=5e-3)
    assert BOLTS_PA["8.8"] == 8 * 0.8 * 100e6


def test_a_tether_catches_by_energy():
    """m·g·(h + x) = ½·k·x² solved for x: what it stretches, and so the force."""
    project = with_test("tether", item="load", drop_m=0.5, strength_n=2000.0, stretch=0.1, length_m=0.5)
    k, mass = 2000.0 / 0.05, 4.0
    x = (mass * G + math.sqrt((mass * G) ** 2 + 2 * k * mass * G * 0.5)) / k
    assert check(project, "strength").needed == pytest.approx(5 * k * x)
    assert "local rules" in of(project).caution
    assert all(use <= 1 for _, use in mended(project, "strength"))
    nothing = edits.set_part_value(project, "load", "mass_kg", None).after
    assert of(nothing).verdict is Verdict.UNKNOWN


def test_sizes_in_a_row_by_hand():
    project = with_test("tolerances", gap_m=0.0005)
    assert of(project).verdict is Verdict.UNKNOWN
    for name, off in (("lid", 0.0002), ("board", 0.0001), ("spacers", 0.0003)):
        project = strength.set_deviation(project, "it", name, off).after
    assert check(project, "gap").use == pytest.approx(0.6 / 0.5)
    squares = strength.set_test(project, value_id="it", by="root of squares").after
    assert check(squares, "gap").use == pytest.approx(math.sqrt(0.04 + 0.01 + 0.09) / 0.5)
    assert all(use <= 1 for _, use in mended(project, "gap"))
    less = strength.set_deviation(project, "it", "spacers", None).after
    assert [d.name for d in less.concept.borne[0].sizes] == ["lid", "board"]
    for wrong in ((" ", 0.1), ("lid", -1.0)):
        with pytest.raises(ProjectError):
            strength.set_deviation(project, "it", *wrong)


def test_a_printed_hole_that_is_drawn_as_large_as_its_shaft_does_not_slide():
    """0.2 mm smaller and 0.17 mm off, against 0.3 mm wanted and 0.2 mm to either side."""
    project = with_test("pair", hole_m=0.008, shaft_m=0.008, wanted="sliding")
    assert check(project, "clearance").use == pytest.approx((0.3 + 0.2 + 0.17) / 0.2)
    does = mended(project, "clearance")
    assert next(label for label, _ in does).startswith("draw the hole 8.5")
    assert all(use <= 1 for _, use in does)
    pressed = strength.set_test(project, value_id="it", wanted="press", hole_made="milled or turned").after
    assert check(pressed, "clearance").use == pytest.approx((0.05 + 0.05) / 0.1)  # -0.05 to 0.05 of -0.15 to 0.05


def test_growth_between_the_ends_of_the_brief_by_hand():
    """300 mm of aluminium on plywood, put together at 20 °C: (23 − 8)·10⁻⁶·0.3·25 K up, 40 K down."""
    project = with_test("growth", length_m=0.3, material="aluminium", against="plywood", most_m=0.0002, across_m=0.1,
                        most_deg=0.05)  # fmt: skip
    project = edits.set_air(edits.set_air(project, "hottest_c", 45.0).after, "coldest_c", -20.0).after
    shift = 15e-6 * 0.3 * 40
    assert check(project, "shift").needed == pytest.approx(shift)
    assert check(project, "turn").needed == pytest.approx(math.degrees(math.atan(shift / 0.1)))
    assert all(use <= 1 for _, use in mended(project, "turn"))
    unsaid = with_test("growth")
    assert of(unsaid).verdict is Verdict.UNKNOWN


def test_a_drop_on_springs_by_energy_and_its_room():
    project = with_test("drop", item="load", drop_m=0.2, stiffness_n_per_m=8000.0, most_g=20.0, room_m=0.02)
    mg = 2.0 * G
    times = 1 + math.sqrt(1 + 2 * 0.2 * 8000.0 / mg)
    assert check(project, "shock").needed == pytest.approx(times)
    assert check(project, "room").needed == pytest.approx(times * mg / 8000.0)
    stiff = strength.set_test(project, value_id="it", stiffness_n_per_m=80_000.0).after
    assert all(use <= 1 for _, use in mended(stiff, "shock"))
    guessed = edits.set_knowledge(project, "load", "guess").after
    assert check(guessed, "shock").needed == pytest.approx(times)  # it may weigh no more than is known
    assert check(guessed, "room").needed > check(project, "room").needed


def test_two_lift_what_one_does_not_and_rules_come_first():
    heavy = an_item(a_part("engine", mass_kg=30.0), knowledge="measured")
    project = with_test("lift", heavy)
    assert check(project, "lifting").use == pytest.approx(30 / 23)
    assert ("2 persons", pytest.approx(15 / 23)) in mended(project, "lifting")
    assert any(
        "local rules" in c.text for s in assess(project).subjects if s.cautions for c in s.cautions(project.concept)
    )


@pytest.mark.parametrize("kind", TEST_KINDS)
def test_every_kind_is_added_changed_said_and_taken_away(kind):
    project = with_test(kind)
    result = of(project)
    assert result.checks or result.missing
    measure = assess(project).measure("strength:it")
    assert measure.value == result.use
    assert strength.remove_test(project, value_id="it").after.concept.borne == ()
    with pytest.raises(ProjectError, match="no kind"):
        strength.add_test(project, "abracadabra", "It")
