"""What a slot asks: each requirement refuses with a figure and by how much; how far it must move is the least move."""

import pytest

import edits
from builders import Link, a_buck, a_load, a_pack, a_part, a_project
from wired_union.catalogue.figures import FIGURES, Ask
from wired_union.catalogue.parts import catalogue, of_kind, part
from wired_union.choose.candidates import candidates, change_for, shelf
from wired_union.choose.requirements import asks, refused_by, sensitivity
from wired_union.project.model import Requires, Sense, Stock
from wired_union.subjects import assess


def said(one, **asked) -> list[str]:
    return [r.text.replace("\u202f", " ") for r in refused_by(one, Requires(**asked))]


MOTOR = part("gearmotor-25-mm-12-v-100-1")


@pytest.mark.parametrize(
    ("asked", "text"),
    [
        ({"least_torque_n_m": 1.5}, "torque 1.34 N·m; at least 1.5 N·m asked: 156 mN·m (10 %) short"),
        ({"least_speed_rad_s": 10.0}, "speed 8.2 rad/s; at least 10 rad/s asked: 1.8 rad/s (18 %) short"),
        ({"most_mass_kg": 0.2}, "mass 205 g; at most 200 g asked: 5 g (2.5 %) over"),
        ({"most_price": 20.0}, "price £22; at most £20 asked: £2 (10 %) over"),
        ({"most_length_m": 0.05}, "length 65 mm; at most 50 mm asked: 15 mm (30 %) over"),
        ({"coldest_c": -20.0}, "coldest air -10 °C; as cold as -20 °C asked: 10 °C short of it"),
        ({"most_current_a": 0.3}, "current 420 mA; at most 300 mA asked: 120 mA (40 %) over"),
        ({"supply_v": 24.0}, "supply 15 V; up to 24 V asked: 9 V (38 %) short"),
        ({"most_delivery_days": 5.0}, "delivery 10 days; at most 5 days asked: 5 days (100 %) over"),
        ({"bus": "CAN"}, "talks nothing that is given; CAN asked"),
        ({"quantity": "angle"}, "measures nothing that is given; angle asked"),
        ({"logic_v": 3.3}, "logic level: not given; 3.3 V asked"),
        ({"least_force_n": 5.0}, "force: not given; at least 5 N asked"),
    ],
)
def test_each_requirement_refuses_with_its_figure_and_by_how_much(asked, text):
    assert [t.replace("−", "-") for t in said(MOTOR, **asked)] == [text]


def test_what_meets_every_requirement_is_not_refused():
    assert said(MOTOR, least_torque_n_m=1.3, least_speed_rad_s=8.0, most_mass_kg=0.205, supply_v=12.0) == []
    probe = part("salinity-probe-with-interface")
    assert said(probe, quantity="Conductivity", range_high=60.0, bus="i2c", logic_v=3.3) == []


def test_levels_are_refused_both_ways():
    loud, frail = a_part("loud", link=Link(logic_v=5.0)), a_part("frail", link=Link(logic_v=1.8))
    assert said(loud, logic_v=3.3) == ["signals at 5 V; 3.3 V asked"]
    assert said(frail, logic_v=3.3) == ["survives 1.8 V; 3.3 V asked"]
    assert said(a_part("both", link=Link(logic_v=3.3, logic_max_v=5.0)), logic_v=3.3) == []


def test_a_sensor_is_judged_in_its_own_unit():
    deep = a_part("deep", sense=Sense(quantity="pressure", unit="bar", range_min=0, range_max=30, error=0.06))
    assert said(deep, range_high=50.0) == ["range 30 bar; at least 50 bar asked: 20 bar (40 %) short"]
    assert said(deep, most_error=0.05) == ["error 0.06 bar; at most 0.05 bar asked: 0.01 bar (20 %) over"]


def test_every_figure_of_the_catalogue_can_be_asked_for():
    """Brute force: asking for exactly what a part has lets it in, asking for a hair more refuses it."""
    names = {"most_mass_kg": "mass_kg", "least_torque_n_m": "torque_n_m", "most_error": "error", "hottest_c":
             "temperature_max_c", "least_energy_wh": "energy_wh", "least_diameter_m": "diameter_m"}  # fmt: skip
    for p in catalogue():
        for field, figure in names.items():
            value = FIGURES[figure](p)
            if not value or (field.startswith("most") and value <= 0):
                continue
            (ask,) = asks(Requires(**{field: value}))
            assert ask.holds(value), (p.id, field)
            harder = ask.value + (1 if ask.at_least else -1) * 1e-3 * abs(value)
            assert not Ask(field, figure, ask.at_least, harder).holds(value), (p.id, field)


