"""Power as a step of the assessment: what it reads, and what it needs."""

from collections.abc import Sequence

from msgspec.structs import replace

from wired_union.kernel.results import Finding, Measure
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.project.model import Concept, Knowledge, Project
from wired_union.subjects.mass.gives import UNWEIGHED
from wired_union.subjects.motion.gives import SHAFTS, USUAL, Usual
from wired_union.subjects.power.assess import PowerResult, asked_of, assess_power, assess_powers, renamed
from wired_union.subjects.power.checks import power_findings
from wired_union.subjects.power.first.run import First
from wired_union.subjects.power.light.counted import counted_w
from wired_union.subjects.power.light.run import Light
from wired_union.subjects.power.missing import Around
from wired_union.subjects.power.on_air import with_air
from wired_union.subjects.power.spread.day import DayOdds
from wired_union.subjects.power.spread.odds import Odds
from wired_union.subjects.power.spread.starts import StartOdds
from wired_union.subjects.power.spread.unknowns import read_of
from wired_union.subjects.power.spread.warm import WarmOdds
from wired_union.subjects.power.warmth.heating import Heating, heating_of, with_heaters
from wired_union.subjects.power.warmth.run import Heat, heat_of
from wired_union.subjects.timing.gives import ON_AIR
from wired_union.subjects.wiring.gives_laid import FEEDS


def _read(project: Project) -> tuple[object, ...]:
    """What sets currents and voltages: no names, and nothing of what parts weigh or cost."""
    concept = project.concept
    items = tuple(
        (i.id, i.count, p.load, p.motor, p.pack, p.supply, p.regulator, p.driver, p.rail)
        for i in concept.items
        for p in [i.part]
    )
    modes = tuple((m.id, m.uses, m.otherwise, m.staggered, m.plugged_in) for m in concept.modes)
    air = project.brief.coldest_c, project.brief.hottest_c
    return items, modes, concept.mission, concept.joined_packs, project.brief.energy_reserve, air


def _read_warmth(project: Project) -> tuple[object, ...]:
    """The same, with what sets how warm things get; nothing more where nobody described that."""
    concept, brief = project.concept, project.brief
    if not (concept.enclosures or concept.warm_parts):
        return ()
    parts = tuple((i.id, i.part.mass_kg, i.part.length_m, i.part.width_m, i.part.height_m) for i in concept.items)
    return *_read(project), concept.enclosures, concept.warm_parts, brief.air, parts


def _heating(project: Project, given: Given) -> Heating:
    usual: Usual = given.of(USUAL)
    return heating_of(_on_air(project, given), project.brief, _around_all(project, given), dict(usual))


HEATING = Node("heaters", _read_warmth, _heating, (USUAL, UNWEIGHED, ON_AIR, FEEDS))


def _on_air(project: Project, given: Given) -> Concept:
    """The concept at work with the wires of its cables, and its radios for as long as they are on the air."""
    feeds = given.of(FEEDS)
    concept = project.concept if feeds is project.concept.feeds else project.concept.but(feeds=feeds)
    return with_air(concept, given.of(ON_AIR))


def _laid(project: Project, given: Given) -> Concept:
    """The same with its heaters on for as long as their thermostats ask."""
    return with_heaters(_on_air(project, given), given.of(HEATING))


def _read_sun(project: Project) -> tuple[object, ...]:
    """What sets how much the sun brings; nothing more where no panel stands."""
    concept, brief = project.concept, project.brief
    if not concept.sun_panels:
        return ()
    parts = tuple((i.id, i.count, i.part.panel, i.part.pack) for i in concept.items)
    return concept.sun_panels, parts, brief.site, brief.coldest_c


SUN = Node("sun on packs", _read_sun, lambda project, _: counted_w(project.concept, project.brief), ())
"""What the sun brings to packs under an overcast sky, whatever they are asked for."""


def _around(project: Project, given: Given) -> Around:
    heating = given.of(HEATING)
    return replace(_around_all(project, given), packs_c=heating.packs_c, unheated=heating.lacks,
                   charged_w=given.of(SUN))  # fmt: skip


def _around_all(project: Project, given: Given) -> Around:
    names = {i.id: i.name for i in project.concept.items}
    silent = tuple(names[i] for i, share in given.of(ON_AIR).items() if share is None and i in names)
    brief = project.brief
    return Around(brief.energy_reserve, brief.coldest_c, brief.hottest_c, given.of(UNWEIGHED), silent)


def _work(project: Project, given: Given) -> PowerResult:
    usual: Usual = given.of(USUAL)
    return assess_power(_laid(project, given), _around(project, given), dict(usual))


def _work_all(cases: Sequence[tuple[Project, Given]]) -> list[PowerResult]:
    usual: list[Usual] = [given.of(USUAL) for _, given in cases]
    around = [_around(p, given) for p, given in cases]
    concepts = [_laid(p, given) for p, given in cases]
    return assess_powers(concepts, around, [dict(u) for u in usual])


SUPPLY = Node("supply", _read, _work, (USUAL, UNWEIGHED, ON_AIR, FEEDS, HEATING, SUN), _work_all)


