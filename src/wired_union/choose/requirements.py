"""What a slot asks of a part, and the requirement that refuses one, with by how much."""

from functools import lru_cache

from msgspec import Struct

from wired_union import units
from wired_union.catalogue.figures import FIGURES, Ask
from wired_union.kernel.logic import level_clash
from wired_union.kernel.subject import Refusal
from wired_union.project.model import Link, Part, Requires
from wired_union.project.slot_edits import requirement_words

# requirement -> the figures that must hold for it: (figure, at least?)
_ASKS: dict[str, tuple[tuple[str, bool], ...]] = {
    "least_torque_n_m": (("torque_n_m", True),), "least_speed_rad_s": (("speed_rad_s", True),),
    "least_force_n": (("force_n", True),), "least_stroke_m": (("stroke_m", True),),
    "least_diameter_m": (("diameter_m", True),), "least_energy_wh": (("energy_wh", True),),
    "least_output_a": (("output_a", True),),
    "supply_v": (("supply_min_v", False), ("supply_max_v", True)), "most_current_a": (("current_a", False),),
    "range_low": (("range_min", False),), "range_high": (("range_max", True),), "most_error": (("error", False),),
    "most_length_m": (("length_m", False),), "most_width_m": (("width_m", False),),
    "most_height_m": (("height_m", False),), "most_mass_kg": (("mass_kg", False),), "most_price": (("price", False),),
    "coldest_c": (("temperature_min_c", False),), "hottest_c": (("temperature_max_c", True),),
    "most_delivery_days": (("delivery_days", False),),
}  # fmt: skip
WORDS = ("bus", "quantity")
SENSED = frozenset({"range_low", "range_high", "most_error"})
"""Requirements in the unit of what a part senses."""


@lru_cache(maxsize=1024)  # a place asks the same of each of its alternatives
def asks(requires: Requires) -> tuple[Ask, ...]:
    """The figures a slot asks for."""
    return tuple(
        Ask(name, figure, at_least, float(value))
        for name, figures in _ASKS.items()
        if (value := getattr(requires, name)) is not None
        for figure, at_least in figures
    )


def refused_by(part: Part, requires: Requires, money: str = units.MONEY) -> tuple[Refusal, ...]:
    """Every requirement of the slot that refuses the part. A figure that is not given refuses too."""
    found = [
        _refusal(ask, given, part, money) for ask in asks(requires) if not ask.holds(given := FIGURES[ask.figure](part))
    ]
    found += [r for name in WORDS if (r := _word_refusal(part, name, getattr(requires, name))) is not None]
    level = _level_refusal(part, requires.logic_v)
    return (*found, level) if level is not None else tuple(found)


def _refusal(ask: Ask, given: float | None, part: Part, money: str) -> Refusal:
    unit = units.unit_of(ask.requirement, money)
    if ask.requirement in SENSED and part.sense is not None:
        unit = part.sense.unit
    wanted, much = (_OF_DEGREES if unit == "°C" else _OF_SIZE)[ask.at_least]
    label = requirement_words(ask.requirement).split(",")[0]
    if ask.requirement == "supply_v":
        label = "supply"
        wanted = "up to" if ask.at_least else "from"
    if given is None:
        return Refusal(ask.requirement, f"{label}: not given; {wanted} {_shown(ask.value, unit)} asked", known=False)
    by = abs(given - ask.value)
    short = by / abs(ask.value) if ask.value and unit != "°C" else None
    share = f" ({units.show(short, fraction=True)})" if short is not None else ""
    text = f"{label} {_shown(given, unit)}; {wanted} {_shown(ask.value, unit)} asked: {_shown(by, unit)}{share} {much}"
    return Refusal(ask.requirement, text, short, given)


def _shown(value: float, unit: str) -> str:
    return units.show(value, unit)


def _word_refusal(part: Part, name: str, wanted: str | None) -> Refusal | None:
    if not wanted:
        return None
    facet, field = {"bus": (part.link, "bus"), "quantity": (part.sense, "quantity")}[name]
    given = getattr(facet, field) if facet is not None else None
    if given is not None and given.lower() == wanted.strip().lower():
        return None
    verb = {"bus": "talks", "quantity": "measures"}[name]
    return Refusal(name, f"{verb} {given or 'nothing that is given'}; {wanted} asked", known=given is not None)


def _level_refusal(part: Part, logic_v: float | None) -> Refusal | None:
    if logic_v is None:
        return None
    mine = part.link.logic_v if part.link else None
    if mine is None:
        return Refusal("logic_v", f"logic level: not given; {units.show(logic_v, 'V')} asked", known=False)
    assert part.link is not None
    clash = level_clash(part.link, Link(logic_v=logic_v))
    if clash is None:
        return None
    return Refusal("logic_v", f"{clash.mine}; {units.show(logic_v, 'V')} asked", clash.short, clash.given_v)


_OF_SIZE = {True: ("at least", "short"), False: ("at most", "over")}
_OF_DEGREES = {True: ("as hot as", "short of it"), False: ("as cold as", "short of it")}
"""How a figure asked for is said, and what comes after what is missing."""


class Move(Struct, frozen=True):
    """How far one requirement must move for the next part to fit, when nothing else refuses it."""

    requirement: str
    asked: float
    to: float
    unit: str
    part: Part

    @property
    def text(self) -> str:
        """ "torque, at least: 1.5 N·m would have to be 1.34 N·m (11 % less) for Gearmotor …" """
        ratio = self.asked and self.unit != "°C"  # a share of degrees means nothing
        share = abs(self.to - self.asked) / abs(self.asked) if ratio else None
        less = "less" if self.to < self.asked else "more"
        by = f" ({units.show(share, fraction=True)} {less})" if share is not None else ""
        now, then = units.show(self.asked, self.unit), units.show(self.to, self.unit)
        return f"{requirement_words(self.requirement)}: {now} would have to be {then}{by} for {self.part.name}"


def sensitivity(
    refused: list[tuple[Part, tuple[Refusal, ...]]], requires: Requires, money: str = units.MONEY
) -> tuple[Move, ...]:
    """For each requirement that alone refuses a part, the least move that lets the next one in, smallest first."""
    best: dict[str, Move] = {}
    for part, refusals in refused:
        names = {r.requirement for r in refusals}
        if len(names) != 1 or any(r.given is None for r in refusals):
            continue
        name = names.pop()
        asked = getattr(requires, name, None)
        if not isinstance(asked, float | int):
            continue
        worst = max(refusals, key=lambda r: r.short or 0.0)
        assert worst.given is not None
        unit = part.sense.unit if name in SENSED and part.sense else units.unit_of(name, money)
        move = Move(name, float(asked), worst.given, unit, part)
        if name not in best or abs(move.to - asked) < abs(best[name].to - asked):
            best[name] = move
    return tuple(sorted(best.values(), key=lambda m: abs(m.to - m.asked) / (abs(m.asked) or 1.0)))
