"""Every declared method. A new one is its function and one name here."""

from functools import cache

from wired_union.physics import battery, bus, converter, duty, growth, latency, radio, schedule, statistics, wire
from wired_union.physics.method import Method, MethodError, describe

_FUNCTIONS = (
    battery.pack,
    battery.constant_power_sag,
    battery.peukert_runtime,
    converter.linear_regulator,
    converter.switching_converter,
    wire.wire_gauge,
    wire.voltage_drop,
    duty.duty_average,
    growth.mass_growth,
    latency.chain_latency,
    bus.uart_time,
    bus.i2c_time,
    bus.spi_time,
    radio.lora_airtime,
    schedule.response_times,
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
