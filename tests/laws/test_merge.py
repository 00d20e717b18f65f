"""Laws of the merge, on random edits of both sides: nothing is lost, nothing is invented, whoever's side is whose."""

import random

from hypothesis import given, settings
from hypothesis import strategies as st

import edits
from builders import a_pack, a_part
from wired_union.catalogue.demo import demo
from wired_union.kernel.differences import differences
from wired_union.kernel.merge_words import told
from wired_union.project.change import with_brief, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.project.keyed import aligned, in_one_order
from wired_union.project.merge import merged
from wired_union.project.model import Project
from wired_union.project.notebook_model import Entry
from wired_union.project.plan_model import Hand, PlanTask
from wired_union.project.references import check_whole, forgotten
from wired_union.project.trial_model import Run
from wired_union.subjects import assess

EDITS = (
    lambda p, r: edits.remove_item(p, r.choice(p.concept.items).id),
    lambda p, r: edits.duplicate_item(p, r.choice(p.concept.items).id),
    lambda p, r: edits.set_count(p, r.choice(p.concept.items).id, r.randrange(1, 9)),
    lambda p, r: edits.set_part_value(p, r.choice(p.concept.items).id, "mass_kg", r.randrange(1, 90) / 100),
    lambda p, r: edits.set_part_value(p, r.choice(p.concept.items).id, "price", float(r.randrange(1, 90))),
    lambda p, r: edits.set_knowledge(p, r.choice(p.concept.items).id, r.choice(["guess", "estimate", "measured"])),
    lambda p, r: edits.swap_part(p, r.choice(p.concept.items).id, a_pack(f"pack {r.randrange(3)}")),
    lambda p, r: edits.feed_from(p, r.choice(p.concept.items).id, r.choice([None, *(i.id for i in p.concept.items)])),
    lambda p, r: edits.add_mode(p, f"Mode {r.randrange(4)}"),
    lambda p, r: edits.remove_mode(p, r.choice(p.concept.modes).id),
    lambda p, r: edits.set_use(p, r.choice(p.concept.modes).id, r.choice(p.concept.items).id, "sleep"),
    lambda p, r: edits.add_subsystem(p, f"Lane {r.randrange(3)}"),
    lambda p, r: edits.remove_subsystem(p, r.choice(p.concept.subsystems).id),
    lambda p, r: edits.add_item(p, r.choice(p.concept.subsystems).id,
                                a_part(f"thing {r.randrange(3)}", mass_kg=r.randrange(1, 9) / 10)),
    lambda p, r: edits.copy_concept(p, p.concept.id, f"twin {r.randrange(2)}"),
    lambda p, r: edits.remove_load(p, r.choice(p.concept.loads).id),
    lambda p, r: edits.set_limit(p, r.choice(p.brief.limits).measure, value=float(r.randrange(1, 40))),
    lambda p, r: edits.remove_phase(p, r.randrange(len(p.concept.mission.phases))),
    lambda p, r: edits.weigh(p, r.choice(p.concept.items).id, r.randrange(1, 80) / 100, 1, "2026-11-24"),
)  # fmt: skip


def edited(project: Project, rng: random.Random, count: int) -> Project:
    """The project after some random edits that make sense."""
    for _ in range(count):
        try:
            project = rng.choice(EDITS)(project, rng).after
        except (ProjectError, IndexError, ValueError):
            continue
    return project


seeds = st.integers(0, 10**6)
BASES = {name: demo(name) for name in ("mudlark", "bat-counter")}
bases = st.sampled_from(sorted(BASES))


@settings(max_examples=60, deadline=None)
@given(bases, seeds, st.integers(0, 8))
def test_merging_with_oneself_changes_nothing(name, seed, count):
    base = BASES[name]
    side = edited(base, random.Random(seed), count)
    found = merged(base, side, side)
    assert found.project == side
    assert not found.conflicts
    assert merged(base, base, side).project == side
    assert merged(base, side, base).project == side
    assert merged(None, side, side).project == side


@settings(max_examples=60, deadline=None)
@given(bases, seeds, st.integers(1, 6))
def test_whose_side_is_whose_does_not_matter_but_for_conflicts(name, seed, count):
    base, rng = BASES[name], random.Random(seed)
    ours, theirs = edited(base, rng, count), edited(base, rng, count)
    one, other = merged(base, ours, theirs, rest="theirs"), merged(base, theirs, ours, rest="ours")
    assert {c.id for c in one.conflicts} == {c.id for c in other.conflicts}
    assert not one.open
    same_look = [m.project.but(at_work="") for m in (one, other)]  # which concept shows is ours alone
    assert differences(*same_look) == []


