"""What a search says of itself, in words; and what a kilogram more costs in current, against the real assessment."""

import numpy as np
import pytest
from msgspec.structs import replace

import edits
from builders import plain
from wired_union import units
from wired_union.choose import explain
from wired_union.choose.combination import Favour, ask
from wired_union.choose.search import Progress, search
from wired_union.project.errors import ProjectError
from wired_union.subjects import assess
from wired_union.subjects.mass.gives import MASS
from wired_union.subjects.motion.usual import usual_currents
from wired_union.subjects.power.bounds.draws import amperes_per_kg, own_tables
from wired_union.subjects.power.bounds.power_bound import bound_power
from wired_union.subjects.power.currents import currents_of


@pytest.fixture
def found(mudlark):
    """A question to which what stands today is a fair answer, but not the best."""
    easier = edits.set_limit(mudlark, "runtime", value=9_000.0).after
    easier = edits.stagger(easier, "drive", True).after
    question = ask(assess(easier), ("battery", "gearmotor"), Favour(mass=1))
    *_, last = search(question)
    return question, last


# in words


@pytest.mark.parametrize(
    ("favour", "said"),
    [
        (Favour(runtime=1), "longest runtime"),
        (Favour(mass=1), "least mass"),
        (Favour(money=3), "least money"),
        (Favour(runtime=2, mass=1), "runtime × 2, mass × 1"),
    ],
)
def test_what_is_favoured(mudlark_assessed, favour, said):
    assert explain.favour_words(ask(mudlark_assessed, ("battery",), favour)) == said


def test_a_proof_says_its_gap_and_how_much_was_looked_at(found):
    question, last = found
    said = plain(explain.proof(question, last))
    assert said.startswith("Proven best (gap 0): nothing that holds scores better, of ")
    assert f"{question.combinations} combinations; {last.solved} programs solved, {last.assessed} combinations" in said


def test_a_search_under_way_does_not_claim_a_proof(found):
    question, last = found
    score = last.found[0].score
    under_way = replace(last, bound=score * 0.98, done=False)
    assert not under_way.proven
    said = plain(explain.proof(question, under_way))
    assert said.startswith("Not proven yet: something up to 2 % better may be among what is left")
    nothing = Progress((), 0.5, 3, 4, 2)
    assert plain(explain.proof(question, nothing)).startswith("Nothing that holds yet, of ")
    assert nothing.gap == float("inf")


def test_none_that_holds_is_said_as_a_proof(mudlark):
    project = edits.set_limit(mudlark, "mass", value=2.0).after
    question = ask(assess(project), ("battery", "gearmotor"), Favour(mass=1))
    *_, last = search(question)
    assert last.found == ()
    assert last.proven
    said = explain.proof(question, last)
    assert said.startswith("Proven: none of ")
    assert "None of them holds every limit. Mass cannot hold: the least of all is " in said
    lightest = min(
        (
            question.try_out((i, j))
            for i in range(len(question.choices[0].options))
            for j in range(len(question.choices[1].options))
        ),
        key=lambda t: t.assessment.measure("mass").value,
    )  # every combination, by hand
    assert units.show(lightest.assessment.measure("mass").value, "kg") in said


def test_what_no_choice_mends_is_named(mudlark):
    """A chain that no part of the two places touches breaks in every combination that is assessed."""
    project = edits.set_limit(mudlark, "chain:bump-to-stop", value=0.001).after
    question = ask(assess(project), ("battery", "gearmotor"), Favour(mass=1))
    *_, last = search(question)
    assert last.found == ()
    assert explain.proof(question, last).endswith("In every combination that was assessed, Bump to stop broke.")


def test_why_the_teams_favourite_is_not_the_best(found):
    question, last = found
    favourite = question.try_out(question.favourite)
    assert favourite.holds
    best = last.found[0]
    beaten = replace(last, found=(best,))
    said = plain(explain.favourite_words(question, beaten, favourite))
    less = favourite.assessment.measure("mass").value - best.assessment.measure("mass").value
    assert said.startswith("What stands today holds, but is beaten: ")
    assert f"−{less * 1000:.3g} g with the best" in said
    dearest = max(  # the swap that saves most on its own
        explain.swaps(question, best), key=lambda s: favourite.assessment.measure("mass").value
        - assess(edits.swap_part(question.project, s.slot_id, next(
            o.item.part for c in question.choices if c.slot.id == s.slot_id for o in c.options
            if o.item.part.name == s.part)).after).measure("mass").value,
    )  # fmt: skip
    assert said.endswith(f"Most of it is {dearest.part} as {dearest.slot}.")


