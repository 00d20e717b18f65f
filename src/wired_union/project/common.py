"""What two members' files both came from."""

from wired_union.project.errors import ProjectError
from wired_union.project.kept import Kept
from wired_union.project.model import Project
from wired_union.project.notebook_model import Version


def common_version(ours: Project, theirs: Project, kept: Kept) -> tuple[Version, Project] | None:
    """The last version that both files have and whose value is there, with that value; None where there is none."""
    there = {v.digest for v in theirs.versions}
    for version in reversed(ours.versions):
        if version.digest in there:
            try:
                return version, kept.project(version)
            except ProjectError:
                continue
    return None
