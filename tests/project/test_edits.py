"""Edits: pure, with a sentence, refusing what makes no sense; undo after any of them gives the first value back."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

import edits
from builders import Event, Sampled, a_buck, a_chain, a_driver, a_limit, a_load, a_motor, a_pack, a_part, a_project
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.project.model import Project
from wired_union.subjects import assess
from wired_union.ui.store import Store


@pytest.fixture
def rover() -> Project:
    return a_project(
        a_pack(), a_driver(), a_motor(), a_buck(), a_load("probe", 0.02, rated_v=5.0),
        feeds=(("pack", "driver"), ("driver", "motor"), ("pack", "buck"), ("buck", "probe")),
        limits=(a_limit("mass", 2.0),),
        chains=(a_chain(Event(name="hit", least_s=0.001, most_s=0.002),
                        Sampled(name="poll", period_s=0.02, response_s=0.001)),),
    )  # fmt: skip


def item(project: Project, name: str):
    return next(i for i in project.concept.items if i.id == name)


def test_an_edit_leaves_the_value_before_it_alone(rover):
    text = to_text(rover)
    change = edits.set_count(rover, "motor", 4)
    assert item(change.after, "motor").count == 4
    assert to_text(rover) == text
    assert change.before is rover


@pytest.mark.parametrize(
    ("edit", "arguments", "sentence"),
    [
        (edits.rename_project, ("Mole",), "call the project Mole"),
        (edits.add_subsystem, ("Arm",), "add subsystem Arm"),
        (edits.rename_subsystem, ("all", "Body"), "rename All to Body"),
        (edits.set_share, ("all", "mass_share_kg", 1.5), "All: mass share 1.5 kg"),
        (edits.add_item, ("all", a_part("brace")), "add brace to All"),
        (edits.duplicate_item, ("motor",), "duplicate motor"),
        (edits.remove_item, ("motor",), "delete motor"),
        (edits.rename_item, ("motor", "left motor"), "rename motor to left motor"),
        (edits.set_count, ("motor", 2), "motor: 1 becomes 2"),
        (edits.move_item, ("motor", "all", 0), "move motor to All"),
        (edits.swap_part, ("pack", a_pack("bigger", capacity_ah=8)), "swap pack for bigger"),
        (edits.set_part_value, ("motor", "mass_kg", 0.25), "motor: mass 250 g"),
        (edits.set_part_value, ("motor", "load.active_a", None), "motor: active not known"),
        (edits.set_knowledge, ("motor", "measured"), "motor is now known by measured"),
        (edits.weigh, ("motor", 0.21), "motor weighs 210 g, measured"),
        (edits.set_origin, ("motor", "donated"), "motor: donated"),
        (edits.feed_from, ("probe", "pack"), "feed probe from pack"),
        (edits.feed_from, ("probe", None), "disconnect probe"),
        (edits.set_wire, ("motor", 0.5, 20), "wire to motor: 500 mm of AWG 20"),
        (edits.add_mode, ("Rest",), "add mode Rest, ten minutes of it"),
        (edits.rename_mode, ("work", "Dig"), "rename mode Work to Dig"),
        (edits.remove_mode, ("work",), "delete mode Work"),
        (edits.set_use, ("work", "motor", "active", 0.5), "motor is active 50 % of the time in Work"),
        (edits.stagger, ("work", True), "start loads one after another in Work"),
        (edits.add_phase, ("work", 60.0), "add 60 s of Work"),
        (edits.set_phase_duration, (0, 7200.0), "Work lasts 2 h"),
        (edits.set_repeats, (3,), "repeat the mission 3 times"),
        (edits.set_limit, ("mass",), "change the limit “mass”"),
        (edits.remove_limit, ("mass",), "drop the limit “mass”"),
        (edits.set_energy_reserve, (0.2,), "keep 20 % of the pack in reserve"),
        (edits.set_mass_margin, (0.1,), "hold a mass margin of 10 %"),
        (edits.add_chain, ("Stop",), "add signal chain Stop"),
        (edits.remove_chain, ("bump",), "delete signal chain Bump"),
        (edits.move_stage, ("bump", 0, 1), "Bump: move hit"),
        (edits.remove_stage, ("bump", 0), "Bump: delete hit"),
    ],
)
def test_every_edit_says_what_it_did_and_gives_a_sound_project(rover, edit, arguments, sentence):
    change = edit(rover, *arguments)
    assert change.sentence.replace("\u202f", " ") == sentence
    assert from_text(to_text(change.after), Path("x")) == change.after


@pytest.mark.parametrize(
    ("edit", "arguments", "said"),
    [
        (edits.set_count, ("motor", 0), "Give a whole number from 1 to 10 000. Delete the part if there is to be none."),
        (edits.set_count, ("ghost", 2), "There is no part “ghost” any more; it may have been deleted."),
        (edits.rename_item, ("motor", "  "), "Give the part a name."),
        (edits.remove_subsystem, ("all",), "All still holds 5 parts. Move or delete them first."),
        (edits.set_part_value, ("motor", "mass_kg", -1), "mass: must be 0 or more."),
        (edits.set_part_value, ("motor", "pack.series", 3), "motor has no pack figures."),
        (edits.set_part_value, ("pack", "pack.series", 0), "series: must be 1 or more."),
        (edits.feed_from, ("probe", "motor"), "motor cannot feed anything. Choose a pack, supply, rail, regulator or driver."),
        (edits.feed_from, ("pack", "buck"), "pack already feeds buck; they cannot feed each other."),
        (edits.feed_from, ("buck", "buck"), "buck already feeds buck; they cannot feed each other."),
        (edits.set_wire, ("pack", 1.0, 20), "pack is not fed by anything yet. Connect it first."),
        (edits.set_wire, ("motor", 1.0, 60), "wire to motor: must be at most 40."),
        (edits.set_use, ("work", "motor", "active", 1.5), "Duty is from 0 to 100 %."),
        (edits.set_phase_duration, (0, -5.0),
         "A phase lasts at least 1 ms. Take it out of the mission if it is not wanted."),
        (edits.set_phase_duration, (9, 5.0), "That phase is no longer in the mission."),
        (edits.set_repeats, (0.5,), "Repeats are a whole number of 1 or more."),
        (edits.add_limit, (a_limit("mass", 1.0),), "There already is a limit on mass. Change its number instead."),
        (edits.set_share, ("all", "mass_share_kg", 0.0), "A share is above zero; leave the field empty for no share."),
        (edits.weigh, ("motor", 0.0), "A weighed part weighs more than zero."),
        (edits.set_energy_reserve, (1.0,), "The reserve of the pack is from 0 to below 100 %."),
    ],
)  # fmt: skip
def test_what_makes_no_sense_is_refused_with_what_to_do(rover, edit, arguments, said):
    with pytest.raises(ProjectError) as refusal:
        edit(rover, *arguments)
    assert str(refusal.value) == said


def test_a_bad_limit_is_refused(rover):
    with pytest.raises(ProjectError, match="A limit is a number above zero"):
        edits.set_limit(rover, "mass", value=-1.0)
    with pytest.raises(ProjectError, match="reserve is from 0 to below 100"):
        edits.set_limit(rover, "mass", reserve=1.0)


def test_a_stage_keeps_its_least_below_its_most(rover):
    with pytest.raises(ProjectError, match="the least time is above the most"):
        edits.set_stage(rover, "bump", 0, least_s=1.0)


def test_a_stage_can_become_another_kind(rover):
    after = edits.set_stage(rover, "bump", 1, kind="event", least_s=0.001, most_s=0.001).after
    assert after.concept.chains[0].stages[1].kind == "event"


def test_deleting_a_regulator_feeds_its_loads_from_what_fed_it(rover):
    after = edits.remove_item(rover, "buck").after
    assert {(f.source, f.load) for f in after.concept.feeds} == {
        ("pack", "driver"), ("driver", "motor"), ("pack", "probe")
    }  # fmt: skip


def test_deleting_the_pack_leaves_its_loads_unfed(rover):
    after = edits.remove_item(rover, "pack").after
    assert {(f.source, f.load) for f in after.concept.feeds} == {("driver", "motor"), ("buck", "probe")}


def test_a_copy_is_fed_and_used_like_the_original(rover):
    rover = edits.set_use(rover, "work", "probe", "sleep").after
    after = edits.duplicate_item(rover, "probe").after
    assert ("buck", "probe-2") in {(f.source, f.load) for f in after.concept.feeds}
    assert {u.item: u.state for u in after.concept.modes[0].uses} == {"probe": "sleep", "probe-2": "sleep"}
    assert [i.id for i in after.concept.items][-2:] == ["probe", "probe-2"]


def test_a_swap_renames_unless_the_team_named_it(rover):
    part = a_pack("bigger")
    assert item(edits.swap_part(rover, "pack", part).after, "pack").name == "bigger"
    named = edits.rename_item(rover, "pack", "the good one").after
    assert item(edits.swap_part(named, "pack", part).after, "pack").name == "the good one"


def test_an_edge_moves_time_from_one_phase_to_the_next():
    project = edits.add_mode(a_project(a_pack(), hours=1), "Rest").after
    after = edits.move_edge(project, 0, 120).after
    assert [p.duration_s for p in after.concept.mission.phases] == [3720, 480]
    pushed = edits.move_edge(project, 0, 1e9).after
    assert pushed.concept.mission.phases[1].duration_s == pytest.approx(0.001)
    last = edits.move_edge(project, 1, 60).after
    assert [p.duration_s for p in last.concept.mission.phases] == [3600, 660]


def test_removing_a_chain_takes_its_limit_along(rover):
    limited = edits.add_limit(rover, a_limit("chain:bump", 0.1)).after
    after = edits.remove_chain(limited, "bump").after
    assert [x.measure for x in after.brief.limits] == ["mass"]


def test_a_note_keeps_the_reason(rover):
    after = edits.write_entry(rover, "2026-11-24", "Ada", "swap pack", why=" lighter ").after
    assert [(e.text, e.why) for e in after.notebook] == [("swap pack", "lighter")]


SOME_EDITS = st.lists(
    st.one_of(
        st.tuples(st.just(edits.set_count), st.sampled_from(("motor", "pack", "probe")), st.integers(1, 9)),
        st.tuples(st.just(edits.duplicate_item), st.sampled_from(("motor", "probe"))),
        st.tuples(st.just(edits.remove_item), st.sampled_from(("motor", "probe", "buck", "driver"))),
        st.tuples(st.just(edits.feed_from), st.sampled_from(("probe", "motor")), st.sampled_from(("pack", "buck", None))),
        st.tuples(st.just(edits.set_part_value), st.sampled_from(("motor", "pack")), st.just("mass_kg"),
                  st.floats(0, 5) | st.none()),
        st.tuples(st.just(edits.set_use), st.just("work"), st.sampled_from(("motor", "probe")),
                  st.sampled_from(("off", "sleep", "idle", "active", "peak")), st.floats(0, 1)),
        st.tuples(st.just(edits.add_mode), st.sampled_from(("Rest", "Dig"))),
        st.tuples(st.just(edits.set_phase_duration), st.integers(0, 2), st.floats(1, 1e5)),
        st.tuples(st.just(edits.stagger), st.just("work"), st.booleans()),
    ),
    max_size=12,
)  # fmt: skip


def run(store: Store, steps) -> int:
    return sum(store.attempt(edit, *arguments) for edit, *arguments in steps)


def sample() -> Project:
    return a_project(
        a_pack(), a_driver(), a_motor(), a_buck(), a_load("probe", 0.02, rated_v=5.0),
        feeds=(("pack", "driver"), ("driver", "motor"), ("pack", "buck"), ("buck", "probe")),
    )  # fmt: skip


@given(SOME_EDITS)
def test_undo_after_any_edits_gives_the_first_value_back(steps):
    first = sample()
    store = Store(first, assess)
    done = run(store, steps)
    last = store.project
    for _ in range(done):
        store.undo()
    assert store.project is first
    assert store.can_undo == ""
    for _ in range(done):
        store.redo()
    assert store.project is last


@given(SOME_EDITS)
def test_any_project_survives_saving_and_opening(steps):
    store = Store(sample(), assess)
    run(store, steps)
    assert from_text(to_text(store.project), Path("a")) == store.project


def test_a_change_of_another_project_is_refused():
    store, said = Store(sample(), assess), []
    store.refused.connect(said.append)
    stale = edits.set_count(store.project, "motor", 2)
    assert store.attempt(edits.set_count, "motor", 3)
    assert not store.apply(stale)
    assert said == ["The project has moved on since that was worked out. Try it again."]
    assert item(store.project, "motor").count == 3


def test_an_edit_after_undo_forgets_what_was_undone():
    store = Store(sample(), assess)
    store.attempt(edits.set_count, "motor", 2)
    store.undo()
    store.attempt(edits.set_count, "motor", 3)
    assert store.can_redo == ""
    assert store.can_undo == "motor: 1 becomes 3"
    assert store.unsaved_edits == ("motor: 1 becomes 3",)