@settings(max_examples=60, deadline=None)
@given(bases, seeds, st.integers(1, 8), st.sampled_from(["ours", "theirs", None]))
def test_the_result_always_opens_and_assesses(name, seed, count, rest):
    base, rng = BASES[name], random.Random(seed)
    ours, theirs = edited(base, rng, count), edited(base, rng, count)
    found = merged(base, ours, theirs, rest=rest)
    check_whole(found.project)
    assert from_text(to_text(found.project), None) == found.project
    assert assess(found.project).measures is not None
    for conflict in found.conflicts:
        said = told(conflict, base, ours, theirs)
        assert said.title
        assert said.ours != said.theirs, conflict


FIGURES = ("mass_kg", "price", "length_m")


@settings(max_examples=60, deadline=None)
@given(seeds, st.lists(st.tuples(st.integers(0, 20), st.sampled_from(FIGURES), st.booleans()), min_size=1, max_size=12))
def test_every_edit_that_does_not_conflict_survives(seed, figures):
    """Figures of parts: what one side alone changed is in the result, what both changed otherwise is a conflict."""
    base, rng = BASES["mudlark"], random.Random(seed)
    sides, wanted, both = {True: base, False: base}, {}, set()
    for index, field, ours in figures:
        item = base.concept.items[index].id
        if field == "length_m" and getattr(base.concept.items[index].part, field) is None:
            continue
        value = rng.randrange(1, 10**6) / 1e4
        sides[ours] = edits.set_part_value(sides[ours], item, field, value).after
        if (item, field, not ours) in wanted:
            both.add((item, field))
        wanted[item, field, ours] = value
    found = merged(base, sides[True], sides[False])
    assert {c.where[3::2] for c in found.conflicts} == both
    for (item, field, _), value in wanted.items():
        if (item, field) not in both:
            now = next(i for i in found.project.concept.items if i.id == item)
            assert getattr(now.part, field) == value


@settings(max_examples=200, deadline=None)
@given(st.lists(st.integers(0, 9), unique=True), st.lists(st.integers(0, 19), unique=True),
       st.lists(st.integers(0, 29), unique=True))  # fmt: skip
def test_one_order_holds_what_is_alive_once(base, ours, theirs):
    alive = [k for k in dict.fromkeys([*base, *ours, *theirs]) if k % 3]
    found = in_one_order(base, ours, theirs, alive, {})
    assert sorted(found) == sorted(alive)
    if [k for k in ours if k in base] == [k for k in base if k in ours]:  # nobody ordered anew: base's order stands
        kept = [k for k in found if k in base]
        if [k for k in theirs if k in base] == [k for k in base if k in theirs]:
            assert kept == [k for k in base if k in kept]


def test_runs_and_entries_of_both_are_kept_in_the_order_of_their_days():
    base = BASES["mudlark"]
    trial = base.trials[0]

    def with_run(project, on, by):
        first, *rest = project.trials
        return project.but(
            trials=(first.but(runs=(*first.runs, Run(good=True, on=on, by=by))), *rest),
            notebook=(*project.notebook, Entry(id=f"{on}-{by}", when=on, by=by, text="a run")),
        )

    ours = with_run(with_run(base, "2026-12-01", "Ada"), "2026-12-04", "Ada")
    theirs = with_run(base, "2026-12-02", "Sol")
    found = merged(base, ours, theirs)
    assert not found.conflicts
    days = [r.on for r in found.project.trials[0].runs[len(trial.runs) :]]
    assert days == ["2026-12-01", "2026-12-02", "2026-12-04"]
    assert [e.by for e in found.project.notebook[-3:]] == ["Ada", "Sol", "Ada"]


def test_a_figure_never_gets_the_knowledge_of_another():
    """Ours guesses anew at 605 g, theirs weighed 590 g: a mix would say that 605 g were measured."""
    base = BASES["mudlark"]
    ours = edits.set_part_value(base, "core-tube", "mass_kg", 0.605).after
    theirs = edits.set_part_value(base, "core-tube", "mass_kg", 0.59).after
    theirs = edits.set_knowledge(theirs, "core-tube", "measured").after
    found = merged(base, ours, theirs)
    (conflict,) = found.open
    said = told(conflict, base, ours, theirs)
    assert said.better_known == "theirs"
    for side, kept in (("ours", ours), ("theirs", theirs)):
        whole = merged(base, ours, theirs, {conflict.id: side}).project
        now, was = (next(i for i in p.concept.items if i.id == "core-tube") for p in (whole, kept))
        assert (now.part.mass_kg, now.knowledge) == (was.part.mass_kg, was.knowledge)


