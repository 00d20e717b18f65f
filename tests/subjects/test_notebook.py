"""Versions: what a knot keeps, every difference told, parts and subsystems brought back; the notebook that writes itself."""

import pytest

import edits
from builders import a_load, a_pack, a_part, a_project, an_item
from wired_union.catalogue.demo import demo
from wired_union.kernel.diary import with_entry
from wired_union.picture.shapes import Kit
from wired_union.project.change import Change
from wired_union.project.errors import ProjectError
from wired_union.project.notebook_model import About, Attempt, Defect, Entry, Version
from wired_union.project.references import check_whole
from wired_union.subjects import assess
from wired_union.subjects.notebook import edits as notes
from wired_union.subjects.notebook import knots
from wired_union.subjects.notebook.picture_ropes import ropes_of, ropes_picture
from wired_union.subjects.notebook.picture_trend import path_to_now, trend_picture
from wired_union.subjects.notebook.search import found_entries

DAY = "2026-11-24"
KIT = Kit()


def written(before, change: Change):
    """The entry that an edit writes, None for none."""
    one = assess(before)
    after = with_entry(one, one.again(change.after), change, DAY, "Ada")
    return after.notebook[-1] if len(after.notebook) > len(change.after.notebook) else None


def small():
    project = a_project(
        a_pack(), a_load("lamp", 1.0), a_load("siren", 0.5), feeds=(("pack", "lamp"), ("pack", "siren"))
    )
    return project.but(concepts=(project.concept.but(name="one"),))


@pytest.mark.parametrize(("edit", "kind", "about"), [
    (lambda p: edits.set_count(p, "gnss", 2), "edit", ["gnss"]),
    (lambda p: edits.set_limit(p, "mass", value=9.0), "edit", ["mass"]),
    (lambda p: edits.weigh(p, "gnss", 0.05, 1, DAY), "weighing", ["gnss"]),
    (lambda p: notes.add_fault(p, "Squeaks", DAY, "Ada"), "fault", ["squeaks"]),
    (lambda p: edits.retire_concept(p, "b", "too heavy", DAY), "retirement", ["b"]),
    (lambda p: edits.copy_concept(p, "a", "twin"), "edit", ["d"]),
    (lambda p: edits.answer_question(p, "a", p.concept.questions[0].id, "no", DAY), "decision", []),
    (lambda p: Change(p, p.but(trials=p.trials[1:]), "drop"), "trial", [demo().trials[0].id]),
    (lambda p: Change(p, p.but(ledger=p.ledger[1:]), "drop"), "delivery", []),
])  # fmt: skip
def test_each_kind_of_edit_writes_its_own_entry(edit, kind, about):
    project = demo()
    entry = written(project, edit(project))
    assert (entry.kind, entry.when, entry.by) == (kind, DAY, "Ada")
    assert [a.id for a in entry.about] == about


def test_an_entry_says_what_the_edit_moved():
    project = demo()
    entry = written(project, edits.set_part_value(project, "core-tube", "mass_kg", 1.0))
    assert "Mass +468\u202fg" in entry.moved  # 390 g more, a guess: a fifth is allowed on top, common practice


@pytest.mark.parametrize("edit", [
    lambda p: Change(p, p.but(at_work="b"), "work on B"),
    lambda p: edits.write_entry(p, DAY, "Ada", "saw a crab"),
    lambda p: notes.leave_out_day(p, DAY),
    lambda p: notes.keep_history(p, True),
])  # fmt: skip
def test_looking_elsewhere_and_writing_by_hand_write_nothing_more(edit):
    project = demo()
    assert written(project, edit(project)) is None


def test_two_members_entries_never_share_an_id_and_the_same_one_does():
    project = demo()
    ada, sol = (edits.write_entry(project, DAY, by, "saw a crab").after.notebook[-1] for by in ("Ada", "Sol"))
    assert ada.id != sol.id
    assert edits.write_entry(project, DAY, "Ada", "saw a crab").after.notebook[-1].id == ada.id
    twice = edits.write_entry(edits.write_entry(project, DAY, "Ada", "x").after, DAY, "Ada", "x").after
    assert len({e.id for e in twice.notebook}) == len(twice.notebook)


# searching


def test_questions_find_what_they_ask_for():
    project = demo()
    assert found_entries(project, "why is it 100:1")[0].text.startswith("Swap Gearmotor")
    pack = found_entries(project, "all about the pack")
    assert any("Pack 4S" in e.text for e in pack)
    assert all(any(a.id == "battery" for a in e.about) or "pack" in e.text.lower() for e in pack)
    assert found_entries(project, "zebra") == []
    days = [e.when for e in found_entries(project)]
    assert days == sorted(days, reverse=True)
    assert {e.kind for e in found_entries(project, kind="trials")} == {"trial"}


