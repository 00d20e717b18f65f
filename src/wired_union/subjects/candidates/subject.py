"""Candidates: what could fill a place, and what refuses the rest."""

from wired_union.kernel.subject import Subject
from wired_union.subjects.candidates.own_place import findings

SUBJECT = Subject(
    id="candidates", title="Candidates", group="CHOOSE",
    about=(
        "A part fits when it meets every figure the place asks and what the concept gives: the supply of its rail, the"
        " voltage a regulator must make. A figure that is not given refuses. Motors are judged at the voltage they get:"
        " speed and torque follow it (linear motor model). Each candidate is then assessed in the whole project. The"
        " line of the chart joins candidates that no other equals in both measures and betters in one.",
    ),
    view="view:CandidatesView", findings=findings, commands="commands:add",
    section="section:section",
)  # fmt: skip
