"""Supplies that do not run down, power banks, and what stands in for a pack: against Ohm's law and solve_ivp."""

import numpy as np
import pytest
from scipy.integrate import solve_ivp

import edits
from builders import Mode, Phase, Use, a_bank, a_limit, a_load, a_pack, a_part, a_project, a_supply, an_item
from wired_union.catalogue.parts import of_kind
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered, outcome, ripple
from wired_union.physics.battery import CHEMISTRIES
from wired_union.project.errors import ProjectError
from wired_union.project.model import Supply
from wired_union.subjects import assess
from wired_union.subjects.power.gives import POWER

FIVE_HOURS = a_limit("runtime", 5 * 3600.0, "at least")


def findings(project):
    return {f.id: f for f in assess(project).findings}


def plain(text: str) -> str:
    return text.replace("\u202f", " ")


def on_a_supply(amperes: float, **figures):
    load = a_load("camera", amperes, rated_v=5.0, supply_min_v=4.75, supply_max_v=5.5)
    return a_project(a_supply("usb", 5.0, **figures), load, feeds=(("usb", "camera"),), limits=(FIVE_HOURS,))


def test_what_is_plugged_in_does_not_run_down():
    runtime = assess(on_a_supply(0.3)).measure("runtime")
    assert runtime.value == float("inf")
    assert runtime.verdict is Verdict.HOLDS
    assert not runtime.missing


def test_a_supply_breaks_above_its_current():
    """A USB 2.0 port gives 500 mA (USB 2.0, 7.2.1: five unit loads of 100 mA)."""
    found = findings(on_a_supply(0.7, max_current_a=0.5))["supply:usb"]
    assert found.breaks_hard
    assert plain(found.what) == "700 mA of 500 mA at the worst instant in Work."
    assert findings(on_a_supply(0.45, max_current_a=0.5))["supply:usb"].verdict is Verdict.TIGHT
    assert "supply:usb" not in findings(on_a_supply(0.3, max_current_a=0.5))


def test_a_supply_without_its_current_is_not_known():
    found = findings(on_a_supply(0.3, max_current_a=None))["rating:usb"]
    assert found.verdict is Verdict.UNKNOWN


def test_a_stronger_supply_of_the_same_voltage_mends_it():
    project = on_a_supply(0.7, max_current_a=0.5)
    usb = of_kind("usb supply")[0]
    project = edits.swap_part(project, "usb", usb).after
    assessed = assess(project)
    found = next(f for f in assessed.findings if f.id == "supply:usb")
    took = [r for r, _ in offered(assessed, found) if r.label.startswith("take ")]
    assert took
    for remedy in took:
        assert "supply:usb" not in {f.id for f in assess(remedy.change.after).findings if f.breaks_hard}


def test_a_lead_of_a_third_of_an_ohm_drops_its_volts():
    """Ohm's law: 5 V − 0.9 A · 0.35 Ω = 4.685 V, under the 4.75 V that the camera works from."""
    project = on_a_supply(0.9, resistance_ohm=0.35)
    assert assess(project).measure("lowest-voltage").value == pytest.approx(5 - 0.9 * 0.35)
    assert findings(project)["input-low:camera"].breaks_hard


def test_what_a_supply_cannot_deliver_is_known_by_nothing_behind_it():
    """P > V²/4R: 5 V behind 2 Ω give 3.125 W at the most."""
    load = a_load("camera", 1.0, draw="power", rated_v=5.0, supply_min_v=1.0, supply_max_v=5.5)
    project = a_project(
        a_supply("usb", 5.0, resistance_ohm=2.0), load, feeds=(("usb", "camera"),), limits=(FIVE_HOURS,)
    )
    assessed = assess(project)
    assert assessed.measure("peak-current").value == float("inf")
    assert next(f for f in assessed.findings if f.id == "supply:usb").breaks_hard


# a supply that stands in for a pack


