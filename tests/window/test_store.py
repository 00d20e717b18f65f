"""The one holder of project and history: what it says, keeps, drops and refuses."""

import pytest

import edits
from builders import a_limit, a_load, a_pack, a_project
from wired_union.app.file_desk import FileDesk
from wired_union.kernel.ripple import ripple
from wired_union.kernel.subject import Selection
from wired_union.subjects import assess
from wired_union.ui.places import MOST_RECENT, Places, Settings
from wired_union.ui.store import Store


@pytest.fixture
def store() -> Store:
    project = a_project(a_pack(), a_load(), feeds=(("pack", "load"),), limits=(a_limit("runtime", 3600.0, "at least"),))
    return Store(project, assess)


def heard(signal) -> list:
    """What a signal says from now on."""
    said: list = []
    signal.connect(lambda *words: said.append(words))
    return said


def test_an_edit_tells_everyone_once_and_keeps_what_moved(store):
    changed = heard(store.changed)
    store.attempt(edits.set_count, "pack", 2)
    assert len(changed) == 1
    assert store.last_ripple.sentence == "pack: 1 becomes 2"
    assert [m.id for m in store.last_ripple.moved] == ["runtime"]
    assert store.revision == 1


def test_a_refusal_is_said_changes_nothing_and_reaches_the_field(store):
    changed, refused, field = heard(store.changed), heard(store.refused), []
    first = store.project
    assert not store.attempt_or(field.append, edits.set_count, "pack", 0)
    wanted = "Give a whole number from 1 to 10 000. Delete the part if there is to be none."
    assert field == [wanted]
    assert refused == [(wanted,)]
    assert changed == []
    assert store.project is first
    assert store.attempt_or(field.append, edits.set_count, "pack", 3)
    assert len(field) == 1


def test_undo_and_redo_name_what_they_do(store):
    store.attempt(edits.set_count, "pack", 2)
    store.attempt(edits.set_count, "load", 3)
    assert store.can_undo == "load: 1 becomes 3"
    store.undo()
    assert (store.can_undo, store.can_redo) == ("pack: 1 becomes 2", "load: 1 becomes 3")
    assert store.last_ripple.sentence == "undo: load: 1 becomes 3"
    store.redo()
    assert store.last_ripple.sentence == "again: load: 1 becomes 3"
    assert store.can_redo == ""


def test_undo_at_the_start_and_redo_at_the_end_do_nothing(store):
    changed = heard(store.changed)
    store.undo()
    store.redo()
    assert changed == []


def test_saved_is_a_value_not_a_moment(store):
    store.attempt(edits.set_count, "pack", 2)
    store.mark_saved()
    store.attempt(edits.set_count, "pack", 3)
    assert store.unsaved
    assert store.unsaved_edits == ("pack: 2 becomes 3",)
    store.undo()
    assert not store.unsaved
    assert store.unsaved_edits == ()
    store.undo()
    assert store.unsaved


def test_recovered_work_counts_as_unsaved(store):
    store.mark_unsaved()
    assert store.unsaved
    store.mark_saved()
    assert not store.unsaved


def test_a_preview_is_shown_once_and_dropped_by_an_edit(store):
    seen = heard(store.previewed)
    preview = ripple(store.assessment, edits.set_count(store.project, "pack", 2))
    store.show_preview(preview)
    store.show_preview(preview)
    assert len(seen) == 1
    store.attempt(edits.set_count, "load", 2)
    assert store.preview is None


def test_selecting_the_same_thing_again_says_nothing(store):
    moved = heard(store.selection_moved)
    store.change(Selection, item="pack")
    store.change(Selection, item="pack")
    store.change(Selection, item="load")
    assert len(moved) == 2
    assert store.picked(Selection) == Selection(item="load")


def test_recent_files_are_newest_first_without_twins_and_not_too_many(tmp_path):
    settings = Settings()
    for n in range(MOST_RECENT + 3):
        settings = settings.opened(tmp_path / f"{n}.union.json")
    settings = settings.opened(tmp_path / "5.union.json")
    assert len(settings.recent) == MOST_RECENT
    assert settings.recent[0].endswith("5.union.json")
    assert len(set(settings.recent)) == MOST_RECENT


def test_settings_survive_and_a_folder_that_cannot_be_made_costs_nothing(tmp_path):
    places = Places(
        tmp_path / "config" / "settings.json", tmp_path / "recovery", tmp_path / "store.sqlite", tmp_path / "kept"
    )
    places.write_settings(Settings("dark", 1.2, ("a",)))
    assert places.read_settings() == Settings("dark", 1.2, ("a",))
    (tmp_path / "file").write_text("", encoding="utf-8")
    blocked = Places(
        tmp_path / "file" / "settings.json", tmp_path / "recovery", tmp_path / "store.sqlite", tmp_path / "kept"
    )
    blocked.write_settings(Settings("dark"))
    assert blocked.read_settings() == Settings()


def test_a_journal_that_cannot_be_written_is_said(qtbot, tmp_path, store):
    (tmp_path / "file").write_text("", encoding="utf-8")
    desk = FileDesk(
        Places(tmp_path / "settings.json", tmp_path / "file" / "recovery", tmp_path / "store.sqlite", tmp_path / "kept")
    )
    said = heard(desk.trouble)
    desk.adopt(store, None)
    store.attempt(edits.set_count, "pack", 2)
    qtbot.waitUntil(lambda: bool(said), timeout=3000)
    assert "The recovery journal cannot be written" in said[0][0]
    assert "Save often" in said[0][0]


def test_two_desks_on_one_file(qtbot, tmp_path, store):
    places = Places(tmp_path / "settings.json", tmp_path / "recovery", tmp_path / "store.sqlite", tmp_path / "kept")
    path = tmp_path / "a.union.json"
    one, other = FileDesk(places), FileDesk(places)
    one.adopt(store, None)
    assert one.save(path)
    assert other.taken_elsewhere(path)
    assert not one.taken_elsewhere(path)
    one.release()
    assert not other.taken_elsewhere(path)
    assert [p.name for p in tmp_path.iterdir() if p.name.endswith(".lock")] == []
