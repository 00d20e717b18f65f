"""Money: the ledger, what it is like if more are made, what we would do next."""

from collections.abc import Iterator

from wired_union.kernel.results import Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, Driver, MeasureKind, Subject
from wired_union.subjects.ledger.findings import findings
from wired_union.subjects.ledger.making import MAKING, is_asked
from wired_union.subjects.ledger.pick import MoneyPick
from wired_union.units import show


def _measures(assessment: Assessment) -> Iterator[Measure]:
    """Nothing while nobody asked what it is like if more are made."""
    if not is_asked(assessment.project):
        return
    found, currency = assessment.of(MAKING), assessment.project.brief.currency
    yield Measure("unit-cost", "Unit cost", found.unit_now, currency, missing=found.missing)
    gaps = found.missing if found.price is not None else (*found.missing, "the price that is asked")
    pays = found.pays_from
    value = float(pays) if pays is not None else float("inf") if found.price is not None else None
    yield Measure("break-even", "Pays from", value, "pieces", missing=gaps)


def _verdict(assessment: Assessment) -> Verdict | None:
    project = assessment.project
    if not project.ledger and not is_asked(project):
        return None
    found = [f.verdict for f in assessment.findings if f.subject == "ledger"]
    return worst([*found, *assessment.own_verdicts("ledger"), Verdict.HOLDS])


def _pick(_: Assessment, __: Measure) -> MoneyPick:
    return MoneyPick(making=True)


def _shares(assessment: Assessment, _: Measure) -> list[Driver]:
    """What one costs by what it is for."""
    import numpy as np

    found, currency = assessment.of(MAKING), assessment.project.brief.currency
    if found.making.quantity is None:
        return []
    at = np.array([float(found.making.quantity)])
    each = (("bought parts", found.parts_cost(at), "copper"), ("our own parts", found.made_cost(at), "slate"),
            ("labour", found.labour_cost(at), "moss"), ("once", found.making.fixed / at, "plum"))  # fmt: skip
    return [Driver(name, float(v[0]), show(float(v[0]), currency), ink) for name, v, ink in each if v[0] > 0]


SUBJECT = Subject(
    id="ledger", title="Money", group="PROVE",
    about=(
        "A line of the ledger stands for the parts of its name, as many as it is for; what no line covers counts with"
        " its price. Quoted is still to come; ordered, arrived and paid are settled; of what came back the rest counts;"
        " what is donated or owned costs nothing, and is told apart. What was paid for a part that is used no more"
        " stays paid. Other currencies count by rates that the team types; nothing is fetched.",
        "What may still come on top is each price that is to be paid times the allowance of how well it is known, as"
        " for masses.",
        "If more are made: every part at the price of the number that is bought, our own parts by the way that is"
        " cheapest for it with its tools, hours of the first by a learning rate (Wright), what is paid once shared by"
        " all. The price leaves its margin on the price. It pays from the first number at which all that is sold"
        " covers all that it cost; looked for up to 100 000.",
        "Not checked: taxes, customs, postage, guarantees, whether as many can be sold.",
    ),
    view="view:MoneyView", methods=("break-even", "price-with-margin", "learning-factor"),
    nodes=(MAKING,), measures=_measures, findings=findings, hard_findings=lambda _: (), verdict=_verdict,
    explains=(
        MeasureKind("unit-cost", "£", "Cost", select=_pick, drivers=_shares,
                    about="what one costs where more are made"),
        MeasureKind("break-even", "pieces", "Cost", select=_pick, drivers=_shares,
                    about="from how many on what is sold covers what it cost"),
    ),
    section="section:section", pages="book:pages",
    gist="section:gist", passes_on="section:passed_on",
)  # fmt: skip
