"""The program as it is installed: wheel, sdist, desktop entry, file type, manual page, completions."""

import os
import re
import shutil
import subprocess
import sys
import tarfile
import zipfile
from pathlib import Path
from xml.etree import ElementTree

import numpy
import pytest
from typer.testing import CliRunner
from xdg.DesktopEntry import DesktopEntry

from wired_union import __version__
from wired_union.cli.desktop import APP, PLACES
from wired_union.cli.main import app
from wired_union.cli.manual import commands, made_files
from wired_union.shipped import DESKTOP

ROOT = Path(__file__).parents[1]
DEPENDENCIES = Path(numpy.__file__).parents[1]


def run(words: list[str], **more) -> subprocess.CompletedProcess[str]:
    done = subprocess.run(words, capture_output=True, text=True, timeout=300, **more)
    assert done.returncode in (0, 1), f"{words}\n{done.stdout}\n{done.stderr}"
    return done


@pytest.fixture(scope="module")
def tree(tmp_path_factory) -> Path:
    """The project's files without what a build or a test left in them."""
    copy = tmp_path_factory.mktemp("tree") / "wired-union"
    left = shutil.ignore_patterns(".*", "__pycache__", "*.egg-info", "build", "dist")
    shutil.copytree(ROOT, copy, ignore=left)
    return copy


@pytest.fixture(scope="module")
def wheel(tree, tmp_path_factory) -> Path:
    out = tmp_path_factory.mktemp("wheel")
    run(
        [
            sys.executable,
            "-m",
            "pip",
            "wheel",
            "--quiet",
            "--no-deps",
            "--no-build-isolation",
            "-w",
            str(out),
            str(tree),
        ]
    )
    (made,) = out.glob("*.whl")
    return made


def test_the_wheel_holds_everything_that_the_program_opens(wheel):
    assert wheel.name.startswith(f"wired_union-{__version__}-py3-none-any")
    with zipfile.ZipFile(wheel) as files:
        names = set(files.namelist())
        told = files.read(next(n for n in names if n.endswith(".dist-info/METADATA"))).decode()
    source = ROOT / "src"
    shipped = {str(p.relative_to(source)) for p in (source / "wired_union").rglob("*")
               if p.is_file() and "__pycache__" not in p.parts}  # fmt: skip
    assert shipped <= names, sorted(shipped - names)[:10]
    assert any(n.endswith("share/man/man1/wired-union.1") for n in names)
    assert "License-Expression: GPL-3.0-or-later" in told
    assert any(n.endswith("LICENSE") for n in names)


def test_the_sdist_holds_tests_docs_and_scripts(tree, tmp_path):
    code = f"from setuptools import build_meta; print(build_meta.build_sdist({str(tmp_path)!r}))"
    run([sys.executable, "-c", code], cwd=tree)
    (made,) = tmp_path.glob("*.tar.gz")
    with tarfile.open(made) as files:
        names = {n.partition("/")[2] for n in files.getnames()}
    assert {"LICENSE", "README.md", "CHANGELOG.md", "docs/methods.md", "script/test", "tests/test_packaging.py",
            "requirements.lock"} <= names  # fmt: skip


def test_installed_in_a_fresh_environment_it_starts(wheel, tmp_path):
    """The wheel alone is new there; what it needs comes from where the tests run. The window opens and draws."""
    home = tmp_path / "venv"
    run([sys.executable, "-m", "venv", "--without-pip", str(home)])
    python = home / "bin" / "python"
    target = run([str(python), "-c", "import sysconfig; print(sysconfig.get_path('purelib'))"]).stdout.strip()
    run([sys.executable, "-m", "pip", "install", "--quiet", "--no-deps", "--no-index", "--target", target, str(wheel)])
    clean = {k: v for k, v in os.environ.items() if not k.startswith(("PYTHON", "XDG", "COV"))}
    told = clean | {"PYTHONPATH": str(DEPENDENCIES), "QT_QPA_PLATFORM": "offscreen", "HOME": str(tmp_path)}
    where = run([str(python), "-c", "import wired_union; print(wired_union.__file__)"], env=told).stdout
    assert where.startswith(str(home))
    done = run([str(python), "-m", "wired_union", "check", "demo"], env=told, cwd=tmp_path)
    assert "breaks   Runtime: 4.36" in done.stdout
    archive = tmp_path / "all.zip"
    run([str(python), "-m", "wired_union", "everything", "demo", "-o", str(archive)], env=told, cwd=tmp_path)
    assert archive.stat().st_size > 1_000_000
    start = (
        "from wired_union.app.run import make_app, make_window\n"
        "app = make_app(['wired-union']); window = make_window(); window.open_demo('mudlark'); window.show()\n"
        "app.processEvents(); assert not app.windowIcon().isNull(); print(window.grab().width(), flush=True)\n"
        "import os; os._exit(0)\n"
    )
    assert int(run([str(python), "-c", start], env=told, cwd=tmp_path).stdout) == 1280


