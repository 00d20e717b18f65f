"""Text to SI numbers and back. Only this module converts; everything else computes in the unit of the name.

The unit of a value is the ending of its name (``stall_current_a`` is in amperes); ``unit_of`` reads it.
"""

import math
import re
from collections.abc import Callable
from functools import lru_cache

from wired_union.errors import PlainError
from wired_union.unit_symbols import BENT, CURRENCIES, symbol, tidy

THIN = "\u202f"
MISSING = "not known"
MONEY = "£"

# Name ending -> unit, longest first where endings overlap.
ENDINGS = {
    "inductance_h": "H", "_w_per_m2_k": "W/m²K", "_w_per_m_k": "W/m·K", "_w_per_m2": "W/m²", "_k_per_min": "K/min",
    "_j_per_k": "J/K", "_w_per_k": "W/K",
    "_ohm_per_m": "Ω/m", "_k_per_w": "K/W", "_n_per_m": "N/m", "_rad_s2": "rad/s²",
    "_n_m_s": "N·m·s", "_kg_per_m": "kg/m", "_m4": "m⁴", "_rad_s": "rad/s", "_kg_m2": "kg·m²",
    "_kg_m3": "kg/m³", "_m3_s": "m³/s", "_m3": "m³", "_days": "days",
    "_m_s2": "m/s²", "_m_s": "m/s", "_n_m": "N·m", "_m2": "m²",
    "_ohm": "Ω", "_deg": "°",
    "_dbm": "dBm", "_dbi": "dBi", "_db": "dB",
    "_hz": "Hz", "_kg": "kg", "_ah": "Ah", "_wh": "Wh", "_pa": "Pa", "_baud": "Bd",
    "_bytes": "B", "_v": "V", "_a": "A", "_w": "W", "_m": "m", "_s": "s", "_h": "h", "_n": "N", "_c": "°C",
    "_k": "K", "_j": "J", "_f": "F",
}  # fmt: skip
WHOLE_NAMES = {"baud": "Bd", "bytes": "B", "price": "£", "most_price": "£", "bytes_each_transfer": "B"}
FRACTIONS = {
    "hour_share",
    "valve_share",
    "efficiency",
    "duty",
    "reserve",
    "allowance",
    "utilisation",
    "confidence",
    "reliability",
    "bound",
}

_THOUSANDS = ("p", "n", "µ", "m", "", "k", "M", "G")
_PARTS = {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅓": "1/3", "⅔": "2/3", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8"}
MIXED = ("s", "h", "days", "m", "kg")
"""Units of which people write two in a row."""
BARE, BARE_PREFIXES = ("Ω", "F", "Hz", "Bd"), ("k", "M", "G", "n", "p", "u", "µ")
"""Units that people leave away behind a prefix: "8.2k", "100n"."""
_SECONDS = {"h": 3600.0, "days": 86400.0}

_NUMBER = (  # patterns are kept as texts: `re` compiles and keeps each when it is first used
    r"^(?P<sign>[-+−]?)\s*(?:(?:(?P<whole>\d+)\s+)?(?P<top>\d+)\s*/\s*(?P<bottom>\d+)"
    r"|(?P<plain>(?:\d{1,3}(?:[ .,]\d{3}){2,}|\d{1,3}(?: \d{3})+|\d{1,3}(?:,\d{3})+(?=\.)|\d{1,3}(?:\.\d{3})+(?=,)|\d+)"
    r"(?:[.,]\d*)?(?:[eE][-+−]?\d+)?|[.,]\d+(?:[eE][-+−]?\d+)?))\s*(?P<tail>\D.*)?$"
)
_THREE = r"[1-9]\d{0,2},\d{3}"


class UnitError(PlainError):
    """A text that is not a number in the wanted unit; the message says what would be right."""


def unit_of(name: str, money: str = MONEY) -> str:
    """Unit of a field or argument, from the ending of its name; "" where it has none. Money is in that currency."""
    last = name.rsplit(".", 1)[-1]
    if last in WHOLE_NAMES:
        return money if WHOLE_NAMES[last] == MONEY else WHOLE_NAMES[last]
    return next((unit for ending, unit in ENDINGS.items() if last.endswith(ending)), "")


def _example(unit: str) -> str:
    examples = {"A": "650 mA", "V": "3.3 V", "kg": "0.21 kg or 210 g", "s": "20 ms, 5 min or 1.5 h", "h": "5 h",
                "m": "25 mm or 2 in", "£": "£12.50", "Ah": "650 mAh", "Ω": "24 mΩ", "°": "18° or 1/4 turn",
                "Hz": "400 kHz", "W": "3.5 W", "days": "3 days or 2 weeks", "kg·m²": "5.5 g·cm² or 0.002 kg·m²",
                "m³": "0.5 l",
                "": "0.15 or 15 %"}  # fmt: skip
    return examples.get(unit, f"2.5 {unit}")


