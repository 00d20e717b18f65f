"""Handover: what is missing before it is handed over, the reports, and everything in one archive."""

from wired_union.kernel.subject import Subject
from wired_union.subjects.handover.ready import readiness, unready

SUBJECT = Subject(
    id="handover", title="Handover", group="KEEP",
    about=(
        "The case holds what every subject hands over. The report is the whole story, with the brief as a matrix of"
        " what is wished, computed, measured and shown; a judge gets two pages, a builder the steps in the order of the"
        " bench, a successor what is open, what breaks and how to go on. Sections can be left out, and the report says"
        " which.",
        "Everything goes into one ZIP with a page that says what each file is and a manifest of SHA-256 hashes, which"
        " `wired-union verify` checks.",
        "Before it is handed over, every subject says what is missing: limits that nothing proves, masses that nobody"
        " measured, faults that are open, cautions that nobody has read. That is a list of what was not done, and no"
        " promise that the rest is well.",
    ),
    view="view:HandoverView", writes_report=True,
    hard_findings=lambda _: (), verdict=lambda a: readiness(a).verdict, unready=unready,
    commands="commands:add",
)  # fmt: skip
