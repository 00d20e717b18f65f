"""The project file: whole or not at all, readable differences, clear refusals, nothing lost."""

import json
import pickle
from pathlib import Path

import pytest

import edits
from builders import a_pack, a_part, a_project
from wired_union.project.errors import BrokenFile, FileError, NewerFormat
from wired_union.project.file import backup_of, from_text, load, save, to_text, write_whole
from wired_union.project.journal import Journal, find_unsaved


@pytest.fixture
def project():
    return a_project(a_pack(), a_part("deck"))


def test_saving_and_opening_gives_the_same_value(project, tmp_path):
    path = tmp_path / "a.union.json"
    save(project, path)
    assert load(path) == project
    assert [p.name for p in tmp_path.iterdir()] == ["a.union.json"]


def test_the_last_version_is_kept_beside_it(project, tmp_path):
    path = tmp_path / "a.union.json"
    save(project, path)
    later = edits.set_count(project, "deck", 3).after
    save(later, path)
    assert load(path) == later
    assert load(backup_of(path)) == project


def test_one_edit_changes_one_line(project):
    before = to_text(project).splitlines()
    after = to_text(edits.set_count(project, "deck", 3).after).splitlines()
    assert [(a, b) for a, b in zip(before, after, strict=True) if a != b] == [
        ('          "count": 1,', '          "count": 3,')
    ]


def test_keys_it_does_not_know_are_kept_and_written_back(project, tmp_path):
    data = json.loads(to_text(project))
    data["colour_of_the_flag"] = "green"
    data["concepts"][0]["items"][0]["part"]["pack"]["smell"] = {"like": "mud"}
    path = tmp_path / "a.union.json"
    path.write_text(json.dumps(data), encoding="utf-8")
    save(edits.set_count(load(path), "deck", 2).after, path)
    kept = json.loads(path.read_text(encoding="utf-8"))
    assert kept["colour_of_the_flag"] == "green"
    assert kept["concepts"][0]["items"][0]["part"]["pack"]["smell"] == {"like": "mud"}


def test_a_newer_format_is_refused_by_name(project, tmp_path):
    data = json.loads(to_text(project))
    data["version"] = 7
    path = tmp_path / "a.union.json"
    path.write_text(json.dumps(data), encoding="utf-8")
    with pytest.raises(NewerFormat) as refusal:
        load(path)
    assert str(refusal.value) == (
        "a.union.json is written in format 7; this program reads up to format 1."
        " Open it with a newer Wired Union. Nothing was changed."
    )


def test_broken_json_is_reported_with_line_and_column(project, tmp_path):
    path = tmp_path / "a.union.json"
    text = to_text(project).replace('"version": 1,', '"version" 1,')
    path.write_text(text, encoding="utf-8")
    with pytest.raises(BrokenFile) as refusal:
        load(path)
    assert (refusal.value.line, refusal.value.column) == (3, 13)
    assert path.read_text(encoding="utf-8") == text
    assert "Nothing was overwritten" in str(refusal.value)


def test_a_bad_value_is_found_down_to_its_line_and_column(project, tmp_path):
    path = tmp_path / "a.union.json"
    lines = to_text(project).splitlines()
    at = next(i for i, line in enumerate(lines) if '"count"' in line)
    lines[at] = lines[at].replace("1", '"many"')
    path.write_text("\n".join(lines), encoding="utf-8")
    with pytest.raises(BrokenFile) as refusal:
        load(path)
    assert refusal.value.line == at + 1
    assert refusal.value.column == lines[at].index('"many"') + 1
    assert refusal.value.reason.startswith("concepts.0.items.0.count: must be a whole number")


