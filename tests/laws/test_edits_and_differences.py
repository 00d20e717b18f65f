"""Laws of edits: references stay whole, what moved a measure is said, every field of the model is said when it differs."""

import random

import pytest
from msgspec.structs import fields

import edits
from builders import a_pack
from values import leaves, put, tries
from wired_union.catalogue.demo import demo
from wired_union.kernel.differences import concept_differences, differences
from wired_union.project.change import with_concept_value
from wired_union.project.errors import ProjectError
from wired_union.project.model import Concept, Project
from wired_union.project.references import Fault, all_values, check_whole, copied, forgotten, inner_kinds, who_names
from wired_union.project.value import Value, choices, field_names, references
from wired_union.subjects import assess
from wired_union.subjects.mass.pose_edits import add_pose, pose_in_mode, shift_part


def kinds(kind: type[Value], seen: set) -> set:
    """A kind of value, and every kind that may be in it."""
    if kind not in seen:
        seen.add(kind)
        for inner in inner_kinds(kind).values():
            for one in inner:
                kinds(one, seen)
    return seen


@pytest.mark.parametrize("name", ["mudlark", "bat-counter"])
def test_every_field_that_differs_is_said(name):
    """For each kind of value and each of its fields: a project in which only that differs is told from the first."""
    project = demo(name)
    tried: set[tuple[str, str]] = set()
    for path, holder, field in leaves(project):
        if (key := (type(holder).__name__, field)) in tried or field in {
            "id",
            "format",
            "version",
            "at_work",
            "measure",
        }:
            continue
        now = getattr(holder, field)
        other = next((x for x in tries(type(holder), field) if x != now), None)
        if other is None:
            continue
        changed = put(project, path, other)
        try:
            check_whole(changed)
        except Fault:
            continue
        tried.add(key)
        assert differences(project, changed), f"{key}: {now!r} becomes {other!r} unsaid"
        assert not any("Value" in d or "object at" in d for d in differences(project, changed))
    assert len(tried) > (150 if name == "mudlark" else 60)
    assert differences(project, project) == []


def test_a_load_a_reserve_a_direction_are_said():
    """What once read "nothing changed" while the runtime moved by 79 minutes."""
    project = demo()
    for change in (
        edits.set_load(project, "drive", rolling_resistance=0.4),
        edits.set_energy_reserve(project, 0.3),
        edits.set_limit(project, "mass", direction="at least"),
        edits.set_mount(edits.add_mount(project, "Pole").after, "pole", frequency_hz=3.0),
    ):
        assert differences(project, change.after)


EDITS = (
    lambda p, r: edits.remove_item(p, r.choice(p.concept.items).id),
    lambda p, r: edits.duplicate_item(p, r.choice(p.concept.items).id),
    lambda p, r: edits.remove_mode(p, r.choice(p.concept.modes).id),
    lambda p, r: edits.remove_load(p, r.choice(p.concept.loads).id),
    lambda p, r: edits.set_count(p, r.choice(p.concept.items).id, r.randrange(1, 9)),
    lambda p, r: edits.swap_part(p, r.choice(p.concept.items).id, a_pack("new pack")),
    lambda p, r: edits.feed_from(p, r.choice(p.concept.items).id, r.choice([None, *(i.id for i in p.concept.items)])),
    lambda p, r: edits.add_mode(p, "Again"),
    lambda p, r: edits.set_use(p, r.choice(p.concept.modes).id, r.choice(p.concept.items).id, "sleep"),
    lambda p, r: edits.copy_concept(p, p.concept.id, "twin"),
    lambda p, r: edits.set_load(p, r.choice(p.concept.loads).id, actuator=r.choice(p.concept.items).id),
    lambda p, r: edits.remove_chain(p, r.choice(p.concept.chains).id),
    lambda p, r: edits.remove_phase(p, r.randrange(len(p.concept.mission.phases))),
)


@pytest.mark.parametrize("seed", range(6))
def test_every_edit_leaves_references_whole_and_says_what_moved(seed):
    rng = random.Random(seed)
    project = demo()
    before = assess(project)
    for _ in range(25):
        try:
            change = rng.choice(EDITS)(project, rng)
        except (ProjectError, IndexError):
            continue
        check_whole(change.after)
        after = before.again(change.after)
        moved = any(after.measure(m.id).value != m.value for m in before.measures)
        if moved:
            assert differences(project, change.after), change.sentence
        project, before = change.after, after


