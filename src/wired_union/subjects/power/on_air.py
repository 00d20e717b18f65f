"""Radios that are at work just as long as they are on the air: what modes say of them, with that share of the time."""

from collections.abc import Mapping

from wired_union.project.model import Concept, Mode, Use


def with_air(concept: Concept, on_air: Mapping[str, float | None]) -> Concept:
    """The concept with radios sending for their share of each mode that has them on; those not known never, so far."""
    known = {i: share or 0.0 for i, share in on_air.items()}
    if not known:
        return concept
    return concept.but(modes=tuple(_sending(m, known) for m in concept.modes))


def _sending(mode: Mode, known: Mapping[str, float]) -> Mode:
    uses = {u.item: u for u in mode.uses}
    for item, share in known.items():
        now = uses.get(item) or Use(item=item, state=mode.otherwise)
        rest = now.rest if now.duty < 1 else now.state
        if now.state == "off":
            continue
        uses[item] = now.but(state="peak", duty=share, rest="idle" if rest == "peak" else rest)
    return mode.but(uses=tuple(uses.values()))
