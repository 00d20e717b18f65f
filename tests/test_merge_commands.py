"""Merge and diff on the command line, and as git calls them in two clones of one repository."""

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest
from typer.testing import CliRunner

import edits
from wired_union.catalogue.demo import demo
from wired_union.cli.main import app
from wired_union.project.file import load, save
from wired_union.project.kept import Kept, folder_beside
from wired_union.project.notebook_model import Version

BASE = demo()


def run(*arguments: object):
    return CliRunner().invoke(app, [str(a) for a in arguments])


@pytest.fixture
def files(tmp_path):
    """Three files: the base, ours with another mass and one more lane, theirs with another mass and a count."""
    ours = edits.add_subsystem(edits.set_part_value(BASE, "core-tube", "mass_kg", 0.605).after, "Lights").after
    theirs = edits.set_part_value(BASE, "core-tube", "mass_kg", 0.59).after
    theirs = edits.set_count(theirs, "limit-switch", 3).after
    found = [tmp_path / f"{name}.union.json" for name in ("base", "ours", "theirs")]
    for path, project in zip(found, (BASE, ours, theirs), strict=True):
        save(project, path)
    return found


def test_a_conflict_is_told_and_nothing_is_written(files, tmp_path):
    out = tmp_path / "out.union.json"
    told = run("merge", *files, "-o", out)
    assert told.exit_code == 1
    assert not out.exists()
    assert "Core tube, mass" in told.output
    assert "605" in told.output
    assert "590" in told.output
    assert "Nothing is written" in told.output
    found = json.loads(run("merge", *files, "-o", out, "--json").stdout)
    assert found["open"] == 1
    assert found["written"] is None
    assert found["conflicts"][0]["id"] == "concepts/a/items/core-tube/part/mass_kg"


@pytest.mark.parametrize(("how", "mass"), [
    (["--take", "ours"], 0.605), (["--take", "theirs"], 0.59),
    (["--choose", "concepts/a/items/core-tube/part/mass_kg=theirs"], 0.59),
])  # fmt: skip
def test_a_settled_merge_is_written_with_both_sides_edits(files, tmp_path, how, mass):
    out = tmp_path / "out.union.json"
    assert run("merge", *files, "-o", out, *how).exit_code == 0
    concept = load(out).concept
    items = {i.id: i for i in concept.items}
    assert items["core-tube"].part.mass_kg == mass
    assert items["limit-switch"].count == 3
    assert concept.subsystems[-1].name == "Lights"


def test_without_a_base_it_asks_which_came_first(files, tmp_path):
    out = tmp_path / "out.union.json"
    told = run("merge", *files[1:], "-o", out)
    assert told.exit_code == 2
    assert "which came first" in told.output
    assert run("merge", *files[1:], "-o", out, "--first", "ours").exit_code == 0
    assert load(out) == load(files[2])
    assert run("merge", *files[1:], "-o", out, "--first", "neither").exit_code == 1


def test_a_version_that_both_have_is_the_base(files, tmp_path):
    for path in files[1:]:
        digest = Kept((folder_beside(path),)).put_project(BASE)
        knot = Version(id="a1", name="A1", on="2026-11-20", digest=digest)
        save(load(path).but(versions=(knot,)), path)
    out = tmp_path / "out.union.json"
    told = run("merge", *files[1:], "-o", out, "--take", "theirs")
    assert told.exit_code == 0, told.output
    assert "both started from A1, 2026-11-20" in told.output
    assert load(out).concept.subsystems[-1].name == "Lights"
    assert Kept((folder_beside(out),)).project(load(out).versions[0]) == BASE


@pytest.mark.parametrize(("arguments", "said"), [
    (["a.json"], "three files"), (["no.json", "no2.json", "no3.json"], "cannot be read"),
])  # fmt: skip
def test_what_cannot_be_merged_is_said(arguments, said, tmp_path):
    told = run("merge", *arguments, "-o", tmp_path / "out.json")
    assert told.exit_code == 2
    assert said in told.output
    assert not (tmp_path / "out.json").exists()


def test_diff_tells_every_difference(files):
    told = run("diff", files[0], files[2])
    assert told.exit_code == 0
    assert len(told.stdout.splitlines()) == 2
    assert json.loads(run("diff", files[0], files[2], "--json").stdout)["changed"] == told.stdout.splitlines()
    assert run("diff", files[0], files[0]).stdout == "nothing differs\n"


@pytest.fixture
def git(tmp_path):
    """Runs git as somebody, with the program on its way."""
    if shutil.which("git") is None:
        pytest.skip("git is not here")
    here = tmp_path / "bin"
    here.mkdir()
    program = here / "wired-union"
    program.write_text(f'#!/bin/sh\nexec "{sys.executable}" -m wired_union "$@"\n')
    program.chmod(0o755)
    source = str(Path(__file__).parents[1] / "src")
    told = {"HOME": str(tmp_path), "PATH": f"{here}:{os.environ['PATH']}", "PYTHONPATH": source,
            "GIT_CONFIG_NOSYSTEM": "1", "GIT_AUTHOR_NAME": "Ada", "GIT_AUTHOR_EMAIL": "ada@example.org",
            "GIT_COMMITTER_NAME": "Ada", "GIT_COMMITTER_EMAIL": "ada@example.org"}  # fmt: skip

    def call(folder: Path, *arguments: str, fails: bool = False) -> str:
        done = subprocess.run(["git", *arguments], cwd=folder, env=told, capture_output=True, text=True)
        assert (done.returncode != 0) == fails, done.stdout + done.stderr
        return done.stdout + done.stderr

    call.tell = told
    return call


def test_two_clones_are_merged_by_git(tmp_path, git):
    """One member weighs, the other counts: git merges by meaning. Both weigh otherwise: git stops, ours stays whole."""
    first, second = tmp_path / "ada", tmp_path / "sol"
    first.mkdir()
    git(first, "init", "-b", "main")
    save(BASE, first / "rover.union.json")
    subprocess.run(["wired-union", "setup-git", "--write"], cwd=first, env=git.tell, check=True, capture_output=True)
    git(first, "add", "rover.union.json", ".gitattributes")
    git(first, "commit", "-m", "the rover")
    git(tmp_path, "clone", str(first), str(second))
    mine, other = first / "rover.union.json", second / "rover.union.json"
    save(edits.set_part_value(BASE, "core-tube", "mass_kg", 0.605).after, mine)
    git(first, "commit", "-am", "core tube 605 g")
    save(edits.set_count(BASE, "limit-switch", 3).after, other)
    assert "Core tube: mass 605\u202fg instead of 610\u202fg" in git(first, "diff", "HEAD~1", "HEAD")
    git(second, "commit", "-am", "three switches")
    git(first, "pull", "--no-rebase", "--no-edit", str(second), "main")
    both = {i.id: i for i in load(mine).concept.items}
    assert (both["core-tube"].part.mass_kg, both["limit-switch"].count) == (0.605, 3)
    assert not list(first.glob("*.before"))[1:]

    save(edits.set_part_value(load(other), "core-tube", "mass_kg", 0.59).after, other)
    git(second, "commit", "-am", "core tube 590 g")
    said = git(first, "pull", "--no-rebase", "--no-edit", str(second), "main", fails=True)
    assert "CONFLICT" in said
    assert next(i for i in load(mine).concept.items if i.id == "core-tube").part.mass_kg == 0.605
    assert "both modified" in git(first, "status")
