"""Two members, one truth: merge and diff on the command line, and as drivers of a version control."""

import shlex
import subprocess
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Annotated, Any, Literal, cast

import typer

from wired_union.kernel.merge_words import Told, summary, told
from wired_union.project.merge import Merged, Side, merged
from wired_union.project.model import Project
from wired_union.subjects import assess
from wired_union.terminal import AsJson, ProjectFile, print_json, stop

First = Literal["ours", "theirs", "neither"]
Files = Annotated[list[Path], typer.Argument(help="BASE OURS THEIRS; or OURS THEIRS, where nobody kept the base.")]
Out = Annotated[Path, typer.Option("-o", "--output", help="The file to write, once nothing is open.")]
SIDES = ("ours", "theirs")


def merge(
    files: Files,
    output: Out,
    take: Annotated[str, typer.Option(help="ours or theirs: settles every conflict that is left.")] = "",
    choose: Annotated[
        list[str] | None, typer.Option(help="ID=ours or ID=theirs: settles one conflict, as --json names it.")
    ] = None,
    first: Annotated[str, typer.Option(help="Without a base: which file came first? ours, theirs, neither.")] = "",
    path: Annotated[str, typer.Option(hidden=True, help="For git: the file that it is.")] = "",
    as_json: AsJson = False,
) -> None:
    """Merge two members' files by meaning. Exit status: 0 written, 1 a conflict is open, 2 a file cannot be read."""
    from wired_union.project.errors import ProjectError

    if len(files) not in (2, 3):
        stop("Give three files, BASE OURS THEIRS, or two, OURS THEIRS.")
    if take and take not in SIDES:
        stop(f"--take is ours or theirs, not “{take}”.")
    chosen = _chosen(choose or [])
    try:
        ours, theirs = _loaded(files[-2]), _loaded(files[-1])
        base = _base(files, ours, theirs, first, asks=not as_json)
        found = merged(base, ours, theirs, chosen, cast(Side, take) or None)
    except ProjectError as error:
        stop(str(error))
    units = assess(ours).units if found.conflicts else {}
    conflicts = [told(c, base, ours, theirs, units) for c in found.conflicts]
    if not found.open:
        _write(found.project, output, () if path else files)
    _say(found, conflicts, output, as_json)
    raise typer.Exit(1 if found.open else 0)


def _chosen(texts: list[str]) -> dict[str, Side]:
    found: dict[str, Side] = {}
    for text in texts:
        conflict, _, side = text.rpartition("=")
        if side not in SIDES or not conflict:
            stop(f"“{text}”: write --choose ID=ours or ID=theirs; --json names the ids.")
        found[conflict] = cast(Side, side)
    return found


def _loaded(path: Path) -> Project:
    from wired_union.project.file import load

    return load(path)


def _base(files: list[Path], ours: Project, theirs: Project, first: str, *, asks: bool) -> Project | None:
    """What both came from: the file that was given, a version both have, or what somebody says."""
    from wired_union.project.common import common_version
    from wired_union.project.kept import Kept, folder_beside

    if len(files) == 3:
        empty = files[0].is_file() and not files[0].stat().st_size  # git's base of what both sides added
        return None if empty else _loaded(files[0])
    if not first:
        kept = Kept((folder_beside(files[0]), folder_beside(files[1])))
        found = common_version(ours, theirs, kept)
        if found is not None:
            typer.echo(f"both started from {found[0].name}, {found[0].on}", err=True)
            return found[1]
        first = _asked() if asks and sys.stdin.isatty() else ""
    sides: dict[str, Project | None] = {"ours": ours, "theirs": theirs, "neither": None}
    if first not in sides:
        stop("There is no base, and no version that both have. Say which came first: --first ours, theirs or neither.")
    return sides[first]


def _asked() -> str:
    return str(typer.prompt("Which file came first, ours, theirs or neither?", default="neither")).strip().lower()


def _write(project: Project, output: Path, files: Sequence[Path]) -> None:
    """Write the merged project, and put together what is kept beside the files.

    For git, `files` is empty: it hands over temporary ones, and merges what is kept by itself.
    """
    from wired_union.project.errors import FileError
    from wired_union.project.file import save, to_text, write_whole
    from wired_union.project.kept import Kept, folder_beside, named

    try:
        if not files:
            write_whole(output, to_text(project))
            return
        save(project, output)
        if any(named(project)):
            missing = Kept(tuple(folder_beside(f) for f in files)).bring(project, folder_beside(output))
            for name in missing:
                typer.echo(f"not found beside any of the files: {name}", err=True)
    except (FileError, OSError) as error:
        stop(str(error))


