"""Resistors that pull the lines of an I²C bus up: those that fit, whether what is there does, what would."""

import math
from collections.abc import Iterator

from msgspec import Struct

from wired_union.kernel.checks import Check, check_of
from wired_union.kernel.results import Finding, Remedy, Verdict, possible, tried, worst
from wired_union.physics.bus import I2C_LOW_V, I2C_MODES, PullUp, from_a_bag, i2c_pull_up
from wired_union.project.model import Project
from wired_union.project.timing_model import Bus
from wired_union.subjects.timing.edits_shared import set_bus
from wired_union.units import show

MODES, LOW_V = I2C_MODES, I2C_LOW_V


class Lines(Struct, frozen=True):
    """Resistors that fit a bus's lines, and the two things that the one which is there must be."""

    fits: PullUp | None
    low: Check | None = None
    """The least against what is there: a part gets the line down."""
    rise: Check | None = None
    """What is there against the most: the line rises in time."""
    missing: tuple[str, ...] = ()

    @property
    def none_fits(self) -> bool:
        return self.fits is not None and self.fits.least_ohm > self.fits.most_ohm

    @property
    def verdict(self) -> Verdict:
        if self.none_fits:
            return Verdict.BREAKS
        if self.missing or self.low is None or self.rise is None:
            return Verdict.UNKNOWN
        return worst([self.low.verdict, self.rise.verdict]) or Verdict.UNKNOWN


def lines_of(bus: Bus) -> Lines | None:
    """What there is to say of a bus's lines; None where they are not of I²C, or nobody says anything of them."""
    told = {"what its lines are pulled up to": bus.supply_voltage_v, "the capacitance of a line": bus.capacitance_f,
            "what a line is pulled up by": bus.pull_up_ohm}  # fmt: skip
    if bus.kind != "i2c" or all(v is None for v in told.values()):
        return None
    missing = tuple(f"{bus.name}: {words}" for words, v in told.items() if v is None)
    if bus.supply_voltage_v is None or bus.capacitance_f is None:
        return Lines(None, missing=missing)
    mode = next(((rise_s, sink_a) for most_hz, rise_s, sink_a in MODES if bus.clock_hz <= most_hz), None)
    if mode is None:
        return Lines(None, missing=(f"{bus.name}: how fast its lines must rise beyond 1 MHz",))
    if bus.supply_voltage_v <= LOW_V:
        return Lines(None, missing=(f"{bus.name}: a supply of its lines above {LOW_V:g} V",))
    fits = i2c_pull_up(bus.supply_voltage_v, bus.capacitance_f, mode[0], LOW_V, mode[1])
    if bus.pull_up_ohm is None or not (math.isfinite(fits.most_ohm) and fits.most_ohm > 0):
        return Lines(fits, missing=missing or (f"{bus.name}: a capacitance that makes sense",))
    return Lines(fits, check_of("line low", fits.least_ohm, bus.pull_up_ohm, "Ω", of=bus.id),
                 check_of("line rises", bus.pull_up_ohm, fits.most_ohm, "Ω", of=bus.id))  # fmt: skip


def fits_words(fits: PullUp) -> str:
    """ "967 Ω to 1.07 kΩ" """
    return f"{show(fits.least_ohm, 'Ω')} to {show(fits.most_ohm, 'Ω')}"


def lines_words(bus: Bus, lines: Lines | None) -> str:
    """ "lines pulled up by 4.7 kΩ, 967 Ω to 8.85 kΩ fit" """
    if lines is None:
        return "whether its lines rise in time was not looked at" if bus.kind == "i2c" else ""
    if lines.fits is None:
        return f"not known yet: {'; '.join(lines.missing)}"
    if lines.none_fits:
        return "no pull-up fits its lines"
    there = f"lines pulled up by {show(bus.pull_up_ohm, 'Ω')}, " if bus.pull_up_ohm is not None else "pull-ups of "
    return f"{there}{fits_words(lines.fits)} fit"


def line_findings(project: Project, bus: Bus, lines: Lines) -> Iterator[Finding]:
    """Lines that do not rise in time or are not pulled down, and what nobody says of them."""
    for gap in lines.missing:
        if not lines.none_fits:
            fit = f" From {fits_words(lines.fits)} fits." if lines.fits is not None else ""
            why = f"Until it is known nothing says whether its bits arrive whole.{fit}"
            yield Finding("lines-gap", Verdict.UNKNOWN, bus.name, f"Not known yet: {gap}.", why, (), f"bus:{bus.id}",
                          detail=gap, of=bus.id)  # fmt: skip
    if lines.fits is None or lines.verdict in (Verdict.HOLDS, Verdict.UNKNOWN):
        return

    def offer() -> tuple[Remedy, ...]:
        return line_remedies(project, bus)

    if lines.none_fits:
        what = (f"Above {show(lines.fits.most_ohm, 'Ω')} its lines rise too slowly at {show(bus.clock_hz, 'Hz')}, below"
                f" {show(lines.fits.least_ohm, 'Ω')} a part does not get them down.")  # fmt: skip
        why = "Less wire and fewer parts on it widen what fits, and so does a slower clock."
        yield Finding("lines", Verdict.BREAKS, f"No pull-up fits {bus.name}", what, why, (), f"bus:{bus.id}", offer,
                      of=bus.id, use=lines.fits.least_ohm / lines.fits.most_ohm)  # fmt: skip
    elif lines.low is not None and lines.rise is not None:
        strong = lines.low.use > lines.rise.use
        check = lines.low if strong else lines.rise
        too = f"{'too' if check.verdict is Verdict.BREAKS else 'nearly too'} {'strong' if strong else 'weak'}"
        what = f"Pulled up by {show(bus.pull_up_ohm, 'Ω')}; {fits_words(lines.fits)} fit."
        why = "A part hardly gets its lines down." if strong else "Its lines rise slowly; bits may be read wrong."
        yield Finding("lines", check.verdict, f"{bus.name}: pull-ups {too}", what, why, (), f"bus:{bus.id}", offer,
                      of=bus.id, use=check.use)  # fmt: skip


def line_remedies(project: Project, bus: Bus) -> tuple[Remedy, ...]:
    """A resistor from the middle of what fits, at this clock and at each slower one."""
    ways = []
    for clock in dict.fromkeys([bus.clock_hz, *(hz for hz, _, _ in reversed(MODES) if hz < bus.clock_hz)]):
        lines = lines_of(bus.but(clock_hz=clock))
        chosen = from_a_bag(lines.fits) if lines is not None and lines.fits is not None else None
        if chosen is not None and chosen != bus.pull_up_ohm:
            at = "" if clock == bus.clock_hz else f", and {show(clock, 'Hz')}"
            change = tried(set_bus, project, value_id=bus.id, clock_hz=clock, pull_up_ohm=chosen)
            ways.append((f"{bus.name}: pull-ups of {show(chosen, 'Ω')}{at}", change))
    return possible(*ways)