REMOVED = (("items", edits.remove_item), ("modes", edits.remove_mode), ("loads", edits.remove_load))


@pytest.mark.parametrize(("room", "remove"), REMOVED)
@pytest.mark.parametrize("name", ["mudlark", "bat-counter"])
def test_what_names_a_thing_in_any_field_does_not_once_it_is_removed(name, room, remove):
    """Every field that is declared to name one is made to name one in turn; a file with a dangling name is refused."""
    project = demo(name)
    posed = add_pose(project, "leaning").after
    posed = shift_part(posed, "leaning", project.concept.items[0].id, dz_m=0.1).after
    project = pose_in_mode(posed, "leaning", project.concept.modes[0].id, taken=True).after
    fields = [(path, holder, field) for path, holder, field in leaves(project.concept)
              if field in references(type(holder)) and references(type(holder))[field].room == room]  # fmt: skip
    target = next(iter(getattr(project.concept, room)), None)
    tried = set()
    for path, holder, field in fields if target is not None else ():
        named = with_concept_value(project, put(project.concept, path, target.id))
        try:
            check_whole(named)
            left = remove(named, target.id).after
        except (Fault, ProjectError):  # such a name cannot be, or keeps it from going
            continue
        check_whole(left)
        tried.add((type(holder).__name__, field))
    assert target is None or len(tried) >= len({(type(h).__name__, f) for _, h, f in fields} - {("Feed", "load")})


def test_what_is_removed_is_named_nowhere():
    project = demo()
    for item in project.concept.items:
        left = edits.remove_item(project, item.id).after.concept
        assert who_names(left, "items", item.id) == []
    assert next(x for x in project.concept.loads if x.id == "drive").actuator == "gearmotor"
    gone = edits.remove_item(project, "gearmotor").after
    assert next(x for x in gone.concept.loads if x.id == "drive").actuator == ""


def test_a_duplicate_is_fed_and_used_as_its_original():
    project = demo()
    twin = edits.duplicate_item(project, "gearmotor").after.concept
    made = next(i for i in twin.items if i.id not in {x.id for x in project.concept.items})
    for field in ("load", "item"):
        mine = [f for f in who_names(twin, "items", made.id) if f.field == field and f.ref.copied]
        theirs = [f for f in who_names(project.concept, "items", "gearmotor") if f.field == field and f.ref.copied]
        assert len(mine) == len(theirs)
    assert not [f for f in who_names(twin, "items", made.id) if f.field == "actuator"]


def test_a_load_that_names_no_part_is_refused(tmp_path):
    from wired_union.project.errors import BrokenFile
    from wired_union.project.file import from_text, to_text

    text = to_text(demo()).replace('"actuator": "gearmotor"', '"actuator": "ghost"', 1)
    with pytest.raises(BrokenFile, match="names the item “ghost”, which does not exist"):
        from_text(text, tmp_path / "x")
    with pytest.raises(ProjectError, match="no part “ghost”"):
        edits.set_load(demo(), "drive", actuator="ghost")


def test_every_field_that_holds_an_id_is_declared():
    """A field whose name is that of a thing, or that holds the id of one in the demos, is a reference."""
    project = demo()
    ids = {x.id for c in project.concepts for room in ("items", "modes", "subsystems") for x in getattr(c, room)}
    for value in all_values(project):
        for name in field_names(type(value)):
            held = getattr(value, name)
            plain = bool(choices(type(value), name)) or name in {
                "id",
                "name",
                "kind",
                "chemistry",
                "group",
                "text",
                "why",
                "by",
            }
            if isinstance(held, str) and held in ids and not plain and type(value).__name__ != "Part":
                assert name in references(type(value)), f"{type(value).__name__}.{name} holds {held!r}"


def test_forgetting_and_copying_touch_nothing_else():
    concept = demo().concept
    assert forgotten(concept, "items", "ghost") is concept
    assert copied(concept, "items", "ghost", "twin") is concept


def test_every_kind_of_value_keeps_what_a_newer_program_wrote():
    found = kinds(Project, set())
    assert len(found) > 35
    for kind in found:
        assert any(f.name == "beyond" for f in fields(kind))
        assert kind.__struct_config__.frozen
    assert concept_differences(demo().concept, demo().concept) == []
    assert Concept in found