def test_ids_survive_adding_in_parallel():
    """Both add something under the name of their own: both are there, and what names them names the right one."""
    base = BASES["mudlark"]
    lane = base.concept.subsystems[0].id
    ours = edits.add_item(base, lane, a_part("Servo", mass_kg=0.1)).after
    theirs = edits.add_item(base, lane, a_part("servo", mass_kg=0.2)).after
    theirs = edits.feed_from(theirs, "servo", "battery").after
    found = merged(base, ours, theirs)
    assert not found.conflicts
    made = {i.part.mass_kg: i.id for i in found.project.concept.items if i.name.lower() == "servo"}
    assert set(made) == {0.1, 0.2}
    fed = {f.load for f in found.project.concept.feeds if f.load in made.values()}
    assert made[0.2] in fed


def test_what_one_took_away_and_the_other_names_is_asked():
    base = BASES["mudlark"]
    ours = edits.remove_item(base, "gnss").after
    theirs = edits.set_count(base, "gnss", 2).after
    found = merged(base, ours, theirs)
    assert [c.kind for c in found.open] == ["gone"]
    assert "gnss" not in {i.id for i in merged(base, ours, theirs, rest="ours").project.concept.items}
    back = merged(base, ours, theirs, rest="theirs").project
    assert next(i for i in back.concept.items if i.id == "gnss").count == 2


def test_a_ring_of_feeds_from_two_sides_is_asked():
    base = BASES["mudlark"]
    loose = with_concept(base, feeds=tuple(f for f in base.concept.feeds if f.load not in ("buck", "ldo")))
    ours, theirs = edits.feed_from(loose, "buck", "ldo").after, edits.feed_from(loose, "ldo", "buck").after
    found = merged(loose, ours, theirs)
    assert [c.kind for c in found.open] == ["joins"]
    check_whole(found.project)
    fed = {(f.source, f.load) for f in merged(loose, ours, theirs, rest="theirs").project.concept.feeds}
    assert ("buck", "ldo") in fed
    assert ("ldo", "buck") not in fed


def test_a_person_taken_away_while_the_other_gives_them_a_task():
    base = BASES["mudlark"]
    gone = base.plan.people[-1].id
    left = base.plan.but(people=base.plan.people[:-1])
    ours = forgotten(base, "people", gone).but(plan=left)
    task = PlanTask(id="turn", name="Turn the bit", hands=(Hand(person=gone),))
    tasks = (*base.concept.plan_tasks, task)
    theirs = base.but(concepts=(base.concept.but(plan_tasks=tasks), *base.concepts[1:]))
    found = merged(base, ours, theirs)
    assert [c.id for c in found.open] == [f"plan/people/{gone}"]
    assert not merged(base, ours, theirs, rest="ours").project.concept.plan_tasks[-1].hands
    assert merged(base, ours, theirs, rest="theirs").project.plan.people[-1].id == gone


def test_without_a_base_what_one_has_is_kept_and_what_differs_is_asked():
    base = BASES["mudlark"]
    ours = edits.set_part_value(base, "gnss", "mass_kg", 0.05).after
    theirs = edits.add_subsystem(base, "Lights").after
    found = merged(None, ours, theirs)
    assert any(s.name == "Lights" for s in found.project.concept.subsystems)
    assert [c.where[-1] for c in found.open] == ["mass_kg"]


def test_foreign_keys_of_both_are_kept():
    base = BASES["mudlark"]
    ours = base.but(beyond=(("colour", '"red"'),))
    theirs = with_brief(base.but(beyond=(("smell", '"salt"'),)), energy_reserve=0.2)
    found = merged(base, ours, theirs).project
    assert dict(found.beyond) == {"colour": '"red"', "smell": '"salt"'}
    assert found.brief.energy_reserve == 0.2


def test_entries_of_older_files_are_told_apart_by_what_they_say():
    """Entries without ids, as files of before have them: one side gives a reason, the other adds one."""
    base = BASES["mudlark"].but(notebook=tuple(Entry(when="2026-11-01", text=t) for t in ("one", "two", "two")))
    first, *rest = base.notebook
    ours = base.but(notebook=(first.but(why="because"), *rest))
    theirs = base.but(notebook=(*base.notebook, Entry(when="2026-11-02", text="three")))
    found = merged(base, ours, theirs)
    assert not found.conflicts
    assert [(e.text, e.why) for e in found.project.notebook] == [
        ("one", "because"), ("two", ""), ("two", ""), ("three", "")
    ]  # fmt: skip


def test_which_concept_shows_is_nothing_to_choose_about():
    base = BASES["mudlark"]
    ours = base.but(concepts=tuple(c for c in base.concepts if c.id != "b"))
    ours = forgotten(ours, "concepts", "b")
    found = merged(base, ours, base.but(at_work="b"))
    assert not found.conflicts
    assert found.project.concept.id == "a"