def test_the_favourite_among_the_best_has_its_place(found):
    question, last = found
    assert explain.favourite_words(question, last, last.found[0]) == "What stands today is the best."
    assert explain.favourite_words(question, last, last.found[2]) == "What stands today is number 3."


def test_a_favourite_that_breaks_is_said_to(mudlark):
    project = edits.set_limit(mudlark, "runtime", value=25_000.0).after
    question = ask(assess(project), ("battery",), Favour(mass=1))
    favourite = question.try_out(question.favourite)
    said = plain(explain.favourite_words(question, Progress((), 0.0, 1, 1, 0), favourite))
    assert said.startswith("What stands today does not hold: Runtime ")
    assert "at least 6.94 h" in said


def test_swaps_name_what_stood_there_and_its_effect(found):
    question, last = found
    best = last.found[0]
    swaps = explain.swaps(question, best)
    names = {i.id: i.part.name for i in question.project.concept.items}
    assert swaps
    assert all(s.was == names[s.slot_id] != s.part for s in swaps)
    assert explain.swaps(question, question.try_out(question.favourite)) == ()
    moved = {m.id for m in explain.effect(question, best).moved}
    assert "mass" in moved
    assert explain.figure(question, best) == best.assessment.measure("mass").shown


def test_a_question_that_cannot_be_put_says_why(mudlark_assessed):
    with pytest.raises(ProjectError, match="at least one place"):
        ask(mudlark_assessed, (), Favour(mass=1))
    with pytest.raises(ProjectError, match="moon"):
        ask(mudlark_assessed, ("moon",), Favour(mass=1))


# what a kilogram more costs


def test_a_kilogram_more_costs_what_the_assessment_says(mudlark_assessed):
    question = ask(mudlark_assessed, ("battery", "box"), Favour(mass=1))
    ((motor, per_kg),) = amperes_per_kg(question)
    assert motor.id == "gearmotor"
    concept = question.project.concept
    least = question.least_kg

    def mean(mass_kg: float) -> np.ndarray:
        found = currents_of(concept, dict(usual_currents(concept, mass_kg)))
        return found.of(found.average, "gearmotor")

    assert per_kg == pytest.approx(mean(least + 1.0) - mean(least), rel=1e-9)
    assert per_kg.max() > 0


def test_nothing_that_drives_costs_nothing(mudlark_assessed):
    project = edits.remove_load(mudlark_assessed.project, "drive").after
    assert amperes_per_kg(ask(assess(project), ("battery", "box"), Favour(mass=1))) == []
    alone = ask(mudlark_assessed, ("imu",), Favour(mass=1))
    same = replace(alone, choices=(replace(alone.choices[0], options=alone.choices[0].options[:1]),))
    assert amperes_per_kg(same) == []  # every combination weighs the same


def test_the_bound_of_heavier_options_stays_under_what_they_really_draw(mudlark_assessed):
    """Charge of every mode, with the weight of each option in it, is at most what the whole project draws."""
    question = ask(mudlark_assessed, ("battery", "box", "gearmotor"), Favour(mass=1))
    bound = bound_power(question)
    tables = [own_tables(question, k) for k in range(3)]
    assert [len(t) for t in tables] == [len(c.options) for c in question.choices]
    for place in range(min(len(c.options) for c in question.choices)):
        places = (place,) * 3
        concept = question.project_with(places).concept
        tried = question.try_out(places).assessment
        mass = tried.of(MASS).total_kg
        rows = currents_of(concept, dict(usual_currents(concept, mass))).average
        least = bound.average.rest[0] + sum(kinds[0][p] for kinds, p in zip(bound.average.slots, places, strict=True))
        real = rows.sum(axis=0)
        assert (least <= real + 1e-9).all()


def test_the_bound_of_a_start_stays_under_that_on_the_lowest_pack(mudlark):
    """Motors start at V/R: with packs of many voltages to choose from, the bound is that of the lowest."""
    project = edits.set_part_value(mudlark, "gearmotor", "load.rated_v", 4.0).after
    question = ask(assess(project), ("battery",), Favour(mass=1))
    motor = bound_power(question).reach.fixed[True]["gearmotor"]
    seen = set()
    for place in range(len(question.choices[0].options)):
        concept = question.project_with((place,)).concept
        found = currents_of(concept, dict(usual_currents(concept, question.least_kg)))
        real = found.of(found.starting, "gearmotor")
        assert (motor <= real + 1e-9).all()
        seen.add(round(float(real.max()), 3))
    assert len(seen) > 1
    assert motor.max() == pytest.approx(min(seen), abs=1e-3)
