"""Packs side by side on one supply: through diodes and in turn, against small steps in time and figures by hand."""

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import edits
from builders import a_limit, a_load, a_pack, a_project, plain
from wired_union.physics.battery import CHEMISTRIES
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.subjects import assess
from wired_union.subjects.power.fold import fold
from wired_union.subjects.power.node import ODDS, POWER

RESERVE = 0.15


def two(first=None, second=None, load=None, **joint):
    """Loads on the first pack, the second beside it."""
    first = first or a_pack("main", chemistry="li-ion", series=3, capacity_ah=2.0, resistance_ohm=0.0)
    second = second or a_pack("spare", chemistry="lifepo4", series=4, capacity_ah=3.0, resistance_ohm=0.0)
    project = a_project(first, second, load or a_load(amperes=0.5), feeds=(("main", "load"),), hours=1.0, repeats=30)
    joint = {"how": "diodes", "drop_v": 0.4, "max_current_a": 20.0} | joint
    return edits.join_pack(project, "main", "spare", **joint).after


def stepped_h(packs, power_w=0.0, current_a=0.0, drop_v=0.4, dt_h=1e-4):
    """Small steps: the higher gives, two that are as high share by what each would fall; each ends at its reserve."""
    charge, hours = [1.0] * len(packs), 0.0
    curves = [(CHEMISTRIES[c], n, ah) for c, n, ah in packs]
    while any(s > RESERVE for s in charge):
        volts = [n * np.interp(s, c.charge, c.open_circuit_v) - drop_v if s > RESERVE else -1.0
                 for s, (c, n, _) in zip(charge, curves, strict=True)]  # fmt: skip
        n = int(np.argmax(volts))
        amperes = current_a + power_w / volts[n]
        charge[n] -= amperes * dt_h / curves[n][2]
        hours += dt_h
    return hours


@pytest.mark.parametrize(("watts", "amperes"), [(0.0, 0.5), (6.0, 0.0)])
def test_through_diodes_they_last_as_small_steps_have_it(watts, amperes):
    load = a_load(amperes=amperes or watts / 12.0, draw="power" if watts else "current", rated_v=12.0)
    exact = stepped_h([("li-ion", 3, 2.0), ("lifepo4", 4, 3.0)], watts, amperes)
    assert assess(two(load=load)).measure("runtime").value / 3600 == pytest.approx(exact, rel=3e-3)


def test_what_they_hold_adds_and_nothing_of_the_reserve_is_planned_on():
    """2 Ah and 3 Ah at 0.5 A, 85 % of it: 8.5 h, whichever gives first."""
    assert assess(two()).measure("runtime").value / 3600 == pytest.approx(8.5, rel=1e-3)
    assert assess(two(how="switch")).measure("runtime").value / 3600 == pytest.approx(8.5, rel=1e-3)
    some = list(assess(two()).of(ODDS).lots(2000))[-1]
    assert sorted(some.runtime_s)[1000] / 3600 == pytest.approx(8.5, rel=0.03)


def test_the_last_one_carries_the_worst_instant_alone_less_its_diode():
    """3 Li-ion cells at 15 % come to 3.47 V each, 4 LiFePO4 to 3.15: 12.6 − 0.4 against 10.41 − 0.4; through 0.3 Ω at 5 A."""
    first = a_pack("main", chemistry="li-ion", series=3, capacity_ah=2.0, resistance_ohm=0.1)
    project = two(first, load=a_load(amperes=5.0))
    at = 3 * np.interp(RESERVE, CHEMISTRIES["li-ion"].charge, CHEMISTRIES["li-ion"].open_circuit_v)
    assert assess(project).measure("lowest-voltage").value == pytest.approx(at - 0.4 - 5.0 * 0.3, abs=0.01)


def test_in_turn_the_first_gives_down_to_its_reserve_then_the_next():
    result = assess(two(how="switch")).of(POWER)
    pack = result.packs[0]
    used = 2.0 * (1 - RESERVE) / 5.0
    volts = pack.figures.open_circuit_at
    own = 3 * np.interp(0.5, CHEMISTRIES["li-ion"].charge, CHEMISTRIES["li-ion"].open_circuit_v)
    assert volts(1 - 0.5 * 2.0 / 5.0) == pytest.approx(own, abs=0.01)
    assert volts(1 - used - 0.02) == pytest.approx(4 * 3.40, abs=0.15)