def test_the_least_move_that_lets_the_next_one_in():
    """Against trying every value: with the requirement moved that far one more part fits, with a hair less none."""
    motors = of_kind("gearmotor")
    asked = Requires(least_torque_n_m=3.0, most_mass_kg=0.25)
    refused = [(m, refused_by(m, asked)) for m in motors if refused_by(m, asked)]
    moves = sensitivity(refused, asked)
    assert {m.requirement for m in moves} == {"least_torque_n_m", "most_mass_kg"}
    for move in moves:
        fits = [m for m in motors if not refused_by(m, asked.but(**{move.requirement: move.to}))]
        assert move.part in fits
        short = move.to + (move.asked - move.to) * 1e-3
        assert not any(not refused_by(m, asked.but(**{move.requirement: short})) for m in motors)
    assert "would have to be" in moves[0].text


def test_own_shelf_first_and_only_what_is_free():
    cog = a_part("cog", "cog wheel")
    project = a_project(a_part("old", "cog wheel"))
    project = edits.set_count(project, "old", 2).after
    project = edits.add_to_shelf(project, [Stock(part=cog, have=3), Stock(part=a_part("aaa", "cog wheel"))]).after
    found = candidates(assess(project), "old")
    assert [(c.part.id, c.where, c.origin) for c in found.fitting] == [("cog", "shelf", "owned"),
                                                                       ("aaa", "shelf", "to buy")]  # fmt: skip
    taken = change_for(assess(project), found.slot, found.fitting[0]).after
    assert taken.concept.items[0].origin == "owned"
    more = edits.duplicate_item(taken, "old").after
    assert shelf(more)["cog"][0] == -1  # four are used of three
    assert shelf(more, "cog")["cog"][0] == 1
    donated = edits.add_to_shelf(project, [Stock(part=cog, have=1, donated=True)]).after
    (first, _) = candidates(assess(donated), "old").fitting
    assert (first.free, first.origin) == (1, "to buy")  # one is not the two that are wanted


def test_the_rail_and_the_output_refuse_too():
    project = a_project(a_pack(), a_buck(), a_load("lamp", supply_min_v=4.5, supply_max_v=5.5, rated_v=5.0),
                        feeds=(("pack", "buck"), ("buck", "lamp")))  # fmt: skip
    project = edits.add_to_shelf(project, [
        Stock(part=a_load("strong", supply_min_v=9.0, supply_max_v=15.0)),
        Stock(part=a_load("weak", supply_min_v=1.8, supply_max_v=3.6, rated_v=3.3)),
        Stock(part=a_buck("twelve", 12.0)),
    ]).after  # fmt: skip
    found = candidates(assess(project), "lamp")
    texts = {c.part.id: [r.text.replace("\u202f", " ") for r in c.refusals] for c in found.refused}
    assert texts["strong"] == ["needs 9 V; buck falls to 5 V: 4 V short"]
    assert texts["weak"] == ["takes up to 3.6 V; buck gives 5 V: 1.4 V over"]
    rails = candidates(assess(project), "buck")
    assert any("makes 12 V; its rail is 5 V" in r.text.replace("\u202f", " ") for c in rails.refused if c.part.id == "twelve"
               for r in c.refusals)  # fmt: skip


def test_a_motor_is_judged_at_the_voltage_it_gets(mudlark):
    """The 24 V motor turns at about half its speed from a 13 V rail: linear motor model."""
    found = candidates(assess(mudlark), "gearmotor")
    slow = next(c for c in found.refused if c.part.id == "gearmotor-25-mm-24-v-75-1")
    speed = next(r for r in slow.refusals if r.requirement == "least_speed_rad_s")
    assert speed.given == pytest.approx(11.5 * (13.6 + 12.28) / 2 / 24, rel=0.02)


def test_a_need_is_offered_parts_of_its_classes_and_fed(mudlark):
    assessed = assess(mudlark)
    found = candidates(assessed, "mud-thermometer")
    assert found.fitting[0].part.id == "temperature-probe-sealed"
    assert found.fitting[0].origin == "donated"
    change = change_for(assessed, found.slot, found.fitting[0])
    item = change.after.concept.items[-1]
    assert item.name == "Mud thermometer"
    assert any(f.load == item.id for f in change.after.concept.feeds)
    assert all("error" in r.text or "measures" in r.text or r.text for c in found.refused for r in c.refusals)
    assert [m.requirement for m in found.moves] == ["most_error"]


def test_what_is_asked_is_counted_once(mudlark):
    motor = next(i for i in mudlark.concept.items if i.id == "gearmotor")
    assert motor.requires.count == 5
    assert Requires().count == 0
    assert Requires(logic_v=3.3, bus="i2c").count == 2
