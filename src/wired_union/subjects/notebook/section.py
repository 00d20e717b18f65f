"""What the report says of the notebook: faults that are known, versions, decisions and reasons day by day."""

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import drawn
from wired_union.project.model import Project
from wired_union.project.notebook_model import Entry
from wired_union.subjects.notebook.picture_ropes import ropes_picture

MOST_EDITS = 40
"""Plain edits that are told, the latest; what people wrote, decided, tried and measured is told in full."""
WIDE = 760.0


def section(assessment: Assessment, kit: Kit) -> Section:
    """Empty where nothing was kept."""
    project = assessment.project
    return Section("Where it came from", (*_versions(assessment, kit), *_faults(project), *_entries(project)))


def passed_on(assessment: Assessment, kit: Kit) -> list[Block]:
    """Faults, and the versions with why each was given up, for whoever comes next."""
    return [*_faults(assessment.project), *_versions(assessment, kit)]


def _versions(assessment: Assessment, kit: Kit) -> list[Block]:
    project = assessment.project
    if not project.versions:
        return []
    picture = ropes_picture(project, assessment.today, kit, WIDE, ())
    rows = [(v.name, v.on, v.about, f"given up: {v.dropped}" if v.dropped else
             f"{len(v.changed)} things changed" if v.changed else "the first") for v in project.versions]  # fmt: skip
    return [drawn(picture, "Versions of each concept"),
            Block(head=("version", "tied", "what it is", "what came of it"), rows=tuple(rows))]  # fmt: skip


def _faults(project: Project) -> list[Block]:
    if not project.defects:
        return []
    rows = []
    for d in sorted(project.defects, key=lambda d: bool(d.closed_on)):
        tried = "; ".join(a.text for a in d.attempts)
        state = f"closed {d.closed_on}" if d.closed_on else "open"
        rows.append((d.name, d.cause or "not known", d.cure or tried or "none yet", state))
    return [Block(text="Known faults", tone="heading"),
            Block(head=("fault", "cause", "what mends it, or was tried", "state"), rows=tuple(rows))]  # fmt: skip


def told_entries(project: Project) -> tuple[list[Entry], int]:
    """Entries that the report tells, and how many plain edits it leaves out: days that were left out, older edits."""
    told = [e for e in project.notebook if e.when not in project.days_left_out and not e.struck]
    plain = [e for e in told if e.kind in ("edit", "merge") and not e.why]
    out = {id(e) for e in plain[:-MOST_EDITS]}
    return [e for e in told if id(e) not in out], len(out)


def _entries(project: Project) -> list[Block]:
    told, left = told_entries(project)
    if not told:
        return []
    rows = []
    for e in told:
        what = " ".join(filter(None, (e.text, f"({e.moved})" if e.moved else "")))
        rows.append((e.when, e.by, what, e.why))
    blocks = [Block(text="Why things are as they are", tone="heading"),
              Block(head=("day", "hand", "what", "why"), rows=tuple(rows))]  # fmt: skip
    if left:
        blocks.append(Block(text=f"{left} plain edits without a reason are left out; the file has them.", tone="note"))
    if project.days_left_out:
        days = ", ".join(sorted(project.days_left_out))
        blocks.append(Block(text=f"Left out by the team: {days}.", tone="note"))
    return blocks
