"""What is said of buses, signals and parts on the Wiring screen."""

from wired_union.kernel.results import Verdict
from wired_union.subjects.wiring.levels import Level
from wired_union.subjects.wiring.pins import PinsResult, Wired
from wired_union.subjects.wiring.shared import SharedBus
from wired_union.units import show


def bus_words(bus: SharedBus) -> str:
    """ "IMU 0x68, Probe 0x64; 400 kHz; 72 pF a line, pulled up by 3.2 kΩ, 967 Ω to 4.9 kΩ fit" """
    said = [", ".join(f"{d.name}{f' {d.address:#04x}' if d.address is not None else ''}" for d in bus.devices)]
    if bus.clock_hz is not None:
        said.append(show(bus.clock_hz, "Hz"))
    if bus.capacitance_f is not None:
        said.append(f"{show(bus.capacitance_f, 'F')} a line")
    if bus.pull_up_ohm is not None:
        said.append(f"pulled up by {show(bus.pull_up_ohm, 'Ω')}")
    if bus.fits is not None:
        fits = bus.fits
        none = fits.least_ohm > fits.most_ohm
        said.append("no pull-up fits" if none else f"{show(fits.least_ohm, 'Ω')} to {show(fits.most_ohm, 'Ω')} fit")
    if bus.length_m:
        said.append(f"{show(bus.length_m, 'm')} of cable")
    return "; ".join(said)


def signal_words(wired: Wired, level: Level | None) -> str:
    """Where a signal is, how firmly, and what its level leaves."""
    state = "kept there" if wired.kept else "laid there" if wired.stored else "found there, not laid yet"
    said = f"On {wired.tooth.pin.name} of {wired.tooth.item.name}, {state}."
    if level is not None and level.verdict is Verdict.HOLDS and level.margin_v is not None:
        said += f" {show(level.margin_v, 'V')} to spare at the level."
    elif level is not None and level.missing:
        said += f" Not known yet: {level.missing}."
    return said


def head_words(pins: PinsResult, cables: int, length_m: float, settle: int) -> str:
    """ "31 of 40 pins · 9 cables, 4.2 m · 2 things to settle" """
    said = [f"{pins.used} of {pins.pins} pins" if pins.pins else "no pin table yet"]
    if cables:
        said.append(f"{cables} cables, {show(length_m, 'm')}")
    said.append(f"{settle} thing{'s' if settle != 1 else ''} to settle" if settle else "nothing to settle")
    return " · ".join(said)