def test_the_latest_of_a_day_comes_first():
    project = small().but(notebook=tuple(Entry(when=DAY, text=t, id=t) for t in ("first", "second")))
    assert [e.text for e in found_entries(project)] == ["second", "first"]


# knots


def tied(project, name, before=None, digest="0" * 64):
    return knots.tie_knot(assess(project), name, "what it is", DAY, "Ada", digest, before).after


def test_a_knot_keeps_where_each_limit_stood_and_every_difference():
    first = tied(demo().but(versions=()), "A1")
    later = edits.set_count(edits.set_part_value(first, "gnss", "mass_kg", 0.5).after, "limit-switch", 3).after
    version = tied(later, "A2", first).versions[-1]
    assert version.parent == "a1"
    assert len(version.changed) == 2
    assert "Limit switch, lever: 3 instead of 2" in version.changed
    mass = next(x for x in version.landed if x.measure == "mass")
    assert mass.value == pytest.approx(assess(later).measure("mass").value)
    assert mass.verdict == assess(later).measure("mass").verdict.value
    with pytest.raises(ProjectError, match="There is a version a1 already"):
        tied(first, "a1")


def test_the_parent_is_the_last_alive_of_the_concept_or_of_the_one_it_was_copied_from():
    project = tied(small(), "A1")
    copied = edits.copy_concept(project, "a", "twin").after
    assert knots.parent_of(copied).name == "A1"
    branch = tied(copied, "B1")
    assert branch.versions[-1].parent == "a1"
    assert knots.next_name(branch) == "B2"
    dropped = knots.drop_version(branch, "b1", "tips over", DAY).after
    assert knots.parent_of(dropped).name == "A1"
    with pytest.raises(ProjectError, match="Say why"):
        knots.drop_version(branch, "b1", "  ", DAY)
    assert knots.parent_of(knots.take_up_again(dropped, "b1").after).name == "B1"


def test_a_whole_version_comes_back_and_forgets_nothing_that_was_learnt():
    was = small()
    now = tied(edits.remove_item(was, "lamp").after, "A1")
    now = notes.add_fault(edits.write_entry(now, DAY, "Ada", "it went dark").after, "Dark", DAY, "Ada").after
    back = knots.bring_version(now, now.versions[0], was).after
    assert back.concept == was.concept
    assert (back.notebook, back.versions, back.defects) == (now.notebook, now.versions, now.defects)
    check_whole(back)


VERSION = Version(id="a1", name="A1", digest="0" * 64)


def test_a_part_comes_back_with_what_named_it_and_only_that():
    was = demo()
    now = edits.set_count(edits.remove_item(was, "gnss").after, "limit-switch", 4).after
    back = knots.bring_part(now, VERSION, was, "gnss").after
    check_whole(back)
    items = {i.id: i for i in back.concept.items}
    assert items["gnss"] == next(i for i in was.concept.items if i.id == "gnss")
    assert items["limit-switch"].count == 4
    assert {f for f in back.concept.feeds if f.load == "gnss"} == {f for f in was.concept.feeds if f.load == "gnss"}
    used = {m.id for m in back.concept.modes if any(u.item == "gnss" for u in m.uses)}
    assert used == {m.id for m in was.concept.modes if any(u.item == "gnss" for u in m.uses)}
    assert back.concept.copied_from == was.concept.copied_from


def test_a_part_that_is_still_there_gets_its_figures_back():
    was = demo()
    now = edits.set_part_value(was, "core-tube", "mass_kg", 2.0).after
    assert knots.bring_part(now, VERSION, was, "core-tube").after == was
    with pytest.raises(ProjectError, match="There is no part"):
        knots.bring_part(now, VERSION, was, "zebra")


def test_a_subsystem_comes_back_as_it_was():
    was = demo()
    lane = was.concept.subsystems[0].id
    now = was
    for item in [i.id for i in was.concept.items if i.subsystem == lane][:2]:
        now = edits.remove_item(now, item).after
    now = edits.add_item(now, lane, a_part("Later idea")).after
    back = knots.bring_subsystem(now, VERSION, was, lane).after
    check_whole(back)
    mine = lambda p: {i.id: i for i in p.concept.items if i.subsystem == lane}  # noqa: E731
    assert mine(back) == mine(was)
    gone = was
    for item in mine(was):
        gone = edits.remove_item(gone, item).after
    gone = edits.remove_subsystem(gone, lane).after
    assert set(mine(knots.bring_subsystem(gone, VERSION, was, lane).after)) == set(mine(was))


