"""What a search found, in words: how it was proven, and why the team's favourite is not the best."""

from msgspec import Struct

from wired_union import units
from wired_union.choose.combination import FAVOURED, Question, Tried
from wired_union.choose.search import FINE, Progress
from wired_union.kernel.ripple import Ripple, compare

TITLES = {"runtime": "runtime", "mass": "mass", "money": "money"}


class Swap(Struct, frozen=True):
    """One place of a combination where another part stands than today."""

    slot_id: str
    slot: str
    part: str
    was: str
    origin: str


def swaps(question: Question, tried: Tried) -> tuple[Swap, ...]:
    """What a combination swaps; empty for what is in place."""
    return tuple(
        Swap(c.slot.id, c.slot.name, c.options[p].part.name, c.slot.part.name, c.options[p].origin)
        for c, p in zip(question.choices, tried.places, strict=True)
        if not c.options[p].now
    )


def effect(question: Question, tried: Tried) -> Ripple:
    """What taking a combination does to every limit."""
    return compare(question.assessment, tried.assessment, question.swap(tried.places).sentence)


def favour_words(question: Question) -> str:
    """ "least mass", or "runtime 2, mass 1" for weights."""
    weights = {n: getattr(question.favour, n) for n in FAVOURED if getattr(question.favour, n)}
    if len(weights) == 1:
        name = next(iter(weights))
        return "longest runtime" if name == "runtime" else f"least {name}"
    return ", ".join(f"{n} × {w:g}" for n, w in weights.items())


def figure(question: Question, tried: Tried) -> str:
    """The favoured measures of a combination, as text."""
    names = [n for n in FAVOURED if getattr(question.favour, n)]
    return " · ".join(tried.assessment.measure(n).shown for n in names)


def proof(question: Question, progress: Progress) -> str:
    """How far it is proven: the bound, the gap, and how much was looked at."""
    count = f"{question.combinations:,}".replace(",", "\u202f")
    looked = (
        f"{count} combinations; {progress.solved} programs solved, {progress.assessed} combinations assessed on the"
        " whole project, and what these broke cut off with everything no better."
    )
    if not progress.found:
        if progress.done:
            return f"Proven: none of {looked} None of them holds every limit.{_unmended(question, progress)}"
        return f"Nothing that holds yet, of {looked}"
    if not progress.done and not progress.proven:
        gap = units.show(progress.gap, fraction=True)
        return f"Not proven yet: something up to {gap} better may be among what is left, of {looked}"
    exact = progress.gap <= 1e-9 and not question.favour.runtime
    how = "gap 0" if exact else f"to within {units.show(max(progress.gap, FINE), fraction=True)}"
    return f"Proven best ({how}): nothing that holds scores better, of {looked}"


def _unmended(question: Question, progress: Progress) -> str:
    """The limits that no choice mends: proven for sums, seen in all that was assessed for the others."""
    said = []
    for measure_id, least in (("mass", question.least_kg), ("money", question.least_cost)):
        measure = question.assessment.measure(measure_id)
        if measure_id in question.must_hold and measure.limit is not None and least > measure.limit:
            shown = units.show(least, measure.unit)
            said.append(f"{measure.label} cannot hold: the least of all is {shown} of {measure.limit_shown}")
    others = [m for m in progress.never if not (m in {"mass", "money"} and said)]
    names = [question.assessment.measure(m).label for m in others]
    if names:
        said.append(f"in every combination that was assessed, {' and '.join(names)} broke")
    return f" {'; '.join(said)[:1].upper()}{'; '.join(said)[1:]}." if said else ""


def favourite_words(question: Question, progress: Progress, favourite: Tried) -> str:
    """Why what stands today is not the best, or its place among the best."""
    for place, tried in enumerate(progress.found):
        if tried.places == favourite.places:
            return "What stands today is the best." if place == 0 else f"What stands today is number {place + 1}."
    if not favourite.holds:
        return f"What stands today does not hold: {'; '.join(favourite.breaks)}."
    if progress.best is None:
        return "What stands today holds."
    names = [n for n in FAVOURED if getattr(question.favour, n)]
    said = []
    for name in names:
        mine, best = favourite.assessment.measure(name), progress.best.assessment.measure(name)
        if mine.value is not None and best.value is not None:
            said.append(f"{mine.label.lower()} {mine.shown}, {units.show_change(best.value - mine.value, mine.unit)}")
    dearest = _dearest(question, progress.best)
    why = f" Most of it is {dearest}." if dearest else ""
    return f"What stands today holds, but is beaten: {'; '.join(said)} with the best.{why}"


def _dearest(question: Question, best: Tried) -> str:
    """The one swap of the best that does most for the score when made alone."""
    today = question.score(question.assessment)
    found: list[tuple[float, str]] = []
    for k, (choice, place) in enumerate(zip(question.choices, best.places, strict=True)):
        if choice.options[place].now:
            continue
        alone = [p if j == k else question.favourite[j] for j, p in enumerate(best.places)]
        gain = today - question.score(question.try_out(alone).assessment)
        found.append((gain, f"{choice.options[place].part.name} as {choice.slot.name}"))
    return max(found, default=(0.0, ""))[1]
