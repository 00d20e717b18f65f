"""The catalogue is data: readable, complete, physically sensible, and clear about a bad row."""

from importlib.resources import files

import pytest

from wired_union.catalogue.parts import (
    CatalogueError,
    catalogue,
    columns,
    discipline_of,
    from_row,
    of_kind,
    part,
    read_rows,
    to_row,
)  # fmt: skip
from wired_union.physics.battery import CHEMISTRIES
from wired_union.shipped import PARTS


def test_each_file_holds_the_class_it_is_named_for() -> None:
    classes = {file.stem.replace("-", " ") for file in PARTS.glob("*.csv")}
    assert classes == {p.kind for p in catalogue()}
    assert all({p.kind for p in of_kind(kind)} == {kind} for kind in classes)
    assert of_kind("../data/pack") == of_kind("a class of our own") == ()


def test_there_are_enough_parts_in_enough_classes():
    kinds = {p.kind for p in catalogue()}
    assert len(catalogue()) >= 420
    assert len(kinds) >= 60
    assert len({p.id for p in catalogue()}) == len(catalogue())
    assert all(discipline_of(k) in {"power", "thinking", "sensing", "structure"} for k in kinds)


def test_every_part_says_that_it_is_typical_and_has_mass_price_and_temperatures():
    for p in catalogue():
        assert p.note, p.id
        assert p.mass_kg and p.price, p.id
        assert p.temperature_min_c < p.temperature_max_c, p.id


def test_the_header_of_each_file_explains_every_column():
    known = dict(columns())
    for file in (files("wired_union.catalogue") / "data").iterdir():
        lines = file.read_text(encoding="utf-8").splitlines()
        head = next(line for line in lines if not line.startswith("#"))
        explained = {line[4:].split(":")[0] for line in lines if line.startswith("#   ")}
        assert set(head.split(",")) == explained, file.name
        assert explained <= set(known), file.name


def test_flat_rows_and_parts_are_the_same_thing():
    for p in catalogue():
        assert from_row(to_row(p), "round trip") == p


def test_packs_hold_a_sensible_energy_for_their_mass():
    """30 to 700 Wh/kg covers lead acid to lithium primary: common practice."""
    for p in of_kind("pack"):
        cells = p.pack
        energy = cells.series * cells.parallel * cells.cell_capacity_ah * CHEMISTRIES[cells.chemistry].nominal_v
        assert 25 < energy / p.mass_kg < 750, p.id


def test_motors_give_no_more_than_they_take():
    """Mechanical power peaks at a quarter of stall torque times no-load speed, below the electrical power there."""
    for p in of_kind("gearmotor"):
        m = p.motor
        mechanical = m.stall_torque_n_m * m.no_load_speed_rad_s / 4
        electrical = m.rated_voltage_v * (m.stall_current_a + m.no_load_current_a) / 2
        assert 0.15 < mechanical / electrical < 0.5, p.id
        assert m.no_load_current_a < p.load.active_a < m.stall_current_a, p.id


def test_currents_rise_with_the_state_and_efficiencies_stay_below_one():
    for p in catalogue():
        if p.load is not None:
            order = [c for c in (p.load.sleep_a, p.load.idle_a, p.load.active_a, p.load.peak_a) if c is not None]
            assert order == sorted(order), p.id
            assert p.load.supply_min_v <= p.load.rated_v <= p.load.supply_max_v, p.id
        if p.regulator is not None and p.regulator.topology == "switching":
            assert all(0.3 < e < 1 for _, e in p.regulator.efficiency_curve), p.id
            loads = [i for i, _ in p.regulator.efficiency_curve]
            assert loads == sorted(loads), p.id


@pytest.mark.parametrize(
    ("row", "said"),
    [
        ({"id": "x", "name": "X", "kind": "pack", "mass_kg": "heavy"}, "bad.csv, part x, mass_kg: "),
        ({"id": "x", "name": "X", "kind": "pack", "price": "-1"}, "bad.csv, part x, price: "),
        ({"id": "x", "name": "X", "kind": "pack", "pack.series": "0", "pack.chemistry": "lipo"},
         "bad.csv, part x, pack.series: "),
        ({"id": "x", "name": "", "kind": "pack"}, "bad.csv, part x, name: "),
    ],
)  # fmt: skip
def test_a_bad_row_names_file_part_and_field(row, said):
    with pytest.raises(CatalogueError) as refusal:
        from_row(row, "bad.csv")
    assert str(refusal.value).startswith(said)


def test_comments_and_empty_lines_are_no_parts():
    lines = ["# a comment", "", "id,name,kind,mass_kg", "a,A,wheel,0.2", "", "b,B,wheel,"]
    found = list(read_rows(lines, "some.csv"))
    assert [(p.id, p.mass_kg) for p in found] == [("a", 0.2), ("b", None)]


def test_a_part_that_is_not_there_is_said():
    with pytest.raises(CatalogueError, match="has no part “warp-core”"):
        part("warp-core")
