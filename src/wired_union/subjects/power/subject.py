"""Power: from the pack through rails, regulators and drivers to the last load, in every mode."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.cautions import RULES
from wired_union.kernel.results import Measure
from wired_union.kernel.subject import Assessment, Caution, Driver, MeasureKind, Subject
from wired_union.physics.battery import CHEMISTRIES
from wired_union.project.model import Concept, Item
from wired_union.subjects.power.first.measures import brown_out
from wired_union.subjects.power.fit import at_place, feeds, refuses, refuses_new
from wired_union.subjects.power.light.measures import energy_balance, time_to_full
from wired_union.subjects.power.node import (
    DAY_ODDS,
    FIRST,
    HEAT,
    LIGHT,
    ODDS,
    POWER,
    START_ODDS,
    SUPPLY,
    WARM_ODDS,
    findings,
    hard_findings,
    measures,
)
from wired_union.subjects.power.pick import PowerPick, Span
from wired_union.subjects.power.shares import drains
from wired_union.subjects.power.spread.odds import chance_to_last
from wired_union.subjects.power.warmth.measures import coldest, hottest


def _thirsty(assessment: Assessment, _: Measure) -> list[Driver]:
    result = assessment.of(POWER)
    return drains(result) if result.packs or result.supplies else []


def _on(span: Span, _: Assessment, __: Measure) -> PowerPick:
    """The picture that explains a measure."""
    return PowerPick(span=span)


def _cautions(concept: Concept) -> Iterator[Caution]:
    lithium = tuple(i.id for i in concept.items if _is_lithium(i))
    other = tuple(i.id for i in concept.items if i.part.pack is not None and not _is_lithium(i))
    if lithium:
        text = (
            "Charge only with a charger made for its chemistry, in sight, above 0\u202f°C. Fuse it close to the pack;"
            f" never short, pierce or crush it. {RULES}"
        )
        yield Caution("Lithium pack", text, lithium)
    if other:
        text = (
            "A pack gives far more current into a short than it is rated for. Fuse it close to the pack, and disconnect"
            f" it before rewiring. {RULES}"
        )
        yield Caution("Pack", text, other)


def _is_lithium(item: Item) -> bool:
    chemistry = CHEMISTRIES.get(item.part.pack.chemistry) if item.part.pack else None
    return chemistry is not None and chemistry.lithium


SUBJECT = Subject(
    id="power", title="Power", group="BUDGET",
    about=(
        "Currents of each mode run up the tree: a linear regulator passes current, a switching one power through"
        " its efficiency curve, a wire its voltage drop. Of a converter with two curves the input power runs"
        " straight between their two input voltages and level outside them; a power bank and the heat count by the"
        " worse one. At the pack the loop V = E − R·(I + P/V + G·V) is solved exactly; behind wires by Newton's"
        " method on the whole tree.",
        "Runtime: charge runs down at the rate that the loaded current sets, phase by phase, until the reserve,"
        " the cut-off, or what the pack cannot deliver; the mission repeats until then.",
        "Peak: everything that starts in a mode at its start-up current, raised where its source lies above its"
        " rated voltage (V/R), the rest at its peak, near the end of the charge. Each copy has its own wire and"
        " channel; a wire of which nothing is said counts as short and thick, one with one figure as not known;"
        " copper is as warm as the hottest air (Wiring adds a wire's own heat); wires carry what the table for single"
        " wires in free air says, less in warmer air. Parts must survive the end of the charge."
        " Converters warm in the warmest air of the brief. Open-circuit voltages are typical of the chemistry at"
        " 20 °C, from memory.",
        "Packs side by side: through diodes the higher gives until it has fallen to the next, each down to its reserve;"
        " the worst instant is that of the last one alone. A pack that would fall under its cut-off in between ends"
        " it, although another might go on.",
        "A supply (mains, USB, bench, tether) is a voltage behind a resistance and does not run down; one that"
        " feeds nothing but a pack stands in for it in the modes in which it is plugged in, while the pack rests."
        " A power bank gives its converter's voltage; its cells give that power through its efficiency."
        " Regulators, supplies, power banks and cells that are not charged do not share (common practice):"
        " regulators divide the loads, the others count as one. A fuse bears what lasts up to its rating, and every"
        " current of a start up to what the shortest opening times of blade fuses allow for as long as it flows, 0.2 s"
        " at the least; a pack gives its pulse where a start is over in it. A diode keeps its voltage whatever flows.",
        "Below freezing a cell gives less, through more resistance. Where the air of the brief falls that low, the"
        " pack's capacity and resistance must have been measured there; until then what it gives is unknown.",
        "First half second: what starts in a mode is stepped as a circuit, windings with their inductance,"
        " inertia of rotor and load, coils, wires that warm, bursts of which it is said when they come,"
        " capacitors, the driver's limit and soft start, regulators that are starved, limit or fold back; the rest"
        " stands at its worst. Without an inertia a motor stays blocked, without an inductance its current jumps:"
        " no start is worse. Energy is kept in every step to a millionth. Nothing is stepped where everything at"
        " its worst at once leaves every controller its supply.",
        "Warmth: parts, the air in boxes and their walls are lumps, exact between steps; a regulator that says how warm"
        " it gets is judged by the air around it and by its junction. 10 W/m²K in still air, 500 W/m²K between dry"
        " faces, 900 J/kgK: common practice. A thermostat's heater is found and paid from the pack. Wind is counted"
        " on in the cold alone. A motor that a mode blocks warms its winding again and again, above a can as warm as it"
        " gets: 12 % of it copper, 130 °C at the most (common practice; class 130). Not counted: heat through"
        " cables, and sun on what stands outside.",
        "Odds: 10 000 missions, each figure with the spread of its knowledge (a standard deviation of 10 % for a"
        " datasheet's current, 3 % once measured: common practice), all by themselves; shares are Sobol's of first"
        " order. The same for temperatures (1 000 missions), starts (200, each stepped) and what a day leaves: films"
        " of air, walls and contacts spread by 20 %, the sun by 15 %, heat capacities by 10 %, what a charge loses by"
        " 30 % (common practice); the air is the brief's, and what cold does to a pack stays as it is.",
        "Charging: a clear sky by Haurwitz, less by the weather; by the sun's time. Runtime counts on the sun of"
        " an overcast sky, day after day, from the second on; not on what is plugged in or cranked, nor on"
        " lithium below freezing. Of what is put into cells they give a part again: 97 % lithium, 80 % lead, 70 %"
        " NiMH (common practice).",
        "Cells: below 10 °C those that were not measured there count with what is typical (capacity along a line to its"
        " share at 0 °C, resistance doubled there), worn ones with what they lost. Not checked: the twentieth that"
        " they lose from 20 to 10 °C, which the reserve holds;"
        " reversed packs of whose plug nothing is said.",
    ),
    view="view:PowerView",
    methods=("pack", "constant-power-sag", "peukert-runtime", "cool-cell", "worn-cell", "linear-regulator",
             "switching-converter", "duty-average", "wire-ampacity", "warm-ampacity", "fuse-bears", "fuse-start",
             "motor-start", "capacitor-inrush", "surface-rise", "wall-heat", "junction-temperature", "winding-stall",
             "sun-position", "panel-irradiance", "panel-day"),
    nodes=(SUPPLY, POWER, FIRST, HEAT, LIGHT, ODDS, START_ODDS, WARM_ODDS, DAY_ODDS),
    deep={
        "brown-out": lambda assessment: brown_out(assessment.of(FIRST)),
        "hottest": lambda assessment: hottest(assessment.of(HEAT)),
        "coldest": lambda assessment: coldest(assessment.of(HEAT)),
        "energy-balance": lambda assessment: energy_balance(assessment.of(LIGHT)),
        "time-to-full": lambda assessment: time_to_full(assessment.of(LIGHT)),
        "chance-to-last": lambda assessment: chance_to_last(assessment.of(ODDS)),
    },
    measures=measures, findings=findings, hard_findings=hard_findings,
    explains=(
        MeasureKind("runtime", "s", direction="at least", drivers=_thirsty,
                    about="runtime of the mission, repeated from full to reserve"),
        MeasureKind("peak-current", "A", about="highest current from the pack, start-up included"),
        MeasureKind("lowest-voltage", "V", direction="at least",
                    about="voltage of the pack at its worst instant, at the end of its charge"),
        MeasureKind("brown-out", "V", direction="at least", select=partial(_on, "first"),
                    about="least voltage that a controller has left above its reset while something starts"),
        MeasureKind("hottest", "K", direction="at least", select=partial(_on, "warmth"),
                    about="how far the worst part stays below the hottest that it works at"),
        MeasureKind("coldest", "K", direction="at least", select=partial(_on, "warmth"),
                    about="how far the worst part stays above the coldest that it works at"),
        MeasureKind("chance-to-last", "share", direction="at least", select=partial(_on, "spread"),
                    about="share of missions that last as long as they should, with what is not known well"),
        MeasureKind("energy-balance", "Wh", direction="at least", select=partial(_on, "sun"),
                    about="what a usual day brings to the pack, less what it takes"),
        MeasureKind("time-to-full", "s", select=partial(_on, "sun"), about="time from the reserve to full, at rest"),
        MeasureKind("pack-energy", "Wh", direction="at least", about="energy of all packs at nominal voltage"),
    ),
    cautions=_cautions, section="section:section", papers="papers:papers", refuses=refuses, at_place=at_place,
    feeds=feeds, refuses_new=refuses_new,
    bounds="bounds.bounds:bounds_of", cuts="bounds.cuts:cuts_of",
)  # fmt: skip