def _refuse(text: str, unit: str, why: str) -> UnitError:
    return UnitError(f"“{text.strip()}” {why}. Write it like {_example(unit)}.")


def parse(text: str, unit: str = "") -> float:
    """Number in `unit` from what people type: "2 in", "650mAh", "0,5 A", "1/3", "1/4 turn", "1 1/2 h", "£1,550".

    A number alone is taken to be in `unit`. Raises UnitError with a text that shows what would be right.
    """
    unit = "" if unit == "share" else unit
    for sign, parts in _PARTS.items():
        text = text.replace(sign, f" {parts}")
    cleaned = text.strip().replace("\u202f", " ").replace("\u2009", " ").replace("\u00a0", " ")
    if unit in CURRENCIES:
        cleaned = _without_currency(cleaned)
    found = re.match(_NUMBER, cleaned)
    if not found or not (found["plain"] or found["top"]):
        raise _refuse(text, unit, "is not a number")
    if found["top"]:
        if int(found["bottom"]) == 0:
            raise _refuse(text, unit, "divides by zero")
        value = int(found["whole"] or 0) + int(found["top"]) / int(found["bottom"])
    else:
        value = _plain_number(found["plain"], unit, text)
    if found["sign"] in {"-", "−"}:
        value = -value
    value = _to_unit(value, (found["tail"] or "").strip(), unit, text)
    if not math.isfinite(value):
        raise _refuse(text, unit, "is not a finite number")
    return value


def _without_currency(text: str) -> str:
    """An amount without the symbol or code before or behind it."""
    for mark in CURRENCIES:
        folded, small = text.casefold(), mark.casefold()
        if folded.startswith(small):
            return text[len(mark) :].strip()
        if folded.endswith(small):
            return text[: -len(mark)].strip()
        if folded.startswith((f"-{small}", f"−{small}")):
            return "-" + text[1 + len(mark) :].strip()
    return text


def _plain_number(digits: str, unit: str, text: str) -> float:
    """A number whose marks may part thousands or begin the decimals.

    Of a comma and a point the last begins the decimals. One comma before three digits could be either: money has
    pennies of two digits, so there it parts thousands; elsewhere it is asked back, unless a zero stands before it.
    """
    plain = digits.replace(" ", "").replace("−", "-")
    commas, points = plain.count(","), plain.count(".")
    if commas and points:
        decimal = "," if plain.rindex(",") > plain.rindex(".") else "."
        plain = plain.replace("." if decimal == "," else ",", "").replace(",", ".")
        if plain.count(".") > 1:
            raise _refuse(text, unit, "is not a number")
    elif commas > 1 or points > 1:
        plain = plain.replace(",", "").replace(".", "")
    elif commas and re.fullmatch(_THREE, plain):
        if unit not in CURRENCIES:
            either = plain.replace(",", ""), plain.replace(",", ".")
            raise UnitError(f"“{text.strip()}” could be {either[0]} or {either[1]}. Write one of them.")
        plain = plain.replace(",", "")
    return float(plain.replace(",", "."))


def _to_unit(value: float, tail: str, unit: str, text: str) -> float:
    if not tail or tail == unit or (unit == "H" and tail in {"henry", "henries"}):
        return value
    known = symbol(tail)
    if known is None and unit in BARE and tail in BARE_PREFIXES:
        known = symbol(f"{tail}{unit}")
    bent = BENT.get(tidy(tail))
    if bent is not None and bent[0] == unit:
        try:
            return bent[1](value)
        except ZeroDivisionError:
            raise _refuse(text, unit, "divides by zero") from None
    if known is None and unit in MIXED and (both := re.match(r"(\D+?)\s*(\d.*\D)$", tail)):  # "2 h 30 min", "5 ft 2 in"
        return _to_unit(value, both[1], unit, text) + math.copysign(parse(both[2], unit), value)
    if known is None:
        raise _refuse(text, unit, f"has a unit this program does not know (“{tail}”)")
    found, factor = known
    if found == "s" and unit in _SECONDS:
        return value * factor / _SECONDS[unit]
    if found != unit:
        raise _refuse(text, unit, f"is in {found or '%'}, {unit or 'a plain number'} is wanted")
    # dividing keeps "20 ms" exactly 0.02 where multiplying by 0.001 would not
    return value / round(1 / factor) if factor < 1 and abs(1 / factor - round(1 / factor)) < 1e-9 else value * factor


def _figures(value: float, figures: int = 3) -> str:
    if value == 0:
        return "0"
    digits = max(0, figures - 1 - math.floor(math.log10(abs(value))))
    rounded = round(value, figures - 1 - math.floor(math.log10(abs(value))))
    text = f"{rounded:.{digits}f}"
    return (text.rstrip("0").rstrip(".") if "." in text else text).replace("-", "−")


def _time(seconds: float) -> str:
    size = abs(seconds)
    if size < 120:
        return _prefixed(seconds, "s")
    if size == 3600:
        return f"{_figures(seconds / 3600)}{THIN}h"
    for limit, scale, name in ((5400, 60, "min"), (172800, 3600, "h"), (math.inf, 86400, "days")):
        if size < limit:
            return f"{_figures(seconds / scale)}{THIN}{name}"
    return "never"