def test_each_must_carry_what_flows_by_itself_and_so_must_each_diode():
    small = a_pack("spare", chemistry="lifepo4", series=4, capacity_ah=3.0, max_current_a=3.0)
    now = assess(two(second=small, load=a_load(amperes=5.0), max_current_a=4.0))
    found = {f.id: f for f in now.findings}
    assert found["pack:spare"].breaks_hard
    assert "alone" in plain(found["pack:spare"].why)
    assert found["joined:spare"].breaks_hard
    assert sum(f.check == "pack" and f.of == "spare" for f in now.findings) == 1
    unsaid = {f.id: f for f in assess(two(max_current_a=None)).findings}
    assert unsaid["joined:spare"].verdict == "unknown"


def test_what_is_not_known_of_either_makes_it_unknown_and_never_an_exception():
    lasts = (a_limit("runtime", 3600.0, "at least"),)
    project = two().but(brief=two().brief.but(limits=lasts))
    assert assess(project).measure("runtime").verdict == "holds"
    for item, path in (("spare", "pack.cell_capacity_ah"), ("main", "pack.cell_resistance_ohm")):
        assert assess(edits.set_part_value(project, item, path, None).after).measure("runtime").verdict == "unknown"
    drop = edits.join_pack(project, "main", "spare", drop_v=None).after
    measure = assess(drop).measure("runtime")
    assert measure.verdict == "unknown"
    assert "spare: the voltage that its diode keeps" in measure.missing
    concept = project.concept
    own = edits.feed_from(project.but(concepts=(concept.but(joined_packs=()),)), "load", "spare").after
    both = own.but(concepts=(own.concept.but(joined_packs=concept.joined_packs),))
    assert any("feeds loads of its own" in m for m in assess(both).measure("runtime").missing)


def test_the_edits_refuse_what_cannot_be_and_are_kept_and_undone():
    project = two()
    for pack, beside in (("main", "main"), ("main", "load"), ("spare", "main")):
        with pytest.raises(ProjectError):
            edits.join_pack(project, pack, beside)
    assert from_text(to_text(project), Path("p.union.json")) == project
    parted = edits.part_packs(project, "spare").after
    assert assess(parted).measure("runtime").value / 3600 == pytest.approx(2.0 * 0.85 / 0.5, rel=1e-3)
    gone = edits.remove_item(project, "spare").after
    assert gone.concept.joined_packs == ()
    result = assess(project).of(POWER)
    assert [b.beside for b in fold(result.tree, 4, {})] == ["", "main"]


cells = st.tuples(st.sampled_from(["li-ion", "lifepo4", "nimh", "lead-acid"]), st.integers(2, 12), st.floats(0.5, 9.0))


@settings(max_examples=40, deadline=None)
@given(cells, cells, st.floats(0.0, 1.0), st.sampled_from(["diodes", "switch"]), st.floats(0.0, 0.3))
def test_a_second_pack_never_makes_it_last_shorter_where_currents_stand(one, other, drop, how, ohm):
    """Where nothing falls below a cut-off: charges add."""
    made = [a_pack(n, chemistry=c, series=s, capacity_ah=ah, resistance_ohm=ohm * k, cutoff_cell_v=0.2)
            for k, (n, (c, s, ah)) in enumerate(zip(("main", "spare"), (one, other), strict=True))]  # fmt: skip
    load = a_load(amperes=0.2)
    both = assess(two(*made, load=load, how=how, drop_v=drop)).measure("runtime").value
    alone = assess(a_project(made[0], load, feeds=(("main", "load"),), hours=1.0, repeats=30)).measure("runtime").value
    assert both >= alone * (1 - 1e-3)
    volts = assess(two(*made, load=load, how=how, drop_v=drop)).of(POWER).packs[0].figures.open_circuit_v
    assert np.all(np.isfinite(volts))
    if how == "diodes":
        assert np.all(np.diff(volts) <= 1e-9)


def test_each_shrinks_with_the_current_only_while_it_gives():
    """Li-ion 2 Ah, then lead acid 3 Ah at 0.5 A: 1.7/0.5 h and 2.55/0.5 h over (0.5/3·20)^0.2 (Peukert 1897)."""
    lead = a_pack("spare", chemistry="lead-acid", series=6, capacity_ah=3.0, resistance_ohm=0.0, cutoff_cell_v=0.5)
    exact = 1.7 / 0.5 + 2.55 / 0.5 / (0.5 / 3.0 * 20.0) ** 0.2
    assert assess(two(second=lead, how="switch")).measure("runtime").value / 3600 == pytest.approx(exact, rel=2e-3)
