"""What is kept beside a file: by its content, never written over, found again, and what is damaged is not taken."""

import gzip
import hashlib

import pytest

import edits
from wired_union.catalogue.demo import demo
from wired_union.project import kept as kept_module
from wired_union.project.errors import FileError, ProjectError
from wired_union.project.file import to_text
from wired_union.project.history import MOST_STEPS, NAME, drop_history, read_steps, way_back, write_history
from wired_union.project.kept import VERSION, Kept, folder_beside, photo_form, read_photo
from wired_union.project.notebook_model import Entry, Photo, Version

PNG = b"\x89PNG\r\n\x1a\n" + b"mud"


def test_a_thing_is_named_by_its_sha_256(tmp_path):
    """The digest of "abc" as FIPS 180-4 gives it."""
    digest = Kept((tmp_path,)).put(b"abc", "png")
    assert digest == "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad"
    assert (tmp_path / f"{digest}.png").read_bytes() == b"abc"


def test_a_version_is_packed_and_comes_back_whatever_folder_it_is_in(tmp_path):
    project = demo("bat-counter")
    digest = Kept((tmp_path / "one",)).put_project(project)
    assert digest == hashlib.sha256(to_text(project).encode()).hexdigest()
    packed = (tmp_path / "one" / f"{digest}.{VERSION}").read_bytes()
    assert gzip.decompress(packed).decode() == to_text(project)
    both = Kept((tmp_path / "two", tmp_path / "one"))
    assert both.project(Version(id="a", name="A1", digest=digest)) == project


def test_what_is_damaged_in_one_folder_is_taken_from_the_other_and_said_where_there_is_none(tmp_path):
    good, bad = Kept((tmp_path / "good",)), Kept((tmp_path / "bad",))
    digest = good.put(PNG, "png")
    bad.put(PNG, "png")
    (tmp_path / "bad" / f"{digest}.png").write_bytes(b"\x89PNG else")
    assert Kept((*bad.folders, *good.folders)).get(digest, "png") == PNG
    with pytest.raises(FileError, match="is not any more as it was"):
        bad.get(digest, "png")
    assert bad.put(PNG, "png") == digest  # kept anew, it is whole again
    assert bad.get(digest, "png") == PNG


@pytest.mark.parametrize("digest", ["../../etc/passwd", "/etc/passwd", "", "A" * 64, "a" * 63, "a/" * 32])
def test_a_name_that_is_no_digest_leads_nowhere(tmp_path, digest):
    kept = Kept((tmp_path,))
    assert kept.find(digest, "png") is None
    with pytest.raises(FileError):
        kept.get(digest, "png")


def test_a_name_with_a_way_in_it_does_not_leave_the_folder(tmp_path):
    (tmp_path / "kept").mkdir()
    secret = tmp_path / f"{'0' * 61}.png"
    secret.write_bytes(PNG)
    assert Kept((tmp_path / "kept",)).find(f"../{'0' * 61}", "png") is None


def test_a_packed_thing_that_unpacks_to_far_too_much_is_refused(tmp_path, monkeypatch):
    monkeypatch.setattr(kept_module, "MOST_UNPACKED", 1000)
    bomb = b"0" * 5000
    digest = hashlib.sha256(bomb[:1001]).hexdigest()  # as if it ended where reading ends
    (tmp_path / f"{digest}.{VERSION}").write_bytes(gzip.compress(bomb))
    with pytest.raises(FileError):
        Kept((tmp_path,)).get(digest, VERSION)


def test_bringing_copies_what_is_named_and_tells_what_is_found_nowhere(tmp_path):
    source, project = Kept((tmp_path / "source",)), demo("bat-counter")
    shown, lost = source.put(PNG, "png"), "0" * 64
    photos = (Photo(digest=shown, form="png"), Photo(digest=lost, form="jpg", caption="gone"))
    version = Version(id="a", name="A1", digest=source.put_project(project))
    project = project.but(notebook=(Entry(when="", text="x", photos=photos),), versions=(version,))
    into = folder_beside(tmp_path / "rover.union.json")
    assert into.name == "rover.union.kept"
    assert source.bring(project, into) == ("picture “gone”",)
    assert {p.name for p in into.iterdir()} == {f"{shown}.png", f"{version.digest}.{VERSION}"}
    assert source.bring(project, into) == ("picture “gone”",)


def test_a_folder_that_cannot_be_written_is_said(tmp_path):
    (tmp_path / "file").write_text("")
    with pytest.raises(FileError, match="Free some space"):
        Kept((tmp_path / "file" / "kept",)).put(PNG, "png")


def test_pictures_are_told_by_their_first_bytes(tmp_path):
    assert photo_form(PNG) == "png"
    assert photo_form(b"\xff\xd8\xff\xe0") == "jpg"
    for data in (b"", b"GIF89a", b"<svg/>"):
        with pytest.raises(ProjectError, match="no PNG and no JPEG"):
            photo_form(data)
    with pytest.raises(FileError):
        read_photo(tmp_path / "gone.png")
    with pytest.raises(FileError):
        read_photo(tmp_path)


# the way back


def steps(count: int):
    project, out = demo("bat-counter"), []
    item = project.concept.items[0].id
    for n in range(count):
        project = edits.set_count(project, item, n + 2).after
        out.append((f"step {n}", project))
    return out


def test_the_way_back_is_written_step_by_step_and_old_ones_go(tmp_path):
    done, known = steps(6), {}
    write_history(tmp_path, done[:3], known)
    assert [s.sentence for s in way_back(tmp_path, done[2][1])] == ["step 0", "step 1", "step 2"]
    write_history(tmp_path, done[2:], known)
    kept = way_back(tmp_path, done[5][1])
    assert [s.sentence for s in kept] == ["step 2", "step 3", "step 4", "step 5"]
    assert len(list(tmp_path.glob(f"*.{VERSION}"))) == 4
    assert Kept((tmp_path,)).get(kept[0].digest, VERSION).decode() == to_text(done[2][1])


def test_a_version_outlives_the_way_back(tmp_path):
    done = steps(2)
    digest = Kept((tmp_path,)).put_project(done[0][1])
    last = done[1][1].but(versions=(Version(id="a", name="A1", digest=digest),))
    write_history(tmp_path, [done[0], ("tie", last)], {})
    write_history(tmp_path, [("tie", last)], {})
    assert (tmp_path / f"{digest}.{VERSION}").exists()
    drop_history(tmp_path, last)
    assert (tmp_path / f"{digest}.{VERSION}").exists()
    assert not (tmp_path / NAME).exists()
    assert len(list(tmp_path.iterdir())) == 1


def test_a_way_back_of_another_value_or_that_is_mangled_is_none(tmp_path):
    done = steps(3)
    write_history(tmp_path, done, {})
    assert way_back(tmp_path, done[0][1]) == ()
    for text in ("", "[", '{"steps": 3}', '{"steps": [{"sentence": 1}]}', "[" * 10_000):
        (tmp_path / NAME).write_text(text)
        assert read_steps(tmp_path) == ()
    assert MOST_STEPS >= 100