def _prefixed(value: float, unit: str) -> str:
    if value == 0:
        return f"0{THIN}{unit}"
    rounded = float(f"{value:.2e}")  # first, so that 999.7 mA is 1 A
    thousands = min(max(math.floor(math.log10(abs(rounded))) // 3, -4), 3)
    return f"{_figures(rounded / 1000.0**thousands)}{THIN}{_THOUSANDS[thousands + 4]}{unit}"


def _money(value: float, currency: str) -> str:
    """An amount: a sign stands before it, a word or code behind it."""
    sign, amount = "−" if value < 0 else "", abs(value)
    text = f"{amount:,.0f}" if amount >= 100 or amount == round(amount) else f"{amount:,.2f}"
    return f"{sign}{currency}{text}" if len(currency) == 1 else f"{sign}{text}{THIN}{currency}"


def show_pence(amount: float, currency: str) -> str:
    """An amount to the penny: "£1,234.50", "12.00 EUR"."""
    sign, text = "−" if amount < 0 else "", f"{abs(amount):,.2f}"
    return f"{sign}{currency}{text}" if len(currency) == 1 else f"{sign}{text}{THIN}{currency}"


@lru_cache(maxsize=8192)
def show(value: float | None, unit: str = "", *, fraction: bool = False) -> str:
    """Text with three significant figures, engineering prefix and a thin space: 0.0042 A is "4.2 mA"."""
    if value is None:
        return MISSING
    if not math.isfinite(value):
        return "without limit" if value > 0 else MISSING
    if fraction:
        return f"{_figures(value * 100, 3 if abs(value) >= 0.995 else 2)}{THIN}%"
    if unit in _SHOWN:
        return _SHOWN[unit](value)
    if unit in CURRENCIES:
        return _money(value, unit)
    return _prefixed(value, unit) if unit in _PREFIXED_SHOWN else f"{_figures(value)}{THIN}{unit}"


def _mass(kg: float) -> str:
    return _prefixed(kg * 1000, "g") if abs(kg) < 1 else f"{_figures(kg)}{THIN}kg"


def _days(days: float) -> str:
    """Days to a tenth, since nobody plans in less; what is shorter keeps its figures."""
    tenths = f"{days:.1f}".removesuffix(".0") if abs(days) >= 0.1 or not days else _figures(days)
    return f"{tenths.replace('-', '−')}{THIN}{'day' if tenths in {'1', '-1'} else 'days'}"


_PREFIXED_SHOWN = {"V", "A", "W", "Wh", "Ah", "Ω", "Hz", "N", "J", "F", "H", "Pa", "m", "N·m", "Ω/m"}
_SHOWN: dict[str, Callable[[float], str]] = {
    "kg": _mass,
    "s": _time,
    "h": lambda hours: _time(hours * 3600),
    "days": lambda days: _days(days),
    "m³": lambda cubic: _prefixed(cubic * 1000, "l"),
    "": _figures,
    "share": lambda share: f"{_figures(share * 100, 3 if abs(share) >= 0.995 else 2)}{THIN}%",
    "m/s": lambda speed: _prefixed(speed, "m/s") if 0 < abs(speed) < 0.1 else f"{_figures(speed)}{THIN}m/s",
    "m³/s": lambda flow: f"{_figures(flow * 60_000)}{THIN}l/min",
    "°": lambda degrees: _figures(degrees) + "°",
    "kg·m²": lambda inertia: (
        f"{_figures(inertia * 1e7)}{THIN}g·cm²" if 0 < inertia < 1e-4 else f"{_figures(inertia)}{THIN}kg·m²"
    ),
}


def show_change(value: float, unit: str = "") -> str:
    """Signed text of a difference: +1.4 h, −210 g."""
    return show(value, unit) if value < 0 else "+" + show(value, unit)


def show_named(name: str, value: float | None, money: str = MONEY) -> str:
    """Text of a value in the unit its name ends with; shares (efficiency, duty) as per cent, money in a currency."""
    return show(value, unit_of(name, money), fraction=name.rsplit(".", 1)[-1] in FRACTIONS)


def plain_words(name: str) -> str:
    """A field or argument name as words, without its unit ending: "stall_current_a" is "stall current"."""
    last = name.rsplit(".", 1)[-1]
    if last not in WHOLE_NAMES:
        ending = next((e for e in ENDINGS if last.endswith(e)), "")
        last = last[: len(last) - len(ending)] or last.rpartition("_")[0]
    return last.replace("_", " ")


def round_down(value: float) -> float:
    """Two figures, never more than it is; 0 stays 0."""
    if value <= 0:
        return 0.0
    power = 10.0 ** (math.floor(math.log10(value)) - 1)
    return math.floor(value / power * (1 + 1e-9)) * power