def test_what_is_made_from_the_commands_is_fresh():
    for name, text in made_files(app).items():
        assert (DESKTOP / name).read_text(encoding="utf-8") == text, f"{name}: run script/docs"


def test_the_manual_page_and_every_completion_name_every_command_and_option():
    texts = made_files(app)
    for command in commands(app):
        for name, text in texts.items():
            assert command.name in text.replace("\\-", "-"), (command.name, name)
        for option in (n for o in command.options for n in o.names):
            assert option in texts["wired-union.1"].replace("\\-", "-")
            assert option in texts["wired-union.bash"]
    assert "diff-driver" not in "".join(texts.values())
    if shutil.which("bash"):
        script = f"source {DESKTOP / 'wired-union.bash'}; COMP_WORDS=(wired-union mer); COMP_CWORD=1; _wired_union;"
        assert run(["bash", "-c", f'{script} echo "${{COMPREPLY[@]}}"']).stdout.strip() == "merge"


def test_the_desktop_entry_is_as_the_specification_has_it():
    entry = DesktopEntry(str(DESKTOP / f"{APP}.desktop"))
    entry.validate()
    assert entry.getExec().startswith("wired-union ")
    assert entry.getMimeTypes() == ["application/x-wired-union+json"]


def test_the_metadata_has_what_a_software_centre_asks_for():
    """The tags that AppStream 1.0 wants of a desktop application; its own tool decides where it is there."""
    path = DESKTOP / f"{APP}.metainfo.xml"
    root = ElementTree.parse(path).getroot()
    assert root.tag == "component"
    assert root.findtext("id") == APP
    assert len(root.findtext("summary")) <= 80
    for tag in ("name", "metadata_license", "project_license", "description", "content_rating", "releases"):
        assert root.find(tag) is not None, tag
    assert root.find("launchable").text == f"{APP}.desktop"
    assert root.find("releases/release").get("version") == __version__
    if shutil.which("appstreamcli"):
        assert run(["appstreamcli", "validate", "--no-net", str(path)]).returncode == 0


def test_it_finds_its_place_on_the_desktop_and_leaves_it_again(tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    (tmp_path / "applications").mkdir()
    (tmp_path / "applications" / "other.desktop").write_text("mine")
    done = CliRunner().invoke(app, ["setup-desktop"])
    assert done.exit_code == 0, done.output
    there = [p for p in tmp_path.rglob("*") if p.is_file()]
    assert len([p for p in there if "ired" in p.name]) >= len(PLACES)
    entry = DesktopEntry(str(tmp_path / "applications" / f"{APP}.desktop"))
    entry.validate()
    assert Path(re.sub(r" open %f$", "", entry.getExec()).strip('"')).is_absolute()
    types = ElementTree.parse(tmp_path / "mime" / "packages" / "wired-union-mime.xml")
    glob = types.find(".//{*}glob")
    assert glob.get("pattern") == "*.union.json"
    if shutil.which("update-mime-database"):
        assert "application/x-wired-union+json:*.union.json" in (tmp_path / "mime" / "globs2").read_text()
    assert CliRunner().invoke(app, ["setup-desktop", "--remove"]).exit_code == 0
    assert not [p for p in tmp_path.rglob("*") if p.is_file() and "ired" in p.name]
    assert (tmp_path / "applications" / "other.desktop").read_text() == "mine"


def test_a_folder_that_cannot_be_written_is_said(tmp_path, monkeypatch):
    (tmp_path / "file").write_text("")
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "file"))
    done = CliRunner().invoke(app, ["setup-desktop"])
    assert done.exit_code == 2
    assert "cannot be written" in done.output
