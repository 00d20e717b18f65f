"""What a file holds besides its project: the way back, and what another program wrote into it meanwhile."""

from functools import partial
from pathlib import Path

from wired_union.app.file_desk import FileDesk
from wired_union.kernel.merge_pick import MergePick
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, load, stamp_of
from wired_union.project.history import KeptStep, way_back
from wired_union.project.kept import VERSION, Kept, folder_beside
from wired_union.project.model import Project
from wired_union.ui.store import Step, Store


def steps_before(project: Project, path: Path | None, sentence: str) -> tuple[list[Step], str]:
    """Steps that led to a project that is opened, and the sentence of the last; none where none are kept."""
    if path is None or not project.keeps_history:
        return [], sentence
    folder = folder_beside(path)
    steps = way_back(folder, project)
    if not steps:
        return [], sentence
    return [Step(s.sentence, read=partial(_read, folder, s)) for s in steps[:-1]], steps[-1].sentence


def _read(folder: Path, step: KeptStep) -> Project:
    data = Kept((folder,)).get(step.digest, VERSION)
    return from_text(data.decode("utf-8"), folder / step.digest)


def outside_merge(store: Store, files: FileDesk) -> MergePick | None:
    """The merge of what the file holds now with the window's; None where it cannot be read, which is said."""
    path = files.path
    if path is None:
        return None
    stamp = stamp_of(path)
    try:
        theirs = load(path)
    except ProjectError as error:
        files.trouble.emit(str(error))
        return None
    base = store.saved_project
    name = (
        "both started from what was last saved or opened here"
        if base is not None
        else "what both came from is not known"
    )
    return MergePick(f"{path.name} as it is on disk", theirs, base, name, {}, str(folder_beside(path)),
                     partial(files.took, stamp))  # fmt: skip
