"""Physical sense: the whole catalogue makes sense, and each rule finds what it is for, by part and field."""

import pytest

from builders import a_buck, a_driver, a_load, a_pack, a_part
from wired_union.catalogue.parts import catalogue, part
from wired_union.catalogue.physical_sense import RULES, problems
from wired_union.project.model import Canopy, Flywheel, Motor, Panel, Sense, Spring, Tank, Thrust, Wheel


def test_every_part_of_the_catalogue_makes_sense():
    assert {p.id: problems(p) for p in catalogue() if problems(p)} == {}


def test_the_catalogue_is_large_and_wide():
    kinds = {p.kind for p in catalogue()}
    assert len(catalogue()) >= 300
    wanted = {
        "load cell", "encoder", "pressure sensor", "temperature sensor", "microphone", "line array", "beam pair",
        "solenoid", "valve", "pump", "tank", "spring", "reaction wheel", "parachute", "heater", "fan", "solar panel",
        "charger", "connector", "fuse", "switch", "display",
    }  # fmt: skip
    assert wanted <= kinds
    assert len(kinds) >= 25
    assert all(p.delivery_days is not None for p in catalogue())


MOTOR = {"rated_voltage_v": 12.0, "no_load_speed_rad_s": 100.0, "stall_torque_n_m": 0.1, "stall_current_a": 2.0,
         "no_load_current_a": 0.1}  # fmt: skip


@pytest.mark.parametrize(
    ("wrong", "field", "said"),
    [
        (a_part(price=0.0), "price", "above 0"),
        (a_part(mass_kg=0.0), "mass_kg", "above 0"),
        (a_part(temperature_min_c=60, temperature_max_c=20), "temperature_max_c", "not above the coldest"),
        (a_part(temperature_min_c=-300), "temperature_min_c", "absolute zero"),
        (a_part(delivery_days=5000.0), "delivery_days", "give days"),
        (a_part(length_m=40.0), "length_m", "give metres"),
        (a_part(mass_kg=1.0, length_m=0.01, width_m=0.01, height_m=0.01), "mass_kg", "denser than lead"),
        (a_load(supply_min_v=9.0, supply_max_v=5.0, rated_v=None), "load.supply_max_v", "below the lowest"),
        (a_load(rated_v=48.0), "load.rated_v", "outside its own supply range"),
        (a_load(amperes=1.0, peak_a=0.2), "load.peak_a", "below the 1 A of active"),
        (a_part(motor=Motor(**{**MOTOR, "stall_torque_n_m": 1.0})), "motor.stall_torque_n_m", "less than half"),
        (a_part(motor=Motor(**{**MOTOR, "gear_ratio": 1.0})), "motor.stall_torque_n_m", "without a gear 100 %"),
        (a_part(motor=Motor(**{**MOTOR, "stall_torque_n_m": 0.04})), "motor.stall_torque_n_m", "with a gear 25 to 95 %"),
        (a_buck(volts=12.0, input_max_v=9.0), "regulator.input_max_v", "only a boost or buck-boost one steps up"),
        (a_buck(volts=12.0, input_min_v=9.0), "regulator.input_min_v", "works from there"),
        (a_part(motor=Motor(**{**MOTOR, "no_load_current_a": 3.0})), "motor.no_load_current_a", "not below the stall"),
        (a_part(mass_kg=0.1, width_m=0.02, motor=Motor(**MOTOR, rotor_inertia_kg_m2=1e-3)), "motor.rotor_inertia_kg_m2", "at its edge"),
        (a_pack(mass_kg=0.01), "mass_kg", "packs hold 60 to 160"),
        (a_pack(mass_kg=0.8, chemistry="plutonium"), "pack.chemistry", "is not one of"),
        (a_pack(mass_kg=0.8, max_current_a=9000.0), "pack.max_current_a", "empties it in 2 s"),
        (a_buck(efficiency_curve=((0.1, 0.8), (1.0, 1.0))), "regulator.efficiency_curve", "reaches 100 %"),
        (a_buck(efficiency_curve=((1.0, 0.8), (0.1, 0.9))), "regulator.efficiency_curve", "rising order"),
        (a_driver(total_current_a=40.0), "driver.total_current_a", "more than all its channels"),
        (a_part(sense=Sense(quantity="angle", range_min=9, range_max=3)), "sense.range_max", "not above the least"),
        (a_part(sense=Sense(quantity="angle", range_min=0, range_max=3, error=4)), "sense.error", "as large as its range"),
        (a_load(peak_a=1.0).but(thrust=Thrust(max_force_n=1e4, no_load_speed_m_s=1.0)),
         "thrust.max_force_n", "too much for a motor"),
        (a_part(stored_energy_j=50.0, spring=Spring(stiffness_n_per_m=1000, travel_m=0.1)), "stored_energy_j", "5 J"),
        (a_part(mass_kg=0.001, spring=Spring(stiffness_n_per_m=1e6, travel_m=0.1)), "spring.stiffness_n_per_m", "N/m"),
        (a_part(tank=Tank(volume_m3=1e-3, max_pressure_pa=1e9)), "tank.max_pressure_pa", "100 000"),
        (a_part(length_m=0.1, wheel=Wheel(diameter_m=0.2)), "wheel.diameter_m", "longest side"),
        (a_part(length_m=0.1, flywheel=Flywheel(inertia_kg_m2=1.0, max_speed_rad_s=1, max_torque_n_m=1)),
         "flywheel.inertia_kg_m2", "mass at the rim"),
        (a_part(length_m=0.1, flywheel=Flywheel(inertia_kg_m2=1e-5, max_speed_rad_s=9e4, max_torque_n_m=1)),
         "flywheel.max_speed_rad_s", "300 m/s"),
        (a_part(canopy=Canopy(diameter_m=1.0, drag_coefficient=9.0)), "canopy.drag_coefficient", "0.4 to 2.2"),
        (a_part(length_m=0.1, width_m=0.1, panel=Panel(peak_power_w=9.0, peak_power_v=5.0)), "panel.peak_power_w",
         "2.5 W at the most"),
    ],
)  # fmt: skip
def test_each_rule_names_the_field_and_what_would_be_right(wrong, field, said):
    found = [p for p in problems(wrong) if p.field == field]
    assert found, problems(wrong)
    assert said in found[0].text.replace("\u202f", " ")


def test_what_is_not_given_is_not_judged():
    assert problems(a_part(mass_kg=None, price=None)) == ()
    assert len({rule.__name__ for rule in RULES}) == len(RULES)


def test_a_spring_of_the_catalogue_holds_half_k_x_squared():
    """Shigley's Mechanical Engineering Design: strain energy of a linear spring is ½·k·x²."""
    spring = part("compression-spring-3-n-mm-50-mm")
    assert spring.stored_energy_j == pytest.approx(0.5 * 3000 * 0.05**2, rel=0.01)