# pictures


def test_ropes_stand_apart_and_knots_in_the_order_of_their_days():
    project = demo()
    for width in (560.0, 780.0, 1200.0):
        ropes = ropes_of(project, "2026-11-27", KIT, width)
        assert [r.letter for r in ropes] == ["A", "B", "C"]
        for rope in ropes:
            xs = [k.x for k in rope.knots]
            assert xs == sorted(xs)
            assert all(0 <= x <= width for x in xs)
        picture = ropes_picture(project, "2026-11-27", KIT, width, ())
        assert {f"knot {v.id}" for v in project.versions} <= {r.id for r in picture.regions}
    said = next(r for r in ropes_picture(project, "2026-11-27", KIT, 780.0, ()).regions if r.id == "knot end C")
    assert "given up: Tips at 15°" in said.label


def test_many_knots_on_one_day_stay_inside():
    project = small()
    for n in range(30):
        project = tied(project, f"A{n}", digest=f"{n:064x}")
    ropes = ropes_of(project, DAY, KIT, 700.0)
    assert all(0 <= k.x <= 700 for k in ropes[0].knots)


def test_the_trend_has_a_column_for_each_version_on_the_way():
    assessment = assess(demo()).on("2026-11-27")
    assert [v.name for v in path_to_now(assessment.project)] == ["first sketch", "A1", "A2"]
    picture = trend_picture(assessment, KIT, 780.0)
    runtime = next(r for r in picture.regions if r.id == "trend runtime")
    assert "A1 1.88\u202fh breaks" in runtime.label
    assert runtime.label.endswith("now 4.36\u202fh breaks")


def test_a_ring_of_parents_ends():
    project = small().but(versions=(
        Version(id="x", name="X", concept="A", parent="y", digest="0" * 64),
        Version(id="y", name="Y", concept="A", parent="x", digest="1" * 64),
    ))  # fmt: skip
    assert [v.name for v in path_to_now(project)] == ["X", "Y"]
    assert ropes_picture(project, DAY, KIT, 700.0, ()).regions


# faults and entries


def test_an_open_fault_without_a_cause_is_unknown_with_one_tight_and_closed_nothing():
    project = small()
    fault = Defect(id="x", name="Dark", found_on=DAY, about=(About(what="part", id="lamp", name="lamp"),),
                   attempts=(Attempt(text="another lamp"),))  # fmt: skip
    for new, verdict in (
        (fault, "unknown"),
        (fault.but(cause="a loose wire"), "tight"),
        (fault.but(closed_on=DAY), None),
    ):
        found = [f for f in assess(project.but(defects=(new,))).findings if f.subject == "notebook"]
        assert [f.verdict.value for f in found] == ([verdict] if verdict else [])
        assert all(f.items == ("lamp",) for f in found)


@pytest.mark.parametrize(("edit", "said"), [
    (lambda p: notes.correct_entry(p, "e", "  ", DAY, "Ada"), "Write the entry first"),
    (lambda p: notes.correct_entry(p, "zebra", "x", DAY, "Ada"), "There is no entry"),
    (lambda p: edits.write_entry(p, DAY, "Ada", "x" * 30_000), "under 20,000 characters"),
    (lambda p: edits.give_reason(p, "e", ""), "Write the reason first"),
    (lambda p: notes.close_fault(p, "d", DAY), "say what mends it"),
    (lambda p: notes.set_fault(p, "d", found_on="yesterday"), "is no day"),
    (lambda p: notes.add_fault(p, "", DAY, ""), "Give the fault a name"),
    (lambda p: notes.try_against(p, "d", " ", DAY, ""), "Write the attempt first"),
])  # fmt: skip
def test_what_makes_no_sense_is_refused_with_what_to_do(edit, said):
    project = small().but(notebook=(Entry(when=DAY, text="x", id="e"),), defects=(Defect(id="d", name="Dark"),))
    with pytest.raises(ProjectError, match=said):
        edit(project)


def test_an_item_may_stay_with_a_note_after_it_is_gone():
    project = a_project(an_item(a_part("lamp")))
    entry = Entry(when=DAY, text="x", id="e", about=(About(what="part", id="lamp", name="lamp"),))
    gone = edits.remove_item(project.but(notebook=(entry,)), "lamp").after
    assert gone.notebook == (entry,)
    check_whole(gone)