def test_the_last_good_version_is_offered(project, tmp_path):
    path = tmp_path / "a.union.json"
    save(project, path)
    save(project, path)
    path.write_text("{", encoding="utf-8")
    with pytest.raises(BrokenFile) as refusal:
        load(path)
    assert refusal.value.last_good == backup_of(path)
    assert load(refusal.value.last_good) == project
    assert "a.union.json.before" in str(refusal.value)


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda d: d["concepts"][0]["feeds"].append({"source": "pack", "load": "ghost"}), "which does not exist"),
        (lambda d: d["concepts"][0]["items"].append(d["concepts"][0]["items"][0]), "two items share the id “pack”"),
        (lambda d: d["concepts"][0]["feeds"].extend([{"source": "pack", "load": "deck"},
                                                     {"source": "deck", "load": "pack"}]), "in a ring"),
        (lambda d: d["concepts"][0]["feeds"].extend([{"source": "pack", "load": "deck"}] * 2), "is fed twice"),
        (lambda d: d["concepts"][0]["mission"]["phases"].append({"mode": "fly", "duration_s": 5}), "mode “fly”"),
        (lambda d: d["concepts"][0]["items"][0].update(subsystem="moon"), "subsystem “moon”"),
        (lambda d: d.update(concepts=[]), "concepts: must hold at least one"),
        (lambda d: d.update(format="something-else"), "it is not a Wired Union project"),
    ],
)  # fmt: skip
def test_a_file_that_does_not_join_up_is_refused_with_the_reason(project, tmp_path, change, said):
    data = json.loads(to_text(project))
    change(data)
    with pytest.raises(BrokenFile, match=said):
        from_text(json.dumps(data), tmp_path / "a.union.json")


def test_a_binary_file_and_a_missing_one_are_refused(tmp_path):
    path = tmp_path / "a.union.json"
    path.write_bytes(b"\xff\xfe\x00")
    with pytest.raises(BrokenFile, match="it is not text"):
        load(path)
    with pytest.raises(FileError, match=r"b\.union\.json cannot be read: no such file or directory"):
        load(tmp_path / "b.union.json")


def test_a_full_disk_leaves_the_old_file_and_says_what_to_do(project, tmp_path, monkeypatch):
    path = tmp_path / "a.union.json"
    save(project, path)
    before = path.read_text(encoding="utf-8")

    def full(*_args):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("os.fsync", full)
    with pytest.raises(FileError) as refusal:
        save(edits.set_count(project, "deck", 9).after, path)
    assert "no space left on device" in str(refusal.value)
    assert "Your work is still open" in str(refusal.value)
    assert path.read_text(encoding="utf-8") == before
    assert [p.name for p in tmp_path.iterdir()] == ["a.union.json"]


def test_a_folder_that_is_no_folder_says_what_to_do(project, tmp_path):
    (tmp_path / "file").write_text("x", encoding="utf-8")
    with pytest.raises(FileError, match="Save it under another name or folder"):
        save(project, tmp_path / "file" / "a.union.json")


def test_errors_can_be_pickled():
    broken = BrokenFile(Path("a"), 1, 2, "why", None)
    assert str(pickle.loads(pickle.dumps(broken))) == str(broken)
    newer = NewerFormat(Path("a"), 3, 1)
    assert str(pickle.loads(pickle.dumps(newer))) == str(newer)


def test_a_journal_of_a_dead_process_is_found_with_its_edits(project, tmp_path):
    Journal(tmp_path / "1-x.journal.json").write(project, tmp_path / "a.union.json", ("swap a for b",))
    assert find_unsaved(tmp_path) == ()  # this process still runs
    path = tmp_path / "1-x.journal.json"
    head, text = path.read_text(encoding="utf-8").split("\n", 1)
    data = json.loads(head)
    data["process"] = 2**22 + 12345  # above the largest process number of Linux
    write_whole(path, json.dumps(data) + "\n" + text)
    (found,) = find_unsaved(tmp_path)
    assert found.project == project
    assert found.edits == ("swap a for b",)
    assert found.file == tmp_path / "a.union.json"


def test_a_broken_journal_is_passed_over_and_kept(tmp_path):
    path = tmp_path / "9-x.journal.json"
    path.write_text("half a li", encoding="utf-8")
    assert find_unsaved(tmp_path) == ()
    assert path.exists()
