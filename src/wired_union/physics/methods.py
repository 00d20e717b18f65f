"""Every declared method. A new one is its function and one name here."""

from functools import cache

from wired_union.physics import (
    atmosphere,
    balance,
    battery,
    bus,
    converter,
    crossing,
    duty,
    fits,
    floating,
    fuse,
    growth,
    latency,
    motor,
    radio,
    schedule,
    screw,
    shock,
    sight,
    solenoid,
    statistics,
    stepper,
    stored_energy,
    strength,
    tasks,
    turning,
    vibration,
    wheel,
    wire,
)  # fmt: skip
from wired_union.physics.method import Method, MethodError, describe

_FUNCTIONS = (
    battery.pack,
    battery.constant_power_sag,
    battery.peukert_runtime,
    converter.linear_regulator,
    converter.switching_converter,
    wire.wire_gauge,
    wire.voltage_drop,
    wire.wire_ampacity,
    duty.duty_average,
    fuse.fuse_bears,
    motor.dc_motor,
    stepper.stepper_torque,
    solenoid.solenoid_force,
    motor.best_gear_ratio,
    motor.spin_up_time,
    wheel.drive_torque,
    wheel.step_climb,
    wheel.tip_angle,
    balance.centre_of_mass,
    balance.box_inertia,
    balance.wheel_loads,
    crossing.two_axle_step,
    crossing.belly_clearance,
    crossing.skid_turn,
    strength.beam_deflection,
    strength.beam_frequency,
    strength.plate_deflection,
    strength.bolt_group,
    strength.tolerance_stack,
    strength.thermal_growth,
    fits.made_fit,
    shock.drop_load,
    shock.opening_shock,
    shock.gripper_force,
    shock.imbalance_force,
    screw.leadscrew,
    screw.euler_buckling,
    screw.column_buckling,
    screw.screw_critical_speed,
    stored_energy.spring_energy,
    stored_energy.tank_shot,
    sight.field_of_view,
    sight.ground_band,
    sight.beam_grid,
    turning.joint_torque,
    turning.pendulum,
    floating.float_stability,
    floating.list_angle,
    turning.reaction_wheel_slew,
    turning.airflow_flap,
    vibration.natural_frequency,
    vibration.cantilever_frequency,
    atmosphere.standard_atmosphere,
    atmosphere.descent_rate,
    atmosphere.canopy_diameter,
    growth.mass_growth,
    latency.chain_latency,
    bus.uart_time,
    bus.i2c_time,
    bus.spi_time,
    radio.lora_airtime,
    radio.airtime_share,
    schedule.response_times,
    tasks.utilisation_bound,
    tasks.audsley_order,
    tasks.super_loop,
    tasks.can_response_times,
    bus.can_frame_bits,
    bus.one_wire_time,
    statistics.success_interval,
    statistics.trials_for_proof,
)


@cache
def all_methods() -> tuple[Method, ...]:
    """Every declared method, in the order of docs/methods.md."""
    return tuple(describe(f) for f in _FUNCTIONS)


def find_method(name: str) -> Method:
    """The method of that name. Raises MethodError that lists the names."""
    found = {m.name: m for m in all_methods()}
    if name not in found:
        raise MethodError(f"no method is called “{name}”. There are: {', '.join(found)}.")
    return found[name]
