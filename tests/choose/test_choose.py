"""Alternatives worked out on the whole project, and what refuses a part."""

import pytest

import edits
from builders import Link, a_buck, a_limit, a_load, a_pack, a_part, a_project
from wired_union.catalogue.parts import of_kind, part
from wired_union.choose.alternatives import alternatives, changes_for, never_mended
from wired_union.choose.candidates import refusals_new, source_for
from wired_union.kernel.ripple import ripple
from wired_union.project.change import find_item
from wired_union.subjects import assess


def test_alternatives_are_the_rest_of_the_class_and_one_more(mudlark_assessed):
    titles = [title for title, _ in changes_for(mudlark_assessed, "battery")]
    assert titles[0] == "2 × Pack 4S 6 Ah LiFePO₄ in parallel"
    assert len(titles) == len(of_kind("pack"))  # all but itself, and the second one in parallel


def test_of_the_most_that_there_can_be_one_more_is_not_offered(mudlark):
    full = assess(edits.set_count(mudlark, "battery", 10_000).after)
    titles = [found.title for found in alternatives(full, "battery")]
    assert len(titles) == len(of_kind("pack")) - 1


def test_each_ripple_is_that_of_the_whole_project(mudlark_assessed):
    for found in list(alternatives(mudlark_assessed, "buck"))[:4]:
        fresh = assess(found.change.after)
        assert {m.id: m.after.value for m in found.ripple.moves} == {m.id: m.value for m in fresh.measures}


def test_what_helps_the_broken_limit_comes_first(mudlark_assessed):
    found = sorted(alternatives(mudlark_assessed, "battery"), key=lambda a: a.rank)
    assert found[0].title == "Pack 4S 8 Ah LiFePO₄"
    assert not found[0].breaks
    runtime = next(m for m in found[0].ripple.moves if m.id == "runtime")
    assert runtime.after.verdict == "holds"
    assert found[-1].breaks  # what breaks a hard requirement comes last


def test_whatever_an_alternative_newly_breaks_is_named(mudlark):
    """A motor that makes a control loop swing is no requirement of a part, and is said all the same."""
    loop = mudlark.concept.control_loops[0]
    quick = assess(edits.set_loop(mudlark, value_id=loop.id, control_gain=3 * loop.control_gain).after)
    slot = next(i.id for i in mudlark.concept.items if "Gearmotor" in i.part.name)
    known, swings = {f.id for f in quick.breaks_besides}, 0
    for found in alternatives(quick, slot):
        new = [f for f in assess(found.change.after).breaks_besides if f.id not in known]
        assert set(found.breaks) >= {f"{f.title}: {f.what}" for f in new}
        swings += any(f.check == "loop" for f in new)
    assert swings


def test_what_is_no_longer_known_is_told_with_an_edit(mudlark_assessed):
    task = mudlark_assessed.project.concept.tasks[0]
    made = ripple(mudlark_assessed, edits.set_task(mudlark_assessed.project, task.id, most_s=None))
    assert "more not known" in made.told
    assert "more not known" not in ripple(made.after, edits.set_task(made.after.project, task.id, most_s=0.001)).told


def test_a_hard_requirement_that_breaks_is_named(mudlark_assessed):
    found = {a.title: a for a in alternatives(mudlark_assessed, "controller")}
    assert any("GNSS receiver: logic level" in b for b in found["Controller 8-bit 5 V"].breaks)
    (why,) = found["Controller 32-bit low power"].breaks
    assert why.startswith("Signals that no pin is left for: 28 pins are wanted at least, of 26.")
    assert not any("no pin" in b for b in found["Controller 32-bit fast, float unit"].breaks)


def test_own_parts_of_the_class_are_alternatives_too():
    project = a_project(a_pack("first"), a_pack("second", capacity_ah=9.0))
    titles = [t for t, _ in changes_for(assess(project), "first")]
    assert "second" in titles


@pytest.fixture
def bench():
    project = a_project(
        a_pack(), a_buck(), a_part("brain", "microcontroller", link=Link(logic_v=3.3, logic_max_v=3.6)),
        feeds=(("pack", "buck"),), limits=(a_limit("mass", 1.0), a_limit("money", 100.0)),
    )  # fmt: skip
    return assess(project)


@pytest.mark.parametrize(
    ("given", "said"),
    [
        (part("imu-6-axis"), "needs 2.4 V to 3.6 V; the rails give 14.6 V, 5 V"),
        (part("inductive-proximity-4-mm-12-v"), "signals at 12 V; brain survives 3.6 V"),
        (part("gearmotor-25-mm-12-v-100-1"), "needs a driver that gives 6 V to 15 V; there is none"),
        (a_part("anvil", mass_kg=5.0), "5 kg is more than the 685 g left of the mass"),
        (a_part("gold", price=500.0), "£500 is more than the £85 left of the money"),
    ],
)
def test_refusals_carry_the_figure(bench, given, said):
    assert said in [r.replace("\u202f", " ") for r in refusals_new(bench, given)]


def test_what_fits_is_fed_from_what_suits(bench):
    probe = part("salinity-probe-with-interface")
    assert refusals_new(bench, probe) == []
    assert source_for(bench, probe) == "buck"
    assert source_for(bench, part("buck-3p3-v-2-a")) == "pack"
    assert source_for(bench, part("deck-plate-plywood-400-x-300-x-6")) is None


def test_motors_are_fed_from_a_driver(mudlark_assessed):
    source = source_for(mudlark_assessed, part("gearmotor-25-mm-12-v-75-1"))
    assert find_item(mudlark_assessed.project, source).part.driver is not None


def test_without_anything_to_feed_from_nothing_is_refused_for_its_supply():
    assessed = assess(a_project(a_part("deck")))
    assert refusals_new(assessed, a_load()) == []


def test_a_new_part_is_fed_and_counted(bench):
    source = source_for(bench, part("salinity-probe-with-interface"))
    change = edits.add_item(bench.project, "all", part("salinity-probe-with-interface"), source=source)
    after = assess(change.after, bench)
    assert after.measure("mass").value > bench.measure("mass").value
    assert change.after.concept.feeds[-1].source == "buck"


def test_what_no_choice_mends_is_named(mudlark):
    """A runtime that no motor reaches is said once, not on every card; a battery that reaches it takes it off."""
    found = list(alternatives(assess(mudlark), "imu"))
    assert never_mended(found) == ("Runtime",)
    assert never_mended(list(alternatives(assess(mudlark), "battery"))) == ()
    assert never_mended([]) == ()
