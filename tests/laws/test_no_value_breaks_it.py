"""No value that a file or an edit may hold brings an exception, whatever the team leaves empty or gets wrong."""

import random
import warnings

import pytest

import edits
from builders import (
    BY_INPUT_V,
    Feed,
    Rail,
    a_buck,
    a_chain,
    a_limit,
    a_load,
    a_pack,
    a_part,
    a_project,
    with_load,
)
from values import leaves, put, tries
from wired_union.catalogue.demo import NAMES, demo
from wired_union.kernel.results import Verdict
from wired_union.project.fresh import new_project
from wired_union.project.model import Actuator, Pack
from wired_union.project.motion_model import StoredLoad
from wired_union.project.part_model import Regulator, Spring
from wired_union.project.references import Fault, check_whole
from wired_union.report.write import report_html, report_pdf
from wired_union.subjects import assess, subjects

LIMITS = (a_limit("runtime", 3600.0, "at least"), a_limit("peak-current", 10.0), a_limit("mass", 5.0))


def looked_at(project, *, report: bool = False):
    """Everything that the window would show of a project; any numpy warning is an error too."""
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        found = assess(project)
        assert found.measures is not None
        assert all(f.remedies is not None for f in found.findings)
        assert {found.stage_verdict(s) for s in subjects()} <= {None, *Verdict}
        assert found.cautions is not None
        if report:
            assert report_html(found, "2026-11-24")
    return found


@pytest.mark.parametrize("name", NAMES)
@pytest.mark.parametrize("part", [0, *(pytest.param(n, marks=pytest.mark.slow) for n in (1, 2, 3))])
def test_any_one_value_at_its_edge(name, part):
    """A sample with a fixed seed of every value of the demos at every edge of its range; the rest has been run by hand."""
    project = demo(name)
    paths = [x for x in leaves(project) if x[0][0] != "concepts" or len(x[0]) < 2 or x[0][1] == 0]
    todo = [(path, new) for path, holder, field in paths for new in tries(type(holder), field)]
    random.Random(8).shuffle(todo)
    done = 0
    for path, new in todo[part * 60 : (part + 1) * 60]:
        changed = put(project, path, new)
        try:
            check_whole(changed)
        except Fault:
            continue
        looked_at(changed, report=done % 20 == 0)
        done += 1
    assert done > 25


@pytest.mark.parametrize("seed", [0, *(pytest.param(n, marks=pytest.mark.slow) for n in (1, 2))])
def test_many_values_at_once(seed):
    rng = random.Random(seed)
    project = demo()
    paths = [x for x in leaves(project) if x[0][0] == "concepts" and len(x[0]) > 3 and x[0][1] == 0]
    for _ in range(25):
        changed = project
        for path, holder, field in rng.sample(paths, 12):
            choice = tries(type(holder), field)
            try:
                tried = put(changed, path, rng.choice(choice)) if choice else changed
                check_whole(tried)
            except (Fault, IndexError, AttributeError, KeyError):
                continue
            changed = tried
        looked_at(changed)


def thrown_by(law: str):
    """What no demo has: a spring with a law of its own, and a converter that is measured at two input voltages."""
    spring = Spring(stiffness_n_per_m=1000.0, travel_m=0.1, preload_n=100.0, law=law, free_length_m=0.2)
    project = with_load("stored", a_part("spring", "spring", spring=spring), a_buck(**BY_INPUT_V),
                        a_load("logic", 0.5, rated_v=5.0), actuator="motor", store="spring", mass_kg=0.1)  # fmt: skip
    for source, load in (("pack", "buck"), ("buck", "logic")):
        project = edits.feed_from(project, load, source).after
    return project


@pytest.mark.parametrize("law", ["gas", "rubber"])
def test_many_values_of_a_spring_and_a_converter_at_once(law):
    rng, project = random.Random(5), thrown_by(law)
    kinds = (Spring, Regulator, StoredLoad, Feed)
    paths = [x for x in leaves(project) if isinstance(x[1], kinds) and x[0][0] == "concepts"]
    for _ in range(250):
        changed = project
        for path, holder, field in rng.sample(paths, rng.choice((1, 2, 3))):
            choice = tries(type(holder), field)
            try:
                tried = put(changed, path, rng.choice(choice)) if choice else changed
                check_whole(tried)
            except (Fault, IndexError, AttributeError, KeyError):
                continue
            changed = tried
        looked_at(changed)


def chain_of(count: int, *, wired: bool):
    """A pack, that many rails one behind the other, and a load of constant power at the end."""
    rails = [a_part(f"r{n}", "rail", rail=Rail(max_current_a=10.0)) for n in range(count)]
    pairs = [("pack", "r0"), *((f"r{n}", f"r{n + 1}") for n in range(count - 1)), (f"r{count - 1}", "end")]
    project = a_project(
        a_pack(), *rails, a_load("end", 0.5, draw="power", rated_v=12.0), feeds=tuple(pairs), limits=LIMITS
    )
    if not wired:
        return project
    feeds = tuple(Feed(source=s, load=t, wire_length_m=0.001, wire_awg=10) for s, t in pairs)
    return project.but(concepts=(project.concept.but(feeds=feeds),))