def _say(found: Merged, conflicts: list[Told], output: Path, as_json: bool) -> None:
    still = {c.id for c in found.open}
    if as_json:
        print_json({"open": len(still), "from_ours": found.from_ours, "from_theirs": found.from_theirs,
                    "alike": found.alike, "written": None if still else str(output),
                    "conflicts": [_conflict(c, c.id not in still) for c in conflicts]})  # fmt: skip
        return
    for c in conflicts:
        state = "open" if c.id in still else "settled"
        typer.echo(f"{state:8} {c.title}")
        for side, value, source in (("ours", c.ours, c.ours_from), ("theirs", c.theirs, c.theirs_from)):
            typer.echo(f"         {side}: {value}{f' ({source})' if source else ''}")
    typer.echo(summary(found))
    typer.echo("Nothing is written. Settle what is open with --choose or --take, or in the window." if still
               else f"{output} written")  # fmt: skip


def _conflict(c: Told, settled: bool) -> dict[str, Any]:
    return {"id": c.id, "title": c.title, "ours": c.ours, "theirs": c.theirs, "ours_from": c.ours_from,
            "theirs_from": c.theirs_from, "better_known": c.better_known, "settled": settled}  # fmt: skip


def diff(before: ProjectFile, after: ProjectFile, as_json: AsJson = False) -> None:
    """Tell every difference between two projects. Exit status 0, whether there is one or not."""
    from wired_union.kernel.differences import differences
    from wired_union.terminal import read_project

    one, other = read_project(before), read_project(after)
    changed = differences(one, other, assess(other).units)
    if as_json:
        print_json({"before": before, "after": after, "changed": changed})
        return
    for line in changed or ["nothing differs"]:
        typer.echo(line)


def diff_driver(arguments: Annotated[list[str], typer.Argument(help="What git hands a diff driver.")]) -> None:
    """For git: tell the differences between two states of a project file."""
    from wired_union.kernel.differences import differences
    from wired_union.project.errors import ProjectError

    if len(arguments) < 5:
        stop("git hands a diff driver seven arguments: path, old file, old hex, old mode, new file, new hex, new mode.")
    path, old, new = arguments[0], Path(arguments[1]), Path(arguments[4])
    typer.echo(f"{path}:")
    try:
        sides = [None if p == Path("/dev/null") else _loaded(p) for p in (old, new)]
    except ProjectError as error:
        typer.echo(f"  {error}")
        return
    one, other = sides
    if one is None or other is None:
        typer.echo("  the project is new" if one is None else "  the project is gone")
        return
    for line in differences(one, other, assess(other).units) or ["nothing differs but its form"]:
        typer.echo(f"  {line}")


ATTRIBUTES = "*.union.json merge=wired-union diff=wired-union"
CONFIG = (
    ("merge.wired-union.name", "projects of Wired Union, by meaning"),
    ("merge.wired-union.driver", "wired-union merge %O %A %B -o %A --path %P"),
    ("diff.wired-union.command", "wired-union diff-driver"),
)


def setup_git(
    write: Annotated[bool, typer.Option("--write", help="Write them into this repository.")] = False,
) -> None:
    """Print the lines that make git merge and diff projects by meaning; with --write, write them."""
    if not write:
        typer.echo(f"# .gitattributes\n{ATTRIBUTES}\n\n# once in every clone")
        for key, value in CONFIG:
            typer.echo(f"git config {key} {shlex.quote(value)}")
        typer.echo("\nwired-union setup-git --write does both in the repository that you are in.")
        return
    try:
        top = subprocess.run(["git", "rev-parse", "--show-toplevel"], capture_output=True, text=True, check=True)
        root = Path(top.stdout.strip())
        for key, value in CONFIG:
            subprocess.run(["git", "config", key, value], cwd=root, check=True)
        attributes = root / ".gitattributes"
        lines = attributes.read_text(encoding="utf-8").splitlines() if attributes.exists() else []
        if ATTRIBUTES not in lines:
            attributes.write_text("\n".join([*lines, ATTRIBUTES, ""]), encoding="utf-8")
    except (OSError, subprocess.CalledProcessError) as error:
        stop(f"Not written: this is no git repository that can be written, or git is not there ({error}).")
    typer.echo(f"{attributes} and the configuration of {root} now name the drivers")


def add(app: typer.Typer) -> None:
    """Add the commands to the command line."""
    app.command()(merge)
    app.command()(diff)
    app.command("diff-driver", hidden=True)(diff_driver)
    app.command("setup-git")(setup_git)
