"""Checks on heat and cold: parts of a described box or mount against the range that they work in."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Remedy, Verdict
from wired_union.subjects.power.scene import PowerScene
from wired_union.subjects.power.warmth.remedies import colder, warmer
from wired_union.subjects.power.warmth.run import Extreme
from wired_union.subjects.power.warmth.sized import a_heater, less_at_work
from wired_union.units import show

IN_HAND_K = 5.0
"""Kelvins that are kept in hand on what a part works at: common practice."""


def check_warmth(scene: PowerScene) -> Iterator[Finding]:
    """Nothing is said where nobody described a box or a mount: the air of the brief is then checked by Parts."""
    heat = scene.heat
    if not heat.described:
        return
    if not scene.hard_only:
        for item_id, said in heat.setting.lacks.items():
            yield Finding("warmth", Verdict.UNKNOWN, "How warm it gets", f"Not known yet: {said}.",
                          "Until it is given nothing says how warm it gets, and what is near it.", (item_id,),
                          of=item_id)  # fmt: skip
    if heat.clears(IN_HAND_K):
        return
    described = {w.item for w in heat.concept.warm_parts}
    for extreme in heat.extremes:
        most = extreme.item.part.temperature_max_c
        if extreme.item.id in described:
            yield from _cold(scene, extreme)
        elif most is not None and scene.project.brief.hottest_c > most:
            continue  # the air alone is too hot for it: Parts says so
        yield from _hot(scene, extreme)


def _hot(scene: PowerScene, extreme: Extreme) -> Iterator[Finding]:
    margin, item = extreme.hot_margin_k, extreme.item
    if margin is None or margin >= IN_HAND_K or not scene.wants(_verdict(margin)):
        return
    inside = extreme.junction_c
    burns = f", its junction {show(inside, '°C')}" if inside is not None else ""
    yield Finding(
        "too-hot", _verdict(margin), f"{item.name} gets too hot" if margin < 0 else f"{item.name} gets hot",
        f"{show(extreme.hottest_c, '°C')} after {show(extreme.hottest_at_s, 's')}{burns}; it works"
        f" up to {show(item.part.temperature_max_c, '°C')}.", _burns(scene, item.id), (item.id,), "hottest",
        partial(_offers, scene, item.id, hot=True), hard=margin < 0, of=item.id, use=1 - margin / 25.0,
    )  # fmt: skip


def _cold(scene: PowerScene, extreme: Extreme) -> Iterator[Finding]:
    margin, item = extreme.cold_margin_k, extreme.item
    if margin is None or margin >= IN_HAND_K or not scene.wants(_verdict(margin)):
        return
    yield Finding(
        "too-cold", _verdict(margin), f"{item.name} gets too cold" if margin < 0 else f"{item.name} gets cold",
        f"{show(extreme.coldest_c, '°C')} after {show(extreme.coldest_at_s, 's')}; it works from"
        f" {show(item.part.temperature_min_c, '°C')}.", "", (item.id,), "coldest",
        partial(_offers, scene, item.id, hot=False), hard=margin < 0, of=item.id, use=1 - margin / 25.0,
    )  # fmt: skip


def _verdict(margin_k: float) -> Verdict:
    return Verdict.BREAKS if margin_k < 0 else Verdict.TIGHT if margin_k < IN_HAND_K else Verdict.HOLDS


def _burns(scene: PowerScene, item_id: str) -> str:
    losses = scene.heat.losses.get(item_id)
    if losses is None or not len(losses.most_w):
        return ""
    n = int(losses.most_w.argmax())
    return f"It burns up to {show(float(losses.most_w[n]), 'W')}, in {scene.result.concept.modes[n].name}."


def _offers(scene: PowerScene, item_id: str, *, hot: bool) -> tuple[Remedy, ...]:
    project, heat = scene.project, scene.heat
    if hot:
        return (*colder(project, heat, item_id), *less_at_work(project, heat, item_id, scene.heat_of))
    least = next(e.item.part.temperature_min_c for e in heat.extremes if e.item.id == item_id)
    assert least is not None
    return (*warmer(project, heat, item_id), *a_heater(project, heat, item_id, least, scene.heat_of))