def on_changeover(**supply):
    """Two hours at a desk on the adapter, one hour outside on the pack, each at 2 A."""
    project = a_project(
        a_pack(), a_supply(**supply), a_load("radio", 2.0, supply_max_v=16.0), feeds=(("pack", "radio"), ("adapter", "pack")),
        limits=(FIVE_HOURS,),
    )  # fmt: skip
    concept = project.concept
    desk = Mode(id="desk", name="Desk", otherwise="active", plugged_in=True)
    phases = (Phase(mode="desk", duration_s=7200.0), Phase(mode="work", duration_s=3600.0))
    mission = concept.mission.but(phases=phases)
    return project.but(concepts=(concept.but(modes=(*concept.modes, desk), mission=mission),))


def test_a_pack_rests_while_its_supply_is_plugged_in():
    """The same as a pack whose load is off at the desk: what it gives outside is all that runs it down."""
    plugged = on_changeover()
    desk = next(m for m in plugged.concept.modes if m.id == "desk").but(uses=(Use(item="radio", state="off"),))
    modes = (plugged.concept.modes[0], desk.but(plugged_in=False))
    idle = plugged.but(concepts=(plugged.concept.but(modes=modes),))
    runtime = assess(plugged).measure("runtime").value
    assert runtime == pytest.approx(assess(idle).measure("runtime").value, rel=1e-9)
    assert runtime > 2.5 * assess(edits.plug_in(plugged, "desk", False).after).measure("runtime").value


def test_the_supply_gives_what_the_pack_does_not():
    result = assess(on_changeover()).of(POWER)
    desk = result.mode_index["desk"]
    assert result.average("adapter", "current_a")[desk] == pytest.approx(2.0)
    assert result.average("pack", "current_a")[desk] == 0.0
    outside = result.mode_index["work"]
    assert result.average("adapter", "current_a")[outside] == 0.0
    assert result.average("pack", "current_a")[outside] == pytest.approx(2.0, rel=1e-6)


def test_what_hangs_on_the_pack_must_survive_its_supply():
    assert "input-high:radio" not in findings(on_changeover(volts=15.0))
    found = findings(on_changeover(volts=19.0))["input-high:radio"]
    assert plain(found.what).startswith("19 V")
    assert found.breaks_hard


def test_the_supply_is_judged_where_it_is_plugged_in():
    found = findings(on_changeover(max_current_a=1.5))["supply:adapter"]
    assert plain(found.what) == "2 A of 1.5 A at the worst instant in Desk."
    never = edits.plug_in(on_changeover(max_current_a=1.5), "desk", False).after
    assert "supply:adapter" not in findings(never)


def test_a_supply_stands_in_for_one_pack_or_feeds_loads_of_its_own():
    project = on_changeover()
    with pytest.raises(ProjectError, match=r"adapter stands in for pack\. Feed radio from pack"):
        edits.feed_from(project, "radio", "adapter")
    with pytest.raises(ProjectError, match="is a supply: it comes from outside"):
        edits.feed_from(project, "adapter", "pack")
    alone = a_project(a_pack(), a_supply(), a_load(), feeds=(("adapter", "load"),))
    with pytest.raises(ProjectError, match="adapter feeds load"):
        edits.feed_from(alone, "pack", "adapter")


def test_what_charges_a_pack_is_said_to_be_unknown_and_gives_nothing():
    with_both = a_project(
        a_pack(), a_supply(), a_load("a"), a_load("b"), feeds=(("pack", "a"), ("adapter", "pack"), ("adapter", "b"))
    )
    without = a_project(a_pack(), a_supply(), a_load("a"), a_load("b"), feeds=(("pack", "a"), ("adapter", "b")))
    assert findings(with_both)["charging:pack"].verdict is Verdict.UNKNOWN
    assert assess(with_both).measure("runtime").value == assess(without).measure("runtime").value


# power banks


def on_a_bank(amperes: float, **figures):
    load = a_load("camera", amperes, rated_v=5.0, supply_min_v=4.75, supply_max_v=5.5)
    return a_project(a_bank(**figures), load, feeds=(("bank", "camera"),), limits=(FIVE_HOURS,))


