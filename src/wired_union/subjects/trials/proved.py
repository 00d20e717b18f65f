"""What runs show of the limits, and which limits nobody has shown yet."""

from collections.abc import Iterator, Mapping

from wired_union.kernel.subject import Assessment, Unready
from wired_union.subjects.trials.assess import proofs_of


def shows(assessment: Assessment) -> Mapping[str, str]:
    """By the measure of each limit that has runs, what they show, by whom and when."""
    found = {}
    for p in proofs_of(assessment):
        if p.how == "a trial":
            who = " ".join(filter(None, (p.by, p.on)))
            found[p.limit.measure] = f"{p.said} ({who})" if who else p.said
    return found


def unready(assessment: Assessment) -> Iterator[Unready]:
    """Limits that are only computed, or not even that."""
    proofs = proofs_of(assessment)
    bare = tuple(p.limit.name for p in proofs if p.how == "not yet")
    computed = tuple(p.limit.name for p in proofs if p.how in ("computed", "not yet"))
    yield Unready("limits with a figure at least", bare, len(proofs), "proof")
    yield Unready("limits that runs or a measurement show", computed, len(proofs), "proof")