def test_a_part_that_one_swaps_is_never_mixed_with_figures_of_the_old_one():
    base = BASES["mudlark"]
    ours = edits.swap_part(base, "gnss", a_part("Other", mass_kg=0.2)).after
    theirs = edits.set_part_value(base, "gnss", "delivery_days", 77.0).after
    found = merged(base, ours, theirs)
    assert [c.where[-1] for c in found.open] == ["part"]
    for side, kept in (("ours", ours), ("theirs", theirs)):
        whole = merged(base, ours, theirs, rest=side).project
        now, was = (next(i.part for i in p.concept.items if i.id == "gnss") for p in (whole, kept))
        assert now == was


def test_a_run_that_both_struck_for_other_reasons_is_one_run():
    base = BASES["mudlark"]

    def struck(why):
        first, *rest = base.trials
        runs = (first.runs[0].but(struck=why), *first.runs[1:])
        return base.but(trials=(first.but(runs=runs), *rest))

    ours, theirs = struck("the tube was cracked"), struck("nobody looked")
    found = merged(base, ours, theirs)
    assert [c.where for c in found.open] == [("trials", base.trials[0].id, "runs", "#1")]
    assert len(merged(base, ours, theirs, rest="theirs").project.trials[0].runs) == len(base.trials[0].runs)
    alike = merged(base, ours, struck("the tube was cracked"))
    assert not alike.conflicts
    assert alike.project == ours


def test_two_who_strike_different_runs_and_add_one_each_lose_none():
    base = BASES["mudlark"]
    trial = base.trials[0]

    def with_runs(runs):
        return base.but(trials=(trial.but(runs=tuple(runs)), *base.trials[1:]))

    mine, others = list(trial.runs), list(trial.runs)
    mine[0], others[5] = mine[0].but(struck="cracked tube"), others[5].but(struck="nobody looked")
    ours = with_runs([*mine, Run(good=True, on="2026-12-01", by="Ada")])
    theirs = with_runs([*others[:9], *others[10:], Run(good=False, on="2026-12-02", by="Sol")])
    found = merged(base, ours, theirs)
    assert not found.conflicts
    runs = found.project.trials[0].runs
    assert len(runs) == len(trial.runs) - 1 + 2
    assert [r.struck for r in runs if r.struck] == ["cracked tube", "nobody looked"]
    assert [r.by for r in runs[-2:]] == ["Ada", "Sol"]
    assert merged(base, theirs, ours).project == found.project


@settings(max_examples=300, deadline=None)
@given(st.lists(st.sampled_from("abcd"), max_size=12), st.lists(st.sampled_from("abcde"), max_size=12))
def test_every_value_of_a_side_has_a_key_of_its_own(base, side):
    keys = aligned(base, side)
    assert keys is not None
    assert len(keys) == len(side)
    assert len(set(keys)) == len(keys)
    assert aligned(base, base) == [f"#{n + 1}" for n in range(len(base))]
    old = [k for k in keys if k.startswith("#")]
    assert old == sorted(old, key=lambda k: int(k[1:]))


def test_two_new_orders_are_asked_in_names():
    base = BASES["mudlark"]
    lanes = base.concept.subsystems
    ours = with_concept(base, subsystems=(lanes[1], lanes[0], *lanes[2:]))
    theirs = with_concept(base, subsystems=(*lanes[1:], lanes[0]))
    found = merged(base, ours, theirs)
    (conflict,) = found.open
    assert conflict.kind == "order"
    said = told(conflict, base, ours, theirs)
    assert said.ours.startswith(f"{lanes[1].name}, {lanes[0].name}")
    assert said.theirs.startswith(f"{lanes[1].name}, {lanes[2].name}")
    for side, wanted in (("ours", ours), ("theirs", theirs)):
        assert merged(base, ours, theirs, rest=side).project == wanted
    assert not merged(base, ours, base).conflicts


def test_thousands_of_runs_lose_none_and_gain_none():
    """More than can be aligned one by one: struck in their places and added behind; and one side shuffled."""
    base, trial = BASES["mudlark"], BASES["mudlark"].trials[0]
    many = [Run(good=n % 3 > 0, value=float(n % 7), on=f"2026-11-{n % 28 + 1:02d}") for n in range(3000)]

    def with_runs(runs):
        return base.but(trials=(trial.but(runs=tuple(runs)), *base.trials[1:]))

    def struck(n, by):
        return with_runs([*many[:n], many[n].but(struck=by), *many[n + 1 :], Run(good=True, on="2026-12-01", by=by)])

    found = merged(with_runs(many), struck(17, "Ada"), struck(2900, "Sol"))
    assert not found.conflicts
    runs = found.project.trials[0].runs
    assert len(runs) == 3002
    assert [n for n, r in enumerate(runs) if r.struck] == [17, 2900]
    shuffled = list(many)
    random.Random(1).shuffle(shuffled)
    asked = merged(with_runs(many), with_runs(shuffled), struck(2900, "Sol"))
    assert [c.where for c in asked.open] == [("trials", trial.id, "runs")]
