"""What must bear, in the report."""

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.subjects.strength.assess import STRENGTH
from wired_union.subjects.strength.kinds import KINDS


def section(assessment: Assessment, _: Kit) -> Section:
    """Every thing with its checks; nothing where none is looked at."""
    found = assessment.of(STRENGTH)
    rows = tuple(
        (r.test.name, KINDS[r.test.kind].words, "; ".join(f"{c.name} {c.said}" for c in r.checks), r.verdict.value,
         "; ".join(r.missing))
        for r in found
    )  # fmt: skip
    blocks = [Block(head=("what", "kind", "checks", "verdict", "not known"), rows=rows)] if rows else []
    blocks += [Block(text=caution, tone="note") for caution in dict.fromkeys(r.caution for r in found if r.caution)]
    return Section("Strength and heat", tuple(blocks))
