"""Edits of what is handed over: cautions that are read, sections that are told, standards that the team works to."""

from wired_union.project.change import Change, plain
from wired_union.project.errors import ProjectError
from wired_union.project.model import Project
from wired_union.project.notebook_model import Signature

MOST_STANDARDS, MOST_LETTERS = 40, 120


def sign(project: Project, caution: str, by: str, on: str) -> Change:
    """Somebody has read a caution. Raises ProjectError where nobody says who."""
    by = plain(by)
    if not by:
        raise ProjectError("Say who you are first, in the field “I am”: a caution is read by somebody.")
    if any(s.caution == caution and s.by == by for s in project.signatures):
        raise ProjectError(f"{by} has read that already.")
    signature = Signature(caution=caution[:MOST_LETTERS], by=by[:MOST_LETTERS], on=on)
    return Change(project, project.but(signatures=(*project.signatures, signature)), f"{by} has read “{caution}”")


def unsign(project: Project, caution: str) -> Change:
    """Nobody has read it any more: it says something else now."""
    left = tuple(s for s in project.signatures if s.caution != caution)
    return Change(project, project.but(signatures=left), f"“{caution}” is to be read again")


def tell_section(project: Project, subject: str, title: str) -> Change:
    """Leave a subject's section out of the report, or tell it again."""
    out = project.sections_left_out
    after = tuple(s for s in out if s != subject) if subject in out else (*out, subject)
    word = "tell" if subject in out else "leave out"
    return Change(project, project.but(sections_left_out=after), f"{word} {title} in the report")


def set_standards(project: Project, text: str) -> Change:
    """Standards and rules that the team works to, one a line or between semicolons."""
    lines = tuple(dict.fromkeys(p for p in (plain(x) for x in text.replace("\n", ";").split(";")) if p))
    if len(lines) > MOST_STANDARDS:
        raise ProjectError(f"Name at most {MOST_STANDARDS} standards; the rest goes into a file beside it.")
    if (long := next((x for x in lines if len(x) > MOST_LETTERS), None)) is not None:
        raise ProjectError(f"Keep each under {MOST_LETTERS} characters: “{long[:40]}…” is longer.")
    said = f"{len(lines)} standards" if len(lines) != 1 else lines[0]
    return Change(project, project.but(standards=lines), f"work to {said if lines else 'no standard'}")
