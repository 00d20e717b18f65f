"""Several concepts under one brief: each assessed once, compared in words, with what is safe to order meanwhile."""

import edits
from builders import a_limit, a_pack, a_part, a_project
from wired_union.kernel.concepts import as_at_work, assess_all
from wired_union.subjects import assess
from wired_union.subjects.concepts.compare import common_parts, compare_concepts, open_questions
from wired_union.subjects.mass.gives import MASS
from wired_union.subjects.power.gives import POWER


def two_concepts():
    project = a_project(a_pack(), a_part("deck"), a_part("post"), limits=(a_limit("mass", 5.0),))
    return edits.copy_concept(project, "a", "other").after


def test_each_concept_is_assessed_and_used_again(mudlark):
    found = assess_all(assess(mudlark), {})
    assert {c: a.project.concept.id for c, a in found.items()} == {"a": "a", "b": "b", "c": "c"}
    edited = edits.set_part_value(mudlark, "probe", "mass_kg", 0.2).after
    again = assess_all(found["a"].again(edited), found)
    assert again["b"].of(POWER) is found["b"].of(POWER)  # the other concepts' inputs are the same objects
    assert again["a"].of(MASS) is not found["a"].of(MASS)
    assert again["a"].of(POWER) is not found["a"].of(POWER)
    assert again["a"].measure("mass").value > found["a"].measure("mass").value
    assert as_at_work(mudlark, mudlark.concept.id) is mudlark


def test_what_differs_is_said_by_subsystem_feed_and_mode():
    project = two_concepts()
    project = edits.swap_part(project, "pack", a_pack("big", capacity_ah=9.0)).after
    project = edits.set_count(project, "deck", 3).after
    project = edits.remove_item(project, "post").after
    project = edits.add_item(project, "all", a_part("fin")).after
    project = edits.set_use(project, "work", "deck", "sleep").after
    project = edits.set_phase_duration(project, 0, 60.0).after
    a, b = project.concepts
    said = {words.replace("\u202f", " ") for _, words in compare_concepts(project, a, b)}
    assert said == {"big instead of pack", "deck: 3 instead of 1", "post left out", "fin added", "deck is sleep in Work",
                    "60 s instead of 1 h"}  # fmt: skip
    assert compare_concepts(project, a, a) == []
    back = {words.replace("\u202f", " ") for _, words in compare_concepts(project, b, a)}
    assert "pack instead of big" in back
    assert "post added" in back


def test_feeds_and_chains_that_differ_are_named(mudlark):
    other = edits.copy_concept(mudlark, "a", "fed otherwise").after
    other = edits.feed_from(other, "probe", "bus").after
    other = edits.set_wire(other, "gearmotor", 1.0, 18).after
    other = edits.set_stage(other, "bump-to-stop", 0, most_s=0.02).after
    said = [f"{room}: {words}" for room, words in compare_concepts(other, other.concepts[0], other.concept)]
    assert "Feeds: Salinity probe from Fused bus 15 A instead of Buck 5 V 3 A" in said
    assert "Concept: cable Driver to motors: awg 18 instead of 20" in said
    assert any(s.startswith("Signals: Bump to stop") for s in said)


def test_parts_that_every_living_concept_uses_can_be_ordered():
    project = two_concepts()
    project = edits.set_count(project, "deck", 3).after
    project = edits.remove_item(project, "post").after
    project = edits.switch_concept(project, "a").after
    common = common_parts(project)
    assert [(i.id, n) for i, n in common.parts] == [("pack", 1), ("deck", 1)]  # one deck is in both, the post in one
    assert (common.of, common.cost) == (3, 10.0)
    alone = common_parts(edits.retire_concept(project, "b", "no").after)
    assert len(alone.parts) == 3


def test_open_questions_come_riskiest_first_and_what_nobody_judged_before_all(mudlark):
    found = [(c.letter, q.question) for c, q in open_questions(mudlark)]
    assert found == [("A", "Does the corer jam on shells?"), ("B", "Does the plate plough in soft mud?"),
                     ("A", "Do wet wheels slip on the bank?")]  # fmt: skip
    retired = edits.retire_concept(mudlark, "b", "no").after
    assert [c.letter for c, _ in open_questions(retired)] == ["A", "A"]
    answered = edits.set_question(mudlark, "a", "does-the-corer-jam-on-shells", answer="no").after
    assert len(open_questions(answered)) == 2


def test_switching_is_a_ripple_like_any_edit(mudlark):
    from wired_union.kernel.ripple import ripple

    result = ripple(assess(mudlark), edits.switch_concept(mudlark, "b"))
    runtime = next(m for m in result.moves if m.id == "runtime")
    assert (runtime.before.verdict, runtime.after.verdict) == ("breaks", "tight")
