"""A place among the desktop's programs: entry, icon, file type, manual page, completions, in the user's own folders."""

import os
import shutil
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Annotated

import typer

from wired_union.project.file import write_whole
from wired_union.shipped import DESKTOP
from wired_union.terminal import stop

APP = "org.wiredunion.WiredUnion"
PLACES = {
    f"{APP}.desktop": "applications", f"{APP}.metainfo.xml": "metainfo", "wired-union-mime.xml": "mime/packages",
    f"{APP}.svg": "icons/hicolor/scalable/apps", f"{APP}.png": "icons/hicolor/128x128/apps",
    "application-x-wired-union+json.svg": "icons/hicolor/scalable/mimetypes", "wired-union.1": "man/man1",
    "wired-union.bash": "bash-completion/completions", "_wired-union": "zsh/site-functions",
    "wired-union.fish": "fish/vendor_completions.d",
}  # fmt: skip
"""Where each file goes below the user's data folder, by the specifications of freedesktop.org."""
RENAMED = {"wired-union.bash": "wired-union"}
"""bash looks for a completion by the command's name."""


def data_home() -> Path:
    """The user's data folder, by the XDG Base Directory Specification."""
    said = os.environ.get("XDG_DATA_HOME", "")
    return Path(said) if said.startswith("/") else Path.home() / ".local" / "share"


def targets(home: Path) -> Iterator[tuple[Path, Path]]:
    """Each file as it ships, and where it goes."""
    for name, folder in PLACES.items():
        yield DESKTOP / name, home / folder / RENAMED.get(name, name)


def program() -> str:
    """The command as the desktop calls it: with its whole path, quoted as the Desktop Entry Specification has it."""
    found = shutil.which("wired-union") or str(Path(sys.argv[0]).resolve())
    if not any(c in found for c in " \t\n\"'\\><~|&;$*?#()`"):
        return found
    return '"' + "".join(f"\\{c}" if c in '"`$\\' else c for c in found) + '"'


def setup_desktop(
    remove: Annotated[bool, typer.Option("--remove", help="Take them away again.")] = False,
) -> None:
    """Put the program among the desktop's: entry, icon, file type, manual page, completions; or take it away again."""
    home = data_home()
    try:
        for source, target in targets(home):
            if remove:
                target.unlink(missing_ok=True)
                continue
            target.parent.mkdir(parents=True, exist_ok=True)
            data = source.read_bytes()
            if target.suffix == ".desktop":
                data = data.replace(b"Exec=wired-union ", f"Exec={program()} ".encode())
            write_whole(target, data)
    except OSError as error:
        stop(f"Not done: {error.filename or home} cannot be written ({error.strerror}). Nothing else was changed.")
    for words in (["update-mime-database", str(home / "mime")], ["update-desktop-database", str(home / "applications")],
                  ["gtk-update-icon-cache", "-q", "-t", str(home / "icons" / "hicolor")]):  # fmt: skip
        _refresh(words)
    done = f"Done: {len(PLACES)} files below {home}. A project now opens by a double click."
    typer.echo("Taken away again." if remove else f"{done} `wired-union setup-desktop --remove` takes them away.")


def _refresh(words: list[str]) -> None:
    """Tell the desktop, where it has the tool; without it, it sees the files at the next login."""
    tool = shutil.which(words[0])
    if tool is not None and Path(words[-1]).is_dir():
        subprocess.run([tool, *words[1:]], check=False, capture_output=True)


def add(app: typer.Typer) -> None:
    """Add the command to the command line."""
    app.command("setup-desktop")(setup_desktop)
