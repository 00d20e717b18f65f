"""Trials in the report: how every limit is proved, and each trial with its runs."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import drawn
from wired_union.subjects.trials.assess import TRIALS, proofs_of
from wired_union.subjects.trials.course import COURSE
from wired_union.subjects.trials.pick import TrialPick
from wired_union.subjects.trials.picture import trial_picture
from wired_union.subjects.trials.picture_course import course_picture, course_words
from wired_union.subjects.trials.shown import TrialResult

WIDE = 1000.0


def section(assessment: Assessment, kit: Kit) -> Section:
    """The matrix of proof once there is a trial, every trial, and the course."""
    return Section("What the trials show", tuple(_blocks(assessment, kit)))


def gist(assessment: Assessment, kit: Kit) -> list[Block]:
    """How every wish is proved, for a judge; nothing while there is no trial."""
    return [next(_trials(assessment, kit, assessment.of(TRIALS)))] if assessment.of(TRIALS) else []


def _blocks(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    results = assessment.of(TRIALS)
    if results:
        yield from _trials(assessment, kit, results)
    course = assessment.of(COURSE)
    if course.walked is not None and course.walked.done:
        yield Block(text="The course", tone="heading")
        yield drawn(course_picture(course, kit, WIDE, TrialPick()), "The course along its time")
        yield Block(text=course_words(course))


def _trials(assessment: Assessment, kit: Kit, results: tuple[TrialResult, ...]) -> Iterator[Block]:
    rows = tuple((p.limit.name, p.how, p.said, p.by, p.on, p.verdict.value) for p in proofs_of(assessment))
    yield Block(head=("what is wanted", "proved by", "how far", "who", "when", "verdict"), rows=rows)
    for r in results:
        if r.rows:
            yield Block(text=r.trial.name, tone="heading")
            yield drawn(trial_picture(r, kit, WIDE, TrialPick()), r.trial.name)