def test_a_power_banks_runtime_is_that_of_its_cells():
    """dq/dt = −I/C with I from (E(q) − I·R)·I = P/η, by solve_ivp to the reserve; P = 5 V · 1 A, η 0.9."""
    cell = CHEMISTRIES["li-ion"]

    def slope(_, charge):
        open_v = np.interp(charge, cell.charge, cell.open_circuit_v)
        current = (open_v - np.sqrt(open_v**2 - 4 * 0.05 * 5.0 / 0.9)) / (2 * 0.05)
        return -current / 5.0

    def empty(_, charge):
        return charge[0] - 0.15

    empty.terminal = True
    done = solve_ivp(slope, (0, 20), [1.0], events=empty, rtol=1e-9, max_step=0.01)
    project = on_a_bank(1.0)
    project = project.but(brief=project.brief.but(energy_reserve=0.15))
    assert assess(project).measure("runtime").value / 3600 == pytest.approx(done.t[-1], rel=2e-3)


def test_a_power_bank_is_judged_at_its_output():
    found = findings(on_a_bank(2.5))["regulator:bank"]
    assert plain(found.what).startswith("2.5 A of 2 A")
    assert found.breaks_hard
    assert assess(on_a_bank(1.0)).measure("lowest-voltage").value == 5.0


def test_a_power_bank_takes_a_small_load_for_none():
    found = findings(on_a_bank(0.03, least_load_a=0.06))["least-load:bank"]
    assert found.breaks_hard
    assert plain(found.what) == "Work draws 30 mA on average; below 60 mA it takes that for nothing."
    assert "least-load:bank" not in findings(on_a_bank(0.1, least_load_a=0.06))
    assert findings(on_a_bank(0.03, least_load_a=None))["rating:bank"].verdict is Verdict.UNKNOWN


def test_a_power_bank_that_stays_on_mends_it():
    project = edits.swap_part(on_a_bank(0.03), "bank", of_kind("power bank")[0]).after
    assessed = assess(project)
    found = next(f for f in assessed.findings if f.id == "least-load:bank")
    (stays, *_) = [r for r, _ in offered(assessed, found)]
    assert outcome(assessed, ripple(assessed, stays.change), found).helps
    assert "least-load:bank" not in findings(stays.change.after)


def test_cells_that_cannot_feed_the_converter_break_everything_behind_it():
    """20 W from a cell of 5 Ω: V²/4R is under 1 W."""
    project = on_a_bank(1.5)
    project = edits.set_part_value(project, "bank", "pack.cell_resistance_ohm", 5.0).after
    assessed = assess(project)
    assert assessed.measure("peak-current").verdict is not Verdict.HOLDS
    assert next(f for f in assessed.findings if f.id == "pack:bank").breaks_hard
    assert assessed.of(POWER).input_v("camera") != pytest.approx(5.0)


@pytest.mark.parametrize("part", [a_bank(), a_pack("bank", chemistry="alkaline"), a_supply("bank", 5.0)])
def test_what_does_not_share_counts_once(part):
    """Common practice: power banks, supplies and cells that are not charged do not divide a load."""
    load = a_load("camera", 0.4, rated_v=5.0)
    one, two = (a_project(an_item(part, n), load, feeds=(("bank", "camera"),), limits=(FIVE_HOURS,)) for n in (1, 2))
    assert assess(two).measure("runtime").value == assess(one).measure("runtime").value
    assert findings(two)["side-by-side:bank"].verdict is Verdict.TIGHT
    assert not any("parallel" in r.label for f in assess(one).findings for r in f.remedies)


def test_the_kinds_of_supply_are_in_the_catalogue():
    for kind in ("mains adapter", "usb supply", "bench supply", "tether", "power bank"):
        assert len(of_kind(kind)) >= 3
    assert all(p.supply is not None for p in of_kind("mains adapter"))
    assert a_part("x", supply=Supply(output_v=5.0)).supply.max_current_a is None
