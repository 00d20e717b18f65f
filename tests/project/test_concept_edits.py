"""Concepts, what is weighed, what a test decides, and slots: edits that say what they did, and refuse in words."""

import pytest

import edits
from builders import a_limit, a_pack, a_part, a_project
from wired_union.project.concept_edits import next_letter
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.project.model import Project, Stock
from wired_union.project.slot_edits import requirement_words
from wired_union.subjects import assess


@pytest.fixture
def project() -> Project:
    return a_project(a_pack(), a_part("deck", mass_kg=2.0), feeds=(("pack", "deck"),), limits=(a_limit("mass", 5.0),))


def test_a_copy_gets_the_next_letter_and_is_worked_on(project):
    change = edits.copy_concept(project, "a", "  light one ", "2026-11-24")
    assert change.sentence == "copy A as concept B light one"
    copy = change.after.concept
    assert (copy.id, copy.name, copy.copied_from, copy.copied_on) == ("b", "light one", "a", "2026-11-24")
    assert change.after.concepts[0] is project.concepts[0]
    lighter = edits.set_part_value(change.after, "deck", "mass_kg", 0.5).after
    assert lighter.concepts[0].items[1].part.mass_kg == 2.0
    assert assess(lighter).measure("mass").value < assess(project).measure("mass").value
    assert edits.switch_concept(lighter, "a").after.concept is project.concepts[0]


def asked(project: Project) -> tuple[Project, str]:
    project = edits.add_question(project, "Does it jam?").after
    return project, project.concept.questions[0].id


def test_an_answered_question_stays_with_its_day_and_figures(project):
    project, question = asked(project)
    done = edits.answer_question(project, "a", question, " It does not ", "2026-11-27").after
    done = edits.set_question(done, "a", question, figures="10 of 10").after
    found = done.concept.questions[0]
    assert (found.answer, found.answered_on, found.figures) == ("It does not", "2026-11-27", "10 of 10")
    later = edits.answer_question(done, "a", question, "It did once", "2026-12-01").after.concept.questions[0]
    assert later.answered_on == "2026-11-27"  # the day of the test, which stands there already
    opened = edits.answer_question(done, "a", question, "", "2026-12-01").after.concept.questions[0]
    assert (opened.answer, opened.answered_on) == ("", "")


@pytest.mark.parametrize(("typed", "kept"), [
    ("2026-11-28", "2026-11-28"), (" 28.11.2026 ", "2026-11-28"), ("28/11/2026", "2026-11-28"), ("11.11.2026", "2026-11-11"), ("", ""),
])  # fmt: skip
def test_a_day_is_kept_as_a_day(project, typed, kept):
    project, question = asked(project)
    assert edits.set_question(project, "a", question, date=typed).after.concept.questions[0].date == kept


@pytest.mark.parametrize("typed", ["next week", "2026-13-01", "31.02.2026", "05/06/2026", "2026"])
def test_what_is_no_day_or_could_be_two_is_refused(project, typed):
    project, question = asked(project)
    with pytest.raises(ProjectError, match="Write it as 2026-11-28"):
        edits.set_question(project, "a", question, date=typed)
    project = edits.add_own_limit(project, "cores").after
    with pytest.raises(ProjectError, match="Write it as 2026-11-28"):
        edits.set_limit(project, project.brief.limits[-1].measure, measured_on=typed)


def test_letters_run_on_past_z(project):
    for _ in range(25):
        project = edits.copy_concept(project, "a", "more").after
    assert project.concepts[-1].id == "z"
    assert next_letter(project) == "aa"


def test_a_pending_edit_becomes_a_concept_of_its_own(project):
    change = edits.set_count(project, "pack", 2)
    tried = edits.try_as_concept(change, "two packs", "2026-11-24")
    assert tried.sentence == "try A as concept B two packs: pack: 1 becomes 2"
    assert [c.items[0].count for c in tried.after.concepts] == [1, 2]
    assert tried.after.concept.id == "b"
    with pytest.raises(ProjectError, match="share the brief"):
        edits.try_as_concept(edits.set_limit(project, "mass", value=9.0), "more")


def test_retiring_needs_a_reason_and_leaves_one_alive(project):
    two = edits.copy_concept(project, "a", "other").after
    with pytest.raises(ProjectError, match="Say why"):
        edits.retire_concept(two, "b", "  ")
    change = edits.retire_concept(two, "b", "tips over", "2026-11-24")
    assert change.sentence == "retire B other: tips over"
    assert change.after.concept.id == "a"  # the one at work was retired: another takes its place
    assert [c.id for c in change.after.living] == ["a"]
    with pytest.raises(ProjectError, match="last concept alive"):
        edits.retire_concept(change.after, "a", "enough")
    back = edits.revive_concept(change.after, "b")
    assert back.after.concepts[1].retired is None
    assert back.sentence == "bring B other back"