def _read_names(project: Project) -> tuple[object, ...]:
    concept = project.concept
    items = tuple(
        (i.name, i.subsystem, i.part.kind, i.part.name, i.part.link, i.part.shifter, i.part.port, i.shifted_by, i.count)
        for i in concept.items
    )
    return items, tuple(m.name for m in concept.modes), concept.subsystems, _wanted_s(project)


def _wanted_s(project: Project) -> float:
    """How long it should last: the limit on the runtime, else the mission."""
    limit = project.brief.limit("runtime")
    return limit.value if limit is not None else project.concept.mission.duration_s


def _renamed(project: Project, given: Given) -> PowerResult:
    feeds, supply, now = given.of(FEEDS), given.of(SUPPLY), project.concept
    known = supply.concept
    same = known.items is now.items and known.modes is now.modes and known.subsystems is now.subsystems
    result = supply if same else renamed(supply, now if feeds is now.feeds else now.but(feeds=feeds))
    return asked_of(result, _wanted_s(project))


POWER = Node("power", _read_names, _renamed, (SUPPLY, FEEDS))
"""The supply with the names of today, and what its wanted runtime asks to be known: neither draws another current."""


def _first(project: Project, given: Given) -> First:
    return First(given.of(POWER), given.of(SHAFTS))


FIRST = Node("first half second", lambda _: (), _first, (POWER, SHAFTS))
"""The first half second of every mode; nothing of it is stepped before it is asked for."""


def _read_heat(project: Project) -> tuple[object, ...]:
    concept, brief = project.concept, project.brief
    parts = tuple(
        (i.id, i.part.mass_kg, i.part.length_m, i.part.width_m, i.part.height_m, i.part.temperature_min_c,
         i.part.temperature_max_c) for i in concept.items
    )  # fmt: skip
    return parts, concept.enclosures, concept.warm_parts, brief.air, brief.coldest_c, brief.hottest_c


def _heat(project: Project, given: Given) -> Heat:
    return heat_of(given.of(POWER), project.concept, project.brief)


HEAT = Node("heat", _read_heat, _heat, (POWER,))
"""How warm and cold parts get; nothing of it is worked out before it is asked for."""


def _read_light(project: Project) -> tuple[object, ...]:
    concept = project.concept
    panels = tuple((i.id, i.name, i.count, i.part.panel) for i in concept.items if i.part.panel is not None)
    return project.brief.site, project.brief.air, concept.sun_panels, concept.inlets, panels


def _light(project: Project, given: Given) -> Light:
    return Light(project.concept, project.brief, given.of(POWER), given.of(HEAT))


LIGHT = Node("light", _read_light, _light, (POWER, HEAT))
"""What charges packs; nothing of it is worked out before it is asked for."""


def _odds(project: Project, given: Given) -> Odds:
    return Odds(given.of(POWER), _known(project), _wanted_s(project), read_of(project))


def _read_wanted(project: Project) -> tuple[object, ...]:
    """How well the figures are known, and how long it should last."""
    known = tuple((i.id, i.knowledge) for i in project.concept.items)
    return project.brief.limit("runtime"), project.concept.mission, known, project.concept.readings


ODDS = Node("odds", _read_wanted, _odds, (POWER,))
"""Thousands of missions; none is drawn before somebody asks."""


def _read_known(project: Project) -> tuple[object, ...]:
    """How well the figures are known."""
    return tuple((i.id, i.knowledge) for i in project.concept.items), project.concept.readings


def _known(project: Project) -> dict[str, Knowledge]:
    return {i.id: i.knowledge for i in project.concept.items}


WARM_ODDS = Node("odds of warmth", _read_known,
                 lambda project, given: WarmOdds(given.of(HEAT), _known(project), read_of(project)),
                 (POWER, HEAT))  # fmt: skip
"""How warm parts get in a thousand missions; none is drawn before somebody asks."""


def _start_odds(project: Project, given: Given) -> StartOdds:
    usual: Usual = given.of(USUAL)
    return StartOdds(given.of(FIRST), given.of(SUPPLY), given.of(SHAFTS), dict(usual), _known(project),
                     read_of(project))  # fmt: skip


START_ODDS = Node("odds of a start", _read_known, _start_odds, (FIRST, SUPPLY, SHAFTS, USUAL))
"""How far controllers dip in hundreds of starts; none is stepped before somebody asks."""
DAY_ODDS = Node("odds of a day", _read_known,
                lambda project, given: DayOdds(given.of(LIGHT), _known(project), read_of(project)),
                (POWER, LIGHT))  # fmt: skip
"""What a day leaves in thousands of cases; none is drawn before somebody asks."""


def measures(assessment: Assessment) -> tuple[Measure, ...]:
    return assessment.of(POWER).measures


def findings(assessment: Assessment) -> list[Finding]:
    result, first = assessment.of(POWER), assessment.of(FIRST)
    heat, light = assessment.of(HEAT), assessment.of(LIGHT)
    return power_findings(assessment.project, result, first, heat, light, again=assessment.again,
                          first_again=lambda project: assessment.again(project).of(FIRST),
                          heat_again=lambda project: assessment.again(project).of(HEAT))  # fmt: skip


def hard_findings(assessment: Assessment) -> list[Finding]:
    result, first = assessment.of(POWER), assessment.of(FIRST)
    heat, light = assessment.of(HEAT), assessment.of(LIGHT)
    return power_findings(assessment.project, result, first, heat, light, hard_only=True)
