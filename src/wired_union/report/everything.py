"""One ZIP with everything that is handed over: reports, papers of each subject, the project with what is kept of it.

`index.html` says what each file is, `manifest.json` its SHA-256, so that `verify` can tell whether it is still as made.
"""

import hashlib
import io
import json
import zipfile
from collections.abc import Callable, Collection, Iterator
from functools import partial
from pathlib import Path
from typing import Any

from wired_union.kernel.report_kinds import KINDS
from wired_union.kernel.subject import Assessment, Paper
from wired_union.project.documents import DocumentError, write_bytes
from wired_union.project.errors import ProjectError
from wired_union.project.file import ENDING, read_plain, to_text
from wired_union.project.kept import KEPT, Kept, digest_of, named
from wired_union.project.kept import MOST_BYTES as MOST_KEPT
from wired_union.report.content import Told
from wired_union.report.write import index_html, report_html, report_pdf

MANIFEST, INDEX = "manifest.json", "index.html"
FORMAT = "wired-union-everything"
MOST_BYTES = 2_000_000_000
_LONG_AGO = (1980, 1, 1, 0, 0, 0)
"""The day of every file in the archive, so that the same project gives the same bytes."""
ENDINGS: dict[str, tuple[str, ...]] = {
    "whole": ("html", "pdf"), "judge": ("pdf",), "builder": ("html", "pdf"), "successor": ("html", "pdf"),
}  # fmt: skip


def papers_of(assessment: Assessment, kept: Kept, today: str, left_out: Collection[str] = ()) -> Iterator[Paper]:
    """Everything that is handed over, in the order of the index."""
    writers: dict[str, Callable[..., bytes]] = {"html": report_html, "pdf": report_pdf}
    for kind, words in KINDS.items():
        for ending in ENDINGS[kind]:
            name = "report" if kind == "whole" else f"report-{kind}"
            yield Paper(f"{name}.{ending}", f"the report: {words}",
                        partial(writers[ending], assessment, today, kind, left_out))  # fmt: skip
    for subject in assessment.subjects:
        if subject.papers:
            yield from subject.load(subject.papers)(assessment)
    project = assessment.project
    yield Paper(f"project{ENDING}", "the project itself, to open and to go on with",
                lambda: to_text(project).encode("utf-8"))  # fmt: skip
    for name, digest, form in named(project):
        yield Paper(f"project{KEPT}/{digest}.{form}", name, partial(_kept, kept, digest, form))


def _kept(kept: Kept, digest: str, form: str) -> bytes:
    """A picture as it is; a version packed as it is beside the project."""
    return read_plain(kept.whole(digest, form), MOST_KEPT)


def write_everything(
    assessment: Assessment, kept: Kept, today: str, path: Path, left_out: Collection[str] = (),
    told: Told = lambda _: None,
) -> list[str]:  # fmt: skip
    """Write the archive, whole or not at all; gives in words what could not be put into it.

    Raises DocumentError where it cannot be written.
    """
    if path.suffix.lower() != ".zip":
        raise DocumentError(f"“{path.name}”: everything goes into a .zip. Give the file this ending.")
    data, lacks = archive_of(assessment, kept, today, left_out, told)
    write_bytes(path, data)
    return lacks


def archive_of(
    assessment: Assessment, kept: Kept, today: str, left_out: Collection[str] = (), told: Told = lambda _: None
) -> tuple[bytes, list[str]]:  # fmt: skip
    """The archive as bytes, and in words what could not be put into it."""
    out, lacks, listed = io.BytesIO(), list[str](), list[dict[str, str]]()
    files: dict[str, dict[str, Any]] = {}
    name = assessment.project.name
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:

        def add(path: str, data: bytes, about: str) -> None:
            _add(archive, path, data)
            files[path] = {"sha256": digest_of(data), "bytes": len(data), "about": about}
            listed.append({"name": path, "about": about, "size": f"{len(data) / 1000:.0f} kB"})

        for paper in papers_of(assessment, kept, today, left_out):
            if paper.name in files:  # two entries may show one picture
                continue
            told(paper.about)
            try:
                add(paper.name, paper.make(), paper.about)
            except (ProjectError, DocumentError, ValueError) as error:
                lacks.append(f"{paper.about}: {error}")
        add(INDEX, index_html(name, today, list(listed), lacks), "what each file is")
        manifest = {"format": FORMAT, "project": name, "made": today, "files": files}
        _add(archive, MANIFEST, json.dumps(manifest, ensure_ascii=False, indent=1).encode("utf-8"))
    return out.getvalue(), lacks


def _add(archive: zipfile.ZipFile, name: str, data: bytes) -> None:
    entry = zipfile.ZipInfo(name, _LONG_AGO)
    entry.compress_type = zipfile.ZIP_DEFLATED
    entry.external_attr = 0o644 << 16
    archive.writestr(entry, data)


def verify(path: Path) -> list[str]:
    """What of an archive is not as it was made, in words; nothing where all is. Raises DocumentError for no archive."""
    try:
        if path.stat().st_size > MOST_BYTES:
            raise DocumentError(f"{path.name} is larger than any archive that this program makes.")
        with zipfile.ZipFile(path) as archive:
            manifest = json.loads(archive.read(MANIFEST))
            if not isinstance(manifest, dict) or manifest.get("format") != FORMAT:
                raise DocumentError(f"{path.name} was not made by `wired-union everything`.")
            return list(_wrong(archive, manifest["files"]))
    except KeyError as error:
        raise DocumentError(f"{path.name} has no {MANIFEST}: it was not made by `wired-union everything`.") from error
    except (OSError, zipfile.BadZipFile, ValueError, EOFError, NotImplementedError, RecursionError) as error:
        raise DocumentError(f"{path.name} cannot be read as an archive: {error}.") from error


def _wrong(archive: zipfile.ZipFile, files: dict[str, dict[str, Any]]) -> Iterator[str]:
    names = archive.namelist()
    there = set(names)
    for name, said in files.items():
        if name not in there:
            yield f"{name} is missing"
        elif _digest_in(archive, name) != said["sha256"]:
            yield f"{name} is not as it was made"
    yield from (f"{name} was added" for name in sorted(there - set(files) - {MANIFEST}))
    yield from (f"{name} is there twice" for name in sorted({n for n in names if names.count(n) > 1}))


def _digest_in(archive: zipfile.ZipFile, name: str) -> str:
    """The SHA-256 of a file in an archive, read piece by piece; "" where it cannot be."""
    found = hashlib.sha256()
    try:
        with archive.open(name) as file:
            while piece := file.read(1 << 20):
                found.update(piece)
    except (zipfile.BadZipFile, OSError, ValueError, EOFError, RuntimeError, NotImplementedError):
        return ""
    return found.hexdigest()