def test_a_file_of_several_concepts_reads_back(project, tmp_path):
    two = edits.retire_concept(edits.copy_concept(project, "a", "other").after, "b", "no").after
    assert from_text(to_text(two), tmp_path / "x") == two
    broken = to_text(two).replace('"id": "b"', '"id": "a"')
    with pytest.raises(ProjectError, match="two concepts share the id"):
        from_text(broken, tmp_path / "x")
    lost = to_text(two).replace('"at_work": "a"', '"at_work": "q"')
    with pytest.raises(ProjectError, match="does not exist"):
        from_text(lost, tmp_path / "x")


def test_questions_are_asked_judged_and_answered(project):
    asked = edits.add_question(project, "Does it float?").after
    set_up = edits.set_question(asked, "a", "does-it-float", chance_of_no=0.4, days_lost=5.0).after
    assert set_up.concept.questions[0].risk_days == pytest.approx(2.0)
    with pytest.raises(ProjectError, match="from 0 to 100 %"):
        edits.set_question(asked, "a", "does-it-float", chance_of_no=1.5)
    answered = edits.set_question(set_up, "a", "does-it-float", answer="yes")
    assert answered.sentence == "answer “Does it float?”"
    assert edits.remove_question(asked, "a", "does-it-float").after.concept.questions == ()


def test_criteria_and_scores(project):
    made = edits.add_criterion(project, "Easy to clean").after
    scored = edits.set_score(made, "easy-to-clean", "a", 7.0, by="build group", why="one plate").after
    score = scored.decision.criteria[0].score("a")
    assert (score.value, score.by, score.why) == (7.0, "build group", "one plate")
    again = edits.set_score(scored, "easy-to-clean", "a", 8.0).after.decision.criteria[0].score("a")
    assert (again.value, again.by) == (8.0, "build group")
    assert edits.set_score(scored, "easy-to-clean", "a", None).after.decision.criteria[0].scores == ()
    for value in (-1, 11):
        with pytest.raises(ProjectError, match="from 0 to 10"):
            edits.set_score(made, "easy-to-clean", "a", value)
    with pytest.raises(ProjectError, match="0 or more"):
        edits.set_criterion(made, "easy-to-clean", weight=-1.0)
    with pytest.raises(ProjectError, match="no concept “z”"):
        edits.set_score(made, "easy-to-clean", "z", 5.0)
    assert edits.remove_criterion(made, "easy-to-clean").after.decision.criteria == ()


def test_a_need_is_filled_with_its_name_count_and_requirements(project):
    sought = edits.add_need(project, "all", "Depth of the core", ("encoder",)).after
    sought = edits.set_need(sought, "depth-of-the-core", count=2).after
    sought = edits.set_requirement(sought, "depth-of-the-core", "most_mass_kg", 0.2).after
    emptied = edits.remove_item(edits.remove_item(sought, "deck").after, "pack").after
    with pytest.raises(ProjectError, match="still looks for Depth of the core"):
        edits.remove_subsystem(emptied, "all")
    filled = edits.fill_need(sought, "depth-of-the-core", a_part("wire", "encoder"), origin="owned")
    item = filled.after.concept.items[-1]
    assert (item.name, item.count, item.origin, item.requires.most_mass_kg) == ("Depth of the core", 2, "owned", 0.2)
    assert filled.after.concept.needs == ()
    assert filled.sentence == "Depth of the core: take wire"


@pytest.mark.parametrize(("field", "words"), [("least_torque_n_m", "torque, at least"), ("most_price", "price, at most"),
                                              ("coldest_c", "coldest air"), ("logic_v", "logic level")])  # fmt: skip
def test_requirements_in_words(field, words):
    assert requirement_words(field) == words


def test_an_impossible_requirement_is_refused(project):
    with pytest.raises(ProjectError, match="mass, at most"):
        edits.set_requirement(project, "deck", "most_mass_kg", -1.0)
    emptied = edits.set_requirement(edits.set_requirement(project, "deck", "most_mass_kg", 1.0).after, "deck",
                                    "most_mass_kg", None).after  # fmt: skip
    assert emptied.concept.items[1].requires.most_mass_kg is None


def test_several_swaps_are_one_edit(project):
    new, other = a_part("board", mass_kg=1.0), a_pack("big", capacity_ah=9.0)
    change = edits.swap_parts(project, {"deck": (new, "owned"), "pack": (other, "to buy")})
    assert change.sentence == "swap deck for board, pack for big"
    assert [(i.part.id, i.origin) for i in change.after.concept.items] == [("big", "to buy"), ("board", "owned")]
    with pytest.raises(ProjectError, match="in place already"):
        edits.swap_parts(project, {"deck": (project.concept.items[1].part, "to buy")})


def test_the_shelf_keeps_one_entry_a_part(project):
    first = edits.add_to_shelf(project, [Stock(part=a_part("cog"), have=2)]).after
    second = edits.add_to_shelf(first, [Stock(part=a_part("cog"), have=5), Stock(part=a_part("pin"), have=1)])
    assert [(s.part.id, s.have) for s in second.after.shelf] == [("cog", 5), ("pin", 1)]
    assert edits.remove_from_shelf(second.after, "cog").after.shelf[0].part.id == "pin"
    for wrong in (lambda: edits.remove_from_shelf(first, "pin"), lambda: edits.add_to_shelf(first, [])):
        with pytest.raises(ProjectError):
            wrong()