def without_modes(project):
    for mode in project.concept.modes:
        project = edits.remove_mode(project, mode.id).after
    return project


def converters_in_a_row(count: int):
    bucks = [a_buck(f"b{n}", 5.0, input_min_v=3.0) for n in range(count)]
    pairs = [("pack", "b0"), *((f"b{n}", f"b{n + 1}") for n in range(count - 1)), (f"b{count - 1}", "end")]
    return a_project(a_pack(), *bucks, a_load("end", 0.1, rated_v=5.0), feeds=tuple(pairs), limits=LIMITS)


def behind_a_regulator(kind: str):
    load = a_load("l", 0.5, draw=kind, rated_v=5.0)
    project = a_project(a_pack(), a_buck(), load, feeds=(("pack", "buck"), ("buck", "l")), limits=LIMITS)
    return edits.set_wire(project, "l", 2.0, 24).after


OWN_PACK = a_part("own", "pack", pack=Pack(chemistry="something new", series=1))
CRASHED_ONCE = {
    "a pack without capacity": lambda: edits.set_part_value(demo(), "battery", "pack.cell_capacity_ah", None).after,
    "a pack without resistance": lambda: edits.set_part_value(demo(), "battery", "pack.cell_resistance_ohm", None).after,
    "an unknown chemistry": lambda: edits.set_part_value(demo(), "battery", "pack.chemistry", "plutonium").after,
    "an own pack from scratch": lambda: a_project(OWN_PACK, a_load(), feeds=(("own", "load"),), limits=LIMITS),
    "a second pack without capacity": lambda: a_project(a_pack(), OWN_PACK, a_load(), feeds=(("own", "load"),), limits=LIMITS),
    "a wire to a load of power behind a regulator": lambda: behind_a_regulator("power"),
    "a wire to a resistance behind a regulator": lambda: behind_a_regulator("resistance"),
    "no modes": lambda: without_modes(demo()),
    "no modes, nothing else": lambda: without_modes(a_project(a_pack(), a_load(), feeds=(("pack", "load"),), limits=LIMITS)),
    "no phases": lambda: edits.remove_phase(a_project(a_pack(), limits=LIMITS), 0).after,
    "a screw that jams": lambda: edits.set_load(demo(), "corer", lead_m=0.15).after,
    "a screw of nothing but lead": lambda: with_load("screw", lead_m=0.15, actuator="motor"),
    "a stage whose least exceeds its most": lambda: a_project(chains=(a_chain(Actuator(name="x", least_s=2.0, most_s=1.0)),)),
    "900 rails in a row": lambda: chain_of(900, wired=False),
    "900 wires in a row": lambda: chain_of(900, wired=True),
    "250 regulators in a row": lambda: converters_in_a_row(250),
    "60 regulators in a row": lambda: converters_in_a_row(60),
    "a new project": lambda: new_project("Nothing yet"),
}  # fmt: skip
TOLD_SHORTER = {"250 regulators in a row"}
"""What a shorter row of the same kind writes a report of."""


@pytest.mark.parametrize("what", CRASHED_ONCE)
def test_what_crashed_once(what):
    looked_at(CRASHED_ONCE[what](), report=what not in TOLD_SHORTER)


@pytest.mark.parametrize("what", [w for w in CRASHED_ONCE if "pack" in w or "chemistry" in w or "modes" in w])
def test_what_is_not_known_never_holds(what):
    """Runtime, peak and everything that rests on the voltage are unknown, not better."""
    found = looked_at(CRASHED_ONCE[what]())
    for measure in found.all_measures.values():
        if measure.kind in {"runtime", "peak-current", "lowest-voltage", "motion", "speed"}:
            assert measure.verdict is not Verdict.HOLDS, measure


def test_control_characters_reach_no_document(tmp_path):
    from wired_union.catalogue.sheet_files import write_parts

    project = demo()
    items = tuple(i.but(name=f"\x0b\x1f{i.name}\ufffe\x07") for i in project.concept.items)
    concept = project.concept.but(items=items)
    project = project.but(name="a\x00\x1b[31m=1+1", concepts=(concept, *project.concepts[1:]))
    found = looked_at(project, report=True)
    assert report_pdf(found, "2026-11-24").startswith(b"%PDF")
    assert b"\x00" not in report_html(found, "2026-11-24")
    for ending in ("csv", "xlsx"):
        write_parts(project, tmp_path / f"x.{ending}")


def test_numbers_are_bounded_by_what_is_physical():
    from wired_union.project.errors import ProjectError

    for bad in (1e160, 5e-324, float("nan"), float("inf"), -1.0):
        with pytest.raises(ProjectError):
            edits.set_part_value(demo(), "battery", "pack.cell_capacity_ah", bad)
