"""What is kept beside a project file: pictures and versions, each a file named by the SHA-256 of what is in it.

`rover.union.json` has `rover.union.kept` beside it. What is there is never written again, so two members' folders are
put together by copying. A project that is in no file yet keeps its things in the user's own folder until it is saved;
they stay there too, so that nothing is lost when a file is sent without its folder.
"""

from collections.abc import Callable, Iterable
from functools import partial
from pathlib import Path

from msgspec import Struct

from wired_union.project.errors import FileError, ProjectError
from wired_union.project.file import ENDING, from_text, read_plain, to_text, write_whole
from wired_union.project.model import Project
from wired_union.project.notebook_model import Version

KEPT = ".union.kept"
MOST_BYTES = 32 * 1024 * 1024
"""A picture that is larger is refused: a camera's are smaller."""
MOST_UNPACKED = 64 * 1024 * 1024
"""A version that unpacks to more is no project that could be opened."""
PNG, JPG = b"\x89PNG\r\n\x1a\n", b"\xff\xd8\xff"


def folder_beside(path: Path) -> Path:
    """Where the things of a project file are kept."""
    return path.with_name(path.name.removesuffix(ENDING) + KEPT)


def digest_of(data: bytes) -> str:
    """The SHA-256 of some bytes, in hexadecimal digits."""
    import hashlib  # with what it loads, not needed to open a window

    return hashlib.sha256(data).hexdigest()


class Kept(Struct, frozen=True):
    """Folders in which the things of a project are looked for; what is new goes into the first."""

    folders: tuple[Path, ...]

    def put(self, data: bytes, form: str) -> str:
        """Keep some bytes, and give what they are kept by. Raises FileError where they cannot be written."""
        digest = digest_of(data)
        self._put(digest, form, lambda: _packed(data) if form == VERSION else data)
        return digest

    def _put(self, digest: str, form: str, made: Callable[[], bytes]) -> None:
        """Write a file as it is to be kept, unless it is there already."""
        target = self.folders[0] / f"{digest}.{form}"
        if not _holds(target, digest):
            try:
                target.parent.mkdir(parents=True, exist_ok=True)
                write_whole(target, made())
            except OSError as error:
                raise FileError(
                    f"{target.name} could not be kept in {target.parent}: {error.strerror or error}. Free some space,"
                    " or save the project where you may write."
                ) from error

    def find(self, digest: str, form: str) -> Path | None:
        """Where something is kept, None where it is in none of the folders. Not read: `get` looks into it."""
        if not _is_digest(digest):
            return None
        return next((p for f in self.folders if (p := f / f"{digest}.{form}").is_file()), None)

    def get(self, digest: str, form: str) -> bytes:
        """What is kept, as it was when it was kept. Raises FileError where it is not there, or is something else."""
        return _bytes(self.whole(digest, form))

    def whole(self, digest: str, form: str) -> Path:
        """Where something is kept and is as it was. Raises FileError where it is not there, or is something else."""
        for folder in self.folders if _is_digest(digest) else ():
            if _holds(found := folder / f"{digest}.{form}", digest):
                return found
        changed = " any more as it was" if self.find(digest, form) is not None else ""
        raise FileError(
            f"{digest[:12]}….{form} is not{changed} in {' or '.join(str(f) for f in self.folders)}. It is kept beside"
            " the project file: copy that folder along with the file."
        )

    def project(self, version: Version) -> Project:
        """The project as it was in a version. Raises FileError, or as `file.load`."""
        return from_text(self.get(version.digest, VERSION).decode("utf-8"), Path(version.name))

    def put_project(self, project: Project) -> str:
        """Keep a project's value, and give what it is kept by. Raises FileError where it cannot be written."""
        return self.put(to_text(project).encode("utf-8"), VERSION)

    def bring(self, project: Project, into: Path) -> tuple[str, ...]:
        """Copy everything that a project names into a folder; gives in words what was found nowhere.

        Raises FileError where the folder cannot be written.
        """
        target, missing = Kept((into,)), []
        for name, digest, form in named(project):
            if target.find(digest, form) is not None:
                continue
            try:
                whole = self.whole(digest, form)
            except FileError:
                missing.append(name)
                continue
            target._put(digest, form, partial(read_plain, whole, MOST_BYTES))
        return tuple(missing)


VERSION = "union.json.gz"


def named(project: Project) -> Iterable[tuple[str, str, str]]:
    """What a project names of what is kept: its name in words, digest and form."""
    for entry in project.notebook:
        for photo in entry.photos:
            yield f"picture “{photo.caption or entry.text}”", photo.digest, photo.form
    for version in project.versions:
        yield f"version {version.name}", version.digest, VERSION


def photo_form(data: bytes) -> str:
    """Whether a picture is a PNG or a JPEG. Raises ProjectError for what is neither."""
    if data.startswith(PNG):
        return "png"
    if data.startswith(JPG):
        return "jpg"
    raise ProjectError("That is no PNG and no JPEG picture. Save it as one of these, and add it again.")


def read_photo(path: Path) -> bytes:
    """The bytes of a picture. Raises FileError that says why it cannot be read."""
    try:
        return read_plain(path, MOST_BYTES)
    except OSError as error:
        raise FileError(f"{path.name} cannot be read: {error.strerror or error}.") from error


def _is_digest(text: str) -> bool:
    """Whether a text is a digest, and so no way into another folder."""
    return len(text) == 64 and all(c in "0123456789abcdef" for c in text)


def _holds(path: Path, digest: str) -> bool:
    """Whether a file is there and is what it is named by."""
    try:
        return digest_of(_bytes(path)) == digest
    except (OSError, ValueError, EOFError):
        return False


def _packed(data: bytes) -> bytes:
    """The same bytes for the same text, whenever it is packed."""
    import gzip

    return gzip.compress(data, mtime=0)


def _bytes(path: Path) -> bytes:
    """What is in a file, unpacked where it is packed. Raises OSError for what is too large, packed or not."""
    data = read_plain(path, MOST_BYTES)
    if not path.name.endswith(f".{VERSION}"):
        return data
    import gzip
    import io

    with gzip.open(io.BytesIO(data)) as packed:
        whole = packed.read(MOST_UNPACKED + 1)
    if len(whole) > MOST_UNPACKED:
        raise OSError(27, f"it unpacks to more than {MOST_UNPACKED / 1e6:.0f} MB")
    return whole
